"""The view's arithmetic, and pictures told by silhouette and depth."""

from __future__ import annotations

import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from oak_square.app.view import Camera, Picture, Renderer, Shape, framed
from oak_square.app.view import bench as bench_module
from oak_square.app.view.grid import grid_lines
from oak_square.core.boxes import Box
from oak_square.core.frames import translation
from tests.app.conftest import work_off
from tests.strategies import solid_box

CAMERAS = st.builds(
    lambda a, e, d, f: Camera(target=np.array([1.0, 2, 3]), distance=d, azimuth_deg=a, elevation_deg=e, flat_m=f and d),
    st.floats(0, 360),
    st.floats(-90, 90),
    st.floats(0.01, 1e5),
    st.sampled_from([None, 1.0]),
)


@given(CAMERAS, st.floats(20, 700), st.floats(20, 500))
def test_a_pixels_ray_passes_through_what_is_projected_there(camera, x, y):
    eye, toward = camera.ray(x, y, 720, 540)
    seen = camera.projected(np.array([eye + toward * camera.distance]), 720, 540)[0]
    assert seen[:2] == pytest.approx([x, y], abs=1e-6 * 720)


@given(CAMERAS, st.floats(0, 360), st.floats(-90, 90), st.tuples(*[st.floats(-2, 2)] * 3))
def test_what_the_camera_is_turned_about_stays_in_its_pixel(camera, azimuth, elevation, off):
    about = camera.target + np.array(off) * camera.distance / 8
    before, after = (c.projected(about, 720, 540)[0] for c in (camera, camera.turned(azimuth, elevation, about)))
    assert after == pytest.approx(before, rel=1e-6, abs=1e-3)


@given(CAMERAS)
def test_flat_or_deep_the_target_is_as_large(camera):
    flat = camera.flattened(3.0)
    assert flat.distance >= 3.0
    for other in (flat, flat.deepened()):
        assert other.metres_per_pixel(540) == pytest.approx(camera.metres_per_pixel(540))
    assert camera.resized(2.0, camera.target).metres_per_pixel(540) == pytest.approx(2 * camera.metres_per_pixel(540))


@given(CAMERAS, st.tuples(*[st.floats(0.001, 1e4)] * 3))
def test_a_framed_box_lies_whole_and_large_in_the_picture(camera, size):
    box = Box(np.array([5.0, -2, 9]), np.array([5.0, -2, 9]) + size)
    near = framed(camera, box, 720, 540)
    corners = box.low + np.array([[k & 1, k >> 1 & 1, k >> 2 & 1] for k in range(8)]) * box.size
    seen = near.projected(corners, 720, 540)
    assert (seen[:, 2] > 0).all()
    low, high = seen[:, :2].min(axis=0), seen[:, :2].max(axis=0)
    assert (low >= -1).all()
    assert (high <= [721, 541]).all()
    # A rod seen end on is as small as its nearest end lets it be.
    assert max((high - low) / [720, 540]) > 0.6 or min(size) < max(size) / 100


def test_grid_lines_lie_on_whole_multiples():
    points, segments, strength, major = grid_lines((3.3, -7.9), 0.5)
    assert np.abs(points / 0.5 - np.round(points / 0.5)).max() < 1e-9
    assert strength.max() <= 1
    ends = points[segments[major]]
    on_major = np.isclose(ends[:, 0] % 2.5, 0) | np.isclose(ends[:, 0] % 2.5, 2.5)
    assert on_major.any(axis=1).all()


def picture_of(*placed):
    mesh = solid_box(np.ones(3))
    shapes = tuple(
        Shape(file=f"{k}", node=0, mesh=mesh, world_from_mesh=translation(np.array(at, dtype=float)))
        for k, at in enumerate(placed)
    )
    corners = np.array(placed, dtype=float)
    return Picture(shapes=shapes, box=Box(corners.min(axis=0), corners.max(axis=0) + 1))


@pytest.fixture
def renderer():
    made = Renderer()
    yield made
    made.close()


@pytest.mark.parametrize("far", [0.0, 4.0e6])
def test_a_box_is_drawn_where_it_projects_also_far_from_the_origin(renderer, far):
    picture = picture_of((far, 0, 0))
    camera = framed(Camera(target=np.zeros(3), distance=1), picture.box, 300, 300)
    pixels = renderer.render(picture, camera, (300, 300), grid=None, fine=False)
    rows, columns = np.nonzero(pixels[:, :, 3] > 128)
    corners = picture.box.low + np.array([[k & 1, k >> 1 & 1, k >> 2 & 1] for k in range(8)])
    seen = camera.projected(corners, 300, 300)
    assert [columns.min(), columns.max()] == pytest.approx([seen[:, 0].min(), seen[:, 0].max()], abs=2)
    assert [rows.min(), rows.max()] == pytest.approx([seen[:, 1].min(), seen[:, 1].max()], abs=2)


def test_the_nearest_shape_is_picked(renderer):
    picture = picture_of((0, 0, 0), (0, 0, -3), (5, 0, 0))
    hit = renderer.pick(picture, np.array([0.5, 0.5, 10]), np.array([0.0, 0, -1]))
    assert hit is not None
    assert hit[0].file == "0"
    assert hit[1] == pytest.approx([0.5, 0.5, 1])
    assert renderer.pick(picture, np.array([3.0, 0.5, 10]), np.array([0.0, 0, -1])) is None


