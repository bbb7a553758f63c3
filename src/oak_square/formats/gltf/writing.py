"""From a prepared asset back to its glTF document: a copy of JSON and buffers, edited where steps touched them."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from urllib.parse import unquote

from oak_square.core.baking import squared
from oak_square.core.errors import Refused
from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement, lean
from oak_square.core.scene import Asset, Node
from oak_square.core.tolerances import SHEARED
from oak_square.core.words import say
from oak_square.formats.gltf.compression import forget_draco
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.gltf.editing import Edit, numbers
from oak_square.formats.gltf.mesh_writing import write_meshes
from oak_square.formats.gltf.motion_writing import keep_skeletons, write_clips, write_skins
from oak_square.formats.gltf.packing import packed
from oak_square.formats.gltf.piece_writing import add_piece_nodes, retarget_weights, write_pieces
from oak_square.formats.gltf.sweeping import sweep
from oak_square.formats.limits import Limits
from oak_square.formats.shared.model_file import Companion, Written, file_nodes, placements_reach, same_placement

__all__ = ["written"]

_DEFAULTS: dict[str, list[float]] = {
    "translation": [0.0, 0.0, 0.0],
    "rotation": [0.0, 0.0, 0.0, 1.0],
    "scale": [1.0, 1.0, 1.0],
}


def written(document: GltfDocument, received: Asset, asset: Asset, limits: Limits, *, binary: bool) -> Written:
    """Return the file for `asset`, prepared from `received`, which `document` holds; `binary` as a GLB, else as text.

    Raises
    ------
    Refused
        If a node's transform has become one that glTF can't hold.
    """
    # A matrix stays the matrix it was, leaning a little or not; channels can't lean.
    items = document.items("nodes")
    channels = [i for i in range(len(asset.nodes)) if i >= len(items) or "matrix" not in items[i]]
    before, (asset, notes) = asset, squared(asset, channels)
    nodes = file_nodes(asset, WORKING)
    edit = Edit(document, limits)
    edit.warnings += notes
    count = len(received.nodes)
    reach = placements_reach(received.nodes, received.meshes)
    add_piece_nodes(edit, nodes, count)
    for i, (old, new) in enumerate(zip(received.nodes, nodes, strict=False)):
        if not same_placement(old.placement, new.placement, reach):
            _write_placement(edit, i, new)
        if old.parent != new.parent:
            _hang_node(edit, i, received, new.parent)
    if any(a.parent != b.parent for a, b in zip(received.nodes, nodes, strict=False)):
        keep_skeletons(edit, nodes)
    for i, new in enumerate(nodes[count:], count):
        _write_placement(edit, i, new)
        _hang_piece(edit, i, new, received)
    write_meshes(edit, nodes, asset.meshes)
    write_pieces(edit, asset, nodes, count)
    if edit.changed:
        forget_draco(edit)
    write_skins(edit, received.nodes, nodes)
    if received.clips:
        write_clips(edit, received, replace(asset, nodes=nodes))
    retarget_weights(edit, nodes, count)
    companions = tuple(Companion(path=t, source=document.folder / t) for t in document.textures)
    if not edit.changed and binary == document.wrapping.binary:
        own = tuple(
            Companion(path=unquote(b.companion), source=document.folder / unquote(b.companion))
            for b in document.buffers
            if b.companion
        )
        return Written(chunks=None, companions=(*own, *companions))
    sweep(edit)
    pieces, own = packed(document, edit.json, edit.copies, edit.appended, edit.home, binary=binary)
    return Written(
        chunks=pieces,
        companions=(*own, *companions),
        warnings=tuple(edit.warnings),
        asset=asset if asset is not before else None,
    )


def _write_placement(edit: Edit, index: int, node: Node) -> None:
    """Write a node's new placement in the form it had: a matrix stays a matrix, channels stay channels."""
    placement, item = node.placement, edit.json["nodes"][index]
    if lean(placement) > SHEARED:
        raise Refused(say("node '{name}' would be sheared, which a glTF node can't hold", name=node.name))
    edit.changed = True
    if "matrix" in item:
        item["matrix"] = numbers(placement.matrix.T.ravel())
        return
    for name, values in _find_channels(placement).items():
        if values != _DEFAULTS[name]:
            item[name] = values
        elif name in item:
            item[name] = list(_DEFAULTS[name])


def _hang_node(edit: Edit, index: int, received: Asset, parent: int | None) -> None:
    """Hang a node from another one, or from its scenes where it had an ancestor."""
    edit.changed = True
    root = _find_ancestor(received, index)
    former = received.nodes[index].parent
    if former is not None:
        _edit_list(edit.json["nodes"][former], "children", without=index)
    if parent is not None:
        _edit_list(edit.json["nodes"][parent], "children", also=index)
    edit.json["scenes"] = [dict(s) for s in edit.json.get("scenes", [])]
    for scene in edit.json["scenes"]:
        if root in scene.get("nodes", []):
            if parent is not None:
                _edit_list(scene, "nodes", without=index)
            elif former is not None:
                _edit_list(scene, "nodes", also=index)
    if not edit.json["scenes"]:
        del edit.json["scenes"]


def _hang_piece(edit: Edit, index: int, node: Node, received: Asset) -> None:
    """Hang a node that is new from its parent, or from the scenes of what it was cut from."""
    if node.parent is not None:
        _edit_list(edit.json["nodes"][node.parent], "children", also=index)
        return
    assert node.cut_from is not None
    root, before = _find_ancestor(received, node.cut_from), edit.document.items("scenes")
    if before:
        edit.json["scenes"] = [dict(s) for s in edit.json["scenes"]]
    for k, scene in enumerate(before):
        if root in scene.get("nodes", []):
            _edit_list(edit.json["scenes"][k], "nodes", also=index)


def _find_ancestor(received: Asset, index: int) -> int:
    while (above := received.nodes[index].parent) is not None:
        index = above
    return index


def _edit_list(item: dict[str, Any], key: str, *, without: int | None = None, also: int | None = None) -> None:
    """Change a list of node numbers; an empty one goes, as the specification wants it (5.25)."""
    found = [n for n in item.get(key, []) if n != without] + ([also] if also is not None else [])
    if found:
        item[key] = found
    else:
        item.pop(key, None)


def _find_channels(placement: Placement) -> dict[str, list[float]]:
    return {
        "translation": numbers(placement.translation),
        "rotation": numbers(placement.rotation),
        "scale": numbers(placement.scale),
    }
