"""Deliveries out of the window: what is under way, and what the last one was."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.state import State
from oak_square.app.session.worker import Worker
from oak_square.delivery.run import Run

__all__ = ["Deliveries"]


class Deliveries(QObject):
    """Delivers the batch, and reports on it."""

    progressed = Signal(int, int, object)  # done, all, manifest entry
    ended = Signal(object, object)  # manifest, error

    def __init__(self, state: State, worker: Worker, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._state, self._worker = state, worker
        self.is_running = False
        self.last_run: Run | None = None
        worker.progressed.connect(self.progressed)
        worker.delivered.connect(self._take_delivery)

    def begin(self, out: Path, *, replace_old: bool, resume: bool = False, dry: bool = False) -> None:
        """Deliver the included assets with the kept steps; with `resume`, those that do not stand yet.

        `dry`: say what would come of it, and write nothing.
        """
        sheet = self._state.document.sheet
        run = Run(
            sources=tuple(self._state.rows[f].source for f in self._state.included()),
            sheet=sheet,
            sheet_bytes=self._state.document.words.encode(),
            out=out,
            jobs=0,
            dry=dry,
            replace=replace_old,
            resume=resume,
            known=tuple(self._state.rows[f].source for f in self._state.assets),
            book=self._state.book,
        )
        self.is_running = True
        self._worker.deliver(run)
        self.last_run = run

    def report(self, path: Path, manifest: dict[str, Any]) -> None:
        """Write a report of what the last run came to; `said` tells where it is, or why it is not."""
        assert self.last_run is not None
        self._worker.report(path, manifest, self.last_run)

    def _take_delivery(self, manifest: object, error: object) -> None:
        self.is_running = False
        self.ended.emit(manifest, error)
