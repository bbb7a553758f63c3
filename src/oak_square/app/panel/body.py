"""What the form of every stage is: it shows a step of its own, and wishes for one when it is changed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.steps import Step

__all__ = ["Body"]


class Body(QWidget):
    """A stage's means. `words_wished` carries a step as the sheet would write it, without its scope."""

    words_wished = Signal(dict)
    stage = ""

    def show_step(self, step: Step | None) -> None:
        """Match the form to `step`, or to none; sends no wish."""

    def wish(self, words: Mapping[str, Any]) -> None:
        """Ask for a step of these words."""
        self.words_wished.emit(dict(words))
