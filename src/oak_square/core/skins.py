"""Skins: the rest pose they hold, and whether it is still held.

A vertex of a skinned mesh is at the sum of its weights times `W_j B_j`, with W the joint's world and B its inverse bind
matrix (glTF 2.0, 3.7.3.3); the transform of the mesh's own node carries nothing.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.placement import is_singular
from oak_square.core.tolerances import SAME_BIND, TINY

if TYPE_CHECKING:
    from collections.abc import Sequence

    from oak_square.core.scene import Asset, Mesh

__all__ = ["bent_skin", "joint_matrices", "parted_skin", "posed_points", "rest_pose"]

Array = NDArray[np.float64]


def rest_pose(points: NDArray[np.floating], joints: NDArray[np.integer], weights: Array, matrices: Array) -> Array:
    """Return skinned points, shape (N, 3), world, metres.

    Parameters
    ----------
    points : ndarray, shape (N, 3), mesh numbers
    joints : ndarray of integers, shape (N, K)
        Rows of `matrices`.
    weights : ndarray, shape (N, K)
        Made to sum to one where they do not; a vertex without any stays with its first joint.
    matrices : ndarray, shape (J, 4, 4)
        World from mesh, by joint.
    """
    total = weights.sum(axis=1, keepdims=True)
    shares = np.divide(weights, total, out=np.zeros_like(weights), where=total > 0)
    shares[total[:, 0] <= 0, 0] = 1.0
    found = np.zeros((len(points), 3))
    # Joint by joint of each vertex: four passes over all vertices, whatever the number of joints.
    for k in range(joints.shape[1]):
        own = matrices[joints[:, k]]
        moved = np.einsum("nij,nj->ni", own[:, :3, :3], points.astype(np.float64)) + own[:, :3, 3]
        found += shares[:, k, None] * moved
    return found


def posed_points(asset: Asset, mesh: Mesh, skin: int, worlds: Array) -> Array:
    """Return where the joints of a skin hold a mesh, shape (N, 3), world, metres.

    Parameters
    ----------
    asset : Asset
        As received: its binds are the file's.
    mesh : Mesh
        One that has a `hold`, or a piece of one.
    worlds : ndarray, shape (nodes, 4, 4), metres
        World frames of the asset's nodes, at rest or at a time of a clip.
    """
    assert mesh.hold is not None
    count = 1 + max((b.place for node in asset.nodes for b in node.binds if b.skin == skin), default=0)
    matrices = np.tile(np.eye(4), (count, 1, 1))
    for i, node in enumerate(asset.nodes):
        for bind in node.binds:
            if bind.skin == skin:
                matrices[bind.place] = worlds[i] @ bind.joint_from_mesh
    return rest_pose(mesh.hold.points, mesh.hold.joints, mesh.hold.weights, matrices)


def joint_matrices(asset: Asset, skin: int) -> dict[int, Array]:
    """Return, by its place in a skin's list of joints, the world from mesh numbers of each joint, shape (4, 4)."""
    return {
        b.place: asset.worlds[i] @ b.joint_from_mesh
        for i, node in enumerate(asset.nodes)
        for b in node.binds
        if b.skin == skin
    }


def bent_skin(before: Asset, after: Asset) -> str | None:
    """Return the name of a skinned part that a step would bend: its joints, or its shape, no longer move as one.

    Parameters
    ----------
    before, after : Asset
        Before and after the step.
    """
    skinned = [i for i, node in enumerate(before.nodes) if node.skin is not None]
    for i in skinned:
        skin = before.nodes[i].skin
        assert skin is not None
        pairs = [(before.world_from_mesh(i), after.world_from_mesh(j)) for j in after.bearers(i)]
        old, new = joint_matrices(before, skin), joint_matrices(after, skin)
        pairs += [(old[k], new[k]) for k in old if not is_singular(old[k][:3, :3])]
        if not _one_motion(pairs):
            return before.nodes[i].name
    return None


def parted_skin(before: Asset, after: Asset) -> str | None:
    """Return the name of a joint that a step would part from its skin: joints that had one root no longer do."""
    skins = {b.skin for node in before.nodes for b in node.binds}
    for skin in skins:
        joints = [i for i, node in enumerate(before.nodes) if any(b.skin == skin for b in node.binds)]
        roots = {_find_root(after, i): after.nodes[i].name for i in joints}
        if len(roots) > 1 and len({_find_root(before, i) for i in joints}) == 1:
            return list(roots.values())[-1]
    return None


def _find_root(asset: Asset, index: int) -> int:
    while (above := asset.nodes[index].parent) is not None:
        index = above
    return index


def _one_motion(pairs: Sequence[tuple[Array, Array]]) -> bool:
    """Tell whether one world motion takes every first matrix to its second."""
    motion = pairs[0][1] @ np.linalg.inv(pairs[0][0])
    for a, b in pairs[1:]:
        reach = float(np.abs(b).max())
        if np.abs(motion @ a - b).max() > SAME_BIND * max(reach, TINY):
            return False
    return True
