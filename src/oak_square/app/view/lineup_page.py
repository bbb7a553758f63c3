"""The line-up with the bar under it, and the unit question beside the asset it is asked of."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from oak_square.app.facts.lineup import FIGURE, ORDERS, RowOfAll
from oak_square.app.facts.units import QuestionFacts
from oak_square.app.view.elevation import spans_decades
from oak_square.app.view.lineup import LineUp
from oak_square.app.view.renderer import Renderer
from oak_square.app.widgets.candidates import Candidates
from oak_square.app.widgets.fields import Choices, Elided
from oak_square.core.words import say

__all__ = ["LineUpPage"]

_CARD_WIDE = 304
_TOP = 46  # pixels that the tabs over the picture take


class _UnitCard(QFrame):
    """Asks what unit an asset was made in, from within the picture."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("unit-card")
        self.setFixedWidth(_CARD_WIDE)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(12, 9, 12, 11)
        rows.setSpacing(5)
        head = QHBoxLayout()
        self.title = QLabel(self)
        self.title.setTextFormat(Qt.TextFormat.PlainText)
        head.addWidget(self.title, 1)
        self.close_button = QPushButton("×", self)
        self.close_button.setProperty("role", "quiet")
        self.close_button.setFixedSize(20, 20)
        self.close_button.setToolTip(say("Leave the question for later; it stays in the Size panel"))
        head.addWidget(self.close_button)
        rows.addLayout(head)
        self.asks = QLabel(self)
        self.asks.setProperty("role", "soft")
        rows.addWidget(self.asks)
        self.candidates = Candidates(self)
        rows.addWidget(self.candidates)

    def show_question(self, facts: QuestionFacts) -> None:
        """Match the card to the question of one asset."""
        self.title.setText(f"{facts.name}: {facts.stands}")
        self.asks.setText(facts.asks)
        self.candidates.show_rows(facts.rows)
        self.adjustSize()


