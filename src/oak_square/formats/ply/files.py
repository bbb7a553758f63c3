"""PLY, text and binary of either byte order: edited in place; declares neither unit nor axes.

Only the numbers of positions and normals change, and the order of a face's corners where a mirror turns it inside out.
Every other element and property, the comments and the types stay as they are.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.checked import readonly
from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import Reading
from oak_square.core.reshaping import normals_at_points
from oak_square.core.scene import Asset, Faces, Mesh, Surface
from oak_square.core.tolerances import WHOLE_NUMBER
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.ply import PLY
from oak_square.formats.ply.layout import Header, Numbers, Table, parse_header, tables_of
from oak_square.formats.ply.making import made_ply
from oak_square.formats.register import Entry
from oak_square.formats.shared.change import Change
from oak_square.formats.shared.look import Image, Look, Texture
from oak_square.formats.shared.model_file import (
    Beside,
    Companion,
    Format,
    Received,
    Written,
    checked_size,
    count_not_finite,
    registered,
)
from oak_square.formats.shared.plain import Plain, PlainScene, plain_mesh, shaded
from oak_square.formats.shared.polygons import polygons_to_triangles, reversed_corners
from oak_square.formats.shared.text_edit import digits_of, nine_digits, spliced, token_spans
from oak_square.formats.shared.unframed import lost_pivots, mesh_changes, unframed_asset

__all__ = ["Ply"]

_FACES = ("vertex_indices", "vertex_index")
_UVS = (("s", "t"), ("u", "v"), ("texture_u", "texture_v"), ("tex_u", "tex_v"))
_COLOURS = ("red", "green", "blue")
_CORNER_LISTS = ("texcoord",)  # two numbers for each corner of a face


@dataclass(frozen=True, slots=True, kw_only=True)
class _PlyCarrier:
    data: NDArray[np.uint8]
    header: Header
    tables: dict[str, Table]
    source: Numbers
    folder: Path


@registered
class Ply(Format):
    """PLY files."""

    entry: ClassVar[Entry] = PLY
    declares: ClassVar[bool] = False
    could: ClassVar[tuple[str, ...]] = ("points and lines",)
    holds: ClassVar[tuple[str, ...]] = ("normals", "texture coordinates", "colours", "textures", "vertex colours")
    looks: ClassVar[tuple[str, ...]] = ("texture",)
    makes: ClassVar[tuple[str, ...]] = ("normals", "texture coordinates", "colours", "textures", "vertex colours")

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        data = readonly(np.fromfile(path, dtype=np.uint8))
        header = parse_header(bytes(data[:1_000_000]), file)
        tables, source = tables_of(data, header, file, limits)
        carrier = _PlyCarrier(data=data, header=header, tables=tables, source=source, folder=path.parent)
        vertices = tables.get("vertex")
        if vertices is not None and vertices.element.count and not vertices.stride:
            raise BadFile(file, say("has vertices with lists of uneven lengths, which are not read"))
        points = _columns(carrier, "vertex", ("x", "y", "z"))
        if points is None:
            raise BadFile(file, say("has no vertices with x, y and z"))
        triangles, wide = _triangles(carrier, points, file, limits)
        mesh = Mesh(
            name=path.stem,
            points=points,
            triangles=triangles,
            surfaces=(Surface(first=0, count=len(triangles)),),
            normals=_columns(carrier, "vertex", ("nx", "ny", "nz")),
            strokes=((0, len(points)),) if len(points) and not len(triangles) else (),
            not_finite=count_not_finite([points]),
            faces=wide,
        )
        beside = Beside(path.parent, file)
        textures = _textures(header, beside)
        asset = replace(unframed_asset(self, file, [mesh], _carries(carrier, textures)), astray=tuple(beside.astray))
        return Received(asset=asset, carrier=carrier, companions=textures)

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the file with the numbers of its positions and normals rewritten."""
        carrier: _PlyCarrier = received.carrier
        (change,) = mesh_changes(received.asset, asset, reading)
        lost = lost_pivots(self, asset)
        companions = tuple(Companion(path=t, source=carrier.folder / t) for t in received.companions)
        if change.is_none:
            return Written(chunks=None, companions=companions, warnings=lost)
        edits = _number_edits(carrier, change)
        if change.mirrors:
            edits += _corner_edits(carrier)
        piece = _in_binary(carrier, edits) if carrier.header.order else _in_text(carrier, edits)
        return Written(chunks=(piece,), companions=companions, warnings=lost)

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return every column of its vertices but their positions, and the texture coordinates of its corners."""
        carrier: _PlyCarrier = received.carrier
        normals, rows = _columns(carrier, "vertex", ("nx", "ny", "nz")), list[Attached]()
        if normals is not None:
            rows.append(Attached(what="normals", kind="normal", values=normals))
        for column in carrier.tables["vertex"].element.properties:
            if column.count_kind is None and column.name not in {"x", "y", "z", "nx", "ny", "nz"}:
                values = _columns(carrier, "vertex", (column.name,))
                rows += [] if values is None else [Attached(what=f"'{column.name}'", kind="kept", values=values)]
        return {0: tuple(rows)}

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return its header, and every column and list that is none of its vertices or of its faces' corners."""
        carrier: _PlyCarrier = received.carrier
        found = {**super().belongings(received), "header": carrier.data[: carrier.header.end].tobytes()}
        for element, table in carrier.tables.items():
            for column in table.element.properties:
                if column.count_kind is None and element != "vertex":
                    values = _plain_values(carrier, table, column.name)
                elif column.count_kind is not None and not (element == "face" and column.name in _FACES):
                    values = _list_items(carrier, table, column.name)
                else:
                    continue
                found[f"{element} {column.name}"] = None if values is None else _digest_of(values)
        return found

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its mesh with texture coordinates and vertex colours."""
        carrier: _PlyCarrier = received.carrier
        image = None
        if received.companions:
            path = carrier.folder / received.companions[0]
            image = Image(name=path.name, path=path)
        plain = plain_mesh(
            asset.mesh_of(0),
            None if image is None else {-1: Look(name="look", colour=(1, 1, 1), texture=Texture(image=image))},
        )
        uvs = next((u for names in _UVS if (u := _columns(carrier, "vertex", names)) is not None), None)
        colours = _columns(carrier, "vertex", _COLOURS)
        if colours is not None and carrier.tables["vertex"].kind("red")[0] != "f":
            colours = colours / np.iinfo(carrier.tables["vertex"].kind("red")).max
        place = asset.nodes[0].mesh
        assert place is not None
        return {place: shaded(replace(plain, uvs=uvs), colours)}

    def make(self, scene: PlainScene) -> Written:
        """Return a little-endian file of all vertices and triangles."""
        return made_ply(scene)


def _carries(carrier: _PlyCarrier, textures: tuple[str, ...]) -> tuple[str, ...]:
    columns = {p.name for p in carrier.tables["vertex"].element.properties}
    there = {
        "texture-coordinates": any(set(names) <= columns for names in _UVS),
        "textures": bool(textures),
        "vertex-colours": set(_COLOURS) <= columns,
    }
    return tuple(k for k, v in there.items() if v)


def _textures(header: Header, beside: Beside) -> tuple[str, ...]:
    """Return the texture that a comment names, as many programs write it, where it is there."""
    names = [c.split(None, 1)[1] for c in header.comments if c.lower().startswith("texturefile ")]
    return tuple(dict.fromkeys(found for n in names if (found := beside.name(n)) is not None))


def _columns(carrier: _PlyCarrier, element: str, names: tuple[str, ...]) -> NDArray[Any] | None:
    """Return columns of an element side by side, shape (rows, names); None where it lacks one."""
    table = carrier.tables.get(element)
    plain = {p.name for p in table.element.properties if p.count_kind is None} if table is not None else set()
    if table is None or not set(names) <= plain:
        return None
    kinds = {table.kind(n) for n in names}
    dtype = np.dtype("f4") if kinds == {"f4"} else np.dtype("f8")
    size = carrier.source.size(table.kind(names[0]))
    offsets = [table.offsets.get(name, 0) for name in names]
    if len(kinds) == 1 and offsets == [offsets[0] + k * size for k in range(len(names))]:
        kind, first = table.kind(names[0]), table.start + offsets[0]
        beside: NDArray[Any] = carrier.source.grid(first, table.stride, table.element.count, len(names), kind)
        return beside.astype(dtype)
    found = np.empty((table.element.count, len(names)), dtype=dtype)
    for k, name in enumerate(names):
        at = table.start + table.offsets.get(name, 0)
        found[:, k] = carrier.source.grid(at, table.stride, table.element.count, 1, table.kind(name))[:, 0]
    return found


def _plain_values(carrier: _PlyCarrier, table: Table, name: str) -> NDArray[Any] | None:
    """Return a property that is no list, row by row, wherever lists before it make it stand."""
    if table.stride or not table.element.count:
        return _columns(carrier, table.element.name, (name,))
    at = table.begins
    for column in table.element.properties:
        if column.name == name:
            break
        if column.count_kind is None:
            at = at + carrier.source.size(column.kind)
        else:
            own = table.lists[column.name]
            at = own.starts + own.counts * carrier.source.size(column.kind)
    found: NDArray[Any] = carrier.source.at(at, table.kind(name))
    return found


def _list_items(carrier: _PlyCarrier, table: Table, name: str) -> NDArray[Any]:
    """Return the numbers of a list property, those of each row in order of size: a mirror turns a face's corners."""
    kind, counts = table.kind(name), table.lists[name].counts
    values = carrier.source.at(_find_list_starts(carrier, table, name, 1), kind).astype(np.float64)
    order = np.lexsort((values, np.repeat(np.arange(len(counts)), counts)))
    return np.concatenate([counts.astype(np.float64), values[order]])


