"""Measuring: carries the Dividers between the Bench, the list of measurements and the session."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QObject, QPointF, Signal

from oak_square.app.instruments.dividers import Aim, Dividers, aim_at
from oak_square.app.panel.measures_form import MeasureRow, MeasuresForm
from oak_square.app.session.remedies import globs_for
from oak_square.app.session.session import Session
from oak_square.app.view import AimMark, Bench, MeasureMark
from oak_square.core.boxes import asset_box
from oak_square.core.errors import Failed
from oak_square.core.measuring import Measure, Reading, Value, read_measure
from oak_square.core.scene import Asset
from oak_square.core.shown_units import Shown

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
            self._session.select((measures[index].file,), None)

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
        rows = [self._row(m, session.unit) for m in session.document.measures]
        datums = list(session.document.sheet.datums)
        frames = [("world", "the world"), ("part", "the part"), *((f"datum {d}", f"datum {d}") for d in datums)]
        self._form.show_frames(frames, session.measured_along)
        self._form.show_measures(rows, session.chosen_measure, session.unit)

    def _read(self, measure: Measure, asset: Asset) -> Reading:
        along, frame = self._session.measured_along, None
        if along == "part" and measure.anchors[0].node is not None:
            frame = np.linalg.inv(asset.worlds[measure.anchors[0].index(asset)])
        elif along.startswith("datum "):
            sheet = self._session.document.sheet
            datum = sheet.datums.get(along.removeprefix("datum "))
            frame = None if datum is None else np.linalg.inv(sheet.setting().datums[along.removeprefix("datum ")])
        return read_measure(measure, asset, frame)

    def _row(self, measure: Measure, shown: Shown) -> MeasureRow:
        outcome = self._session.outcomes.get(measure.file)
        name = measure.file.rsplit("/", 1)[-1].rsplit(".", 1)[0]
        title = f"{measure.kind}, {name}"
        if outcome is None:
            return MeasureRow(title=title, reads="not in the batch")
        try:
            reading = self._read(measure, outcome.after.asset)
        except (Failed, np.linalg.LinAlgError) as error:
            return MeasureRow(title=title, reads=str(error))
        values = tuple((v.name, _words(v, shown)) for v in reading.values)
        length = reading.values[0].value if measure.kind == "span" else None
        exact = tuple((v.name, _exact(v, shown)) for v in reading.values)
        return MeasureRow(title=title, reads=values[0][1], values=values, exact=exact, length_m=length)

    def marks(self, file: str) -> tuple[MeasureMark, ...]:
        """Return what to draw on an asset."""
        outcome = self._session.outcomes.get(file)
        found = []
        for k, measure in enumerate(self._session.document.measures):
            if measure.file == file and outcome is not None:
                try:
                    reading = read_measure(measure, outcome.after.asset)
                except Failed:
                    continue
                text = _words(reading.values[0], self._session.unit)
                if measure.kind == "circle":
                    text = f"⌀ {text}"
                elif measure.kind == "plane":
                    text = f"tilt {_words(reading.values[1], self._session.unit)}"
                strong = k == self._session.chosen_measure
                found.append(MeasureMark(kind=measure.kind, points=reading.points, text=text, strong=strong))
        return tuple(found)


def _exact(value: Value, shown: Shown) -> str:
    """Return a number with all the digits that there is any use for, in the unit it is shown in."""
    if value.quantity == "length":
        return shown.exact(value.value)
    return f"{value.value:.12g}" + ("°" if value.quantity == "angle" else "")


def _words(value: Value, shown: Shown) -> str:
    if value.quantity == "length":
        return shown.length(value.value)
    number = f"{value.value:.6g}" if abs(value.value) > 1e-12 else "0"
    return f"{number}°" if value.quantity == "angle" else number
