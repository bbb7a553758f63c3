"""Moving some of a mesh's vertices: the mesh that comes of it, and the normals that its changed faces then have.

All in the mesh's own numbers, and always from what the file has to what is there now, however many steps lie
between: a shape and its inverse give back the file's own normals. What is worked out so holds in any frame, since areas
with a direction are carried as normals are.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.memo import Memo
from oak_square.core.scene import Asset, Mesh, Unshaped
from oak_square.core.tolerances import IN_ONE_PLANE_DEG, SAME_MATRIX, TINY
from oak_square.core.topology import welded, welded_points

__all__ = [
    "attached_now",
    "corners_of",
    "facets_now",
    "fingerprint",
    "normals_at_corners",
    "normals_at_points",
    "normals_at_triangles",
    "places_of",
    "reshaped",
    "squared_to",
    "with_shapes",
]

_ONE_NORMAL = 2 * np.sin(np.radians(IN_ONE_PLANE_DEG) / 2)
Array = NDArray[np.float64]
Rows = NDArray[np.int64]
Flags = NDArray[np.bool_]
_FINGERPRINT = 12
_PLACES: Memo[Rows] = Memo()
_WELDS: Memo[Rows] = Memo()
_MIX = np.uint64(0x9E3779B97F4A7C15)


def corners_of(mesh: Mesh) -> tuple[NDArray[Any], NDArray[Any]]:
    """Return the corners of a mesh's faces in a row, rows of its points, and how many each face has."""
    if mesh.faces is not None:
        return mesh.faces.corners, mesh.faces.counts
    return np.asarray(mesh.triangles).reshape(-1), np.full(len(mesh.triangles), 3)


def fingerprint(mesh: Mesh) -> str:
    """Return what tells a mesh's numbering from another's: twelve hexadecimal digits of a SHA-256.

    It is taken of the vertex count and the corners of all faces, each as a little-endian unsigned 32-bit number.
    """
    corners, _ = corners_of(mesh)
    data = np.concatenate([[len(mesh.points)], corners]).astype("<u4")
    return hashlib.sha256(data.tobytes()).hexdigest()[:_FINGERPRINT]


def places_of(mesh: Mesh) -> Rows:
    """Return the number of the place that each of a mesh's points is at, shape (N,)."""
    return _PLACES.of(mesh, None, lambda: welded_points(mesh)[0])


def reshaped(mesh: Mesh, rows: Rows, points: Array) -> Mesh:
    """Return a mesh with some of its points moved: `rows` of them to `points`, shape (K, 3), in its own numbers."""
    now = np.asarray(mesh.points, dtype=np.float64).copy()
    now[rows] = points
    before = mesh.unshaped or Unshaped(points=mesh.points, normals=mesh.normals)
    made = replace(mesh, points=now, unshaped=before)
    if before.normals is None:
        return made
    return replace(made, normals=normals_at_points(made, before.normals))


def with_shapes(asset: Asset, made: Mapping[int, Mesh]) -> Asset:
    """Return an asset whose parts at some positions have meshes of another shape; parts of one shape share one."""
    nodes, meshes = list(asset.nodes), list(asset.meshes)
    known: dict[int, list[int]] = {}
    for i, mesh in made.items():
        former = nodes[i].mesh
        assert former is not None
        place = next((k for k in known.get(former, []) if _is_same(meshes[k], mesh)), len(meshes))
        if place == len(meshes):
            meshes.append(mesh)
            known.setdefault(former, []).append(place)
        nodes[i] = replace(nodes[i], mesh=place)
    return replace(asset, nodes=tuple(nodes), meshes=tuple(meshes))


def _is_same(a: Mesh, b: Mesh) -> bool:
    reach = float(np.abs(a.points).max(initial=0.0))
    return bool(np.abs(a.points - b.points).max(initial=0.0) <= 100 * SAME_MATRIX * reach)


