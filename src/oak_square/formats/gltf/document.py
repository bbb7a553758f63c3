"""A glTF document: its JSON, its buffers, and what stands between them and harm.

Follows the glTF 2.0 specification (Khronos Group, ISO/IEC 12113:2022), sections 3.6 (buffers, accessors) and 4
(binary container).
"""

from __future__ import annotations

import base64
import binascii
import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import readonly
from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.gltf.schema import trouble_of
from oak_square.formats.limits import Limits
from oak_square.formats.shared.model_file import Beside, checked_size, inside_folder

__all__ = ["Buffer", "GltfDocument", "open_document"]

Bytes = NDArray[np.uint8]
_GLB_MAGIC, _JSON_CHUNK, _BIN_CHUNK = 0x46546C67, 0x4E4F534A, 0x004E4942
_DEEPEST_JSON = 200
# Extensions without which a file is read wrongly, and that are read, or leave geometry and frames alone.
KNOWN_REQUIRED = frozenset(
    (
        "KHR_draco_mesh_compression", "EXT_meshopt_compression", "KHR_meshopt_compression", "KHR_mesh_quantization",
        "EXT_mesh_gpu_instancing", "KHR_texture_transform", "KHR_texture_basisu", "EXT_texture_webp",
        "EXT_texture_avif", "MSFT_texture_dds", "KHR_lights_punctual", "KHR_materials_anisotropy",
        "KHR_materials_clearcoat", "KHR_materials_diffuse_transmission", "KHR_materials_dispersion",
        "KHR_materials_emissive_strength", "KHR_materials_ior", "KHR_materials_iridescence",
        "KHR_materials_pbrSpecularGlossiness", "KHR_materials_sheen", "KHR_materials_specular",
        "KHR_materials_transmission", "KHR_materials_unlit", "KHR_materials_variants", "KHR_materials_volume",
        "KHR_node_visibility", "KHR_xmp_json_ld", "EXT_lights_image_based",
    )
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Buffer:
    """One buffer's bytes. `companion` is its file's reference, `is_bin` the GLB's own chunk.

    `is_absent` says that there are none: compressed geometry declares how long it would be.
    """

    data: Bytes
    companion: str | None = None
    is_bin: bool = False
    is_absent: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Wrapping:
    """What the JSON came in.

    Attributes
    ----------
    binary : bool
        A GLB.
    chunk : ndarray of uint8, or None
        A GLB's binary chunk.
    further_chunks : bytes
        Chunks of a GLB behind the two that are known, as they stand.
    indent : str or None
        How a text file is indented.
    newline_at_end : bool
    """

    binary: bool
    chunk: Bytes | None = None
    further_chunks: bytes = b""
    indent: str | None = None
    newline_at_end: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class GltfDocument:
    """A glTF file as read.

    Attributes
    ----------
    json : dict
        Never changed: writing works on a copy.
    buffers : tuple of Buffer
    wrapping : Wrapping
    textures : tuple of str
        Paths, from its folder, of the image files that are there.
    astray : tuple of str
        References that lead out of its folder.
    decoded : dict of int to ndarray
        What was decoded of compressed geometry, by accessor, shape (count, width).
    known : dict
        What was worked out of it and is asked for again and again, by who keeps it there.
    """

    file: str
    folder: Path
    json: dict[str, Any]
    buffers: tuple[Buffer, ...]
    wrapping: Wrapping
    textures: tuple[str, ...] = field(default=())
    astray: tuple[str, ...] = ()
    decoded: dict[int, NDArray[Any]] = field(default_factory=dict, repr=False)
    known: dict[Any, Any] = field(default_factory=dict, repr=False)

    def items(self, name: str) -> list[dict[str, Any]]:
        """Return a top-level list, empty when absent."""
        found: list[dict[str, Any]] = self.json.get(name, [])
        return found

    @property
    def unread(self) -> str:
        """Why some of what the file holds is not read: an extension that it can't be understood without."""
        required = self.json.get("extensionsRequired")
        unknown = [n for n in required if n not in KNOWN_REQUIRED] if isinstance(required, list) else []
        return (
            say("it requires the extension '{unknown}', which this version can't read", unknown=str(unknown[0])[:60])
            if unknown
            else ""
        )

    def fail(self, reason: str) -> BadFile:
        """Return the error that this file is wrong."""
        return BadFile(self.file, reason)


def open_document(path: Path, file: str, limits: Limits) -> GltfDocument:
    """Return the document at `path`: GLB by its magic, else JSON text.

    Raises
    ------
    BadFile
        If it is neither, or its JSON or buffers do not hold together.
    """
    size = checked_size(path, file, limits)
    with path.open("rb") as stream:
        head = stream.read(12)
        if len(head) == 12 and int.from_bytes(head[:4], "little") == _GLB_MAGIC:
            return _open_glb(readonly(np.fromfile(path, dtype=np.uint8)), path, file, limits)
        if path.suffix.lower() == ".glb":
            raise BadFile(file, say("is no GLB: it does not start with its mark"))
        if size > limits.text_bytes:
            raise BadFile(
                file,
                say("is {size} bytes of text, over the limit of {text_bytes}", size=size, text_bytes=limits.text_bytes),
            )
        text = head + stream.read()
    document = _parse_json(text, file)
    lines = text.decode("utf-8", "replace").split("\n", 2)
    indent = None
    if len(lines) > 1:
        blank = lines[1][: len(lines[1]) - len(lines[1].lstrip())]
        indent = blank or None
    wrapping = Wrapping(binary=False, indent=indent, newline_at_end=text.endswith(b"\n"))
    return _load_document(document, path, file, limits, wrapping)


def _open_glb(data: Bytes, path: Path, file: str, limits: Limits) -> GltfDocument:
    version, length = (int(v) for v in data[4:12].view("<u4"))
    if version != 2:
        raise BadFile(file, say("is GLB version {version}; version 2 is read", version=version))
    if length > len(data):
        raise BadFile(
            file, say("is cut short: it declares {length} bytes and has {count}", length=length, count=len(data))
        )
    at, chunks = 12, []
    while at + 8 <= length:
        size, kind = (int(v) for v in data[at : at + 8].view("<u4")) if at % 4 == 0 else (length, 0)
        if at + 8 + size > length:
            raise BadFile(file, say("is cut short: a chunk at byte {at} declares {size} bytes", at=at, size=size))
        chunks.append((kind, at + 8, size))
        at += 8 + size
    if not chunks or chunks[0][0] != _JSON_CHUNK:
        raise BadFile(file, say("is no GLB: its first chunk is not JSON"))
    if chunks[0][2] > limits.text_bytes:
        raise BadFile(
            file,
            say(
                "has {chunk} bytes of JSON, over the limit of {text_bytes}",
                chunk=chunks[0][2],
                text_bytes=limits.text_bytes,
            ),
        )
    document = _parse_json(data[chunks[0][1] : chunks[0][1] + chunks[0][2]].tobytes(), file)
    binary, further = None, 12 + 8 + chunks[0][2]
    if len(chunks) > 1 and chunks[1][0] == _BIN_CHUNK:
        binary = data[chunks[1][1] : chunks[1][1] + chunks[1][2]]
        further = chunks[1][1] + chunks[1][2]
    rest = data[further:length].tobytes()
    return _load_document(document, path, file, limits, Wrapping(binary=True, chunk=binary, further_chunks=rest))


def _parse_json(text: bytes, file: str) -> dict[str, Any]:
    def no_constant(word: str) -> float:
        raise ValueError(say("holds {word}, which is no JSON number", word=word))

    try:
        value = json.loads(text.rstrip(b"\0 ").decode("utf-8-sig"), parse_constant=no_constant)
    except RecursionError as error:
        raise BadFile(file, say("its JSON is nested too deeply")) from error
    except (ValueError, UnicodeDecodeError) as error:
        said = str(error).splitlines()[0]
        said = say("it holds a number of thousands of digits") if "digits" in said else said
        raise BadFile(file, say("its JSON can't be read: {said}", said=said)) from error
    if not isinstance(value, dict) or not isinstance(value.get("asset"), dict):
        raise BadFile(file, say("is no glTF: its JSON has no 'asset'"))
    version = str(value["asset"].get("version", ""))
    if not version.startswith("2."):
        raise BadFile(file, say("is glTF version '{version}'; version 2 is read", version=version))
    trouble = trouble_of(value)
    if trouble is not None:
        raise BadFile(file, say("its JSON is not of glTF's shape: {trouble}", trouble=trouble))
    return value


def _load_document(
    document: dict[str, Any],
    path: Path,
    file: str,
    limits: Limits,
    wrapping: Wrapping,
) -> GltfDocument:
    buffers = []
    for i, item in enumerate(document.get("buffers", [])):
        length = item.get("byteLength")
        if not isinstance(length, int) or isinstance(length, bool) or length < 0:
            raise BadFile(file, say("buffer {i} has no byteLength", i=i))
        buffer = _load_buffer(item, i, path, file, limits, wrapping.chunk)
        if len(buffer.data) < length:
            raise BadFile(
                file,
                say(
                    "buffer {i} is cut short: it declares {length} bytes and has {count}",
                    i=i,
                    length=length,
                    count=len(buffer.data),
                ),
            )
        buffers.append(buffer)
    return GltfDocument(
        file=file,
        folder=path.parent,
        json=document,
        buffers=tuple(buffers),
        wrapping=wrapping,
        textures=_list_textures(document, beside := Beside(path.parent, file)),
        astray=tuple(beside.astray),
    )


def _load_buffer(
    item: dict[str, Any], index: int, path: Path, file: str, limits: Limits, binary: Bytes | None
) -> Buffer:
    uri = item.get("uri")
    if uri is None:
        if index == 0 and binary is not None:
            return Buffer(data=binary, is_bin=True)
        if item["byteLength"] == 0:
            return Buffer(data=np.zeros(0, dtype=np.uint8))
        if {"EXT_meshopt_compression", "KHR_meshopt_compression"} & set(item.get("extensions", {})):
            return _make_absent_buffer(item, limits, file)
        raise BadFile(file, say("buffer {index} names no file and there is no binary chunk for it", index=index))
    if not isinstance(uri, str):
        raise BadFile(file, say("buffer {index} has a uri that is no text", index=index))
    if uri.startswith("data:"):
        return Buffer(data=_decode_uri(uri, file, index))
    target = inside_folder(path.parent, uri, file)
    if not target.is_file():
        raise BadFile(file, say("its buffer '{uri}' is not there", uri=uri))
    if checked_size(target, f"{file}: {uri}", limits) < item["byteLength"]:
        raise BadFile(
            file, say("its buffer '{uri}' is cut short: {item} bytes are declared", uri=uri, item=item["byteLength"])
        )
    return Buffer(data=readonly(np.fromfile(target, dtype=np.uint8)), companion=uri)


def _make_absent_buffer(item: dict[str, Any], limits: Limits, file: str) -> Buffer:
    """A fallback buffer of compressed geometry has a length and no bytes: it takes no memory until it is touched."""
    if item["byteLength"] > limits.file_bytes:
        raise BadFile(file, say("a buffer declares {item} bytes, over the limit", item=item["byteLength"]))
    return Buffer(data=np.broadcast_to(np.zeros(1, dtype=np.uint8), (item["byteLength"],)), is_absent=True)


def _decode_uri(uri: str, file: str, index: int) -> Bytes:
    head, comma, body = uri.partition(",")
    if not comma or not head.endswith(";base64"):
        raise BadFile(file, say("buffer {index} has a data URI that is not base64", index=index))
    try:
        return np.frombuffer(base64.b64decode(body, validate=True), dtype=np.uint8)
    except binascii.Error as error:
        raise BadFile(file, say("buffer {index} has a data URI that can't be decoded", index=index)) from error


def _list_textures(document: dict[str, Any], beside: Beside) -> tuple[str, ...]:
    """Return the image files that are there, by their paths from the file's folder."""
    uris = [image.get("uri") for image in document.get("images", [])]
    there = [u for u in uris if isinstance(u, str) and not u.startswith("data:")]
    found = [beside.name(uri, is_uri=True) for uri in there]
    return tuple(dict.fromkeys(name for name in found if name is not None))
