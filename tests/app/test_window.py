"""The whole job through the real window: clicks, keys, and what the widgets then show."""

from __future__ import annotations

import json

import numpy as np
import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QWheelEvent
from PySide6.QtWidgets import QApplication, QPushButton

from oak_square.app.view import bench as bench_module
from oak_square.app.widgets.batch_list import tick_rect
from oak_square.core.boxes import asset_box
from oak_square.sheet.dumping import dump_sheet
from tests.patience import WAIT_MS
from tests.runs import troubles

TITLES = [
    "Unit: cm",
    "Unit: in",
    "Unit: mm",
    "Up +Z, front −Y",
    "Bake: rotation, scale",
    "Pivot: base of parts",
    "Pivot: base of asset",
    "Place: origin, on the ground",
]
NOTE_OF = {"size": "3 to settle", "turn": "1 to settle", "pivot": "5 to settle", "bake": "2 to settle"}


def test_the_whole_job_by_hand_and_all_of_it_undone(hand, batch, tmp_path):
    window = hand.window
    hand.open(batch)
    settle_by_hand(hand)
    assert hand.steps() == TITLES
    assert all(window.ruler.note(s) == "all true" for s in (*NOTE_OF, "place"))
    assert all(r.marks == (("all", "true"),) for r in window.batch.shown)
    deliver_by_hand(hand, tmp_path / "delivery")

    # Everything undoes, and says what it undid.
    count = len(hand.session.sheet.history.past)
    for _ in range(count):
        hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        assert window.foot.words.text().startswith("Undid: ")
    assert hand.steps() == []
    assert hand.session.document.draft is None
    assert {s: window.ruler.note(s) for s in NOTE_OF} == NOTE_OF
    assert hand.row("lamp_standard.obj").detail == "24.02 × 24.02 × 204.7 m · obj"
    hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.foot.words.text() == "Nothing to undo"
    for _ in range(count):
        hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert hand.steps() == TITLES


def settle_by_hand(hand):
    """Every trouble of the demo batch, settled with the mouse and Enter."""
    window = hand.window
    assert {s: window.ruler.note(s) for s in NOTE_OF} == NOTE_OF
    assert hand.row("lamp_standard.obj").detail == "24.02 × 24.02 × 204.7 m · obj"

    # What unit each was made in.
    hand.stage("size")
    for file, unit in (("gate_leaf.glb", "cm"), ("lamp_standard.obj", "in"), ("windlass.stl", "mm")):
        hand.pick(file)
        hand.click(hand.body("size").unit.buttons[unit])
        assert [r.file for r in window.panel.effect.rows] == [file]
        hand.click(window.panel.keep)
    assert window.panel.effect.isHidden()
    assert window.ruler.note("size") == "all true"
    assert hand.row("windlass.stl").detail == "0.315 × 0.21 × 0.09 m · stl"

    # The lamp stands up.
    hand.stage("turn")
    hand.pick("lamp_standard.obj")
    hand.click(hand.body("turn").up.buttons["+Z"])
    (row,) = window.panel.effect.rows
    assert (row.before, row.after) == ("+Y up, 0.61 m tall", "+Z up, 5.20 m tall")
    hand.key(Qt.Key.Key_Return)

    # Clean channels, pivots, ground: for every asset of the batch.
    hand.stage("bake")
    hand.click(window.panel.scope.which.buttons["all"])
    hand.click(hand.body("bake").usual)
    assert window.panel.scope.says.text() == "Applies to <b>6 assets</b>, <b>19 parts</b>"
    assert next(r for r in window.panel.effect.rows if r.name == "narrowboat").before == "scale 0.0254"
    hand.key(Qt.Key.Key_Return)
    for target in ("parts", "whole"):
        hand.stage("pivot")
        hand.click(window.panel.scope.which.buttons["all"])
        hand.click(window.panel.scope.target.buttons[target])
        hand.click(hand.body("pivot").places.buttons["base"])
        hand.key(Qt.Key.Key_Return)
    hand.stage("place")
    hand.click(window.panel.scope.which.buttons["all"])
    hand.click(hand.body("place").origin, QPoint(8, 8))
    hand.click(hand.body("place").ground, QPoint(8, 8))
    hand.key(Qt.Key.Key_Return)


