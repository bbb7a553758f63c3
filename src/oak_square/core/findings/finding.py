"""What a finding is, and the register of their kinds: level, stage that settles it, and why it matters."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Literal

from oak_square.core.boxes import Box
from oak_square.core.size_book import SizeBook

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["KINDS", "LEVELS", "LOOKS", "Finding", "FindingKind", "Level", "Look", "add_kind", "finding", "looks"]

Level = Literal["note", "check", "fix"]
LEVELS: tuple[Level, ...] = ("note", "check", "fix")


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingKind:
    """What one code means, and how it is settled: all there is to say of it.

    Attributes
    ----------
    level : Level
    stage : str
        Where it is settled.
    title, why : str
        What it is, and what goes wrong downstream.
    remedy : mapping, optional
        The words of the step that settles it, alike for every asset.
    asks : "unit", "up" or None
        What has to be known of each asset for a step that settles it.
    by_hand : str
        What to do there, where no one step settles it for all.
    symptoms : str
        Words for what people see of it downstream, with spaces between: it is found by them.
    """

    level: Level
    stage: str
    title: str
    why: str
    remedy: Mapping[str, Any] | None = None
    asks: Literal["unit", "up"] | None = None
    by_hand: str = ""
    symptoms: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One thing that is not true of an asset. `measure` has the unit its code says."""

    code: str
    level: Level
    stage: str
    part: str | None
    message: str
    measure: float | None


KINDS: dict[str, FindingKind] = {}
"""What every code means; filled when the package is imported."""

Look = Callable[["Asset", Box | None, SizeBook | None], Iterator[Finding]]
LOOKS: list[Look] = []
"""What is looked for in an asset, given its box, where it has geometry, and the size book."""


def add_kind(code: str, **told: Any) -> None:
    """Add a kind of finding; `told` has the attributes of `FindingKind`.

    Raises
    ------
    RuntimeError
        If its code is taken: a fault of ours.
    """
    if code in KINDS:
        raise RuntimeError(f"two kinds of findings are called '{code}'")
    KINDS[code] = FindingKind(**told)


def looks(look: Look) -> Look:
    """Have a survey look with `look` too."""
    LOOKS.append(look)
    return look


def finding(code: str, message: str, *, part: str | None = None, measure: float | None = None) -> Finding:
    """Return a finding of a known `code`, its level and stage filled in."""
    kind = KINDS[code]
    return Finding(code=code, level=kind.level, stage=kind.stage, part=part, message=message, measure=measure)
