"""The files of size books: found beside a batch, opened, saved."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, Signal

from oak_square.core.errors import ChoiceTrouble
from oak_square.core.size_book import SizeBook
from oak_square.core.words import counted, say
from oak_square.delivery.batch import find_book
from oak_square.delivery.files import write_whole
from oak_square.delivery.surveying import load_book

__all__ = ["BookShelf"]


class BookShelf(QObject):
    """Opens and saves size books."""

    opened = Signal(object, object, bool)  # book, its file, whether it came with what was opened
    said = Signal(str)  # a line for the foot of the window
    failed = Signal(str)  # one that tells what went wrong

    def find(self, paths: list[Path]) -> None:
        """Take the size book that lies in an opened folder along, and say so."""
        there = find_book(paths)
        if there is not None:
            try:
                self.open(there, quietly=True)
            except ChoiceTrouble as error:
                self.failed.emit(str(error))

    def open(self, path: Path, *, quietly: bool = False) -> None:
        """Open the size book in a file.

        Raises
        ------
        BadBook
            If it can't be read, or says something impossible.
        """
        book = load_book(path)
        self.opened.emit(book, path, quietly)
        self.said.emit(
            say("Size book {name}: {entries}", name=path.name, entries=counted(len(book.entries), "entry", "entries"))
        )

    def save(self, book: SizeBook, path: Path) -> None:
        """Write a size book.

        Raises
        ------
        OSError
            If it can't be written.
        """
        write_whole(path, book.text().encode())
        self.said.emit(say("Saved {name}", name=path.name))
