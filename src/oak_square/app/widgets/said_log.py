"""All that was said at the foot, to be read again."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QDialog, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from oak_square.app.widgets.theme import colour
from oak_square.core.words import say

__all__ = ["SaidLog"]


class SaidLog(QDialog):
    """Lists lines, the last one at the bottom; what went wrong is marked."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(say("What was said"))
        self.resize(720, 320)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(12, 12, 12, 12)
        self.list = QListWidget(self)
        self.list.setAccessibleName(say("What was said"))
        self.list.setWordWrap(True)
        rows.addWidget(self.list)

    def show_lines(self, lines: Sequence[tuple[str, str, bool]]) -> None:
        """Match the list to (when, what, whether it went wrong)."""
        self.list.clear()
        for when, text, failed in lines:
            item = QListWidgetItem(f"{when}   {'▲ ' if failed else ''}{text}")
            item.setForeground(colour("fix" if failed else "ink"))
            self.list.addItem(item)
        self.list.scrollToBottom()
        self.list.setCurrentRow(self.list.count() - 1)
