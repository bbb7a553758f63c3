"""What lies under the pointer: vertices, edges, faces, circles, pivots, box points; the one a click would take."""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.picture import Shape
from oak_square.app.view.overlay import Lens
from oak_square.app.view.pointing import Hit
from oak_square.core.boxes import Box, box_point
from oak_square.core.dragging import away_from
from oak_square.core.measuring import Anchor
from oak_square.core.picks import Circle, Pick, picks_at
from oak_square.core.scene import Asset, Mesh
from oak_square.core.words import say

__all__ = ["KINDS", "POINTS", "ClickTarget", "Target", "aim_at", "aims_at", "face_under"]

Array = NDArray[np.float64]
KINDS = ("vertex", "edge middle", "edge", "face centre", "circle centre", "pivot", "box point", "surface")
"""All that can be picked; each has a switch."""

POINTS = KINDS[:-1]
"""Those that hold still: a surface point is wherever the pointer is."""

# Within so many pixels of the pointer a kind is taken; the first kind that is near enough wins.
_NEAR = {
    "pivot": 8.0, "vertex": 9.0, "circle centre": 11.0, "edge middle": 9.0, "face centre": 9.0, "box point": 9.0,
    "edge": 7.0, "surface": np.inf,
}  # fmt: skip
_LISTED = 22.0  # pixels: what is listed where it is crowded
_SMALL_FACET = 16.0  # pixels: corners of a ring nearer to one another than that stand for the circle
_THIRDS = (0.0, 0.5, 1.0)
_BOX_FRACTIONS = np.stack(np.meshgrid(_THIRDS, _THIRDS, _THIRDS, indexing="ij"), axis=-1).reshape(-1, 3)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ClickTarget:
    """What a click would take.

    Attributes
    ----------
    file : str
        Its asset.
    anchor : Anchor
    at : ndarray, shape (3,), metres
        Where it is in the picture.
    way : ndarray, shape (3,)
        An edge's line, a face's normal, a circle's axis; zero where it has none.
    size : float, metres
        An edge's length, a circle's radius, the root of a face's area; 0 where it has none.
    circle : tuple of Anchor
        Three points of the rim, where it is on a circle or the centre of one; else empty.
    ring : ndarray, shape (N, 3)
        That circle's corners, to be drawn; of an edge, its ends.
    plane : tuple of Anchor
        Three points of the face it is on; empty where it is on none.
    """

    file: str
    anchor: Anchor
    at: Array
    way: Array = field(default_factory=lambda: np.zeros(3))
    size: float = 0.0
    circle: tuple[Anchor, ...] = ()
    ring: Array = field(default_factory=lambda: np.empty((0, 3)))
    plane: tuple[Anchor, ...] = ()

    @property
    def kind(self) -> str:
        """What it is, in words."""
        return self.anchor.kind

    @property
    def whose(self) -> str:
        """What it is of, in words: a part, or the box."""
        return self.anchor.name or say("box")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Target:
    """What can be aimed at besides the surface.

    Attributes
    ----------
    asset : Asset or None
        The lead asset, as it is shown: its pivots can be taken.
    box : Box or None
        The box whose points can be taken.
    kinds : collection of str
        Those that are switched on.
    ready : callable
        Tells whether a mesh's corners, edges and circles are known; else its surface alone can be taken.
    """

    asset: Asset | None = None
    box: Box | None = None
    kinds: Collection[str] = KINDS
    ready: Callable[[Mesh], bool] = lambda _: True


def aim_at(hit: Hit | None, pointer: tuple[float, float], lens: Lens, target: Target) -> ClickTarget | None:
    """Return what a click at a pixel would take; None where there is nothing. As `aims_at`."""
    found = aims_at(hit, pointer, lens, target)
    return found[0] if found else None


