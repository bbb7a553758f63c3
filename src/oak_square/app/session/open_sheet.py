"""What is worked on: the document and its history, its sheet as a file, its size book."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtCore import QFileSystemWatcher, QObject, Signal

from oak_square.app.session.book_shelf import BookShelf
from oak_square.app.session.document import Document, History
from oak_square.app.session.grip import renamed_grip
from oak_square.app.session.messages import Messages
from oak_square.core.errors import BadLength
from oak_square.core.lengths import parse_length
from oak_square.core.measuring import Measure
from oak_square.core.shown_units import ShownUnit
from oak_square.core.size_book import SizeBook
from oak_square.core.words import counted, say
from oak_square.delivery.files import sha256_of, write_whole
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.measures import dump_measures, load_measures, measures_path
from oak_square.sheet.model import Deliver, Sheet
from oak_square.sheet.text import load_sheet
from oak_square.steps.step import Step

__all__ = ["OpenSheet"]


class OpenSheet(QObject):
    """The document about the batch, which is changed here alone. What the steps make of it is worked out elsewhere."""

    document_changed = Signal()  # sheet, draft or what is left out
    taken_hold = Signal()  # the document is another one: what it makes of the batch is to be worked out anew

    def __init__(self, messages: Messages, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.said, self.failed = messages.said, messages.failed
        self.history = History(now=Document())
        self.unit = self._unit_before = ShownUnit()
        # What the files that were opened or saved are known to hold: the sheet, and the measurements beside it.
        self._on_disk: dict[Path, tuple[Sheet, tuple[Measure, ...]]] = {}
        self._digests: dict[Path, str] = {}  # of the bytes that were opened or saved last
        self._told_of: set[tuple[Path, str]] = set()
        self._sheet_watch = QFileSystemWatcher(self)
        self._sheet_watch.fileChanged.connect(self._look_at_sheet)
        self.shelf = BookShelf(self)
        self.shelf.said.connect(self.said)
        self.shelf.failed.connect(self.failed)
        self.shelf.opened.connect(lambda book, path, quietly: self.set_book(book, path, quietly=quietly))

    @property
    def document(self) -> Document:
        """The present document."""
        return self.history.now

    @property
    def book(self) -> SizeBook | None:
        """The size book the batch is held against."""
        return self.document.book

    @property
    def path(self) -> Path | None:
        """The present sheet's file; None while it is not saved."""
        return self.document.path

    @property
    def is_saved(self) -> bool:
        """Whether the sheet and its measurements are what its file was seen to hold; an empty one needs none."""
        document = self.document
        if document.path is None:
            return document.sheet == Sheet() and not document.measures
        return self._on_disk.get(document.path) == (document.sheet, document.measures)

    def close(self) -> None:
        """Close the sheet, and forget what can be undone."""
        self._on_disk.clear()
        self._digests.clear()
        self._set_history(History(now=Document()))

    def take_history(self, history: History, on_disk: dict[Path, tuple[Any, Any]]) -> None:
        """Go on with a history of another run; `on_disk` is what the sheets it speaks of hold now."""
        self._on_disk.update(on_disk)
        self._digests.update({path: found for path in on_disk if (found := _hash_file(path)) is not None})
        self._set_history(history)

    # What the sheet's numbers mean

    def set_deliver(self, deliver: Deliver) -> None:
        """Change what the sheet's numbers mean and files are written as."""
        if deliver != self.document.sheet.deliver:
            sheet = self.document.sheet.model_copy(update={"deliver": deliver})
            form = "" if deliver.format == "same" else say(", as {format}", format=deliver.format)
            self.do(
                say("Deliver with unit {unit}, up axis {up}{form}", unit=deliver.unit, up=deliver.up, form=form),
                replace(self.document, sheet=sheet),
            )

    def set_title(self, title: str) -> None:
        """Name the sheet."""
        if title != self.document.sheet.title:
            sheet = self.document.sheet.model_copy(update={"title": title})
            self.do(say("Name the sheet {title}", title=title), replace(self.document, sheet=sheet))

    def set_module(self, name: str, length: str) -> None:
        """Call the length `length` a module named `name`, show lengths in it, and let steps be typed in it.

        Steps that are written in modules keep them from being another length: they would size things anew.
        """
        deliver = self.document.sheet.deliver
        try:
            metres = parse_length(length, bare=self.unit.bare)
            fresh = Deliver.model_validate({**deliver.model_dump(), "module": self.unit.as_typed(length)})
        except (BadLength, ValueError) as error:
            self.failed.emit(
                str(error).splitlines()[-1]
                if isinstance(error, BadLength)
                else say("'{length}' is no module", length=length)
            )
            return
        if self.document.sheet.speaks_in_modules() and deliver.module is not None and deliver.module != fresh.module:
            self.failed.emit(
                say(
                    "Steps are written in modules of {module}: another length would size them anew",
                    module=deliver.module,
                )
            )
            return
        if self.unit.kind != "mod":
            self._unit_before = self.unit
        self.unit = replace(self.unit, kind="mod", module=metres, module_name=name)
        sheet = self.document.sheet.model_copy(update={"deliver": fresh})
        self.do(say("Call {length} a {name}", length=length, name=name), replace(self.document, sheet=sheet))

    # The size book

    def set_book(self, book: SizeBook | None, path: Path | None, *, quietly: bool = False) -> None:
        """Hold the batch against `book`, the one in the file at `path` or not saved yet; or against none.

        `quietly`, it came with what was opened: there is nothing to undo.
        """
        if quietly:
            # It was there all along: no undo goes back behind it.
            self._set_history(
                self.history.told(lambda d: d if d.book is not None else replace(d, book=book, book_path=path))
            )
        else:
            document = replace(self.document, book=book, book_path=path)
            self.do(say("Change the size book") if book is not None else say("Use no size book"), document)

    def find_book(self, paths: list[Path]) -> None:
        """Look for a size book beside what was opened, where none is in use."""
        if self.book is None:
            self.shelf.find(paths)

    # Its steps

    def remove_step(self, index: int) -> None:
        """Take a step, counted from 0, off the sheet."""
        steps = self.document.sheet.steps
        sheet = self.document.with_steps(steps[:index] + steps[index + 1 :])
        self.do(say("Remove {title}", title=steps[index].title()), self.document.with_sheet(sheet))

    def move_step(self, index: int, to: int) -> None:
        """Put a step, counted from 0, before the one that is now at `to`."""
        steps = list(self.document.sheet.steps)
        step = steps.pop(index)
        place = to - 1 if to > index else to
        if place == index:
            return
        steps.insert(place, step)
        sheet = self.document.with_steps(tuple(steps))
        label = say("Move {title} to place {place}", title=step.title(), place=place + 1)
        self.do(label, self.document.with_sheet(sheet))

    def change_step(self, index: int, step: Step) -> None:
        """Have a step, counted from 0, say something else."""
        steps = list(self.document.sheet.steps)
        if steps[index] == step:
            return
        steps[index] = step
        self.do(
            say("Change {title}", title=step.title()), self.document.with_sheet(self.document.with_steps(tuple(steps)))
        )

    def pause_step(self, index: int) -> None:
        """Leave a step, counted from 0, out of the run; or take it in again."""
        steps = list(self.document.sheet.steps)
        steps[index] = steps[index].model_copy(update={"paused": not steps[index].paused})
        sheet = self.document.with_steps(tuple(steps))
        label = (
            say("Pause {title}", title=steps[index].title())
            if steps[index].paused
            else say("Take up {title}", title=steps[index].title())
        )
        self.do(label, self.document.with_sheet(sheet))

    def include(self, files: Sequence[str], wanted: bool) -> None:
        """Take assets into the delivery, or leave them out."""
        if not files:
            self.said.emit(say("Nothing is selected"))
            return
        left_out = self.document.left_out - set(files) if wanted else self.document.left_out | set(files)
        what = files[0] if len(files) == 1 else say("{count} assets", count=len(files))
        self.do(
            say("Take in {what}", what=what) if wanted else say("Leave out {what}", what=what),
            replace(self.document, left_out=left_out),
        )

    # The sheet as a file

    def open(self, path: Path) -> None:
        """Take the sheet in a file in place of this one.

        Raises
        ------
        BadSheet
            If it can't be read, or says something impossible.
        """
        sheet, data = load_sheet(path)
        typed = SheetText.of(data.decode("utf-8-sig"), str(path))
        measures = load_measures(measures_path(path))
        document = replace(
            self.document, sheet=sheet, draft=None, editing=None, measures=measures, path=path, typed=typed
        )
        self._on_disk[path] = sheet, measures
        self._digests[path] = hashlib.sha256(data).hexdigest()
        self.do(say("Open {name}", name=path.name), document)
        self.said.emit(say("Opened {name}: {steps}", name=path.name, steps=counted(len(sheet.steps), "step")))

    def text(self) -> str:
        """Return the kept steps as a sheet file says them, what was typed before kept as it was."""
        return self.document.words

    def save(self, path: Path) -> None:
        """Write the kept steps to a file.

        Raises
        ------
        OSError
            If it can't be written.
        """
        words, is_anew = self.document.told
        write_whole(path, words.encode())
        beside = measures_path(path)
        if self.document.measures or beside.exists():
            write_whole(beside, dump_measures(self.document.measures).encode())
        former, typed = self.document.path, SheetText.of(words, str(path))
        self._on_disk[path] = self.document.sheet, self.document.measures
        self._digests[path] = hashlib.sha256(words.encode()).hexdigest()
        # Earlier and later states of this sheet are states of what is now in that file; those of another one are not.
        history = self.history.told(lambda d: replace(d, path=path) if d.path == former else d)
        self.history = replace(history, now=replace(history.now, typed=typed))
        self._watch_sheet()
        self.document_changed.emit()
        anew = say("; it is written anew, its aliases spelled out") if is_anew else ""
        self.said.emit(say("Saved {name}{anew}", name=path.name, anew=anew))

    def is_changed_on_disk(self, path: Path) -> bool:
        """Tell whether a sheet's file, opened or saved here, now holds something else; gone, it can be written anew."""
        known, now = self._digests.get(path), _hash_file(path)
        return known is not None and now is not None and now != known

    def _look_at_sheet(self, name: str) -> None:
        """Say once that another hand has changed the sheet that is open."""
        path = Path(name)
        self._watch_sheet()  # a file that was replaced is another one to the system
        told = (path, _hash_file(path) or "")
        if path == self.document.path and self.is_changed_on_disk(path) and told not in self._told_of:
            self._told_of.add(told)
            self.failed.emit(
                say("{name} was changed by another hand: open it again to have what it says now", name=path.name)
            )

    def _watch_sheet(self) -> None:
        path = self.document.path
        there = [str(path)] if path is not None and path.exists() else []
        old = [p for p in self._sheet_watch.files() if p not in there]
        if old:
            self._sheet_watch.removePaths(old)
        if there and there[0] not in self._sheet_watch.files():
            self._sheet_watch.addPaths(there)

    # Back and forth

    def undo(self) -> None:
        """Go one entry back."""
        if not self.history.past:
            self.said.emit(say("Nothing to undo"))
            return
        label = self.history.past[-1][0]
        self._set_history(self._held_as_now(self.history.undone()))
        self.said.emit(say("Undid: {label}", label=label))

    def redo(self) -> None:
        """Go one entry on."""
        if not self.history.future:
            self.said.emit(say("Nothing to redo"))
            return
        label = self.history.future[0][0]
        self._set_history(self._held_as_now(self.history.redone()))
        self.said.emit(say("Redid: {label}", label=label))

    def _held_as_now(self, history: History) -> History:
        """Return a history whose present is taken hold of as things are now: that is no deed to be undone."""
        grip = self.document.grip
        for kind in ("datum", "mark"):
            before, after = (getattr(d.sheet, f"{kind}s") for d in (self.document, history.now))
            gone, come = [n for n in before if n not in after], [n for n in after if n not in before]
            if len(gone) == 1 == len(come):  # it was given its name, or is given it again
                grip = renamed_grip(grip, kind, gone[0], come[0])
        if grip.hold_datum not in history.now.sheet.datums:
            grip = replace(grip, hold_datum="")
        if grip.datum and grip.datum not in history.now.sheet.datums:
            grip = replace(grip, along=grip.aside[0], about=grip.aside[1])
        return replace(history, now=replace(history.now, grip=grip))

    def do(self, label: str, document: Document, *, gesture: int | None = None) -> None:
        """Go on with another document: one entry of the history, or of the gesture that has begun one."""
        self._set_history(self.history.done(label, document, gesture=gesture))

    def amend(self, **changes: Any) -> None:
        """Change the present document in what there is nothing to undo of."""
        self.history = replace(self.history, now=replace(self.document, **changes))

    def _set_history(self, history: History) -> None:
        self.history = history
        module = history.now.sheet.deliver.setting().module
        if module is None and self.unit.kind == "mod":
            self.unit = replace(self._unit_before, module=self.unit.module)
        elif self.unit.kind != "mod":
            self._unit_before = self.unit
        if module is not None and module != self.unit.module:
            # A module is as long as the sheet says, whichever sheet that is now.
            self.unit = replace(self.unit, module=module)
        self._watch_sheet()
        self.taken_hold.emit()


def _hash_file(path: Path) -> str | None:
    """Return the hash of a file's bytes; None where it can't be read."""
    try:
        return sha256_of(path)
    except OSError:
        return None
