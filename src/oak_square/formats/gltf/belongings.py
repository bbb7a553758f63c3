"""What of a glTF no step changes: all that its JSON says beside frames, hierarchy, and where numbers lie."""

from __future__ import annotations

import hashlib
from typing import Any

from oak_square.core.scene import Asset
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.compression import is_packed
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.gltf.instances import INSTANCING, instance_attributes
from oak_square.formats.limits import Limits

__all__ = ["belongings_of", "belongings_of_parts"]

_LAID_OUT = {"accessors", "bufferViews", "buffers"}
_ONE_BY_ONE = {"nodes": "node", "skins": "skin", "animations": "clip", "scenes": "scene"}
# What is held against the steps instead: frames, hierarchy, geometry, motion.
_BY_STEPS = {
    "nodes": {"translation", "rotation", "scale", "matrix", "children", "mesh", "weights"},
    "skins": {"inverseBindMatrices", "skeleton"},
    "animations": {"channels", "samplers"},
    "scenes": {"nodes"},
}
_PACKING = {"KHR_draco_mesh_compression", "EXT_meshopt_compression", "KHR_meshopt_compression", "KHR_mesh_quantization"}
_PLACES = {"TRANSLATION", "ROTATION", "SCALE"}
_TRIANGLES = 4


def belongings_of(document: GltfDocument, limits: Limits) -> dict[str, Any]:
    """Return materials, cameras, extras and all else that stands beside frames and meshes, by what it is called.

    Images stand by their bytes' hash; what has a place in a list, by that place.
    """
    apart = {*_LAID_OUT, *_ONE_BY_ONE, "meshes", "images", "extensionsUsed", "extensionsRequired", "materials"}
    found: dict[str, Any] = {
        "materials": document.json.get("materials"),
        "further entries": {k: v for k, v in document.json.items() if k not in apart},
        "images": [_describe_image(document, item) for item in document.items("images")],
        "extensions": sorted(set(document.json.get("extensionsUsed", ())) - _PACKING),
    }
    for key, word in _ONE_BY_ONE.items():
        for k, item in enumerate(document.items(key)):
            found[f"further entries of {word} {k}"] = _list_rest(document, item, _BY_STEPS[key], limits)
    return found


def belongings_of_parts(document: GltfDocument, asset: Asset) -> dict[int, Any]:
    """Return what each node's mesh has beside its numbers: default weights, extras, and its primitives' entries."""
    found = {}
    for i, item in enumerate(document.items("nodes")):
        if asset.nodes[i].mesh is None:
            continue
        mesh = document.items("meshes")[item["mesh"]]
        own = {k: v for k, v in mesh.items() if k not in {"name", "primitives", "weights"}}
        weights = item.get("weights"), mesh.get("weights")
        found[i] = (own, weights, [_describe_primitive(p) for p in mesh["primitives"]])
    return found


def _describe_primitive(item: dict[str, Any]) -> dict[str, Any]:
    found = {k: v for k, v in item.items() if k not in {"indices", "attributes", "targets", "extensions"}}
    # A strip that is turned round is written as triangles.
    found["mode"] = min(item.get("mode", _TRIANGLES), _TRIANGLES)
    found["extensions"] = {k: v for k, v in item.get("extensions", {}).items() if k not in _PACKING}
    found["attributes"] = sorted(item["attributes"])
    found["targets"] = [sorted(t) for t in item.get("targets", [])]
    return found


def _list_rest(document: GltfDocument, item: dict[str, Any], without: set[str], limits: Limits) -> dict[str, Any]:
    found = {k: v for k, v in item.items() if k not in without}
    attributes = instance_attributes(item)
    if attributes is not None:
        # Their places are drawn, and proved so; what else they have is told by its numbers.
        own = {
            name: _digest_accessor(document, index, limits)
            for name, index in attributes.items()
            if name not in _PLACES and not is_packed(document, index)
        }
        extension = {**item["extensions"][INSTANCING], "attributes": own}
        found["extensions"] = {**item["extensions"], INSTANCING: extension}
    return found


def _digest_accessor(document: GltfDocument, index: Any, limits: Limits) -> str:
    return hashlib.sha256(dense(document, index, limits).tobytes()).hexdigest()


def _describe_image(document: GltfDocument, item: dict[str, Any]) -> tuple[Any, ...]:
    rest = sorted((k, repr(v)) for k, v in item.items() if k not in {"bufferView", "uri"})
    view = item.get("bufferView")
    if isinstance(view, int) and 0 <= view < len(document.items("bufferViews")):
        place = document.items("bufferViews")[view]
        start, buffer = place.get("byteOffset", 0), document.buffers[place["buffer"]]
        data = buffer.data[start : start + place["byteLength"]]
        return (hashlib.sha256(data.tobytes()).hexdigest(), rest)
    return (item.get("uri"), rest)
