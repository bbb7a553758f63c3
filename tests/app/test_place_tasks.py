"""What is set down, brought to zero, baked and hung elsewhere by hand, in how many actions."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt

from oak_square.core.boxes import asset_box, tree_box
from oak_square.core.placement import turn_degrees
from tests.app import lockworks
from tests.app.deeds import SHIFT

NESTED = [
    lockworks.Part("yard"),
    lockworks.Part("stack", at=(0, 0.4, 0), parent="yard"),
    lockworks.Part("row", at=(0, 0.3, 0), parent="stack"),
    lockworks.Part("crate", *lockworks.box((1.0, 1, 1)), at=(0, 0.1, 0), parent="row"),
    lockworks.Part("case", *lockworks.box((0.5, 0.5, 0.5)), at=(2, 0.9, 0), parent="row"),
    lockworks.Part("keg", *lockworks.box((0.5, 0.8, 0.5)), at=(4, 0.2, 1), parent="row"),
]


@pytest.fixture
def yard(deeds):
    return deeds("yard", NESTED)


def test_a_group_of_nested_groups_goes_onto_the_ground(yard):
    yard.row("stack")
    yard.key(Qt.Key.Key_U)
    yard.key(Qt.Key.Key_Return)
    assert tree_box(yard.asset, yard.node("stack")).low[1] == pytest.approx(0, abs=1e-6)
    assert yard.box("case").low[1] == pytest.approx(0.8, abs=1e-6)
    yard.done(3)


def test_three_parts_go_to_zero_as_one(yard):
    before = {n: yard.pivot(n).copy() for n in ("crate", "case", "keg")}
    yard.row("crate")
    yard.row("keg", SHIFT)
    yard.key(Qt.Key.Key_0)
    yard.key(Qt.Key.Key_Return)
    boxes = [yard.box(n) for n in before]
    low, high = np.min([b.low for b in boxes], axis=0), np.max([b.high for b in boxes], axis=0)
    assert [(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2] == pytest.approx([0, 0, 0], abs=1e-6)
    moves = [yard.pivot(n) - before[n] for n in before]
    assert np.ptp(moves, axis=0) == pytest.approx([0, 0, 0], abs=1e-9)
    yard.done(4)


def test_one_part_and_a_whole_asset_go_to_zero_by_their_bases(yard):
    yard.row("keg")
    yard.key(Qt.Key.Key_0)
    assert yard.box("keg").base == pytest.approx([0, 0, 0], abs=1e-6)
    yard.key(Qt.Key.Key_Escape)
    yard.hand.session.select((yard.file,))
    yard.hand.settle()
    yard.key(Qt.Key.Key_0)
    assert asset_box(yard.asset).base == pytest.approx([0, 0, 0], abs=1e-6)


def test_four_props_go_onto_one_berth(hand, tmp_path):
    (tmp_path / "in").mkdir()
    names = ("a", "b", "c", "d", "e")
    for k, name in enumerate(names):
        part = lockworks.Part(name, *lockworks.box((1.0 + k, 1, 1), (k, 2.0, 0)))
        lockworks.write(tmp_path / "in" / f"{name}.glb", [part])
    hand.open(tmp_path / "in")
    hand.session.berths.put("quay", [7, 0, 3])
    hand.settle()
    count = 0
    for k, name in enumerate(("a.glb", "d.glb")):
        room = hand.window.batch.visualRect(hand.window.batch.place_of(name))
        hand.click(hand.window.batch.viewport(), room.center(), SHIFT if k else Qt.KeyboardModifier.NoModifier)
        count += 1
    menu = hand.window.hold_bar.things.menu()
    below = next(a.menu() for a in menu.actions() if a.text() == "berth quay")
    below.actions()[0].trigger()  # the button, the berth, the entry
    count += 3
    hand.settle()
    assert count <= 5
    for name in names[:4]:
        assert asset_box(hand.session.outcomes[f"{name}.glb"].after.asset).base == pytest.approx([7, 0, 3], abs=1e-6)
    assert asset_box(hand.session.outcomes["e.glb"].after.asset).base[1] == pytest.approx(2)


def test_twelve_assets_are_baked_once_what_else_happens_is_read(hand, lock):
    hand.open(lock)
    files = [r.file for r in hand.window.batch.shown][:12]
    hand.session.select(tuple(files))
    hand.stage("bake")
    hand.click(hand.body("bake").usual)
    read = hand.window.panel.consequences.lines.text()
    table = hand.body("bake").table
    changed = [r for r in table._all if any(after for _, after, _ in r.cells)]
    happens = {r.name for r in table._all if r.happens}
    assert len({r.file for r in table._all}) == 12
    assert hand.window.panel.consequences.isVisible()
    for name in happens:
        assert any(name in line for line in read.splitlines()) or " more" in read
    hand.key(Qt.Key.Key_Return)
    for row in changed:
        asset = hand.session.outcomes[row.file].after.asset
        node = next(n for n in asset.nodes if n.name == row.name)
        if hand.session.outcomes[row.file].after.status == "ready" and not node.aimed:
            assert turn_degrees(node.placement.rotation) == pytest.approx(0, abs=1e-6)
            assert node.placement.scale == pytest.approx([1, 1, 1])


def test_a_welded_hatch_becomes_a_part_with_a_hinge_and_swings(deeds):
    hull, corners = lockworks.box((4.0, 0.8, 1.2))
    hatch, more = lockworks.box((0.6, 0.06, 0.8), (1.0, 0.84, 0.2))
    welded = lockworks.Part("boat", np.vstack([hull, hatch]), np.vstack([corners, more + len(hull)]))
    d = deeds("boat", [welded])
    d.look(-30, 40)
    d.menu("boat", "Take apart in pieces")
    assert {s.tint for s in d.bench.picture.shapes} == {0, 1}
    d.click((1.3, 0.9, 0.6))
    d.key(Qt.Key.Key_P)
    d.click((1.0, 0.9, 0.6))
    d.key(Qt.Key.Key_Return)
    d.key(Qt.Key.Key_6)
    d.entry("95\n")
    assert d.hand.steps()[0] == "Split boat"
    assert [d.asset.nodes[n].name for n in d.session.nodes] == ["boat.2"]
    assert d.pivot("boat.2") == pytest.approx([1.0, 0.9, 0.6], abs=1e-6)
    swung = next(s for s in d.bench.picture.shapes if s.name == "boat.2").world_from_mesh[:3, :3]
    assert np.abs(swung - np.eye(3)).max() > 0.9
    d.hand.key(Qt.Key.Key_Escape)
    d.done(8)
