"""Pieces of split parts in an edited glTF document: nodes, and meshes made of rows of the mesh they were cut from."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.geometry import flipped, is_mirror
from oak_square.core.scene import Asset, Cut, Node
from oak_square.formats.gltf.accessors import coded, dense
from oak_square.formats.gltf.compression import DRACO
from oak_square.formats.gltf.editing import UINT, Edit
from oak_square.formats.gltf.mesh_writing import Groups, carried, shaped_rows
from oak_square.formats.gltf.morphs import MORPHED, rewritten_delta
from oak_square.formats.gltf.reading import triangles_of
from oak_square.formats.shared.change import Change, gather
from oak_square.formats.shared.model_file import is_unmoved

__all__ = ["add_piece_nodes", "retarget_weights", "write_pieces"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
_USHORT = 5123
_TRIANGLES = 4


def add_piece_nodes(edit: Edit, nodes: tuple[Node, ...], received: int) -> None:
    """Add the nodes behind the first `received` ones, each a piece; the parts they were cut from become groups."""
    for node in nodes[received:]:
        assert node.cut_from is not None
        edit.changed = True
        source = edit.document.items("nodes")[node.cut_from]
        item: dict[str, Any] = {"name": node.name}
        item.update((k, source[k]) for k in ("skin", "weights") if k in source)
        edit.json["nodes"].append(item)
        for key in ("mesh", "skin", "weights"):
            edit.json["nodes"][node.cut_from].pop(key, None)


def write_pieces(edit: Edit, asset: Asset, nodes: tuple[Node, ...], received: int) -> None:
    """Write a mesh for each piece; pieces that are the same rows under the same matrix share one."""
    users: dict[tuple[int, int], Groups] = {}
    for i, node in enumerate(nodes[received:], received):
        assert node.cut_from is not None
        assert node.mesh is not None
        wanted = np.eye(4) if node.skin is not None else node.local_from_mesh
        source = edit.document.items("nodes")[node.cut_from]["mesh"]
        own = asset.meshes[node.mesh]
        change = Change(matrix=wanted, shaped=own if own.unshaped is not None else None)
        gather(users.setdefault((source, node.mesh), []), change, i)
    in_use = {item["mesh"] for item in edit.json.get("nodes", []) if "mesh" in item}
    for (source, mesh), groups in users.items():
        cut = asset.meshes[mesh].cut
        assert cut is not None
        for rank, (change, members) in enumerate(groups):
            item = _write_mesh(edit, source, cut, change)
            item["name"] = asset.meshes[mesh].name + (f".{rank + 1}" if rank else "")
            if source in in_use:
                edit.json["meshes"].append(item)
                target = len(edit.json["meshes"]) - 1
            else:
                edit.json["meshes"][source] = item
                target = source
                in_use.add(source)
            for i in members:
                edit.json["nodes"][i]["mesh"] = target


def retarget_weights(edit: Edit, nodes: tuple[Node, ...], received: int) -> None:
    """Let channels that morph a part that was split morph each of its pieces."""
    pieces: dict[int, list[int]] = {}
    for i, node in enumerate(nodes[received:], received):
        assert node.cut_from is not None
        pieces.setdefault(node.cut_from, []).append(i)
    animations = []
    for item in edit.json.get("animations", []):
        channels = []
        for channel in item.get("channels", []):
            target = channel["target"]
            own = pieces.get(target.get("node"), []) if target.get("path") == "weights" else []
            channels += [{**channel, "target": {**target, "node": i}} for i in own] or [channel]
        animations.append({**item, "channels": channels})
    if animations:
        edit.json["animations"] = animations


def _write_mesh(edit: Edit, source: int, cut: Cut, change: Change) -> dict[str, Any]:
    """Return the JSON of a mesh of the rows of `cut`, changed."""
    shaped = {} if change.shaped is None else shaped_rows(edit, source, change.shaped)
    item = dict(edit.document.items("meshes")[source])
    item["primitives"] = []
    vertices = faces = 0
    for old in edit.document.items("meshes")[source]["primitives"]:
        if "POSITION" not in old["attributes"]:
            continue
        count = edit.layouts[old["attributes"]["POSITION"]].count
        triangles = triangles_of(edit.document, old, count, source, edit.limits)
        rows = _find_rows_within(cut.points, vertices, count)
        here = slice(*np.searchsorted(cut.points, [vertices, vertices + count]).tolist())
        own_shaped = {name: values[here] for name, values in shaped.items()}
        own = _find_rows_within(cut.triangles, faces, len(triangles))
        vertices, faces = vertices + count, faces + len(triangles)
        if len(rows):
            item["primitives"].append(_make_primitive(edit, old, rows, triangles[own], change.matrix, own_shaped))
    return item


def _find_rows_within(rows: Rows, first: int, count: int) -> Rows:
    low, high = np.searchsorted(rows, [first, first + count])
    found: Rows = rows[low:high] - first
    return found


def _make_primitive(
    edit: Edit,
    old: dict[str, Any],
    rows: Rows,
    triangles: NDArray[Any],
    matrix: Array,
    shaped: dict[str, NDArray[Any]],
) -> dict[str, Any]:
    new = dict(old)
    if DRACO in old.get("extensions", {}):
        new["extensions"] = {k: v for k, v in old["extensions"].items() if k != DRACO}
    new["attributes"] = {
        name: _write_rows(edit, a, name, rows, matrix, now=shaped.get(name)) for name, a in old["attributes"].items()
    }
    if "targets" in old:
        new["targets"] = [
            {name: _write_rows(edit, a, name, rows, matrix, old["attributes"]) for name, a in target.items()}
            for target in old["targets"]
        ]
    if old.get("mode", _TRIANGLES) < _TRIANGLES:
        return new  # points and lines are whole in one piece, their indices too
    place = np.zeros(int(rows[-1]) + 1, dtype=np.uint32)
    place[rows] = np.arange(len(rows))
    indices = place[flipped(triangles) if is_mirror(matrix) else triangles].reshape(-1, 1)
    short = len(rows) < 65_535  # the highest index is kept for restarts (specification, 3.7.2.1)
    kind = _USHORT if short else UINT
    like = {"componentType": kind, "count": len(indices), "type": "SCALAR"}
    new["indices"] = edit.append(np.ascontiguousarray(indices, dtype="<u2" if short else "<u4"), like)
    if "mode" in old:
        new["mode"] = _TRIANGLES
    return new


def _write_rows(
    edit: Edit,
    accessor: int,
    kind: str,
    rows: Rows,
    matrix: Array,
    bases: dict[str, int] | None = None,
    *,
    now: NDArray[Any] | None = None,
) -> int:
    """Return a new accessor of rows of another, carried.

    `bases` are what the rows of a morph target add to, `now` what the rows have become where their mesh is shaped.
    """
    document, limits = edit.document, edit.limits
    like = document.items("accessors")[accessor]
    values: NDArray[Any]
    if now is None and (kind not in MORPHED or is_unmoved(matrix)):
        values = coded(document, accessor, limits)[rows]
        entry = edit.append_coded(values, like)
    else:
        old = dense(document, accessor, limits)[rows] if now is None else now
        if bases is None:
            values = np.empty((len(rows), 4 if kind == "TANGENT" else 3), dtype="<f4")
            carried(old, kind, matrix, values)
        else:
            base = dense(document, bases[kind], limits)[rows] if kind in bases and kind != "POSITION" else None
            values = rewritten_delta(kind, old, base, matrix)
        entry = edit.append(values, {**like, "count": len(rows)})
    if kind == "POSITION":
        edit.bound(entry, values, always=True)
    return entry
