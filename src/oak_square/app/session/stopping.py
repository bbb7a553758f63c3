"""Which assets a draft stops at."""

from __future__ import annotations

from oak_square.app.session.state import State
from oak_square.steps.naming import globs_for

__all__ = ["is_refused_everywhere", "refused_files", "why_nothing"]


def refused_files(session: State) -> tuple[list[str], int]:
    """Return the assets that the draft stops at, and how many it is for."""
    draft, number = session.document.draft, len(session.document.before.steps) + 1
    due = [f for f in session.included() if draft is not None and draft.covers(f) and f in session.outcomes]
    stopped = []
    for file in due:
        after = session.outcomes[file].after
        own = session.outcomes[file].of_step(number)
        if after.status != "ready" and (own is None or own.outcome == "refused"):
            stopped.append(file)
    return stopped, len(due)


def is_refused_everywhere(session: State) -> bool:
    """Tell whether the draft stops at each asset it is for; a check that does not hold yet is none that stops."""
    draft = session.document.draft
    stopped, due = refused_files(session)
    return draft is not None and draft.do != "check" and due > 0 and len(stopped) == due


def why_nothing(session: State) -> str:
    """Return why the draft changes nothing on the assets it names; "" where it does, or says how files are read.

    One for every asset, or for patterns, is for the next batch too, where it may do something.
    """
    draft, number = session.document.draft, len(session.document.before.steps) + 1
    if draft is None or draft.do == "check" or draft.is_reading:
        return ""
    if draft.for_ is None or set(draft.for_) - set(globs_for(list(session.rows))):
        return ""
    outcomes = [o for f in session.included() if draft.covers(f) and (o := session.outcomes.get(f)) is not None]
    found = [own for o in outcomes if (own := o.of_step(number)) is not None]
    if not found or len(found) < len(outcomes) or any(own.outcome != "nothing" for own in found):
        return ""
    lead = session.outcomes.get(session.lead or "")
    own = lead.of_step(number) if lead is not None else None
    return (own or found[0]).detail
