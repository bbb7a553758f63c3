"""The stage ruler: the seven stages as segments of a graduated rule, each with what it has still to settle."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import QEvent, QPointF, QRectF, QSignalBlocker, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QTabBar, QToolTip, QWidget

from oak_square.app.widgets.theme import colour, font
from oak_square.core.stages import STAGE_HELP, STAGES, stage_name
from oak_square.core.words import say

__all__ = ["StageRuler"]

_TICKS = 12


class StageRuler(QTabBar):
    """Draws the stages; a click, or left and right with the keyboard, wishes for one.

    To a screen reader it is the row of tabs that it is; all that is seen of it is drawn here.
    """

    stage_wished = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(48)
        self.setAccessibleName(say("Stages"))
        self._current = STAGES[0]
        self._notes: Mapping[str, str] = {}
        self._under: str | None = None
        self.setMouseTracking(True)
        self.setDrawBase(False)
        self.setUsesScrollButtons(False)
        with QSignalBlocker(self):
            for stage in STAGES:
                self.addTab(stage_name(stage))

    def sizeHint(self) -> QSize:
        """Wide enough for the seven words."""
        return QSize(640, 48)

    def minimumSizeHint(self) -> QSize:
        """As narrow as the window may be."""
        return QSize(0, 48)

    def tabSizeHint(self, index: int) -> QSize:
        """An equal share of the rule."""
        return QSize(max(1, self.width() // len(STAGES)), self.height())

    def show_stages(self, current: str, notes: Mapping[str, str]) -> None:
        """Show which stage is current, and a few words under each."""
        self._current, self._notes = current, notes
        with QSignalBlocker(self):
            self.setCurrentIndex(STAGES.index(current))
            for k, stage in enumerate(STAGES):
                self.setTabText(k, f"{stage_name(stage)}, {self.note(stage)}".removesuffix(", "))
        self.update()

    def segment(self, stage: str) -> QRectF:
        """Return where a stage's segment is."""
        each = self.width() / len(STAGES)
        return QRectF(STAGES.index(stage) * each, 0, each, self.height())

    def note(self, stage: str) -> str:
        """Return the words under a stage."""
        return self._notes.get(stage, "")

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the rule, the current stage standing proud in oak."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour("card"))
        for stage in STAGES:
            self._paint_stage(painter, stage)
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(QPointF(0, self.height() - 0.5), QPointF(self.width(), self.height() - 0.5))

    def _paint_stage(self, painter: QPainter, stage: str) -> None:
        room = self.segment(stage)
        current = stage == self._current
        if current:
            painter.fillRect(room, colour("oak-deep"))
        elif stage == self._under:
            painter.fillRect(room, colour("oak-pale", 110))
        painter.setPen(QPen(colour("oak", 160) if not current else colour("oak-pale"), 1))
        for k in range(_TICKS):
            x = room.left() + 0.5 + k * room.width() / _TICKS
            painter.drawLine(QPointF(x, room.bottom() - (9 if k == _TICKS // 2 else 5)), QPointF(x, room.bottom()))
        painter.setPen(QPen(colour("oak"), 1))
        painter.drawLine(QPointF(room.left() + 0.5, 0), QPointF(room.left() + 0.5, room.bottom()))
        ink = colour("card") if current else colour("ink")
        painter.setPen(ink)
        painter.setFont(font(13, semibold=current))
        text = room.adjusted(11, 5, -4, 0)
        painter.drawText(text, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, stage_name(stage))
        painter.setFont(font(11))
        painter.setPen(ink if current else colour("ink-soft"))
        note = QFontMetrics(font(11)).elidedText(self.note(stage), Qt.TextElideMode.ElideRight, int(text.width()))
        painter.drawText(text.adjusted(0, 18, 0, 0), Qt.AlignmentFlag.AlignLeft, note)
        if current and self.hasFocus():
            painter.setPen(QPen(colour("ink"), 1))
            painter.drawRect(room.adjusted(1.5, 1.5, -1.5, -1.5))

    def _stage_at(self, x: float) -> str:
        return STAGES[min(len(STAGES) - 1, max(0, int(x / self.width() * len(STAGES))))]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Wish for the stage under the pointer."""
        if event.button() == Qt.MouseButton.LeftButton:
            self.stage_wished.emit(self._stage_at(event.position().x()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Nothing more: the press was the wish."""

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Show what a click would take."""
        self._under = self._stage_at(event.position().x())
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        """The pointer is elsewhere."""
        self._under = None
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right walk the stages."""
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        index = STAGES.index(self._current) + step
        if 0 <= index < len(STAGES):
            self.stage_wished.emit(STAGES[index])

    def event(self, event: QEvent) -> bool:
        """Say in a tooltip what a stage is for, and its key."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            stage = self._stage_at(event.pos().x())
            text = f"{STAGE_HELP[stage]}\nAlt+{STAGES.index(stage) + 1}"
            QToolTip.showText(event.globalPos(), text, self)
            return True
        return super().event(event)
