"""Keys where text is typed: whose they are, the field's or the window's."""

from __future__ import annotations

from PySide6.QtCore import QElapsedTimer, QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QLineEdit, QWidget

__all__ = ["TWICE_MS", "FilterEdit", "Framing", "leaves_undo"]


TWICE_MS = 600
"""Two presses of Space within so long are one that frames all."""


def leaves_undo(watched: QObject, event: QEvent) -> bool:
    """Keep undo and redo from a field in which nothing is being typed: they are the sheet's there.

    Looks at events of the kind `ShortcutOverride` before the field does.
    """
    if not isinstance(watched, QLineEdit) or not isinstance(event, QKeyEvent) or watched.isModified():
        return False
    if event.matches(QKeySequence.StandardKey.Undo) or event.matches(QKeySequence.StandardKey.Redo):
        event.ignore()
        return True
    return False


class Framing(QObject):
    """Takes Space in a list as it is taken in the views: it frames what is selected, twice all."""

    wished = Signal(bool)  # everything, or what is selected

    def __init__(self, of: QWidget) -> None:
        super().__init__(of)
        self._since = QElapsedTimer()
        of.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Take the key before the list makes a selection of it."""
        if event.type() != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        if event.key() != Qt.Key.Key_Space or event.modifiers() != Qt.KeyboardModifier.NoModifier:
            return False
        twice = self._since.isValid() and self._since.elapsed() < TWICE_MS
        self._since.restart()
        self.wished.emit(twice)
        return True


class FilterEdit(QLineEdit):
    """Letters that narrow a list. Enter goes to what is left, Esc clears them first; neither is the window's here."""

    done = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setClearButtonEnabled(True)

    def event(self, event: QEvent) -> bool:
        """Claim the keys before the window's shortcuts do."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and event.key() in _KEYS:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Take Enter and Esc; all else is typed."""
        if event.key() not in _KEYS:
            super().keyPressEvent(event)
        elif event.key() == Qt.Key.Key_Escape and self.text():
            self.clear()
        else:
            self.done.emit()


_KEYS = {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape}
