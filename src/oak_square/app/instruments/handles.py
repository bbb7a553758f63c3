"""Handles that a hand takes hold of, and lengths as they are written beside them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.app.view.overlay import Lens
from oak_square.core.dragging import away_from
from oak_square.core.lengths import shortest
from oak_square.core.shown_units import ShownUnit
from oak_square.core.tolerances import SPECK

__all__ = ["Handle", "rounded", "written"]

Array = NDArray[np.float64]


def written(metres: float, unit: ShownUnit) -> str:
    """Return a length as a step says it: in the unit shown, in full; modules in metres."""
    return f"{shortest(metres)} m" if unit.kind == "mod" else unit.exact(metres)


def rounded(metres: float, lens: Lens, at: Array) -> float:
    """Return a dragged length without the digits that a pixel can't tell: a round number of a tenth of its size."""
    pixel = lens.reach(at, 1.0)
    step = 10.0 ** np.floor(np.log10(max(pixel, SPECK)))
    return float(np.round(metres / step) * step)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Handle:
    """Something to take hold of: which axes it goes along, and the pixels it is drawn at, shape (N, 2): a line."""

    name: str
    axes: tuple[int, ...]
    line: Array

    def away(self, x: float, y: float) -> float:
        """Return how far a pixel is from it."""
        return away_from(self.line, np.array([x, y]))
