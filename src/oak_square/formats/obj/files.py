"""Wavefront OBJ: text, edited in place; declares neither unit nor axes.

Only what a step changes is rewritten: the numbers of `v` and `vn` lines, and the order of a face's corners where a
mirror turns it inside out. Comments, groups, materials, smoothing, colours behind a vertex, line ends and line
continuations stay as they are. Parts are the file's objects (`o`), or where there are none its groups (`g`).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.errors import BadFile
from oak_square.core.frames import Reading
from oak_square.core.scene import Asset, Faces, Mesh
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.obj import OBJ
from oak_square.formats.obj.editing import ObjCarrier, flip_faces, move_normals, move_points
from oak_square.formats.obj.faces import FaceCorners, face_corners, stroke_lines, stroke_vertices
from oak_square.formats.obj.making import library_looks, made_obj
from oak_square.formats.obj.materials import (
    library_colours,
    library_shading,
    material_names,
    surfaces_of,
    texture_names,
)
from oak_square.formats.obj.text import (
    ObjText,
    further_words,
    number_counts,
    number_lines,
    with_numbers,
)
from oak_square.formats.register import Entry
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
from oak_square.formats.shared.plain import Plain, PlainScene, as_shaped, plain_mesh, shaded
from oak_square.formats.shared.polygons import polygons_to_triangles
from oak_square.formats.shared.unframed import lost_pivots, mesh_changes, unframed_asset

__all__ = ["Obj"]

_LARGEST_TEXTURE_LIST = 10_000


@dataclass(frozen=True, slots=True, kw_only=True)
class _Parts:
    names: list[str]
    of_face: NDArray[np.int64]
    corners: FaceCorners
    of_stroke: NDArray[np.int64]
    strokes: tuple[NDArray[np.int64], NDArray[np.int64]]  # as `stroke_vertices` gives them


@registered
class Obj(Format):
    """OBJ files."""

    entry: ClassVar[Entry] = OBJ
    declares: ClassVar[bool] = False
    could: ClassVar[tuple[str, ...]] = (
        "points and lines",
        "texture tints",
        "normal maps",
        "normal map strength",
        "emission",
        "cut-outs",
        "texture wrapping",
        "further shading",
    )
    holds: ClassVar[tuple[str, ...]] = (
        "names", "normals", "texture coordinates", "colours", "textures", "vertex colours",
    )  # fmt: skip
    makes: ClassVar[tuple[str, ...]] = ("names", "normals", "texture coordinates", "colours", "textures")
    looks: ClassVar[tuple[str, ...]] = ("colour", "opacity", "texture")
    shades: ClassVar[tuple[str, ...]] = ("texture tints",)

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        text = ObjText.of(path.read_bytes(), file)
        if text.looks_binary():
            raise BadFile(file, say("is no OBJ: it holds bytes that are no text"))
        positions = number_lines(text, "v", file, need=3)[:, :3]
        normals = number_lines(text, "vn", file, need=3)[:, :3]
        if len(positions) > limits.vertices:
            raise BadFile(
                file,
                say(
                    "has {count} vertices, over the limit of {vertices}", count=len(positions), vertices=limits.vertices
                ),
            )
        names, part_of_face, part_of_stroke = _find_parts(text, path.stem)
        uvs = number_lines(text, "vt", file, need=2) if len(text.lines["vt"]) else np.empty((0, 2))
        corners = face_corners(text, file, len(positions), len(uvs), len(normals))
        beside = Beside(path.parent, file)
        libraries, textures = _list_references(text, beside)
        colours = library_colours(path.parent / name for name in libraries)
        drawn = stroke_vertices(text, file, len(positions))
        parts = _Parts(names=names, of_face=part_of_face, corners=corners, of_stroke=part_of_stroke, strokes=drawn)
        meshes, used, used_normals = _make_meshes(file, positions, parts, text, colours, limits)
        first = np.full(len(positions), -1, dtype=np.int64)
        for part in reversed(range(len(used))):
            first[used[part]] = part
        there = {
            "lines": len(text.lines["l"]) + len(text.lines["p"]),
            "materials": len(text.lines["usemtl"]),
            "texture-coordinates": len(text.lines["vt"]),
            "textures": len(textures),
            "vertex-colours": _has_colours(text),
        }
        shading = library_shading(path.parent / name for name in libraries)
        there["shading"] = len(shading)
        asset = unframed_asset(self, file, meshes, (k for k, v in there.items() if v))
        asset = replace(asset, astray=tuple(beside.astray), shading=shading)
        carrier = ObjCarrier(
            text=text,
            folder=path.parent,
            positions=positions,
            normals=normals,
            part_of_vertex=first,
            used=used,
            used_normals=used_normals,
            part_of_face=part_of_face,
            faces=corners,
            uvs=uvs,
        )
        return Received(asset=asset, carrier=carrier, companions=(*libraries, *textures))

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the text with the numbers of moved parts rewritten."""
        carrier: ObjCarrier = received.carrier
        changes = mesh_changes(received.asset, asset, reading)
        companions = tuple(Companion(path=c, source=carrier.folder / c) for c in received.companions)
        lost = lost_pivots(self, asset)
        if all(change.is_none for change in changes):
            return Written(chunks=None, companions=companions, warnings=lost)
        text, normals = move_normals(carrier, changes, asset.file)
        pieces = with_numbers(
            text,
            positions=(carrier.positions, move_points(carrier, changes, asset)),
            normals=normals,
            flipped=flip_faces(carrier, changes),
        )
        return Written(chunks=(pieces,), companions=companions, warnings=lost)

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return the normals and texture coordinates of each part's corners."""
        carrier: ObjCarrier = received.carrier
        faces, parts = carrier.faces, len(carrier.used)
        part_of_corner = np.repeat(carrier.part_of_face, faces.counts) if parts > 1 else None
        # What a corner does not name is the row of no numbers behind all others.
        normals = np.vstack([carrier.normals, np.full(3, np.nan)])
        maps = np.vstack([carrier.uvs, np.full(2, np.nan)])
        found: dict[int, tuple[Attached, ...]] = {}
        for k in range(parts):
            mine = slice(None) if part_of_corner is None else part_of_corner == k
            rows = list[Attached]()
            if len(carrier.normals):
                own = normals[faces.normal[mine]]
                rows.append(Attached(what="normals", kind="normal", values=own, of="corners"))
            if len(carrier.uvs):
                own = maps[faces.texture[mine]]
                rows.append(Attached(what="texture coordinates", kind="kept", values=own, of="corners"))
            found[k] = tuple(rows)
        return found

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return the lines that are no positions, normals or faces, and what stands behind a position."""
        return {**super().belongings(received), **further_words(received.carrier.text)}

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its parts with a vertex for each set of position, texture coordinate and normal."""
        carrier: ObjCarrier = received.carrier
        text, folder = carrier.text, carrier.folder
        faces, uvs = carrier.faces, carrier.uvs
        vertex, texture, normal, counts = faces.vertex, faces.texture, faces.normal, faces.counts
        shades = number_lines(text, "v", asset.file, need=6)[:, 3:] if _has_colours(text) else None
        libraries = (folder / name for name in received.companions if name.lower().endswith(".mtl"))
        looks_by_name = library_looks(libraries, Beside(folder, asset.file))
        names = [text.rest_of(int(line)) for line in text.lines["usemtl"]]
        looks = {k: looks_by_name[name] for k, name in enumerate(names) if name in looks_by_name}
        part_of_corner = np.repeat(carrier.part_of_face, counts)
        found = {}
        for k, node in enumerate(asset.nodes):
            mesh = asset.mesh_of(k)
            mine, own = part_of_corner == k, counts[carrier.part_of_face == k]
            corners = np.column_stack([vertex[mine], texture[mine], normal[mine]])
            rows, local = np.unique(corners, axis=0, return_inverse=True)
            plain = plain_mesh(mesh, looks)
            has_uvs, has_normals = bool((rows[:, 1] >= 0).all()), bool((rows[:, 2] >= 0).all())
            bare = replace(
                plain,
                points=carrier.positions[rows[:, 0]],
                triangles=polygons_to_triangles(local.ravel(), own, carrier.positions[rows[:, 0]]),
                uvs=uvs[rows[:, 1]] if has_uvs and len(uvs) else None,
                normals=carrier.normals[rows[:, 2]] if has_normals and len(carrier.normals) else None,
            )
            assert node.mesh is not None
            found[node.mesh] = as_shaped(shaded(bare, None if shades is None else shades[rows[:, 0]]), mesh)
        return found

    def make(self, scene: PlainScene) -> Written:
        """Return a text of a scene's parts, with its materials and textures beside it."""
        return made_obj(scene)


