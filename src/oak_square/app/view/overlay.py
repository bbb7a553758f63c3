"""What is written over the picture: the box and its sizes, pivots, up and front. QPainter draws it, always sharp."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath, QPen, QPolygonF

from oak_square.app.facts.picture import Facts, PivotMark
from oak_square.app.view.camera import Camera
from oak_square.app.widgets.theme import colour, font
from oak_square.core.boxes import Box
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.tolerances import SPECK
from oak_square.core.words import say

__all__ = ["Canvas", "Lens", "draw_facts", "draw_plate", "draw_sizes"]

Array = NDArray[np.float64]
_EDGES = [(a, a | 1 << axis, axis) for axis in range(3) for a in range(8) if not a >> axis & 1]
_TICK_PIXELS = 30
_MARGIN = 26
_MOST_TAKEN, _MANY_TAKEN, _TAKEN = 3000, 60, 8.0  # vertices; pixels
_TOP, _WORD = 42, 16  # pixels that tabs and buttons take at the top of the picture, and that a word is high


@dataclass(frozen=True, slots=True, kw_only=True)
class Lens:
    """A camera with the size of the picture, in the widget's own pixels.

    `covered` are the width and height, from the top left, of what stands over the picture there.
    """

    camera: Camera
    width: int
    height: int
    unit: ShownUnit = field(default_factory=ShownUnit)
    covered: tuple[int, int] = (0, 0)

    def seen(self, points: Array) -> Array:
        """Return world points, shape (N, 3), as rows of x, y, depth."""
        return self.camera.projected(points, self.width, self.height)

    def reach(self, at: Array, pixels: float) -> float:
        """Return how long something at a world point must be, metres, to be so many pixels long in the picture."""
        depth = max(float(self.seen(at[None])[0, 2]), SPECK)
        return pixels * self.camera.metres_per_pixel(self.height, depth)

    def segment(self, a: Array, b: Array) -> tuple[QPointF, QPointF] | None:
        """Return a world segment's ends in the picture, cut where it runs behind the eye."""
        depths = self.seen(np.array([a, b]))[:, 2]
        near = self.camera.distance * 1e-3 if self.camera.flat_m is None else -np.inf
        if (depths < near).all():
            return None
        if depths[0] < near:
            a = a + (b - a) * (near - depths[0]) / (depths[1] - depths[0])
        elif depths[1] < near:
            b = b + (a - b) * (near - depths[1]) / (depths[0] - depths[1])
        ends = self.seen(np.array([a, b]))
        return QPointF(*ends[0, :2]), QPointF(*ends[1, :2])

    def holds(self, point: Array) -> bool:
        """Tell whether a row of `seen` lies in the picture, before the eye."""
        inside = 0 <= point[0] <= self.width and 0 <= point[1] <= self.height
        return bool(inside and point[2] > 0)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Canvas:
    """What marks are drawn with: the painter, the lens, and the pixels that words stand in already."""

    painter: QPainter
    lens: Lens
    taken: tuple[QRectF, ...] = ()


