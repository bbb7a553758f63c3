"""Several assets that count as one thing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import Asset, Mesh, Node

__all__ = ["JointGroup", "group_of"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class JointGroup:
    """Some assets as one.

    Attributes
    ----------
    asset : Asset
        One that has the nodes of them all: its box is their common box, and its file origin is that of the first.
    origins : ndarray, shape (K, 3), metres, world
        Where the file origin of each has come to.
    """

    asset: Asset
    origins: Array


def group_of(assets: Sequence[Asset]) -> JointGroup:
    """Return assets, of which there is at least one, as one; the first of them comes first in all that has an order."""
    nodes, meshes = list[Node](), list[Mesh]()
    for asset in assets:
        base = len(nodes)
        nodes += [_shifted_node(node, base, len(meshes)) for node in asset.nodes]
        meshes += asset.meshes
    origins = np.array([asset.received[:3, 3] for asset in assets])
    return JointGroup(asset=replace(assets[0], nodes=tuple(nodes), meshes=tuple(meshes), clips=()), origins=origins)


def _shifted_node(node: Node, nodes: int, meshes: int) -> Node:
    """Return a node as it is behind so many nodes and meshes of others; skins, which no box needs, stay behind."""
    return replace(
        node,
        parent=None if node.parent is None else node.parent + nodes,
        mesh=None if node.mesh is None else node.mesh + meshes,
        skin=None,
        binds=(),
        cut_from=None,
    )
