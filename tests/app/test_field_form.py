"""The form drawn from a step's model: every field reached, previewed live, mistakes said in words."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt

from oak_square.app.panel.field_form import FieldForm, words_of
from oak_square.steps import STEPS


@pytest.fixture
def forms(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    return hand


def unfold(hand, stage):
    hand.stage(stage)
    if not hand.window.panel.every.open.isChecked():
        hand.click(hand.window.panel.every.open)
    return hand.window.panel.every.forms


def enter(hand, edit, text):
    edit.setFocus()
    edit.lineEdit().selectAll()
    hand.qtbot.keyClicks(edit.lineEdit(), text)
    hand.settle()


@pytest.mark.parametrize("do", sorted(STEPS))
def test_every_field_of_every_step_has_a_row_with_its_help_and_known_words(qtbot, qapp, do):
    form = FieldForm(STEPS[do], None)
    qtbot.addWidget(form)
    shared = {"do", "for", "parts", "skip", "paused", "may-refuse", "note"}
    fields = {f.alias or name: f for name, f in STEPS[do].model_fields.items()}
    assert set(form.edits) == set(fields) - shared
    for key, edit in form.edits.items():
        assert fields[key].description in edit.toolTip()
    if do == "pivot":
        assert {"mass", "mean", "parent", "children"} <= set(words_of(fields["at"].annotation))


def test_what_is_typed_is_tried_at_once_and_kept_with_enter(forms):
    form = unfold(forms, "pivot")["pivot"]
    enter(forms, form.edits["of"], "parts")
    enter(forms, form.edits["at"], "{point: [left, bottom, 0.25]}")
    enter(forms, form.edits["axes"], "{bring: +X, to: top}")
    assert forms.session.document.draft.words() == {
        "do": "pivot", "of": "parts", "at": {"point": ["left", "bottom", 0.25]}, "axes": {"bring": "+X", "to": "top"},
        "for": ["gate_leaf.glb"],
    }  # fmt: skip
    assert forms.window.panel.effect.rows
    forms.key(Qt.Key.Key_Return)
    assert forms.steps() == ["Pivot: left bottom 0.25, +X to top of parts"]


def test_a_mistake_is_said_in_words_and_nothing_is_tried(forms):
    form = unfold(forms, "turn")["turn"]
    enter(forms, form.edits["bring"], "+X")
    assert form.advice.isVisible()
    assert "bring and to go together" in form.advice.text()
    assert forms.session.document.draft is None
    enter(forms, form.edits["to"], "tip")
    assert "not one of" in form.advice.text() or "to" in form.advice.text()
    enter(forms, form.edits["to"], "[0, 1")
    assert "can't be read" in form.advice.text()
    enter(forms, form.edits["to"], "top")
    assert not form.advice.isVisible()
    assert forms.session.document.draft.title() == "Bring +X to top"


def test_an_opened_step_fills_its_form_and_stages_have_their_own(forms):
    forms.session.try_step(STEPS["place"].model_validate({"do": "place", "at": {"onto": "milepost"}, "by": "base"}))
    forms.session.keep_draft()
    forms.session.open_step(0)
    forms.settle()
    form = unfold(forms, "place")["place"]
    assert form.edits["at"].currentText() == "{onto: milepost}"
    assert form.edits["by"].currentText() == "base"
    assert set(unfold(forms, "bake")) == {"bake", "parent", "reset", "split"}
    forms.key(Qt.Key.Key_Escape)
    forms.stage("receive")
    assert not forms.window.panel.every.isVisible()
