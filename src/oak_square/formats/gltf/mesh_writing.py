"""The geometry of an edited glTF document: each mesh rewritten once for all users that need the same."""

from __future__ import annotations

import copy
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.geometry import as_float32, ends, is_mirror, normal_matrix, write_directions, write_points
from oak_square.core.instances import carried_spread
from oak_square.core.reshaping import normals_at_points, squared_to
from oak_square.core.scene import Mesh, Node
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense, strided
from oak_square.formats.gltf.attached import side_by_side
from oak_square.formats.gltf.compression import unpacked
from oak_square.formats.gltf.editing import UINT, Edit, numbers
from oak_square.formats.gltf.instances import write_instances
from oak_square.formats.gltf.morphs import MORPHED, rewritten_delta
from oak_square.formats.gltf.reading import triangles_of
from oak_square.formats.shared.change import Change, gather, put_first
from oak_square.formats.shared.model_file import is_unmoved

__all__ = ["Groups", "carried", "shaped_rows", "write_meshes"]

Array = NDArray[np.float64]
_CARRIED = ("POSITION", "NORMAL", "TANGENT")
Groups = list[tuple[Change, list[int]]]
"""What users of one mesh want done to it, each with those users."""


def write_meshes(edit: Edit, nodes: tuple[Node, ...], meshes: tuple[Mesh, ...]) -> None:
    """Rewrite each mesh once for all users that need the same; split off copies for those that differ."""
    users: dict[int, Groups] = {}
    for i, node in enumerate(nodes):
        if node.mesh is None or node.cut_from is not None:
            continue
        # A skin's joints carry its mesh: its own numbers stay as they are.
        mesh, wanted = edit.document.items("nodes")[i]["mesh"], node.local_from_mesh
        wanted = np.eye(4) if node.skin is not None else wanted
        spread = meshes[node.mesh].spread
        if spread is not None and not is_unmoved(wanted):
            moved, wanted = carried_spread(spread, wanted, node.name)
            write_instances(edit, i, moved)
        own = meshes[node.mesh]
        change = Change(matrix=wanted, shaped=own if own.unshaped is not None else None)
        gather(users.setdefault(mesh, []), change, i)
    for groups in users.values():
        put_first(groups)
    _claim_accessors(edit, users)
    for mesh, groups in users.items():
        split = []
        for rank, (change, members) in enumerate(groups):
            if rank == 0 and change.is_none:
                continue
            edit.changed = True
            target = mesh if rank == 0 else _split_mesh(edit, mesh, members)
            _rewrite_mesh(edit, mesh, target, change)
            if rank:
                split.append(
                    say(
                        "'{json}' for {named}",
                        json=edit.json["meshes"][target]["name"],
                        named=_list_node_names(edit, members),
                    )
                )
        if split:
            name = edit.document.items("meshes")[mesh].get("name") or f"mesh_{mesh}"
            edit.warnings.append(say("shared mesh '{name}' split: {split}", name=name, split=", ".join(split)))


def _claim_accessors(edit: Edit, users: dict[int, Groups]) -> None:
    """Note which changes every accessor is wanted under, so that sharing is seen before anything is written."""
    for mesh, item in enumerate(edit.document.items("meshes")):
        groups = users.get(mesh, [(Change(matrix=np.eye(4)), [])])
        for primitive in item["primitives"]:
            for change, _ in groups:
                key = change.key
                for name, accessor in primitive["attributes"].items():
                    edit.owners.setdefault(accessor, set()).add((name, key))
                for target in primitive.get("targets", []):
                    for name, accessor in target.items():
                        edit.owners.setdefault(accessor, set()).add((f"delta {name}", key))
                if "indices" in primitive:
                    edit.owners.setdefault(primitive["indices"], set()).add(("indices", b""))


def _split_mesh(edit: Edit, mesh: int, members: list[int]) -> int:
    taken = {m.get("name") for m in edit.json["meshes"]}
    base = edit.document.items("meshes")[mesh].get("name") or f"mesh_{mesh}"
    number = 2
    while f"{base}.{number}" in taken:
        number += 1
    item = copy.deepcopy(edit.document.items("meshes")[mesh])
    item["name"] = f"{base}.{number}"
    edit.json["meshes"].append(item)
    for i in members:
        edit.json["nodes"][i]["mesh"] = len(edit.json["meshes"]) - 1
    return len(edit.json["meshes"]) - 1


def _list_node_names(edit: Edit, members: list[int]) -> str:
    names = [f"'{edit.json['nodes'][i].get('name', i)}'" for i in members]
    return say(" and ").join(names[:2]) + (say(" and {count} more", count=len(names) - 2) if len(names) > 2 else "")


def _rewrite_mesh(edit: Edit, source: int, target: int, change: Change) -> None:
    item, matrix = edit.json["meshes"][target], change.matrix
    primitives, first = [], 0
    shaped = {} if change.shaped is None else shaped_rows(edit, source, change.shaped)
    for old in edit.document.items("meshes")[source]["primitives"]:
        new = dict(unpacked(edit, old))
        new["attributes"] = dict(new["attributes"])
        for name in (n for n in _CARRIED if n in new["attributes"]):
            accessor = new["attributes"][name]
            count = edit.layouts[accessor].count
            rows = shaped[name][first : first + count] if shaped else dense(edit.document, accessor, edit.limits)
            new["attributes"][name] = _write_attribute(edit, accessor, name, change, rows, target != source)
        if "POSITION" in old["attributes"]:
            first += edit.layouts[old["attributes"]["POSITION"]].count
        if "targets" in old:
            new["targets"] = [
                _write_target(edit, t, old["attributes"], matrix, target != source) for t in old["targets"]
            ]
        if is_mirror(matrix) and "POSITION" in new["attributes"] and old.get("mode", 4) >= 4:
            _flip_winding(edit, old, new, source)
        primitives.append(new)
    item["primitives"] = primitives


