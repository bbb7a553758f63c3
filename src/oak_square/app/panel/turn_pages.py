"""Pages of the Turn form: angles of the rotation channel one by one; one direction brought onto another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import permutations
from typing import Any

import numpy as np
from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QComboBox, QLabel, QWidget

from oak_square.app.panel.bring_rows import BringRows
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section, soft
from oak_square.core.euler import angles_of
from oak_square.core.placement import rotation_of
from oak_square.core.scene import Asset

__all__ = ["AnglesPage", "BringPage"]

_ORDERS = ["".join(p) for p in permutations("xyz")]


class AnglesPage(QWidget):
    """Shows the rotation channel of what is aimed at as angles in an order, beside the quaternion; sets some."""

    wished = Signal(dict)  # `set` as a step says it; empty for none

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(section("its rotation, as angles about its own axes", self))
        self.order = QComboBox(self)
        self.order.setAccessibleName("Order of the angles")
        self.order.setToolTip("xyz: R = Rx Ry Rz")
        self.order.addItems(_ORDERS)
        self.order.activated.connect(lambda _: self._reorder())
        rows.addWidget(labelled("in the order", self.order, self))
        self.angles = [
            NumberEdit(f"Angle {a}", f"The angle about {a} that it shall have; others stay", self) for a in "xyz"
        ]
        for k, edit in enumerate(self.angles):
            edit.entered.connect(lambda value, k=k: self._typed(k, value))
        rows.addWidget(Triple(list(zip("xyz", self.angles, strict=True)), self))
        self.quaternion = QLabel(self)
        self.quaternion.setProperty("role", "soft")
        self.quaternion.setToolTip("The rotation channel as the file holds it: x, y, z, w")
        rows.addWidget(self.quaternion)
        self.note = soft("", self)
        rows.addWidget(self.note)
        self._set: dict[str, float] = {}
        self._asset: Asset | None = None
        self._nodes: tuple[int, ...] | None = None

    @property
    def told(self) -> dict[str, Any]:
        """What is set, as a step says it."""
        order = self.order.currentText()
        return {**({"order": order} if order != "xyz" else {}), **self._set} if self._set else {}

    def _typed(self, axis: int, value: float | None) -> None:
        self._set = {a: v for a, v in self._set.items() if a != "xyz"[axis]}
        if value is not None:
            self._set["xyz"[axis]] = value
        self._set = {a: self._set[a] for a in "xyz" if a in self._set}
        self.wished.emit(self.told)

    def _reorder(self) -> None:
        if self._set:
            self.wished.emit(self.told)
        else:
            self._show_present()

    def show_set(self, words: Mapping[str, Any], asset: Asset | None, nodes: tuple[int, ...] | None) -> None:
        """Match the page to a step's `set`, over what the angles are now."""
        self._set = {a: float(words[a]) for a in "xyz" if words.get(a) is not None}
        if words:
            with QSignalBlocker(self.order):
                self.order.setCurrentText(str(words.get("order", "xyz")))
        self._asset, self._nodes = asset, nodes
        for a, edit in zip("xyz", self.angles, strict=True):
            edit.show_text(f"{self._set[a]:g}" if a in self._set else "")
            edit.setEnabled(nodes is not None)
        self._show_present()

    def _show_present(self) -> None:
        """Write the angles as they are now under what is typed."""
        asset, nodes = self._asset, self._nodes
        one = asset is not None and nodes is not None and len(nodes) == 1
        present: Sequence[float] | None = None
        self.quaternion.setText("")
        if one and asset is not None and nodes is not None:
            named = asset.reading.rotation
            rotation = named.T @ rotation_of(asset.nodes[nodes[0]].placement.rotation) @ named
            present = angles_of(rotation, self.order.currentText())
            q = asset.nodes[nodes[0]].placement.rotation
            x, y, z = (named.T @ q[:3]).tolist()
            told = ", ".join(f"{v + 0.0:.6g}" for v in (*np.round([x, y, z, q[3]], 9).tolist(),))
            self.quaternion.setText(f"quaternion  {told}".replace("-", "−"))
        for k, edit in enumerate(self.angles):
            edit.setPlaceholderText("" if present is None else f"{round(present[k], 9) + 0.0:.6g}°".replace("-", "−"))
        why = "Choose parts or groups above: an asset as a whole has no rotation of its own." if nodes is None else ""
        self.note.setText(why or ("" if one else "Several: what is typed is set on each, the other angles stay."))
        self.note.setVisible(bool(self.note.text()))


class BringPage(QWidget):
    """Shows `bring` and `to` of a turn, and `square`; wishes for others."""

    wished = Signal(dict)  # a turn's words

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.ways = BringRows(self)
        self.ways.wished.connect(lambda start, end: self.wished.emit({"do": "turn", "bring": start, "to": end}))
        rows.addWidget(self.ways)
        rows.addWidget(section("or", self))
        self.square = Choices([("square", "square it up", "To the nearest right angles; an asset by its faces")], self)
        self.square.chosen.connect(lambda _: self.wished.emit({"do": "turn", "square": True}))
        rows.addWidget(self.square)

    def show_words(self, words: Mapping[str, Any], names: Mapping[str, Sequence[str]]) -> None:
        """Match the page to a turn's words."""
        self.ways.show_words(words if "bring" in words else {}, names)
        self.square.show_choice("square" if words.get("square") else None)
