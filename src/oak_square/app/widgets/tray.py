"""The tray: favourites in a row, each a button that does what it is called; dragged or walked into another order."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QApplication, QHBoxLayout, QLabel, QMenu, QPushButton, QScrollArea, QWidget

from oak_square.app.facts.finder import FinderEntry
from oak_square.app.widgets.actions import keys_said
from oak_square.app.widgets.theme import colour
from oak_square.core.words import say

__all__ = ["Tray"]

_HIGH = 34


class Tray(QWidget):
    """Shows entries; wishes for one to be run or taken out, or for another order."""

    run_wished = Signal(str)
    out_wished = Signal(str)
    order_wished = Signal(tuple)
    shown_or_hidden = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedHeight(_HIGH)
        self._label = QLabel(say("tray"), self)
        self._label.setProperty("role", "section")
        self._area = QScrollArea(self)
        self._area.setWidgetResizable(True)
        self._area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget()
        inner.setObjectName("strip")
        self._line = QHBoxLayout(inner)
        self._line.setContentsMargins(0, 0, 0, 0)
        self._line.setSpacing(4)
        self._line.addStretch(1)
        self._area.setWidget(inner)
        line = QHBoxLayout(self)
        line.setContentsMargins(14, 4, 14, 3)
        line.setSpacing(10)
        line.addWidget(self._label)
        line.addWidget(self._area, 1)
        self.buttons: list[_Favourite] = []
        self.shown: tuple[FinderEntry, ...] = ()
        self.hide()

    def show_entries(self, entries: Sequence[FinderEntry]) -> None:
        """Match the buttons to `entries`; empty, the tray takes no room."""
        if tuple(entries) == self.shown:
            return
        self.shown = tuple(entries)
        names = [each.name for each in entries]
        held = next((b.name for b in self.buttons if b.hasFocus()), None)
        for button in self.buttons:
            self._line.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = []
        for k, entry in enumerate(entries):
            button = _Favourite(entry, self)
            button.clicked.connect(lambda _=False, n=entry.name: self.run_wished.emit(n))
            button.out_wished.connect(lambda n=entry.name: self.out_wished.emit(n))
            button.shift_wished.connect(lambda by, at=k: self._shift_entry(at, at + by))
            button.dropped.connect(lambda x, at=k: self._shift_entry(at, self._place_at(x, at)))
            self._line.insertWidget(k, button)
            button.show()
            self.buttons.append(button)
        if held in names:
            self.buttons[names.index(held)].setFocus(Qt.FocusReason.OtherFocusReason)

        if self.isHidden() == bool(self.shown):
            self.setVisible(bool(self.shown))
            self.shown_or_hidden.emit()

    def _place_at(self, x: int, but: int) -> int:
        """Return which place a drop at an x of the screen gives."""
        middles = [b.mapToGlobal(b.rect().center()).x() for k, b in enumerate(self.buttons) if k != but]
        return sum(x > middle for middle in middles)

    def _shift_entry(self, at: int, to: int) -> None:
        names = [each.name for each in self.shown]
        if 0 <= to < len(names) and to != at:
            names.insert(to, names.pop(at))
            self.order_wished.emit(tuple(names))

    def paintEvent(self, event: QPaintEvent) -> None:
        """One hairline above."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(QPoint(0, 0), QPoint(self.width(), 0))


class _Favourite(QPushButton):
    """One favourite. A click runs it; a drag, or Ctrl with left and right, moves it; Del takes it out."""

    out_wished = Signal()
    shift_wished = Signal(int)
    dropped = Signal(int)  # an x of the screen

    def __init__(self, entry: FinderEntry, parent: QWidget) -> None:
        super().__init__(entry.words, parent)
        self.name = entry.name
        self.setProperty("role", "small")
        keys = f" ({keys_said(entry.keys)})" if entry.keys else ""
        self.setToolTip(
            f"{entry.words}{keys}\n{entry.hint}\n"
            + say("Drag, or Ctrl+Left and Ctrl+Right, to move it; Del takes it out")
        )
        self.setAccessibleName(entry.words)
        self.setAccessibleDescription(entry.hint)
        self._pressed: QPoint | None = None
        self._dragged = False

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed, self._dragged = event.globalPosition().toPoint(), False
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None:
            away = event.globalPosition().toPoint() - self._pressed
            if self._dragged or away.manhattanLength() >= QApplication.startDragDistance():
                self._dragged = True
                self.setCursor(Qt.CursorShape.ClosedHandCursor)
                self.raise_()
                self.move(self.pos() + QPoint(away.x(), 0))
                self._pressed += QPoint(away.x(), 0)
                return
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragged:
            self._dragged, self._pressed = False, None
            self.unsetCursor()
            self.setDown(False)
            self.updateGeometry()
            self.dropped.emit(event.globalPosition().toPoint().x())
            return
        self._pressed = None
        super().mouseReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ctrl = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if event.key() == Qt.Key.Key_Delete:
            self.out_wished.emit()
        elif ctrl and event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.shift_wished.emit(-1 if event.key() == Qt.Key.Key_Left else 1)
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction(say("Take it out of the tray")).triggered.connect(lambda _=False: self.out_wished.emit())
        for by, words in ((-1, say("Move it left")), (1, say("Move it right"))):
            menu.addAction(words).triggered.connect(lambda _=False, b=by: self.shift_wished.emit(b))
        menu.exec(event.globalPos())
