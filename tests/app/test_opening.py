"""The first minutes: what is offered before anything is open, the demo batch, the tour, and what empty places say."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QMimeData, QPoint, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDragLeaveEvent, QDropEvent

from oak_square.demo import BATCH


def texts(widget):
    return " ".join(w.text() for w in widget.findChildren(object) if hasattr(w, "text") and w.isVisible())


def test_the_opening_screen_stands_until_something_is_open_and_comes_back_when_it_is_closed(hand, batch):
    opening = hand.window.opening
    assert opening.isVisible()
    assert "None yet" in texts(opening)
    hand.open(batch)
    assert not opening.isVisible()
    hand.key(Qt.Key.Key_W, Qt.KeyboardModifier.ControlModifier)
    hand.settle()
    assert opening.isVisible()
    assert str(batch) in [b.toolTip() for b in opening.batches.buttons]
    hand.click(opening.batches.buttons[0])
    assert len(hand.session.rows) > 3


def test_what_is_gone_is_offered_no_more_but_said(hand, tmp_path):
    hand.window.habits.change(batches=((str(tmp_path / "gone"),),))
    hand.window.refresh()
    (button,) = hand.window.opening.batches.buttons
    assert not button.isEnabled()
    assert "not there any more" in button.toolTip()


def test_things_are_dropped_on_it_and_it_shows_that_it_takes_them(hand, batch):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(batch))])
    drop = hand.window.opening.drop
    keys, buttons = Qt.KeyboardModifier.NoModifier, Qt.MouseButton.LeftButton
    hand.window.dragEnterEvent(QDragEnterEvent(QPoint(600, 200), Qt.DropAction.CopyAction, data, buttons, keys))
    assert drop.over
    hand.window.dragLeaveEvent(QDragLeaveEvent())
    assert not drop.over
    hand.window.dropEvent(QDropEvent(QPoint(600, 200), Qt.DropAction.CopyAction, data, buttons, keys))
    hand.settle()
    assert hand.session.rows


def test_going_to_a_stage_leaves_it_for_whoever_begins_with_a_sheet(hand):
    hand.stage("bake")
    assert not hand.window.opening.isVisible()
    hand.stage("receive")
    assert hand.window.opening.isVisible()


def test_the_tour_leads_through_five_steps_of_the_demo_and_is_left_at_any_time(hand):
    hand.click(hand.window.opening.tour)
    card = hand.window.tour_card
    assert hand.session.paths == [BATCH]
    seen = []
    for _ in range(5):
        assert card.isVisible()
        assert hand.window.rect().contains(card.geometry())
        seen.append((hand.session.stage, card.title.text()))
        hand.click(card.on)
    assert [stage for stage, _ in seen] == ["receive", "size", "bake", "pivot", "deliver"]
    assert len({title for _, title in seen}) == 5
    assert not card.isVisible()
    hand.window.deeds["tour"].trigger()
    hand.settle()
    hand.click(card.on)
    # It is worked meanwhile, and Esc leaves it from anywhere.
    hand.pick("milepost.glb")
    assert hand.session.lead == "milepost.glb"
    hand.click(card.back)
    assert hand.session.stage == "receive"
    hand.window.batch.setFocus()
    hand.key(Qt.Key.Key_Escape)
    assert not card.isVisible()
    assert not hand.session.document.sheet.steps


def test_what_the_tour_says_of_bake_and_of_certain_units_can_be_done(hand):
    hand.click(hand.window.opening.tour)
    hand.click(hand.window.tour_card.on)
    assert hand.window.views.view == "line-up"
    hand.click(hand.body("size").question.take)
    assert any(step.startswith("Unit") for step in hand.steps())
    hand.click(hand.window.tour_card.on)
    before = len(hand.steps())
    hand.click(hand.body("bake").usual)
    assert hand.session.document.draft.do == "bake"
    hand.key(Qt.Key.Key_Return)
    assert len(hand.steps()) == before + 1
    hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert len(hand.steps()) == before


def test_the_tour_is_not_begun_over_work_of_ones_own(hand, batch):
    hand.open(batch)
    hand.window.deeds["tour"].trigger()
    assert not hand.window.tour_card.isVisible()
    assert "close what is open first" in hand.window.foot.words.text()


@pytest.mark.parametrize("view", ["bench", "line-up", "before-after", "set-out", "stand"])
def test_empty_views_say_what_to_do_next(hand, view):
    hand.stage("bake")
    hand.window._show_view(view)
    hand.settle()
    shown = {
        "bench": lambda: hand.window.desk.display.facts.notice,
        "before-after": lambda: hand.window.views.compare.sides[0].facts.notice,
        "line-up": lambda: hand.window.views.lineup.row._notice,
        "set-out": lambda: hand.window.views.set_out.bench.facts.notice,
        "stand": lambda: hand.window.views.stand.bench.facts.notice,
    }[view]()
    assert "folder of models" in shown or "Select an asset" in shown


def test_empty_lists_say_what_to_do_next(hand, batch):
    assert "Drop a folder" in hand.window.batch.empty
    assert "Select an asset" in texts(hand.window.hierarchy)
    hand.open(batch)
    hand.window.filter.setText("qqqq")
    hand.settle()
    assert "Esc" in hand.window.batch.empty
