"""What is kept is what is shown: an edit changes what was edited; what can't be read keeps nothing."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadLength
from oak_square.core.lengths import as_written, parse_entry
from oak_square.steps.edited import edited
from oak_square.steps.step import STEPS
from tests.app import lockworks
from tests.app.test_entries import typed


def kept(hand, words):
    """Keep a step of these words, and open its card."""
    step = STEPS[words["do"]].model_validate(words)
    hand.session.drafts.try_step(step)
    hand.session.drafts.keep()
    hand.session.drafts.open_step(len(hand.session.document.sheet.steps) - 1)
    hand.settle()
    return step.words()


def draft(hand):
    return hand.session.document.draft.words()


@pytest.mark.parametrize(
    ("words", "stage", "press", "changed"),
    [
        (
            {"do": "pivot", "at": "mass", "of": "parts", "parts": ["flap_*"],
             "skip": ["old_*"], "note": "hinges", "may-refuse": True, "for": ["gate_*"]},
            "pivot", lambda body: body.places.buttons["mean"], {"at": "mean"},
        ),
        (
            {"do": "pivot", "at": "base", "of": "parts", "parts": ["flap_*"], "note": "hinges"},
            "pivot", lambda body: body.places.buttons["children"], {"at": "children"},
        ),
        (
            {"do": "bake", "what": ["scale"], "parts": ["flap_*", "gate"], "note": "n", "may-refuse": True},
            "bake", lambda body: body.channels["location"], {"what": ["scale", "location"]},
        ),
        (
            {"do": "place", "at": "parent", "axes": ["x"], "parts": ["flap_*"], "note": "n"},
            "place", lambda body: body.ground, {"ground": True},
        ),
        (
            {"do": "turn", "by": [0, 30, 0], "about": {"part": "gate"}, "parts": ["flap_*"], "note": "n"},
            "turn", lambda body: body.quarters.buttons["y90"], {"by": [0.0, 120.0, 0.0]},
        ),
        (
            {"do": "size", "height": "2 m", "about": "middle", "parts": ["flap_*"], "note": "n", "skip": ["x*"]},
            "size", lambda body: body.keep.buttons["none"], {"keep": "none"},
        ),
    ],
)  # fmt: skip
def test_an_edit_changes_the_field_that_was_edited_and_nothing_else(hand, batch, words, stage, press, changed):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    before = kept(hand, words)
    hand.click(press(hand.body(stage)), QPoint(8, 8))
    assert draft(hand) == {**before, **changed}
    assert "note: " in hand.window.panel.step_row.fold.button.text()


def test_the_scope_is_changed_by_its_own_row_alone(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    before = kept(
        hand, {"do": "pivot", "at": "base", "of": "parts", "parts": ["flap_*"], "skip": ["old_*"], "note": "n"}
    )
    hand.click(hand.window.panel.scope.which.buttons["selected"])
    assert draft(hand) == {**before, "for": ["gate_leaf.glb"]}


def test_an_edit_in_words():
    step = {"do": "place", "at": {"berth": "north"}, "ground": True, "note": "n", "for": ["a"]}
    told = {"do": "place", "ground": True}
    assert edited(step, told, {"do": "place", "ground": True, "by": "pivot"}) == {**step, "by": "pivot"}
    assert edited(step, told, {}) == {k: v for k, v in step.items() if k != "ground"}
    assert edited(step, told, {"do": "bake", "what": ["scale"]}) == {
        "do": "bake", "what": ["scale"], "note": "n", "for": ["a"],
    }  # fmt: skip
    assert edited({"do": "bake", "what": ["scale"], "for": ["a"]}, {"do": "bake", "what": ["scale"]}, {}) == {}


@pytest.mark.parametrize(
    ("text", "written"),
    [
        ("1,5 m", "1.5 m"),
        ("45,5", "45.5"),
        ("0,125 m", "0.125 m"),
        ("1234,567 mm", "1234.567 mm"),
        ("3'6", "3' 6\""),
        ("3' 6 1/2", "3' 6 1/2\""),
        ("3 ft 6", '3 ft 6"'),
        ("+1,5cm", "+1.5cm"),
        ("90 cm", "90 cm"),
    ],
)
def test_what_people_type_is_read_as_they_mean_it(text, written):
    assert as_written(text) == written


@pytest.mark.parametrize("text", ["1,200 mm", "12,345", "1,200.5", "1,2,3"])
def test_a_comma_that_may_be_two_things_is_asked_about(text):
    with pytest.raises(BadLength, match="write"):
        parse_entry(text, present=1.0, bare=1.0)


@pytest.mark.parametrize("text", ["1,200 mm", "1.8 mm x", "3'6x", "5 parsecs"])
def test_what_can_not_be_read_as_a_whole_keeps_nothing(hand, batch, text):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.stage("size")
    body = hand.body("size")
    hand.click(body.pages.tabs.buttons["extent"])
    typed(hand, body.extents["height"], text)
    panel = hand.window.panel
    assert panel.trouble.isVisible()
    assert panel.trouble.text().startswith("Height: ")
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == []
    assert hand.window.foot.words.text() == panel.unreadable()
    hand.click(panel.keep)
    assert hand.steps() == []
    typed(hand, body.extents["height"], "1,5 m")
    assert not panel.trouble.isVisible()
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Height 1.5 m"]


def test_an_angle_with_a_comma_is_read(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.stage("turn")
    body = hand.body("turn")
    hand.click(body.pages.tabs.buttons["by"])
    typed(hand, body.angles[1], "45,5")
    hand.key(Qt.Key.Key_Return)
    assert draft_or_last(hand)["by"] == [0.0, 45.5, 0.0]


def draft_or_last(hand):
    return hand.session.document.sheet.steps[-1].words()


def test_a_place_is_shown_as_it_is_and_changed_from_there(hand, batch):
    """A boat's berth from where it is: what is typed along x moves it along x, by as much as was typed."""
    hand.open(batch)
    hand.pick("mooring_bollards.glb")
    box = asset_box(hand.session.outcomes["mooring_bollards.glb"].after.asset)
    hand.stage("place")
    body = hand.body("place")
    assert [e.placeholderText() for e in body.at] == ["7.40 m", "0.00 m", "2.00 m"]
    typed(hand, body.at[0], "+4cm")
    after = asset_box(hand.session.outcomes["mooring_bollards.glb"].after.asset)
    assert np.abs(after.base - box.base - [0.04, 0, 0]).max() < 1e-6
    assert draft(hand)["axes"] == ["x"]


