"""The axes that things go along: those of a sheet with Z up, Y to the back; the view's; a part's own."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt

from oak_square.core.swinging import turn_about
from tests.app import lockworks
from tests.app.lockworks import Part, turned
from tests.strategies import world_points

# Delivery x, y, z of the view's: right stays, up is z, and what comes toward the eye is −y.
DELIVERY = np.array([[1.0, 0, 0], [0, 0, -1], [0, 1, 0]])


def in_z_up(deeds, name, parts):
    """Open models and choose Z up for the delivery, by the form's keys."""
    d = deeds(name, parts)
    d.hand.stage("deliver")
    up = d.hand.body("deliver").up
    up.setFocus()
    while up.currentData() != "Z":
        d.hand.qtbot.keyClick(up, Qt.Key.Key_Down)
    d.hand.settle()
    assert d.session.document.sheet.deliver.up == "Z"
    return d


def test_the_way_of_a_picked_face_is_told_along_the_sheets_axes_and_found_again(deeds):
    d = in_z_up(deeds, "wedge", lockworks.wedge())
    d.look(70, 40)
    d.row("wedge")
    d.count = 0
    d.key(Qt.Key.Key_P)
    turn = turned(1, 20.0)
    centre = turn @ [1, 0.5, 0.4]
    d.click(centre)
    (mark,) = d.session.document.sheet.marks.values()
    assert mark.way == pytest.approx(DELIVERY @ turn @ np.array([1, 2, 0]) / np.sqrt(5), abs=1e-4)
    d.key(Qt.Key.Key_Return)
    assert d.pivot("wedge") == pytest.approx(centre, abs=1e-6)
    d.done(3)


def test_what_is_typed_moves_turns_and_sizes_along_the_sheets_axes(deeds):
    d = in_z_up(deeds, "stack", lockworks.crates())
    d.look(-30, 30)
    d.row("crate")
    start = d.box("crate")
    d.key(Qt.Key.Key_2)
    d.entry("z 10 cm\n")
    assert d.box("crate").low == pytest.approx(start.low + np.array([0, 0.1, 0]), abs=1e-6)
    d.entry("y 10 cm\n")
    assert d.box("crate").low == pytest.approx(start.low + np.array([0, 0.1, -0.1]), abs=1e-6)
    d.key(Qt.Key.Key_3)
    d.entry("z 90\n")
    size = d.box("crate").size
    assert size == pytest.approx([0.5, 0.4, 0.6], abs=1e-6)


@pytest.mark.parametrize("own", [False, True])
@pytest.mark.parametrize("axis", ["x", "y", "z"])
def test_callipers_take_the_sides_of_the_axes_in_force(deeds, axis, own):
    """Along the world's axes the letters are the sheet's; along its own they are the part's, whose file is Y up."""
    parts = [Part("stack"), Part("crate", *lockworks.box((0.6, 0.4, 0.5)), turn=turned(0, 30.0), parent="stack")]
    d = in_z_up(deeds, "stack", parts)
    d.row("crate")
    if own:
        d.key(Qt.Key.Key_A)
    frame = turned(0, 30.0) if own else np.eye(3)
    side = {True: {"x": 0, "y": 1, "z": 2}, False: {"x": 0, "y": 2, "z": 1}}[own][axis]
    before = np.ptp(world_points(d.asset, d.node("crate")) @ frame, axis=0)
    d.key(Qt.Key.Key_4)
    d.entry(f"{axis} 50%")
    wanted = before.copy()
    wanted[side] *= 0.5
    assert np.ptp(world_points(d.asset, d.node("crate")) @ frame, axis=0) == pytest.approx(wanted, abs=1e-6)
    assert ("width", "height", "depth")[side] in d.session.document.draft.words()


@pytest.mark.parametrize("z_up", [False, True])
@pytest.mark.parametrize("axis", [0, 1, 2])
def test_along_the_views_axes_letters_are_right_up_and_toward_the_eye(deeds, axis, z_up):
    d = in_z_up(deeds, "stack", lockworks.crates()) if z_up else deeds("stack", lockworks.crates())
    d.look(35, 25)
    d.row("crate")
    way = d.bench.camera.axes[axis]
    start = d.pivot("crate").copy()
    choices = d.hand.window.hold_bar.along.menu()
    next(a for a in choices.actions() if a.text() == "view axes").trigger()
    d.hand.settle()
    d.key(Qt.Key.Key_2)
    d.entry(f"{'xyz'[axis]} 10 cm\n")
    assert d.pivot("crate") - start == pytest.approx(0.1 * way, abs=1e-6)
    turn = turn_about(way, 30.0) @ d.asset.worlds[d.node("crate")][:3, :3]
    d.key(Qt.Key.Key_3)
    d.entry(f"{'xyz'[axis]} 30\n")
    assert d.asset.worlds[d.node("crate")][:3, :3] == pytest.approx(turn, abs=1e-6)


def test_a_datum_by_itself_goes_along_the_views_axes_too(deeds):
    d = deeds("stack", lockworks.crates())
    d.look(35, 25)
    d.select()
    d.session.names.put_datum("sill", [0.3, 0.9, 0.2], [0, 0, 0])
    d.hand.settle()
    d.session.names.take_datum("sill")
    next(a for a in d.hand.window.hold_bar.along.menu().actions() if a.text() == "view axes").trigger()
    d.hand.settle()
    way = d.bench.camera.axes[1]
    d.key(Qt.Key.Key_2)
    d.entry("y 10 cm\n")
    frame = d.session.document.sheet.setting().datum("sill", d.asset)
    assert frame[:3, 3] == pytest.approx([0.3, 0.9, 0.2] + 0.1 * way, abs=1e-6)


