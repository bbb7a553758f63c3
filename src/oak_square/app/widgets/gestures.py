"""Gestures: what a person does as one deed, and undoes as one: press to release, or the letters typed into a field."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit

__all__ = ["Gestures"]

_BEGINS = {
    QEvent.Type.MouseButtonPress,
    QEvent.Type.MouseButtonDblClick,
    QEvent.Type.Shortcut,
    QEvent.Type.Drop,
}


class Gestures(QObject):
    """Numbers gestures as they begin. Installed on the application, since any widget may begin one."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.number = 0
        self._typed_in: QObject | None = None

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Take note; keeps nothing from anyone."""
        kind = event.type()
        if kind in _BEGINS:
            self._begin(None)
        elif kind == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            typing = isinstance(watched, QLineEdit) and not watched.isReadOnly()
            if not typing or watched is not self._typed_in:
                self._begin(watched if typing else None)
        return False

    def _begin(self, typed_in: QObject | None) -> None:
        self.number += 1
        self._typed_in = typed_in