def test_what_was_typed_for_a_step_that_is_dropped_is_not_left_standing(hand, batch):
    hand.open(batch)
    hand.pick("mooring_bollards.glb")
    hand.stage("place")
    body = hand.body("place")
    typed(hand, body.at[0], "+4cm")
    hand.key(Qt.Key.Key_Escape)
    assert hand.session.document.draft is None
    assert body.at[0].text() == ""
    assert body.at[0].placeholderText() == "7.40 m"


def test_no_words_of_a_library_reach_the_foot(hand, batch):
    hand.open(batch)
    hand.window.panel_desk.try_whole({"do": "split", "into": "pieces"})
    said = hand.window.foot.words.text()
    assert said.startswith("Not a step yet: ")
    assert "http" not in said
    assert "parts" in said


def test_settle_takes_the_unit_of_the_ranking_and_the_side_of_the_finding(hand, lock):
    hand.open(lock)
    hand.window.panel_desk.settle("up-suspect")
    hand.settle()
    step = hand.session.document.draft
    covered = [f for f in hand.session.assets if step.covers(f)]
    assert covered
    hand.session.drafts.keep()
    hand.settle()
    for file in covered:
        assert "up-suspect" not in {f.code for f in hand.session.outcomes[file].findings}
    waiting = {f for f, o in hand.session.outcomes.items() if any(x.code == "unit-suspect" for x in o.findings)}
    assert waiting
    settled = set()
    while waiting - settled:
        hand.window.panel_desk.settle("unit-suspect")
        hand.settle()
        step = hand.session.document.draft
        own = {f for f in waiting if step.covers(f)}
        for file in own:
            question = hand.session.outcomes[file].question
            if question.ranking is not None:
                assert step.reads == question.ranking.best.unit
        assert own - settled
        settled |= own
        hand.session.drafts.keep()
        hand.settle()