def _find_parts(text: ObjText, stem: str) -> tuple[list[str], NDArray[np.int64], NDArray[np.int64]]:
    """Return part names, and for each face line, and each line of points or lines, the part it belongs to."""
    word = "o" if len(text.lines["o"]) else "g"
    starts, faces = text.lines[word], text.lines["f"]
    names: dict[str, int] = {}
    owner = np.empty(len(starts) + 1, dtype=np.int64)
    owner[0] = -1
    for i, line in enumerate(starts.tolist()):
        owner[i + 1] = names.setdefault(text.rest_of(line) or stem, len(names))
    which: NDArray[np.int64] = owner[np.searchsorted(starts, np.concatenate([faces, stroke_lines(text)]))]
    if not len(which) and len(text.lines["v"]):
        names = {stem: 0}  # vertices alone: a cloud of points
        return [stem], which, which
    if (which < 0).any() or not names:
        which = np.where(which < 0, names.setdefault(stem, len(names)), which)
    present, first, part = np.unique(which, return_index=True, return_inverse=True)
    # In the order of first use, so that the list reads like the file.
    order = np.argsort(first)
    rank = np.argsort(order)
    by_number = {number: name for name, number in names.items()}
    own: NDArray[np.int64] = rank[part] if len(part) else part
    return [by_number[int(present[k])] for k in order], own[: len(faces)], own[len(faces) :]


