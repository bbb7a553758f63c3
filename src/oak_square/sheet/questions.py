"""What a sheet has settled of its assets' units and sides, and what is still asked of each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from oak_square.core.likely.answers import Answer, Settled
from oak_square.core.likely.sides import SideRanking, front_axis, usual_front
from oak_square.core.likely.units import Ranking, unit_of
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_UNIT
from oak_square.sheet.evaluate import Prepared
from oak_square.sheet.model import Sheet
from oak_square.steps.step import Step

__all__ = ["SideQuestion", "UnitQuestion", "guesses_for", "is_open", "settled_in", "side_question", "unit_question"]

State = Literal["settled", "certain", "open"]


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitQuestion:
    """What is asked of one asset's unit.

    Attributes
    ----------
    ranking : Ranking or None
        None where there is nothing to judge by.
    state : {"settled", "certain", "open"}
        Settled by a step, or as it should be by all evidence; waiting, with a best answer beyond doubt; or in doubt.
    """

    ranking: Ranking | None
    state: State


@dataclass(frozen=True, slots=True, kw_only=True)
class SideQuestion:
    """What is asked of the side that is up, as `UnitQuestion`; `front` is what goes with the likeliest one."""

    ranking: SideRanking | None
    front: str
    state: State


def settled_in(sheet: Sheet, files: Sequence[str]) -> Settled:
    """Return what the sheet says of each file's unit and sides; guesses settle nothing for others."""
    units, ways = dict[str, str](), dict[str, tuple[str, str]]()
    for step in sheet.steps:
        if step.is_reading and not step.paused:
            covered = [f for f in files if step.covers(f)]
            if step.do == "unit":
                _settle_files(units, covered, _unit_said(step))
            else:
                said = None if step.is_guess else (str(getattr(step, "up", "")), str(getattr(step, "front", "")))
                _settle_files(ways, covered, said)
    return Settled(units=units, ways=ways)


def _settle_files(found: dict[str, Any], files: Sequence[str], said: Any) -> None:
    """Note what a step says of files; the last one holds, one that says nothing takes earlier ones back."""
    for file in files:
        if said is None:
            found.pop(file, None)
        else:
            found[file] = said


def _unit_said(step: Step) -> str | None:
    reads = getattr(step, "reads", None)
    if reads in ("declared", "guess") or reads is None:
        return None
    return reads if isinstance(reads, str) else unit_of(float(reads))


def is_open(sheet: Sheet, file: str, do: str) -> bool:
    """Tell whether no step of the sheet says what unit a file is in (`unit`), or which of its sides is up (`turn`)."""
    return not any(s.is_reading and s.do == do and not s.paused and s.covers(file) for s in sheet.steps)


def guesses_for(sheet: Sheet, files: Sequence[str]) -> set[str]:
    """Return the files of which some step takes a guess."""
    steps = [s for s in sheet.steps if s.is_guess and not s.paused]
    return {f for f in files if any(s.covers(f) for s in steps)}


def unit_question(prepared: Prepared, sheet: Sheet, answer: Answer | None, declared: float | None) -> UnitQuestion:
    """Return what is asked of the unit of an asset that `sheet` has prepared.

    Parameters
    ----------
    answer : Answer or None
        What it most likely is.
    declared : float or None, metres
        The unit the file itself declares.
    """
    asset = prepared.read
    ranking = answer.unit if answer is not None else None
    if ranking is None or not is_open(sheet, asset.file, "unit") or _is_sized(sheet, asset.file):
        return UnitQuestion(ranking=ranking, state="settled")
    if not ranking.certain:
        return UnitQuestion(ranking=ranking, state="open")
    same = abs(ranking.best.metres / asset.reading.metres_per_unit - 1) < SAME_UNIT
    return UnitQuestion(ranking=ranking, state="settled" if same and declared is not None else "certain")


def side_question(asset: Asset, sheet: Sheet, answer: Answer | None) -> SideQuestion:
    """Return what is asked of the side that is up of an asset as `sheet` reads it."""
    ranking = answer.up if answer is not None else None
    if ranking is None or answer is None:
        return SideQuestion(ranking=None, front="", state="settled")
    front = answer.front or usual_front(ranking.best, front_axis(answer.mirrors, ranking.best))
    state: State = "certain" if ranking.certain else "open"
    if not is_open(sheet, asset.file, "turn") or (ranking.certain and ranking.best == asset.reading.up):
        state = "settled"
    return SideQuestion(ranking=ranking, front=front, state=state)


def _is_sized(sheet: Sheet, file: str) -> bool:
    """Tell whether a step gives the asset a size of its own, so that its unit no longer matters."""
    return any(
        s.do == "size" and s.parts is None and getattr(s, "factor", None) is None and not s.paused and s.covers(file)
        for s in sheet.steps
    )
