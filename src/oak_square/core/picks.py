"""What can be picked of a mesh near a point of its surface: corners, edges, faces, circles.

A *face* is what a person sees as one: triangles that hang together in one plane. Its rim is made of *edges*; the ends
of the edges are *vertices*; a rim that runs round in a circle has a *circle centre*.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.memo import Memo
from oak_square.core.tolerances import COPLANAR_COSINE, ON_ONE_LINE, ROUND, SAME_VERTEX, TINY

if TYPE_CHECKING:
    from oak_square.core.scene import Mesh

__all__ = ["Circle", "Face", "Pick", "Topology", "circle_through", "is_known", "topology"]

Array = NDArray[np.float64]
_LEAST_CORNERS = 7  # a rim of fewer is a polygon


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Circle:
    """A circle: centre and unit normal, shape (3,); radius; three points of its rim, shape (3, 3)."""

    centre: Array
    normal: Array
    radius: float
    rim: Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Face:
    """A face by what can be picked of it.

    Attributes
    ----------
    corners : ndarray, shape (N, 3)
        The vertices of its rim.
    edges : ndarray, shape (M, 2, 3)
        The rim's edges by their ends.
    centre : ndarray, shape (3,)
        Its centre of area.
    circles : tuple of Circle
    rings : tuple of ndarray
        For each circle, the positions in `edges` of its rim.
    """

    corners: Array
    edges: Array
    centre: Array
    circles: tuple[Circle, ...] = ()
    rings: tuple[NDArray[np.int64], ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Pick:
    """One thing that could be meant: its kind in words, where it is, and the circle when it is one's centre."""

    kind: str
    at: Array
    circle: Circle | None = None


class Topology:
    """A mesh's vertices welded by place, and its triangles gathered into faces. All in the mesh's own numbers."""

    def __init__(self, mesh: Mesh) -> None:
        points = np.asarray(mesh.points, dtype=np.float64)
        self._triangles = np.asarray(mesh.triangles, dtype=np.int64)
        self._welded, self._points = _weld(points)
        self._corners = self._welded[self._triangles]
        self._areas = _area_vectors(self._points[self._corners])
        self._face_of = self._gather()
        self._faces: dict[int, Face] = {}

    def _gather(self) -> NDArray[np.int64]:
        """Return the number of each triangle's face."""
        # Seconds for millions of triangles, and heavy to import: only when something is to be picked.
        from scipy.sparse import coo_array
        from scipy.sparse.csgraph import connected_components

        count = len(self._corners)
        sides = np.sort(self._corners[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2), axis=1)
        owner = np.repeat(np.arange(count), 3)
        order = np.lexsort((sides[:, 1], sides[:, 0]))
        sides, owner = sides[order], owner[order]
        # Two neighbours in this order that have the same ends share an edge.
        same = (sides[1:] == sides[:-1]).all(axis=1)
        a, b = owner[:-1][same], owner[1:][same]
        length = np.linalg.norm(self._areas, axis=1)
        normals = self._areas / np.where(length > 0, length, 1.0)[:, None]
        # A triangle of no area has no plane: it joins nothing.
        flat = np.einsum("ij,ij->i", normals[a], normals[b]) > COPLANAR_COSINE
        graph = coo_array((np.ones(int(flat.sum()), dtype=np.int8), (a[flat], b[flat])), shape=(count, count))
        return np.asarray(connected_components(graph, directed=False)[1], dtype=np.int64)

    def face_at(self, triangle: int) -> Face:
        """Return the face that a triangle belongs to."""
        number = int(self._face_of[triangle])
        if number not in self._faces:
            self._faces[number] = self._make(np.flatnonzero(self._face_of == number))
        return self._faces[number]

    def _make(self, rows: NDArray[np.int64]) -> Face:
        corners, areas = self._corners[rows], np.linalg.norm(self._areas[rows], axis=1)
        middles = self._points[corners].mean(axis=1)
        weight = areas.sum()
        centre = (middles * areas[:, None]).sum(axis=0) / weight if weight > 0 else middles.mean(axis=0)
        sides = np.sort(corners[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2), axis=1)
        sides = sides[sides[:, 0] != sides[:, 1]]
        ends, times = np.unique(sides, axis=0, return_counts=True)
        rim = ends[times == 1]
        circles, rings = _circles(rim, self._points)
        return Face(
            corners=self._points[np.unique(rim)], edges=self._points[rim], centre=centre, circles=circles, rings=rings
        )

    def picks_at(self, triangle: int, at: Array) -> list[Pick]:
        """Return what could be meant by a point `at`, shape (3,), on a triangle: vertices, edges, face, circles."""
        face = self.face_at(triangle)
        corners = face.corners[_nearest(face.corners, at, 6)]
        found = [Pick(kind="vertex", at=v, circle=_circle_over(face, v)) for v in corners]
        if len(face.edges):
            starts, along = face.edges[:, 0], face.edges[:, 1] - face.edges[:, 0]
            squared = np.maximum(np.einsum("ij,ij->i", along, along), TINY)
            share = np.clip(np.einsum("ij,ij->i", at - starts, along) / squared, 0, 1)
            feet = starts + share[:, None] * along
            for k in _nearest(feet, at, 3):
                circle = _circle_over(face, starts[k])
                found.append(Pick(kind="edge middle", at=starts[k] + along[k] / 2, circle=circle))
                found.append(Pick(kind="edge", at=feet[k], circle=circle))
        found += [Pick(kind="circle centre", at=c.centre, circle=c) for c in face.circles]
        found += [Pick(kind="face centre", at=face.centre), Pick(kind="surface", at=at)]
        return found


