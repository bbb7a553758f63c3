"""Numbers that other elements of a COLLADA file refer to, and how whole ones are told."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.formats.shared.xml_spans import Element

__all__ = ["Floats", "parse_whole"]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Floats:
    """A source of numbers.

    Attributes
    ----------
    floats : Element
        Its `float_array`.
    rows : ndarray, shape (count, width)
    first, stride : int
        Where the rows start among its numbers, and how far it is from one to the next.
    """

    id: str
    floats: Element
    rows: Array
    first: int
    stride: int


def parse_whole(text: str | None, default: int) -> int:
    """Return a whole number of eleven digits at most; `default` of anything else."""
    return int(text) if text is not None and text.strip().isdecimal() and len(text) < 12 else default
