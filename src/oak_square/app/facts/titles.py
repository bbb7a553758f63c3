"""From the session to what the title says: the batch, its sheet, and whether that is saved."""

from __future__ import annotations

from dataclasses import dataclass

from oak_square.app.session.state import State
from oak_square.core.words import counted, say

__all__ = ["Title", "title_of"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Title:
    """What is open: its name, a few words on it, and all of it for the frame of the window."""

    batch: str
    detail: str
    whole: str


def title_of(session: State) -> Title:
    """Return what the title says."""
    document, total = session.document, len(session.rows)
    batch = session.paths[0].resolve().name if session.paths else "Oak Square"
    sheet = document.sheet.title or (document.path.name.removesuffix(".prepsheet.yaml") if document.path else "")
    if session.to_read:
        words = [
            say("reading, {total} of {total_2}", total=total - session.to_read, total_2=total)
            if total
            else say("looking for models")
        ]
    else:
        out = say(", {count} left out", count=len(document.left_out)) if document.left_out else ""
        words = [f"{counted(total, 'asset')}{out}" if total else say("nothing open yet")]
    words += [] if session.is_saved else [say("not saved")]
    words += [sheet] if sheet else []
    named = " · ".join(w for w in (batch, sheet) if w)
    return Title(
        batch=batch,
        detail=" · ".join(words),
        whole=say("{named}[*] · Oak Square", named=named) if session.paths else batch,
    )
