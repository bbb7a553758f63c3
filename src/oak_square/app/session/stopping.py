"""Which assets a draft stops at."""

from __future__ import annotations

from oak_square.app.session.state import State

__all__ = ["is_refused_everywhere", "refused_files"]


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
