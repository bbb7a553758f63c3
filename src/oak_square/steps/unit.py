"""`unit`: in this file, one unit is so long."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field

from oak_square.core.errors import did_you_mean
from oak_square.core.frames import Reading
from oak_square.core.lengths import UNITS
from oak_square.core.scene import Asset
from oak_square.steps.step import Effect, Setting, Step, registered


def _is_unit(value: float | str) -> float | str:
    if isinstance(value, str):
        if value not in UNITS and value != "declared":
            hint = did_you_mean(value, [*UNITS, "declared"]) or f" (units are {', '.join(UNITS)})"
            raise ValueError(f"'{value}' is no unit{hint}")
    elif not (1e-9 <= value <= 1e9):
        raise ValueError(f"metres per unit must be a positive number, not {value}")
    return value


@registered
class UnitStep(Step):
    """Sets the reading's unit; settled before all other steps."""

    stage: ClassVar[str] = "size"
    takes_parts: ClassVar[bool] = False

    do: Literal["unit"] = "unit"
    reads: Annotated[float | str, AfterValidator(_is_unit)] = Field(
        description="The unit the file was made in: m, cm, mm, km, in, ft, yd, metres per unit, or declared."
    )

    @property
    def is_reading(self) -> bool:
        """A unit is part of how the file is read."""
        return True

    def read_as(self, reading: Reading) -> Reading:
        """Return `reading` with this unit; `declared` leaves it as it is."""
        if self.reads == "declared":
            return reading
        metres = UNITS[self.reads] if isinstance(self.reads, str) else float(self.reads)
        return replace(reading, metres_per_unit=metres, source="sheet")

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset as it is: the reading was settled before."""
        return Effect(asset=asset, changed=True, detail=f"one unit is {asset.reading.metres_per_unit:g} m")

    def title(self) -> str:
        """Return `Unit: mm`."""
        return f"Unit: {self.reads}"
