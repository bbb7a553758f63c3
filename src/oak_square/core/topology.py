"""A mesh as a person sees it: triangles gathered into faces, their rims into straight runs and closed rings.

A *face* is connected triangles in one plane. Its rim is made of straight *runs*, which are its edges; a *ring* is a rim
that runs round and closes, or the rim of a hole in the surface. All of it is worked out for the whole mesh at once.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.memo import Memo
from oak_square.core.tolerances import FLOAT_STEP, IN_ONE_PLANE_DEG, SAME_VERTEX, STRAIGHT_DEG, TINY

if TYPE_CHECKING:
    from oak_square.core.scene import Mesh

__all__ = ["LEAST_RING", "Topology", "is_known", "topology", "welded", "welded_points"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
LEAST_RING = 7
"""Corners; a ring of fewer is a polygon."""
_PLANE = np.cos(np.radians(IN_ONE_PLANE_DEG))
_STRAIGHT = np.cos(np.radians(STRAIGHT_DEG))
_SIDES = np.array([[0, 1], [1, 2], [2, 0]])


class Topology:
    """A mesh's vertices welded by place, its faces, and their rims. All in the mesh's own numbers.

    Attributes
    ----------
    points : ndarray, shape (P, 3)
        The places; corners at one place are one.
    used : ndarray of integers
        The places that something drawn has a corner at.
    corners : ndarray of integers, shape (M, 3)
        Each triangle by its places.
    face_of : ndarray of integers, shape (M,)
        The number of each triangle's face.
    faces : int
        How many there are.
    rim : ndarray of integers, shape (H, 2)
        The sides of all faces' rims by their places, as their triangles run round.
    rim_face : ndarray of integers, shape (H,)
        Whose rim it is.
    run_of : ndarray of integers, shape (H,)
        The straight run that a side belongs to.
    runs : ndarray of integers, shape (R, 2)
        The ends of the runs; those of -1 go all the way round.
    run_faces : ndarray of integers, shape (R,)
    rings : tuple of ndarray of integers
        The corners of each ring, in order.
    ring_of : dict of place to the rings through it
    """

    def __init__(self, mesh: Mesh) -> None:
        self.welded, self.points = welded_points(mesh)
        triangles = np.asarray(mesh.triangles, dtype=np.int64).reshape(-1, 3)
        strokes = [np.arange(first, first + count) for first, count in mesh.strokes]
        self.used: Rows = np.unique(self.welded[np.concatenate([triangles.ravel(), *strokes]).astype(np.int64)])
        self.corners: Rows = self.welded[triangles].reshape(-1, 3)
        a, b, c = (self.points[self.corners[:, k]] for k in range(3))
        areas = np.cross(b - a, c - a) / 2
        order, same = _pair_sides(self.corners)
        self.face_of, self.faces = self._gather_faces(areas, order, same)
        self.rim, self.rim_face = _find_rims(self.corners, self.face_of, order, same)
        self.run_of, self.runs, self.run_faces, after, breaks = _find_runs(self.rim, self.rim_face, self.points)
        rings = _find_rings(self.rim, after, breaks)
        rings += self._find_holes(order, same)
        self.rings = tuple({frozenset(r.tolist()): r for r in rings}.values())
        self.ring_of: dict[int, list[int]] = {}
        for number, ring in enumerate(self.rings):
            for place in ring.tolist():
                self.ring_of.setdefault(place, []).append(number)
        self._order: Rows = np.argsort(self.face_of, kind="stable")
        self._starts: Rows = np.searchsorted(self.face_of[self._order], np.arange(self.faces + 1))
        self._rim_starts: Rows = np.searchsorted(self.rim_face, np.arange(self.faces + 1))

    def _gather_faces(self, areas: Array, order: Rows, same: NDArray[np.bool_]) -> tuple[Rows, int]:
        """Return the number of each triangle's face, and how many there are."""
        # Heavy to import: only when something is to be picked or found.
        from scipy.sparse import coo_array
        from scipy.sparse.csgraph import connected_components

        count = len(self.corners)
        if not count:
            return np.empty(0, dtype=np.int64), 0
        first, second = order[:-1][same] // 3, order[1:][same] // 3
        normals = self._find_normals(areas, first, second)
        flat = np.einsum("ij,ij->i", normals[first], normals[second]) >= _PLANE
        for _ in range(2):
            graph = coo_array(
                (np.ones(int(flat.sum()), dtype=np.int8), (first[flat], second[flat])), shape=(count, count)
            )
            number, labels = connected_components(graph, directed=False)
            face_of = np.asarray(labels, dtype=np.int64)
            # A gentle bend is no plane, however little each step turns: its triangles stay apart.
            sums = np.column_stack([np.bincount(face_of, areas[:, k], number) for k in range(3)])
            mean = sums / np.maximum(np.linalg.norm(sums, axis=1), TINY)[:, None]
            bent = np.zeros(number, dtype=bool)
            bent[face_of[np.einsum("ij,ij->i", normals, mean[face_of]) < _PLANE]] = True
            if not bent.any():
                break
            flat &= ~bent[face_of[first]]
        return face_of, int(number)

    def _find_normals(self, areas: Array, first: Rows, second: Rows) -> Array:
        """Return a unit normal for each triangle; one too thin to have one takes that of its widest neighbour."""
        length = np.linalg.norm(areas, axis=1)
        normals: Array = areas / np.maximum(length, TINY)[:, None]
        a, b, c = (self.points[self.corners[:, k]] for k in range(3))
        longest = np.sqrt(np.max([((q - p) ** 2).sum(axis=1) for p, q in ((a, b), (b, c), (c, a))], axis=0))
        reach = float(np.abs(self.points).max(initial=0.0))
        # What rounding does to a corner turns a triangle of this height by as much as a plane may bend.
        thin = 2 * length <= longest * reach * FLOAT_STEP / 2 / np.radians(IN_ONE_PLANE_DEG)
        if not thin.any():
            return normals
        width = np.where(thin, 0.0, length)
        best = np.zeros(len(areas))
        for mine, other in ((first, second), (second, first)):
            lent = thin[mine] & (width[other] > best[mine])
            order = np.argsort(width[other][lent], kind="stable")  # the widest last: it stays
            normals[mine[lent][order]] = normals[other[lent][order]]
            np.maximum.at(best, mine[lent], width[other][lent])
        return normals

    def _find_holes(self, order: Rows, same: NDArray[np.bool_]) -> list[Rows]:
        """Return the rings of the surface's open rims: sides that one triangle alone has."""
        alone = np.ones(len(order), dtype=bool)
        alone[1:] &= ~same
        alone[:-1] &= ~same
        sides = np.sort(order[alone])
        ends = np.take_along_axis(self.corners[sides // 3], _SIDES[sides % 3], axis=1)
        ends = ends[ends[:, 0] != ends[:, 1]]
        _, _, _, after, breaks = _find_runs(ends, np.zeros(len(ends), dtype=np.int64), self.points)
        return _find_rings(ends, after, breaks)

    def triangles_of(self, face: int) -> Rows:
        """Return the triangles of a face."""
        return self._order[self._starts[face] : self._starts[face + 1]]

    def rim_of(self, face: int) -> Rows:
        """Return the places in `rim` of a face's sides."""
        return np.arange(self._rim_starts[face], self._rim_starts[face + 1])


_KNOWN: Memo[Topology] = Memo()


def topology(mesh: Mesh) -> Topology:
    """Return the topology of a mesh, worked out once for as long as the mesh lives."""
    return _KNOWN.of(mesh, None, lambda: Topology(mesh))


def is_known(mesh: Mesh) -> bool:
    """Tell whether a mesh's topology is worked out already."""
    return _KNOWN.has(mesh, None)


def welded_points(mesh: Mesh) -> tuple[Rows, Array]:
    """Return for each of a mesh's points the number of its place, and the places, shape (P, 3)."""
    return welded(mesh.points)


def welded(points: NDArray[Any]) -> tuple[Rows, Array]:
    """Return for each of some points, shape (N, 3), the number of its place, and the places, shape (P, 3)."""
    finite = np.nan_to_num(np.asarray(points, dtype=np.float64)).reshape(-1, 3)
    reach = float(np.ptp(finite, axis=0).max()) if len(finite) else 0.0
    cells = np.round((finite - finite.min(axis=0, initial=0.0)) / (SAME_VERTEX * reach or 1.0)).astype(np.int64)
    # One number for a cell: three of 21 bits each hold a million cells a side, and sorting one is the fastest there is.
    keys = (cells[:, 0] << 42) | (cells[:, 1] << 21) | cells[:, 2]
    _, first, number = np.unique(keys, return_index=True, return_inverse=True)
    return number.reshape(-1).astype(np.int64), finite[first]


def _pair_sides(corners: Rows) -> tuple[Rows, NDArray[np.bool_]]:
    """Return the sides of all triangles, `3 * triangle + side`, those with one pair of ends beside each other.

    Beside the order, for each two neighbours in it whether they have the same ends.
    """
    ends = corners[:, _SIDES].reshape(-1, 2)
    keys = _pair_keys(ends)
    order = np.argsort(keys, kind="stable")
    there = keys[order]
    return order, there[1:] == there[:-1]


def _pair_keys(ends: Rows) -> Rows:
    # Column by column: the least of each row is far slower to ask for.
    found: Rows = (np.minimum(ends[:, 0], ends[:, 1]) << 32) | np.maximum(ends[:, 0], ends[:, 1])
    return found


def _find_rims(corners: Rows, face_of: Rows, order: Rows, same: NDArray[np.bool_]) -> tuple[Rows, Rows]:
    """Return the sides of faces that only one of a face's triangles has, and whose they are, by face."""
    ends = corners[:, _SIDES].reshape(-1, 2)
    if (same[1:] & same[:-1]).any():
        # More than two triangles at one side: those of one face have to lie beside each other.
        order = np.lexsort((np.repeat(face_of, 3), _pair_keys(ends)))
        keys = _pair_keys(ends)[order]
        same = keys[1:] == keys[:-1]
    whose = face_of[order // 3]
    inner = same & (whose[1:] == whose[:-1])
    alone = np.ones(len(order), dtype=bool)
    alone[1:] &= ~inner
    alone[:-1] &= ~inner
    sides = order[alone]
    sides = sides[ends[sides, 0] != ends[sides, 1]]
    sides = sides[np.argsort(face_of[sides // 3], kind="stable")]
    return ends[sides], face_of[sides // 3]


def _find_runs(rim: Rows, whose: Rows, points: Array) -> tuple[Rows, Rows, Rows, Rows, NDArray[np.bool_]]:
    """Return the straight runs of rims: of each side its run; the runs' ends and faces; what follows; where it bends.

    What follows a side is the one side of the same rim that starts where it ends; -1 where there are none or several.
    """
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    count = len(rim)
    if not count:
        none = np.empty(0, dtype=np.int64)
        return none, none.reshape(0, 2), none, none, none.astype(bool)
    starts = (whose << 32) | rim[:, 0]
    ends = (whose << 32) | rim[:, 1]
    order = np.argsort(starts, kind="stable")
    low = np.searchsorted(starts[order], ends, side="left")
    high = np.searchsorted(starts[order], ends, side="right")
    after = np.where(high - low == 1, order[np.minimum(low, count - 1)], -1)
    # Where two sides run into one, neither goes on: the rim touches itself there.
    taken = np.bincount(after[after >= 0], minlength=count)
    after = np.where((after >= 0) & (taken[after] == 1), after, -1)
    along = points[rim[:, 1]] - points[rim[:, 0]]
    along = along / np.maximum(np.linalg.norm(along, axis=1), TINY)[:, None]
    straight = (after >= 0) & (np.einsum("ij,ij->i", along, along[after]) >= _STRAIGHT)
    at = np.flatnonzero(straight)
    graph = coo_array((np.ones(len(at), dtype=np.int8), (at, after[at])), shape=(count, count))
    number, labels = connected_components(graph, directed=False)
    run_of = np.asarray(labels, dtype=np.int64)
    runs = np.full((number, 2), -1, dtype=np.int64)
    led = np.zeros(count, dtype=bool)
    led[after[at]] = True
    runs[run_of[~led], 0] = rim[~led, 0]
    runs[run_of[~straight], 1] = rim[~straight, 1]
    faces = np.zeros(number, dtype=np.int64)
    faces[run_of] = whose
    return run_of, runs, faces, after, ~straight


def _find_rings(rim: Rows, after: Rows, breaks: NDArray[np.bool_]) -> list[Rows]:
    """Return the corners, in order, of the closed rims of `LEAST_RING` corners or more."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    count = len(rim)
    at = np.flatnonzero(after >= 0)
    if not len(at):
        return []
    graph = coo_array((np.ones(len(at), dtype=np.int8), (at, after[at])), shape=(count, count))
    number, labels = connected_components(graph, directed=False)
    closed = np.bincount(labels, after < 0, number) == 0
    closed &= np.bincount(labels, breaks, number) >= LEAST_RING
    found = []
    follows, bends = after.tolist(), breaks.tolist()
    firsts = np.unique(labels, return_index=True)[1][closed]
    for first in firsts.tolist():
        ring, here = [], first
        while True:
            if bends[here]:
                ring.append(int(rim[here, 1]))
            here = follows[here]
            if here == first:
                break
        found.append(np.array(ring, dtype=np.int64))
    return found
