"""Garbage collection on the thread that has the widgets, and on no other."""

from __future__ import annotations

import gc

from PySide6.QtCore import QObject, QTimer

__all__ = ["GarbageTimer"]

_LOOK_MS = 200


class GarbageTimer(QObject):
    """Lets go of what is unreachable now and then, in place of the interpreter's own turn at it.

    The interpreter collects on whichever thread happens to make one object too many. Where that is a thread that reads
    files, widgets are destroyed there, and the process with them.
    """

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self, interval=_LOOK_MS)
        self._timer.timeout.connect(self._collect_due)
        self._timer.start()

    def end(self) -> None:
        """Give the interpreter its own turn back."""
        self._timer.stop()
        gc.enable()

    def _collect_due(self) -> None:
        """Collect the oldest generation that is due, as the interpreter would: each takes the younger with it."""
        due = [
            n for n, (count, most) in enumerate(zip(gc.get_count(), gc.get_threshold(), strict=True)) if count > most
        ]
        if due:
            gc.collect(due[-1])
