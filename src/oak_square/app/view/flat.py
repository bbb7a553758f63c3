"""What a flat elevation has over its picture: the ground's line, a scale bar, the figure, and what it shows."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from oak_square.app.facts.lineup import FIGURE_M, FIGURE_WIDE_M
from oak_square.app.view.camera import Camera
from oak_square.app.view.lineup_marks import draw_figure
from oak_square.app.view.overlay import Lens
from oak_square.app.widgets.theme import colour, font
from oak_square.core.boxes import Box
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["draw_flat", "side_seen"]

_BAR = 110  # pixels that the scale bar is wanted long
_MARGIN, _HIGH = 24, 6
_LEAST_FIGURE, _MOST_FIGURE = 14.0, 3.0  # pixels; times the picture's height
_LEVEL = 0.5  # degrees within which it is a side that is seen


def side_seen(camera: Camera) -> str:
    """Return which side the camera looks at straight; empty for none."""
    if abs(abs(camera.elevation_deg) - 90) < _LEVEL:
        return "top" if camera.elevation_deg > 0 else "bottom"
    quarter = round(camera.azimuth_deg / 90)
    if abs(camera.elevation_deg) > _LEVEL or abs(camera.azimuth_deg - 90 * quarter) > _LEVEL:
        return ""
    return ("front", "right", "back", "left")[quarter % 4]


def draw_flat(painter: QPainter, lens: Lens, box: Box | None, *, figure: bool) -> None:
    """Draw what tells the scale of a picture in parallel projection; `box` is what the figure stands beside."""
    level = abs(lens.camera.elevation_deg) < _LEVEL
    if level:
        ground = float(lens.seen(np.zeros((1, 3)))[0, 1])
        painter.setPen(QPen(colour("line"), 1.4))
        painter.drawLine(QLineF(0, ground, lens.width, ground))
        if figure and box is not None:
            _draw_figure(painter, lens, box, ground)
    _draw_bar(painter, lens)


def _draw_figure(painter: QPainter, lens: Lens, box: Box, ground: float) -> None:
    """Draw the figure on the ground, at the left of a box, or at its right where there is more room."""
    pixel = lens.camera.metres_per_pixel(lens.height)
    high, wide = FIGURE_M / pixel, FIGURE_WIDE_M / pixel
    if not _LEAST_FIGURE <= high <= _MOST_FIGURE * lens.height:
        return
    across = lens.seen(box.corners)[:, 0]
    left = float(across.min()) - 0.8 * wide
    right = float(across.max()) + 0.8 * wide
    middle = left if left - wide / 2 >= 0 or left >= lens.width - right else right
    draw_figure(painter, QRectF(middle - wide / 2, ground - high, wide, high))


def _draw_bar(painter: QPainter, lens: Lens) -> None:
    """Draw a bar of a round length, in two halves, and say how long it is and which side is seen."""
    pixel = lens.camera.metres_per_pixel(lens.height)
    spacing, majors = lens.unit.grid_for(pixel * _BAR / 10)
    length = spacing * majors
    while length / pixel < _BAR / 2:
        length *= 2
    wide = length / pixel
    left, top = _MARGIN, lens.height - _MARGIN - _HIGH
    painter.setPen(QPen(colour("ink"), 1))
    for k in range(2):
        room = QRectF(left + k * wide / 2, top, wide / 2, _HIGH)
        painter.fillRect(room, colour("ink") if k == 0 else colour("card"))
        painter.drawRect(room)
    side = side_seen(lens.camera)
    said = say("seen from the {side}, flat", side=term(side)) if side else say("flat")
    painter.setFont(font(12, semibold=True))
    painter.drawText(QPointF(left, top - 6), f"{lens.unit.length(length)}  ·  {said}")
    painter.setBrush(Qt.BrushStyle.NoBrush)
