"""What a folder answers, in the window: its way in one click, the odd ones side by side, what is settled for one."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage

from oak_square.core.frames import AXES
from oak_square.delivery.batch import find_sources
from oak_square.sheet.evaluate import evaluate
from tests.patience import WAIT_MS

CHAIR, BED, CUPBOARD, DOOR = "kitchen_chair.obj", "single_bed.obj", "linen_cupboard.obj", "house_door.obj"


@pytest.fixture
def window(hand, joiner):
    hand.open(joiner)
    return hand


def pixels(image):
    """What is seen of a picture, whether it was drawn or comes from the folder that pictures are kept in."""
    flat = image.convertToFormat(QImage.Format.Format_RGBA8888_Premultiplied)
    return np.frombuffer(flat.constBits(), np.uint8).astype(int)


def codes(hand, file):
    return {f.code for f in hand.session.outcomes[file].findings}


def test_the_folder_is_taken_in_one_click_and_the_doubts_are_selected_in_another(window):
    window.stage("size")
    form = window.body("size").folder
    assert form.words.text() == "10 of 11 are most likely in inches (88 %)."
    assert [t.file for t in form.tiles._shown] == [BED]
    assert form.take.text() == "Take inches for 10"
    window.click(form.take)
    assert window.steps() == ["Unit: in"]
    assert not window.session.document.sheet.steps[0].covers(BED)
    assert "unit-suspect" not in codes(window, CHAIR)
    assert "unit-suspect" in codes(window, BED)
    # What is settled now speaks for the folder; the odd one still speaks for itself.
    assert form.words.text() == "Settled here: in inches, for 10 of 11."
    window.click(form.doubts)
    assert window.session.selection == (BED,)
    assert window.body("size").question.why.text().startswith("Because a bed is usually 1.9 to 2.3 m")
    window.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.steps() == []


def test_what_is_settled_for_one_counts_for_its_folder_at_once(window):
    window.stage("size")
    window.pick(CHAIR)
    form = window.body("size")
    window.click(form.question.candidates.buttons["cm"])
    window.click(window.window.panel.keep)
    assert window.steps() == ["Unit: cm"]
    assert window.session.outcomes[DOOR].question.ranking.best.unit == "cm"
    assert form.folder.words.text().startswith("Settled here: in centimetres")


def test_thumbnails_are_turned_as_proposed_and_the_click_keeps_what_they_show(window):
    window.stage("turn")
    body = window.body("turn")
    tiles = {t.file: t for t in body.folder.tiles._shown}
    assert (tiles[CHAIR].up, tiles[CHAIR].front) == ("+Z", "-Y")
    proposed = window.window.folder_desk.proposed
    window.qtbot.waitUntil(lambda: not proposed.busy and not window.window.thumbnails.busy, timeout=WAIT_MS)
    before = pixels(proposed.of(CHAIR))
    assert np.abs(pixels(window.window.thumbnails.of(CHAIR)) - before).max() > 40
    window.click(body.folder.take)
    assert window.steps()[0] == "Up +Z, front −Y"
    window.qtbot.waitUntil(lambda: not window.window.thumbnails.busy, timeout=WAIT_MS)
    assert np.abs(pixels(window.window.thumbnails.of(CHAIR)) - before).max() <= 1
    assert "up-suspect" not in codes(window, CHAIR)


def test_each_side_that_could_be_up_is_offered_with_its_share_and_the_evidence(window):
    window.stage("turn")
    window.pick(CHAIR)
    body = window.body("turn")
    rows = body.sides.candidates.rows
    assert rows[0].unit == "+Z"
    assert rows[0].share > 0.9
    assert set(body.sides.candidates.buttons) <= set(AXES)
    assert "others here have +Z up" in body.sides.why.text()
    window.click(body.sides.candidates.buttons["+Z"])
    draft = window.session.document.draft
    assert (draft.up, draft.front) == ("+Z", "-Y")


def test_findings_panels_card_and_guess_say_the_same(window):
    for file, outcome in window.session.outcomes.items():
        suspect = {f.code: f for f in outcome.findings}
        best = outcome.question.ranking.best
        assert outcome.answer.unit is outcome.question.ranking
        if "unit-suspect" in suspect:
            assert suspect["unit-suspect"].measure == best.metres
        if "up-suspect" in suspect:
            assert suspect["up-suspect"].message.startswith(f"{outcome.sides.ranking.best} seems to be up")
        assert file == outcome.file
    # Nothing is taken without a step on the sheet.
    assert {o.after.read.reading.source for o in window.session.outcomes.values()} == {"assumed"}
    # The card of the line-up has the very rows of the panel.
    window.stage("size")
    window.pick(BED)
    window.click(window.window.views.tabs["line-up"])
    assert window.window.views.lineup.card.candidates.rows == window.body("size").question.candidates.rows
    window.click(window.window.views.tabs["bench"])
    # The guess, kept on the sheet by its button, takes that very answer.
    window.stage("size")
    best = {f: o.question.ranking.best.metres for f, o in window.session.outcomes.items()}
    window.pick(CHAIR)
    window.click(window.window.panel.scope.which.buttons["all"])
    window.click(window.body("size").unit.buttons["guess"])
    window.click(window.window.panel.keep)
    assert window.steps() == ["Unit: guess"]
    got = {f: o.after.read.reading.metres_per_unit for f, o in window.session.outcomes.items()}
    assert got == pytest.approx(best)
    doubted = {f for f, o in window.session.outcomes.items() if o.after.warnings}
    assert doubted == {f for f, o in window.session.outcomes.items() if not o.question.ranking.certain}


def test_the_one_click_step_of_a_finding_does_just_what_it_says(window):
    window.stage("turn")
    window.window.panel_desk.settle("up-suspect")
    window.settle()
    draft = window.session.document.draft
    message = next(f.message for f in window.session.outcomes[CHAIR].findings if f.code == "up-suspect")
    assert message.startswith(f"{draft.up} seems to be up")
    window.click(window.window.panel.keep)
    assert "up-suspect" not in codes(window, CHAIR)


def test_up_and_front_can_be_guessed_for_the_next_batch_too(window):
    window.stage("turn")
    window.click(window.window.panel.scope.which.buttons["all"])
    window.click(window.body("turn").up.buttons["guess"])
    draft = window.session.document.draft
    assert (draft.up, draft.front) == ("guess", "guess")
    window.click(window.window.panel.keep)
    sheet = window.session.document.sheet
    up = window.session.outcomes[CHAIR].after.read.reading.up
    assert up == "+Z"
    # Alone, and without the window, it says the same of this one.
    assert evaluate(window.session.assets[CHAIR], sheet).read.reading.up == "+Z"
    assert len(find_sources([window.session.paths[0]])) == 11
