"""From a prepared asset back to its glTF document: a copy of JSON and buffers, edited where steps touched them."""

from __future__ import annotations

import copy
from collections import Counter
from dataclasses import dataclass, field, replace
from typing import Any
from urllib.parse import unquote

import numpy as np
from numpy.typing import NDArray

from oak_square.core.clips import carried_values, clip_frames, is_resampled, resampled_translation
from oak_square.core.errors import Refused
from oak_square.core.frames import WORKING
from oak_square.core.geometry import ends, is_mirror, normal_matrix, write_directions, write_points
from oak_square.core.motion import same_matrix
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.core.tolerances import RESAMPLED
from oak_square.formats.gltf.accessors import Layout, dense, layout_of, overlaps, strided
from oak_square.formats.gltf.clips import track_of
from oak_square.formats.gltf.document import Document
from oak_square.formats.gltf.morphs import MORPHED, rewritten_delta
from oak_square.formats.gltf.packing import packed
from oak_square.formats.gltf.reading import triangles_of
from oak_square.formats.gltf.skins import bind_matrices
from oak_square.formats.limits import Limits
from oak_square.formats.model_file import Companion, Written, file_nodes, is_unmoved, same_placement

__all__ = ["written"]

Array = NDArray[np.float64]
_FLOAT, _UINT = 5126, 5125
_DEFAULTS: dict[str, list[float]] = {
    "translation": [0.0, 0.0, 0.0],
    "rotation": [0.0, 0.0, 0.0, 1.0],
    "scale": [1.0, 1.0, 1.0],
}


def written(document: Document, received: Asset, asset: Asset, limits: Limits) -> Written:
    """Return the file for `asset`, prepared from `received`, which `document` holds.

    Raises
    ------
    Refused
        If a node's transform has become one that glTF can't hold.
    """
    nodes = file_nodes(asset, WORKING)
    edit = _Edit(document, limits)
    for i, (old, new) in enumerate(zip(received.nodes, nodes, strict=True)):
        if not same_placement(old.placement, new.placement):
            edit.place(i, new)
        if old.parent != new.parent:
            edit.hang(i, received, new.parent)
    edit.meshes(nodes)
    edit.skins(received.nodes, nodes)
    if received.clips:
        edit.clips(received, replace(asset, nodes=nodes))
    companions = tuple(Companion(path=t, source=document.folder / unquote(t)) for t in document.textures)
    if not edit.changed:
        own = tuple(
            Companion(path=b.companion, source=document.folder / unquote(b.companion))
            for b in document.buffers
            if b.companion
        )
        return Written(pieces=None, companions=(*own, *companions))
    pieces, own = packed(document, edit.json, edit.copies, edit.appended, edit.home)
    return Written(pieces=pieces, companions=(*own, *companions), warnings=tuple(edit.warnings))


