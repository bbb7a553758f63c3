"""Writers for the demo batch: just enough GLB, OBJ and STL to plant troubles in."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.demo.shapes import Solid

__all__ = ["GlbMaker", "write_obj", "write_stl"]

Colour = tuple[float, float, float]
_FLOAT, _SHORT, _ARRAY, _ELEMENTS = 5126, 5123, 34962, 34963
_SIGNED_BYTE, _SIGNED_SHORT = 5120, 5122
# Positions on 16 bits and normals on 8, in one run, each filled up to whole words of four bytes.
_PACKED = np.dtype({"names": ["p", "n"], "formats": [("<i2", 3), ("i1", 3)], "offsets": [0, 8], "itemsize": 12})


@dataclass(slots=True)
class GlbMaker:
    """Gathers materials, meshes and nodes, and writes them as one GLB."""

    title: str
    nodes: list[dict[str, Any]] = field(default_factory=list)
    meshes: list[dict[str, Any]] = field(default_factory=list)
    materials: list[dict[str, Any]] = field(default_factory=list)
    accessors: list[dict[str, Any]] = field(default_factory=list)
    views: list[dict[str, Any]] = field(default_factory=list)
    data: bytearray = field(default_factory=bytearray)
    skins: list[dict[str, Any]] = field(default_factory=list)
    animations: list[dict[str, Any]] = field(default_factory=list)
    extensions: set[str] = field(default_factory=set)
    images: list[dict[str, Any]] = field(default_factory=list)

    def material(self, name: str, colour: Colour) -> int:
        """Add a material of a linear base colour."""
        self.materials.append(
            {
                "name": name,
                "pbrMetallicRoughness": {
                    "baseColorFactor": [*colour, 1.0],
                    "metallicFactor": 0.0,
                    "roughnessFactor": 0.85,
                },
            }
        )
        return len(self.materials) - 1

    def image(self, name: str, data: bytes) -> int:
        """Add a PNG, and a texture of it that ends at its edges; return the texture."""
        self.data += b"\0" * (-len(self.data) % 4)
        self.views.append({"buffer": 0, "byteOffset": len(self.data), "byteLength": len(data)})
        self.data += data
        self.images.append({"name": name, "bufferView": len(self.views) - 1, "mimeType": "image/png"})
        return len(self.images) - 1

    def lay_on(self, mesh: int, primitive: int, maps: Sequence[np.ndarray[Any, Any]]) -> None:
        """Give a primitive texture coordinates, each set of shape (N, 2), counted down from the image's upper edge."""
        attributes = self.meshes[mesh]["primitives"][primitive]["attributes"]
        for k, coordinates in enumerate(maps):
            attributes[f"TEXCOORD_{k}"] = self._add_accessor(coordinates.astype("<f4"), "VEC2", _FLOAT, _ARRAY)

    def mesh(self, name: str, pieces: Sequence[tuple[Solid, int]]) -> int:
        """Add a mesh of solids, each with its material."""
        primitives = []
        for solid, material in pieces:
            points = solid.points.astype("<f4")
            position = self._add_accessor(points, "VEC3", _FLOAT, _ARRAY)
            self.accessors[position].update(min=points.min(axis=0).tolist(), max=points.max(axis=0).tolist())
            normal = self._add_accessor(solid.normals.astype("<f4"), "VEC3", _FLOAT, _ARRAY)
            indices = self._add_accessor(solid.triangles.astype("<u2").reshape(-1), "SCALAR", _SHORT, _ELEMENTS)
            primitives.append(
                {"attributes": {"POSITION": position, "NORMAL": normal}, "indices": indices, "material": material}
            )
        self.meshes.append({"name": name, "primitives": primitives})
        return len(self.meshes) - 1

    def packed_mesh(self, name: str, solid: Solid, material: int) -> int:
        """Add a mesh quantised to integers and interleaved; the solid must lie within -1 and 1 on every axis.

        Formula: c = round(f * 32767), and 127 for normals (KHR_mesh_quantization, as glTF 2.0, 3.6.2.2).
        """
        rows = np.zeros(len(solid.points), dtype=_PACKED)
        rows["p"], rows["n"] = np.round(solid.points * 32767), np.round(solid.normals * 127)
        position = self._add_accessor(rows, "VEC3", _SIGNED_SHORT, _ARRAY)
        normal = len(self.accessors)
        self.views[-1]["byteStride"] = _PACKED.itemsize
        self.accessors[position].update(
            normalized=True, min=rows["p"].min(axis=0).tolist(), max=rows["p"].max(axis=0).tolist()
        )
        self.accessors.append({**self.accessors[position], "componentType": _SIGNED_BYTE, "byteOffset": 8})
        for bound in ("min", "max"):
            del self.accessors[normal][bound]
        indices = self._add_accessor(solid.triangles.astype("<u2").reshape(-1), "SCALAR", _SHORT, _ELEMENTS)
        attributes = {"POSITION": position, "NORMAL": normal}
        self.meshes.append(
            {"name": name, "primitives": [{"attributes": attributes, "indices": indices, "material": material}]}
        )
        self.extensions.add("KHR_mesh_quantization")
        return len(self.meshes) - 1

    def skin(self, joints: Sequence[int], binds: Sequence[np.ndarray[Any, Any]]) -> int:
        """Add a skin of joints, each with its inverse bind matrix, shape (4, 4)."""
        columns = np.stack([b.T for b in binds]).reshape(-1, 16).astype("<f4")
        self.skins.append(
            {"joints": list(joints), "inverseBindMatrices": self._add_accessor(columns, "MAT4", _FLOAT, None)}
        )
        return len(self.skins) - 1

    def hold(self, mesh: int, joints: np.ndarray[Any, Any], weights: np.ndarray[Any, Any]) -> None:
        """Hold the vertices of a mesh's one primitive by joints, shape (N, 4), with weights, shape (N, 4)."""
        attributes = self.meshes[mesh]["primitives"][0]["attributes"]
        attributes["JOINTS_0"] = self._add_accessor(joints.astype("<u2"), "VEC4", _SHORT, _ARRAY)
        attributes["WEIGHTS_0"] = self._add_accessor(weights.astype("<f4"), "VEC4", _FLOAT, _ARRAY)

    def clip(self, name: str, tracks: Sequence[tuple[int, str, Sequence[float], np.ndarray[Any, Any]]]) -> None:
        """Add a clip of tracks: (node, path, times, a value for each)."""
        channels: list[dict[str, Any]] = []
        samplers: list[dict[str, Any]] = []
        for node, path, times, values in tracks:
            keys = np.asarray(times, dtype="<f4").reshape(-1, 1)
            entry = self._add_accessor(keys, "SCALAR", _FLOAT, None)
            self.accessors[entry].update(min=[float(keys.min())], max=[float(keys.max())])
            out = self._add_accessor(values.astype("<f4"), f"VEC{values.shape[1]}", _FLOAT, None)
            channels.append({"sampler": len(samplers), "target": {"node": node, "path": path}})
            samplers.append({"input": entry, "output": out, "interpolation": "LINEAR"})
        self.animations.append({"name": name, "channels": channels, "samplers": samplers})

    def node(self, name: str, *, parent: int | None = None, **channels: Any) -> int:
        """Add a node; `channels` are glTF's own: mesh, translation, rotation, scale, extras."""
        self.nodes.append({"name": name, **channels})
        index = len(self.nodes) - 1
        if parent is not None:
            self.nodes[parent].setdefault("children", []).append(index)
        return index

    def write(self, path: Path) -> None:
        """Write the GLB; every node without a parent is in the scene."""
        below = {c for n in self.nodes for c in n.get("children", [])}
        document: dict[str, Any] = {
            "asset": {"version": "2.0", "generator": "Fenwick Lock demo", "extras": {"title": self.title}},
            "scene": 0,
            "scenes": [{"name": "lock", "nodes": [i for i in range(len(self.nodes)) if i not in below]}],
            "nodes": self.nodes,
            "meshes": self.meshes,
            "materials": self.materials,
            "accessors": self.accessors,
            "bufferViews": self.views,
            "buffers": [{"byteLength": len(self.data)}],
        }
        for key, found in (("skins", self.skins), ("animations", self.animations)):
            if found:
                document[key] = found
        if self.images:
            document["images"] = self.images
            document["samplers"] = [{"wrapS": 33071, "wrapT": 33071}]
            document["textures"] = [{"source": k, "sampler": 0} for k in range(len(self.images))]
        if self.extensions:
            document["extensionsUsed"] = document["extensionsRequired"] = sorted(self.extensions)
        text = json.dumps(document, separators=(",", ":")).encode()
        text += b" " * (-len(text) % 4)
        body = bytes(self.data) + b"\0" * (-len(self.data) % 4)
        total = 12 + 8 + len(text) + 8 + len(body)
        path.write_bytes(
            b"glTF"
            + b"".join(v.to_bytes(4, "little") for v in (2, total, len(text)))
            + b"JSON"
            + text
            + len(body).to_bytes(4, "little")
            + b"BIN\0"
            + body
        )

    def _add_accessor(self, values: np.ndarray[Any, Any], kind: str, component: int, target: int | None) -> int:
        self.data += b"\0" * (-len(self.data) % 4)
        view = {"buffer": 0, "byteOffset": len(self.data), "byteLength": values.nbytes}
        self.views.append(view if target is None else {**view, "target": target})
        self.data += values.tobytes()
        self.accessors.append(
            {"bufferView": len(self.views) - 1, "componentType": component, "count": len(values), "type": kind}
        )
        return len(self.accessors) - 1