def test_undo_after_enter_is_the_sheets_wherever_the_focus_is(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.stage("size")
    body = hand.body("size")
    hand.click(body.pages.tabs.buttons["extent"])
    typed(hand, body.extents["height"], "1.5 m")
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Height 1.5 m"]
    assert hand.window.focusWidget() is body.extents["height"]
    hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert hand.steps() == []
    # While something is being typed, the letters are the field's.
    typed(hand, body.extents["height"], "2 m")
    hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert hand.session.document.draft is None or hand.session.document.draft.words()["height"] != "2 m"


def test_enter_and_escape_in_the_filter_are_the_filters(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.session.drafts.try_step(STEPS["bake"].model_validate({}))
    hand.settle()
    hand.key(Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    hand.qtbot.keyClicks(hand.window.filter, "wind")
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == []
    assert hand.session.lead == "windlass.stl"
    assert hand.window.focusWidget() is hand.window.batch
    hand.key(Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    hand.key(Qt.Key.Key_Escape)
    assert hand.window.filter.text() == ""
    assert hand.session.document.draft is not None


def test_cards_tell_steps_apart(hand, batch):
    hand.open(batch)
    for words in (
        {"do": "size", "height": "2 m", "keep": "none", "about": "middle", "for": ["milepost.glb"]},
        {"do": "bake", "what": ["scale"], "parts": ["bollard_1"]},
        {"do": "check", "height": {"max": "1 m"}, "for": ["milepost.glb", "mooring_bollards.glb"]},
        {"do": "pivot", "at": "base", "of": "parts", "parts": ["no such part"], "skip": ["gate_*"]},
    ):
        hand.session.drafts.try_step(STEPS[words["do"]].model_validate(words))
        hand.session.drafts.keep()
    hand.settle()
    said = [c.detail for c in hand.window.strip.shown]
    assert said[0] == "1 asset · nothing follows · about middle"
    assert said[1].startswith("1 of 6 assets")
    assert said[1].endswith("· only bollard_1")
    assert said[2] == "1 of 2 assets fail"
    assert hand.window.strip.shown[2].troubled
    assert said[3] == "0 of 5 assets · only no such part · not gate_*"
    assert not hand.window.strip.shown[3].troubled


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700)])
def test_consequences_are_in_sight_before_enter_with_their_assets(hand, lock, size):
    hand.window.resize(*size)
    hand.open(lock)
    hand.pick_if_seen("reed_clump.glb", "mooring_bollards.glb", "weather_vane.glb")
    hand.stage("bake")
    body = hand.body("bake")
    hand.window.panel.area.ensureWidgetVisible(body.usual)
    hand.click(body.usual)
    panel = hand.window.panel
    lines = panel.consequences.lines.text().splitlines()
    assert any(s.startswith("reed_clump: geometry shared by 30 parts comes apart into 30") for s in lines)
    assert any("own axes" in s and s.split(":")[0] != "" for s in lines)
    room = panel.consequences.area
    top, bottom = (room.mapTo(hand.window, room.rect().topLeft()), room.mapTo(hand.window, room.rect().bottomRight()))
    assert room.isVisible()
    assert room.height() >= 40
    assert hand.window.rect().contains(top)
    assert hand.window.rect().contains(bottom)
    assert panel.keep.visibleRegion().boundingRect().height() == panel.keep.height()


def test_a_refusal_is_said_with_its_asset_over_the_button(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.session.drafts.try_step(STEPS["pivot"].model_validate({"at": {"part": "no such part"}}))
    hand.session.enter_stage("pivot")
    hand.settle()
    lines = hand.window.panel.consequences.lines
    assert lines.isVisible()
    assert lines.text().startswith("gate_leaf: ")
    assert lines.level == "fix"


def test_the_centre_in_force_is_said_for_what_the_step_is_for(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("size")
    body = hand.body("size")
    hand.click(body.pages.tabs.buttons["factor"])
    assert not hand.window.foot.centre.isVisible()
    typed(hand, body.factor, "1.5")
    assert hand.window.foot.centre.text() == "stays: its base middle"
    hand.click(hand.window.panel.scope.target.buttons["names"])
    assert hand.window.foot.centre.text() == "stays: each one's own pivot"
    hand.key(Qt.Key.Key_Escape)
    assert not hand.window.foot.centre.isVisible()


def measured(d):
    """Measure between two corners of the crate, by hand."""
    d.hand.click(d.hand.window.views.instruments["dividers"])
    d.click((0.0, 0.4, 0.5))
    d.click((0.6, 0.4, 0.5))
    assert len(d.session.document.measures) == 1


def test_a_measurement_alone_is_not_saved_until_it_is(deeds, tmp_path):
    d = deeds("stack", lockworks.crates())
    d.look(-30, 30)
    d.select()
    window = d.hand.window
    assert not window.isWindowModified()
    measured(d)
    assert window.isWindowModified()
    asked = []
    window.files.ask_unsaved = lambda: asked.append(True) or "stay"
    assert not window.close()
    assert asked
    window.files.ask_unsaved = lambda: "leave"


def test_a_measurement_taken_or_forgotten_after_a_save_is_not_saved(deeds, tmp_path):
    d = deeds("stack", lockworks.crates())
    d.look(-30, 30)
    d.select()
    path = tmp_path / "lock.prepsheet.yaml"
    d.session.sheet.set_title("Lock")
    d.session.sheet.save(path)
    d.hand.settle()
    window = d.hand.window
    assert not window.isWindowModified()
    measured(d)
    assert window.isWindowModified()
    d.key(Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert not window.isWindowModified()
    d.session.measures.forget(0)
    d.hand.settle()
    assert window.isWindowModified()
    d.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert not window.isWindowModified()
