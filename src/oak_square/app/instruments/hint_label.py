"""The small plate beside what is in hand, and the words on it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPen

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.view.overlay import Canvas
from oak_square.app.widgets.theme import colour, font
from oak_square.core.terms import along_word
from oak_square.core.words import say

__all__ = ["describe_axes", "draw_hint"]

Array = NDArray[np.float64]


def describe_axes(hold: HeldNodes) -> str:
    """Return the axes in force as people read them."""
    told = {
        "world": say("world axes"),
        "own": say("own axes"),
        "parent": say("parent axes"),
        "view": say("view axes"),
    }
    if hold.axes_instead:
        return say("world axes ({why})", why=hold.axes_instead)
    return told[hold.along] if hold.along in told else along_word(hold.along)


def draw_hint(canvas: Canvas, at: QPointF, text: str, *, strong: bool = False) -> QRectF:
    """Write words on a small plate, kept inside the picture; return where it is."""
    painter, lens = canvas.painter, canvas.lens
    painter.setFont(font(13, semibold=True))
    wide = QFontMetricsF(painter.font()).horizontalAdvance(text) + 16
    left = min(max(at.x(), 6.0), lens.width - wide - 6.0)
    top = min(max(at.y(), 6.0), lens.height - 30.0)
    room = QRectF(left, top, wide, 24)
    painter.setPen(QPen(colour("verdigris" if strong else "oak-deep"), 1.6 if strong else 1))
    painter.setBrush(colour("card", 245))
    painter.drawRoundedRect(room, 4, 4)
    painter.setPen(colour("ink"))
    painter.drawText(room, Qt.AlignmentFlag.AlignCenter, text)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    return room
