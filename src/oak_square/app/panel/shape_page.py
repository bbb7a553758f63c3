"""The page of Bake that moves vertices: which are taken, and where they go."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.app.panel.common_factor import axis_along, factor_keeping
from oak_square.app.panel.frame_rows import AlongRow, CentreRow, centre_said
from oak_square.app.panel.take_rows import TakeRows
from oak_square.app.widgets.entries import LengthEdit, NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, Fold, column, labelled, section
from oak_square.app.widgets.pages import Pages
from oak_square.core.boxes import EXTENTS
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.tolerances import EXACT_CHANNEL
from oak_square.core.words import say

__all__ = ["ShapePage"]

Array = NDArray[np.float64]
_TAKEN = "taken"


class ShapePage(QWidget):
    """Shows a shape's words; wishes for others, or, while nothing is done yet, for other vertices to be taken."""

    wished = Signal(dict)  # a shape's words; empty for none
    take_wished = Signal(object)
    pick_wished = Signal()  # a centre

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(section(say("take the vertices of"), self))
        self.take = TakeRows(self)
        self.take.wished.connect(self._take_vertices)
        rows.addWidget(self.take)
        rows.addWidget(section("and", self))
        self.pages = Pages(
            [
                ("size", "size", say("Make what is taken as wide, high or deep, or so many times as large")),
                ("set", "set", say("Give them coordinates: a frame's feet all to height 0")),
                ("by", "move", say("Move them by a distance along each axis")),
                ("turn", "turn", say("Turn them about a centre")),
            ],
            self,
        )
        rows.addWidget(self.pages)
        self._fill_size(self.pages.add("size"))
        self._fill_set(self.pages.add("set"))
        self._fill_triples()
        self._fill_frame()
        rows.addWidget(self.frame)
        self._words: dict[str, Any] = {}
        self._keep = "proportions"
        self.several = False
        """Whether what is shaped is more than one thing."""
        self.axes_and_sides: Callable[[Any], tuple[Array, Array]] = lambda _: (np.eye(3), np.eye(3))
        """Returns the axes that words say, and the directions of width, height and depth, as `Body.axes_and_sides`."""
        self._shown: tuple[Array, ShownUnit] = np.empty((0, 3)), ShownUnit()
        self._about: Any = None
        self.pages.turned.connect(lambda _: self._show_frame())

    def _fill_size(self, page: QWidget) -> None:
        rows = column(page, 6)
        self.extents: dict[str, LengthEdit] = {}
        for name in EXTENTS:
            edit = LengthEdit(
                say("Taken {name}", name=term(name)),
                say("The {name} that what is taken shall have", name=term(name)),
                page,
            )
            edit.entered.connect(lambda text, n=name: self._take_length(n, text))
            self.extents[name] = edit
            rows.addWidget(labelled(name, edit, page))
        self.keep = Choices(
            [
                ("proportions", say("all follows"), say("The other extents follow in proportion")),
                ("none", say("nothing", "follows"), say("Only this extent changes")),
                ("volume", say("volume kept"), say("The other extents give way")),
            ],
            page,
        )
        self.keep.chosen.connect(self._choose_keep)
        rows.addWidget(self.keep)
        self.factor = NumberEdit(
            say("Taken factor"), say("How many times as large: 0.5, 50%, *2, /3"), page, factor=True
        )
        self.factor.entered.connect(lambda v: self._try_way({} if v is None else {"factor": v}))
        rows.addWidget(labelled(say("or times"), self.factor, page))
        self.factors = [
            NumberEdit(say("Taken factor {a}", a=a), say("How many times as large along {a}", a=a), page, factor=True)
            for a in "xyz"
        ]
        for number in self.factors:
            number.entered.connect(lambda _: self._take_factor())
        rows.addWidget(Triple(list(zip("xyz", self.factors, strict=True)), page))

    def _fill_set(self, page: QWidget) -> None:
        rows = column(page, 6)
        self.set: dict[str, LengthEdit] = {}
        for name in EXTENTS:
            edit = LengthEdit(
                say("Set {name}", name=term(name)),
                say("The coordinate along the {name} that all of them get", name=term(name)),
                page,
            )
            edit.entered.connect(lambda text, n=name: self._set_extent(n, text))
            self.set[name] = edit
            rows.addWidget(labelled(say("{name} to", name=term(name)), edit, page))

    def _fill_triples(self) -> None:
        page = self.pages.add("by")
        self.by = [LengthEdit(say("Move taken {a}", a=a), say("How far they move along {a}", a=a), page) for a in "xyz"]
        for k, edit in enumerate(self.by):
            edit.entered.connect(lambda text, k=k: self._type_move(k, text))
        column(page, 6).addWidget(Triple(list(zip("xyz", self.by, strict=True)), page))
        self._by = ["", "", ""]
        page = self.pages.add("turn")
        self.turn = [
            NumberEdit(say("Turn taken {a}", a=a), say("Degrees about {a}; x first, then y, then z", a=a), page)
            for a in "xyz"
        ]
        for number in self.turn:
            number.entered.connect(lambda _: self._wish_for_turn())
        column(page, 6).addWidget(Triple(list(zip("xyz", self.turn, strict=True)), page))

    def _fill_frame(self) -> None:
        self.frame = Fold("", say("What stays in place, and along which axes numbers are"), self)
        rows = column(self.frame.inner, 6)
        self.middle = Choices(
            [(_TAKEN, say("the middle of what is taken"), say("It stays in place"))], self.frame.inner
        )
        self.middle.chosen.connect(lambda _: self._take_centre(None))
        rows.addWidget(self.middle)
        self.about = CentreRow(self.frame.inner, tip=say("Pick what stays in place: a corner, a circle, a pivot"))
        self.about.chosen.connect(self._take_centre)
        self.about.pick_wished.connect(self.pick_wished)
        rows.addWidget(self.about)
        self.axes = AlongRow(self.frame.inner)
        self.axes.chosen.connect(lambda _: self._say_again())
        rows.addWidget(self.axes)

    # What is wished

    def _take_vertices(self, take: Mapping[str, Any]) -> None:
        self.take_wished.emit(dict(take))
        if self._words:
            self.wished.emit({**self._words, "take": dict(take)})

    def _try_way(self, way: Mapping[str, Any]) -> None:
        about = {"about": self._about} if self._about is not None and not {"by", "set"} & set(way) else {}
        along = self.axes.told() if "set" not in way else {}
        words = {"do": "shape", "take": dict(self.take.take), **way, **along, **about}
        self.wished.emit(words if way else {})

    def _read_way(self) -> dict[str, Any]:
        return {k: v for k, v in self._words.items() if k not in ("do", "take", "along", "about")}

    def _say_again(self) -> None:
        """Say the same once more, about another centre or along other axes."""
        self._show_frame()
        self._show_extents(self._words)
        if self._read_way():
            self._try_way(self._read_way())

    def _take_centre(self, centre: Any) -> None:
        self._about = centre
        self._say_again()

    def _take_length(self, name: str, text: str) -> None:
        had = {e: v for e, v in self._words.items() if e in EXTENTS}
        lengths = {e: v for e in EXTENTS if (v := text if e == name else had.get(e, ""))}
        factor = self.extents[name].factor if self.several and len(lengths) == 1 else None
        if factor is not None:
            # Told from what they are, it is the same share of each.
            axes, sides = self.axes_and_sides(self.axes.along)
            axis = axis_along(axes, sides[:, EXTENTS.index(name)])
            self._try_way({"factor": factor_keeping(factor, self._keep, axis)})
            return
        keep = {"keep": self._keep} if len(lengths) == 1 and self._keep != "proportions" else {}
        self._try_way({**lengths, **keep} if lengths else {})

    def _choose_keep(self, key: str) -> None:
        self._keep = key
        lengths = {e: v for e, v in self._words.items() if e in EXTENTS}
        if len(lengths) == 1:
            self._try_way({**lengths, **({"keep": key} if key != "proportions" else {})})

    def _take_factor(self) -> None:
        values = [edit.value for edit in self.factors]
        self._try_way(
            {"factor": [1.0 if v is None else v for v in values]} if any(v is not None for v in values) else {}
        )

    def _set_extent(self, name: str, text: str) -> None:
        had = dict(self._words.get("set", {}))
        wanted = {e: v for e in EXTENTS if (v := text if e == name else had.get(e, "")) != ""}
        self._try_way({"set": wanted} if wanted else {})

    def _type_move(self, axis: int, text: str) -> None:
        self._by[axis] = text
        self._try_way({"by": [t or 0 for t in self._by]} if any(self._by) else {})

    def _wish_for_turn(self) -> None:
        values = [edit.value for edit in self.turn]
        self._try_way({"turn": [v or 0 for v in values]} if any(values) else {})

    # Shown

    def show_words(
        self,
        words: Mapping[str, Any],
        take: Mapping[str, Any],
        points: Array,
        delivery_from_working: Array,
        names: Mapping[str, Sequence[str]],
        unit: ShownUnit,
        *,
        of_nodes: bool,
    ) -> None:
        """Match the page to a shape's words, over what is taken: points of the lead asset, shape (N, 3), world."""
        had, self._words = self._words, dict(words)
        self.take.show_take(words.get("take", take), len(points), unit)
        self._shown = points, unit
        if words or had:
            self._keep = str(words.get("keep") or "proportions")
        several = sum(e in words for e in EXTENTS) > 1
        self.keep.show_choice("none" if several else self._keep)
        factor = words.get("factor")
        each = list(factor) if isinstance(factor, list | tuple) else None
        self.factor.show_text("" if factor is None or each is not None else f"{factor:g}")
        for k, number in enumerate(self.factors):
            number.show_text("" if each is None or each[k] == 1 else f"{each[k]:g}")
        self._show_coordinates(words, points @ delivery_from_working.T, np.abs(delivery_from_working), unit)
        by = words.get("by", ("", "", ""))
        self._by = ["" if v in ("", 0) else str(v) for v in by]
        for edit, text in zip(self.by, self._by, strict=True):
            edit.show_length(text, 0.0, unit)
        for number, value in zip(self.turn, words.get("turn", (0, 0, 0)), strict=True):
            number.show_text(f"{value:g}" if value else "")
        along = self.axes.along
        if words or had:
            self._about, along = words.get("about"), words.get("along", "world")
        self.axes.show_along(along, names, of_nodes=of_nodes, own=False)
        self._show_extents(words)
        self.about.show_centre(self._about, names, of_nodes=of_nodes)
        self.middle.show_choice(None if self._about is not None else _TAKEN)
        page = next((key for key in ("set", "by", "turn") if key in words), "size")
        if words and page != self.pages.tabs.choice and self._words != had:
            self.pages.open(page)
        self._show_frame()

    def _show_extents(self, words: Mapping[str, Any]) -> None:
        """Show the extents to be, over those that what is taken has now along the axes in force."""
        points, unit = self._shown
        size = np.ptp(points @ self.axes_and_sides(self.axes.along)[1], axis=0) if len(points) else [None] * 3
        for present, (name, edit) in zip(size, self.extents.items(), strict=True):
            edit.show_length(str(words.get(name, "")), None if present is None else float(present), unit)

    def _show_coordinates(self, words: Mapping[str, Any], told: Array, named: Array, unit: ShownUnit) -> None:
        """Show the coordinates to be, over what all have in common now."""
        for k, (name, edit) in enumerate(self.set.items()):
            along = told[:, int(np.argmax(named[:, k]))] if len(told) else np.empty(0)
            reach = float(np.abs(along).max(initial=1.0))
            one = float(along.mean()) if len(along) and np.ptp(along) <= EXACT_CHANNEL * reach else None
            value = words.get("set", {}).get(name, "")
            edit.show_length(str(value) if value != "" else "", one, unit)

    def _show_frame(self) -> None:
        page = self.pages.tabs.choice
        self.frame.setVisible(page != "set")
        self.middle.setVisible(page != "by")
        self.about.setVisible(page != "by")
        along = self.axes.along
        words = {"world": say("the world's axes"), "own": say("its own axes"), "parent": say("its parent's axes")}
        axes = words[along] if isinstance(along, str) else say("datum {name}", name=along["datum"])
        centre = say("their middle") if self._about is None else centre_said(self._about)
        self.frame.say(
            say("along {axes}", axes=axes)
            if page == "by"
            else say("{centre} stays, along {axes}", centre=centre, axes=axes)
        )
