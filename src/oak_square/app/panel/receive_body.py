"""Receive: what is not true of the batch, finding by finding, and the step that settles each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from oak_square.app.marks import draw_mark
from oak_square.app.panel.body import Body
from oak_square.app.panel.fields import column, rule, soft

__all__ = ["FindingGroup", "ReceiveBody"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingGroup:
    """One kind of finding over the batch.

    Attributes
    ----------
    code, level, title, why : str
    example : str
        What it says of the asset looked at, or of the first one.
    files : tuple of str
        Who has it.
    settles : bool
        Whether a step can settle it.
    """

    code: str
    level: str
    title: str
    why: str
    example: str
    files: tuple[str, ...]
    settles: bool


class _Mark(QWidget):
    def __init__(self, level: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._level = level
        self.setFixedSize(QSize(12, 18))

    def paintEvent(self, event: QPaintEvent) -> None:
        draw_mark(QPainter(self), QRectF(1, 4, 10, 10), self._level)


class _Group(QFrame):
    """One finding: its mark, how many have it, what it means, and the way to its step."""

    settle_wished = Signal(str)
    show_wished = Signal(str)

    def __init__(self, group: FindingGroup, parent: QWidget) -> None:
        super().__init__(parent)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 10, 0, 0)
        rows.setSpacing(5)
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(_Mark(group.level, self))
        count = len(group.files)
        title = QLabel(f"<b>{count}</b> {'asset' if count == 1 else 'assets'}: {group.title}", self)
        title.setWordWrap(True)
        head.addWidget(title, 1)
        rows.addLayout(head)
        example = QLabel(group.example, self)
        example.setWordWrap(True)
        example.setTextFormat(Qt.TextFormat.PlainText)
        rows.addWidget(example)
        rows.addWidget(soft(group.why, self))
        row = QHBoxLayout()
        row.setSpacing(6)
        for key, word, tip, signal in (
            ("settle", "Settle", "Go to its stage with the step that settles it for all of them", self.settle_wished),
            ("show", "Select them", "Select every asset that has it", self.show_wished),
        ):
            if key == "settle" and not group.settles:
                continue
            button = QPushButton(word, self)
            button.setProperty("role", "small")
            button.setObjectName(f"{key}-{group.code}")
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, s=signal: s.emit(group.code))
            row.addWidget(button)
        row.addStretch(1)
        rows.addLayout(row)
        rows.addSpacing(6)
        rows.addWidget(rule(self))


class ReceiveBody(Body):
    """The findings that are left, gravest first."""

    stage = "receive"
    settle_wished = Signal(str)
    show_wished = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 4)
        self.summary = soft("", self)
        rows.addWidget(self.summary)
        self._area = QScrollArea(self)
        self._area.setWidgetResizable(True)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        rows.addWidget(self._area, 1)
        self._shown: tuple[FindingGroup, ...] | None = None

    def show_findings(self, groups: Sequence[FindingGroup], summary: str) -> None:
        """Match the list to `groups`; the place it was scrolled to stays."""
        self.summary.setText(summary)
        if tuple(groups) == self._shown:
            return
        self._shown = tuple(groups)
        place = self._area.verticalScrollBar().value()
        inner = QWidget(self._area)
        rows = column(inner, 0)
        rows.setContentsMargins(0, 0, 8, 0)
        for group in groups:
            widget = _Group(group, inner)
            widget.settle_wished.connect(self.settle_wished)
            widget.show_wished.connect(self.show_wished)
            rows.addWidget(widget)
        self._area.setWidget(inner)
        self._area.verticalScrollBar().setValue(place)
