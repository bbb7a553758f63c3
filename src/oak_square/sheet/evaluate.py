"""The one computation: an asset and a sheet in, the asset as it would be out. All that runs sheets uses it."""

from __future__ import annotations

from collections.abc import Mapping

from oak_square.core.likely.answers import Answer
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.sheet.course import Course, Prepared, StepOutcome
from oak_square.sheet.model import Sheet
from oak_square.sheet.standings import Standings

__all__ = ["Prepared", "StepOutcome", "evaluate", "unmatched_steps"]


def evaluate(
    asset: Asset,
    sheet: Sheet,
    standings: Standings | None = None,
    *,
    before: int | None = None,
    refused: Mapping[int, str] | None = None,
    answers: Mapping[str, Answer] | None = None,
) -> Prepared:
    """Return `asset` as `sheet` leaves it; pure.

    Readings are settled first, the last in scope holding. Steps then run in order, each on what the one before left.
    A refused or failed step ends it, unless the step may refuse.

    Parameters
    ----------
    standings : Standings, optional
        How the rest of the batch stands under the same sheet, for steps that speak of another asset.
    before : int, optional
        A step, counting from 1: only those ahead of it are run (readings are settled all the same).
    refused : mapping of step, counting from 1, to reason, optional
        Steps that are known to be refused, by whoever is to write what they come to.
    answers : mapping of file to Answer, optional
        What assets most likely are beside their folders, for guesses; one that is not in it is judged by itself.
    """
    answer = (answers or {}).get(asset.file)
    known = standings or Standings(sheet)
    own = known.course_of(asset) if before is None and not refused else None
    course = own or Course(asset, sheet, before=before, refused=refused, answer=answer)
    known.run(course)
    return course.prepared()


def unmatched_steps(sheet: Sheet, files: list[str], acted: set[int]) -> tuple[str, ...]:
    """Return a warning for each step that no file is in scope of, or that found no node of its `parts`.

    Parameters
    ----------
    files : list of str
        Every asset's path.
    acted : set of int
        Steps, counting from 1, that found something they are for in at least one asset.
    """
    said = []
    for number, step in enumerate(sheet.steps, 1):
        if step.paused:
            continue
        if not any(step.covers(f) for f in files) or (step.parts is not None and number not in acted):
            said.append(say("step {number} ({do}) matches nothing", number=number, do=step.do))
    return tuple(said)
