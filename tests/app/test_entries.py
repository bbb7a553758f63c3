"""Typing into the forms: lengths with their units, relative entries, factors, angles, box points."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.app.panel.box_picker import BoxPicker
from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadLength
from oak_square.core.lengths import parse_entry, parse_factor
from oak_square.steps.step import STEPS


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("5.2 m", 5.2),
        ("90", 0.9),
        ("+4cm", 2.04),
        ("+-4 cm", 1.96),
        ("-4cm", -0.04),
        ("*0.5", 1.0),
        ("×3", 6.0),
        ("/4", 0.5),
        ("50%", 1.0),
        ("3' 6\"", 1.0668),
    ],
)
def test_entries_are_absolute_or_from_what_it_is_now(text, metres):
    assert parse_entry(text, present=2.0, bare=0.01) == pytest.approx(metres)


@pytest.mark.parametrize("text", ["", "+", "*", "*x", "/0", "%", "tall", "1e999%", "+4 parsecs"])
def test_entries_that_are_none_say_so(text):
    with pytest.raises(BadLength):
        parse_entry(text, present=2.0, bare=1.0)


def test_factors_are_numbers_percents_and_shares():
    assert [parse_factor(t) for t in ("2", "*2", "/4", "150 %", "×0.5")] == [2, 2, 0.25, 1.5, 0.5]


def typed(hand, field, text):
    field.setFocus()
    field.selectAll()
    hand.qtbot.keyClicks(field, text)
    hand.settle()


def height_of(hand, file):
    return float(asset_box(hand.session.outcomes[file].after.asset).size[1])


def test_a_height_is_typed_and_seen_at_once(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.stage("size")
    hand.click(hand.body("size").pages.tabs.buttons["extent"])
    field = hand.body("size").extents["height"]
    assert field.placeholderText() == "0.92 m"
    typed(hand, field, "1.84 m")
    assert height_of(hand, "milepost.glb") == pytest.approx(1.84, abs=1e-6)
    assert hand.window.bench.facts.sizes == ("0.92 m", "1.84 m", "0.68 m")
    assert hand.session.document.draft.title() == "Height 1.84 m"
    # Only it; then the volume kept.
    hand.click(hand.body("size").keep.buttons["none"])
    assert hand.window.bench.facts.sizes == ("0.46 m", "1.84 m", "0.34 m")
    hand.click(hand.body("size").keep.buttons["volume"])
    assert hand.window.bench.facts.sizes == ("0.325 m", "1.84 m", "0.24 m")
    # Told from what was there as the entry began: what the draft has made of it.
    typed(hand, field, "+8 cm")
    assert height_of(hand, "milepost.glb") == pytest.approx(1.92, abs=1e-6)
    typed(hand, field, "50%")
    assert hand.session.document.draft.height == "0.96 m"
    # Each field that was typed into is one entry, whatever its letters; so are the presses between.
    assert [label for label, _ in hand.session.sheet.history.past] == [
        "Try Height 1.84 m",
        "Try Height 1.84 m",
        "Try Height 1.84 m",
        "Try Height 0.96 m",
    ]
    # What can't be read is marked, and changes nothing.
    typed(hand, field, "1.8 mm x")
    assert field.property("wrong")
    assert "no length" in field.toolTip() or "no unit" in field.toolTip()
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == []
    assert hand.window.foot.words.text().startswith("Height: ")
    typed(hand, field, "1.8 m")
    hand.key(Qt.Key.Key_Return)
    assert len(hand.steps()) == 1


def test_a_factor_and_degrees_are_typed(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.stage("size")
    hand.click(hand.body("size").pages.tabs.buttons["factor"])
    typed(hand, hand.body("size").factor, "150%")
    assert height_of(hand, "milepost.glb") == pytest.approx(1.38, abs=1e-6)
    hand.key(Qt.Key.Key_Return)
    hand.stage("turn")
    hand.click(hand.body("turn").pages.tabs.buttons["by"])
    typed(hand, hand.body("turn").angles[2], "90")
    assert height_of(hand, "milepost.glb") == pytest.approx(0.69, abs=1e-6)
    hand.click(hand.body("turn").about.buttons["middle"])
    assert hand.session.document.draft.about == "middle"
    hand.key(Qt.Key.Key_Return)
    for quarters in (90.0, -180.0, -90.0):
        hand.click(hand.body("turn").quarters.buttons["y90"])
        assert hand.session.document.draft.by == [0.0, quarters, 0.0]
    hand.key(Qt.Key.Key_Escape)
    assert hand.steps() == ["Size × 1.5", "Turn 90° about z"]


def test_a_box_point_is_clicked_and_inset(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("pivot")
    body = hand.body("pivot")
    hand.click(hand.window.panel.scope.target.buttons["parts"])
    hand.click(body.picker, body.picker.place((0.0, 0.0, 0.5)).toPoint())
    assert hand.session.document.draft.at.point == ["left", "bottom", "middle"]
    edit, row = body.insets[0]
    assert row.isVisible()
    assert not body.insets[2][1].isVisible()
    typed(hand, edit, "20 cm")
    assert hand.session.document.draft.at.inset == {"left": "20 cm"}
    assert hand.session.document.draft.title() == "Pivot: left bottom of parts"
    asset = hand.session.outcomes["gate_leaf.glb"].after.asset
    heel = next(i for i, n in enumerate(asset.nodes) if n.name == "heel_post")
    assert asset.worlds[heel][0, 3] == pytest.approx(310 - 162 - 17 + 0.2, abs=1e-3)
    body.picker.setFocus()
    hand.key(Qt.Key.Key_Right)
    assert hand.session.document.draft.at == "base"
    hand.click(body.pages.tabs.buttons["point"])
    # Each part has a pivot of its own: of none of them alone could y be set.
    typed(hand, body.point.xyz[1], "1.5 m")
    assert hand.session.document.draft.at == "base"
    hand.key(Qt.Key.Key_Return)
    assert "all needed" in hand.window.foot.words.text()
    assert hand.steps() == []
    for k, text in ((0, "1 m"), (2, "2 m")):
        typed(hand, body.point.xyz[k], text)
    assert hand.session.document.draft.at.xyz == ["1 m", "1.5 m", "2 m"]


def test_every_dot_of_the_box_can_be_clicked_or_walked_to(qtbot):
    picker = BoxPicker()
    qtbot.addWidget(picker)
    picker.resize(278, 150)
    picker.show()
    got = []
    picker.point_wished.connect(lambda p: (got.append(tuple(p)), picker.show_point(p)))
    corners = [(a, b, c) for a in (0.0, 1.0) for b in (0.0, 1.0) for c in (0.0, 1.0)]
    for corner in corners:
        qtbot.mouseClick(picker, Qt.MouseButton.LeftButton, pos=picker.place(corner).toPoint())
    assert len(set(got)) == 8
    got.clear()
    picker.show_point(["middle", "bottom", "middle"])
    for key in (Qt.Key.Key_Left, Qt.Key.Key_Up, Qt.Key.Key_Up, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
        qtbot.keyClick(picker, key)
    assert got == [
        ("left", "bottom", "middle"),
        ("left", "middle", "middle"),
        ("left", "top", "middle"),
        ("left", "top", "back"),
        ("left", "top", "middle"),
    ]
    # A click beside the box takes nothing.
    got.clear()
    qtbot.mouseClick(picker, Qt.MouseButton.LeftButton, pos=QPoint(2, 2))
    assert got == []


def test_a_place_is_typed_along_chosen_axes(hand, batch):
    hand.open(batch)
    hand.pick("mooring_bollards.glb")
    hand.stage("place")
    body = hand.body("place")
    typed(hand, body.at[0], "2 m")
    assert hand.session.document.draft.at == ["2 m", 0, 0]
    assert hand.session.document.draft.axes == ["x"]  # y and z stay as they are
    box = hand.window.bench.facts.box
    assert box.middle[0] == pytest.approx(2, abs=1e-5)
    assert box.middle[2] == pytest.approx(2, abs=1e-5)
    typed(hand, body.shift[1], "25 cm")
    assert hand.window.bench.facts.box.low[1] == pytest.approx(0.25, abs=1e-5)
    hand.click(body.by.buttons["middle"])
    assert hand.session.document.draft.by == "middle"
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Place: 2 m, 0, 0, along x, shift 0, 25 cm, 0"]


def test_a_reset_moves_what_a_bake_keeps(hand, batch):
    hand.open(batch)
    hand.pick("mooring_bollards.glb")
    hand.stage("bake")
    body = hand.body("bake")
    hand.click(body.channels["scale"], QPoint(8, 8))
    assert hand.window.bench.facts.sizes[1] == "0.75 m"
    hand.click(body.means.buttons["reset"])
    assert hand.window.bench.facts.sizes[1] == "0.60 m"
    assert body.table.model.rowCount() == 5
    assert body.table.model.index(1, 2).data() == "1.25→1"


def test_a_part_is_taken_apart_and_a_piece_gets_a_pivot_of_its_own(hand, lock):
    hand.open(lock)
    hand.pick("strapping_bollard.glb")
    hand.stage("bake")
    hand.click(hand.body("bake").forms["split"].editors["into"].choices.buttons["pieces"])
    asset = hand.session.outcomes["strapping_bollard.glb"].after.asset
    assert [n.name for n in asset.nodes if n.kind == "part"] == [f"strapping_bollard.{k}" for k in (1, 2, 3, 4)]
    hand.session.select(("strapping_bollard.glb",), (2,))
    hand.settle()
    assert hand.window.bench.facts.sizes[1] == "0.84 m"
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Split *"]
    hand.stage("pivot")
    assert hand.window.panel.scope.target.choice == "picked"
    hand.click(hand.body("pivot").places.buttons["base"])
    hand.key(Qt.Key.Key_Return)
    assert [s.parts for s in hand.session.document.sheet.steps] == [["*"], ["strapping_bollard.2"]]
    while hand.steps() or hand.session.document.draft is not None:
        hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    # The piece that was picked is gone with its step.
    assert hand.window.bench.facts.sizes[1] == "1.02 m"


def test_of_a_long_number_the_front_is_read_and_typing_goes_on_behind_it(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.stage("place")
    field = hand.body("place").shift[0]
    hand.window.batch.setFocus()
    words = {"do": "place", "shift": ["1.310076236725591 m", 0, 0], "for": ["milepost.glb"]}
    hand.session.drafts.try_step(STEPS["place"].model_validate(words))
    hand.settle()
    assert field.cursorPosition() == 0
    assert field.text().startswith("1.31")
    field.setFocus(Qt.FocusReason.ShortcutFocusReason)
    assert field.cursorPosition() == len(field.text())
