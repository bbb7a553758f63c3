"""What came of each asset of a delivery, row by row, with what there is to read of it under its row."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import QRect, Qt, Signal
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import QAbstractItemView, QTableWidgetItem, QVBoxLayout, QWidget

from oak_square.app.widgets.fields import column, quiet_table
from oak_square.app.widgets.theme import colour, font
from oak_square.core.lengths import format_deviation
from oak_square.core.terms import term
from oak_square.core.words import counted, say

__all__ = ["Results"]

Entry = Mapping[str, Any]
_SOURCE = Qt.ItemDataRole.UserRole
_GRAVEST = ("failed", "refused", "delivered", "unchanged")
_COLOURS = {"delivered": "true", "unchanged": "true", "refused": "check", "failed": "fix"}
_MOST_LINES = 3  # under a row; the tooltip has all of them
_SMALL = 12


class Results(QWidget):
    """A table of assets, each with its status and how far it is off; lines under those that something is told of."""

    asset_wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows: QVBoxLayout = column(self)
        self.table = quiet_table(say("Results"), ["asset", "status", "deviation"], self)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.itemSelectionChanged.connect(self._open_chosen)
        rows.addWidget(self.table, 1)

    def begin(self, *, dry: bool) -> None:
        """Empty the table for a run."""
        self._empty_rows()
        self.table.setHorizontalHeaderLabels(
            [say("asset"), say("would be") if dry else say("status"), say("deviation")]
        )

    def _empty_rows(self) -> None:
        self.table.clearSpans()
        self.table.setRowCount(0)

    def add(self, entry: Entry) -> None:
        """Add a row for an asset that is done."""
        off = "" if entry["deviation_m"] is None else format_deviation(entry["deviation_m"])
        told = [*([entry["reason"]] if entry["reason"] else []), *entry["warnings"]]
        tip = "\n".join(told or [s["detail"] for s in entry["steps"]])
        row = self._new_row()
        for k, text in enumerate((entry["source"], term(entry["status"]), off)):
            item = QTableWidgetItem(text)
            item.setData(_SOURCE, entry["source"])
            item.setToolTip(tip)
            if k == 1:
                words = f"{term(entry['status'])}, {counted(len(entry['warnings']), 'warning')}"
                item.setData(Qt.ItemDataRole.AccessibleTextRole, words)
                item.setForeground(colour(_COLOURS[entry["status"]]))
            if k == 2:
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            self.table.setItem(row, k, item)
        if told:
            self._add_lines(entry, told, tip)

    def _add_lines(self, entry: Entry, told: list[str], tip: str) -> None:
        more = [say("… {count} more", count=len(told) - _MOST_LINES)] if len(told) > _MOST_LINES else []
        item = QTableWidgetItem("\n".join([*told[:_MOST_LINES], *more]))
        item.setData(_SOURCE, entry["source"])
        item.setToolTip(tip)
        item.setFont(font(_SMALL))
        item.setForeground(colour("fix" if entry["status"] == "failed" else "ink-soft"))
        item.setTextAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        row = self._new_row()
        self.table.setItem(row, 0, item)
        self.table.setSpan(row, 0, 1, self.table.columnCount())
        # Qt's own measure is of the first column alone.
        room = QRect(0, 0, max(self.table.viewport().width() - 12, 120), 10_000)
        flags = int(Qt.TextFlag.TextWordWrap.value)
        self.table.setRowHeight(row, QFontMetrics(font(_SMALL)).boundingRect(room, flags, item.text()).height() + 10)

    def _new_row(self) -> int:
        row = self.table.rowCount()
        self.table.insertRow(row)
        return row

    def show_all(self, entries: list[Entry]) -> None:
        """Show what came of a whole run: what went wrong first, then what there is to read of."""
        self._empty_rows()
        for entry in sorted(entries, key=_rank_entry):
            self.add(entry)

    def _open_chosen(self) -> None:
        chosen = self.table.selectedItems()
        if chosen:
            self.asset_wished.emit(chosen[0].data(_SOURCE))


def _rank_entry(entry: Entry) -> tuple[int, bool, str]:
    return _GRAVEST.index(entry["status"]), not entry["warnings"], entry["source"]
