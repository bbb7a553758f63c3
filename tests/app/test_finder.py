"""The finder, the tray and the keys, worked as a person does: letters, Enter, clicks, the right button, a restart."""

from __future__ import annotations

import json
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QAbstractButton, QApplication, QCheckBox, QLabel, QPushButton, QWidget

from oak_square.app.facts.finder import FinderEntry, ranked
from oak_square.app.facts.findings import finding_groups
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.habits import Habits, read_habits
from oak_square.app.session.session import Session
from oak_square.app.widgets.entries import LengthEdit
from oak_square.app.widgets.finder import pin_rect
from oak_square.app.window import Window
from oak_square.core.findings.finding import KINDS
from oak_square.core.stages import STAGES
from oak_square.delivery.proving import prove
from tests.patience import WAIT_MS

CTRL = Qt.KeyboardModifier.ControlModifier


def find(hand, letters):
    hand.key(Qt.Key.Key_K, CTRL)
    assert hand.window.finder.field.hasFocus()
    hand.qtbot.keyClicks(hand.window.finder.field, letters)
    return hand.window.finder.found


def run(hand, letters, name):
    found = find(hand, letters)
    at = [entry.name for entry in found].index(name)
    for _ in range(at):
        hand.key(Qt.Key.Key_Down)
    hand.key(Qt.Key.Key_Return)
    assert not hand.window.finder.isVisible()


# What letters mean


def test_beginnings_come_before_what_lies_within_and_that_before_scattered_letters():
    words = ["square up", "oak square", "disquare", "s, q, u and are"]
    entries = [FinderEntry(name=f"action:{w}", words=w) for w in words[::-1]]
    assert [e.words for e in ranked(entries, "square")] == words
    assert [e.words for e in ranked(entries, "squp")] == ["square up"]


def test_words_are_found_in_any_order_and_by_their_hints():
    entries = [
        FinderEntry(name="part:a", words="heel_post", hint="gate_leaf.glb"),
        FinderEntry(name="part:b", words="post"),
    ]
    assert [e.words for e in ranked(entries, "gate heel")] == ["heel_post"]
    assert ranked(entries, "zzz") == []
    assert [e.words for e in ranked(entries, "")] == ["heel_post", "post"]


@given(st.lists(st.text(min_size=1, max_size=12), max_size=8), st.text(max_size=6))
def test_any_letters_find_a_part_of_what_there_is_and_each_entry_its_own_name(words, letters):
    entries = [FinderEntry(name=f"asset:{k}", words=w) for k, w in enumerate(words)]
    found = ranked(entries, letters)
    assert {e.name for e in found} <= {e.name for e in entries}
    for entry in entries:
        assert entry in ranked(entries, entry.words)


# Finding and running


def test_an_action_is_run_and_the_keys_go_back_to_where_they_were(hand, batch):
    hand.open(batch)
    hand.window.batch.setFocus()
    run(hand, "line-up", "action:view.line-up")
    assert hand.window.views.view == "line-up"
    assert hand.window.batch.hasFocus()
    assert QKeySequence("L").toString() in {k for e in find(hand, "swap bench line") for k in e.keys}
    hand.key(Qt.Key.Key_Escape)
    assert not hand.window.finder.isVisible()


