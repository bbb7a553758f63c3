"""Rewriting the numbers of geometry by a matrix: positions, normals, tangents, winding."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.placement import is_singular
from oak_square.core.words import say

__all__ = [
    "TOO_LARGE",
    "as_float32",
    "cofactors",
    "ends",
    "flipped",
    "is_mirror",
    "normal_matrix",
    "within_float32",
    "write_directions",
    "write_points",
]

Array = NDArray[np.float64]
_CHUNK = 16_384
_AFTER, _LAST = np.array([1, 2, 0]), np.array([2, 0, 1])
FLOAT32_LARGEST = float(np.finfo(np.float32).max)
TOO_LARGE = say("its coordinates grow past what float32 can hold")


def is_mirror(matrix: Array) -> bool:
    """Tell whether an affine (4, 4) matrix turns the inside out; one that flattens space, which has none, does not."""
    linear = _of_size_one(matrix[:3, :3])
    return bool(np.linalg.det(linear) < 0) and not is_singular(linear)


def _of_size_one(linear: Array) -> Array:
    """Return a (3, 3) matrix over its largest element, so that products of very large or small ones stay numbers."""
    size = float(np.abs(linear).max())
    return linear / size if size > 0 and np.isfinite(size) else linear


def within_float32(values: NDArray[Any]) -> bool:
    """Tell whether all numbers are finite, and no larger than float32 has them: what readers of any format expect."""
    # Not `> largest`: that is false of what is not a number.
    return bool(np.abs(values).max(initial=0.0) <= FLOAT32_LARGEST)


def as_float32(values: NDArray[Any]) -> NDArray[np.float32]:
    """Return coordinates as float32.

    Raises
    ------
    Refused
        If one is not finite, or larger than float32 can hold.
    """
    if not within_float32(values):
        raise Refused(TOO_LARGE)
    return np.ascontiguousarray(values, dtype="<f4")


def write_points(points: NDArray[Any], matrix: Array, out: NDArray[Any]) -> None:
    """Write `points`, shape (N, 3), carried by `matrix` as points, into `out`; computed in float64, chunk by chunk.

    Raises
    ------
    Refused
        If one is not finite, or grows past what float32 can hold.
    """
    linear, moved = matrix[:3, :3], matrix[:3, 3][:, None]
    for start in range(0, len(points), _CHUNK):
        rows = linear @ points[start : start + _CHUNK].T.astype(np.float64) + moved
        if not within_float32(rows):
            raise Refused(TOO_LARGE)
        out[start : start + _CHUNK] = rows.T


def ends(points: NDArray[Any]) -> tuple[NDArray[Any], NDArray[Any]]:
    """Return the lowest and the highest coordinates of `points`, shape (N, 3); zeros when there are none."""
    if not len(points):
        return np.zeros(3, dtype=points.dtype), np.zeros(3, dtype=points.dtype)
    # A row for each coordinate is far faster than reducing along the first axis.
    low, high = points[0].copy(), points[0].copy()
    for start in range(0, len(points), _CHUNK):
        rows = np.ascontiguousarray(points[start : start + _CHUNK].T)
        np.minimum(low, rows.min(axis=1), out=low)
        np.maximum(high, rows.max(axis=1), out=high)
    return low, high


def cofactors(linear: Array) -> Array:
    """Return cofactor matrices, shape (..., 3, 3), `det · inverse transpose`: they carry normals with no inverse."""
    after, last = linear[..., _AFTER, :], linear[..., _LAST, :]
    found: Array = after[..., _AFTER] * last[..., _LAST] - after[..., _LAST] * last[..., _AFTER]
    return found


def write_directions(vectors: NDArray[Any], linear: Array, out: NDArray[Any]) -> None:
    """Write `vectors`, shape (N, 3), carried by a (3, 3) `linear` and made unit again, into `out`.

    A zero vector stays zero.
    """
    linear = _of_size_one(linear)
    for start in range(0, len(vectors), _CHUNK):
        rows = linear @ vectors[start : start + _CHUNK].T.astype(np.float64)
        lengths = np.sqrt(np.einsum("ij,ij->j", rows, rows))
        rows /= np.where(lengths > 0, lengths, 1.0)
        out[start : start + _CHUNK] = rows.T


def normal_matrix(linear: Array) -> Array:
    """Return the (3, 3) matrix that carries outward normals to outward normals, mirrors included."""
    linear = _of_size_one(linear)
    cofactor = cofactors(linear)
    # The inverse transpose is cofactor / det: a mirror flips the cofactor, dividing by its sign flips it back.
    return cofactor if np.linalg.det(linear) >= 0 else -cofactor


def flipped(triangles: NDArray[Any]) -> NDArray[Any]:
    """Return triangles, shape (M, 3), wound the other way round."""
    return triangles[:, [0, 2, 1]]
