"""Receive: what is not true of the batch, finding by finding, and the step that settles each."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from oak_square.app.facts.findings import FindingGroup
from oak_square.app.panel.body import Body
from oak_square.app.widgets.controls import APART
from oak_square.app.widgets.fields import column, rule, soft
from oak_square.app.widgets.marks import draw_mark
from oak_square.core.words import one_or_many, say

__all__ = ["ReceiveBody"]

_MADE_AT_ONCE = 4


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
        self._title = QLabel(self)
        self._title.setWordWrap(True)
        head.addWidget(self._title, 1)
        rows.addLayout(head)
        self._example = QLabel(self)
        self._example.setWordWrap(True)
        self._example.setTextFormat(Qt.TextFormat.PlainText)
        rows.addWidget(self._example)
        rows.addWidget(soft(group.why, self))
        row = QHBoxLayout()
        row.setSpacing(6)
        for key, word, tip, signal in (
            (
                "settle",
                say("Settle"),
                say("Go to its stage with the step that settles it for all of them"),
                self.settle_wished,
            ),
            ("show", say("Select them"), say("Select every asset that has it"), self.show_wished),
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
        self.show_group(group)

    def show_group(self, group: FindingGroup) -> None:
        """Say how many have it, and of whom it speaks."""
        count = len(group.files)
        self._title.setText(
            one_or_many(count, "<b>{count}</b> asset: {title}", "<b>{count}</b> assets: {title}", title=group.title)
        )
        self._example.setText(group.example)


class ReceiveBody(Body):
    """The findings that are left, gravest first."""

    stage = "receive"
    settle_wished = Signal(str)
    show_wished = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setProperty(APART, True)
        rows = column(self, 4)
        self.summary = soft("", self)
        rows.addWidget(self.summary)
        self._area = QScrollArea(self)
        self._area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._area.setWidgetResizable(True)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        rows.addWidget(self._area, 1)
        self._inner = QWidget(self._area)
        self._rows = column(self._inner, 0)
        self._rows.setContentsMargins(0, 0, 8, 0)
        self._area.setWidget(self._inner)
        self._wanted: tuple[FindingGroup, ...] = ()
        self._shown: tuple[FindingGroup, ...] = ()
        self._groups: dict[str, _Group] = {}
        self._later = QTimer(self, singleShot=True, interval=0)
        self._later.timeout.connect(self._catch_up)

    @property
    def makes_steps(self) -> bool:
        """Here the batch is looked at as a whole."""
        return False

    def show_findings(self, groups: Sequence[FindingGroup], summary: str) -> None:
        """Match the list to `groups`; the place it is scrolled to stays."""
        self.summary.setText(summary)
        self._wanted = tuple(groups)
        if self._wanted != self._shown:
            self._catch_up()

    def _catch_up(self) -> None:
        """Match a few findings at a time: each widget takes milliseconds, and the window answers meanwhile."""
        codes = [g.code for g in self._wanted]
        for code in [c for c in self._groups if c not in codes]:
            self._groups.pop(code).deleteLater()
        made = 0
        for place, group in enumerate(self._wanted):
            widget = self._groups.get(group.code)
            if widget is None:
                if made == _MADE_AT_ONCE:
                    self._later.start()
                    return
                made += 1
                widget = self._groups[group.code] = _Group(group, self._inner)
                widget.settle_wished.connect(self.settle_wished)
                widget.show_wished.connect(self.show_wished)
            if self._rows.indexOf(widget) != place:
                self._rows.insertWidget(place, widget)
            widget.show_group(group)
        self._shown = self._wanted
