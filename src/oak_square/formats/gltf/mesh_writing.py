"""The geometry of an edited glTF document: each mesh rewritten once for all users that need the same."""

from __future__ import annotations

import copy
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.geometry import ends, is_mirror, normal_matrix, write_directions, write_points
from oak_square.core.instances import carried_spread
from oak_square.core.motion import same_matrix
from oak_square.core.scene import Mesh, Node
from oak_square.formats.gltf.accessors import dense, strided
from oak_square.formats.gltf.compression import unpacked
from oak_square.formats.gltf.editing import UINT, Edit, numbers
from oak_square.formats.gltf.instances import write_instances
from oak_square.formats.gltf.morphs import MORPHED, rewritten_delta
from oak_square.formats.gltf.reading import triangles_of
from oak_square.formats.model_file import is_unmoved

__all__ = ["Groups", "carried", "gather", "write_meshes"]

Array = NDArray[np.float64]
Groups = list[tuple[Array, list[int]]]
"""The matrices that users of one mesh want it carried by, each with those users."""


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
        gather(users.setdefault(mesh, []), wanted, i)
    for groups in users.values():
        # Whoever needs no change keeps the mesh; else the largest group does.
        groups.sort(key=lambda g: (not is_unmoved(g[0]), -len(g[1])))
    _claim(edit, users)
    for mesh, groups in users.items():
        split = []
        for rank, (matrix, members) in enumerate(groups):
            if rank == 0 and is_unmoved(matrix):
                continue
            edit.changed = True
            target = mesh if rank == 0 else _split(edit, mesh, members)
            _rewrite(edit, mesh, target, matrix)
            if rank:
                split.append(f"'{edit.json['meshes'][target]['name']}' for {_named(edit, members)}")
        if split:
            name = edit.document.items("meshes")[mesh].get("name") or f"mesh_{mesh}"
            edit.warnings.append(f"shared mesh '{name}' split: {', '.join(split)}")


def gather(groups: Groups, wanted: Array, user: int) -> None:
    """Put a user of a mesh with those that want it carried by the same matrix."""
    for matrix, members in groups:
        if same_matrix(matrix, wanted):
            members.append(user)
            return
    groups.append((wanted, [user]))


def _claim(edit: Edit, users: dict[int, Groups]) -> None:
    """Note which matrices every accessor is wanted under, so that sharing is seen before anything is written."""
    for mesh, item in enumerate(edit.document.items("meshes")):
        groups = users.get(mesh, [(np.eye(4), [])])
        for primitive in item["primitives"]:
            for matrix, _ in groups:
                key = b"" if is_unmoved(matrix) else np.round(matrix, 12).tobytes()
                for name, accessor in primitive["attributes"].items():
                    edit.owners.setdefault(accessor, set()).add((name, key))
                for target in primitive.get("targets", []):
                    for name, accessor in target.items():
                        edit.owners.setdefault(accessor, set()).add((f"delta {name}", key))
                if "indices" in primitive:
                    edit.owners.setdefault(primitive["indices"], set()).add(("indices", b""))


def _split(edit: Edit, mesh: int, members: list[int]) -> int:
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


def _named(edit: Edit, members: list[int]) -> str:
    names = [f"'{edit.json['nodes'][i].get('name', i)}'" for i in members]
    return " and ".join(names[:2]) + (f" and {len(names) - 2} more" if len(names) > 2 else "")


def _rewrite(edit: Edit, source: int, target: int, matrix: Array) -> None:
    item = edit.json["meshes"][target]
    primitives = []
    for old in edit.document.items("meshes")[source]["primitives"]:
        new = dict(unpacked(edit, old))
        new["attributes"] = dict(new["attributes"])
        for name in ("POSITION", "NORMAL", "TANGENT"):
            if name in new["attributes"]:
                new["attributes"][name] = _attribute(edit, new["attributes"][name], name, matrix, target != source)
        if "targets" in old:
            new["targets"] = [_target(edit, t, old["attributes"], matrix, target != source) for t in old["targets"]]
        if is_mirror(matrix) and "POSITION" in new["attributes"] and old.get("mode", 4) >= 4:
            _flip(edit, old, new, source)
        primitives.append(new)
    item["primitives"] = primitives


def _attribute(edit: Edit, accessor: int, kind: str, matrix: Array, split: bool) -> int:
    key = (accessor, kind, np.round(matrix, 12).tobytes())
    if key in edit.done:
        return edit.done[key]
    layout = edit.layouts[accessor]
    in_place = layout.is_plain and not split and edit.is_sole(accessor, layout)
    old = dense(edit.document, accessor, edit.limits)
    if in_place:
        target = accessor
        out = strided(edit.copy(layout.buffer or 0), layout)
    else:
        out = np.empty(old.shape, dtype="<f4")
        target = edit.append(out, edit.document.items("accessors")[accessor])
    carried(old, kind, matrix, out)
    if kind == "POSITION":
        item = edit.json["accessors"][target]
        low, high = ends(out)
        item["min"], item["max"] = numbers(low), numbers(high)
    else:
        edit.bound(target, out)
    edit.done[key] = target
    return target


def _target(edit: Edit, old: dict[str, int], bases: dict[str, int], matrix: Array, split: bool) -> dict[str, int]:
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


def _flip(edit: Edit, old: dict[str, Any], new: dict[str, Any], mesh: int) -> None:
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
    if kind == "POSITION":
        write_points(old, matrix, out)
    elif kind == "NORMAL":
        write_directions(old, normal_matrix(matrix[:3, :3]), out)
    else:
        write_directions(old[:, :3], matrix[:3, :3], out[:, :3])
        out[:, 3] = -old[:, 3] if is_mirror(matrix) else old[:, 3]
