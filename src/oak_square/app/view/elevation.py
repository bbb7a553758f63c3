"""Where each asset of the line-up stands, and how large: plain numbers, no Qt, no VTK.

Everything stands on one ground. In the even scale a metre is a metre everywhere. In the logarithmic one, a height
h stands `log10(h / shortest) + 0.4` units tall, and each asset is drawn whole at the scale that makes its top meet
its own height; what would be far wider than the picture is drawn smaller, and only its height is marked.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from oak_square.core.tolerances import SPECK

__all__ = ["RowLayout", "Slot", "laid_out", "spans_decades"]

_GAP = 0.32  # between two, as a share of the smaller one's larger side
_LEAST_GAP = 0.02  # as a share of the larger one's
_FOOT = 0.4  # units that the shortest stands tall in the logarithmic scale
_WIDEST = 0.6  # times the tallest's height, in the logarithmic scale


@dataclass(frozen=True, slots=True, kw_only=True)
class Slot:
    """One asset's place: its left end and its sides in units, and the units in one of its metres."""

    left: float
    width: float
    height: float
    per_metre: float

    @property
    def middle(self) -> float:
        """The middle between its sides."""
        return self.left + self.width / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class RowLayout:
    """The whole row.

    Attributes
    ----------
    slots : tuple of Slot
        In the order given.
    shortest : float, metres
        The least height, what the logarithmic scale is measured from.
    even : bool
    """

    slots: tuple[Slot, ...] = ()
    shortest: float = 1.0
    even: bool = True

    @property
    def width(self) -> float:
        """From the first one's left to the last one's right, units."""
        return self.slots[-1].left + self.slots[-1].width if self.slots else 1.0

    @property
    def height(self) -> float:
        """The tallest, units."""
        return max((s.height for s in self.slots), default=1.0)

    def height_of(self, metres: float) -> float:
        """Return where a height stands, units."""
        if self.even:
            return metres
        return max(0.0, math.log10(max(metres, SPECK) / self.shortest) + _FOOT)

    def metres_at(self, units: float) -> float:
        """Return the height that stands so many units tall."""
        return units if self.even else self.shortest * 10 ** (units - _FOOT)

    def ticks(self, low: float, high: float, wanted: float) -> list[tuple[float, bool]]:
        """Return heights, metres, to mark between `low` and `high` units: about `wanted` units apart; true for majors.

        In the logarithmic scale: the decades, and 2 and 5 between them where there is room.
        """
        if self.even:
            decade = 10.0 ** math.floor(math.log10(max(wanted, SPECK)))
            step = next(decade * k for k in (1, 2, 5, 10) if decade * k >= wanted * 0.999)
            first, last = max(0, math.ceil(low / step - SPECK)), math.floor(high / step + SPECK)
            return [(k * step, k % 5 == 0) for k in range(first, min(last, first + 400) + 1)]
        lowest, highest = self.metres_at(max(low, 0.0)), self.metres_at(min(high, 40.0))
        decades = range(math.floor(math.log10(lowest)), math.ceil(math.log10(highest)) + 1)
        mantissas = (1, 2, 5) if wanted < 0.3 else (1,)
        found = [(m * 10.0**d, m == 1) for d in decades for m in mantissas]
        return [t for t in found if lowest <= t[0] <= highest]


def laid_out(sides: Sequence[tuple[float, float]], *, even: bool) -> RowLayout:
    """Return the places of assets in a row.

    Parameters
    ----------
    sides : sequence of (width, height), metres, as seen in the elevation
    even : bool
        Every metre alike; else the logarithmic scale.
    """
    heights = [h for _, h in sides if h > 0] or [1.0]
    shape = RowLayout(shortest=min(heights), even=even)
    tallest = max(shape.height_of(h) for h in heights)
    slots: list[Slot] = []
    at = 0.0
    for width, height in sides:
        per_metre = _find_scale(shape, width, height, tallest)
        wide, high = width * per_metre, shape.height_of(height) if not even else height
        if slots:
            a, b = max(slots[-1].width, slots[-1].height), max(wide, high)
            at += max(_GAP * min(a, b), _LEAST_GAP * max(a, b))
        slots.append(Slot(left=at, width=wide, height=high, per_metre=per_metre))
        at += wide
    return RowLayout(slots=tuple(slots), shortest=shape.shortest, even=even)


def _find_scale(shape: RowLayout, width: float, height: float, tallest: float) -> float:
    if shape.even:
        return 1.0
    per_metre = shape.height_of(height) / height if height > 0 else math.inf
    widest = _WIDEST * tallest / width if width > 0 else math.inf
    found = min(per_metre, widest)
    return found if math.isfinite(found) else 1.0


def spans_decades(heights: Sequence[float]) -> float:
    """Return how many powers of ten lie between the least and the greatest of `heights`."""
    positive = [h for h in heights if h > 0]
    return math.log10(max(positive) / min(positive)) if positive else 0.0
