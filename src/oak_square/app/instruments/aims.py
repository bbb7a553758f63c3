"""What lies under the pointer: vertices, edges, faces, circles, pivots, box points; the one a click would take."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.picture import Shape
from oak_square.app.view.overlay import Lens
from oak_square.app.view.pointing import Hit, Passed, Pointing
from oak_square.core.boxes import Box, box_point
from oak_square.core.carrying import point_before_shaping
from oak_square.core.dragging import away_from, on_line
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
_ALIKE = 3.0  # pixels by which a hand can't tell one point from another
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


def aim_at(at: Pointing, target: Target) -> ClickTarget | None:
    """Return what a click at a pixel would take; None where there is nothing. As `aims_at`."""
    found = aims_at(at, target)
    return found[0] if found else None


def aims_at(at: Pointing, target: Target, *, wide: bool = False, passing: Passed | None = None) -> list[ClickTarget]:
    """Return what could be taken at a pixel, what a click would take first: what is seen before what is covered.

    Of one kind what is as near as another, as far as a hand can tell, comes first where its part is picked.

    Parameters
    ----------
    wide : bool
        From further around, as for a list to choose from.
    passing : callable, optional
        Tells which shapes are passed over.
    """
    hits, found = at.around(passing), list[ClickTarget]()
    for k, (shape, point, triangle) in enumerate(hits):
        ready = target.ready(shape.mesh)
        aims = _of_surface(shape, point, triangle, at) if ready else [_aim_at_surface(shape, point, triangle)]
        # Any point of a surface will do: the one that is nearest to the pointer.
        found += aims if k == 0 else [aim for aim in aims if aim.kind != "surface"]
    if target.asset is not None:
        found += _aim_at_pivots(target.asset) if "pivot" in target.kinds else []
        if target.box is not None and "box point" in target.kinds:
            found += [_box_point(target.asset, target.box, f) for f in _BOX_FRACTIONS]
    found = [aim for aim in found if aim.kind in target.kinds]
    picked = {(shape.file, shape.node) for shape, _, _ in hits if shape.picked}
    ordered = sorted(_rank_aims(found, at, picked, wide=wide, passing=passing), key=lambda ranked: ranked[0])
    return _drop_repeated(aim for _, aim in ordered)


def _rank_aims(
    aims: Sequence[ClickTarget],
    at: Pointing,
    picked: Collection[tuple[str, int | None]],
    *,
    wide: bool,
    passing: Passed | None,
) -> Iterator[tuple[tuple[Any, ...], ClickTarget]]:
    """Yield those within the pointer's reach, each with what it is ordered by."""
    if not aims:
        return
    lens, pointer, order = at.lens, (at.x, at.y), list(_NEAR)
    seen = lens.seen(np.array([aim.at for aim in aims]))
    away = np.hypot(seen[:, 0] - at.x, seen[:, 1] - at.y)
    away[seen[:, 2] <= 0] = np.inf
    for k, aim in enumerate(aims):
        off, first, is_on_rim = float(away[k]), order.index(aim.kind), False
        if aim.kind == "circle centre":
            rim, facet = _measure_rim(aim, pointer, lens)
            is_on_rim = rim <= _NEAR[aim.kind]
            off = min(off, rim)
            # Facets too small to be told apart are the circle's, not their own.
            first = -1 if facet <= _SMALL_FACET else first
        if off > max(_NEAR[aim.kind], _LISTED if wide and aim.kind != "edge" else 0.0):
            continue
        is_picked = (aim.file, aim.anchor.node) in picked
        is_surface = aim.kind == "surface"
        # A circle is seen where its rim is; any point of a surface, wherever the pointer is, comes last of all.
        covered = not (is_surface or is_on_rim or at.sees(aim.at, passing))
        depth = float(np.round(seen[k, 2] / lens.reach(aim.at, _ALIKE)))
        yield (is_surface, covered, first, round(off / _ALIKE), not is_picked, depth, off, k), aim


