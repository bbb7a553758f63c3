"""What float32, which most files hold their numbers in, can tell apart of an asset as it is stored."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import part_boxes
from oak_square.core.errors import Refused
from oak_square.core.geometry import TOO_LARGE, ends, within_float32
from oak_square.core.lengths import format_length
from oak_square.core.memo import Memo
from oak_square.core.tolerances import COARSE_FLOAT32_M, COARSE_SHARE
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset, Mesh

__all__ = ["check_numbers", "float32_step", "numbers_reach", "stored_step", "stored_steps"]

Array = NDArray[np.float64]
_REACHES: Memo[Array] = Memo()
_SMALL, _MANY = 2048, 16  # vertices of a mesh that is not worth a call of its own; how many make one call worth it


def float32_step(metres: float) -> float:
    """Return the gap between neighbouring float32 numbers at a coordinate, metres."""
    return float(np.spacing(np.float32(min(abs(metres), 3e38))))


def numbers_reach(mesh: Mesh) -> Array:
    """Return the largest coordinates of a mesh's numbers along each axis, shape (3,)."""
    return _REACHES.of(mesh, None, lambda: np.abs(ends(mesh.points)).max(axis=0).astype(np.float64))


def _reach_small(meshes: Sequence[Mesh]) -> None:
    """Work out the reaches of small meshes that are not known yet, all in one go."""
    small = list({id(m): m for m in meshes if 0 < len(m.points) <= _SMALL and not _REACHES.has(m, None)}.values())
    if len(small) < _MANY:
        return
    lengths = np.array([len(m.points) for m in small])
    points = np.abs(np.concatenate([m.points for m in small]))
    found = np.maximum.reduceat(points, np.cumsum(lengths) - lengths).astype(np.float64)
    for mesh, reach in zip(small, found, strict=True):
        _REACHES.put(mesh, None, reach)


def _stored_reach(asset: Asset, index: int) -> Array:
    """Return the largest coordinates, shape (3,), that a part's vertices can have in its own frame."""
    matrix = asset.nodes[index].local_from_mesh
    found: Array = np.abs(matrix[:3, :3]) @ numbers_reach(asset.mesh_of(index)) + np.abs(matrix[:3, 3])
    return found


def _in_world(asset: Asset, index: int, lengths: Array) -> float:
    """Return how far, metres, lengths along a node's own axes, shape (3,), reach along a world axis at most."""
    return float(np.max(np.abs(asset.worlds[index][:3, :3]) * lengths))


def stored_step(asset: Asset, index: int) -> float:
    """Return the gap, metres in the world, between neighbouring float32 numbers at a part's furthest stored vertex."""
    steps = [float32_step(reach) if reach > 0 else 0.0 for reach in _stored_reach(asset, index)]
    return _in_world(asset, index, np.array(steps))


def _stored_reaches(asset: Asset, parts: Sequence[int]) -> Array:
    """Return `_stored_reach` of each of some parts, shape (K, 3), worked out for all at once."""
    matrices = np.array([asset.nodes[i].local_from_mesh for i in parts])
    meshes = [asset.mesh_of(i) for i in parts]
    _reach_small(meshes)
    reaches = np.array([numbers_reach(mesh) for mesh in meshes])
    found: Array = (np.abs(matrices[:, :3, :3]) @ reaches[:, :, None])[..., 0] + np.abs(matrices[:, :3, 3])
    return found


def stored_steps(asset: Asset, parts: Sequence[int]) -> Array:
    """Return `stored_step` of each of some parts, shape (K,), worked out for all at once."""
    if not parts:
        return np.empty(0)
    stored = _stored_reaches(asset, parts)
    steps = np.where(stored > 0, np.spacing(np.minimum(stored, 3e38).astype(np.float32)), 0.0)
    found: Array = (np.abs(asset.worlds[list(parts), :3, :3]) * steps[:, None, :]).max(axis=(1, 2))
    return found


def check_numbers(before: Asset, after: Asset) -> None:
    """Make sure that a step leaves numbers that a file can hold, and that still tell the shape of each part.

    Raises
    ------
    Refused
        If numbers grow past what float32 can hold; or if the numbers of a part come to lie so far from its pivot that
        float32 steps are coarser than `COARSE_FLOAT32_M` and than `COARSE_SHARE` of its size, and were not before.
    """
    parts = list(after.parts)
    if not parts:
        return
    if not within_float32(_stored_reaches(after, parts)):
        raise Refused(TOO_LARGE)
    moved = [i for i in parts if _has_moved(before, after, i)]
    steps, boxes = stored_steps(after, moved), part_boxes(after)[moved]
    diagonals = np.linalg.norm(boxes[:, 1] - boxes[:, 0], axis=1)
    # Of what has no box nothing is told apart, and nothing lost: NaN is never less.
    coarse = steps > np.maximum(COARSE_FLOAT32_M, COARSE_SHARE * diagonals)
    for k in np.flatnonzero(coarse).tolist():
        i = moved[k]
        if steps[k] > 2 * stored_step(before, i):
            far = format_length(_in_world(after, i, _stored_reach(after, i)))
            raise Refused(
                say(
                    "the numbers of '{name}' would lie {far} from its pivot, where float32 steps are "
                    "{step}: place it nearer the origin first, or leave its location",
                    name=after.nodes[i].name,
                    far=far,
                    step=format_length(float(steps[k])),
                )
            )


def _has_moved(before: Asset, after: Asset, i: int) -> bool:
    """Tell whether a part's numbers lie elsewhere than before, of those whose numbers are their own."""
    node = after.nodes[i]
    if node.pinned or node.skin is not None or i >= len(before.nodes) or before.nodes[i].mesh != node.mesh:
        return False
    own, former = node.local_from_mesh, before.nodes[i].local_from_mesh
    return own is not former and not np.array_equal(own, former)
