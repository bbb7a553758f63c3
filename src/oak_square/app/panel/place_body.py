"""Place: where assets, or a picked part, stand."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from oak_square.app.panel.body import Array, Body, box_of
from oak_square.app.panel.frame_rows import AlongRow, CentreRow
from oak_square.app.panel.onto_rows import OntoRows, SpotFold
from oak_square.app.panel.point_row import PointRow
from oak_square.app.panel.told_in import ToldIn
from oak_square.app.widgets.entries import LengthEdit, Triple
from oak_square.app.widgets.fields import Choices, Fold, column, labelled, section
from oak_square.app.widgets.weakly import Weakly
from oak_square.core.lengths import parse_length, shortest
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE
from oak_square.core.words import say
from oak_square.steps.step import Step

__all__ = ["PlaceBody"]

_MOST_NAMES = 200  # parts that coordinates can be told in


class PlaceBody(Body):
    """To the origin or a point, along chosen axes; onto the ground; on by a shift."""

    _asset = Weakly[Asset]()

    stage = "place"
    by_hand = ("place",)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self._fill_goal(rows)
        self._fill_by(rows)
        self._fill_shift(rows)
        self._fill_away(rows)
        self._at, self._shift = ["", "", ""], ["", "", ""]
        self._by: Any = None
        self._onto: dict[str, Any] = {}
        self._away = ""
        self._words: dict[str, Any] = {}
        self._frame = np.eye(4)  # world from what the numbers are told in, working frame

    def _fill_goal(self, rows: QVBoxLayout) -> None:
        self.origin = QCheckBox(say("To the origin"), self)
        self.origin.setToolTip(say("The point chosen below comes to 0, 0, 0"))
        self.parent_pivot = QCheckBox(say("To its parent's pivot"), self)
        self.parent_pivot.setToolTip(
            say("Of parts and groups: the point chosen below comes to where the parent's pivot is")
        )
        self.parent_pivot.clicked.connect(lambda _=False: self._goal_clicked(self.parent_pivot))
        self.ground = QCheckBox(say("Bottom onto the ground"), self)
        self.ground.setToolTip(say("The lowest point comes to height 0"))
        self.origin.clicked.connect(lambda _=False: self._goal_clicked(self.origin))
        self.ground.clicked.connect(lambda _=False: self._wish_for_place())
        line = QHBoxLayout()
        line.setSpacing(8)
        line.addWidget(self.origin)
        line.addWidget(self.ground)
        line.addStretch(1)
        rows.addLayout(line)
        rows.addWidget(self.parent_pivot)
        rows.addWidget(section(say("or to a point"), self))
        tip = say("Whose origin and axes the numbers below are told in; the step keeps the world's")
        self.told_in = ToldIn(say("Coordinates in"), tip, say("the world"), self)
        self.told_in.activated.connect(lambda _: self._show_numbers(self._asset))
        self._told_row = labelled(say("told in"), self.told_in, self)
        rows.addWidget(self._told_row)
        self.at = self._add_lengths(say("Place {a}"), say("{a} to put it at, in delivery axes"), self._at_typed)
        rows.addWidget(Triple(list(zip("xyz", self.at, strict=True)), self))
        tip = say("Pick a corner, edge, face or circle in the view: it is found again on every asset it applies to")
        self.onto = self._make_point_row(
            tip, ("mark", "berth", "part"), say("Place: click the point it goes to"), self._onto_chosen, elsewhere=True
        )
        rows.addWidget(self.onto)
        rows.addWidget(section(say("or onto another"), self))
        self.other = OntoRows(self)
        self.other.wished.connect(self._onto_chosen)
        self.other.place_wished.connect(self._same_place)
        rows.addWidget(self.other)

    def _fill_by(self, rows: QVBoxLayout) -> None:
        rows.addWidget(section(say("which point of it"), self))
        self.by = Choices(
            [
                ("base", "base", say("The middle of its bottom")),
                ("pivot", "pivot", say("Its pivot")),
                ("middle", "middle", say("The middle of its box")),
            ],
            self,
        )
        self.by.chosen.connect(self._by_chosen)
        rows.addWidget(self.by)
        asks = say("Place: click the point of it that goes there")
        self.by_mark = self._make_point_row(
            say("Pick the point of it that goes there"), ("mark",), asks, self._by_marked
        )
        rows.addWidget(self.by_mark)
        self.by_spot = SpotFold(say("a point of its box"), say("Which point of its box goes there"), self)
        self.by_spot.chosen.connect(self._by_chosen)
        rows.addWidget(self.by_spot)
        self.as_one = QCheckBox(say("All together, as one"), self)
        self.as_one.setToolTip(say("Of parts and groups: they move together, by the point of their common box"))
        self.as_one.clicked.connect(lambda _=False: self._as_one_clicked())
        rows.addWidget(self.as_one)
        line = QHBoxLayout()
        line.setSpacing(14)
        line.addWidget(section(say("change only"), self))
        self.axes: dict[str, QCheckBox] = {}
        for axis in "xyz":
            box = QCheckBox(axis, self)
            box.setChecked(True)
            box.setToolTip(say("Unticked, {axis} stays as it is", axis=axis))
            box.clicked.connect(lambda _=False: self._wish_for_place())
            self.axes[axis] = box
            line.addWidget(box)
        line.addStretch(1)
        rows.addLayout(line)

    def _fill_shift(self, rows: QVBoxLayout) -> None:
        rows.addWidget(section(say("then move on by"), self))
        self.shift = self._add_lengths(say("Shift {a}"), say("How far to move along {a}"), self._shift_typed)
        rows.addWidget(Triple(list(zip("xyz", self.shift, strict=True)), self))
        self.along = AlongRow(self)
        self.along.chosen.connect(lambda _: self._change_frame(any(self._shift)))
        rows.addWidget(self.along)

    def _fill_away(self, rows: QVBoxLayout) -> None:
        self.out = Fold(say("or away from a centre"), say("Nearer to a centre, or further from it"), self)
        rows.addWidget(self.out)
        inner = column(self.out.inner, 6)
        self.away = LengthEdit(
            say("Away"), say("How far on from the centre; nearer where it is negative"), self.out.inner
        )
        self.away.entered.connect(self._away_typed)
        inner.addWidget(labelled("by", self.away, self.out.inner))
        tip, asks = (
            say("Pick what it moves away from: a corner, a circle, a pivot"),
            say("Away: click what it moves away from"),
        )
        self.centre = CentreRow(self.out.inner, tip=tip)
        self.centre.centre = "origin"
        self.centre.chosen.connect(lambda _: self._change_frame(bool(self._away)))
        self.centre.pick_wished.connect(self.asking(asks, self.centre.choose, elsewhere=True))
        inner.addWidget(self.centre)

    def _make_point_row(
        self, tip: str, kinds: tuple[str, ...], asks: str, take: Callable[[Any], None], *, elsewhere: bool = False
    ) -> PointRow:
        """Return a row for a point that is picked, or chosen by its name."""
        row = PointRow(tip, kinds, self)
        row.pick_wished.connect(self.asking(asks, take, elsewhere=elsewhere))
        row.chosen.connect(take)
        return row

    def _add_lengths(self, name: str, tip: str, work: Any) -> list[LengthEdit]:
        edits = [LengthEdit(name.format(a=axis), tip.format(a=axis), self) for axis in "xyz"]
        for k, edit in enumerate(edits):
            edit.entered.connect(lambda text, k=k: work(k, text))
        return edits

    def _at_typed(self, axis: int, text: str) -> None:
        if self.told_in.key is not None:
            self._at_typed_in(axis, text)
            return
        self._at[axis], self._onto, self._away = text, {}, ""
        self.origin.setChecked(False)
        self.parent_pivot.setChecked(False)
        # What is typed is changed, and nothing else; what is cleared stays as it is.
        for k, box in enumerate(self.axes.values()):
            box.setChecked(bool(self._at[k]) and (box.isChecked() or k == axis))
        self._wish_for_place()

    def _at_typed_in(self, axis: int, text: str) -> None:
        """Take a number that is told in another frame: the point that it makes there, by the world's numbers."""
        point = None if self._asset is None else self._point_now(self._asset)
        if point is None or not text:
            return
        there = np.linalg.solve(self._frame, np.append(point, 1.0))[:3]
        there[axis] = parse_length(text, bare=self.shown.bare, module=self.shown.module)
        world = self.delivery_from_working @ (self._frame @ np.append(there, 1.0))[:3]
        self._at, self._onto, self._away = [f"{shortest(v)} m" for v in world], {}, ""
        self.origin.setChecked(False)
        self.parent_pivot.setChecked(False)
        for box in self.axes.values():
            box.setChecked(True)
        self._wish_for_place()

    def _point_now(self, asset: Asset) -> Array | None:
        """Return the point that is placed: where the step that is open puts it, else where it is, working frame."""
        if all(self._at):
            typed = [parse_length(v, bare=self.sheet_unit_m, module=self.shown.module) for v in self._at]
            return self.delivery_from_working.T @ np.array(typed)
        return _find_present_point(asset, self.nodes, self._by if isinstance(self._by, str) else self._find_usual_point)

    def _onto_chosen(self, at: Mapping[str, Any]) -> None:
        """Go to a mark, a berth, another thing, or plain coordinates that were picked."""
        self._onto, self._at, self._away = dict(at), ["", "", ""], ""
        if "xyz" in at:
            self._onto, self._at = {}, [str(v) for v in at["xyz"]]
        self.origin.setChecked(False)
        self.parent_pivot.setChecked(False)
        self._wish_for_place()

    def _same_place(self, at: Mapping[str, Any]) -> None:
        """Go to where another thing stands, base onto base."""
        self._by = "base"
        self._onto_chosen(at)

    def _by_marked(self, at: Mapping[str, Any]) -> None:
        if "mark" in at:
            self._by = dict(at)
            self._wish_for_place()

    def _by_chosen(self, by: Any) -> None:
        self._by = list(by) if isinstance(by, list) else by
        self._wish_for_place()

    def _change_frame(self, is_used: bool) -> None:
        """Along other axes, or from another centre: of the step that is open, else of the next one."""
        if is_used:
            self._wish_for_place()
        else:
            self._show_frame({}, anew=False)

    def _away_typed(self, text: str) -> None:
        self._away = text
        if text:
            self._onto, self._at = {}, ["", "", ""]
            self.origin.setChecked(False)
            self.parent_pivot.setChecked(False)
        self._wish_for_place()

    def _shift_typed(self, axis: int, text: str) -> None:
        self._shift[axis] = text
        self._wish_for_place()

    def _as_one_clicked(self) -> None:
        if self.as_one.isChecked() and isinstance(self._by, str):
            self._by = None  # each one's own point is none of them all
        if len(self._read_form()) > 1:
            self._wish_for_place()

    def _goal_clicked(self, goal: QCheckBox) -> None:
        self._onto, self._away = {}, ""
        if goal.isChecked():
            for other in (self.origin, self.parent_pivot):
                other.setChecked(other is goal)
            self._at = ["", "", ""]
            for box in self.axes.values():
                box.setChecked(True)
        self._wish_for_place()

    def _wish_for_place(self) -> None:
        words = self._read_form()
        self.wish(words if set(words) - {"do", "as-one"} else {})

    def _read_form(self) -> dict[str, Any]:
        """Return where it goes, by which point, along which axes, as the form stands."""
        words: dict[str, Any] = {"do": "place"}
        if self.origin.isChecked():
            words["at"] = "origin"
        elif self.parent_pivot.isChecked():
            words["at"] = "parent"
        elif self._onto:
            words["at"] = dict(self._onto)
        elif any(self._at):
            words["at"] = [v or 0 for v in self._at]
        elif self._away:
            words |= {"away": self._away, "from": self.centre.centre}
        if "at" in words or "away" in words:
            chosen = [a for a, box in self.axes.items() if box.isChecked()]
            if 0 < len(chosen) < 3:
                words["axes"] = chosen
            if self._by is not None:
                words["by"] = dict(self._by) if isinstance(self._by, Mapping) else self._by
        if self.ground.isChecked():
            words["ground"] = True
        if any(self._shift):
            words |= {"shift": [v or 0 for v in self._shift], **self.along.told()}
        if self.as_one.isChecked() and self.nodes is not None:
            words["as-one"] = True
        return words

    # Showing

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a place step."""
        had, words = bool(self._words), step.words() if step is not None and step.do == "place" else {}
        self._words = words
        at = words.get("at")
        self.origin.setChecked(at == "origin")
        self.parent_pivot.setChecked(at == "parent")
        self.parent_pivot.setVisible(self.nodes is not None)
        self.ground.setChecked(bool(words.get("ground")))
        self.as_one.setVisible(self.nodes is not None)
        if words or had:
            self.as_one.setChecked(bool(words.get("as-one")))
            self._by = words.get("by")
        axes = words.get("axes", list("xyz"))
        self._at = ["", "", ""]
        if isinstance(at, list):
            self._at = [str(v) if a in axes else "" for a, v in zip("xyz", at, strict=True)]
        self._onto = dict(at) if isinstance(at, dict) else {}
        self._away = str(words.get("away", ""))
        self._shift = [str(v) if v else "" for v in words.get("shift", ("", "", ""))]
        for axis, box in self.axes.items():
            box.setChecked(axis in axes)
        self._show_frame(words, anew=bool(words) or had)
        self.onto.show_names(self.names, self._onto)
        self.other.show_onto(self._onto, self.names)
        self._show_by("at" in words or "away" in words)
        self._asset = asset
        self.told_in.offer(asset, self.nodes, self.names)
        self._told_row.setVisible(self.told_in.count() > 1)
        self._show_numbers(asset)

    def _show_frame(self, words: Mapping[str, Any], *, anew: bool) -> None:
        of_nodes = self.nodes is not None
        # What was chosen before there is a step stays chosen for it.
        along = words.get("along", "world") if anew else self.along.along
        centre = words.get("from", "origin") if anew else self.centre.centre
        self.along.show_along(along, self.names, of_nodes=of_nodes)
        self.centre.show_centre(centre, self.names, of_nodes=of_nodes)
        self.away.show_length(self._away, None, self.shown)
        if self._away:
            self.out.open()

    @property
    def _find_usual_point(self) -> str:
        return "base" if self.nodes is None or self.as_one.isChecked() else "pivot"

    def _show_by(self, goes: bool) -> None:
        """Show which point goes there; where nothing says so, the usual one is shown once it goes somewhere."""
        by = self._by if self._by is not None else self._find_usual_point if goes else None
        self.by.show_choice(by if isinstance(by, str) else None)
        self.by_mark.show_names(self.names, by if isinstance(by, dict) else None)
        self.by_spot.show_point(list(by) if isinstance(by, list) else None)

    def _show_numbers(self, asset: Asset | None) -> None:
        self._frame = self.told_in.frame(asset, self.datum)
        if self.told_in.key is not None and asset is not None:
            self._show_numbers_in(asset)
            return
        by = self._by if isinstance(self._by, str) else self._find_usual_point
        point = None if asset is None else _find_present_point(asset, self.nodes, by)
        now = [None] * 3 if point is None else (self.delivery_from_working @ point).tolist()
        # One unit for all three, so that they can be read as one.
        alike = self.shown if point is None else self.shown.fixed_for(float(np.abs(point).max()))
        for edit, text, present in zip(self.at, self._at, now, strict=True):
            edit.show_length(text, present, self.shown, as_shown=alike)
        for edit, text in zip(self.shift, self._shift, strict=True):
            edit.show_length(text, 0.0, self.shown)

    def _show_numbers_in(self, asset: Asset) -> None:
        """Show where the point is, or is put, in another frame: as what stands there, to be typed over."""
        point = self._point_now(asset)
        there = None if point is None else np.linalg.solve(self._frame, np.append(point, 1.0))[:3]
        now = [None] * 3 if there is None else there.tolist()
        alike = self.shown if there is None else self.shown.fixed_for(float(np.abs(there).max()))
        for edit, present in zip(self.at, now, strict=True):
            edit.show_length("", present, self.shown, as_shown=alike)
        for edit, text in zip(self.shift, self._shift, strict=True):
            edit.show_length(text, 0.0, self.shown)


def _find_present_point(asset: Asset, nodes: tuple[int, ...] | None, by: str) -> Array | None:
    """Return where the point of an asset, or of the one node aimed at, is now, working frame, metres."""
    if nodes is not None and len(nodes) != 1:
        return None  # several stand in several places
    if by == "pivot":
        return np.zeros(3) if nodes is None else asset.worlds[nodes[0]][:3, 3]
    box = box_of(asset, nodes)
    if box is None:
        return None
    point = box.middle if by == "middle" else box.base
    # What rounding leaves of a zero is shown as one.
    return np.where(np.abs(point) <= SAME_PLACE * box.diagonal, 0.0, point)
