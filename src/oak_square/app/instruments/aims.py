"""What lies under the pointer: corners, edges, faces, circles, box points; the one a click would take."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.picture import Shape
from oak_square.app.view.overlay import Lens
from oak_square.core.boxes import Box, box_point
from oak_square.core.frames import apply
from oak_square.core.measuring import Anchor
from oak_square.core.picks import Pick, topology
from oak_square.core.scene import Asset, Mesh

__all__ = ["Aim", "aim_at"]

Array = NDArray[np.float64]
# Within so many pixels of the pointer a kind is taken; the first kind that is near enough wins.
_NEAR = (
    ("vertex", 9.0), ("circle centre", 11.0), ("edge middle", 9.0), ("face centre", 9.0), ("box point", 9.0),
    ("edge", 7.0), ("surface", 1e9),
)  # fmt: skip
_THIRDS = (0.0, 0.5, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Aim:
    """What a click would take.

    Attributes
    ----------
    file : str
        Its asset.
    anchor : Anchor
    at : ndarray, shape (3,), metres
        Where it is in the picture.
    circle : tuple of Anchor
        Three points of the rim, where it is on a circle or the centre of one; else empty.
    plane : tuple of Anchor
        Three points of the face it is on; empty where it is on none.
    """

    file: str
    anchor: Anchor
    at: Array
    circle: tuple[Anchor, ...] = ()
    plane: tuple[Anchor, ...] = ()


def aim_at(
    hit: tuple[Shape, Array, int] | None,
    pointer: tuple[float, float],
    lens: Lens,
    asset: Asset | None,
    box: Box | None,
    ready: Callable[[Mesh], bool] = lambda _: True,
) -> Aim | None:
    """Return what a click at a pixel would take; None where there is nothing.

    Parameters
    ----------
    hit : tuple of Shape, point (3,) metres and triangle, or None
        What the ray through the pixel meets.
    asset : Asset or None
        The lead asset, whose box points can be taken.
    box : Box or None
        Its box, as it stands in the picture.
    ready : callable
        Tells whether a mesh's corners, edges and circles are known; else its surface alone can be taken.
    """
    found: list[tuple[str, Aim]] = []
    if hit is not None:
        shape, at, triangle = hit
        found += _of_surface(shape, at, triangle) if ready(shape.mesh) else [_bare(shape, at, triangle)]
    if asset is not None and box is not None:
        for fractions in np.stack(np.meshgrid(_THIRDS, _THIRDS, _THIRDS, indexing="ij"), axis=-1).reshape(-1, 3):
            x, y, z = (float(v) for v in fractions)
            anchor = Anchor(node=None, name="", at=(x, y, z), kind="box point")
            found.append(("box point", Aim(file=asset.file, anchor=anchor, at=box_point(box, (x, y, z)))))
    if not found:
        return None
    seen = lens.seen(np.array([aim.at for _, aim in found]))
    away = np.hypot(seen[:, 0] - pointer[0], seen[:, 1] - pointer[1])
    for kind, near in _NEAR:
        mine = [k for k, (own, _) in enumerate(found) if own == kind and away[k] <= near and seen[k, 2] > 0]
        if mine:
            return found[min(mine, key=lambda k: float(away[k]))][1]
    return None


def _bare(shape: Shape, at: Array, triangle: int) -> tuple[str, Aim]:
    matrix = shape.world_from_mesh
    local = np.linalg.solve(matrix[:3, :3], at - matrix[:3, 3])
    corners = np.asarray(shape.mesh.points, dtype=np.float64)[np.asarray(shape.mesh.triangles)[triangle]]
    plane = tuple(_anchor(shape, c, "surface") for c in corners)
    return "surface", Aim(
        file=shape.file, anchor=_anchor(shape, np.asarray(local, dtype=np.float64), "surface"), at=at, plane=plane
    )


def _of_surface(shape: Shape, at: Array, triangle: int) -> list[tuple[str, Aim]]:
    matrix = shape.world_from_mesh
    known = topology(shape.mesh)
    local = np.linalg.solve(matrix[:3, :3], at - matrix[:3, 3])
    corners = np.asarray(shape.mesh.points, dtype=np.float64)[np.asarray(shape.mesh.triangles)[triangle]]
    plane = tuple(_anchor(shape, c, "surface") for c in corners)
    return [(p.kind, _aim(shape, p, plane)) for p in known.picks_at(triangle, np.asarray(local, dtype=np.float64))]


def _aim(shape: Shape, pick: Pick, plane: tuple[Anchor, ...]) -> Aim:
    matrix = shape.world_from_mesh
    rim = () if pick.circle is None else tuple(_anchor(shape, p, "rim") for p in pick.circle.rim)
    world = apply(matrix, pick.at)
    return Aim(file=shape.file, anchor=_anchor(shape, pick.at, pick.kind), at=world, circle=rim, plane=plane)


def _anchor(shape: Shape, at: Array, kind: str) -> Anchor:
    x, y, z = (float(v) for v in at)
    return Anchor(node=shape.node, name=shape.name, at=(x, y, z), kind=kind)
