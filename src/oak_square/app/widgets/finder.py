"""The finder: a field over the window, and under it what its letters mean, each with its key."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from PySide6.QtCore import (
    QAbstractListModel,
    QEvent,
    QModelIndex,
    QPersistentModelIndex,
    QPoint,
    QRect,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import (
    QLabel,
    QLineEdit,
    QListView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.facts.finder import FinderEntry, ranked
from oak_square.app.widgets.actions import keys_said
from oak_square.app.widgets.over_card import OverCard
from oak_square.app.widgets.theme import colour, font
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["Finder"]

_WIDE, _HIGH, _ROW, _PIN = 560, 460, 42, 30
_HINT = say("Enter does it    ↑ ↓ walk    Ctrl+Enter puts it into the tray, or takes it out    Esc leaves")
_MOVES = {
    Qt.Key.Key_Down: 1,
    Qt.Key.Key_Up: -1,
    Qt.Key.Key_PageDown: 8,
    Qt.Key.Key_PageUp: -8,
}


class Finder(OverCard):
    """Shows entries; wishes for one to be run, or to be put into the tray."""

    run_wished = Signal(str)
    tray_wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("finder")
        self.field = _Field(self)
        self.field.setPlaceholderText(say("A few letters of an action, a means, an asset, a part, a finding…"))
        self.field.setAccessibleName(say("Find"))
        self.model = _Entries()
        self.list = _List(self)
        self.list.setModel(self.model)
        self.list.setItemDelegate(_FinderRow(self.list))
        self.list.setAccessibleName(say("What is found"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setMouseTracking(True)
        self.list.setUniformItemSizes(True)
        self.hint = QLabel(_HINT, self)
        self.hint.setProperty("role", "soft")
        self.nothing = QLabel(say("Nothing of that name. Fewer letters find more."), self)
        self.nothing.setProperty("role", "soft")
        self.nothing.setContentsMargins(4, 8, 4, 8)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(12, 12, 12, 10)
        rows.setSpacing(8)
        for part, stretch in ((self.field, 0), (self.list, 1), (self.nothing, 1), (self.hint, 0)):
            rows.addWidget(part, stretch)
        self.field.textChanged.connect(self._find_entries)
        self.field.key_pressed.connect(self._take_key)
        self.list.clicked.connect(self._open_clicked)
        self._entries: Sequence[FinderEntry] = ()

    def open(self, entries: Sequence[FinderEntry], tray: Collection[str], back: QWidget | None) -> None:
        """Show what there is, and take the keys; `back` has them again afterwards."""
        self._entries, self.back = entries, back
        self.model.tray = frozenset(tray)
        self.field.clear()
        self._find_entries("")
        self.place()
        self.show()
        self.raise_()
        self.field.setFocus(Qt.FocusReason.PopupFocusReason)

    def place(self) -> None:
        """Stand in the middle at the top, and within the window."""
        around = self.window_
        wide = min(_WIDE, around.width() - 32)
        self.setGeometry((around.width() - wide) // 2, 56, wide, min(_HIGH, around.height() - 72))

    def show_tray(self, tray: Collection[str]) -> None:
        """Mark what is in the tray."""
        self.model.tray = frozenset(tray)
        self.list.viewport().update()

    @property
    def found(self) -> list[FinderEntry]:
        """What the letters mean, the likeliest first."""
        return self.model.entries

    def _find_entries(self, letters: str) -> None:
        self.model.show_entries(ranked(self._entries, letters))
        self.list.setVisible(bool(self.model.entries))
        self.nothing.setVisible(not self.model.entries)
        self._stand_on_row(0)

    def _stand_on_row(self, row: int) -> None:
        row = min(max(row, 0), len(self.model.entries) - 1)
        index = self.model.index(row)
        self.list.setCurrentIndex(index)
        self.list.scrollTo(index)
        if 0 <= row < len(self.model.entries):
            # The keys stay in the field: what a reader of the screen would say of the row is said there.
            self.field.setAccessibleDescription(self.model.entries[row].words)

    def _take_key(self, key: int, ctrl: bool) -> None:
        here = self.list.currentIndex().row()
        if key == Qt.Key.Key_Escape:
            self.leave()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and 0 <= here < len(self.model.entries):
            self._run_entry(self.model.entries[here].name, tray=ctrl)
        elif key in _MOVES:
            self._stand_on_row(here + _MOVES[Qt.Key(key)])

    def _run_entry(self, name: str, *, tray: bool) -> None:
        if tray:
            self.tray_wished.emit(name)
        else:
            self.leave()
            self.run_wished.emit(name)

    def _open_clicked(self, index: QModelIndex) -> None:
        on_pin = pin_rect(self.list.visualRect(index)).contains(self.list.pressed_at)
        self._run_entry(self.model.entries[index.row()].name, tray=on_pin)


def pin_rect(row: QRect) -> QRect:
    """Return where in a row a click puts it into the tray."""
    return QRect(row.right() - _PIN, row.top(), _PIN, row.height())


class _List(QListView):
    """Remembers where it was pressed: on a row, or on its pin."""

    pressed_at = QPoint()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.pressed_at = event.position().toPoint()
        super().mousePressEvent(event)


class _Field(QLineEdit):
    """Takes letters; what walks and ends the search is told."""

    key_pressed = Signal(int, bool)  # the key, whether Ctrl is down

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            # While the finder is open, keys are its own.
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (*_MOVES, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape):
            self.key_pressed.emit(event.key(), bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))
        else:
            super().keyPressEvent(event)


class _Entries(QAbstractListModel):
    def __init__(self) -> None:
        super().__init__()
        self.entries: list[FinderEntry] = []
        self.tray: frozenset[str] = frozenset()

    def show_entries(self, entries: list[FinderEntry]) -> None:
        self.beginResetModel()
        self.entries = entries
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own
        return len(self.entries)

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        entry = self.entries[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return entry.words
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return ", ".join(p for p in (entry.words, term(entry.kind), entry.hint, keys_said(entry.keys[:1])) if p)
        return None


class _FinderRow(QStyledItemDelegate):
    """Two lines: what it is called and its key; its kind and where it is. A pin at the right."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(200, _ROW)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        model = index.model()
        assert isinstance(model, _Entries)
        entry, room = model.entries[index.row()], option.rect
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(room, colour("oak-pale"))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(room, colour("paper"))
        inner = room.adjusted(8, 4, -_PIN - 4, -4)
        keys = keys_said(entry.keys)
        painter.setFont(font(12))
        wide = QFontMetrics(painter.font()).horizontalAdvance(keys) + (16 if keys else 0)
        painter.setPen(colour("ink-soft"))
        painter.drawText(inner, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop, keys)
        _write_row(painter, inner.adjusted(0, 0, -wide, 0), entry.words, 13, "ink", Qt.AlignmentFlag.AlignTop)
        below = f"{term(entry.kind)}  ·  {entry.hint}" if entry.hint else term(entry.kind)
        _write_row(painter, inner, below, 11, "ink-soft", Qt.AlignmentFlag.AlignBottom)
        _draw_pin(painter, pin_rect(room), entry.name in model.tray)
        painter.restore()


def _write_row(painter: QPainter, room: QRect, text: str, pixels: int, ink: str, where: Qt.AlignmentFlag) -> None:
    painter.setFont(font(pixels))
    painter.setPen(colour(ink))
    shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, room.width())
    painter.drawText(room, Qt.AlignmentFlag.AlignLeft | where, shown)


def _draw_pin(painter: QPainter, room: QRect, is_in: bool) -> None:
    """Draw a small tray: filled where the entry lies in it."""
    x, y = room.center().x() - 7, room.center().y() - 4
    painter.setPen(QPen(colour("oak-deep" if is_in else "ink-soft"), 1.3))
    painter.setBrush(colour("oak") if is_in else Qt.BrushStyle.NoBrush)
    painter.drawPolyline([QPoint(x, y), QPoint(x, y + 8), QPoint(x + 14, y + 8), QPoint(x + 14, y)])
    if is_in:
        painter.drawRect(x + 3, y + 2, 8, 4)
