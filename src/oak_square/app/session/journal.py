"""What is worked on, written down as it changes: a run that ends without being closed leaves it to the next one.

A journal is a file of lines, each a change in JSON. Every change is handed to the system before anything else happens,
so that it outlives the program; what changes the sheet is brought onto the disk too, and outlives a loss of power.
A line that was cut short at the end is left out when it is read. The file is locked while its window lives: one that
can be locked belongs to nobody any more.
"""

from __future__ import annotations

import fcntl
import json
import os
from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from datetime import datetime
from pathlib import Path
from typing import IO, Any

from oak_square.app.session.document import Document, History
from oak_square.app.session.written import document_of, words_of
from oak_square.core.errors import OakSquareError
from oak_square.core.shown_units import ShownUnit

__all__ = ["Journal", "Looks", "Saved", "left_behind", "read_journal"]

_VERSION = 1
_MOST_BYTES = 200_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Looks:
    """What is open and looked at, beside the document."""

    paths: tuple[str, ...] = ()
    taken_out: tuple[str, ...] = ()
    selection: tuple[str, ...] = ()
    nodes: tuple[int, ...] = ()
    stage: str = "receive"
    unit: ShownUnit = field(default_factory=ShownUnit)
    chosen_measure: int | None = None
    measured_along: str = "world"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Saved:
    """What a journal tells of: where it lies, when it was last written, what was worked on."""

    path: Path
    at: datetime
    looks: Looks
    history: History

    @property
    def is_worth_having(self) -> bool:
        """Whether anything was done, or is being tried."""
        now = self.history.now
        return bool(self.history.past or self.history.future or now.sheet.steps or now.draft or now.measures)