def _digest_of(values: NDArray[Any]) -> str:
    return hashlib.sha256(np.ascontiguousarray(values).tobytes()).hexdigest()


def _find_face_list(carrier: _PlyCarrier) -> tuple[str, NDArray[np.int64]] | None:
    """Return the name of the list of a face's corners, and each face's count."""
    table = carrier.tables.get("face")
    name = next((n for n in _FACES if table is not None and n in table.lists), None)
    return None if table is None or name is None else (name, table.lists[name].counts)


def _check_no_faces(carrier: _PlyCarrier, file: str) -> None:
    """Make sure that a file without faces that are known has none: a name spoilt in its header is not the end of them.

    Raises
    ------
    BadFile
        With the rows that seem to be faces.
    """
    for name, table in carrier.tables.items():
        known = set(_FACES) & set(table.lists)
        if table.element.count and (name in {"face", "tristrips"} or known):
            what = (
                say("a list called '{next}'", next=next(iter(known)))
                if known
                else say("no list called '{_face}'", _face=_FACES[0])
            )
            raise BadFile(
                file,
                say(
                    "has {count} rows of '{name}' with {what}: its faces can't be told",
                    count=table.element.count,
                    name=name[:40],
                    what=what,
                ),
            )


def _triples(carrier: _PlyCarrier, table: Table, name: str) -> NDArray[np.uint32] | None:
    """Return faces that are all triangles, the usual case, in one go; None where some are not. Below 0 is far above."""
    own = table.lists[name]
    if not table.stride or not len(own.counts) or own.counts[0] != 3:
        return None
    grid = carrier.source.grid(int(own.starts[0]), table.stride, len(own.counts), 3, table.kind(name))
    return grid.astype(np.int64 if grid.dtype.kind == "f" else grid.dtype.newbyteorder("=")).astype(np.uint32)


