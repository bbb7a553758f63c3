"""Pick: a click picks the part under the pointer, or the point that somebody waits for; a drag picks what it frames."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPen

from oak_square.app.instruments.aim_marks import draw_kind, draw_ring
from oak_square.app.instruments.aims import ClickTarget, Target, aims_at
from oak_square.app.instruments.hint_label import draw_hint
from oak_square.app.instruments.instrument import Instrument, Scene, registered
from oak_square.app.instruments.wishes import (
    HangAt,
    LetGo,
    ListUnder,
    PickNode,
    PickNodes,
    Redraw,
    ShapeAt,
    ShapeFramed,
    TakePoint,
    Wish,
)
from oak_square.app.view.overlay import Canvas
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.actions import key_hint
from oak_square.app.widgets.theme import colour
from oak_square.core.boxes import node_box
from oak_square.core.frames import apply
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["Picker"]

_SHAPING = say(
    "Shape: click vertices, edges, faces, circles; Ctrl adds, a drag frames  ·  Rule, Dial, Callipers move them  ·  Esc"
)
_OF_SHAPES = ("vertex", "edge middle", "edge", "face centre", "circle centre")


def _find_inside(frame: QRectF, seen: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Tell of rows of what is seen which lie in a frame of pixels, before the eye."""
    inside = (seen[:, 0] >= frame.left()) & (seen[:, 0] <= frame.right())
    inside &= (seen[:, 1] >= frame.top()) & (seen[:, 1] <= frame.bottom()) & (seen[:, 2] > 0)
    return np.asarray(inside, dtype=bool)


