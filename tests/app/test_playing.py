"""The sluice wheel plays on the Bench, as it will be once the steps are done, and stands at rest again."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt

from tests.patience import WAIT_MS


@pytest.fixture
def wheel(hand, lock):
    for path in lock.iterdir():
        if path.suffix in {".glb", ".obj", ".stl"} and path.stem not in {"sluice_wheel", "milepost"}:
            path.unlink()
    hand.open(lock)
    hand.pick("sluice_wheel.glb")
    return hand


def places(hand):
    return {s.name: s.world_from_mesh.copy() for s in hand.window.bench.picture.shapes}


def test_a_clip_plays_and_stops_at_rest(wheel):
    button, rest = wheel.window.views.play_button, places(wheel)
    assert button.text() == "play"
    wheel.click(button)
    wheel.qtbot.waitUntil(lambda: np.abs(places(wheel)["wheel"] - rest["wheel"]).max() > 1e-3, timeout=WAIT_MS)
    assert button.text() == "stop"
    assert "open the sluice" in wheel.window.views.title.text()
    moved = places(wheel)
    assert moved["stand"] == pytest.approx(rest["stand"])
    assert moved["rack"][1, 3] > rest["rack"][1, 3]
    wheel.click(button)
    assert all(np.abs(m - rest[name]).max() < 1e-12 for name, m in places(wheel).items())


def test_it_plays_what_the_steps_make_of_it_and_a_step_stops_it(wheel):
    from oak_square.steps.step import STEPS

    wheel.session.drafts.try_step(STEPS["size"].model_validate({"do": "size", "factor": 2, "about": "origin"}))
    wheel.settle()
    rest = places(wheel)
    wheel.click(wheel.window.views.play_button)
    wheel.qtbot.waitUntil(lambda: places(wheel)["rack"][1, 3] > rest["rack"][1, 3] + 1e-3, timeout=WAIT_MS)
    assert places(wheel)["stand"] == pytest.approx(rest["stand"])
    wheel.key(Qt.Key.Key_Escape)
    assert wheel.window.views.play_button.text() == "play"
    wheel.pick("milepost.glb")
    assert not wheel.window.views.play_button.isVisible()


def points(hand, name):
    return next(s.mesh.points for s in hand.window.bench.picture.shapes if s.name == name)


def test_a_skinned_cloth_moves_with_its_joints_and_hangs_still_again(hand, lock):
    hand.open(lock)
    hand.pick("pennant.glb")
    rest, pole = points(hand, "cloth").copy(), points(hand, "pole").copy()
    hand.click(hand.window.views.play_button)
    hand.qtbot.waitUntil(lambda: np.abs(points(hand, "cloth") - rest).max() > 0.02, timeout=WAIT_MS)
    # Joints only turn: what hangs on the first of them keeps its distance from the pole.
    assert np.linalg.norm(points(hand, "cloth") - points(hand, "cloth").mean(axis=0), axis=1).max() < 0.6
    assert (points(hand, "pole") == pole).all()
    hand.click(hand.window.views.play_button)
    assert (points(hand, "cloth") == rest).all()
