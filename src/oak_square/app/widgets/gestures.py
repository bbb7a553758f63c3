"""Gestures: what a person does as one deed, and undoes as one: press to release, or the letters typed into a field."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit

from oak_square.app.widgets.event_filter import EventFilter

__all__ = ["Gestures"]

_BEGINS = (
    QEvent.Type.MouseButtonPress,
    QEvent.Type.MouseButtonDblClick,
    QEvent.Type.Shortcut,
    QEvent.Type.Drop,
)


class Gestures:
    """Numbers gestures as they begin. Looks at all that happens, since any widget may begin one."""

    def __init__(self, events: EventFilter) -> None:
        self.number = 0
        events.add((*_BEGINS, QEvent.Type.KeyPress), self._note_event)
        self._typed_in: QObject | None = None

    def _note_event(self, watched: QObject, event: QEvent) -> bool:
        """Take note; keeps nothing from anyone."""
        if not isinstance(event, QKeyEvent):
            self._begin_gesture(None)
        else:
            typing = isinstance(watched, QLineEdit) and not watched.isReadOnly()
            if not typing or watched is not self._typed_in:
                self._begin_gesture(watched if typing else None)
        return False

    def _begin_gesture(self, typed_in: QObject | None) -> None:
        self.number += 1
        self._typed_in = typed_in
