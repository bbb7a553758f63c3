"""From what assets most likely are to the steps that take it: for all that are certain, or for a folder's way."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from oak_square.app.session.outcomes import Outcome
from oak_square.core.likely.answers import folder_of
from oak_square.core.words import say
from oak_square.steps.naming import as_reads, globs_for
from oak_square.steps.step import STEPS, Step

__all__ = ["as_its_folder", "in_doubt", "reading_words", "taking_steps"]

_LIKELY = 0.8  # what a folder's answer is taken for with it, though it is not certain by itself


def reading_words(outcome: Outcome, kind: str) -> tuple[str, str]:
    """Return the best answer of an asset's `unit` or `up`, with its front, and how that question stands."""
    if kind == "unit":
        question = outcome.question
        return (
            ("", "settled")
            if question is None or question.ranking is None
            else (question.ranking.best.unit, question.state)
        )
    sides = outcome.sides
    return (
        ("", "settled")
        if sides is None or sides.ranking is None
        else (f"{sides.ranking.best} {sides.front}", sides.state)
    )


def as_its_folder(outcomes: Mapping[str, Outcome], files: Sequence[str], kind: str, folder: str) -> list[str]:
    """Return the files of a folder that can be taken for what the folder has: those it is the best answer of.

    Settled ones are left alone, and so are those of which it is in doubt.
    """
    found = []
    for file in files:
        answer = outcomes[file].answer if file in outcomes and folder_of(file) == folder else None
        way = None if answer is None else answer.units if kind == "unit" else answer.ups
        best, state = reading_words(outcomes[file], kind) if way is not None else ("", "settled")
        likely = state == "certain" or (state == "open" and _find_share(outcomes[file], kind) >= _LIKELY)
        if way is not None and likely and best.split(" ")[0] == way.answer:
            found.append(file)
    return found


def _find_share(outcome: Outcome, kind: str) -> float:
    """Return how likely the best answer of an asset is."""
    if kind == "unit":
        ranking = None if outcome.question is None else outcome.question.ranking
        return 0.0 if ranking is None or ranking.at_odds else ranking.best.share
    sides = None if outcome.sides is None else outcome.sides.ranking
    return 0.0 if sides is None else sides.share


def in_doubt(outcomes: Mapping[str, Outcome], files: Sequence[str], kind: str, folder: str) -> list[str]:
    """Return the files of a folder that are odd or in doubt, those that are certain and odd first."""
    found = []
    for file in files:
        outcome = outcomes.get(file) if folder_of(file) == folder else None
        if outcome is None:
            continue
        best, state = reading_words(outcome, kind)
        way = None if outcome.answer is None else outcome.answer.units if kind == "unit" else outcome.answer.ups
        odd = way is not None and way.is_way and bool(best) and best.split(" ")[0] != way.answer
        if (state != "settled" and odd) or (state == "open" and _find_share(outcome, kind) < _LIKELY):
            found.append((state == "open", file))
    return [file for _, file in sorted(found)]


def taking_steps(outcomes: Mapping[str, Outcome], files: Sequence[str], kind: str) -> tuple[list[Step], str]:
    """Return a step for each best answer that some of `files` have, and that in words."""
    by_answer: dict[str, list[str]] = {}
    for file in files:
        by_answer.setdefault(reading_words(outcomes[file], kind)[0], []).append(file)
    words = ", ".join(
        say("{answer} for {count}", answer=answer.split(" ")[0], count=len(found))
        for answer, found in by_answer.items()
    )
    return [_make_step(kind, answer, found) for answer, found in by_answer.items()], words


def _make_step(kind: str, answer: str, files: Sequence[str]) -> Step:
    scope = globs_for(list(files))
    if kind == "unit":
        return STEPS["unit"].model_validate({"reads": as_reads(answer), "for": scope})
    up, front = answer.split(" ")
    return STEPS["turn"].model_validate({"up": up, "front": front, "for": scope})