def _make_meshes(
    file: str,
    positions: NDArray[np.float64],
    parts: _Parts,
    text: ObjText,
    colours: dict[str, tuple[float, float, float]],
    limits: Limits,
) -> tuple[list[Mesh], tuple[NDArray[np.int64], ...], tuple[NDArray[np.int64], ...]]:
    vertex, normal, counts = parts.corners.vertex, parts.corners.normal, parts.corners.counts
    if int(np.maximum(counts - 2, 0).sum()) > limits.triangles:
        raise BadFile(file, say("has over {triangles} triangles", triangles=limits.triangles))
    named = material_names(text), colours
    faces_of = _by_part(parts.of_face, len(parts.names))
    corners_of = _by_part(np.repeat(parts.of_face, counts), len(parts.names))
    drawn_of = _by_part(np.repeat(parts.of_stroke, parts.strokes[1]), len(parts.names))
    is_cloud = not len(parts.of_face) and not len(parts.of_stroke)
    meshes, used, used_normals = [], [], []
    for k, name in enumerate(parts.names):
        mine, faces = corners_of[k], faces_of[k]
        drawn = np.arange(len(positions)) if is_cloud else parts.strokes[0][drawn_of[k]]
        own, rows = _find_used_rows(np.concatenate([vertex[mine], drawn]))
        local = rows[: len(mine)]
        points = positions[own]
        meshes.append(
            Mesh(
                name=name,
                points=points,
                triangles=polygons_to_triangles(local, counts[faces], points),
                surfaces=surfaces_of(text, named, faces, counts[faces] - 2),
                strokes=_find_row_runs(rows[len(local) :], len(own)),
                not_finite=count_not_finite([points]),
                faces=Faces.where_any_is_wide(local, counts[faces]),
            )
        )
        used.append(own)
        own_normals = normal[mine]
        used_normals.append(_find_used_rows(own_normals[own_normals >= 0])[0])
    return meshes, tuple(used), tuple(used_normals)


def _by_part(parts: NDArray[np.int64], count: int) -> list[NDArray[np.int64]]:
    """Return, for each of `count` parts, the rows that are of it, in order: one sort for all of them."""
    order = np.argsort(parts, kind="stable")
    bounds = np.searchsorted(parts[order], np.arange(count + 1))
    return [order[a:b] for a, b in pairwise(bounds.tolist())]


def _find_row_runs(rows: NDArray[np.int64], count: int) -> tuple[tuple[int, int], ...]:
    """Return the runs, by first and length, that some of `count` rows lie in."""
    if not len(rows):
        return ()
    inside = np.zeros(count + 2, dtype=np.int8)
    inside[rows + 1] = 1
    edges = np.flatnonzero(np.diff(inside))
    return tuple((int(a), int(b - a)) for a, b in zip(edges[0::2], edges[1::2], strict=True))


def _has_colours(text: ObjText) -> bool:
    """Tell whether a colour stands behind every vertex, as some programs write it."""
    counts = number_counts(text, "v")
    return bool(len(counts) and (counts >= 6).all())


def _find_used_rows(rows: NDArray[np.int64]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Return which rows are named, in order, and for each name its place among them."""
    if not len(rows):
        return rows, rows
    low = int(rows.min())
    named = np.zeros(int(rows.max()) - low + 1, dtype=bool)
    named[rows - low] = True
    place = np.cumsum(named) - 1
    return np.flatnonzero(named) + low, place[rows - low]


def _list_references(text: ObjText, beside: Beside) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Return the material libraries that are there, and the textures they name, by their paths from the folder."""
    libraries, textures = dict[str, None](), dict[str, None]()
    for line in text.lines["mtllib"].tolist():
        for name in _library_names(beside, text.rest_of(line)):
            libraries[name] = None
    for library in libraries:
        for _, reference in texture_names(beside.folder / library):
            texture = beside.name(reference)
            if texture is not None and len(textures) < _LARGEST_TEXTURE_LIST:
                textures[texture] = None
    return tuple(libraries), tuple(textures)


def _library_names(beside: Beside, rest: str) -> list[str]:
    # A name may hold spaces; several names are parted by them. What is there decides.
    whole = Beside(beside.folder, beside.file).name(rest) if rest else None
    if whole is not None:
        return [whole]
    return [found for word in rest.split() if (found := beside.name(word)) is not None]
