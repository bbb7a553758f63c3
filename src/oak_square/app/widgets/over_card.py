"""A card that stands over the window for as long as it is worked, and then gives the keys back."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QWidget

from oak_square.app.widgets.theme import colour

__all__ = ["OverCard"]


class OverCard(QFrame):
    """Remembers who had the keys; `left` tells that they have them again."""

    left = Signal()

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.window_ = window
        self.back: QWidget | None = None
        self.hide()

    def leave(self) -> None:
        """Go back to where the keys were."""
        if self.isHidden():
            return
        self.hide()
        if self.back is not None and self.back.isVisible():
            self.back.setFocus(Qt.FocusReason.PopupFocusReason)
        self.left.emit()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the card, with one line around it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("card"))
        painter.setPen(QPen(colour("oak-deep"), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
