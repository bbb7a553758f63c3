"""The Dial: turns what is selected about a centre, by graduated arcs, one an axis."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen, QPolygonF

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.instruments.handles import Handle
from oak_square.app.instruments.holder import LETTERS, Holder, started
from oak_square.app.instruments.instrument import registered
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.theme import colour, font
from oak_square.core.dragging import angle_about, on_plane
from oak_square.core.errors import BadLength
from oak_square.core.euler import angles_of, rotation_by
from oak_square.core.lengths import as_written
from oak_square.core.words import number, say

__all__ = ["Dial"]

Array = NDArray[np.float64]
_RADIUS, _FREE_STEP = 104.0, 15.0  # pixels; the ticks where turns snap to nothing, degrees
_KNOB = 8.0
_WHOLE = 180.0


@registered
class Dial(Holder):
    """Turns."""

    name: ClassVar[str] = "dial"
    key: ClassVar[str] = "3"
    word: ClassVar[str] = say("Dial")
    tip: ClassVar[str] = say("Turn what is selected about the centre in force")
    does: ClassVar[str] = say("Turn")
    example: ClassVar[str] = "y 30"

    def __init__(self, wish: Any) -> None:
        super().__init__(wish)
        self._angle = 0.0
        self._present = 0.0  # as an entry began
        self._from = np.zeros(3)

    def _find_dial_centre(self, hold: HeldNodes) -> Array:
        return hold.asset.worlds[hold.nodes[-1]][:3, 3] if hold.pivots and hold.nodes else hold.centre

    def centre_said(self, hold: HeldNodes) -> str:
        """A pivot's axes turn about it."""
        return say("each one's own pivot") if hold.pivots else hold.about

    def refuses(self, hold: HeldNodes) -> str:
        """An asset's own pivot has no axes to turn."""
        if hold.pivots and not hold.nodes:
            return say("Pick the part or group whose pivot's axes are turned: an asset's are the file's")
        return hold.trouble

    @property
    def motion(self) -> Array | None:
        """The turn about its centre of a datum; of other things the step knows each one's own."""
        hold = self.begun
        if hold is None or not hold.datum or self.handle is None:
            return None
        turn = (
            hold.axes @ rotation_by([self._angle * (a == self.handle.axes[0]) for a in range(3)], "zyx") @ hold.axes.T
        )
        found = np.eye(4)
        found[:3, :3], found[:3, 3] = turn, hold.centre - turn @ hold.centre
        return found

    def handles(self, hold: HeldNodes, lens: Lens) -> list[Handle]:
        """Return the arcs."""
        arcs = [(k, self._find_arc_points(hold, lens, k)) for k in range(3)]
        return [Handle(name=LETTERS[k], axes=(k,), line=arc) for k, arc in arcs if arc is not None]

    def _find_near_ends(self, hold: HeldNodes, lens: Lens) -> Array:
        """Return for each axis the sign of its end that is nearer to the eye."""
        back = lens.camera.position - self._find_dial_centre(hold)
        return np.where(hold.axes.T @ back >= 0, 1.0, -1.0)

    def _place_around(self, hold: HeldNodes, lens: Lens, k: int, degrees: Array, radius: float = _RADIUS) -> Array:
        """Return points of an axis's circle, world; 0 degrees lies on the next axis, 90 on the one after."""
        a, b = hold.axes[:, (k + 1) % 3], hold.axes[:, (k + 2) % 3]
        around = np.radians(degrees)
        reach = lens.reach(self._find_dial_centre(hold), radius)
        found: Array = self._find_dial_centre(hold) + reach * (
            np.outer(np.cos(around), a) + np.outer(np.sin(around), b)
        )
        return found

    def _find_arc_span(self, hold: HeldNodes, lens: Lens, k: int) -> tuple[float, float]:
        """Return where an axis's arc begins and ends, degrees: the quarter that faces the eye."""
        signs = self._find_near_ends(hold, lens)
        first = 0.0 if signs[(k + 1) % 3] > 0 else _WHOLE
        second = 90.0 if signs[(k + 2) % 3] > 0 else -90.0
        second += 360.0 if second < first - _WHOLE else 0.0
        return min(first, second), max(first, second)

    def _find_arc_points(self, hold: HeldNodes, lens: Lens, k: int) -> Array | None:
        low, high = self._find_arc_span(hold, lens, k)
        if high - low > _WHOLE:
            low, high = high, low + 360.0
        seen = lens.seen(self._place_around(hold, lens, k, np.linspace(low, high, 25)))
        if (seen[:, 2] <= 0).any():
            return None
        return seen[:, :2] if np.ptp(seen[:, :2], axis=0).max() > 20 else None

    def dragged(self, hold: HeldNodes, handle: Handle, start: Pointing, now: Pointing) -> Mapping[str, Any] | None:
        """Return the turn so far, at steps of the angle that is set."""
        k, centre = handle.axes[0], self._find_dial_centre(hold)
        axis = hold.axes[:, k]
        ends = [on_plane(p.eye, p.toward, centre, axis) for p in (start, now)]
        if ends[0] is None or ends[1] is None:
            return None
        self._from = ends[0]
        angle = angle_about(ends[0], ends[1], centre, axis)
        # Past half a turn it goes on in the direction that it went.
        angle += 360.0 * round((self._angle - angle) / 360.0) if abs(self._angle) > 90 else 0.0
        step = self.scene.angle_step_deg
        if step > 0 and not now.free:
            angle = round(angle / step) * step
        return self._turn_to_angle(hold, k, angle)

    def press(self, at: Pointing) -> None:
        """Take hold; nothing is turned yet."""
        self._angle = 0.0
        super().press(at)

    def _turn_to_angle(self, hold: HeldNodes, k: int, angle: float) -> Mapping[str, Any]:
        return self._turn_by(hold, [angle * (a == k) for a in range(3)], k)

    def _turn_by(self, hold: HeldNodes, around: list[float], k: int) -> Mapping[str, Any]:
        """Return the step of a turn about the axes drawn, x first; axis `k` is the one that is shown."""
        self._angle = around[k]
        axes = [a for a in range(3) if around[a] or a == k]
        self.reading = number("   ".join(f"{LETTERS[a]} {around[a]:.6g}°" for a in axes)).replace("-", "−")
        turn = rotation_by(around, "zyx")
        # What is turned along the axes drawn, as the step's own axes see it; behind what it says already.
        into = hold.frame.T @ hold.axes
        first = self._find_earlier_turn(hold)
        whole = into @ turn @ into.T
        plain = first is None and np.allclose(into, np.eye(3))
        told = around if plain else list(angles_of(whole if first is None else whole @ first, "zyx"))
        by = [float(f"{v:.12g}") + 0.0 for v in told]
        if hold.pivots:
            return {"do": "pivot", "at": {"move": [0, 0, 0]}, "axes": {"turn": by, **hold.axis_words}}
        return {"do": "turn", "by": by, **hold.axis_words, **hold.centre_words}

    def _find_earlier_turn(self, hold: HeldNodes) -> Array | None:
        """Return the turn that a draft of the same kind has already, along the step's axes."""
        by = None if hold.pivots else started(hold, "turn", ("by",)).get("by")
        return None if by is None else rotation_by(by, "zyx")

    def note_present(self, hold: HeldNodes, *, goes_on: bool) -> None:
        """Take note of how far it was turned."""
        self._present = self._angle if goes_on else 0.0

    def typed(self, hold: HeldNodes, parts: Sequence[tuple[Handle, str]]) -> Mapping[str, Any]:
        """Return the step of typed angles, `+5` on from what it is turned; with `=`, of the rotation channel's own."""
        angles = {handle.axes[0]: self._read_angle(text, k == 0) for k, (handle, text) in enumerate(parts)}
        sets = [text.startswith("=") for _, text in parts]
        if not any(sets):
            return self._turn_by(hold, [angles.get(k, 0.0) for k in range(3)], parts[-1][0].axes[0])
        if not all(sets):
            raise BadLength(say("it turns by an angle, or to one: not both at once"))
        if not hold.nodes or hold.pivots:
            raise BadLength(say("an angle is set of a part or group"))
        self.reading = number("   ".join(f"{LETTERS[k]} = {angle:.6g}°" for k, angle in angles.items()))
        return {"do": "turn", "set": {LETTERS[k]: angles[k] for k in range(3) if k in angles}}

    def _read_angle(self, text: str, is_first: bool) -> float:
        body = as_written(text.lstrip("=")).rstrip("°").strip()
        try:
            angle = float(body)
        except ValueError as error:
            raise BadLength(say("'{text}' is no angle", text=text)) from error
        if not np.isfinite(angle):
            raise BadLength(say("'{text}' is no angle", text=text))
        # What was dragged was about the axis that is typed first.
        return angle + self._present if is_first and body.startswith("+") else angle

    def draw_hold(self, canvas: Canvas, hold: HeldNodes) -> None:
        """Draw the arcs with their ticks, and the sector that is swept."""
        painter, lens = canvas.painter, canvas.lens
        step = self.scene.angle_step_deg or _FREE_STEP
        active = self.handle.axes[0] if self.handle is not None and len(self.handle.axes) == 1 else None
        if active is not None and abs(self._angle) > 0 and self.reading:
            self._draw_sector(canvas, hold, active)
        for k in range(3):
            arc = self._find_arc_points(hold, lens, k)
            if arc is None:
                continue
            ink, held = colour(LETTERS[k]), k == active
            painter.setPen(QPen(ink, 3.2 if held else 2.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in arc]))
            low, high = self._find_arc_span(hold, lens, k)
            if high - low > _WHOLE:
                low, high = high, low + 360.0
            marks = np.arange(np.ceil(low / step), np.floor(high / step) + 1) * step
            inner = lens.seen(self._place_around(hold, lens, k, marks))[:, :2]
            outer = lens.seen(self._place_around(hold, lens, k, marks, _RADIUS + 7))[:, :2]
            painter.setPen(QPen(ink, 1.2))
            for a, b in zip(inner, outer, strict=True):
                painter.drawLine(QPointF(*a), QPointF(*b))
            middle = QPointF(*arc[len(arc) // 2])
            painter.setPen(QPen(ink, 1.6))
            painter.setBrush(ink if held else colour("card", 245))
            painter.drawEllipse(middle, _KNOB, _KNOB)
            painter.setPen(colour("card") if held else ink)
            painter.setFont(font(12, bold=True))
            painter.drawText(middle + QPointF(-3.5, 4), LETTERS[k])
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _draw_sector(self, canvas: Canvas, hold: HeldNodes, k: int) -> None:
        painter, lens, centre = canvas.painter, canvas.lens, self._find_dial_centre(hold)
        a, b = hold.axes[:, (k + 1) % 3], hold.axes[:, (k + 2) % 3]
        off = self._from - centre
        start = float(np.degrees(np.arctan2(off @ b, off @ a))) if off.any() else 0.0
        around = start + np.linspace(0, float(np.clip(self._angle, -360, 360)), 40)
        seen = lens.seen(np.vstack([centre[None], self._place_around(hold, lens, k, around)]))
        if (seen[:, 2] <= 0).any():
            return
        ink = colour(LETTERS[k])
        painter.setPen(QPen(ink, 1.2))
        ink.setAlpha(60)
        painter.setBrush(ink)
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in seen[:, :2]]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
