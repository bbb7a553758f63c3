"""Place: where assets, or a picked part, stand."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.edits import LengthEdit, Triple
from oak_square.app.panel.fields import Choices, column, section
from oak_square.core.scene import Asset
from oak_square.steps import Step

__all__ = ["PlaceBody"]


class PlaceBody(Body):
    """To the origin or a point, along chosen axes; onto the ground; on by a shift."""

    stage = "place"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.origin = QCheckBox("To the origin", self)
        self.origin.setToolTip("The point chosen below comes to 0, 0, 0")
        self.ground = QCheckBox("Bottom onto the ground", self)
        self.ground.setToolTip("The lowest point comes to height 0")
        for box in (self.origin, self.ground):
            box.clicked.connect(lambda _=False: self._changed())
            rows.addWidget(box)
        rows.addWidget(section("or to a point", self))
        self.at = self._triple("Place", "{0} to put it at, in delivery axes", self._at_typed)
        rows.addWidget(Triple(list(zip("xyz", self.at, strict=True)), self))
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
        rows.addWidget(section("then move on by", self))
        self.shift = self._triple("Shift", "How far to move along {0}", self._shift_typed)
        rows.addWidget(Triple(list(zip("xyz", self.shift, strict=True)), self))
        self._at, self._shift = ["", "", ""], ["", "", ""]
        self._by: str | None = None

    def _triple(self, name: str, tip: str, work: Any) -> list[LengthEdit]:
        edits = [LengthEdit(f"{name} {axis}", tip.format(axis), self) for axis in "xyz"]
        for k, edit in enumerate(edits):
            edit.entered.connect(lambda text, k=k: work(k, text))
        return edits

    def _at_typed(self, axis: int, text: str) -> None:
        self._at[axis] = text
        self.origin.setChecked(False)
        self._changed()

    def _shift_typed(self, axis: int, text: str) -> None:
        self._shift[axis] = text
        self._changed()

    def _by_chosen(self, key: str) -> None:
        self._by = key
        self._changed()

    def _changed(self) -> None:
        words: dict[str, Any] = {"do": "place"}
        if self.origin.isChecked():
            words["at"] = "origin"
        elif any(self._at):
            words["at"] = [v or 0 for v in self._at]
        if "at" in words:
            chosen = [a for a, box in self.axes.items() if box.isChecked()]
            if 0 < len(chosen) < 3:
                words["axes"] = chosen
            if self._by is not None:
                words["by"] = self._by
        if self.ground.isChecked():
            words["ground"] = True
        if any(self._shift):
            words["shift"] = [v or 0 for v in self._shift]
        self.wish(words if len(words) > 1 else {})

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a place step."""
        words = step.words() if step is not None and step.do == "place" else {}
        at = words.get("at")
        self.origin.setChecked(at == "origin")
        self.ground.setChecked(bool(words.get("ground")))
        self._at = [str(v) for v in at] if isinstance(at, list) else ["", "", ""]
        self._shift = [str(v) for v in words.get("shift", ("", "", ""))]
        by = words.get("by")
        self._by = by if isinstance(by, str) else None
        usual = "pivot" if step is not None and step.parts else "base"
        self.by.show_choice(self._by or usual if "at" in words else None)
        axes = words.get("axes", list("xyz"))
        for axis, box in self.axes.items():
            box.setChecked(axis in axes)
        for edits, texts in ((self.at, self._at), (self.shift, self._shift)):
            for edit, text in zip(edits, texts, strict=True):
                edit.show_length("" if text == "0" else text, 0.0, self.shown)
