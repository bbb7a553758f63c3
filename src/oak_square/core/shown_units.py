"""The unit that lengths are shown and typed in: metric, feet and inches, or a module. Never what geometry is."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace

from oak_square.core.lengths import UNITS, auto_unit, format_length, format_size, round_number, shortest
from oak_square.core.terms import term
from oak_square.core.tolerances import SPECK
from oak_square.core.words import joined, number, numbers_in_a_row, say

__all__ = ["DENOMINATORS", "ShownUnit"]

DENOMINATORS = (2, 4, 8, 16, 32, 64)
_BARE = re.compile(r"[-+−]?\s*(?:\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d+\.?\d*(?:[eE][-+]?\d+)?|\.\d+)")
_FOOT_STEPS = (1, 2, 5, 10)
_FEW_INCHES = (1, 2, 3, 6)


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownUnit:
    """How lengths are shown.

    Attributes
    ----------
    kind : str
        `auto` (the metric unit that suits each length), a unit of `UNITS`, `ft-in`, or `mod`.
    denominator : int
        Finest fraction of an inch for `ft-in`.
    module : float, metres
        The length of one module for `mod`.
    module_name : str
        What one module is called.
    grid : float or None, metres
        Distance between grid lines where it is set; None lets it follow the view and the unit.
    majors : int or None
        Every so many lines a major one; None lets it follow the unit.
    """

    kind: str = "auto"
    denominator: int = 16
    module: float = 1.0
    module_name: str = "module"
    grid: float | None = None
    majors: int | None = None

    def length(self, metres: float) -> str:
        """Return a length in words."""
        if self.kind == "mod" and math.isfinite(metres):
            return say(
                "{metres} {module_name}", metres=round_number(metres / self.module), module_name=term(self.module_name)
            )
        return format_length(metres, self.kind, denominator=self.denominator)

    def exact(self, metres: float) -> str:
        """Return a length in full, as one number and its unit: what is copied, and read elsewhere."""
        unit = auto_unit(abs(metres)) if self.kind == "auto" else self.symbol
        one = self.module if unit == "mod" else UNITS[unit]
        return f"{shortest(metres, one)} {self.module_name if unit == 'mod' else unit}"

    def size(self, width: float, height: float, depth: float) -> str:
        """Return three extents as one text, in the unit that suits the largest."""
        if self.kind == "mod":
            return say(
                "{names} {module_name}",
                names=joined(" × ", (round_number(v / self.module) for v in (width, height, depth))),
                module_name=term(self.module_name),
            )
        return format_size(width, height, depth, self.kind, denominator=self.denominator)

    def point(self, x: float, y: float, z: float) -> str:
        """Return three coordinates as one text, in one unit: `-0.45, 0.04, -0.02 m`."""
        if self.kind == "ft-in":
            return numbers_in_a_row(self.length(v) for v in (x, y, z))
        unit = auto_unit(max(abs(x), abs(y), abs(z))) if self.kind == "auto" else self.kind
        one = self.module if unit == "mod" else UNITS[unit]
        numbers = numbers_in_a_row(round_number(v / one) for v in (x, y, z))
        return say("{numbers} {unit}", numbers=numbers, unit=term(self.module_name) if unit == "mod" else unit)

    def mark(self, metres: float) -> str:
        """Return a round length in words, as the marks of a rule have it: no digits that say nothing."""
        if self.kind == "ft-in":
            return self.length(metres)
        unit = auto_unit(abs(metres)) if self.kind == "auto" else self.kind
        one = self.module if unit == "mod" else UNITS[unit]
        return number(f"{float(f'{metres / one:.9g}'):g} ") + (term(self.module_name) if unit == "mod" else unit)

    def fixed_for(self, metres: float) -> ShownUnit:
        """Return it with one unit for all lengths, the one that suits a length of so many metres."""
        return replace(self, kind=auto_unit(metres)) if self.kind == "auto" else self

    @property
    def bare(self) -> float:
        """Metres in one of what a number without a unit means when it is typed."""
        if self.kind == "mod":
            return self.module
        return {"auto": 1.0, "ft-in": UNITS["ft"]}.get(self.kind) or UNITS[self.kind]

    @property
    def symbol(self) -> str:
        """The unit as a sheet writes it."""
        return {"auto": "m", "ft-in": "ft"}.get(self.kind, self.kind)

    @property
    def words(self) -> str:
        """What is shown, in a few words."""
        if self.kind == "mod":
            return say(
                "{module_name} of {module}", module_name=term(self.module_name), module=format_length(self.module)
            )
        return {
            "auto": say("metric"),
            "ft-in": say("feet, inches to 1/{denominator}", denominator=self.denominator),
        }.get(self.kind, self.kind)

    def as_typed(self, text: str) -> str:
        """Return typed text as a sheet writes it: a bare number gets the unit it was typed in."""
        body = text.strip()
        return f"{body} {self.symbol}" if _BARE.fullmatch(body) else body

    def grid_for(self, wanted: float) -> tuple[float, int]:
        """Return the distance between grid lines, metres, near `wanted` metres, and how many make a major one.

        Lines lie at round numbers of the unit: 1, 2 and 5 times a power of ten, and for feet and inches at what a
        folding rule has.
        """
        spacing, majors = self._find_following(max(wanted, SPECK))
        if self.grid is not None:
            # What is set holds while it can be seen; far out it is thinned by tens.
            spacing, majors = self.grid, 10 if self.kind != "ft-in" else 12
            while spacing < wanted / 6:
                spacing *= 10
        return spacing, self.majors or majors

    def _find_following(self, wanted: float) -> tuple[float, int]:
        if self.kind == "ft-in":
            return _foot_grid(wanted)
        base = self.module if self.kind == "mod" else 1.0
        decade = base * 10.0 ** math.floor(math.log10(wanted / base))
        return min((decade * k for k in (1, 2, 5, 10)), key=lambda s: abs(math.log(s / wanted))), 5


def _foot_grid(wanted: float) -> tuple[float, int]:
    inch, foot = UNITS["in"], UNITS["ft"]
    steps: list[tuple[float, int]] = [(inch / d, d if d > 1 else 4) for d in (256, 128, 64, 32, 16, 8, 4, 2)]
    steps += [(inch * k, 12 // k) for k in _FEW_INCHES]
    decade = 10.0 ** max(0, math.floor(math.log10(wanted / foot)))
    steps += [(foot * decade * k, 5) for k in _FOOT_STEPS]
    return min(steps, key=lambda s: abs(math.log(s[0] / wanted)))
