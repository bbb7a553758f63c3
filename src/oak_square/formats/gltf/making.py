"""A glTF made anew from a plain scene."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import quote

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.geometry import as_float32
from oak_square.core.placement import Placement
from oak_square.core.words import say
from oak_square.formats.gltf.editing import FLOAT, UINT, numbers
from oak_square.formats.gltf.materials import WRAPS, Mention, material_of
from oak_square.formats.gltf.packing import glb_pieces, json_bytes
from oak_square.formats.shared.look import Image, Look
from oak_square.formats.shared.model_file import Chunk, Companion, Written
from oak_square.formats.shared.plain import Plain, PlainScene, carried, to_linear

__all__ = ["made"]

Array = NDArray[np.float64]
_USHORT = 5123
_VERTICES, _INDICES = 34962, 34963
_WRAPS = {word: number for number, word in WRAPS.items()}
_MIME = {b"\x89PNG": "image/png", b"\xff\xd8\xff": "image/jpeg"}


def made(scene: PlainScene, *, binary: bool) -> Written:
    """Return the file of a scene whose numbers are metres, Y up.

    Raises
    ------
    Refused
        If a node is sheared, or a number is more than float32 can hold.
    """
    maker = _Maker()
    for node in scene.nodes:
        if node.placement.is_sheared:
            raise Refused(say("node '{name}' would be sheared, which a glTF node can't hold", name=node.name))
        item: dict[str, Any] = {"name": node.name, **_write_channels(node.placement)}
        if node.plain is not None:
            item["mesh"] = maker.mesh(node.name, scene.plains[node.plain], node.plain, node.local_from_points)
        maker.nodes.append(item)
        if node.parent is not None:
            maker.nodes[node.parent].setdefault("children", []).append(len(maker.nodes) - 1)
    return maker.file(scene, binary=binary)


def _write_channels(placement: Placement) -> dict[str, list[float]]:
    found = {}
    for name, values, rest in (
        ("translation", placement.translation, [0.0, 0.0, 0.0]),
        ("rotation", placement.rotation, [0.0, 0.0, 0.0, 1.0]),
        ("scale", placement.scale, [1.0, 1.0, 1.0]),
    ):
        if numbers(values) != rest:
            found[name] = numbers(values)
    return found


@dataclass(slots=True)
class _Maker:
    nodes: list[dict[str, Any]] = field(default_factory=list)
    meshes: list[dict[str, Any]] = field(default_factory=list)
    materials: list[dict[str, Any]] = field(default_factory=list)
    named: list[Mention] = field(default_factory=list)
    views: list[dict[str, Any]] = field(default_factory=list)
    accessors: list[dict[str, Any]] = field(default_factory=list)
    chunks: list[NDArray[Any]] = field(default_factory=list)
    size: int = 0
    warnings: list[str] = field(default_factory=list)
    done: dict[tuple[int, bytes], int] = field(default_factory=dict)
    looks: dict[Look, int] = field(default_factory=dict)

    def mesh(self, name: str, plain: Plain, index: int, matrix: Array) -> int:
        """Return the mesh of a plain one under a matrix: written once for all nodes that need the same."""
        key = index, np.round(matrix, 12).tobytes()
        if key not in self.done:
            moved = carried(plain, matrix)
            points = as_float32(moved.points)
            ends: dict[str, Any] = {"min": numbers(points.min(axis=0)), "max": numbers(points.max(axis=0))}
            attributes = {"POSITION": self.accessor(points, "VEC3", **ends)}
            if moved.normals is not None:
                attributes["NORMAL"] = self.accessor(_make_unit_normals(moved.normals), "VEC3")
            if moved.uvs is not None:
                flipped = np.column_stack([moved.uvs[:, 0], 1 - moved.uvs[:, 1]])
                attributes["TEXCOORD_0"] = self.accessor(flipped.astype("<f4"), "VEC2")
            if moved.more_uvs is not None and moved.uvs is not None:
                flipped = np.column_stack([moved.more_uvs[:, 0], 1 - moved.more_uvs[:, 1]])
                attributes["TEXCOORD_1"] = self.accessor(flipped.astype("<f4"), "VEC2")
            if moved.colours is not None:
                attributes["COLOR_0"] = self.accessor(to_linear(moved.colours).astype("<f4"), "VEC3")
            primitives = [
                {
                    "attributes": attributes,
                    "indices": self.indices(moved.triangles[run.first : run.first + run.count], len(points)),
                    "material": self.material(run.look),
                }
                for run in moved.runs
            ]
            self.meshes.append({"name": name, "primitives": primitives})
            self.done[key] = len(self.meshes) - 1
        return self.done[key]

    def indices(self, triangles: NDArray[Any], vertices: int) -> int:
        short = vertices < 65_535  # the highest index is kept for restarts (specification, 3.7.2.1)
        values = triangles.reshape(-1, 1).astype("<u2" if short else "<u4")
        return self.accessor(values, "SCALAR", kind=_USHORT if short else UINT, target=_INDICES)

    def accessor(
        self, values: NDArray[Any], shape: str, *, kind: int = FLOAT, target: int = _VERTICES, **more: Any
    ) -> int:
        self.views.append({**self.room(values), "target": target})
        self.accessors.append(
            {"bufferView": len(self.views) - 1, "componentType": kind, "count": len(values), "type": shape, **more}
        )
        return len(self.accessors) - 1

    def room(self, values: NDArray[Any]) -> dict[str, int]:
        """Put values behind the buffer, and return where they lie."""
        padding = -self.size % 4
        if padding:
            self.chunks.append(np.zeros(padding, dtype=np.uint8))
        self.chunks.append(np.ascontiguousarray(values))
        found = {"buffer": 0, "byteOffset": self.size + padding, "byteLength": values.nbytes}
        self.size += padding + values.nbytes
        return found

    def material(self, look: Look) -> int:
        if look not in self.looks:
            item, named = material_of(look)
            self.named += named
            self.materials.append(item)
            self.looks[look] = len(self.materials) - 1
        return self.looks[look]

    def file(self, scene: PlainScene, *, binary: bool) -> Written:
        document: dict[str, Any] = {
            "asset": {"version": "2.0", "generator": "Oak Square"},
            "scene": 0,
            "scenes": [{"nodes": [i for i, n in enumerate(scene.nodes) if n.parent is None]}],
        }
        if not scene.nodes:
            document["scenes"] = [{}]
        companions = self._write_textures(document, binary=binary)
        for key, rows in (
            ("nodes", self.nodes), ("meshes", self.meshes), ("materials", self.materials),
            ("accessors", self.accessors), ("bufferViews", self.views),
        ):  # fmt: skip
            if rows:
                document[key] = rows
        pieces: tuple[Chunk, ...]
        if self.size:
            document["buffers"] = [{"byteLength": self.size}]
        if binary:
            pieces = glb_pieces(document, tuple(self.chunks) if self.size else None, b"")
        else:
            if self.size:
                name = f"{scene.name}.bin"
                document["buffers"][0]["uri"] = _quote_uri(name)
                companions.append(Companion(path=name, chunks=tuple(self.chunks)))
            text = json.dumps(document, indent=1, ensure_ascii=False, allow_nan=False)
            pieces = (json_bytes(text) + b"\n",)
        return Written(chunks=pieces, companions=tuple(companions), warnings=tuple(self.warnings))

    def _write_textures(self, document: dict[str, Any], *, binary: bool) -> list[Companion]:
        """Put images into the buffer of a GLB, or beside a text file, and name them where they are used."""
        companions, images = list[Companion](), list[dict[str, Any]]()
        place: dict[Image, int | None] = {}
        for image in dict.fromkeys(texture.image for _, _, texture in self.named):
            data = image.read()
            mime = next((m for magic, m in _MIME.items() if data.startswith(magic)), None)
            place[image] = None if mime is None else len(images)
            if mime is None:
                self.warnings.append(
                    say("texture '{name}' is left out: glTF holds PNG and JPEG images", name=image.name)
                )
            elif binary:
                self.views.append(self.room(np.frombuffer(data, dtype=np.uint8)))
                images.append({"name": image.name, "bufferView": len(self.views) - 1, "mimeType": mime})
            else:
                companions.append(Companion(path=image.name, chunks=(data,)))
                images.append({"uri": _quote_uri(image.name)})
        textures, samplers = list[dict[str, int]](), list[dict[str, int]]()
        for holder, key, texture in self.named:
            source = place[texture.image]
            if source is None:
                del holder[key]
                continue
            item = {"source": source}
            if (texture.across, texture.up) != ("repeat", "repeat"):
                item["sampler"] = _place_in(samplers, {"wrapS": _WRAPS[texture.across], "wrapT": _WRAPS[texture.up]})
            holder[key] = {"index": _place_in(textures, item), **holder[key]}
        document |= {k: v for k, v in (("images", images), ("textures", textures), ("samplers", samplers)) if v}
        return companions


def _place_in(rows: list[dict[str, int]], item: dict[str, int]) -> int:
    """Return where an item stands among rows, put behind them where it is new."""
    if item not in rows:
        rows.append(item)
    return rows.index(item)


def _make_unit_normals(normals: NDArray[Any]) -> NDArray[np.float32]:
    lengths = np.linalg.norm(normals, axis=1, keepdims=True)
    found = normals / np.where(lengths > 0, lengths, 1.0)
    found[lengths[:, 0] == 0] = [0, 0, 1]
    return found.astype("<f4")


def _quote_uri(name: str) -> str:
    return quote(name)