def normals_at_points(mesh: Mesh, normals: NDArray[Any]) -> NDArray[Any]:
    """Return what the file's normals of a reshaped mesh's points, shape (N, 3), have become.

    A point that no face uses may be another name for one that a face does: two parts of a mesh may be told by one list.
    """
    corners, _ = corners_of(mesh)
    return _renew_normals(mesh, np.arange(len(normals)), np.asarray(normals), np.asarray(corners))


def normals_at_corners(mesh: Mesh, normals: NDArray[Any]) -> NDArray[Any]:
    """Return what the file's normals of a reshaped mesh's corners, shape (C, 3), in `corners_of` order, have become.

    Corners at one place that had one normal have one afterwards: the mean of their faces', by area. Corners of none but
    unchanged faces keep theirs; rows that are no direction stay as they are.
    """
    corners, _ = corners_of(mesh)
    return _renew_normals(mesh, np.asarray(corners), np.asarray(normals), np.arange(len(corners)))


def normals_at_triangles(mesh: Mesh, normals: NDArray[Any]) -> NDArray[Any]:
    """Return what the file's normals of the corners of a reshaped mesh's triangles, shape (3 M, 3), have become.

    Where triangles were cut from wider faces, it is those that count, each once.
    """
    corners, counts = corners_of(mesh)
    each = np.maximum(np.asarray(counts) - 2, 0)
    if mesh.faces is None or int(each.sum()) != len(mesh.triangles):
        return normals_at_corners(replace(mesh, faces=None), normals)
    width = len(mesh.points)
    face_of_corner = np.repeat(np.arange(len(counts)), counts)
    face_of_triangle = np.repeat(np.arange(len(counts)), each)
    keys = face_of_corner * width + np.asarray(corners, dtype=np.int64)
    wanted = np.repeat(face_of_triangle, 3) * width + np.asarray(mesh.triangles, dtype=np.int64).reshape(-1)
    order = np.argsort(keys, kind="stable")
    place = order[np.searchsorted(keys[order], wanted)]
    given = np.full((len(corners), 3), np.nan)
    given[place] = normals
    found: NDArray[Any] = normals_at_corners(mesh, given)[place]
    return found


def facets_now(mesh: Mesh, normals: NDArray[Any]) -> NDArray[Any]:
    """Return what the normals of a reshaped mesh's faces, shape (F, 3), have become: those of changed faces anew."""
    corners, counts = corners_of(mesh)
    faces, before, after = _find_changed_faces(mesh, corners, counts)
    found = np.array(normals)
    new, is_one = _direct_areas(after, before, np.asarray(normals, dtype=np.float64)[faces])
    found[faces[is_one]] = new[is_one]
    return found


def squared_to(vectors: NDArray[Any], old: NDArray[Any], new: NDArray[Any]) -> NDArray[Any]:
    """Return tangents, shape (N, 3), square to their `new` normals where these are others than the `old` ones."""
    found = np.array(vectors)
    turned = np.flatnonzero((np.asarray(old) != np.asarray(new)).any(axis=1))
    way, up = vectors[turned].astype(np.float64), new[turned].astype(np.float64)
    up /= np.maximum(np.linalg.norm(up, axis=1, keepdims=True), TINY)
    flat = way - up * np.einsum("ij,ij->i", way, up)[:, None]
    length = np.linalg.norm(flat, axis=1)
    own = np.linalg.norm(way, axis=1)
    sound = length > SAME_MATRIX * own
    found[turned[sound]] = flat[sound] * (own[sound] / length[sound])[:, None]
    return found


def attached_now(mesh: Mesh, given: Mapping[str, Attached]) -> dict[str, Attached]:
    """Return what the file gives a mesh beside positions as it should be now that some of these have moved."""
    found = dict(given)
    if mesh.unshaped is None:
        return found
    renew = {"points": normals_at_points, "corners": normals_at_corners, "faces": facets_now}
    for what, rows in given.items():
        if rows.kind == "normal" and rows.of in renew:
            found[what] = replace(rows, values=renew[rows.of](mesh, rows.values))
    normals = given.get("normals")
    if normals is not None:
        new = found["normals"].values
        for what, rows in given.items():
            if rows.kind == "vector" and rows.of == normals.of:
                found[what] = replace(rows, values=squared_to(rows.values, normals.values, new))
    return found


