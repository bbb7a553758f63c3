"""What turns, pivots, places and re-hangings compute, each against numbers worked out by hand."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.boxes import asset_box
from oak_square.core.placement import Placement, rotation_of
from oak_square.core.scene import Asset, Node
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.standings import Standings
from oak_square.sheet.text import parse_sheet
from tests.core.test_picks import drum
from tests.steps.test_steps import METRES, Batch, one_part, run
from tests.strategies import assert_same_points, assets, quaternions, solid_box, world_points

QUARTER_Y = (0, math.sin(math.pi / 4), 0, math.cos(math.pi / 4))


def lock_gate() -> Asset:
    """A group with a leaf 1 × 2 × 3 below it, and a pin beside."""
    nodes = (
        Node(name="gate", parent=None, placement=Placement.of(translation=(10, 0, 0), rotation=QUARTER_Y)),
        Node(name="leaf", parent=0, placement=Placement.of(translation=(0, 1, 0), scale=(2, 2, 2)), mesh=0),
        Node(name="pin", parent=0, placement=Placement.of(translation=(0, 0, 4)), mesh=1),
        Node(name="sign", parent=None, placement=Placement.of(translation=(-1, 0, 0)), mesh=1),
    )
    meshes = (solid_box(np.array([1.0, 2, 3])), solid_box(np.ones(3)))
    return Asset(file="gate.glb", format="glb", reading=METRES, nodes=nodes, meshes=meshes)


def node(asset, name):
    return next(i for i, n in enumerate(asset.nodes) if n.name == name)


def pivot(asset, name):
    return asset.worlds[node(asset, name)][:3, 3]


def axes(asset, name):
    world = asset.worlds[node(asset, name)][:3, :3]
    return world / np.linalg.norm(world, axis=0)


@pytest.mark.parametrize(
    ("at", "parts", "wanted"),
    [
        ("mass", ["pin"], (14.5, 0.5, -0.5)),
        ("mean", ["pin"], (14.5, 0.5, -0.5)),
        ("parent", ["leaf", "pin"], (10, 0, 0)),
        ({"part": "sign"}, ["pin"], (-1, 0, 0)),
        ({"vertices": [0, 1]}, ["sign"], None),
        ({"circle": [[0, 0, 0], [2, 0, 0], [0, 2, 0]]}, ["pin"], (1, 1, 0)),
        ({"datum": "sill"}, ["pin"], (0, 5, 0)),
    ],
    ids=str,
)
def test_pivots_go_to_what_is_named_and_nothing_moves(at, parts, wanted):
    asset = lock_gate()
    sheet = parse_sheet("prep-sheet: 1\ndatums: {sill: {at: [0, 5, 0]}}\n", "s")
    sheet = sheet.model_copy(update={"steps": (step_of({"do": "pivot", "at": at, "parts": parts}),)})
    after = evaluate(asset, sheet).asset
    if wanted is None:
        mesh = asset.mesh_of(node(asset, "sign"))
        wanted = np.asarray(mesh.points[[0, 1]]).mean(axis=0) - np.array([1.0, 0, 0])
    assert pivot(after, parts[0]) == pytest.approx(np.array(wanted), abs=1e-9)
    for i in asset.parts:
        assert_same_points(world_points(after, i), world_points(asset, i))


def step_of(words):
    from oak_square.steps.step import STEPS

    return STEPS[words["do"]].model_validate(words)


def test_a_groups_pivot_goes_to_the_mean_of_its_childrens():
    after = run(lock_gate(), {"do": "pivot", "at": "children", "of": "groups"}).asset
    assert pivot(after, "gate") == pytest.approx([12, 0.5, 0])
    assert pivot(after, "leaf") == pytest.approx([10, 1, 0])


def test_an_assets_pivot_goes_to_its_centre_of_mass_and_an_open_shape_is_said():
    solid = replace(one_part(), meshes=(drum(360, 1.0, 4.0),))
    after = run(solid, {"do": "pivot", "at": "mass"})
    assert asset_box(after.asset).low[1] == pytest.approx(-2)
    shell = replace(drum(), triangles=drum().triangles[1:])
    told = run(replace(one_part(), meshes=(shell,)), {"do": "pivot", "at": "mass"})
    assert told.outcomes[0].warnings == ("1 not closed: the centre of its surface is taken",)


@pytest.mark.parametrize(
    ("wanted", "columns"),
    [
        ("world", np.eye(3)),
        ("parent", np.array([[0.0, 0, 1], [0, 1, 0], [-1, 0, 0]])),
        ({"datum": "sill"}, np.array([[0.0, -1, 0], [1, 0, 0], [0, 0, 1]])),
        ({"bring": "+X", "to": "top"}, np.array([[0.0, -1, 0], [1, 0, 0], [0, 0, 1]])),
        ({"bring": [0, 0, 1], "to": "left"}, None),
    ],
    ids=str,
)
def test_pivot_axes_turn_while_geometry_stays(wanted, columns):
    stay = {"xyz": [0, 0, 0], "in": "part"}
    tilted = replace(lock_gate().nodes[1], placement=Placement.of(rotation=(0.1, 0.2, 0.3, 0.9), scale=(1, 2, 3)))
    asset = replace(lock_gate(), nodes=(lock_gate().nodes[0], tilted, *lock_gate().nodes[2:]))
    if wanted == {"bring": "+X", "to": "top"}:
        asset = lock_gate()
        asset = run(
            asset, {"do": "pivot", "at": {"xyz": [0, 0, 0], "in": "part"}, "axes": "world", "of": "parts"}
        ).asset
    sheet = parse_sheet("prep-sheet: 1\ndatums: {sill: {turn: [0, 0, 90]}}\n", "s")
    words = {"do": "pivot", "at": stay, "axes": wanted, "parts": ["leaf"]}
    after = evaluate(asset, sheet.model_copy(update={"steps": (step_of(words),)})).asset
    if columns is None:
        assert axes(after, "leaf") == pytest.approx(
            np.array([[0.0, 0, -1], [0, 1, 0], [1, 0, 0]]) @ axes(asset, "leaf"), abs=1e-9
        )
    else:
        assert axes(after, "leaf") == pytest.approx(columns, abs=1e-9)
    for i in asset.parts:
        assert_same_points(world_points(after, i), world_points(asset, i))
    assert after.nodes[node(after, "leaf")].placement.scale == pytest.approx(
        asset.nodes[node(asset, "leaf")].placement.scale
    )


def test_a_direction_is_brought_onto_another_for_an_asset_and_for_a_part():
    up = run(one_part(), {"do": "turn", "bring": "+X", "to": "top"}).asset
    assert asset_box(up).size == pytest.approx([2, 1, 3])
    ramp = run(one_part(), {"do": "turn", "bring": [1, 1, 0], "to": [0, 1, 0]})
    assert ramp.outcomes[0].detail == "turned 1, 1, 0 to 0, 1, 0, by 45°"
    part = run(lock_gate(), {"do": "turn", "bring": "+X", "to": "+X", "parts": ["leaf"]}).asset
    assert axes(part, "leaf") == pytest.approx(np.eye(3), abs=1e-12)
    assert pivot(part, "leaf") == pytest.approx([10, 1, 0])
    again = run(part, {"do": "turn", "bring": "+X", "to": "right", "parts": ["leaf"]})
    assert again.outcomes[0].detail == "it is turned so already"


@given(quaternions())
def test_squaring_leaves_right_angles_and_squaring_again_does_nothing(q):
    asset = one_part(rotation=tuple(q))
    square = {"do": "turn", "square": True, "parts": ["post"]}
    after = run(asset, square).asset
    assert np.abs(axes(after, "post")) == pytest.approx(np.abs(np.round(axes(after, "post"))), abs=1e-9)
    assert run(after, square).outcomes[0].outcome == "nothing"
    whole = run(asset, {"do": "turn", "square": True}).asset
    assert sorted(asset_box(whole).size) == pytest.approx([1, 2, 3], rel=1e-6)


def test_a_thing_is_set_onto_another_asset_or_a_part_of_its_own():
    hat, post = replace(one_part(), file="hat.glb"), one_part()
    after = run(hat, {"do": "place", "at": {"onto": "post"}}, others=Batch(hat, post)).asset
    assert asset_box(after).base == pytest.approx([0.5, 2, 1.5])
    corner = {
        "do": "place",
        "at": {"onto": "post", "point": ["right", "top", "front"]},
        "by": ["left", "bottom", "back"],
    }
    assert asset_box(run(hat, corner, others=Batch(hat, post)).asset).low == pytest.approx([1, 2, 3])
    gate = lock_gate()
    own = run(gate, {"do": "place", "at": {"onto": "leaf"}, "by": "base", "parts": ["sign"]}, others=Batch(gate)).asset
    assert own.worlds[node(own, "sign")][1, 3] == pytest.approx(5)
    lost = sheet_with({"do": "place", "at": {"onto": "laef"}})
    nobody = evaluate(gate, lost, Standings(lost, Batch(gate)))
    assert (nobody.status, nobody.reason) == (
        "failed", "step 1 (place): it has no node 'laef'; did you mean 'leaf'?",
    )  # fmt: skip


def sheet_with(*steps, head=""):
    sheet = parse_sheet(f"prep-sheet: 1\n{head}", "s")
    return sheet.model_copy(update={"steps": tuple(step_of(s) for s in steps)})


def test_at_a_berth_a_thing_stands_at_its_origin_turned_as_it_is():
    head = "berths: {quay: {at: [100, 2, 0], turn: [0, 90, 0]}}\n"
    sheet = sheet_with({"do": "place", "at": {"berth": "quay"}}, head=head)
    box = asset_box(evaluate(one_part(), sheet).asset)
    assert box.base == pytest.approx([100, 2, 0])
    assert box.size == pytest.approx([3, 2, 1])
    part = sheet_with({"do": "place", "at": {"berth": "quay"}, "parts": ["sign"]}, head=head)
    after = evaluate(lock_gate(), part).asset
    assert pivot(after, "sign") == pytest.approx([100, 2, 0])
    assert axes(after, "sign") == pytest.approx(rotation_of(np.array(QUARTER_Y)), abs=1e-12)


def test_what_a_berth_lays_over_stands_on_the_ground_as_it_then_is():
    """One metre wide, two high, three deep, laid over to the front: its depth stands up then."""
    head = "berths: {slip: {at: [10, 5, 0], turn: [90, 0, 0]}}\n"
    for by in ("base", "middle"):
        sheet = sheet_with({"do": "place", "at": {"berth": "slip"}, "by": by, "ground": True}, head=head)
        box = asset_box(evaluate(one_part(), sheet).asset)
        assert box.size == pytest.approx([1, 3, 2])
        assert box.low[1] == pytest.approx(0, abs=1e-12)
        assert box.middle[0] == pytest.approx(10)


@pytest.mark.parametrize(
    ("words", "why"),
    [
        ({"parts": ["leaf"], "to": "sign"}, None),
        ({"parts": ["leaf", "pin"], "to": None}, None),
        ({"parts": ["gate"], "to": "leaf"}, "'leaf' is below what would hang from it"),
        ({"parts": ["leaf"], "to": "lief"}, "it has no node 'lief'; did you mean 'leaf'?"),
        ({"parts": ["leaf"], "to": "gate"}, "they hang from there already"),
    ],
    ids=str,
)
def test_nodes_hang_from_another_and_nothing_moves(words, why):
    asset = lock_gate()
    prepared = evaluate(asset, sheet_with({"do": "parent", **words}))
    if why is not None:
        assert why in (prepared.reason or prepared.outcomes[0].detail)
        return
    for name in words["parts"]:
        parent = prepared.asset.nodes[node(asset, name)].parent
        assert (None if parent is None else asset.nodes[parent].name) == words["to"]
    for i in asset.parts:
        assert_same_points(world_points(prepared.asset, i), world_points(asset, i))


@given(assets(deepest=3), st.data())
def test_hanging_anew_keeps_every_world_whatever_the_frames(asset, data):
    assume(len(asset.nodes) > 1 and max(np.linalg.cond(w[:3, :3]) for w in asset.worlds) < 1e4)
    names = [n.name for n in asset.nodes]
    assume(len(set(names)) == len(names))
    moved, to = data.draw(st.sampled_from(names)), data.draw(st.sampled_from([*names, None]))
    prepared = evaluate(asset, sheet_with({"do": "parent", "parts": [moved], "to": to}))
    if prepared.status == "ready":
        for i in asset.parts:
            assert_same_points(world_points(prepared.asset, i), world_points(asset, i), relative=1e-6)


@pytest.mark.parametrize("degrees", [90, 120, 180, 270])
def test_what_is_turned_far_carries_a_rotation_and_no_mirrors(degrees):
    after = run(one_part(scale=(1, 2, 3)), {"do": "turn", "by": [0, degrees, 0], "parts": ["post"]}).asset
    assert after.nodes[0].placement.scale == pytest.approx([1, 2, 3])
    mirrored = run(one_part(scale=(-1, 2, 3)), {"do": "turn", "by": [0, degrees, 0], "parts": ["post"]}).asset
    assert mirrored.nodes[0].placement.scale == pytest.approx([-1, 2, 3])
