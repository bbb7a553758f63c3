"""MeasureDesk: the list of measurements between its form, the Dividers and the session."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from oak_square.app.desk.hand import InstrumentDesk
from oak_square.app.facts.measurements import measure_rows
from oak_square.app.instruments.dividers import Dividers
from oak_square.app.panel.measures_form import MeasuresForm
from oak_square.app.session.session import Session
from oak_square.core.measuring import read_measure
from oak_square.core.words import say
from oak_square.steps.naming import globs_for

__all__ = ["MeasureDesk"]


class MeasureDesk(QObject):
    """Shows the list of measurements; what is wished there goes to the session, or to the Dividers."""

    step_wished = Signal(dict)

    def __init__(self, session: Session, hand: InstrumentDesk, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._hand = session, hand

    def take_up(self, form: MeasuresForm) -> None:
        """Carry on what is wished in the form, which was made."""
        form.kind_wished.connect(self._begin_measure)
        form.chosen.connect(self._choose_measure)
        form.forget_wished.connect(self._session.measures.forget)
        form.frame_wished.connect(self._session.measures.tell_along)
        form.length_wished.connect(self._wish_for_length)

    def _begin_measure(self, kind: str) -> None:
        """Take the Dividers up for another kind of measurement."""
        dividers = self._hand.instruments["dividers"]
        assert isinstance(dividers, Dividers)
        if self._hand.held is not dividers:
            self._hand.take_up("dividers")
        dividers.begin(kind)  # type: ignore[arg-type]  # the form's keys are the kinds

    # The list

    def _choose_measure(self, index: int) -> None:
        measures = self._session.document.measures
        self._session.measures.choose(index)
        if index < len(measures) and measures[index].file in self._session.assets:
            self._session.select((measures[index].file,))

    def _wish_for_length(self, index: int, text: str) -> None:
        """Wish for the step that makes a span a length, in the frame the sheet's numbers are in."""
        measure = self._session.document.measures[index]
        outcome = self._session.outcomes.get(measure.file)
        if not text or outcome is None:
            self.step_wished.emit({})
            return
        setting = self._session.document.sheet.deliver.setting()
        world = read_measure(measure, outcome.before.asset).points
        points = world @ setting.working_from_delivery / setting.unit
        between = [[float(f"{v:.9g}") for v in p] for p in points.tolist()]
        words = {"do": "size", "between": between, "length": text, "for": globs_for([measure.file])}
        self.step_wished.emit(words)

    def show(self, form: MeasuresForm) -> None:
        """Match the form to the session."""
        session = self._session
        rows = measure_rows(session)
        datums = list(session.document.sheet.datums)
        frames = [
            ("world", say("the world")),
            ("part", say("the part")),
            *((f"datum {d}", say("datum {name}", name=d)) for d in datums),
        ]
        held = self._hand.held
        form.show_kind(held.points.kind if isinstance(held, Dividers) else None)
        form.show_frames(frames, session.measured_along)
        form.show_measures(rows, session.chosen_measure, session.unit)
