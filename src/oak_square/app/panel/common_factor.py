"""One factor for several things, in place of a length for each."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

__all__ = ["axis_along", "factor_keeping"]

Array = NDArray[np.float64]


def factor_keeping(factor: float, keep: str, axis: int) -> float | list[float]:
    """Return the factor that sizes things along one axis, 0 x to 2 z, with their other extents as `keep` says.

    `proportions` sizes these alike, `none` leaves them, `volume` lets them give way.
    """
    if keep == "proportions":
        return factor
    # Half typed, a factor may be 0: what it is for says so.
    other = 1.0 if keep == "none" or factor <= 0 else float(f"{factor**-0.5:.12g}")
    return [factor if k == axis else other for k in range(3)]


def axis_along(axes: Array, side: Array) -> int:
    """Return which of some axes, unit columns of shape (3, 3), lies along a direction of shape (3,), either way."""
    return int(np.argmax(np.abs(axes.T @ side)))
