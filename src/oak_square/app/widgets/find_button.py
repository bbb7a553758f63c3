"""The way to the finder, at the right end of the stage ruler."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QWidget

from oak_square.app.widgets.actions import keys_said, tip
from oak_square.app.widgets.theme import colour, font
from oak_square.core.words import say

__all__ = ["FindButton"]


class FindButton(QPushButton):
    """A word and its key."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(say("find…"), parent)
        tip(self, say("Find anything by a few letters"), "finder")
        self.setAccessibleName(say("Find anything"))
        self._keys = ""

    def show_keys(self, keys: Sequence[str]) -> None:
        """Say which key does the same."""
        self._keys = keys_said(keys[:1])
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw it on the ruler's ground, after one hairline."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour("paper" if self.underMouse() or self.isDown() else "card"))
        room = QRectF(self.rect())
        painter.setPen(colour("ink"))
        painter.setFont(font(13))
        text = room.adjusted(11, 5, -4, 0)
        where = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
        painter.drawText(text, where, self.text())
        painter.setFont(font(11))
        painter.setPen(colour("ink-soft"))
        painter.drawText(text.adjusted(0, 18, 0, 0), where, self._keys)
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(QPointF(0.5, 0), QPointF(0.5, room.bottom()))
        painter.drawLine(QPointF(0, room.bottom() - 0.5), QPointF(room.right(), room.bottom() - 0.5))
        if self.hasFocus():
            painter.setPen(QPen(colour("oak-deep"), 1))
            painter.drawRect(room.adjusted(2.5, 1.5, -2.5, -2.5))
