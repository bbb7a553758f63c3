"""How the window is laid out: the rule along the top, two columns beside the view, the sheet along the bottom."""

from __future__ import annotations

from dataclasses import dataclass, fields

from PySide6.QtCore import QPointF, QRect, QSize, Qt, Signal
from PySide6.QtGui import QGuiApplication, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QWidget

from oak_square.app.widgets.actions import tip
from oak_square.app.widgets.fields import Choices
from oak_square.app.widgets.theme import colour
from oak_square.core.words import say

__all__ = ["FOLDED_BELOW", "Parts", "WindowFrame", "opening_size"]

FOLDED_BELOW = 1100
"""Pixels of width below which the two side columns share one place, behind tabs."""

_LEFT, _RIGHT, _TOP, _STRIP, _TABS, _FIND = 262, 306, 48, 76, 38, 74
_LEAST_LEFT, _LEAST_RIGHT, _LEAST_MIDDLE = 220, 306, 480  # narrower, words in them would be clipped
_EDGE = 7  # pixels in which the line between two regions is taken hold of
_NARROWEST = QSize(800, 480)


_MEANT = QSize(1280, 800)


def opening_size(screen: QSize, wanted: QSize = _MEANT) -> QSize:
    """Return how large the window opens: as it is meant to be seen, or was last, and no larger than the screen.

    Without a display there is no screen to keep to: what the offscreen platform says of its own is not one.
    """
    return wanted if QGuiApplication.platformName() == "offscreen" else wanted.boundedTo(screen)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Parts:
    """What the window is made of, by where it stands."""

    title: QWidget
    ruler: QWidget
    find: QWidget
    left: QWidget
    middle: QWidget
    right: QWidget
    tray: QWidget
    strip: QWidget
    opening: QWidget


class WindowFrame(QWidget):
    """Places the parts it is given; folds the side columns to tabs where there is little room."""

    folded = Signal(bool)
    resized = Signal()  # a side column was made wider or narrower by hand

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._parts: Parts | None = None
        self.tabs = Choices(
            [
                ("left", say("batch"), say("Show the batch and the hierarchy in this column")),
                ("right", say("stage"), say("Show the stage in this column")),
            ],
            self,
        )
        for button in self.tabs.buttons.values():
            tip(button, button.toolTip(), "columns")
        self.tabs.show_choice("right")
        self.tabs.chosen.connect(lambda _: self._place_parts())
        self.setMinimumSize(_NARROWEST)
        self._wide = [_LEFT, _RIGHT]
        self._edges = [_Edge(self), _Edge(self)]
        for side, edge in enumerate(self._edges):
            edge.dragged.connect(lambda x, k=side: self._drag_edge(k, x))
            edge.dropped.connect(self.resized)

    def take(self, parts: Parts) -> None:
        """Place these parts from now on; those that were made in here need not be moved, which is slow."""
        self._parts = parts
        for part in (getattr(parts, each.name) for each in fields(parts)):
            if part.parent() is not self:
                part.setParent(self)

    @property
    def is_folded(self) -> bool:
        """Whether the side columns share one place."""
        return self.width() < FOLDED_BELOW

    @property
    def widths(self) -> tuple[int, int]:
        """How wide the side columns are wanted."""
        return self._wide[0], self._wide[1]

    def set_widths(self, left: int, right: int) -> None:
        """Make the side columns so wide, as far as there is room and their words allow."""
        self._wide = [max(_LEAST_LEFT, left), max(_LEAST_RIGHT, right)]
        self._place_parts()

    def widen(self, side: int, by: int) -> None:
        """Make the left (0) or the right (1) column wider by so many pixels, or narrower."""
        wide = self._fit_columns_in()
        wide[side] += by
        self.set_widths(*wide)
        self.resized.emit()

    def _drag_edge(self, side: int, x: int) -> None:
        wide = self._fit_columns_in()
        wide[side] = x if side == 0 else self.width() - x
        self.set_widths(*wide)

    def _fit_columns_in(self) -> list[int]:
        """Return how wide the side columns are: as wanted, where that leaves the middle its room."""
        left = min(self._wide[0], max(_LEAST_LEFT, self.width() - self._wide[1] - _LEAST_MIDDLE))
        return [left, min(self._wide[1], max(_LEAST_RIGHT, self.width() - left - _LEAST_MIDDLE))]

    def show_column(self, key: str) -> None:
        """Bring the `left` or the `right` column to the front where they share one place."""
        self.tabs.show_choice(key)
        self._place_parts()

    def turn_column(self) -> None:
        """Bring the other column to the front."""
        self.show_column("left" if self.tabs.choice == "right" else "right")

    def place(self) -> None:
        """Place everything anew: something came or went."""
        self._place_parts()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Place everything anew."""
        was = event.oldSize().width()
        self._place_parts()
        if (was < FOLDED_BELOW) != self.is_folded or was < 0:
            self.folded.emit(self.is_folded)

    def _place_parts(self) -> None:
        parts = self._parts
        if parts is None:
            return  # nothing is taken yet
        wide, high = self.width(), self.height()
        folded = self.is_folded
        left, right = self._fit_columns_in()
        title = min(_LEFT, left, wide // 4) if folded else left
        parts.title.setGeometry(0, 0, title, _TOP)
        parts.ruler.setGeometry(title, 0, wide - title - _FIND, _TOP)
        parts.find.setGeometry(wide - _FIND, 0, _FIND, _TOP)
        parts.strip.setGeometry(0, high - _STRIP, wide, _STRIP)
        tray = 0 if parts.tray.isHidden() else parts.tray.height()
        parts.tray.setGeometry(0, high - _STRIP - tray, wide, parts.tray.height())
        body = QRect(0, _TOP, wide, high - _TOP - _STRIP - tray)
        parts.opening.setGeometry(body)
        self.tabs.setVisible(folded)
        if not folded:
            parts.left.setGeometry(0, body.top(), left, body.height())
            parts.right.setGeometry(wide - right, body.top(), right, body.height())
            parts.middle.setGeometry(left + 1, body.top(), wide - left - right - 2, body.height())
        else:
            right = _RIGHT
            column = QRect(wide - right, body.top(), right, body.height())
            self.tabs.setGeometry(column.left() + 14, column.top() + 6, right - 28, _TABS - 8)
            for part in (parts.left, parts.right):
                part.setGeometry(column.adjusted(0, _TABS, 0, 0))
            parts.middle.setGeometry(0, body.top(), wide - right - 1, body.height())
        for edge, x in zip(self._edges, (left, wide - right - 1), strict=True):
            edge.setGeometry(x - _EDGE // 2, body.top(), _EDGE, body.height())
            edge.setVisible(not folded)
            edge.raise_()
        parts.opening.raise_()
        parts.left.setVisible(not folded or self.tabs.choice == "left")
        parts.right.setVisible(not folded or self.tabs.choice == "right")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the ground of the shared column, and one hairline between regions."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("card"))
        if self._parts is None:
            return
        painter.setPen(QPen(colour("line"), 1))
        middle = self._parts.middle.geometry()
        for x in [middle.right() + 1.5, *([] if self.is_folded else [middle.left() - 0.5])]:
            painter.drawLine(QPointF(x, _TOP), QPointF(x, middle.bottom() + 1))


class _Edge(QWidget):
    """The line between two regions, to be taken hold of."""

    dragged = Signal(int)  # an x of the frame
    dropped = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setCursor(Qt.CursorShape.SplitHCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        self.setObjectName("clear")
        self.setToolTip(say("Drag to make the column wider or narrower"))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self.dragged.emit(self.mapToParent(event.position().toPoint()).x())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.dropped.emit()
