"""The unit question in the Size panel: the asset looked at, and the list of all that wait."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHeaderView, QLabel, QPushButton, QTableWidgetItem, QWidget

from oak_square.app.facts.units import CandidateRow
from oak_square.app.widgets.candidates import Candidates
from oak_square.app.widgets.fields import column, quiet_table, section
from oak_square.core.words import one_or_many, say

__all__ = ["UnitQuestionForm"]

_ROW, _MOST_SHOWN = 24, 5


class UnitQuestionForm(QWidget):
    """Shows candidates with their evidence; wishes for a unit, for all that are certain, for an asset."""

    unit_wished = Signal(str)
    certain_wished = Signal()
    asset_wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.take = QPushButton(self)
        self.take.setProperty("role", "small")
        self.take.setToolTip(say("Keep a step for each unit that all the evidence speaks for"))
        self.take.clicked.connect(self.certain_wished)
        rows.addWidget(self.take)
        self._waiting = section(say("units in doubt first"), self)
        rows.addWidget(self._waiting)
        self.table = quiet_table(say("Units that wait"), ["asset", "likely"], self)
        self.table.horizontalHeader().hide()
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.ResizeToContents)
        self.table.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.table.setSelectionBehavior(self.table.SelectionBehavior.SelectRows)
        self.table.verticalHeader().setDefaultSectionSize(_ROW)
        self.table.cellClicked.connect(self._tell_asset)
        self.table.cellActivated.connect(self._tell_asset)
        rows.addWidget(self.table)
        self.asks = QLabel(self)
        self.asks.setProperty("role", "soft")
        self.asks.setWordWrap(True)
        rows.addWidget(self.asks)
        self.candidates = Candidates(self)
        self.candidates.unit_wished.connect(self.unit_wished)
        rows.addWidget(self.candidates)
        self.why = QLabel(self)
        self.why.setProperty("role", "soft")
        self.why.setWordWrap(True)
        rows.addWidget(self.why)
        self._files: list[str] = []

    def show_waiting(self, waiting: Sequence[tuple[str, str, str]], certain: int, *, also: bool = True) -> None:
        """Show who waits for a unit, as (file, name, words), and how many of them are certain.

        `also`: these are others than those that the folder's own button takes.
        """
        self.take.setText(
            one_or_many(
                certain, "Take the best for {count} that is certain", "Take the best for {count} that are certain"
            )
        )
        self.take.setVisible(certain > 0 and also)
        self._waiting.setVisible(bool(waiting))
        self.table.setVisible(bool(waiting))
        if [w[0] for w in waiting] != self._files or self.table.rowCount() != len(waiting):
            self.table.setRowCount(len(waiting))
        self._files = [w[0] for w in waiting]
        for k, (file, name, words) in enumerate(waiting):
            for column_, text in enumerate((name, words)):
                item = QTableWidgetItem(text)
                item.setToolTip(f"{file}\n{words}")
                if column_:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(k, column_, item)
        self.table.setFixedHeight(_ROW * min(len(waiting), _MOST_SHOWN) + 4)

    def show_question(self, name: str, asks: str, rows: Sequence[CandidateRow], why: Sequence[str] = ()) -> None:
        """Show the candidates of the asset looked at, and why the first is best; no rows for nothing to judge by."""
        self.why.setText(say("Because {why}.", why="; ".join(why)) if why else "")
        self.why.setVisible(bool(why and rows))
        self.asks.setText(f"{name}: {asks[:1].lower()}{asks[1:]}" if rows else "")
        self.asks.setVisible(bool(rows))
        self.candidates.show_rows(rows)

    def _tell_asset(self, row: int, _: int) -> None:
        if row < len(self._files):
            self.asset_wished.emit(self._files[row])