def deliver_by_hand(hand, out):
    """Run the delivery from the panel and read its proof there; once more, and it is refused."""
    # Delivered, and proved.
    hand.stage("deliver")
    deliver = hand.window.panel_desk.deliver_body
    deliver.folder.selectAll()
    hand.qtbot.keyClicks(deliver.folder, str(out))
    hand.click(deliver.run)
    assert deliver.outcome.text().startswith("6 of 6 delivered and proved")
    table = deliver.results.table
    rows = [k for k in range(table.rowCount()) if table.columnSpan(k, 0) == 1]
    statuses = {table.item(k, 0).text(): table.item(k, 1).text() for k in rows}
    assert statuses["milepost.glb"] == "unchanged"
    assert statuses["lamp_standard.obj"] == "delivered"
    assert not any(troubles(out).values())
    manifest = json.loads((out / "delivery.json").read_text())
    lamp = next(e for e in manifest["assets"] if e["source"] == "lamp_standard.obj")
    assert lamp["size_after_m"]["height"] == pytest.approx(5.2, abs=1e-4)

    # The same folder again is refused before anything is written, and says the way out.
    hand.click(deliver.run)
    assert "exists; choose another folder" in deliver.outcome.text()
    assert "--" not in deliver.outcome.text()  # options are for those who type commands


def test_a_finding_leads_to_the_step_that_settles_it_for_all_that_have_it(hand, batch):
    hand.open(batch)
    settle = hand.window.findChild(QPushButton, "settle-scale-unbaked")
    hand.click(settle)
    assert hand.session.stage == "bake"
    assert set(hand.session.selection) == {"mooring_bollards.glb", "narrowboat.glb"}
    assert [r.outcome for r in hand.window.panel.effect.rows] == ["applied", "applied"]
    assert hand.body("bake").channels["scale"].isChecked()
    assert not hand.body("bake").channels["rotation"].isChecked()
    hand.key(Qt.Key.Key_Escape)
    assert hand.session.document.draft is None
    assert hand.steps() == []


