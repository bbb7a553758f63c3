"""From the session's state to what the unit question shows: candidates, their evidence, who is in doubt."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.app.session.state import State
from oak_square.core.boxes import asset_box
from oak_square.core.lengths import UNIT_WORDS
from oak_square.core.likely.suspects import unit_evidence
from oak_square.core.likely.units import Candidate, percent, unit_of
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_UNIT
from oak_square.core.words import say

__all__ = ["CandidateRow", "QuestionFacts", "doubtful", "question_facts"]

_MOST = 5
_EVIDENCE = {
    "file": say("the file"), "book": say("size book"), "folder": say("same folder"),
    "size": say("things people model"), "name": say("its name"),
    "grid": say("its corners"),
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class CandidateRow:
    """One unit.

    Attributes
    ----------
    unit : str
        As a step writes it.
    word, size, says : str
        Its name, the size it would give, the evidence that tells most.
    share : float, of 1
    holds : bool
        The file is read so now.
    tip : str
        All the evidence.
    """

    unit: str
    word: str
    size: str
    says: str
    share: float
    holds: bool = False
    tip: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class QuestionFacts:
    """The unit question of one asset.

    Attributes
    ----------
    file, name : str
    state : str
        `settled`, `certain` or `open`.
    stands : str
        How large it is as it is read now.
    asks : str
        What the file says of its unit, and the question.
    rows : tuple of CandidateRow
        The likeliest first.
    why : tuple of (what, words)
        The evidence for the unit it is read in now, or for the best where that is none of them.
    best_says : tuple of str
        What tells most for the likeliest.
    """

    file: str
    name: str
    state: str
    stands: str
    asks: str
    rows: tuple[CandidateRow, ...]
    why: tuple[tuple[str, str], ...]
    best_says: tuple[str, ...] = ()


def question_facts(session: State, file: str | None) -> QuestionFacts | None:
    """Return the unit question of an asset; None where there is nothing to judge by."""
    outcome = session.outcomes.get(file or "")
    if outcome is None or outcome.question is None or outcome.question.ranking is None:
        return None
    received = session.assets[outcome.file].reading
    now = outcome.after.read.reading.metres_per_unit
    candidates = outcome.question.ranking.candidates
    shown = [c for k, c in enumerate(candidates) if k < _MOST or c.metres == now]
    held = next((c for c in candidates if abs(c.metres / now - 1) < SAME_UNIT), candidates[0])
    box = asset_box(outcome.after.read)
    per_unit = held.size / held.metres if box is None else box.size / now
    size = session.unit.length(float(per_unit.max()) * now)
    declared = received.source == "declared"
    unit = unit_of(received.metres_per_unit)
    says = (
        say("The file declares {unit}.", unit=term(UNIT_WORDS.get(unit, unit)))
        if declared
        else say("The file declares no unit.")
    )
    return QuestionFacts(
        file=outcome.file,
        name=outcome.after.asset.name,
        state=outcome.question.state,
        stands=say("{size} at its longest", size=size),
        asks=say("{says} If it was made in", says=says),
        best_says=unit_evidence(outcome.question.ranking.best),
        rows=tuple(_unit_row(c, per_unit * c.metres, session, holds=c is held) for c in shown),
        why=(*((_EVIDENCE[what], words) for what, words in held.says), ("likely", percent(held.share))),
    )


def _unit_row(candidate: Candidate, size: NDArray[np.float64], session: State, *, holds: bool) -> CandidateRow:
    says = dict(candidate.says)
    told = says.get("book") or _shorten_evidence(says.get("name", "")) or says.get("folder") or says["size"]
    width, height, depth = (float(v) for v in size)
    share = percent(candidate.share)
    evidence = "\n".join(f"{_EVIDENCE[what]}: {words}" for what, words in candidate.says)
    return CandidateRow(
        unit=candidate.unit,
        word=term(UNIT_WORDS.get(candidate.unit, f"{candidate.unit} m")),
        size=session.unit.length(float(size.max())),
        says=told,
        share=candidate.share,
        holds=holds,
        tip=say(
            "Read it in {unit}: {size}, {share}",
            unit=candidate.unit,
            size=session.unit.size(width, height, depth),
            share=share,
        )
        + f"\n{evidence}",
    )


def _shorten_evidence(name: str) -> str:
    """Return what its name says of a size in a few words: how far off it is, or what it is usual for."""
    usual, _, off = name.partition(": ")
    noun, said, _ = usual.partition(say(" is usually"))
    return off or (say("usual for {noun}", noun=noun) if said else usual)


def doubtful(session: State) -> list[tuple[str, str, str]]:
    """Return the assets whose unit waits, as (file, name, words): those in doubt first, then the certain ones."""
    found = []
    for state in ("open", "certain"):
        for file in session.questions(state):
            outcome = session.outcomes[file]
            assert outcome.question is not None
            assert outcome.question.ranking is not None
            found.append((file, outcome.after.asset.name, outcome.question.ranking.words))
    return found
