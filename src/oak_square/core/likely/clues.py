"""What one asset says of its unit and its sides: taken once when it is read, small, and kept beside it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.likely.nouns import named_by, said_lengths
from oak_square.core.likely.sample import sample_of
from oak_square.core.likely.shape import ShapeTells, shape_of
from oak_square.core.likely.units import UnitClues
from oak_square.core.memo import Memo
from oak_square.core.tolerances import ON_GRID

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["Clues", "clues_of"]

Array = NDArray[np.float64]
_CLUES: Memo[Clues] = Memo()
_MOST_VALUES = 400
# How many of one unit make one of the other, between the kinds: 25.4 mm to the inch, and the feet of either.
_KINDS = {"metric": (25.4, 304.8), "inches": (1 / 25.4, 1 / 2.54, 1 / 0.0254, 12 / 304.8, 12 / 30.48, 12 / 0.3048)}
_STEPS = {"metric": (100.0, 50.0, 10.0, 5.0, 1.0), "inches": (12.0, 6.0, 1.0, 0.5, 0.25)}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False, weakref_slot=True)
class Clues:
    """What one asset says.

    Attributes
    ----------
    file, format : str
    unit : UnitClues or None
        None where it has no extent to judge by.
    shape : ShapeTells or None
        None where it has no surface to judge by.
    up, front : str
        The axes it is read with as received.
    declared_up : bool
        The file says so itself.
    metres : float
        The unit it is read with as received.
    """

    file: str
    format: str
    unit: UnitClues | None
    shape: ShapeTells | None
    up: str
    front: str
    declared_up: bool
    metres: float


def clues_of(asset: Asset) -> Clues:
    """Return what an asset as received says; remembered with it.

    Raises
    ------
    BadBook
        If the studio's own table of nouns can't be read.
    """
    return _CLUES.of(asset, None, lambda: _gather_clues(asset))


def _gather_clues(asset: Asset) -> Clues:
    reading = asset.reading
    box = asset_box(asset)
    sample = sample_of(asset) if box is not None else None
    unit = None
    if box is not None and np.isfinite(box.size).all() and box.size.max() > 0:
        width, height, depth = (float(v) / reading.metres_per_unit for v in box.size)
        inside = [n.name for n in asset.nodes if n.name] if len(asset.nodes) <= 3 else []
        unit = UnitClues(
            size=(width, height, depth),
            declared=reading.metres_per_unit if reading.source == "declared" else None,
            named=named_by(asset.file, inside),
            lengths=said_lengths(asset.file),
            on_grid=""
            if sample is None or reading.source == "declared"
            else _find_grid(sample.points - sample.box.low),
        )
    return Clues(
        file=asset.file, format=asset.format, unit=unit, shape=None if sample is None else shape_of(sample),
        up=reading.up, front=reading.front, declared_up=reading.source == "declared", metres=reading.metres_per_unit,
    )  # fmt: skip


def _find_grid(offsets: Array) -> str:
    """Return the kind of unit on whole numbers of which corners lie, and not on short ones of their own; else nothing.

    Parameters
    ----------
    offsets : ndarray, shape (N, 3)
        Corners beside the lowest one, file units.

    Notes
    -----
    A step counts where nine in ten of at least eight different coordinates lie within a hundredth of it of a whole
    number: by chance one in fifty does.
    """
    size = float(offsets.max())
    values = np.unique(np.round(offsets[offsets > 1e-4 * size] / size, 6))
    if len(values) < 8 or size <= 0:
        return ""
    values = values[:: max(1, len(values) // _MOST_VALUES)] * size
    own = 10.0 ** np.floor(np.log10(size))
    if any(_is_on_grid(values, own * step, size) for step in (0.5, 0.25, 0.1, 0.05, 0.0625, 0.02, 0.01, 0.005)):
        return ""  # short numbers as it is: drawn in its own unit
    for kind, ratios in _KINDS.items():
        if any(_is_on_grid(values * r, step, size * r) for r in ratios for step in _STEPS[kind]):
            return kind
    return ""


def _is_on_grid(values: Array, step: float, size: float) -> bool:
    """Tell whether nearly all values lie on whole steps, of which there are neither too few nor too many to tell."""
    if not 4 <= size / step <= 1500:
        return False
    off = np.abs(values / step - np.round(values / step))
    slack = max(0.01, ON_GRID * size / step)
    return bool((off < slack).mean() >= 0.9)
