"""Datums held by instruments; any point of what is dragged snapping to what stands still; the grid as drawn."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication

from oak_square.app.facts.measurements import measure_rows
from oak_square.sheet.measures import dump_measures, load_measures
from tests.app import lockworks
from tests.app.deeds import CTRL, NO_KEYS, SHIFT
from tests.app.test_hands import handle, held, switch


@pytest.fixture
def stack(deeds):
    made = deeds("stack", lockworks.crates())
    made.look(-30, 30)
    made.hand.pick("stack.glb")
    return made


def datum(d, name="sill"):
    frame = d.session.document.sheet.setting().datum(name, d.asset)
    return frame[:3, 3], frame[:3, :3]


def put(d, at, turn=(0, 0, 0)):
    d.session.names.put_datum("sill", at, turn)
    d.session.names.use_datum("")
    d.hand.settle()


def test_a_click_on_a_datum_takes_hold_of_it_and_the_rule_moves_it_alone(stack):
    put(stack, [0.3, 0.9, 0.2])
    before = stack.asset
    stack.key(Qt.Key.Key_2)
    stack.click((0.3, 0.9, 0.2))
    assert held(stack).scene.hold.datum == "sill"
    assert "datum sill by itself, nothing else moves" in stack.hand.window.views.band.text()
    stack.entry("x 40 cm\n")
    assert datum(stack)[0] == pytest.approx([0.7, 0.9, 0.2], abs=1e-9)
    assert stack.session.document.draft is None
    assert np.array_equal(stack.asset.worlds, before.worlds)
    assert stack.hand.steps() == []
    past = len(stack.session.sheet.history.past)
    at = handle(stack, "y")
    stack.drag(at, at + QPoint(0, -40), by_pixels=True)
    assert len(stack.session.sheet.history.past) == past + 1
    moved = datum(stack)[0]
    assert moved[1] > 0.95
    assert moved[[0, 2]] == pytest.approx([0.7, 0.2], abs=1e-9)
    stack.key(Qt.Key.Key_Z, CTRL)
    assert datum(stack)[0] == pytest.approx([0.7, 0.9, 0.2], abs=1e-9)
    for _ in range(3):
        stack.key(Qt.Key.Key_Escape)
    assert stack.session.document.grip.hold_datum == ""


def test_the_dial_turns_a_datum_where_it_is_and_its_own_axes_go_with_it(stack):
    put(stack, [0.3, 0.9, 0.2], [0, 30, 0])
    stack.session.names.take_datum("sill")
    stack.key(Qt.Key.Key_3)
    stack.entry("y 15\n")
    at, axes = datum(stack)
    assert at == pytest.approx([0.3, 0.9, 0.2], abs=1e-9)
    assert np.degrees(np.arctan2(-axes[2, 0], axes[0, 0])) == pytest.approx(45, abs=1e-9)
    stack.key(Qt.Key.Key_A)
    stack.key(Qt.Key.Key_2)
    stack.entry("x 1 m\n")
    along = np.array([np.cos(np.pi / 4), 0, -np.sin(np.pi / 4)])
    assert datum(stack)[0] - at == pytest.approx(along, abs=1e-9)


def test_a_datum_dragged_onto_a_corner_stands_at_its_mark(stack):
    put(stack, [0.3, 0.9, 0.2])
    stack.session.names.take_datum("sill")
    stack.key(Qt.Key.Key_2)
    switch(stack, "vertex")
    stack.drag(handle(stack, "y"), stack.pixel((0.6, 0.4, 0.5)), by_pixels=True)
    at = datum(stack)[0]
    assert at[1] == pytest.approx(0.4, abs=1e-6)


def test_callipers_say_that_a_datum_has_no_size(stack):
    put(stack, [0.3, 0.9, 0.2])
    stack.session.names.take_datum("sill")
    stack.key(Qt.Key.Key_4)
    assert "A datum has no size" in stack.hand.window.views.band.text()


def test_a_click_on_a_part_lets_go_of_the_datum(stack):
    put(stack, [0.3, 0.9, 0.2])
    stack.session.names.take_datum("sill")
    stack.key(Qt.Key.Key_2)
    stack.click((0.3, 0.4, 0.25))
    assert stack.session.document.grip.hold_datum == ""
    assert held(stack).scene.hold.nodes


def near_x(d, metres):
    """A drag of the x slider that ends 3 pixels past so many metres."""
    hold = held(d).scene.hold
    at = handle(d, "x")
    start = np.array([at.x(), at.y()], dtype=float)
    line = [d.pixel(hold.centre + hold.axes[:, 0] * m) for m in np.linspace(0, 3, 3001)]
    pixels = np.array([[p.x(), p.y()] for p in line], dtype=float)
    first = int(np.argmin(np.linalg.norm(pixels - start, axis=1)))
    end = pixels[first + round(metres * 1000)]
    return QPoint(*np.round(end - start + np.array([3, 0])).astype(int).tolist())


def test_any_corner_of_what_is_dragged_takes_a_corner_that_it_comes_near(stack):
    # Along x by its slider: no point of the crate is gripped, and the pointer is over none of the case.
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    switch(stack, "vertex")
    start = handle(stack, "x")
    stack.drag(start, start + near_x(stack, 0.9), by_pixels=True)
    words = stack.session.document.draft.words()
    low, high = stack.box("crate").low, stack.box("crate").high
    assert high[0] == pytest.approx(1.5, abs=1e-6) or low[0] == pytest.approx(0.9, abs=1e-6)
    assert words["do"] == "place"
    assert words["axes"] == ["x"]
    stack.key(Qt.Key.Key_Return)
    stack.done(12)


def test_kinds_that_are_off_are_not_snapped_to_and_shift_snaps_to_nothing(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    switch(stack)
    start = handle(stack, "x")
    stack.drag(start, start + near_x(stack, 0.9), by_pixels=True)
    assert "shift" in stack.session.document.draft.words()


def test_the_grid_that_is_snapped_to_can_be_the_one_that_is_drawn(stack):
    bar = stack.hand.window.hold_bar
    bar._grid_menu()
    words = [a.text() for a in bar.menu.actions()]
    spacing, majors = stack.bench.unit.grid_for(stack.bench._grid_m)[0], bar._drawn[1]
    assert words[0] == f"lines as drawn: {stack.session.unit.mark(bar._drawn[0])}"
    bar.menu.actions()[1].trigger()
    bar.menu.close()
    stack.hand.settle()
    assert held(stack).scene.grid_m == pytest.approx(bar._drawn[0] * majors)
    assert spacing > 0


def test_a_datum_stands_at_a_mark_and_is_found_there_on_each_asset(stack):
    put(stack, [0, 0, 0], [0, 40, 0])
    stack.row("crate")
    stack.hand.stage("pivot")
    stack.hand.click(stack.hand.body("pivot").pages.tabs.buttons["point"])
    switch(stack, "vertex")
    stack.hand.click(stack.hand.body("pivot").point.point.pick)
    stack.click((0.6, 0.4, 0.5))
    stack.key(Qt.Key.Key_Return)
    menu = stack.hand.window.hold_bar.things.menu()
    below = next(a.menu() for a in menu.actions() if a.text().startswith("datum sill"))
    next(a for a in below.actions() if a.text().startswith("At mark mark_1")).trigger()
    stack.hand.settle()
    told = stack.session.document.sheet.datums["sill"]
    assert told.model_dump()["at"] == {"mark": "mark_1"}
    assert list(told.turn) == [0, 40, 0]
    assert datum(stack)[0] == pytest.approx([0.6, 0.4, 0.5], abs=1e-6)


def test_a_direction_is_copied_and_pasted_where_directions_are_typed(stack):
    switch(stack, "face centre")
    stack.key(Qt.Key.Key_1)
    stack.point_at((0.3, 0.4, 0.25))
    stack.bench.setFocus()
    stack.hand.key(Qt.Key.Key_C, CTRL | SHIFT)
    assert [float(v) for v in QApplication.clipboard().text().split(",")] == pytest.approx([0, 1, 0])
    stack.hand.stage("turn")
    body = stack.hand.body("turn")
    stack.hand.click(body.pages.tabs.buttons["bring"])
    ways = body.bring.ways
    ways.typed.open()
    ways.numbers["bring"][0].setFocus()
    stack.hand.key(Qt.Key.Key_V, CTRL)
    stack.hand.click(ways.side.buttons["front"])
    words = stack.session.document.draft.words()
    assert words["bring"] == pytest.approx([0, 1, 0])
    assert words["to"] == "front"
    assert stack.box("crate").high[2] - stack.box("crate").low[2] == pytest.approx(0.4, abs=1e-6)


def test_a_corner_has_no_direction_to_copy(stack):
    switch(stack, "vertex")
    QApplication.clipboard().setText("before")
    stack.key(Qt.Key.Key_1)
    stack.point_at((0.6, 0.4, 0.5))
    stack.bench.setFocus()
    stack.hand.key(Qt.Key.Key_C, CTRL | SHIFT)
    assert QApplication.clipboard().text() == "before"
    assert "points nowhere" in stack.hand.window.foot.words.text()


def test_a_span_goes_across_assets_in_their_common_box_and_nowhere_else(hand, tmp_path):
    (tmp_path / "in").mkdir()
    for name, parts in (("crates", lockworks.crates()[:2]), ("cases", [lockworks.crates()[0], lockworks.crates()[2]])):
        lockworks.write(tmp_path / "in" / f"{name}.glb", parts)
    hand.open(tmp_path / "in")
    hand.pick("cases.glb", "crates.glb")
    hand.session.take_together(True)
    hand.look_from(-30, 30)
    hand.settle()
    hand.key(Qt.Key.Key_5)
    bench = hand.window.bench
    for world in ((0.6, 0.4, 0.5), (1.5, 0.8, 0.7)):
        x, y, _ = bench.lens().seen(np.array([world]))[0]
        hand.qtbot.mouseMove(bench, QPoint(round(x), round(y)))
        hand.qtbot.mouseClick(bench, Qt.MouseButton.LeftButton, NO_KEYS, QPoint(round(x), round(y)))
        hand.settle()
    (measure,) = hand.session.document.measures
    assert {measure.file, *(a.file for a in measure.anchors)} == {"crates.glb", "cases.glb", ""}
    (row,) = measure_rows(hand.session)
    assert row.title == "span, crates to cases"
    assert float(dict(row.exact)["length"].split()[0]) == pytest.approx(np.sqrt(0.9**2 + 0.4**2 + 0.2**2), abs=1e-6)
    assert row.length_m is None
    assert load_measures_of(dump_measures((measure,)), tmp_path) == (measure,)
    hand.session.take_together(False)
    hand.settle()


def load_measures_of(text, folder):
    path = folder / "m.json"
    path.write_text(text, "utf-8")
    return load_measures(path)
