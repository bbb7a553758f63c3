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
from oak_square.core.scene import Cut, Hold, Mesh, Surface, Unshaped
from oak_square.core.words import say

__all__ = ["pieces_of"]

Rows = NDArray[np.int64]
_MOST_PIECES = 10_000
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
    order = np.argsort(piece_of, kind="stable")
    bounds = np.searchsorted(piece_of[order], np.arange(count + 1))
    place = np.empty(len(piece_of), dtype=np.int64)
    place[order] = np.arange(len(order)) - bounds[np.maximum(piece_of[order], 0)]
    of_triangle = piece_of[mesh.triangles[:, 0]] if len(mesh.triangles) else np.empty(0, dtype=np.int64)
    by_piece = np.argsort(of_triangle, kind="stable")
    ends = np.searchsorted(of_triangle[by_piece], np.arange(count + 1))
    return tuple(
        _piece(mesh, k, order[bounds[k] : bounds[k + 1]], by_piece[ends[k] : ends[k + 1]], place) for k in range(count)
    )


def _piece_of(mesh: Mesh) -> tuple[Rows, int]:
    """Return for each vertex its piece, -1 where it draws nothing, and how many pieces there are."""
    # Heavy, and rarely wanted.
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    used = np.zeros(len(mesh.points), dtype=bool)
    used[mesh.triangles.ravel()] = True
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
    ends = [mesh.triangles[:, [0, 1]], mesh.triangles[:, [1, 2]]]
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


def _piece(mesh: Mesh, number: int, rows: Rows, faces: Rows, place: Rows) -> Mesh:
    surfaces, first, hold = [], 0, mesh.hold
    for surface in mesh.surfaces:
        low, high = np.searchsorted(faces, [surface.first, surface.first + surface.count])
        if high > low:
            surfaces.append(replace(surface, first=first, count=int(high - low)))
            first += int(high - low)
    return Mesh(
        name=f"{mesh.name}.{number + 1}",
        points=mesh.points[rows],
        triangles=place[mesh.triangles[faces]].astype(np.uint32),
        surfaces=tuple(surfaces) or (Surface(first=0, count=len(faces)),),
        normals=mesh.normals[rows] if mesh.normals is not None else None,
        morphs=tuple(m[rows] for m in mesh.morphs),
        morph_weights=mesh.morph_weights,
        hold=None
        if hold is None
        else Hold(points=hold.points[rows], joints=hold.joints[rows], weights=hold.weights[rows]),
        cut=Cut(points=rows, triangles=faces),
        unshaped=None
        if mesh.unshaped is None
        else Unshaped(
            points=mesh.unshaped.points[rows],
            normals=None if mesh.unshaped.normals is None else mesh.unshaped.normals[rows],
        ),
    )
