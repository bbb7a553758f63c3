"""An edited glTF document laid out as files: JSON with its buffers beside it, or one GLB."""

from __future__ import annotations

import base64
import json
import re
from typing import Any
from urllib.parse import quote, unquote

import numpy as np
from numpy.typing import NDArray

from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.shared.model_file import Chunk, Companion

__all__ = ["glb_pieces", "json_bytes", "packed"]

_HALVES = re.compile("[\ud800-\udfff]")


def packed(
    document: GltfDocument,
    edited: dict[str, Any],
    copies: dict[int, NDArray[np.uint8]],
    appended: list[NDArray[Any]],
    home: int,
    *,
    binary: bool,
) -> tuple[tuple[Chunk, ...], tuple[Companion, ...]]:
    """Return the file's pieces, and the buffers that go with it.

    `edited` is the new JSON, whose buffers this gives their length and place; `copies` the buffers that were written
    in; `appended` what follows the buffer `home`; `binary` asks for a GLB, whatever the source was.
    """
    companions: list[Companion] = []
    chunk: tuple[Chunk, ...] | None = None
    for i, buffer in enumerate(document.buffers):
        touched = i in copies or (i == home and appended)
        pieces: tuple[Chunk, ...] = (copies.get(i, buffer.data),)
        if i == home:
            pieces = (*pieces, *appended)
        if touched:
            edited["buffers"][i]["byteLength"] = max(
                edited["buffers"][i]["byteLength"], sum(_measure_piece(p) for p in pieces) if appended else 0
            )
        becomes_chunk = i == 0 and not document.wrapping.binary and not buffer.is_absent
        if binary and (buffer.is_bin or becomes_chunk):
            edited["buffers"][i].pop("uri", None)
            chunk = pieces
        elif buffer.is_bin:
            name = _companion_name(document, i)
            edited["buffers"][i]["uri"] = quote(name)
            companions.append(Companion(path=name, chunks=pieces))
        elif buffer.companion is not None and not touched:
            name = unquote(buffer.companion)
            companions.append(Companion(path=name, source=document.folder / name))
        elif touched and not binary and str(edited["buffers"][i].get("uri", "")).startswith("data:"):
            # What came inside stays inside.
            whole = b"".join(bytes(np.ascontiguousarray(p).view(np.uint8)) for p in pieces)
            edited["buffers"][i]["uri"] = "data:application/octet-stream;base64," + base64.b64encode(whole).decode()
        elif touched:
            name = _companion_name(document, i)
            edited["buffers"][i]["uri"] = quote(name)
            companions.append(Companion(path=name, chunks=pieces))
    if appended and not document.buffers:
        edited["buffers"][0]["byteLength"] = sum(a.nbytes for a in appended)
        chunk = tuple(appended)
        if not binary:
            name = _companion_name(document, 0)
            edited["buffers"][0]["uri"] = quote(name)
            companions.append(Companion(path=name, chunks=chunk))
    pieces = glb_pieces(edited, chunk, document.wrapping.further_chunks) if binary else (_make_text(edited, document),)
    return pieces, tuple(companions)


def _companion_name(document: GltfDocument, index: int) -> str:
    stem = document.file.rsplit("/", 1)[-1]
    number, name = 0, f"{stem}.{index}.bin" if index else f"{stem}.bin"
    while (document.folder / name).exists():
        number += 1
        name = f"{stem}.{index}.{number}.bin"
    return name


def _measure_piece(piece: Chunk) -> int:
    return piece.nbytes if isinstance(piece, np.ndarray | memoryview) else len(piece)


def _make_text(document: dict[str, Any], source: GltfDocument) -> bytes:
    indent = source.wrapping.indent
    separators = (",", ":") if indent is None else (",", ": ")
    text = json.dumps(document, indent=indent, separators=separators, ensure_ascii=False, allow_nan=False)
    return json_bytes(text) + (b"\n" if source.wrapping.newline_at_end else b"")


def glb_pieces(document: dict[str, Any], binary: tuple[Chunk, ...] | None, rest: bytes) -> tuple[Chunk, ...]:
    """Lay out a GLB (specification, 4.4): header, JSON chunk padded with spaces, binary chunk with zeros."""
    text = json_bytes(json.dumps(document, separators=(",", ":"), ensure_ascii=False, allow_nan=False))
    text += b" " * (-len(text) % 4)
    chunks: list[Chunk] = [len(text).to_bytes(4, "little") + b"JSON", text]
    if binary is not None:
        size = sum(_measure_piece(p) for p in binary)
        padding = -size % 4
        chunks += [(size + padding).to_bytes(4, "little") + b"BIN\0", *binary, b"\0" * padding]
    chunks.append(rest)
    total = 12 + sum(_measure_piece(c) for c in chunks)
    return (b"glTF" + (2).to_bytes(4, "little") + total.to_bytes(4, "little"), *chunks)


def json_bytes(text: str) -> bytes:
    """Return JSON text as UTF-8; half a character in a name stands as JSON's own escape, as it came."""
    return _HALVES.sub(lambda half: f"\\u{ord(half[0]):04x}", text).encode()
