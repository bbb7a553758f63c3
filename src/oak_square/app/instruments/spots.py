"""The twenty-seven points of the box, on the model itself: while pivots are settled, a click takes one."""

from __future__ import annotations

from collections.abc import Callable
from itertools import product
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPen

from oak_square.app.instruments.hint_label import draw_hint
from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import TryWords, Wish
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.theme import colour
from oak_square.core.boxes import Box, box_point, node_box, tree_box
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["Spots"]

Array = NDArray[np.float64]
_WORDS = (("left", "middle", "right"), ("bottom", "middle", "top"), ("back", "middle", "front"))
_ALL = tuple(product(range(3), repeat=3))
_FRACTIONS = np.array(_ALL) / 2
_HIT, _DOT = 8.0, 4.0  # pixels
_LEAST = 70.0  # pixels that the box must be across: nearer together nobody could hit one


@registered
class Spots(Instrument):
    """Takes a box point as the place of a pivot."""

    name: ClassVar[str] = "spots"

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self._over: int | None = None

    @property
    def cursor(self) -> Qt.CursorShape:
        """Something to press."""
        return Qt.CursorShape.PointingHandCursor

    @property
    def _find_box(self) -> Box | None:
        hold = self.scene.hold
        if not self.scene.spots or hold is None:
            return None
        if len(hold.nodes) < 2:
            return self.scene.facts.box
        # Each has a box of its own: the one that leads stands for them.
        lead, asset = hold.nodes[-1], hold.asset
        return node_box(asset, lead) if asset.nodes[lead].mesh is not None else tree_box(asset, lead)

    def places(self, lens: Lens) -> Array:
        """Return where the points are in the picture, rows of x, y, depth; none where they would crowd."""
        box = self._find_box
        if box is None:
            return np.empty((0, 3))
        seen = lens.seen(np.array([box_point(box, f) for f in _FRACTIONS]))
        return seen if np.ptp(seen[:, :2], axis=0).max() >= _LEAST and (seen[:, 2] > 0).all() else np.empty((0, 3))

    def _find_spot_under(self, at: Pointing) -> int | None:
        seen = self.places(at.lens)
        if not len(seen):
            return None
        away = np.hypot(seen[:, 0] - at.x, seen[:, 1] - at.y)
        # Of several in line the nearest to the eye: it is the one that is seen.
        near = np.flatnonzero(away <= _HIT)
        return int(near[np.argmin(seen[near, 2])]) if len(near) else None

    def takes(self, at: Pointing) -> bool:
        """Take what is on a point."""
        self._over = self._find_spot_under(at)
        return self._over is not None

    def hint(self, at: Pointing) -> str:
        """Say what a click is for."""
        return "" if self._over is None else say("Pivot to the {said} point", said=_describe_spot(self._over))

    def release(self, at: Pointing) -> None:
        """Try the pivot there."""
        over = self._find_spot_under(at)
        if at.clicked and over is not None:
            point = [_WORDS[k][i] for k, i in enumerate(_ALL[over])]
            self.wish(TryWords(words={"do": "pivot", "at": {"point": point}}, gesture=self.fresh_gesture()))

    def draw(self, canvas: Canvas) -> None:
        """Draw the points, the one under the pointer with its name."""
        seen = self.places(canvas.lens)
        painter = canvas.painter
        painter.setPen(QPen(colour("oak-deep"), 1.3))
        painter.setBrush(colour("card", 225))
        for x, y, _ in seen:
            painter.drawEllipse(QPointF(x, y), _DOT, _DOT)
        if self._over is not None and len(seen):
            at = QPointF(*seen[self._over, :2])
            painter.setBrush(colour("oak"))
            painter.drawEllipse(at, _DOT + 2, _DOT + 2)
            draw_hint(canvas, at + QPointF(12, 8), _describe_spot(self._over))
        painter.setBrush(Qt.BrushStyle.NoBrush)


def _describe_spot(spot: int) -> str:
    sides = [_WORDS[k][i] for k, i in enumerate(_ALL[spot]) if i != 1]
    return " ".join(map(term, sides)) or term("middle")
