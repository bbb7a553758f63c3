"""The ground grid: its spacing by the scale of the picture, and its lines."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

__all__ = ["grid_lines", "spacing_for"]

_WANTED_PIXELS = 46
_CELLS = 34  # from the middle to the rim
_MAJOR = 5


def spacing_for(metres_per_pixel: float) -> float:
    """Return the distance between lines, metres: 1, 2 or 5 times a power of ten, near 46 pixels."""
    wanted = max(metres_per_pixel, 1e-9) * _WANTED_PIXELS
    decade = 10.0 ** math.floor(math.log10(wanted))
    return min((decade * k for k in (1, 2, 5, 10)), key=lambda s: abs(math.log(s / wanted)))


def grid_lines(
    middle: tuple[float, float], spacing: float
) -> tuple[NDArray[np.float64], NDArray[np.int64], NDArray[np.float64], NDArray[np.bool_]]:
    """Return a round patch of grid about a point of the ground.

    Parameters
    ----------
    middle : tuple of float, metres
        x and z of the middle; the lines themselves lie at whole multiples of `spacing`.
    spacing : float, metres

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
    major = np.concatenate([row_of, column_of]) % _MAJOR == 0
    seen = strength[segments].max(axis=1) > 0
    return points, segments[seen], strength, major[seen]
