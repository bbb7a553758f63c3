"""A glTF's meshes as plain ones, for other formats: texture coordinates, vertex colours and looks with them."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import Asset, Mesh
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.gltf.materials import look_of
from oak_square.formats.limits import Limits
from oak_square.formats.shared.plain import Plain, plain_mesh, shaded, to_srgb

__all__ = ["plains_of"]


def plains_of(document: GltfDocument, asset: Asset, limits: Limits) -> dict[int, Plain]:
    """Return the meshes that the asset's nodes have, by their position in `asset.meshes`.

    Raises
    ------
    BadFile
        If a texture coordinate or colour does not hold together.
    """
    looks = {k: look_of(document, k, asset.name) for k in range(len(document.items("materials")))}
    found: dict[int, Plain] = {}
    for i, node in enumerate(asset.nodes):
        if node.mesh is None or node.mesh in found:
            continue
        source: int = document.items("nodes")[i if node.cut_from is None else node.cut_from]["mesh"]
        mesh = asset.meshes[node.mesh]
        plain = plain_mesh(mesh, looks)
        uvs, more = (_as_drawn(_read_coordinates(document, source, f"TEXCOORD_{k}", limits), mesh) for k in (0, 1))
        colours = _side_by_side(document, source, "COLOR_0", 3, limits)
        if colours is not None:
            colours = to_srgb(colours)  # linear in the file
        found[node.mesh] = shaded(replace(plain, uvs=uvs, more_uvs=more), _as_drawn(colours, mesh))
    return found


def _read_coordinates(document: GltfDocument, mesh: int, name: str, limits: Limits) -> NDArray[Any] | None:
    """Return texture coordinates that count up from the image's lower edge."""
    found = _side_by_side(document, mesh, name, 2, limits)
    return None if found is None else np.column_stack([found[:, 0], 1 - found[:, 1]])


def _as_drawn(rows: NDArray[Any] | None, mesh: Mesh) -> NDArray[Any] | None:
    """Return what is given for each vertex of the file's own mesh, for each that is drawn."""
    if rows is None:
        return None
    if mesh.spread is not None:
        rows = np.tile(rows, (len(mesh.spread), 1))
    if mesh.cut is not None:
        rows = rows[mesh.cut.points]
    return rows if len(rows) == len(mesh.points) else None


def _side_by_side(document: GltfDocument, mesh: int, name: str, width: int, limits: Limits) -> NDArray[Any] | None:
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
                raise document.fail(
                    say(
                        "mesh {mesh} has {count} of {name} for {count_2} vertices",
                        mesh=mesh,
                        count=len(values),
                        name=name,
                        count_2=count,
                    )
                )
            blank = values[:, :width].astype(np.float64)
        rows.append(blank)
    return np.concatenate(rows)
