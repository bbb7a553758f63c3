"""Where the pointer is in the Bench, and what lies under it: what an instrument is given to work with."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.picture import Shape
from oak_square.app.view.overlay import Lens

__all__ = ["Hit", "Passed", "Pointing"]

Array = NDArray[np.float64]
Hit = tuple[Shape, Array, int]
"""What a ray meets: the part, the point, shape (3,) metres, and the triangle."""

Passed = Callable[[Shape], bool]
"""Tells which shapes a ray goes through as if they were not there."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Pointing:
    """One moment of the pointer.

    Attributes
    ----------
    x, y : float, pixels of the Bench
    eye, toward : ndarray, shape (3,)
        The ray through that pixel, metres; `toward` is of length 1.
    lens : Lens
        Camera and size of the picture.
    beside : bool
        Ctrl is held: what is meant comes beside what is there.
    clicked : bool
        At a release: the pointer has not travelled since the press.
    hits : callable
        Looks what the ray meets, the one through the pixel itself, or with True also those a few pixels around it;
        beside what is to be passed over.
    around : callable
        Looks all that rays within the pointer's reach meet, what lies under the pointer itself first.
    sees : callable
        Tells whether a world point, shape (3,), is in sight: nothing lies before it but what is to be passed over.
    free : bool
        Shift is held: nothing is snapped to.
    """

    x: float
    y: float
    eye: Array
    toward: Array
    lens: Lens
    hits: Callable[[bool, Passed | None], Hit | None]
    around: Callable[[Passed | None], list[Hit]]
    sees: Callable[[Array, Passed | None], bool]
    beside: bool = False
    clicked: bool = False
    free: bool = False

    def hit(self, *, near: bool = False, passing: Passed | None = None) -> Hit | None:
        """Return what lies under the pointer; `near`, a few pixels beside it will do; `passing` over some shapes."""
        return self.hits(near, passing)
