"""`EXT_mesh_gpu_instancing` (Khronos vendor extension): read spread out, written back channel by channel."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.instances import channels_of, matrices_of, spread_out
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_FACTOR
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.compression import is_packed
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.gltf.editing import FLOAT, Edit
from oak_square.formats.limits import Limits

__all__ = ["INSTANCING", "instance_attributes", "with_instances", "write_instances"]

Array = NDArray[np.float64]
INSTANCING = "EXT_mesh_gpu_instancing"
_WIDTHS = {"TRANSLATION": 3, "ROTATION": 4, "SCALE": 3}
_REST = {"TRANSLATION": (0.0, 0.0, 0.0), "ROTATION": (0.0, 0.0, 0.0, 1.0), "SCALE": (1.0, 1.0, 1.0)}


def instance_attributes(item: dict[str, Any]) -> dict[str, Any] | None:
    """Return the attributes of a node's instances; None where it has none."""
    extensions = item.get("extensions")
    extension = extensions.get(INSTANCING) if isinstance(extensions, dict) else None
    attributes = extension.get("attributes") if isinstance(extension, dict) else None
    return attributes if isinstance(attributes, dict) and attributes else None


def with_instances(document: GltfDocument, asset: Asset, limits: Limits) -> Asset:
    """Return the asset with the meshes of instanced nodes spread out over their instances.

    Raises
    ------
    BadFile
        If the instances do not hold together, or come to too many vertices.
    """
    nodes, meshes = list(asset.nodes), list(asset.meshes)
    total = 0
    for i, item in enumerate(document.items("nodes")):
        attributes, index = instance_attributes(item), nodes[i].mesh
        if attributes is None or index is None or any(is_packed(document, a) for a in attributes.values()):
            continue
        channels = _read_channels(document, attributes, i, limits)
        total += len(channels["TRANSLATION"]) * len(meshes[index].points)
        if total > limits.drawn_vertices:
            raise document.fail(
                say(
                    "draws {total} vertices by instancing, over the limit of {drawn_vertices}",
                    total=total,
                    drawn_vertices=limits.drawn_vertices,
                )
            )
        spread = matrices_of(channels["TRANSLATION"], channels["ROTATION"], channels["SCALE"])
        drawn_from = index if meshes[index].drawn_from is None else meshes[index].drawn_from
        meshes.append(replace(spread_out(meshes[index], spread), drawn_from=drawn_from))
        nodes[i] = replace(nodes[i], mesh=len(meshes) - 1)
    return replace(asset, nodes=tuple(nodes), meshes=tuple(meshes))


def _read_channels(document: GltfDocument, attributes: dict[str, Any], node: int, limits: Limits) -> dict[str, Array]:
    """Return translations, unit quaternions and scales of a node's instances."""
    found: dict[str, Array] = {}
    for name, width in _WIDTHS.items():
        if name in attributes:
            values = dense(document, attributes[name], limits)
            if values.shape[1] != width or not np.isfinite(values).all():
                raise document.fail(
                    say(
                        "node {node} has instances whose {name} is not {width} finite numbers each",
                        node=node,
                        name=name,
                        width=width,
                    )
                )
            found[name] = values.astype(np.float64)
    counts = {len(v) for v in found.values()} or {len(dense(document, a, limits)) for a in attributes.values()}
    if len(counts) != 1:
        raise document.fail(say("node {node} has instances with different numbers of channels", node=node))
    for name in set(_WIDTHS) - set(found):
        found[name] = np.tile(_REST[name], (counts.copy().pop(), 1))
    lengths = np.linalg.norm(found["ROTATION"], axis=1, keepdims=True)
    if (lengths == 0).any():
        raise document.fail(say("node {node} has an instance with a rotation of zeros", node=node))
    found["ROTATION"] = found["ROTATION"] / lengths
    return found


def write_instances(edit: Edit, node: int, spread: Array) -> None:
    """Give a node's instances the matrices `spread`, shape (K, 4, 4); channels that stay are left alone."""
    item = edit.json["nodes"][node]
    attributes = instance_attributes(edit.document.items("nodes")[node])
    assert attributes is not None
    before = _read_channels(edit.document, attributes, node, edit.limits)
    channels = dict(zip(_WIDTHS, channels_of(spread, before["SCALE"]), strict=True))
    new = dict(attributes)
    for name, values in channels.items():
        old = before[name]
        same = np.abs(values - old).max(initial=0.0) <= SAME_FACTOR * max(1.0, float(np.abs(old).max(initial=0.0)))
        if name == "ROTATION":
            same = bool((np.abs((values * old).sum(axis=1)) > 1 - SAME_FACTOR).all())
        if same:
            continue
        like = {"componentType": FLOAT, "count": len(values), "type": f"VEC{_WIDTHS[name]}"}
        new[name] = edit.append(np.ascontiguousarray(values, dtype="<f4"), like)
        edit.changed = True
    extension = {**item["extensions"][INSTANCING], "attributes": new}
    item["extensions"] = {**item["extensions"], INSTANCING: extension}
