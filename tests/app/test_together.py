"""Several files as one, and places on other files: with the mouse and the keys, as a person would."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.app.facts.findings import finding_groups
from oak_square.core.boxes import asset_box
from tests.app.deeds import NO_KEYS, Deeds
from tests.app.lockworks import Part, box, write
from tests.app.test_hands import handle

FRAME, LEAF, BOLLARD = "frame.glb", "leaf.glb", "bollard.glb"


@pytest.fixture
def door(hand, tmp_path):
    """A frame with its leaf beside it, 10 m off, and a bollard elsewhere: three files."""
    inner = tmp_path / "in"
    d = Deeds(hand, tmp_path, "frame", [Part("frame", *box((1, 2, 1)), at=(10, 1, 0))])
    write(inner / LEAF, [Part("leaf", *box((2, 2, 1)), at=(11, 1, 0))])
    shaft, cap = (
        Part("shaft", *box((0.5, 1, 0.5)), at=(4.75, 0, 2.75)),
        Part("cap", *box((0.2, 0.2, 0.2)), at=(5, 1, 3)),
    )
    write(inner / BOLLARD, [shaft, cap])
    hand.open(inner / LEAF, inner / BOLLARD)
    return d


def together(d):
    """Select both, and take them as one: two deeds more than the first click."""
    d.hand.pick(FRAME, LEAF)
    d.press(d.hand.window.views.together_button)


def low(d, file):
    return asset_box(d.session.outcomes[file].after.asset).low


def corner(d):
    """Return the lowest corners of frame and leaf."""
    return [low(d, FRAME).tolist(), low(d, LEAF).tolist()]


def draft(d):
    return d.session.document.draft.words()


def test_two_files_go_to_zero_together_in_two_deeds(door):
    d = door
    d.hand.pick(FRAME, LEAF)
    d.count = 0
    d.press(d.hand.window.views.together_button)
    d.key(Qt.Key.Key_0)
    assert d.count == 2
    assert corner(d) == [pytest.approx([-1.5, 0, -0.5]), pytest.approx([-0.5, 0, -0.5])]
    assert draft(d)["together"] is True
    assert "2 assets" in d.hand.window.panel.scope.says.text()
    assert "as one" in d.hand.window.panel.scope.says.text()
    assert low(d, BOLLARD).tolist() == pytest.approx([4.75, 0, 2.75])


def test_the_band_says_that_they_are_one_and_about_what(door):
    d = door
    together(d)
    d.key(Qt.Key.Key_3)
    band = d.hand.window.desk.hand.held.band
    assert "2 assets as one" in band
    assert "about the base middle of their common box" in band


def test_a_typed_shift_moves_both_by_one_motion(door):
    d = door
    together(d)
    d.key(Qt.Key.Key_2)
    d.entry("y 1 m\n")
    assert corner(d) == [pytest.approx([10, 2, 0]), pytest.approx([11, 2, 0])]
    assert d.session.document.sheet.steps[0].together


def test_a_drag_on_a_rail_moves_both_alike_while_it_goes_on_and_after(door):
    d = door
    together(d)
    d.look(-30, 30)
    d.key(Qt.Key.Key_2)
    rail = handle(d, "y")
    d.drag(rail, rail + QPoint(0, -60), by_pixels=True)
    first, second = corner(d)
    assert first[1] > 1.2
    assert np.subtract(second, first).tolist() == pytest.approx([1, 0, 0])


def test_a_typed_turn_is_about_the_base_of_their_common_box(door):
    d = door
    together(d)
    d.key(Qt.Key.Key_3)
    d.entry("y 90\n")
    # A quarter about (11.5, -, 0.5) takes (x, z) to (11.5 + z - 0.5, 0.5 - x + 11.5).
    assert low(d, FRAME).tolist() == pytest.approx([11, 1, 1])
    assert low(d, LEAF).tolist() == pytest.approx([11, 1, -1])


def test_callipers_and_the_plate_size_their_common_box(door):
    d = door
    together(d)
    d.key(Qt.Key.Key_4)
    d.entry("x 6 m\n")
    assert corner(d) == [pytest.approx([8.5, 1, 0]), pytest.approx([10.5, 1, 0])]
    step = d.session.document.sheet.steps[0]
    assert (step.width, step.together, step.keep) == ("6 m", True, "none")


def test_the_panels_form_is_about_the_common_box(door):
    d = door
    together(d)
    d.hand.stage("size")
    body = d.hand.body("size")
    d.press(body.pages.tabs.buttons["extent"])
    assert body.extents["width"].placeholderText().startswith("3")
    d.press(body.extents["width"])
    d.entry("6 m\n")
    assert corner(d) == [pytest.approx([8.5, 1, -0.5]), pytest.approx([10.5, 1, -0.5])]


def test_switching_the_common_box_changes_what_is_tried(door):
    d = door
    together(d)
    d.key(Qt.Key.Key_0)
    d.press(d.hand.window.views.together_button)
    assert "together" not in draft(d)
    assert corner(d) == [pytest.approx([-0.5, 0, -0.5]), pytest.approx([-1, 0, -0.5])]
    d.press(d.hand.window.views.together_button)
    assert draft(d)["together"] is True


def test_a_centre_on_another_asset_is_picked_by_key_list_and_row_of_its_hierarchy(door):
    d = door
    d.hand.pick(FRAME)
    d.key(Qt.Key.Key_3)
    d.key(Qt.Key.Key_C)
    d.hand.pick(BOLLARD)
    assert d.session.selection == (FRAME,)
    tree = d.hand.window.hierarchy
    room = tree.tree.visualRect(tree.place_of(1))
    d.hand.qtbot.mouseClick(tree.tree.viewport(), Qt.MouseButton.LeftButton, NO_KEYS, room.center())
    d.hand.settle()
    assert d.session.selection == (FRAME,)
    assert "about the pivot of 'cap' on bollard" in d.hand.window.desk.hand.held.band
    d.entry("y 180\n")
    assert d.session.document.sheet.steps[0].words()["about"] == {"part": "cap", "of": "bollard"}
    assert low(d, FRAME).tolist() == pytest.approx([-1, 1, 5])
    # Another one takes the same centre.
    d.hand.pick(LEAF)
    d.entry("y 180\n")
    assert low(d, LEAF).tolist() == pytest.approx([-3, 1, 5])


def test_a_centre_on_another_asset_may_be_a_corner_clicked_in_the_picture(door):
    d = door
    d.hand.pick(FRAME)
    d.key(Qt.Key.Key_3)
    d.key(Qt.Key.Key_C)
    d.hand.pick(BOLLARD)
    d.look(40, 30)
    shape = next(s for s in d.bench.picture.shapes if s.file == BOLLARD and s.name == "shaft")
    points = np.asarray(shape.mesh.points) @ shape.world_from_mesh[:3, :3].T + shape.world_from_mesh[:3, 3]
    top = points[np.argmax(points @ [1, -1, 1])]
    d.click(top)
    d.entry("y 180\n")
    (step,) = d.session.document.sheet.steps
    assert step.about.of == "bollard"
    assert d.session.document.sheet.marks[step.about.mark].kind == "vertex"
    assert low(d, FRAME).tolist() == pytest.approx([2 * 5.25 - 11, 1, 2 * 3.25 - 1])


def test_esc_takes_the_guest_away_and_leaves_what_was_selected(door):
    d = door
    d.hand.pick(FRAME)
    d.key(Qt.Key.Key_C)
    d.hand.pick(BOLLARD)
    assert {s.file for s in d.bench.picture.shapes} == {FRAME, BOLLARD}
    d.key(Qt.Key.Key_Escape)
    assert {s.file for s in d.bench.picture.shapes} == {FRAME}
    assert d.session.selection == (FRAME,)


def test_files_that_share_a_world_are_offered_to_be_placed_together(door):
    d = door
    d.hand.pick(FRAME)
    groups = {g.code: g for g in finding_groups(d.session)[0]}
    assert set(groups["shared-world"].files) == {FRAME, LEAF}
    d.hand.window.panel_desk.settle("shared-world")
    d.hand.settle()
    assert draft(d)["together"] is True
    assert corner(d) == [pytest.approx([-1.5, 0, -0.5]), pytest.approx([-0.5, 0, -0.5])]
