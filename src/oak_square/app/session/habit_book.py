"""Holds the habits of a person, and writes them down as they change."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from oak_square.app.session.habits import MOST_RECENT, Habits, read_habits
from oak_square.delivery.files import write_whole

__all__ = ["HabitBook"]

_MOST_BYTES = 1_000_000
_RESTS_MS = 400  # while a window is dragged larger there is news with every picture


class HabitBook(QObject):
    """Holds the habits, and writes them down as they change; without a file they last as long as the window."""

    changed = Signal()

    def __init__(self, path: Path | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._path = path
        self.trouble = ""
        """Why they can't be written; empty where they can."""
        self.now = Habits()
        self._owed = False
        self._due = QTimer(self, singleShot=True, interval=_RESTS_MS)
        self._due.timeout.connect(self.flush)
        if path is not None:
            try:
                with path.open("rb") as file:
                    self.now = read_habits(file.read(_MOST_BYTES))
            except FileNotFoundError:
                pass
            except OSError as error:
                self.trouble = error.strerror or str(error)

    def change(self, **fields: Any) -> None:
        """Let some of them be others."""
        fresh = self.now.model_copy(update=fields)
        if fresh == self.now:
            return
        self.now = fresh
        self._owed = True
        if self._path is not None:
            self._due.start()
        self.changed.emit()

    def change_one(self, field: str, value: object) -> None:
        """Let one of them be another; or, where it is not, let whoever follows them show it again."""
        if getattr(self.now, field) == value:
            self.changed.emit()
        self.change(**{field: value})

    def remember_batch(self, paths: Sequence[Path]) -> None:
        """Put a batch before all that were opened earlier."""
        batch = tuple(str(path.absolute()) for path in paths)
        self.change(batches=(batch, *(b for b in self.now.batches if b != batch))[:MOST_RECENT])

    def remember_sheet(self, path: Path) -> None:
        """Put a sheet before all that were opened or saved earlier."""
        sheet = str(path.absolute())
        self.change(sheets=(sheet, *(s for s in self.now.sheets if s != sheet))[:MOST_RECENT])

    def remember_delivery(self, paths: Sequence[Path], into: Path) -> None:
        """Put where a batch is delivered before where others were."""
        if paths:
            batch = str(paths[0].absolute())
            earlier = [(b, folder) for b, folder in self.now.deliveries.items() if b != batch]
            self.change(deliveries=dict([(batch, str(into.absolute())), *earlier][:MOST_RECENT]))

    def delivery_of(self, paths: Sequence[Path]) -> Path | None:
        """Return where a batch was delivered last; None where that is not known."""
        known = self.now.deliveries.get(str(paths[0].absolute())) if paths else None
        return None if known is None else Path(known)

    def flush(self) -> None:
        """Write down now what is still to be written."""
        self._due.stop()
        if self._path is None or not self._owed:
            return
        self._owed = False
        try:
            self._path.parent.mkdir(parents=True, exist_ok=True)
            write_whole(self._path, self.now.model_dump_json(indent=1).encode())
            self.trouble = ""
        except OSError as error:
            self.trouble = error.strerror or str(error)

    def follow(self, work: Callable[[Habits], object]) -> None:
        """Do something with them now, and whenever they change."""
        self.changed.connect(lambda: work(self.now))
        work(self.now)
