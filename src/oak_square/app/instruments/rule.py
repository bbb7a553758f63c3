"""The Rule: moves what is selected along graduated rails, over the plates between them, or by a point of its own."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen, QPolygonF

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.handles import Handle, rounded, written
from oak_square.app.instruments.holder import LETTERS, Holder, started
from oak_square.app.instruments.instrument import registered
from oak_square.app.instruments.pairs import Pairs
from oak_square.app.instruments.snap import Snap, draw_snap, grip_of, snap_at, still_box
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.theme import colour, font
from oak_square.core.boxes import Box
from oak_square.core.dragging import on_line, on_plane
from oak_square.core.errors import BadLength
from oak_square.core.frames import translation
from oak_square.core.lengths import as_written, parse_entry, parse_length
from oak_square.core.marking import MARKABLE
from oak_square.core.tolerances import NOTHING_M, SPECK
from oak_square.core.words import say

__all__ = ["Rule"]

Array = NDArray[np.float64]
_RAIL, _SLIDER = 128.0, 92.0  # pixels
_PLATE = (26.0, 48.0)  # where a plate begins and ends on both its rails
_SLIDER_REACH = 14.0
_MARKED = ("vertex", "edge middle", "face centre", "circle centre")
_TICK = 8.0  # pixels wanted between two


@registered
class Rule(Holder):
    """Moves."""

    name: ClassVar[str] = "rule"
    key: ClassVar[str] = "2"
    word: ClassVar[str] = say("Rule")
    tip: ClassVar[str] = say("Move what is selected along rails, or by a point of its own")
    does: ClassVar[str] = say("Move")
    has_centre: ClassVar[bool] = False

    def __init__(self, wish: Any) -> None:
        super().__init__(wish)
        self._grip: ClickTarget | None = None
        self._snap: Snap | None = None
        self._to_go = ""
        self._still: Box | None = None
        self._marks: Mapping[str, ClickTarget] = {}
        self._moved = np.zeros(3)
        self._present = np.zeros(3)  # as an entry began
        self._pairs: Pairs | None = None
        self._paired: ClickTarget | None = (
            None  # the point of the moved thing that came near, where it is not what is gripped
        )

    @property
    def marks(self) -> Mapping[str, ClickTarget]:
        """The points that it was moved by and to, where both can be found again."""
        return self._marks

    @property
    def motion(self) -> Array | None:
        """All move alike, but along axes of their own."""
        hold = self.begun
        if hold is None or hold.pivots or (not hold.datum and hold.along in ("own", "parent") and len(hold.nodes) > 1):
            return None
        return translation(hold.axes @ self._moved)

    def handles(self, hold: HeldNodes, lens: Lens) -> list[Handle]:
        """Return the sliders, the plates, and the rails themselves."""
        found = list[Handle]()
        for k in range(3):
            ends = self._find_rail(hold, lens, k)
            if ends is not None:
                found.append(Handle(name=LETTERS[k], axes=(k,), line=ends))
        for pair in combinations(range(3), 2):
            corner = self._find_plate(hold, lens, pair)
            if corner is not None:
                found.append(Handle(name="".join(LETTERS[k] for k in pair), axes=pair, line=corner.mean(axis=0)[None]))
        return found

    def _find_rail(self, hold: HeldNodes, lens: Lens, k: int) -> Array | None:
        """Return a rail's ends in the picture, rows of pixels; None where it runs toward the eye."""
        reach = lens.reach(hold.centre, _RAIL)
        ends = lens.segment(hold.centre, hold.centre + hold.axes[:, k] * reach)
        if ends is None:
            return None
        line = np.array([[p.x(), p.y()] for p in ends])
        return line if np.linalg.norm(line[1] - line[0]) > 14 else None

    def _find_plate(self, hold: HeldNodes, lens: Lens, pair: tuple[int, ...]) -> Array | None:
        near, far = (lens.reach(hold.centre, p) for p in _PLATE)
        a, b = (hold.axes[:, k] for k in pair)
        corners = hold.centre + np.array(
            [a * near + b * near, a * far + b * near, a * far + b * far, a * near + b * far]
        )
        seen = lens.seen(corners)
        (ax, ay), (bx, by) = seen[1, :2] - seen[0, :2], seen[3, :2] - seen[0, :2]
        area = abs(float(ax * by - ay * bx))
        return seen[:, :2] if (seen[:, 2] > 0).all() and area > 90 else None

    def _find_handle(self, hold: HeldNodes, at: Pointing) -> Handle | None:
        """Return the handle under the pointer; a point of the thing itself comes before a rail beside its slider."""
        found = super()._find_handle(hold, at)
        if found is None or len(found.axes) != 1:
            return found
        there = hold.centre + hold.axes[:, found.axes[0]] * at.lens.reach(hold.centre, _SLIDER)
        slider = at.lens.seen(there[None])[0]
        if np.hypot(slider[0] - at.x, slider[1] - at.y) <= _SLIDER_REACH:
            return found
        grip = grip_of(self.scene, hold, at)
        return None if grip is not None and grip.kind in _MARKED else found

    def grab(self, hold: HeldNodes, at: Pointing) -> Handle | None:
        """Take hold of a point of the thing itself."""
        self._grip = grip_of(self.scene, hold, at)
        return None if self._grip is None else Handle(name="grab", axes=(0, 1, 2), line=np.empty((0, 2)))

    def press(self, at: Pointing) -> None:
        """Take hold; nothing is snapped to yet."""
        self._grip, self._snap, self._marks, self.reading = None, None, {}, ""
        self._pairs = self._paired = None
        self._moved = np.zeros(3)
        super().press(at)
        self._still = still_box(self.begun) if self.begun is not None else None

    def held_to(self, hold: HeldNodes, letter: str) -> Handle:
        """Hold to an axis, by the same point."""
        k = LETTERS.index(letter)
        return Handle(name="grab" if self._grip is not None else letter, axes=(k,), line=np.empty((0, 2)))

    def dragged(self, hold: HeldNodes, handle: Handle, start: Pointing, now: Pointing) -> Mapping[str, Any] | None:
        """Return the shift so far; onto what is snapped to, where there is something."""
        at = hold.centre if self._grip is None else self._grip.at
        handle = _keep_to_elevation(hold, handle, now.lens)
        move = self._find_free_move(hold, handle, at, start, now)
        if move is None:
            return None
        self._marks = {}
        held = hold.axes[:, list(handle.axes)]
        self._snap = snap_at(
            self.scene, hold, now, self._still, surface=self._grip is not None and len(handle.axes) == 3
        )
        self._paired = None
        pair = self._pair_targets(hold, move, held, now)
        if pair is not None:
            self._paired, still, move = pair
            self._snap, self._to_go = Snap(aim=still, taken=True), ""
        elif self._snap is not None:
            to = held @ (held.T @ (self._snap.aim.at - at))
            self._to_go = self.scene.unit.length(float(np.linalg.norm(to - move)))
            if self._snap.taken:
                move = to
        elif self.scene.grid_m > 0 and not now.free:
            move = self._on_grid(hold, handle, at, move)
        else:
            along = [rounded(float(v), now.lens, at) for v in hold.axes.T @ move]
            move = hold.axes @ np.array(along)
        self._moved = hold.axes.T @ move
        self.reading = self._describe_shift(handle)
        # Marks are made of what is picked once it is let go: on the way a shift shows the same.
        words = None if self.going else self._make_onto_words(hold, handle)
        return words if words is not None else self._make_shift_words(hold, move)

    def _pair_targets(
        self, hold: HeldNodes, move: Array, held: Array, now: Pointing
    ) -> tuple[ClickTarget, ClickTarget, Array] | None:
        """Return two points that come near, where the pointer itself aims at none that would be taken."""
        if (
            now.free
            or hold.pivots
            or hold.datum
            or not hold.nodes
            or hold.points is not None
            or (self._snap is not None and self._snap.taken)
        ):
            return None
        if self.motion is None:
            return None  # each goes along axes of its own: what one comes near, the others don't
        if self._pairs is None:
            self._pairs = Pairs(self.scene, hold, now.lens)
        return self._pairs.nearest(move, held)

    @property
    def onto(self) -> ClickTarget | None:
        """What was snapped to."""
        return self._snap.aim if self._snap is not None and self._snap.taken else None

    def _find_free_move(
        self, hold: HeldNodes, handle: Handle, at: Array, start: Pointing, now: Pointing
    ) -> Array | None:
        """Return the move that the pointer alone means, world, metres."""
        if len(handle.axes) == 1:
            axis = hold.axes[:, handle.axes[0]]
            ends = [on_line(p.eye, p.toward, at, axis) for p in (start, now)]
            return None if ends[0] is None or ends[1] is None else axis * (ends[1] - ends[0])
        normal = now.lens.camera.axes[2]
        if len(handle.axes) == 2:
            normal = hold.axes[:, 3 - sum(handle.axes)]
        points = [on_plane(p.eye, p.toward, at, normal) for p in (start, now)]
        return None if points[0] is None or points[1] is None else points[1] - points[0]

    def _on_grid(self, hold: HeldNodes, handle: Handle, at: Array, move: Array) -> Array:
        """Return the move that brings its point onto lines of the grid, along the axes that it goes along."""
        grid = self.scene.grid_m
        there = hold.axes.T @ (at + move)
        wanted = there.copy()
        for k in handle.axes:
            wanted[k] = np.round(there[k] / grid) * grid
        return move + hold.axes @ (wanted - there)

    def _make_onto_words(self, hold: HeldNodes, handle: Handle) -> Mapping[str, Any] | None:
        """Return the step that brings one picked point onto the other as what they are; None where none can."""
        snap, grip = self._snap, self._paired or self._grip
        if snap is None or not snap.taken or hold.pivots or _shift_of(self, hold) is not None:
            return None
        if hold.points is not None or hold.files:
            return None  # vertices, and several assets as one, are moved by numbers
        by: Any = "pivot" if grip is None and hold.nodes else None
        marks = dict[str, ClickTarget]()
        if grip is not None and grip.kind in MARKABLE:
            by, marks["by"] = {"mark": "by"}, grip
        if by is None or snap.aim.kind not in MARKABLE:
            return None
        axes = {} if len(handle.axes) == 3 else {"axes": [LETTERS[k] for k in handle.axes]}
        if axes and (hold.axis_words or not np.allclose(hold.axes, hold.frame)):
            return None  # the coordinates that a step keeps are the delivery's
        at: Any = {"mark": "at"}
        if snap.aim.file != hold.asset.file:
            at = {"onto": snap.aim.file, "point": {"mark": "at"}}
        marks["at"] = snap.aim
        together = {"as-one": True} if len(hold.nodes) > 1 else {}
        if together and by == "pivot":
            return None
        self._marks = marks
        return {"do": "place", "by": by, "at": at, **axes, **together}

    def _make_shift_words(self, hold: HeldNodes, move: Array) -> Mapping[str, Any]:
        along = hold.frame.T @ move
        first = _shift_of(self, hold)
        return self._step_words(hold, along if first is None else first + along)

    def _step_words(self, hold: HeldNodes, lengths: Array) -> Mapping[str, Any]:
        told = [written(float(v), self.scene.unit) if abs(v) > NOTHING_M else 0 for v in lengths]
        along = dict(hold.axis_words)
        if hold.pivots:
            return {"do": "pivot", "at": {"move": told, **along}}
        return {"do": "place", "shift": told, **along}

    def note_present(self, hold: HeldNodes, *, goes_on: bool) -> None:
        """Take note of how far it was dragged."""
        self._present = self._moved.copy() if goes_on else np.zeros(3)

    def typed(self, hold: HeldNodes, parts: Sequence[tuple[Handle, str]]) -> Mapping[str, Any]:
        """Return the step of typed distances; with `=` in front, of the coordinates it shall have."""
        unit = self.scene.unit
        self._marks, self._snap = {}, None
        told = {handle.axes[0]: text for handle, text in parts}
        if any(text.startswith("=") for text in told.values()):
            return self._typed_places(hold, told)
        along = np.zeros(3)
        for k, text in told.items():
            along[k] = parse_entry(text, present=float(self._present[k]), bare=unit.bare, module=unit.module)
        first = _shift_of(self, hold)
        wanted = np.zeros(3) if first is None else first.copy()
        self._moved = along
        self.reading = "   ".join(f"{LETTERS[k]} {unit.length(float(along[k]))}" for k in told)
        return self._step_words(hold, wanted + hold.frame.T @ (hold.axes @ along))

    def _typed_places(self, hold: HeldNodes, told: Mapping[int, str]) -> Mapping[str, Any]:
        unit = self.scene.unit
        if not all(text.startswith("=") for text in told.values()):
            raise BadLength(say("it moves by a distance, or to a place: not both at once"))
        to = {k: parse_length(as_written(t[1:]), bare=unit.bare, module=unit.module) for k, t in told.items()}
        if hold.datum and hold.along == "world":
            along = np.zeros(3)
            for k, length in to.items():
                along[k] = length - float(hold.centre @ hold.axes[:, k])
            self._moved = along
            return {"do": "place", "shift": along.tolist()}
        if hold.axis_words or not np.allclose(hold.axes, hold.frame) or hold.pivots or hold.datum:
            raise BadLength(say("a coordinate is the world's"))
        at = [written(to[k], unit) if k in to else 0 for k in range(3)]
        return {"do": "place", "at": at, "by": "pivot", "axes": [LETTERS[k] for k in range(3) if k in to]}

    def _describe_shift(self, handle: Handle) -> str:
        return "   ".join(f"{LETTERS[k]} {self.scene.unit.length(float(self._moved[k]))}" for k in handle.axes)

    def draw_hold(self, canvas: Canvas, hold: HeldNodes) -> None:
        """Draw the rails with their ticks, the sliders, the plates, and what would be snapped to."""
        painter, lens = canvas.painter, canvas.lens
        for pair in combinations(range(3), 2):
            corners = self._find_plate(hold, lens, pair)
            if corners is not None:
                ink = colour(LETTERS[3 - sum(pair)])
                painter.setPen(QPen(ink, 1.2))
                ink.setAlpha(70)
                painter.setBrush(ink)
                painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))
        for k in range(3):
            self._draw_rail(canvas, hold, k)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self._snap is not None and self._pressed_on is not None:
            draw_snap(canvas, self._snap, self._to_go, by="" if self._paired is None else self._paired.kind)

    def _draw_rail(self, canvas: Canvas, hold: HeldNodes, k: int) -> None:
        painter, lens = canvas.painter, canvas.lens
        ends = self._find_rail(hold, lens, k)
        if ends is None:
            return
        ink, held = colour(LETTERS[k]), self.handle is not None and k in self.handle.axes
        along = (ends[1] - ends[0]) / np.linalg.norm(ends[1] - ends[0])
        across = np.array([-along[1], along[0]])
        painter.setPen(QPen(ink, 2.4 if held else 1.8))
        painter.drawLine(QPointF(*ends[0]), QPointF(*ends[1]))
        reach = lens.reach(hold.centre, _RAIL)
        spacing, majors = self.scene.unit.grid_for(reach / _RAIL * _TICK)
        painter.setFont(font(11))
        marks = np.arange(1, int(reach / spacing) + 1)
        seen = lens.seen(hold.centre + np.outer(marks * spacing, hold.axes[:, k]))[:, :2]
        for number, place in zip(marks.tolist(), seen, strict=True):
            big = number % majors == 0
            painter.setPen(QPen(ink, 1.4 if big else 0.9))
            painter.drawLine(QPointF(*place), QPointF(*(place + across * (9 if big else 5))))
            if big and number == majors * max(1, len(marks) // majors):
                painter.drawText(QPointF(*(place + across * 11 + [2, 4])), self.scene.unit.mark(number * spacing))
        at = ends[0] + (ends[1] - ends[0]) * (_SLIDER / _RAIL)
        corners = [at + along * a * 7 + across * b * 9 for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
        painter.setPen(QPen(ink, 1.6))
        painter.setBrush(colour("card", 245) if not held else ink)
        painter.drawPolygon(QPolygonF([QPointF(*c) for c in corners]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(colour("card") if held else ink)
        painter.setFont(font(12, bold=True))
        painter.drawText(QPointF(at[0] - 3.5, at[1] + 4), LETTERS[k])


def _keep_to_elevation(hold: HeldNodes, handle: Handle, lens: Lens) -> Handle:
    """Return the handle of a free drag; in a flat elevation, without the axis that runs toward the eye."""
    facing = np.abs(hold.axes.T @ lens.camera.axes[2])
    if lens.camera.flat_m is None or len(handle.axes) < 3 or facing.max() < 1 - SPECK:
        return handle
    return Handle(name=handle.name, axes=tuple(k for k in handle.axes if k != int(facing.argmax())), line=handle.line)


def _shift_of(rule: Rule, hold: HeldNodes) -> Array | None:
    """Return the shift that a draft of the same kind has already, along the step's axes, metres; None where none."""
    unit = rule.scene.unit
    words = started(hold, "pivot", ("at",)) if hold.pivots else started(hold, "place", ("shift",))
    told = words.get("at", {}).get("move") if hold.pivots and isinstance(words.get("at"), dict) else words.get("shift")
    if told is None:
        return None
    return np.array([parse_length(v, bare=hold.bare, module=unit.module) for v in told])
