"""Bake: channels become identity and geometry stays, or they are reset and it moves."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton, QWidget

from oak_square.app.panel.bake_table import BakeTable
from oak_square.app.panel.body import Array, Body
from oak_square.app.panel.shape_page import ShapePage
from oak_square.app.widgets.fields import Choices, column
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import capital, say
from oak_square.steps.edited import own_words
from oak_square.steps.step import Step

__all__ = ["BakeBody"]

_CHANNELS = (
    ("rotation", say("Rotation becomes 0; the part's own axes are its parent's from then on")),
    ("scale", say("Scale becomes 1; what it did goes into the geometry")),
    ("location", say("Location becomes 0; the pivot goes to the parent's origin")),
)


class BakeBody(Body):
    """Which channels to bake or to reset, over a table of what they read; or which vertices to move."""

    stage = "bake"
    by_hand = ("bake", "reset", "shape")
    take_wished = Signal(object)  # the vertices to take hold of, as a shape says it; None for none

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.means = Choices(
            [
                ("bake", "bake", say("The channels read 0 and 1, and the world stays as it is")),
                ("reset", "reset", say("The channels read 0 and 1, and the nodes move to their parent's frame")),
                ("shape", "shape", say("Move some vertices: narrow a top, level feet; normals follow")),
            ],
            self,
        )
        self.means.chosen.connect(self._turn_to_means)
        rows.addWidget(self.means)
        self.channels: dict[str, QCheckBox] = {}
        self._channel_row = QWidget(self)
        line = QHBoxLayout(self._channel_row)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(12)
        rows.addWidget(self._channel_row)
        for name, tip in _CHANNELS:
            box = QCheckBox(capital(term(name)), self._channel_row)
            box.setToolTip(tip)
            box.clicked.connect(lambda _=False: self._wish_for_channels())
            self.channels[name] = box
            line.addWidget(box)
        line.addStretch(1)
        self.table = BakeTable(self)
        rows.addWidget(self.table)
        self.usual = QPushButton(say("Bake rotation and scale"), self)
        self.usual.setToolTip(say("The usual bake: pivots stay where they are"))
        self.usual.clicked.connect(lambda: self.wish({"do": "bake", "what": ["rotation", "scale"]}))
        rows.addWidget(self.usual)
        self._others = QWidget(self)
        self.add_forms(column(self._others, 6))
        rows.addWidget(self._others)
        self.shape = ShapePage(self)
        self.shape.wished.connect(self.wish)
        self.shape.axes_and_sides = lambda along: self.axes_and_sides(self.lead_asset, along)
        self.shape.take_wished.connect(self.take_wished)
        self.shape.pick_wished.connect(
            self.asking(say("Centre: click what stays in place"), self.shape.about.choose, elsewhere=True)
        )
        rows.addWidget(self.shape)
        self.taken: Array = np.empty((0, 3))
        self.take: Mapping[str, Any] | None = None
        self.means.show_choice("bake")
        self._show_means()

    def _turn_to_means(self, means: str) -> None:
        """Another of the means is in front: vertices are taken hold of, or things as wholes again."""
        is_shape = means == "shape"
        if is_shape or self.take is not None:
            self.take_wished.emit(self.shape.take.take if is_shape else None)
        self._show_means()
        self.narrowing_changed.emit()
        if not is_shape:
            self._wish_for_channels()

    def _show_means(self) -> None:
        is_shape = self.means.choice == "shape"
        self.shape.setVisible(is_shape)
        for other in (self._channel_row, self.table, self.usual, self._others):
            other.setVisible(not is_shape)

    def show_taken(self, take: Mapping[str, Any] | None, points: Array) -> None:
        """Take note of which vertices are taken hold of, and where those of the lead asset are, shape (N, 3), world."""
        self.take, self.taken = take, points

    def _wish_for_channels(self, _key: str = "") -> None:
        words = self._read_channels()
        self.wish(words if words["what"] else {})

    def _read_channels(self) -> dict[str, Any]:
        what = [name for name, box in self.channels.items() if box.isChecked()]
        return {"do": self.means.choice or "bake", "what": what}

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a bake or reset step, and the table to the lead asset."""
        words = step.words() if step is not None and step.do == "shape" else {}
        if words or (step is None and self.take is not None):
            self.means.show_choice("shape")
        elif self.means.choice == "shape":
            self.means.show_choice("bake")
        take = self.take or self.shape.take.take
        own = own_words(words)
        told = self.taken, self.delivery_from_working
        self.keep_asset(asset)
        self.shape.several = self.several
        self.shape.show_words(own, take, *told, self.names, self.shown, of_nodes=self.nodes is not None)
        self._show_means()
        what = getattr(step, "what", [])
        for name, box in self.channels.items():
            box.setChecked(name in what)
        if step is not None and step.do in self.means.buttons:
            self.means.show_choice(step.do)
