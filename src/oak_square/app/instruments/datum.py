"""The datum: dropped on a picked point, then lined up with an edge, a face or an axis that is clicked."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen

from oak_square.app.instruments.aim_marks import draw_kind, draw_ring
from oak_square.app.instruments.aims import ClickTarget, aim_at
from oak_square.app.instruments.hint_label import draw_hint
from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import PutDatum, Redraw, Wish
from oak_square.app.view.overlay import Canvas
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.theme import colour
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["DatumDropper"]


@registered
class DatumDropper(Instrument):
    """Drops a datum with the first click, and lines it up with those after."""

    name: ClassVar[str] = "datum"
    key: ClassVar[str] = "D"
    word: ClassVar[str] = say("Datum")
    tip: ClassVar[str] = say("Put a datum down at a point, then line it up")
    yields: ClassVar[bool] = False

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self.dropped = False
        self._aim: ClickTarget | None = None

    @property
    def band(self) -> str:
        """What the next click is for."""
        if not self.dropped:
            return say("Datum: click where it shall stand  ·  Esc lays it down")
        return say(
            "Datum: click an edge, a face or another point to line it up; Ctrl puts down one more  ·  Esc is done"
        )

    @property
    def cursor(self) -> Qt.CursorShape:
        """A cross, to aim with."""
        return Qt.CursorShape.CrossCursor

    def take_up(self) -> None:
        """Drop a new one."""
        self.dropped, self._aim = False, None

    def hover(self, at: Pointing | None) -> None:
        """Show what a click would take."""
        self._aim = None if at is None else aim_at(at, self.scene.target)

    def release(self, at: Pointing) -> None:
        """Drop it, or line it up."""
        self.hover(at)
        aim = self._aim
        if not at.clicked or aim is None:
            return
        lines_up = self.dropped and not at.beside
        self.wish(PutDatum(aim=aim, lines_up=lines_up))
        self.dropped = True
        self.wish(Redraw())

    def draw(self, canvas: Canvas) -> None:
        """Draw what a click would take."""
        aim = self._aim
        seen = None if aim is None else canvas.lens.seen(aim.at[None])[0]
        if aim is None or seen is None or seen[2] <= 0:
            return
        at = QPointF(float(seen[0]), float(seen[1]))
        canvas.painter.setPen(QPen(colour("verdigris"), 1.8))
        draw_ring(canvas.painter, canvas.lens, aim.ring, aim.kind)
        draw_kind(canvas.painter, at, aim.kind)
        verb = (
            say("at", "a point")
            if not self.dropped
            else say("line up with")
            if aim.way.any()
            else say("line up toward")
        )
        draw_hint(
            canvas,
            at + QPointF(14, 10),
            say("{verb} {kind} of {whose}", verb=verb, kind=term(aim.kind), whose=aim.whose),
        )
