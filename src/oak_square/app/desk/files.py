"""What the title button offers: opening, saving, naming; and the dialogs that go with them."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import QLocale, QObject, Signal
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMenu, QMessageBox, QWidget

from oak_square.app.desk.book_desk import BookDesk
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.journal import Saved
from oak_square.app.session.session import Session
from oak_square.app.widgets.actions import Actions
from oak_square.app.widgets.book_editor import BookEditor
from oak_square.core.errors import OakSquareError
from oak_square.core.words import counted, say
from oak_square.formats.register import FORMATS, entry_of

__all__ = ["FileMenu"]

_SHEETS = say("Prep sheets (*.prepsheet.yaml *.yaml *.yml)")


class FileMenu(QObject):
    """Opens models and sheets, saves sheets; what goes wrong is one line, said by the session."""

    log_wished = Signal()

    def __init__(self, session: Session, deeds: Actions, habits: HabitBook, owner: QWidget) -> None:
        super().__init__(owner)
        self._session, self._owner, self._habits = session, owner, habits
        self.menu = QMenu(owner)
        self._books = BookDesk(session, owner)
        self.undo = deeds.add("undo", say("Undo"), "Ctrl+Z", session.sheet.undo)
        self.redo = deeds.add("redo", say("Redo"), "Ctrl+Shift+Z", session.sheet.redo)
        for words in (
            (
                ("open-folder", say("Open a folder…"), "Ctrl+O", self._ask_folder),
                ("open-files", say("Open files…"), "Ctrl+Shift+O", self._ask_files),
            ),
            (
                ("open-sheet", say("Open a prep sheet…"), "Ctrl+Alt+O", self._ask_sheet),
                ("save", say("Save the prep sheet"), "Ctrl+S", self._save_present),
                ("save-as", say("Save the prep sheet as…"), "Ctrl+Shift+S", self._save_as),
                ("title", say("Name the prep sheet…"), "F2", self._ask_title),
            ),
            (
                ("book", say("Size book…"), "Ctrl+B", self.edit_book),
                ("recheck", say("Recheck the files"), "F5", session.batch.recheck),
                ("leave-out", say("Leave what is selected out, or take it in"), "Ctrl+T", self.turn_inclusion),
                ("close", say("Close the batch"), "Ctrl+W", self.close_batch),
                ("said", say("What was said…"), "F8", self.log_wished.emit),
            ),
        ):
            for name, text, key, work in words:
                self.menu.addAction(deeds.add(name, text, key, work))
            self.menu.addSeparator()
        self.menu.addActions([self.undo, self.redo])

    def show_history(self) -> None:
        """Name what undo and redo would do."""
        history = self._session.sheet.history
        for item, entries, word in (
            (self.undo, history.past[-1:], say("Undo")),
            (self.redo, history.future[:1], say("Redo")),
        ):
            item.setText(f"{word}: {entries[0][0]}" if entries else word)

    def open_paths(self, paths: list[Path]) -> None:
        """Open models, folders, prep sheets and size books; what is none of them is refused, the rest is opened."""
        models = []
        for path in paths:
            suffix = path.suffix.lower()
            if suffix in {".yaml", ".yml"}:
                self.open_sheet(path)
            elif suffix == ".csv":
                self._do_and_tell(partial(self._session.sheet.shelf.open, path))
            elif path.is_file() and entry_of(path) is None:
                self._session.messages.failed.emit(
                    say("{name}: is no model, prep sheet or size book, so it is not opened", name=path.name)
                )
            else:
                models.append(path)
        if models:
            self._do_and_tell(partial(self._session.batch.open_paths, models))

    def _do_and_tell(self, work: Callable[[], object]) -> None:
        """Do something; what goes wrong with it is said."""
        try:
            work()
        except OakSquareError as error:
            self._session.messages.failed.emit(str(error))

    def open_sheet(self, path: Path) -> None:
        """Take a sheet in."""
        self._do_and_tell(partial(self._session.sheet.open, path))

    def save_sheet(self, path: Path) -> None:
        """Write the sheet; where another hand has changed it meanwhile, that is asked about first."""
        if self._session.sheet.is_changed_on_disk(path):
            choice = self.ask_changed(path)
            if choice == "open":
                self.open_sheet(path)
            if choice != "over":
                return
        try:
            self._session.sheet.save(path)
        except OSError as error:
            self._session.messages.failed.emit(
                say("{path}: can't be written: {strerror}", path=path, strerror=error.strerror)
            )

    def turn_inclusion(self) -> None:
        """Leave what is selected out of the delivery; or take it in, where all of it is left out."""
        session = self._session
        session.sheet.include(session.selection, all(f in session.document.left_out for f in session.selection))

    def close_batch(self) -> None:
        """Close what is open; what is not saved is asked about first."""
        if self._session.is_saved or self.may_leave():
            self._session.close_batch()

    def may_leave(self) -> bool:
        """Ask what is to become of a sheet that is not saved; tell whether the window may go."""
        choice = self.ask_unsaved()
        if choice == "save":
            self._save_present()
            return self._session.is_saved
        return choice == "leave"

    def ask_unsaved(self) -> str:
        """Return `save`, `leave` or `stay`."""
        steps, measures = len(self._session.document.sheet.steps), len(self._session.document.measures)
        there = [counted(n, word) for n, word in ((steps, "step"), (measures, "measurement")) if n]
        box = QMessageBox(self._owner)
        box.setWindowTitle("Oak Square")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(say("The prep sheet is not saved: {there}.", there=say(" and ").join(there) or say("its settings")))
        save = box.addButton(
            say("Save…") if self._session.sheet.path is None else say("Save"), QMessageBox.ButtonRole.AcceptRole
        )
        leave = box.addButton(say("Leave it"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(say("Stay"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.exec()
        return {save: "save", leave: "leave"}.get(box.clickedButton(), "stay")  # type: ignore[call-overload]

    def ask_changed(self, path: Path) -> str:
        """Return what is to become of a sheet that another hand has changed: write `over` it, `open` it, or `stay`."""
        box = QMessageBox(self._owner)
        box.setWindowTitle("Oak Square")
        box.setIcon(QMessageBox.Icon.Warning)
        box.setText(say("{name} was changed by another hand since it was opened or saved here.", name=path.name))
        over = box.addButton(say("Write over it"), QMessageBox.ButtonRole.DestructiveRole)
        anew = box.addButton(say("Open what it says now"), QMessageBox.ButtonRole.AcceptRole)
        stay = box.addButton(say("Leave both"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(stay)
        box.exec()
        return {over: "over", anew: "open"}.get(box.clickedButton(), "stay")  # type: ignore[call-overload]

    def ask_work(self, saved: Saved) -> str:
        """Return what is to become of work that was not closed: `take` it up, `later`, or `away` with it."""
        now = saved.history.now
        there = [
            counted(n, word) for n, word in ((len(now.sheet.steps), "step"), (len(now.measures), "measurement")) if n
        ]
        there += [say("a step being tried")] if now.draft is not None else []
        names = ", ".join(Path(p).name for p in saved.looks.paths) or say("no batch")
        box = QMessageBox(self._owner)
        box.setWindowTitle("Oak Square")
        box.setIcon(QMessageBox.Icon.Question)
        box.setText(
            say(
                "Work on {names} was not closed: {there}.",
                names=names,
                there=", ".join(there) or say("nothing kept yet"),
            )
        )
        box.setInformativeText(
            say("It was written down last on {at}, with all that can be undone.", at=_format_moment(saved.at))
            if not saved.lost
            else say(
                "It was written down last on {at}. Lines that can't be read: {lost}; what they told is missing here, "
                "and the file is kept.",
                at=_format_moment(saved.at),
                lost=saved.lost,
            )
        )
        take = box.addButton(say("Take it up"), QMessageBox.ButtonRole.AcceptRole)
        away = box.addButton(say("Throw it away"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(say("Later"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(take)
        box.exec()
        return {take: "take", away: "away"}.get(box.clickedButton(), "later")  # type: ignore[call-overload]

    def edit_book(self) -> BookEditor:
        """Open the size book beside the window."""
        return self._books.edit()

    def _find_start_folder(self, what: str) -> str:
        """Return the folder in which such a thing was looked for last."""
        return self._habits.now.folders.get(what, "")

    def _left_at(self, what: str, path: Path) -> None:
        self._habits.change(folders={**self._habits.now.folders, what: str(path)})

    def _ask_folder(self) -> None:
        found = QFileDialog.getExistingDirectory(
            self._owner, say("Open a folder of models"), self._find_start_folder("models")
        )
        if found:
            self._left_at("models", Path(found).parent)
            self.open_paths([Path(found)])

    def _ask_files(self) -> None:
        suffixes = " ".join(f"*{s}" for e in FORMATS.entries() for s in e.suffixes)
        start, kinds = self._find_start_folder("models"), say("Models ({suffixes})", suffixes=suffixes)
        found, _ = QFileDialog.getOpenFileNames(self._owner, say("Open models"), start, kinds)
        if found:
            self._left_at("models", Path(found[0]).parent)
            self.open_paths([Path(f) for f in found])

    def _ask_sheet(self) -> None:
        found, _ = QFileDialog.getOpenFileName(
            self._owner, say("Open a prep sheet"), self._find_start_folder("sheets"), _SHEETS
        )
        if found:
            self._left_at("sheets", Path(found).parent)
            self.open_sheet(Path(found))

    def _save_present(self) -> None:
        if self._session.sheet.path is None:
            self._save_as()
        else:
            self.save_sheet(self._session.sheet.path)

    def _save_as(self) -> None:
        start = str(self._session.sheet.path or Path(self._find_start_folder("sheets")) / "batch.prepsheet.yaml")
        found, _ = QFileDialog.getSaveFileName(self._owner, say("Save the prep sheet"), start, _SHEETS)
        if found:
            self._left_at("sheets", Path(found).parent)
            self.save_sheet(Path(found if found.endswith((".yaml", ".yml")) else f"{found}.prepsheet.yaml"))

    def _ask_title(self) -> None:
        present = self._session.document.sheet.title
        title, wanted = QInputDialog.getText(self._owner, say("Name the prep sheet"), say("Title"), text=present)
        if wanted:
            self._session.sheet.set_title(title.strip())


def _format_moment(at: datetime) -> str:
    return say("{day} {month} at {time}", day=at.day, month=QLocale().monthName(at.month), time=f"{at:%H:%M}")
