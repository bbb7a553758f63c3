"""What is drawn around the assets of a line-up: heights, the staff, the figure, names, ranges. QPainter only."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QLinearGradient, QPainter, QPainterPath, QPen

from oak_square.app.facts.lineup import Range
from oak_square.app.view.elevation import RowLayout, Slot
from oak_square.app.widgets.theme import colour, font
from oak_square.core.shown_units import ShownUnit

__all__ = ["Scale", "draw_figure", "draw_ground", "draw_heights", "draw_labels"]
__all__ += ["LANES", "draw_range", "draw_reference"]

_STAFF_LEFT, _STAFF_WIDE = 58.0, 9.0
_TOP = 48.0  # pixels that the tabs over the picture take
LANES = 3
"""Rows of one-line labels below the full ones."""
_FIRST_LANE = 56.0
_TICK_PIXELS = 74  # wanted between two heights


@dataclass(frozen=True, slots=True, kw_only=True)
class Scale:
    """From a layout's units to the widget's pixels: what is at its left edge, and where the ground lies."""

    layout: RowLayout
    per_unit: float
    left: float
    ground: float
    width: float
    height: float

    def x(self, units: float) -> float:
        """Return the pixel of a place along the ground."""
        return (units - self.left) * self.per_unit

    def y(self, units: float) -> float:
        """Return the pixel of a height in units."""
        return self.ground - units * self.per_unit

    def outline(self, slot: Slot, width_m: float, height_m: float) -> QRectF:
        """Return where an asset of so many metres stands."""
        wide, high = width_m * slot.per_metre * self.per_unit, height_m * slot.per_metre * self.per_unit
        middle = self.x(slot.middle)
        return QRectF(middle - wide / 2, self.ground - high, wide, high)


def draw_ground(painter: QPainter, scale: Scale) -> None:
    """Fill the picture: the air above the ground line, the ground below it."""
    air = QLinearGradient(0, 0, 0, scale.height)
    air.setColorAt(0, colour("view-high"))
    air.setColorAt(1, colour("view-low"))
    painter.fillRect(QRectF(0, 0, scale.width, scale.height), air)
    below = QRectF(0, scale.ground, scale.width, max(0.0, scale.height - scale.ground))
    painter.fillRect(below, colour("ground"))
    painter.setPen(QPen(colour("staff-edge"), 1.2))
    painter.drawLine(QPointF(0, scale.ground), QPointF(scale.width, scale.ground))


def draw_heights(painter: QPainter, scale: Scale, shown: ShownUnit) -> None:
    """Draw a line at each round height, its length at the left, and the staff with a band for each step between."""
    low, high = (scale.ground - scale.height) / scale.per_unit, scale.ground / scale.per_unit
    if not scale.layout.even:
        high = min(high, scale.layout.height + 0.5)
    wanted = _TICK_PIXELS / scale.per_unit
    if scale.layout.even and shown.kind in ("ft-in", "mod"):
        step, _ = shown.grid_for(wanted)
        first, last = max(0, int(low / step)), int(high / step)
        ticks = [(k * step, False) for k in range(first, min(last, first + 400) + 1)]
    else:
        ticks = scale.layout.ticks(low, high, wanted)
    painter.setFont(font(11))
    metrics = QFontMetricsF(painter.font())
    ys: list[float] = []
    for metres, _ in ticks:
        y = scale.y(scale.layout.height_of(metres))
        ys.append(y)
        painter.setPen(QPen(colour("line", 150), 1))
        if y < scale.ground - 0.5:
            painter.drawLine(QPointF(_STAFF_LEFT + _STAFF_WIDE + 4, y), QPointF(scale.width, y))
        painter.setPen(colour("ink-soft"))
        text = shown.mark(metres)
        at = QPointF(_STAFF_LEFT - 8 - metrics.horizontalAdvance(text), y + metrics.ascent() / 2 - 2)
        if _TOP < y < scale.height - 16:
            painter.drawText(at, text)
    _draw_staff(painter, scale, ys)


def _draw_staff(painter: QPainter, scale: Scale, ys: list[float]) -> None:
    """Draw a surveyor's staff: five bands between two marked heights, every other one red."""
    painter.setPen(Qt.PenStyle.NoPen)
    edges = sorted({min(y, scale.ground) for y in ys}, reverse=True)
    if len(edges) < 2:
        return
    edges.append(edges[-1] - (edges[-2] - edges[-1]))
    bands = 5
    for k, (below, above) in enumerate(itertools.pairwise(edges)):
        for j in range(bands):
            top = below + (above - below) * (j + 1) / bands
            room = QRectF(_STAFF_LEFT, top, _STAFF_WIDE, (below - above) / bands)
            room.setTop(max(top, _TOP))
            if room.height() <= 0:
                break
            painter.fillRect(room, colour("card") if (k * bands + j) % 2 else colour("staff"))
    painter.setPen(QPen(colour("line"), 1))
    head = max(edges[-1], _TOP)
    painter.drawRect(QRectF(_STAFF_LEFT, head, _STAFF_WIDE, edges[0] - head))


