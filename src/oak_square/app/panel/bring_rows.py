"""Rows that say which direction is brought round, and where: axes, sides, picked ways, numbers."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, Fold, column, labelled, section
from oak_square.core.frames import AXES, SIDES
from oak_square.core.terms import term
from oak_square.core.words import capital, say

__all__ = ["BringRows"]

_GROUND = {"bottom": say("the ground"), "top": say("up")}


class BringRows(QWidget):
    """Shows `bring` and `to`; `wished` carries others, once both are there."""

    wished = Signal(object, object)
    pick_wished = Signal(str, object)

    def __init__(self, parent: QWidget, *, title: str = say("bring its axis"), start: Any = None) -> None:
        """Take the heading, and what is brought where nothing else is chosen."""
        super().__init__(parent)
        self._usual = start
        rows = column(self, 6)
        rows.addWidget(section(title, self))
        shown = [(a, a.replace("-", "−")) for a in AXES]
        self.axis = Choices([(a, w, say("Its {w} axis", w=w)) for a, w in shown], self, per_row=6)
        self.axis.chosen.connect(self._take_start)
        rows.addWidget(self.axis)
        tip = say("Pick a face, an edge or a circle: its normal, line or axis is brought round")
        self.way = PointRow(tip, ("mark",), self, word=say("a picked face or edge"))
        asks = say("Bring: click a face, an edge or a circle")
        self.way.pick_wished.connect(lambda: self.pick_wished.emit(asks, self._take_pick))
        self.way.chosen.connect(self._take_start)
        rows.addWidget(self.way)
        rows.addWidget(section(say("to", "a direction"), self))
        self.side = Choices([(s, _GROUND.get(s, s), say("Toward the {s}", s=term(s))) for s in SIDES], self, per_row=3)
        self.side.chosen.connect(self._take_end)
        rows.addWidget(self.side)
        self.to_axis = Choices([(a, w, say("Along {w} of the world", w=w)) for a, w in shown], self, per_row=6)
        self.to_axis.chosen.connect(self._take_end)
        rows.addWidget(self.to_axis)
        self.onto = PointRow(say("Pick the face, edge or circle that it shall point along"), ("mark",), self,
                             word=say("another pick"))  # fmt: skip
        onto = say("Onto: click a face, an edge or a circle")
        self.onto.pick_wished.connect(lambda: self.pick_wished.emit(onto, lambda at, _: self._take_end(at)))
        self.onto.chosen.connect(self._take_end)
        rows.addWidget(self.onto)
        self._fill_typed(rows)
        self._start: Any = start
        self._end: Any = None
        self._names: Mapping[str, Sequence[str]] = {}
        self._had = False  # whether a step was shown that brings something

    def _fill_typed(self, rows: QVBoxLayout) -> None:
        """Make fields for directions that are typed or pasted."""
        self.typed = Fold(
            say("or directions by numbers"), say("Directions along the world's axes: 0, 1, 0 is up"), self
        )
        rows.addWidget(self.typed)
        inner = column(self.typed.inner, 4)
        self.numbers: dict[str, list[NumberEdit]] = {}
        for key, word, take in (
            ("bring", say("bring"), self._take_start),
            ("to", say("to", "a direction"), self._take_end),
        ):
            edits = [
                NumberEdit(f"{capital(word)} {a}", say("{a} of that direction", a=a), self.typed.inner) for a in "xyz"
            ]
            for edit in edits:
                edit.entered.connect(lambda _, e=edits, t=take: _tell_direction(e, t))
            self.numbers[key] = edits
            inner.addWidget(labelled(word, Triple(list(zip("xyz", edits, strict=True)), self.typed.inner), self))

    def _take_pick(self, at: Mapping[str, Any], _pick: object = None) -> None:
        if self._usual is None:
            # A face that is picked is most often meant to lie on the ground.
            self._end = self._end or "bottom"
        self._take_start(dict(at))

    def _take_start(self, start: Any) -> None:
        self._start = _copy_way(start)
        self._wish_for_ways()

    def _take_end(self, end: Any) -> None:
        self._end = _copy_way(end)
        self._wish_for_ways()

    def _wish_for_ways(self) -> None:
        if self._start is not None and self._end is not None:
            self.wished.emit(self._start, self._end)
        else:
            self._show_ways()

    def show_words(self, words: Mapping[str, Any], names: Mapping[str, Sequence[str]]) -> None:
        """Match the rows to a step's words."""
        self._names = names
        if words or self._had:
            # What was chosen before there is a step stays chosen for it.
            self._start, self._end = words.get("bring", self._usual), words.get("to")
        self._had = bool(words)
        self._show_ways()

    def _show_ways(self) -> None:
        for choices, way in ((self.axis, self._start), (self.side, self._end), (self.to_axis, self._end)):
            choices.show_choice(way if isinstance(way, str) else None)
        for key, row, way in (("bring", self.way, self._start), ("to", self.onto, self._end)):
            numbers = way if isinstance(way, list | tuple) else None
            row.show_names(self._names, None if numbers is not None else way)
            for k, edit in enumerate(self.numbers[key]):
                edit.show_text("" if numbers is None else f"{numbers[k]:.12g}")
            if numbers is not None:
                self.typed.open()


def _copy_way(way: Any) -> Any:
    return dict(way) if isinstance(way, Mapping) else way


def _tell_direction(edits: Sequence[NumberEdit], take: Callable[[Any], None]) -> None:
    """Hand on a direction once something of it is there; what is left empty is 0."""
    values = [edit.value or 0.0 for edit in edits]
    if any(values) and not any(edit.why for edit in edits):
        take(values)
