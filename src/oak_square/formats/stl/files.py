"""STL, binary and ASCII: triangles only; declares neither unit nor axes.

Binary (the de facto layout): 80 bytes of header, a uint32 count, then 50 bytes a triangle: normal, three corners,
two bytes of attributes. Header and attributes survive. In ASCII every `solid` is a part, and only numbers change.
"""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.checked import readonly
from oak_square.core.errors import BadFile
from oak_square.core.frames import Reading
from oak_square.core.reshaping import facets_now
from oak_square.core.scene import Asset, Mesh, Surface
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import Entry
from oak_square.formats.shared.change import Change
from oak_square.formats.shared.model_file import Format, Received, Written, checked_size, count_not_finite, registered
from oak_square.formats.shared.plain import PlainScene, flat_parts, merged
from oak_square.formats.shared.text_edit import as_it_came, in_utf8, spliced, triples_in
from oak_square.formats.shared.unframed import lost_pivots, mesh_changes, unframed_asset
from oak_square.formats.stl import STL

__all__ = ["Stl"]

_TRIANGLE = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("attribute", "<u2")])
_HEADER = 84
_NUMBER = rb"[-+]?(?:\d+\.?\d*(?:[eE][-+]?\d+)?|\.\d+(?:[eE][-+]?\d+)?|nan|inf(?:inity)?)"
_LINE = re.compile(
    rb"^[ \t]*(?:(?P<word>facet[ \t]+normal|vertex)(?P<numbers>(?:[ \t]+" + _NUMBER + rb"){3})[ \t]*\r?$"
    rb"|(?P<solid>solid)\b[ \t]*(?P<name>[^\r\n]*))",
    re.MULTILINE | re.IGNORECASE,
)
_BARE_FACET = re.compile(
    rb"^[ \t]*facet\b(?![ \t]+normal(?:[ \t]+" + _NUMBER + rb"){3}[ \t]*\r?$)", re.MULTILINE | re.I
)
# Many binary files start with the word too; text goes on with a facet, or ends.
_TEXT_START = re.compile(rb"\s*solid\b[^\n]*\r?\n?\s*(facet|endsolid)\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Binary:
    data: NDArray[np.uint8]
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class _Text:
    data: bytes
    spans: NDArray[np.int64]  # (lines, 2): where each run of three numbers starts and ends
    values: NDArray[np.float64]  # (lines, 3)
    is_vertex: NDArray[np.bool_]  # (lines,)
    solids: NDArray[np.int64]  # first vertex row of each solid
    encoding: str = "utf-8"


@registered
class Stl(Format):
    """STL files."""

    entry: ClassVar[Entry] = STL
    declares: ClassVar[bool] = False
    holds: ClassVar[tuple[str, ...]] = ()

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`; ASCII is told from binary by length and first facet, not by its first word."""
        size = checked_size(path, file, limits)
        with path.open("rb") as stream:
            head, more = stream.read(_HEADER), stream.read(_HEADER * 4)
        start = in_utf8(head + more)[0]
        count = int.from_bytes(head[80:84], "little") if len(head) == _HEADER else 0
        fits = len(head) == _HEADER and _HEADER + count * _TRIANGLE.itemsize <= size
        exact = fits and _HEADER + count * _TRIANGLE.itemsize == size
        if not exact and _TEXT_START.match(start):
            parts, carrier = _read_text(path, file, limits)
            return Received(asset=unframed_asset(self, file, parts), carrier=carrier)
        there = max(0, size - _HEADER) // _TRIANGLE.itemsize
        if not fits or there > count:
            what = say("is damaged") if fits else say("is cut short or no STL")
            raise BadFile(
                file,
                say(
                    "{what}: it declares {count} triangles and has bytes for {there}",
                    what=what,
                    count=count,
                    there=there,
                ),
            )
        parts, binary = _read_binary(path, file, count, limits)
        return Received(asset=unframed_asset(self, file, parts), carrier=binary)

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the file with its corners, normals and winding rewritten."""
        changes, lost = mesh_changes(received.asset, asset, reading), lost_pivots(self, asset)
        if all(change.is_none for change in changes):
            return Written(chunks=None, warnings=lost)
        carrier = received.carrier
        pieces = _binary_out(carrier, changes[0]) if isinstance(carrier, _Binary) else _text_out(carrier, changes)
        return Written(chunks=pieces, warnings=lost)

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return the normals of each part's triangles."""
        carrier = received.carrier
        if isinstance(carrier, _Binary):
            rows = carrier.data[_HEADER : _HEADER + carrier.count * _TRIANGLE.itemsize].view(_TRIANGLE)["normal"]
            return {0: (Attached(what="normals", kind="normal", values=rows, of="faces"),)} if carrier.count else {}
        normals = carrier.values[~carrier.is_vertex]
        bounds = [*(carrier.solids // 3).tolist(), len(normals)]
        return {
            k: (Attached(what="normals", kind="normal", values=normals[a:b], of="faces"),)
            for k, (a, b) in enumerate(pairwise(bounds))
        }

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return what a file says beside its numbers: its header and attributes, or its words."""
        carrier = received.carrier
        if isinstance(carrier, _Binary):
            end = _HEADER + carrier.count * _TRIANGLE.itemsize
            attributes = carrier.data[_HEADER:end].view(_TRIANGLE)["attribute"]
            return {
                "header": carrier.data[:_HEADER].tobytes(),
                "attributes": hashlib.sha256(np.ascontiguousarray(attributes).tobytes()).hexdigest(),
                "further bytes": carrier.data[end:].tobytes(),
            }
        inside = np.zeros(len(carrier.data) + 1, dtype=np.int8)
        inside[carrier.spans[:, 0]] = 1
        inside[carrier.spans[:, 1]] -= 1
        words = np.frombuffer(carrier.data, dtype=np.uint8)[np.cumsum(inside)[:-1] == 0]
        return {"words": hashlib.sha256(words.tobytes()).hexdigest()}

    def make(self, scene: PlainScene) -> Written:
        """Return a binary file of all triangles."""
        plain = merged(flat_parts(scene))
        rows = np.zeros(len(plain.triangles), dtype=_TRIANGLE)
        rows["corners"] = plain.points[plain.triangles]
        sides = rows["corners"].astype(np.float64)
        normals = np.cross(sides[:, 1] - sides[:, 0], sides[:, 2] - sides[:, 0])
        lengths = np.linalg.norm(normals, axis=1, keepdims=True)
        rows["normal"] = normals / np.where(lengths > 0, lengths, 1.0)
        head = b"Oak Square".ljust(80, b"\0") + len(rows).to_bytes(4, "little")
        return Written(chunks=(head, rows.view(np.uint8).reshape(-1)))


def _make_mesh(name: str, points: NDArray[Any]) -> Mesh:
    triangles = np.arange(len(points), dtype=np.uint32).reshape(-1, 3)
    return Mesh(
        name=name,
        points=points,
        triangles=triangles,
        surfaces=(Surface(first=0, count=len(triangles)),),
        not_finite=count_not_finite([points]),
    )


def _read_binary(path: Path, file: str, count: int, limits: Limits) -> tuple[list[Mesh], _Binary]:
    if count > limits.triangles:
        raise BadFile(
            file,
            say("declares {count} triangles, over the limit of {triangles}", count=count, triangles=limits.triangles),
        )
    data = readonly(np.fromfile(path, dtype=np.uint8))
    rows = data[_HEADER : _HEADER + count * _TRIANGLE.itemsize].view(_TRIANGLE)
    points = rows["corners"].reshape(-1, 3)
    parts = [_make_mesh(path.stem, points)] if count else []
    return parts, _Binary(data=data, count=count)


def _make_facets(change: Change, normals: NDArray[Any]) -> NDArray[np.float64]:
    return change.normals(normals if change.shaped is None else facets_now(change.shaped, normals))


def _binary_out(carrier: _Binary, change: Change) -> tuple[Any, ...]:
    end = _HEADER + carrier.count * _TRIANGLE.itemsize
    old = carrier.data[_HEADER:end].view(_TRIANGLE)
    new = old.copy()
    new["corners"] = change.points(old["corners"].reshape(-1, 3)).reshape(-1, 3, 3)
    if change.mirrors:
        new["corners"] = new["corners"][:, [0, 2, 1]]
    new["normal"] = _make_facets(change, old["normal"])
    return (carrier.data[:_HEADER], new.view(np.uint8).reshape(-1), carrier.data[end:])


def _read_text(path: Path, file: str, limits: Limits) -> tuple[list[Mesh], _Text]:
    data, encoding = in_utf8(path.read_bytes())
    spans, numbers, is_vertex, names, starts = [], [], [], [], []
    vertices = 0
    for match in _LINE.finditer(data):
        if match["solid"]:
            names.append(match["name"].decode("utf-8", "replace").strip() or path.stem)
            starts.append(vertices)
            continue
        vertex = match["word"][:1] in b"vV"
        spans.append(match.span("numbers"))
        numbers.append(match["numbers"])
        is_vertex.append(vertex)
        vertices += vertex
    kinds = np.array(is_vertex, dtype=bool)
    facets = int((~kinds).sum()) if len(kinds) else 0
    if b"endsolid" not in data[-400:].lower():
        raise BadFile(
            file, say("is cut short: it ends without 'endsolid', after {vertices} vertices", vertices=vertices)
        )
    if vertices % 3 or facets * 3 != vertices:
        bare = _BARE_FACET.search(data)
        if bare is not None:
            line = data.count(b"\n", 0, bare.start()) + 1
            raise BadFile(file, say("line {line}: a facet without the three numbers of its normal", line=line))
        raise BadFile(
            file,
            say(
                "is damaged: its {facets} facets have {vertices} vertices between them, not three each",
                facets=facets,
                vertices=vertices,
            ),
        )
    if vertices > limits.vertices:
        raise BadFile(
            file,
            say(
                "has {vertices} vertices, over the limit of {vertices_2}", vertices=vertices, vertices_2=limits.vertices
            ),
        )
    values = np.array(b" ".join(numbers).split(), dtype=np.float64).reshape(-1, 3)
    points = values[kinds]
    ends = [*starts[1:], vertices]
    parts = [_make_mesh(n, points[a:b]) for n, a, b in zip(names, starts, ends, strict=True) if b > a]
    kept = np.array([a for a, b in zip(starts, ends, strict=True) if b > a], dtype=np.int64)
    carrier = _Text(
        data=data,
        spans=np.array(spans, dtype=np.int64).reshape(-1, 2),
        values=values,
        is_vertex=kinds,
        solids=kept,
        encoding=encoding,
    )
    return parts, carrier


def _text_out(carrier: _Text, changes: list[Change]) -> tuple[bytes, ...]:
    values = carrier.values.copy()
    vertex_rows = np.flatnonzero(carrier.is_vertex)
    normal_rows = np.flatnonzero(~carrier.is_vertex)
    ends = [*carrier.solids[1:], len(vertex_rows)]
    for change, start, end in zip(changes, carrier.solids, ends, strict=True):
        rows = vertex_rows[start:end]
        corners = change.points(carrier.values[rows])
        if change.mirrors:
            corners = corners.reshape(-1, 3, 3)[:, [0, 2, 1]].reshape(-1, 3)
        values[rows] = corners
        rows = normal_rows[start // 3 : end // 3]
        values[rows] = _make_facets(change, carrier.values[rows])
    rows = np.flatnonzero((values != carrier.values).any(axis=1))
    # A span begins with the blank before its numbers.
    edits = triples_in(carrier.data, carrier.spans[rows, 0] + 1, carrier.spans[rows, 1], values[rows], 9)
    out = spliced(carrier.data, *edits)
    return (as_it_came(out, carrier.encoding),)
