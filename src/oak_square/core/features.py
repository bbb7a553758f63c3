"""What can be named on a part: its vertices, edges, faces and circles, where they are and which way they point.

All in one frame, usually the world's: circles that an uneven scale makes ellipses are none there.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import apply
from oak_square.core.geometry import is_mirror
from oak_square.core.memo import Memo
from oak_square.core.tolerances import ROUND, TINY
from oak_square.core.topology import Topology, topology, welded_points

if TYPE_CHECKING:
    from oak_square.core.scene import Mesh

__all__ = ["FEATURE_KINDS", "FeatureKind", "Features", "Rings", "features_of", "fitted_rings"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
FeatureKind = Literal["vertex", "edge", "face", "circle"]
FEATURE_KINDS: tuple[FeatureKind, ...] = ("vertex", "edge", "face", "circle")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Features:
    """All features of one kind of a part.

    Attributes
    ----------
    points : ndarray, shape (N, 3)
        The vertices, the edges' middles, the faces' centres of area, the circles' centres.
    ways : ndarray, shape (N, 3)
        Unit vectors: of a face its outward normal; the line of an edge and the axis of a circle, whose signs mean
        nothing. Zero for vertices.
    sizes : ndarray, shape (N,)
        An edge's length, a circle's radius, the square root of a face's area; 0 for vertices.
    numbers : ndarray of integers, shape (N,)
        Which place, run, face or ring of the part's topology it is.
    """

    points: Array
    ways: Array
    sizes: Array
    numbers: Rows


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Rings:
    """Circles through rings: centres, unit normals, shape (N, 3); radii; which rings they are, shape (N,)."""

    centres: Array
    normals: Array
    radii: Array
    numbers: Rows


_KNOWN: Memo[Features] = Memo(most=64)


def features_of(mesh: Mesh, kind: FeatureKind, matrix: Array) -> Features:
    """Return a mesh's features of a kind under an affine (4, 4) `matrix`, remembered for as long as the mesh lives."""
    return _KNOWN.of(mesh, (kind, matrix.tobytes()), lambda: _MAKERS[kind](mesh, matrix))


def _find_vertices(mesh: Mesh, matrix: Array) -> Features:
    # The faces are not needed, and cost far more than the places.
    number, places = welded_points(mesh)
    strokes = [np.arange(first, first + count) for first, count in mesh.strokes]
    corners = [np.asarray(mesh.triangles, dtype=np.int64).ravel(), *strokes]
    used = np.unique(number[np.concatenate(corners)])
    points = apply(matrix, places[used])
    return Features(points=points, ways=np.zeros_like(points), sizes=np.zeros(len(points)), numbers=used)


def _find_edges(mesh: Mesh, matrix: Array) -> Features:
    known = topology(mesh)
    numbers = np.flatnonzero((known.runs >= 0).all(axis=1) & (known.runs[:, 0] != known.runs[:, 1]))
    ends = np.sort(known.runs[numbers], axis=1)
    # What two faces share is one edge.
    _, first = np.unique((ends[:, 0] << 32) | ends[:, 1], return_index=True)
    numbers, ends = numbers[first], ends[first]
    places = apply(matrix, known.points)
    along = places[ends[:, 1]] - places[ends[:, 0]]
    length = np.linalg.norm(along, axis=1)
    return Features(
        points=places[ends].mean(axis=1),
        ways=along / np.maximum(length, TINY)[:, None],
        sizes=length,
        numbers=numbers,
    )


def _find_faces(mesh: Mesh, matrix: Array) -> Features:
    known = topology(mesh)
    places = apply(matrix, known.points)
    a, b, c = (places[known.corners[:, k]] for k in range(3))
    areas = np.cross(b - a, c - a) / 2 * (-1 if is_mirror(matrix) else 1)
    share, middles = np.linalg.norm(areas, axis=1), (a + b + c) / 3
    whole = np.bincount(known.face_of, share, known.faces)
    normals = np.column_stack([np.bincount(known.face_of, areas[:, k], known.faces) for k in range(3)])
    centres = np.column_stack([np.bincount(known.face_of, middles[:, k] * share, known.faces) for k in range(3)])
    numbers = np.flatnonzero(whole > 0)
    whole, normals = whole[numbers], normals[numbers]
    return Features(
        points=centres[numbers] / whole[:, None],
        ways=normals / np.maximum(np.linalg.norm(normals, axis=1), TINY)[:, None],
        sizes=np.sqrt(whole),
        numbers=numbers,
    )


