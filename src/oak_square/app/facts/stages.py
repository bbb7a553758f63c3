"""What each stage measures of an asset, in words: the numbers of before and after."""

from __future__ import annotations

from collections.abc import Callable

from oak_square.core.boxes import Box
from oak_square.core.shown_units import ShownUnit
from oak_square.core.standing import Standing
from oak_square.core.tolerances import COARSE_FLOAT32_M

__all__ = ["box_words", "size_words", "stage_words"]

AUTO = ShownUnit()
_EMPTY = "no geometry"


def stage_words(standing: Standing, unit: ShownUnit = AUTO) -> str:
    """Return how an asset stands at a stage, in a few words, lengths in `unit`."""
    if standing.size is None and standing.stage != "bake":
        return _EMPTY
    return _WORDS.get(standing.stage, _size)(standing, unit)


def box_words(box: Box, unit: ShownUnit) -> str:
    """Return a box's extents in words."""
    width, height, depth = (float(v) for v in box.size)
    return unit.size(width, height, depth)


def size_words(size: tuple[float, float, float] | None, unit: ShownUnit) -> str:
    """Return extents in words."""
    return _EMPTY if size is None else unit.size(*size)


def _size(standing: Standing, unit: ShownUnit) -> str:
    return size_words(standing.size, unit)


def _turn(standing: Standing, unit: ShownUnit) -> str:
    height = 0.0 if standing.size is None else standing.size[1]
    return f"{standing.up} up, {unit.length(height)} tall".replace("-", "−", 1)


def _pivot(standing: Standing, unit: ShownUnit) -> str:
    own = f"{unit.length(standing.off_m)} off" if standing.off_m else "on its base"
    outside = f", {standing.outside} outside" if standing.outside else ""
    return f"{own}{outside}{_coarse(standing, unit)}"


def _coarse(standing: Standing, unit: ShownUnit) -> str:
    """Say what precision float32 has left out there, where it is little."""
    return f", float32 steps {unit.length(standing.step_m)}" if standing.step_m > COARSE_FLOAT32_M else ""


def _bake(standing: Standing, unit: ShownUnit) -> str:
    words = []
    if standing.scales:
        shown = ", ".join(f"{s:.4g}" for s in standing.scales[:2])
        words.append(f"scale {shown}{'…' if len(standing.scales) > 2 else ''}".replace("-", "−"))
    if standing.turned:
        words.append(f"{standing.turned} turned")
    return ", ".join(words) or "clean"


def _place(standing: Standing, unit: ShownUnit) -> str:
    height = f"bottom at {unit.length(standing.low_m)}" if standing.low_m else "on the ground"
    away = f", {unit.length(standing.off_m)} off" if standing.off_m else ""
    return f"{height}{away}{_coarse(standing, unit)}"


_WORDS: dict[str, Callable[[Standing, ShownUnit], str]] = {
    "turn": _turn,
    "pivot": _pivot,
    "bake": _bake,
    "place": _place,
}
