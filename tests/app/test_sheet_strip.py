"""The prep sheet in the window: cards edited, paused, moved, removed; saved, opened, stepped back in time."""

from __future__ import annotations

import hashlib

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication

from oak_square import cli
from oak_square.demo import SHEET
from oak_square.sheet.text import load_sheet
from tests.patience import WAIT_MS


def kept(hand, stage, press):
    """Keep the step that a press makes, for the whole batch."""
    hand.stage(stage)
    hand.click(hand.window.panel.scope.which.buttons["all"])
    hand.click(press(hand.body(stage)), QPoint(8, 8))
    hand.key(Qt.Key.Key_Return)


@pytest.fixture
def three(hand, batch):
    """Three kept steps on the six models."""
    hand.open(batch)
    kept(hand, "bake", lambda b: b.usual)
    kept(hand, "pivot", lambda b: b.places.buttons["base"])
    kept(hand, "place", lambda b: b.ground)
    assert hand.steps() == ["Bake: rotation, scale", "Pivot: base of asset", "Place: on the ground"]
    return hand


def drag(hand, card, to_x):
    """Press a card, move to a window position, let go."""
    bot, view = hand.qtbot, hand.window.strip.cards[card]
    bot.mousePress(view, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    target = view.mapFrom(hand.window, QPoint(to_x, 0)).x()
    for x in (40, (20 + target) // 2, target):
        bot.mouseMove(view, QPoint(x, 20))
    bot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=QPoint(target, 20))
    hand.settle()


def middle_of(hand, card):
    view = hand.window.strip.cards[card]
    return view.mapTo(hand.window, QPoint(view.width() // 2, 0)).x()


def test_cards_are_dragged_to_another_place_and_back_by_undo(three):
    drag(three, 0, middle_of(three, 2) + 30)
    assert three.steps() == ["Pivot: base of asset", "Place: on the ground", "Bake: rotation, scale"]
    drag(three, 2, middle_of(three, 0) - 30)
    assert three.steps() == ["Bake: rotation, scale", "Pivot: base of asset", "Place: on the ground"]
    # A drop where it was is nothing.
    count = len(three.session.sheet.history.past)
    drag(three, 1, middle_of(three, 1) + 12)
    assert len(three.session.sheet.history.past) == count
    three.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert three.steps()[0] == "Pivot: base of asset"
    assert three.window.foot.words.text() == "Undid: Move Bake: rotation, scale to place 1"


def test_cards_move_pause_and_go_with_the_keyboard(three):
    card = three.window.strip.cards[0]
    card.setFocus()
    three.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert three.steps()[:2] == ["Pivot: base of asset", "Bake: rotation, scale"]
    three.window.strip.cards[1].setFocus()
    three.key(Qt.Key.Key_P)
    assert three.window.strip.shown[1].detail == "paused"
    assert three.window.ruler.note("bake") == "2 to settle"
    three.key(Qt.Key.Key_P)
    assert three.window.ruler.note("bake") == "all true"
    three.key(Qt.Key.Key_Delete)
    assert three.steps() == ["Pivot: base of asset", "Place: on the ground"]


def test_an_open_card_shows_the_batch_as_it_stood_after_it(three):
    three.pick("mooring_bollards.glb")
    after_all = three.window.bench.facts.pivots
    three.click(three.window.strip.cards[0])
    assert three.window.strip.shown[0].kind == "open"
    # Steps behind the open one do not run now: the bollards stand where they came in.
    box = three.window.bench.facts.box
    assert box.low[0] == pytest.approx(4.83, abs=0.01)
    three.click(three.body("bake").channels["scale"], QPoint(8, 8))
    three.key(Qt.Key.Key_Return)
    assert three.steps() == ["Bake: rotation", "Pivot: base of asset", "Place: on the ground"]
    assert three.window.bench.facts.box.low[0] == pytest.approx(-2.57, abs=0.01)
    assert len(three.window.bench.facts.pivots) == len(after_all)


def test_a_sheet_saved_in_the_window_does_the_same_on_the_command_line(three, batch, tmp_path, monkeypatch):
    saved = tmp_path / "by hand.prepsheet.yaml"
    three.window.files.save_sheet(saved)
    assert three.window.foot.words.text() == "Saved by hand.prepsheet.yaml"
    assert load_sheet(saved)[0] == three.session.document.sheet
    three.stage("deliver")
    three.window.panel_desk.deliver_body.folder.setText(str(tmp_path / "window"))
    three.click(three.window.panel_desk.deliver_body.run)
    monkeypatch.setattr("sys.argv", ["oak-square", "prep", str(saved), str(batch), "--out", str(tmp_path / "line")])
    with pytest.raises(SystemExit) as ended:
        cli.main()
    assert ended.value.code == 0

    def hashes(folder):
        return {p.name: hashlib.sha256(p.read_bytes()).hexdigest() for p in folder.iterdir() if p.is_file()}

    assert hashes(tmp_path / "window") == hashes(tmp_path / "line")
    assert "delivery.json" in hashes(tmp_path / "line")


def test_a_sheet_is_opened_changed_and_saved_with_its_comments(hand, lock, tmp_path):
    hand.open(lock)
    copy = tmp_path / "copy.prepsheet.yaml"
    copy.write_text(SHEET.read_text())
    hand.window.open_paths([copy])
    hand.settle()
    assert len(hand.window.strip.cards) == 10
    assert hand.window.title.words.endswith("Fenwick Lock, first delivery")
    assert all(hand.window.ruler.note(s) == "all true" for s in ("size", "turn", "pivot", "bake", "place"))
    # The windlass was made in inches after all; one step less besides.
    hand.click(hand.window.strip.cards[2])
    hand.click(hand.body("size").unit.buttons["in"])
    hand.key(Qt.Key.Key_Return)
    hand.window.strip.cards[9].setFocus()
    hand.key(Qt.Key.Key_Delete)
    hand.session.sheet.set_title("Second delivery")
    hand.settle()
    hand.window.files.save_sheet(copy)
    text, was = copy.read_text(), SHEET.read_text()
    expected = was.replace(
        '{do: unit, reads: mm, for: ["*.stl", "*.ply"]}', "{do: unit, for: ['*.stl', '*.ply'], reads: in}"
    )
    expected = expected.replace("title: Fenwick Lock, first delivery", "title: Second delivery")
    expected = expected.replace("  - {do: place, at: origin, ground: true}\n", "")
    assert text == expected


def test_a_bad_sheet_is_one_line_and_changes_nothing(three, tmp_path):
    bad = tmp_path / "bad.yaml"
    bad.write_text("prep-sheet: 1\nsteps:\n  - {do: bakee}\n")
    three.window.open_paths([bad])
    three.settle()
    assert "line 3: step 1: 'bakee' is no step; did you mean 'bake'?" in three.window.foot.words.text()
    assert len(three.steps()) == 3
    (tmp_path / "in the way").mkdir()
    three.window.files.save_sheet(tmp_path / "in the way")
    assert "can't be written" in three.window.foot.words.text()


def test_units_and_up_axis_of_the_delivery_are_on_the_sheet(three):
    three.stage("deliver")
    box = three.window.panel_desk.deliver_body.up
    box.setFocus()
    three.qtbot.keyClick(box, Qt.Key.Key_End)
    box.activated.emit(box.currentIndex())
    three.settle()
    assert three.session.document.sheet.deliver.up == "Z"
    three.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert three.session.document.sheet.deliver.up == "auto"
    assert three.window.panel_desk.deliver_body.up.currentData() == "auto"


def test_another_format_is_chosen_and_what_it_can_not_hold_is_said_before_a_file_is_written(three, tmp_path):
    three.stage("deliver")
    body = three.window.panel_desk.deliver_body
    assert not body.lost.isVisible()
    body.format.setCurrentIndex(body.format.findData("obj"))
    body.format.activated.emit(body.format.currentIndex())
    three.settle()
    assert three.session.document.sheet.deliver.format == "obj"
    assert "all as Wavefront OBJ" in body.summary.text()
    assert body.lost.isVisible()
    assert "gate_leaf.glb: Wavefront OBJ can't hold its hierarchy" in body.lost.toolTip()
    body.folder.setText(str(tmp_path / "objs"))
    three.click(body.run)
    three.qtbot.waitUntil(lambda: (tmp_path / "objs" / "delivery.json").exists(), timeout=WAIT_MS)
    three.settle()
    assert (tmp_path / "objs" / "gate_leaf.obj").is_file()
    table = body.results.table
    told = {table.item(k, 0).toolTip() for k in range(table.rowCount()) if table.item(k, 0).text() == "gate_leaf.glb"}
    assert "can't hold its hierarchy" in told.pop()


def test_before_and_after_share_one_camera_and_tell_their_numbers(hand, lock):
    hand.open(lock)
    hand.window.open_paths([SHEET])
    hand.settle()
    hand.pick("gate_leaf_twin.glb")
    hand.click(hand.window.views.tabs["before-after"])
    before, after = hand.window.views.compare.sides
    words = [label.text() for label in hand.window.views.compare.words]
    assert "pivot: 0.322 m off, 4 outside" in words[0]
    assert "pivot: <b>on its base</b>" in words[1]
    assert "bake: scale −1" in words[0]
    bot = hand.qtbot
    for bench in (after, before):
        bot.mousePress(bench, Qt.MouseButton.RightButton, pos=QPoint(100, 100))
        bot.mouseMove(bench, QPoint(150, 120))
        bot.mouseRelease(bench, Qt.MouseButton.RightButton, pos=QPoint(150, 120))
        assert before.camera.azimuth_deg == after.camera.azimuth_deg
        assert before.camera.elevation_deg == after.camera.elevation_deg
        assert before.camera.distance == pytest.approx(after.camera.distance)
    # Sizes too far apart for one scale are drawn each at its own, and that is said.
    hand.pick("lamp_standard.obj")
    assert "drawn 39.37 times smaller" in hand.window.views.compare.words[0].text()
    assert before.camera.distance == pytest.approx(after.camera.distance * 39.37, rel=1e-3)
    hand.click(hand.window.views.tabs["bench"])
    assert hand.window.bench.isVisible()
    assert QApplication.focusWidget() is not None


def test_what_is_only_tried_is_said_not_to_be_delivered(three):
    three.stage("turn")
    three.click(three.body("turn").up.buttons["+Z"])
    three.stage("deliver")
    assert "is not delivered until you keep it" in three.window.panel_desk.deliver_body.summary.text()
    three.key(Qt.Key.Key_Escape)
    assert "until you keep it" not in three.window.panel_desk.deliver_body.summary.text()


def test_the_command_line_can_open_a_window_on_a_sheet(batch, qapp):
    from oak_square.app.start import open_window, settle

    window = open_window([batch], SHEET)
    settle(window)
    assert window.session.sheet.text() == SHEET.read_text()
    assert len(window.strip.cards) == 10
    assert window.ruler.note("bake") == "all true"
    window.close()
