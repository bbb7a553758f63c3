"""A card of the tour, beside what it speaks of, and the line around that."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from oak_square.app.widgets.fields import push_button
from oak_square.app.widgets.theme import colour
from oak_square.core.words import say

__all__ = ["TourCard"]

_WIDE, _GAP = 330, 12


class TourCard(QFrame):
    """Says a few words; wishes to go on, back, or to leave. The window can be worked meanwhile."""

    on_wished = Signal()
    back_wished = Signal()
    leave_wished = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._window = parent
        self.setObjectName("tour")
        self.setFixedWidth(_WIDE)
        self._around = _Around(parent)
        self._number = QLabel(self)
        self._number.setProperty("role", "section")
        self.title, self.text = QLabel(self), QLabel(self)
        self.title.setProperty("role", "heading")
        for label in (self.title, self.text):
            label.setWordWrap(True)
        self.back = push_button(say("Back", "a step"), say("The step before"), self)
        self.leave = push_button(say("Leave the tour  Esc"), say("Leave it; all stays as it is"), self)
        self.on = push_button(say("Next"), say("The next step"), self)
        self.on.setProperty("role", "primary")
        line = QHBoxLayout()
        line.addWidget(self.leave)
        line.addStretch(1)
        line.addWidget(self.back)
        line.addWidget(self.on)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 12, 16, 14)
        rows.setSpacing(8)
        for part in (self._number, self.title, self.text):
            rows.addWidget(part)
        rows.addSpacing(4)
        rows.addLayout(line)
        self.on.clicked.connect(lambda _=False: self.on_wished.emit())
        self.back.clicked.connect(lambda _=False: self.back_wished.emit())
        self.leave.clicked.connect(lambda _=False: self.leave_wished.emit())
        self.hide()

    def show_step(self, k: int, total: int, title: str, text: str) -> None:
        """Say what the `k`th step says, from 0."""
        self._number.setText(say("the tour, {k} of {total}", k=k + 1, total=total))
        self.title.setText(title)
        self.text.setText(text)
        self.back.setEnabled(k > 0)
        self.on.setText(say("Next") if k + 1 < total else say("Done"))
        self.setAccessibleName(say("Tour, {k} of {total}: {title}", k=k + 1, total=total, title=title))
        self.show()

    def stand_by(self, target: QWidget) -> None:
        """Stand beside what is spoken of, within the window, and draw a line around that."""
        room = QRect(target.mapTo(self._window, QPoint(0, 0)), target.size())
        self.adjustSize()
        self.resize(_WIDE, self.heightForWidth(_WIDE) if self.hasHeightForWidth() else self.height())
        wide, high = self._window.width(), self._window.height()
        if room.right() + _GAP + self.width() <= wide:
            x, y = room.right() + _GAP, room.top()
        elif room.left() - _GAP - self.width() >= 0:
            x, y = room.left() - _GAP - self.width(), room.top()
        else:
            x = (wide - self.width()) // 2
            below = room.bottom() + _GAP + self.height() <= high
            y = room.bottom() + _GAP if below else room.top() - _GAP - self.height()
        self.move(max(8, min(x, wide - self.width() - 8)), max(8, min(y, high - self.height() - 8)))
        self._around.setGeometry(room.adjusted(-3, -3, 3, 3).intersected(self._window.rect()))
        self._around.show()
        self._around.raise_()
        self.raise_()

    def end(self) -> None:
        """Go."""
        self.hide()
        self._around.hide()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("card"))
        painter.fillRect(0, 0, 4, self.height(), colour("oak"))
        painter.setPen(QPen(colour("oak-deep"), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


class _Around(QWidget):
    """A line around something, through which it is worked as ever."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        self.setObjectName("clear")
        self.hide()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("oak"), 3))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5), 4, 4)
