"""What goes with a mesh's vertices, corners or faces beside their positions: directions, and what no step changes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.geometry import is_mirror, normal_matrix

__all__ = ["Attached", "how_it_strays"]

Array = NDArray[np.float64]


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
    of : {"points", "corners", "rows"}
        A row for each of the mesh's points; for each corner of its faces, which turn round with their face; or in an
        order that steps keep.
    hands : ndarray, shape (K,), or None
        Which way round a vector's frame is, 1 or -1.
    """

    what: str
    kind: Literal["normal", "vector", "kept"]
    values: NDArray[Any]
    of: Literal["points", "corners", "rows"] = "points"
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
        return f"are {after.shape[0]} of {after.shape[1]} numbers, for {before.shape[0]} of {before.shape[1]}"
    if old.kind == "kept":
        return None if np.array_equal(before, after, equal_nan=before.dtype.kind == "f") else "are not what they were"
    linear = normal_matrix(matrix[:3, :3]) if old.kind == "normal" else matrix[:3, :3]
    wanted, there = before.astype(np.float64) @ linear.T, after.astype(np.float64)
    has_one = _length(before.astype(np.float64)) > 0
    lengths, own = _length(wanted)[has_one], _length(there)[has_one]
    apart = _length(wanted[has_one] / lengths[:, None] - there[has_one] / np.where(own > 0, own, 1.0)[:, None])
    # Not `> allowed`: that is false of what is not a number.
    if not (apart.max(initial=0.0) <= allowed):
        return "do not point where they should"
    if (old.hands is None) != (new.hands is None):
        return "have lost their handedness"
    if old.hands is not None and new.hands is not None:
        turned = -1.0 if is_mirror(matrix) else 1.0
        if not np.array_equal(old.hands[has_one] * turned, new.hands[has_one]):
            return "have the wrong handedness"
    return None


def _length(rows: Array) -> Array:
    """Return the length of each row, shape (K, 3); 0 where it is not finite."""
    found: Array = np.linalg.norm(rows, axis=1)
    return np.where(np.isfinite(found), found, 0.0)
