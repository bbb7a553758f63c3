"""Where things stand that are set out in rows: side by side by a gap, in a grid of so many columns."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

__all__ = ["row_shifts"]

Array = NDArray[np.float64]


def row_shifts(
    boxes: Array, *, gap: float, columns: int | None = None, along: Literal["width", "depth"] = "width"
) -> Array:
    """Return how far each thing is moved, shape (N, 3), metres, so that they stand in rows with their bottoms at 0.

    The first row goes from the origin to the right, its middles in line over the origin's depth; further rows come
    before it, toward the front, at a gap from the deepest. Each column is as wide as its widest. Along `depth` the
    first row goes to the front, and further ones come to its right.

    Parameters
    ----------
    boxes : ndarray, shape (N, 2, 3), metres, working frame
        Lowest and highest corners.
    gap : float, metres
        Between the boxes, and between the rows.
    columns : int, optional
        How many stand in a row; all where it is not given.
    """
    count = len(boxes)
    if not count:
        return np.empty((0, 3))
    run, across = (0, 2) if along == "width" else (2, 0)
    per_row = min(columns or count, count)
    row, column = np.divmod(np.arange(count), per_row)
    sizes = boxes[:, 1] - boxes[:, 0]
    wide = _find_greatest(sizes[:, run], column)
    deep = _find_greatest(sizes[:, across], row)
    starts = np.concatenate([[0.0], np.cumsum(wide + gap)[:-1]])
    lines = np.concatenate([[0.0], np.cumsum((deep[:-1] + deep[1:]) / 2 + gap)])
    middles = boxes.mean(axis=1)
    shifts = np.empty((count, 3))
    shifts[:, run] = starts[column] + wide[column] / 2 - middles[:, run]
    shifts[:, across] = lines[row] - middles[:, across]
    shifts[:, 1] = -boxes[:, 0, 1]
    return shifts


def _find_greatest(values: Array, groups: NDArray[np.int64]) -> Array:
    found = np.zeros(int(groups.max()) + 1)
    np.maximum.at(found, groups, values)
    return found
