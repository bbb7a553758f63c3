"""No field changes its text while someone types in it, and what it then means is what stands there."""

from __future__ import annotations

import pytest

from oak_square.app.widgets.controls import reveal
from oak_square.app.widgets.entries import NumberEdit, ShareEdit, fields_of
from oak_square.core.boxes import asset_box
from tests.app.test_aim import in_hierarchy

LETTER_BY_LETTER = {NumberEdit: "12.5", ShareEdit: "15 %"}


@pytest.fixture
def gate(hand, batch):
    hand.open(batch / "gate_leaf.glb", batch / "milepost.glb")
    hand.pick("gate_leaf.glb")
    return hand


def type_slowly(hand, field, text):
    """Type with the window given its time after the first letters, as it has between those of a person."""
    field.setFocus()
    field.selectAll()
    for letters in (text[0], text[1], text[2:]):
        hand.qtbot.keyClicks(field, letters)
        hand.settle()


def test_a_take_of_vertices_is_what_was_typed(gate):
    hand = gate
    in_hierarchy(hand, "leaf")
    hand.stage("bake")
    hand.click(hand.body("bake").means.buttons["shape"])
    rows, grip = hand.body("bake").shape.take, lambda: hand.session.document.grip.take
    hand.click(rows.sides.buttons["top"])
    hand.click(rows.within)
    type_slowly(hand, rows.within, "10 cm")
    assert grip() == {"side": "top", "within": "10 cm"}
    type_slowly(hand, rows.within, "8%")
    assert grip() == {"side": "top", "within": "8 %"}
    hand.click(rows.kinds.buttons["slab"])
    type_slowly(hand, rows.ends["from"], "15 cm")
    assert grip() == {"from": {"height": "15 cm"}}


@pytest.mark.parametrize("stage", ["size", "pivot", "place"])
def test_no_field_of_a_stage_changes_what_is_being_typed(gate, stage):
    hand = gate
    hand.stage(stage)
    body = hand.body(stage)
    tried = 0
    for field in fields_of(body):
        reveal(field, hand.window.panel)
        hand.settle()
        if not (field.isVisible() and field.isEnabled()):
            continue
        text = LETTER_BY_LETTER.get(type(field), "12.5 cm")
        type_slowly(hand, field, text)
        assert field.text() == text, field.accessibleName()
        tried += 1
        hand.session.drafts.drop()
    assert tried >= 3


def test_an_inset_takes_a_share_of_the_extent(gate):
    hand = gate
    hand.stage("pivot")
    hand.session.drafts.try_whole(
        {"do": "pivot", "at": {"point": ["left", "bottom", "middle"]}, "for": ["gate_leaf.glb"]}
    )
    hand.settle()
    edit = next(e for e, row in hand.body("pivot").insets if row.isVisible())
    type_slowly(hand, edit, "25%")
    assert edit.text() == "25%"
    assert hand.session.document.draft.words()["at"]["inset"] == {"left": "25 %"}
    box = asset_box(hand.session.outcomes["gate_leaf.glb"].after.asset)
    assert -box.low[0] == pytest.approx(0.25 * box.size[0])
    hand.window.setFocus()
    hand.settle()
    type_slowly(hand, edit, "4 cm")
    hand.window.batch.setFocus()
    hand.settle()
    type_slowly(hand, edit, "+2cm")
    assert hand.session.document.draft.words()["at"]["inset"] == {"left": "0.06 m"}


def test_a_move_goes_on_from_what_the_draft_has_made_of_it(gate):
    hand = gate
    hand.stage("place")
    hand.session.drafts.try_whole({"do": "place", "shift": ["18.8 cm", 0, 0], "for": ["gate_leaf.glb"]})
    hand.settle()
    field = next(f for f in fields_of(hand.body("place")) if f.isVisible() and f.text() == "18.8 cm")
    type_slowly(hand, field, "+4cm")
    assert hand.session.document.draft.words()["shift"][0] == "0.228 m"


def test_no_number_is_cut_off(gate):
    hand = gate
    hand.stage("place")
    hand.session.drafts.try_whole({"do": "place", "at": ["123.4567891 m", "-0.0123456 m", 7], "for": ["gate_leaf.glb"]})
    hand.settle()
    for field in fields_of(hand.body("place")):
        if field.isVisible():
            assert field.fontMetrics().horizontalAdvance(field.text()) <= field.width() - 8, field.text()