def _renew_normals(mesh: Mesh, points: Rows, normals: NDArray[Any], item: Rows) -> NDArray[Any]:
    """Return normals, shape (I, 3), of things that each are at one of the mesh's `points`, shape (I,), as they are now.

    `item` tells which of them each corner of the mesh's faces is.
    """
    found = np.array(normals)
    if mesh.unshaped is None:
        return found
    corners, counts = corners_of(mesh)
    faces, _, _ = _find_changed_faces(mesh, corners, counts)
    if not len(faces):
        return found
    places = _WELDS.of(mesh.unshaped, None, lambda: welded(mesh.unshaped.points)[0] if mesh.unshaped else points)
    whose = np.repeat(np.arange(len(counts)), counts)
    changed = np.zeros(len(counts), dtype=bool)
    changed[faces] = True
    near = np.zeros(int(places.max()) + 1, dtype=bool)
    near[places[corners[changed[whose]]]] = True
    rows = np.flatnonzero(near[places[points]])
    values = np.asarray(normals[rows], dtype=np.float64)
    is_one = np.isfinite(values).all(axis=1) & (values != 0).any(axis=1)
    rows, values = rows[is_one], values[is_one]
    first, own = _join_nearly_alike(places[points[rows]], values, *_group_corners(places[points[rows]], values))
    group = np.full(len(points), -1, dtype=np.int64)
    group[rows] = own
    # Every corner that is in a group, with its face, changed or not.
    lot = group[item]
    counted = np.flatnonzero(lot >= 0)
    lot, face = lot[counted], whose[counted]
    is_met = np.zeros(len(counts), dtype=bool)
    is_met[face] = True
    met = np.flatnonzero(is_met)
    place = (np.cumsum(is_met) - 1)[face]
    sums = []
    for at in (mesh.unshaped.points, mesh.points):
        areas = _measure_areas(at, corners, counts, met)
        columns = [np.bincount(lot, areas[place, k], len(first)) for k in range(3)]
        sums.append(np.asarray(np.column_stack(columns), dtype=np.float64))
    new, sound = _direct_areas(sums[1], sums[0], values[first])
    sound &= np.bincount(lot, changed[face], len(first)) > 0
    touched = sound[own]
    found[rows[touched]] = new[own[touched]]
    return found


def _group_corners(places: Rows, normals: Array) -> tuple[Rows, Rows]:
    """Return the first of each lot with one place and one normal, and the lot of each, rows of both."""
    # + 0.0 turns -0.0 into 0.0: one direction has one set of bytes.
    bits = np.ascontiguousarray(normals + 0.0).view(np.uint64).reshape(-1, 3)
    mixed = places.astype(np.uint64)
    for k in range(3):
        mixed = (mixed ^ (mixed >> np.uint64(29))) * _MIX ^ bits[:, k]
    mixed = (mixed ^ (mixed >> np.uint64(32))) * _MIX
    _, first, lot = np.unique(mixed, return_index=True, return_inverse=True)
    lot = lot.reshape(-1)
    if (places != places[first[lot]]).any() or (bits != bits[first[lot]]).any():
        # Two that differ were mixed to one number: told apart the long way.
        keys = np.column_stack([places.astype(np.uint64), bits])
        _, first, lot = np.unique(keys, axis=0, return_index=True, return_inverse=True)
    return first, lot.reshape(-1)


