"""What float32, which most files hold their numbers in, can tell apart of an asset as it is stored."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import node_box
from oak_square.core.errors import Refused
from oak_square.core.geometry import TOO_LARGE, ends, within_float32
from oak_square.core.lengths import format_length
from oak_square.core.memo import Memo
from oak_square.core.tolerances import COARSE_FLOAT32_M, COARSE_SHARE

if TYPE_CHECKING:
    from oak_square.core.scene import Asset, Mesh

__all__ = ["check_numbers", "float32_step", "numbers_reach", "stored_step", "stored_steps"]

Array = NDArray[np.float64]
_REACHES: Memo[Array] = Memo()


def float32_step(metres: float) -> float:
    """Return the gap between neighbouring float32 numbers at a coordinate, metres."""
    return float(np.spacing(np.float32(min(abs(metres), 3e38))))


def numbers_reach(mesh: Mesh) -> Array:
    """Return the largest coordinates of a mesh's numbers along each axis, shape (3,)."""
    return _REACHES.of(mesh, None, lambda: np.abs(ends(mesh.points)).max(axis=0).astype(np.float64))


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


def stored_steps(asset: Asset, parts: Sequence[int]) -> Array:
    """Return `stored_step` of each of some parts, shape (K,), worked out for all at once."""
    if not parts:
        return np.empty(0)
    matrices = np.array([asset.nodes[i].local_from_mesh for i in parts])
    reaches = np.array([numbers_reach(asset.mesh_of(i)) for i in parts])
    stored = (np.abs(matrices[:, :3, :3]) @ reaches[:, :, None])[..., 0] + np.abs(matrices[:, :3, 3])
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
    for i in after.parts:
        if not within_float32(_stored_reach(after, i)):
            raise Refused(TOO_LARGE)
        node = after.nodes[i]
        if node.pinned or node.skin is not None or i >= len(before.nodes) or before.nodes[i].mesh != node.mesh:
            continue
        if np.array_equal(node.local_from_mesh, before.nodes[i].local_from_mesh):
            continue
        step, box = stored_step(after, i), node_box(after, i)
        allowed = max(COARSE_FLOAT32_M, COARSE_SHARE * box.diagonal) if box is not None else np.inf
        if step > allowed and step > 2 * stored_step(before, i):
            far = format_length(_in_world(after, i, _stored_reach(after, i)))
            raise Refused(
                f"the numbers of '{node.name}' would lie {far} from its pivot, where float32 steps are "
                f"{format_length(step)}: place it nearer the origin first, or leave its location"
            )
