"""Pivot: where assets, parts and groups turn about."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtWidgets import QLabel, QWidget

from oak_square.app.panel.body import Array, Body, Pages
from oak_square.app.panel.box_picker import BoxPicker
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
)


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
                ("xyz", "coordinates", "A point of the world, typed"),
            ],
            self,
        )
        rows.addWidget(self.pages)
        self._fill_box(self.pages.add("box"))
        self._fill_xyz(self.pages.add("xyz"))
        self._point: list[str | float] = list(_BASE)
        self._inset: dict[str, str] = {}
        self._xyz = ["", "", ""]
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

    def _fill_xyz(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("to this point of the world", page))
        self.xyz = [LengthEdit(f"Pivot {a}", f"{a} of the new pivot, in delivery axes", page) for a in "xyz"]
        for k, edit in enumerate(self.xyz):
            edit.entered.connect(lambda text, k=k: self._typed(k, text))
        rows.addWidget(Triple(list(zip("xyz", self.xyz, strict=True)), page))

    def _place_chosen(self, key: str) -> None:
        self._place, self._is_drawn = key, True
        self._point, self._inset = list(_MIDDLE if key == "middle" else _BASE), {}
        self._wish()

    def _picked(self, point: list[str | float]) -> None:
        self._point, self._is_drawn, self._place = point, True, ""
        self._inset = {side: v for side, v in self._inset.items() if side in point}
        self._wish()

    def _set_in(self, axis: int, text: str) -> None:
        side = str(self._point[axis])
        self._inset, self._place = {s: v for s, v in self._inset.items() if s != side}, ""
        if text:
            self._inset[side] = text
        self._wish()

    def _typed(self, axis: int, text: str) -> None:
        self._xyz[axis], self._is_drawn, self._place = text, True, ""
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
        words: dict[str, Any] = {"do": "pivot"}
        if not self._is_drawn:
            return words
        if self._place:
            words["at"] = self._place
        elif self.pages.tabs.choice == "xyz":
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
        self._step_shown = step
        if self._half_typed is step:
            self._show_spot(at)  # and what is being typed stays, for as long as the step is the same
        elif isinstance(at, dict) and "xyz" in at:
            self._xyz = [str(v) for v in at["xyz"]]
        else:
            self._xyz = ["", "", ""]
            self._show_spot(at)
        if self._half_typed is not step:
            self._half_typed = _NONE
        if is_pivot and step is not None:
            self.pages.open_for(step, "xyz" if any(self._xyz) else "box")
        self._show_present(asset)
        self._place = at if isinstance(at, str) and is_pivot else ""
        self.places.show_choice(self._place or None)
        for key, word, _ in _PLACES:
            self.places.show_word(key, word, enabled=self.nodes is not None or key not in _OF_NODES)
        self._is_drawn = isinstance(at, str) or (isinstance(at, dict) and bool({"point", "xyz"} & set(at)))
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
