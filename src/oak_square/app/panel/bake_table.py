"""The table of channels: each node's rotation, scale and location as they are and would be, and what happens."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import (
    QAbstractItemModel,
    QAbstractTableModel,
    QEvent,
    QModelIndex,
    QPersistentModelIndex,
    QRect,
    QRectF,
    Qt,
    Signal,
)
from PySide6.QtGui import QFontMetrics, QPainter, QPixmap
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QHeaderView,
    QLineEdit,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QWidget,
)

from oak_square.app.facts.bake_rows import CHANNELS, BakeRow
from oak_square.app.widgets.fields import column, soft
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.theme import colour, font
from oak_square.core.terms import term
from oak_square.core.words import counted, say

__all__ = ["BakeTable"]

_ROW, _MOST_SHOWN = 36, 6  # pixels of a row of two lines, and how many rows are seen at once
_TICK = 52  # pixels that a tick, a mark and the gaps about them take before a name
_BESIDE, _WIDEST = 18, (64, 70, 66)  # pixels that a number keeps beside it, and that a column takes at most
_SHORTLY = Qt.ItemDataRole.UserRole
Index = QModelIndex | QPersistentModelIndex


class _NodeRows(QAbstractTableModel):
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
            return term(("node", *CHANNELS)[section])
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
            return f"{row.name}, {term(CHANNELS[index.column() - 1])}: {said}" + (
                say(", then {after}", after=after) if changes else ""
            )
        return None

    def _of_node(self, row: BakeRow, role: int) -> Any:
        if role == Qt.ItemDataRole.DisplayRole:
            return ("  " * row.depth) + (f"{row.asset} · {row.name}" if self.many and not row.depth else row.name)
        if role == Qt.ItemDataRole.CheckStateRole and self.can_tick:
            return Qt.CheckState.Checked if row.is_met else Qt.CheckState.Unchecked
        if role == Qt.ItemDataRole.DecorationRole:
            return self._mark if row.happens else None
        if role == _SHORTLY:
            return ", ".join(row.shortly)
        if role == Qt.ItemDataRole.ForegroundRole:
            return colour("ink" if row.is_met else "ink-soft")
        if role in (Qt.ItemDataRole.ToolTipRole, Qt.ItemDataRole.AccessibleDescriptionRole):
            return "\n".join([say("{name} of {asset}", name=row.name, asset=row.asset), *row.happens])
        return None

    def setData(self, index: Index, value: Any, role: int = 0) -> bool:
        if role != Qt.ItemDataRole.CheckStateRole or not self.can_tick:
            return False
        self.ticked.emit(index.row(), Qt.CheckState(value) == Qt.CheckState.Checked)
        return True


class _TwoLines(QStyledItemDelegate):
    """Draws a node's name over the whole row, and under it what happens to it and the numbers."""

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """Draw one cell: of the first column the name, past its own right end, and beside it what happens."""
        own = QStyleOptionViewItem(option)
        painter.setPen(colour("line", 150))
        painter.drawLine(option.rect.bottomLeft(), option.rect.bottomRight())
        if index.column():
            own.rect.setTop(own.rect.top() + own.rect.height() // 2 - 2)
            super().paint(painter, own, index)
            return
        room = self._name_room(option)
        own.rect = QRect(room)
        super().paint(painter, own, index)
        text = str(index.data(_SHORTLY) or "")
        if text:
            painter.setFont(font(11))
            painter.setPen(colour("check"))
            name = QFontMetrics(option.font).horizontalAdvance(str(index.data() or ""))
            beside = room.adjusted(_TICK + name, 0, -6, 0)
            shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, beside.width())
            painter.drawText(beside, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, shown)

    def editorEvent(self, event: QEvent, model: QAbstractItemModel, option: QStyleOptionViewItem, index: Index) -> bool:
        """Tick where the box is drawn."""
        own = QStyleOptionViewItem(option)
        own.rect = self._name_room(option)
        return super().editorEvent(event, model, own, index)

    def _name_room(self, option: QStyleOptionViewItem) -> QRect:
        view = self.parent()
        assert isinstance(view, QTableView)
        room = QRect(option.rect)
        room.setWidth(view.viewport().width() - room.left())
        room.setHeight(room.height() // 2 + 3)
        return room


class BakeTable(QWidget):
    """Shows rows, filtered by name and by what is unclean; wishes for other nodes to be met, and for one to be seen."""

    nodes_wished = Signal(tuple)  # (file, node) of all that are ticked; empty for each and every one
    row_chosen = Signal(str, int)  # file, node

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 4)
        self.filter = QLineEdit(self)
        self.filter.setPlaceholderText(say("filter nodes by name…"))
        self.filter.setAccessibleName(say("Filter nodes"))
        self.filter.setToolTip(say("Show only the nodes with these letters in their name"))
        self.filter.textChanged.connect(lambda _: self._fill_rows())
        rows.addWidget(self.filter)
        self.unclean = QCheckBox(say("only what is not clean"), self)
        self.unclean.setToolTip(say("Show only the nodes with a rotation or a scale, or to which something happens"))
        self.unclean.toggled.connect(lambda _: self._fill_rows())
        rows.addWidget(self.unclean)
        self.model = _NodeRows(self)
        self.model.ticked.connect(self._wish_for_ticked)
        self.view = QTableView(self)
        self.view.setModel(self.model)
        self.view.setAccessibleName(say("Channels"))
        self.view.setShowGrid(False)
        self.view.verticalHeader().hide()
        self.view.verticalHeader().setDefaultSectionSize(_ROW)
        self.view.setTabKeyNavigation(False)
        self.view.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.view.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        header = self.view.horizontalHeader()
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for k in range(1, 1 + len(CHANNELS)):
            header.setSectionResizeMode(k, QHeaderView.ResizeMode.Fixed)
        self.view.setItemDelegate(_TwoLines(self.view))
        self.view.setStyleSheet("QTableView::item { border: none; }")  # the lines between rows are drawn with them
        self.view.clicked.connect(self._choose_row)
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
        self._fill_rows()

    def _fill_rows(self) -> None:
        text = self.filter.text().strip().casefold()
        shown = [
            r for r in self._all
            if text in r.name.casefold()
            and (not self.unclean.isChecked() or r.happens or not all(clean for _, _, clean in r.cells[:2]))
        ]  # fmt: skip
        at = self.view.verticalScrollBar().value()
        self.model.take(shown, can_tick=self.model.can_tick, many=len({r.file for r in self._all}) > 1)
        self._fit_columns(shown)
        self.view.verticalScrollBar().setValue(at)
        self.view.setFixedHeight(_ROW * min(max(len(shown), 1), _MOST_SHOWN) + 30)
        self.view.setVisible(bool(self._all))
        happens = sum(bool(r.happens) for r in self._all)
        said = (
            counted(len(self._all), "node")
            if len(shown) == len(self._all)
            else say("{count} of {count_2}", count=len(shown), count_2=len(self._all))
        )
        self.said.setText(f"{said}{say('; something else happens to {happens}', happens=happens) if happens else ''}")
        self.said.setVisible(bool(self._all))

    def _fit_columns(self, shown: Sequence[BakeRow]) -> None:
        """Give numbers the room that they need, and names all that is left."""
        metrics = QFontMetrics(font(11, semibold=True))
        for k, channel in enumerate(CHANNELS):
            cells = {f"{r.cells[k][0]}→{r.cells[k][1]}" if r.cells[k][1] else r.cells[k][0] for r in shown}
            wide = max(metrics.horizontalAdvance(text) for text in (*cells, term(channel)))
            self.view.horizontalHeader().resizeSection(k + 1, min(wide + _BESIDE, _WIDEST[k]))

    def _wish_for_ticked(self, row: int, on: bool) -> None:
        """Wish for the nodes that are ticked from now on; over several assets nodes of one name go together."""
        changed = self.model.rows[row]
        alike = [r is changed or (self.model.many and r.name == changed.name) for r in self._all]
        kept = [r for r, same in zip(self._all, alike, strict=True) if (on if same else r.is_met)]
        self.nodes_wished.emit(() if len(kept) == len(self._all) else tuple((r.file, r.node) for r in kept))

    def _choose_row(self, index: QModelIndex) -> None:
        row = self.model.rows[index.row()]
        self.row_chosen.emit(row.file, row.node)
