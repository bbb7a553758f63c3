"""The prep sheet as cards along the bottom: what each step is, on how many it acts, what it warned of."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QLabel, QMenu, QScrollArea, QWidget

from oak_square.app.theme import colour, font

__all__ = ["Card", "Strip"]

_CARD_HEIGHT, _NARROWEST, _WIDEST = 54, 128, 220


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """What a card says. `kind` is kept, open (being edited) or draft."""

    title: str
    detail: str
    tip: str
    kind: str = "kept"
    troubled: bool = False
    paused: bool = False


class _CardView(QAbstractButton):
    """Draws one card; a click opens it, Delete removes it."""

    remove_wished = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedSize(QSize(_NARROWEST, _CARD_HEIGHT))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._card = Card(title="", detail="", tip="")

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
        self._write(painter, room.adjusted(13, 8, -6, 0), card.title, font(13, semibold=True), "ink")
        self._write(
            painter, room.adjusted(13, 28, -6, 0), card.detail, font(12), "fix" if card.troubled else "ink-soft"
        )

    def _write(self, painter: QPainter, room: QRectF, text: str, type_: object, token: str) -> None:
        painter.setFont(type_)  # type: ignore[arg-type]
        painter.setPen(colour(token))
        shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, int(room.width()))
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, shown)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete:
            self.remove_wished.emit()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction("Open", self.click)
        menu.addAction("Remove\tDel", self.remove_wished.emit)
        menu.exec(event.globalPos())


class Strip(QWidget):
    """Shows cards; wishes to open or to remove one."""

    open_wished = Signal(int)
    remove_wished = Signal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("strip")
        self.setFixedHeight(76)
        self._area = QScrollArea(self)
        self._area.setWidgetResizable(True)
        self._area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setObjectName("strip")
        inner = QWidget()
        inner.setObjectName("strip")
        self._line = QHBoxLayout(inner)
        self._line.setContentsMargins(14, 0, 14, 0)
        self._line.setSpacing(8)
        self._empty = QLabel(
            "The prep sheet is empty. Go to a stage, try something, and keep it: that is step 1.", inner
        )
        self._empty.setProperty("role", "soft")
        self._line.addWidget(self._empty)
        self._line.addStretch(1)
        self._area.setWidget(inner)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(self._area)
        self.cards: list[_CardView] = []
        self.shown: tuple[Card, ...] = ()

    def paintEvent(self, event: QPaintEvent) -> None:
        """One hairline above."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setPen(QPen(colour("line"), 1))
        painter.drawLine(QPointF(0, 0.5), QPointF(self.width(), 0.5))

    def show_cards(self, cards: Sequence[Card]) -> None:
        """Match the cards to `cards`."""
        if tuple(cards) == self.shown:
            return
        grown = len(cards) > len(self.shown)
        self.shown = tuple(cards)
        while len(self.cards) < len(cards):
            view = _CardView(self)
            index = len(self.cards)
            view.clicked.connect(lambda _=False, k=index: self.open_wished.emit(k))
            view.remove_wished.connect(lambda k=index: self.remove_wished.emit(k))
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
