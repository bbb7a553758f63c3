"""Keeps a journal of a session, and takes up what an earlier run left behind."""

from __future__ import annotations

import os
from pathlib import Path

from PySide6.QtCore import QObject

from oak_square.app.session.document import History
from oak_square.app.session.journal import Journal, Saved, ViewState, left_behind
from oak_square.app.session.session import Session
from oak_square.core.errors import OakSquareError
from oak_square.core.words import counted, say
from oak_square.sheet.measures import load_measures, measures_path
from oak_square.sheet.text import load_sheet

__all__ = ["Autosave"]


class Autosave(QObject):
    """Writes down what changes in a session, at once; says so once where it can't."""

    def __init__(self, session: Session, folder: Path) -> None:
        """Take the session, and the folder that journals lie in."""
        super().__init__(session)
        self._session, self._folder = session, folder
        self._journal: Journal | None = Journal(folder)
        for changed in (
            session.sheet.document_changed,
            session.selection_changed,
            session.stage_changed,
            session.shown_changed,
            session.batch.batch_changed,
        ):
            changed.connect(self._note_change)

    def left(self) -> list[Saved]:
        """Return what runs that were not closed have left behind, the newest first."""
        return left_behind(self._folder)

    def end(self) -> None:
        """Forget the journal: the session was closed by whoever worked on it."""
        if self._journal is not None:
            self._journal.end()
            self._journal = None

    def _note_change(self, *_: object) -> None:
        if self._journal is None:
            return
        session = self._session
        looks = ViewState(
            paths=tuple(str(p.absolute()) for p in session.paths),
            taken_out=tuple(sorted(session.batch.taken_out)),
            selection=session.selection,
            nodes=session.nodes,
            stage=session.stage,
            unit=session.unit,
            chosen_measure=session.chosen_measure,
            measured_along=session.measured_along,
        )
        try:
            self._journal.follow(session.sheet.history, looks)
        except OSError as error:
            self._journal = None
            why = error.strerror or str(error)
            session.messages.failed.emit(
                say("What you do can't be kept against a crash ({why}): save the sheet yourself", why=why)
            )

    def take_up(self, saved: Saved) -> None:
        """Go on with what an earlier run left; files that are gone by now are said, all else is as it was."""
        session, looks = self._session, saved.looks
        there = [Path(p) for p in looks.paths if os.path.lexists(p)]
        gone = [p for p in looks.paths if not os.path.lexists(p)]
        if there:
            session.batch.open_paths(there)
        session.batch.taken_out |= set(looks.taken_out)
        session.show_in(looks.unit)
        session.sheet.take_history(saved.history, _on_disk(saved.history))
        session.measures.chosen, session.measures.along = looks.chosen_measure, looks.measured_along
        session.select(looks.selection, looks.nodes)
        session.enter_stage(looks.stage)
        saved.put_away()
        steps = counted(len(saved.history.now.sheet.steps), "step")
        lost = say("; not there any more: {gone}", gone=", ".join(gone)) if gone else ""
        session.messages.said.emit(
            say("Taken up again: {steps}, and all that can be undone{lost}", steps=steps, lost=lost)
        )


def _on_disk(history: History) -> dict[Path, tuple[object, object]]:
    """Return what the sheets that a history speaks of hold on the disk now, as far as they can be read."""
    documents = [history.now, *(d for _, d in (*history.past, *history.future))]
    found: dict[Path, tuple[object, object]] = {}
    for path in {d.path for d in documents if d.path is not None}:
        try:
            found[path] = load_sheet(path)[0], load_measures(measures_path(path))
        except (OakSquareError, OSError):
            continue  # gone, or no sheet any more: then it is not saved
    return found