def aims_at(
    hit: tuple[Shape, Array, int] | None,
    pointer: tuple[float, float],
    lens: Lens,
    target: Target,
    *,
    wide: bool = False,
) -> list[ClickTarget]:
    """Return what could be taken at a pixel, what a click would take first.

    Parameters
    ----------
    hit : Hit or None
        What the ray through the pixel meets.
    wide : bool
        From further around, as for a list to choose from.
    """
    found = list[ClickTarget]()
    if hit is not None:
        shape, at, triangle = hit
        found += _of_surface(shape, at, triangle) if target.ready(shape.mesh) else [_bare(shape, at, triangle)]
    if target.asset is not None:
        found += _pivots(target.asset) if "pivot" in target.kinds else []
        if target.box is not None and "box point" in target.kinds:
            found += [_box_point(target.asset, target.box, f) for f in _BOX_FRACTIONS]
    found = [aim for aim in found if aim.kind in target.kinds]
    if not found:
        return []
    seen = lens.seen(np.array([aim.at for aim in found]))
    away = np.hypot(seen[:, 0] - pointer[0], seen[:, 1] - pointer[1])
    away[seen[:, 2] <= 0] = np.inf
    ranked = list[tuple[int, float, int]]()
    order = list(_NEAR)
    for k, aim in enumerate(found):
        off, first = float(away[k]), order.index(aim.kind)
        if aim.kind == "circle centre":
            rim, facet = _rim(aim, pointer, lens)
            off = min(off, rim)
            # Facets too small to be told apart are the circle's, not their own.
            first = -1 if facet <= _SMALL_FACET else first
        if off <= max(_NEAR[aim.kind], _LISTED if wide and aim.kind != "edge" else 0.0):
            ranked.append((first, off, k))
    return [found[k] for _, _, k in sorted(ranked)]


def face_under(hit: Hit | None) -> ClickTarget | None:
    """Return the face that a ray meets, wherever on it; None where it meets nothing."""
    if hit is None:
        return None
    return next(aim for aim in _of_surface(*hit) if aim.kind == "face centre")


def _rim(aim: ClickTarget, pointer: tuple[float, float], lens: Lens) -> tuple[float, float]:
    """Return how far a circle's rim is from the pointer, and how long its longest facet is, pixels."""
    seen = lens.seen(aim.ring)[:, :2]
    facets = np.linalg.norm(np.roll(seen, -1, axis=0) - seen, axis=1)
    return away_from(seen, np.array(pointer), closed=True), float(facets.max())


def _pivots(asset: Asset) -> list[ClickTarget]:
    return [
        ClickTarget(
            file=asset.file,
            anchor=Anchor(node=i, name=n.name, at=(0.0, 0.0, 0.0), kind="pivot"),
            at=asset.worlds[i][:3, 3],
        )
        for i, n in enumerate(asset.nodes)
    ]


def _box_point(asset: Asset, box: Box, fractions: Array) -> ClickTarget:
    x, y, z = (float(v) for v in fractions)
    anchor = Anchor(node=None, name="", at=(x, y, z), kind="box point")
    return ClickTarget(file=asset.file, anchor=anchor, at=box_point(box, (x, y, z)))


def _plane(shape: Shape, triangle: int) -> tuple[Anchor, ...]:
    corners = np.asarray(shape.mesh.points, dtype=np.float64)[np.asarray(shape.mesh.triangles)[triangle]]
    return tuple(_anchor(shape, c, "surface") for c in corners)


def _bare(shape: Shape, at: Array, triangle: int) -> ClickTarget:
    return ClickTarget(
        file=shape.file, anchor=_anchor(shape, _local(shape, at), "surface"), at=at, plane=_plane(shape, triangle)
    )


def _local(shape: Shape, at: Array) -> Array:
    matrix = shape.world_from_mesh
    return np.asarray(np.linalg.solve(matrix[:3, :3], at - matrix[:3, 3]), dtype=np.float64)


def _of_surface(shape: Shape, at: Array, triangle: int) -> list[ClickTarget]:
    plane = _plane(shape, triangle)
    return [_aim_at_pick(shape, p, plane) for p in picks_at(shape.mesh, shape.world_from_mesh, triangle, at)]


def _aim_at_pick(shape: Shape, pick: Pick, plane: tuple[Anchor, ...]) -> ClickTarget:
    circle: Circle | None = pick.circle
    rim = () if circle is None else tuple(_anchor(shape, _local(shape, p), "rim") for p in circle.rim[:3])
    ring = np.empty((0, 3)) if pick.line is None else pick.line
    if pick.kind == "circle centre" and circle is not None:
        ring = circle.corners
    return ClickTarget(
        file=shape.file,
        anchor=_anchor(shape, _local(shape, pick.at), pick.kind),
        at=pick.at,
        way=pick.way,
        size=pick.size,
        circle=rim,
        ring=ring,
        plane=plane,
    )


def _anchor(shape: Shape, at: Array, kind: str) -> Anchor:
    x, y, z = (float(v) for v in at)
    return Anchor(node=shape.node, name=shape.name, at=(x, y, z), kind=kind)
