"""What instruments wish for: values that the desk carries to the session."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from oak_square.core.measuring import Measure

__all__ = ["AddMeasure", "LetGo", "PickNode", "Redraw", "Say", "TryWords", "TypeOver", "Wish"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PickNode:
    """Pick a node of an asset; `beside` those that are picked."""

    file: str
    node: int
    beside: bool


@dataclass(frozen=True, slots=True)
class LetGo:
    """Pick nothing any more."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class AddMeasure:
    """Keep a measurement."""

    measure: Measure


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class TryWords:
    """Try a step of these words on what is aimed at."""

    words: Mapping[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class TypeOver:
    """Type a length over an extent, in a field at these pixels of the Bench: left, top, width, height."""

    extent: str
    place: tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Say:
    """Say a line at the foot."""

    text: str


@dataclass(frozen=True, slots=True)
class Redraw:
    """The marks are others now, or the band."""


Wish = PickNode | LetGo | AddMeasure | TryWords | TypeOver | Say | Redraw
