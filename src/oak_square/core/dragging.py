"""Where a pointer's ray takes a thing that is dragged: along a line, over a plane, round an axis."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oak_square.core.tolerances import EDGE_ON, SPECK, TINY

__all__ = ["angle_about", "away_from", "on_line", "on_plane"]

Array = NDArray[np.float64]


def on_line(eye: Array, toward: Array, at: Array, axis: Array) -> float | None:
    """Return how far along a line, metres from `at`, it comes nearest to a ray; None where it runs toward the eye.

    Parameters
    ----------
    eye, toward : ndarray, shape (3,), world
        The ray; `toward` of length 1.
    at, axis : ndarray, shape (3,), world
        A point of the line and its unit direction.
    """
    between = eye - at
    cosine = float(toward @ axis)
    across = 1 - cosine * cosine
    if across <= EDGE_ON * EDGE_ON:
        return None
    # Where the segment between the two lines is square to both (Eberly, Geometric Tools, 2004, 10.2).
    return float((between @ axis - cosine * (between @ toward)) / across)


def on_plane(eye: Array, toward: Array, at: Array, normal: Array) -> Array | None:
    """Return where a ray meets a plane through `at`, world; None where it runs along it or behind the eye."""
    slope = float(toward @ normal)
    if abs(slope) <= EDGE_ON:
        return None
    reach = float((at - eye) @ normal) / slope
    return None if reach <= 0 else eye + toward * reach


def away_from(line: Array, at: Array, *, closed: bool = False) -> float:
    """Return how far a point, shape (2,), is from a line through points, shape (N, 2), pixels; one point will do."""
    ends = np.vstack([line, line[:1]]) if closed or len(line) == 1 else line
    start, along = ends[:-1], ends[1:] - ends[:-1]
    share = ((at - start) * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), SPECK)
    return float(np.linalg.norm(start + np.clip(share, 0, 1)[:, None] * along - at, axis=1).min())


def angle_about(start: Array, end: Array, centre: Array, axis: Array) -> float:
    """Return the angle, degrees from -180 to 180, that turns `start` onto `end` about an axis through `centre`."""
    a, b = start - centre, end - centre
    a, b = a - axis * (a @ axis), b - axis * (b @ axis)
    if float(a @ a) <= TINY or float(b @ b) <= TINY:
        return 0.0
    return float(np.degrees(np.arctan2(float(axis @ np.cross(a, b)), float(a @ b))))