def draw_facts(painter: QPainter, lens: Lens, facts: Facts) -> Canvas:
    """Draw `facts` but for the sizes of the box, and return what further marks are drawn with."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    taken: list[QRectF] = []
    if facts.box is not None:
        _draw_box(painter, lens, facts.box, facts.previewed)
        taken = _draw_directions(painter, lens, facts.whole or facts.box)
    for box, sizes in facts.beside:
        _draw_box(painter, lens, box, facts.previewed)
        _draw_quiet_sizes(painter, lens, box, sizes)
    _draw_pivots(painter, lens, facts)
    _draw_taken(painter, lens, facts.taken)
    if facts.notice:
        _draw_notice(painter, lens, facts.notice)
    return Canvas(painter=painter, lens=lens, taken=tuple(taken))


def _draw_taken(painter: QPainter, lens: Lens, points: Array) -> None:
    """Draw vertices that are taken as small filled squares; of a great many some."""
    if not len(points):
        return
    seen = lens.seen(points[:: max(1, len(points) // _MOST_TAKEN)])
    seen = seen[seen[:, 2] > 0]
    wide = _TAKEN if len(seen) <= _MANY_TAKEN else _TAKEN - 3
    painter.setPen(Qt.PenStyle.NoPen)
    # All rims first: where many lie close, no rim covers its neighbour.
    for ink, size in (("card", wide + 2), ("verdigris", wide)):
        painter.setBrush(colour(ink))
        painter.drawRects([QRectF(x - size / 2, y - size / 2, size, size) for x, y, _ in seen.tolist()])
    painter.setBrush(Qt.BrushStyle.NoBrush)


def draw_sizes(canvas: Canvas, facts: Facts, editing: str | None = None) -> dict[str, QRectF]:
    """Draw the plates of the three sizes, and return where they stand, by name.

    The plate that is being typed into is not drawn: its field stands there.
    """
    if facts.box is None:
        return {}
    if not any(facts.sizes):
        return {}  # while it moves they would only be in the way
    plates = _size_plates(canvas.lens, facts.box, facts.sizes, list(canvas.taken))
    for (name, plate), text in zip(plates.items(), facts.sizes, strict=False):
        if name != editing:
            draw_plate(canvas.painter, plate, text, colour("verdigris"))
    return plates


def _find_facing(lens: Lens, box: Box) -> NDArray[np.bool_]:
    """Return for each axis whether its low and its high side face the eye, shape (3, 2)."""
    eye = lens.camera.position
    return np.stack([eye < box.low, eye > box.high], axis=1)


def _sides_seen(edge: tuple[int, int, int], facing: NDArray[np.bool_]) -> int:
    """Return how many of the two sides that meet at an edge face the eye."""
    start, _, axis = edge
    return sum(bool(facing[k, start >> k & 1]) for k in range(3) if k != axis)


def _draw_box(painter: QPainter, lens: Lens, box: Box, previewed: bool) -> None:
    corners, facing = box.corners, _find_facing(lens, box)
    ink = colour("verdigris")
    for edge in _EDGES:
        ends = lens.segment(corners[edge[0]], corners[edge[1]])
        if ends is None:
            continue
        hidden = not _sides_seen(edge, facing)
        pen = QPen(colour("verdigris", 70 if hidden else 230), 1.0 if hidden else 1.4)
        if previewed and not hidden:
            pen.setDashPattern([5, 3])
        painter.setPen(pen)
        painter.drawLine(*ends)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(ink)
    for x, y, depth in lens.seen(corners):
        if depth > 0:
            painter.drawRect(QRectF(x - 1.5, y - 1.5, 3, 3))
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _size_plates(lens: Lens, box: Box, sizes: tuple[str, str, str], taken: list[QRectF]) -> dict[str, QRectF]:
    corners, facing = box.corners, _find_facing(lens, box)
    seen = lens.seen(corners)
    if (seen[:, 2] <= 0).any():
        return {}
    middle = seen[:, :2].mean(axis=0)
    metrics = QFontMetricsF(font(13, semibold=True))
    plates: dict[str, QRectF] = {}
    for axis, (name, text) in enumerate(zip(("width", "height", "depth"), sizes, strict=True)):
        edges = [e for e in _EDGES if e[2] == axis]
        rim = [e for e in edges if _sides_seen(e, facing) == 1] or edges
        # Height reads best on the right, width and depth along the bottom.
        best = max(rim, key=lambda e, a=axis: _edge_rank(seen, e, a))  # type: ignore[misc]
        along = seen[best[1], :2] - seen[best[0], :2]
        at = (seen[best[0], :2] + seen[best[1], :2]) / 2
        outward = np.array([along[1], -along[0]])
        if outward @ (at - middle) < 0:
            outward = -outward
        outward = outward / (np.linalg.norm(outward) or 1.0)
        wide, high = metrics.horizontalAdvance(text) + 18, 24.0
        reach = abs(outward[0]) * wide / 2 + abs(outward[1]) * high / 2 + 7
        centre = at + outward * reach
        plates[name] = QRectF(centre[0] - wide / 2, centre[1] - high / 2, wide, high)
    return _push_apart(plates, lens, taken)


def _draw_quiet_sizes(painter: QPainter, lens: Lens, box: Box, sizes: tuple[str, str, str]) -> None:
    """Write the sizes of what is selected beside the lead asset, small and without plates."""
    painter.setFont(font(11, semibold=True))
    for plate, text in zip(_size_plates(lens, box, sizes, []).values(), sizes, strict=False):
        centre = plate.center()
        _write_label(painter, np.array([centre.x(), centre.y()]), text, colour("verdigris"))


def _edge_rank(seen: Array, edge: tuple[int, int, int], axis: int) -> float:
    x, y = (seen[edge[0], :2] + seen[edge[1], :2]) / 2
    return float(x if axis == 1 else y)


def _push_apart(plates: dict[str, QRectF], lens: Lens, taken: list[QRectF]) -> dict[str, QRectF]:
    """Return plates inside the picture, pushed off one another and off what is `taken`."""
    room = QRectF(8, 8, lens.width - 16, lens.height - 16)
    placed: dict[str, QRectF] = {}
    for name, plate in plates.items():
        plate.moveLeft(min(max(plate.left(), room.left()), room.right() - plate.width()))
        plate.moveTop(min(max(plate.top(), room.top()), room.bottom() - plate.height()))
        for _ in range(6):
            others = [*taken, *placed.values()]
            other = next((o for o in others if o.adjusted(-3, -3, 3, 3).intersects(plate)), None)
            if other is None:
                break
            down = other.bottom() + 4 + plate.height() <= room.bottom()
            plate.moveTop(other.bottom() + 4 if down else other.top() - plate.height() - 4)
        placed[name] = plate
    return placed


def draw_plate(painter: QPainter, plate: QRectF, text: str, ink: QColor) -> None:
    """Draw a small card with a rim in `ink` and `text` on it."""
    painter.setPen(QPen(ink, 1.2))
    painter.setBrush(colour("card", 245))
    painter.drawRoundedRect(plate, 4, 4)
    painter.setFont(font(13, semibold=True))
    painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, text)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _draw_directions(painter: QPainter, lens: Lens, box: Box) -> list[QRectF]:
    """Mark which way is up and which is front, outside the box; return where the words stand."""
    reach = 46 * lens.camera.metres_per_pixel(lens.height)
    front = np.array([box.middle[0], box.low[1], box.high[2]])
    top = np.array([box.middle[0], box.high[1], box.middle[2]])
    taken = []
    for start, way, word in ((front, (0, 0, 1), term("front")), (top, (0, 1, 0), term("up"))):
        direction = np.array(way, dtype=np.float64)
        own, beside = _reach_below(lens, start, direction, reach)
        tail, tip = start + direction * own * 0.25, start + direction * own
        if own > 0:
            taken += _draw_arrow(painter, lens, tail, tip, word, beside=beside)
    return taken


def _reach_below(lens: Lens, start: Array, direction: Array, reach: float) -> tuple[float, bool]:
    """Return how long an arrow may be below what lies over the picture's top, and whether its word stands beside it."""
    foot, tip = lens.seen(np.array([start, start + direction * reach]))
    rise = float(foot[1] - tip[1])
    top = max(_TOP, lens.covered[1] if tip[0] < lens.covered[0] + _WORD else 0)
    if rise <= 0 or rise <= float(foot[1]) - top - _WORD:
        return reach, False
    room = float(foot[1]) - top
    return (reach * min(room / rise, 1.0), True) if room > _WORD else (0.0, True)