def own_sizes(d, name):
    """The extents of a part along its own axes, as its file names them."""
    asset, node = d.asset, d.node(name)
    frame = asset.worlds[node][:3, :3]
    return np.ptp(world_points(asset, node) @ (frame / np.linalg.norm(frame, axis=0)), axis=0)


def leaning(name, size, at=(0.0, 0, 0)):
    return Part(name, *lockworks.box(size), turn=turned(0, 30.0), parent="stack", at=at)


def sizing_along_own_axes(d, *names):
    """Pick parts, and choose their own axes in the form of Size."""
    for k, name in enumerate(names):
        d.row(name, Qt.KeyboardModifier.ControlModifier if k else Qt.KeyboardModifier.NoModifier)
    d.hand.stage("size")
    body = d.hand.body("size")
    d.hand.click(body.pages.tabs.buttons["extent"])
    body.frame.open()
    d.hand.click(body.axes.buttons["own"])
    return body


def type_into(d, field, text):
    d.hand.click(field)
    field.selectAll()
    d.hand.qtbot.keyClicks(field, text)
    d.hand.settle()


@pytest.mark.parametrize("z_up", [False, True])
def test_a_share_of_a_leaning_parts_own_height_is_told_from_that_height(deeds, z_up):
    parts = [Part("stack"), leaning("crate", (0.6, 0.4, 0.5))]
    d = in_z_up(deeds, "stack", parts) if z_up else deeds("stack", parts)
    body = sizing_along_own_axes(d, "crate")
    assert body.extents["height"].placeholderText() == "0.40 m"
    type_into(d, body.extents["height"], "50%")
    assert own_sizes(d, "crate") == pytest.approx([0.3, 0.2, 0.25], abs=1e-6)


@pytest.mark.parametrize(
    ("keep", "low", "high"),
    [
        ("none", [0.6, 0.2, 0.5], [0.6, 0.4, 0.5]),
        ("proportions", [0.3, 0.2, 0.25], [0.3, 0.4, 0.25]),
        ("volume", [0.6 * 2**0.5, 0.2, 0.5 * 2**0.5], [0.6 * 2**0.5, 0.4, 0.5 * 2**0.5]),
    ],
)
def test_a_share_of_several_is_one_factor_along_the_axes_in_force(deeds, keep, low, high):
    parts = [Part("stack"), leaning("low", (0.6, 0.4, 0.5)), leaning("high", (0.6, 0.8, 0.5), (2, 0, 0))]
    d = in_z_up(deeds, "stack", parts)
    body = sizing_along_own_axes(d, "low", "high")
    d.hand.click(body.keep.buttons[keep])
    type_into(d, body.extents["height"], "*0.5")
    assert own_sizes(d, "low") == pytest.approx(low, abs=1e-6)
    assert own_sizes(d, "high") == pytest.approx(high, abs=1e-6)


@pytest.mark.parametrize("keep", ["none", "proportions"])
def test_what_is_taken_of_several_is_shaped_by_one_factor(deeds, keep):
    """The tops of two posts, one twice as wide, drawn in by half."""
    parts = [Part("stack"), Part("low", *lockworks.box((0.6, 0.4, 0.5)), parent="stack"),
             Part("high", *lockworks.box((1.2, 0.8, 0.5)), at=(2, 0, 0), parent="stack")]  # fmt: skip
    d = in_z_up(deeds, "stack", parts)
    d.row("low")
    d.row("high", Qt.KeyboardModifier.ControlModifier)
    d.hand.stage("bake")
    body = d.hand.body("bake")
    d.hand.click(body.means.buttons["shape"])
    d.hand.click(body.shape.keep.buttons[keep])
    type_into(d, body.shape.extents["width"], "*0.5")
    for name, width, height in (("low", 0.6, 0.4), ("high", 1.2, 0.8)):
        points = world_points(d.asset, d.node(name))
        top = points[points[:, 1] > height / 2]
        depth = 0.5 if keep == "none" else 0.25
        assert np.ptp(top, axis=0) == pytest.approx([width / 2, 0, depth], abs=1e-6)


def test_what_is_taken_of_a_leaning_part_is_told_along_the_axes_in_force(deeds):
    d = deeds("stack", [Part("stack"), leaning("crate", (0.6, 0.4, 0.5))])
    d.row("crate")
    d.hand.stage("bake")
    body = d.hand.body("bake")
    d.hand.click(body.means.buttons["shape"])
    body.shape.frame.open()
    d.hand.click(body.shape.axes.buttons["own"])
    d.hand.click(body.shape.keep.buttons["none"])
    type_into(d, body.shape.take.within, "100 %")
    assert [body.shape.extents[e].placeholderText() for e in ("width", "height", "depth")] == [
        "0.60 m",
        "0.40 m",
        "0.50 m",
    ]
    type_into(d, body.shape.extents["height"], "50%")
    assert own_sizes(d, "crate") == pytest.approx([0.6, 0.2, 0.5], abs=1e-6)
