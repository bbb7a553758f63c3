"""What is asked of the worker and what it answers: plain values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from oak_square.core.errors import BadReference
from oak_square.core.findings.finding import Finding
from oak_square.core.likely.answers import Answer
from oak_square.core.scene import Asset
from oak_square.core.sharing import Parting
from oak_square.core.size_book import SizeBook
from oak_square.core.stages import STAGES
from oak_square.core.standing import Standing
from oak_square.sheet.evaluate import Prepared, StepOutcome
from oak_square.sheet.model import Sheet
from oak_square.sheet.questions import SideQuestion, UnitQuestion
from oak_square.sheet.references import asset_called
from oak_square.steps.step import Step

__all__ = ["Outcome", "Plan", "stage_marks"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Outcome:
    """What sheets make of one asset.

    Attributes
    ----------
    file : str
    before, after : Prepared
        Without and with the draft.
    findings : tuple of Finding
        What is left once every kept step is done.
    standings : tuple of 2 Standing, or None
        How it stands at the draft's stage, before and after; None where the draft is not for this asset.
    marks : tuple of (stage, level)
        The stages that have something left to fix or check, each with its gravest level.
    size : tuple of 3 float, or None
        Width, height, depth with the draft, metres; None where it has no geometry.
    question : UnitQuestion or None
        Whether its unit is settled, and the ranking of what it could be.
    sides : SideQuestion, or None
        Whether the side that is up is settled, likewise.
    answer : Answer, or None
        What it most likely is, beside its folder.
    partings : tuple of Parting
        Shared geometry that the draft makes come apart.
    rough : bool
        Told early: what its folder says of it is still to come.
    """

    file: str
    before: Prepared
    after: Prepared
    findings: tuple[Finding, ...]
    standings: tuple[Standing, Standing] | None = None
    marks: tuple[tuple[str, str], ...] = ()
    size: tuple[float, float, float] | None = None
    question: UnitQuestion | None = None
    sides: SideQuestion | None = None
    answer: Answer | None = None
    partings: tuple[Parting, ...] = ()
    rough: bool = False

    @property
    def largest_m(self) -> float:
        """Its largest extent with the draft, metres."""
        return max(self.size, default=0.0) if self.size is not None else 0.0

    def of_step(self, number: int) -> StepOutcome | None:
        """Return what the step of that number, from 1, did with the draft in place; None where it did not run."""
        return next((o for o in self.after.outcomes if o.step == number), None)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Plan:
    """What to work out: the steps before the draft, those with it, all that are kept; and the draft itself.

    `batch` are all assets that are read, for steps that name one; `book` is the size book; `first` is how many of the
    assets are looked at, and told of before the others.
    """

    request: int
    assets: tuple[Asset, ...]
    before: Sheet
    tried: Sheet
    kept: Sheet
    draft: Step | None
    batch: Mapping[str, Asset] = field(default_factory=dict)
    book: SizeBook | None = None
    first: int = 0
    reading: bool = False

    def file_of(self, name: str) -> str | None:
        """Return the path of the asset called `name`; None where none is, or not one alone."""
        try:
            return asset_called(name, list(self.batch))
        except BadReference:
            return None

    def files(self) -> tuple[str, ...]:
        """Return the paths of all assets that are read."""
        return tuple(self.batch)

    def received(self, file: str) -> Asset:
        """Return an asset of the batch as received."""
        return self.batch[file]


def stage_marks(findings: tuple[Finding, ...]) -> tuple[tuple[str, str], ...]:
    """Return the stages with something left to fix or check, in their order, each with its gravest level."""
    found: dict[str, str] = {}
    for f in findings:
        if f.level == "fix" or (f.level == "check" and f.stage not in found):
            found[f.stage] = f.level
    return tuple((stage, found[stage]) for stage in STAGES if stage in found)
