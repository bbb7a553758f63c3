"""What a step would bring about, over the button that keeps it: always in sight, however long the form is."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget

from oak_square.app.facts.effects import ConsequenceRow
from oak_square.app.widgets.fields import Advice
from oak_square.core.words import say

__all__ = ["ConsequenceView"]

_LEAST_HIGH, _MOST_HIGH = 60, 132


class ConsequenceView(QWidget):
    """Shows consequences, each with its assets; takes the height it needs, up to a limit, and scrolls from there."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(4)
        self._title = QLabel(self)
        self._title.setProperty("role", "section")
        rows.addWidget(self._title)
        self.area = QScrollArea(self)
        self.area.setWidgetResizable(True)
        self.area.setFrameShape(QFrame.Shape.NoFrame)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setAccessibleName(say("Consequences"))
        self.lines = Advice(self.area)
        self.lines.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.area.setWidget(self.lines)
        rows.addWidget(self.area)

    def show_consequences(self, found: Sequence[ConsequenceRow]) -> None:
        """Match the lines to `found`; hidden when there is none."""
        self.setVisible(bool(found))
        if not found:
            return
        stopped = any(c.stops for c in found)
        self._title.setText(say("it stops here") if stopped else say("before you keep it"))
        lines = [c.line for c in found]
        self.lines.show_lines(lines, "fix" if stopped else "check", most=len(lines))
        wide = max(self.width(), 200)
        most = min(_MOST_HIGH, max(_LEAST_HIGH, self.window().height() // 6))
        self.area.setFixedHeight(min(most, self.lines.heightForWidth(wide - 12)))
