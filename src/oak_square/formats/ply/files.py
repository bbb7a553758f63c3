"""PLY, text and binary of either byte order: edited in place; declares neither unit nor axes.

Only the numbers of positions and normals change, and the order of a face's corners where a mirror turns it inside out.
Every other element and property, the comments and the types stay as they are.
"""

from __future__ import annotations

import hashlib
from dataclasses import replace
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.checked import readonly
from oak_square.core.errors import BadFile
from oak_square.core.frames import Reading
from oak_square.core.scene import Asset, Faces, Mesh, Surface
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.ply import PLY
from oak_square.formats.ply.carrier import FACE_LISTS, PlyCarrier, find_columns, find_face_list, find_list_starts
from oak_square.formats.ply.editing import corner_edits, number_edits, write_in_binary, write_in_text
from oak_square.formats.ply.layout import Header, Table, parse_header, tables_of
from oak_square.formats.ply.making import made_ply
from oak_square.formats.register import Entry
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
from oak_square.formats.shared.polygons import polygons_to_triangles
from oak_square.formats.shared.unframed import lost_pivots, mesh_changes, unframed_asset

__all__ = ["Ply"]

_UVS = (("s", "t"), ("u", "v"), ("texture_u", "texture_v"), ("tex_u", "tex_v"))
_COLOURS = ("red", "green", "blue")


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
        carrier = PlyCarrier(data=data, header=header, tables=tables, source=source, folder=path.parent)
        vertices = tables.get("vertex")
        if vertices is not None and vertices.element.count and not vertices.stride:
            raise BadFile(file, say("has vertices with lists of uneven lengths, which are not read"))
        points = find_columns(carrier, "vertex", ("x", "y", "z"))
        if points is None:
            raise BadFile(file, say("has no vertices with x, y and z"))
        triangles, wide = _read_triangles(carrier, points, file, limits)
        mesh = Mesh(
            name=path.stem,
            points=points,
            triangles=triangles,
            surfaces=(Surface(first=0, count=len(triangles)),),
            normals=find_columns(carrier, "vertex", ("nx", "ny", "nz")),
            strokes=((0, len(points)),) if len(points) and not len(triangles) else (),
            not_finite=count_not_finite([points]),
            faces=wide,
        )
        beside = Beside(path.parent, file)
        textures = _find_textures(header, beside)
        asset = replace(
            unframed_asset(self, file, [mesh], _list_what_it_carries(carrier, textures)), astray=tuple(beside.astray)
        )
        return Received(asset=asset, carrier=carrier, companions=textures)

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the file with the numbers of its positions and normals rewritten."""
        carrier: PlyCarrier = received.carrier
        (change,) = mesh_changes(received.asset, asset, reading)
        lost = lost_pivots(self, asset)
        companions = tuple(Companion(path=t, source=carrier.folder / t) for t in received.companions)
        if change.is_none:
            return Written(chunks=None, companions=companions, warnings=lost)
        edits = number_edits(carrier, change)
        if change.mirrors:
            edits += corner_edits(carrier)
        piece = write_in_binary(carrier, edits) if carrier.header.order else write_in_text(carrier, edits)
        return Written(chunks=(piece,), companions=companions, warnings=lost)

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return every column of its vertices but their positions, and the texture coordinates of its corners."""
        carrier: PlyCarrier = received.carrier
        normals, rows = find_columns(carrier, "vertex", ("nx", "ny", "nz")), list[Attached]()
        if normals is not None:
            rows.append(Attached(what="normals", kind="normal", values=normals))
        for column in carrier.tables["vertex"].element.properties:
            if column.count_kind is None and column.name not in {"x", "y", "z", "nx", "ny", "nz"}:
                values = find_columns(carrier, "vertex", (column.name,))
                rows += [] if values is None else [Attached(what=f"'{column.name}'", kind="kept", values=values)]
        return {0: tuple(rows)}

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return its header, and every column and list that is none of its vertices or of its faces' corners."""
        carrier: PlyCarrier = received.carrier
        found = {**super().belongings(received), "header": carrier.data[: carrier.header.end].tobytes()}
        for element, table in carrier.tables.items():
            for column in table.element.properties:
                if column.count_kind is None and element != "vertex":
                    values = _plain_values(carrier, table, column.name)
                elif column.count_kind is not None and not (element == "face" and column.name in FACE_LISTS):
                    values = _list_items(carrier, table, column.name)
                else:
                    continue
                found[f"{element} {column.name}"] = None if values is None else _digest_of(values)
        return found

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its mesh with texture coordinates and vertex colours."""
        carrier: PlyCarrier = received.carrier
        image = None
        if received.companions:
            path = carrier.folder / received.companions[0]
            image = Image(name=path.name, path=path)
        plain = plain_mesh(
            asset.mesh_of(0),
            None if image is None else {-1: Look(name="look", colour=(1, 1, 1), texture=Texture(image=image))},
        )
        uvs = next((u for names in _UVS if (u := find_columns(carrier, "vertex", names)) is not None), None)
        colours = find_columns(carrier, "vertex", _COLOURS)
        if colours is not None and carrier.tables["vertex"].kind("red")[0] != "f":
            colours = colours / np.iinfo(carrier.tables["vertex"].kind("red")).max
        place = asset.nodes[0].mesh
        assert place is not None
        return {place: shaded(replace(plain, uvs=uvs), colours)}

    def make(self, scene: PlainScene) -> Written:
        """Return a little-endian file of all vertices and triangles."""
        return made_ply(scene)


def _list_what_it_carries(carrier: PlyCarrier, textures: tuple[str, ...]) -> tuple[str, ...]:
    columns = {p.name for p in carrier.tables["vertex"].element.properties}
    there = {
        "texture-coordinates": any(set(names) <= columns for names in _UVS),
        "textures": bool(textures),
        "vertex-colours": set(_COLOURS) <= columns,
    }
    return tuple(k for k, v in there.items() if v)


def _find_textures(header: Header, beside: Beside) -> tuple[str, ...]:
    """Return the texture that a comment names, as many programs write it, where it is there."""
    names = [c.split(None, 1)[1] for c in header.comments if c.lower().startswith("texturefile ")]
    return tuple(dict.fromkeys(found for n in names if (found := beside.name(n)) is not None))


def _plain_values(carrier: PlyCarrier, table: Table, name: str) -> NDArray[Any] | None:
    """Return a property that is no list, row by row, wherever lists before it make it stand."""
    if table.stride or not table.element.count:
        return find_columns(carrier, table.element.name, (name,))
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


def _list_items(carrier: PlyCarrier, table: Table, name: str) -> NDArray[Any]:
    """Return the numbers of a list property, those of each row in order of size: a mirror turns a face's corners."""
    kind, counts = table.kind(name), table.lists[name].counts
    values = carrier.source.at(find_list_starts(carrier, table, name, 1), kind).astype(np.float64)
    order = np.lexsort((values, np.repeat(np.arange(len(counts)), counts)))
    return np.concatenate([counts.astype(np.float64), values[order]])