def _drop_repeated(aims: Iterable[ClickTarget]) -> list[ClickTarget]:
    """Return aims without those that two faces have in common."""
    found = dict[tuple[Any, ...], ClickTarget]()
    for aim in aims:
        place = aim.ring[:2] if aim.kind == "edge" else aim.at[None]
        key = (aim.file, aim.anchor.node, aim.kind, *np.round(np.sort(place, axis=0), 9).ravel().tolist())
        found.setdefault(key, aim)
    return list(found.values())


def face_under(hit: Hit | None) -> ClickTarget | None:
    """Return the face that a ray meets, wherever on it; None where it meets nothing."""
    if hit is None:
        return None
    return next(aim for aim in _of_surface(*hit) if aim.kind == "face centre")


def _measure_rim(aim: ClickTarget, pointer: tuple[float, float], lens: Lens) -> tuple[float, float]:
    """Return how far a circle's rim is from the pointer, and how long its longest facet is, pixels."""
    seen = lens.seen(aim.ring)[:, :2]
    facets = np.linalg.norm(np.roll(seen, -1, axis=0) - seen, axis=1)
    return away_from(seen, np.array(pointer), closed=True), float(facets.max())


def _aim_at_pivots(asset: Asset) -> list[ClickTarget]:
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


def _anchor_plane(shape: Shape, triangle: int) -> tuple[Anchor, ...]:
    corners = np.asarray(shape.mesh.points, dtype=np.float64)[np.asarray(shape.mesh.triangles)[triangle]]
    return tuple(_make_anchor(shape, c, "surface") for c in corners)


def _aim_at_surface(shape: Shape, at: Array, triangle: int) -> ClickTarget:
    return ClickTarget(
        file=shape.file,
        anchor=_make_anchor(shape, _find_local(shape, at), "surface"),
        at=at,
        plane=_anchor_plane(shape, triangle),
    )


def _find_local(shape: Shape, at: Array) -> Array:
    matrix = shape.world_from_mesh
    return np.asarray(np.linalg.solve(matrix[:3, :3], at - matrix[:3, 3]), dtype=np.float64)


def _of_surface(shape: Shape, at: Array, triangle: int, pointing: Pointing | None = None) -> list[ClickTarget]:
    plane = _anchor_plane(shape, triangle)
    picks = picks_at(shape.mesh, shape.world_from_mesh, triangle, at)
    if pointing is not None:
        picks = [_nearest_on_edge(pick, pointing) for pick in picks]
    return [_aim_at_pick(shape, pick, plane) for pick in picks]


def _nearest_on_edge(pick: Pick, pointing: Pointing) -> Pick:
    """Return a pick on an edge where that is nearest to the ray through the pointer; any other pick as it is."""
    if pick.kind != "edge" or pick.line is None:
        return pick
    along = on_line(pointing.eye, pointing.toward, pick.line[0], pick.way)
    return pick if along is None else replace(pick, at=pick.line[0] + pick.way * min(max(along, 0.0), pick.size))


def _aim_at_pick(shape: Shape, pick: Pick, plane: tuple[Anchor, ...]) -> ClickTarget:
    circle: Circle | None = pick.circle
    rim = () if circle is None else tuple(_make_anchor(shape, _find_local(shape, p), "rim") for p in circle.rim[:3])
    ring = np.empty((0, 3)) if pick.line is None else pick.line
    if pick.kind == "circle centre" and circle is not None:
        ring = circle.corners
    return ClickTarget(
        file=shape.file,
        anchor=_make_anchor(shape, _find_local(shape, pick.at), pick.kind),
        at=pick.at,
        way=pick.way,
        size=pick.size,
        circle=rim,
        ring=ring,
        plane=plane,
    )


def _make_anchor(shape: Shape, at: Array, kind: str) -> Anchor:
    x, y, z = (float(v) for v in point_before_shaping(shape.mesh, at, kind))
    return Anchor(node=shape.node, name=shape.name, at=(x, y, z), kind=kind)
