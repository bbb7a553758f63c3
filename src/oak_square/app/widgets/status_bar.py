"""The foot of the view: where the pointer is, the grid's spacing, and the last thing that was said."""

from __future__ import annotations

from datetime import datetime

from PySide6.QtCore import QElapsedTimer, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QProgressBar, QSizePolicy, QWidget

from oak_square.app.widgets.actions import tip
from oak_square.app.widgets.fields import push_button
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.pace import Pace
from oak_square.app.widgets.theme import colour, font
from oak_square.app.widgets.unit_menu import UnitButton
from oak_square.core.shown_units import ShownUnit
from oak_square.core.words import say

__all__ = ["StatusBar"]

_SAID_MS = 6000
_MOMENT_S = 0.4
_MOST_NOTED = 200


class StatusBar(QWidget):
    """Shows facts in words, and how far long work is; wishes only to stop it."""

    stop_wished = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(30)
        self._point, self._grid, self.centre = (QLabel(self) for _ in range(3))
        self.words = _Said(self)
        self.words.clicked.connect(self.take_as_read)
        self._point.setMinimumWidth(180)
        self._point.setToolTip(say("Where the pointer is on the model or the ground, in world coordinates"))
        self._grid.setToolTip(say("The distance between two lines of the ground grid"))
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 0, 12, 0)
        line.setSpacing(18)
        self.unit = UnitButton(self)
        line.addWidget(self.unit)
        line.addWidget(self._grid)
        line.addWidget(self._point)
        self.centre.setToolTip(say("What stays in place while what is tried moves all else about it"))
        line.addWidget(self.centre)
        line.addWidget(self.words, 1)
        for label in (self._point, self._grid, self.centre):
            label.setProperty("role", "soft")
        self.bar = QProgressBar(self)
        self.bar.setFixedWidth(170)
        self.stop = push_button(say("Stop"), say("Read no more files; what is read stays"), self)
        self.stop.clicked.connect(self.stop_wished)
        line.addWidget(self.bar)
        line.addWidget(self.stop)
        self.bar.hide()
        self.stop.hide()
        self.log: list[tuple[str, str, bool]] = []
        """What was said: when, what, and whether it tells what went wrong."""
        self.unread = 0
        self._pace = Pace()
        self._since = QElapsedTimer()
        self._timer = QTimer(self, singleShot=True, interval=_SAID_MS)
        self._timer.timeout.connect(self.take_as_read)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Let go of what can be spared where there is little room: what was said comes first."""
        self._grid.setVisible(self.width() > 420)
        self._point.setVisible(self.width() > 620)

    def show_point(self, point: object, unit: ShownUnit) -> None:
        """Show a world point, shape (3,) metres, or none."""
        if point is None:
            self._point.setText("")
            return
        values = [float(v) for v in point]  # type: ignore[attr-defined]
        # One unit for all three, so that they can be read as one.
        alike = unit.fixed_for(max(map(abs, values)))
        x, y, z = (alike.length(v) for v in values)
        self._point.setText(f"x {x}   y {y}   z {z}")

    def show_grid(self, spacing: float, unit: ShownUnit) -> None:
        """Show the grid's spacing, metres."""
        self._grid.setText(say("grid {mark}", mark=unit.mark(spacing)))

    def show_centre(self, words: str) -> None:
        """Say what stays in place; empty where nothing is turned or sized."""
        self.centre.setText(say("stays: {words}", words=words) if words else "")
        self.centre.setVisible(bool(words))

    def show_progress(self, progress: tuple[str, int, int] | None) -> None:
        """Show what is under way, asset by asset, once it takes longer than a moment; or nothing."""
        if progress is None:
            self._since.invalidate()
            self.bar.hide()
            self.stop.hide()
            return
        word, done, total = progress
        if not self._since.isValid():
            self._since.start()
            self._pace = Pace()
        elapsed = self._since.elapsed() / 1000
        self.bar.setVisible(elapsed > _MOMENT_S)
        self.stop.setVisible(elapsed > _MOMENT_S and word == "reading")
        self.bar.setRange(0, total)
        self.bar.setValue(done)
        self.bar.setFormat(
            say(
                "{word} {done} of {total}{words}",
                word=word,
                done=done,
                total=total,
                words=self._pace.words(done, total),
            )
        )

    def say(self, text: str) -> None:
        """Show a line for a while; behind one that went wrong and is not read yet, it is only noted."""
        self.log.append((datetime.now().strftime("%H:%M:%S"), text, False))
        del self.log[:-_MOST_NOTED]
        if not self.unread:
            self._show_text(text)
            self._timer.start()

    def fail(self, text: str) -> None:
        """Show what went wrong until it is read."""
        self.log.append((datetime.now().strftime("%H:%M:%S"), text, True))
        del self.log[:-_MOST_NOTED]
        self.unread += 1
        self._timer.stop()
        self._show_text(text)

    def take_as_read(self) -> None:
        """Let go of what went wrong."""
        self.unread = 0
        self._timer.stop()
        self._show_text("")

    def _show_text(self, text: str) -> None:
        more = say("  (and {unread} more)", unread=self.unread - 1) if self.unread > 1 else ""
        self.words.show_words(text + more, failed=bool(self.unread))


class _Said(QAbstractButton):
    """The line itself: words that give way to the left, with a mark before them when something went wrong."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        # Long words give way; they never widen the window.
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.setMinimumWidth(40)
        self._failed = False

    def show_words(self, text: str, *, failed: bool) -> None:
        self.setText(text)
        self._failed = failed
        words = (
            say("Click to take it as read; all that was said is on a list")
            if failed
            else say("All that was said is on a list")
        )
        tip(self, f"{text}\n{words}" if text else "", "said" if text else "")
        self.setAccessibleName(text)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus if failed else Qt.FocusPolicy.NoFocus)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect())
        metrics = QFontMetrics(font(12))
        left = 16 if self._failed else 0
        shown = metrics.elidedText(self.text(), Qt.TextElideMode.ElideRight, int(room.width()) - left)
        if self._failed:
            x = room.right() - metrics.horizontalAdvance(shown) - left
            draw_mark(painter, QRectF(x, room.center().y() - 4.5, 9, 9), "fix")
        painter.setFont(font(12))
        painter.setPen(colour("fix" if self._failed else "ink-soft"))
        painter.drawText(room, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, shown)
        if self.hasFocus():
            painter.setPen(colour("oak-deep"))
            painter.drawRect(room.adjusted(0.5, 3.5, -0.5, -3.5))
