"""The axes of pivots: the page of the Pivot form that turns them where they are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.app.panel.bring_rows import BringRows
from oak_square.app.panel.frame_rows import AlongRow
from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section
from oak_square.core.words import say

__all__ = ["PivotAxesPage"]

_AXES = (
    ("keep", say("as they are"), say("The pivot's axes stay")),
    ("world", "world's", say("Along the world's axes")),
    ("parent", "parent's", say("Along the axes of what it hangs from")),
    ("square", say("right angles"), say("To the nearest right angles of the world")),
    ("received", say("as received"), say("As the file had them")),
)


class PivotAxesPage(QWidget):
    """Shows a pivot step's `axes`; `wished` carries others."""

    wished = Signal(object)
    pick_wished = Signal(str, object)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(section(say("its axes become"), self))
        self.kinds = Choices(_AXES, self, per_row=3)
        self.kinds.chosen.connect(lambda key: self.wished.emit(key))
        rows.addWidget(self.kinds)
        rows.addWidget(section(say("or half a turn about its own"), self))
        self.half = Choices([(a, a, say("Half a turn about its own {a}", a=a)) for a in "xyz"], self)
        self.half.chosen.connect(lambda a: self.wished.emit({"half": a}))
        rows.addWidget(self.half)
        rows.addWidget(section(say("or turned by degrees about x, then y, then z"), self))
        self.angles = [
            NumberEdit(say("Turn its axes about {a}", a=a), say("Degrees about {a}", a=a), self) for a in "xyz"
        ]
        for k, edit in enumerate(self.angles):
            edit.entered.connect(lambda value, k=k: self._set_angle(k, value))
        rows.addWidget(Triple(list(zip("xyz", self.angles, strict=True)), self))
        self.along = AlongRow(self)
        self.along.chosen.connect(lambda _: self._along_chosen())
        rows.addWidget(self.along)
        self.ways = BringRows(self, title=say("or one of them is brought round"), start="+X")
        self.ways.wished.connect(lambda start, end: self.wished.emit({"bring": start, "to": end}))
        self.ways.pick_wished.connect(self.pick_wished)
        rows.addWidget(self.ways)
        self.datum = PointRow("", ("datum",), self)
        self.datum.pick.hide()
        self.datum.chosen.connect(self.wished)
        self._datum_row = labelled(say("or those of"), self.datum, self)
        rows.addWidget(self._datum_row)
        self._turn = [0.0, 0.0, 0.0]

    def _set_angle(self, axis: int, value: float | None) -> None:
        self._turn[axis] = value or 0.0
        self._wish_turn()

    def _along_chosen(self) -> None:
        if any(self._turn):
            self._wish_turn()

    def _wish_turn(self) -> None:
        self.wished.emit({"turn": list(self._turn), **self.along.told()} if any(self._turn) else "keep")

    def show_axes(self, axes: Any, names: Mapping[str, Sequence[str]], *, enabled: bool) -> None:
        """Match the page to a step's `axes`; None for no step."""
        self.setEnabled(enabled)
        self.kinds.show_choice(axes if isinstance(axes, str) else "keep" if axes is None else None)
        told = axes if isinstance(axes, dict) else {}
        self.half.show_choice(told.get("half"))
        self._turn = [float(v) for v in told.get("turn", (0.0, 0.0, 0.0))]
        along = told.get("along") or "world"
        self.along.show_along(along if told else self.along.along, names, of_nodes=True)
        for edit, value in zip(self.angles, self._turn, strict=True):
            edit.show_text(f"{value:g}" if value else "")
        self.ways.show_words(told if "bring" in told else {}, names)
        self.datum.show_names(names, told)
        self._datum_row.setVisible(bool(names.get("datum")) or "datum" in told)
