"""The set-out view: the batch standing as one scene, models dragged onto berths, rows changed, and delivered so."""

from __future__ import annotations

import json

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication

from tests.app import lockworks
from tests.app.deeds import CTRL, NO_KEYS
from tests.patience import WAIT_MS


@pytest.fixture
def yard(hand, tmp_path):
    (tmp_path / "in").mkdir()
    for name, size in (("post", (0.4, 2.0, 0.4)), ("crate", (1.0, 1.0, 1.0)), ("plank", (2.0, 0.1, 0.5))):
        lockworks.write(tmp_path / "in" / f"{name}.glb", [lockworks.Part(name, *lockworks.box(size))])
    hand.open(tmp_path / "in")
    hand.window.resize(1280, 800)
    hand.session.berths.put("north", [2, 0, -4])
    hand.session.berths.put("south", [6, 0, -4])
    hand.pick("crate.glb")
    hand.click(hand.window.views.tabs["set-out"])
    return hand


def page(hand):
    return hand.window.views.set_out


def boxes(hand):
    """Return the low and high corners of each model of the scene by file, of all its copies."""
    found = {}
    for s in page(hand).bench.picture.shapes:
        points = np.asarray(s.mesh.points) @ s.world_from_mesh[:3, :3].T + s.world_from_mesh[:3, 3]
        found.setdefault(s.file, []).append((points.min(axis=0), points.max(axis=0)))
    return found


def pixel(hand, world):
    x, y, _ = page(hand).bench.lens().seen(np.array([world], dtype=float))[0]
    return QPoint(round(x), round(y))


def drag(hand, start, end):
    bench = page(hand).bench
    a, b = pixel(hand, start), pixel(hand, end)
    hand.qtbot.mousePress(bench, Qt.MouseButton.LeftButton, NO_KEYS, a)
    for k in range(1, 5):
        place = QPointF(a + (b - a) * k / 4)
        event = QMouseEvent(QEvent.Type.MouseMove, place, QPointF(bench.mapToGlobal(place.toPoint())),
                            Qt.MouseButton.NoButton, Qt.MouseButton.LeftButton, NO_KEYS)  # fmt: skip
        QApplication.sendEvent(bench, event)
    hand.qtbot.mouseRelease(bench, Qt.MouseButton.LeftButton, NO_KEYS, b)
    hand.settle()


def test_without_a_set_out_it_shows_how_one_would_start(yard):
    assert "No set-out is on the sheet yet" in page(yard).note.text()
    assert page(yard).note.text().endswith("3 models standing.")
    assert {b.name for b in page(yard).bench.facts.berths} == {"north", "south"}
    low = np.min([b[0][0] for b in boxes(yard).values()], axis=0)
    assert low[0] == pytest.approx(0, abs=1e-6)
    assert low[1] == pytest.approx(0, abs=1e-6)


def test_models_are_dragged_onto_berths_and_swap_there(yard):
    crate = boxes(yard)["crate.glb"][0]
    drag(yard, (crate[0] + crate[1]) / 2, (2.2, 0, -4.2))
    assert yard.session.document.sheet.set_out.at == {"crate": "north"}
    # Its origin, which is a corner of the box, on the berth's.
    assert boxes(yard)["crate.glb"][0][0] == pytest.approx([2, 0, -4], abs=1e-6)
    post = boxes(yard)["post.glb"][0]
    drag(yard, (post[0] + post[1]) / 2, (6.1, 0, -4.1))
    assert yard.session.document.sheet.set_out.at == {"crate": "north", "post": "south"}
    post = boxes(yard)["post.glb"][0]
    drag(yard, (post[0] + post[1]) / 2, (2.3, 0.0, -4.1))
    assert yard.session.document.sheet.set_out.at == {"crate": "south", "post": "north"}
    yard.key(Qt.Key.Key_Z, CTRL)
    assert yard.session.document.sheet.set_out.at == {"crate": "north", "post": "south"}
    # A click selects; what is selected comes off its berth.
    bench = page(yard).bench
    at = pixel(yard, np.mean(boxes(yard)["post.glb"][0], axis=0))
    yard.qtbot.mouseClick(bench, Qt.MouseButton.LeftButton, NO_KEYS, at)
    yard.settle()
    assert yard.session.lead == "post.glb"
    yard.click(page(yard).free)
    assert yard.session.document.sheet.set_out.at == {"crate": "north"}


def test_rows_are_changed_below_the_picture_and_the_delivery_stands_so(yard, tmp_path):
    bar = page(yard)
    bar.file.setFocus()
    bar.file.selectAll()
    yard.qtbot.keyClicks(bar.file, "yard.glb")
    yard.qtbot.keyClick(bar.file, Qt.Key.Key_Return)
    yard.settle()
    bar.gap.setFocus()
    bar.gap.selectAll()
    yard.qtbot.keyClicks(bar.gap, "1 m")
    bar.columns.setValue(3)
    yard.settle()
    yard.click(bar.along.buttons["depth"])
    told = yard.session.document.sheet.set_out
    assert (told.file, told.row.gap, told.row.columns, told.row.along) == ("yard.glb", "1 m", 3, "depth")
    shown = {f: b[0] for f, b in boxes(yard).items()}
    lows = sorted(b[0][2] for b in shown.values())
    assert lows == pytest.approx([0, 2.0, 3.5], abs=1e-6)  # crate 1 deep, plank 0.5, a metre between
    yard.session.deliveries.begin(tmp_path / "out", replace_old=False)
    yard.qtbot.waitUntil(lambda: not yard.session.deliveries.is_running, timeout=WAIT_MS)
    manifest = json.loads((tmp_path / "out" / "delivery.json").read_text())
    for placed in manifest["set_out"]["placed"]:
        matrix = np.array(placed["matrix"]).reshape(4, 4).T
        low = matrix[:3, 3]  # each one's box begins at its origin
        assert low == pytest.approx(shown[placed["asset"]][0], abs=1e-6)
    yard.click(bar.forget)
    assert yard.session.document.sheet.set_out is None


def test_what_can_not_be_said_is_answered_and_nothing_changes(yard):
    bar = page(yard)
    bar.file.setFocus()
    bar.file.selectAll()
    yard.qtbot.keyClicks(bar.file, "yard.obj")
    yard.qtbot.keyClick(bar.file, Qt.Key.Key_Return)
    yard.settle()
    assert "its suffix is one of" in yard.window.foot.words.text()
    assert yard.session.document.sheet.set_out is None
