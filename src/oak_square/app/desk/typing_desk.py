"""Axes and numbers typed while an instrument is in hand are the instrument's, wherever in the window the focus is."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractSpinBox, QComboBox, QLineEdit, QPlainTextEdit, QTextEdit, QWidget

from oak_square.app.desk.hand import InstrumentDesk
from oak_square.app.view.view_area import ViewArea
from oak_square.app.widgets.actions import Actions
from oak_square.app.widgets.event_filter import EventFilter

__all__ = ["ALONE_MS", "TypingDesk"]

ALONE_MS = 400
"""For so long a digit waits for what may follow: alone it is a key of its own, with more it is a number."""
_FIELDS = (QLineEdit, QTextEdit, QPlainTextEdit, QAbstractSpinBox, QComboBox)
_KINDS = (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress)
_DIGITS = "0123456789"


class TypingDesk(QObject):
    """Reads keys before the widget that has the focus, and before the window's shortcuts."""

    def __init__(
        self, events: EventFilter, window: QWidget, hand: InstrumentDesk, views: ViewArea, deeds: Actions
    ) -> None:
        super().__init__(window)
        self._window, self._hand, self._views, self._deeds = window, hand, views, deeds
        self._digit = ""
        self._alone = QTimer(self, singleShot=True, interval=ALONE_MS)
        self._alone.timeout.connect(self._act_alone)
        events.add(_KINDS, self._look_at_key)

    @property
    def is_waiting(self) -> bool:
        """Whether a digit is waiting for what may follow."""
        return bool(self._digit)

    def _look_at_key(self, watched: QObject, event: QEvent) -> bool:
        """Tell whether a key is the instrument's; read it, where it is pressed."""
        if not isinstance(event, QKeyEvent) or not isinstance(watched, QWidget) or isinstance(watched, _FIELDS):
            return False
        if watched.window() is not self._window or self._views.view != "bench":
            return False
        if not self._is_typed(event):
            if self._digit and event.text():
                self._act_alone()  # what comes next is no part of a number
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
        else:
            self._read_key(event)
        return True

    def _is_typed(self, event: QKeyEvent) -> bool:
        if self._digit:
            return event.key() == Qt.Key.Key_Escape or self._is_plain(event)
        return self._hand.reads(event, True) or (
            self._is_plain(event) and event.text() in _DIGITS and self._hand.held.begins_entry
        )

    def _is_plain(self, event: QKeyEvent) -> bool:
        held = event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
        return not held and len(event.text()) == 1 and event.text().isprintable()

    def _read_key(self, event: QKeyEvent) -> None:
        if self._digit:
            digit, self._digit = self._digit, ""
            self._alone.stop()
            self._hand.held.open_entry("" if event.key() == Qt.Key.Key_Escape else digit + event.text())
        elif not self._hand.reads(event, False):
            self._digit = event.text()
            self._hand.held.open_entry("")
            if self._find_deed(self._digit):
                self._alone.start()
            else:
                digit, self._digit = self._digit, ""
                self._hand.held.open_entry(digit)

    def _act_alone(self) -> None:
        """Do what a digit does as a key of its own: nothing followed it."""
        digit, self._digit = self._digit, ""
        self._alone.stop()
        if name := self._find_deed(digit):
            self._deeds[name].trigger()

    def _find_deed(self, key: str) -> str:
        """Return the name of the action that has a key; empty where none has."""
        return next((row.name for row in self._deeds.rows() if row.name and key in row.keys), "")
