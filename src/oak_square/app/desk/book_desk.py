"""The size book between its editor and the session."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from oak_square.app.session.session import Session
from oak_square.app.widgets.book_editor import BookEditor
from oak_square.core.boxes import asset_box
from oak_square.core.errors import ChoiceTrouble
from oak_square.core.size_book import book_of
from oak_square.core.words import say

__all__ = ["BookDesk"]


class BookDesk(QObject):
    """Opens the editor beside the window, and carries its wishes: what is right counts at once, and can be undone."""

    def __init__(self, session: Session, owner: QWidget) -> None:
        super().__init__(owner)
        self._session, self._owner = session, owner
        self._editor: BookEditor | None = None
        session.sheet.document_changed.connect(self._follow_session)

    def edit(self) -> BookEditor:
        """Open the editor."""
        if self._editor is None:
            editor = self._editor = BookEditor(self._owner)
            editor.book_wished.connect(self._set_book)
            editor.make_wished.connect(self._make_book)
            editor.open_wished.connect(self._open_book)
            editor.save_wished.connect(self._save_book)
        self._show_book()
        self._editor.show()
        self._editor.raise_()
        return self._editor

    def _show_book(self) -> None:
        if self._editor is not None:
            self._editor.show_book(self._session.book, self._session.document.book_path)

    def _follow_session(self) -> None:
        """Show the session's book anew when it is another one: undone, redone, or opened."""
        if self._editor is not None and self._editor.isVisible() and self._session.book != self._editor.given:
            self._show_book()

    def _set_book(self, book: object, path: object) -> None:
        self._session.sheet.set_book(book, path)  # type: ignore[arg-type]  # what the signal carries

    def _make_book(self) -> None:
        """Say what the included assets measure now."""
        sizes = []
        for file in self._session.included():
            outcome = self._session.outcomes.get(file)
            box = asset_box(outcome.after.asset) if outcome is not None else None
            if box is not None:
                sizes.append((file, [float(v) for v in box.size]))
        self._session.sheet.set_book(book_of(sizes), None)
        self._show_book()

    def _open_book(self, path: Path) -> None:
        try:
            self._session.sheet.shelf.open(path)
        except ChoiceTrouble as error:
            self._say_failure(str(error))
        else:
            self._show_book()

    def _save_book(self, path: Path) -> None:
        if self._session.book is None:
            return
        try:
            self._session.sheet.shelf.save(self._session.book, path)
        except OSError as error:
            self._say_failure(say("{path}: can't be written: {strerror}", path=path, strerror=error.strerror))
        else:
            self._show_book()

    def _say_failure(self, why: str) -> None:
        if self._editor is not None:
            self._editor.complain(why)
