"""The measurements that are kept beside the sheet, and which of them is looked at."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.open_sheet import OpenSheet
from oak_square.core.measuring import Measure
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["MeasureList"]


class MeasureList(QObject):
    """Keeps measurements and forgets them."""

    choice_changed = Signal()  # which one is looked at, or along which axes it is told

    def __init__(self, sheet: OpenSheet, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._sheet = sheet
        self.chosen: int | None = None
        self.along = "world"

    def add(self, measure: Measure) -> None:
        """Keep a measurement, and choose it."""
        measures = (*self._sheet.document.measures, measure)
        self.chosen = len(measures) - 1
        self._sheet.do(
            say("Measure a {kind}", kind=term(measure.kind)), replace(self._sheet.document, measures=measures)
        )

    def forget(self, index: int) -> None:
        """Take a measurement off the list."""
        measures = self._sheet.document.measures
        self.chosen = None
        label = say("Forget a {kind}", kind=term(measures[index].kind))
        self._sheet.do(label, replace(self._sheet.document, measures=measures[:index] + measures[index + 1 :]))

    def choose(self, index: int | None) -> None:
        """Look at one measurement."""
        self.chosen = index
        self.choice_changed.emit()

    def tell_along(self, frame: str) -> None:
        """Tell the coordinates of measurements along `world`, `part`, or `datum NAME`."""
        self.along = frame
        self.choice_changed.emit()