def test_a_draft_shows_live_and_leaves_nothing_when_dropped(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("size")
    hand.click(hand.body("size").unit.buttons["cm"])
    assert hand.window.bench.facts.sizes == ("3.96 m", "3.40 m", "0.415 m")
    assert hand.window.bench.facts.previewed
    assert hand.window.strip.shown[-1].kind == "draft"
    hand.click(hand.window.panel.drop)
    assert hand.window.bench.facts.sizes == ("396.0 m", "340.0 m", "41.50 m")
    assert hand.window.strip.shown == ()


def test_a_new_step_never_inherits_the_last_ones_scope(hand, batch):
    hand.open(batch)
    hand.stage("size")
    hand.click(hand.window.panel.scope.which.buttons["all"])
    hand.click(hand.body("size").unit.buttons["cm"])
    hand.key(Qt.Key.Key_Return)
    hand.pick("narrowboat.glb")
    hand.click(hand.body("size").unit.buttons["ft"])
    assert hand.session.document.draft.for_ == ["narrowboat.glb"]
    # By name: typed, and seen at once.
    hand.click(hand.window.panel.scope.which.buttons["names"])
    hand.window.panel.scope.globs.selectAll()
    hand.qtbot.keyClicks(hand.window.panel.scope.globs, "*.stl, gate_*")
    hand.settle()
    assert [r.file for r in hand.window.panel.effect.rows] == ["gate_leaf.glb", "windlass.stl"]


def test_a_kept_step_opens_from_its_card_and_is_changed(hand, batch):
    hand.open(batch)
    hand.stage("size")
    hand.pick("windlass.stl")
    hand.click(hand.body("size").unit.buttons["cm"])
    hand.key(Qt.Key.Key_Return)
    hand.stage("place")
    hand.click(hand.window.strip.cards[0])
    assert hand.session.stage == "size"
    assert hand.body("size").unit.choice == "cm"
    hand.click(hand.body("size").unit.buttons["mm"])
    assert hand.window.strip.shown[0].kind == "open"
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Unit: mm"]
    hand.window.strip.cards[0].setFocus()
    hand.key(Qt.Key.Key_Delete)
    assert hand.steps() == []


def test_clicks_in_the_view_pick_the_part_under_them(hand, batch):
    hand.open(batch)
    hand.pick("mooring_bollards.glb")
    bench = hand.window.bench
    asset = hand.session.outcomes["mooring_bollards.glb"].after.asset
    for i in asset.parts[:2]:
        name = asset.nodes[i].name
        world = asset.worlds[i][:3, 3] - [0, 0.35, 0]
        at = bench.lens().seen(np.array([world]))[0]
        hand.click(bench, QPoint(round(at[0]), round(at[1])))
        assert hand.session.nodes == (i,)
        assert hand.window.views.title.text() == f"mooring_bollards  ›  {name}"
        assert bench.facts.sizes[1] == "0.75 m"
        chosen = hand.window.hierarchy.tree.currentIndex()
        assert chosen.data() == name
    # A click on nothing lets it go.
    hand.click(bench, QPoint(5, bench.height() - 5))
    assert hand.session.nodes == ()


def test_orbit_pan_zoom_and_frame(hand, batch):
    hand.open(batch)
    bench, bot = hand.window.bench, hand.qtbot
    start = bench.camera
    bot.mousePress(bench, Qt.MouseButton.RightButton, pos=QPoint(300, 300))
    bot.mouseMove(bench, QPoint(360, 280))
    bot.mouseRelease(bench, Qt.MouseButton.RightButton, pos=QPoint(360, 280))
    assert bench.camera.azimuth_deg == pytest.approx((start.azimuth_deg - 24) % 360)
    assert bench.camera.elevation_deg == pytest.approx(start.elevation_deg - 8)
    assert hand.session.nodes == ()
    # Zooming keeps what is under the pointer there.
    pointer = QPointF(200, 220)
    eye, toward = bench.camera.ray(pointer.x(), pointer.y(), bench.width(), bench.height())
    depth = bench.camera.distance / float(toward @ -bench.camera.axes[2])
    point = eye + toward * depth
    wheel = QWheelEvent(
        pointer, bench.mapToGlobal(pointer), QPoint(), QPoint(0, 240), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(bench, wheel)
    assert bench.camera.distance < start.distance
    assert bench.lens().seen(np.array([point]))[0][:2] == pytest.approx([200, 220], abs=0.5)
    bot.mousePress(bench, Qt.MouseButton.MiddleButton, pos=QPoint(300, 300))
    bot.mouseMove(bench, QPoint(340, 330))
    bot.mouseRelease(bench, Qt.MouseButton.MiddleButton, pos=QPoint(340, 330))
    hand.key(Qt.Key.Key_Space)
    box = asset_box(hand.session.outcomes["gate_leaf.glb"].after.asset)
    seen = bench.lens().seen(np.array([box.low, box.high, box.middle]))
    assert (seen[:, 0] > 0).all()
    assert (seen[:, 0] < bench.width()).all()
    assert abs(seen[:, 0] - bench.width() / 2)[2] < bench.width() * 0.1


@pytest.mark.smooth
def test_frames_are_cheap_while_moving_and_fine_once_still(hand, batch, monkeypatch):
    hand.open(batch)
    bench, bot = hand.window.bench, hand.qtbot
    bot.waitUntil(lambda: not bench._still.isActive(), timeout=WAIT_MS)
    drawn = []
    real = bench._renderer.render

    def render(*words, fine, **more):
        drawn.append(fine)
        return real(*words, fine=fine, **more)

    monkeypatch.setattr(bench._renderer, "render", render)
    monkeypatch.setattr(bench_module, "_STILL_MS", 2_000)  # a slow machine must not take its own slowness for rest
    bot.mousePress(bench, Qt.MouseButton.RightButton, pos=QPoint(300, 300))
    for x in range(310, 360, 10):
        bot.mouseMove(bench, QPoint(x, 300))
        QApplication.processEvents()
    assert drawn == [False] * 5
    bot.mouseRelease(bench, Qt.MouseButton.RightButton, pos=QPoint(350, 300))
    bot.waitUntil(lambda: drawn[-1], timeout=WAIT_MS)


def test_assets_left_out_are_not_delivered(hand, batch, tmp_path):
    hand.open(batch)
    room = hand.window.batch.visualRect(hand.window.batch.place_of("windlass.stl"))
    hand.click(hand.window.batch.viewport(), tick_rect(room).center().toPoint())
    assert not hand.row("windlass.stl").included
    assert "1 left out" in hand.window.title.words
    hand.stage("deliver")
    hand.window.panel_desk.deliver_body.folder.setText(str(tmp_path / "out"))
    hand.click(hand.window.panel_desk.deliver_body.run)
    assert not (tmp_path / "out" / "windlass.stl").exists()
    assert (tmp_path / "out" / "milepost.glb").exists()


def test_a_broken_file_is_a_row_with_its_reason(hand, batch):
    (batch / "broken.glb").write_bytes(b"rubbish")
    hand.open(batch)
    assert hand.row("broken.glb").trouble == "is no GLB: it does not start with its mark"
    hand.pick("broken.glb")
    assert "it does not start with its mark" in hand.window.bench.facts.notice
    assert hand.window.ruler.note("receive") == "7 read, 1 not"


def test_an_animated_model_is_refused_before_it_is_bent(hand, tmp_path):
    from tests.made import GLOWING, triangle_document, write_glb

    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [2, 2, 2]}], animations=GLOWING)
    write_glb(tmp_path / "keeper.glb", document, binary)
    hand.open(tmp_path)
    hand.stage("bake")
    hand.click(hand.body("bake").usual)
    (row,) = hand.window.panel.effect.rows
    assert row.outcome == "refused"
    assert "its clips animate 'glow'" in hand.window.panel.consequences.lines.text()


