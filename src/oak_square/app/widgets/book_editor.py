"""The size book, to be looked at and changed: one row a pattern, what is wrong marked in its cell."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.session.session import Session
from oak_square.app.widgets.fields import soft
from oak_square.app.widgets.theme import colour
from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadLength, ChoiceTrouble
from oak_square.core.size_book import COLUMNS, BookEntry, SizeBook, Span, book_of, span_of

__all__ = ["BookEditor"]

_HEADINGS = ("name pattern", "width from", "to", "height from", "to", "depth from", "to", "note")
_BOOKS = "Size books (*.csv)"


class BookEditor(QDialog):
    """Edits the session's size book in place: what is right counts at once, and is undone with all else."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        super().__init__(parent)
        self._session = session
        self._filling = False
        self._given: SizeBook | None = None  # what the rows say, as the session was given it
        session.document_changed.connect(self._follow)
        self.setWindowTitle("Size book")
        self.resize(860, 460)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 14, 16, 14)
        rows.setSpacing(8)
        self.heading = QLabel(self)
        self.heading.setProperty("role", "heading")
        rows.addWidget(self.heading)
        rows.addWidget(
            soft("What each asset should measure, as lengths with units; blank is open. The first pattern holds.", self)
        )
        self.table = QTableWidget(0, len(COLUMNS), self)
        self.table.setAccessibleName("Size book")
        self.table.setHorizontalHeaderLabels(list(_HEADINGS))
        self.table.verticalHeader().hide()
        header = self.table.horizontalHeader()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
        for k in range(len(COLUMNS)):
            wide = k in (0, len(COLUMNS) - 1)
            header.setSectionResizeMode(
                k, QHeaderView.ResizeMode.Stretch if wide else QHeaderView.ResizeMode.ResizeToContents
            )
        self.table.itemChanged.connect(self._changed)
        rows.addWidget(self.table, 1)
        self.complaint = QLabel(self)
        self.complaint.setProperty("role", "wrong")
        rows.addWidget(self.complaint)
        rows.addLayout(self._make_buttons())
        self.show_book()

    def _make_buttons(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for key, word, tip, work in (
            ("make", "Make it from the batch", "A book that says what the included assets measure now, ± 2 %",
             self.make_from_batch),
            ("add", "Add a row", "A further pattern, last in the order", self._add),
            ("remove", "Remove the row", "Take the row with the cursor off the book", self._remove),
            ("open", "Open…", "Take the book in a CSV file in place of this one", self._open),
            ("save", "Save…", "Write the book to a CSV file", self._save),
            ("none", "Use none", "Hold the batch against no book", self._use_none),
        ):  # fmt: skip
            button = QPushButton(word, self)
            button.setToolTip(tip)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, w=work: w())
            self.buttons[key] = button
            line.addWidget(button)
        line.addStretch(1)
        return line

    def show_book(self) -> None:
        """Match the table to the session's book."""
        self._filling = True
        book = self._session.book or SizeBook()
        path = self._session.document.book_path
        self.heading.setText(f"Size book: {path.name}" if path is not None else "Size book, not saved yet")
        self.table.setRowCount(len(book.entries))
        for k, entry in enumerate(book.entries):
            for j, text in enumerate(entry.cells()):
                self.table.setItem(k, j, QTableWidgetItem(text))
        self.complaint.setText("")
        self._filling = False
        self._given = self._session.book

    def _follow(self) -> None:
        """Show the session's book anew when it is another one: undone, redone, or opened."""
        if self.isVisible() and self._session.book != self._given:
            self.show_book()

    def _changed(self, _: QTableWidgetItem) -> None:
        if not self._filling:
            self._take()

    def _take(self) -> None:
        """Give the session what the rows say, once there is no mistake in any of them."""
        entries, wrong = [], []
        self._filling = True
        for k in range(self.table.rowCount()):
            entry, why = self._entry(k)
            if entry is not None:
                entries.append(entry)
            elif why:
                wrong.append(f"row {k + 1}: {why}")
            for j in range(len(COLUMNS)):
                item = self.table.item(k, j)
                if item is not None:
                    item.setForeground(colour("fix") if why else QColor(colour("ink")))
        self._filling = False
        self.complaint.setText(wrong[0] if wrong else "")
        if not wrong:
            self._given = SizeBook(entries=tuple(entries))
            self._session.set_book(self._given, self._session.document.book_path)

    def _entry(self, row: int) -> tuple[BookEntry | None, str]:
        cells = [(item.text().strip() if (item := self.table.item(row, j)) is not None else "") for j in range(8)]
        if not any(cells):
            return None, ""
        if not cells[0]:
            return None, "it has no pattern"
        try:
            spans: list[Span] = [span_of(cells[j], cells[j + 1]) for j in (1, 3, 5)]
        except BadLength as error:
            return None, str(error)
        return BookEntry(pattern=cells[0], spans=(spans[0], spans[1], spans[2]), note=cells[7]), ""

    def make_from_batch(self) -> None:
        """Say what the included assets measure now."""
        session = self._session
        sizes = []
        for file in session.included():
            outcome = session.outcomes.get(file)
            box = asset_box(outcome.after.asset) if outcome is not None else None
            if box is not None:
                sizes.append((file, [float(v) for v in box.size]))
        session.set_book(book_of(sizes), None)
        self.show_book()

    def _add(self) -> None:
        self.table.insertRow(self.table.rowCount())
        self.table.setCurrentCell(self.table.rowCount() - 1, 0)
        self.table.setFocus(Qt.FocusReason.OtherFocusReason)

    def _remove(self) -> None:
        if self.table.currentRow() >= 0:
            self.table.removeRow(self.table.currentRow())
            self._take()

    def _open(self) -> None:
        found, _ = QFileDialog.getOpenFileName(self, "Open a size book", filter=_BOOKS)
        if found:
            self.open_book(Path(found))

    def open_book(self, path: Path) -> None:
        """Take the book in a file; what is wrong with it is said here."""
        try:
            self._session.shelf.open(path)
        except ChoiceTrouble as error:
            self.complaint.setText(str(error))
        else:
            self.show_book()

    def _save(self) -> None:
        start = str(self._session.document.book_path or "size_book.csv")
        found, _ = QFileDialog.getSaveFileName(self, "Save the size book", start, _BOOKS)
        if found:
            self.save_book(Path(found))

    def save_book(self, path: Path) -> None:
        """Write the book; what goes wrong is said here."""
        book = self._session.book
        if book is None:
            return
        try:
            self._session.shelf.save(book, path)
        except OSError as error:
            self.complaint.setText(f"{path}: can't be written: {error.strerror}")
        else:
            self.show_book()

    def _use_none(self) -> None:
        self._session.set_book(None, None)
        self.show_book()