def _items(carrier: _PlyCarrier, table: Table, name: str) -> NDArray[np.int64]:
    """Return the whole numbers of a list property, lists in a row."""
    own, kind = table.lists[name], table.kind(name)
    if table.stride and len(own.counts):
        grid = carrier.source.grid(int(own.starts[0]), table.stride, len(own.counts), int(own.counts[0]), kind)
        return grid.astype(np.int64).ravel()
    found: NDArray[np.int64] = carrier.source.at(_find_list_starts(carrier, table, name, 1), kind).astype(np.int64)
    return found


def _find_list_starts(carrier: _PlyCarrier, table: Table, name: str, each: int) -> NDArray[np.int64]:
    """Return where every `each` items of a list property start, lists in a row."""
    own = table.lists[name]
    counts = own.counts // each
    size = carrier.source.size(table.kind(name)) * each
    first = np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64)
    step = np.arange(int(counts.sum())) - np.repeat(first, counts)
    found: NDArray[np.int64] = np.repeat(own.starts, counts) + step * size
    return found


def _triangles(
    carrier: _PlyCarrier, points: NDArray[Any], file: str, limits: Limits
) -> tuple[NDArray[np.uint32], Faces | None]:
    """Return the triangles, and the faces they were cut from where some are wider."""
    vertices, faces = len(points), _find_face_list(carrier)
    if faces is None:
        strips = carrier.tables.get("tristrips")
        if strips is None or "vertex_indices" not in strips.lists:
            _check_no_faces(carrier, file)
            return np.empty((0, 3), dtype=np.uint32), None
        corners = _items(carrier, strips, "vertex_indices")
        rows = _strips(corners, strips.lists["vertex_indices"].counts)
    else:
        name, counts = faces
        if len(counts) and counts.min() == 0:
            # Bytes that are missing farther up are read on as the count of what comes after.
            raise BadFile(
                file, say("face {argmin} has no corners: the file is damaged", argmin=int(np.argmin(counts)) + 1)
            )
        if int(np.maximum(counts - 2, 0).sum()) > limits.triangles:
            raise BadFile(file, say("has over {triangles} triangles", triangles=limits.triangles))
        alike = _triples(carrier, carrier.tables["face"], name)
        if alike is not None and (not len(alike) or int(alike.max()) < vertices):
            return alike, None
        corners = _items(carrier, carrier.tables["face"], name)
        if len(corners) and (corners.min() < 0 or corners.max() >= vertices):
            worst = int(corners.max()) if corners.max() >= vertices else int(corners.min())
            raise BadFile(
                file,
                say(
                    "a face names vertex {worst}, which is not there (there are {vertices})",
                    worst=worst,
                    vertices=vertices,
                ),
            )
        return polygons_to_triangles(corners, counts, points), Faces.where_any_is_wide(corners, counts)
    if len(rows) and (rows.min() < 0 or rows.max() >= vertices):
        raise BadFile(file, say("a strip names a vertex that is not there (there are {vertices})", vertices=vertices))
    return rows.astype(np.uint32), None


