"""Buttons for what leads on where something stops."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QPushButton, QWidget

from oak_square.app.facts.stopped import WayOn
from oak_square.app.widgets.fields import push_button

__all__ = ["WaysRow"]

_PER_ROW = 2


class WaysRow(QWidget):
    """Shows a button for each way; `wished` carries its key."""

    wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(4)
        self.shown: tuple[WayOn, ...] = ()
        self.buttons: dict[str, QPushButton] = {}
        self.hide()

    def show_ways(self, ways: Sequence[WayOn]) -> None:
        """Match the buttons to `ways`; hidden where there are none."""
        self.setVisible(bool(ways))
        if tuple(ways) == self.shown:
            return
        self.shown = tuple(ways)
        for button in self.buttons.values():
            self._grid.removeWidget(button)
            button.deleteLater()
        self.buttons = {}
        for k, way in enumerate(ways):
            button = self.buttons[way.key] = push_button(way.word, way.tip, self)
            button.clicked.connect(lambda _=False, key=way.key: self.wished.emit(key))
            self._grid.addWidget(button, k // _PER_ROW, k % _PER_ROW)
            button.show()