class LineUpPage(QWidget):
    """Shows the batch in a row; wishes for selections, for units and for other rows."""

    row_wished = Signal()  # ordered, or seen, in another way
    selection_wished = Signal(tuple)
    unit_wished = Signal(str, str)  # file, unit

    def __init__(self, renderer: Callable[[], Renderer], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.row = LineUp(renderer, self)
        self._shown: RowOfAll | None = None
        self._reference = FIGURE
        self._put_away: str | None = None
        self._lead_at: QRectF | None = None
        self.card = _UnitCard(self.row)
        self.card.hide()
        self.card.close_button.clicked.connect(self._put_card_away)
        self.card.candidates.unit_wished.connect(self._wish_unit)
        self.row.card_moved.connect(self._place_card)
        self.row.picked.connect(self._pick_file)
        self.row.missed.connect(lambda: self.selection_wished.emit(()))
        self.row.reference_wished.connect(self._refer_to)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.row, 1)
        column.addWidget(self._make_bar())

    def _make_bar(self) -> QWidget:
        bar = QWidget(self)
        bar.setObjectName("lineup-bar")
        bar.setFixedHeight(36)
        line = QHBoxLayout(bar)
        line.setContentsMargins(12, 4, 12, 4)
        line.setSpacing(6)
        self.side = Choices(
            [("front", "front", say("Seen from the front")), ("side", "side", say("Seen from the right side"))], bar
        )
        self.order = Choices(
            [
                ("height", say("by height"), say("The shortest first, the figure among its equals")),
                ("name", say("by name"), say("In the order of the alphabet")),
                ("finding", say("by finding"), say("What needs attention first")),
            ],
            bar,
        )
        self.scale = Choices(
            [
                ("even", "even", say("One scale for all: a metre is a metre everywhere")),
                ("log", "log", say("Heights by powers of ten: from bolts to boats in one picture")),
            ],
            bar,
        )
        for choices, first in ((self.side, "front"), (self.order, ORDERS[0]), (self.scale, "even")):
            choices.show_choice(first)
            choices.chosen.connect(self._choose_scale)
            line.addWidget(choices)
            line.addSpacing(8)
        self.words = Elided(bar)
        # Long words give way; they never widen the window.
        self.words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        line.addWidget(self.words, 1)
        return bar

    def _choose_scale(self, _: str) -> None:
        self.row.frame_all()
        self.row_wished.emit()

    def show_row(self, shown: RowOfAll) -> None:
        """Match everything to `shown`."""
        self._shown = shown
        items = list(shown.items)
        if self._reference not in {i.file for i in items}:
            self._reference = FIGURE
        self.row.shown = shown.unit
        self.row.show_notice("" if len(items) > 1 else say("Nothing to line up yet: open a folder of models"))
        self.row.show_items(
            items if len(items) > 1 else [], side=self.side.choice or "front", even=self.scale.choice != "log"
        )
        self.row.show_selection(shown.selection, self._reference)
        words = shown.words
        decades = spans_decades([i.height for i in items])
        if decades > 2.5 and self.scale.choice == "even":
            span = say("heights span {decades:,.0f} : 1", decades=float(round(10**decades, 1 - int(decades))))
            self.words.setToolTip(f"{words}; {span}")
            words = say("{span}: try log", span=span)
        else:
            self.words.setToolTip(words)
        self.words.setText(words)
        self.words.setProperty("role", "soft" if shown.all_true else "wrong")
        self.words.style().unpolish(self.words)
        self.words.style().polish(self.words)
        self._show_card()

    @property
    def _find_lead(self) -> str | None:
        return self._shown.selection[-1] if self._shown is not None and self._shown.selection else None

    # The unit question

    def _show_card(self) -> None:
        shown = self._shown
        facts = None if shown is None else shown.question
        wanted = shown is not None and shown.asks and facts is not None and facts.file != self._put_away
        if wanted and facts is not None:
            self.card.show_question(facts)
        self.card.setVisible(wanted and self._lead_at is not None)
        self._place_card(self._lead_at)

    def _place_card(self, outline: QRectF | None) -> None:
        """Set the card beside the lead asset: at its right, else at its left; never over the edge."""
        if (outline is None) != (self._lead_at is None):
            self._lead_at = outline
            self._show_card()
            return
        self._lead_at = outline
        if outline is None or self.card.isHidden():
            return
        self.card.move(_card_place(outline, QRectF(self.row.rect()), QSizeF(self.card.size())).toPoint())

    def _put_card_away(self) -> None:
        self._put_away = self._find_lead
        self.card.hide()

    def _wish_unit(self, unit: str) -> None:
        if self._find_lead is not None:
            self.unit_wished.emit(self._find_lead, unit)

    def _pick_file(self, file: str, added: bool) -> None:
        self._put_away = None
        selection = () if self._shown is None else self._shown.selection
        rest = tuple(f for f in selection if f != file) if added else ()
        self.selection_wished.emit((*rest, file))

    def _refer_to(self, file: str) -> None:
        self._reference = file
        self.row_wished.emit()


def _card_place(outline: QRectF, window: QRectF, card: QSizeF) -> QPointF:
    """Return where a card goes: beside the outline or over it where there is room, else at the window's right."""
    room = window.adjusted(90, _TOP + 4, -8, -70)
    seen = outline.intersected(room)
    seen = seen if not seen.isEmpty() else outline
    top = min(max(seen.top(), room.top()), max(room.top(), room.bottom() - card.height()))
    middle = min(max(seen.center().x() - card.width() / 2, room.left()), room.right() - card.width())
    for place in (
        QPointF(seen.right() + 20, top),
        QPointF(middle, seen.top() - card.height() - 16),
        QPointF(seen.left() - card.width() - 16, top),
    ):
        if room.contains(QRectF(place, card)):
            return place
    return QPointF(room.right() - card.width(), room.top())