def _draw_arrow(painter: QPainter, lens: Lens, tail: Array, tip: Array, word: str, *, beside: bool) -> list[QRectF]:
    ends = lens.segment(tail, tip)
    if ends is None:
        return []
    a, b = ends
    along = np.array([b.x() - a.x(), b.y() - a.y()])
    length = float(np.linalg.norm(along))
    ink = colour("oak-deep")
    painter.setPen(QPen(ink, 1.8))
    painter.drawLine(a, b)
    if length > 6:
        unit = along / length
        side = np.array([-unit[1], unit[0]])
        base = np.array([b.x(), b.y()]) - unit * 7
        head = [b, QPointF(*(base + side * 3.5)), QPointF(*(base - side * 3.5))]
        painter.setBrush(ink)
        painter.drawPolygon(QPolygonF(head))
        painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setFont(font(11, semibold=True))
    beyond = np.array([b.x(), b.y()]) + (along / length * 14 if length > 1 else np.array([0, -12]))
    if beside:
        beyond = np.array([(a.x() + b.x()) / 2 + 18, (a.y() + b.y()) / 2])
    _write_label(painter, beyond, word, ink)
    return [QRectF(a, b).normalized(), QRectF(beyond[0] - 18, beyond[1] - 8, 36, 16)]


def _write_label(painter: QPainter, at: Array, text: str, ink: QColor) -> None:
    """Write `text` centred at a point, with a light halo so that it reads over anything."""
    metrics = QFontMetricsF(painter.font())
    path = QPainterPath()
    path.addText(at[0] - metrics.horizontalAdvance(text) / 2, at[1] + metrics.ascent() / 2 - 2, painter.font(), text)
    halo = QPen(colour("view-high", 225), 3)
    halo.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    painter.strokePath(path, halo)
    painter.fillPath(path, ink)


def _draw_pivots(painter: QPainter, lens: Lens, facts: Facts) -> None:
    if not facts.pivots:
        return
    seen = lens.seen(np.array([p.at for p in facts.pivots]))
    away = [k for k in range(len(seen)) if not lens.holds(seen[k])]
    for k, mark in enumerate(facts.pivots):
        if mark.tether is not None and k not in away:
            _draw_tether(painter, lens, mark)
    ordered = sorted(range(len(seen)), key=lambda k: facts.pivots[k].lead)
    for k in ordered:
        if k not in away:
            _draw_pivot(painter, lens, facts.pivots[k], seen[k])
    if away and facts.box is not None:
        _draw_far_pivots(painter, lens, [facts.pivots[k] for k in away], facts.box)


