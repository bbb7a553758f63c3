"""Between the cards, the shelf and the session: for whom a step is, and sheets that were kept."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from oak_square.app.facts.shelf import meant, shelved
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.session import Session
from oak_square.app.widgets.actions import Actions
from oak_square.app.widgets.card_editor import CardEditor
from oak_square.app.widgets.shelf_dialog import ShelfDialog
from oak_square.app.widgets.strip import Strip
from oak_square.core.words import say
from oak_square.steps.step import STEPS, Step

__all__ = ["CardDesk"]


class CardDesk(QObject):
    """Opens the editor over a card, and the shelf."""

    def __init__(
        self,
        session: Session,
        habits: HabitBook,
        deeds: Actions,
        parts: tuple[Strip, CardEditor],
        open_sheet: Callable[[Path], object],
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._session, self._habits, self._deeds, self._open, self._window = session, habits, deeds, open_sheet, window
        self.strip, self.editor = parts
        self.shelf: ShelfDialog | None = None
        self._at: int | None = None
        self.strip.edit_wished.connect(self.edit)
        self.editor.edited.connect(self._tell_meaning)
        self.editor.keep_wished.connect(self._keep_words)
        session.sheet.document_changed.connect(self._follow_sheet)
        deeds.add("shelf", say("Sheets on the shelf…"), "F7", self.open_shelf)

    # A card

    def edit(self, index: int) -> None:
        """Open the editor over a kept step's card."""
        steps = self._session.document.sheet.steps
        if index >= len(steps):
            return
        self._at = index
        step = steps[index]
        title = say("Step {index}: {title}", index=index + 1, title=step.title())
        self.editor.open(title, step.words(), takes_parts=step.takes_parts, card=self.strip.cards[index])

    def _step_with_words(self, words: dict[str, Any]) -> Step:
        """Return the step with other words of those that any step may say.

        Raises
        ------
        ValidationError
            If it can't say that.
        """
        assert self._at is not None
        step = self._session.document.sheet.steps[self._at]
        whole = {k: v for k, v in {**step.words(), **words}.items() if v is not None}
        return STEPS[step.do].model_validate(whole)

    def _tell_meaning(self, words: dict[str, Any]) -> None:
        if self._at is None:
            return
        try:
            step = self._step_with_words(words)
        except ValidationError as error:
            self.editor.tell("▲ " + error.errors()[0]["msg"].removeprefix("Value error, "), wrong=True)
            return
        means, unmet = meant(self._session, step, self._session.document.sheet.steps[: self._at])
        self.editor.tell("\n".join([say("It is {means}.", means=means), *unmet]), wrong=False)

    def _keep_words(self, words: dict[str, Any]) -> None:
        if self._at is not None:
            at, step = self._at, self._step_with_words(words)
            self.editor.leave()
            self._session.sheet.change_step(at, step)

    def _follow_sheet(self) -> None:
        """A sheet that changes under the editor is not written over by what was typed for another state of it."""
        self.editor.leave()
        if self.shelf is not None and self.shelf.isVisible():
            self._show_shelf()

    # The shelf

    def open_shelf(self) -> ShelfDialog:
        """Show the sheets that were kept."""
        if self.shelf is None:
            self.shelf = shelf = ShelfDialog(self._window)
            shelf.run_wished.connect(self._run_sheet)
            shelf.name_wished.connect(lambda name, path: self._put_on_shelf(name, path))
            shelf.off_wished.connect(self._take_off)
            shelf.open_wished.connect(self._deeds["open-sheet"].trigger)
        self._show_shelf()
        self.shelf.show()
        self.shelf.raise_()
        return self.shelf

    def _show_shelf(self) -> None:
        if self.shelf is not None:
            self.shelf.show_sheets(shelved(self._session, self._habits.now))

    def _run_sheet(self, path: Path) -> None:
        self._open(path)
        if self.shelf is not None:
            self.shelf.close()

    def _put_on_shelf(self, name: str, path: Path) -> None:
        self._habits.change(shelf={**self._habits.now.shelf, name: str(path.absolute())})
        self._show_shelf()

    def _take_off(self, name: str) -> None:
        self._habits.change(shelf={n: p for n, p in self._habits.now.shelf.items() if n != name})
        self._show_shelf()
