"""What the Dividers draw over the picture: measurements with their readings, and what a click would take."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPen, QPolygonF

from oak_square.app.facts.picture import AimMark, MeasureMark
from oak_square.app.view.overlay import Lens, draw_plate
from oak_square.app.widgets.theme import colour, font
from oak_square.core.picks import circle_through

__all__ = ["draw_aim", "draw_measures"]

_INK = QColor("#8A2F6B")  # of no other meaning in the view: neither an axis nor a level
_AROUND = np.linspace(0, 2 * np.pi, 65)


def draw_measures(painter: QPainter, lens: Lens, marks: tuple[MeasureMark, ...]) -> None:
    """Draw each measurement along its points, its reading on a plate beside it."""
    taken: list[QRectF] = []
    for mark in sorted(marks, key=lambda m: not m.strong):
        pen = QPen(_INK, 2.0 if mark.strong else 1.2)
        painter.setPen(pen)
        at = _draw_shape(painter, lens, mark)
        if at is None:
            continue
        painter.setFont(font(13, semibold=True))
        wide = QFontMetricsF(painter.font()).horizontalAdvance(mark.text) + 18
        plate = QRectF(at.x() - wide / 2, at.y() - 30, wide, 23)
        while any(plate.intersects(other) for other in taken):
            plate.translate(0, 26)
        taken.append(plate)
        draw_plate(painter, plate, mark.text, _INK)


def _draw_shape(painter: QPainter, lens: Lens, mark: MeasureMark) -> QPointF | None:
    """Draw lines or a circle; return where the plate goes, None when it is behind the eye."""
    seen = lens.seen(mark.points)
    if (seen[:, 2] <= 0).any():
        return None
    places = [QPointF(x, y) for x, y in seen[:, :2]]
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if mark.kind == "circle":
        circle = circle_through(mark.points)
        if circle is None:
            return None
        u = (mark.points[0] - circle.centre) / circle.radius
        v = np.cross(circle.normal, u)
        ring = circle.centre + circle.radius * (np.outer(np.cos(_AROUND), u) + np.outer(np.sin(_AROUND), v))
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in lens.seen(ring)[:, :2]]))
        x, y, _ = lens.seen(circle.centre)[0]
        _draw_cross(painter, QPointF(x, y))
        return QPointF(x, y)
    if mark.kind == "plane":
        painter.drawPolygon(QPolygonF(places))
    else:
        painter.drawPolyline(QPolygonF(places))
    painter.setBrush(colour("card"))
    for place in places:
        painter.drawEllipse(place, 3.2, 3.2)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if mark.kind == "angle":
        return places[1]
    x, y = seen[:, :2].mean(axis=0)
    return QPointF(x, y)


def _draw_cross(painter: QPainter, at: QPointF) -> None:
    painter.drawLine(at + QPointF(-5, 0), at + QPointF(5, 0))
    painter.drawLine(at + QPointF(0, -5), at + QPointF(0, 5))


def draw_aim(painter: QPainter, lens: Lens, aim: AimMark) -> None:
    """Draw the points taken so far, the line to the one under the pointer, and that one's kind as shape and word."""
    painter.setPen(QPen(_INK, 1.4, Qt.PenStyle.DashLine))
    trail = aim.trail if aim.at is None else np.vstack([aim.trail, aim.at[None]])
    seen = lens.seen(trail) if len(trail) else np.empty((0, 3))
    places = [QPointF(x, y) for x, y in seen[:, :2]]
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if len(places) > 1:
        painter.drawPolyline(QPolygonF(places))
    painter.setPen(QPen(_INK, 1.6))
    painter.setBrush(colour("card"))
    for place in places[: len(aim.trail)]:
        painter.drawEllipse(place, 3.2, 3.2)
    if aim.at is None or not places:
        return
    at = places[-1]
    painter.setBrush(colour("card", 120))
    _draw_kind(painter, at, aim.word)
    painter.setFont(font(12, semibold=True))
    text = aim.word if not aim.reading else f"{aim.word}   {aim.reading}"
    wide = QFontMetricsF(painter.font()).horizontalAdvance(text) + 14
    left = at.x() + 14 if at.x() + 14 + wide < lens.width else at.x() - 14 - wide
    plate = QRectF(left, at.y() + 10, wide, 22)
    painter.setPen(QPen(_INK, 1))
    painter.setBrush(colour("card", 240))
    painter.drawRoundedRect(plate, 4, 4)
    painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, text)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _draw_kind(painter: QPainter, at: QPointF, word: str) -> None:
    """Draw a kind's own shape: a kind is never told by colour alone."""
    if word == "vertex":
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))
    elif word == "edge middle":
        painter.drawPolygon(QPolygonF([at + QPointF(0, -6), at + QPointF(6, 5), at + QPointF(-6, 5)]))
    elif word == "edge":
        painter.drawLine(at + QPointF(-6, 6), at + QPointF(6, -6))
        painter.drawEllipse(at, 2.5, 2.5)
    elif word == "circle centre":
        painter.drawEllipse(at, 7, 7)
        _draw_cross(painter, at)
    elif word == "face centre":
        around = ((0, -7), (7, 0), (0, 7), (-7, 0))
        painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in around]))
    elif word == "box point":
        painter.drawRect(QRectF(at.x() - 6, at.y() - 6, 12, 12))
        _draw_cross(painter, at)
    else:
        painter.drawEllipse(at, 3.5, 3.5)
