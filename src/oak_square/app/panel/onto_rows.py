"""Rows that say onto what a thing is set: another asset or part, and which point of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.app.panel.box_picker import BoxPicker
from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.fields import Choices, Fold, column
from oak_square.core.words import say
from oak_square.steps.centre import spot_words

__all__ = ["OntoRows", "SpotFold"]

_TOP: list[str | float] = ["middle", "top", "middle"]
_BASE: list[str | float] = ["middle", "bottom", "middle"]


class SpotFold(QWidget):
    """A point of a box, folded away under its words; wishes for another."""

    chosen = Signal(list)

    def __init__(self, words: str, tip: str, parent: QWidget) -> None:
        """Take the words that stand before the point's own."""
        super().__init__(parent)
        self._words = words
        self._fold = Fold(words, tip, self)
        self.button = self._fold.button
        column(self).addWidget(self._fold)
        self.picker = BoxPicker(self._fold.inner)
        self.picker.point_wished.connect(self.chosen)
        column(self._fold.inner).addWidget(self.picker)

    def show_point(self, point: list[str | float] | None) -> None:
        """Match to a box point, or to none."""
        self._fold.say(self._words if point is None else f"{self._words}: {spot_words(point)}")
        self.picker.show_point(point)


class OntoRows(QWidget):
    """Shows `{onto: …, point: …}`; `wished` carries another, None for none."""

    wished = Signal(object)
    place_wished = Signal(object)  # to where the other stands: base onto base

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 4)
        self.other = PointRow("", ("asset", "part", "mark"), self, part="part")
        self.other.pick.hide()
        self.other.names.setAccessibleName(say("What it is set onto"))
        self.other.names.setToolTip(
            say("Another asset of the batch, or a part of this one: it is set onto a point of that")
        )
        self.other.chosen.connect(self._set_onto)
        rows.addWidget(self.other)
        self.ways = Choices(
            [
                ("top", say("on top of it"), say("Onto the middle of its top")),
                ("place", say("where it stands"), say("At the same place as it: base onto base")),
            ],
            self,
        )
        self.ways.chosen.connect(self._way_chosen)
        rows.addWidget(self.ways)
        self.point = SpotFold(say("at the point of its box"), say("Which point of what it is set onto"), self)
        self.point.chosen.connect(lambda point: self._wish_for_place(self._onto, point))
        rows.addWidget(self.point)
        self.mark = PointRow("", ("mark",), self)
        self.mark.pick.hide()
        self.mark.names.setAccessibleName(say("A mark on what it is set onto"))
        self.mark.chosen.connect(lambda mark: self._wish_for_place(self._onto, mark))
        rows.addWidget(self.mark)
        self._onto: Any = None
        self._point: Any = _TOP

    def _set_onto(self, told: Mapping[str, Any]) -> None:
        onto = dict(told) if "mark" in told else next(iter(told.values()))
        self._wish_for_place(onto, _TOP)

    def _way_chosen(self, way: str) -> None:
        if way == "place":
            self.place_wished.emit({"onto": self._onto, "point": list(_BASE)})
        else:
            self._wish_for_place(self._onto, _TOP)

    def _wish_for_place(self, onto: Any, point: Any) -> None:
        if onto is None:
            return
        whole = {"onto": onto} if isinstance(onto, Mapping) or point == _TOP else {"onto": onto, "point": point}
        self.wished.emit(whole)

    def show_onto(self, at: Any, names: Mapping[str, Sequence[str]]) -> None:
        """Match the rows to where a step sets things; to nothing where it is not onto something."""
        told = at if isinstance(at, Mapping) and "onto" in at else {}
        self._onto = told.get("onto")
        point = told.get("point", _TOP)
        self._point = dict(point) if isinstance(point, Mapping) else list(point)
        holds: Any = self._onto
        if isinstance(holds, str):
            holds = {"asset" if holds in names.get("asset", ()) else "part": holds}
        self.other.show_names(names, holds)
        named = isinstance(self._onto, str)
        self.ways.setVisible(named)
        self.ways.show_choice({str(_TOP): "top", str(_BASE): "place"}.get(str(self._point)))
        self.point.setVisible(named)
        self.point.show_point(self._point if isinstance(self._point, list) else None)
        self.mark.setVisible(named and (bool(names.get("mark")) or isinstance(self._point, dict)))
        self.mark.show_names(names, self._point)
