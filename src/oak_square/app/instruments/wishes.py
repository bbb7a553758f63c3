"""What instruments wish for: values that the desk carries to the session."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.app.instruments.aims import ClickTarget
from oak_square.core.measuring import Measure

__all__ = [
    "AddMeasure",
    "CentreAt",
    "DropTried",
    "EndSwing",
    "HangAt",
    "HoldDatum",
    "KeepTried",
    "LetGo",
    "ListUnder",
    "MoveDatum",
    "PickNode",
    "PickNodes",
    "PutDatum",
    "Redraw",
    "Say",
    "ShapeAt",
    "ShapeFramed",
    "SwingTo",
    "TakePoint",
    "TryWords",
    "TypeOver",
    "Wish",
]


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
    """Try a step of these words on what is aimed at.

    Attributes
    ----------
    words : mapping
        Without what it is for; empty for none.
    gesture : int
        What is tried in one gesture is one entry of the history.
    going : bool
        The gesture goes on: what is shown meanwhile need not be the last word.
    marks : mapping of placeholder to ClickTarget
        What of `words` is a mark of what was picked: a mark is made of each.
    motion : ndarray, shape (4, 4), or None
        The one world motion that all that is held makes since the gesture began; None where each makes its own.
    """

    words: Mapping[str, Any]
    gesture: int = 0
    going: bool = False
    marks: Mapping[str, ClickTarget] = field(default_factory=dict)
    motion: NDArray[np.float64] | None = None


@dataclass(frozen=True, slots=True)
class KeepTried:
    """Make a step of what is tried."""


@dataclass(frozen=True, slots=True)
class DropTried:
    """Forget what is tried."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ShapeAt:
    """Take hold of the vertices of what was picked; `beside` those that are taken."""

    aim: ClickTarget
    beside: bool


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ShapeFramed:
    """Take hold of vertices of a part, by their rows; `beside` those that are taken."""

    node: int
    rows: NDArray[np.int64]
    beside: bool


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class TakePoint:
    """A point was picked for whoever waits for one; `plain` by its numbers."""

    aim: ClickTarget
    plain: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class CentreAt:
    """Let turns and sizes happen about what was picked."""

    aim: ClickTarget


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HangAt:
    """Hang what is held, or what lies there, at a picked point; `plain` by its numbers."""

    aim: ClickTarget
    node: int | None
    plain: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PutDatum:
    """Put a datum down at a picked point; or, with a way, line the one in use up with it."""

    aim: ClickTarget
    lines_up: bool = False


@dataclass(frozen=True, slots=True)
class HoldDatum:
    """Take hold of a datum by itself; of none, of what is selected."""

    name: str


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MoveDatum:
    """Move a datum by itself.

    Attributes
    ----------
    motion : ndarray, shape (4, 4)
        The world motion it makes since the gesture began.
    gesture, going
        As of `TryWords`.
    onto : ClickTarget or None
        What was picked that it stands at from now on.
    """

    name: str
    motion: NDArray[np.float64]
    gesture: int = 0
    going: bool = False
    onto: ClickTarget | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PickNodes:
    """Pick some nodes of the lead asset, the last one leading; `beside` those that are picked."""

    nodes: tuple[int, ...]
    beside: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ListUnder:
    """Offer a list of all that lies under the pointer, at these pixels of the Bench."""

    aims: tuple[ClickTarget, ...]
    at: tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class TypeOver:
    """Type a length over an extent, in a field at these pixels of the Bench: left, top, width, height."""

    extent: str
    place: tuple[float, float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class SwingTo:
    """Swing the lead part about one of its own axes to an angle, between limits: to be looked at, nothing changes."""

    axis: int
    low_deg: float
    high_deg: float
    angle_deg: float


@dataclass(frozen=True, slots=True)
class EndSwing:
    """Show things where they are again."""


@dataclass(frozen=True, slots=True)
class Say:
    """Say a line at the foot."""

    text: str


@dataclass(frozen=True, slots=True)
class Redraw:
    """The marks are others now, or the band."""


Wish = (
    PickNode | PickNodes | LetGo | AddMeasure | TryWords | KeepTried | DropTried | TakePoint | HangAt | PutDatum
    | HoldDatum | MoveDatum | CentreAt | ListUnder | SwingTo | EndSwing | TypeOver | Say | Redraw
    | ShapeAt | ShapeFramed
)  # fmt: skip
