"""What happens beside the work: thumbnails kept by content, reading stopped, progress told, contexts warmed."""

from __future__ import annotations

import os
import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays
from PySide6.QtGui import QImage

from oak_square.app.panel.turn_body import TurnBody
from oak_square.app.view import Camera, Picture, Renderer
from oak_square.app.view.thumbnails import Thumbnails
from oak_square.app.widgets.status_bar import StatusBar
from oak_square.core.geometry import ends
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stages import STAGES
from oak_square.delivery.batch import find_sources
from oak_square.delivery.files import sha256_of
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.text import parse_sheet
from tests.patience import WAIT_MS


@pytest.fixture
def renderer(qapp):
    made = Renderer()
    yield made
    made.close()


def asset_of(name):
    source = next(s for s in find_sources([BATCH]) if s.file == name)
    return receive(source).asset, sha256_of(source.path)


def made(qtbot, thumbnails, wanted):
    thumbnails.want(wanted)
    qtbot.waitUntil(lambda: not thumbnails.busy, timeout=WAIT_MS)
    return [thumbnails.of(asset.file) for asset, _ in wanted]


def test_thumbnails_are_drawn_once_and_kept_for_the_next_run(qtbot, renderer, tmp_path):
    wanted = [asset_of("milepost.glb"), asset_of("windlass.stl")]
    first = made(qtbot, Thumbnails(lambda: renderer, tmp_path / "cache"), wanted)
    assert all(isinstance(i, QImage) and i.width() == 88 for i in first)
    assert first[0] != first[1]
    assert len(list((tmp_path / "cache").iterdir())) == 2

    def no_renderer():
        raise AssertionError("nothing is to be drawn")

    again = made(qtbot, Thumbnails(no_renderer, tmp_path / "cache"), wanted)
    assert [i.size() for i in again] == [i.size() for i in first]


def test_a_turn_makes_another_picture_and_a_unit_does_not(qtbot, renderer, tmp_path):
    asset, digest = asset_of("lamp_standard.obj")
    thumbnails = Thumbnails(lambda: renderer, tmp_path)
    made(qtbot, thumbnails, [(asset, digest)])
    inches = evaluate(asset, parse_sheet("prep-sheet: 1\nsteps:\n  - {do: unit, reads: in}\n", "s")).asset
    made(qtbot, thumbnails, [(inches, digest)])
    assert len(list(tmp_path.iterdir())) == 1
    turned = evaluate(asset, parse_sheet("prep-sheet: 1\nsteps:\n  - {do: turn, up: +Z, front: -Y}\n", "s")).asset
    made(qtbot, thumbnails, [(turned, digest)])
    assert len(list(tmp_path.iterdir())) == 2


def test_a_cache_that_can_not_be_written_is_only_slower(qtbot, renderer, tmp_path):
    (tmp_path / "cache").write_text("in the way")
    (image,) = made(qtbot, Thumbnails(lambda: renderer, tmp_path / "cache"), [asset_of("milepost.glb")])
    assert image is not None
    (image,) = made(qtbot, Thumbnails(lambda: renderer, None), [asset_of("milepost.glb")])
    assert image is not None


def test_reading_can_be_stopped_and_what_is_read_stays(hand, lock):
    session = hand.session
    session.batch.open_paths([lock])
    hand.qtbot.waitUntil(lambda: len(session.rows) == 20, timeout=WAIT_MS)
    assert session.progress()[0::2] == ("reading", 20)
    session.batch.stop_reading()
    hand.settle()
    assert hand.window.foot.words.text().startswith("Stopped reading; ")
    assert session.to_read == 0
    assert set(session.rows) == set(session.assets)
    # They can be opened again.
    hand.open(lock)
    assert len(session.assets) == 20


def test_progress_is_told_by_asset_once_it_takes_a_moment(qtbot, monkeypatch):
    foot = StatusBar()
    qtbot.addWidget(foot)
    foot.resize(700, 30)
    foot.show()
    foot.show_progress(("reading", 0, 40))
    assert not foot.bar.isVisible()
    qtbot.waitUntil(lambda: (foot.show_progress(("reading", 10, 40)), foot.bar.isVisible())[1], timeout=WAIT_MS)
    assert foot.bar.text().startswith("reading 10 of 40")
    assert foot.stop.isVisible()
    foot.show_progress(("working out", 20, 40))
    assert not foot.stop.isVisible()
    foot.show_progress(None)
    assert not foot.bar.isVisible()


def test_long_words_at_the_foot_never_widen_the_window(hand):
    width = hand.window.width()
    hand.window.foot.say("A line that goes on and on, " * 20)
    hand.settle()
    assert hand.window.width() == width
    assert hand.window.foot.words.toolTip().startswith("A line that goes on")


def test_a_warm_renderer_draws_the_same_as_a_cold_one(renderer):
    camera = Camera(target=np.zeros(3), distance=5.0)
    cold = renderer.render(Picture(), camera, (80, 60), grid=(1.0, 5), fine=False)
    renderer.warm_up()
    assert (renderer.render(Picture(), camera, (80, 60), grid=(1.0, 5), fine=False) == cold).all()


@given(arrays.arrays(np.float32, st.tuples(st.integers(1, 50), st.just(3)), elements=st.floats(-1e6, 1e6, width=32)))
def test_ends_are_the_plain_minimum_and_maximum(points):
    low, high = ends(points)
    assert (low == points.min(axis=0)).all()
    assert (high == points.max(axis=0)).all()
    assert low.dtype == points.dtype


def test_ends_of_nothing_are_zero():
    low, high = ends(np.empty((0, 3), dtype=np.float32))
    assert low.tolist() == high.tolist() == [0, 0, 0]


def test_a_form_is_made_when_it_is_looked_at_and_the_others_while_nobody_waits(hand, qtbot):
    bodies, units = hand.window.panel.bodies, []
    assert set(bodies.made()) == {"receive"}
    bodies.whenever(TurnBody, lambda body: units.append(body.shown.kind))
    hand.session.show_in(ShownUnit(kind="in"))
    hand.stage("pivot")
    assert hand.body("pivot").isVisible()
    assert not units
    hand.window.batch.setFocus()
    qtbot.waitUntil(lambda: set(bodies.made()) == set(STAGES), timeout=WAIT_MS)
    # It came by itself, knows what is shown, and is neither seen nor in anybody's way.
    assert units == ["in"]
    assert [s for s, body in bodies.items() if body.isVisible()] == ["pivot"]
    assert hand.window.batch.hasFocus()


def test_what_the_first_drag_needs_is_there_before_it(batch):
    script = (
        "import sys, time\n"
        "from oak_square.app.start import open_window, settle\n"
        "from pathlib import Path\n"
        f"window = open_window([Path({str(batch)!r})], kept=False)\n"
        "settle(window)\n"
        "from PySide6.QtWidgets import QApplication\n"
        "until = time.monotonic() + 60\n"
        "while 'scipy.spatial' not in sys.modules and time.monotonic() < until:\n"
        "    QApplication.processEvents()\n"
        "print('scipy.spatial' in sys.modules)\n"
        "window.close()\n"
    )
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, env=environment, check=True)
    assert done.stdout.strip() == "True"
