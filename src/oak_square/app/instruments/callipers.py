"""The Callipers: jaws on two sides of the box that is sized, and a knob at its top corner that sizes all three."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.instruments.handles import Handle, rounded, written
from oak_square.app.instruments.holder import Holder, started
from oak_square.app.instruments.instrument import registered
from oak_square.app.instruments.wishes import Wish
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.actions import key_hint
from oak_square.app.widgets.theme import colour, font
from oak_square.core.boxes import EXTENTS, tree_box
from oak_square.core.dragging import on_line
from oak_square.core.lengths import is_relative, parse_entry
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_PLACE, SPECK
from oak_square.core.words import number, say

__all__ = ["Callipers"]

Array = NDArray[np.float64]
_JAW = 15.0  # pixels to either side
_SHORTEST = 6.0  # pixels: a beam that is seen from its end has no jaws
_LEAST = 0.001  # of its length now: nothing is dragged smaller than that at a stroke
_INK = ("x", "y", "z")  # width, height and depth lie along these where axes are the world's


@registered
class Callipers(Holder):
    """Sizes."""

    name: ClassVar[str] = "callipers"
    key: ClassVar[str] = "4"
    word: ClassVar[str] = say("Callipers")
    tip: ClassVar[str] = say("Size what is selected by its sides, or all of it by the knob")
    does: ClassVar[str] = say("Size")
    example: ClassVar[str] = number("y 5.2 m")

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self._dragged: dict[int, float] = {}
        self._present: dict[int, float] = {}  # as an entry began
        self._is_together = False

    def centre_said(self, hold: HeldNodes) -> str:
        """What stays in place when it is sized."""
        return hold.size_about

    def refuses(self, hold: HeldNodes) -> str:
        """A pivot has no size, nor has a datum, and a step sizes along no view."""
        if hold.datum:
            return say("A datum has no size: take hold of what is selected")
        if hold.pivots:
            return say("A pivot has no size: take things with their geometry{key}", key=key_hint("pivots"))
        if not np.allclose(hold.axes, hold.frame):
            return say("No step sizes along the view's axes: choose others at the foot")
        return hold.trouble or ("" if hold.box is not None else say("It has no geometry to size"))

    def hint(self, at: Pointing) -> str:
        """Say what the handle does."""
        if self._over is None:
            return ""
        if len(self._over.axes) == 3:
            return say("Size all three extents in proportion")
        return say("Size the {extents}", extents=say(" and the ").join(term(EXTENTS[k]) for k in self._over.axes))

    @property
    def _find_corner(self) -> Array:
        """Where the box's corner with the knob is: right, top, front."""
        return np.ones(3)

    def _at_fractions(self, hold: HeldNodes, fractions: Array) -> Array:
        """Return points of the box, world, by rows of fractions."""
        assert hold.box is not None
        found: Array = (hold.box.low + fractions * hold.box.size) @ hold.sides.T
        return found

    def _project_fractions(self, hold: HeldNodes, lens: Lens, fractions: Array) -> Array:
        return lens.seen(self._at_fractions(hold, fractions[None]))[:, :2]

    def _find_side(self, k: int, high: bool) -> Array:
        middle = np.full(3, 0.5)
        middle[k] = float(high)
        return middle

    def handles(self, hold: HeldNodes, lens: Lens) -> list[Handle]:
        """Return the knob, the pair knobs and the jaws that can be dragged: not those that the centre lies on."""
        if hold.box is None:
            return []
        found = [
            Handle(
                name="knob", axes=(0, 1, 2), line=lens.seen(self._at_fractions(hold, self._find_corner[None]))[:, :2]
            )
        ]
        for k in range(3):
            pair = tuple(a for a in range(3) if a != k)
            edge = self._find_corner.copy()
            edge[k] = 0.5
            found.append(
                Handle(name=f"pair {k}", axes=pair, line=lens.seen(self._at_fractions(hold, edge[None]))[:, :2])
            )
            for high in (False, True):
                if self._stands_off(hold, k, high):
                    seen = self._project_fractions(hold, lens, self._find_side(k, high))
                    found.append(Handle(name=f"{'high' if high else 'low'} {k}", axes=(k,), line=seen))
        return found

    def _stands_off(self, hold: HeldNodes, k: int, high: bool) -> bool:
        assert hold.box is not None
        side = (hold.box.high if high else hold.box.low)[k]
        centre = (hold.sides.T @ hold.size_centre)[k]
        return bool(abs(side - centre) > SAME_PLACE * max(hold.box.diagonal, SPECK) and hold.box.size[k] > 0)

    def letter_handle(self, hold: HeldNodes, letter: str) -> Handle:
        """Return the extent along an axis that is lettered so."""
        k = "xyz".index(letter)
        axis = hold.frame[:, k]
        extent = int(np.argmax(np.abs(hold.sides.T @ axis)))
        return Handle(name=f"high {extent}", axes=(extent,), line=np.empty((0, 2)))

    def dragged(self, hold: HeldNodes, handle: Handle, start: Pointing, now: Pointing) -> Mapping[str, Any] | None:
        """Return the size so far."""
        assert hold.box is not None
        if len(handle.axes) == 1:
            k = handle.axes[0]
            high = handle.name.startswith("high")
            factor = self._find_factor(hold, self._find_side(k, high), hold.sides[:, k], start, now)
        else:
            corner = self._find_corner.copy()
            for k in range(3):
                corner[k] = 0.5 if k not in handle.axes else corner[k]
            out = self._at_fractions(hold, corner[None])[0] - hold.size_centre
            length = float(np.linalg.norm(out))
            factor = None if length <= 0 else self._find_factor(hold, corner, out / length, start, now)
        if factor is None:
            return None
        middle = self._at_fractions(hold, np.full((1, 3), 0.5))[0]
        length = max(float(hold.box.size[k]) for k in handle.axes)
        if length > 0:
            factor = (rounded(length * factor, now.lens, middle) or length * factor) / length
        self._dragged = {k: float(hold.box.size[k]) * factor for k in handle.axes}
        return self._scale_all(hold, self._dragged) if hold.several else self._make_size_words(hold, self._dragged)

    def _find_factor(
        self, hold: HeldNodes, fractions: Array, axis: Array, start: Pointing, now: Pointing
    ) -> float | None:
        """Return how many times as far from the centre a point of the box is dragged along an axis."""
        at = self._at_fractions(hold, fractions[None])[0]
        ends = [on_line(p.eye, p.toward, at, axis) for p in (start, now)]
        away = float((at - hold.size_centre) @ axis)
        if ends[0] is None or ends[1] is None or away == 0:
            return None
        return max((away + ends[1] - ends[0]) / away, _LEAST)

    def _make_size_words(
        self, hold: HeldNodes, lengths: Mapping[int, float], *, each: bool = False
    ) -> Mapping[str, Any]:
        """Return the step of some extents; of all three in proportion, unless `each` has its own."""
        unit = self.scene.unit
        told = {EXTENTS[k]: written(v, unit) for k, v in lengths.items()}
        self.reading = "   ".join(f"{EXTENTS[k]} {unit.length(v)}" for k, v in lengths.items())
        more = {**hold.axis_words, **hold.centre_words}
        if len(lengths) == 3 and not each:
            # In proportion: the height says it for all, where there is one.
            k = next(k for k in (1, 0, 2) if lengths[k] > 0)
            return {"do": "size", EXTENTS[k]: told[EXTENTS[k]], **more}
        first = started(hold, "size", (*EXTENTS, "keep"))
        before = {e: first[e] for e in EXTENTS if e in first} if first.get("keep") == "none" or len(first) > 3 else {}
        words = {**before, **told}
        keep = {"keep": "none"} if len(words) == 1 else {}
        return {"do": "size", **words, **keep, **more}

    def _scale_all(
        self, hold: HeldNodes, lengths: Mapping[int, float], present: Array | None = None
    ) -> Mapping[str, Any]:
        """Return the step that sizes all that is held by the one factor that makes extents so long.

        `present` are the extents that this is told from, shape (3,), metres; those of what leads, where not given.
        """
        assert hold.box is not None
        factors = np.ones(3)
        for k, length in lengths.items():
            was = float((hold.box.size if present is None else present)[k])
            # Factors are told along the axes, not along the sides of a box.
            axis = int(np.argmax(np.abs(hold.frame.T @ hold.sides[:, k])))
            factors[axis] = length / was if was > 0 else 1.0
        furthest = float(factors[np.argmax(np.abs(factors - 1))])
        self.reading = say("all × {factor}", factor=number(f"{furthest:.4g}"))
        before = started(hold, "size", ("factor",)).get("factor", 1.0)
        told = [float(f"{f:.12g}") for f in factors * np.array(before, dtype=float)]
        alike = len(set(told)) == 1
        return {"do": "size", "factor": told[0] if alike else told, **hold.axis_words, **hold.centre_words}

    def press(self, at: Pointing) -> None:
        """Take hold; nothing is sized yet."""
        self._dragged = {}
        super().press(at)

    def note_present(self, hold: HeldNodes, *, goes_on: bool) -> None:
        """Take note of the extents, as they were dragged."""
        self._is_together = False
        assert hold.box is not None
        self._present = {k: float(hold.box.size[k]) for k in range(3)} | (self._dragged if goes_on else {})

    def typed(self, hold: HeldNodes, parts: Sequence[tuple[Handle, str]]) -> Mapping[str, Any]:
        """Return the step of typed lengths: absolute, or `+4cm`, `*0.5`, `50%` of what each was as this began."""
        assert hold.box is not None
        unit, size = self.scene.unit, hold.box.size
        relative = all(is_relative(text) for _, text in parts)
        if hold.several and (relative or self._is_together):
            lengths = {
                k: parse_entry(t, present=self._present[k], bare=unit.bare, module=unit.module)
                for h, t in parts
                for k in h.axes[:1]
            }
            if len(parts) == 1 and len(parts[0][0].axes) == 3:
                k, length = next(iter(lengths.items()))
                lengths = {a: float(size[a]) * length / float(size[k]) for a in range(3)}
            return self._scale_all(hold, lengths, None if relative else self._find_common_size(hold))
        if any(len(handle.axes) == 1 for handle, _ in parts) or len(parts) > 1:
            lengths = {
                h.axes[0]: parse_entry(t, present=self._present[h.axes[0]], bare=unit.bare, module=unit.module)
                for h, t in parts
            }
            return self._make_size_words(hold, lengths, each=True)
        ((handle, text),) = parts
        k = 1 if size[1] else int(np.argmax(size))
        length = parse_entry(text, present=self._present[k], bare=unit.bare, module=unit.module)
        return self._make_size_words(hold, {a: float(size[a]) * length / float(size[k]) for a in handle.axes})

    @property
    def asks(self) -> str:
        """Whether a typed length is each thing's own, or that of all together: shown, and changed by Tab."""
        hold = self.begun
        if hold is None or not hold.several or not self.entry or is_relative(self.entry):
            return ""
        return say("all together, Tab: each") if self._is_together else say("each, Tab: all together")

    def turn_over(self) -> None:
        """Let a typed length be that of all together, or each one's own again."""
        self._is_together = not self._is_together

    def _find_common_size(self, hold: HeldNodes) -> Array:
        """Return the extents of all that is held of the lead asset together, shape (3,), metres."""
        assert hold.box is not None
        if hold.points is not None or not hold.nodes:
            return hold.box.size
        frame = np.eye(4)
        frame[:3, :3] = hold.sides.T
        boxes = [box for n in hold.nodes if (box := tree_box(hold.asset, n, frame)) is not None]
        size: Array = np.max([b.high for b in boxes], axis=0) - np.min([b.low for b in boxes], axis=0)
        return size

    def draw_hold(self, canvas: Canvas, hold: HeldNodes) -> None:
        """Draw the beams, the jaws and the knobs."""
        painter, lens = canvas.painter, canvas.lens
        held = self.handle.axes if self.handle is not None else ()
        for k in range(3):
            ends = [self._at_fractions(hold, self._find_side(k, h)[None])[0] for h in (False, True)]
            beam = lens.segment(*ends)
            if beam is None:
                continue
            painter.setPen(QPen(colour(_INK[k]), 1.1, Qt.PenStyle.DashLine))
            painter.drawLine(*beam)
            along = np.array([beam[1].x() - beam[0].x(), beam[1].y() - beam[0].y()])
            length = float(np.linalg.norm(along))
            if length >= _SHORTEST:
                for high, end, sign in ((False, beam[0], 1), (True, beam[1], -1)):
                    self._draw_jaw(canvas, end, sign * along / length, k, self._stands_off(hold, k, high), k in held)
        for handle in self.handles(hold, lens):
            if handle.name == "knob" or handle.name.startswith("pair"):
                painter.setPen(QPen(colour("verdigris"), 1.8))
                painter.setBrush(colour("verdigris") if set(held) == set(handle.axes) else colour("card", 245))
                size = 8.0 if handle.name == "knob" else 6.0
                painter.drawEllipse(QPointF(*handle.line[0]), size, size)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _draw_jaw(self, canvas: Canvas, end: QPointF, inward: Array, k: int, moves: bool, held: bool) -> None:
        """Draw a jaw: a bar along the side with its tips turned in; a fixed one, which the centre lies on, thinner."""
        painter, ink = canvas.painter, colour(_INK[k])
        at, across = np.array([end.x(), end.y()]), np.array([-inward[1], inward[0]])
        tips = [at + across * _JAW, at - across * _JAW]
        painter.setPen(QPen(ink, (5.0 if held else 4.0) if moves else 1.6))
        painter.drawLine(QPointF(*tips[0]), QPointF(*tips[1]))
        painter.setPen(QPen(ink, 2.0 if moves else 1.2))
        for tip in tips:
            painter.drawLine(QPointF(*tip), QPointF(*(tip + inward * 8)))
        if moves:
            painter.setFont(font(11, bold=True))
            painter.setPen(ink)
            painter.drawText(QPointF(*(at - inward * 13 + [-4, 4])), EXTENTS[k][0])
