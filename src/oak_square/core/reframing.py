"""New local frames under new world frames, worked out for all nodes of an asset at once."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import readonly
from oak_square.core.placement import Placement, inverse, is_singular, rotations_of, settled
from oak_square.core.tolerances import EXACT_CHANNEL, SAME_MATRIX, SINGULAR, TINY
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset, Node

__all__ = ["Reframed", "inverse_of"]

Array = NDArray[np.float64]


def inverse_of(world: Array, node: Node) -> Array:
    """Return the inverse of a node's world frame; of one that flattens space and carries nothing, the identity."""
    if node.mesh is None and not node.binds and is_singular(world[:3, :3]):
        return np.eye(4)
    return inverse(world, what=say("node '{name}'", name=node.name))


class Reframed:
    """New local frames under new world frames, worked out for all nodes at once."""

    def __init__(self, asset: Asset, worlds: Array, parents: NDArray[np.int64]) -> None:
        self._asset, self._worlds = asset, worlds
        linear = worlds[:, :3, :3]
        values = np.linalg.svd(linear, compute_uv=False)
        self._flat = values[:, 2] <= SINGULAR * np.maximum(values[:, 0], TINY)
        inverses = np.tile(np.eye(4), (len(worlds), 1, 1))
        sound = ~self._flat
        inverses[sound, :3, :3] = np.linalg.inv(linear[sound])
        inverses[sound, :3, 3] = -np.einsum("nij,nj->ni", inverses[sound, :3, :3], worlds[sound, :3, 3])
        above = np.where((parents >= 0)[:, None, None], inverses[parents], np.eye(4))
        self._locals = np.where((parents >= 0)[:, None, None], above @ worlds, worlds)
        self._moved = readonly(self._locals[:, :3, 3].copy())
        self._backs = inverses @ asset.worlds
        # The difference first: a pivot that stays but for rounding leaves its geometry no shift.
        stood = asset.worlds[:, :3, 3]
        away = stood - worlds[:, :3, 3]
        away[np.abs(away).max(axis=1) <= SAME_MATRIX * np.abs(stood).max(axis=1)] = 0.0
        self._backs[:, :3, 3] = np.einsum("nij,nj->ni", inverses[:, :3, :3], away)
        self._from_mesh = readonly(self._backs @ np.array([n.local_from_mesh for n in asset.nodes]))
        self._received = readonly(self._backs @ np.array([n.received for n in asset.nodes]))
        self._parents = parents
        self._kept = self._find_kept(asset)

    def _find_kept(self, asset: Asset) -> NDArray[np.bool_]:
        """Tell of which nodes rotation and scale stay to the bit: only where they stand is another place."""
        q = np.array([n.placement.rotation for n in asset.nodes])
        scale = np.array([n.placement.scale for n in asset.nodes])
        shear = np.array([n.placement.shear for n in asset.nodes])
        off = np.abs(rotations_of(q) * scale[:, None, :] - self._locals[:, :3, :3]).max(axis=(1, 2))
        size = np.maximum(np.abs(self._locals[:, :3, :3]).max(axis=(1, 2)), TINY)
        # What would be settled, as `settled` does, is left to it.
        rough = ((q != 0) & (np.abs(q) <= EXACT_CHANNEL)).any(axis=1) | (np.linalg.norm(q, axis=1) != 1)
        near = np.abs(np.abs(scale) - 1) <= EXACT_CHANNEL
        rough |= (near & (np.abs(scale) != 1)).any(axis=1)
        spread = np.ptp(scale, axis=1)
        rough |= (spread > 0) & (spread <= EXACT_CHANNEL * np.abs(scale[:, 0]))
        kept: NDArray[np.bool_] = (off <= SAME_MATRIX * size) & ~rough & ~shear.any(axis=1)
        return kept

    def placement(self, i: int, hint: Placement | None) -> Placement:
        """Return where a node stands in its parent, by its hint's or its own numbers where they still hold."""
        node, parent = self._asset.nodes[i], int(self._parents[i])
        if parent >= 0 and self._flat[parent]:
            inverse(
                self._worlds[parent], what=say("node '{name}'", name=self._asset.nodes[parent].name)
            )  # says why not
        if hint is None and self._kept[i]:
            return replace(node.placement, translation=self._moved[i])
        like = node.placement if hint is None else hint
        return settled(Placement.from_matrix(self._locals[i], like=like, what=say("node '{name}'", name=node.name)))

    def back(self, i: int) -> tuple[Array, Array, Array]:
        """Return what geometry of a node is rewritten by, and that on its way from the mesh and on where it was.

        The first is its present frame as the new one sees it.
        """
        node = self._asset.nodes[i]
        if not self._flat[i]:
            return self._backs[i], self._from_mesh[i], self._received[i]
        kept: Array = inverse_of(self._worlds[i], node) @ self._asset.worlds[i]
        return kept, readonly(kept @ node.local_from_mesh), readonly(kept @ node.received)
