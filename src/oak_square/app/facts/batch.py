"""From the session to the rows of the batch, and the notes on the stage ruler."""

from __future__ import annotations

from dataclasses import dataclass

from oak_square.app.facts.stages import size_words
from oak_square.app.session.document import BatchRow
from oak_square.app.session.state import State
from oak_square.core.stages import STAGES
from oak_square.core.words import say

__all__ = ["AssetRow", "asset_rows", "stage_notes"]


@dataclass(frozen=True, slots=True, kw_only=True)
class AssetRow:
    """What the list shows of one file.

    Attributes
    ----------
    file, title, detail : str
    marks : tuple of (stage, level)
    included : bool
    trouble : str or None
        Why it can't be read, or is refused.
    reading : bool
        Not read yet.
    format : str
    largest_m : float, metres
        Its largest extent.
    unit_state : str
        How its unit question stands.
    heading : bool
        Not a file: the words over a group.
    """

    file: str
    title: str
    detail: str
    marks: tuple[tuple[str, str], ...] = ()
    included: bool = True
    trouble: str | None = None
    reading: bool = False
    format: str = ""
    largest_m: float = 0.0
    unit_state: str = ""
    heading: bool = False


def asset_rows(session: State, filtered: str) -> list[AssetRow]:
    """Return the list's rows: those whose path holds the letters `filtered`."""
    letters = filtered.strip().casefold()
    return [_asset_row(session, r) for f, r in session.rows.items() if letters in f.casefold()]


def _asset_row(session: State, row: BatchRow) -> AssetRow:
    outcome = session.outcomes.get(row.file)
    title = row.file.rsplit("/", 1)[-1].rsplit(".", 1)[0]
    if row.error is not None:
        return AssetRow(file=row.file, title=title, detail="", trouble=row.error, included=False)
    if outcome is None:
        return AssetRow(file=row.file, title=title, detail=say("reading…"), reading=True)
    return AssetRow(
        file=row.file,
        title=title,
        detail=f"{size_words(outcome.size, session.unit)} · {outcome.after.asset.format}",
        marks=outcome.marks or (("all", "true"),),
        included=row.file not in session.document.left_out,
        trouble=outcome.after.reason,
        format=outcome.after.asset.format,
        largest_m=outcome.largest_m,
        unit_state="" if outcome.question is None else outcome.question.state,
    )


def stage_notes(session: State) -> dict[str, str]:
    """Return the few words under each stage of the ruler."""
    if not session.rows:
        return {}
    notes = {}
    counts = session.stages_left()
    for stage in STAGES:
        left = counts[stage]
        notes[stage] = say("{left} to settle", left=left) if left else say("all true")
    read = len(session.rows) - session.to_read
    unreadable = sum(r.error is not None for r in session.rows.values())
    notes["receive"] = say("{read} read", read=read) + (
        say(", {unreadable} not", unreadable=unreadable) if unreadable else ""
    )
    # A new step that is being tried is not delivered; one that is edited stands in the others' midst.
    is_new = session.document.draft is not None and session.document.editing is None
    due = [o for f in session.included() if (o := session.outcomes.get(f)) is not None]
    not_so = sum((o.before if is_new else o.after).status != "ready" for o in due)
    notes["deliver"] = say("{count} ready", count=len(session.included()) - not_so) + (
        say(", {not_so} not", not_so=not_so) if not_so else ""
    )
    return notes
