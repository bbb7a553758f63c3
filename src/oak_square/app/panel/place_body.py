"""Place: where assets stand."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.fields import column, section, soft
from oak_square.steps import Step

__all__ = ["PlaceBody"]


class PlaceBody(Body):
    """To the origin, and onto the ground."""

    stage = "place"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section("set down", self))
        self.origin = QCheckBox("Base middle to the origin", self)
        self.origin.setToolTip("The middle of the bottom comes to 0, 0, 0")
        self.ground = QCheckBox("Bottom onto the ground", self)
        self.ground.setToolTip("Only the height changes: the lowest point comes to height 0")
        for box in (self.origin, self.ground):
            box.clicked.connect(self._changed)
            rows.addWidget(box)
        rows.addWidget(soft("The asset moves as a whole. With a part picked, only that part moves.", self))

    def _changed(self) -> None:
        words: dict[str, object] = {"do": "place"}
        if self.origin.isChecked():
            words["at"] = "origin"
        if self.ground.isChecked():
            words["ground"] = True
        self.wish(words if len(words) > 1 else {})

    def show_step(self, step: Step | None) -> None:
        """Match the form to a place step."""
        is_place = step is not None and step.do == "place"
        self.origin.setChecked(is_place and getattr(step, "at", None) == "origin")
        self.ground.setChecked(is_place and bool(getattr(step, "ground", False)))
