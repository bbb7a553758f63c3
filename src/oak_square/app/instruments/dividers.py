"""The Dividers: two points make a span, a third an angle; a rim reads its circle, a face its tilt."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import Qt

from oak_square.app.instruments.aim_marks import AimMark, draw_aim
from oak_square.app.instruments.aims import ClickTarget, aim_at
from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import AddMeasure, Redraw, Say, Wish
from oak_square.app.view.overlay import Canvas
from oak_square.app.view.pointing import Pointing
from oak_square.core.measuring import KINDS_OF_MEASURE, Anchor, Kind, Measure
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["Dividers", "Points"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Points:
    """What is being measured, and the points that are taken."""

    kind: Kind = "span"
    file: str = ""
    taken: tuple[Anchor, ...] = ()

    @property
    def asks(self) -> str:
        """What the next click is for."""
        if self.kind == "plane":
            return say("click a face")
        if self.kind == "circle" and not self.taken:
            return say("click a rim, or the first of three points")
        words = {
            "point": (say("a point"),),
            "span": (say("the first point"), say("the second point")),
            "angle": (say("a point on the first arm"), say("the apex"), say("a point on the second arm")),
            "circle": ("", say("the second point"), say("the third point")),
        }[self.kind]
        return say("click {word}", word=words[len(self.taken)])

    def touched(self, aim: ClickTarget, *, apart: bool) -> tuple[Points, Measure | None, str]:
        """Return the points after a click, the measurement that it completes, and what there is to say.

        `apart`, other assets only stand beside the lead one for the picture's sake.
        """
        whole: dict[str, tuple[Anchor, ...]] = {"plane": aim.plane, "circle": aim.circle if not self.taken else ()}
        ready = whole.get(self.kind, ())
        if ready:
            return Points(kind=self.kind), Measure(kind=self.kind, file=aim.file, anchors=ready), ""
        if self.kind == "plane":
            return self, None, say("That is not on a face")
        file = self.file if self.taken else aim.file
        if aim.file != file and apart:
            return self, None, say("Here they only stand side by side: take them in their common box to measure across")
        anchor = aim.anchor if aim.file == file else replace(aim.anchor, file=aim.file)
        if self.taken and anchor == self.taken[-1]:
            return self, None, say("That is the point taken last")
        taken = (*self.taken, anchor)
        if len(taken) == KINDS_OF_MEASURE[self.kind]:
            return Points(kind=self.kind), Measure(kind=self.kind, file=file, anchors=taken), ""
        return replace(self, file=file, taken=taken), None, ""


@registered
class Dividers(Instrument):
    """Takes points, and wishes for the measurement they make."""

    name: ClassVar[str] = "dividers"
    key: ClassVar[str] = "5"
    word: ClassVar[str] = say("Dividers")
    tip: ClassVar[str] = say("Click to measure: spans, angles, circles, planes")
    stage: ClassVar[str] = "size"
    page: ClassVar[str] = "measure"
    yields: ClassVar[bool] = False

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self.points = Points()
        self._trail: list[Array] = []
        self._mark: AimMark | None = None

    @property
    def band(self) -> str:
        """What is measured, and what the next click is for."""
        return say(
            "Dividers, {kind}: {asks}  ·  Esc lays them down", kind=term(self.points.kind), asks=self.points.asks
        )

    @property
    def cursor(self) -> Qt.CursorShape:
        """A cross, to aim with."""
        return Qt.CursorShape.CrossCursor

    def take_up(self) -> None:
        """Measure spans."""
        self.begin("span")

    def begin(self, kind: Kind) -> None:
        """Measure something of that kind; forgets the points of what was begun."""
        self.points = Points(kind=kind)
        self._trail.clear()
        self._mark = None
        self.wish(Redraw())

    def lay_down(self) -> bool:
        """Drop the points taken."""
        if not self._trail:
            self._mark = None
            return False
        self.begin(self.points.kind)
        return True

    def _find_target(self, at: Pointing) -> ClickTarget | None:
        target = self.scene.target
        if self.points.kind == "plane":
            # A face is meant, whatever lies over it.
            target = replace(target, kinds=("surface",))
        return aim_at(at, target)

    def hover(self, at: Pointing | None) -> None:
        """Show what a click would take."""
        aim = None if at is None else self._find_target(at)
        trail = np.array(self._trail).reshape(-1, 3)
        self._mark = AimMark(trail=trail)
        if aim is not None:
            word = "rim" if self.points.kind == "circle" and aim.circle and not self._trail else aim.anchor.kind
            reading = ""
            if self._trail and self.points.kind == "span":
                reading = self.scene.unit.length(float(np.linalg.norm(aim.at - self._trail[-1])))
            self._mark = AimMark(trail=trail, at=aim.at, word=word, reading=reading, ring=aim.ring)

    def release(self, at: Pointing) -> None:
        """Take the point that was clicked."""
        aim = self._find_target(at) if at.clicked else None
        if aim is None:
            return
        self.points, measure, said = self.points.touched(aim, apart=bool(self.scene.facts.beside))
        if said:
            self.wish(Say(said))
        elif measure is not None:
            self._trail.clear()
            self.wish(AddMeasure(measure=measure))
        else:
            self._trail.append(aim.at)
        self.hover(at)
        self.wish(Redraw())

    def draw(self, canvas: Canvas) -> None:
        """Draw the trail and the aim."""
        if self._mark is not None:
            draw_aim(canvas.painter, canvas.lens, self._mark)
