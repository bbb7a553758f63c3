"""Measurements over the picture: each along its points, with its reading."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen, QPolygonF

from oak_square.app.facts.picture import MeasureMark
from oak_square.app.view.overlay import Lens, draw_plate
from oak_square.app.widgets.theme import colour, font
from oak_square.core.picks import circle_through

__all__ = ["draw_cross", "draw_measures"]

_AROUND = np.linspace(0, 2 * np.pi, 65)


def draw_measures(painter: QPainter, lens: Lens, marks: tuple[MeasureMark, ...]) -> None:
    """Draw each measurement along its points, its reading on a plate beside it."""
    taken: list[QRectF] = []
    for mark in sorted(marks, key=lambda m: not m.strong):
        pen = QPen(colour("measure"), 2.0 if mark.strong else 1.2)
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
        draw_plate(painter, plate, mark.text, colour("measure"))


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
        draw_cross(painter, QPointF(x, y))
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


def draw_cross(painter: QPainter, at: QPointF) -> None:
    """Draw a small upright cross."""
    painter.drawLine(at + QPointF(-5, 0), at + QPointF(5, 0))
    painter.drawLine(at + QPointF(0, -5), at + QPointF(0, 5))