def test_a_means_is_found_behind_its_stage_its_page_and_its_fold(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    run(hand, "size extent height", "means:size.extents.height")
    assert hand.session.stage == "size"
    field = hand.body("size").extents["height"]
    assert field.hasFocus()
    hand.qtbot.keyClicks(field, "2 m")
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Height 2 m"]
    run(hand, "pivot base", "means:pivot.places.buttons.base")
    assert hand.session.document.draft.title() == "Pivot: base of asset"
    hand.key(Qt.Key.Key_Escape)
    run(hand, "size factor", "means:size.pages.tabs.buttons.factor")
    assert not hand.body("size").about.isVisible()
    run(hand, "size middle", "means:size.about.kinds.buttons.middle")
    assert hand.body("size").about.isVisible()


def test_what_takes_nothing_now_says_so(hand, batch):
    hand.open(batch)
    run(hand, "keep as step", "action:panel.keep")
    assert "takes nothing now" in hand.window.foot.words.text()


def test_assets_parts_marks_datums_berths_and_findings_are_found_and_gone_to(hand, batch):
    hand.open(batch)
    mark = "{on: '*', kind: vertex, where: [0, 0, 0]}"
    named = "datums: {sill: {at: [0, 1, 0]}}\nberths: {quay: {at: [1, 0, 0]}}\n"
    text = f"prep-sheet: 1\n{named}marks: {{tip: {mark}}}\n"
    (batch / "s.prepsheet.yaml").write_text(text)
    hand.open(batch / "s.prepsheet.yaml")
    run(hand, "windlass.stl", "asset:windlass.stl")
    assert hand.session.lead == "windlass.stl"
    part = next(e for e in find(hand, "part") if e.kind == "part" and e.hint == "milepost.glb")
    hand.key(Qt.Key.Key_Escape)
    run(hand, f"{part.words} milepost", part.name)
    assert (hand.session.lead, len(hand.session.nodes)) == ("milepost.glb", 1)
    run(hand, "sill", "datum:sill")
    assert hand.session.document.grip.datum == "sill"
    run(hand, "tip", "mark:tip")
    assert len(hand.session.nodes) == 1
    run(hand, "quay", "berth:quay")
    assert hand.session.document.sheet.steps[-1].words()["at"] == {"berth": "quay"}
    run(hand, "scale left on a node", "finding:scale-unbaked")
    assert hand.session.stage == "bake"
    assert hand.session.document.draft is None
    run(hand, "settle scale left", "finding:settle/scale-unbaked")
    assert hand.session.document.draft.do == "bake"


def test_a_setting_is_found_and_set(hand, batch):
    hand.open(batch)
    run(hand, "inches to 1/16", "setting:foot.unit.ft-in/16")
    assert hand.session.unit.kind == "ft-in"
    run(hand, "by name", "setting:sort.sort/name")
    assert hand.window.sort.arrangement[0] == "name"


def test_nothing_of_that_name_says_so_and_enter_does_nothing(hand, batch):
    hand.open(batch)
    assert find(hand, "qqqqxz") == []
    assert hand.window.finder.nothing.isVisible()
    hand.key(Qt.Key.Key_Return)
    assert hand.window.finder.isVisible()
    hand.key(Qt.Key.Key_Escape)


def test_every_control_of_every_stage_is_found_and_each_under_one_name(hand, batch):
    hand.open(batch)
    entries = hand.window.finder_desk.entries()
    names = [e.name for e in entries]
    assert len(set(names)) == len(names)
    found = {c.target for c in hand.window.finder_desk.controls()}
    for stage in STAGES[1:]:  # what Receive has to press are its findings
        body = hand.body(stage)
        kinds = (QPushButton, QCheckBox, LengthEdit)
        there = [w for kind in kinds for w in body.findChildren(kind) if w.text() or w.accessibleName()]
        missing = [w.accessibleName() or w.text() for w in there if w not in found and not w.isHidden()]
        assert not missing, stage
    for row in hand.window.deeds.rows():
        assert not row.name or f"action:{row.name}" in names or f"setting:{row.name}" in names


# The tray


@pytest.fixture
def kept(tmp_path):
    return tmp_path / "config" / "window.json"


def test_the_tray_is_filled_from_the_finder_and_from_any_control_ordered_kept_and_run(hand, batch, kept, qtbot):
    hand.window.habits._path = kept
    hand.open(batch)
    find(hand, "swap bench line-up")
    row = hand.window.finder.list.visualRect(hand.window.finder.model.index(0))
    qtbot.mouseClick(hand.window.finder.list.viewport(), Qt.MouseButton.LeftButton, pos=pin_rect(row).center())
    assert hand.window.finder.isVisible()
    hand.key(Qt.Key.Key_Escape)
    hand.stage("pivot")
    base = hand.body("pivot").places.buttons["base"]
    name = hand.window.finder_desk._name_of(base)
    hand.window.finder_desk.menu_for(base, name).actions()[-1].trigger()
    first, second = (b.text() for b in hand.window.tray.buttons)
    assert (first, second) == ("Swap Bench and Line-up", "Pivot › base")
    hand.window.tray.buttons[1].setFocus()
    hand.key(Qt.Key.Key_Left, CTRL)
    assert [b.text() for b in hand.window.tray.buttons] == [second, first]
    assert hand.window.tray.buttons[0].hasFocus()
    start, end = (b.rect().center() for b in hand.window.tray.buttons)
    button = hand.window.tray.buttons[0]
    away = hand.window.tray.buttons[1].mapTo(hand.window, end) - button.mapTo(hand.window, start)
    qtbot.mousePress(button, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(button, start + QPoint(away.x() // 2, 0))
    qtbot.mouseMove(button, start + QPoint(away.x() // 2 + 30, 0))
    qtbot.mouseRelease(button, Qt.MouseButton.LeftButton, pos=start)
    assert [b.text() for b in hand.window.tray.buttons] == [first, second]
    assert hand.session.document.draft is None
    hand.key(Qt.Key.Key_2, CTRL)
    assert hand.session.document.draft.title() == "Pivot: base of asset"
    hand.window.habits.flush()
    # A restart has them in the same order; Del takes one out.
    again = Window(Session(), habits=HabitBook(kept))
    qtbot.addWidget(again)
    again.show()
    assert [b.text() for b in again.tray.buttons] == [first, second]
    assert set(again.panel.bodies.made()) == {"receive", "pivot"}, "no more forms than the tray reaches into"
    again.tray.buttons[0].setFocus()
    qtbot.keyClick(again.tray.buttons[0], Qt.Key.Key_Delete)
    assert [b.text() for b in again.tray.buttons] == [second]
    again.close()
    assert json.loads(kept.read_text())["tray"] == [name]


def test_what_is_not_there_now_stays_in_the_tray_unseen(hand, batch):
    hand.window.habits.change(tray=("asset:windlass.stl", "action:undo"))
    assert [e.name for e in hand.window.tray.shown] == ["action:undo"]
    hand.open(batch)
    assert [e.name for e in hand.window.tray.shown] == ["asset:windlass.stl", "action:undo"]


# Keys


def test_a_key_is_changed_a_clash_told_and_all_is_as_at_first_again(hand, batch, qtbot):
    hand.open(batch)
    sheet = hand.window.finder_desk.open_keys()
    qtbot.addWidget(sheet)
    sheet.filter.setText("swap bench and line-up")
    assert sheet.table.rowCount() == 1
    sheet.edit.setKeySequence(QKeySequence("G"))
    assert "is the key of “Lay the face under the pointer on the ground”" in sheet.says.text()
    assert sheet.give.isEnabled()
    sheet.edit.setKeySequence(QKeySequence("X"))
    assert not sheet.give.isEnabled()
    assert "Hold a drag to that axis" in sheet.says.text()
    sheet.edit.setKeySequence(QKeySequence("F3"))
    assert sheet.says.text() == "F3 is free."
    qtbot.mouseClick(sheet.give, Qt.MouseButton.LeftButton)
    hand.window.activateWindow()
    hand.window.batch.setFocus()
    hand.key(Qt.Key.Key_F3)
    assert hand.window.views.view == "line-up"
    assert hand.window.habits.now.keys == {"view.line-up": ("F3",)}
    qtbot.mouseClick(sheet.all_back, Qt.MouseButton.LeftButton)
    assert hand.window.habits.now.keys == {}
    hand.window.batch.setFocus()
    hand.key(Qt.Key.Key_L)
    assert hand.window.views.view == "bench"
    sheet.close()


def test_a_key_that_is_given_away_is_had_by_one_alone(hand):
    deeds = hand.window.deeds
    deeds.give("view.line-up", ["G"])
    assert (deeds.keys("view.line-up"), deeds.keys("lay-face")) == (("G",), ())
    deeds.as_first("lay-face")
    assert (deeds.keys("view.line-up"), deeds.keys("lay-face")) == ((), ("G",))


def test_enter_and_esc_keep_what_they_do_whatever_else_does_it_too(hand, batch, qtbot):
    hand.open(batch)
    sheet = hand.window.finder_desk.open_keys()
    qtbot.addWidget(sheet)
    sheet.filter.setText("open a folder")
    sheet.edit.setKeySequence(QKeySequence("Esc"))
    assert sheet.says.text() == "Esc can't be given: everywhere it is for “Leave what was begun last”."
    assert not sheet.give.isEnabled()
    sheet.filter.setText("begun last")
    assert not sheet.none.isEnabled()
    sheet.edit.setKeySequence(QKeySequence("F3"))
    qtbot.mouseClick(sheet.give, Qt.MouseButton.LeftButton)
    sheet.close()
    deeds = hand.window.deeds
    assert deeds.keys("drop") == ("Esc", "F3")
    deeds.take_up({"keep": (), "undo": ("Esc",)})
    assert (deeds.keys("keep"), deeds.keys("drop"), deeds.keys("undo")) == (("Return", "Enter"), ("Esc",), ())


OF_A_KEY = re.compile(r"\b(Ctrl|Alt|Shift)\+\w+|\bF\d+\b|\(([A-Z0-9])\)|(?<![-−+])\b[A-Z] (?=[a-z]+s\b)")  # no axis
STAY = {
    "Ctrl+Left",
    "Ctrl+Right",
    "Ctrl+Enter",
    "Ctrl+C",
}  # they are the parts' own; in the keys' sheet under what stays


def said_of_keys(window):
    texts = [w.toolTip() for w in window.findChildren(QWidget)]
    texts += [w.text() for kind in (QLabel, QAbstractButton) for w in window.findChildren(kind)]
    texts += [window.bench.facts.notice, window.batch.empty, *(step.text for step in window.beginning.tour())]
    return {m.group(0): t for t in texts for m in OF_A_KEY.finditer(t) if m.group(0) not in STAY}


def test_what_is_said_of_a_key_is_said_of_the_one_that_does_it_now(hand):
    window, deeds = hand.window, hand.window.deeds
    assert len([window.panel.bodies[stage] for stage in STAGES]) == len(STAGES)
    hand.session.messages.said.emit("The gates are shut")
    hand.settle()
    assert window.foot.words.toolTip() == "The gates are shut\nAll that was said is on a list (F8)"
    assert window.bench.facts.notice == "Drop a folder of models here, or open one (Ctrl+O)"
    assert window.views.instruments["dial"].toolTip().endswith("(3)")
    assert len(said_of_keys(window)) > 10
    deeds.give("open-folder", ["Ctrl+J"])
    deeds.give("hold.dial", ["T"])
    hand.qtbot.waitUntil(lambda: window.bench.facts.notice.endswith("(Ctrl+J)"), timeout=WAIT_MS)  # by itself
    assert window.bench.facts.notice == "Drop a folder of models here, or open one (Ctrl+J)"
    assert window.batch.empty == "Nothing is open. Drop a folder of models here, or open one (Ctrl+J)."
    assert window.views.instruments["dial"].toolTip() == "Turn what is selected about the centre in force (T)"
    for row in deeds.rows():
        if row.name:
            deeds.give(row.name, [])
    hand.settle()
    assert said_of_keys(window) == {}
    assert window.views.instruments["dial"].toolTip() == "Turn what is selected about the centre in force"


def test_no_two_actions_have_one_key_at_first(hand):
    for row in hand.window.deeds.rows():
        for key in row.keys if row.name else ():
            other = hand.window.deeds.whose(key, row.name)
            assert other is None or not other.name, (row.words, key, other)


# Habits


@pytest.mark.parametrize(
    "text", [b"", b"null", b"[1]", b"{", b'{"tray": 5, "keys": {"a": 1}}', b'\xff\xfe{"tray"', b'{"tray": [{"x": 1}]}']
)
def test_spoilt_habits_are_as_at_first(text):
    assert read_habits(text) == Habits()


def test_of_habits_what_can_be_read_is_kept():
    assert read_habits(b'{"tray": ["action:undo"], "keys": 7, "of-tomorrow": 1}') == Habits(tray=("action:undo",))


def test_habits_that_cant_be_written_are_told_of_and_hold_meanwhile(tmp_path):
    (tmp_path / "file").write_text("")
    book = HabitBook(tmp_path / "file" / "window.json")
    book.change(tray=("action:undo",))
    book.flush()
    assert book.trouble
    assert book.now.tray == ("action:undo",)


# By keyboard alone


def test_the_whole_job_is_done_by_keyboard_alone(hand, batch, tmp_path):
    hand.open(batch)
    hand.window.activateWindow()
    hand.window.batch.setFocus()
    hand.key(Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    run(hand, "gate_leaf.glb", "asset:gate_leaf.glb")
    for letters, name in (
        ("size centimetre", "means:size.unit.buttons.cm"),
        ("bake rotation scale", "means:bake.usual"),
        ("place bottom ground", "means:place.ground"),
    ):
        run(hand, letters, name)
        assert hand.session.document.draft is not None
        hand.key(Qt.Key.Key_Return)
        assert hand.session.document.draft is None
    hand.key(Qt.Key.Key_7, Qt.KeyboardModifier.AltModifier)
    run(hand, "deliver folder", "means:deliver.folder")
    hand.qtbot.keyClicks(hand.body("deliver").folder, str(tmp_path / "out"))
    for _ in range(20):
        hand.key(Qt.Key.Key_Tab)
        if QApplication.focusWidget() is hand.body("deliver").run:
            break
    hand.key(Qt.Key.Key_Space)
    hand.settle()
    told = json.loads((tmp_path / "out" / "delivery.json").read_text())
    (leaf,) = (each for each in told["assets"] if each["source"] == "gate_leaf.glb")
    assert leaf["status"] == "delivered"
    assert leaf["size_after_m"]["width"] == pytest.approx(3.96)
    assert all(trouble.trouble is None for trouble in prove(tmp_path / "out"))


# The manual


def test_f1_looks_up_the_stage_one_is_at_and_shows_the_same_pages(hand, batch):
    hand.open(batch)
    hand.stage("pivot")
    hand.window.batch.setFocus()
    hand.key(Qt.Key.Key_F1)
    assert hand.window.finder.isVisible()
    assert hand.window.finder.found[0].name == "manual:steps_pivot"
    hand.key(Qt.Key.Key_Return)
    shown = hand.window.finder_desk.open_manual("steps_pivot")
    assert shown.isVisible()
    assert shown.list.currentItem().text() == "The steps of Pivot"
    assert "Moves and turns pivots" in shown.text.toPlainText()
    shown.open_page("findings")
    assert "scale left on a node" in shown.text.toPlainText()
    shown.close()


PLAIN = [
    ("export", "means:deliver.run"), ("import", "action:open-folder"), ("align", "action:square"),
    ("zero", "action:zero"), ("ground", "action:ground"), ("clean", "means:bake.usual"),
    ("dark", "setting:tone.dark"), ("language", "setting:language.de"), ("text size", "setting:text.125"),
    ("rotate", "action:hold.dial"), ("separate", "means:bake.forms.split.more.button"), ("help", "action:manual"),
    ("shortcuts", "action:keys"), ("preferences", "setting:tone.light"), ("rename", "setting:hold.things"),
]  # fmt: skip


def test_plain_words_lead_somewhere_and_are_not_shown(hand):
    offered = hand.window.finder_desk.entries()
    words = {entry.name: entry.words.casefold() for entry in offered}
    for letters, name in PLAIN:
        found = [entry.name for entry in ranked(offered, letters)[:12]]
        assert name in found, (letters, found)
        assert letters not in words[name] or letters == "ground"
    assert ranked(offered, "bake rotation")[0].name == "means:bake.usual"


SYMPTOMS = [
    ("physics", "scale-unbaked"), ("collision", "scale-unbaked"), ("gravity", "unit-suspect"),
    ("flickers", "far-from-origin"), ("upside down", "up-suspect"), ("too big", "unit-suspect"),
    ("hinge", "pivot-outside"),
]  # fmt: skip


def test_what_is_seen_downstream_leads_to_what_may_cause_it_with_how_many_have_it(hand, batch):
    hand.open(batch)
    groups = {group.code: group for group in finding_groups(hand.session)[0]}
    entries = hand.window.finder_desk.entries()
    for symptom, code in SYMPTOMS:
        found = {entry.name: entry for entry in ranked(entries, symptom)[:12]}
        count = len(groups[code].files)
        assert found[f"finding:{code}"].hint == (f"{count} assets" if count > 1 else groups[code].files[0]), symptom
    run(hand, "collision", "finding:scale-unbaked")
    assert set(hand.session.selection) == set(groups["scale-unbaked"].files)
    assert all(kind.symptoms for kind in KINDS.values())


def test_each_row_says_what_it_is(hand):
    words = {entry.name: entry.words for entry in hand.window.finder_desk.entries()}
    assert words["means:bake.shape.axes.kinds.buttons.own"].endswith("Along its own axes")
    assert words["means:place.centre.kinds.buttons.base"].endswith("About base")
    assert {"Swing from", "Swing to"} <= set(words.values())


def test_f1_on_an_instrument_brings_its_page_first(hand):
    hand.window.views.instruments["dial"].setFocus()
    hand.window.finder_desk.open_help()
    assert hand.window.finder.found[0].name == "manual:steps_turn"
    hand.window.finder.leave()
    hand.window.desk.take_up("callipers")
    hand.window.finder_desk.open_help()
    assert hand.window.finder.found[0].name == "manual:steps_size"
