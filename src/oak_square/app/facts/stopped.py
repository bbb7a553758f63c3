"""From the session to what leads on where a step stops at an asset, or leaves some of its parts as they are."""

from __future__ import annotations

import re
from dataclasses import dataclass

from oak_square.app.facts.effects import ConsequenceRow
from oak_square.app.session.state import State
from oak_square.app.session.stopping import refused_files
from oak_square.core.words import in_english, say

__all__ = ["StoppedAt", "WayOn", "left_out_nodes", "stopped_step", "ways_on"]

_STEP = re.compile(r"step (\d+) \(")


@dataclass(frozen=True, slots=True)
class WayOn:
    """Something to do about it: its key, its word, and what it does."""

    key: str
    word: str
    tip: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StoppedAt:
    """What stops, a row for each reason, and what leads on."""

    rows: tuple[ConsequenceRow, ...] = ()
    ways: tuple[WayOn, ...] = ()


def stopped_step(session: State) -> int | None:
    """Return the kept step, counted from 0, that the asset looked at stops at; None where it goes through."""
    outcome = session.outcomes.get(session.lead or "")
    if outcome is None or outcome.after.status == "ready":
        return None
    found = _STEP.match(str(in_english(outcome.after.reason or "")))
    number = int(found[1]) if found else 0
    return number - 1 if 0 < number <= len(session.document.sheet.steps) else None


def left_out_nodes(session: State) -> tuple[int, ...]:
    """Return the nodes of the asset looked at, as it stands before the draft, that the draft does not fit."""
    outcome = session.outcomes.get(session.lead or "")
    own = None if outcome is None else outcome.of_step(len(session.document.before.steps) + 1)
    return () if own is None or session.document.draft is None else own.left_out


def ways_on(session: State) -> StoppedAt:
    """Return what leads on from the draft; without one, from the kept step that the asset looked at stops at."""
    if session.document.draft is not None:
        return StoppedAt(ways=tuple(_ways_of_draft(session)))
    at, outcome = stopped_step(session), session.outcomes.get(session.lead or "")
    if at is None or outcome is None:
        return StoppedAt()
    row = ConsequenceRow(assets=(outcome.after.asset.name,), words=outcome.after.reason or "", stops=True)
    ways = [
        WayOn("open", say("open step {number}", number=at + 1), say("See what it says, and change it")),
        WayOn("pause", say("pause it"), say("Leave the step out of the run, for every asset; it stays on the sheet")),
        WayOn("remove", say("remove it"), say("Take the step off the sheet")),
        WayOn("skip", say("leave this asset out"), say("The step goes on for the others")),
    ]
    if outcome.after.status == "refused" and not session.document.sheet.steps[at].may_refuse:
        ways.append(_go_on_without())
    return StoppedAt(rows=(row,), ways=tuple(ways))


def _ways_of_draft(session: State) -> list[WayOn]:
    draft, (stopped, due) = session.document.draft, refused_files(session)
    if draft is None:
        return []
    ways = []
    if left_out_nodes(session):
        ways.append(WayOn("pick", say("pick those that don't fit"), say("Look at the parts that stay as they are")))
    if stopped and draft.all_:
        ways.append(WayOn("loosen", say("do it where it fits"), say("The parts that it does not fit stay as they are")))
    if stopped and len(stopped) < due:
        count = len(stopped)
        word = say("leave it out") if count == 1 else say("leave these {count} out", count=count)
        ways.append(WayOn("skip", word, say("The step goes on for the others")))
    if stopped and not draft.may_refuse:
        ways.append(_go_on_without())
    return ways


def _go_on_without() -> WayOn:
    tip = say("An asset that refuses the step is delivered as if it were absent")
    return WayOn("without", say("go on without it there"), tip)
