"""The axes of pivots: the page of the Pivot form that turns them where they are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QWidget

from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section
from oak_square.core.frames import AXES

__all__ = ["PivotAxesPage"]

_AXES = (
    ("keep", "as they are", "The pivot's axes stay"),
    ("world", "world's", "Along the world's axes"),
    ("parent", "parent's", "Along the axes of what it hangs from"),
    ("square", "right angles", "To the nearest right angles of the world"),
    ("received", "as received", "As the file had them"),
)


class PivotAxesPage(QWidget):
    """Shows a pivot step's `axes`; `wished` carries others."""

    wished = Signal(object)
    way_wished = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(section("its axes become", self))
        self.kinds = Choices(_AXES, self, per_row=3)
        self.kinds.chosen.connect(lambda key: self.wished.emit(key))
        rows.addWidget(self.kinds)
        rows.addWidget(section("or half a turn about its own", self))
        self.half = Choices([(a, a, f"Half a turn about its own {a}") for a in "xyz"], self)
        self.half.chosen.connect(lambda a: self.wished.emit({"half": a}))
        rows.addWidget(self.half)
        rows.addWidget(section("or turned by degrees about x, then y, then z", self))
        self.angles = [NumberEdit(f"Turn its axes about {a}", f"Degrees about {a}", self) for a in "xyz"]
        for k, edit in enumerate(self.angles):
            edit.entered.connect(lambda value, k=k: self._turned(k, value))
        rows.addWidget(Triple(list(zip("xyz", self.angles, strict=True)), self))
        self.along = Choices(
            [("world", "world's", "About the world's axes"), ("own", "own", "About its own axes"),
             ("parent", "parent's", "About its parent's axes")], self,
        )  # fmt: skip
        self.along.chosen.connect(self._along_chosen)
        rows.addWidget(labelled("axes of that turn", self.along, self))
        rows.addWidget(section("or one of them along a picked edge, normal or axis", self))
        self.bring = QComboBox(self)
        self.bring.setAccessibleName("Which of its axes")
        self.bring.addItems([a.replace("-", "−") for a in AXES])
        rows.addWidget(labelled("its", self.bring, self))
        self.to = PointRow("Pick an edge, a face or a circle: that axis will point along it", ("mark", "datum"), self)
        self.to.pick_wished.connect(self.way_wished)
        self.to.chosen.connect(self._brought)
        rows.addWidget(self.to)
        self._turn, self._frame = [0.0, 0.0, 0.0], "world"

    def _turned(self, axis: int, value: float | None) -> None:
        self._turn[axis] = value or 0.0
        self._wish_turn()

    def _along_chosen(self, key: str) -> None:
        self._frame = key
        if any(self._turn):
            self._wish_turn()

    def _wish_turn(self) -> None:
        along = {} if self._frame == "world" else {"along": self._frame}
        self.wished.emit({"turn": list(self._turn), **along} if any(self._turn) else "keep")

    def _brought(self, to: Mapping[str, Any]) -> None:
        if "datum" in to:
            self.wished.emit({"datum": to["datum"]})
        else:
            self.bring_to(to)

    def bring_to(self, to: Mapping[str, Any]) -> None:
        """Wish for the chosen axis to point along a picked way."""
        self.wished.emit({"bring": AXES[self.bring.currentIndex()], "to": dict(to)})

    def show_axes(self, axes: Any, names: Mapping[str, Sequence[str]], *, enabled: bool) -> None:
        """Match the page to a step's `axes`; None for no step."""
        self.setEnabled(enabled)
        self.kinds.show_choice(axes if isinstance(axes, str) else "keep" if axes is None else None)
        told = axes if isinstance(axes, dict) else {}
        self.half.show_choice(told.get("half"))
        self._turn = [float(v) for v in told.get("turn", (0.0, 0.0, 0.0))]
        along = told.get("along", "world")
        self._frame = along if isinstance(along, str) else "world"
        self.along.show_choice(self._frame if isinstance(along, str) else None)
        for edit, value in zip(self.angles, self._turn, strict=True):
            edit.show_text(f"{value:g}" if value else "")
        if isinstance(told.get("bring"), str):
            self.bring.setCurrentIndex(AXES.index(told["bring"]))
        self.to.show_names(names, told.get("to") or ({"datum": told["datum"]} if "datum" in told else None))
