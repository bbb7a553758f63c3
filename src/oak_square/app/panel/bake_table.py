"""The table of channels: each node's rotation, scale and location as they are and would be, and what happens."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPixmap
from PySide6.QtWidgets import QAbstractItemView, QCheckBox, QHeaderView, QLineEdit, QTableView, QWidget

from oak_square.app.facts.bake_rows import CHANNELS, BakeRow
from oak_square.app.widgets.fields import column, soft
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.theme import colour, font
from oak_square.core.counting import counted

__all__ = ["BakeTable"]

_ROW, _MOST_SHOWN = 22, 9
_WIDE = (52, 60, 76)
Index = QModelIndex | QPersistentModelIndex


class _Rows(QAbstractTableModel):
    """Rows to look at; the first column is ticked where the node is met."""

    ticked = Signal(int, bool)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.rows: list[BakeRow] = []
        self.can_tick = True
        self.many = False
        mark = QPixmap(10, 10)
        mark.fill(Qt.GlobalColor.transparent)
        painter = QPainter(mark)
        draw_mark(painter, QRectF(0, 0, 10, 10), "check")
        painter.end()
        self._mark = mark

    def take(self, rows: Sequence[BakeRow], *, can_tick: bool, many: bool) -> None:
        self.beginResetModel()
        self.rows, self.can_tick, self.many = list(rows), can_tick, many
        self.endResetModel()

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  as the library declares it
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  as the library declares it
        return 0 if parent.isValid() else 1 + len(CHANNELS)

    def headerData(self, section: int, way: Qt.Orientation, role: int = 0) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and way == Qt.Orientation.Horizontal:
            return ("node", *CHANNELS)[section]
        return None

    def flags(self, index: Index) -> Qt.ItemFlag:
        ticks = Qt.ItemFlag.ItemIsUserCheckable if index.column() == 0 and self.can_tick else Qt.ItemFlag.NoItemFlags
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | ticks

    def data(self, index: Index, role: int = 0) -> Any:
        row = self.rows[index.row()]
        if index.column() == 0:
            return self._of_node(row, role)
        before, after, clean = row.cells[index.column() - 1]
        changes = bool(after)
        if role == Qt.ItemDataRole.DisplayRole:
            return f"{before}→{after}" if changes else before
        if role == Qt.ItemDataRole.ForegroundRole:
            return colour("verdigris" if changes else "ink-soft" if clean else "fix")
        if role == Qt.ItemDataRole.FontRole:
            return font(11, semibold=changes)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        if role == Qt.ItemDataRole.ToolTipRole:
            said = row.exact[index.column() - 1]
            return f"{row.name}, {CHANNELS[index.column() - 1]}: {said}" + (f", then {after}" if changes else "")
        return None

    def _of_node(self, row: BakeRow, role: int) -> Any:
        if role == Qt.ItemDataRole.DisplayRole:
            return ("  " * row.depth) + (f"{row.asset} · {row.name}" if self.many and not row.depth else row.name)
        if role == Qt.ItemDataRole.CheckStateRole and self.can_tick:
            return Qt.CheckState.Checked if row.is_met else Qt.CheckState.Unchecked
        if role == Qt.ItemDataRole.DecorationRole:
            return self._mark if row.happens else None
        if role == Qt.ItemDataRole.ForegroundRole:
            return colour("ink" if row.is_met else "ink-soft")
        if role in (Qt.ItemDataRole.ToolTipRole, Qt.ItemDataRole.AccessibleDescriptionRole):
            return "\n".join([f"{row.name} of {row.asset}", *row.happens])
        return None

    def setData(self, index: Index, value: Any, role: int = 0) -> bool:
        if role != Qt.ItemDataRole.CheckStateRole or not self.can_tick:
            return False
        self.ticked.emit(index.row(), Qt.CheckState(value) == Qt.CheckState.Checked)
        return True


class BakeTable(QWidget):
    """Shows rows, filtered by name and by what is unclean; wishes for other nodes to be met, and for one to be seen."""

    names_wished = Signal(tuple)  # the names of all that are ticked; empty for each and every one
    row_chosen = Signal(str, str)  # file, node

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 4)
        self.filter = QLineEdit(self)
        self.filter.setPlaceholderText("filter nodes by name…")
        self.filter.setAccessibleName("Filter nodes")
        self.filter.setToolTip("Show only the nodes with these letters in their name")
        self.filter.textChanged.connect(lambda _: self._fill())
        rows.addWidget(self.filter)
        self.unclean = QCheckBox("only what is not clean", self)
        self.unclean.setToolTip("Show only the nodes with a rotation or a scale, or to which something happens")
        self.unclean.toggled.connect(lambda _: self._fill())
        rows.addWidget(self.unclean)
        self.model = _Rows(self)
        self.model.ticked.connect(self._tick)
        self.view = QTableView(self)
        self.view.setModel(self.model)
        self.view.setAccessibleName("Channels")
        self.view.setShowGrid(False)
        self.view.verticalHeader().hide()
        self.view.verticalHeader().setDefaultSectionSize(_ROW)
        self.view.setTabKeyNavigation(False)
        self.view.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.view.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        header = self.view.horizontalHeader()
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for k, wide in enumerate(_WIDE, 1):
            header.setSectionResizeMode(k, QHeaderView.ResizeMode.Fixed)
            header.resizeSection(k, wide)
        self.view.clicked.connect(self._choose)
        rows.addWidget(self.view)
        self.said = soft("", self)
        rows.addWidget(self.said)
        self._all: tuple[BakeRow, ...] = ()

    def show_rows(self, rows: Sequence[BakeRow], *, can_tick: bool) -> None:
        """Match the table; where it can't be ticked, what is shown is for the asset's nodes as they are named above."""
        if tuple(rows) == self._all and can_tick == self.model.can_tick:
            return
        self._all = tuple(rows)
        self.model.can_tick = can_tick
        self._fill()

    def _fill(self) -> None:
        text = self.filter.text().strip().casefold()
        shown = [
            r for r in self._all
            if text in r.name.casefold()
            and (not self.unclean.isChecked() or r.happens or not all(clean for _, _, clean in r.cells[:2]))
        ]  # fmt: skip
        at = self.view.verticalScrollBar().value()
        self.model.take(shown, can_tick=self.model.can_tick, many=len({r.file for r in self._all}) > 1)
        self.view.verticalScrollBar().setValue(at)
        self.view.setFixedHeight(_ROW * min(max(len(shown), 1), _MOST_SHOWN) + 30)
        self.view.setVisible(bool(self._all))
        happens = sum(bool(r.happens) for r in self._all)
        said = counted(len(self._all), "node") if len(shown) == len(self._all) else f"{len(shown)} of {len(self._all)}"
        self.said.setText(f"{said}{f'; something else happens to {happens}' if happens else ''}")
        self.said.setVisible(bool(self._all))

    def _tick(self, row: int, on: bool) -> None:
        """Wish for the nodes that are ticked from now on; nodes of one name go together."""
        name = self.model.rows[row].name
        kept = [r.name for r in self._all if (on if r.name == name else r.is_met)]
        every = {r.name for r in self._all}
        self.names_wished.emit(() if set(kept) == every else tuple(dict.fromkeys(kept)))

    def _choose(self, index: QModelIndex) -> None:
        row = self.model.rows[index.row()]
        self.row_chosen.emit(row.file, row.name)
