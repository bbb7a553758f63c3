"""From the session to the list of what was measured, and its marks over the picture."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from oak_square.app.facts.picture import MeasureMark
from oak_square.app.session.state import State
from oak_square.core.errors import DataTrouble, Failed
from oak_square.core.measuring import Measure, Measured, Value, read_measure
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.tolerances import ROUNDED_TO_NOTHING
from oak_square.core.words import number, say

__all__ = ["MeasureRow", "measure_marks", "measure_rows"]


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureRow:
    """One measurement in words.

    Attributes
    ----------
    title, reads : str
        What it is of, and its first number; or why it can't be read.
    values, exact : tuple of (name, words)
        Every number, as it is shown and with all its digits, as it is copied.
    length_m : float or None, metres
        The span that can be made another length.
    """

    title: str
    reads: str
    values: tuple[tuple[str, str], ...] = ()
    exact: tuple[tuple[str, str], ...] = ()
    length_m: float | None = None

    @property
    def whole(self) -> str:
        """All of it on one line, to be copied."""
        return f"{self.title}: {', '.join(f'{name} {words}' for name, words in self.exact) or self.reads}"


def measure_rows(session: State) -> list[MeasureRow]:
    """Return the rows of the list, as the measurements read now."""
    return [_measure_row(session, m) for m in session.document.measures]


def _read_measure(session: State, measure: Measure, asset: Asset) -> Measured:
    along, frame = session.measured_along, None
    if along == "part" and measure.anchors[0].node is not None:
        frame = np.linalg.inv(asset.worlds[measure.anchors[0].index(asset)])
    elif along.startswith("datum "):
        sheet = session.document.sheet
        name = along.removeprefix("datum ")
        frame = None if name not in sheet.datums else np.linalg.inv(sheet.setting().datum(name, asset))
    return read_measure(measure, asset, frame, _make_lookup(session))


def _make_lookup(session: State) -> Callable[[str], Asset | None]:
    def asset_of(file: str) -> Asset | None:
        outcome = session.outcomes.get(file)
        return None if outcome is None else outcome.after.asset

    return asset_of


def _measure_row(session: State, measure: Measure) -> MeasureRow:
    outcome = session.outcomes.get(measure.file)
    files = dict.fromkeys([measure.file, *(a.file for a in measure.anchors if a.file)])
    names = [file.rsplit("/", 1)[-1].rsplit(".", 1)[0] for file in files]
    title = f"{term(measure.kind)}, {say(' to ').join(names)}"
    if outcome is None:
        return MeasureRow(title=title, reads=say("not in the batch"))
    try:
        reading = _read_measure(session, measure, outcome.after.asset)
    except (DataTrouble, np.linalg.LinAlgError) as error:
        return MeasureRow(title=title, reads=str(error))
    values = tuple((term(v.name), _describe_measure(v, session.unit)) for v in reading.values)
    alone = not any(a.file for a in measure.anchors)
    length = reading.values[0].value if measure.kind == "span" and alone else None
    exact = tuple((term(v.name), _format_exactly(v, session.unit)) for v in reading.values)
    return MeasureRow(title=title, reads=values[0][1], values=values, exact=exact, length_m=length)


def measure_marks(session: State, file: str) -> tuple[MeasureMark, ...]:
    """Return what to draw on an asset."""
    outcome = session.outcomes.get(file)
    found = []
    for k, measure in enumerate(session.document.measures):
        if measure.file == file and outcome is not None:
            try:
                reading = read_measure(measure, outcome.after.asset, others=_make_lookup(session))
            except Failed:
                continue
            text = _describe_measure(reading.values[0], session.unit)
            if measure.kind == "point":
                text = session.unit.point(*(v.value for v in reading.values))
            elif measure.kind == "circle":
                text = f"⌀ {text}"
            elif measure.kind == "plane":
                text = say("tilt {words}", words=_describe_measure(reading.values[1], session.unit))
            strong = k == session.chosen_measure
            found.append(MeasureMark(kind=measure.kind, points=reading.points, text=text, strong=strong))
    return tuple(found)


def _format_exactly(value: Value, shown: ShownUnit) -> str:
    """Return a number with every digit of use, in the unit it is shown in, as any program reads it."""
    if value.quantity == "length":
        return shown.exact(value.value)
    return f"{value.value:.12g}" + ("°" if value.quantity == "angle" else "")


def _describe_measure(value: Value, shown: ShownUnit) -> str:
    if value.quantity == "length":
        return shown.length(value.value)
    digits = number(f"{value.value:.6g}" if abs(value.value) > ROUNDED_TO_NOTHING else "0")
    return f"{digits}°" if value.quantity == "angle" else digits