_KNOWN: Memo[Topology] = Memo()


def topology(mesh: Mesh) -> Topology:
    """Return the topology of a mesh, worked out once for as long as the mesh lives."""
    return _KNOWN.of(mesh, None, lambda: Topology(mesh))


def is_known(mesh: Mesh) -> bool:
    """Tell whether a mesh's topology is worked out already."""
    return _KNOWN.has(mesh, None)


def _circle_over(face: Face, corner: Array) -> Circle | None:
    """Return the circle whose rim a corner of the face lies on."""
    for circle, ring in zip(face.circles, face.rings, strict=True):
        if (face.edges[ring].reshape(-1, 3) == corner).all(axis=1).any():
            return circle
    return None


def _nearest(points: Array, at: Array, most: int) -> NDArray[np.int64]:
    away = np.linalg.norm(points - at, axis=1)
    return np.argsort(away, kind="stable")[:most]


def _weld(points: Array) -> tuple[NDArray[np.int64], Array]:
    """Return for each point the number of its place, and the places."""
    finite = np.nan_to_num(points)
    reach = float(np.ptp(finite, axis=0).max()) if len(finite) else 0.0
    cells = np.round((finite - finite.min(axis=0, initial=0.0)) / (SAME_VERTEX * reach or 1.0)).astype(np.int64)
    _, first, number = np.unique(cells, axis=0, return_index=True, return_inverse=True)
    return number.reshape(-1), finite[first]


def _area_vectors(corners: Array) -> Array:
    found: Array = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]) / 2
    return found


def _circles(rim: NDArray[np.int64], points: Array) -> tuple[tuple[Circle, ...], tuple[NDArray[np.int64], ...]]:
    """Return the circles among the closed loops of a rim, and the edges of each."""
    circles, rings = [], []
    for loop, edges in _loops(rim):
        places = points[loop]
        third = len(places) // 3
        circle = circle_through(places[[0, third, 2 * third]]) if len(places) >= _LEAST_CORNERS else None
        if circle is None:
            continue
        away = np.linalg.norm(places - circle.centre, axis=1)
        if np.abs(away - circle.radius).max() <= ROUND * circle.radius:
            circles.append(circle)
            rings.append(edges)
    return tuple(circles), tuple(rings)


def _loops(rim: NDArray[np.int64]) -> list[tuple[NDArray[np.int64], NDArray[np.int64]]]:
    """Return each closed loop of edges as its vertices in order, and its edges."""
    at: dict[int, list[int]] = {}
    for k, (a, b) in enumerate(rim.tolist()):
        at.setdefault(a, []).append(k)
        at.setdefault(b, []).append(k)
    found, used = [], np.zeros(len(rim), dtype=bool)
    for start in range(len(rim)):
        if used[start]:
            continue
        loop, edges, here, edge = [], [], int(rim[start, 0]), start
        while not used[edge] and len(at[here]) == 2:
            used[edge] = True
            loop.append(here)
            edges.append(edge)
            here = int(rim[edge, 1] if rim[edge, 0] == here else rim[edge, 0])
            edge = next((e for e in at[here] if not used[e]), edge)
        used[start] = True
        if len(loop) > 2 and here == loop[0]:
            found.append((np.array(loop), np.array(edges)))
    return found


def circle_through(points: Array) -> Circle | None:
    """Return the circle through three points, shape (3, 3); None when they lie on one line.

    With b and c from the first point a, the circumcentre is `a + (|c|² (b×c)×b + |b|² c×(b×c)) / (2 |b×c|²)`; each
    term is checked by taking the dot product with b and with c, which must give half their squares.
    """
    a = points[0]
    b, c = points[1] - a, points[2] - a
    normal = np.cross(b, c)
    squared = float(normal @ normal)
    if squared <= ON_ONE_LINE * float(b @ b) * float(c @ c) or squared == 0:
        return None
    out = (float(c @ c) * np.cross(normal, b) + float(b @ b) * np.cross(c, normal)) / (2 * squared)
    return Circle(
        centre=a + out, normal=normal / np.sqrt(squared), radius=float(np.linalg.norm(out)), rim=np.array(points)
    )
