"""The bar under the swing check: a slider between the limits, the limits, the axis, by itself, and what was found."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QSlider, QVBoxLayout, QWidget

from oak_square.app.widgets.entries import NumberEdit
from oak_square.app.widgets.fields import Choices
from oak_square.core.errors import BadLength
from oak_square.core.lengths import as_written
from oak_square.core.words import say

__all__ = ["SwingBar"]

_FINE = 10  # slider steps to a degree


class SwingBar(QFrame):
    """Shows how far a part swings; wishes for other angles."""

    changed = Signal(str, float)  # `axis`, `low_deg`, `high_deg` or `angle_deg`, and its value
    play_wished = Signal(bool)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("plate-editor")
        rows = QVBoxLayout(self)
        rows.setContentsMargins(10, 6, 10, 6)
        rows.setSpacing(2)
        line = QHBoxLayout()
        line.setSpacing(8)
        rows.addLayout(line)
        self.axis = Choices([(a, a, say("About its own {a}", a=a)) for a in "xyz"], self, tight=True)
        self.axis.chosen.connect(lambda a: self.changed.emit("axis", float("xyz".index(a))))
        self.low = NumberEdit(say("Swing from"), say("The angle it swings from, degrees"), self)
        self.high = NumberEdit(say("Swing to"), say("The angle it swings to, degrees"), self)
        for edit, key in ((self.low, "low_deg"), (self.high, "high_deg")):
            edit.setFixedWidth(58)
            edit.editingFinished.connect(lambda e=edit, k=key: self._take_limit(e, k))
        self.slider = QSlider(Qt.Orientation.Horizontal, self)
        self.slider.setAccessibleName(say("Angle"))
        self.slider.setToolTip(say("Swing it: nothing changes by that"))
        self.slider.setMinimumWidth(120)
        self.slider.valueChanged.connect(lambda v: self.changed.emit("angle_deg", v / _FINE))
        self.play = QPushButton(say("by itself"), self)
        self.play.setProperty("role", "small")
        self.play.setCheckable(True)
        self.play.setToolTip(say("Let it swing to and fro"))
        self.play.clicked.connect(self.play_wished)
        self.found = QLabel(self)
        self.found.setWordWrap(False)
        for widget in (self.axis, self.low, self.slider, self.high, self.play):
            line.addWidget(widget, 1 if widget is self.slider else 0)
        rows.addWidget(self.found)
        self.hide()

    def _take_limit(self, edit: NumberEdit, key: str) -> None:
        try:
            value = float(as_written(edit.text()).rstrip("° "))
        except (BadLength, ValueError):
            return
        self.changed.emit(key, value)

    def show_swing(self, axis: int, low: float, high: float, angle: float, found: str, *, plays: bool) -> None:
        """Match the bar to a swing, and what its sweep came to."""
        self.axis.show_choice("xyz"[axis])
        self.low.show_text(f"{low:g}")
        self.high.show_text(f"{high:g}")
        with QSignalBlocker(self.slider):
            self.slider.setRange(round(low * _FINE), round(high * _FINE))
            self.slider.setValue(round(angle * _FINE))
        self.play.setChecked(plays)
        self.found.setText(found)
        self.found.setVisible(bool(found))
        self.adjustSize()
