"""Proof of a model that has crossed to another format: the same triangles, whatever holds them now."""

from __future__ import annotations

import numpy as np

from oak_square.core.errors import Failed
from oak_square.core.lengths import format_length
from oak_square.core.scene import Asset
from oak_square.core.shapes import corners_of
from oak_square.core.words import say
from oak_square.delivery.proof import allowance

__all__ = ["prove_across"]


def prove_across(wanted: Asset, there: Asset) -> float:
    """Return how far any corner of a triangle is from where it should be, in a file of another format, metres.

    Such a file may hold other vertices and other nodes, but the same triangles in the same order, wound the same way.

    Raises
    ------
    Failed
        If triangles are missing, or one is off by more than rounding explains.
    """
    before, after = _walk(wanted), _walk(there)
    old, new = corners_of(wanted, before), corners_of(there, after)
    if len(old) != len(new):
        raise Failed(say("re-opened, it has {count} triangles for {count_2}", count=len(new), count_2=len(old)))
    apart = np.full(len(old), np.inf)
    for turn in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):  # it may start at any corner
        apart = np.minimum(apart, np.linalg.norm(old - new[:, turn], axis=2).max(axis=1, initial=0.0))
    holders = np.repeat(after, [len(there.mesh_of(j).triangles) for j in after])
    first = 0
    for i in before:
        count = len(wanted.mesh_of(i).triangles)
        off = float(apart[first : first + count].max(initial=0.0))
        own = {int(j) for j in np.unique(holders[first : first + count])}
        if not (off <= max((allowance(wanted, i, there, j) for j in own), default=0.0)):
            name, far = wanted.nodes[i].name, format_length(off)
            raise Failed(
                say(
                    "its proof does not hold: a corner of '{name}' is {far} from where it should be", name=name, far=far
                )
            )
        first += count
    return float(apart.max(initial=0.0))


def _walk(asset: Asset) -> list[int]:
    """Return the parts as a walk meets them."""
    parts = set(asset.parts)
    return [k for k in asset.depth_first if k in parts]
