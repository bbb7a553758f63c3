"""What a practitioner does by hand, in how many actions, and that the sheet it leaves does the same to the files."""

from __future__ import annotations

import re

import numpy as np
import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtWidgets import QApplication

from oak_square.core.boxes import asset_box
from oak_square.core.features import features_of
from oak_square.sheet.model import Sheet
from tests.app import lockworks
from tests.app.deeds import CTRL, NO_KEYS, SHIFT
from tests.patience import WAIT_MS
from tests.strategies import world_points


def test_the_pivot_of_a_leaf_goes_onto_its_hinge_edge(deeds):
    d = deeds("gate", lockworks.gate())
    d.look(-35, 12)
    d.select()
    d.key(Qt.Key.Key_P)
    d.click((0.0, 1.1, 0.05))
    d.key(Qt.Key.Key_Return)
    assert d.pivot("leaf") == pytest.approx([0, 1.1, 0.05], abs=1e-6)
    assert d.pivot("post") == pytest.approx([0, 0, 0])
    d.done(4)
    again = d.second()
    assert again.status == "ready", again.reason
    assert d.pivot("leaf", again.asset) == pytest.approx([0, 110, 5], abs=1e-4)


def test_it_swings_and_tells_where_it_hits_and_nothing_changes(deeds):
    d = deeds("gate", lockworks.gate())
    d.look(-35, 40)
    d.row("leaf")
    d.key(Qt.Key.Key_6)
    shares, swinging = [], d.hand.window.desk.swinging
    swinging.looked.connect(lambda *_: shares.append(d.hand.window.views.band.text()))
    d.entry("95\n")
    d.hand.qtbot.waitUntil(lambda: swinging.found is not None, timeout=WAIT_MS)
    assert any(re.search(r"looking where it cuts: [1-9]\d? %", said) for said in shares), shares
    said = d.hand.window.views.band.text()
    assert re.search(r"cuts into stop from 6[01]\.\d+°, \d", said), said
    assert d.count == 3
    d.session.outcomes_changed.emit()  # as after any news of the batch
    d.hand.settle()
    assert d.bench.facts.sizes == ("", "", "")
    d.bench.grab()
    assert d.hand.window.desk.plates.plate("height") is None
    # The stop's corner (0.4, -0.9) is met by the leaf's end: closed form, as far as a ten thousandth of its size shows.
    tip = np.degrees(np.arcsin(0.9 / np.hypot(1, 0.05)) - np.arctan(0.05))
    found = d.hand.window.desk.swinging.found.cuts[0]
    assert found.angle_deg == pytest.approx(tip, abs=0.2)
    shown = d.bench.picture.shapes[1].world_from_mesh[:3, :3]
    assert shown[0, 0] == pytest.approx(np.cos(np.radians(95)))
    d.hand.key(Qt.Key.Key_Escape)
    assert d.bench.picture.shapes[1].world_from_mesh[:3, :3] == pytest.approx(np.eye(3))
    assert d.session.document.sheet == Sheet()
    assert not d.session.sheet.history.past


def test_twelve_flaps_are_hung_by_one_pick_and_a_pattern(deeds):
    d = deeds("weir", lockworks.flaps())
    d.look(10, 35)
    d.select()
    d.press(d.hand.window.hierarchy.pattern)
    d.entry("flap_*\n")
    d.key(Qt.Key.Key_P)
    d.click((1.7, 1.2, 0.03))
    d.key(Qt.Key.Key_Return)
    assert d.pivot("flap_02") == pytest.approx([1.7, 1.2, 0.03], abs=1e-6)
    assert d.pivot("flap_12") == pytest.approx([13.7, 1.2, 0.03], abs=1e-6)
    tilted = lockworks.turned(2, 4.0) @ [0.5, 1.2, 0.03]
    for k in (1, 4, 7, 10):
        assert d.pivot(f"flap_{k:02}") == pytest.approx(np.add(tilted, [1.2 * (k - 1), 0, 0]), abs=1e-6)
    d.done(8)
    again = d.second()
    assert again.status == "ready", again.reason
    assert d.pivot("flap_02", again.asset) == pytest.approx([170 * 1.05, 120, 3], abs=1e-3)


