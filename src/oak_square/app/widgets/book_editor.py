"""The size book, to be looked at and changed: one row a pattern, what is wrong marked in its cell."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
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

from oak_square.app.widgets.fields import soft
from oak_square.app.widgets.theme import colour
from oak_square.core.errors import BadLength
from oak_square.core.lengths import as_written
from oak_square.core.size_book import COLUMNS, BookEntry, SizeBook, Span, span_of
from oak_square.core.words import number, say

__all__ = ["BookEditor"]

_TO = say("to", "up to")
_HEADINGS = (
    say("name pattern"),
    say("width from"),
    _TO,
    say("height from"),
    _TO,
    say("depth from"),
    _TO,
    say("note"),
)
_BOOKS = say("Size books (*.csv)")


class BookEditor(QDialog):
    """Shows a size book; what is right in it is wished for at once."""

    book_wished = Signal(object, object)  # the book, or None for none; the file it lies in
    make_wished = Signal()
    open_wished = Signal(object)  # path
    save_wished = Signal(object)  # path

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._filling = False
        self._path: Path | None = None
        self.given: SizeBook | None = None
        """The book as it was shown or wished for last."""
        self.setWindowTitle(say("Size book"))
        self.resize(860, 460)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 14, 16, 14)
        rows.setSpacing(8)
        self.heading = QLabel(self)
        self.heading.setProperty("role", "heading")
        rows.addWidget(self.heading)
        rows.addWidget(
            soft(
                say("What each asset should measure, as lengths with units; blank is open. The first pattern holds."),
                self,
            )
        )
        self.table = QTableWidget(0, len(COLUMNS), self)
        self.table.setAccessibleName(say("Size book"))
        self.table.setHorizontalHeaderLabels(list(_HEADINGS))
        self.table.verticalHeader().hide()
        self.table.setTabKeyNavigation(False)
        header = self.table.horizontalHeader()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
        for k in range(len(COLUMNS)):
            wide = k in (0, len(COLUMNS) - 1)
            header.setSectionResizeMode(
                k, QHeaderView.ResizeMode.Stretch if wide else QHeaderView.ResizeMode.ResizeToContents
            )
        self.table.itemChanged.connect(self._take_item)
        rows.addWidget(self.table, 1)
        self.complaint = QLabel(self)
        self.complaint.setProperty("role", "wrong")
        rows.addWidget(self.complaint)
        rows.addLayout(self._make_buttons())

    def _make_buttons(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for key, word, tip, work in (
            ("make", say("Make it from the batch"), say("A book that says what the included assets measure now, ± 2 %"),
             self.make_wished.emit),
            ("add", say("Add a row"), say("A further pattern, last in the order"), self._add_row),
            ("remove", say("Remove the row"), say("Take the row with the cursor off the book"), self._remove_row),
            ("open", say("Open…"), say("Take the book in a CSV file in place of this one"), self._ask_for_book),
            ("save", say("Save…"), say("Write the book to a CSV file"), self._save_entries),
            ("none", say("Use none"), say("Hold the batch against no book"), lambda: self.book_wished.emit(None, None)),
        ):  # fmt: skip
            button = QPushButton(word, self)
            button.setToolTip(tip)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, w=work: w())
            self.buttons[key] = button
            line.addWidget(button)
        line.addStretch(1)
        return line

    def show_book(self, book: SizeBook | None, path: Path | None) -> None:
        """Match the table to a book and the file it lies in."""
        self._filling = True
        self._path = path
        self.heading.setText(
            say("Size book: {name}", name=path.name) if path is not None else say("Size book, not saved yet")
        )
        entries = book.entries if book is not None else ()
        self.table.setRowCount(len(entries))
        for k, entry in enumerate(entries):
            for j, text in enumerate(entry.cells()):
                self.table.setItem(k, j, QTableWidgetItem(number(text) if 1 <= j <= 6 else text))
        self.complaint.setText("")
        self._filling = False
        self.given = book

    def complain(self, why: str) -> None:
        """Say what went wrong."""
        self.complaint.setText(why)

    def _take_item(self, _: QTableWidgetItem) -> None:
        if not self._filling:
            self._wish_for_rows()

    def _wish_for_rows(self) -> None:
        """Wish for what the rows say, once there is no mistake in any of them."""
        entries, wrong = [], []
        self._filling = True
        for k in range(self.table.rowCount()):
            entry, why = self._read_entry(k)
            if entry is not None:
                entries.append(entry)
            elif why:
                wrong.append(say("row {k}: {why}", k=k + 1, why=why))
            for j in range(len(COLUMNS)):
                item = self.table.item(k, j)
                if item is not None:
                    item.setForeground(colour("fix") if why else QColor(colour("ink")))
        self._filling = False
        self.complaint.setText(wrong[0] if wrong else "")
        if not wrong:
            self.given = SizeBook(entries=tuple(entries))
            self.book_wished.emit(self.given, self._path)

    def _read_entry(self, row: int) -> tuple[BookEntry | None, str]:
        cells = [(item.text().strip() if (item := self.table.item(row, j)) is not None else "") for j in range(8)]
        if not any(cells):
            return None, ""
        if not cells[0]:
            return None, say("it has no pattern")
        try:
            spans: list[Span] = [span_of(as_written(cells[j]), as_written(cells[j + 1])) for j in (1, 3, 5)]
        except BadLength as error:
            return None, str(error)
        return BookEntry(pattern=cells[0], spans=(spans[0], spans[1], spans[2]), note=cells[7]), ""

    def _add_row(self) -> None:
        self.table.insertRow(self.table.rowCount())
        self.table.setCurrentCell(self.table.rowCount() - 1, 0)
        self.table.setFocus(Qt.FocusReason.OtherFocusReason)

    def _remove_row(self) -> None:
        if self.table.currentRow() >= 0:
            self.table.removeRow(self.table.currentRow())
            self._wish_for_rows()

    def _ask_for_book(self) -> None:
        found, _ = QFileDialog.getOpenFileName(self, say("Open a size book"), filter=_BOOKS)
        if found:
            self.open_book(Path(found))

    def open_book(self, path: Path) -> None:
        """Wish for the book in a file; what is wrong with it is said here."""
        self.open_wished.emit(path)

    def _save_entries(self) -> None:
        start = str(self._path or "size_book.csv")
        found, _ = QFileDialog.getSaveFileName(self, say("Save the size book"), start, _BOOKS)
        if found:
            self.save_book(Path(found))

    def save_book(self, path: Path) -> None:
        """Wish for the book to be written; what goes wrong is said here."""
        self.save_wished.emit(path)
