"""The page of the Pivot form that takes a point: picked, by name, typed, moved on, across, or made of several picks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from oak_square.app.panel.body import Array
from oak_square.app.panel.frame_rows import AlongRow
from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.entries import LengthEdit, Triple
from oak_square.app.widgets.fields import Choices, Fold, column, push_button, section, soft
from oak_square.app.widgets.weakly import Weakly
from oak_square.core.lengths import shortest
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.words import one_or_many, say

__all__ = ["PivotPointPage"]

_ALL_THREE = say("several pivots stand in several places, so x, y and z are all needed")
_ACROSS = (
    ("width", say("left / right"), say("To the other side: mirrored across the middle of the asset's width")),
    ("height", say("top / bottom"), say("Mirrored across the middle of the asset's height")),
    ("depth", say("front / back"), say("Mirrored across the middle of the asset's depth")),
)
_SEVERAL = (
    ("mean", say("mean of picks"), say("Click several points, one after the other: the pivot goes to their mean")),
    (
        "circle",
        say("circle of three"),
        say("Click three points of a rim: the pivot goes to the centre of their circle"),
    ),
)
_NAMED = ("mark", "datum", "part")


class PivotPointPage(QWidget):
    """Shows a pivot step's `at` where it is a point; `taken` carries another, None where nothing is typed any more."""

    _asset = Weakly[Asset]()

    taken = Signal(object)
    pick_wished = Signal(str, object)  # what is asked for, and what takes it: its words, the pick

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section(say("to a corner, edge, face or circle; or by name"), self))
        self.point = PointRow(
            say("Pick a point in the view: it is found again on every asset it applies to"), _NAMED, self
        )
        self.point.pick_wished.connect(
            lambda: self.pick_wished.emit(say("Pivot: click the point it goes to"), self._take_pick)
        )
        self.point.chosen.connect(self.taken)
        rows.addWidget(self.point)
        self._fill_axes(rows)
        rows.addWidget(section(say("or to x, y, z"), self))
        self.frame = Choices(
            [("world", say("of the world"), say("Along the delivery axes, from the origin")),
             ("part", say("of each part itself"), say("In each part's own frame, its scale included"))], self,
        )  # fmt: skip
        self.frame.chosen.connect(self._tell_in_frame)
        self.xyz = [LengthEdit(say("Pivot {a}", a=a), say("{a} of the new pivot", a=a), self) for a in "xyz"]
        for k, edit in enumerate(self.xyz):
            edit.entered.connect(lambda text, k=k: self._type_coordinate(k, text))
        rows.addWidget(Triple(list(zip("xyz", self.xyz, strict=True)), self))
        rows.addWidget(self.frame)
        self._fill_more(rows)
        self._xyz = ["", "", ""]
        self._move = ["", "", ""]
        self._now: list[str | None] = [None, None, None]
        self._many: list[tuple[Any, Array]] = []
        self.at: Any = None
        self._delivery: Array = np.eye(3)
        self._unit_m = 1.0
        self.is_half_typed = False
        """Whether some of three coordinates are typed, and the others are not known."""

    def _fill_axes(self, rows: QVBoxLayout) -> None:
        line = QHBoxLayout()
        line.setSpacing(14)
        self.only: dict[str, QCheckBox] = {}
        for axis in "xyz":
            box = QCheckBox(axis, self)
            box.setChecked(True)
            box.setToolTip(say("Unticked, a pick leaves the pivot's {axis} as it is", axis=axis))
            self.only[axis] = box
            line.addWidget(box)
        line.addStretch(1)
        rows.addWidget(section(say("taken from a pick"), self))
        rows.addLayout(line)
        self.why = soft("", self)
        self.why.hide()
        rows.addWidget(self.why)

    def _fill_more(self, rows: QVBoxLayout) -> None:
        self.more = Fold(say("more ways"), say("Of several picks, moved on, or to the other side of the asset"), self)
        rows.addWidget(self.more)
        inner = column(self.more.inner)
        self.several = Choices(_SEVERAL, self.more.inner)
        self.several.chosen.connect(self._begin_several)
        inner.addWidget(self.several)
        self.many_said = soft("", self.more.inner)
        self.many_said.hide()
        inner.addWidget(self.many_said)
        self.fewer = push_button(say("Forget these picks"), say("Begin the picks anew"), self.more.inner)
        self.fewer.clicked.connect(lambda _=False: self._forget_several())
        self.fewer.hide()
        inner.addWidget(self.fewer)
        inner.addWidget(section(say("or on from where it is, by"), self.more.inner))
        self.move_ = [
            LengthEdit(say("Move {a}", a=a), say("How far along {a}; the geometry stays", a=a), self.more.inner)
            for a in "xyz"
        ]
        for k, edit in enumerate(self.move_):
            edit.entered.connect(lambda text, k=k: self._type_move(k, text))
        inner.addWidget(Triple(list(zip("xyz", self.move_, strict=True)), self.more.inner))
        self.along = AlongRow(self.more.inner)
        self.along.chosen.connect(lambda _: self._tell_move())
        inner.addWidget(self.along)
        inner.addWidget(section(say("or to the other side of the asset"), self.more.inner))
        self.across = Choices(_ACROSS, self.more.inner)
        self.across.chosen.connect(lambda extent: self.taken.emit({"across": extent}))
        inner.addWidget(self.across)

    # Picks

    def _take_pick(self, at: Mapping[str, Any], pick: Any = None) -> None:
        """Take a picked point: as it is found anew, or on some axes alone by its numbers."""
        self.why.hide()
        kept = [axis for axis, box in self.only.items() if not box.isChecked()]
        if not kept or pick is None or self._asset is None:
            self.taken.emit(dict(at))
            return
        there = self._find_coordinates(pick)
        if any(now is None for now in self._now):
            self.why.setText(say("On some axes alone a pick is for one pivot: choose one part or group."))
            self.why.show()
            return
        given = [now if a in kept else f"{v!r} m" for a, v, now in zip("xyz", there, self._now, strict=True)]
        self.taken.emit({"xyz": given})

    def _find_coordinates(self, pick: Any) -> list[float]:
        """Return where a pick is, along the delivery axes, metres."""
        assert self._asset is not None
        point = self._delivery @ pick.anchor.world(self._asset)
        return [float(f"{v:.12g}") + 0.0 for v in point.tolist()]

    def _begin_several(self, key: str) -> None:
        self._many = []
        self._ask_next(key)

    def _ask_next(self, key: str) -> None:
        asks = {"mean": say("Mean of picks: click a point"), "circle": say("Circle: click three points of its rim")}[
            key
        ]
        count = say(" ({count} so far, Esc ends)", count=len(self._many)) if self._many else ""
        self.pick_wished.emit(f"{asks}{count}", lambda _at, pick: self._one_more(key, pick))

    def _one_more(self, key: str, pick: Any) -> None:
        if self._asset is None:
            return
        self._many.append((pick, np.array(self._find_coordinates(pick))))
        self._say_several()
        if key == "circle":
            if len(self._many) < 3:
                self._ask_next(key)
                return
            self.taken.emit({"circle": [[f"{v!r} m" for v in p.tolist()] for _, p in self._many]})
            return
        self.taken.emit(self._make_mean_words())
        self._ask_next(key)

    def _make_mean_words(self) -> dict[str, Any]:
        """Return the mean of the picks: by the numbers of the vertices where all are vertices of one part."""
        vertices = _vertices_of([pick for pick, _ in self._many], self._asset)
        if vertices is not None:
            return {"vertices": vertices}
        mean = np.mean([p for _, p in self._many], axis=0)
        return {"xyz": [f"{shortest(v)} m" for v in mean.tolist()]}

    def _forget_several(self) -> None:
        self._many = []
        self._say_several()

    def _say_several(self) -> None:
        self.many_said.setText(one_or_many(len(self._many), "{count} point picked.", "{count} points picked."))
        self.many_said.setVisible(bool(self._many))
        self.fewer.setVisible(bool(self._many))
        self.more.open()

    # Numbers

    def _tell_in_frame(self, frame: str) -> None:
        if any(self._xyz):
            self._tell_xyz(frame)

    def _type_coordinate(self, axis: int, text: str) -> None:
        self._xyz[axis] = text
        in_part = self.frame.choice == "part"
        whole = (
            all(self._xyz) if in_part else all(v or n is not None for v, n in zip(self._xyz, self._now, strict=True))
        )
        self.is_half_typed = any(self._xyz) and not whole
        for edit in self.xyz:
            edit.complain(_ALL_THREE if self.is_half_typed else "")
        if not self.is_half_typed:
            self._tell_xyz(self.frame.choice or "world")

    def _tell_xyz(self, frame: str) -> None:
        if not any(self._xyz):
            self.taken.emit(None)
            return
        # What is not typed stays as it is.
        given = [v or ("0" if frame == "part" else now) for v, now in zip(self._xyz, self._now, strict=True)]
        self.taken.emit({"xyz": given, **({"in": "part"} if frame == "part" else {})})

    def _type_move(self, axis: int, text: str) -> None:
        self._move[axis] = text
        self._tell_move()

    def _tell_move(self) -> None:
        if any(self._move):
            self.taken.emit({"move": [v or 0 for v in self._move], **self.along.told()})
        elif isinstance(self.at, dict) and "move" in self.at:
            self.taken.emit(None)

    # Showing

    def show_at(
        self, at: Any, names: Mapping[str, Sequence[str]], shown: ShownUnit, asset: Asset | None,
        nodes: tuple[int, ...] | None, delivery_from_working: Array,
    ) -> None:  # fmt: skip
        """Match the page to a step's `at`, None for none, over where the pivot is now."""
        self.at, self._asset, self._delivery = at, asset, delivery_from_working
        told = at if isinstance(at, Mapping) else {}
        if not self.is_half_typed:
            self._xyz = [str(v) for v in told.get("xyz", ("", "", ""))]
            self.frame.show_choice("part" if told.get("in") == "part" else "world")
        self.frame.show_word("part", say("of each part itself"), enabled=nodes is not None)
        self._show_present(shown, asset, nodes)
        self.point.show_names(names, told if "xyz" not in told else {})
        self._move = [str(v) if v else "" for v in told.get("move", ("", "", ""))]
        for edit, text in zip(self.move_, self._move, strict=True):
            edit.show_length(text, 0.0, shown)
        along = told.get("along") or "world"
        self.along.show_along(along if told else self.along.along, names, of_nodes=nodes is not None)
        self.across.show_choice(told.get("across"))
        self.several.show_choice("circle" if "circle" in told else "mean" if "vertices" in told else None)
        if "vertices" in told:
            self.many_said.setText(
                one_or_many(len(told["vertices"]), "The mean of {count} vertex.", "The mean of {count} vertices.")
            )
        elif "circle" in told:
            points = "; ".join(", ".join(str(v) for v in p) for p in told["circle"])
            self.many_said.setText(say("The centre of the circle through {points}.", points=points))
        told_many = not {"vertices", "circle"}.isdisjoint(told)
        self.many_said.setVisible(told_many or bool(self._many))
        if told_many or "across" in told or any(self._move):
            self.more.open()

    def _show_present(self, shown: ShownUnit, asset: Asset | None, nodes: tuple[int, ...] | None) -> None:
        """Show where the pivot is now in the fields that nothing is typed into."""
        point: Array | None = None
        if nodes is None:
            point = np.zeros(3)
        elif asset is not None and len(nodes) == 1:
            point = asset.worlds[nodes[0]][:3, 3]
        now = [None] * 3 if point is None else (self._delivery @ point).tolist()
        self._now = [None if v is None else f"{shortest(v)} m" for v in now]
        alike = shown if point is None else shown.fixed_for(float(np.abs(point).max()))
        in_part = self.frame.choice == "part"
        for edit, text, present in zip(self.xyz, self._xyz, now, strict=True):
            edit.show_length(text, None if in_part else present, shown, as_shown=alike)


def _vertices_of(picks: Sequence[Any], asset: Asset | None) -> list[int] | None:
    """Return the numbers of picked vertices of one part; None where they are anything else."""
    if asset is None or any(p.kind != "vertex" for p in picks):
        return None
    nodes = {p.anchor.index(asset) for p in picks}
    if len(nodes) != 1:
        return None
    node = nodes.pop()
    if asset.nodes[node].mesh is None:
        return None
    points = np.asarray(asset.mesh_of(node).points, dtype=np.float64)
    matrix = asset.world_from_mesh(node)
    world = points @ matrix[:3, :3].T + matrix[:3, 3]
    return [int(np.argmin(((world - p.anchor.world(asset)) ** 2).sum(axis=1))) for p in picks]
