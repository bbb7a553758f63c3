"""The top left corner: our mark, what is open, and the menu of what can be done with it."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QPushButton, QWidget

from oak_square.app.widgets.theme import colour, font
from oak_square.core.words import say

__all__ = ["TitleButton"]


class TitleButton(QPushButton):
    """Shows two lines beside a try-square; a click opens its menu."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setToolTip(say("Open, save, undo"))
        self._name, self._detail = "", ""

    def show_title(self, name: str, detail: str) -> None:
        """Show what is open, and a few words on it."""
        self._name, self._detail = name, detail
        self.setAccessibleName(f"{name}, {detail}")
        self.update()

    @property
    def words(self) -> str:
        """Both lines."""
        return f"{self._name}\n{self._detail}"

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the square: an oak stock, a dark blade."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour("paper" if self.underMouse() or self.isDown() else "card"))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ink"))
        painter.drawRect(QRectF(16, 13, 4, 22))
        painter.setBrush(colour("oak"))
        painter.drawRect(QRectF(16, 30, 18, 5))
        room = QRectF(46, 7, self.width() - 74, 20)
        self._write_title(painter, room, self._name, 13, bold=True)
        self._write_title(painter, room.translated(0, 17), self._detail, 11, bold=False)
        painter.setPen(QPen(colour("ink-soft"), 1.4))
        x, y = self.width() - 20.0, self.height() / 2 - 1
        painter.drawPolyline([QPointF(x - 4, y - 1), QPointF(x, y + 3), QPointF(x + 4, y - 1)])
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(QPointF(0, self.height() - 0.5), QPointF(self.width(), self.height() - 0.5))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour("oak-deep"), 1))
            painter.drawRect(QRectF(self.rect()).adjusted(1.5, 1.5, -2.5, -2.5))

    def _write_title(self, painter: QPainter, room: QRectF, text: str, pixels: int, *, bold: bool) -> None:
        painter.setFont(font(pixels, semibold=bold))
        painter.setPen(colour("ink" if bold else "ink-soft"))
        shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, int(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, shown)
