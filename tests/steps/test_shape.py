"""`shape`: what is taken is where it says, what is not stays, and its inverse gives back the original."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from pydantic import ValidationError

from oak_square.core.boxes import node_box
from oak_square.core.frames import Reading, apply
from oak_square.core.marks import MarkLook
from oak_square.core.placement import Placement
from oak_square.core.reshaping import fingerprint
from oak_square.core.scene import Asset, Node
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Deliver, Sheet
from oak_square.steps.setting import Setting
from oak_square.steps.step import STEPS
from tests.strategies import assets, solid_box, world_points

SIDES = {"left": (0, 0), "right": (0, 1), "bottom": (1, 0), "top": (1, 1), "back": (2, 0), "front": (2, 1)}
METRES = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def shape(**words):
    return STEPS["shape"].model_validate({"do": "shape", **words})


def post(**channels) -> Asset:
    """A box 1 wide, 2 high, 3 deep."""
    node = Node(name="post", parent=None, placement=Placement.of(**channels), mesh=0)
    mesh = solid_box(np.array([1.0, 2, 3]))
    return Asset(file="post.glb", format="glb", reading=METRES, nodes=(node,), meshes=(mesh,))


def run(asset, *steps, up="Y", status="ready"):
    sheet = Sheet(deliver=Deliver(up=up), steps=tuple(shape(**s) for s in steps))
    prepared = evaluate(asset, sheet)
    assert prepared.status == status, prepared.reason
    return prepared


def steep(asset) -> bool:
    return max(np.linalg.cond(asset.world_from_mesh(i)[:3, :3]) for i in asset.parts) > 1e4


@given(assets(deepest=3), st.sampled_from(sorted(SIDES)), st.floats(-20, 20), st.sampled_from(["set", "by", "turn"]))
def test_what_is_taken_is_where_it_says_and_what_is_not_stays(asset, side, value, way):
    assume(asset.parts and not steep(asset))
    axis, end = SIDES[side]
    words = {
        "set": {"set": {("width", "height", "depth")[axis]: value}},
        "by": {"by": [value, 1, -2]},
        "turn": {"turn": [0, value * 9, 0], "about": "origin"},
    }[way]
    after = run(asset, {"take": {"side": side}, **words}).asset
    for i in asset.parts:
        old, new = world_points(asset, i), world_points(after, i)
        box = node_box(asset, i)
        at = box.high[axis] if end else box.low[axis]
        taken = np.abs(old[:, axis] - at) <= 0.001 * box.size[axis] + 1e-6 * box.diagonal
        assert taken.any()
        mesh, made = asset.mesh_of(i), after.mesh_of(i)
        assert (made.points[~taken] == mesh.points[~taken]).all()
        wanted = old[taken].copy()
        if way == "set":
            wanted[:, axis] = value
        elif way == "by":
            wanted += [value, 1, -2]
        else:
            c, s = np.cos(np.radians(value * 9)), np.sin(np.radians(value * 9))
            wanted = wanted @ np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]]).T
        reach = max(np.abs(old).max(), np.abs(wanted).max())
        assert new[taken] == pytest.approx(wanted, abs=1e-8 * reach)


@given(assets(deepest=3), st.sampled_from(sorted(SIDES)), st.floats(0.25, 4))
def test_a_shape_and_its_inverse_give_back_the_original(asset, side, factor):
    assume(asset.parts and not steep(asset))
    there = run(asset, {"take": {"side": side}, "by": [1, 2, 3]}).asset
    assume(all(node_box(there, i).diagonal > 1e-3 for i in there.parts))
    rows = {i: (there.mesh_of(i).points != asset.mesh_of(i).points).any(axis=1) for i in asset.parts}
    for i in asset.parts:
        vertices = {"vertices": np.flatnonzero(rows[i]).tolist(), "of": fingerprint(there.mesh_of(i))}
        if sum(asset.nodes[k].mesh == asset.nodes[i].mesh for k in asset.parts) > 1:
            continue
        back = run(there, {"take": vertices, "by": [-1, -2, -3], "parts": [asset.nodes[i].name]})
        once = run(asset, {"take": vertices, "factor": factor, "about": "origin", "parts": [asset.nodes[i].name]}).asset
        home = run(once, {"take": vertices, "factor": 1 / factor, "about": "origin", "parts": [asset.nodes[i].name]})
        for found in (back.asset, home.asset):
            reach = float(np.abs(world_points(asset, i)).max()) + 4
            assert world_points(found, i) == pytest.approx(world_points(asset, i), abs=1e-9 * reach)
            assert found.mesh_of(i).normals == pytest.approx(asset.mesh_of(i).normals, abs=1e-6)


def test_a_top_is_narrowed_to_a_width_in_proportion_alone_or_by_volume():
    found = {}
    for keep in ("proportions", "none", "volume"):
        after = run(post(), {"take": {"side": "top"}, "width": "50 cm", "keep": keep}).asset
        points = world_points(after, 0)
        found[keep] = np.ptp(points[points[:, 1] > 1], axis=0).tolist()
        assert np.ptp(points[points[:, 1] < 1], axis=0).tolist() == [1, 0, 3]
        middle = (points[points[:, 1] > 1].min(axis=0) + points[points[:, 1] > 1].max(axis=0)) / 2
        assert middle == pytest.approx([0.5, 2, 1.5])
    assert found["proportions"] == pytest.approx([0.5, 0, 1.5])
    assert found["none"] == pytest.approx([0.5, 0, 3])
    assert found["volume"] == pytest.approx([0.5, 0, 3 * 2**0.5])


def test_a_slab_is_from_the_low_side_and_either_end_may_be_open():
    asset = post(translation=(10, 5, -4))
    for take, count in (
        ({"from": {"height": "1 m"}}, 12),
        ({"to": {"height": 1.5}}, 12),
        ({"from": {"depth": 2.9}, "to": {"depth": 3}}, 12),
        ({"from": {"depth": -1}}, 24),
        ({"from": {"width": 0.2}, "to": {"width": "0.8"}}, 0),
    ):
        after = run(asset, {"take": take, "by": [0, 1, 0]})
        moved = np.abs(world_points(after.asset, 0) - world_points(asset, 0)).max(axis=1) > 0.5
        assert moved.sum() == count
        assert after.outcomes[0].outcome == ("applied" if count else "nothing")


def test_within_is_a_length_or_a_share_of_the_extent():
    asset = post()
    bent = run(asset, {"take": {"side": "right"}, "turn": [0, 0, 10]}).asset  # the top right rises, and moves inward
    for within, count in ((0, 6), ("1 mm", 6), ("20 %", 12), ("100 %", 24), (5, 24)):
        after = run(bent, {"take": {"side": "top", "within": within}, "by": [0, 0, 9]}).asset
        assert (world_points(after, 0)[:, 2] > 5).sum() == count


def test_coordinates_are_told_along_the_delivery_axes_and_taken_by_sides():
    asset = post()
    # Z up: working (x, y, z) is (x, -z, y): depth is Y, growing to the back.
    after = run(asset, {"take": {"side": "front"}, "set": {"depth": -7}}, up="Z").asset
    assert node_box(after, 0).high[2] == pytest.approx(7)
    after = run(asset, {"take": {"side": "top"}, "by": [0, 0, 1]}, up="Z").asset
    assert node_box(after, 0).size == pytest.approx([1, 3, 3])
    after = run(asset, {"take": {"side": "top"}, "factor": [1, 0.5, 1]}, up="Z").asset
    top = world_points(after, 0)
    assert np.ptp(top[top[:, 1] > 1], axis=0) == pytest.approx([1, 0, 1.5])


def test_own_axes_and_centres_are_those_of_the_part():
    asset = post(rotation=(0, 0.6, 0, 0.8), translation=(5, 0, 0))
    words = {"take": {"side": "top"}, "width": 2, "keep": "none", "along": "own", "parts": ["post"]}
    after = run(asset, words).asset
    own = after.mesh_of(0).points
    assert np.ptp(own[own[:, 1] > 1], axis=0) == pytest.approx([2, 0, 3])
    spun = run(asset, {"take": {"side": "top"}, "turn": [0, 180, 0], "about": "pivot", "parts": ["post"]}).asset
    old, new = world_points(asset, 0), world_points(spun, 0)
    top = old[:, 1] > 1
    assert new[top] == pytest.approx(old[top] * [-1, 1, -1] + [10, 0, 0])


@pytest.mark.parametrize(
    ("kind", "where", "way", "count"),
    [("vertex", (1, 1, 1), None, 1), ("edge", (0.5, 1, 1), (1, 0, 0), 2), ("face", (0.5, 0.5, 1), (0, 0, 1), 4)],
)
def test_a_mark_takes_the_vertices_of_what_it_is_with_all_at_their_places(kind, where, way, count):
    look = MarkLook(name="m", on="post", kind=kind, where=np.array(where), way=None if way is None else np.array(way))
    step = shape(take={"mark": "m"}, by=[0, 0, 1])
    asset = post()
    after = step.apply(asset, Setting(marks={"m": look})).asset
    moved = np.abs(world_points(after, 0) - world_points(asset, 0)).max(axis=1) > 0.5
    places = {tuple(p) for p in world_points(asset, 0)[moved]}
    assert len(places) == count
    assert moved.sum() == sum(tuple(p) in places for p in world_points(asset, 0))


def test_numbered_vertices_move_with_what_lies_where_they_do_and_on_that_mesh_alone():
    asset = post()
    of = fingerprint(asset.mesh_of(0))
    after = run(asset, {"take": {"vertices": [0], "of": of}, "by": [0, 0, -1]}).asset
    moved = (world_points(after, 0) != world_points(asset, 0)).any(axis=1)
    assert moved.sum() == 3  # three sides meet in a corner
    refused = run(asset, {"take": {"vertices": [24], "of": of}, "by": [0, 1, 0]}, status="refused")
    assert "has no vertex 24: it has 24" in refused.reason
    refused = run(asset, {"take": {"vertices": [0], "of": "0123456789ab"}, "by": [0, 1, 0]}, status="refused")
    assert f"picked on another mesh than that of 'post', whose fingerprint is {of}" in refused.reason


def test_shared_geometry_is_refused_for_some_and_parts_where_its_users_need_different_changes():
    one = Node(name="near", parent=None, placement=Placement.of(), mesh=0)
    level = Node(name="level", parent=None, placement=Placement.of(translation=(9, 0, 0)), mesh=0)
    lying = Node(name="lying", parent=None, placement=Placement.of(rotation=(0.5**0.5, 0, 0, 0.5**0.5)), mesh=0)
    asset = replace(post(), nodes=(one, level, lying))
    words = {"take": {"side": "top"}, "by": [0.5, 0, 0]}
    refused = run(asset, {**words, "parts": ["near"]}, status="refused")
    assert "'near' shares its geometry with 'level' and 1 more" in refused.reason
    after = run(asset, words).asset
    assert after.nodes[0].mesh == after.nodes[1].mesh != after.nodes[2].mesh
    for i in range(3):
        old, new = world_points(asset, i), world_points(after, i)
        top = old[:, 1] > old[:, 1].max() - 1e-6
        assert new[top] == pytest.approx(old[top] + [0.5, 0, 0])
        assert new[~top] == pytest.approx(old[~top])


def test_nothing_taken_or_nothing_to_do_comes_to_nothing():
    none = run(post(), {"take": {"from": {"height": 5}}, "by": [1, 0, 0]}).outcomes[0]
    assert (none.outcome, none.detail) == ("nothing", "it takes no vertex")
    there = run(post(), {"take": {"side": "bottom"}, "set": {"height": 0}}).outcomes[0]
    assert (there.outcome, there.detail) == ("nothing", "they are there already")
    same = run(post(), {"take": {"side": "top"}, "turn": [0, 360, 0]}).outcomes[0]
    assert same.outcome == "nothing"


def test_marks_and_boxes_are_those_of_the_shape_that_the_step_before_left():
    after = run(
        post(),
        {"take": {"side": "top"}, "width": "10 cm"},
        {"take": {"from": {"height": 1}}, "factor": 10},
        {"take": {"side": "top", "within": 0}, "set": {"height": 4}},
    ).asset
    points = apply(np.eye(4), world_points(after, 0))
    assert np.ptp(points[points[:, 1] > 1], axis=0) == pytest.approx([1, 0, 3])
    assert node_box(after, 0).high[1] == pytest.approx(4)


@pytest.mark.parametrize(
    ("words", "says"),
    [
        ({}, "take"),
        ({"take": {"side": "top"}}, "shape does one thing"),
        ({"take": {"side": "top"}, "by": [1, 0, 0], "factor": 2}, "shape does one thing"),
        ({"take": {"side": "tip"}, "factor": 2}, "side"),
        ({"take": {"sid": "top"}, "factor": 2}, r"'sid' takes nothing \(a take is .*did you mean 'side'"),
        ({"take": "top", "factor": 2}, "'top' takes nothing"),
        ({"take": {"side": "top", "mark": "m"}, "factor": 2}, "Extra inputs"),
        ({"take": {"side": "top", "within": "-1 cm"}, "factor": 2}, "less than nothing"),
        ({"take": {"side": "top", "within": "few"}, "factor": 2}, "nor a share such as"),
        ({"take": {"from": {"height": 1}, "to": {"width": 2}}, "factor": 2}, "lies along one extent"),
        ({"take": {"from": {"height": 1, "width": 2}}, "factor": 2}, "at most 1"),
        ({"take": {"vertices": [1]}, "factor": 2}, "of"),
        ({"take": {"vertices": [-1], "of": "0" * 12}, "factor": 2}, "greater than or equal to 0"),
        ({"take": {"vertices": [], "of": "0" * 12}, "factor": 2}, "at least 1"),
        ({"take": {"side": "top"}, "factor": 0}, "positive number"),
        ({"take": {"side": "top"}, "width": "0 m"}, "longer than nothing"),
        ({"take": {"side": "top"}, "factor": 2, "keep": "none"}, "keep goes with"),
        ({"take": {"side": "top"}, "width": 1, "depth": 1, "keep": "volume"}, "goes with one extent"),
        ({"take": {"side": "top"}, "by": [1, 0, 0], "about": "origin"}, "about goes with"),
        ({"take": {"side": "top"}, "set": {"height": 0}, "along": "world"}, "along goes with"),
        ({"take": {"side": "top"}, "set": {}}, "at least 1"),
        ({"take": {"side": "top"}, "set": {"length": 1}}, "width"),
        ({"take": {"side": "top"}, "factor": 2, "along": "own"}, "needs parts"),
        ({"take": {"side": "top"}, "factor": 2, "about": "mean"}, "needs parts"),
        ({"take": {"side": "top"}, "turn": [0, float("inf"), 0]}, "not finite"),
    ],
)
def test_what_says_nothing_possible_is_refused(words, says):
    with pytest.raises(ValidationError, match=says):
        shape(**words)
