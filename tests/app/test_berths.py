"""Berths: made from a pick, a datum, a paste or numbers; drawn, named; things set down there and swapped at once."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication

from oak_square.app.facts.set_out import set_out_shown
from oak_square.core.boxes import asset_box
from oak_square.sheet.set_out import SetOut
from oak_square.steps.naming import called
from tests.app import lockworks
from tests.app.deeds import CTRL, NO_KEYS


@pytest.fixture
def quay(hand, tmp_path):
    """Two bollards, unlike in height, and a crate."""
    (tmp_path / "in").mkdir()
    for name, size in (("low", (0.3, 0.5, 0.3)), ("high", (0.3, 0.9, 0.3)), ("crate", (1.0, 1.0, 1.0))):
        lockworks.write(tmp_path / "in" / f"{name}.glb", [lockworks.Part(name, *lockworks.box(size))])
    hand.open(tmp_path / "in")
    hand.window.resize(1280, 800)
    return hand


def menu(hand, *words):
    """Click through the menu of what has a name."""
    at = hand.window.hold_bar.things.menu()
    for k, word in enumerate(words):
        action = next(a for a in at.actions() if a.text().startswith(word))
        if k == len(words) - 1:
            action.trigger()
        else:
            at = action.menu()
    hand.settle()


def base_of(hand, file):
    return asset_box(hand.session.outcomes[file].after.asset).base


def test_four_ways_to_make_a_berth(quay):
    quay.pick("crate.glb")
    QApplication.clipboard().setText("1 m, 0 m, 2 m")
    menu(quay, "New berth", "At the point that is copied")
    quay.session.names.put_datum("sill", [0, 1, 0], (0, 90, 0))
    quay.settle()
    menu(quay, "New berth", "At datum sill")
    quay.window.hold_bar.things.berth_wished.emit("typed", "3 m, 0, 0")
    quay.settle()
    quay.look_from(-30, 30)
    menu(quay, "New berth", "At a point picked")
    bench = quay.window.bench
    x, y, _ = bench.lens().seen(np.array([[1.0, 1.0, 1.0]]))[0]
    quay.qtbot.mouseClick(bench, Qt.MouseButton.LeftButton, NO_KEYS, QPoint(round(x), round(y)))
    quay.settle()
    berths = quay.session.document.sheet.berths
    assert [list(f.at) for f in berths.values()] == [
        ["1 m", "0 m", "2 m"], [0, 1, 0], ["3 m", "0", "0"], pytest.approx([1, 1, 1], abs=1e-6),
    ]  # fmt: skip
    assert list(berths["berth_2"].turn) == [0, 90, 0]
    assert [b.name for b in bench.facts.berths] == list(berths)
    # As large as the crate's footprint, where it would stand.
    assert bench.facts.berths[0].corners == pytest.approx(
        np.array([[0.5, 0, 1.5], [1.5, 0, 1.5], [1.5, 0, 2.5], [0.5, 0, 2.5]])
    )
    quay.window.hold_bar.things.berth_wished.emit("typed", "here")
    assert "That is no point" in quay.window.foot.words.text()


def test_a_bollard_is_set_down_and_swapped_for_another_in_one_action_each(quay):
    quay.session.berths.put("north", [5, 0, 0], (0, 90, 0))
    quay.session.berths.put("south", [9, 0, 0])
    quay.pick("low.glb")
    menu(quay, "berth north", "Set down")
    quay.pick("high.glb")
    menu(quay, "berth south", "Set down")
    assert base_of(quay, "low.glb") == pytest.approx([5, 0, 0], abs=1e-6)
    assert base_of(quay, "high.glb") == pytest.approx([9, 0, 0], abs=1e-6)
    assert quay.steps() == ["Place: berth north", "Place: berth south"]
    past = len(quay.session.sheet.history.past)
    menu(quay, "berth north", "Set down")  # the high one, which stands at south
    assert len(quay.session.sheet.history.past) == past + 1
    assert base_of(quay, "high.glb") == pytest.approx([5, 0, 0], abs=1e-6)
    assert base_of(quay, "low.glb") == pytest.approx([9, 0, 0], abs=1e-6)
    assert quay.steps() == ["Place: berth north", "Place: berth south"]
    quay.key(Qt.Key.Key_Z, CTRL)
    assert base_of(quay, "low.glb") == pytest.approx([5, 0, 0], abs=1e-6)
    quay.pick("crate.glb")
    menu(quay, "berth north", "Set down")
    assert base_of(quay, "crate.glb") == pytest.approx([5, 0, 0], abs=1e-6)
    assert base_of(quay, "low.glb") == pytest.approx([0.15, 0, 0.15], abs=1e-6)


def test_what_stands_beside_what_is_swapped_stays_where_it_is(quay):
    quay.session.berths.put("north", [5, 0, 0])
    quay.session.berths.put("south", [9, 0, 0])
    quay.session.berths.set_down("north", ["crate.glb"])
    quay.session.berths.set_down("south", ["low.glb", "high.glb"])
    quay.pick("low.glb")
    menu(quay, "berth north", "Set down")
    assert base_of(quay, "low.glb") == pytest.approx([5, 0, 0], abs=1e-6)
    assert base_of(quay, "crate.glb") == pytest.approx([9, 0, 0], abs=1e-6)
    assert base_of(quay, "high.glb") == pytest.approx([9, 0, 0], abs=1e-6)


def test_a_berth_is_named_wherever_the_sheet_speaks_of_it_and_stays_while_it_is_needed(quay):
    quay.session.berths.put("north", [5, 0, 0])
    quay.pick("low.glb")
    menu(quay, "berth north", "Set down")
    sheet = quay.session.document.sheet
    told = SetOut.model_validate({"file": "a.glb", "at": {"low": ["north"], "high": "north"}})
    quay.session.sheet.do("set out", quay.session.document.with_sheet(sheet.model_copy(update={"set_out": told})))
    quay.session.names.name_thing("berth", "north", "quay")
    quay.settle()
    sheet = quay.session.document.sheet
    assert sheet.steps[0].words()["at"] == {"berth": "quay"}
    assert sheet.set_out.at == {"low": ["quay"], "high": "quay"}
    quay.session.sheet.remove_step(0)
    quay.session.names.forget_thing("berth", "quay")
    assert "berth 'quay' is needed by the set-out" in quay.window.foot.words.text()
    quay.session.sheet.do("no set out", quay.session.document.with_sheet(
        quay.session.document.sheet.model_copy(update={"set_out": None})))  # fmt: skip
    quay.session.names.forget_thing("berth", "quay")
    assert quay.session.document.sheet.berths == {}
    quay.settle()


def test_what_a_berth_has_settled_is_not_found_any_more_and_the_set_out_stands_it_there(quay):
    quay.session.berths.put("north", [5, 1, 0], (0, 90, 0))
    codes = {f.code for f in quay.session.outcomes["low.glb"].findings}
    assert "pivot-off-base" in codes
    quay.session.berths.set_down("north", ["low.glb"])
    quay.settle()
    codes = {f.code for f in quay.session.outcomes["low.glb"].findings}
    assert not {"off-origin", "off-ground", "pivot-off-base"} & codes
    shown = set_out_shown(quay.session, called(list(quay.session.rows)))
    (low,) = [s for s in shown.picture.shapes if s.file == "low.glb"]
    asset = quay.session.outcomes["low.glb"].after.asset
    assert low.world_from_mesh == pytest.approx(asset.world_from_mesh(low.node))
    assert all(s.world_from_mesh[0, 3] < 4 for s in shown.picture.shapes if s.file != "low.glb")


def test_of_several_at_one_berth_it_is_said_and_its_menu_sets_them_side_by_side(quay):
    quay.session.berths.put("north", [5, 0, 0], (0, 90, 0))
    quay.pick("low.glb", "high.glb", "crate.glb")
    menu(quay, "berth north", "Set down")
    assert "3 things stand in one another at north" in quay.window.foot.words.text()
    menu(quay, "berth north", "Set what is selected side by side")
    # In order of their paths.
    boxes = [asset_box(quay.session.outcomes[f].after.asset) for f in ("crate.glb", "high.glb", "low.glb")]
    assert boxes[0].base == pytest.approx([5, 0, 0], abs=1e-6)
    # Along the berth's own width, which lies toward the back; each half a metre from the one before.
    for one, other in itertools.pairwise(boxes):
        assert one.low[2] - other.high[2] == pytest.approx(0.5, abs=1e-6)
        assert other.base[[0, 1]] == pytest.approx([5, 0], abs=1e-6)
    assert len(quay.steps()) == 3
    assert len(quay.session.sheet.history.past) == 3
