"""The files of size books: found beside a batch, opened, saved."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, Signal

from oak_square.core.errors import ChoiceTrouble
from oak_square.core.size_book import SizeBook
from oak_square.delivery import load_book
from oak_square.delivery.files import write_whole

__all__ = ["BookShelf"]

_BOOK = "size_book.csv"


class BookShelf(QObject):
    """Opens and saves size books, and knows the file that the present one lies in."""

    opened = Signal(object, object, bool)  # book, its file, whether it came with what was opened
    said = Signal(str)  # a line for the foot of the window

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.path: Path | None = None

    def find(self, paths: list[Path]) -> None:
        """Take the size book that lies in an opened folder along, and say so."""
        there = [p / _BOOK for p in paths if p.is_dir() and (p / _BOOK).is_file()]
        if there:
            try:
                self.open(there[0], quietly=True)
            except ChoiceTrouble as error:
                self.said.emit(str(error))

    def open(self, path: Path, *, quietly: bool = False) -> None:
        """Open the size book in a file.

        Raises
        ------
        BadBook
            If it can't be read, or says something impossible.
        """
        book = load_book(path)
        self.opened.emit(book, path, quietly)
        count = len(book.entries)
        self.said.emit(f"Size book {path.name}: {count} {'entry' if count == 1 else 'entries'}")

    def save(self, book: SizeBook, path: Path) -> None:
        """Write a size book.

        Raises
        ------
        OSError
            If it can't be written.
        """
        write_whole(path, book.text().encode())
        self.path = path
        self.said.emit(f"Saved {path.name}")
