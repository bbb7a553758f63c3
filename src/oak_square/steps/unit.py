"""`unit`: in this file, one unit is so long."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field

from oak_square.core.frames import Reading
from oak_square.core.lengths import UNITS
from oak_square.core.likely.answers import Answer, answer_alone
from oak_square.core.likely.clues import clues_of
from oak_square.core.likely.suspects import unit_evidence
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import joined, number, say
from oak_square.steps.setting import Setting, is_unit
from oak_square.steps.step import Effect, Step, registered


@registered
class UnitStep(Step):
    """Sets the reading's unit; settled before all other steps."""

    stage: ClassVar[str] = "size"
    takes_parts: ClassVar[bool] = False

    do: Literal["unit"] = "unit"
    reads: Annotated[float | str, AfterValidator(is_unit)] = Field(
        description=say(
            "The unit the file was made in: m, cm, mm, km, in, ft, yd, metres per unit, declared, or guess: "
            "the likeliest by the file and by the folder it came in."
        )
    )

    @property
    def is_reading(self) -> bool:
        """A unit is part of how the file is read."""
        return True

    @property
    def is_guess(self) -> bool:
        """Whether it takes the likeliest."""
        return self.reads == "guess"

    def read_as(self, reading: Reading, asset: Asset, answer: Answer | None = None) -> Reading:
        """Return `reading` with this unit; `declared` takes earlier ones back, `guess` takes the likeliest."""
        if self.reads == "declared":
            own = asset.reading
            same_axes = (reading.up, reading.front) == (own.up, own.front)
            return own if same_axes else replace(reading, metres_per_unit=own.metres_per_unit)
        if self.reads == "guess":
            ranking = (answer or answer_alone(clues_of(asset))).unit
            metres = reading.metres_per_unit if ranking is None else ranking.best.metres
        else:
            metres = UNITS[self.reads] if isinstance(self.reads, str) else float(self.reads)
        return replace(reading, metres_per_unit=metres, source="sheet")

    def reading_detail(self, asset: Asset, answer: Answer | None = None) -> tuple[str, tuple[str, ...]]:
        """Return what was settled and why, and the doubts that a guess leaves."""
        if self.reads != "guess":
            return self.title(), ()
        answer = answer or answer_alone(clues_of(asset))
        sure = answer.unit is None or answer.unit.certain
        doubt = () if sure or answer.unit is None else (say("the unit is a guess: {words}", words=answer.unit.words),)
        return self.guess_words(answer), doubt

    def guess_words(self, answer: Answer) -> str:
        """Return what a guess takes of an asset that most likely is so, and why."""
        if answer.unit is None:
            return say("Unit: guess; nothing to judge by")
        best = answer.unit.best
        return joined("; ", [say("Unit: guess, {unit}", unit=best.unit), *unit_evidence(best)])

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset as it is: the reading was settled before."""
        return Effect(
            asset=asset,
            changed=True,
            detail=say("one unit is {metres_per_unit:g} m", metres_per_unit=asset.reading.metres_per_unit),
        )

    def title(self) -> str:
        """Return `Unit: mm`."""
        return say("Unit: {reads}", reads=term(self.reads) if isinstance(self.reads, str) else number(str(self.reads)))
