"""Bake: channels become identity, geometry stays."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QPushButton, QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.fields import column, section, soft
from oak_square.steps import Step

__all__ = ["BakeBody"]

_CHANNELS = (
    ("rotation", "Rotation becomes 0; the part's own axes are its parent's from then on"),
    ("scale", "Scale becomes 1; what it did goes into the geometry"),
    ("location", "Location becomes 0; the pivot goes to the parent's origin"),
)


class BakeBody(Body):
    """Which channels to bake."""

    stage = "bake"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section("bake these channels of every node in scope", self))
        self.channels: dict[str, QCheckBox] = {}
        for name, tip in _CHANNELS:
            box = QCheckBox(name.capitalize(), self)
            box.setToolTip(tip)
            box.clicked.connect(self._changed)
            self.channels[name] = box
            rows.addWidget(box)
        self.usual = QPushButton("Rotation and scale", self)
        self.usual.setToolTip("The usual bake: pivots stay where they are")
        self.usual.clicked.connect(lambda: self.wish({"do": "bake", "what": ["rotation", "scale"]}))
        rows.addWidget(self.usual)
        rows.addWidget(soft("All geometry stays where it is in the world; pivots too, unless location is baked.", self))

    def _changed(self) -> None:
        what = [name for name, box in self.channels.items() if box.isChecked()]
        self.wish({"do": "bake", "what": what} if what else {})

    def show_step(self, step: Step | None) -> None:
        """Match the form to a bake step."""
        what = getattr(step, "what", []) if step is not None and step.do == "bake" else []
        for name, box in self.channels.items():
            box.setChecked(name in what)