def _digest_of(values: NDArray[Any]) -> str:
    return hashlib.sha256(np.ascontiguousarray(values).tobytes()).hexdigest()


def _check_no_faces(carrier: PlyCarrier, file: str) -> None:
    """Make sure that a file without faces that are known has none: a name spoilt in its header is not the end of them.

    Raises
    ------
    BadFile
        With the rows that seem to be faces.
    """
    for name, table in carrier.tables.items():
        known = set(FACE_LISTS) & set(table.lists)
        if table.element.count and (name in {"face", "tristrips"} or known):
            what = (
                say("a list called '{next}'", next=next(iter(known)))
                if known
                else say("no list called '{_face}'", _face=FACE_LISTS[0])
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


def _read_triples(carrier: PlyCarrier, table: Table, name: str) -> NDArray[np.uint32] | None:
    """Return faces that are all triangles, the usual case, in one go; None where some are not. Below 0 is far above."""
    own = table.lists[name]
    if not table.stride or not len(own.counts) or own.counts[0] != 3:
        return None
    grid = carrier.source.grid(int(own.starts[0]), table.stride, len(own.counts), 3, table.kind(name))
    return grid.astype(np.int64 if grid.dtype.kind == "f" else grid.dtype.newbyteorder("=")).astype(np.uint32)


def _read_items(carrier: PlyCarrier, table: Table, name: str) -> NDArray[np.int64]:
    """Return the whole numbers of a list property, lists in a row."""
    own, kind = table.lists[name], table.kind(name)
    if table.stride and len(own.counts):
        grid = carrier.source.grid(int(own.starts[0]), table.stride, len(own.counts), int(own.counts[0]), kind)
        return grid.astype(np.int64).ravel()
    found: NDArray[np.int64] = carrier.source.at(find_list_starts(carrier, table, name, 1), kind).astype(np.int64)
    return found


def _read_triangles(
    carrier: PlyCarrier, points: NDArray[Any], file: str, limits: Limits
) -> tuple[NDArray[np.uint32], Faces | None]:
    """Return the triangles, and the faces they were cut from where some are wider."""
    vertices, faces = len(points), find_face_list(carrier)
    if faces is None:
        strips = carrier.tables.get("tristrips")
        if strips is None or "vertex_indices" not in strips.lists:
            _check_no_faces(carrier, file)
            return np.empty((0, 3), dtype=np.uint32), None
        corners = _read_items(carrier, strips, "vertex_indices")
        rows = _cut_strips(corners, strips.lists["vertex_indices"].counts)
    else:
        name, counts = faces
        if len(counts) and counts.min() == 0:
            # Bytes that are missing farther up are read on as the count of what comes after.
            raise BadFile(
                file, say("face {argmin} has no corners: the file is damaged", argmin=int(np.argmin(counts)) + 1)
            )
        if int(np.maximum(counts - 2, 0).sum()) > limits.triangles:
            raise BadFile(file, say("has over {triangles} triangles", triangles=limits.triangles))
        alike = _read_triples(carrier, carrier.tables["face"], name)
        if alike is not None and (not len(alike) or int(alike.max()) < vertices):
            return alike, None
        corners = _read_items(carrier, carrier.tables["face"], name)
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


def _cut_strips(corners: NDArray[np.int64], counts: NDArray[np.int64]) -> NDArray[np.int64]:
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
