"""The lines of the ground grid."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

__all__ = ["grid_lines"]

_CELLS = 34  # from the middle to the rim


def grid_lines(
    middle: tuple[float, float], spacing: float, majors: int = 5
) -> tuple[NDArray[np.float64], NDArray[np.int64], NDArray[np.float64], NDArray[np.bool_]]:
    """Return a round patch of grid about a point of the ground.

    Parameters
    ----------
    middle : tuple of float, metres
        x and z of the middle; the lines themselves lie at whole multiples of `spacing`.
    spacing : float, metres
    majors : int
        Every so many lines a major one.

    Returns
    -------
    points : ndarray, shape (N, 2), metres, x and z
    segments : ndarray, shape (M, 2), rows of `points`
    strength : ndarray, shape (N,), 1 in the middle, 0 at the rim
    major : ndarray, shape (M,)
        Whether a segment belongs to a major line.
    """
    home = np.round(np.array(middle) / spacing)
    steps = np.arange(-_CELLS, _CELLS + 1)
    count = len(steps)
    along, across = np.meshgrid(steps, steps)
    cells = np.stack([along.ravel(), across.ravel()], axis=1)
    points = (cells + home) * spacing
    away = np.linalg.norm(points - np.array(middle), axis=1) / (_CELLS * spacing)
    strength = np.clip(1.05 - away, 0, 1) ** 1.5
    index = np.arange(count * count).reshape(count, count)
    rows = np.stack([index[:, :-1], index[:, 1:]], axis=-1).reshape(-1, 2)
    columns = np.stack([index[:-1, :], index[1:, :]], axis=-1).reshape(-1, 2)
    row_of = (across.ravel() + home[1])[rows[:, 0]]
    column_of = (along.ravel() + home[0])[columns[:, 0]]
    segments = np.vstack([rows, columns])
    major = np.concatenate([row_of, column_of]) % majors == 0
    seen = strength[segments].max(axis=1) > 0
    return points, segments[seen], strength, major[seen]
