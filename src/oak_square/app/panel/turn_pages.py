"""Pages of the Turn form: angles of the rotation channel one by one; one direction brought onto another."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import permutations
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QComboBox, QLabel, QWidget

from oak_square.app.panel.bring_rows import BringRows
from oak_square.app.panel.told_in import ToldIn
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column, labelled, section, soft
from oak_square.app.widgets.weakly import Weakly
from oak_square.core.euler import angles_of, rotation_by
from oak_square.core.node_axes import own_axes
from oak_square.core.placement import rotation_of
from oak_square.core.scene import Asset
from oak_square.core.words import number, numbers_in_a_row, say

__all__ = ["AnglesPage", "BringPage"]

Array = NDArray[np.float64]
_ORDERS = ["".join(p) for p in permutations("xyz")]


class AnglesPage(QWidget):
    """Shows the rotation channel of what is aimed at as angles in an order, beside the quaternion; sets some."""

    _asset = Weakly[Asset]()

    wished = Signal(dict)  # `set` as a step says it; empty for none
    turn_wished = Signal(list)  # degrees about the delivery axes that bring it to the angles typed in another frame

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(section(say("its rotation, as angles"), self))
        tip = say(
            "Whose axes the angles are told against: its own rotation channel, or the world, another part, a datum"
        )
        self.told_in = ToldIn(say("Angles in"), tip, say("its channel"), self, more=[(say("the world"), "world")])
        self.told_in.activated.connect(lambda _: self._tell_order_anew())
        rows.addWidget(labelled(say("told in"), self.told_in, self))
        self.order = QComboBox(self)
        self.order.setAccessibleName(say("Order of the angles"))
        self.order.setToolTip(say("xyz: R = Rx Ry Rz"))
        self.order.addItems(_ORDERS)
        self.order.activated.connect(lambda _: self._change_order())
        rows.addWidget(labelled(say("in the order"), self.order, self))
        self.angles = [
            NumberEdit(say("Angle {a}", a=a), say("The angle about {a} that it shall have; others stay", a=a), self)
            for a in "xyz"
        ]
        for k, edit in enumerate(self.angles):
            edit.entered.connect(lambda value, k=k: self._type_angle(k, value))
        rows.addWidget(Triple(list(zip("xyz", self.angles, strict=True)), self))
        self.quaternion = QLabel(self)
        self.quaternion.setProperty("role", "soft")
        self.quaternion.setToolTip(say("The rotation channel as the file holds it: x, y, z, w"))
        rows.addWidget(self.quaternion)
        self.note = soft("", self)
        rows.addWidget(self.note)
        self._set: dict[str, float] = {}
        self._nodes: tuple[int, ...] | None = None
        self._typed_in: dict[int, float] = {}
        self._delivery_from_working: Array = np.eye(3)
        self._names: Mapping[str, Sequence[str]] = {}
        self._datum: Callable[[str, Asset], Array] = lambda _name, _asset: np.eye(4)

    @property
    def is_turning(self) -> bool:
        """Whether angles of another frame are typed: the turn that is tried is told here."""
        return bool(self._typed_in)

    def _tell_order_anew(self) -> None:
        self._typed_in = {}
        self._show_present()

    def _named_axes(self, asset: Asset, node: int) -> tuple[Array, Array]:
        """Return the axes that angles are told against and the node's own, as named columns, shape (3, 3), working."""
        named = asset.reading.rotation
        own = own_axes(asset, node) @ named
        if self.told_in.key == "world":
            return self._delivery_from_working.T, own
        frame = self.told_in.frame(asset, self._datum)[:3, :3]
        is_node = self.told_in.key[0] == "node"
        return (own_axes(asset, self.told_in.key[1]) @ named if is_node else frame), own

    def _turn_to(self) -> None:
        """Wish for the turn that brings the node to the angles typed, the others as they are."""
        if self._asset is None or self._nodes is None or len(self._nodes) != 1:
            return
        axes, own = self._named_axes(self._asset, self._nodes[0])
        order = self.order.currentText()
        angles = list(angles_of(axes.T @ own, order))
        for k, value in self._typed_in.items():
            angles[k] = value
        turn = axes @ rotation_by(angles, order) @ own.T
        along = self._delivery_from_working
        by = angles_of(along @ turn @ along.T, "zyx")
        self.turn_wished.emit([float(f"{v:.12g}") + 0.0 for v in by] if self._typed_in else [])

    @property
    def told(self) -> dict[str, Any]:
        """What is set, as a step says it."""
        order = self.order.currentText()
        return {**({"order": order} if order != "xyz" else {}), **self._set} if self._set else {}

    def _type_angle(self, axis: int, value: float | None) -> None:
        if self.told_in.key is not None:
            self._typed_in = {k: v for k, v in self._typed_in.items() if k != axis}
            self._typed_in |= {} if value is None else {axis: value}
            self._turn_to()
            return
        self._set = {a: v for a, v in self._set.items() if a != "xyz"[axis]}
        if value is not None:
            self._set["xyz"[axis]] = value
        self._set = {a: self._set[a] for a in "xyz" if a in self._set}
        self.wished.emit(self.told)

    def _change_order(self) -> None:
        if self._typed_in:
            self._turn_to()
        elif self._set:
            self.wished.emit(self.told)
        else:
            self._show_present()

    def show_frames(
        self, names: Mapping[str, Sequence[str]], datum: Callable[[str, Asset], Array], delivery_from_working: Array
    ) -> None:
        """Take note of what angles can be told in."""
        self._names, self._datum, self._delivery_from_working = names, datum, delivery_from_working

    def show_set(
        self, words: Mapping[str, Any], asset: Asset | None, nodes: tuple[int, ...] | None, *, turns: bool = False
    ) -> None:
        """Match the page to a step's `set`, over what the angles are now; `turns` where a turn by degrees is tried."""
        self._typed_in = self._typed_in if turns and nodes == self._nodes else {}
        self.told_in.offer(asset, nodes, self._names)
        self._set = {a: float(words[a]) for a in "xyz" if words.get(a) is not None}
        if words:
            with QSignalBlocker(self.order):
                self.order.setCurrentText(str(words.get("order", "xyz")))
        self._asset, self._nodes = asset, nodes
        for k, (a, edit) in enumerate(zip("xyz", self.angles, strict=True)):
            value = self._set.get(a) if self.told_in.key is None else self._typed_in.get(k)
            edit.show_text("" if value is None else f"{value:g}")
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
            if self.told_in.key is not None:
                axes, own = self._named_axes(asset, nodes[0])
                present = angles_of(axes.T @ own, self.order.currentText())
            q = asset.nodes[nodes[0]].placement.rotation
            x, y, z = (named.T @ q[:3]).tolist()
            told = numbers_in_a_row(number(f"{v + 0.0:.6g}") for v in (*np.round([x, y, z, q[3]], 9).tolist(),))
            self.quaternion.setText(say("quaternion  {told}", told=told).replace("-", "−"))
        for k, edit in enumerate(self.angles):
            edit.setPlaceholderText(
                "" if present is None else number(f"{round(present[k], 9) + 0.0:.6g}°").replace("-", "−")
            )
        why = (
            say("Choose parts or groups above: an asset as a whole has no rotation of its own.")
            if nodes is None
            else ""
        )
        self.note.setText(why or ("" if one else say("Several: what is typed is set on each, the other angles stay.")))
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
        self.square = Choices(
            [("square", say("square it up"), say("To the nearest right angles; an asset by its faces"))], self
        )
        self.square.chosen.connect(lambda _: self.wished.emit({"do": "turn", "square": True}))
        rows.addWidget(self.square)

    def show_words(self, words: Mapping[str, Any], names: Mapping[str, Sequence[str]]) -> None:
        """Match the page to a turn's words."""
        self.ways.show_words(words if "bring" in words else {}, names)
        self.square.show_choice("square" if words.get("square") else None)
