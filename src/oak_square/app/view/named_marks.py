"""Datums and marks over the picture: a datum is a ringed cross with its name, a mark the shape of what it is."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen

from oak_square.app.facts.picture import BerthShown, DatumShown, MarkShown, NoteMark
from oak_square.app.view.overlay import Lens
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.theme import colour, font

__all__ = ["draw_berths", "draw_named", "draw_notes"]

_ARM, _RING = 44.0, 9.0


def draw_berths(painter: QPainter, lens: Lens, berths: Iterable[BerthShown]) -> None:
    """Paint each berth as a rectangle on the ground, its front edge strong, with its name, none over another."""
    taken = list[QPointF]()
    for berth in berths:
        seen = lens.seen(berth.corners)
        if (seen[:, 2] <= 0).any():
            continue
        corners = [QPointF(float(x), float(y)) for x, y, _ in seen]
        painter.setPen(QPen(colour("oak-deep"), 1.4))
        painter.setBrush(colour("oak", 46))
        painter.drawPolygon(corners)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("oak-deep"), 3.2))
        painter.drawLine(corners[2], corners[3])
        middle = (corners[2] + corners[3]) / 2
        if lens.holds(np.array([middle.x(), middle.y(), 1.0])):
            place = middle + QPointF(6, 12)
            while any(abs(place.x() - p.x()) < 8 * len(berth.name) and abs(place.y() - p.y()) < 20 for p in taken):
                place += QPointF(0, 20)
            taken.append(place)
            _write_name(painter, place, berth.name, strong=False)


def draw_notes(painter: QPainter, lens: Lens, notes: Iterable[NoteMark]) -> None:
    """Write what happens to parts beside them, none over another."""
    taken = list[QRectF]()
    for note in notes:
        seen = lens.seen(note.at[None])[0]
        if not lens.holds(seen):
            continue
        at = QPointF(float(seen[0]), float(seen[1]))
        painter.setFont(font(11))
        wide = QFontMetricsF(painter.font()).horizontalAdvance(note.text) + 24
        left = min(max(at.x() + 14, 4.0), lens.width - wide - 4)
        room = QRectF(left, at.y() - 24, wide, 18)
        while any(room.intersects(other) for other in taken):
            room.translate(0, 20)
        taken.append(room)
        level = "check" if note.is_trouble else "true"
        painter.setPen(QPen(colour(level), 1))
        painter.drawLine(at, QPointF(room.left(), room.center().y()))
        painter.setBrush(colour("card", 240))
        painter.drawRoundedRect(room, 3, 3)
        draw_mark(painter, QRectF(room.left() + 5, room.top() + 5, 8, 8), level)
        painter.setPen(colour("ink"))
        painter.drawText(room.adjusted(17, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, note.text)
        painter.setBrush(Qt.BrushStyle.NoBrush)


def draw_named(painter: QPainter, lens: Lens, datums: Iterable[DatumShown], marks: Iterable[MarkShown]) -> None:
    """Draw what has a name."""
    for datum in datums:
        _draw_datum(painter, lens, datum)
    for mark in marks:
        _draw_mark(painter, lens, mark)


def _draw_datum(painter: QPainter, lens: Lens, datum: DatumShown) -> None:
    seen = lens.seen(datum.at[None])[0]
    if not lens.holds(seen):
        return
    at = QPointF(float(seen[0]), float(seen[1]))
    pixel = lens.camera.metres_per_pixel(lens.height, float(seen[2]))
    for k, token in enumerate("xyz"):
        ends = lens.segment(datum.at - datum.axes[k] * pixel * _ARM * 0.4, datum.at + datum.axes[k] * pixel * _ARM)
        if ends is None:
            continue
        painter.setPen(QPen(colour(token), 2.0 if datum.used else 1.3))
        painter.drawLine(*ends)
        along = np.array([ends[1].x() - ends[0].x(), ends[1].y() - ends[0].y()])
        length = float(np.linalg.norm(along))
        if length > 16:
            painter.setFont(font(11, bold=True))
            tip = ends[1] + QPointF(*(along / length * 7))
            painter.drawText(tip + QPointF(-3, 4), token)
    painter.setPen(QPen(colour("oak-deep"), 2.2 if datum.used else 1.4))
    painter.drawEllipse(at, _RING, _RING)
    _write_name(painter, at + QPointF(_RING + 4, -_RING - 4), datum.name, strong=datum.used)


def _draw_mark(painter: QPainter, lens: Lens, mark: MarkShown) -> None:
    seen = lens.seen(mark.at[None])[0]
    if not lens.holds(seen):
        return
    at = QPointF(float(seen[0]), float(seen[1]))
    painter.setPen(QPen(colour("verdigris" if mark.tried else "oak-deep"), 1.8))
    painter.setBrush(colour("card", 200))
    if mark.kind == "circle":
        painter.drawEllipse(at, 5.5, 5.5)
    elif mark.kind == "vertex":
        painter.drawRect(QRectF(at.x() - 4.5, at.y() - 4.5, 9, 9))
    elif mark.kind == "edge":
        painter.drawPolygon([at + QPointF(0, -6), at + QPointF(5.5, 4.5), at + QPointF(-5.5, 4.5)])
    else:
        painter.drawPolygon([at + QPointF(x, y) for x, y in ((0, -6.5), (6.5, 0), (0, 6.5), (-6.5, 0))])
    painter.setBrush(Qt.BrushStyle.NoBrush)
    _write_name(painter, at + QPointF(9, -8), mark.name, strong=mark.tried)


def _write_name(painter: QPainter, at: QPointF, name: str, *, strong: bool) -> None:
    painter.setFont(font(11, semibold=strong))
    wide = QFontMetricsF(painter.font()).horizontalAdvance(name) + 10
    room = QRectF(at.x(), at.y() - 9, wide, 18)
    painter.setPen(QPen(colour("line"), 1))
    painter.setBrush(colour("card", 225))
    painter.drawRoundedRect(room, 3, 3)
    painter.setPen(colour("ink"))
    painter.drawText(room.adjusted(5, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, name)
    painter.setBrush(Qt.BrushStyle.NoBrush)
