"""Polygons taken apart into triangles that cover them and no more."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oak_square.core.tolerances import BENT

__all__ = ["cut_with_holes", "fans", "polygons_to_triangles", "reversed_corners"]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]


def polygons_to_triangles(corners: Ints, counts: Ints, points: NDArray[np.floating]) -> NDArray[np.uint32]:
    """Return the triangles, shape (M, 3), of polygons given by their corners in a row and each one's count.

    A polygon of n corners gives n - 2 triangles, in the order of polygons, wound as it is; one of fewer than three
    corners none. Convex ones are cut as fans from their first corner, others so that nothing outside them is covered.

    Parameters
    ----------
    corners : ndarray, shape (sum of counts,)
        Rows of `points`.
    counts : ndarray, shape (polygons,)
    points : ndarray, shape (N, 3)
    """
    if not len(counts):
        return np.empty((0, 3), dtype=np.uint32)
    places = fans(counts)
    many = np.flatnonzero(counts > 3)
    if len(many):
        _cut_the_bent(places, many, corners, counts, points)
    triangles: NDArray[np.uint32] = corners[places].astype(np.uint32)
    return triangles


def fans(counts: Ints) -> Ints:
    """Return the triangles, shape (M, 3), places in a row of corners, of fans of so many corners each."""
    each = np.maximum(counts - 2, 0)
    start = np.repeat(_find_firsts(counts), each)
    step = np.arange(int(each.sum())) - np.repeat(_find_firsts(each), each)
    return np.stack([start, start + step + 1, start + step + 2], axis=1)


def _find_firsts(counts: Ints) -> Ints:
    return np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64)


def _cut_the_bent(places: Ints, many: Ints, corners: Ints, counts: Ints, points: NDArray[np.floating]) -> None:
    """Cut polygons that are not convex anew; `many` are those of more than three corners, `places` what is cut."""
    first, own = _find_firsts(counts)[many], counts[many]
    inside = _find_firsts(own)
    place = np.repeat(first - inside, own) + np.arange(int(own.sum()))
    after = np.arange(len(place)) + 1
    after[inside + own - 1] = inside
    before = np.arange(len(place)) - 1
    before[inside] = inside + own - 1
    at = points[corners[place]].astype(np.float64)
    # Relative to a corner of its own, far polygons keep their digits.
    at -= np.repeat(at[inside], own, axis=0)
    normals = np.add.reduceat(np.cross(at, at[after]), inside, axis=0)  # Newell's: twice the area long
    turns = np.cross(at - at[before], at[after] - at)
    rise = np.einsum("ij,ij->i", turns, np.repeat(normals, own, axis=0))
    allowed = BENT * np.einsum("ij,ij->i", normals, normals)
    bent = rise < -np.repeat(allowed, own)
    first_triangle = _find_firsts(np.maximum(counts - 2, 0))[many]
    for k in np.flatnonzero(np.add.reduceat(bent.astype(np.int64), inside) > 0).tolist():
        rows = slice(int(inside[k]), int(inside[k] + own[k]))
        cut = _cut_ears(at[rows], normals[k], [int(own[k])])
        places[first_triangle[k] : first_triangle[k] + own[k] - 2] = cut + first[k]


def cut_with_holes(points: NDArray[np.floating], ends: Sequence[int]) -> Ints:
    """Return the triangles, shape (M, 3), rows of `points`, of one polygon with holes, wound as the outer ring is.

    Parameters
    ----------
    points : ndarray, shape (N, 3)
        The corners of the outer ring, then those of each hole.
    ends : sequence of int
        One past the last corner of each ring.
    """
    at = np.asarray(points, dtype=np.float64)
    at = at - at[0]
    outer = at[: ends[0]]
    normal = np.cross(outer, np.roll(outer, -1, axis=0)).sum(axis=0)
    return _cut_ears(at, normal, list(ends))


def _cut_ears(at: Array, normal: Array, ends: list[int]) -> Ints:
    """Return triangles of rings, rows of `at`, shape (N, 3), cut by ears in the plane across `normal`."""
    # A library in C, wanted where a face is not convex.
    import mapbox_earcut

    count = ends[0]
    fan = np.stack([np.zeros(count - 2, dtype=np.int64), np.arange(1, count - 1), np.arange(2, count)], axis=1)
    axis = int(np.argmax(np.abs(normal)))
    if not np.isfinite(at).all() or normal[axis] == 0:
        return fan
    flat = np.ascontiguousarray(np.delete(at, axis, axis=1))
    if (normal[axis] < 0) != (axis == 1):
        flat = np.ascontiguousarray(flat[:, ::-1])
    flat = flat / (np.abs(flat).max() or 1.0)
    cut = mapbox_earcut.triangulate_float64(flat, np.array(ends, dtype=np.uint32)).reshape(-1, 3).astype(np.int64)
    a, b, c = (flat[cut[:, k]] for k in range(3))
    turned = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) < (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    cut[turned] = cut[turned][:, [0, 2, 1]]
    if len(ends) > 1:
        found: Ints = cut
        return found
    return _with_straight_corners(cut, count, fan)


def _with_straight_corners(cut: Ints, count: int, fan: Ints) -> Ints:
    """Return triangles of one ring with the corners put back that lie on a straight side, which the cutter leaves out.

    A neighbour may use such a corner: without it there would be a crack between the two.
    """
    used = np.zeros(count, dtype=bool)
    used[cut.ravel()] = True
    kept = np.flatnonzero(used)
    if len(kept) < 3:
        return fan
    rows: list[list[int]] = cut.tolist()
    for a, b in zip(kept.tolist(), np.roll(kept, -1).tolist(), strict=True):
        between = [k % count for k in range(a + 1, b if b > a else b + count)]
        if not between:
            continue
        side = next((k for k, (x, y, z) in enumerate(rows) if (a, b) in ((x, y), (y, z), (z, x))), None)
        if side is None:
            return fan
        (far,) = (v for v in rows[side] if v not in (a, b))
        chain = [a, *between, b]
        rows[side : side + 1] = [[x, y, far] for x, y in pairwise(chain)]
    return np.array(rows, dtype=np.int64) if len(rows) == count - 2 else fan


def reversed_corners(counts: Ints) -> Ints:
    """Return, for the corners of polygons in a row, which one stands in each place once they are wound the other way.

    The first corner of each stays the first.
    """
    first = _find_firsts(counts) if len(counts) else counts
    start, count = np.repeat(first, counts), np.repeat(counts, counts)
    step = np.arange(len(start)) - start
    found: Ints = start + np.where(step == 0, 0, count - step)
    return found
