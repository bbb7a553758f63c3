"""Files made by hand: bytes laid out here, not by the code under test."""

from __future__ import annotations

import base64
import json
import struct
from pathlib import Path
from typing import Any

import numpy as np

TRIANGLE = np.array([[0, 0, 0], [1, 0, 0], [0, 2, 0]], dtype="<f4")
GLOWING = [{"channels": [{"sampler": 0, "target": {"node": 0, "path": "glow"}}], "samplers": [{}]}]
"""An animation of a kind that nobody knows."""
UP_Z = np.array([[0, 0, 1]] * 3, dtype="<f4")


def glb(document: dict[str, Any], binary: bytes = b"", *, further: bytes = b"") -> bytes:
    """A GLB of a JSON document and its binary chunk."""
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    binary += b"\0" * (-len(binary) % 4)
    chunks = struct.pack("<I4s", len(text), b"JSON") + text
    if binary:
        chunks += struct.pack("<I4s", len(binary), b"BIN\0") + binary
    chunks += further
    return struct.pack("<4sII", b"glTF", 2, 12 + len(chunks)) + chunks


def triangle_document(**more: Any) -> tuple[dict[str, Any], bytes]:
    """A document with one triangle: POSITION, NORMAL, uint16 indices, in that order in one buffer."""
    binary = TRIANGLE.tobytes() + UP_Z.tobytes() + np.array([0, 1, 2, 0], dtype="<u2").tobytes()
    document: dict[str, Any] = {
        "asset": {"version": "2.0", "extras": {"from": "Fenwick"}},
        "scene": 0,
        "scenes": [{"nodes": [0]}],
        "nodes": [{"name": "sign", "mesh": 0}],
        "meshes": [
            {"name": "sign", "primitives": [{"attributes": {"POSITION": 0, "NORMAL": 1}, "indices": 2}]},
        ],
        "accessors": [
            {
                "bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
                "min": [0, 0, 0], "max": [1, 2, 0],
            },
            {"bufferView": 1, "componentType": 5126, "count": 3, "type": "VEC3"},
            {"bufferView": 2, "componentType": 5123, "count": 3, "type": "SCALAR"},
        ],
        "bufferViews": [
            {"buffer": 0, "byteOffset": 0, "byteLength": 36},
            {"buffer": 0, "byteOffset": 36, "byteLength": 36},
            {"buffer": 0, "byteOffset": 72, "byteLength": 6},
        ],
        "buffers": [{"byteLength": 80}],
        **more,
    }  # fmt: skip
    return document, binary


def write_glb(path: Path, document: dict[str, Any], binary: bytes) -> Path:
    path.write_bytes(glb(document, binary))
    return path


def write_gltf(path: Path, document: dict[str, Any], binary: bytes, *, embedded: bool = False) -> Path:
    """A text glTF, its buffer inside or beside it."""
    if embedded:
        uri = "data:application/octet-stream;base64," + base64.b64encode(binary).decode()
    else:
        uri = "sign data.bin"
        (path.parent / uri).write_bytes(binary)
        uri = uri.replace(" ", "%20")
    document = {**document, "buffers": [{"byteLength": len(binary), "uri": uri}]}
    path.write_text(json.dumps(document, indent=2) + "\n")
    return path


def opened(data: bytes) -> tuple[dict[str, Any], bytes]:
    """The JSON and the binary chunk of a GLB, checked for being well formed."""
    magic, version, total = struct.unpack_from("<4sII", data)
    assert (magic, version, total) == (b"glTF", 2, len(data))
    size, kind = struct.unpack_from("<I4s", data, 12)
    assert kind == b"JSON"
    assert size % 4 == 0
    document = json.loads(data[20 : 20 + size])
    rest = data[20 + size :]
    if not rest:
        return document, b""
    size, kind = struct.unpack_from("<I4s", rest)
    assert kind == b"BIN\0"
    return document, rest[8 : 8 + size]


def accessor(document: dict[str, Any], binary: bytes, index: int) -> np.ndarray[Any, Any]:
    """The elements of a float or index accessor, read the plain way."""
    item = document["accessors"][index]
    view = document["bufferViews"][item["bufferView"]]
    dtype = {5126: "<f4", 5121: "u1", 5122: "<i2", 5123: "<u2", 5125: "<u4"}[item["componentType"]]
    width = {"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4}[item["type"]]
    size = np.dtype(dtype).itemsize * width
    start = view.get("byteOffset", 0) + item.get("byteOffset", 0)
    stride = view.get("byteStride", size)
    rows = [binary[start + k * stride : start + k * stride + size] for k in range(item["count"])]
    return np.frombuffer(b"".join(rows), dtype=dtype).reshape(-1, width)


def stl_binary(triangles: np.ndarray[Any, Any], header: bytes = b"made", attributes: int = 7) -> bytes:
    """A binary STL of corners, shape (N, 3, 3)."""
    out = header.ljust(80, b"\0") + struct.pack("<I", len(triangles))
    for corners in np.asarray(triangles, dtype="<f4"):
        normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
        normal = normal / np.linalg.norm(normal)
        out += normal.astype("<f4").tobytes() + corners.tobytes() + struct.pack("<H", attributes)
    return out


def laid_out(*arrays: np.ndarray[Any, Any], **more: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
    """The accessors, views and buffer of a document for arrays, shape (count, width), one behind the other.

    Names in `more` are added to the accessor of that number: `a1={"normalized": True}`.
    """
    kinds = {"f4": 5126, "u1": 5121, "u2": 5123, "u4": 5125, "i1": 5120, "i2": 5122}
    types = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4", 16: "MAT4"}
    accessors, views, binary = [], [], b""
    for k, values in enumerate(arrays):
        rows = np.asarray(values).reshape(len(values), -1)
        binary += b"\0" * (-len(binary) % 4)
        size = rows.dtype.itemsize * rows.shape[1]
        item = {"bufferView": k, "componentType": kinds[rows.dtype.str[1:]], "count": len(rows)}
        item |= {"type": types[rows.shape[1]], "min": rows.min(axis=0).tolist(), "max": rows.max(axis=0).tolist()}
        accessors.append(item | more.get(f"a{k}", {}))
        views.append({"buffer": 0, "byteOffset": len(binary), "byteLength": size * len(rows)})
        binary += rows.tobytes()
    return {"accessors": accessors, "bufferViews": views, "buffers": [{"byteLength": len(binary)}]}, binary
