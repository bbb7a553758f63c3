"""From the session and the habits to what the opening screen offers."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from oak_square.app.session.habits import Habits
from oak_square.app.session.state import State
from oak_square.sheet.model import Sheet

__all__ = ["Offer", "is_empty", "recent"]

_MOST = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Offer:
    """Something that was open before.

    Attributes
    ----------
    words, where : str
        What it is called, and the folder it lies in.
    paths : tuple of str
    gone : bool
        It is not there any more.
    """

    words: str
    where: str
    paths: tuple[str, ...]
    gone: bool = False


def is_empty(session: State) -> bool:
    """Whether nothing is open, and nothing was begun."""
    document = session.document
    return not session.paths and document.sheet == Sheet() and document.draft is None and session.stage == "receive"


def recent(habits: Habits) -> tuple[list[Offer], list[Offer]]:
    """Return the batches and the sheets that were open last, the last ones first."""
    return [_make_offer(b) for b in habits.batches[:_MOST]], [_make_offer((s,)) for s in habits.sheets[:_MOST]]


def _make_offer(paths: tuple[str, ...]) -> Offer:
    first = Path(paths[0])
    words = ", ".join(Path(p).name.removesuffix(".prepsheet.yaml") for p in paths)
    return Offer(words=words, where=str(first.parent), paths=paths, gone=not any(Path(p).exists() for p in paths))
