"""What a person has settled about the window itself, kept between runs: keys, favourites, where things stand."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from PySide6.QtCore import QObject, Signal

from oak_square.delivery.files import write_whole

__all__ = ["HabitBook", "Habits", "read_habits"]

MOST_RECENT = 12
"""How many batches, and how many sheets, are remembered."""
_MOST_BYTES = 1_000_000


class Habits(BaseModel):
    """One value; a new one takes its place when anything changes.

    Attributes
    ----------
    tray : tuple of str
        Favourites in their order, each by what the finder calls it.
    keys : mapping of str to tuple of str
        Keys that are other than at first, by action.
    """

    model_config = ConfigDict(frozen=True, extra="ignore")

    version: int = 1
    tray: tuple[str, ...] = ()
    keys: Mapping[str, tuple[str, ...]] = Field(default_factory=dict)


def read_habits(text: bytes) -> Habits:
    """Return what a file of habits says; what can't be read in it is as it was at first, the rest holds."""
    try:
        words = json.loads(text)
    except ValueError:
        return Habits()
    if not isinstance(words, dict):
        return Habits()
    while True:
        try:
            return Habits.model_validate(words)
        except ValidationError as error:
            wrong = {str(each["loc"][0]) for each in error.errors() if each["loc"]}
            kept = {key: value for key, value in words.items() if key not in wrong}
            if len(kept) == len(words):
                return Habits()
            words = kept


class HabitBook(QObject):
    """Holds the habits, and writes them down as they change; without a file they last as long as the window."""

    changed = Signal()

    def __init__(self, path: Path | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._path = path
        self.trouble = ""
        """Why they can't be written; empty where they can."""
        self.now = Habits()
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
        self._write()
        self.changed.emit()

    def _write(self) -> None:
        if self._path is None:
            return
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
