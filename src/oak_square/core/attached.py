"""What goes with a mesh's vertices, corners or faces beside their positions: directions, and what no step changes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.geometry import is_mirror, normal_matrix
from oak_square.core.words import say

__all__ = ["Attached", "how_it_strays"]

Array = NDArray[np.float64]
_CHUNK = 16_384


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Attached:
    """A run of rows that belong to a mesh.

    Attributes
    ----------
    what : str
        What they are, as it is said: `normals`.
    kind : {"normal", "vector", "kept"}
        Carried as normals, carried as vectors, or not changed by steps.
    values : ndarray, shape (K, W), numbers of the mesh
        Rows that are not finite stand where the file has none.
    of : {"points", "corners", "faces", "rows"}
        A row for each of the mesh's points; for each corner of its faces, which turn round with their face; for each of
        its faces; or in an order that steps keep.
    hands : ndarray, shape (K,), or None
        Which way round a vector's frame is, 1 or -1.
    """

    what: str
    kind: Literal["normal", "vector", "kept"]
    values: NDArray[Any]
    of: Literal["points", "corners", "faces", "rows"] = "points"
    hands: NDArray[Any] | None = None


def how_it_strays(old: Attached, new: Attached, matrix: Array, allowed: float) -> str | None:
    """Return in a few words how rows are not what `matrix` makes of them, or None where they are.

    Parameters
    ----------
    old, new : Attached
        Of the source, its rows in the new order; of the delivered file.
    matrix : ndarray, shape (4, 4)
        From the source's mesh numbers to the delivered file's.
    allowed : float
        The largest distance between unit vectors.
    """
    before, after = np.asarray(old.values), np.asarray(new.values)
    if before.shape != after.shape:
        return say(
            "are {shape} of {shape_2} numbers, for {shape_3} of {shape_4}",
            shape=after.shape[0],
            shape_2=after.shape[1],
            shape_3=before.shape[0],
            shape_4=before.shape[1],
        )
    if old.kind == "kept":
        return (
            None if np.array_equal(before, after, equal_nan=before.dtype.kind == "f") else say("are not what they were")
        )
    linear = normal_matrix(matrix[:3, :3]) if old.kind == "normal" else matrix[:3, :3]
    has_one = np.empty(len(before), dtype=bool)
    for start in range(0, len(before), _CHUNK):
        rows = slice(start, start + _CHUNK)
        off, has_one[rows] = _measure_apart(before[rows], after[rows], linear)
        # Not `> allowed`: that is false of what is not a number.
        if not (off <= allowed):
            return say("do not point where they should")
    if (old.hands is None) != (new.hands is None):
        return say("have lost their handedness")
    if old.hands is not None and new.hands is not None:
        turned = -1.0 if is_mirror(matrix) else 1.0
        if not np.array_equal(old.hands[has_one] * turned, new.hands[has_one]):
            return say("have the wrong handedness")
    return None


def _measure_apart(before: NDArray[Any], after: NDArray[Any], linear: Array) -> tuple[float, NDArray[np.bool_]]:
    """Return how far unit vectors are at most from where a (3, 3) matrix sends them, and which rows are any."""
    old, new = before.T.astype(np.float64), after.T.astype(np.float64)
    there = np.einsum("ij,ij->j", old, old)
    is_one = np.isfinite(there) & (there > 0)
    if not is_one.all():
        old, new = old[:, is_one], new[:, is_one]
    wanted = linear @ old
    lengths, own = np.sqrt(np.einsum("ij,ij->j", wanted, wanted)), np.sqrt(np.einsum("ij,ij->j", new, new))
    apart = wanted / lengths - new / np.where(own > 0, own, 1.0)
    return float(np.sqrt(np.einsum("ij,ij->j", apart, apart).max(initial=0.0))), is_one