def _make_figure() -> QPainterPath:
    """A standing person in a frame 1 tall, y upward, 0 in the middle."""
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.WindingFill)
    path.addEllipse(QPointF(0, 0.932), 0.052, 0.066)
    body = QPainterPath(QPointF(-0.045, 0.86))
    for x, y in (
        (-0.125, 0.835), (-0.146, 0.77), (-0.140, 0.48), (-0.108, 0.475), (-0.098, 0.72), (-0.088, 0.50),
        (-0.082, 0.02), (-0.098, 0.0), (-0.022, 0.0), (-0.012, 0.44), (0.012, 0.44), (0.022, 0.0), (0.098, 0.0),
        (0.082, 0.02), (0.088, 0.50), (0.098, 0.72), (0.108, 0.475), (0.140, 0.48), (0.146, 0.77), (0.125, 0.835),
        (0.045, 0.86),
    ):  # fmt: skip
        body.lineTo(x, y)
    body.closeSubpath()
    path.addPath(body)
    return path


_FIGURE = _make_figure()


def draw_figure(painter: QPainter, outline: QRectF) -> None:
    """Draw the figure standing in `outline`."""
    painter.save()
    painter.translate(outline.center().x(), outline.bottom())
    painter.scale(outline.height(), -outline.height())
    painter.fillPath(_FIGURE, colour("figure"))
    painter.restore()


def draw_range(painter: QPainter, scale: Scale, outline: QRectF, wanted: Range) -> None:
    """Draw the range that the size book expects as a bracket at the right of an outline; open ends stay open."""
    low = scale.ground if wanted.low is None else scale.y(scale.layout.height_of(wanted.low))
    high = scale.y(scale.layout.height_of(wanted.high)) if wanted.high is not None else low - 26
    x = outline.right() + 8
    painter.setPen(QPen(colour("true" if wanted.met else "fix"), 2))
    if low - high < 3:
        low, high = (low + high) / 2 + 1.5, (low + high) / 2 - 1.5
    painter.drawLine(QPointF(x, low), QPointF(x, high))
    for y, end in ((low, wanted.low), (high, wanted.high)):
        if end is not None:
            painter.drawLine(QPointF(x, y), QPointF(x - 5, y))


def draw_reference(painter: QPainter, scale: Scale, units: float, text: str) -> None:
    """Draw a dashed line at the reference's height, named beside the staff."""
    y = scale.y(units)
    pen = QPen(colour("oak-deep"), 1.2)
    pen.setDashPattern([6, 4])
    painter.setPen(pen)
    painter.drawLine(QPointF(_STAFF_LEFT + _STAFF_WIDE + 4, y), QPointF(scale.width, y))
    painter.setFont(font(11, semibold=True))
    wide = QFontMetricsF(painter.font()).horizontalAdvance(text)
    room = QRectF(_STAFF_LEFT + _STAFF_WIDE + 8, y - 19, wide + 12, 17)
    painter.fillRect(room, colour("view-high", 210))
    painter.setPen(colour("oak-deep"))
    painter.drawText(room, Qt.AlignmentFlag.AlignCenter, text)


