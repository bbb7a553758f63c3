"""The marks of the finding levels: each a shape of its own, never colour alone."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF

from oak_square.app.widgets.theme import colour

__all__ = ["draw_mark"]


def draw_mark(painter: QPainter, room: QRectF, level: str) -> None:
    """Draw a level's mark into a square: triangle to fix, diamond to check, bar for a note, disc for true."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour(level))
    middle = room.center()
    if level == "fix":
        painter.drawPolygon(QPolygonF([QPointF(middle.x(), room.top()), room.bottomRight(), room.bottomLeft()]))
    elif level == "check":
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(middle.x(), room.top()),
                    QPointF(room.right(), middle.y()),
                    QPointF(middle.x(), room.bottom()),
                    QPointF(room.left(), middle.y()),
                ]
            )
        )
    elif level == "note":
        painter.drawRoundedRect(QRectF(room.left(), middle.y() - 1.5, room.width(), 3), 1.5, 1.5)
    else:
        painter.drawEllipse(middle, room.width() * 0.42, room.width() * 0.42)
    painter.restore()
