"""What is worked on, written down as it changes: a run that ends without being closed leaves it to the next one.

A journal is a file of lines, each a change in JSON. Every change is handed to the system before anything else happens,
so that it outlives the program; what changes the sheet is brought onto the disk too, and outlives a loss of power.
A line that was cut short at the end is left out when it is read. The file is locked while its window lives: one that
can be locked belongs to nobody any more.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from datetime import datetime
from pathlib import Path
from typing import IO, Any

from oak_square.app.session.document import Document, History
from oak_square.app.session.written import document_of, words_of
from oak_square.core.errors import OakSquareError
from oak_square.core.shown_units import ShownUnit

__all__ = ["Journal", "Saved", "ViewState", "left_behind", "read_journal"]

_VERSION = 2  # since the second, long lists stand once
_OPENING = json.dumps({"journal": _VERSION}).encode() + b"\n"
_MOST_LINE_BYTES = 50_000_000
_MOST_BYTES = 1_000_000_000  # that are read; what is beyond is told as lost, and kept
_LONG = 64  # items from which on a list is written once
_LISTED = "in list"
_UNREADABLE = ".unread"
_NOT_READ = (
    ValueError, KeyError, TypeError, IndexError, AttributeError, OverflowError, RecursionError, MemoryError,
    OakSquareError,
)  # fmt: skip
"""What a spoilt line, or one of a later version, may come to."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ViewState:
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
    """What a journal tells of: where it lies, when it was last written, what was worked on, how many lines are lost."""

    path: Path
    at: datetime
    looks: ViewState
    history: History
    lost: int = 0

    @property
    def is_worth_having(self) -> bool:
        """Whether anything was done, or is being tried."""
        now = self.history.now
        return bool(self.history.past or self.history.future or now.sheet.steps or now.draft or now.measures)

    def put_away(self) -> None:
        """Take the file away once it was taken up or is not wanted; one with lines that were not read is kept aside."""
        if self.lost:
            _move_aside(self.path)
        else:
            self.path.unlink(missing_ok=True)


