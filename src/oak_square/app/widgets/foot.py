"""The foot of the view: where the pointer is, the grid's spacing, and the last thing that was said."""

from __future__ import annotations

from PySide6.QtCore import QElapsedTimer, Qt, QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QProgressBar, QPushButton, QSizePolicy, QWidget

from oak_square.app.widgets.unit_menu import UnitButton
from oak_square.core.shown_units import Shown

__all__ = ["Foot"]

_SAID_MS = 6000
_MOMENT_S = 0.4


class Foot(QWidget):
    """Shows facts in words, and how far long work is; wishes only to stop it."""

    stop_wished = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(30)
        self._point, self._grid, self.centre, self.words = (QLabel(self) for _ in range(4))
        self._point.setMinimumWidth(180)
        self._point.setToolTip("Where the pointer is on the model or the ground, in world coordinates")
        self._grid.setToolTip("The distance between two lines of the ground grid")
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 0, 12, 0)
        line.setSpacing(18)
        self.unit = UnitButton(self)
        line.addWidget(self.unit)
        line.addWidget(self._grid)
        line.addWidget(self._point)
        self.centre.setToolTip("What stays in place while what is tried moves all else about it")
        line.addWidget(self.centre)
        # Long words give way; they never widen the window.
        self.words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        line.addWidget(self.words, 1)
        for label in (self._point, self._grid, self.centre, self.words):
            label.setProperty("role", "soft")
        self.bar = QProgressBar(self)
        self.bar.setFixedWidth(170)
        self.stop = QPushButton("Stop", self)
        self.stop.setProperty("role", "small")
        self.stop.setToolTip("Read no more files; what is read stays")
        self.stop.clicked.connect(self.stop_wished)
        line.addWidget(self.bar)
        line.addWidget(self.stop)
        self.bar.hide()
        self.stop.hide()
        self._since = QElapsedTimer()
        self._timer = QTimer(self, singleShot=True, interval=_SAID_MS)
        self._timer.timeout.connect(self.words.clear)

    def show_point(self, point: object, unit: Shown) -> None:
        """Show a world point, shape (3,) metres, or none."""
        if point is None:
            self._point.setText("")
            return
        x, y, z = (unit.length(float(v)) for v in point)  # type: ignore[attr-defined]
        self._point.setText(f"x {x}   y {y}   z {z}")

    def show_grid(self, spacing: float, unit: Shown) -> None:
        """Show the grid's spacing, metres."""
        self._grid.setText(f"grid {unit.mark(spacing)}")

    def show_centre(self, words: str) -> None:
        """Say what stays in place; empty where nothing is turned or sized."""
        self.centre.setText(f"stays: {words}" if words else "")
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
        elapsed = self._since.elapsed() / 1000
        self.bar.setVisible(elapsed > _MOMENT_S)
        self.stop.setVisible(elapsed > _MOMENT_S and word == "reading")
        left = elapsed / done * (total - done) if done else 0.0
        self.bar.setRange(0, total)
        self.bar.setValue(done)
        self.bar.setFormat(f"{word} {done} of {total}" + (f", {left:.0f} s left" if left >= 1 else ""))

    def say(self, text: str) -> None:
        """Show a line for a while."""
        self.words.setText(text)
        self.words.setToolTip(text)
        self._timer.start()
