"""What is seen before anything is open: where to drop things, what was open before, the demo batch and the tour."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, Qt, Signal, SignalInstance
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from oak_square.app.facts.opening import Offer
from oak_square.app.widgets.actions import tip
from oak_square.app.widgets.fields import push_button, rule, section
from oak_square.app.widgets.theme import colour, font
from oak_square.core.words import say

__all__ = ["Opening"]

_WIDEST, _DROP_HIGH = 760, 150


class Opening(QWidget):
    """Offers what to begin with; wishes for it."""

    folder_wished = Signal()
    files_wished = Signal()
    sheet_wished = Signal()
    demo_wished = Signal()
    tour_wished = Signal()
    keys_wished = Signal()
    open_wished = Signal(list)  # paths

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._inner = QWidget(self)
        rows = QVBoxLayout(self._inner)
        rows.setContentsMargins(24, 20, 24, 20)
        rows.setSpacing(14)
        heading = QLabel(say("What came in, made true"), self._inner)
        heading.setProperty("role", "title")
        rows.addWidget(heading)
        self.drop = _DropArea(self._inner)
        rows.addWidget(self.drop)
        line = QHBoxLayout()
        line.setSpacing(8)
        for words, does, wish, deed in (
            (
                say("Open a folder…"),
                say("Open all models in a folder, and in those in it"),
                self.folder_wished,
                "open-folder",
            ),
            (say("Open files…"), say("Open models one by one"), self.files_wished, "open-files"),
            (say("Open a prep sheet…"), say("Open steps that were kept"), self.sheet_wished, "open-sheet"),
        ):
            button = self._make_button(words, does, wish, "primary" if wish is self.folder_wished else "")
            tip(button, does, deed)
            line.addWidget(button)
        line.addStretch(1)
        rows.addLayout(line)
        below = QGridLayout()
        below.setHorizontalSpacing(32)
        below.setVerticalSpacing(6)
        below.setColumnStretch(0, 1)
        below.setColumnStretch(1, 1)
        self.batches, self.sheets = _Offers(say("recent batches"), self), _Offers(say("recent sheets"), self)
        for k, offers in enumerate((self.batches, self.sheets)):
            offers.open_wished.connect(self.open_wished)
            below.addWidget(offers, 0, k, Qt.AlignmentFlag.AlignTop)
        rows.addLayout(below)
        rows.addWidget(rule(self._inner))
        line = QHBoxLayout()
        line.setSpacing(8)
        self.demo = self._make_button(
            say("Open the demo batch"),
            say("Fenwick Lock: a canal lock's models, with all that goes wrong in real ones"),
            self.demo_wished,
            "",
        )
        self.tour = self._make_button(
            say("Take the tour"), say("Five steps on the demo batch; Esc leaves it at any time"), self.tour_wished, ""
        )
        self.keys = self._make_button(say("All keys"), say("All keys on one sheet"), self.keys_wished, "")
        tip(self.keys, say("All keys on one sheet"), "keys")
        for button in (self.demo, self.tour, self.keys):
            line.addWidget(button)
        line.addStretch(1)
        rows.addLayout(line)
        self.demo_words = QLabel(
            say(
                "Fenwick Lock, a made-up canal lock: in millimetres and inches, "
                "on its back, unbaked, hinged in the wrong "
                "place. The tour goes through it in five steps."
            ),
            self._inner,
        )
        self.demo_words.setProperty("role", "soft")
        self.demo_words.setWordWrap(True)
        rows.addWidget(self.demo_words)
        self._centre_column()

    def _centre_column(self) -> None:
        """Stand in the middle, no wider than is read easily."""
        self._inner.setMaximumWidth(_WIDEST)
        across = QHBoxLayout()
        across.addStretch(1)
        across.addWidget(self._inner, 1000)
        across.addStretch(1)
        down = QVBoxLayout(self)
        down.setContentsMargins(16, 16, 16, 16)
        down.addStretch(1)
        down.addLayout(across)
        down.addStretch(3)

    def _make_button(self, words: str, tip: str, wish: SignalInstance, role: str) -> QPushButton:
        button = push_button(words, tip, self._inner, role)
        button.clicked.connect(lambda _=False: wish.emit())
        return button

    def show_offers(self, batches: Sequence[Offer], sheets: Sequence[Offer]) -> None:
        """Match what was open before."""
        self.batches.show_offers(batches)
        self.sheets.show_offers(sheets)

    def show_drop(self, over: bool) -> None:
        """Show that what is dragged would be taken here."""
        self.drop.over = over
        self.drop.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the paper."""
        QPainter(self).fillRect(self.rect(), colour("paper"))