@pytest.mark.parametrize(
    ("row", "entry", "wanted"),
    [
        ("weir", "Pivot to the middle of all below it", None),
        ("weir", "Pivot to flap_02's", (1.2, 0, 0)),
        ("flap_02", "Pivot to its parent's", (0, 0, 0)),
    ],
)
def test_a_groups_pivot_goes_where_its_menu_says(deeds, row, entry, wanted):
    d = deeds("weir", lockworks.flaps())
    d.menu(row, entry)
    d.key(Qt.Key.Key_Return)
    whole = asset_box(d.session.assets[d.file])
    assert d.pivot(row) == pytest.approx(whole.middle if wanted is None else np.array(wanted), abs=1e-6)
    d.done(3)
    again = d.second()
    assert again.status == "ready", again.reason
    goal = asset_box(again.asset).middle if wanted is None else np.array(wanted) * 105
    assert d.pivot(row, again.asset) == pytest.approx(goal, abs=1e-3)


def test_a_bore_goes_onto_an_axles_end_and_along_the_axle(deeds):
    d = deeds("works", lockworks.wheel())
    d.look(25, 40)
    d.select()
    d.row("disc")
    d.key(Qt.Key.Key_2)
    d.drag(
        (0.1 + 0.22 * np.cos(0.13), 2.1, 0.22 * np.sin(0.13)), (2.0 + 0.2 * np.cos(1.7), 1.0 + 0.2 * np.sin(1.7), 0.0)
    )
    d.key(Qt.Key.Key_V)
    d.key(Qt.Key.Key_Return)
    # The bore's centre is on the axle's end, and its axis along the axle: the disc stands upright.
    rings = features_of(d.asset.mesh_of(d.node("disc")), "circle", d.asset.world_from_mesh(d.node("disc")))
    assert np.linalg.norm(rings.points - [2.0, 1.0, 0.0], axis=1).min() < 1e-6
    assert np.abs(rings.ways[:, 2]) == pytest.approx(1)
    assert d.box("disc").size == pytest.approx([1.0, 1.0, 0.2], abs=1e-5)
    d.done(6)
    again = d.second()
    # Stretched one way alone, a bore is no circle: that is said, and no other one is taken for it.
    assert again.status == "refused"
    assert "'disc' has no circle" in again.reason


def test_a_corner_goes_onto_a_corner(deeds):
    d = deeds("stack", lockworks.crates())
    d.look(-30, 30)
    d.row("crate")
    d.key(Qt.Key.Key_2)
    d.drag((0.6, 0.4, 0.5), (1.5, 0.8, 0.7))
    d.key(Qt.Key.Key_Return)
    assert d.box("crate").high == pytest.approx([1.5, 0.8, 0.7], abs=1e-6)
    d.done(4)
    again = d.second()
    assert again.status == "ready", again.reason
    assert d.box("crate", again.asset).high == pytest.approx([157.5, 80, 70], abs=1e-3)


def test_a_corner_goes_onto_a_corner_along_one_axis_alone(deeds):
    d = deeds("stack", lockworks.crates())
    d.look(-30, 30)
    d.row("crate")
    d.key(Qt.Key.Key_2)
    a, b = d.pixel((0.6, 0.4, 0.5)), d.pixel((1.5, 0.8, 0.7))
    d.mouse(QEvent.Type.MouseMove, a, Qt.MouseButton.NoButton)
    d.hand.qtbot.mousePress(d.bench, Qt.MouseButton.LeftButton, NO_KEYS, a)
    d.mouse(QEvent.Type.MouseMove, a + (b - a) / 2, Qt.MouseButton.LeftButton)
    d.key(Qt.Key.Key_X)
    d.mouse(QEvent.Type.MouseMove, b, Qt.MouseButton.LeftButton)
    d.hand.qtbot.mouseRelease(d.bench, Qt.MouseButton.LeftButton, NO_KEYS, b)
    d.hand.settle()
    d.count += 1
    d.key(Qt.Key.Key_Return)
    assert d.box("crate").high == pytest.approx([1.5, 0.4, 0.5], abs=1e-6)
    d.done(5)
    again = d.second()
    assert again.status == "ready", again.reason
    assert d.box("crate", again.asset).high == pytest.approx([157.5, 40, 50], abs=1e-3)


