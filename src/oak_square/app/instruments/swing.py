"""The swing check: the lead part swings about its pivot, between limits, to see that its hinge is right."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen, QPolygonF

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.instruments.hint_label import draw_hint
from oak_square.app.instruments.holder import LETTERS
from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import EndSwing, LetGo, PickNode, Redraw, SwingTo, Wish
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.theme import colour, font
from oak_square.core.boxes import tree_box
from oak_square.core.dragging import angle_about, away_from, on_plane
from oak_square.core.lengths import as_written
from oak_square.core.swinging import turn_about
from oak_square.core.tolerances import SPECK, TINY
from oak_square.core.words import number, say

__all__ = ["Swing", "Swung"]

Array = NDArray[np.float64]
_USUAL = (0.0, 90.0)
_RADIUS, _HIT = 112.0, 12.0  # pixels
_FURTHEST = 360.0
_LIMITS = re.compile(r"^\s*(-?[\d.]+)\s*(?:to|\.\.|;)\s*(-?[\d.]+)\s*°?$")


@dataclass(frozen=True, slots=True, kw_only=True)
class Swung:
    """How far it swings: about which of its own axes, between which angles, and where it is now, degrees."""

    axis: int = 1
    low_deg: float = _USUAL[0]
    high_deg: float = _USUAL[1]
    angle_deg: float = 0.0


@registered
class Swing(Instrument):
    """Swings the lead part; changes nothing."""

    name: ClassVar[str] = "swing"
    key: ClassVar[str] = "6"
    word: ClassVar[str] = say("Swing")
    tip: ClassVar[str] = say("Swing the picked part about its pivot, to see that the hinge is right; nothing changes")

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self.swung = Swung()
        self.reads_words = ""
        """What the sweep came to, in words: told by who works it out."""
        self._for: object = None
        self._entry: str | None = None
        self._start: tuple[Array, float] | None = None

    @property
    def part(self) -> int | None:
        """The node that swings; None where none is picked and there is not just one part."""
        hold = self.scene.hold
        if hold is None:
            return None
        if hold.nodes:
            return hold.nodes[-1]
        return hold.asset.parts[0] if len(hold.asset.parts) == 1 else None

    @property
    def band(self) -> str:
        """Which part swings about what, and what the sweep came to."""
        if self.part is None or self.scene.hold is None:
            return say("Swing: pick the part that swings, in the view or the hierarchy  ·  Esc")
        name, s = self.scene.hold.asset.nodes[self.part].name, self.swung
        limits = say("{low_deg:g}° to {high_deg:g}°", low_deg=s.low_deg, high_deg=s.high_deg).replace("-", "−")
        read = f"  ·  {self.reads_words}" if self.reads_words else ""
        return say(
            "Swing: {name} about its own {letter}, {limits}{read}  ·  Esc",
            name=name,
            letter=LETTERS[s.axis],
            limits=limits,
            read=read,
        )

    def take_up(self) -> None:
        """Swing anew, about the axis of the part that is the most upright."""
        self._for, self._entry, self._start = None, None, None
        self._begin_part()

    def lay_down(self) -> bool:
        """Let the part go back; the instrument stays for one more."""
        had, self._entry, self._start = self._entry is not None, None, None
        if not had:
            self.wish(EndSwing())
        return had

    def forget(self) -> None:
        """Forget the part that swung: the next one that is picked, or the same, swings anew."""
        self._for, self.reads_words = None, ""

    def _begin_part(self) -> None:
        """Begin with a part: about its most upright axis where it stands on its side, within the usual limits."""
        hold, part = self.scene.hold, self.part
        if hold is None or part is None or self._for == (hold.asset.file, part):
            return
        self._for = hold.asset.file, part
        upright = int(np.argmax(np.abs(self._find_part_axes(hold)[1])))
        self.swung = Swung(axis=upright)
        self._tell_sweep()

    def _find_part_axes(self, hold: HeldNodes) -> Array:
        """Return the part's own axes as its file names them, as unit columns."""
        assert self.part is not None
        linear = hold.asset.worlds[self.part][:3, :3]
        own = linear / np.maximum(np.linalg.norm(linear, axis=0), TINY)
        found: Array = own @ hold.asset.reading.rotation
        return found

    def swing_to(self, **changes: float) -> None:
        """Swing otherwise: `axis`, `low_deg`, `high_deg`, `angle_deg`."""
        told = {**{k: getattr(self.swung, k) for k in ("axis", "low_deg", "high_deg", "angle_deg")}, **changes}
        low, high = sorted((float(told["low_deg"]), float(told["high_deg"])))
        angle = float(np.clip(float(told["angle_deg"]), low, high))
        self.swung = Swung(axis=int(told["axis"]), low_deg=low, high_deg=high, angle_deg=angle)
        self._tell_sweep()

    def _tell_sweep(self) -> None:
        s = self.swung
        self.wish(SwingTo(axis=s.axis, low_deg=s.low_deg, high_deg=s.high_deg, angle_deg=s.angle_deg))
        self.wish(Redraw())

    def hover(self, at: Pointing | None) -> None:
        """Begin with what is picked by now."""
        self._begin_part()

    def press(self, at: Pointing) -> None:
        """Take hold of the arc."""
        self._start = None
        hold = self.scene.hold
        arc = self._find_arc(hold, at.lens) if hold is not None and self.part is not None else None
        if hold is None or arc is None:
            return
        if away_from(arc, np.array([at.x, at.y])) <= _HIT:
            point = self._on_plane(hold, at)
            if point is not None:
                self._start = point, self.swung.angle_deg

    def _on_plane(self, hold: HeldNodes, at: Pointing) -> Array | None:
        assert self.part is not None
        return on_plane(at.eye, at.toward, hold.asset.worlds[self.part][:3, 3], self._find_axis(hold))

    def _find_axis(self, hold: HeldNodes) -> Array:
        """Return the axis that it swings about; the swing does not change it."""
        axis: Array = self._find_part_axes(hold)[:, self.swung.axis]
        return axis

    def move(self, at: Pointing) -> None:
        """Swing by hand."""
        hold = self.scene.hold
        if self._start is None or hold is None or self.part is None:
            return
        point = self._on_plane(hold, at)
        if point is not None:
            angle = angle_about(self._start[0], point, hold.asset.worlds[self.part][:3, 3], self._find_axis(hold))
            self.swing_to(angle_deg=self._start[1] + angle)

    def release(self, at: Pointing) -> None:
        """Let it stay there; a click picks the part that swings."""
        dragged, self._start = self._start is not None, None
        if not at.clicked or dragged:
            return
        hit = at.hit()
        self.wish(LetGo() if hit is None else PickNode(file=hit[0].file, node=hit[0].node, beside=False))

    def reads(self, key: str) -> bool:
        """A letter chooses the axis, a number the limits: `95`, or `-30 to 95`."""
        if self.part is None:
            return False
        if self._entry is not None:
            return key in ("enter", "escape", "backspace") or (len(key) == 1 and key.isprintable())
        return key in LETTERS or key in set("0123456789-−.")

    def read(self, key: str) -> None:
        """Take a letter of what is typed."""
        self._begin_part()
        if self._entry is None and key in LETTERS:
            self.swing_to(axis=LETTERS.index(key))
        elif key == "enter":
            text, self._entry = self._entry or "", None
            limits = _parse_limits(text)
            if limits is not None:
                self.swing_to(low_deg=limits[0], high_deg=limits[1], angle_deg=limits[1])
        elif key == "escape":
            self._entry = None
        else:
            self._entry = (self._entry or "")[:-1] if key == "backspace" else (self._entry or "") + key
        self.wish(Redraw())

    def _find_arc(self, hold: HeldNodes, lens: Lens) -> Array | None:
        """Return the arc between the limits, rows of pixels, as it lies about the pivot; None where it is not seen."""
        seen = lens.seen(self._place_about_pivot(hold, lens, np.linspace(self.swung.low_deg, self.swung.high_deg, 41)))
        return seen[:, :2] if (seen[:, 2] > 0).all() else None

    def _place_about_pivot(self, hold: HeldNodes, lens: Lens, degrees: Array, pixels: float = _RADIUS) -> Array:
        """Return points about the pivot, world, at angles from where the part is at rest."""
        assert self.part is not None
        pivot = hold.asset.worlds[self.part][:3, 3]
        rest = turn_about(self._find_axis(hold), -self.swung.angle_deg) @ self._find_outward(hold)
        reach = lens.reach(pivot, pixels)
        return np.array([pivot + reach * (turn_about(self._find_axis(hold), float(d)) @ rest) for d in degrees])

    def _find_outward(self, hold: HeldNodes) -> Array:
        """Return the direction from the pivot to the middle of the part as it is shown, square to the axis; unit."""
        assert self.part is not None
        axis, box = self._find_axis(hold), tree_box(hold.asset, self.part)
        off = np.zeros(3) if box is None else box.middle - hold.asset.worlds[self.part][:3, 3]
        off = off - axis * (off @ axis)
        if np.linalg.norm(off) < SPECK:
            off = self._find_part_axes(hold)[:, (self.swung.axis + 1) % 3]
        out: Array = off / np.linalg.norm(off)
        return out

    def draw(self, canvas: Canvas) -> None:
        """Draw the sector that is swept, its limits, and the angle."""
        hold = self.scene.hold
        if hold is None or self.part is None:
            return
        painter, lens = canvas.painter, canvas.lens
        arc = self._find_arc(hold, lens)
        pivot = lens.seen(hold.asset.worlds[self.part][:3, 3][None])[0]
        if arc is None or pivot[2] <= 0:
            return
        centre, ink = QPointF(float(pivot[0]), float(pivot[1])), colour(LETTERS[self.swung.axis])
        points = [QPointF(x, y) for x, y in arc]
        painter.setPen(QPen(ink, 2.2))
        ink.setAlpha(38)
        painter.setBrush(ink)
        painter.drawPolygon(QPolygonF([centre, *points]))
        ink.setAlpha(255)
        now = lens.seen(self._place_about_pivot(hold, lens, np.array([self.swung.angle_deg])))[0]
        at = QPointF(float(now[0]), float(now[1]))
        painter.drawLine(centre, at)
        painter.setBrush(colour("card", 245))
        painter.drawEllipse(at, 8, 8)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setFont(font(11, bold=True))
        painter.setPen(ink)
        for degrees, end in ((self.swung.low_deg, points[0]), (self.swung.high_deg, points[-1])):
            painter.drawText(end + QPointF(8, -6), number(f"{degrees:g}°").replace("-", "−"))
        text = number(f"{self.swung.angle_deg:.4g}°").replace("-", "−")
        if self._entry is not None:
            text = say("to  {entry}│", entry=self._entry)
        draw_hint(canvas, at + QPointF(14, 8), text, strong=self._entry is not None)


def _parse_limits(text: str) -> tuple[float, float] | None:
    """Return the two angles that a text says, or nought and the one; None where it is neither."""
    body = as_written(text).strip()
    match = _LIMITS.match(body)
    try:
        low, high = (float(match[1]), float(match[2])) if match is not None else (0.0, float(body.rstrip("° ")))
    except ValueError:
        return None
    return (low, high) if max(abs(low), abs(high)) <= _FURTHEST and low != high else None
