"""What is framed stays so: Space, the sides, parallel projection, and drags in it."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QApplication

from oak_square.app.view.flat import side_seen
from oak_square.core.boxes import Box
from tests.app.deeds import Deeds
from tests.app.lockworks import gate


@pytest.fixture
def leaf(hand, tmp_path):
    task = Deeds(hand, tmp_path, "gate", gate())
    task.select()
    return task


def rolled(bench, at: QPoint, turns: int) -> None:
    event = QWheelEvent(
        QPointF(at), bench.mapToGlobal(QPointF(at)), QPoint(), QPoint(0, 120 * turns), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(bench, event)


def largest_share(bench, box) -> float:
    """How much of the picture a box takes, across or upwards, and that its middle is in it."""
    seen = bench.lens().seen(box.corners)[:, :2]
    assert bench.lens().holds(bench.lens().seen(box.middle[None])[0])
    return float((np.ptp(seen, axis=0) / [bench.width(), bench.height()]).max())


def test_space_goes_from_what_is_picked_to_its_asset_and_round(leaf):
    bench, part = leaf.bench, leaf.asset.parts[0]
    name = leaf.asset.nodes[part].name
    small = leaf.box(name)
    leaf.row(name)
    leaf.key(Qt.Key.Key_Space)
    near = bench.camera.distance
    assert 0.5 < largest_share(bench, small) < 1
    leaf.key(Qt.Key.Key_Space)
    assert 0.5 < largest_share(bench, bench.facts.whole) < 1
    for _ in range(3):
        leaf.key(Qt.Key.Key_Space)
        if bench.camera.distance == pytest.approx(near):
            break
    assert bench.camera.distance == pytest.approx(near)


def test_a_side_keeps_what_a_hand_went_near_to_and_so_does_the_next_step(leaf):
    bench = leaf.bench
    name = leaf.asset.nodes[leaf.asset.parts[-1]].name
    box = leaf.box(name)
    leaf.row(name)
    leaf.key(Qt.Key.Key_Space)
    rolled(bench, leaf.pixel(box.middle), 5)
    near, share = bench.camera.metres_per_pixel(540), largest_share(bench, box)
    assert share > 0
    for look in ("front", "right", "top", "corner"):
        leaf.press(leaf.hand.window.views.looks[look])
        assert bench.camera.metres_per_pixel(540) == pytest.approx(near)
        assert (bench.camera.flat_m is None) == (look == "corner")
        assert largest_share(bench, box) > 0
    leaf.press(leaf.hand.window.views.looks["front"])
    leaf.key(Qt.Key.Key_U)
    assert bench.camera.metres_per_pixel(540) == pytest.approx(near)


def test_a_side_that_is_looked_at_already_turns_to_its_opposite(leaf):
    bench, looks = leaf.bench, leaf.hand.window.views.looks
    for look, other in (("front", "back"), ("right", "left"), ("top", "bottom")):
        leaf.press(looks[look])
        assert side_seen(bench.camera) == look
        leaf.press(looks[look])
        assert side_seen(bench.camera) == other
    leaf.press(looks["corner"])
    assert side_seen(bench.camera) == ""
    leaf.key(Qt.Key.Key_E)
    assert bench.camera.flat_m is not None
    leaf.key(Qt.Key.Key_E)
    assert bench.camera.flat_m is None


def test_far_and_near_are_as_large_in_parallel_projection_and_a_drag_stays_in_its_plane(leaf):
    bench = leaf.bench
    leaf.press(leaf.hand.window.views.looks["front"])
    size = bench.facts.whole.size
    ends = [bench.facts.whole.middle + np.array([0, 0, z]) for z in (-5, 5)]
    pixels = [np.ptp(bench.lens().seen(np.array([e, e + np.eye(3)[0]]))[:, 0]) for e in ends]
    assert pixels[0] == pytest.approx(pixels[1])
    assert pixels[0] == pytest.approx(1 / bench.camera.metres_per_pixel(bench.height()))
    name = leaf.asset.nodes[leaf.asset.parts[0]].name
    leaf.row(name)
    leaf.key(Qt.Key.Key_2)
    box = leaf.box(name)
    before = leaf.pivot(name)
    leaf.drag(box.middle + np.array([0, 0, box.size[2] / 2]), box.middle + size * [0.2, 0.2, 0])
    moved = leaf.pivot(name) - before
    assert abs(moved[2]) < 1e-6
    assert np.linalg.norm(moved) > size[0] / 20


def test_what_is_framed_flat_has_nothing_behind_the_eye(leaf):
    bench = leaf.bench
    leaf.press(leaf.hand.window.views.looks["right"])
    low = bench.facts.whole.low
    bench._frame_box(Box(low, low + 0.01))
    assert bench.camera.flat_m < 0.1
    assert (bench.lens().seen(bench.picture.box.corners)[:, 2] > 0).all()
