"""The border check: array-likes become read-only float64 arrays of known shape, once."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np

from oak_square.core.errors import BadArray
from oak_square.core.words import say

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

__all__ = ["floats", "readonly"]


def readonly(array: NDArray[Any]) -> NDArray[Any]:
    """Return `array` itself, no longer writable."""
    array.setflags(write=False)
    return array


def floats(values: ArrayLike, shape: tuple[int, ...], what: str) -> NDArray[np.float64]:
    """Return `values` as a read-only float64 array of `shape`.

    Raises
    ------
    BadArray
        If the shape differs, or a value is NaN or infinite; the message starts with `what`.
    """
    array = np.array(values, dtype=np.float64)
    if array.shape != shape:
        raise BadArray(say("{what}: has shape {shape}, needs {shape_2}", what=what, shape=array.shape, shape_2=shape))
    if not np.isfinite(array).all():
        raise BadArray(say("{what}: holds a number that is not finite", what=what))
    readonly(array)
    return array
