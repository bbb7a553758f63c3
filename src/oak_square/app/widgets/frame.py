"""How the window is laid out: the rule along the top, two columns beside the view, the sheet along the bottom."""

from __future__ import annotations

from dataclasses import dataclass, fields

from PySide6.QtCore import QPointF, QRect, QSize, Signal
from PySide6.QtGui import QGuiApplication, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QWidget

from oak_square.app.widgets.fields import Choices
from oak_square.app.widgets.theme import colour

__all__ = ["FOLDED_BELOW", "Frame", "Parts", "opening_size"]

FOLDED_BELOW = 1100
"""Pixels of width below which the two side columns share one place, behind tabs."""

_LEFT, _RIGHT, _TOP, _STRIP, _TABS, _FIND = 262, 306, 48, 76, 38, 74
_NARROWEST = QSize(800, 480)


def opening_size(screen: QSize) -> QSize:
    """Return how large the window opens: as it is meant to be seen, and no larger than the screen.

    Without a display there is no screen to keep to: what the offscreen platform says of its own is not one.
    """
    wanted = QSize(1280, 800)
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


class Frame(QWidget):
    """Places the parts it is given; folds the side columns to tabs where there is little room."""

    folded = Signal(bool)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._parts: Parts | None = None
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

    def show_column(self, key: str) -> None:
        """Bring the `left` or the `right` column to the front where they share one place."""
        self.tabs.show_choice(key)
        self._place()

    def turn_column(self) -> None:
        """Bring the other column to the front."""
        self.show_column("left" if self.tabs.choice == "right" else "right")

    def place(self) -> None:
        """Place everything anew: something came or went."""
        self._place()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Place everything anew."""
        was = event.oldSize().width()
        self._place()
        if (was < FOLDED_BELOW) != self.is_folded or was < 0:
            self.folded.emit(self.is_folded)

    def _place(self) -> None:
        parts = self._parts
        if parts is None:
            return  # nothing is taken yet
        wide, high = self.width(), self.height()
        folded = self.is_folded
        title = min(_LEFT, wide // 4)
        parts.title.setGeometry(0, 0, title, _TOP)
        parts.ruler.setGeometry(title, 0, wide - title - _FIND, _TOP)
        parts.find.setGeometry(wide - _FIND, 0, _FIND, _TOP)
        parts.strip.setGeometry(0, high - _STRIP, wide, _STRIP)
        tray = 0 if parts.tray.isHidden() else parts.tray.height()
        parts.tray.setGeometry(0, high - _STRIP - tray, wide, parts.tray.height())
        body = QRect(0, _TOP, wide, high - _TOP - _STRIP - tray)
        self.tabs.setVisible(folded)
        if not folded:
            parts.left.setGeometry(0, body.top(), _LEFT, body.height())
            parts.right.setGeometry(wide - _RIGHT, body.top(), _RIGHT, body.height())
            parts.middle.setGeometry(_LEFT + 1, body.top(), wide - _LEFT - _RIGHT - 2, body.height())
        else:
            column = QRect(wide - _RIGHT, body.top(), _RIGHT, body.height())
            self.tabs.setGeometry(column.left() + 14, column.top() + 6, _RIGHT - 28, _TABS - 8)
            for part in (parts.left, parts.right):
                part.setGeometry(column.adjusted(0, _TABS, 0, 0))
            parts.middle.setGeometry(0, body.top(), wide - _RIGHT - 1, body.height())
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
