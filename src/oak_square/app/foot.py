"""The foot of the view: where the pointer is, the grid's spacing, and the last thing that was said."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QHBoxLayout, QLabel, QWidget

from oak_square.core.lengths import format_length

__all__ = ["Foot"]

_SAID_MS = 6000


class Foot(QWidget):
    """Shows facts in words; sends nothing."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(30)
        self._point, self._grid, self.words = QLabel(self), QLabel(self), QLabel(self)
        self._point.setMinimumWidth(230)
        self._point.setToolTip("Where the pointer is on the model or the ground, in world coordinates")
        self._grid.setToolTip("The distance between two lines of the ground grid")
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 0, 12, 0)
        line.setSpacing(18)
        line.addWidget(self._grid)
        line.addWidget(self._point)
        line.addStretch(1)
        line.addWidget(self.words)
        for label in (self._point, self._grid, self.words):
            label.setProperty("role", "soft")
        self._timer = QTimer(self, singleShot=True, interval=_SAID_MS)
        self._timer.timeout.connect(self.words.clear)

    def show_point(self, point: object, unit: str) -> None:
        """Show a world point, shape (3,) metres, or none."""
        if point is None:
            self._point.setText("")
            return
        x, y, z = (format_length(float(v), unit) for v in point)  # type: ignore[attr-defined]
        self._point.setText(f"x {x}   y {y}   z {z}")

    def show_grid(self, spacing: float, unit: str) -> None:
        """Show the grid's spacing, metres."""
        self._grid.setText(f"grid {format_length(spacing, unit)}")

    def say(self, text: str) -> None:
        """Show a line for a while."""
        self.words.setText(text)
        self._timer.start()
