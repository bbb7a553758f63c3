"""What is settled about the window is there again at the next start; and as at first, whenever that is wanted."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QSize, Qt
from PySide6.QtWidgets import QFileDialog

from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.habits import Arrangement
from oak_square.app.session.session import Session
from oak_square.app.window import Window
from tests.app.conftest import Hand
from tests.patience import WAIT_MS


@pytest.fixture
def path(tmp_path):
    return tmp_path / "config" / "window.json"


@pytest.fixture
def begin(qtbot, path, qapp):
    """Return what starts the window anew with the habits that were kept, and ends the one before."""
    hands = []

    def start():
        if hands:
            hands[-1].window.close()
        hand = Hand(qtbot, habits=HabitBook(path))
        hands.append(hand)
        hand.window.standing.restore()
        hand.settle()
        hand.window.resize(1280, 800) if len(hands) == 1 else None
        return hand

    yield start
    hands[-1].window.close()


def drag_edge(hand, side, by):
    edge = hand.window.frame._edges[side]
    middle = edge.rect().center()
    hand.qtbot.mousePress(edge, Qt.MouseButton.LeftButton, pos=middle)
    hand.qtbot.mouseMove(edge, middle + QPoint(by, 0))
    hand.qtbot.mouseRelease(edge, Qt.MouseButton.LeftButton, pos=middle)


def test_where_things_stand_is_as_it_was_when_the_window_was_closed(begin, batch, path):
    hand = begin()
    hand.open(batch)
    drag_edge(hand, 0, 60)
    drag_edge(hand, 1, -50)
    assert (hand.window.column.width(), hand.window.panel.width()) == pytest.approx((322, 356), abs=4)
    hand.window.column.set_share(0.4)
    hand.window.standing.note()
    hand.key(Qt.Key.Key_L)
    hand.window.sort.items["sort", "name"].trigger()
    hand.window.resize(1400, 820)
    hand.qtbot.waitUntil(lambda: HabitBook(path).now.arrangement.sort == "name", timeout=WAIT_MS)
    widths, share = hand.window.frame.widths, hand.window.column.share
    again = begin()
    assert again.window.size() == QSize(1400, 820)
    assert again.window.frame.widths == widths
    assert again.window.column.width() == widths[0]
    assert again.window.column.share == pytest.approx(share, abs=0.01)
    assert again.window.views.view == "line-up"
    assert again.window.sort.arrangement == ("name", "none")


def test_shown_units_and_how_a_hand_works_are_kept(begin, batch):
    hand = begin()
    hand.open(batch)
    hand.window.foot.unit.actions_["ft-in/32"].trigger()
    hand.click(hand.window.hold_bar.switches["edge"])
    hand.click(hand.window.hold_bar.switches["grid"])
    hand.window.hold_bar.step_wished.emit(22.5)
    again = begin()
    assert (again.session.unit.kind, again.session.unit.denominator) == ("ft-in", 32)
    assert not again.window.hold_bar.switches["edge"].isChecked()
    assert again.window.hold_bar.switches["vertex"].isChecked()
    assert again.window.hold_bar.switches["grid"].isChecked()
    assert again.window.desk.display.settings.angle_step_deg == 22.5


def test_arrangements_have_names_and_as_it_was_at_first_is_always_there(begin, batch):
    hand = begin()
    hand.open(batch)
    hand.window.frame.set_widths(300, 400)
    hand.window.standing.keep_as("wide forms")
    drag_edge(hand, 0, 30)
    hand.key(Qt.Key.Key_L)
    again = begin()
    menu = again.window.standing._menu
    {a.text(): a for a in menu.actions()}["Arrangement wide forms"].trigger()
    assert again.window.frame.widths == (300, 400)
    assert again.window.views.view == "bench"
    {a.text(): a for a in menu.actions()}["As it was at first"].trigger()
    assert again.window.standing.present() == Arrangement()
    {a.text(): a for a in menu.actions()}["Forget arrangement wide forms"].trigger()
    assert not again.window.habits.now.arrangements
    assert "As it was at first" in {a.text() for a in menu.actions()}


def test_recent_batches_and_sheets_are_offered_and_opened_again(begin, batch, tmp_path):
    hand = begin()
    hand.open(batch)
    sheet = tmp_path / "work.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\nsteps: [{do: bake}]\n")
    hand.open(sheet)
    again = begin()
    assert not again.session.rows
    for menu in (again.window.standing._batches, again.window.standing._sheets):
        menu.actions()[0].trigger()
        again.settle()
    assert len(again.session.rows) == len(hand.session.rows)
    assert again.session.sheet.path == sheet
    sheet.unlink()
    again.window.standing._sheets.actions()[0].trigger()
    assert "is not there any more" in again.window.foot.words.text()


def test_dialogs_begin_where_the_last_one_was_left(begin, batch, monkeypatch):
    asked = []

    def answer(_owner, _title, start):
        asked.append(start)
        return str(batch)

    monkeypatch.setattr(QFileDialog, "getExistingDirectory", answer)
    begin().window.deeds["open-folder"].trigger()
    begin().window.deeds["open-folder"].trigger()
    assert asked == ["", str(batch.parent)]


def test_a_batch_is_delivered_where_it_was_last_and_another_where_it_lies(begin, batch, tmp_path):
    other = tmp_path / "other"
    other.mkdir()
    (other / "windlass.stl").write_bytes((batch / "windlass.stl").read_bytes())
    hand = begin()
    hand.open(batch)
    hand.stage("deliver")
    body = hand.body("deliver")
    assert body.folder.text() == str(batch) + "_delivery"
    body.folder.setText(str(batch / "within"))
    hand.click(body.run)
    body.folder.setText(str(tmp_path / "looked at"))
    hand.click(body.look)
    assert hand.window.habits.now.deliveries == {}  # it was refused there, and only looked at here
    body.folder.setText(str(tmp_path / "out"))
    hand.click(body.run)
    assert (tmp_path / "out" / "delivery.json").is_file()
    again = begin()
    again.open(batch)
    again.stage("deliver")
    assert again.body("deliver").folder.text() == str(tmp_path / "out")
    third = begin()
    third.open(other)
    third.stage("deliver")
    assert third.body("deliver").folder.text() == str(other) + "_delivery"


def test_columns_keep_the_middle_its_room_and_their_words_theirs(qtbot):
    window = Window(Session())
    qtbot.addWidget(window)
    window.resize(1280, 800)
    window.show()
    window.frame.set_widths(5000, 5000)
    middle = window.views.parentWidget().width()
    assert middle >= 470
    window.frame.set_widths(0, 0)
    assert (window.column.width(), window.panel.width()) == (220, 306)
    window.close()
