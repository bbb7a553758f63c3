"""No field changes its text while someone types in it, and what it then means is what stands there."""

from __future__ import annotations

import pytest

from oak_square.app.widgets.controls import reveal
from oak_square.app.widgets.entries import NumberEdit, ShareEdit, fields_of
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
        hand.session.drop_draft()
    assert tried >= 3
