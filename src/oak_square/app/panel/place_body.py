"""Place: where assets, or a picked part, stand."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from oak_square.app.panel.body import Array, Body, box_of
from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.entries import LengthEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE
from oak_square.steps import Step

__all__ = ["PlaceBody"]


class PlaceBody(Body):
    """To the origin or a point, along chosen axes; onto the ground; on by a shift."""

    stage = "place"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self._fill_goal(rows)
        self._fill_by(rows)
        self._fill_shift(rows)
        self._fill_away(rows)
        self._at, self._shift = ["", "", ""], ["", "", ""]
        self._by: str | None = None
        self._onto: dict[str, Any] = {}
        self._mark: dict[str, Any] = {}
        self._along, self._away = "world", ""
        self._from: Any = "origin"
        # Whether it says where to go, and by which point, in a way that this form can't show.
        self._at_other = self._by_other = False

    def _fill_goal(self, rows: QVBoxLayout) -> None:
        self.origin = QCheckBox("To the origin", self)
        self.origin.setToolTip("The point chosen below comes to 0, 0, 0")
        self.parent_pivot = QCheckBox("To its parent's pivot", self)
        self.parent_pivot.setToolTip("Of parts and groups: the point chosen below comes to where the parent's pivot is")
        self.parent_pivot.clicked.connect(lambda _=False: self._goal_clicked(self.parent_pivot))
        self.ground = QCheckBox("Bottom onto the ground", self)
        self.ground.setToolTip("The lowest point comes to height 0")
        self.origin.clicked.connect(lambda _=False: self._goal_clicked(self.origin))
        self.ground.clicked.connect(lambda _=False: self._changed())
        for goal in (self.origin, self.parent_pivot, self.ground):
            rows.addWidget(goal)
        rows.addWidget(section("or to a point", self))
        self.at = self._triple("Place", "{0} to put it at, in delivery axes", self._at_typed)
        rows.addWidget(Triple(list(zip("xyz", self.at, strict=True)), self))
        tip = "Pick a corner, edge, face or circle in the view: it is found again on every asset it applies to"
        self.onto = self._picked(tip, ("mark", "berth"), "Place: click the point it goes to", self._onto_chosen)
        rows.addWidget(self.onto)

    def _fill_by(self, rows: QVBoxLayout) -> None:
        rows.addWidget(section("which point of it", self))
        self.by = Choices(
            [
                ("base", "base", "The middle of its bottom"),
                ("pivot", "pivot", "Its pivot"),
                ("middle", "middle", "The middle of its box"),
            ],
            self,
        )
        self.by.chosen.connect(self._by_chosen)
        rows.addWidget(self.by)
        asks = "Place: click the point of it that goes there"
        self.by_mark = self._picked("Pick the point of it that goes there", ("mark",), asks, self._by_marked)
        rows.addWidget(self.by_mark)
        rows.addWidget(section("change only", self))
        line = QHBoxLayout()
        line.setSpacing(14)
        self.axes: dict[str, QCheckBox] = {}
        for axis in "xyz":
            box = QCheckBox(axis, self)
            box.setChecked(True)
            box.setToolTip(f"Unticked, {axis} stays as it is")
            box.clicked.connect(lambda _=False: self._changed())
            self.axes[axis] = box
            line.addWidget(box)
        line.addStretch(1)
        rows.addLayout(line)

    def _fill_shift(self, rows: QVBoxLayout) -> None:
        rows.addWidget(section("then move on by", self))
        self.shift = self._triple("Shift", "How far to move along {0}", self._shift_typed)
        rows.addWidget(Triple(list(zip("xyz", self.shift, strict=True)), self))
        ways = [
            ("world", "world", "Along the world's axes"),
            ("own", "own", "Along its own axes"),
            ("parent", "parent's", "Of parts and groups: along its parent's axes"),
        ]
        self.along = Choices(ways, self)
        self.along.chosen.connect(self._along_chosen)
        rows.addWidget(labelled("along", self.along, self))

    def _fill_away(self, rows: QVBoxLayout) -> None:
        rows.addWidget(section("or away from a centre, by", self))
        self.away = LengthEdit("Away", "How far on from the centre; nearer where it is negative", self)
        self.away.entered.connect(self._away_typed)
        rows.addWidget(self.away)
        centres = [
            ("origin", "origin", "Away from 0, 0, 0"),
            ("mean", "mean", "Of several: from the mean of their pivots"),
            ("common", "common", "Of several: from the middle of their common box"),
        ]
        self.centre = Choices(centres, self)
        self.centre.chosen.connect(lambda key: self._from_chosen(key))
        rows.addWidget(self.centre)
        tip, asks = "Pick what it moves away from: a corner, a circle, a pivot", "Away: click what it moves away from"
        self.from_ = self._picked(tip, ("mark", "datum", "part"), asks, self._from_chosen)
        rows.addWidget(self.from_)

    def _picked(self, tip: str, kinds: tuple[str, ...], asks: str, take: Callable[[Any], None]) -> PointRow:
        """Return a row for a point that is picked, or chosen by its name."""
        row = PointRow(tip, kinds, self)
        row.pick_wished.connect(lambda: self.point_wished.emit(asks, lambda at, _: take(at)))
        row.chosen.connect(take)
        return row

    def _triple(self, name: str, tip: str, work: Any) -> list[LengthEdit]:
        edits = [LengthEdit(f"{name} {axis}", tip.format(axis), self) for axis in "xyz"]
        for k, edit in enumerate(edits):
            edit.entered.connect(lambda text, k=k: work(k, text))
        return edits

    def _at_typed(self, axis: int, text: str) -> None:
        self._at[axis], self._at_other, self._onto, self._away = text, False, {}, ""
        self.origin.setChecked(False)
        self.parent_pivot.setChecked(False)
        # What is typed is changed, and nothing else; what is cleared stays as it is.
        for k, box in enumerate(self.axes.values()):
            box.setChecked(bool(self._at[k]) and (box.isChecked() or k == axis))
        self._changed()

    def _onto_chosen(self, at: Mapping[str, Any]) -> None:
        """Go to a mark, a berth, or plain coordinates that were picked."""
        self._onto, self._at, self._at_other, self._away = dict(at), ["", "", ""], False, ""
        if "xyz" in at:
            self._onto, self._at = {}, [str(v) for v in at["xyz"]]
        self.origin.setChecked(False)
        self.parent_pivot.setChecked(False)
        self._changed()

    def _by_marked(self, at: Mapping[str, Any]) -> None:
        if "mark" in at:
            self._mark, self._by, self._by_other = dict(at), None, False
            self._changed()

    def _along_chosen(self, key: str) -> None:
        self._along = key
        if any(self._shift):
            self._changed()

    def _away_typed(self, text: str) -> None:
        self._away = text
        if text:
            self._onto, self._at, self._at_other = {}, ["", "", ""], False
            self.origin.setChecked(False)
            self.parent_pivot.setChecked(False)
        self._changed()

    def _from_chosen(self, centre: Any) -> None:
        self._from = dict(centre) if isinstance(centre, Mapping) else centre
        if self._away:
            self._changed()
        else:
            self._show_centre()

    def _show_centre(self) -> None:
        self.centre.show_choice(self._from if isinstance(self._from, str) else None)
        self.from_.show_names(self.names, self._from)

    def _shift_typed(self, axis: int, text: str) -> None:
        self._shift[axis] = text
        self._changed()

    def _by_chosen(self, key: str) -> None:
        self._by, self._by_other, self._mark = key, False, {}
        self._changed()

    def _goal_clicked(self, goal: QCheckBox) -> None:
        self._at_other, self._onto, self._away = False, {}, ""
        if goal.isChecked():
            for other in (self.origin, self.parent_pivot):
                other.setChecked(other is goal)
            self._at = ["", "", ""]
            for box in self.axes.values():
                box.setChecked(True)
        self._changed()

    def _changed(self) -> None:
        words = self.told()
        self.wish(words if len(words) > 1 else {})

    def told(self) -> dict[str, Any]:
        """Return where it goes, by which point, along which axes; what the form can't show is left out."""
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
            words |= {"away": self._away, "from": self._from}
        if "at" in words or "away" in words or self._at_other:
            chosen = [a for a, box in self.axes.items() if box.isChecked()]
            if 0 < len(chosen) < 3:
                words["axes"] = chosen
            if self._by is not None and not self._by_other:
                words["by"] = self._by
            elif self._mark:
                words["by"] = dict(self._mark)
        if self.ground.isChecked():
            words["ground"] = True
        if any(self._shift):
            words["shift"] = [v or 0 for v in self._shift]
            if self._along != "world":
                words["along"] = self._along
        return words

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a place step."""
        words = step.words() if step is not None and step.do == "place" else {}
        at = words.get("at")
        self.origin.setChecked(at == "origin")
        self.parent_pivot.setChecked(at == "parent")
        self.parent_pivot.setVisible(self.nodes is not None)
        self.ground.setChecked(bool(words.get("ground")))
        axes = words.get("axes", list("xyz"))
        self._at = ["", "", ""]
        if isinstance(at, list):
            self._at = [str(v) if a in axes else "" for a, v in zip("xyz", at, strict=True)]
        named = isinstance(at, dict) and not {"mark", "berth"}.isdisjoint(at)
        self._onto = dict(at) if isinstance(at, dict) and named else {}
        self._at_other = at not in (None, "origin", "parent") and not isinstance(at, list) and not named
        marked = isinstance(words.get("by"), dict)
        self._mark = dict(words["by"]) if marked else {}
        self._by_other = "by" in words and not isinstance(words["by"], str) and not marked
        self._away, self._from = str(words.get("away", "")), words.get("from", self._from if not words else "origin")
        along = words.get("along", "world")
        self._along = along if isinstance(along, str) else "world"
        self.along.show_choice(along if isinstance(along, str) else None)
        self.along.show_word("parent", "parent's", enabled=self.nodes is not None)
        for key in ("mean", "common"):
            self.centre.show_word(key, key, enabled=self.nodes is not None)
        self.away.show_length(self._away, None, self.shown)
        self.onto.show_names(self.names, self._onto)
        self.by_mark.show_names(self.names, self._mark)
        self._show_centre()
        self._shift = [str(v) if v else "" for v in words.get("shift", ("", "", ""))]
        by = words.get("by")
        self._by = by if isinstance(by, str) else None
        usual = "base" if self.nodes is None else "pivot"
        self.by.show_choice((self._by or (None if self._mark else usual)) if "at" in words else None)
        for axis, box in self.axes.items():
            box.setChecked(axis in axes)
        point = None if asset is None else _present(asset, self.nodes, self._by or usual)
        now = [None] * 3 if point is None else (self.delivery_from_working @ point).tolist()
        # One unit for all three, so that they can be read as one.
        alike = self.shown if point is None else self.shown.fixed_for(float(np.abs(point).max()))
        for edit, text, present in zip(self.at, self._at, now, strict=True):
            edit.show_length(text, present, self.shown, as_shown=alike)
        for edit, text in zip(self.shift, self._shift, strict=True):
            edit.show_length(text, 0.0, self.shown)


def _present(asset: Asset, nodes: tuple[int, ...] | None, by: str) -> Array | None:
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
