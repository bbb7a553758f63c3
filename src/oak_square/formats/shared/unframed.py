"""Formats that hold vertices alone: no unit, no axes and no frames of parts.

A part stands where its numbers put it, until a step gives it a frame; that frame then goes into the numbers.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from oak_square.core.frames import WORKING, Reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.words import say
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.change import Change, change_of
from oak_square.formats.shared.model_file import Format, at_rest, check_same_tree, file_nodes

__all__ = ["ASSUMED", "lost_pivots", "mesh_changes", "unframed_asset"]

ASSUMED = Reading(metres_per_unit=1.0, up=WORKING.up, front=WORKING.front, source="assumed")
"""What their files are taken to be in until someone says otherwise."""


def unframed_asset(kind: Format, file: str, meshes: Iterable[Mesh], carries: Iterable[str] = ()) -> Asset:
    """Return the asset of a file of `kind`: for each mesh a node of its name, pinned at the file's origin."""
    meshes = tuple(meshes)
    nodes = tuple(
        Node(
            name=mesh.name,
            parent=None,
            placement=Placement.of(),
            mesh=k,
            local_from_mesh=ASSUMED.working_from_file,
            pinned=True,
        )
        for k, mesh in enumerate(meshes)
    )
    return Asset(file=file, format=kind.key, reading=ASSUMED, nodes=nodes, meshes=meshes, carries=tuple(carries))


def mesh_changes(received: Asset, asset: Asset, reading: Reading) -> list[Change]:
    """Return, for each part, what is done to the numbers of its source file.

    Raises
    ------
    Refused
        If parts were taken apart: their format has no place for what they came to.
    """
    check_same_tree(
        received, asset, say("parts of {title} files", title=FORMATS[received.format].title), say("glb or usda")
    )
    return [_make_node_change(node, asset) for node in file_nodes(asset, reading)]


def _make_node_change(node: Node, asset: Asset) -> Change:
    own, frame = change_of(node, asset), node.placement.matrix
    assert node.mesh is not None
    return replace(own, matrix=at_rest(frame @ own.matrix, asset.meshes[node.mesh]))


def lost_pivots(kind: Format, asset: Asset) -> tuple[str, ...]:
    """Return a warning where parts have got frames of their own, which `kind` can't hold."""
    own = sum(not node.pinned for node in asset.nodes)
    return (
        (say("{upper} holds no pivots: {own} part pivots are not written", upper=kind.key.upper(), own=own),)
        if own
        else ()
    )