def write_obj(path: Path, parts: Sequence[tuple[str, str, Solid]], *, head: str, library: str, word: str = "o") -> None:
    """Write an OBJ of named parts, each with a material's name; `head` is its comment lines, `word` what parts are."""
    lines, base = [*(f"# {line}" for line in head.splitlines()), f"mtllib {library}"], 1
    for name, material, solid in parts:
        lines += [f"{word} {name}"]
        lines += ["v " + " ".join(f"{v:.6f}" for v in p) for p in solid.points]
        lines += ["vn " + " ".join(f"{v:.5f}" for v in n) for n in solid.normals]
        lines += [f"usemtl {material}", "s off"]
        lines += ["f " + " ".join(f"{k + base}//{k + base}" for k in row) for row in solid.triangles]
        base += len(solid.points)
    path.write_text("\n".join(lines) + "\n")


def write_stl(path: Path, solid: Solid, *, head: str) -> None:
    """Write a binary STL."""
    corners = solid.points[solid.triangles].astype("<f4")
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    normals /= np.linalg.norm(normals, axis=1, keepdims=True)
    rows = np.zeros(len(corners), dtype=[("n", "<f4", 3), ("c", "<f4", (3, 3)), ("a", "<u2")])
    rows["n"], rows["c"] = normals, corners
    path.write_bytes(head.encode().ljust(80) + len(rows).to_bytes(4, "little") + rows.tobytes())
