"""Polygons taken apart into triangles."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

__all__ = ["polygons_to_triangles", "reversed_corners"]

Ints = NDArray[np.int64]


def polygons_to_triangles(corners: Ints, counts: Ints) -> NDArray[np.uint32]:
    """Return fans, shape (M, 3), of polygons given by their corners in a row and each one's count.

    Polygons of fewer than three corners give none.
    """
    if not len(counts):
        return np.empty((0, 3), dtype=np.uint32)
    fans = np.maximum(counts - 2, 0)
    first = np.concatenate([[0], np.cumsum(counts)[:-1]])
    start = np.repeat(first, fans)
    step = np.arange(int(fans.sum())) - np.repeat(np.concatenate([[0], np.cumsum(fans)[:-1]]), fans)
    rows = np.stack([start, start + step + 1, start + step + 2], axis=1)
    triangles: NDArray[np.uint32] = corners[rows].astype(np.uint32)
    return triangles


def reversed_corners(counts: Ints) -> Ints:
    """Return, for the corners of polygons in a row, which one stands in each place once they are wound the other way.

    The first corner of each stays the first.
    """
    first = np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64) if len(counts) else counts
    start, count = np.repeat(first, counts), np.repeat(counts, counts)
    step = np.arange(len(start)) - start
    found: Ints = start + np.where(step == 0, 0, count - step)
    return found