def _join_nearly_alike(places: Rows, normals: Array, first: Rows, lot: Rows) -> tuple[Rows, Rows]:
    """Return lots, as `_group_corners` gives them, joined at one place where their normals differ by rounding alone."""
    order = np.lexsort((first, places[first]))
    at, ways = places[first][order], normals[first][order]
    ways = ways / np.linalg.norm(ways, axis=1)[:, None]
    leader = np.arange(len(order))
    span = np.diff(np.flatnonzero(np.diff(at, prepend=-1, append=-1)))
    for k in range(1, int(span.max(initial=1))):
        here = np.flatnonzero(at[k:] == at[:-k])
        near = here[np.linalg.norm(ways[here + k] - ways[here], axis=1) <= _ONE_NORMAL]
        leader[near + k] = np.minimum(leader[near + k], near)
    if (leader == np.arange(len(leader))).all():
        return first, lot
    while (leader[leader] != leader).any():
        leader = leader[leader]
    # A fan of many fine facets is no chain of roundings: what is far from the first of its lot stays by itself.
    far = np.linalg.norm(ways - ways[leader], axis=1) > _ONE_NORMAL
    leader[far] = np.flatnonzero(far)
    joined = np.empty(len(order), dtype=np.int64)
    joined[order] = order[leader]
    kept, number = np.unique(joined, return_inverse=True)
    return first[kept], number.reshape(-1)[lot]


def _direct_areas(after: Array, before: Array, normals: Array) -> tuple[Array, Flags]:
    """Return areas as unit vectors, on the side that normals had of the areas before, and which of them are any."""
    length = np.linalg.norm(after, axis=1)
    against = np.einsum("ij,ij->i", before, normals) < 0
    sound = (length > TINY) & np.isfinite(normals).all(axis=1) & (normals != 0).any(axis=1)
    found = after / np.where(sound, length, 1.0)[:, None]
    return np.where(against[:, None], -found, found), sound


def _find_changed_faces(mesh: Mesh, corners: NDArray[Any], counts: NDArray[Any]) -> tuple[Rows, Array, Array]:
    """Return the faces whose area is another one, or faces another way, with their areas before and after."""
    assert mesh.unshaped is not None
    moved = (np.asarray(mesh.points) != np.asarray(mesh.unshaped.points)).any(axis=1)
    is_met = np.zeros(len(counts), dtype=bool)
    is_met[np.repeat(np.arange(len(counts)), counts)[moved[corners]]] = True
    faces = np.flatnonzero(is_met)
    before, after = (_measure_areas(p, corners, counts, faces) for p in (mesh.unshaped.points, mesh.points))
    size = np.maximum(np.linalg.norm(before, axis=1), np.linalg.norm(after, axis=1))
    other = np.linalg.norm(after - before, axis=1) > 100 * SAME_MATRIX * size
    return faces[other], before[other], after[other]


def _measure_areas(points: NDArray[Any], corners: NDArray[Any], counts: NDArray[Any], faces: Rows) -> Array:
    """Return twice the areas of some faces as vectors along their normals, shape (faces, 3): Newell's sums."""
    own = np.asarray(counts)[faces]
    if not len(faces) or not int(own.sum()):
        return np.zeros((len(faces), 3))
    starts = np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64)[faces]
    if (own == 3).all():
        # The usual case: two sides say it all.
        a, b, c = (np.asarray(points)[corners[starts + k]].astype(np.float64) for k in range(3))
        return _cross_rows(b - a, c - a)
    inside = np.concatenate([[0], np.cumsum(own)[:-1]]).astype(np.int64)
    place = np.repeat(starts - inside, own) + np.arange(int(own.sum()))
    at = np.asarray(points)[corners[place]].astype(np.float64)
    filled = own > 0
    # Relative to a corner of its own, far faces keep their digits.
    at -= np.repeat(at[inside[filled]], own[filled], axis=0)
    after = np.arange(len(place)) + 1
    after[(inside + own - 1)[filled]] = inside[filled]
    found = np.zeros((len(faces), 3))
    found[filled] = np.add.reduceat(_cross_rows(at, at[after]), inside[filled], axis=0)
    return found


def _cross_rows(a: Array, b: Array) -> Array:
    # Column by column: several times as fast as the library's own.
    (ax, ay, az), (bx, by, bz) = a.T, b.T
    return np.column_stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx])
