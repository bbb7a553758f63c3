"""Vertices in hand: picked, framed and listed in the view, kept as what they mean, moved by form and instruments."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.core.boxes import node_box
from oak_square.core.reshaping import fingerprint
from tests.app import lockworks
from tests.app.deeds import CTRL, NO_KEYS
from tests.app.test_entries import typed
from tests.app.test_hands import handle
from tests.strategies import world_points


def tapered():
    """A post 1 m wide below, 60 cm above, and 2 m high."""
    points, triangles = lockworks.box((1.0, 2.0, 1.0), (-0.5, 0, -0.5))
    return np.where(points[:, 1:2] > 0, points * [0.6, 1, 0.6], points), triangles


@pytest.fixture
def post(deeds):
    d = deeds(
        "post", [lockworks.Part("post", *tapered()), lockworks.Part("cap", *lockworks.box((1, 0.2, 1)), at=(3, 0, 0))]
    )
    d.look(-30, 25)
    return d


def begin(d, name="post"):
    d.row(name)
    d.hand.stage("bake")
    d.press(d.hand.body("bake").means.buttons["shape"])


def take_of(d):
    return d.session.document.grip.take


def draft(d):
    return d.session.document.draft.words()


def top_of(d, name="post"):
    points = world_points(d.asset, d.node(name))
    return points[points[:, 1] > points[:, 1].max() - 1e-6]


def test_the_top_of_a_post_is_narrowed_to_a_typed_width_in_five_actions(deeds):
    d = deeds("post", [lockworks.Part("post", *tapered())])
    d.key(Qt.Key.Key_5, Qt.KeyboardModifier.AltModifier)
    d.press(d.hand.body("bake").means.buttons["shape"])
    width = d.hand.body("bake").shape.extents["width"]
    assert width.placeholderText() == "0.60 m"
    assert len(d.hand.window.desk.display.facts.taken) == 4
    d.press(width)
    d.entry("20 cm\n")
    assert np.ptp(top_of(d), axis=0) == pytest.approx([0.2, 0, 0.2], abs=1e-6)
    assert d.session.document.sheet.steps[0].words() == {
        "do": "shape", "take": {"side": "top"}, "width": "20 cm", "for": ["post.glb"],
    }  # fmt: skip
    d.done(5)
    second = d.second()
    assert second.status == "ready", second.reason
    points = world_points(second.asset, 0)
    assert np.ptp(points[points[:, 1] > 100], axis=0)[0] == pytest.approx(0.2)


def test_feet_go_to_one_height_by_a_share_of_the_box(deeds):
    points, triangles = lockworks.box((0.1, 1.0, 0.1))
    feet = np.array([[0, 0.0, 0], [1, 0.02, 0], [0, 0.03, 1]])
    is_low = points[:, 1:2] == 0
    whole = np.concatenate([points + is_low * foot * [0, 1, 0] + foot * [1, 0, 1] for foot in feet])
    threes = np.concatenate([triangles + 24 * k for k in range(3)])
    d = deeds("frame", [lockworks.Part("frame", whole, threes)])
    begin(d, "frame")
    take = d.hand.body("bake").shape.take
    d.press(take.sides.buttons["bottom"])
    assert len(d.hand.window.desk.display.facts.taken) == 4
    typed(d.hand, take.within, "5 %")
    assert len(d.hand.window.desk.display.facts.taken) == 12
    d.press(d.hand.body("bake").shape.pages.tabs.buttons["set"])
    typed(d.hand, d.hand.body("bake").shape.set["height"], "0")
    assert draft(d)["take"] == {"side": "bottom", "within": "5 %"}
    assert draft(d)["set"] == {"height": "0 m"}
    found = world_points(d.asset, 0)
    assert np.abs(found[found[:, 1] < 0.5, 1]).max() == 0


def test_a_slab_is_typed_and_open_at_either_end(post):
    begin(post)
    take = post.hand.body("bake").shape.take
    post.press(take.kinds.buttons["slab"])
    typed(post.hand, take.ends["from"], "1 m")
    assert take_of(post) == {"from": {"height": "1 m"}}
    assert len(post.hand.window.desk.display.facts.taken) == 4
    typed(post.hand, take.ends["to"], "1.5 m")
    assert len(post.hand.window.desk.display.facts.taken) == 0
    post.press(take.extents.buttons["width"])
    assert take_of(post) == {"from": {"width": "1 m"}, "to": {"width": "1.5 m"}}


def test_a_click_takes_a_vertex_an_edge_a_face_as_what_it_is_and_ctrl_adds_and_lets_go(post):
    begin(post)
    corner = (-0.3, 2.0, 0.3)
    post.click(corner)
    mark = post.session.setting.marks[take_of(post)["mark"]]
    assert (mark.kind, mark.on) == ("vertex", "post")
    assert post.hand.window.desk.display.facts.taken == pytest.approx(np.array([corner]), abs=1e-6)
    post.click((0.0, 2.0, 0.3))
    assert post.session.setting.marks[take_of(post)["mark"]].kind == "edge"
    assert len(post.hand.window.desk.display.facts.taken) == 2
    post.click((0.1, 2.0, 0.3))
    assert len(post.hand.window.desk.display.facts.taken) == 2
    post.click((0.0, 2.0, 0.0))
    assert post.session.setting.marks[take_of(post)["mark"]].kind == "face"
    assert len(post.hand.window.desk.display.facts.taken) == 4
    post.click(corner)
    post.click((0.3, 2.0, -0.3), CTRL)
    rows = take_of(post)["vertices"]
    assert take_of(post)["of"] == fingerprint(post.asset.mesh_of(0))
    assert len(rows) == 6  # three sides meet in each corner
    post.click(corner, CTRL)
    assert len(take_of(post)["vertices"]) == 3
    # Two that share a depth no other has are a slab, and all four corners of the top are the top: so they are kept.
    post.click((-0.3, 2.0, -0.3), CTRL)
    assert set(take_of(post)["from"]) == {"depth"}
    for at in (corner, (0.3, 2.0, 0.3)):
        post.click(at, CTRL)
    assert take_of(post) == {"side": "top"}


def test_a_frame_takes_vertices_and_is_kept_as_a_side_or_a_slab(post):
    begin(post)
    post.look(0, 0)
    low, high = post.pixel((-0.4, 1.8, 0)), post.pixel((0.4, 2.2, 0))
    post.drag(low, high, by_pixels=True)
    assert take_of(post) == {"side": "top"}
    left, right = post.pixel((-0.7, 2.2, 0)), post.pixel((-0.05, -0.2, 0))
    post.drag(left, right, by_pixels=True)
    assert take_of(post) == {"to": {"width": take_of(post)["to"]["width"]}}
    assert len(post.hand.window.desk.display.facts.taken) == 4
    assert post.session.nodes == (0,)


def test_all_that_hangs_together_is_taken_from_the_list(deeds):
    points, triangles = lockworks.box((1.0, 1.0, 1.0))
    both = np.concatenate([points, points * [1, 2, 1] + [1.5, 0, 0]])
    d = deeds("pair", [lockworks.Part("pair", both, np.concatenate([triangles, triangles + 24]))])
    d.look(-30, 25)
    begin(d, "pair")
    at = d.point_at((2.0, 2.0, 0.5))
    d.hand.qtbot.mouseClick(d.bench, Qt.MouseButton.RightButton, NO_KEYS, at)
    menu = d.hand.window.desk.listed
    entry = next(a for a in menu.actions() if a.text() == "all that hangs together of pair")
    entry.trigger()
    menu.close()
    d.hand.settle()
    assert len(d.hand.window.desk.display.facts.taken) == 8
    assert d.hand.window.desk.display.facts.taken[:, 0].min() == pytest.approx(1.5)
    assert set(take_of(d)) == {"from"}


@pytest.mark.parametrize("key", [Qt.Key.Key_2, Qt.Key.Key_3, Qt.Key.Key_4])
def test_instruments_move_turn_and_size_what_is_taken_alone(post, key):
    begin(post)
    before, cap = world_points(post.asset, 0), world_points(post.asset, 1)
    post.key(key)
    post.hand.settle()
    name = {Qt.Key.Key_2: "x", Qt.Key.Key_3: "y", Qt.Key.Key_4: "high 0"}[key]
    start = handle(post, name)
    post.drag(start, start + QPoint(40, 6), by_pixels=True)
    words = draft(post)
    way = {Qt.Key.Key_2: "by", Qt.Key.Key_3: "turn", Qt.Key.Key_4: "width"}[key]
    assert {"do": "shape", "take": {"side": "top"}, "parts": ["post"]}.items() <= words.items()
    assert way in words
    after = world_points(post.asset, 0)
    taken = before[:, 1] > 1
    assert (after[~taken] == before[~taken]).all()
    assert np.abs(after[taken] - before[taken]).max() > 0.02
    assert (world_points(post.asset, 1) == cap).all()
    # A second drag of the same kind goes on from the first: one step, one undo.
    again = handle(post, name)
    post.drag(again, again + QPoint(30, 4), by_pixels=True)
    assert len(post.session.document.sheet.steps) == 0
    assert draft(post) != words
    post.key(Qt.Key.Key_Return)
    assert len(post.session.document.sheet.steps) == 1


def test_a_distance_a_coordinate_and_a_width_are_typed_to_the_instruments(post):
    begin(post)
    post.key(Qt.Key.Key_2)
    post.entry("x")
    post.entry("10 cm\n")
    assert post.session.document.sheet.steps[0].words()["by"] == ["0.1 m", 0, 0]
    post.entry("y")
    post.entry("=1.5 m\n")
    assert post.session.document.sheet.steps[1].words()["set"] == {"height": "1.5 m"}
    assert node_box(post.asset, 0).high[1] == pytest.approx(1.5)
    post.key(Qt.Key.Key_4)
    post.entry("x")
    post.entry("20 cm\n")
    assert post.session.document.sheet.steps[2].words()["width"] == "0.2 m"
    assert np.ptp(top_of(post), axis=0)[0] == pytest.approx(0.2, abs=1e-6)
    assert top_of(post).mean(axis=0) == pytest.approx([0.1, 1.5, 0], abs=1e-6)


def test_a_click_on_another_part_picks_it_and_escape_takes_things_as_wholes_again(post):
    begin(post)
    post.click((3.5, 0.1, 1.0))
    assert post.session.nodes == (1,)
    assert take_of(post) == {"side": "top"}
    post.key(Qt.Key.Key_Escape)
    assert take_of(post) is None
    assert post.hand.body("bake").means.choice == "bake"
    assert not len(post.hand.window.desk.display.facts.taken)
    post.click((0.0, 1.0, 0.4))
    assert post.session.nodes == (0,)


def test_in_other_stages_things_are_taken_as_wholes(post):
    begin(post)
    post.hand.stage("place")
    post.key(Qt.Key.Key_2)
    start = handle(post, "x")
    post.drag(start, start + QPoint(40, 6), by_pixels=True)
    assert draft(post)["do"] == "place"


def test_a_pivot_goes_to_the_mean_of_what_is_taken(post):
    begin(post)
    post.press(post.hand.body("bake").shape.take.mean)
    assert draft(post)["do"] == "pivot"
    assert post.pivot("post") == pytest.approx([0, 2, 0], abs=1e-6)
    assert post.pivot("cap") == pytest.approx([3, 0, 0])


def test_a_kept_shape_is_opened_with_its_vertices_in_hand_and_other_ones_are_picked_for_it(post):
    begin(post)
    typed(post.hand, post.hand.body("bake").shape.extents["width"], "20 cm")
    post.key(Qt.Key.Key_Return)
    post.key(Qt.Key.Key_Escape)
    assert take_of(post) is None
    post.hand.window.strip.open_wished.emit(0)
    post.hand.settle()
    assert take_of(post) == {"side": "top"}
    assert post.hand.body("bake").shape.isVisible()
    post.press(post.hand.body("bake").shape.take.sides.buttons["bottom"])
    assert draft(post) == {
        "do": "shape",
        "take": {"side": "bottom"},
        "width": "20 cm",
        "for": ["post.glb"],
        "parts": ["post"],
    }
    post.key(Qt.Key.Key_Return)
    assert np.ptp(top_of(post), axis=0)[0] == pytest.approx(0.6, abs=1e-6)


def test_what_stands_in_the_way_is_said_and_nothing_changes(deeds):
    d = deeds("twins", [lockworks.Part("one", *lockworks.box((1, 1, 1)))])
    begin(d, "one")
    typed(d.hand, d.hand.body("bake").shape.extents["height"], "2 m")
    outcome = d.session.outcomes[d.file]
    assert outcome.after.status == "refused"
    assert "its height is nothing" in outcome.after.reason
    d.key(Qt.Key.Key_Escape)
    assert (world_points(d.asset, 0) == world_points(d.session.assets[d.file], 0)).all()


def test_a_measured_vertex_goes_along_where_it_is_moved(post):
    post.hand.stage("size")
    post.key(Qt.Key.Key_5)
    post.click((-0.3, 2.0, 0.3))
    post.click((0.3, 2.0, 0.3))
    post.key(Qt.Key.Key_Escape)
    (measure,) = post.session.document.measures
    begin(post)
    typed(post.hand, post.hand.body("bake").shape.extents["width"], "20 cm")
    ends = [anchor.world(post.asset) for anchor in measure.anchors]
    assert np.linalg.norm(ends[1] - ends[0]) == pytest.approx(0.2, abs=1e-6)
