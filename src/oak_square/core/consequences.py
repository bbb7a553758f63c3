"""What a bake brings about besides what is asked of it, part by part: told from the asset before and after."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.placement import turn_degrees_of
from oak_square.core.scene import Asset
from oak_square.core.tolerances import ROTATION_BAKED_DEG, SAME_PLACE, SHEARED, TINY

__all__ = ["KINDS_OF_CONSEQUENCE", "Consequence", "consequences_of"]

Array = NDArray[np.float64]
Kind = Literal["axes", "pivot", "mirror", "shear"]

KINDS_OF_CONSEQUENCE: dict[Kind, str] = {
    "axes": "own axes now follow the parent's",
    "pivot": "pivots sent to their parent's origin",
    "mirror": "mirrored faces are wound the other way round",
    "shear": "a slant goes into the geometry",
}
"""Each kind in words, in the order they are told in."""


@dataclass(frozen=True, slots=True)
class Consequence:
    """What happens to one node.

    `amount` are degrees that its own axes stood from the world's, metres that its pivot goes, or degrees that its
    geometry is slanted by; of a mirror 0.
    """

    node: int
    kind: Kind
    amount: float


def consequences_of(before: Asset, after: Asset) -> tuple[Consequence, ...]:
    """Return what happens to the nodes of an asset between two states of it, by node and kind.

    Nodes that only one of them has are left out.
    """
    count = min(len(before.nodes), len(after.nodes))
    old, new = before.worlds[:count], after.worlds[:count]
    size = max(float(np.abs(old[:, :3, 3]).max(initial=0.0)), TINY)
    moved = np.linalg.norm(new[:, :3, 3] - old[:, :3, 3], axis=1)
    turned = old[:, :3, :3], new[:, :3, :3]
    signs = [np.sign(np.linalg.det(linear)) for linear in turned]
    found = list[Consequence]()
    for i in range(count):
        linear = [t[i] for t in turned]
        own = _axes(linear[0])
        if _turned_deg(own, _axes(linear[1])) > ROTATION_BAKED_DEG:
            found.append(Consequence(i, "axes", turn_degrees_of(own)))
        if moved[i] > SAME_PLACE * size:
            found.append(Consequence(i, "pivot", float(moved[i])))
        if before.nodes[i].mesh is None:
            continue
        if signs[0][i] * signs[1][i] < 0:
            found.append(Consequence(i, "mirror", 0.0))
        slant = _slant(linear[0], linear[1])
        if slant > SHEARED:
            found.append(Consequence(i, "shear", float(np.degrees(np.arcsin(min(slant, 1.0))))))
    return tuple(found)


def _axes(linear: Array) -> Array:
    """Return the unit axes of a linear part, as columns, mirrors taken out: a rotation where they are square."""
    lengths = np.linalg.norm(linear, axis=0)
    axes: Array = linear / np.where(lengths > 0, lengths, 1.0)
    return -axes if np.linalg.det(axes) < 0 else axes


def _turned_deg(a: Array, b: Array) -> float:
    """Return the largest angle, degrees, between an axis and the same one afterwards; one turned about is the same."""
    cosines = np.abs((a * b).sum(axis=0))
    sines = np.linalg.norm(np.cross(a.T, b.T), axis=1)
    return float(np.degrees(np.arctan2(sines, cosines)).max())


def _slant(old: Array, new: Array) -> float:
    """Return the largest cosine between directions that are square in the old frame, once rewritten for the new one."""
    if abs(np.linalg.det(new)) <= TINY:
        return 0.0
    change = np.linalg.solve(new, old)
    lengths = np.linalg.norm(change, axis=0)
    axes = change / np.where(lengths > 0, lengths, 1.0)
    return float(np.abs(axes.T @ axes - np.eye(3)).max())
