"""What each stage measures of an asset, in words: the numbers of before and after."""

from __future__ import annotations

from collections.abc import Callable

from oak_square.core.boxes import Box
from oak_square.core.shown_units import ShownUnit
from oak_square.core.standing import Standing
from oak_square.core.tolerances import COARSE_FLOAT32_M
from oak_square.core.words import number, numbers_in_a_row, say

__all__ = ["box_words", "size_words", "stage_words"]

AUTO = ShownUnit()
_EMPTY = say("no geometry")


def stage_words(standing: Standing, unit: ShownUnit = AUTO) -> str:
    """Return how an asset stands at a stage, in a few words, lengths in `unit`."""
    if standing.size is None and standing.stage != "bake":
        return _EMPTY
    return _WORDS.get(standing.stage, _describe_size)(standing, unit)


def box_words(box: Box, unit: ShownUnit) -> str:
    """Return a box's extents in words."""
    width, height, depth = (float(v) for v in box.size)
    return unit.size(width, height, depth)


def size_words(size: tuple[float, float, float] | None, unit: ShownUnit) -> str:
    """Return extents in words."""
    return _EMPTY if size is None else unit.size(*size)


def _describe_size(standing: Standing, unit: ShownUnit) -> str:
    return size_words(standing.size, unit)


def _describe_turn(standing: Standing, unit: ShownUnit) -> str:
    height = 0.0 if standing.size is None else standing.size[1]
    return say("{up} up, {length} tall", up=standing.up, length=unit.length(height)).replace("-", "−", 1)


def _describe_pivot(standing: Standing, unit: ShownUnit) -> str:
    own = say("{length} off", length=unit.length(standing.off_m)) if standing.off_m else say("on its base")
    outside = say(", {outside} outside", outside=standing.outside) if standing.outside else ""
    return f"{own}{outside}{_describe_coarseness(standing, unit)}"


def _describe_coarseness(standing: Standing, unit: ShownUnit) -> str:
    """Say what precision float32 has left out there, where it is little."""
    return (
        say(", float32 steps {length}", length=unit.length(standing.step_m))
        if standing.step_m > COARSE_FLOAT32_M
        else ""
    )


def _describe_bake(standing: Standing, unit: ShownUnit) -> str:
    words = []
    if standing.scales:
        shown = numbers_in_a_row(number(f"{s:.4g}") for s in standing.scales[:2])
        words.append(
            say("scale {shown}{tail}", shown=shown, tail="…" if len(standing.scales) > 2 else "").replace("-", "−")
        )
    if standing.turned:
        words.append(say("{turned} turned", turned=standing.turned))
    return ", ".join(words) or say("clean")


def _describe_place(standing: Standing, unit: ShownUnit) -> str:
    height = say("bottom at {length}", length=unit.length(standing.low_m)) if standing.low_m else say("on the ground")
    away = say(", {length} off", length=unit.length(standing.off_m)) if standing.off_m else ""
    return f"{height}{away}{_describe_coarseness(standing, unit)}"


_WORDS: dict[str, Callable[[Standing, ShownUnit], str]] = {
    "turn": _describe_turn,
    "pivot": _describe_pivot,
    "bake": _describe_bake,
    "place": _describe_place,
}
