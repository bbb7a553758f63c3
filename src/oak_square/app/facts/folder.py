"""From the session to what a folder answers of its units, or of the side that is up: its way, and who differs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.state import State
from oak_square.app.session.taking import as_its_folder, in_doubt, reading_words
from oak_square.core.frames import AXES
from oak_square.core.lengths import UNIT_WORDS
from oak_square.core.likely.answers import Way, folder_of
from oak_square.core.likely.sides import SideRanking
from oak_square.core.likely.suspects import unit_evidence
from oak_square.core.likely.units import percent
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["FolderFacts", "SideRow", "TileFacts", "folder_facts", "side_rows"]

_MOST_TILES = 60
_TOLD = 0.01  # sides less likely than that are not listed


@dataclass(frozen=True, slots=True, kw_only=True)
class TileFacts:
    """One asset among those that differ, or that would be turned.

    Attributes
    ----------
    file, name : str
    answer : str
        What it most likely is, with its share.
    why : str
        What speaks for that.
    mark : {"", "odd", "doubt"}
        It has another answer than its folder; nobody can tell.
    up, front : str
        The axes to show it with; empty for those it is read with.
    """

    file: str
    name: str
    answer: str
    why: str
    mark: str = ""
    up: str = ""
    front: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class FolderFacts:
    """What a folder answers.

    Attributes
    ----------
    kind : {"unit", "up"}
    folder : str
    title, words : str
        Which folder it is; what it answers.
    take, doubts : tuple of str
        The files that the folder's answer can be taken for; those to be looked at.
    certain : tuple of str
        Files of the whole batch whose answer is certain and waits.
    tiles : tuple of TileFacts
    answer : str
        What most of it has: a unit, or a signed axis; empty where its files say so themselves.
    """

    kind: str
    folder: str
    title: str
    words: str
    take: tuple[str, ...]
    doubts: tuple[str, ...]
    certain: tuple[str, ...]
    tiles: tuple[TileFacts, ...]
    answer: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class SideRow:
    """One side that could be up.

    Attributes
    ----------
    axis : str
    share : float, of 1
    says : str
        What speaks for the likeliest.
    holds : bool
        It is read so now.
    """

    axis: str
    share: float
    says: str
    holds: bool


def folder_facts(session: State, kind: str) -> FolderFacts | None:
    """Return what the folder of the lead asset answers; None where nothing is known of it."""
    lead = session.outcomes.get(session.lead or "")
    if lead is None or lead.answer is None:
        return None
    files, folder = session.included(), folder_of(lead.file)
    way = lead.answer.units if kind == "unit" else lead.answer.ups
    doubts = in_doubt(session.outcomes, files, kind, folder)
    certain = [f for f in files if f in session.outcomes and reading_words(session.outcomes[f], kind)[1] == "certain"]
    shown = list(doubts)
    if kind == "up":
        turned = [
            f for f in files if folder_of(f) == folder and f in session.outcomes and _would_turn(session.outcomes[f])
        ]
        shown += [f for f in turned if f not in doubts]
    take = as_its_folder(session.outcomes, files, kind, folder)
    return FolderFacts(
        kind=kind, folder=folder,
        title=say("the folder {folder}", folder=folder) if folder != "." else say("this folder"),
        words=_describe_way(kind, way),
        take=tuple(take) if way is not None and way.is_way else (), doubts=tuple(doubts), certain=tuple(certain),
        tiles=tuple(_make_tile(session.outcomes[f], kind, way) for f in shown[:_MOST_TILES]),
        answer="" if way is None else way.answer,
    )  # fmt: skip


def _would_turn(outcome: Outcome) -> bool:
    best, state = reading_words(outcome, "up")
    return state != "settled" and best.split(" ")[0] != outcome.after.read.reading.up


def _describe_way(kind: str, way: Way | None) -> str:
    if way is None:
        return (
            say("Its files say themselves what they are.")
            if kind == "unit"
            else say("Its files say themselves which side is up.")
        )
    if not way.is_way:
        return say("Its {count} files have nothing in common.", count=way.count)
    what = (
        say("in {unit}", unit=term(UNIT_WORDS.get(way.answer, way.answer)))
        if kind == "unit"
        else say("laid with {answer} up", answer=way.answer)
    )
    if way.by_hand:
        return say("Settled here: {what}, for {alike} of {count}.", what=what, alike=way.alike, count=way.count)
    sure = f" ({percent(way.share)})" if way.share < 0.995 else ""
    return say(
        "{alike} of {count} are most likely {what}{sure}.", alike=way.alike, count=way.count, what=what, sure=sure
    )


def _make_tile(outcome: Outcome, kind: str, way: Way | None) -> TileFacts:
    best, state = reading_words(outcome, kind)
    odd = way is not None and way.is_way and best.split(" ")[0] != way.answer
    mark = "doubt" if state == "open" else "odd" if odd else ""
    answer, why, up, front = "", "", "", ""
    if kind == "unit" and outcome.question is not None and outcome.question.ranking is not None:
        candidate = outcome.question.ranking.best
        answer, why = f"{candidate.unit} {percent(candidate.share)}", "; ".join(unit_evidence(candidate))
    elif outcome.sides is not None and outcome.sides.ranking is not None:
        sides = outcome.sides.ranking
        answer, why = f"{sides.best} {percent(sides.share)}", "; ".join(sides.says)
        up, front = sides.best, outcome.sides.front
    return TileFacts(
        file=outcome.file, name=outcome.after.asset.name, answer=answer, why=why, mark=mark, up=up, front=front
    )


def side_rows(session: State) -> tuple[str, tuple[SideRow, ...]]:
    """Return the lead asset's name and the sides that could be up, the likeliest first; none where nothing is known."""
    lead = session.outcomes.get(session.lead or "")
    if lead is None or lead.sides is None or lead.sides.ranking is None:
        return "", ()
    ranking, now = lead.sides.ranking, lead.after.read.reading.up
    rows = [
        SideRow(axis=axis, share=share, says=_describe_ranking(ranking, axis), holds=axis == now)
        for axis, share in _by_share(ranking)
        if share >= _TOLD or axis == now
    ]
    return lead.after.asset.name, tuple(rows)


def _describe_ranking(ranking: SideRanking, axis: str) -> str:
    return "; ".join(ranking.says) if axis == ranking.best else ""


def _by_share(ranking: SideRanking) -> Sequence[tuple[str, float]]:
    return sorted(zip(AXES, ranking.shares, strict=True), key=lambda pair: -pair[1])
