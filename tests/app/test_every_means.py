"""What a sheet can say, the stages can: a kept step is shown whole when opened, and survives any edit of the rest."""

from __future__ import annotations

from contextlib import suppress

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLabel, QLineEdit

from oak_square.core.boxes import node_box
from oak_square.core.frames import axis_turn
from oak_square.sheet.model import Frame, Mark
from oak_square.steps.step import STEPS
from tests.app.test_aim import draft, in_hierarchy
from tests.app.test_entries import typed

PART = {"parts": ["leaf"], "for": ["gate_leaf.glb"]}
WHOLE = {"for": ["gate_leaf.glb"]}


@pytest.fixture
def gate(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    sheet = hand.session.document.sheet
    frame = Frame.model_validate({"at": [0, 1, 0], "turn": [0, 30, 0]})
    mark = Mark.model_validate({"on": "leaf", "kind": "vertex", "where": [0, 0, 0]})
    hand.session.sheet.do("name", hand.session.document.with_sheet(
        sheet.model_copy(update={"datums": {"sill": frame}, "marks": {"toe": mark, "tip": mark}})))  # fmt: skip
    hand.settle()
    return hand


def open_kept(hand, words):
    hand.session.drafts.try_step(STEPS[words["do"]].model_validate(words))
    hand.session.drafts.keep()
    hand.settle()
    hand.session.drafts.open_step(0)
    hand.settle()


def seen(hand):
    """All that the panel's controls say at this moment: texts, choices that hold, ticks, fields."""
    said = []
    for widget in hand.window.panel.area.widget().findChildren(QLabel):
        said += [widget.text()] if widget.isVisible() else []
    for widget in hand.window.panel.findChildren(QLineEdit):
        said += [widget.text()] if widget.isVisible() else []
    for widget in hand.window.panel.findChildren(QComboBox):
        said += [widget.currentText()] if widget.isVisible() else []
    for widget in hand.window.panel.findChildren(QAbstractButton):
        holds = widget.isChecked() or widget.property("role") == "fold"
        said += [widget.text()] if widget.isVisible() and holds else []
    return "\n".join(said)


def field(name):
    """A field of the panel that is in sight, by its accessible name."""

    def find(hand):
        fields = hand.window.panel.findChildren(QLineEdit)
        return next(f for f in fields if f.accessibleName() == name and f.isVisible())

    return find


def button(word):
    def find(hand):
        buttons = hand.window.panel.findChildren(QAbstractButton)
        return next(b for b in buttons if b.text() == word and b.isVisible() and b.isEnabled())

    return find


def press(word):
    return lambda hand: hand.click(button(word)(hand), QPoint(8, 8))


def enter(name, text):
    return lambda hand: typed(hand, field(name)(hand), text)


BATTERY = [
    ({"do": "unit", "reads": 0.0254, **WHOLE}, ["0.0254 m"], press("millimetre"), {"reads": "mm"}),
    ({"do": "size", "width": "2 m", "depth": "10 cm", "about": {"mark": "toe"}, "along": {"datum": "sill"}, **WHOLE},
     ["2 m", "10 cm", "mark toe stays", "datum sill"], enter("Height", "3 m"), {"height": "3 m"}),
    ({"do": "size", "height": "2 m", "keep": "volume", "about": {"xyz": [1, 2, 3]}, **WHOLE},
     ["2 m", "volume kept", "1, 2, 3 stays"], enter("Height", "4 m"), {"height": "4 m"}),
    ({"do": "size", "longest": "3 m", "about": "origin", "together": True, **WHOLE}, ["3 m", "origin stays", "as one"],
     enter("Longest side", "5 m"), {"longest": "5 m"}),
    ({"do": "size", "diagonal": "3 m", "about": {"part": "leaf"}, **WHOLE}, ["3 m", "the pivot of leaf stays"],
     enter("Diagonal", "5 m"), {"diagonal": "5 m"}),
    ({"do": "size", "factor": [1.0, 2.0, 1.5], "along": "own", "about": "common", **PART},
     ["2", "1.5", "common stays", "its own axes"], enter("Factor along x", "3"), {"factor": [3.0, 2.0, 1.5]}),
    ({"do": "size", "match": "milepost", "along": "height", "about": "middle", **WHOLE},
     ["milepost", "height", "middle stays"], press("depth"), {"along": "depth"}),
    ({"do": "size", "between": [{"mark": "toe"}, [1, 2, 3]], "length": "2 m", "about": "pivot", **WHOLE},
     ["mark toe", "at 1, 2, 3", "2 m", "its pivot stays"], enter("Distance", "4 m"), {"length": "4 m"}),
    ({"do": "turn", "by": [0.0, 30.0, 0.0], "along": {"datum": "sill"}, "about": {"datum": "sill"}, "together": True,
      **WHOLE}, ["30", "datum sill", "as one"], enter("Degrees about y", "40"), {"by": [0.0, 40.0, 0.0]}),
    ({"do": "turn", "bring": [0.0, 1.0, 1.0], "to": "+X", "about": {"mark": "toe"}, **WHOLE}, ["1", "+X", "mark toe"],
     press("right"), {"to": "right"}),
    ({"do": "turn", "bring": "-Z", "to": [1.0, 0.0, 0.5], "about": "base", **PART}, ["−Z", "0.5", "base"],
     enter("To x", "2"), {"to": [2.0, 0.0, 0.5]}),
    ({"do": "turn", "square": True, "about": "middle", **WHOLE}, ["square it up", "middle"], press("base"),
     {"about": "base"}),
    ({"do": "turn", "set": {"order": "zyx", "y": 12.0}, **PART}, ["zyx", "12"], enter("Angle x", "5"),
     {"set": {"order": "zyx", "x": 5.0, "y": 12.0}}),
    ({"do": "pivot", "at": {"point": ["left", "bottom", 0.25], "inset": {"left": "4 cm"}}, "box": "tree",
      "box-axes": "own", "axes": {"half": "y"}, **PART}, ["4 cm", "the box with all below, along its own axes"],
     enter("Inset along the width", "5 cm"), {"at": {"point": ["left", "bottom", 0.25], "inset": {"left": "5 cm"}}}),
    ({"do": "pivot", "at": {"xyz": [0.1, 0.2, 0.3], "in": "part"}, "axes": {"turn": [0.0, 9.0, 0.0], "along": "own"},
      **PART}, ["0.1", "0.3", "of each part itself"], enter("Pivot y", "0.5"),
     {"at": {"xyz": ["0.1", "0.5 m", "0.3"], "in": "part"}}),
    ({"do": "pivot", "at": {"circle": [[0, 0, 0], [1, 0, 0], [0, 1, 0]]}, "axes": "square", **PART},
     ["circle of three", "0, 0, 0; 1, 0, 0; 0, 1, 0"], press("left / right"), {"at": {"across": "width"}}),
    ({"do": "pivot", "at": {"vertices": [0, 2]}, **PART}, ["mean of picks", "The mean of 2 vertices"],
     press("left / right"), {"at": {"across": "width"}}),
    ({"do": "pivot", "at": {"move": ["3 cm", 0, 0], "along": {"datum": "sill"}}, "axes": {"datum": "sill"}, **PART},
     ["3 cm", "datum sill"], enter("Move y", "4 cm"),
     {"at": {"move": ["3 cm", "4 cm", 0], "along": {"datum": "sill"}}}),
    ({"do": "place", "at": {"onto": "milepost", "point": ["left", "top", "front"]}, "by": ["left", "bottom", "front"],
      "axes": ["x", "y"], **WHOLE}, ["asset milepost", "left top front", "left bottom front"], press("middle"),
     {"by": "middle"}),
    ({"do": "place", "at": {"onto": "milepost", "point": {"mark": "toe"}}, "by": {"mark": "tip"}, **WHOLE},
     ["asset milepost", "mark toe", "mark tip"], press("Bottom onto the ground"), {"ground": True}),
    ({"do": "place", "at": {"onto": {"mark": "toe"}}, "as-one": True, "shift": [0, "2 cm", 0],
      "along": {"datum": "sill"}, **PART}, ["mark toe", "All together, as one", "2 cm", "datum sill"],
     enter("Shift x", "3 cm"), {"shift": ["3 cm", "2 cm", 0]}),
    ({"do": "place", "away": "2 m", "from": {"datum": "sill"}, "axes": ["x"], "ground": True, **WHOLE},
     ["2 m", "datum sill", "Bottom onto the ground"], enter("Away", "-3 m"), {"away": "-3 m"}),
    ({"do": "place", "away": "2 m", "from": "base", "by": "pivot", "together": True, **WHOLE},
     ["2 m", "base", "pivot", "as one"],
     enter("Away", "3 m"), {"away": "3 m"}),
    ({"do": "bake", "what": ["location"], **PART}, ["Location"], press("Scale"), {"what": ["scale", "location"]}),
    ({"do": "reset", "what": ["scale"], **WHOLE}, ["reset", "Scale"], press("Location"),
     {"what": ["scale", "location"]}),
    ({"do": "parent", "to": "leaf", "parts": ["paddle"], **WHOLE}, ["leaf"], None, {}),
    ({"do": "split", "into": "pieces", **PART}, ["Take apart in pieces"], None, {}),
    ({"do": "shape", "take": {"side": "left", "within": "2 %"}, "width": "2 m", "keep": "volume",
      "about": {"datum": "sill"}, "along": "own", **PART}, ["left", "2 %", "2 m", "volume kept", "datum sill", "own"],
     enter("Taken width", "3 m"), {"width": "3 m"}),
    ({"do": "shape", "take": {"from": {"depth": "1 cm"}, "to": {"depth": "2 m"}}, "factor": 0.5, **WHOLE},
     ["a slab", "depth", "1 cm", "2 m", "0.5"], enter("Taken factor", "2"), {"factor": 2.0}),
    ({"do": "shape", "take": {"mark": "toe"}, "by": ["1 cm", 0, "2 cm"], "along": {"datum": "sill"}, **PART},
     ["mark toe", "1 cm", "2 cm", "datum sill"], enter("Move taken y", "3 cm"), {"by": ["1 cm", "3 cm", "2 cm"]}),
    ({"do": "shape", "take": {"side": "top"}, "turn": [0, 30, 5], "about": "pivot", **PART},
     ["turn", "30", "5", "its pivot"], enter("Turn taken x", "7"), {"turn": [7.0, 30.0, 5.0]}),
    ({"do": "shape", "take": {"side": "top"}, "set": {"width": "1 m", "depth": "2 m"}, **PART},
     ["set", "1 m", "2 m"], enter("Set height", "3 m"), {"set": {"width": "1 m", "height": "3 m", "depth": "2 m"}}),
    ({"do": "shape", "take": {"side": "top"}, "width": "1 m", "height": "2 m", "depth": "3 m", **PART},
     ["1 m", "2 m", "3 m"], enter("Taken depth", "4 m"), {"depth": "4 m"}),
    ({"do": "shape", "take": {"side": "top"}, "factor": [1, 2, 1], **PART}, ["2"], enter("Taken factor z", "3"),
     {"factor": [1.0, 2.0, 3.0]}),
    ({"do": "check", "width": {"min": "1 m"}, "height": {"min": "1 m", "max": "20 m"},
      "depth": {"max": "7 m"}, "baked": ["location"],
      "grounded": True, "upright": True, "pivot": "base", "unit": 0.5, "up": "-Z", **WHOLE},
     ["20 m", "7 m", "location", "Its bottom is at height 0", "It stands upright", "base", "0.5 m", "−Z"],
     enter("Greatest width", "9 m"), {"width": {"min": "1 m", "max": "9 m"}}),
]  # fmt: skip


@pytest.mark.parametrize("do", sorted(STEPS))
def test_a_kept_step_is_shown_whole_and_survives_an_edit_of_the_rest(gate, do):
    extra = {"skip": ["lamp_*"], "note": "after the vendor's reply", "may-refuse": True}
    for words, shown, edit, change in [case for case in BATTERY if case[0]["do"] == do]:
        open_kept(gate, {**words, **extra})
        before = draft(gate)
        text = seen(gate)
        for said in (*shown, "but not lamp_*"):
            assert said in text, (said, words)
        if edit is not None:
            edit(gate)
            after = draft(gate)
            assert after == {**before, **change}
            gate.key(Qt.Key.Key_Return)
            assert gate.session.document.sheet.steps[0].words() == after
        else:
            gate.key(Qt.Key.Key_Escape)
        gate.session.sheet.remove_step(0)
        gate.settle()


def test_the_battery_knows_every_field_of_every_step():
    told = {do: set() for do in STEPS}
    for words, *_ in BATTERY:
        told[words["do"]] |= set(words)
    told["turn"] |= {"up", "front"}  # of the reading, in test_turning by its buttons
    told["pivot"] |= {"of"}  # what it is for, above every form
    shared = {"do", "for", "parts", "skip", "paused", "may-refuse", "all", "note"}
    for do, kind in STEPS.items():
        fields = {f.alias or name for name, f in kind.model_fields.items()}
        assert fields - shared <= told[do], do


def test_exceptions_and_a_note_are_said_on_the_step_and_taken_back(gate):
    gate.stage("place")
    gate.click(gate.body("place").ground, QPoint(8, 8))
    panel = gate.window.panel
    panel.step_row.fold.open()
    typed(gate, panel.step_row.skip, "lamp_*, oar")
    typed(gate, panel.step_row.note, "as agreed")
    gate.click(panel.step_row.may_refuse, QPoint(8, 8))
    words = {"do": "place", "ground": True, "skip": ["lamp_*", "oar"], "note": "as agreed", "may-refuse": True, **WHOLE}
    assert draft(gate) == words
    panel.step_row.skip.clear()
    panel.step_row.skip.textEdited.emit("")
    gate.settle()
    assert "skip" not in draft(gate)


def test_a_centre_chosen_before_a_step_is_for_that_step_and_no_further_one(gate):
    gate.stage("turn")
    gate.click(gate.body("turn").pages.tabs.buttons["by"])
    gate.click(gate.body("turn").about.buttons["base"])
    typed(gate, gate.body("turn").angles[1], "30")
    assert draft(gate)["about"] == "base"
    gate.key(Qt.Key.Key_Return)
    assert gate.body("turn").about.centre == "pivot"
    typed(gate, gate.body("turn").angles[1], "30")
    assert "about" not in draft(gate)


def test_a_check_is_made_in_deliver_and_fails_those_for_which_it_does_not_hold(gate):
    gate.stage("deliver")
    gate.click(gate.body("deliver").pages.tabs.buttons["check"])
    assert gate.window.panel.scope.isVisible()
    typed(gate, gate.body("deliver").forms["check"].editors["height"].high, "1 cm")
    assert draft(gate) == {"do": "check", "height": {"max": "1 cm"}, **WHOLE}
    gate.key(Qt.Key.Key_Return)
    assert gate.session.outcomes["gate_leaf.glb"].after.status == "failed"
    with suppress(StopIteration):
        gate.click(button("write and prove")(gate))
    assert gate.body("deliver").run.isVisible()
    assert not gate.window.panel.scope.isVisible()


def test_one_unit_of_the_file_is_typed_in_modules_too(gate):
    gate.session.sheet.set_module("bay", "50 cm")
    gate.settle()
    gate.stage("deliver")
    gate.click(gate.body("deliver").pages.tabs.buttons["check"])
    typed(gate, gate.body("deliver").forms["check"].editors["unit"].one, "2 mod")
    assert draft(gate)["unit"] == pytest.approx(1.0)


def test_parts_are_set_onto_another_asset_by_points_of_their_boxes(gate):
    in_hierarchy(gate, "paddle")
    gate.stage("place")
    body = gate.body("place")
    names = [body.other.other.names.itemText(k) for k in range(body.other.other.names.count())]
    assert "asset milepost" in names
    assert "part leaf" in names
    body.other.other.names.activated.emit(names.index("asset milepost"))
    gate.settle()
    gate.window.panel.area.ensureWidgetVisible(body.other)
    gate.click(body.other.point.button)
    gate.click(body.other.point.picker, body.other.point.picker.place((0.0, 1.0, 1.0)).toPoint())
    assert draft(gate)["at"] == {"onto": "milepost", "point": ["left", "top", "front"]}


def test_a_part_goes_where_another_stands_in_one_choice_and_on_top_of_it_in_another(gate):
    in_hierarchy(gate, "paddle")
    gate.stage("place")
    body = gate.body("place")
    names = [body.other.other.names.itemText(k) for k in range(body.other.other.names.count())]
    body.other.other.names.activated.emit(names.index("part leaf"))
    gate.settle()
    gate.window.panel.area.ensureWidgetVisible(body.other)
    gate.click(body.other.ways.buttons["place"])
    asset = gate.session.outcomes["gate_leaf.glb"].after.asset
    paddle, leaf = (node_box(asset, [n.name for n in asset.nodes].index(name)) for name in ("paddle", "leaf"))
    assert paddle.base == pytest.approx(leaf.base, abs=1e-4)
    gate.click(body.other.ways.buttons["top"])
    asset = gate.session.outcomes["gate_leaf.glb"].after.asset
    paddle = node_box(asset, [n.name for n in asset.nodes].index("paddle"))
    assert paddle.base == pytest.approx([leaf.middle[0], leaf.high[1], leaf.middle[2]], abs=1e-4)


def test_coordinates_are_told_and_typed_in_another_frame(gate):
    in_hierarchy(gate, "paddle")
    gate.stage("place")
    body = gate.body("place")
    asset = gate.session.outcomes["gate_leaf.glb"].after.asset
    names = [n.name for n in asset.nodes]
    leaf, paddle = (asset.worlds[names.index(n)] for n in ("leaf", "paddle"))
    words = [body.told_in.itemText(k) for k in range(body.told_in.count())]
    assert words[:2] == ["the world", "its parent"]
    assert {"part leaf", "datum sill"} <= set(words)

    def tell_in(word):
        body.told_in.setCurrentIndex(words.index(word))
        body.told_in.activated.emit(words.index(word))
        gate.settle()

    tell_in("part leaf")
    unit = gate.session.unit.fixed_for(float(abs(paddle[:3, 3] - leaf[:3, 3]).max()))
    assert [e.placeholderText() for e in body.at] == [unit.length(v) for v in paddle[:3, 3] - leaf[:3, 3]]
    typed(gate, body.at[1], "2 m")
    moved = gate.session.outcomes["gate_leaf.glb"].after.asset.worlds[names.index("paddle")][:3, 3]
    assert moved == pytest.approx([paddle[0, 3], leaf[1, 3] + 2, paddle[2, 3]], abs=1e-6)
    # In the datum, which is turned by 30 degrees about y and stands a metre up.
    gate.key(Qt.Key.Key_Escape)
    gate.key(Qt.Key.Key_Escape)
    in_hierarchy(gate, "paddle")
    tell_in("datum sill")
    typed(gate, body.at[0], "3 m")
    turn = axis_turn(1, 30.0)
    local = turn.T @ (paddle[:3, 3] - [0, 1, 0])
    wanted = turn @ [3, local[1], local[2]] + [0, 1, 0]
    moved = gate.session.outcomes["gate_leaf.glb"].after.asset.worlds[names.index("paddle")][:3, 3]
    assert moved == pytest.approx(wanted, abs=1e-6)


def test_angles_are_told_and_typed_in_another_frame(gate):
    in_hierarchy(gate, "paddle")
    gate.stage("turn")
    body = gate.body("turn")
    gate.click(body.pages.tabs.buttons["set"])
    page = body.set
    words = [page.told_in.itemText(k) for k in range(page.told_in.count())]
    assert words[:2] == ["its channel", "the world"]
    assert {"part leaf", "datum sill"} <= set(words)

    def paddle():
        asset = gate.session.outcomes["gate_leaf.glb"].after.asset
        return asset.worlds[[n.name for n in asset.nodes].index("paddle")]

    def axes_of(world):
        return world[:3, :3] / np.linalg.norm(world[:3, :3], axis=0)

    before = paddle()
    page.told_in.setCurrentIndex(words.index("datum sill"))
    page.told_in.activated.emit(words.index("datum sill"))
    # The datum is turned by 30 degrees about y: what stands straight in the world is turned back by them in it.
    assert page.angles[1].placeholderText() == "−30°"
    typed(gate, page.angles[1], "0")
    assert page.isVisible()
    typed(gate, page.angles[2], "10")
    wanted = axis_turn(1, 30.0) @ axis_turn(2, 10.0)
    assert axes_of(paddle()) == pytest.approx(wanted, abs=1e-9)
    assert paddle()[:3, 3] == pytest.approx(before[:3, 3])
    assert set(draft(gate)) == {"do", "by", "parts", "for"}
    gate.key(Qt.Key.Key_Return)
    page.told_in.setCurrentIndex(words.index("the world"))
    page.told_in.activated.emit(words.index("the world"))
    typed(gate, page.angles[1], "0")
    typed(gate, page.angles[0], "0")
    typed(gate, page.angles[2], "0")
    assert axes_of(paddle()) == pytest.approx(np.eye(3), abs=1e-9)
