"""The stand check: copies of the asset set down by its pivot on three grounds, and how each of the batch stands."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHBoxLayout, QLabel, QTableWidgetItem, QVBoxLayout, QWidget

from oak_square.app.facts.stand import StandShown
from oak_square.app.view.bench import Bench
from oak_square.app.view.pointing import Pointing
from oak_square.app.view.renderer import Renderer
from oak_square.app.widgets.fields import quiet_table
from oak_square.app.widgets.theme import colour
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stand_check import GROUNDS, SLOPE_DEG
from oak_square.core.words import say

__all__ = ["StandPage"]

_HIGH, _ROW = 170, 22


class StandPage(QWidget):
    """Shows copies and a list; wishes for an asset to be looked at. Nothing changes by it."""

    selection_wished = Signal(tuple)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._renderer = Renderer()
        self.bench = Bench(self._renderer, self)
        self.bench.setAccessibleName(say("Stand check"))
        self.bench.released.connect(self._release_pointer)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.bench, 1)
        head = QLabel(
            say(
                "Set down by the pivot, upright: on level ground, on a slope "
                "of {slope_deg:g}°, on gently uneven ground. "
                "Nothing changes by it.",
                slope_deg=SLOPE_DEG,
            ),
            self,
        )
        head.setProperty("role", "soft")
        head.setWordWrap(True)
        head.setContentsMargins(12, 6, 12, 4)
        rows.addWidget(head)
        self.table = quiet_table(say("How each stands"), ["asset", *GROUNDS], self)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.verticalHeader().setDefaultSectionSize(_ROW)
        self.table.setFixedHeight(_HIGH)
        self.table.itemClicked.connect(lambda item: self.selection_wished.emit((item.data(Qt.ItemDataRole.UserRole),)))
        line = QHBoxLayout()
        line.setContentsMargins(8, 0, 8, 6)
        line.addWidget(self.table)
        rows.addLayout(line)

    def _release_pointer(self, at: Pointing) -> None:
        hit = at.hit(near=True) if at.clicked else None
        if hit is not None and hit[0].file:
            self.selection_wished.emit((hit[0].file,))

    def show_stand(self, shown: StandShown, lead: str | None, unit: ShownUnit) -> None:
        """Match the page to a stand check; `lead` is the asset that is shown."""
        self.bench.show_in(unit)
        self.bench.show_picture(shown.picture, shown.facts, lead)
        self.table.setRowCount(len(shown.rows))
        for k, row in enumerate(shown.rows):
            for j, text in enumerate((row.name, *row.words)):
                item = QTableWidgetItem(text)
                item.setData(Qt.ItemDataRole.UserRole, row.file)
                item.setToolTip(f"{row.name}: {text}")
                if j == 1:
                    item.setForeground(colour("true" if row.is_true else "fix"))
                self.table.setItem(k, j, item)
            if row.file == lead:
                self.table.selectRow(k)

    def frame(self) -> None:
        """Bring all of it into the picture."""
        self.bench.frame()

    def close_renderer(self) -> None:
        """Give the graphics context back."""
        self._renderer.close()
