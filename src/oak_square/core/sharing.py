"""Shared geometry: which of it a change makes come apart, since its users need different numbers from then on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.instances import carried_spread
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_MATRIX, TINY

__all__ = ["Parting", "partings"]

_FLOATS = 4  # bytes of a float32, which positions and normals are written as


@dataclass(frozen=True, slots=True, kw_only=True)
class Parting:
    """One mesh that comes apart.

    Attributes
    ----------
    name : str
        The mesh's.
    users : int
        The nodes that draw it.
    copies : int
        As how many meshes they will be written.
    nodes : tuple of int
        Which ones.
    more_bytes : int
        About how much larger the file becomes: positions and normals of the further copies.
    """

    name: str
    users: int
    nodes: tuple[int, ...]
    copies: int
    more_bytes: int


def partings(before: Asset, after: Asset) -> tuple[Parting, ...]:
    """Return the meshes that several nodes share in `before`, and that `after` needs in more copies than `before`.

    A mesh is written once for all nodes whose `local_from_mesh` is the same, and that are given the same shape.
    """
    users: dict[int, list[int]] = {}
    for i, node in enumerate(before.nodes[: len(after.nodes)]):
        if node.mesh is not None and after.nodes[i].mesh is not None:
            drawn_from = before.meshes[node.mesh].drawn_from
            users.setdefault(node.mesh if drawn_from is None else drawn_from, []).append(i)
    found = []
    for mesh, nodes in users.items():
        if len(nodes) < 2:
            continue
        try:
            copies, there = _count_copies(after, nodes), _count_copies(before, nodes)
        except Refused:
            continue  # then the step is refused, and nothing comes apart
        if copies > there:
            own = before.meshes[mesh]
            floats = own.points.size + (own.normals.size if own.normals is not None else 0)
            grown = (copies - there) * floats * _FLOATS
            found.append(Parting(name=own.name, users=len(nodes), nodes=tuple(nodes), copies=copies, more_bytes=grown))
    return tuple(found)


def _count_copies(asset: Asset, nodes: Sequence[int]) -> int:
    """Return as how many meshes those that several nodes draw have to be written."""
    by_shape: dict[int | None, list[NDArray[np.float64]]] = {}
    for i in nodes:
        node, mesh = asset.nodes[i], asset.mesh_of(i)
        own, shaped = node.local_from_mesh, node.mesh if mesh.drawn_from is None else mesh.drawn_from
        if node.skin is not None:
            own = np.eye(4)  # its joints carry it: its numbers stay
        elif mesh.spread is not None:
            own = carried_spread(mesh.spread, own, node.name)[1]
        by_shape.setdefault(shaped, []).append(own)
    return sum(_count_distinct(own) for own in by_shape.values())


def _count_distinct(matrices: Sequence[NDArray[np.float64]]) -> int:
    flat = np.array(matrices).reshape(len(matrices), -1)
    reach = max(float(np.abs(flat).max(initial=0.0)), TINY)
    # Coarser than equality of two products, finer than any change that is meant.
    return len(np.unique(np.round(flat / (reach * SAME_MATRIX * 100)), axis=0))