@registered
class Picker(Instrument):
    """Picks on the surface that faces the eye."""

    name: ClassVar[str] = "pick"
    key: ClassVar[str] = "1"
    word: ClassVar[str] = say("Pick")
    tip: ClassVar[str] = say("Click to pick assets and parts, with Ctrl several; drag to frame several")

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self.aim: ClickTarget | None = None
        self._start: Pointing | None = None
        self._frame: QRectF | None = None

    @property
    def _takes_points(self) -> bool:
        hold = self.scene.hold
        return bool(self.scene.wants) or self.scene.shaping or (hold is not None and hold.pivots)

    @property
    def band(self) -> str:
        """What is waited for, or what pivots-only means."""
        if self.scene.wants:
            return say("{wants}  ·  right click lists what lies there  ·  Esc leaves it", wants=self.scene.wants)
        if self.scene.shaping:
            return _SHAPING
        if self.scene.hold is not None and self.scene.hold.pivots:
            return say(
                "Pivots only: click a point to hang the part there  ·  take geometry along again{key}  ·  Esc",
                key=key_hint("pivots"),
            )
        return ""

    @property
    def cursor(self) -> Qt.CursorShape:
        """A cross where points are taken."""
        return Qt.CursorShape.CrossCursor if self._takes_points else Qt.CursorShape.ArrowCursor

    def show(self, scene: Scene) -> None:
        """Take note; what was under the pointer may be gone."""
        if scene.asset is not self.scene.asset:
            self.aim = None
        super().show(scene)

    def lay_down(self) -> bool:
        """Drop the frame that is dragged."""
        had, self._start, self._frame = self._frame is not None, None, None
        return had

    def aims(self, at: Pointing, *, wide: bool = False) -> list[ClickTarget]:
        """Return what could be taken at the pointer, what a click would take first."""
        hit, target = at.hit(near=True), self.scene.target
        # Of an asset that stands beside the lead one, or in no common frame with it, its surface alone.
        if hit is not None and self.scene.asset is not None and hit[0].file != self.scene.asset.file:
            target = Target(kinds=self.scene.kinds, ready=self.scene.ready)
        found = aims_at(at, target, wide=wide)
        return [aim for aim in found if not self._is_own_pivot(aim)]

    def _is_own_pivot(self, aim: ClickTarget) -> bool:
        """Tell whether a pivot would be hung where it is: it lies where the last click has brought it."""
        hold = self.scene.hold
        if aim.kind != "pivot" or self.scene.wants or hold is None or not hold.pivots:
            return False
        return not hold.nodes or aim.anchor.node in hold.nodes

    def hover(self, at: Pointing | None) -> None:
        """Find what a click would take."""
        found = self.aims(at) if at is not None else []
        self.aim = found[0] if found else None

    def press(self, at: Pointing) -> None:
        """A drag may begin."""
        self._start = at

    def move(self, at: Pointing) -> None:
        """Draw a frame round what is to be picked."""
        if self._start is not None:
            self._frame = QRectF(QPointF(self._start.x, self._start.y), QPointF(at.x, at.y)).normalized()
            self.wish(Redraw())

    def release(self, at: Pointing) -> None:
        """Pick what was clicked or framed; let go of all where that is nothing."""
        frame, self._frame, self._start = self._frame, None, None
        if not at.clicked:
            if frame is not None and self.scene.shaping and not self.scene.wants:
                self._take_framed(frame, at)
            elif frame is not None:
                self.wish(PickNodes(nodes=self._find_framed_parts(frame, at), beside=at.beside))
                self.wish(Redraw())
            return
        hit = at.hit()
        if self._takes_points:
            found = self.aims(at)
            if found and self.scene.wants:
                self.wish(TakePoint(aim=found[0], plain=at.free))
            elif self.scene.shaping:
                self._take_vertices(at, found)
            elif found:
                self.wish(HangAt(aim=found[0], node=found[0].anchor.node, plain=at.free))
            return
        self.wish(LetGo() if hit is None else PickNode(file=hit[0].file, node=hit[0].node, beside=at.beside))

    def _take_vertices(self, at: Pointing, found: list[ClickTarget]) -> None:
        """Take hold of what is under the pointer; another part, or another asset, is picked first."""
        hit, hold = at.hit(near=True), self.scene.hold
        own = [aim for aim in found if aim.kind in _OF_SHAPES]
        if hit is None or hold is None:
            return
        if hit[0].file != hold.asset.file or (hold.nodes and hit[0].node not in hold.nodes):
            self.wish(PickNode(file=hit[0].file, node=hit[0].node, beside=False))
        elif own:
            self.wish(ShapeAt(aim=own[0], beside=at.beside))

    def _take_framed(self, frame: QRectF, at: Pointing) -> None:
        """Take hold of the framed vertices of the part that is picked, or of the first one that has any there."""
        hold = self.scene.hold
        for node in () if hold is None else hold.nodes[-1:] or hold.asset.parts:
            assert hold is not None
            if hold.asset.nodes[node].mesh is None:
                continue
            points = apply(hold.asset.world_from_mesh(node), np.asarray(hold.asset.mesh_of(node).points, dtype=float))
            rows = np.flatnonzero(_find_inside(frame, at.lens.seen(points)))
            if len(rows):
                self.wish(ShapeFramed(node=node, rows=rows, beside=at.beside))
                break
        self.wish(Redraw())

    def ask(self, at: Pointing) -> None:
        """List all that lies under the pointer."""
        found = self.aims(at, wide=True)
        if found:
            self.wish(ListUnder(aims=tuple(found), at=(at.x, at.y)))

    def _find_framed_parts(self, frame: QRectF, at: Pointing) -> tuple[int, ...]:
        """Return the parts of the lead asset whose boxes lie wholly in a frame of pixels."""
        asset, found = self.scene.asset, list[int]()
        for i in asset.parts if asset is not None else ():
            box = node_box(asset, i) if asset is not None else None
            if box is None:
                continue
            if np.all(_find_inside(frame, at.lens.seen(box.corners))):
                found.append(i)
        return tuple(found)

    def draw(self, canvas: Canvas) -> None:
        """Draw the frame, and the candidate by its kind."""
        painter = canvas.painter
        if self._frame is not None:
            painter.setPen(QPen(colour("verdigris"), 1.4, Qt.PenStyle.DashLine))
            painter.setBrush(colour("verdigris", 26))
            painter.drawRect(self._frame)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            return
        aim = self.aim
        if aim is None or (aim.kind == "surface" and not self._takes_points):
            return
        seen = canvas.lens.seen(aim.at[None])[0]
        if seen[2] <= 0:
            return
        strong = self._takes_points
        at = QPointF(float(seen[0]), float(seen[1]))
        painter.setPen(QPen(colour("verdigris", 255 if strong else 150), 1.8 if strong else 1.2))
        draw_ring(painter, canvas.lens, aim.ring, aim.kind)
        draw_kind(painter, at, aim.kind)
        if strong:
            radius = f"  ⌀ {self.scene.unit.length(2 * aim.size)}" if aim.kind == "circle centre" else ""
            draw_hint(
                canvas,
                at + QPointF(14, 10),
                say("{kind} of {whose}{radius}", kind=term(aim.kind), whose=aim.whose, radius=radius),
            )