def _strips(corners: NDArray[np.int64], counts: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return the triangles of strips, which -1 parts."""
    strip = np.repeat(np.arange(len(counts)), counts)
    whole = corners >= 0
    run = np.cumsum(np.concatenate([[0], (np.diff(strip) != 0) | ~whole[1:] | ~whole[:-1]])) if len(corners) else strip
    same = (run[2:] == run[:-2]) & whole[2:] if len(corners) > 2 else np.zeros(0, dtype=bool)
    first = np.flatnonzero(same)
    starts = np.searchsorted(run, run[first])
    odd = (first - starts) % 2 == 1
    rows = np.stack([corners[first], corners[first + 1], corners[first + 2]], axis=1)
    rows[odd] = rows[odd][:, [1, 0, 2]]
    flat = (rows[:, 0] == rows[:, 1]) | (rows[:, 1] == rows[:, 2]) | (rows[:, 0] == rows[:, 2])
    found: NDArray[np.int64] = rows[~flat]
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class _PlyEdit:
    """Numbers of one type to be put into rows that are alike, shape (rows, width), or at places, shape (numbers,)."""

    values: NDArray[Any]
    kind: str
    first: int = 0
    stride: int = 0
    places: NDArray[np.int64] | None = None
    digits: int = 9


def _number_edits(carrier: _PlyCarrier, change: Change) -> list[_PlyEdit]:
    table = carrier.tables["vertex"]
    edits = []
    for names in (("x", "y", "z"), ("nx", "ny", "nz")):
        old = _columns(carrier, "vertex", names)
        if old is None:
            continue
        if names[0] == "x":
            new = change.points(old)
        else:
            new = change.normals(old if change.shaped is None else normals_at_points(change.shaped, old))
        rows = np.flatnonzero((new != old).any(axis=1))
        for k, name in enumerate(names):
            kind = table.kind(name)
            at = table.start + table.offsets[name]
            values = _fitting(new[:, k : k + 1], kind)
            if len(rows) == len(new):
                edits.append(_PlyEdit(values=values, kind=kind, first=at, stride=table.stride, digits=digits_of(old)))
            else:
                places = at + rows * table.stride
                edits.append(_PlyEdit(values=values[rows, 0], kind=kind, places=places, digits=digits_of(old)))
    return edits


def _fitting(values: NDArray[np.float64], kind: str) -> NDArray[Any]:
    """Return values in a column's own type.

    Raises
    ------
    Refused
        If it can't hold them.
    """
    if kind[0] == "f":
        return values.astype(kind)
    whole = np.rint(values)
    info = np.iinfo(kind)
    if (
        np.abs(values - whole).max(initial=0.0) > WHOLE_NUMBER
        or whole.min(initial=0) < info.min
        or whole.max(initial=0) > info.max
    ):
        raise Refused(say("its coordinates are whole numbers, and would no longer be"))
    return whole.astype(kind)


def _corner_edits(carrier: _PlyCarrier) -> list[_PlyEdit]:
    """Return the edits that wind every face the other way round, with what is given for each corner."""
    faces = _find_face_list(carrier)
    if faces is None:
        if "tristrips" in carrier.tables:
            raise Refused(say("its triangle strips can't be wound the other way round"))
        return []
    name, counts = faces
    table = carrier.tables["face"]
    edits = [_reverse_winding(carrier, table, name, counts, 1)]
    edits += [
        _reverse_winding(carrier, table, other, counts, 2)
        for other in _CORNER_LISTS
        if other in table.lists and (table.lists[other].counts == 2 * counts).all()
    ]
    return edits


def _reverse_winding(carrier: _PlyCarrier, table: Table, name: str, counts: NDArray[np.int64], each: int) -> _PlyEdit:
    """Return the edit that winds a list of every face the other way, `each` numbers for each corner."""
    kind, source = table.kind(name), carrier.source
    size, own = source.size(kind), table.lists[name]
    if table.stride and len(counts):
        width = int(own.counts[0])
        old = source.grid(int(own.starts[0]), table.stride, len(counts), width, kind)
        order = reversed_corners(np.array([width // each]))[:, None] * each + np.arange(each)
        values = old[:, order.ravel()].astype(kind)
        return _PlyEdit(values=values, kind=kind, first=int(own.starts[0]), stride=table.stride)
    places = _find_list_starts(carrier, table, name, each)[:, None] + np.arange(each) * size
    values = source.at(places[reversed_corners(counts)].ravel(), kind).astype(kind)
    return _PlyEdit(values=values, kind=kind, places=places.ravel())


def _in_binary(carrier: _PlyCarrier, edits: list[_PlyEdit]) -> NDArray[np.uint8]:
    data, order = carrier.data.copy(), carrier.header.order
    for edit in edits:
        size = np.dtype(edit.kind).itemsize
        if edit.places is None:
            np.ndarray(edit.values.shape, order + edit.kind, data, edit.first, (edit.stride, size))[:] = edit.values
            continue
        rows = np.ascontiguousarray(edit.values.astype(order + edit.kind)).view(np.uint8)
        data[edit.places[:, None] + np.arange(size)] = rows.reshape(-1, size)
    return data


def _in_text(carrier: _PlyCarrier, edits: list[_PlyEdit]) -> bytes:
    starts, ends = token_spans(carrier.data[carrier.header.end :])
    places, texts = [], list[bytes]()
    for edit in edits:
        at = edit.places
        if at is None:
            rows, width = edit.values.shape
            at = (edit.first + np.arange(rows)[:, None] * edit.stride + np.arange(width)).ravel()
        places.append(at)
        flat = edit.values.ravel()
        texts += [b"%d" % v for v in flat.tolist()] if edit.kind[0] != "f" else nine_digits(flat, digits=edit.digits)
    chosen, base = np.concatenate(places), carrier.header.end
    return spliced(carrier.data.tobytes(), starts[chosen] + base, ends[chosen] + base, texts)
