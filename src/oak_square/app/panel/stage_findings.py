"""What is left to settle at a stage, a line each, with the step that settles it one press away."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QPushButton, QSizePolicy, QWidget

from oak_square.app.facts.findings import FindingGroup
from oak_square.app.widgets.controls import APART
from oak_square.app.widgets.fields import column, section
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.theme import colour, font
from oak_square.core.words import counted, say

__all__ = ["StageFindings"]

_HIGH = 24


class _Line(QAbstractButton):
    """A finding on one line; a click selects the assets that have it."""

    def __init__(self, group: FindingGroup, parent: QWidget) -> None:
        super().__init__(parent)
        self._level = group.level
        self.setText(f"{group.title} · {counted(len(group.files), 'asset')}")
        self.setToolTip(f"{group.why}\n{group.example}\n{say('Click to select every asset that has it')}")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(120, _HIGH)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_mark(painter, QRectF(1, _HIGH / 2 - 5, 10, 10), self._level)
        painter.setFont(font(12))
        painter.setPen(colour("ink"))
        room = QRectF(self.rect()).adjusted(18, 0, -2, 0)
        shown = QFontMetrics(painter.font()).elidedText(self.text(), Qt.TextElideMode.ElideRight, int(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignVCenter, shown)
        if self.hasFocus():
            painter.setPen(colour("oak-deep"))
            painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))


class StageFindings(QWidget):
    """Lists them; wishes to settle one, or to select those that have it."""

    settle_wished = Signal(str)
    show_wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setProperty(APART, True)
        self._rows = column(self, 2)
        self._rows.addWidget(section(say("left to settle here"), self))
        self._shown: tuple[FindingGroup, ...] = ()
        self._lines: list[QWidget] = []
        self.settles: dict[str, QPushButton] = {}

    def show_groups(self, groups: Sequence[FindingGroup]) -> None:
        """Match the lines to `groups`; hidden when there is none."""
        self.setVisible(bool(groups))
        if tuple(groups) == self._shown:
            return
        self._shown = tuple(groups)
        for line in self._lines:
            self._rows.removeWidget(line)
            line.hide()
            line.deleteLater()
        self.settles.clear()
        self._lines = [self._make_line(g) for g in groups]
        for line in self._lines:
            self._rows.addWidget(line)

    def _make_line(self, group: FindingGroup) -> QWidget:
        line = QWidget(self)
        row = QHBoxLayout(line)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        words = _Line(group, line)
        words.clicked.connect(lambda _=False: self.show_wished.emit(group.code))
        row.addWidget(words, 1)
        if group.settles:
            button = QPushButton(say("Settle"), line)
            button.setProperty("role", "small")
            button.setAccessibleName(say("Settle: {title}", title=group.title))
            button.setToolTip(say("Try the step that settles it for all of them"))
            button.clicked.connect(lambda _=False: self.settle_wished.emit(group.code))
            row.addWidget(button)
            self.settles[group.code] = button
        return line
