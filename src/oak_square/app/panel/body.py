"""What the form of every stage is: it shows a step of its own, and wishes for one when it is changed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from typing import Any
from weakref import ref

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QBoxLayout, QWidget

from oak_square.app.panel.field_editors import FormContext
from oak_square.app.panel.step_form import StepForm
from oak_square.core.boxes import Box, asset_box, tree_box
from oak_square.core.errors import DataTrouble
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.steps.along import told_axes
from oak_square.steps.centre import common_box
from oak_square.steps.setting import Setting
from oak_square.steps.step import STEPS, Step

Array = NDArray[np.float64]
__all__ = ["Array", "Body", "box_of"]

_MOST_NAMES = 200  # nodes to choose one from


class Body(QWidget):
    """A stage's means. `words_wished` carries a step as the sheet would write it, without its scope."""

    words_wished = Signal(dict)
    point_wished = Signal(str, object)  # what a point is asked for in words, and what takes it: its words, the pick
    place_wished = Signal(str, object)  # the same, of a point that may lie on another asset
    narrowing_changed = Signal()  # another of its means is in front, one that may take no parts
    stage = ""
    by_hand: tuple[str, ...] = ()
    """The steps of this stage that it has means of its own for; any other has its form by itself."""
    shown = ShownUnit()
    """What lengths are shown and typed in."""
    nodes: tuple[int, ...] | None = None
    """The nodes of the lead asset that are aimed at; None where it is the asset as a whole."""
    several: bool = False
    """Whether what is aimed at is more than one thing."""
    names: Mapping[str, Sequence[str]] = {}
    """What has a name, by kind: `mark`, `datum`, `berth`, `asset` of the batch, and `part` of the lead asset."""
    datum: Callable[[str, Asset], Array] = staticmethod(lambda _name, _asset: np.eye(4))
    """Returns world from a datum of the sheet, shape (4, 4), working frame, as it is for an asset."""
    setting = Setting()
    """What a step of the sheet is told."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.forms: dict[str, StepForm] = {}
        self._asset_ref: ref[Asset] | None = None

    def add_form(self, do: str, rows: QBoxLayout) -> None:
        """Make the form that a kind of step has by itself, at the end of `rows`."""
        form = self.forms[do] = StepForm(STEPS[do], self)
        form.wished.connect(self.wish)
        form.point_wished.connect(self.point_wished)
        rows.addWidget(form)

    def add_forms(self, rows: QBoxLayout) -> None:
        """Make those of all steps of this stage that have no other means."""
        for do, kind in STEPS.items():
            if kind.stage == self.stage and do not in self.by_hand and do not in self.forms:
                self.add_form(do, rows)

    def show_forms(self, words: Mapping[str, Any], asset: Asset | None) -> None:
        """Match these to a step's words, or to none."""
        nodes = [] if asset is None else [node.name for node in asset.nodes[:_MOST_NAMES]]
        context = FormContext(shown=self.shown, names=self.names, nodes=nodes, of_nodes=self.nodes is not None)
        for form in self.forms.values():
            form.show_words(words, context)

    @property
    def sheet_unit_m(self) -> float:
        """What a number without a unit means on the sheet, metres."""
        return self.setting.unit

    @property
    def delivery_from_working(self) -> Array:
        """The (3, 3) rotation that shows points along the delivery axes."""
        return self.setting.working_from_delivery.T

    def keep_asset(self, asset: Asset | None) -> None:
        """Take note of the lead asset, which a closed batch lets go of all the same."""
        self._asset_ref = None if asset is None else ref(asset)

    @property
    def lead_asset(self) -> Asset | None:
        """The one that was shown last, while it is open."""
        return None if self._asset_ref is None else self._asset_ref()

    def axes_and_sides(self, asset: Asset | None, along: Any) -> tuple[Array, Array]:
        """Return the axes that words say, and the directions of width, height and depth, as unit columns, (3, 3).

        They are of what is aimed at, its last node leading; the delivery's where it has no such axes.
        """
        if asset is not None:
            with suppress(DataTrouble):
                return told_axes(asset, self.nodes[-1] if self.nodes else None, along, self.setting)
        return self.delivery_from_working.T, np.eye(3)

    def find_box(self, asset: Asset | None, along: Any = "world") -> Box | None:
        """Return the box of all that is aimed at in an asset, its sides along the axes that words say."""
        if asset is None:
            return None
        frame = None
        if along != "world":
            frame = np.eye(4)
            frame[:3, :3] = self.axes_and_sides(asset, along)[1].T
        if self.nodes and len(self.nodes) > 1:
            return common_box(asset, self.nodes, frame)
        return box_of(asset, self.nodes, frame)

    @property
    def makes_steps(self) -> bool:
        """Whether the means in front make steps, which are for some assets and have effects."""
        return True

    def asking(
        self, asks: str, take: Callable[[Mapping[str, Any]], None], *, elsewhere: bool = False
    ) -> Callable[[], None]:
        """Return what asks for a point, `elsewhere` on any asset; `take` is given how a step names it."""
        wished = self.place_wished if elsewhere else self.point_wished
        return lambda: wished.emit(asks, lambda at, _pick: take(at))

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front, where it has several."""

    @property
    def narrows(self) -> bool:
        """Whether the means in front can be for parts and groups."""
        return True

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to `step`, or to none; `asset` is the lead one before it. Sends no wish."""

    def wish(self, words: Mapping[str, Any]) -> None:
        """Ask for a step of these words; of no words, for none."""
        self.words_wished.emit(dict(words))


def box_of(asset: Asset, nodes: tuple[int, ...] | None, frame_from_world: Array | None = None) -> Box | None:
    """Return the box of an asset, or of the one node of it, with all below; None of several, which have several.

    It is along the working axes, or those of another frame.
    """
    if nodes is None:
        return asset_box(asset, frame_from_world)
    return tree_box(asset, nodes[0], frame_from_world) if len(nodes) == 1 else None
