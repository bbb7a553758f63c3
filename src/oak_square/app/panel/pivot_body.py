"""Pivot: where assets, parts and groups turn about."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from PySide6.QtWidgets import QLabel, QWidget

from oak_square.app.panel.body import Array, Body, Pages
from oak_square.app.panel.box_picker import BoxPicker
from oak_square.app.panel.pivot_axes_page import PivotAxesPage
from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.entries import LengthEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section
from oak_square.core.scene import Asset
from oak_square.steps import Step

__all__ = ["PivotBody"]

_BASE = ["middle", "bottom", "middle"]
_MIDDLE = ["middle", "middle", "middle"]
_OF_NODES = ("origin", "parent", "children")
_NONE = object()
_ALL_THREE = "several pivots stand in several places, so x, y and z are all needed"
_PLACES = (
    ("base", "base", "The middle of its box's bottom"),
    ("middle", "middle", "The middle of its box"),
    ("mass", "mass", "Its centre of mass; of an open surface, the centre of the surface"),
    ("mean", "mean", "The mean of its vertices"),
    ("origin", "origin", "Of parts and groups: 0, 0, 0"),
    ("parent", "parent", "Of parts and groups: where the parent's pivot is"),
    ("children", "children", "Of parts and groups: the mean of the pivots right below"),
    ("received", "as received", "Where it was in its geometry, as the file had it"),
)
_ACROSS = (
    ("width", "left / right", "To the other side: mirrored across the middle of the asset's width"),
    ("height", "top / bottom", "Mirrored across the middle of the asset's height"),
    ("depth", "front / back", "Mirrored across the middle of the asset's depth"),
)
_OTHERS = {"mark", "datum", "part", "across", "move"}
_STAY = {"move": [0, 0, 0]}


class PivotBody(Body):
    """To a box point with insets, to the origin, to coordinates; of the asset, its parts, its groups or all."""

    stage = "pivot"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section("to its", self))
        self.places = Choices(_PLACES, self, per_row=4)
        self.places.chosen.connect(self._place_chosen)
        rows.addWidget(self.places)
        self.pages = Pages(
            [
                ("box", "box point", "A corner, edge middle, side middle or the centre of its box"),
                ("point", "point", "A picked point, a mark, a datum, another's pivot; typed; or across the asset"),
                ("axes", "axes", "Turn its axes where it is"),
            ],
            self,
        )
        rows.addWidget(self.pages)
        self._fill_box(self.pages.add("box"))
        self._fill_point(self.pages.add("point"))
        self._fill_axes(self.pages.add("axes"))
        self._point: list[str | float] = list(_BASE)
        self._inset: dict[str, str] = {}
        self._xyz = ["", "", ""]
        self._other: dict[str, Any] = {}
        self._axes: Any = None
        self._step_shown: Step | None = None
        self._half_typed: object = _NONE  # the step that was shown when some of three was typed
        self._now: list[str | None] = [None, None, None]
        self._place = ""  # where it goes, where that is a place with a button of its own
        self._is_drawn = True  # where the pivot goes is something that these pages can show

    def _fill_box(self, page: QWidget) -> None:
        rows = column(page, 4)
        self.picker = BoxPicker(page)
        self.picker.point_wished.connect(self._picked)
        rows.addWidget(self.picker)
        self.insets: list[tuple[LengthEdit, QWidget]] = []
        for axis in range(3):
            edit = LengthEdit(f"Inset {axis}", "How far inward from that side", page)
            edit.entered.connect(lambda text, k=axis: self._set_in(k, text))
            row = labelled("", edit, page)
            self.insets.append((edit, row))
            rows.addWidget(row)

    def _fill_point(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("to a corner, edge, face or circle; or by name", page))
        tip = "Pick a point in the view: it is found again on every asset it applies to"
        self.point = PointRow(tip, ("mark", "datum", "part"), page)
        self.point.pick_wished.connect(lambda: self.point_wished.emit("Pivot: click the point it goes to", self._take))
        self.point.chosen.connect(self._take)
        rows.addWidget(self.point)
        rows.addWidget(section("or to x, y, z of the world", page))
        self.xyz = [LengthEdit(f"Pivot {a}", f"{a} of the new pivot, in delivery axes", page) for a in "xyz"]
        for k, edit in enumerate(self.xyz):
            edit.entered.connect(lambda text, k=k: self._typed(k, text))
        rows.addWidget(Triple(list(zip("xyz", self.xyz, strict=True)), page))
        rows.addWidget(section("or to the other side of the asset", page))
        self.across = Choices(_ACROSS, page)
        self.across.chosen.connect(lambda extent: self._take({"across": extent}))
        rows.addWidget(self.across)

    def _fill_axes(self, page: QWidget) -> None:
        rows = column(page)
        self.axes = PivotAxesPage(page)
        self.axes.wished.connect(self._axes_wished)
        self.axes.way_wished.connect(
            lambda: self.point_wished.emit(
                "Axes: click an edge, a face or a circle", lambda at, _: self.axes.bring_to(at)
            )
        )
        rows.addWidget(self.axes)

    def _take(self, at: Mapping[str, Any], _pick: object = None) -> None:
        """Take a point: a mark, a datum, another's pivot, plain coordinates, or across."""
        self._other, self._is_drawn, self._place = dict(at), True, ""
        self._xyz = ["", "", ""]
        self._wish()

    def _axes_wished(self, axes: Any) -> None:
        """Turn its axes; where no step says yet where it goes, it stays."""
        if self._step_shown is None or self._step_shown.do != "pivot":
            self._other, self._place, self._is_drawn = dict(_STAY), "", True
        self._axes = axes
        self._wish()

    def _place_chosen(self, key: str) -> None:
        self._place, self._is_drawn, self._other = key, True, {}
        self._point, self._inset = list(_MIDDLE if key == "middle" else _BASE), {}
        self._wish()

    def _picked(self, point: list[str | float]) -> None:
        self._point, self._is_drawn, self._place, self._other = point, True, "", {}
        self._inset = {side: v for side, v in self._inset.items() if side in point}
        self._wish()

    def _set_in(self, axis: int, text: str) -> None:
        side = str(self._point[axis])
        self._inset, self._place = {s: v for s, v in self._inset.items() if s != side}, ""
        if text:
            self._inset[side] = text
        self._wish()

    def _typed(self, axis: int, text: str) -> None:
        self._xyz[axis], self._is_drawn, self._place, self._other = text, True, "", {}
        whole = all(v or now is not None for v, now in zip(self._xyz, self._now, strict=True))
        self._half_typed = self._step_shown if any(self._xyz) and not whole else _NONE
        for edit in self.xyz:
            edit.complain("" if self._half_typed is _NONE else _ALL_THREE)
        if self._half_typed is _NONE:
            self.wish(self.told() if whole else {})

    def _wish(self) -> None:
        self.wish(self.told())

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front."""
        self.pages.open(page)

    def told(self) -> dict[str, Any]:
        """Return where it goes; a place that no page shows is left out."""
        words: dict[str, Any] = {"do": "pivot", **({} if self._axes in (None, "keep") else {"axes": self._axes})}
        if not self._is_drawn:
            return words
        if self._place:
            words["at"] = self._place
        elif self._other:
            words["at"] = dict(self._other)
        elif any(self._xyz):
            # What is not typed stays as it is.
            words["at"] = {"xyz": [v or now for v, now in zip(self._xyz, self._now, strict=True)]}
        elif self._inset or self._point not in (_BASE, _MIDDLE):
            words["at"] = {"point": list(self._point), **({"inset": dict(self._inset)} if self._inset else {})}
        else:
            words["at"] = "base" if self._point == _BASE else "middle"
        return words

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a pivot step."""
        is_pivot = step is not None and step.do == "pivot"
        words = step.words() if is_pivot and step is not None else {}
        at = words.get("at", "base")
        self._step_shown, self._axes = step, words.get("axes")
        if self._half_typed is step:
            self._show_spot(at)  # and what is being typed stays, for as long as the step is the same
        elif isinstance(at, dict) and "xyz" in at:
            self._xyz, self._other = [str(v) for v in at["xyz"]], {}
        elif isinstance(at, dict) and _OTHERS & set(at):
            self._xyz, self._other = ["", "", ""], dict(at)
            self._show_spot("base")
        else:
            self._other = {}
            self._xyz = ["", "", ""]
            self._show_spot(at)
        if self._half_typed is not step:
            self._half_typed = _NONE
        if is_pivot and step is not None:
            stays = at == _STAY and self._axes is not None
            page = "axes" if stays else "point" if any(self._xyz) or self._other else "box"
            self.pages.open_for(step, page)
        self._show_present(asset)
        self._place = at if isinstance(at, str) and is_pivot else ""
        self.places.show_choice(self._place or None)
        for key, word, _ in _PLACES:
            self.places.show_word(key, word, enabled=self.nodes is not None or key not in _OF_NODES)
        self._is_drawn = isinstance(at, str) or (isinstance(at, dict) and bool({"point", "xyz", *_OTHERS} & set(at)))
        self.point.show_names(self.names, self._other)
        self.across.show_choice(self._other.get("across"))
        self.axes.show_axes(self._axes if is_pivot else None, self.names, enabled=self.nodes is not None)
        is_spot = at in ("base", "middle") or (isinstance(at, dict) and "point" in at)
        self.picker.show_point(self._point if is_pivot and is_spot and self.pages.tabs.choice == "box" else None)
        self._show_insets(shown=is_pivot and is_spot)

    def _show_present(self, asset: Asset | None) -> None:
        """Show where the pivot is now in the fields that nothing is typed into."""
        point: Array | None = None
        if self.nodes is None:
            point = np.zeros(3)
        elif asset is not None and len(self.nodes) == 1:
            point = asset.worlds[self.nodes[0]][:3, 3]
        now = [None] * 3 if point is None else (self.delivery_from_working @ point).tolist()
        self._now = [None if v is None else f"{v:.9g} m" for v in now]
        alike = self.shown if point is None else self.shown.fixed_for(float(np.abs(point).max()))
        for edit, text, present in zip(self.xyz, self._xyz, now, strict=True):
            edit.show_length(text, present, self.shown, as_shown=alike)

    def _show_spot(self, at: Any) -> None:
        if isinstance(at, dict) and "point" in at:
            self._point = list(at["point"])
            self._inset = {side: str(v) for side, v in at.get("inset", {}).items()}
        else:
            self._point = list(_MIDDLE if at == "middle" else _BASE)
            self._inset = {}

    def _show_insets(self, *, shown: bool) -> None:
        for axis, (edit, row) in enumerate(self.insets):
            side = self._point[axis]
            is_side = isinstance(side, str) and side != "middle"
            row.setVisible(shown and is_side)
            label = row.findChild(QLabel)
            if label is not None:
                label.setText(f"from the {side}")
            edit.show_length(self._inset.get(str(side), ""), 0.0, self.shown)