def _draw_tether(painter: QPainter, lens: Lens, mark: PivotMark) -> None:
    """Draw the line from a pivot to the geometry that it belongs to, far from it."""
    assert mark.tether is not None
    ends = lens.segment(mark.at, mark.tether)
    if ends is not None:
        painter.setPen(QPen(colour("oak-deep", 230 if mark.lead else 110), 1.2, Qt.PenStyle.DotLine))
        painter.drawLine(*ends)


def _draw_pivot(painter: QPainter, lens: Lens, mark: PivotMark, seen: Array) -> None:
    x, y = float(seen[0]), float(seen[1])
    if mark.lead:
        _draw_axes(painter, lens, mark, seen)
        bob = QPainterPath(QPointF(x, y))
        bob.cubicTo(x - 2, y - 5, x - 7, y - 8, x - 6, y - 15)
        bob.cubicTo(x - 5, y - 19, x + 5, y - 19, x + 6, y - 15)
        bob.cubicTo(x + 7, y - 8, x + 2, y - 5, x, y)
        painter.setPen(QPen(colour("oak-deep"), 1.2))
        painter.setBrush(colour("brass"))
        painter.drawPath(bob)
        painter.drawLine(QPointF(x, y - 18), QPointF(x, y - 26))
    else:
        painter.setPen(QPen(colour("oak-deep"), 1.2))
        painter.setBrush(colour("brass-pale"))
        diamond = [QPointF(x, y), QPointF(x - 4, y - 6), QPointF(x, y - 10), QPointF(x + 4, y - 6)]
        painter.drawPolygon(QPolygonF(diamond))
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _draw_axes(painter: QPainter, lens: Lens, mark: PivotMark, seen: Array) -> None:
    reach = _TICK_PIXELS * lens.camera.metres_per_pixel(lens.height, float(seen[2]))
    for axis, token in enumerate("xyz"):
        ends = lens.segment(mark.at, mark.at + mark.axes[axis] * reach)
        if ends is None:
            continue
        painter.setPen(QPen(colour(token), 2.2))
        painter.drawLine(*ends)
        along = np.array([ends[1].x() - ends[0].x(), ends[1].y() - ends[0].y()])
        length = float(np.linalg.norm(along)) or 1.0
        painter.setFont(font(12, bold=True))
        _write_label(painter, np.array([ends[1].x(), ends[1].y()]) + along / length * 8, token, colour(token))


def _draw_far_pivots(painter: QPainter, lens: Lens, marks: list[PivotMark], box: Box) -> None:
    """Say at the picture's rim where the pivots are that lie outside it."""
    furthest = max(marks, key=lambda m: box.distance_to(m.at))
    way = lens.camera.axes[:2] @ (furthest.at - box.middle)
    way = np.array([way[0], -way[1]])
    length = float(np.linalg.norm(way))
    if length == 0:
        return
    way /= length
    middle = np.array([lens.width / 2, lens.height / 2])
    reach = min(
        (middle[k] - _MARGIN) / abs(way[k]) if abs(way[k]) > SPECK else np.inf for k in range(2)
    )  # to the nearer rim
    tip = middle + way * reach
    far = lens.unit.length(box.distance_to(furthest.at))
    text = (
        say("pivot of {name}, {far} away", name=furthest.name, far=far)
        if len(marks) == 1
        else say("{count} pivots, up to {far} away", count=len(marks), far=far)
    )
    painter.setFont(font(12, semibold=True))
    wide = QFontMetricsF(painter.font()).horizontalAdvance(text) + 18
    back = tip - way * 20
    left = float(np.clip(back[0] - wide / 2, 8, lens.width - wide - 8))
    top = float(np.clip(back[1] - 34 if way[1] > 0 else back[1] + 10, 56, lens.height - 34))
    painter.setPen(QPen(colour("oak-deep"), 2))
    painter.drawLine(QPointF(*back), QPointF(*tip))
    side = np.array([-way[1], way[0]])
    head = [QPointF(*tip), QPointF(*(tip - way * 8 + side * 5)), QPointF(*(tip - way * 8 - side * 5))]
    painter.setBrush(colour("brass"))
    painter.drawPolygon(QPolygonF(head))
    plate = QRectF(left, top, wide, 24)
    painter.setPen(QPen(colour("oak-deep"), 1))
    painter.setBrush(colour("card", 245))
    painter.drawRoundedRect(plate, 4, 4)
    painter.drawText(plate, Qt.AlignmentFlag.AlignCenter, text)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _draw_notice(painter: QPainter, lens: Lens, notice: str) -> None:
    painter.setFont(font(14))
    painter.setPen(colour("ink-soft"))
    room = QRectF(40, 40, lens.width - 80, lens.height - 80)
    painter.drawText(room, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, notice)
