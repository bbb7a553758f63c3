"""How the window is laid out: the rule along the top, two columns beside the view, the sheet along the bottom."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRect, QSize, Signal
from PySide6.QtGui import QGuiApplication, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QWidget

from oak_square.app.widgets.fields import Choices
from oak_square.app.widgets.theme import colour

__all__ = ["FOLDED_BELOW", "Frame", "opening_size"]

FOLDED_BELOW = 1100
"""Pixels of width below which the two side columns share one place, behind tabs."""

_LEFT, _RIGHT, _TOP, _STRIP, _TABS = 262, 306, 48, 76, 38
_NARROWEST = QSize(800, 480)


def opening_size(screen: QSize) -> QSize:
    """Return how large the window opens: as it is meant to be seen, and no larger than the screen.

    Without a display there is no screen to keep to: what the offscreen platform says of its own is not one.
    """
    wanted = QSize(1280, 800)
    return wanted if QGuiApplication.platformName() == "offscreen" else wanted.boundedTo(screen)


class Frame(QWidget):
    """Places the parts it is given; folds the side columns to tabs where there is little room."""

    folded = Signal(bool)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._title: QWidget | None = None
        self.tabs = Choices(
            [
                ("left", "batch", "Show the batch and the hierarchy in this column (F6)"),
                ("right", "stage", "Show the stage in this column (F6)"),
            ],
            self,
        )
        self.tabs.show_choice("right")
        self.tabs.chosen.connect(lambda _: self._place())
        self.setMinimumSize(_NARROWEST)

    def take(
        self, *, title: QWidget, ruler: QWidget, left: QWidget, middle: QWidget, right: QWidget, strip: QWidget
    ) -> None:
        """Place these parts from now on; those that were made in here need not be moved, which is slow."""
        self._title, self._ruler, self._strip = title, ruler, strip
        self._left, self._middle, self._right = left, middle, right
        for part in (title, ruler, left, middle, right, strip):
            if part.parent() is not self:
                part.setParent(self)

    @property
    def is_folded(self) -> bool:
        """Whether the side columns share one place."""
        return self.width() < FOLDED_BELOW

    def show_column(self, key: str) -> None:
        """Bring the `left` or the `right` column to the front where they share one place."""
        self.tabs.show_choice(key)
        self._place()

    def turn_column(self) -> None:
        """Bring the other column to the front."""
        self.show_column("left" if self.tabs.choice == "right" else "right")

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Place everything anew."""
        was = event.oldSize().width()
        self._place()
        if (was < FOLDED_BELOW) != self.is_folded or was < 0:
            self.folded.emit(self.is_folded)

    def _place(self) -> None:
        if self._title is None:
            return  # nothing is taken yet
        wide, high = self.width(), self.height()
        folded = self.is_folded
        title = min(_LEFT, wide // 4)
        self._title.setGeometry(0, 0, title, _TOP)
        self._ruler.setGeometry(title, 0, wide - title, _TOP)
        self._strip.setGeometry(0, high - _STRIP, wide, _STRIP)
        body = QRect(0, _TOP, wide, high - _TOP - _STRIP)
        self.tabs.setVisible(folded)
        if not folded:
            self._left.setGeometry(0, body.top(), _LEFT, body.height())
            self._right.setGeometry(wide - _RIGHT, body.top(), _RIGHT, body.height())
            self._middle.setGeometry(_LEFT + 1, body.top(), wide - _LEFT - _RIGHT - 2, body.height())
        else:
            column = QRect(wide - _RIGHT, body.top(), _RIGHT, body.height())
            self.tabs.setGeometry(column.left() + 14, column.top() + 6, _RIGHT - 28, _TABS - 8)
            for part in (self._left, self._right):
                part.setGeometry(column.adjusted(0, _TABS, 0, 0))
            self._middle.setGeometry(0, body.top(), wide - _RIGHT - 1, body.height())
        self._left.setVisible(not folded or self.tabs.choice == "left")
        self._right.setVisible(not folded or self.tabs.choice == "right")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the ground of the shared column, and one hairline between regions."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("card"))
        painter.setPen(QPen(colour("line"), 1))
        lines = [self._middle.geometry().right() + 1.5]
        lines += [] if self.is_folded else [_LEFT + 0.5]
        for x in lines:
            painter.drawLine(QPointF(x, _TOP), QPointF(x, self.height() - _STRIP))