class Journal:
    """Writes what changes; nothing is made before there is something to write."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._file: IO[bytes] | None = None
        self._path: Path | None = None
        self._numbers: dict[int, int] = {}
        self._documents: list[Document] = []  # kept, so that their numbers are not given to others
        self._history = History(now=Document())
        self._looks = Looks()
        self._number(self._history.now, first=True)

    def follow(self, history: History, looks: Looks) -> None:
        """Write what differs from what was written last.

        Raises
        ------
        OSError
            If it can't be written.
        """
        if looks != self._looks:
            self._write({"looks": _looks_words(looks)})
            self._looks = looks
        if history is self._history:
            return
        before, sheet = self._history, self._history.now.sheet
        entry = self._change(before, history)
        self._history = history
        self._write(entry)
        if history.now.sheet is not sheet and self._file is not None:
            os.fdatasync(self._file.fileno())

    def _change(self, before: History, after: History) -> dict[str, Any]:
        """Return one entry that makes `after` of `before`."""
        # A history grows and shrinks at its ends alone: where these are the same, all of it is.
        same_past = len(after.past) == len(before.past) and _same(after.past[-1:], before.past[-1:])
        same_future = len(after.future) == len(before.future) and _same(after.future[:1], before.future[:1])
        if same_past and same_future:
            # What is done in one gesture is one entry, named for how it stands.
            label = {"as": after.past[-1][0]} if after.past and after.past[-1][0] != before.past[-1][0] else {}
            return {**label, "now": self._told(after.now, before.now)}
        if not after.future and len(after.past) == len(before.past) + 1 and after.past[-1][1] is before.now:
            return {"done": after.past[-1][0], "now": self._told(after.now, before.now)}
        past = [[label, self._told(d)] for label, d in after.past]
        future = [[label, self._told(d)] for label, d in after.future]
        return {"whole": {"past": past, "future": future, "now": self._told(after.now, before.now)}}

    def _told(self, document: Document, base: Document | None = None) -> int | dict[str, Any]:
        """Return the number of a document that was written before; else it, by what differs from another."""
        known = self._numbers.get(id(document))
        if known is not None:
            return known
        at = self._numbers.get(id(base)) if base is not None else None
        words = words_of(document, base if at is not None else None)
        return {"number": self._number(document), "of": at, **words}

    def _number(self, document: Document, *, first: bool = False) -> int:
        self._documents.append(document)
        self._numbers[id(document)] = len(self._documents) - 1
        return 0 if first else len(self._documents) - 1

    def _write(self, entry: dict[str, Any]) -> None:
        if self._file is None:
            self._folder.mkdir(parents=True, exist_ok=True)
            self._path = self._folder / f"{datetime.now():%Y%m%d-%H%M%S-%f}-{os.getpid()}.journal"
            self._file = self._path.open("xb", buffering=0)
            fcntl.flock(self._file, fcntl.LOCK_EX)
            self._file.write(json.dumps({"journal": _VERSION}).encode() + b"\n")
        self._file.write(json.dumps(entry, ensure_ascii=False, separators=(",", ":")).encode() + b"\n")

    def end(self) -> None:
        """Forget it all: it was closed by whoever worked on it."""
        if self._file is not None and self._path is not None:
            self._path.unlink(missing_ok=True)
            self._file.close()
            self._file = None


def _same(some: Sequence[tuple[str, Document]], others: Sequence[tuple[str, Document]]) -> bool:
    return all(a[1] is b[1] for a, b in zip(some, others, strict=True))


def _looks_words(looks: Looks) -> dict[str, Any]:
    return {**asdict(looks), "unit": asdict(looks.unit)}


def left_behind(folder: Path) -> list[Saved]:
    """Return what runs that were not closed have left, the newest first; what says nothing is thrown away."""
    found = []
    for path in sorted(folder.glob("*.journal"), reverse=True):
        try:
            with path.open("rb") as file:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                saved = read_journal(path)
        except OSError:
            continue  # of a window that lives
        if saved is None or not saved.is_worth_having:
            path.unlink(missing_ok=True)
        else:
            found.append(saved)
    return found


def read_journal(path: Path) -> Saved | None:
    """Return what a journal tells of, as far as its lines are whole; None where it is none."""
    if path.stat().st_size > _MOST_BYTES:
        return None
    lines = path.read_bytes().split(b"\n")
    history, looks = History(now=Document()), Looks()
    documents = {0: history.now}
    try:
        if json.loads(lines[0]) != {"journal": _VERSION}:
            return None
        for line in lines[1:-1]:  # what follows the last line's end was cut short
            entry = json.loads(line)
            if "looks" in entry:
                looks = _looks(entry["looks"])
            else:
                history = _changed(history, entry, documents)
    except (ValueError, KeyError, TypeError, IndexError, OakSquareError):
        if len(documents) == 1:
            return None
        # What was told up to there stands.
    return Saved(path=path, at=datetime.fromtimestamp(path.stat().st_mtime), looks=looks, history=history)


def _changed(history: History, entry: dict[str, Any], documents: dict[int, Document]) -> History:
    if "whole" in entry:
        whole = entry["whole"]
        past = _entries(whole["past"], documents)
        future = _entries(whole["future"], documents)
        return History(now=_document(whole["now"], documents), past=past, future=future)
    now = _document(entry["now"], documents)
    if "done" in entry:
        return History(now=now, past=(*history.past, (str(entry["done"]), history.now)))
    past = (*history.past[:-1], (str(entry["as"]), history.past[-1][1])) if "as" in entry else history.past
    return History(now=now, past=past, future=history.future)


def _entries(words: Sequence[Any], documents: dict[int, Document]) -> tuple[tuple[str, Document], ...]:
    return tuple((str(label), _document(told, documents)) for label, told in words)


def _document(told: int | dict[str, Any], documents: dict[int, Document]) -> Document:
    if isinstance(told, int):
        return documents[told]
    words = dict(told)
    number, of = int(words.pop("number")), words.pop("of")
    documents[number] = document_of(words, None if of is None else documents[of])
    return documents[number]


def _looks(words: dict[str, Any]) -> Looks:
    unit = ShownUnit(**words["unit"])
    told: dict[str, Any] = {k: tuple(v) if isinstance(v, list) else v for k, v in words.items()}
    told["unit"] = unit
    return Looks(**told)
