"""Cards that tell steps apart and are changed in place; sheets on the shelf, compared, and run on the next batch."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QInputDialog

from oak_square.sheet.text import load_sheet
from oak_square.steps.step import STEPS


def keep(hand, **words):
    hand.session.drafts.try_step(STEPS[words["do"]].model_validate(words))
    hand.session.drafts.keep()
    hand.settle()


@pytest.fixture
def shelf(hand):
    dialog = hand.window.card_desk.open_shelf()
    yield dialog
    dialog.close()


def test_for_whom_a_step_is_what_it_leaves_out_and_its_note_are_changed_on_its_card(hand, batch):
    hand.open(batch)
    keep(hand, do="bake")
    card, editor = hand.window.strip.cards[0], hand.window.card_editor
    card.setFocus()
    hand.key(Qt.Key.Key_E)
    assert editor.isVisible()
    assert hand.window.rect().contains(editor.geometry())
    for key, text in (("for", "*.glb"), ("parts", "leaf"), ("skip", "milepost.glb, nothing_*"), ("note", "by hand")):
        editor.fields[key].setFocus()
        hand.qtbot.keyClicks(editor.fields[key], text)
    hand.click(editor.may_refuse)
    assert "but not nothing_* matches no asset" in editor.says.text()
    assert "1 part" in editor.says.text()
    editor.fields["note"].setFocus()
    hand.key(Qt.Key.Key_Return)
    assert not editor.isVisible()
    (step,) = hand.session.document.sheet.steps
    assert step.words() == {
        "do": "bake", "for": ["*.glb"], "parts": ["leaf"], "skip": ["milepost.glb", "nothing_*"], "note": "by hand",
        "may-refuse": True,
    } | ({"what": step.words()["what"]} if "what" in step.words() else {})  # fmt: skip
    assert hand.window.strip.cards[0].hasFocus()
    hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert hand.session.document.sheet.steps[0].for_ is None


def test_what_a_step_cant_say_is_told_and_not_kept(hand, batch):
    hand.open(batch)
    keep(hand, do="split", parts=["gate*"])
    hand.window.strip.cards[0].setFocus()
    hand.key(Qt.Key.Key_E)
    editor = hand.window.card_editor
    editor.fields["parts"].selectAll()
    hand.qtbot.keyClick(editor.fields["parts"], Qt.Key.Key_Backspace)
    assert "▲" in editor.says.text()
    assert not editor.keep.isEnabled()
    hand.key(Qt.Key.Key_Return)
    assert editor.isVisible()
    hand.key(Qt.Key.Key_Escape)
    assert not editor.isVisible()
    assert hand.session.document.sheet.steps[0].parts == ["gate*"]


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ({"for": ["*.obj"]}, {"for": ["*.stl"]}),
        ({}, {"for": ["*.stl"]}),
        ({"parts": ["leaf"]}, {"parts": ["post"]}),
        ({"skip": ["milepost.glb"]}, {}),
        ({"note": "first"}, {"note": "again"}),
        ({"may-refuse": True}, {}),
    ],
)
def test_cards_say_what_tells_two_steps_apart(hand, batch, one, other):
    hand.open(batch)
    keep(hand, do="bake", what=["scale"], **one)
    keep(hand, do="bake", what=["scale"], **other)
    first, second = hand.window.strip.shown
    assert first.title[3:] == second.title[3:]
    assert first.detail != second.detail
    apart = [v if isinstance(v, str) else v[0] for v in (*one.values(), *other.values()) if v is not True]
    for words in apart:
        assert words in first.detail + second.detail


def test_the_shelf_lists_what_was_open_with_what_differs_and_what_matches_nothing(hand, batch, tmp_path):
    sheet = tmp_path / "evening.prepsheet.yaml"
    steps = "[{do: bake, for: ['*.glb', 'quay_*']}, {do: pivot, at: base, of: parts, parts: [leaf, ghost]}]"
    sheet.write_text(f"prep-sheet: 1\ntitle: Evening\nsteps: {steps}\n")
    hand.open(batch)
    hand.open(sheet)
    keep(hand, do="place", ground=True)
    shelf = hand.window.card_desk.open_shelf()
    assert shelf.title.text() == "Evening"
    assert "Bake" in shelf.text.toPlainText()
    hand.click(shelf.pages.buttons["differs"])
    assert "step 3 (place): only in the first" in shelf.text.toPlainText()
    hand.click(shelf.pages.buttons["idle"])
    said = shelf.text.toPlainText()
    assert "for quay_* matches no asset" in said
    assert "parts ghost match nothing" in said
    assert "leaf" not in said.split("parts ghost")[1]
    hand.click(shelf.run)
    assert hand.session.document.sheet == load_sheet(sheet)[0]
    assert not shelf.isVisible()
    hand.window.deeds["undo"].trigger()
    assert len(hand.session.document.sheet.steps) == 3


def test_a_sheet_is_put_on_the_shelf_under_a_name_and_taken_off(hand, batch, tmp_path, monkeypatch):
    sheet = tmp_path / "a.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\nsteps: [{do: bake}]\n")
    hand.open(sheet)
    shelf = hand.window.card_desk.open_shelf()
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("vendor B", True))
    hand.click(shelf.name)
    assert hand.window.habits.now.shelf == {"vendor B": str(sheet)}
    assert shelf.list.item(0).text().startswith("vendor B")
    assert shelf.list.count() == 1
    sheet.write_text("prep-sheet: 1\nsteps: [{do: bakee}]\n")
    shelf.close()
    hand.window.card_desk.open_shelf()
    assert "did you mean 'bake'" in shelf.text.toPlainText()
    assert not shelf.run.isEnabled()
    hand.click(shelf.off)
    assert hand.window.habits.now.shelf == {}
    shelf.close()


def test_an_empty_shelf_says_what_goes_there(shelf):
    assert "what you open or save is listed here" in shelf.text.toPlainText()


def test_pieces_made_on_the_way_are_not_said_to_match_nothing(hand, batch, tmp_path):
    sheet = tmp_path / "pieces.prepsheet.yaml"
    steps = "[{do: split, parts: ['*']}, {do: pivot, at: base, of: parts, parts: ['leaf.1']}]"
    sheet.write_text(f"prep-sheet: 1\nsteps: {steps}\n")
    hand.open(batch)
    hand.window.habits.remember_sheet(sheet)
    shelf = hand.window.card_desk.open_shelf()
    shelf.pages.buttons["idle"].click()
    assert shelf.text.toPlainText() == "Every pattern of it matches something here."
    shelf.close()