def shaped_rows(edit: Edit, source: int, mesh: Mesh) -> dict[str, NDArray[Any]]:
    """Return positions, normals and tangents of a mesh of the file, or of a piece of it, as it is shaped.

    Rows are those of all primitives with positions, one behind the other, or those that the piece is made of; not a
    number where a primitive has none.
    """
    document, limits = edit.document, edit.limits
    primitives = [p for p in document.items("meshes")[source]["primitives"] if "POSITION" in p["attributes"]]
    found: dict[str, NDArray[Any]] = {"POSITION": mesh.points}
    given = {
        name: side_by_side(document, primitives, name, limits)
        for name in ("NORMAL", "TANGENT")
        if any(name in p["attributes"] for p in primitives)
    }
    if mesh.cut is not None:
        given = {name: rows[mesh.cut.points] for name, rows in given.items()}
    if "NORMAL" in given:
        found["NORMAL"] = normals_at_points(mesh, given["NORMAL"])
    if "TANGENT" in given:
        found["TANGENT"] = np.array(given["TANGENT"])
        if "NORMAL" in given:
            found["TANGENT"][:, :3] = squared_to(given["TANGENT"][:, :3], given["NORMAL"], found["NORMAL"])
    return found


def _write_attribute(edit: Edit, accessor: int, kind: str, change: Change, old: NDArray[Any], split: bool) -> int:
    """Write rows of an attribute, `old` before they are carried, and return their accessor."""
    key = (accessor, kind, change.key)
    if key in edit.done:
        return edit.done[key]
    layout = edit.layouts[accessor]
    in_place = layout.is_plain and not split and edit.is_sole(accessor, layout)
    if in_place:
        target = accessor
        out = strided(edit.copy(layout.buffer or 0), layout)
    else:
        out = np.empty(old.shape, dtype="<f4")
        target = edit.append(out, edit.document.items("accessors")[accessor])
    carried(old, kind, change.matrix, out)
    if kind == "POSITION":
        item = edit.json["accessors"][target]
        low, high = ends(out)
        item["min"], item["max"] = numbers(low), numbers(high)
    else:
        edit.bound(target, out)
    edit.done[key] = target
    return target


def _write_target(edit: Edit, old: dict[str, int], bases: dict[str, int], matrix: Array, split: bool) -> dict[str, int]:
    """Rewrite a morph target; where its numbers lie alone as float32 they are rewritten in place."""
    new = dict(old)
    for kind in (k for k in MORPHED if k in old):
        base = dense(edit.document, bases[kind], edit.limits) if kind in bases and kind != "POSITION" else None
        key = (old[kind], f"delta {kind} {bases.get(kind)}", np.round(matrix, 12).tobytes())
        if key not in edit.done:
            layout = edit.layouts[old[kind]]
            values = rewritten_delta(kind, dense(edit.document, old[kind], edit.limits), base, matrix)
            if layout.is_plain and not split and edit.is_sole(old[kind], layout):
                target = old[kind]
                strided(edit.copy(layout.buffer or 0), layout)[:] = values
            else:
                target = edit.append(values, edit.document.items("accessors")[old[kind]])
            edit.bound(target, values, always=kind == "POSITION")
            edit.done[key] = target
        new[kind] = edit.done[key]
    return new


def _flip_winding(edit: Edit, old: dict[str, Any], new: dict[str, Any], mesh: int) -> None:
    vertices = edit.layouts[old["attributes"]["POSITION"]]
    rows = triangles_of(edit.document, old, vertices.count, mesh, edit.limits)
    turned = np.ascontiguousarray(rows[:, [0, 2, 1]]).reshape(-1, 1)
    kind = {"u1": 5121, "u2": 5123}.get(turned.dtype.str[1:], UINT)
    new["mode"] = 4
    if "mode" not in old:
        del new["mode"]
    like = {"componentType": kind, "count": len(turned), "type": "SCALAR"}
    # The same indices are other triangles in a strip, and other vertices may be numbered.
    key = (old.get("indices", -1 - old["attributes"]["POSITION"]), f"flip {old.get('mode', 4)}", b"")
    if key not in edit.done:
        edit.done[key] = edit.append(turned if kind != UINT else turned.astype("<u4"), like)
    new["indices"] = edit.done[key]


def carried(old: NDArray[Any], kind: str, matrix: Array, out: NDArray[Any]) -> None:
    """Write positions, normals or tangents into `out` as a (4, 4) `matrix` carries them."""
    if is_unmoved(matrix):
        out[:] = as_float32(old)
    elif kind == "POSITION":
        write_points(old, matrix, out)
    elif kind == "NORMAL":
        write_directions(old, normal_matrix(matrix[:3, :3]), out)
    else:
        write_directions(old[:, :3], matrix[:3, :3], out[:, :3])
        out[:, 3] = -old[:, 3] if is_mirror(matrix) else old[:, 3]
