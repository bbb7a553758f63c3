"""What the view is given: plain values, nothing of the sheet or the session."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.scene import Mesh

__all__ = ["BerthShown", "DatumShown", "Facts", "MarkShown", "MeasureMark", "NoteMark", "Picture", "PivotMark", "Shape"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shape:
    """One part to draw.

    Attributes
    ----------
    file : str
        Its asset, told when it is picked.
    node : int
        Its node in that asset.
    name : str
        That node's name.
    mesh : Mesh
    world_from_mesh : ndarray, shape (4, 4), metres
    picked : bool
        Drawn as the part that is picked.
    lead : bool
        Of several that are picked, the last one.
    tint : int
        Drawn in the colour of that number, to be told apart from others; -1 for its own colours.
    """

    file: str
    node: int
    mesh: Mesh
    world_from_mesh: Array
    picked: bool = False
    lead: bool = False
    name: str = ""
    tint: int = -1

    def is_drawn_as(self, other: Shape) -> bool:
        """Tell whether both are drawn alike but for where they stand."""
        told = self.picked, self.lead, self.tint
        return self.mesh is other.mesh and told == (other.picked, other.lead, other.tint)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Picture:
    """The parts to draw, and their common box (None when there is nothing)."""

    shapes: tuple[Shape, ...] = ()
    box: Box | None = None

    def same_as(self, other: Picture) -> bool:
        """Tell whether both would be drawn alike."""
        return len(self.shapes) == len(other.shapes) and all(
            a.is_drawn_as(b) and np.array_equal(a.world_from_mesh, b.world_from_mesh)
            for a, b in zip(self.shapes, other.shapes, strict=True)
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PivotMark:
    """A pivot to draw: where, its three unit axes as rows, its name; `lead` draws it large.

    `tether`, shape (3,), is the nearest point of its geometry's box, where it lies far from that.
    """

    at: Array
    axes: Array
    name: str
    lead: bool = False
    tether: Array | None = None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MeasureMark:
    """A measurement to draw: its kind, its points as rows, metres, its reading in words; `strong` when it is chosen."""

    kind: str
    points: Array
    text: str
    strong: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class DatumShown:
    """A datum to draw: where, its three axes as rows, its name; `used` when turns go about it."""

    at: Array
    axes: Array
    name: str
    used: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MarkShown:
    """A mark to draw where it is found: its name, kind and place; `tried` when the draft speaks of it."""

    at: Array
    kind: str
    name: str
    tried: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BerthShown:
    """A berth to draw: the four corners of its rectangle on the ground, in order, metres, and its name."""

    corners: Array
    name: str


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NoteMark:
    """Something to say of a place on the model: what a draft brings about there, or that all is well there."""

    at: Array
    text: str
    is_trouble: bool = True


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Facts:
    """What is written over the picture.

    Attributes
    ----------
    box : Box or None
        The box whose sizes are written.
    whole : Box or None
        The lead asset's box: up and front are marked outside it.
    sizes : tuple of 3 str
        Width, height, depth in words.
    beside : tuple of (Box, 3 str)
        The boxes and sizes of what else is selected.
    pivots : tuple of PivotMark
    origin : ndarray, shape (3,), metres
        The file origin of the lead asset.
    previewed : bool
        A draft is being tried: the box is drawn as a preview.
    measures : tuple of MeasureMark
    datums : tuple of DatumShown
    marks : tuple of MarkShown
    notes : tuple of NoteMark
    berths : tuple of BerthShown
    taken : ndarray, shape (N, 3), metres
        The vertices that are taken.
    title : str
        What is shown, for the corner.
    notice : str
        Said in the middle when there is nothing to show.
    """

    box: Box | None = None
    whole: Box | None = None
    sizes: tuple[str, str, str] = ("", "", "")
    beside: tuple[tuple[Box, tuple[str, str, str]], ...] = ()
    pivots: tuple[PivotMark, ...] = ()
    origin: Array = field(default_factory=lambda: np.zeros(3))
    previewed: bool = False
    measures: tuple[MeasureMark, ...] = ()
    datums: tuple[DatumShown, ...] = ()
    marks: tuple[MarkShown, ...] = ()
    notes: tuple[NoteMark, ...] = ()
    berths: tuple[BerthShown, ...] = ()
    taken: Array = field(default_factory=lambda: np.empty((0, 3)))
    title: str = ""
    notice: str = ""