def test_a_picture_is_taken_bit_by_bit_and_drawn_and_met_as_far_as_it_is(renderer):
    picture = picture_of((0, 0, 0), (3, 0, 0), (6, 0, 0))
    camera = framed(Camera(target=np.zeros(3), distance=1), picture.box, 300, 100)
    toward = np.array([0.0, 0, -1])
    for k in range(3):
        assert renderer.take(picture, 0) == (k == 2)
        met = [renderer.pick(picture, np.array([x + 0.5, 0.5, 10]), toward) is not None for x in (0, 3, 6)]
        assert met == [j <= k for j in range(3)]
    bit_by_bit = renderer.render(picture, camera, (300, 100), grid=(1.0, 5), fine=False)
    renderer.let_go()
    at_once = renderer.render(
        picture_of((0, 0, 0), (3, 0, 0), (6, 0, 0)), camera, (300, 100), grid=(1.0, 5), fine=False
    )
    assert np.array_equal(bit_by_bit, at_once)
    assert bit_by_bit[:, :, 3].any()


def test_the_window_answers_between_the_parts_of_a_large_selection(hand, batch, monkeypatch):
    monkeypatch.setattr(bench_module, "_SLICE_S", 0.0)  # one part at a time
    hand.open(batch)
    bench = hand.window.bench
    sent = []
    hand.qtbot.keyClick(hand.window.batch, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    work_off(lambda: bench.is_growing, 30)
    while bench.is_growing:
        sent.append(len(bench._renderer._by_shape))
        QApplication.processEvents()
    assert len(set(sent)) > 10, "all of it was made ready in one turn of the loop"
    hand.settle()
    assert len(bench._renderer._by_shape) == len(bench.picture.shapes) > 10


def test_a_window_that_is_closed_goes_on_with_no_picture(hand, batch, monkeypatch):
    monkeypatch.setattr(bench_module, "_SLICE_S", 0.0)
    hand.open(batch)
    bench = hand.window.bench
    hand.qtbot.keyClick(hand.window.batch, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    work_off(lambda: bench.is_growing, 30)
    hand.window.close()
    drawn = len(bench._renderer._by_shape)
    hand.qtbot.wait(50)
    assert not bench.is_growing
    assert len(bench._renderer._by_shape) == drawn


def test_the_demo_is_pictured_without_a_display(tmp_path):
    shot = tmp_path / "shot.png"
    done = subprocess.run(
        [sys.executable, "-m", "oak_square", "demo", "--shot", str(shot), "--stage", "turn"],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert (done.stdout, done.stderr) == ("", "")
    image = QImage(str(shot))
    assert (image.width(), image.height()) == (1280, 800)


def test_a_bolt_is_seen_while_a_harbour_stands_behind_it(renderer):
    bolt, harbour = solid_box(np.full(3, 0.001)), solid_box(np.array([10_000.0, 50, 10_000]))
    shapes = (
        Shape(file="bolt", node=0, mesh=bolt, world_from_mesh=np.eye(4)),
        Shape(file="harbour", node=0, mesh=harbour, world_from_mesh=translation(np.array([50.0, 0, -10_001]))),
    )
    picture = Picture(shapes=shapes, box=Box(np.array([0.0, 0, -10_001]), np.array([10_050.0, 50, 0.001])))
    for size, target in ((0.001, np.full(3, 0.0005)), (10_000.0, picture.box.middle)):
        camera = Camera(target=target, distance=3 * size, azimuth_deg=20, elevation_deg=15)
        pixels = renderer.render(picture, camera, (120, 90), grid=None, fine=False)
        assert pixels[45, 60, 3] == 255, f"nothing in the middle at {size} m"


def test_an_elevation_is_seen_without_perspective(renderer):
    near = picture_of((0, 0, 0), (2, 0, -30))
    camera = Camera(target=np.array([1.5, 0.5, 0]), distance=60.0, azimuth_deg=0.0, elevation_deg=0.0, flat_m=3.0)
    alpha = renderer.render(near, camera, (300, 300), grid=None, fine=False)[:, :, 3] > 0
    columns = alpha.any(axis=0).nonzero()[0]
    # Two cubes of one metre, one of them thirty metres further off, are both a hundred pixels wide.
    assert (columns.min(), columns.max()) == pytest.approx((0, 299), abs=1)
    assert alpha[:, 50].sum() == pytest.approx(alpha[:, 250].sum(), abs=1)


def test_what_is_framed_is_clear_of_what_stands_over_the_picture(hand, batch):
    hand.open(batch)
    hand.window.resize(1280, 800)
    for file in ("milepost.glb", "gate_leaf.glb", "narrowboat.glb"):
        hand.pick(file)
        for azimuth, elevation in ((-35, 20), (0, 0), (90, 60)):
            hand.look_from(azimuth, elevation)
            hand.settle()
            bench = hand.window.bench
            seen = bench.lens().seen(bench.picture.box.corners)
            assert seen[:, 1].min() > bench.covered[1], (file, azimuth)
            assert seen[:, 1].max() < bench.height(), (file, azimuth)
            assert np.ptp(seen[:, 1]) > 0.2 * bench.height() or np.ptp(seen[:, 0]) > 0.5 * bench.width()
