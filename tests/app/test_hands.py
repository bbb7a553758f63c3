"""The hand in the view: picking, the instruments' handles, what they snap to, and the names that things get."""

from __future__ import annotations

import re

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtWidgets import QApplication

from oak_square.sheet.model import Sheet
from tests.app import lockworks
from tests.app.deeds import CTRL, NO_KEYS

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def stack(deeds):
    made = deeds("stack", lockworks.crates())
    made.look(-30, 30)
    return made


def held(d):
    return d.hand.window.desk.hand.held


def handle(d, name) -> QPoint:
    """Return the pixel that a handle is taken at."""
    lines = {h.name: h.line for h in held(d).handles(held(d).scene.hold, d.bench.lens())}
    line = lines[name]
    # Of a rail its slider, of an arc its knob.
    place = line[0] + (line[-1] - line[0]) * 0.7 if len(line) == 2 else line[len(line) // 2]
    return QPoint(*(round(float(v)) for v in place))


def switch(d, *kinds):
    """Leave just some kinds on."""
    for kind, button in d.hand.window.hold_bar.switches.items():
        if kind != "grid" and button.isChecked() != (kind in kinds):
            d.hand.click(button)


# Picking


def test_a_dragged_frame_picks_the_parts_within_and_ctrl_adds(stack):
    low, high = stack.pixel((-0.1, 0.6, -0.1)), stack.pixel((0.8, -0.1, 0.7))
    corner, other = QPoint(min(low.x(), high.x()) - 90, 130), QPoint(max(low.x(), high.x()) + 20, 560)
    stack.drag(corner, other, by_pixels=True)
    assert [stack.asset.nodes[n].name for n in stack.session.nodes] == ["crate"]
    stack.drag(QPoint(4, 4), QPoint(stack.bench.width() - 4, stack.bench.height() - 4), by_pixels=True)
    assert [stack.asset.nodes[n].name for n in stack.session.nodes] == ["crate", "case"]
    assert [s.lead for s in stack.bench.picture.shapes] == [False, True]


def test_what_lies_under_the_pointer_is_listed_and_taken_from_the_list(stack):
    at = stack.point_at((0.6, 0.4, 0.5))
    stack.hand.qtbot.mouseClick(stack.bench, Qt.MouseButton.RightButton, NO_KEYS, at)
    menu = stack.hand.window.desk.listed
    words = [a.text() for a in menu.actions()]
    assert words[0] == "vertex of crate"
    assert "edge of crate" in words
    menu.actions()[0].trigger()
    stack.hand.settle()
    menu.close()
    assert [stack.asset.nodes[n].name for n in stack.session.nodes] == ["crate"]


def test_only_the_kinds_that_are_on_are_taken(stack):
    picker = held(stack)
    stack.point_at((0.6, 0.4, 0.5))
    assert picker.aim.kind == "vertex"
    switch(stack, "edge middle", "surface")
    stack.point_at((0.6, 0.4, 0.25))
    assert picker.aim.kind == "edge middle"
    stack.point_at((0.59, 0.39, 0.5))
    assert picker.aim is None or picker.aim.kind == "surface"


def test_a_point_of_the_box_on_the_model_is_clicked(stack):
    stack.row("crate")
    stack.hand.stage("pivot")
    stack.click((0.6, 0.4, 0.5))
    assert stack.session.document.draft.words()["at"] == {"point": ["right", "top", "front"]}
    assert stack.pivot("crate") == pytest.approx([0.6, 0.4, 0.5], abs=1e-6)


# Instruments


def test_a_slider_moves_along_its_rail_as_one_deed_with_a_round_number(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    start = handle(stack, "y")
    stack.drag(start, start + QPoint(0, -60), by_pixels=True)
    shift = stack.session.document.draft.words()["shift"]
    assert (shift[0], shift[2]) == (0, 0)
    assert re.fullmatch(r"[\d.]{1,6} m|\d+ [cm]m|[\d.]{1,5} cm", shift[1])
    assert stack.pivot("crate")[[0, 2]] == pytest.approx([0, 0])
    assert stack.pivot("crate")[1] > 0.05
    assert len(stack.session.sheet.history.past) == 1
    stack.hand.key(Qt.Key.Key_Escape)
    assert stack.session.document.draft is None
    assert stack.pivot("crate") == pytest.approx([0, 0, 0])


def test_a_number_typed_in_mid_drag_holds_against_the_pointer(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    start = handle(stack, "x")
    stack.mouse(QEvent.Type.MouseMove, start, Qt.MouseButton.NoButton)
    stack.hand.qtbot.mousePress(stack.bench, LEFT, NO_KEYS, start)
    stack.mouse(QEvent.Type.MouseMove, start + QPoint(30, 5), LEFT)
    stack.entry("25 cm")
    stack.mouse(QEvent.Type.MouseMove, start + QPoint(90, 9), LEFT)
    stack.hand.qtbot.mouseRelease(stack.bench, LEFT, NO_KEYS, start + QPoint(90, 9))
    stack.hand.settle()
    assert stack.pivot("crate") == pytest.approx([0.25, 0, 0])
    assert len(stack.session.sheet.history.past) == 1
    stack.entry("\n")
    assert stack.hand.steps() == ["Place: shift 0.25 m, 0, 0"]


def test_two_drags_of_one_kind_are_one_step_and_another_kind_keeps_it_first(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    stack.entry("x10 cm")
    start = handle(stack, "y")
    stack.drag(start, start + QPoint(0, -50), by_pixels=True)
    assert stack.pivot("crate")[0] == pytest.approx(0.1)
    assert not stack.session.document.sheet.steps
    stack.hand.click(stack.hand.window.views.instruments["dial"])
    start = handle(stack, "y")
    stack.drag(start, start + QPoint(40, 0), by_pixels=True)
    assert [s.do for s in stack.session.document.sheet.steps] == ["place"]
    turn = stack.session.document.draft.words()["by"]
    assert turn[0] == turn[2] == 0
    assert turn[1] % 15 == 0
    assert turn[1] != 0


def test_what_was_typed_stays_when_another_instrument_is_taken_up(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    stack.entry("x10 cm")
    stack.hand.click(stack.hand.window.views.instruments["dial"])
    assert stack.pivot("crate") == pytest.approx([0.1, 0, 0])
    stack.entry("y30\n")
    assert [s.do for s in stack.session.document.sheet.steps] == ["place", "turn"]


def test_a_turn_of_another_part_does_not_go_on_from_the_last_ones(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_3)
    stack.entry("y30")
    stack.row("case")
    stack.bench.setFocus()
    stack.entry("y30")
    assert [(s.do, s.parts, s.by) for s in stack.session.document.sheet.steps] == [("turn", ["crate"], [0, 30, 0])]
    draft = stack.session.document.draft
    assert (draft.parts, draft.by) == (["case"], [0, 30, 0])


def test_a_move_snaps_to_the_grid_along_the_axis_it_is_held_to(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    stack.hand.window.hold_bar.grid_wished.emit(True, 0.25)
    stack.hand.settle()
    switch(stack)
    start = handle(stack, "x")
    stack.drag(start, start + QPoint(70, 12), by_pixels=True)
    assert stack.pivot("crate")[0] != 0
    assert stack.pivot("crate")[0] % 0.25 == pytest.approx(0, abs=1e-9)


def test_what_is_near_is_shown_with_how_far_it_is_and_a_kind_that_is_off_is_not(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    a, b = stack.pixel((0.6, 0.4, 0.5)), stack.pixel((1.5, 0.8, 0.7))
    stack.mouse(QEvent.Type.MouseMove, a, Qt.MouseButton.NoButton)
    stack.hand.qtbot.mousePress(stack.bench, LEFT, NO_KEYS, a)
    stack.mouse(QEvent.Type.MouseMove, b + QPoint(0, -18), LEFT)
    rule = held(stack)
    assert (rule._snap.aim.kind, rule._snap.taken) == ("vertex", False)
    assert rule._to_go.endswith("m")
    stack.mouse(QEvent.Type.MouseMove, b + QPoint(0, -3), LEFT)
    assert rule._snap.taken
    # What the batch is told on the way is a shift; marks are made once it is let go.
    stack.hand.qtbot.wait(150)
    assert "shift" in stack.session.document.draft.words()
    assert not stack.session.document.sheet.marks
    stack.hand.qtbot.mouseRelease(stack.bench, LEFT, NO_KEYS, b + QPoint(0, -3))
    stack.hand.settle()
    assert stack.session.document.draft.words()["at"]["mark"]


def test_callipers_size_from_what_stays_and_take_a_typed_length(stack):
    stack.select()
    stack.key(Qt.Key.Key_4)
    assert "about its base middle" in stack.hand.window.views.band.text()
    before = stack.box("stack").size
    start = handle(stack, "high 1")
    stack.drag(start, start + QPoint(0, -40), by_pixels=True)
    words = stack.session.document.draft.words()
    assert (set(words) & {"width", "height", "depth"}, words["keep"]) == ({"height"}, "none")
    after = stack.box("stack")
    assert after.low[1] == pytest.approx(0, abs=1e-9)
    assert after.size[1] > before[1]
    assert after.size[[0, 2]] == pytest.approx(before[[0, 2]])
    stack.entry("2 m\n")
    assert stack.box("stack").size[1] == pytest.approx(2)
    start = handle(stack, "knob")
    stack.drag(start, start + QPoint(30, -30), by_pixels=True)
    size = stack.box("stack").size
    assert size / size[1] == pytest.approx([before[0] / 2, 1, before[2] / 2], rel=1e-6)


def test_pivots_alone_says_so_and_escape_leaves_it(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_P)
    band = stack.hand.window.views.band
    assert band.isVisible()
    assert band.text().startswith("Pivots only")
    stack.key(Qt.Key.Key_2)
    stack.entry("x25 cm")
    assert stack.session.document.draft.words()["at"] == {"move": ["0.25 m", 0, 0]}
    assert stack.pivot("crate") == pytest.approx([0.25, 0, 0])
    assert stack.box("crate").low == pytest.approx([0, 0, 0], abs=1e-9)
    stack.hand.key(Qt.Key.Key_Return)
    stack.key(Qt.Key.Key_4)
    assert "A pivot has no size" in band.text()
    for _ in range(2):
        stack.hand.key(Qt.Key.Key_Escape)
    assert not stack.session.document.grip.pivots
    assert not band.isVisible()


def test_the_foot_says_the_axes_and_the_centre_in_force(stack):
    bar = stack.hand.window.hold_bar
    stack.row("crate")
    assert (bar.along.text(), bar.about.text()) == ("along: world", "about: its pivot")
    stack.key(Qt.Key.Key_A)
    assert bar.along.text() == "along: own"
    stack.row("case", CTRL)
    next(a for a in bar.about.menu().actions() if a.text() == "the mean of their pivots").trigger()
    stack.hand.settle()
    stack.key(Qt.Key.Key_3)
    assert held(stack).scene.hold.centre == pytest.approx([0.75, 0.15, 0.1], abs=1e-6)
    stack.entry("y180")
    assert stack.session.document.draft.words()["about"] == "mean"
    assert stack.pivot("crate")[[0, 2]] == pytest.approx([1.5, 0.2], abs=1e-6)


def test_undo_goes_back_over_deeds_and_not_over_how_things_are_held(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_2)
    stack.entry("x10 cm\n")
    stack.key(Qt.Key.Key_A)
    stack.hand.key(Qt.Key.Key_Z, CTRL)
    stack.hand.key(Qt.Key.Key_Z, CTRL)
    assert stack.session.document.sheet == Sheet()
    assert stack.session.document.grip.along == "own"


def test_a_point_of_the_box_is_a_centre_too(stack):
    switch(stack, "box point")
    stack.row("crate")
    stack.key(Qt.Key.Key_3)
    whole = stack.box("stack")
    stack.click(whole.high, Qt.KeyboardModifier.ShiftModifier)
    assert held(stack).scene.hold.centre == pytest.approx(whole.high)
    stack.entry("y180")
    assert stack.pivot("crate")[[0, 2]] == pytest.approx(2 * whole.high[[0, 2]], abs=1e-6)


# Names


def test_a_mark_is_named_used_again_and_stays_while_it_is_needed(stack):
    body = stack.hand.body("pivot")
    stack.row("crate")
    stack.hand.stage("pivot")
    stack.hand.click(body.pages.tabs.buttons["point"])
    stack.hand.click(body.point.point.pick)
    assert "Pivot: click the point" in stack.hand.window.views.band.text()
    stack.click((0.6, 0.4, 0.25))
    assert stack.session.document.draft.words()["at"] == {"mark": "mark_1"}
    stack.session.names.name_thing("mark", "mark_1", "rail")
    stack.hand.settle()
    assert stack.session.document.draft.words()["at"] == {"mark": "rail"}
    stack.session.names.forget_thing("mark", "rail")
    assert "is needed by what is tried" in stack.hand.window.foot.words.text()
    stack.hand.key(Qt.Key.Key_Return)
    assert stack.session.document.sheet.marks["rail"].kind == "edge"
    assert [m.name for m in stack.bench.facts.marks] == ["rail"]
    stack.row("case")
    names = [body.point.point.names.itemText(k) for k in range(body.point.point.names.count())]
    assert "mark rail" in names
    body.point.point.names.activated.emit(names.index("mark rail"))
    stack.hand.settle()
    assert stack.session.document.draft.words()["at"] == {"mark": "rail"}
    assert stack.pivot("case") == pytest.approx([0.6, 0.4, 0.25], abs=1e-6)


def test_a_mark_that_nobody_named_goes_with_the_draft(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_P)
    stack.click((0.6, 0.4, 0.25))
    assert stack.session.document.sheet.marks
    stack.hand.key(Qt.Key.Key_Escape)
    assert stack.session.document.sheet == Sheet()


def test_where_a_mark_is_found_is_shown_before_it_is_kept(stack):
    stack.row("crate")
    stack.key(Qt.Key.Key_P)
    stack.click((0.6, 0.4, 0.25))
    effect = stack.hand.window.panel.effect
    model = effect.table.model()
    assert effect.rows[0].outcome == "applied"
    tip = model.data(model.index(0, 0), Qt.ItemDataRole.ToolTipRole)
    assert "stack.glb" in tip
    assert 'src="data:image/png;base64,' in tip


def test_axes_are_turned_where_the_pivot_is_and_along_a_picked_edge(stack):
    body = stack.hand.body("pivot")
    stack.row("crate")
    stack.hand.stage("pivot")
    stack.hand.click(body.pages.tabs.buttons["axes"])
    stack.hand.click(body.axes.half.buttons["y"])
    assert stack.session.document.draft.words()["axes"] == {"half": "y"}
    assert stack.pivot("crate") == pytest.approx([0, 0, 0])
    stack.hand.click(body.axes.ways.onto.pick)
    stack.click((0.6, 0.4, 0.25))
    axes = stack.session.document.draft.words()["axes"]
    assert axes == {"bring": "+X", "to": {"mark": "mark_1"}}
    world = stack.asset.worlds[stack.node("crate")]
    assert np.abs(world[:3, 0]) == pytest.approx([0, 0, 1], abs=1e-6)


def test_angles_are_shown_as_they_are_and_one_is_set(deeds):
    parts = lockworks.crates()
    parts[1].turn = lockworks.turned(0, 10.0)
    d = deeds("stack", parts)
    d.row("crate")
    d.hand.stage("turn")
    body = d.hand.body("turn")
    d.hand.click(body.pages.tabs.buttons["set"])
    assert [e.placeholderText() for e in body.set.angles] == ["10°", "0°", "0°"]
    assert "quaternion  0.0871557" in body.set.quaternion.text()
    body.set.angles[1].setFocus()
    d.entry("20")
    assert d.session.document.draft.words()["set"] == {"y": 20.0}
    d.hand.key(Qt.Key.Key_Return)
    assert [e.placeholderText() for e in body.set.angles] == ["10°", "20°", "0°"]


def test_a_picked_face_is_brought_to_the_ground(deeds):
    d = deeds("wedge", lockworks.wedge())
    d.look(-10, 30)
    d.hand.stage("turn")
    body = d.hand.body("turn")
    d.hand.click(body.pages.tabs.buttons["bring"])
    switch(d, "face centre")
    d.hand.click(body.bring.ways.way.pick)
    d.click(lockworks.turned(1, 20.0) @ np.array([1.0, 0.5, 0.4]))
    words = d.session.document.draft.words()
    assert (words["bring"], words["to"]) == ({"mark": "mark_1"}, "bottom")
    assert d.session.document.sheet.marks["mark_1"].kind == "face"
    d.hand.click(body.bring.ways.side.buttons["front"])
    assert d.session.document.draft.words()["to"] == "front"


# Copy and paste


def test_a_point_is_pasted_into_three_fields_and_as_a_pivot(stack):
    QApplication.clipboard().setText("12.456787 m, 0 m, -3.2 m")
    stack.row("crate")
    stack.hand.stage("place")
    body = stack.hand.body("place")
    body.at[0].setFocus()
    stack.hand.key(Qt.Key.Key_V, CTRL)
    assert stack.pivot("crate") == pytest.approx([12.456787, 0, -3.2])
    stack.hand.key(Qt.Key.Key_Escape)
    stack.hand.key(Qt.Key.Key_Escape)
    stack.bench.setFocus()
    stack.key(Qt.Key.Key_P)
    stack.key(Qt.Key.Key_V, CTRL)
    assert stack.session.document.draft.words()["at"]["xyz"] == ["12.456787 m", "0 m", "-3.2 m"]
    QApplication.clipboard().setText("no point at all")
    stack.bench.setFocus()
    stack.hand.key(Qt.Key.Key_V, CTRL)
    assert "is no point" in stack.hand.window.foot.words.text()


def test_a_datum_is_typed_named_squared_and_used_by_one_key(stack):
    things = stack.hand.window.hold_bar.things
    stack.key(Qt.Key.Key_D)
    stack.click((0.6, 0.4, 0.5))
    stack.session.names.name_thing("datum", "datum_1", "sill")
    stack.hand.settle()
    assert stack.session.document.grip.along == "datum sill"
    things.typed.emit("sill", "1 m, 2 m, 3 m")
    stack.hand.settle()
    assert stack.session.document.sheet.datums["sill"].at == ["1 m", "2 m", "3 m"]
    assert [d.name for d in stack.bench.facts.datums] == ["sill"]
    things.datum_wished.emit("sill", "view")
    stack.hand.settle()
    frame = stack.session.setting.datum("sill", stack.asset)
    assert pytest.approx(stack.bench.camera.axes, abs=1e-6) == frame[:3, :3].T
    things.datum_wished.emit("sill", "square")
    stack.hand.settle()
    frame = stack.session.setting.datum("sill", stack.asset)
    assert np.abs(frame[:3, :3]).max(axis=0) == pytest.approx([1, 1, 1])
    things.datum_wished.emit("sill", "pivot")
    stack.hand.settle()
    assert stack.session.setting.datum("sill", stack.asset) == pytest.approx(np.eye(4))
    things.forget_wished.emit("datum", "sill")
    stack.hand.settle()
    assert stack.session.document.grip.along == "world"
    assert not stack.session.document.sheet.datums
