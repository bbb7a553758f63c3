"""Where a point that was picked of a mesh comes to once the mesh's vertices are moved, and where it came from."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.features import FeatureKind, features_of
from oak_square.core.memo import Memo
from oak_square.core.scene import Mesh
from oak_square.core.tolerances import NOTHING_M, PICKED_AT, TINY
from oak_square.core.topology import topology

__all__ = ["point_after_shaping", "point_before_shaping"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
_BEFORE: Memo[Mesh] = Memo()
_FEATURES: dict[str, FeatureKind] = {"face centre": "face", "circle centre": "circle"}


def point_after_shaping(mesh: Mesh, at: Array, kind: str) -> Array:
    """Return where a point, shape (3,), of the mesh as it was received is by now, mesh numbers.

    What it was picked of, in words (`vertex`, `edge middle`…), goes along with its vertices: it keeps its shares of
    them. What is found on nothing of that kind stays.
    """
    if mesh.unshaped is None:
        return at
    return _carry_point(_mesh_before(mesh), at, kind, np.asarray(mesh.points, dtype=np.float64))


def point_before_shaping(mesh: Mesh, at: Array, kind: str) -> Array:
    """Return where a point of the mesh as it is now was in the mesh as received; as `point_after_shaping`."""
    if mesh.unshaped is None:
        return at
    return _carry_point(mesh, at, kind, np.asarray(mesh.unshaped.points, dtype=np.float64))


def _mesh_before(mesh: Mesh) -> Mesh:
    assert mesh.unshaped is not None
    points, normals = mesh.unshaped.points, mesh.unshaped.normals
    return _BEFORE.of(mesh, None, lambda: replace(mesh, points=points, normals=normals, unshaped=None))


def _carry_point(mesh: Mesh, at: Array, kind: str, goes_to: Array) -> Array:
    rows = _find_rows(mesh, at, kind)
    if not len(rows):
        return at
    points = np.asarray(mesh.points, dtype=np.float64)[rows]
    if np.array_equal(points, goes_to[rows]):
        return at
    if len(rows) == 1:
        vertex: Array = goes_to[rows[0]]
        return vertex
    # The shares of least squares that add up to one and make the point: 1/2 each of an edge's ends at its middle.
    middle = points.mean(axis=0)
    size = max(float(np.abs(points - middle).max()), TINY)
    system = np.vstack([(points - middle).T / size, np.ones(len(rows))])
    shares = np.linalg.pinv(system) @ np.append((at - middle) / size, 1.0)
    moved: Array = shares @ goes_to[rows]
    return moved


def _find_rows(mesh: Mesh, at: Array, kind: str) -> Rows:
    """Return the rows of a mesh's points that make what lies at a point; none where nothing of the kind does."""
    none = np.empty(0, dtype=np.int64)
    if not len(mesh.points):
        return none
    near = PICKED_AT * max(float(np.ptp(mesh.points, axis=0).max()), NOTHING_M)
    if kind in ("vertex", "rim"):
        return np.flatnonzero((mesh.points == at).all(axis=1))[:1]
    if kind in ("edge middle", "edge"):
        known = topology(mesh)
        ends = known.runs[(known.runs >= 0).all(axis=1)]
        starts, along = known.points[ends[:, 0]], known.points[ends[:, 1]] - known.points[ends[:, 0]]
        squared = np.maximum((along * along).sum(axis=1), TINY)
        share = np.clip(((at - starts) * along).sum(axis=1) / squared, 0, 1)
        off = np.linalg.norm(starts + share[:, None] * along - at, axis=1)
        return _rows_of_places(mesh, ends[int(off.argmin())]) if len(off) and off.min() <= near else none
    if kind in _FEATURES:
        feature = _FEATURES[kind]
        found = features_of(mesh, feature, np.eye(4))
        off = np.linalg.norm(found.points - at, axis=1)
        if not len(off) or off.min() > near:
            return none
        known, number = topology(mesh), int(found.numbers[int(off.argmin())])
        places = known.rings[number] if feature == "circle" else np.unique(known.corners[known.triangles_of(number)])
        return _rows_of_places(mesh, places)
    return none


def _rows_of_places(mesh: Mesh, places: Rows) -> Rows:
    """Return one row of a mesh's points for each place, by its number in the topology."""
    welded = topology(mesh).welded
    first = np.full(int(welded.max(initial=-1)) + 1, -1, dtype=np.int64)
    first[welded[::-1]] = np.arange(len(welded))[::-1]
    return first[places]
