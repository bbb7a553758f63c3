"""Pivot: where assets, parts and groups turn about."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtWidgets import QLabel, QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.box_picker import BoxPicker
from oak_square.app.panel.pivot_axes_page import PivotAxesPage
from oak_square.app.panel.pivot_point_page import PivotPointPage
from oak_square.app.widgets.entries import ShareEdit
from oak_square.app.widgets.fields import Choices, Fold, column, labelled, section
from oak_square.app.widgets.pages import Pages
from oak_square.core.boxes import EXTENTS
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import say
from oak_square.steps.step import Step

__all__ = ["PivotBody"]

_BASE = ["middle", "bottom", "middle"]
_MIDDLE = ["middle", "middle", "middle"]
_OF_NODES = ("origin", "parent", "children")
_PLACES = (
    ("base", "base", say("The middle of its box's bottom")),
    ("middle", "middle", say("The middle of its box")),
    ("mass", "mass", say("Its centre of mass; of an open surface, the centre of the surface")),
    ("mean", "mean", say("The mean of its vertices")),
    ("origin", "origin", say("Of parts and groups: 0, 0, 0")),
    ("parent", "parent", say("Of parts and groups: where the parent's pivot is")),
    ("children", "children", say("Of parts and groups: the mean of the pivots right below")),
    ("received", say("as received"), say("Where it was in its geometry, as the file had it")),
)
_BOXES = (
    ("", say("as usual"), say("A part's own geometry; a group's with all below it")),
    ("own", "own", say("Its own geometry alone")),
    ("tree", say("with all below"), say("All that hangs from it counts too")),
)
_STAY = {"move": [0, 0, 0]}


class PivotBody(Body):
    """To a box point with insets, to the origin, to coordinates; of the asset, its parts, its groups or all."""

    stage = "pivot"
    by_hand = ("pivot",)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section(say("to its"), self))
        self.places = Choices(_PLACES, self, per_row=4)
        self.places.chosen.connect(self._place_chosen)
        rows.addWidget(self.places)
        self.pages = Pages(
            [
                ("box", "box point", say("A corner, edge middle, side middle or the centre of its box")),
                ("point", "point", say("A picked point, a mark, a datum, another's pivot; typed; or across the asset")),
                ("axes", "axes", say("Turn its axes where it is")),
            ],
            self,
        )
        rows.addWidget(self.pages)
        self._fill_box(self.pages.add("box"))
        self.point = PivotPointPage(self)
        self.point.taken.connect(self._take_point)
        self.point.pick_wished.connect(self.point_wished)
        column(self.pages.add("point")).addWidget(self.point)
        self._fill_axes(self.pages.add("axes"))
        self._at: Any = "base"
        self._axes: Any = None
        self._box: dict[str, str] = {}
        self._step_shown: Step | None = None
        self._last: Step | None = None

    def _fill_box(self, page: QWidget) -> None:
        rows = column(page, 4)
        self.picker = BoxPicker(page)
        self.picker.point_wished.connect(self._take_box_point)
        rows.addWidget(self.picker)
        self.insets: list[tuple[ShareEdit, QWidget]] = []
        for axis in range(3):
            edit = ShareEdit(
                say("Inset along the {extent}", extent=term(EXTENTS[axis])),
                say("How far inward from that side: 4 cm, or a share of the extent: 25 %"),
                page,
                signed=True,
            )
            edit.entered.connect(lambda text, k=axis: self._set_in(k, text))
            row = labelled("", edit, page)
            self.insets.append((edit, row))
            rows.addWidget(row)
        self.box = Fold("", say("What counts to the box of a part or group, and along which axes it is measured"), page)
        rows.addWidget(self.box)
        inner = column(self.box.inner, 4)
        self.whose = Choices(_BOXES, self.box.inner)
        self.whose.chosen.connect(lambda key: self._take_box_choice("box", key))
        inner.addWidget(labelled(say("its box is"), self.whose, self.box.inner))
        self.box_axes = Choices(
            [
                ("", say("the world's"), say("The box along the world's axes")),
                ("own", say("its own"), say("The box along the part's own axes: of one that is modelled tilted")),
            ],
            self.box.inner,
        )
        self.box_axes.chosen.connect(lambda key: self._take_box_choice("box-axes", key))
        inner.addWidget(labelled(say("along axes"), self.box_axes, self.box.inner))

    def _fill_axes(self, page: QWidget) -> None:
        rows = column(page)
        self.axes = PivotAxesPage(page)
        self.axes.wished.connect(self._axes_wished)
        self.axes.pick_wished.connect(self.point_wished)
        rows.addWidget(self.axes)

    # What is chosen

    def _take_point(self, at: Any) -> None:
        """Take a point as a step says it; of none, there is no step."""
        if at is None and self._axes is None:
            self.wish({})
        else:
            self._at = _STAY if at is None else at
            self._wish_for_pivot()

    def _axes_wished(self, axes: Any) -> None:
        """Turn its axes; where no step says yet where it goes, it stays."""
        if self._step_shown is None or self._step_shown.do != "pivot":
            self._at = _STAY
        self._axes = None if axes == "keep" else axes
        self._wish_for_pivot()

    def _place_chosen(self, key: str) -> None:
        self._at = key
        self._wish_for_pivot()

    def _take_box_choice(self, key: str, value: str) -> None:
        self._box = {**{k: v for k, v in self._box.items() if k != key}, **({key: value} if value else {})}
        self._say_box()
        if self._step_shown is not None and self._step_shown.do == "pivot":
            self._wish_for_pivot()

    @property
    def _find_box_point(self) -> list[str | float] | None:
        """The box point that it goes to, if it goes to one."""
        if isinstance(self._at, dict) and "point" in self._at:
            return list(self._at["point"])
        return list(_MIDDLE if self._at == "middle" else _BASE) if self._at in ("base", "middle") else None

    @property
    def _read_inset(self) -> dict[str, str]:
        inset = self._at.get("inset", {}) if isinstance(self._at, dict) else {}
        return {side: str(v) for side, v in inset.items()}

    def _take_box_point(self, point: list[str | float]) -> None:
        self._to_spot(point, {side: v for side, v in self._read_inset.items() if side in point})

    def _set_in(self, axis: int, text: str) -> None:
        point = self._find_box_point or list(_BASE)
        side = str(point[axis])
        inset = {s: v for s, v in self._read_inset.items() if s != side}
        self._to_spot(point, {**inset, **({side: text} if text else {})})

    def _to_spot(self, point: list[str | float], inset: Mapping[str, str]) -> None:
        if inset or point not in (_BASE, _MIDDLE):
            self._at = {"point": list(point), **({"inset": dict(inset)} if inset else {})}
        else:
            self._at = "base" if point == _BASE else "middle"
        self._wish_for_pivot()

    def _wish_for_pivot(self) -> None:
        axes = {} if self._axes is None else {"axes": self._axes}
        at = dict(self._at) if isinstance(self._at, Mapping) else self._at
        self.wish({"do": "pivot", **axes, "at": at, **self._box})

    # Showing

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front."""
        self.pages.open(page)

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a pivot step."""
        is_pivot = step is not None and step.do == "pivot"
        words = step.words() if is_pivot and step is not None else {}
        had = self._step_shown is not None
        if step is not self._last:
            # What is half typed stays for as long as the step is the same.
            self._last, self.point.is_half_typed = step, False
        self._step_shown, self._axes = (step if is_pivot else None), words.get("axes")
        self._axes = None if self._axes == "keep" else self._axes
        self._at = words.get("at", "base")
        if is_pivot or had:
            # What was chosen before there is a step stays chosen for it.
            self._box = {k: words[k] for k in ("box", "box-axes") if words.get(k) not in (None, "world")}
        at = self._at if is_pivot else None
        if is_pivot and step is not None:
            stays = at == _STAY and self._axes is not None
            is_point = isinstance(at, dict) and "point" not in at
            self.pages.open_for(step, "axes" if stays else "point" if is_point else "box")
        of_nodes = self.nodes is not None
        self.places.show_choice(at if isinstance(at, str) else None)
        for key, word, _ in _PLACES:
            self.places.show_word(key, word, enabled=of_nodes or key not in _OF_NODES)
        self.point.show_at(at, self.names, self.shown, asset, self.nodes, self.delivery_from_working)
        self.axes.show_axes(self._axes if is_pivot else None, self.names, enabled=of_nodes)
        point = self._find_box_point if is_pivot else None
        self.picker.show_point(point if self.pages.tabs.choice == "box" else None)
        self._show_insets(point)
        self._say_box()

    def _say_box(self) -> None:
        self.box.setVisible(self.nodes is not None or bool(self._box))
        whose, axes = self._box.get("box", ""), self._box.get("box-axes", "")
        self.whose.show_choice(whose)
        self.box_axes.show_choice(axes)
        words = {"": say("its box"), "own": say("the box of its own geometry"), "tree": say("the box with all below")}[
            whose
        ]
        self.box.say(
            say("{box}, along its own axes", box=words) if axes else say("{box}, along axes of the world", box=words)
        )

    def _show_insets(self, point: list[str | float] | None) -> None:
        for axis, (edit, row) in enumerate(self.insets):
            side = None if point is None else point[axis]
            row.setVisible(isinstance(side, str) and side != "middle")
            label = row.findChild(QLabel)
            if label is not None:
                label.setText(say("from the {side}", side=term(str(side or ""))))
            edit.show_share(self._read_inset.get(str(side), ""), self.shown)
