"""Connected pieces: a mesh taken apart where nothing joins it.

Two vertices belong to one piece when a triangle or a stroke uses both, or when they are at one position: files give a
vertex twice wherever its normals or texture coordinates differ on two sides.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.memo import Memo
from oak_square.core.scene import Cut, Faces, Hold, Mesh, Surface, Unshaped
from oak_square.core.words import say

__all__ = ["pieces_of"]

Rows = NDArray[np.int64]
_MOST_PIECES, _TRIANGLE = 10_000, 3  # pieces; corners
_PIECES: Memo[tuple[Mesh, ...]] = Memo()


def pieces_of(mesh: Mesh) -> tuple[Mesh, ...]:
    """Return the connected pieces of a mesh, in the order of their first vertex; the mesh itself where it is one.

    Vertices that draw nothing are left out. Each piece says in its `cut` which rows it is made of.

    Raises
    ------
    Refused
        If there are more of them than a file can sensibly hold as parts.
    """
    return _PIECES.of(mesh, None, lambda: _taken_apart(mesh)) or (mesh,)


def _taken_apart(mesh: Mesh) -> tuple[Mesh, ...]:
    """Return the pieces; none where the mesh is in one piece, so that it does not hold itself."""
    piece_of, count = _piece_of(mesh)
    if count < 2:
        return ()
    if count > _MOST_PIECES:
        raise Refused(
            say(
                "mesh '{name}' would come apart in {count} pieces, over {_most_pieces}",
                name=mesh.name,
                count=count,
                _most_pieces=_MOST_PIECES,
            )
        )
    points = _rows_by_number(piece_of, count)
    place = np.zeros(len(piece_of), dtype=np.int64)
    for rows in points:
        place[rows] = np.arange(len(rows))
    of_triangle = piece_of[mesh.triangles[:, 0]] if len(mesh.triangles) else np.empty(0, dtype=np.int64)
    triangles = _rows_by_number(of_triangle, count)
    faces, corners = _faces_by_piece(mesh, piece_of, count) or (triangles, None)
    cuts = [
        Cut(
            points=points[k],
            triangles=triangles[k],
            faces=faces[k],
            corners=(triangles[k][:, None] * 3 + np.arange(3)).reshape(-1) if corners is None else corners[k],
        )
        for k in range(count)
    ]
    return tuple(_make_piece(mesh, k, cut, place) for k, cut in enumerate(cuts))


def _faces_by_piece(mesh: Mesh, piece_of: Rows, count: int) -> tuple[list[Rows], list[Rows]] | None:
    """Return the rows of each piece's faces, and of their corners; None where triangles say it all."""
    if mesh.faces is None:
        return None
    counts = np.asarray(mesh.faces.counts, dtype=np.int64)
    starts = np.cumsum(counts) - counts
    of_face = np.full(len(counts), -1)
    filled = counts > 0
    of_face[filled] = piece_of[np.asarray(mesh.faces.corners)[starts[filled]]]
    return _rows_by_number(of_face, count), _rows_by_number(np.repeat(of_face, counts), count)


def _rows_by_number(numbers: Rows, count: int) -> list[Rows]:
    """Return the rows that have each number below `count`, in their order."""
    order = np.argsort(numbers, kind="stable")
    bounds = np.searchsorted(numbers[order], np.arange(count + 1))
    return [order[bounds[k] : bounds[k + 1]] for k in range(count)]


def _piece_of(mesh: Mesh) -> tuple[Rows, int]:
    """Return for each vertex its piece, -1 where it draws nothing, and how many pieces there are."""
    # Heavy, and rarely wanted.
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    sides = _sides_of_wide_faces(mesh)
    used = np.zeros(len(mesh.points), dtype=bool)
    used[mesh.triangles.ravel()] = used[sides.ravel()] = True
    for first, count in mesh.strokes:
        used[first : first + count] = True
    rows = np.flatnonzero(used)
    found = np.full(len(used), -1, dtype=np.int64)
    if not len(rows):
        return found, 0
    welded = np.full(len(used), -1, dtype=np.int64)
    # + 0.0 turns -0.0 into 0.0: one position has one set of bytes.
    positions = np.ascontiguousarray(mesh.points[rows] + mesh.points.dtype.type(0))
    keys = positions.view([("", positions.dtype)] * 3)[:, 0]
    _, welded[rows] = np.unique(keys, return_inverse=True)
    ends = [mesh.triangles[:, [0, 1]], mesh.triangles[:, [1, 2]], sides]
    for first, count in mesh.strokes:
        chain = np.arange(first, first + count)
        ends.append(np.column_stack([chain[:-1], chain[1:]]))
    links = welded[np.concatenate(ends).astype(np.int64)]
    number = int(welded.max()) + 1
    joined = coo_array((np.ones(len(links), dtype=bool), (links[:, 0], links[:, 1])), shape=(number, number))
    total, labels = connected_components(joined, directed=False)
    own = labels[welded[rows]]
    # Numbered by first vertex.
    _, first_rows = np.unique(own, return_index=True)
    rank = np.empty(total, dtype=np.int64)
    rank[np.argsort(first_rows)] = np.arange(total)
    found[rows] = rank[own]
    return found, int(total)


def _sides_of_wide_faces(mesh: Mesh) -> Rows:
    """Return the two ends of each side of faces of over three corners: not each corner of one need be in a triangle."""
    if mesh.faces is None:
        return np.empty((0, 2), dtype=np.int64)
    counts, corners = np.asarray(mesh.faces.counts), np.asarray(mesh.faces.corners, dtype=np.int64)
    face_of = np.repeat(np.arange(len(counts)), counts)
    is_side = (face_of[1:] == face_of[:-1]) & (counts[face_of[1:]] > _TRIANGLE)
    found: Rows = np.column_stack([corners[:-1], corners[1:]])[is_side]
    return found


def _make_piece(mesh: Mesh, number: int, cut: Cut, place: Rows) -> Mesh:
    surfaces, first, hold = [], 0, mesh.hold
    rows, drawn = cut.points, cut.triangles
    for surface in mesh.surfaces:
        low, high = np.searchsorted(drawn, [surface.first, surface.first + surface.count])
        if high > low:
            surfaces.append(replace(surface, first=first, count=int(high - low)))
            first += int(high - low)
    return Mesh(
        name=f"{mesh.name}.{number + 1}",
        points=mesh.points[rows],
        triangles=place[mesh.triangles[drawn]].astype(np.uint32),
        surfaces=tuple(surfaces) or (Surface(first=0, count=len(drawn)),),
        normals=mesh.normals[rows] if mesh.normals is not None else None,
        morphs=tuple(m[rows] for m in mesh.morphs),
        morph_weights=mesh.morph_weights,
        hold=None
        if hold is None
        else Hold(points=hold.points[rows], joints=hold.joints[rows], weights=hold.weights[rows]),
        cut=cut,
        faces=None
        if mesh.faces is None
        else Faces.where_any_is_wide(place[mesh.faces.corners[cut.corners]], mesh.faces.counts[cut.faces]),
        unshaped=None
        if mesh.unshaped is None
        else Unshaped(
            points=mesh.unshaped.points[rows],
            normals=None if mesh.unshaped.normals is None else mesh.unshaped.normals[rows],
        ),
    )