@dataclass(slots=True)
class _Edit:
    """A document being edited: what is copied is copied when it is first touched."""

    document: Document
    limits: Limits
    json: dict[str, Any] = field(init=False)
    changed: bool = field(init=False, default=False)
    warnings: list[str] = field(init=False, default_factory=list)
    copies: dict[int, NDArray[np.uint8]] = field(init=False, default_factory=dict)
    appended: list[NDArray[Any]] = field(init=False, default_factory=list)
    appended_bytes: int = field(init=False, default=0)
    home: int = field(init=False, default=0)
    layouts: list[Layout | None] = field(init=False)
    done: dict[tuple[int, str, bytes], int] = field(init=False, default_factory=dict)
    owners: dict[int, set[tuple[str, bytes]]] = field(init=False, default_factory=dict)
    edited: set[str] = field(init=False, default_factory=set)

    def __post_init__(self) -> None:
        # Deep where steps write, shallow elsewhere: extras and extensions stay the source's own objects.
        self.json = dict(self.document.json)
        for name in ("nodes", "meshes", "accessors", "bufferViews", "buffers"):
            if name in self.json:
                self.json[name] = [dict(item) for item in self.json[name]]
        self.layouts = []
        for i in range(len(self.document.items("accessors"))):
            self.layouts.append(layout_of(self.document, i, self.limits))

    def place(self, index: int, node: Node) -> None:
        """Write a node's new placement in the form it had: a matrix stays a matrix, channels stay channels."""
        placement, item = node.placement, self.json["nodes"][index]
        if placement.is_sheared:
            raise Refused(f"node '{node.name}' would be sheared, which a glTF node can't hold")
        self.changed = True
        if "matrix" in item:
            item["matrix"] = _numbers(placement.matrix.T.ravel())
            return
        for name, values in _channels(placement).items():
            if values != _DEFAULTS[name]:
                item[name] = values
            elif name in item:
                item[name] = list(_DEFAULTS[name])

    def hang(self, index: int, received: Asset, parent: int | None) -> None:
        """Hang a node from another one, or from its scenes where it had an ancestor."""
        self.changed = True
        root: int = index
        while (above := received.nodes[root].parent) is not None:
            root = above
        former = received.nodes[index].parent
        if former is not None:
            self._list(self.json["nodes"][former], "children", without=index)
        if parent is not None:
            self._list(self.json["nodes"][parent], "children", also=index)
        self.json["scenes"] = [dict(s) for s in self.json.get("scenes", [])]
        for scene in self.json["scenes"]:
            if root in scene.get("nodes", []):
                if parent is not None:
                    self._list(scene, "nodes", without=index)
                elif former is not None:
                    self._list(scene, "nodes", also=index)
        if not self.json["scenes"]:
            del self.json["scenes"]

    @staticmethod
    def _list(item: dict[str, Any], key: str, *, without: int | None = None, also: int | None = None) -> None:
        """Change a list of node numbers; an empty one goes, as the specification wants it (5.25)."""
        found = [n for n in item.get(key, []) if n != without] + ([also] if also is not None else [])
        if found:
            item[key] = found
        else:
            item.pop(key, None)

    def meshes(self, nodes: tuple[Node, ...]) -> None:
        """Rewrite each mesh once for all users that need the same; split off copies for those that differ."""
        users: dict[int, list[tuple[Array, list[int]]]] = {}
        for i, node in enumerate(nodes):
            if node.mesh is None:
                continue
            # A skin's joints carry its mesh: its own numbers stay as they are.
            mesh, wanted = self.document.items("nodes")[i]["mesh"], node.local_from_mesh
            wanted = np.eye(4) if node.skin is not None else wanted
            groups = users.setdefault(mesh, [])
            for matrix, members in groups:
                if same_matrix(matrix, wanted):
                    members.append(i)
                    break
            else:
                groups.append((wanted, [i]))
        for groups in users.values():
            # Whoever needs no change keeps the mesh; else the largest group does.
            groups.sort(key=lambda g: (not is_unmoved(g[0]), -len(g[1])))
        self._claim(users)
        for mesh, groups in users.items():
            split = []
            for rank, (matrix, members) in enumerate(groups):
                if rank == 0 and is_unmoved(matrix):
                    continue
                self.changed = True
                target = mesh if rank == 0 else self._split(mesh, members)
                self._rewrite(mesh, target, matrix)
                if rank:
                    split.append(f"'{self.json['meshes'][target]['name']}' for {self._named(members)}")
            if split:
                name = self.document.items("meshes")[mesh].get("name") or f"mesh_{mesh}"
                self.warnings.append(f"shared mesh '{name}' split: {', '.join(split)}")

    def skins(self, before: tuple[Node, ...], after: tuple[Node, ...]) -> None:
        """Write the inverse bind matrices of each skin whose joints have moved under it."""
        for skin in range(len(self.document.items("skins"))):
            pairs = [(o, n) for a, b in zip(before, after, strict=True) for o, n in zip(a.binds, b.binds, strict=True)]
            own = [(o, n) for o, n in pairs if n.skin == skin]
            if all(same_matrix(o.joint_from_mesh, n.joint_from_mesh) for o, n in own):
                continue
            self.changed = True
            values = bind_matrices(self.document, skin, self.limits).copy()
            for _, bind in own:
                values[bind.place] = bind.joint_from_mesh
            columns = np.ascontiguousarray(values.transpose(0, 2, 1)).reshape(-1, 16).astype("<f4")
            self._write_binds(skin, columns)

    def clips(self, received: Asset, asset: Asset) -> None:
        """Rewrite the keys of each animated channel whose frames have changed under it."""
        frames = clip_frames(received, asset)
        due = {i for i, (a, b) in frames.items() if not (is_unmoved(a) and is_unmoved(b))}
        if not due:
            return
        self.changed = True
        self.json["animations"] = [
            {**item, "channels": [dict(c) for c in item["channels"]], "samplers": [dict(s) for s in item["samplers"]]}
            for item in self.document.items("animations")
        ]
        for index, item in enumerate(self.json["animations"]):
            channels = list(item["channels"])
            used = Counter(c["sampler"] for c in item["channels"])
            self._resample(index, item, received, {i: frames[i] for i in due})
            for k, channel in enumerate(channels):
                track = track_of(self.document, index, k, self.limits)
                if track is None or track.node not in due:
                    continue
                if track.path == "translation" and is_resampled(received, track.node, frames[track.node][1]):
                    continue
                values = carried_values(track, received, *frames[track.node])
                rows = np.ascontiguousarray(values.reshape(-1, values.shape[-1]), dtype="<f4")
                like = {"componentType": _FLOAT, "count": len(rows), "type": f"VEC{rows.shape[1]}"}
                if used[channel["sampler"]] > 1:
                    item["samplers"].append(dict(item["samplers"][channel["sampler"]]))
                    channel["sampler"] = len(item["samplers"]) - 1
                item["samplers"][channel["sampler"]]["output"] = self._append(rows, like)

    def _resample(
        self, index: int, item: dict[str, Any], received: Asset, frames: dict[int, tuple[Array, Array]]
    ) -> None:
        """Give nodes whose pivot moved while they turn a translation of their own, in a sampler of its own."""
        for node, (above, below) in frames.items():
            if not is_resampled(received, node, below):
                continue
            track = resampled_translation(received, received.clips[index], node, above, below)
            if track is None:
                continue
            count = len(track.times)
            times = {"componentType": _FLOAT, "count": count, "type": "SCALAR"}
            entry = self._append(np.ascontiguousarray(track.times.reshape(-1, 1), dtype="<f4"), times)
            self.json["accessors"][entry].update(min=[float(track.times[0])], max=[float(track.times[-1])])
            values = {"componentType": _FLOAT, "count": count, "type": "VEC3"}
            out = self._append(np.ascontiguousarray(track.values, dtype="<f4"), values)
            item["samplers"].append({"input": entry, "output": out})
            target = {"node": node, "path": "translation"}
            place = next((c for c in item["channels"] if c["target"] == target), None)
            if place is None:
                place = {"target": target}
                item["channels"].append(place)
            place["sampler"] = len(item["samplers"]) - 1
            path = f"clip '{received.clips[index].name}': the path of '{received.nodes[node].name}' about its new pivot"
            self.warnings.append(f"{path} is resampled at {count} keys, within {RESAMPLED:g} of the asset's diagonal")

    def _write_binds(self, skin: int, columns: NDArray[np.float32]) -> None:
        skins = self.document.items("skins")
        accessor = skins[skin].get("inverseBindMatrices")
        if accessor is not None and [s.get("inverseBindMatrices") for s in skins].count(accessor) == 1:
            layout = self.layouts[accessor]
            assert layout is not None
            if layout.is_plain and layout.count == len(columns) and self._is_sole(accessor, layout):
                strided(self._copy(layout.buffer or 0), layout)[:] = columns
                return
        like = {"componentType": _FLOAT, "count": len(columns), "type": "MAT4"}
        if "skins" not in self.edited:
            self.json["skins"] = [dict(s) for s in skins]
            self.edited.add("skins")
        self.json["skins"][skin]["inverseBindMatrices"] = self._append(columns, like)

    def _claim(self, users: dict[int, list[tuple[Array, list[int]]]]) -> None:
        """Note which matrices every accessor is wanted under, so that sharing is seen before anything is written."""
        for mesh, item in enumerate(self.document.items("meshes")):
            groups = users.get(mesh, [(np.eye(4), [])])
            for primitive in item["primitives"]:
                for matrix, _ in groups:
                    key = b"" if is_unmoved(matrix) else np.round(matrix, 12).tobytes()
                    for name, accessor in primitive["attributes"].items():
                        self.owners.setdefault(accessor, set()).add((name, key))
                    for target in primitive.get("targets", []):
                        for name, accessor in target.items():
                            self.owners.setdefault(accessor, set()).add((f"delta {name}", key))
                    if "indices" in primitive:
                        self.owners.setdefault(primitive["indices"], set()).add(("indices", b""))

    def _split(self, mesh: int, members: list[int]) -> int:
        taken = {m.get("name") for m in self.json["meshes"]}
        base = self.document.items("meshes")[mesh].get("name") or f"mesh_{mesh}"
        number = 2
        while f"{base}.{number}" in taken:
            number += 1
        item = copy.deepcopy(self.document.items("meshes")[mesh])
        item["name"] = f"{base}.{number}"
        self.json["meshes"].append(item)
        for i in members:
            self.json["nodes"][i]["mesh"] = len(self.json["meshes"]) - 1
        return len(self.json["meshes"]) - 1

    def _named(self, members: list[int]) -> str:
        names = [f"'{self.json['nodes'][i].get('name', i)}'" for i in members]
        return " and ".join(names[:2]) + (f" and {len(names) - 2} more" if len(names) > 2 else "")

    def _rewrite(self, source: int, target: int, matrix: Array) -> None:
        item = self.json["meshes"][target]
        primitives = []
        for old in self.document.items("meshes")[source]["primitives"]:
            new = dict(old)
            new["attributes"] = dict(old["attributes"])
            for name in ("POSITION", "NORMAL", "TANGENT"):
                if name in new["attributes"]:
                    new["attributes"][name] = self._attribute(new["attributes"][name], name, matrix, target != source)
            if "targets" in old:
                new["targets"] = [self._target(t, old["attributes"], matrix, target != source) for t in old["targets"]]
            if is_mirror(matrix) and "POSITION" in new["attributes"] and old.get("mode", 4) >= 4:
                self._flip(old, new, source)
            primitives.append(new)
        item["primitives"] = primitives

    def _attribute(self, accessor: int, kind: str, matrix: Array, split: bool) -> int:
        key = (accessor, kind, np.round(matrix, 12).tobytes())
        if key in self.done:
            return self.done[key]
        layout = self.layouts[accessor]
        assert layout is not None
        in_place = layout.is_plain and not split and self._is_sole(accessor, layout)
        old = dense(self.document, accessor, self.limits)
        if in_place:
            target = accessor
            out = strided(self._copy(layout.buffer or 0), layout)
        else:
            out = np.empty(old.shape, dtype="<f4")
            target = self._append(out, self.document.items("accessors")[accessor])
        _carried(old, kind, matrix, out)
        if kind == "POSITION":
            item = self.json["accessors"][target]
            low, high = ends(out)
            if not (np.isfinite(low).all() and np.isfinite(high).all()):
                raise Refused("its coordinates grow past what float32 can hold")
            item["min"], item["max"] = _numbers(low), _numbers(high)
        self.done[key] = target
        return target

    def _target(self, old: dict[str, int], bases: dict[str, int], matrix: Array, split: bool) -> dict[str, int]:
        """Rewrite a morph target; where its numbers lie alone as float32 they are rewritten in place."""
        new = dict(old)
        for kind in (k for k in MORPHED if k in old):
            base = dense(self.document, bases[kind], self.limits) if kind in bases and kind != "POSITION" else None
            key = (old[kind], f"delta {kind} {bases.get(kind)}", np.round(matrix, 12).tobytes())
            if key not in self.done:
                layout = self.layouts[old[kind]]
                assert layout is not None
                values = rewritten_delta(kind, dense(self.document, old[kind], self.limits), base, matrix)
                if layout.is_plain and not split and self._is_sole(old[kind], layout):
                    target = old[kind]
                    strided(self._copy(layout.buffer or 0), layout)[:] = values
                else:
                    target = self._append(values, self.document.items("accessors")[old[kind]])
                if kind == "POSITION":
                    low, high = ends(values)
                    self.json["accessors"][target].update(min=_numbers(low), max=_numbers(high))
                self.done[key] = target
            new[kind] = self.done[key]
        return new

    def _is_sole(self, accessor: int, layout: Layout) -> bool:
        if len(self.owners.get(accessor, ())) > 1:
            return False
        return not any(
            other is not None and k != accessor and overlaps(layout, other) for k, other in enumerate(self.layouts)
        )

    def _flip(self, old: dict[str, Any], new: dict[str, Any], mesh: int) -> None:
        vertices = self.layouts[old["attributes"]["POSITION"]]
        assert vertices is not None
        rows = triangles_of(self.document, old, vertices.count, mesh, self.limits)
        turned = np.ascontiguousarray(rows[:, [0, 2, 1]]).reshape(-1, 1)
        kind = {"u1": 5121, "u2": 5123}.get(turned.dtype.str[1:], _UINT)
        new["mode"] = 4
        if "mode" not in old:
            del new["mode"]
        like = {"componentType": kind, "count": len(turned), "type": "SCALAR"}
        key = (old.get("indices", -1 - old["attributes"]["POSITION"]), "flip", b"")
        if key not in self.done:
            self.done[key] = self._append(turned if kind != _UINT else turned.astype("<u4"), like)
        new["indices"] = self.done[key]

    def _copy(self, buffer: int) -> NDArray[np.uint8]:
        if buffer not in self.copies:
            self.copies[buffer] = self.document.buffers[buffer].data.copy()
        return self.copies[buffer]

    def _append(self, values: NDArray[Any], like: dict[str, Any]) -> int:
        """Add `values` behind the first buffer, with a view and an accessor of their own like `like`."""
        if not self.appended and not self.document.buffers:
            self.json.setdefault("buffers", []).append({"byteLength": 0})
        start = -(-(self._base_length() + self.appended_bytes) // 4) * 4
        padding = start - self._base_length() - self.appended_bytes
        if padding:
            self.appended.append(np.zeros(padding, dtype=np.uint8))
        self.appended.append(values)
        self.appended_bytes += padding + values.nbytes
        view = {"buffer": self.home, "byteOffset": start, "byteLength": values.nbytes}
        self.json.setdefault("bufferViews", []).append(view)
        item = {k: v for k, v in like.items() if k not in {"sparse", "byteOffset", "normalized", "min", "max"}}
        item["bufferView"] = len(self.json["bufferViews"]) - 1
        if values.dtype.kind == "f":
            item["componentType"] = _FLOAT
        self.json["accessors"].append(item)
        return len(self.json["accessors"]) - 1

    def _base_length(self) -> int:
        return len(self.document.buffers[self.home].data) if self.document.buffers else 0


def _carried(old: NDArray[Any], kind: str, matrix: Array, out: NDArray[Any]) -> None:
    if kind == "POSITION":
        write_points(old, matrix, out)
    elif kind == "NORMAL":
        write_directions(old, normal_matrix(matrix[:3, :3]), out)
    else:
        write_directions(old[:, :3], matrix[:3, :3], out[:, :3])
        out[:, 3] = -old[:, 3] if is_mirror(matrix) else old[:, 3]


def _channels(placement: Placement) -> dict[str, list[float]]:
    return {
        "translation": _numbers(placement.translation),
        "rotation": _numbers(placement.rotation),
        "scale": _numbers(placement.scale),
    }


def _numbers(values: NDArray[Any]) -> list[float]:
    # + 0.0 turns -0.0 into 0.0.
    return [float(v) + 0.0 for v in values]
