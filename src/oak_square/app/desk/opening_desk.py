"""Between the session and what a window begins with: the opening screen, the demo batch, the tour of five steps."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget

from oak_square.app.facts.findings import having
from oak_square.app.facts.opening import is_empty, recent
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.habits import Habits
from oak_square.app.session.session import Session
from oak_square.app.widgets.actions import Actions, key_hint
from oak_square.app.widgets.opening import Opening
from oak_square.app.widgets.tour_card import TourCard
from oak_square.core.words import say
from oak_square.demo import BATCH

__all__ = ["OpeningDesk", "TourStep"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class TourStep:
    """One step of the tour: its stage and view, what it says, and what it speaks of.

    `of` is a finding: what it says can be done to an asset that has it, and such a one is selected.
    """

    stage: str
    view: str
    title: str
    text: str
    target: QWidget
    of: str = ""


class OpeningDesk(QObject):
    """Shows the opening screen while nothing is open, and leads through the tour."""

    def __init__(
        self,
        session: Session,
        habits: HabitBook,
        deeds: Actions,
        parts: tuple[Opening, TourCard],
        show_view: Callable[[str], object],
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._session, self._habits, self._show_view = session, habits, show_view
        self.opening, self.card = parts
        self.steps: tuple[TourStep, ...] = ()
        self.tour: Callable[[], tuple[TourStep, ...]] = tuple
        self._at: int | None = None
        self._offered: Habits | None = None
        self._placing = QTimer(self, singleShot=True, interval=0)
        self._placing.timeout.connect(self.place)
        deeds.add("demo", say("Open the demo batch"), "", self.open_demo)
        deeds.add("tour", say("Take the tour"), "", self.begin)
        opening = self.opening
        for wish, name in (
            (opening.folder_wished, "open-folder"),
            (opening.files_wished, "open-files"),
            (opening.sheet_wished, "open-sheet"),
            (opening.demo_wished, "demo"),
            (opening.tour_wished, "tour"),
            (opening.keys_wished, "keys"),
        ):
            wish.connect(deeds[name].trigger)
        self.card.on_wished.connect(lambda: self._go_to_page((self._at or 0) + 1))
        self.card.back_wished.connect(lambda: self._go_to_page((self._at or 0) - 1))
        self.card.leave_wished.connect(self.leave)
        session.stage_changed.connect(lambda _: self._placing.start())

    def show(self) -> None:
        """Match the opening screen to the session."""
        empty = is_empty(self._session) and self._at is None
        habits = self._habits.now
        if empty and (self.opening.isHidden() or habits is not self._offered):
            # The disk is asked once, not at every look: a share that is away answers late.
            self._offered = habits
            self.opening.show_offers(*recent(habits))
        if empty == self.opening.isHidden():
            self.opening.setVisible(empty)
            if empty:
                self.opening.raise_()

    def open_demo(self) -> None:
        """Open the batch that ships, beside what is open."""
        if BATCH not in self._session.paths:
            self._session.batch.open_paths([BATCH])

    # The tour

    @property
    def is_on(self) -> bool:
        """Whether the tour goes on."""
        return self._at is not None

    def begin(self) -> None:
        """Begin the tour, on the demo batch."""
        if self._session.paths and BATCH not in self._session.paths:
            self._session.messages.said.emit(
                say("The tour is on the demo batch: close what is open first{key}", key=key_hint("close"))
            )
            return
        self.open_demo()
        self.steps = self.tour()  # with the keys of now
        self._go_to_page(0)

    def leave(self) -> None:
        """Leave the tour; all stays as it is."""
        if self._at is not None:
            self._at = None
            self.card.end()

    def _go_to_page(self, k: int) -> None:
        if not 0 <= k < len(self.steps):
            self.leave()
            return
        self._at = k
        step = self.steps[k]
        self._session.enter_stage(step.stage)
        files = list(having(self._session, step.of)) if step.of else []
        if files and self._session.lead not in files:
            self._session.select((files[0],))
        self._show_view(step.view)
        self.card.show_step(k, len(self.steps), step.title, step.text)
        self.place()
        self.card.on.setFocus()
        self._placing.start()

    def place(self) -> None:
        """Have the card stand beside what it speaks of."""
        if self._at is not None:
            self.card.stand_by(self.steps[self._at].target)
