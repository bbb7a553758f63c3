"""The unit question as a short table: each unit it could be, the size that would give, and what speaks for it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy, QVBoxLayout, QWidget

from oak_square.app.facts.units import CandidateRow
from oak_square.app.widgets.theme import colour, font

__all__ = ["Candidates"]

_ROW = 26


class _CandidateRow(QAbstractButton):
    def __init__(self, row: CandidateRow, parent: QWidget) -> None:
        super().__init__(parent)
        self.row = row
        self.setText(row.word)
        self.setToolTip(row.tip)
        self.setAccessibleDescription(f"{row.size}, {row.says}")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)

    def sizeHint(self) -> QSize:
        return QSize(240, _ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        room = QRectF(self.rect())
        if self.row.holds:
            painter.fillRect(room, colour("oak-pale"))
        elif self.underMouse():
            painter.fillRect(room, colour("oak-pale", 90))
        # The share as a quiet bar along the bottom: how much of the evidence this unit has.
        painter.fillRect(QRectF(0, room.height() - 3, room.width() * self.row.share, 2), colour("oak"))
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
        inner = room.adjusted(6, 0, -6, -2)
        painter.setPen(colour("ink"))
        painter.setFont(font(12, semibold=True))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(inner, middle | Qt.AlignmentFlag.AlignLeft, self.row.word)
        painter.setFont(font(12))
        painter.drawText(
            inner.adjusted(0, 0, -inner.width() * 0.44, 0), middle | Qt.AlignmentFlag.AlignRight, self.row.size
        )
        painter.setPen(colour("ink-soft"))
        room_left = inner.width() * 0.44 - 12
        says = QFontMetricsF(painter.font()).elidedText(self.row.says, Qt.TextElideMode.ElideRight, room_left)
        painter.drawText(inner, middle | Qt.AlignmentFlag.AlignRight, says)
        if self.hasFocus():
            painter.setPen(QPen(colour("oak-deep"), 1))
            painter.drawRect(room.adjusted(0.5, 0.5, -1, -1))


class Candidates(QWidget):
    """Shows them, likeliest first; wishes for one."""

    unit_wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self.rows: tuple[CandidateRow, ...] = ()
        self.buttons: dict[str, QAbstractButton] = {}

    def show_rows(self, rows: Sequence[CandidateRow]) -> None:
        """Match the table to `rows`."""
        if tuple(rows) == self.rows:
            return
        focused = next((unit for unit, b in self.buttons.items() if b.hasFocus()), None)
        self.rows = tuple(rows)
        for button in self.buttons.values():
            button.hide()
            button.deleteLater()
        self.buttons = {}
        for row in rows:
            button = _CandidateRow(row, self)
            button.clicked.connect(lambda _=False, unit=row.unit: self.unit_wished.emit(unit))
            self.buttons[row.unit] = button
            self._column.addWidget(button)
            button.show()  # at once: a layout would do so only in a later turn of the event loop
            if row.unit == focused:
                button.setFocus(Qt.FocusReason.OtherFocusReason)
        self.setFixedHeight(_ROW * len(rows))
