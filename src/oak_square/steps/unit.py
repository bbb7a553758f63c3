"""`unit`: in this file, one unit is so long."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field

from oak_square.core.boxes import asset_box
from oak_square.core.frames import Reading
from oak_square.core.lengths import UNITS
from oak_square.core.scene import Asset
from oak_square.core.unit_ranking import Evidence, Ranking, rank_units
from oak_square.steps.step import Effect, Setting, Step, is_unit, registered


@registered
class UnitStep(Step):
    """Sets the reading's unit; settled before all other steps."""

    stage: ClassVar[str] = "size"
    takes_parts: ClassVar[bool] = False

    do: Literal["unit"] = "unit"
    reads: Annotated[float | str, AfterValidator(is_unit)] = Field(
        description="The unit the file was made in: m, cm, mm, km, in, ft, yd, metres per unit, declared, or guess: "
        "the likeliest by what the file declares and how large things are."
    )

    @property
    def is_reading(self) -> bool:
        """A unit is part of how the file is read."""
        return True

    def read_as(self, reading: Reading, asset: Asset) -> Reading:
        """Return `reading` with this unit; `declared` takes earlier ones back, `guess` takes the likeliest."""
        if self.reads == "declared":
            own = asset.reading
            same_axes = (reading.up, reading.front) == (own.up, own.front)
            return own if same_axes else replace(reading, metres_per_unit=own.metres_per_unit)
        if self.reads == "guess":
            ranking = _ranked(asset)
            metres = reading.metres_per_unit if ranking is None else ranking.best.metres
        else:
            metres = UNITS[self.reads] if isinstance(self.reads, str) else float(self.reads)
        return replace(reading, metres_per_unit=metres, source="sheet")

    def reading_detail(self, asset: Asset) -> tuple[str, tuple[str, ...]]:
        """Return what was settled, and the doubts that a guess leaves."""
        if self.reads != "guess":
            return self.title(), ()
        ranking = _ranked(asset)
        if ranking is None:
            return "Unit: guess; nothing to judge by", ()
        doubt = () if ranking.certain else (f"the unit is a guess: {ranking.words}",)
        return f"Unit: guess, {ranking.best.unit}", doubt

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset as it is: the reading was settled before."""
        return Effect(asset=asset, changed=True, detail=f"one unit is {asset.reading.metres_per_unit:g} m")

    def title(self) -> str:
        """Return `Unit: mm`."""
        return f"Unit: {self.reads}"


def _ranked(asset: Asset) -> Ranking | None:
    """Return the units the file itself speaks for: it stands alone here, so that the answer never hangs on a batch."""
    box = asset_box(asset)
    if box is None:
        return None
    reading = asset.reading
    declared = reading.metres_per_unit if reading.source == "declared" else None
    return rank_units(box.size / reading.metres_per_unit, Evidence(declared=declared))