def test_three_boats_swing_about_a_bollard_and_move_out_along_their_own_axes(deeds):
    d = deeds("basin", lockworks.boats())
    d.look(20, 50)
    d.press(d.hand.window.hierarchy.pattern)
    d.entry("boat_*\n")
    d.key(Qt.Key.Key_3)
    d.click((0.3, 0.0, 0.2), SHIFT)
    before = {k: d.pivot(f"boat_{k}").copy() for k in (1, 2, 3)}
    d.entry("y30\n")
    turn = lockworks.turned(1, 30.0)
    middle = np.array([0.3, 0, 0.2])
    swung = {k: middle + turn @ (before[k] - middle) for k in before}
    for k, at in swung.items():
        assert d.pivot(f"boat_{k}") == pytest.approx(at, abs=1e-6)
    d.key(Qt.Key.Key_A)
    d.key(Qt.Key.Key_2)
    d.entry("x2 m\n")
    for k, at in swung.items():
        own = turn @ lockworks.turned(1, (0, 90, 180)[k - 1])[:, 0]
        assert d.pivot(f"boat_{k}") == pytest.approx(at + 2 * own, abs=1e-6)
    d.done(8)
    # Stretched one way alone, the bollard's top is no circle: that is said, and they swing about nothing else.
    again = d.second()
    assert again.status == "refused"
    assert "'bollard' has no circle" in again.reason


def test_one_angle_alone_is_set(deeds):
    parts = lockworks.crates()
    parts[1].turn = lockworks.turned(1, 40.0) @ lockworks.turned(0, 10.0)
    d = deeds("stack", parts)
    d.row("crate")
    d.key(Qt.Key.Key_3)
    d.entry("x=12.5\n")
    from scipy.spatial.transform import Rotation

    then = Rotation.from_matrix(parts[1].turn).as_euler("XYZ", degrees=True)
    now = Rotation.from_quat(d.asset.nodes[d.node("crate")].placement.rotation).as_euler("XYZ", degrees=True)
    assert now == pytest.approx([12.5, then[1], then[2]], abs=1e-4)
    d.done(4)
    again = d.second()
    assert again.status == "ready", again.reason
    now = Rotation.from_quat(again.asset.nodes[d.node("crate")].placement.rotation).as_euler("XYZ", degrees=True)
    assert now == pytest.approx([12.5, then[1], then[2]], abs=1e-4)


def test_a_move_along_own_axes_follows_one_along_the_worlds(deeds):
    parts = lockworks.crates()
    parts[1].turn = lockworks.turned(1, 30.0)
    d = deeds("stack", parts)
    d.row("crate")
    d.key(Qt.Key.Key_2)
    d.entry("x0.5\n")
    assert d.pivot("crate") == pytest.approx([0.5, 0, 0], abs=1e-6)
    assert d.count <= 4
    d.key(Qt.Key.Key_A)
    d.entry("x25 cm\n")
    along = lockworks.turned(1, 30.0)[:, 0]
    assert d.pivot("crate") == pytest.approx(np.array([0.5, 0, 0]) + along * 0.25, abs=1e-6)
    d.done(8)
    # Lengths are lengths, whatever the file's own unit; the axes are the crate's.
    again = d.second()
    assert again.status == "ready", again.reason
    assert d.pivot("crate", again.asset) == pytest.approx(np.array([0.5, 0, 0]) + along * 0.25, abs=1e-5)


