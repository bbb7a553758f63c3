"""What is suspect of an asset's unit and of the side that is up, as findings: the ranking's own best, and why."""

from __future__ import annotations

from collections.abc import Iterable

from oak_square.core.findings.finding import Finding, finding
from oak_square.core.frames import Reading
from oak_square.core.lengths import UNIT_WORDS, format_length
from oak_square.core.likely.answers import Answer
from oak_square.core.likely.sides import SideRanking
from oak_square.core.likely.units import Candidate, Ranking
from oak_square.core.likely.weights import MORE, MORE_AT_ODDS
from oak_square.core.stages import STAGES
from oak_square.core.terms import term
from oak_square.core.words import in_english, joined, say

__all__ = ["suspects", "unit_evidence", "with_suspects"]


def suspects(
    reading: Reading, longest_m: float, answer: Answer | None, *, unit: bool = True, up: bool = True
) -> tuple[Finding, ...]:
    """Return what is suspect of an asset.

    Parameters
    ----------
    reading : Reading
        As it is read now.
    longest_m : float, metres
        Its longest extent so.
    answer : Answer or None
        What it most likely is.
    unit, up : bool
        Whether these are still open: no step says them.
    """
    found = list[Finding]()
    ranking = answer.unit if answer is not None and unit and longest_m > 0 else None
    if ranking is not None and _is_more(ranking.best.share, ranking.share_of(reading.metres_per_unit), ranking):
        best = ranking.best
        then = format_length(longest_m / reading.metres_per_unit * best.metres)
        made = term(UNIT_WORDS.get(best.unit, best.unit))
        words = say(
            "{longest_m} at its longest; made in {made} it would be {then}",
            longest_m=format_length(longest_m),
            made=made,
            then=then,
        )
        found.append(finding("unit-suspect", _add_evidence(words, unit_evidence(best)), measure=best.metres))
    sides = answer.up if answer is not None and up else None
    if sides is not None and _is_more(sides.share, sides.share_of(reading.up), sides):
        words = say("{best} seems to be up in the file, not {up}", best=sides.best, up=reading.up)
        found.append(finding("up-suspect", _add_evidence(words, sides.says)))
    return tuple(found)


def _is_more(share: float, now: float, ranking: Ranking | SideRanking) -> bool:
    """Tell whether the likeliest is so much likelier than what holds now that it is worth a finding."""
    return share > now and share >= (MORE_AT_ODDS if ranking.at_odds else MORE) * now


def with_suspects(found: Iterable[Finding], also: Iterable[Finding]) -> tuple[Finding, ...]:
    """Return findings and those that are suspect, in the order of the stages."""
    order = {s: i for i, s in enumerate(STAGES)}
    return tuple(sorted([*found, *also], key=lambda f: order[f.stage]))


def unit_evidence(best: Candidate) -> tuple[str, ...]:
    """Return what tells most for a unit, in words that can be checked."""
    said = [(what, words) for what, words in best.says if what in ("book", "name", "grid", "folder")]
    said = [
        (what, words)
        for what, words in said
        if what != "folder" or not str(in_english(words)).startswith(("0 ", "settled for 0 "))
    ]
    return tuple(say("size book: {words}", words=words) if what == "book" else words for what, words in said if words)


def _add_evidence(words: str, evidence: Iterable[str]) -> str:
    said = joined("; ", evidence)
    return say("{words}: {said}", words=words, said=said) if said else words
