"""A glTF's meshes as plain ones, for other formats: texture coordinates, vertex colours and looks with them."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import Asset, Mesh
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.document import Document
from oak_square.formats.gltf.reading import material_colour
from oak_square.formats.limits import Limits
from oak_square.formats.model_file import Beside
from oak_square.formats.plain import Image, Look, Plain, plain_mesh, shaded, to_srgb

__all__ = ["plains_of"]

_SUFFIXES = {"image/png": ".png", "image/jpeg": ".jpg", "image/webp": ".webp", "image/ktx2": ".ktx2"}


def plains_of(document: Document, asset: Asset, limits: Limits) -> dict[int, Plain]:
    """Return the meshes that the asset's nodes have, by their position in `asset.meshes`.

    Raises
    ------
    BadFile
        If a texture coordinate or colour does not hold together.
    """
    looks = {k: _look(document, k, asset.name) for k in range(len(document.items("materials")))}
    found: dict[int, Plain] = {}
    for i, node in enumerate(asset.nodes):
        if node.mesh is None or node.mesh in found:
            continue
        source: int = document.items("nodes")[i if node.cut_from is None else node.cut_from]["mesh"]
        mesh = asset.meshes[node.mesh]
        plain = plain_mesh(mesh, looks)
        uvs = _side_by_side(document, source, "TEXCOORD_0", 2, limits)
        colours = _side_by_side(document, source, "COLOR_0", 3, limits)
        if uvs is not None:
            uvs = np.column_stack([uvs[:, 0], 1 - uvs[:, 1]])
        if colours is not None:
            colours = to_srgb(colours)  # linear in the file
        found[node.mesh] = shaded(replace(plain, uvs=_as_drawn(uvs, mesh)), _as_drawn(colours, mesh))
    return found


def _as_drawn(rows: NDArray[Any] | None, mesh: Mesh) -> NDArray[Any] | None:
    """Return what is given for each vertex of the file's own mesh, for each that is drawn."""
    if rows is None:
        return None
    if mesh.spread is not None:
        rows = np.tile(rows, (len(mesh.spread), 1))
    if mesh.cut is not None:
        rows = rows[mesh.cut.points]
    return rows if len(rows) == len(mesh.points) else None


def _side_by_side(document: Document, mesh: int, name: str, width: int, limits: Limits) -> NDArray[Any] | None:
    """Return an attribute of all of a mesh's primitives, zeros where one has none; None where none has it."""
    primitives = [p for p in document.items("meshes")[mesh]["primitives"] if "POSITION" in p["attributes"]]
    if not any(name in p["attributes"] for p in primitives):
        return None
    rows = []
    for primitive in primitives:
        count = len(dense(document, primitive["attributes"]["POSITION"], limits))
        blank = np.ones((count, width)) if width == 3 else np.zeros((count, width))
        if name in primitive["attributes"]:
            values = dense(document, primitive["attributes"][name], limits)
            if len(values) != count or values.shape[1] < width:
                raise document.fail(f"mesh {mesh} has {len(values)} of {name} for {count} vertices")
            blank = values[:, :width].astype(np.float64)
        rows.append(blank)
    return np.concatenate(rows)


def _look(document: Document, index: int, owner: str) -> Look:
    item = document.items("materials")[index]
    surface = item.get("pbrMetallicRoughness")
    surface = surface if isinstance(surface, dict) else {}
    factor: Any = surface.get("baseColorFactor")
    opaque = item.get("alphaMode", "OPAQUE") == "OPAQUE"
    there = isinstance(factor, list) and len(factor) == 4 and isinstance(factor[3], int | float)
    return Look(
        name=str(item.get("name") or f"material_{index}"),
        colour=material_colour(document, index),
        opacity=1.0 if opaque or not there else float(np.clip(factor[3], 0, 1)),
        image=_image(document, surface.get("baseColorTexture"), owner),
    )


def _image(document: Document, reference: Any, owner: str) -> Image | None:
    """Return the image a texture names; one that is inside the file gets a name that no other model's has."""
    textures: Any = document.json.get("textures")
    images: Any = document.json.get("images")
    try:
        source = images[textures[reference["index"]]["source"]]
        uri, view = source.get("uri"), source.get("bufferView")
        name = str(source.get("name") or "texture")
        if isinstance(uri, str) and not uri.startswith("data:"):
            beside = Beside(document.folder, document.file)
            path, own = beside.find(uri, is_uri=True), beside.name(uri, is_uri=True)
            return Image(name=own, path=path) if path is not None and own is not None else None
        if view is None:
            return None
        item = document.items("bufferViews")[view]
        start = item.get("byteOffset", 0)
        data = bytes(document.buffers[item["buffer"]].data[start : start + item["byteLength"]])
        suffix = _SUFFIXES.get(source.get("mimeType", ""), ".png")
        stem = "".join(c if c.isalnum() or c in "-_" else "_" for c in name) or "texture"
        alike = [i for i in images if isinstance(i, dict) and str(i.get("name") or "texture") == name]
        number = f"_{images.index(source)}" if len(alike) > 1 else ""
        return Image(name=f"{owner}_{stem}{number}{suffix}", data=data)
    except (KeyError, IndexError, TypeError, AttributeError):
        return None