class Journal:
    """Writes what changes; nothing is made before there is something to write."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._file: IO[bytes] | None = None
        self._path: Path | None = None
        self._numbers: dict[int, int] = {}
        self._lists: dict[str, int] = {}
        self._documents: list[Document] = []  # kept, so that their numbers are not given to others
        self._history = History(now=Document())
        self._looks = ViewState()
        self._number_document(self._history.now, first=True)

    def follow(self, history: History, looks: ViewState) -> None:
        """Write what differs from what was written last.

        Raises
        ------
        OSError
            If it can't be written.
        """
        if looks != self._looks:
            self._write_entry({"looks": _looks_words(looks)})
            self._looks = looks
        if history is self._history:
            return
        before, sheet = self._history, self._history.now.sheet
        entry = self._make_change(before, history)
        self._history = history
        self._write_entry(entry)
        if history.now.sheet is not sheet and self._file is not None:
            os.fdatasync(self._file.fileno())

    def _make_change(self, before: History, after: History) -> dict[str, Any]:
        """Return one entry that makes `after` of `before`."""
        # A history grows and shrinks at its ends alone: where these are the same, all of it is.
        same_past = len(after.past) == len(before.past) and _is_same_list(after.past[-1:], before.past[-1:])
        same_future = len(after.future) == len(before.future) and _is_same_list(after.future[:1], before.future[:1])
        if same_past and same_future:
            # What is done in one gesture is one entry, named for how it stands.
            label = {"as": after.past[-1][0]} if after.past and after.past[-1][0] != before.past[-1][0] else {}
            return {**label, "now": self._document_number(after.now, before.now)}
        if not after.future and len(after.past) == len(before.past) + 1 and after.past[-1][1] is before.now:
            return {"done": after.past[-1][0], "now": self._document_number(after.now, before.now)}
        past = [[label, self._document_number(d)] for label, d in after.past]
        future = [[label, self._document_number(d)] for label, d in after.future]
        return {"whole": {"past": past, "future": future, "now": self._document_number(after.now, before.now)}}

    def _document_number(self, document: Document, base: Document | None = None) -> int | dict[str, Any]:
        """Return the number of a document that was written before; else it, by what differs from another."""
        known = self._numbers.get(id(document))
        if known is not None:
            return known
        at = self._numbers.get(id(base)) if base is not None else None
        words = words_of(document, base if at is not None else None)
        return {"number": self._number_document(document), "of": at, **words}

    def _number_document(self, document: Document, *, first: bool = False) -> int:
        self._documents.append(document)
        self._numbers[id(document)] = len(self._documents) - 1
        return 0 if first else len(self._documents) - 1

    def _write_entry(self, entry: dict[str, Any]) -> None:
        if self._file is None:
            self._folder.mkdir(parents=True, exist_ok=True)
            self._path = self._folder / f"{datetime.now():%Y%m%d-%H%M%S-%f}-{os.getpid()}.journal"
            self._file = self._path.open("xb", buffering=0)
            fcntl.flock(self._file, fcntl.LOCK_EX)
            self._file.write(_OPENING)
        self._put_line(self._with_lists_apart(entry))

    def _put_line(self, entry: dict[str, Any]) -> None:
        assert self._file is not None
        self._file.write(json.dumps(entry, separators=(",", ":")).encode() + b"\n")

    def _with_lists_apart(self, value: Any) -> Any:
        """Return a value with each long list, such as what was picked, by the number it was written down with."""
        if isinstance(value, dict):
            return {key: self._with_lists_apart(each) for key, each in value.items()}
        if not isinstance(value, list | tuple):
            return value
        found = [self._with_lists_apart(each) for each in value]
        if len(found) < _LONG:
            return found
        key = json.dumps(found)
        if key not in self._lists:
            self._lists[key] = len(self._lists)
            self._put_line({"list": self._lists[key], "is": found})
        return {_LISTED: self._lists[key]}

    def end(self) -> None:
        """Forget it all: it was closed by whoever worked on it."""
        if self._file is not None and self._path is not None:
            self._path.unlink(missing_ok=True)
            self._file.close()
            self._file = None


def _is_same_list(some: Sequence[tuple[str, Document]], others: Sequence[tuple[str, Document]]) -> bool:
    return all(a[1] is b[1] for a, b in zip(some, others, strict=True))


def _looks_words(looks: ViewState) -> dict[str, Any]:
    return {**asdict(looks), "unit": asdict(looks.unit)}


def left_behind(folder: Path) -> list[Saved]:
    """Return what runs that were not closed have left, the newest first.

    What says nothing is thrown away; what says something that can't be read is moved aside.
    """
    found = []
    for path in sorted((p for p in folder.glob("*.journal") if p.is_file()), reverse=True):
        try:
            with path.open("rb") as file:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                saved = read_journal(path)
        except OSError:
            continue  # of a window that lives
        if saved.is_worth_having:
            found.append(saved)
        else:
            saved.put_away()
    return found


def _move_aside(path: Path) -> None:
    with contextlib.suppress(OSError):
        path.rename(path.with_name(f"{path.name}{_UNREADABLE}"))


def read_journal(path: Path) -> Saved:
    """Return what a journal tells of, line by line: one that can't be read costs what it alone told of."""
    history, looks = History(now=Document()), ViewState()
    documents, lists, lost, has_any = {0: history.now}, dict[int, Any](), 0, False
    with path.open("rb") as file:
        while line := file.readline(_MOST_LINE_BYTES):
            is_whole = line.endswith(b"\n")
            if not is_whole and len(line) < _MOST_LINE_BYTES:
                lost += not has_any and not _OPENING.startswith(line)
                break  # the last one, cut short
            has_any = True
            try:
                entry = json.loads(line)
                if "journal" in entry:
                    lost += entry["journal"] not in range(1, _VERSION + 1)
                elif "list" in entry:
                    lists[int(entry["list"])] = entry["is"]
                elif "looks" in entry:
                    looks = _read_looks(entry["looks"])
                else:
                    history = _apply_change(history, _with_lists(entry, lists), documents)
            except _NOT_READ:
                lost += 1
            if file.tell() > _MOST_BYTES:
                lost += 1
                break
    at = datetime.fromtimestamp(path.stat().st_mtime)
    return Saved(path=path, at=at, looks=looks, history=history, lost=lost)


def _with_lists(value: Any, lists: Mapping[int, Any]) -> Any:
    if isinstance(value, dict):
        if set(value) == {_LISTED}:
            return _with_lists(lists[value[_LISTED]], lists)
        return {key: _with_lists(each, lists) for key, each in value.items()}
    return [_with_lists(each, lists) for each in value] if isinstance(value, list) else value


def _apply_change(history: History, entry: dict[str, Any], documents: dict[int, Document]) -> History:
    if "whole" in entry:
        whole = entry["whole"]
        past = _read_entries(whole["past"], documents)
        future = _read_entries(whole["future"], documents)
        return History(now=_read_document(whole["now"], documents), past=past, future=future)
    now = _read_document(entry["now"], documents)
    if "done" in entry:
        return History(now=now, past=(*history.past, (str(entry["done"]), history.now)))
    past = (*history.past[:-1], (str(entry["as"]), history.past[-1][1])) if "as" in entry else history.past
    return History(now=now, past=past, future=history.future)


def _read_entries(words: Sequence[Any], documents: dict[int, Document]) -> tuple[tuple[str, Document], ...]:
    return tuple((str(label), _read_document(told, documents)) for label, told in words)


def _read_document(told: int | dict[str, Any], documents: dict[int, Document]) -> Document:
    # One whose line is lost is taken for the last that was read: what differs from it is told in full.
    last = documents[max(documents)]
    if isinstance(told, int):
        return documents.get(told, last)
    words = dict(told)
    number, of = int(words.pop("number")), words.pop("of")
    documents[number] = document_of(words, None if of is None else documents.get(of, last))
    return documents[number]


def _read_looks(words: dict[str, Any]) -> ViewState:
    unit = ShownUnit(**words["unit"])
    told: dict[str, Any] = {k: tuple(v) if isinstance(v, list) else v for k, v in words.items()}
    told["unit"] = unit
    return ViewState(**told)
