"""The batch: one row a file, with its thumbnail, true size, and a mark for each stage with something to settle."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import (
    QAbstractListModel,
    QEvent,
    QModelIndex,
    QPersistentModelIndex,
    QPointF,
    QRectF,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QContextMenuEvent, QFontMetrics, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QListView, QMenu, QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from oak_square.app.facts.batch import AssetRow
from oak_square.app.widgets.entry_keys import Framing
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.theme import colour, font
from oak_square.core.stages import stage_name
from oak_square.core.terms import term
from oak_square.core.words import lowered, say

__all__ = ["BatchList"]

Index = QModelIndex | QPersistentModelIndex
_ROW_HEIGHT, _HEADING, _THUMB, _TICK = 56, 24, 44, 14
ROW_ROLE = Qt.ItemDataRole.UserRole + 1


class _AssetRows(QAbstractListModel):
    """Holds the rows as they were last shown."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.rows: tuple[AssetRow, ...] = ()

    def show(self, rows: tuple[AssetRow, ...]) -> None:
        if [r.file for r in rows] != [r.file for r in self.rows]:
            self.beginResetModel()
            self.rows = rows
            self.endResetModel()
            return
        changed = [k for k, (old, new) in enumerate(zip(self.rows, rows, strict=True)) if old != new]
        self.rows = rows
        for k in changed:
            self.dataChanged.emit(self.index(k), self.index(k))

    def flags(self, index: Index) -> Qt.ItemFlag:
        if index.isValid() and self.rows[index.row()].heading:
            return Qt.ItemFlag.NoItemFlags
        return super().flags(index)

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  Qt's own default
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        row = self.rows[index.row()]
        if role == ROW_ROLE:
            return row
        if role == Qt.ItemDataRole.DisplayRole:
            return row.title
        if role == Qt.ItemDataRole.AccessibleTextRole:
            out = "" if row.included or row.heading else say("left out")
            marks = [
                say("{level} at {stage}", level=term(level), stage=lowered(stage_name(stage)))
                if stage != "all"
                else say("all true")
                for stage, level in row.marks
            ]
            return ", ".join(p for p in (row.title, row.trouble or row.detail, out, *marks) if p)
        if role == Qt.ItemDataRole.ToolTipRole:
            return _make_tip(row)
        return None


def _make_tip(row: AssetRow) -> str:
    lines = [row.file, row.detail]
    if row.trouble:
        lines.append(row.trouble)
    lines += [
        say("{stage}: to {level}", stage=stage_name(stage), level=term(level)) if stage != "all" else say("all true")
        for stage, level in row.marks
    ]
    if not row.included:
        lines.append(say("Left out of the delivery (tick it to take it in)"))
    return "\n".join(line for line in lines if line)


class _Painter(QStyledItemDelegate):
    """Draws a row; a click on its tick asks to take it in or leave it out."""

    tick_wished = Signal(str, bool)

    def __init__(self, thumbnail: Callable[[str], QImage | None], parent: QWidget) -> None:
        super().__init__(parent)
        self._thumbnail = thumbnail

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return QSize(200, _HEADING if index.data(ROW_ROLE).heading else _ROW_HEIGHT)

    def editorEvent(self, event: QEvent, model: Any, option: QStyleOptionViewItem, index: Index) -> bool:
        row: AssetRow = index.data(ROW_ROLE)
        if (
            isinstance(event, QMouseEvent)
            and not row.heading
            and tick_rect(option.rect).adjusted(-5, -5, 5, 5).contains(event.position())
        ):
            if event.type() == QEvent.Type.MouseButtonRelease:
                self.tick_wished.emit(row.file, not row.included)
            return True
        return super().editorEvent(event, model, option, index)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        row: AssetRow = index.data(ROW_ROLE)
        room = QRectF(option.rect)
        if row.heading:
            painter.fillRect(room, colour("paper"))
            painter.setPen(colour("ink-soft"))
            painter.setFont(font(11, semibold=True))
            painter.drawText(room.adjusted(10, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter, row.title)
            return
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(room, colour("oak-pale"))
        painter.setPen(QPen(colour("line", 130), 1))
        painter.drawLine(room.bottomLeft() + QPointF(0, -0.5), room.bottomRight() + QPointF(0, -0.5))
        self._paint_tick(painter, tick_rect(option.rect), row.included)
        self._paint_thumb(painter, QRectF(room.left() + 30, room.top() + 6, _THUMB, _THUMB), row)
        painter.setOpacity(1.0 if row.included else 0.5)
        self._paint_words(painter, room.adjusted(30 + _THUMB + 10, 9, -10, -8), row)
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour("oak-deep"), 1))
            painter.drawRect(room.adjusted(0.5, 0.5, -1.5, -1.5))
        painter.restore()

    def _paint_tick(self, painter: QPainter, room: QRectF, included: bool) -> None:
        painter.setPen(QPen(colour("oak-deep" if included else "ink-soft"), 1.2))
        painter.setBrush(colour("card"))
        painter.drawRoundedRect(room, 3, 3)
        if included:
            painter.setPen(QPen(colour("oak-deep"), 1.8))
            painter.drawPolyline(
                [room.topLeft() + QPointF(3, 7), room.topLeft() + QPointF(6, 10.5), room.topLeft() + QPointF(11, 3.5)]
            )

    def _paint_thumb(self, painter: QPainter, room: QRectF, row: AssetRow) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("thumb"))
        painter.drawRoundedRect(room, 4, 4)
        thumbnail = self._thumbnail(row.file)
        if thumbnail is not None:
            painter.setOpacity(1.0 if row.included else 0.4)
            painter.drawImage(room, thumbnail)
        elif row.trouble and not row.marks:
            draw_mark(painter, room.adjusted(15, 15, -15, -15), "fix")

    def _paint_words(self, painter: QPainter, room: QRectF, row: AssetRow) -> None:
        levels = [level for _, level in row.marks]
        width = 13 * len(levels) + (4 if levels else 0)
        painter.setFont(font(13, semibold=True))
        painter.setPen(colour("ink"))
        self._write_elided(painter, room.adjusted(0, -1, -width, 0), row.title)
        painter.setFont(font(12))
        painter.setPen(colour("fix") if row.trouble else colour("ink-soft"))
        self._write_elided(painter, room.adjusted(0, 19, 0, 0), row.trouble or row.detail)
        for k, level in enumerate(levels):
            draw_mark(painter, QRectF(room.right() - width + 4 + 13 * k, room.top() + 3, 9, 9), level)

    def _write_elided(self, painter: QPainter, room: QRectF, text: str) -> None:
        shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, int(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, shown)


