"""Pivot: where assets, parts and groups turn about."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QLabel, QWidget

from oak_square.app.panel.body import Body, Pages
from oak_square.app.panel.box_picker import BoxPicker
from oak_square.app.widgets.edits import LengthEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section
from oak_square.core.scene import Asset
from oak_square.steps import Step

__all__ = ["PivotBody"]

_BASE = ["middle", "bottom", "middle"]
_MIDDLE = ["middle", "middle", "middle"]


class PivotBody(Body):
    """To a box point with insets, to the origin, to coordinates; of the asset, its parts, its groups or all."""

    stage = "pivot"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section("the pivot of", self))
        self.target = Choices(
            [
                ("asset", "the asset", "All of it moves so that the point becomes the file origin"),
                ("parts", "each part", "Each part's own pivot; nothing moves in the world"),
                ("groups", "groups", "Each group's pivot, by the box of all below it"),
                ("all", "all", "Parts and groups"),
            ],
            self,
        )
        self.target.chosen.connect(self._target_chosen)
        rows.addWidget(self.target)
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
        self._of = "asset"
        self._point: list[str | float] = list(_BASE)
        self._inset: dict[str, str] = {}
        self._xyz = ["", "", ""]
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

    def _target_chosen(self, key: str) -> None:
        self._of = key
        self._wish()

    def _picked(self, point: list[str | float]) -> None:
        self._point, self._is_drawn = point, True
        self._inset = {side: v for side, v in self._inset.items() if side in point}
        self._wish()

    def _set_in(self, axis: int, text: str) -> None:
        side = str(self._point[axis])
        self._inset = {s: v for s, v in self._inset.items() if s != side}
        if text:
            self._inset[side] = text
        self._wish()

    def _typed(self, axis: int, text: str) -> None:
        self._xyz[axis], self._is_drawn = text, True
        self._wish()

    def _wish(self) -> None:
        self.wish(self.told())

    def told(self) -> dict[str, Any]:
        """Return target and place; a place that no page shows is left out."""
        words: dict[str, Any] = {"do": "pivot", "of": self._of}
        if not self._is_drawn:
            return words
        if self.pages.tabs.choice == "xyz":
            words["at"] = {"xyz": [v or 0 for v in self._xyz]}
        elif self._inset or self._point not in (_BASE, _MIDDLE):
            words["at"] = {"point": list(self._point), **({"inset": dict(self._inset)} if self._inset else {})}
        else:
            words["at"] = "base" if self._point == _BASE else "middle"
        return words

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a pivot step."""
        is_pivot = step is not None and step.do == "pivot"
        self._of = getattr(step, "target", "asset") if is_pivot else "asset"
        self.target.show_choice(self._of if is_pivot else None)
        words = step.words() if is_pivot and step is not None else {}
        at = words.get("at", "base")
        if isinstance(at, dict) and "xyz" in at:
            self._xyz = [str(v) for v in at["xyz"]]
        else:
            self._xyz = ["", "", ""]
            self._show_spot(at)
        if is_pivot and step is not None:
            self.pages.open_for(step, "xyz" if self._xyz != ["", "", ""] else "box")
        for edit, text in zip(self.xyz, self._xyz, strict=True):
            edit.show_text(text)
        self._is_drawn = at in ("base", "middle") or (isinstance(at, dict) and bool({"point", "xyz"} & set(at)))
        is_spot = at in ("base", "middle") or (isinstance(at, dict) and "point" in at)
        self.picker.show_point(self._point if is_pivot and is_spot and self.pages.tabs.choice == "box" else None)
        self._show_insets(shown=is_pivot and is_spot)

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