def _find_circles(mesh: Mesh, matrix: Array) -> Features:
    found = fitted_rings(topology(mesh), matrix)
    return Features(points=found.centres, ways=found.normals, sizes=found.radii, numbers=found.numbers)


_MAKERS = {"vertex": _find_vertices, "edge": _find_edges, "face": _find_faces, "circle": _find_circles}


def fitted_rings(known: Topology, matrix: Array) -> Rings:
    """Return the circles among a part's rings under an affine (4, 4) `matrix`: those that fit their corners best.

    The plane is that of the least squares (the corners' principal directions). In it Kåsa's algebraic fit (A circle
    fitting procedure and its error analysis, 1976) starts a few Gauss-Newton steps on the distances themselves. All
    rings are worked out at once. A ring is a circle where no corner is off it by more than `ROUND` of the radius.
    """
    if not known.rings:
        none = np.empty((0, 3))
        return Rings(centres=none, normals=none, radii=np.empty(0), numbers=np.empty(0, dtype=np.int64))
    count = len(known.rings)
    whose = np.repeat(np.arange(count), [len(r) for r in known.rings])
    corners = apply(matrix, known.points[np.concatenate(known.rings)])
    often = np.bincount(whose, minlength=count).astype(np.float64)

    def mean(values: Array) -> Array:
        return np.column_stack([np.bincount(whose, v, count) for v in values.T]) / often[:, None]

    middle = mean(corners)
    near = corners - middle[whose]
    spread = mean((near[:, :, None] * near[:, None, :]).reshape(-1, 9)).reshape(-1, 3, 3)
    axes = np.linalg.eigh(spread)[1]  # the normal first: along it they spread least
    flat = np.einsum("ij,ijk->ik", near, axes[whose])
    u, v = flat[:, 2], flat[:, 1]
    squares = u * u + v * v
    uu, uv, vv, qu, qv, q = mean(np.column_stack([u * u, u * v, v * v, squares * u, squares * v, squares])).T
    det = uu * vv - uv * uv
    det = np.where(np.abs(det) > TINY, det, 1.0)
    x, y = (qu * vv - qv * uv) / (2 * det), (qv * uu - qu * uv) / (2 * det)
    radius = np.sqrt(np.maximum(q + x * x + y * y, 0))
    for _ in range(4):
        du, dv = u - x[whose], v - y[whose]
        away = np.maximum(np.hypot(du, dv), TINY)
        du, dv = du / away, dv / away
        # Distance less radius has the gradient (-du, -dv, -1): the normal equations, three by three.
        cells = [du * du, du * dv, du, dv * dv, dv, away * du, away * dv, away]
        aa, ab, ac, bb, bc, ra, rb, rc = mean(np.column_stack(cells)).T
        one = np.ones(count)
        left = np.stack([aa, ab, ac, ab, bb, bc, ac, bc, one], axis=1).reshape(-1, 3, 3)
        off = np.column_stack([ra - radius * ac, rb - radius * bc, rc - radius])
        sound = np.abs(np.linalg.det(left)) > TINY
        step = np.zeros((count, 3))
        step[sound] = np.linalg.solve(left[sound], off[sound][:, :, None])[:, :, 0]
        x, y, radius = x + step[:, 0], y + step[:, 1], radius + step[:, 2]
    centres = middle + axes[:, :, 2] * x[:, None] + axes[:, :, 1] * y[:, None]
    off_ring = np.hypot(np.hypot(u - x[whose], v - y[whose]) - radius[whose], flat[:, 0])
    worst = np.zeros(count)
    np.maximum.at(worst, whose, off_ring)
    numbers = np.flatnonzero((radius > 0) & (worst <= ROUND * radius) & np.isfinite(radius))
    return Rings(centres=centres[numbers], normals=axes[numbers, :, 0], radii=radius[numbers], numbers=numbers)
