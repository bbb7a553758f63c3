"""What is tried: the draft, whom it is for, and how it becomes a step of the sheet."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.aim import (
    ScopeChoice,
    aim_of,
    fitting,
    is_aimed_so,
    is_for_wholes,
    scope_words,
    target_words,
    with_assets,
    with_nodes,
)
from oak_square.app.session.named import NamedThings
from oak_square.app.session.open_sheet import OpenSheet
from oak_square.app.session.state import State
from oak_square.app.session.stopping import is_refused_everywhere, why_nothing
from oak_square.app.session.taking import taking_steps
from oak_square.core.errors import BadReference
from oak_square.core.words import capital, say
from oak_square.sheet.model import Mark
from oak_square.sheet.references import named_assets
from oak_square.sheet.text import in_words
from oak_square.steps.edited import edited
from oak_square.steps.step import STEPS, Step

__all__ = ["Drafts"]


class Drafts(QObject):
    """Tries steps, aims them, and keeps or drops what is tried."""

    aim_changed = Signal()  # of what comes next: nothing is tried
    stage_wished = Signal(str)

    def __init__(self, state: State, sheet: OpenSheet, names: NamedThings, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._state, self._sheet, self._names = state, sheet, names
        self._asked_of: Step | None = None  # which draft it was said of that it is refused

    def try_step(self, step: Step, *, gesture: int | None = None, marks: Mapping[str, Mark] | None = None) -> None:
        """Make `step` the draft, previewed on all it covers; what one gesture tries is one entry of the history.

        `marks` are those it speaks of that the sheet has not got yet.
        """
        if step == self._sheet.document.draft and not marks:
            return
        needed = {**self._names.marks_for(step.words()), **(marks or {})}
        document = replace(self._sheet.document, draft=step, sheet=self._names.with_marks(needed))
        if document.tried.without_module() is not None:
            self._sheet.failed.emit(say("'mod' needs a module length: set the module first, at the foot of the view"))
            return
        try:
            named_assets(document.tried, list(self._state.rows))
        except BadReference as error:
            self._sheet.failed.emit(str(error))
        else:
            self._sheet.do(say("Try {title}", title=step.title()), document, gesture=gesture)

    def try_words(self, words: Mapping[str, Any], told: Mapping[str, Any], *, gesture: int | None = None) -> None:
        """Try what a form says now: the draft with what was changed in it, or a new step for what is aimed at.

        Parameters
        ----------
        words : mapping
            What the form says, without what it is for; empty where it says nothing.
        told : mapping
            What it showed of the draft, as it would say it.
        """
        draft = self._state.own_draft
        if draft is not None:
            words = edited(draft.words(), told, words)
        elif words:
            words = self.aimed(words)
        self.try_whole(fitting(words), gesture=gesture)

    def aimed(self, words: Mapping[str, Any]) -> dict[str, Any]:
        """Return a new step's words with what is aimed at, and whether that moves as one."""
        aim, scope = self._sheet.document.aim, self._state.scope
        aimed = {**words, **scope_words(aim, scope), **target_words(aim, scope, words)}
        return {**aimed, "together": True} if self._state.is_together and is_for_wholes(aimed) else aimed

    def aim_at(self, change: Callable[[ScopeChoice], ScopeChoice], *, nodes: bool, gesture: int | None = None) -> None:
        """Aim at other assets, or at other nodes of them: the draft, and what comes next if there is none."""
        draft, scope = self._state.own_draft, self._state.scope
        aim = self._sheet.document.aim
        if draft is not None and not is_aimed_so(draft, aim, scope):
            aim = aim_of(draft, scope)
        aim = change(aim)
        self._sheet.amend(aim=aim)
        if draft is None:
            self.aim_changed.emit()
        else:
            work = with_nodes if nodes else with_assets
            self.try_whole(work(draft.words(), aim, scope), gesture=gesture)
            self._sheet.document_changed.emit()

    def try_whole(
        self, words: Mapping[str, Any], *, gesture: int | None = None, marks: Mapping[str, Mark] | None = None
    ) -> None:
        """Try a step of these words, what it is for among them; of none, drop what is tried. As `try_step`."""
        if not words:
            self.drop(gesture=gesture)
            return
        kind = STEPS[str(words["do"])]
        try:
            step = kind.model_validate(words)
        except ValueError:
            self._sheet.failed.emit(say("Not a step yet: {in_words}", in_words=in_words(kind, words)))
        else:
            self.try_step(step, gesture=gesture, marks=marks)

    def drop(self, *, gesture: int | None = None) -> None:
        """Forget the draft; a kept step that was being edited stays as it was."""
        draft = self._sheet.document.draft
        if draft is not None:
            self._sheet.do(
                say("Drop {title}", title=draft.title()),
                self._sheet.document.with_sheet(self._sheet.document.sheet),
                gesture=gesture,
            )
            self._sheet.said.emit(say("Dropped: {title}", title=draft.title()))

    def keep(self, *, asks: bool = False) -> None:
        """Make the draft a step of the sheet; with `asks` only when asked twice, where it is refused everywhere."""
        draft, editing = self._sheet.document.draft, self._sheet.document.editing
        if draft is None:
            self._sheet.said.emit(say("Nothing to keep yet: choose what to do first"))
            return
        if draft.for_ == []:
            self._sheet.said.emit(say("It is for no asset at all: type a pattern, or choose what it is for"))
            return
        if asks and draft != self._asked_of and self._state.is_settled() and is_refused_everywhere(self._state):
            # Kept without a word, it would stand in the way of all that comes after it.
            self._asked_of = draft
            self._sheet.said.emit(say("It is refused everywhere: once more keeps it all the same, Esc drops it"))
            return
        self._asked_of = None
        if asks and editing is None and self._state.is_settled() and (why := why_nothing(self._state)):
            self.drop()
            self._sheet.said.emit(say("Nothing to keep: {why}", why=why))
            return
        document = self._sheet.document.with_draft_kept
        self._sheet.do(say("Keep {title}", title=draft.title()), document)
        number = len(document.sheet.steps) if editing is None else editing + 1
        self._sheet.said.emit(say("Kept as step {number}: {title}", number=number, title=draft.title()))

    def open_step(self, index: int) -> None:
        """Open a kept step, counted from 0, to be changed, and see the batch as it stands after it."""
        step = self._sheet.document.sheet.steps[index]
        if self._sheet.document.editing == index:
            return
        self._sheet.do(
            say("Open step {index}", index=index + 1),
            replace(
                self._sheet.document,
                draft=step,
                editing=index,
                aim=ScopeChoice(),
                together=step.moves_together or self._sheet.document.together,
            ),
        )
        self.stage_wished.emit(step.stage)

    def take_certain_units(self) -> None:
        """Keep a step for each unit that is the best beyond doubt of some assets."""
        self.take_best(self._state.questions("certain"), "unit")

    def take_best(self, files: Sequence[str], kind: str) -> None:
        """Keep steps that say what files most likely are: of their `unit`, or of the sides that are `up` and front."""
        steps, words = taking_steps(self._state.outcomes, files, kind)
        if not steps:
            self._sheet.said.emit(say("No unit is certain yet") if kind == "unit" else say("No side is certain yet"))
            return
        what = say("units") if kind == "unit" else say("sides that are up")
        sheet = self._sheet.document.with_steps((*self._sheet.document.sheet.steps, *steps))
        self._sheet.do(say("Take the {what}: {words}", what=what, words=words), self._sheet.document.with_sheet(sheet))
        self._sheet.said.emit(say("{what} taken: {words}", what=capital(what), words=words))
