"""What a glTF gives its meshes beside positions."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.scene import Asset
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.compression import is_packed, is_sealed
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.limits import Limits

__all__ = ["attached_of", "side_by_side"]

_SAID = {"NORMAL": "normals", "TANGENT": "tangents", "TEXCOORD": "texture coordinates", "COLOR": "vertex colours"}


def attached_of(document: GltfDocument, asset: Asset, limits: Limits) -> dict[int, tuple[Attached, ...]]:
    """Return, for each node of the file with geometry, the rows of every vertex attribute but positions."""
    known: dict[int, tuple[Attached, ...]] = {}
    found: dict[int, tuple[Attached, ...]] = {}
    for i, item in enumerate(document.items("nodes")):
        if asset.nodes[i].mesh is not None:
            mesh = item["mesh"]
            if mesh not in known:
                known[mesh] = _of_mesh(document, mesh, limits)
            found[i] = known[mesh]
    return found


def _of_mesh(document: GltfDocument, mesh: int, limits: Limits) -> tuple[Attached, ...]:
    primitives = [p for p in document.items("meshes")[mesh]["primitives"] if "POSITION" in p["attributes"]]
    if any(is_sealed(document, p) for p in primitives):
        return ()
    names = dict.fromkeys(n for p in primitives for n, a in p["attributes"].items() if not is_packed(document, a))
    found = []
    for name in names:
        if name == "POSITION":
            continue
        rows = side_by_side(document, primitives, name, limits)
        word, _, number = name.partition("_")
        what = f"{_SAID[word]} {number}".rstrip(" 0") if word in _SAID else name
        if name == "NORMAL":
            found.append(Attached(what=what, kind="normal", values=rows))
        elif name == "TANGENT" and rows.shape[1] == 4:
            found.append(Attached(what=what, kind="vector", values=rows[:, :3], hands=rows[:, 3]))
        else:
            found.append(Attached(what=what, kind="kept", values=rows))
    return tuple(found)


def side_by_side(document: GltfDocument, primitives: list[dict[str, Any]], name: str, limits: Limits) -> NDArray[Any]:
    """Return an attribute of all primitives in a row; not a number where one lacks it."""
    own = [dense(document, p["attributes"][name], limits) if name in p["attributes"] else None for p in primitives]
    if len(own) == 1 and own[0] is not None:
        return own[0]
    width = max(rows.shape[1] for rows in own if rows is not None)
    counts = [len(dense(document, p["attributes"]["POSITION"], limits)) for p in primitives]
    found = np.full((sum(counts), width), np.nan)
    first = 0
    for rows, count in zip(own, counts, strict=True):
        if rows is not None:
            found[first : first + count, : rows.shape[1]] = rows[:count]
        first += count
    return found
