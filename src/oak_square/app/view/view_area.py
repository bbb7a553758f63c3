"""The middle of the window: the views, the tabs to choose one, and from where to look."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QStackedLayout, QWidget

from oak_square.app.view import Bench, Renderer
from oak_square.app.view.compare import Compare
from oak_square.app.view.lineup_page import LineUpPage
from oak_square.app.view.set_out_page import SetOutPage
from oak_square.app.view.stand_page import StandPage
from oak_square.app.widgets.actions import tip
from oak_square.app.widgets.fields import Elided
from oak_square.app.widgets.tab_order import ButtonRow
from oak_square.core.terms import term
from oak_square.core.words import lowered, say

__all__ = ["VIEWS", "ViewArea"]

VIEWS = {
    "bench": say("Bench"),
    "line-up": say("Line-up"),
    "before-after": say("Before / After"),
    "set-out": say("Set-out"),
    "stand": say("Stand"),
}
_BAND = 26
_LOOKS = {"front": (0, 0), "right": (90, 0), "top": (0, 90), "corner": (32, 22)}
_OPPOSITE = {"front": "back", "right": "left", "top": "bottom"}


class ViewArea(QWidget):
    """Stacks the views; what stands over them is sized to its words, so that the pictures stay free."""

    view_wished = Signal(str)
    instrument_wished = Signal(str)
    pointed_apart = Signal(object)  # a click in a picture that takes no instruments: Pointing
    together_wished = Signal(bool)
    play_wished = Signal()
    set_out_wished = Signal(dict)  # as the sheet says it; empty for none
    selection_wished = Signal(tuple)

    def __init__(
        self,
        renderer: Renderer,
        small: Callable[[], Renderer],
        instruments: Sequence[tuple[str, str, str]],
        parent: QWidget | None = None,
    ) -> None:
        """Take the Bench's renderer, what gives the one for small pictures, and instruments: name, word, tip."""
        super().__init__(parent)
        self.bench = Bench(renderer, self)
        self.lineup = LineUpPage(small, self)
        self.compare: Compare | None = None
        self.set_out: SetOutPage | None = None
        self.stand: StandPage | None = None
        self._stack = QStackedLayout(self)
        self._stack.setContentsMargins(0, 0, 0, 0)
        self._stack.addWidget(self.bench)
        self._stack.addWidget(self.lineup)
        self._left, self._right = QWidget(self), QWidget(self)
        self.tabs: dict[str, QPushButton] = {}
        self.title = Elided(self._left)
        self.title.setObjectName("bench-title")
        self.title.setTextFormat(Qt.TextFormat.PlainText)
        line = _make_row(self._left)
        for key, word in VIEWS.items():
            button = _lay_button_over(word, self._left)
            button.setCheckable(True)
            button.setToolTip(say("Show the {view} view", view=lowered(word)))
            button.clicked.connect(lambda _=False, k=key: self.view_wished.emit(k))
            self.tabs[key] = button
            line.addWidget(button)
        line.addSpacing(8)
        line.addWidget(self.title)
        self._make_tools(instruments)
        self.band = QLabel(self)
        self.band.setObjectName("band")
        self.band.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.band.setFixedHeight(_BAND)
        self.band.hide()
        line = _make_row(self._right)
        self.looks: dict[str, QPushButton] = {}
        for word in _LOOKS:
            button = _lay_button_over(word, self._right)
            hint = say("Look from the {word}", word=term(word))
            if word in _OPPOSITE:
                hint = say("Look from the {word}, flat and to scale; again, from the {other}", word=term(word),
                           other=term(_OPPOSITE[word]))  # fmt: skip
            button.setToolTip(hint)
            button.setAccessibleName(say("Look from the {word}", word=term(word)))
            self.looks[word] = button
            button.clicked.connect(lambda _=False, look=word: self.look_from(look))
            line.addWidget(button)
        for row in (self._left, self._tools, self._right):
            ButtonRow(row)
        self.view = "bench"
        self.show_view("bench")

    def _make_tools(self, instruments: Sequence[tuple[str, str, str]]) -> None:
        """Make the second row over the Bench: the instruments, the common box, the clip."""
        self._tools = QWidget(self)
        line = _make_row(self._tools)
        self.instruments: dict[str, QPushButton] = {}
        for key, word, words in instruments:
            button = _lay_button_over(word, self._tools)
            button.setCheckable(True)
            tip(button, words, f"hold.{key}")
            button.clicked.connect(lambda _=False, k=key: self.instrument_wished.emit(k))
            self.instruments[key] = button
            line.addWidget(button)
        self.together_button = _lay_button_over(say("common box"), self._tools)
        self.together_button.setCheckable(True)
        self.together_button.setToolTip(
            say("Several that are selected count as one: they move, turn and are sized by their common box")
        )
        self.together_button.clicked.connect(self.together_wished)
        line.addSpacing(8)
        line.addWidget(self.together_button)
        self.play_button = _lay_button_over("play", self._tools)
        self.play_button.setCheckable(True)
        self.play_button.setToolTip(say("Play the asset's clip as it will be once the steps are done; again to stop"))
        self.play_button.clicked.connect(lambda _=False: self.play_wished.emit())
        self.play_button.hide()
        line.addWidget(self.play_button)

    def show_view(self, view: str) -> None:
        """Bring one view to the front."""
        self.view = view
        if view == "before-after" and self.compare is None:
            # Two more graphics contexts: made when first asked for.
            self.compare = Compare(self)
            self.compare.released.connect(self.pointed_apart)
            self._stack.addWidget(self.compare)
        if view == "set-out" and self.set_out is None:
            self.set_out = SetOutPage(self)
            self.set_out.words_wished.connect(self.set_out_wished)
            self.set_out.selection_wished.connect(self.selection_wished)
            self._stack.addWidget(self.set_out)
        if view == "stand" and self.stand is None:
            self.stand = StandPage(self)
            self.stand.selection_wished.connect(self.selection_wished)
            self._stack.addWidget(self.stand)
        shown: QWidget = self.bench
        if view == "line-up":
            shown = self.lineup
        elif view == "before-after" and self.compare is not None:
            shown = self.compare
        elif view == "set-out" and self.set_out is not None:
            shown = self.set_out
        elif view == "stand" and self.stand is not None:
            shown = self.stand
        self._stack.setCurrentWidget(shown)
        self._tools.setVisible(view == "bench")
        self._right.setVisible(view != "line-up")
        self.title.setVisible(view not in ("line-up", "set-out"))
        for key, button in self.tabs.items():
            button.setChecked(key == view)
        for widget in (self._left, self._right, self._tools, self.band):
            widget.raise_()

    def view_of(self, widget: QWidget) -> str | None:
        """Return the view that must be in front for something of its own to be seen; None where any may be."""
        pages = {"line-up": self.lineup, "before-after": self.compare, "set-out": self.set_out, "stand": self.stand}
        found = next((key for key, page in pages.items() if page is not None and page.isAncestorOf(widget)), None)
        return "bench" if found is None and self._tools.isAncestorOf(widget) else found

    def offer_together(self, wanted: bool, together: bool) -> None:
        """Offer the common box, while several are selected."""
        self.together_button.setVisible(wanted)
        self.together_button.setChecked(together)
        self._lay_over()

    def offer_play(self, wanted: bool, playing: bool) -> None:
        """Offer to play a clip, where there is one."""
        self.play_button.setVisible(wanted)
        self.play_button.setChecked(playing)
        self.play_button.setText(term("stop" if playing else "play"))
        self._lay_over()

    def show_band(self, words: str, instrument: str) -> None:
        """Say over the view which mode is on, and mark the instrument in hand; no words for no mode."""
        self.band.setText(words)
        self.band.setVisible(bool(words))
        for key, button in self.instruments.items():
            button.setChecked(key == instrument)
        self._lay_over()

    def show_title(self, title: str) -> None:
        """Say what is shown."""
        self.title.setText(title)
        self.title.setToolTip(title)
        self._lay_over()

    def frame(self, everything: bool, lead: str | None) -> None:
        """Frame what is selected, or all, in the view in front."""
        if self.view == "line-up" and lead is not None and not everything:
            self.lineup.row.frame_file(lead)
        elif self.view == "line-up":
            self.lineup.row.frame_all()
        elif self.view == "before-after" and self.compare is not None:
            self.compare.frame()
        elif self.view == "set-out" and self.set_out is not None:
            self.set_out.frame()
        elif self.view == "stand" and self.stand is not None:
            self.stand.frame()
        else:
            self.bench.frame_next()

    @property
    def leading(self) -> Bench:
        """The bench of the view in front, or the one that it follows."""
        if self.view == "before-after" and self.compare is not None:
            return self.compare.sides[1]
        if self.view == "set-out" and self.set_out is not None:
            return self.set_out.bench
        if self.view == "stand" and self.stand is not None:
            return self.stand.bench
        return self.bench

    def look_from(self, look: str) -> None:
        """Look from one side in parallel projection, from its opposite where it does already; or from a corner."""
        azimuth, elevation = _LOOKS[look]
        bench = self.leading
        if look == "corner":
            bench.look_from(azimuth, elevation, flat=False)
            return
        camera = bench.camera
        # From above and below alike, the front is at the lower rim.
        if abs(camera.elevation_deg - elevation) < 1 and abs(camera.azimuth_deg - azimuth) < 1:
            azimuth, elevation = (azimuth, -90) if look == "top" else (azimuth + 180, elevation)
        bench.look_from(azimuth, elevation, flat=True)

    def swap_projection(self) -> None:
        """Look in parallel projection in the view in front, or in perspective again."""
        if self.view != "line-up":
            self.leading.swap_projection()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep what stands over the pictures at their corners."""
        self._lay_over()

    def _lay_over(self) -> None:
        for widget in (self._left, self._right, self._tools):
            widget.adjustSize()
        # The band stands at the very top: what is over the picture makes room for it.
        top = 10 + (_BAND if not self.band.isHidden() else 0)
        self.band.setGeometry(0, 0, self.width(), _BAND)
        self._left.move(12, top)
        self._tools.move(12, top + 30)
        room = self.width() - 24 - self._right.width()
        self.title.setMaximumWidth(max(0, room - (self._left.width() - self.title.width()) - 12))
        self._left.adjustSize()
        # Where both don't fit on one line, the looks stand below at the right; below the tools, where those are wide.
        row = 0 if self._left.width() + 12 <= room else 1
        if row and not self._tools.isHidden() and self._tools.width() + 12 > room:
            row = 2
        self._right.move(self.width() - self._right.width() - 12, top + 30 * row)
        covering = (self._left, self._tools)
        self.bench.covered = (max(w.geometry().right() for w in covering), self._tools.geometry().bottom())

    def close_renderers(self) -> None:
        """Give the graphics contexts back."""
        if self.compare is not None:
            self.compare.close_renderers()
        if self.set_out is not None:
            self.set_out.close_renderer()
        if self.stand is not None:
            self.stand.close_renderer()


def _make_row(parent: QWidget) -> QHBoxLayout:
    line = QHBoxLayout(parent)
    line.setContentsMargins(0, 0, 0, 0)
    line.setSpacing(4)
    parent.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
    parent.setObjectName("clear")
    return line


def _lay_button_over(word: str, parent: QWidget) -> QPushButton:
    button = QPushButton(term(word), parent)
    button.setProperty("role", "over")
    button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    return button
