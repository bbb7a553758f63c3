"""The drawn box with its twenty-seven points: corners, edge middles, side middles and the centre."""

from __future__ import annotations

from itertools import product

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from oak_square.app.widgets.theme import colour, font
from oak_square.core.terms import term
from oak_square.core.words import say
from oak_square.steps.centre import AXIS_SIDES, spot_words

__all__ = ["BoxPicker"]

_DOTS: tuple[tuple[float, float, float], ...] = tuple((w, h, d) for w, h, d in product((0.0, 0.5, 1.0), repeat=3))
# Where width, height and depth run in the drawing.
_ACROSS, _UP, _DEEP = np.array([0.80, 0.16]), np.array([0.0, -0.52]), np.array([-0.40, 0.22])
_REACH = 14.0


class BoxPicker(QWidget):
    """Shows a box point; a click on a dot, or the arrow keys, wish for another."""

    point_wished = Signal(list)  # [width, height, depth], each a side or `middle`

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(say("Box point"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(150)
        self._at: tuple[float, float, float] | None = None
        self._under: tuple[float, float, float] | None = None

    def sizeHint(self) -> QSize:
        """Room for the box and its sides' names."""
        return QSize(260, 150)

    def show_point(self, point: list[str | float] | None) -> None:
        """Mark a box point, or none; a fraction that is no dot is marked between them."""
        self._at = None if point is None else tuple(_parse_fraction(w, k) for k, w in enumerate(point))  # type: ignore[assignment]
        self.update()

    def place(self, fractions: tuple[float, float, float]) -> QPointF:
        """Return where a point of the box is drawn."""
        # The drawing is 1.20 wide and 0.90 high; the rest is for the names of the sides.
        size = min((self.width() - 76) / 1.20, (self.height() - 38) / 0.90)
        shift = fractions[0] * _ACROSS + fractions[1] * _UP + fractions[2] * _DEEP
        centre = (_ACROSS + _UP + _DEEP) / 2
        x, y = (shift - centre) * size
        return QPointF(self.width() / 2 + x, self.height() / 2 + y)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw edges, sides' names, dots, and the marked point."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for axis in range(3):
            for others in product((0.0, 1.0), repeat=2):
                ends = [np.insert(np.array(others), axis, end) for end in (0.0, 1.0)]
                hidden = _is_behind(axis, others)
                painter.setPen(QPen(colour("oak", 90 if hidden else 255), 1.0 if hidden else 1.3))
                a, b = (self.place((float(e[0]), float(e[1]), float(e[2]))) for e in ends)
                painter.drawLine(a, b)
        painter.setFont(font(11))
        painter.setPen(colour("ink-soft"))
        for word, at, dx, dy in (
            ("left", (0.0, 0.5, 1.0), -28, 4), ("right", (1.0, 0.5, 0.0), 5, 0), ("front", (0.6, 0.0, 1.0), 0, 16),
            ("top", (0.5, 1.0, 0.0), -2, -8),
        ):  # fmt: skip
            painter.drawText(self.place(at) + QPointF(dx, dy), term(word))
        for dot in _DOTS:
            self._paint_dot(painter, dot, 4.0 if dot == self._under else 2.7)
        if self._at is not None:
            painter.setPen(QPen(colour("card"), 1.5))
            painter.setBrush(colour("verdigris"))
            painter.drawEllipse(self.place(self._at), 6.5, 6.5)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour("oak"), 1))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)

    def _paint_dot(self, painter: QPainter, dot: tuple[float, float, float], radius: float) -> None:
        painter.setPen(QPen(colour("oak-deep"), 1.1))
        painter.setBrush(colour("oak-pale" if dot == self._under else "card"))
        painter.drawEllipse(self.place(dot), radius, radius)

    def _dot_at(self, at: QPointF) -> tuple[float, float, float] | None:
        def far(dot: tuple[float, float, float]) -> float:
            off = self.place(dot) - at
            return float(np.hypot(off.x(), off.y()))

        # Where dots lie over one another, the one nearer to the eye.
        nearest = min(_DOTS, key=lambda d: (round(far(d)), -d[2], -d[1]))
        return nearest if far(nearest) <= _REACH else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Show what a click would take."""
        self._under = self._dot_at(event.position())
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        """The pointer is elsewhere."""
        self._under = None
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Wish for the dot under the pointer."""
        dot = self._dot_at(event.position())
        if dot is not None:
            self.point_wished.emit(_point_words(dot))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows walk along width and height, Page Up and Down along depth."""
        moves = {
            Qt.Key.Key_Left: (0, -0.5), Qt.Key.Key_Right: (0, 0.5), Qt.Key.Key_Down: (1, -0.5), Qt.Key.Key_Up: (1, 0.5),
            Qt.Key.Key_PageUp: (2, -0.5), Qt.Key.Key_PageDown: (2, 0.5),
        }  # fmt: skip
        move = moves.get(Qt.Key(event.key()))
        if move is None:
            super().keyPressEvent(event)
            return
        at = list(self._at or (0.5, 0.0, 0.5))
        at[move[0]] = min(1.0, max(0.0, round((at[move[0]] + move[1]) * 2) / 2))
        self.point_wished.emit(_point_words((at[0], at[1], at[2])))

    def event(self, event: QEvent) -> bool:
        """Name the point under the pointer."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            dot = self._dot_at(QPointF(event.pos()))
            text = say("Click a point of the box; arrows and Page Up, Page Down walk it")
            QToolTip.showText(event.globalPos(), spot_words(_point_words(dot)) if dot else text, self)
            return True
        return super().event(event)


def _is_behind(axis: int, others: tuple[float, ...]) -> bool:
    """Tell whether an edge meets the corner that the box hides: left, bottom, back."""
    ends = list(others)
    return all(v == 0.0 for v in ends)


def _parse_fraction(word: str | float, axis: int) -> float:
    if isinstance(word, str):
        return 0.5 if word == "middle" else float(AXIS_SIDES[axis].index(word))
    return float(word)


def _point_words(dot: tuple[float, float, float]) -> list[str | float]:
    return [_name_fraction(v, axis) for axis, v in enumerate(dot)]


def _name_fraction(fraction: float, axis: int) -> str:
    return "middle" if fraction == 0.5 else AXIS_SIDES[axis][int(fraction)]