def test_a_datum_is_put_down_lined_up_used_and_put_aside(deeds):
    parts = lockworks.crates()
    parts[1].turn = lockworks.turned(1, 20.0)
    d = deeds("stack", parts)
    d.look(-30, 30)
    d.row("crate")
    d.key(Qt.Key.Key_D)
    corner = parts[1].turn @ [0.6, 0.4, 0.5]
    d.click(corner)
    d.click(parts[1].turn @ [0.3, 0.4, 0.5])
    d.key(Qt.Key.Key_3)
    d.entry("x90\n")
    d.key(Qt.Key.Key_D, SHIFT)
    assert d.session.document.grip.along == "world"
    datum = d.session.document.sheet.datums["datum_1"]
    assert datum.turn == pytest.approx([0, 20, 0], abs=1e-4)
    # A quarter turn about the crate's own long edge through that corner.
    own = lockworks.turned(0, 90.0)
    wanted = corner + parts[1].turn @ own @ parts[1].turn.T @ (-corner)
    assert d.pivot("crate") == pytest.approx(wanted, abs=1e-6)
    d.count -= 1  # picking the crate, which the datum's own count begins after
    d.done(6)
    again = d.second()
    assert again.status == "ready", again.reason
    # The datum stands at the longer crate's own corner, lined up as it was put down.
    longer = np.diag([1.05, 1, 1]) @ corner * 100
    wanted = longer + parts[1].turn @ own @ parts[1].turn.T @ (-longer)
    assert d.pivot("crate", again.asset) == pytest.approx(wanted, abs=1e-3)


def test_a_circles_centre_is_copied_as_another_parts_position(deeds):
    d = deeds("works", lockworks.wheel())
    d.look(25, 40)
    d.point_at((2.0 + 0.2 * np.cos(1.7), 1.0 + 0.2 * np.sin(1.7), 0.0))
    d.hand.window.bench.setFocus()
    d.key(Qt.Key.Key_C, CTRL)
    assert QApplication.clipboard().text() == "2 m, 1 m, 0 m"
    d.row("disc")
    d.key(Qt.Key.Key_V, CTRL)
    d.key(Qt.Key.Key_Return)
    assert d.pivot("disc") == pytest.approx([2.0, 1.0, 0.0], abs=1e-6)
    d.done(5)
    # What was copied are numbers, and stay so.
    again = d.second()
    assert again.status == "ready", again.reason
    assert d.pivot("disc", again.asset) == pytest.approx([2.0, 1.0, 0.0], abs=1e-5)


def test_a_wedge_is_laid_on_a_picked_face_and_squared_up(deeds):
    d = deeds("wedge", lockworks.wedge())
    d.look(-10, 30)
    slope = (lockworks.turned(1, 20.0) @ np.array([[2, 0, 0], [0, 1, 0], [0, 1, 0.8]]).T).T.mean(axis=0)
    d.point_at(slope)
    d.hand.window.bench.setFocus()
    d.key(Qt.Key.Key_G)
    d.key(Qt.Key.Key_Return)
    d.key(Qt.Key.Key_Q)
    d.key(Qt.Key.Key_Return)
    box = asset_box(d.asset)
    # On its slope, which is the root of five long, and as wide as it was; its height is what is left of the triangle.
    assert sorted(box.size) == pytest.approx(sorted([np.sqrt(5), 0.8, 2 / np.sqrt(5)]), abs=1e-5)
    assert box.size[1] == pytest.approx(2 / np.sqrt(5), abs=1e-5)
    d.done(4)
    # The longer one, which is askew, has its own slope laid flat: its four corners lie on one level, not yet squared.
    again = d.second(steps=1)
    assert again.status == "ready", again.reason
    points = world_points(again.asset, 0)
    assert (points[:, 1] - points[:, 1].min() < 1e-6 * np.ptp(points)).sum() == 4