def draw_labels(
    painter: QPainter, scale: Scale, labels: Sequence[tuple[float, Sequence[tuple[str, QColor]], bool]]
) -> int:
    """Write lines below the ground, each set centred at its place, the first sets first.

    What has no room is written on one line in a lane further down, with a hairline from its place; what has no room
    there either is left out.

    Parameters
    ----------
    labels : sequence of (pixel along the ground, lines with their ink, strong)

    Returns
    -------
    int
        How many were written.
    """
    lanes: list[list[tuple[float, float]]] = [[] for _ in range(1 + LANES)]
    full: list[tuple[QRectF, Sequence[tuple[str, QColor]], bool]] = []
    short: list[tuple[float, QRectF, str, QColor]] = []
    for x, lines, strong in labels:
        widths = [_measure_text(t, 11 if k else 12, strong and not k) for k, (t, _) in enumerate(lines)]
        wide = max(widths) + 10
        left = x - wide / 2
        if 0 <= x <= scale.width:  # what stands in the picture is named there as a whole
            left = max(4.0, min(left, scale.width - wide - 4))
        if _take_lane(lanes[0], left, wide, scale):
            full.append((QRectF(left, scale.ground + 7, wide, 16 * len(lines)), lines, strong))
            continue
        text = f"{lines[0][0]}  {lines[1][0]}"
        wide = _measure_text(text, 11, False) + 12
        left = min(max(x - wide / 2, _STAFF_LEFT + 16), scale.width - wide - 4)
        seen = 0 <= x <= scale.width
        lane = next((k for k in range(1, 1 + LANES) if seen and _take_lane(lanes[k], left, wide, scale)), None)
        if lane is not None:
            top = scale.ground + _FIRST_LANE + 15 * (lane - 1)
            short.append((x, QRectF(left, top, wide, 16), text, lines[0][1]))
    _write_labels(painter, scale, full, short)
    return len(full) + len(short)


@lru_cache(maxsize=8192)
def _measure_text(text: str, pixels: int, strong: bool) -> float:
    """Return how wide a text is; the same texts come back with every frame."""
    return QFontMetricsF(font(pixels, semibold=strong)).horizontalAdvance(text)


def _label_fonts(lines: Sequence[tuple[str, QColor]], strong: bool) -> list[QFont]:
    return [font(12, semibold=strong), *[font(11)] * (len(lines) - 1)]


def _write_labels(
    painter: QPainter,
    scale: Scale,
    full: Sequence[tuple[QRectF, Sequence[tuple[str, QColor]], bool]],
    short: Sequence[tuple[float, QRectF, str, QColor]],
) -> None:
    """Draw the hairlines first, then the words on a ground of their own, so that no line runs through a word."""
    painter.setPen(QPen(colour("ink-soft", 100), 1))
    for x, room, _, _ in short:
        painter.drawLine(QPointF(x, scale.ground + 3), QPointF(x, room.top() + 3))
    for room, _, _ in full:
        painter.fillRect(room, colour("ground"))
    for _, room, _, _ in short:
        painter.fillRect(room.adjusted(3, 1, -3, -1), colour("ground"))
    for room, lines, strong in full:
        for k, (type_, (text, ink)) in enumerate(zip(_label_fonts(lines, strong), lines, strict=True)):
            painter.setFont(type_)
            painter.setPen(ink)
            line = QRectF(room.left(), room.top() + 16 * k, room.width(), 16)
            painter.drawText(line, Qt.AlignmentFlag.AlignCenter, text)
    painter.setFont(font(11))
    for _, room, text, ink in short:
        painter.setPen(ink)
        painter.drawText(room, Qt.AlignmentFlag.AlignCenter, text)


def _take_lane(lane: list[tuple[float, float]], left: float, wide: float, scale: Scale) -> bool:
    """Take room in a lane if it is free and in the picture."""
    outside = left > scale.width or left + wide < 0
    if outside or any(a < left + wide and left < b for a, b in lane):
        return False
    lane.append((left, left + wide))
    return True
