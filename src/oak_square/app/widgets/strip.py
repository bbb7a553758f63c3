"""The prep sheet as cards along the bottom: what each step is, on how many it acts, what it warned of."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QMenu, QScrollArea, QWidget

from oak_square.app.facts.cards import Card
from oak_square.app.widgets.theme import colour, font
from oak_square.core.words import say

__all__ = ["Strip"]

_DRAG_PIXELS = 10
_CARD_HEIGHT, _NARROWEST, _WIDEST = 54, 128, 220


def _is_own_key(event: QKeyEvent) -> bool:
    """Whether a key is a card's own, before the window's: P pauses, E edits."""
    return event.key() in (Qt.Key.Key_P, Qt.Key.Key_E) and not event.modifiers()


class _CardView(QAbstractButton):
    """Draws one card; a click opens it, a drag moves it, Delete removes it, P pauses it, E edits for whom it is."""

    remove_wished = Signal()
    pause_wished = Signal()
    edit_wished = Signal()
    shift_wished = Signal(int)
    drag_moved = Signal(QPointF)
    drag_ended = Signal(QPointF)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedSize(QSize(_NARROWEST, _CARD_HEIGHT))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._card = Card(title="", detail="", tip="")
        self._pressed: QPointF | None = None
        self._dragging = False

    def show_card(self, card: Card) -> None:
        self._card = card
        title = QFontMetrics(font(13, semibold=True)).horizontalAdvance(card.title)
        detail = QFontMetrics(font(12)).horizontalAdvance(card.detail)
        self.setFixedWidth(min(_WIDEST, max(_NARROWEST, max(title, detail) + 24)))
        self.setToolTip(card.tip)
        self.setAccessibleName(card.title)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        card = self._card
        pen = QPen(colour("line"), 1)
        if card.kind != "kept":
            pen = QPen(colour("verdigris"), 1.5)
            if card.kind == "draft":
                pen.setDashPattern([4, 3])
        elif self.hasFocus() or self.underMouse():
            pen = QPen(colour("oak-deep"), 1.2)
        painter.setPen(pen)
        painter.setBrush(colour("card"))
        painter.drawRoundedRect(room, 4, 4)
        edge = colour("verdigris" if card.kind != "kept" else "fix" if card.troubled else "oak")
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(edge)
        painter.drawRect(QRectF(room.left(), room.top() + 3, 4, room.height() - 6))
        painter.setOpacity(0.5 if card.paused else 1.0)
        self._write_line(painter, room.adjusted(13, 8, -6, 0), card.title, font(13, semibold=True), "ink")
        self._write_line(
            painter, room.adjusted(13, 28, -6, 0), card.detail, font(12), "fix" if card.troubled else "ink-soft"
        )

    def _write_line(self, painter: QPainter, room: QRectF, text: str, type_: object, token: str) -> None:
        painter.setFont(type_)  # type: ignore[arg-type]
        painter.setPen(colour(token))
        shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, int(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, shown)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = event.globalPosition()
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None or self._card.kind == "draft":
            return
        far = abs(event.globalPosition().x() - self._pressed.x())
        if self._dragging or far > _DRAG_PIXELS:
            self._dragging = True
            self.drag_moved.emit(event.globalPosition())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._pressed = None
        if self._dragging:
            self._dragging = False
            self.setDown(False)
            self.drag_ended.emit(event.globalPosition())
            return
        super().mouseReleaseEvent(event)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and _is_own_key(event):
            # On a card its own key comes before the window's.
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        shifts = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event.key() == Qt.Key.Key_Delete:
            self.remove_wished.emit()
        elif _is_own_key(event) and self._card.kind != "draft":
            (self.pause_wished if event.key() == Qt.Key.Key_P else self.edit_wished).emit()
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier and Qt.Key(event.key()) in shifts:
            self.shift_wished.emit(shifts[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction(say("Open"), self.click)
        if self._card.kind != "draft":
            menu.addAction(say("What it is for, exceptions, a note…\tE"), self.edit_wished.emit)
            menu.addAction(say("Take up again\tP") if self._card.paused else "Pause\tP", self.pause_wished.emit)
            menu.addAction(say("Move to the left\tCtrl+Left"), lambda: self.shift_wished.emit(-1))
            menu.addAction(say("Move to the right\tCtrl+Right"), lambda: self.shift_wished.emit(1))
        menu.addAction(say("Remove\tDel"), self.remove_wished.emit)
        menu.exec(event.globalPos())


class Strip(QWidget):
    """Shows cards; wishes to open, remove, pause or move one."""

    open_wished = Signal(int)
    edit_wished = Signal(int)
    remove_wished = Signal(int)
    pause_wished = Signal(int)
    move_wished = Signal(int, int)  # which, before which

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("strip")
        self.setFixedHeight(76)
        self._area = QScrollArea(self)
        self._area.setWidgetResizable(True)
        self._area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setObjectName("strip")
        inner = QWidget()
        inner.setObjectName("strip")
        self._line = QHBoxLayout(inner)
        self._line.setContentsMargins(14, 0, 14, 0)
        self._line.setSpacing(8)
        self._empty = QLabel(
            say("The prep sheet is empty. Go to a stage, try something, and keep it: that is step 1."), inner
        )
        self._empty.setProperty("role", "soft")
        self._line.addWidget(self._empty)
        self._line.addStretch(1)
        self._area.setWidget(inner)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self._area)
        self._gap = QWidget(inner)
        self._gap.setObjectName("gap")
        self._gap.setFixedSize(3, _CARD_HEIGHT)
        self._gap.hide()
        self.cards: list[_CardView] = []
        self.shown: tuple[Card, ...] = ()

    def paintEvent(self, event: QPaintEvent) -> None:
        """One hairline above."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(QPointF(0, 0.5), QPointF(self.width(), 0.5))

    def _kept_cards(self) -> list[_CardView]:
        return [v for v, c in zip(self.cards, self.shown, strict=True) if c.kind != "draft"]

    def _place_at(self, at: QPointF) -> int:
        """Return before which kept card a drop at a screen point puts one."""
        return sum(at.x() > view.mapToGlobal(QPointF(view.width() / 2, 0)).x() for view in self._kept_cards())

    def _show_gap(self, at: QPointF) -> None:
        kept, place = self._kept_cards(), self._place_at(at)
        x = kept[place].x() - 6 if place < len(kept) else kept[-1].geometry().right() + 4
        self._gap.move(x, kept[0].y())
        self._gap.raise_()
        self._gap.show()

    def _drop_card(self, index: int, at: QPointF) -> None:
        self._gap.hide()
        self.move_wished.emit(index, self._place_at(at))

    def _shift_card(self, index: int, way: int) -> None:
        to = index + (2 if way > 0 else -1)
        if 0 <= to <= len(self._kept_cards()):
            self.move_wished.emit(index, to)

    def show_cards(self, cards: Sequence[Card]) -> None:
        """Match the cards to `cards`."""
        if tuple(cards) == self.shown:
            return
        grown = len(cards) == len(self.shown) + 1
        self.shown = tuple(cards)
        while len(self.cards) < len(cards):
            view = _CardView(self)
            index = len(self.cards)
            view.clicked.connect(lambda _=False, k=index: self.open_wished.emit(k))
            view.remove_wished.connect(lambda k=index: self.remove_wished.emit(k))
            view.edit_wished.connect(lambda k=index: self.edit_wished.emit(k))
            view.pause_wished.connect(lambda k=index: self.pause_wished.emit(k))
            view.shift_wished.connect(lambda way, k=index: self._shift_card(k, way))
            view.drag_moved.connect(self._show_gap)
            view.drag_ended.connect(lambda at, k=index: self._drop_card(k, at))
            self._line.insertWidget(index + 1, view)
            self.cards.append(view)
        while len(self.cards) > len(cards):
            view = self.cards.pop()
            self._line.removeWidget(view)
            view.deleteLater()
        for view, card in zip(self.cards, cards, strict=True):
            view.show_card(card)
            view.show()
        self._empty.setVisible(not cards)
        if grown and self.cards:
            bar = self._area.horizontalScrollBar()
            bar.rangeChanged.connect(lambda _low, high: bar.setValue(high), Qt.ConnectionType.SingleShotConnection)