class _DropArea(QWidget):
    """Where things are dropped, though they may be dropped anywhere."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedHeight(_DROP_HIGH)
        self.setAccessibleName(say("Drop a folder of models here"))
        self.over = False

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setBrush(colour("oak-pale" if self.over else "card"))
        pen = QPen(colour("oak"), 2 if self.over else 1.4, Qt.PenStyle.SolidLine if self.over else Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.drawRoundedRect(room, 4, 4)
        painter.setPen(colour("ink"))
        painter.setFont(font(16, semibold=True))
        half = room.height() / 2
        where = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom
        painter.drawText(room.adjusted(0, 0, 0, -half - 2), where, say("Drop a folder of models here"))
        painter.setPen(colour("ink-soft"))
        painter.setFont(font(12))
        where = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop
        painter.drawText(room.adjusted(8, half + 4, -8, 0), where, say("or single files, a prep sheet, a size book"))


class _Offers(QWidget):
    """A list of what was open before."""

    open_wished = Signal(list)

    def __init__(self, heading: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._rows = QVBoxLayout(self)
        self._rows.setContentsMargins(0, 0, 0, 0)
        self._rows.setSpacing(2)
        self._rows.addWidget(section(heading, self))
        self._none = QLabel(say("None yet: what you open is listed here."), self)
        self._none.setProperty("role", "soft")
        self._rows.addWidget(self._none)
        self.buttons: list[QPushButton] = []
        self._shown: tuple[Offer, ...] | None = None

    def show_offers(self, offers: Sequence[Offer]) -> None:
        if tuple(offers) == self._shown:
            return
        self._shown = tuple(offers)
        for button in self.buttons:
            self._rows.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = []
        self._none.setVisible(not offers)
        for offer in offers:
            button = _OfferButton(offer, self)
            button.clicked.connect(lambda _=False, paths=offer.paths: self.open_wished.emit(list(paths)))
            self._rows.addWidget(button)
            self.buttons.append(button)


class _OfferButton(QPushButton):
    """A name, and behind it the folder it lies in, as much of it as there is room for."""

    def __init__(self, offer: Offer, parent: QWidget) -> None:
        super().__init__(parent)
        self._offer = offer
        self.setProperty("role", "flat")
        gone = say("\nIt is not there any more") if offer.gone else ""
        self.setToolTip("\n".join(offer.paths) + gone)
        self.setEnabled(not offer.gone)
        self.setAccessibleName(say("Open {words}, {where}", words=offer.words, where=offer.where))
        self.setMinimumHeight(28)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        room = self.rect().adjusted(8, 0, -8, 0)
        painter.setFont(font(13))
        painter.setPen(colour("ink" if self.isEnabled() else "ink-soft"))
        middle = Qt.AlignmentFlag.AlignVCenter
        words = painter.fontMetrics().elidedText(self._offer.words, Qt.TextElideMode.ElideRight, room.width())
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | middle, words)
        left = painter.fontMetrics().horizontalAdvance(words) + 10
        painter.setFont(font(11))
        painter.setPen(colour("ink-soft"))
        where = say("not there any more") if self._offer.gone else self._offer.where
        rest = painter.fontMetrics().elidedText(where, Qt.TextElideMode.ElideLeft, max(0, room.width() - left))
        painter.drawText(room.adjusted(left, 0, 0, 0), Qt.AlignmentFlag.AlignLeft | middle, rest)
