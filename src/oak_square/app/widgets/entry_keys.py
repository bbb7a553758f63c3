"""Keys where text is typed: whose they are, the field's or the window's."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QLineEdit, QWidget

__all__ = ["FilterEdit", "SheetUndo"]


class SheetUndo(QObject):
    """Lets undo and redo be the sheet's in a field in which nothing is being typed. Installed on the application."""

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Keep such a field from taking the keys."""
        if event.type() != QEvent.Type.ShortcutOverride or not isinstance(watched, QLineEdit) or watched.isModified():
            return False
        assert isinstance(event, QKeyEvent)
        if event.matches(QKeySequence.StandardKey.Undo) or event.matches(QKeySequence.StandardKey.Redo):
            event.ignore()
            return True
        return False


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