def tick_rect(room: Any) -> QRectF:
    """Return where a row's tick is, its room being `room`."""
    return QRectF(room.left() + 9, room.top() + (_ROW_HEIGHT - _TICK) / 2, _TICK, _TICK)


class BatchList(QListView):
    """Shows rows; wishes for selections and for what is taken in."""

    selection_wished = Signal(tuple)  # files, the last one leading
    inclusion_wished = Signal(tuple, bool)
    out_wished = Signal(tuple)  # files to take out of the batch
    frame_wished = Signal(bool)  # everything, or what is selected

    def __init__(self, thumbnail: Callable[[str], QImage | None], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(say("Batch"))
        self.setSelectionMode(QListView.SelectionMode.ExtendedSelection)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self._rows = _AssetRows(self)
        self.setModel(self._rows)
        painter = _Painter(thumbnail, self)
        painter.tick_wished.connect(lambda file, wanted: self.inclusion_wished.emit((file,), wanted))
        self._framing = Framing(self)
        self._framing.wished.connect(self.frame_wished)
        self.setItemDelegate(painter)
        self.selectionModel().selectionChanged.connect(self._tell_selection)
        self._showing = False
        self.empty = ""
        """What is said where there are no rows."""

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the rows; or say what to do where there are none."""
        super().paintEvent(event)
        if not self._rows.rows and self.empty:
            painter = QPainter(self.viewport())
            painter.setFont(font(12))
            painter.setPen(colour("ink-soft"))
            room = self.viewport().rect().adjusted(14, 14, -14, -14)
            painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap, self.empty)
            painter.end()

    def show_rows(self, rows: Sequence[AssetRow], selection: Sequence[str]) -> None:
        """Match the list to `rows` and `selection`; sends no wish."""
        self._showing = True
        # Rows of one height are laid out without being asked one by one.
        self.setUniformItemSizes(not any(r.heading for r in rows))
        self._rows.show(tuple(rows))
        places = {r.file: k for k, r in enumerate(self._rows.rows)}
        wanted = [places[f] for f in selection if f in places]
        model = self.selectionModel()
        if sorted(i.row() for i in model.selectedIndexes()) != sorted(wanted):
            model.clearSelection()
            for k in wanted:
                model.select(self._rows.index(k), model.SelectionFlag.Select)
            if wanted:
                model.setCurrentIndex(self._rows.index(wanted[-1]), model.SelectionFlag.NoUpdate)
                self.scrollTo(self._rows.index(wanted[-1]))
        self._showing = False

    @property
    def shown(self) -> tuple[AssetRow, ...]:
        """The rows as they are shown."""
        return self._rows.rows

    def place_of(self, file: str) -> QModelIndex:
        """Return the index of a file's row."""
        return self._rows.index([r.file for r in self._rows.rows].index(file))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Delete takes the selected out of the batch; all else walks the list."""
        if event.key() == Qt.Key.Key_Delete and (chosen := self._list_chosen()):
            self.out_wished.emit(chosen)
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Offer what can be done with the selected assets."""
        chosen = self._list_chosen()
        if not chosen:
            return
        out = {r.file for r in self._rows.rows if not r.included}
        menu = QMenu(self)
        all_out = set(chosen) <= out
        word = say("Take into the delivery") if all_out else say("Leave out of the delivery")
        menu.addAction(f"{word}\tCtrl+T", lambda: self.inclusion_wished.emit(chosen, all_out))
        menu.addAction(say("Take out of the batch\tDel"), lambda: self.out_wished.emit(chosen))
        menu.exec(event.globalPos())

    def _tell_selection(self) -> None:
        if not self._showing:
            self.selection_wished.emit(self._list_chosen())

    def _list_chosen(self) -> tuple[str, ...]:
        chosen = [self._rows.rows[i.row()].file for i in sorted(self.selectionModel().selectedIndexes())]
        chosen = [f for f in chosen if f]
        lead = self.currentIndex()
        if lead.isValid() and (name := self._rows.rows[lead.row()].file) in chosen:
            chosen = [f for f in chosen if f != name] + [name]
        return tuple(chosen)
