"""What the draft would do: before and after for each asset it is for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from html import escape
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableView, QWidget

from oak_square.app.facts.effects import EffectRow
from oak_square.app.widgets.fields import column, section
from oak_square.app.widgets.theme import colour
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["EffectView"]

Index = QModelIndex | QPersistentModelIndex
_ROW, _MOST_SHOWN = 38, 6


class _EffectRows(QAbstractTableModel):
    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.rows: tuple[EffectRow, ...] = ()
        self.picture_of: Callable[[str], str] = lambda _: ""

    def show(self, rows: Sequence[EffectRow]) -> None:
        self.beginResetModel()
        self.rows = tuple(rows)
        self.endResetModel()

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  Qt's own default
        return len(self.rows)

    def columnCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  Qt's own default
        return 2

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return row.name if index.column() == 0 else _describe_effect(row)
        if role == Qt.ItemDataRole.ToolTipRole:
            words = f"<p>{escape(row.file)}<br/>{escape(row.detail)}</p>"
            return f"{words}{self.picture_of(row.file)}"
        if role == Qt.ItemDataRole.ForegroundRole and index.column() == 1:
            token = {"applied": "true", "refused": "fix", "failed": "fix"}.get(row.outcome, "ink-soft")
            return colour(token)
        return None


def _describe_effect(row: EffectRow) -> str:
    if row.outcome in {"refused", "failed"}:
        return term(row.outcome)
    if row.before == row.after:
        # What the stage measures stayed: then what was done says more.
        return row.detail or row.before
    return f"{row.before} → {row.after}"


class EffectView(QWidget):
    """Shows the rows; a row that is clicked is the asset to look at."""

    asset_wished = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self._title = section(say("before → after"), self)
        rows.addWidget(self._title)
        self.table = QTableView(self)
        self.table.setAccessibleName(say("Before and after"))
        self._rows = _EffectRows(self.table)
        self.table.setModel(self._rows)
        self.table.horizontalHeader().hide()
        self.table.verticalHeader().hide()
        self.table.setTabKeyNavigation(False)
        self.table.verticalHeader().setDefaultSectionSize(_ROW)
        self.table.setShowGrid(False)
        self.table.setWordWrap(True)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.table.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Fixed)
        self.table.horizontalHeader().resizeSection(0, 104)
        self.table.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.table.clicked.connect(lambda index: self.asset_wished.emit(self._rows.rows[index.row()].file))
        rows.addWidget(self.table)

    @property
    def rows(self) -> tuple[EffectRow, ...]:
        """The rows as they are shown."""
        return self._rows.rows

    def draw_pictures(self, of: Callable[[str], str]) -> None:
        """Show a picture of an asset where the pointer rests on its row: `of` gives it as rich text."""
        self._rows.picture_of = of

    def show_effect(self, rows: Sequence[EffectRow]) -> None:
        """Match the table to `rows`."""
        if tuple(rows) != self._rows.rows:
            self._rows.show(rows)
        self.table.setFixedHeight(_ROW * max(1, min(len(rows), _MOST_SHOWN)) + 4)