def test_the_list_filters_by_typing_and_the_sheet_is_what_a_file_would_say(hand, batch):
    hand.open(batch)
    hand.key(Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    hand.qtbot.keyClicks(QApplication.focusWidget(), "lamp")
    hand.settle()
    assert [r.title for r in hand.window.batch.shown] == ["lamp_standard"]
    hand.stage("size")
    hand.click(hand.body("size").unit.buttons["in"])
    hand.click(hand.window.panel.keep)
    assert "{do: unit, for: [gate_leaf.glb], reads: in}" in dump_sheet(hand.session.document.sheet)


def test_an_empty_window_says_what_to_do(hand):
    hand.settle()
    assert "Drop a folder of models here" in hand.window.bench.facts.notice
    assert "nothing open yet" in hand.window.title.words
    hand.window.open_paths([])
    hand.key(Qt.Key.Key_Return)
    assert hand.window.foot.words.text().startswith("Nothing to keep yet")


def test_folders_and_sheets_are_dropped_anywhere(hand, batch, tmp_path):
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\ntitle: Dropped\nsteps:\n  - {do: bake}\n")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(batch)), QUrl.fromLocalFile(str(sheet))])
    words = (Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    entered = QDragEnterEvent(QPoint(400, 300), *words)
    QApplication.sendEvent(hand.window, entered)
    assert entered.isAccepted()
    QApplication.sendEvent(hand.window, QDropEvent(QPointF(400, 300), *words))
    hand.settle()
    assert len(hand.window.batch.shown) == 6
    assert hand.steps() == ["Bake: rotation, scale"]
    assert hand.window.title.words.endswith("Dropped")


def test_keys_go_to_stages_and_swap_the_views(hand, batch):
    hand.open(batch)
    for key, stage in ((Qt.Key.Key_5, "bake"), (Qt.Key.Key_7, "deliver"), (Qt.Key.Key_1, "receive")):
        hand.key(key, Qt.KeyboardModifier.AltModifier)
        assert hand.session.stage == stage
    hand.key(Qt.Key.Key_B)
    assert hand.window.views.view == "before-after"
    hand.click(hand.window.views.compare.sides[1])
    hand.key(Qt.Key.Key_B)
    assert hand.window.views.view == "bench"


def test_the_look_from_buttons_turn_the_camera_and_keep_it_framed(hand, batch):
    hand.open(batch)
    bench = hand.window.bench
    for word, direction in (("front", (0, 0, 1)), ("right", (1, 0, 0)), ("top", (0, 1, 0))):
        button = next(b for b in hand.window.views.findChildren(QPushButton) if b.text() == word and b.isVisible())
        hand.click(button)
        assert bench.camera.axes[2] @ direction == pytest.approx(1, abs=2e-4)
        seen = bench.lens().seen(bench.picture.box.corners)
        assert (seen[:, :2] > 0).all()
        assert (seen[:, :2] < [bench.width(), bench.height()]).all()
