"""Measuring: carries the Dividers between the Bench, the list of measurements and the session."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QPointF, Signal

from oak_square.app.facts.measurements import measure_rows
from oak_square.app.instruments.dividers import Aim, Dividers, aim_at
from oak_square.app.panel.measures_form import MeasuresForm
from oak_square.app.session.session import Session
from oak_square.app.view import AimMark, Bench
from oak_square.core.boxes import asset_box
from oak_square.core.measuring import read_measure
from oak_square.steps import globs_for

__all__ = ["Measuring"]


class Measuring(QObject):
    """Takes up the Dividers and lays them down; what they measure goes to the session."""

    changed = Signal()  # what the view must say has changed
    step_wished = Signal(dict)

    def __init__(self, session: Session, bench: Bench, form: MeasuresForm, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._bench, self._form = session, bench, form
        self.dividers: Dividers | None = None
        self._trail: list[np.ndarray[Any, np.dtype[np.float64]]] = []
        bench.aimed.connect(self._aim)
        bench.touched.connect(self._touch)
        form.kind_wished.connect(self.take_up)
        form.chosen.connect(self._choose)
        form.forget_wished.connect(session.forget_measure)
        form.frame_wished.connect(self._tell_along)
        form.length_wished.connect(self._lengthen)

    @property
    def band(self) -> str:
        """What the band over the view says; empty while the Dividers lie by."""
        if self.dividers is None:
            return ""
        return f"Dividers, {self.dividers.kind}: {self.dividers.asks}  ·  Esc lays them down"

    def take_up(self, kind: str = "span") -> None:
        """Measure; forgets the points of what was begun."""
        self.dividers = Dividers(kind=kind)  # type: ignore[arg-type]
        self._trail.clear()
        self._bench.measure(True)
        self._form.show_kind(kind)
        self.changed.emit()

    def lay_down(self) -> bool:
        """Drop the points taken, or else lay the Dividers down; tell whether there was anything to do."""
        if self.dividers is None:
            return False
        if self._trail:
            self.take_up(self.dividers.kind)
            return True
        self.dividers = None
        self._bench.measure(False)
        self._form.show_kind(None)
        self.changed.emit()
        return True

    def _found(self, at: QPointF) -> Aim | None:
        outcome = self._session.outcomes.get(self._session.lead or "")
        asset = outcome.after.asset if outcome is not None else None
        box = asset_box(asset) if asset is not None else None
        ready = self._session.worker.gather
        return aim_at(self._bench.hit_at(at), (at.x(), at.y()), self._bench.lens(), asset, box, ready)

    def _aim(self, at: QPointF | None) -> None:
        if self.dividers is None:
            return
        aim = None if at is None else self._found(at)
        trail = np.array(self._trail).reshape(-1, 3)
        if aim is None:
            self._bench.show_aim(AimMark(trail=trail))
            return
        word = "rim" if self.dividers.kind == "circle" and aim.circle and not self._trail else aim.anchor.kind
        reading = ""
        if self._trail and self.dividers.kind == "span":
            reading = self._session.unit.length(float(np.linalg.norm(aim.at - self._trail[-1])))
        self._bench.show_aim(AimMark(trail=trail, at=aim.at, word=word, reading=reading))

    def _touch(self, at: QPointF) -> None:
        aim = self._found(at)
        if self.dividers is None or aim is None:
            return
        before = self.dividers
        self.dividers, measure, said = before.touched(aim)
        if said:
            self._session.said.emit(said)
        elif measure is not None:
            self._trail.clear()
            self._session.add_measure(measure)
        else:
            self._trail.append(aim.at)
        self._aim(at)
        self.changed.emit()

    # The list

    def _choose(self, index: int) -> None:
        measures = self._session.document.measures
        self._session.choose_measure(index)
        if index < len(measures) and measures[index].file in self._session.assets:
            self._session.select((measures[index].file,))

    def _tell_along(self, frame: str) -> None:
        self._session.tell_along(frame)

    def _lengthen(self, index: int, text: str) -> None:
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

    def show(self) -> None:
        """Match the form to the session."""
        session = self._session
        rows = measure_rows(session)
        datums = list(session.document.sheet.datums)
        frames = [("world", "the world"), ("part", "the part"), *((f"datum {d}", f"datum {d}") for d in datums)]
        self._form.show_frames(frames, session.measured_along)
        self._form.show_measures(rows, session.chosen_measure, session.unit)
