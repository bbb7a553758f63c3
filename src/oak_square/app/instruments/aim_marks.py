"""What the Dividers draw: the points taken, and what a click would take, its kind as shape and word."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen, QPolygonF

from oak_square.app.view.measure_marks import draw_cross
from oak_square.app.view.overlay import Lens
from oak_square.app.widgets.theme import colour, font
from oak_square.core.terms import term

__all__ = ["AimMark", "draw_aim", "draw_kind", "draw_ring"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class AimMark:
    """What the Dividers point at: the points taken, rows; the one under the pointer, its kind, and what it reads."""

    trail: Array
    at: Array | None = None
    word: str = ""
    reading: str = ""
    ring: Array = field(default_factory=lambda: np.empty((0, 3)))


def draw_aim(painter: QPainter, lens: Lens, aim: AimMark) -> None:
    """Draw the points taken so far, the line to the one under the pointer, and that one's kind as shape and word."""
    painter.setPen(QPen(colour("measure"), 1.4, Qt.PenStyle.DashLine))
    trail = aim.trail if aim.at is None else np.vstack([aim.trail, aim.at[None]])
    seen = lens.seen(trail) if len(trail) else np.empty((0, 3))
    places = [QPointF(x, y) for x, y in seen[:, :2]]
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if len(places) > 1:
        painter.drawPolyline(QPolygonF(places))
    painter.setPen(QPen(colour("measure"), 1.6))
    painter.setBrush(colour("card"))
    for place in places[: len(aim.trail)]:
        painter.drawEllipse(place, 3.2, 3.2)
    if aim.at is None or not places:
        return
    at = places[-1]
    draw_ring(painter, lens, aim.ring, aim.word)
    draw_kind(painter, at, aim.word)
    painter.setFont(font(12, semibold=True))
    text = term(aim.word) if not aim.reading else f"{term(aim.word)}   {aim.reading}"
    wide = QFontMetricsF(painter.font()).horizontalAdvance(text) + 14
    left = at.x() + 14 if at.x() + 14 + wide < lens.width else at.x() - 14 - wide
    plate = QRectF(left, at.y() + 10, wide, 22)
    painter.setPen(QPen(colour("measure"), 1))
    painter.setBrush(colour("card", 240))
    painter.drawRoundedRect(plate, 4, 4)
    painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, text)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def draw_ring(painter: QPainter, lens: Lens, ring: Array, kind: str) -> None:
    """Draw the rim of the circle, or the edge, that a pick is of."""
    if len(ring) < 2:
        return
    seen = lens.seen(ring)
    if (seen[:, 2] <= 0).any():
        return
    places = QPolygonF([QPointF(float(x), float(y)) for x, y in seen[:, :2]])
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if kind == "circle centre":
        painter.drawPolygon(places)
    elif kind in ("edge", "edge middle"):
        painter.drawPolyline(places)


def draw_kind(painter: QPainter, at: QPointF, word: str) -> None:
    """Draw a kind's own shape: a kind is never told by colour alone."""
    painter.setBrush(colour("card", 120))
    if word == "vertex":
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))
    elif word == "edge middle":
        painter.drawPolygon(QPolygonF([at + QPointF(0, -6), at + QPointF(6, 5), at + QPointF(-6, 5)]))
    elif word == "edge":
        painter.drawLine(at + QPointF(-6, 6), at + QPointF(6, -6))
        painter.drawEllipse(at, 2.5, 2.5)
    elif word == "circle centre":
        painter.drawEllipse(at, 7, 7)
        draw_cross(painter, at)
    elif word == "face centre":
        around = ((0, -7), (7, 0), (0, 7), (-7, 0))
        painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in around]))
    elif word == "box point":
        painter.drawRect(QRectF(at.x() - 6, at.y() - 6, 12, 12))
        draw_cross(painter, at)
    elif word == "pivot":
        painter.drawLine(at + QPointF(0, -9), at + QPointF(0, 2))
        painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in ((-5, 2), (5, 2), (0, 10))]))
    else:
        painter.drawEllipse(at, 3.5, 3.5)
    painter.setBrush(Qt.BrushStyle.NoBrush)
