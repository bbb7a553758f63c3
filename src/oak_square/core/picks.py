"""What can be picked of a part near a point of its surface: vertices, edges, faces, circles. World numbers."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.features import features_of
from oak_square.core.frames import apply
from oak_square.core.tolerances import ON_ONE_LINE, TINY
from oak_square.core.topology import topology

if TYPE_CHECKING:
    from oak_square.core.scene import Mesh

__all__ = ["Circle", "Face", "Pick", "circle_through", "face_at", "picks_at"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Circle:
    """A circle: centre and unit normal, shape (3,); radius; three points of its rim, far apart, shape (3, 3).

    `corners`, shape (N, 3), are those of the ring it was found on, in order, and `number` that ring's in the topology.
    """

    centre: Array
    normal: Array
    radius: float
    rim: Array
    corners: Array = field(default_factory=lambda: np.empty((0, 3)))
    number: int = -1


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Face:
    """A face by what can be picked of it, and what meets it.

    Attributes
    ----------
    corners : ndarray, shape (N, 3)
        The vertices of its rim.
    places : ndarray of integers, shape (N,)
        Their numbers in the topology.
    edges : ndarray, shape (M, 2, 3)
        The straight runs of its rim by their ends.
    runs : ndarray of integers, shape (M,)
        Their numbers in the topology.
    ends : ndarray of integers, shape (M, 2)
        The places of their ends.
    centre, normal : ndarray, shape (3,)
        Its centre of area, and which way it faces.
    size : float
        The square root of its area.
    number : int
        Its number in the topology.
    circles : tuple of Circle
        Those of its own rim, and those that pass through a corner of it.
    """

    corners: Array
    places: Rows
    edges: Array
    runs: Rows
    ends: Rows
    centre: Array
    normal: Array
    size: float
    number: int
    circles: tuple[Circle, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Pick:
    """One thing that could be meant.

    Attributes
    ----------
    kind : str
        In words: `vertex`, `edge middle`, `edge`, `face centre`, `circle centre`, `surface`.
    at : ndarray, shape (3,)
    way : ndarray, shape (3,)
        The edge's line, the face's normal, the circle's axis; zero for a vertex.
    number : int
        Which place, run, face or ring of the topology it is.
    size : float
        The edge's length, the root of the face's area, the circle's radius; 0 for a vertex.
    line : ndarray, shape (2, 3), or None
        The edge's ends.
    circle : Circle or None
        Where it is the centre of one, or on its rim.
    """

    kind: str
    at: Array
    way: Array = field(default_factory=lambda: np.zeros(3))
    number: int = -1
    size: float = 0.0
    line: Array | None = None
    circle: Circle | None = None


def face_at(mesh: Mesh, matrix: Array, triangle: int) -> Face:
    """Return the face that a triangle of a mesh belongs to, under an affine (4, 4) `matrix`."""
    known = topology(mesh)
    number = int(known.face_of[triangle])
    rim = known.rim_of(number)
    runs = np.unique(known.run_of[rim])
    runs = runs[(known.runs[runs] >= 0).all(axis=1)]
    ends = known.runs[runs]
    places = np.unique(ends) if len(ends) else np.unique(known.rim[rim])
    corners = known.corners[known.triangles_of(number)]
    a, b, c = (apply(matrix, known.points[corners[:, k]]) for k in range(3))
    areas = np.cross(b - a, c - a)
    share = np.linalg.norm(areas, axis=1)
    middles, weight = (a + b + c) / 3, float(share.sum())
    centre = (middles * share[:, None]).sum(axis=0) / weight if weight > 0 else middles.mean(axis=0)
    normal = areas.sum(axis=0) * np.sign(np.linalg.det(matrix[:3, :3]))
    return Face(
        corners=apply(matrix, known.points[places]),
        places=places,
        edges=apply(matrix, known.points[ends]),
        runs=runs,
        ends=ends,
        centre=centre,
        normal=normal / max(float(np.linalg.norm(normal)), TINY),
        size=float(np.sqrt(weight / 2)),
        number=number,
        circles=_circles_by(mesh, matrix, places),
    )


def _circles_by(mesh: Mesh, matrix: Array, places: Rows) -> tuple[Circle, ...]:
    known = topology(mesh)
    rings = sorted({r for place in places.tolist() for r in known.ring_of.get(place, ())})
    if not rings:
        return ()
    fitted = features_of(mesh, "circle", matrix)
    rows = {int(n): k for k, n in enumerate(fitted.numbers)}
    found = []
    for ring in rings:
        row = rows.get(ring)
        if row is not None:
            corners = apply(matrix, known.points[known.rings[ring]])
            third = len(corners) // 3
            found.append(
                Circle(
                    centre=fitted.points[row],
                    normal=fitted.ways[row],
                    radius=float(fitted.sizes[row]),
                    rim=corners[[0, third, 2 * third]],
                    corners=corners,
                    number=ring,
                )
            )
    return tuple(found)


def picks_at(mesh: Mesh, matrix: Array, triangle: int, at: Array) -> list[Pick]:
    """Return what could be meant by a point `at`, shape (3,), on a triangle: vertices, edges, face, circles."""
    face = face_at(mesh, matrix, triangle)
    known = topology(mesh)
    through = {place: c for c in face.circles for place in known.rings[c.number].tolist()}
    near = _find_nearest_rows(face.corners, at, 6)
    found = [
        Pick(kind="vertex", at=face.corners[k], number=int(face.places[k]), circle=through.get(int(face.places[k])))
        for k in near
    ]
    if len(face.edges):
        starts, along = face.edges[:, 0], face.edges[:, 1] - face.edges[:, 0]
        squared = np.maximum(np.einsum("ij,ij->i", along, along), TINY)
        share = np.clip(np.einsum("ij,ij->i", at - starts, along) / squared, 0, 1)
        feet = starts + share[:, None] * along
        for k in _find_nearest_rows(feet, at, 4):
            first, last = (through.get(int(place)) for place in face.ends[k])
            circle = first if first is last else None
            length = float(np.sqrt(squared[k]))
            of_edge = Pick(
                kind="edge middle",
                at=starts[k] + along[k] / 2,
                way=along[k] / length,
                number=int(face.runs[k]),
                size=length,
                line=face.edges[k],
                circle=circle,
            )
            found += [of_edge, replace(of_edge, kind="edge", at=feet[k])]
    found += [
        Pick(kind="circle centre", at=c.centre, way=c.normal, number=c.number, size=c.radius, circle=c)
        for c in face.circles
    ]
    found.append(Pick(kind="face centre", at=face.centre, way=face.normal, number=face.number, size=face.size))
    found.append(Pick(kind="surface", at=at, way=face.normal))
    return found


def _find_nearest_rows(points: Array, at: Array, most: int) -> Rows:
    away = np.linalg.norm(points - at, axis=1)
    found: Rows = np.argsort(away, kind="stable")[:most]
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
