"""Rows that say which vertices are taken: those at a side, in a slab, or what was picked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.app.widgets.entries import LengthEdit, ShareEdit
from oak_square.app.widgets.fields import Choices, column, labelled, push_button, soft
from oak_square.core.boxes import EXTENTS
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import one_or_many, say

__all__ = ["TakeRows"]

_SIDES = ("left", "right", "bottom", "top", "back", "front")


class TakeRows(QWidget):
    """Shows a `take` as a shape says it; wishes for another one."""

    wished = Signal(dict)
    mean_wished = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.kinds = Choices(
            [
                ("side", say("a side"), say("The vertices at one side of each part's box")),
                ("slab", say("a slab"), say("The vertices between two heights, or along another extent")),
                ("picked", "picked", say("What is clicked or framed in the view")),
            ],
            self,
        )
        self.kinds.chosen.connect(self._kind_chosen)
        rows.addWidget(self.kinds)
        self.sides = Choices([(s, s, say("Those at the {s} of the box", s=term(s))) for s in _SIDES], self, tight=True)
        self.sides.chosen.connect(lambda _: self._take_side())
        rows.addWidget(self.sides)
        self.within = ShareEdit(say("Within"), say("How near to that side: 2 cm, or a share of the extent: 5 %"), self)
        self.within.entered.connect(self._within_typed)
        self._within_row = labelled("within", self.within, self)
        rows.addWidget(self._within_row)
        self.extents = Choices([(e, e, say("Along the {e}", e=term(e))) for e in EXTENTS], self)
        self.extents.chosen.connect(lambda _: self._take_slab())
        rows.addWidget(self.extents)
        self.ends: dict[str, LengthEdit] = {}
        self._end_rows: list[QWidget] = []
        for key, word in (("from", say("from", "a height")), ("to", say("to", "up to"))):
            tip = say("From the low side of each part's box (left, bottom, back); left empty it is open there")
            edit = LengthEdit(say("Slab {word}", word=word), tip, self)
            edit.entered.connect(lambda text, k=key: self._end_typed(k, text))
            self.ends[key] = edit
            self._end_rows.append(labelled(word, edit, self))
            rows.addWidget(self._end_rows[-1])
        self.said = soft("", self)
        rows.addWidget(self.said)
        self.mean = push_button(
            say("Pivot to their mean"),
            say("Hang the part at the mean of the vertices that are taken; geometry stays"),
            self,
        )
        self.mean.clicked.connect(self.mean_wished)
        rows.addWidget(self.mean)
        self.take: dict[str, Any] = {"side": "top"}
        self._near = ""
        self._typed: dict[str, str] = {}

    def _kind_chosen(self, kind: str) -> None:
        if kind == "side":
            self._take_side()
        elif kind == "slab":
            self._take_slab()
        self._show_kind(kind)

    def _take_side(self) -> None:
        near = {"within": self._near} if self._near else {}
        self.wished.emit({"side": self.sides.choice or "top", **near})

    def _within_typed(self, text: str) -> None:
        self._near = text
        self._take_side()

    def _end_typed(self, key: str, text: str) -> None:
        self._typed = {k: v for k, v in {**self._typed, key: text}.items() if v}
        self._take_slab()

    def _take_slab(self) -> None:
        extent = self.extents.choice or "height"
        if self._typed:
            self.wished.emit({k: {extent: self._typed[k]} for k in ("from", "to") if k in self._typed})

    def show_take(self, take: Mapping[str, Any], count: int, unit: ShownUnit) -> None:
        """Match the rows to what is taken, and say how many vertices that is on the lead asset."""
        had, self.take = self.take, dict(take)
        kind = "side" if "side" in take else "slab" if {"from", "to"} & set(take) else "picked"
        if kind == "side":
            self.sides.show_choice(str(take["side"]))
            self._near = str(take.get("within", ""))
        elif kind == "slab":
            told = {k: next(iter(take[k].items())) for k in ("from", "to") if take.get(k)}
            self.extents.show_choice(next(iter(told.values()))[0])
            self._typed = {k: str(v) for k, (_, v) in told.items()}
        self.within.show_share(self._near, unit)
        for key, edit in self.ends.items():
            edit.show_length(self._typed.get(key, ""), None, unit)
        if had != self.take or self.kinds.choice is None:
            self.kinds.show_choice(kind)
        what = say("mark {take}: ", take=take["mark"]) if "mark" in take else ""
        self.said.setText(
            one_or_many(
                count,
                "{what}{count} vertex of the lead asset",
                "{what}{count} vertices of the lead asset",
                what=what,
            )
        )
        self._show_kind(self.kinds.choice or kind)

    def _show_kind(self, kind: str) -> None:
        self.sides.setVisible(kind == "side")
        self._within_row.setVisible(kind == "side")
        self.extents.setVisible(kind == "slab")
        for row in self._end_rows:
            row.setVisible(kind == "slab")
        if kind == "slab" and self.extents.choice is None:
            self.extents.show_choice("height")
