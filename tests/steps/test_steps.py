"""Laws every step keeps, run over the register, and what each of them computes."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from pydantic import ValidationError

from oak_square.core.boxes import asset_box, node_box
from oak_square.core.frames import Reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.sheet import Sheet, evaluate
from oak_square.steps import NO_SUCH_NODE, STEPS, Setting
from tests.strategies import assets, solid_box, world_points

EXAMPLES = [
    {"do": "unit", "reads": "mm"},
    {"do": "unit", "reads": 0.5},
    {"do": "turn", "up": "+Z", "front": "-Y"},
    {"do": "pivot"},
    {"do": "pivot", "of": "parts"},
    {"do": "bake"},
    {"do": "bake", "what": ["location"]},
    {"do": "place", "at": "origin"},
    {"do": "place", "ground": True},
    {"do": "place", "ground": True, "parts": ["node_0"]},
]
METRES = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def step(**words):
    return STEPS[words["do"]].model_validate(words)


def one_part(points_at=(0.0, 0, 0), **channels) -> Asset:
    mesh = solid_box(np.array([1.0, 2, 3]))
    geometry = np.eye(4)
    geometry[:3, 3] = points_at
    node = Node(name="post", parent=None, placement=Placement.of(**channels), mesh=0, local_from_mesh=geometry)
    return Asset(file="post.glb", format="glb", reading=METRES, nodes=(node,), meshes=(mesh,))


def run(asset, *steps):
    prepared = evaluate(asset, Sheet(steps=tuple(step(**w) for w in steps)))
    assert prepared.status == "ready", prepared.reason
    return prepared


def test_every_kind_of_step_has_an_example_here():
    assert {e["do"] for e in EXAMPLES} == set(STEPS)


@pytest.mark.parametrize("words", EXAMPLES, ids=lambda w: "-".join(str(v) for v in w.values()))
@given(asset=assets(deepest=3))
def test_a_step_leaves_its_input_alone_and_repeats_exactly(words, asset):
    assume(max(np.linalg.cond(w[:3, :3]) for w in asset.worlds) < 1e4)
    before = [(n.placement.matrix.copy(), n.local_from_mesh.copy()) for n in asset.nodes]
    first, second = run(asset, words), run(asset, words)
    for (placement, geometry), node in zip(before, asset.nodes, strict=True):
        assert (node.placement.matrix == placement).all()
        assert (node.local_from_mesh == geometry).all()
    assert [o.detail for o in first.outcomes] == [o.detail for o in second.outcomes]
    for a, b in zip(first.asset.nodes, second.asset.nodes, strict=True):
        assert a.placement.matrix.tobytes() == b.placement.matrix.tobytes()
        assert a.local_from_mesh.tobytes() == b.local_from_mesh.tobytes()


@pytest.mark.parametrize("words", EXAMPLES, ids=lambda w: "-".join(str(v) for v in w.values()))
def test_a_step_takes_assets_without_geometry(words):
    nothing = Mesh(name="none", points=np.empty((0, 3)), triangles=np.empty((0, 3), dtype=np.uint32))
    node = Node(name="node_0", parent=None, placement=Placement.of(), mesh=0)
    for nodes, meshes in (((), ()), ((node,), (nothing,))):
        asset = Asset(file="e.glb", format="glb", reading=METRES, nodes=nodes, meshes=meshes)
        assert run(asset, words).asset.triangle_count == 0


@pytest.mark.parametrize("words", EXAMPLES, ids=lambda w: "-".join(str(v) for v in w.values()))
def test_a_step_round_trips_through_its_words(words):
    made = step(**words)
    assert step(**made.words()) == made
    assert made.title()
    assert made.stage in {"size", "turn", "pivot", "bake", "place"}


@pytest.mark.parametrize(
    ("words", "says"),
    [
        ({"do": "unit", "reads": "mtr"}, r"no unit \(units are m, cm"),
        ({"do": "unit", "reads": "declare"}, "did you mean 'declared'"),
        ({"do": "unit", "reads": 0}, "must be a positive number"),
        ({"do": "turn", "up": "+Z", "front": "-Z"}, "on one line"),
        ({"do": "place"}, "would move nothing"),
        ({"do": "bake", "what": []}, "at least 1 item"),
        ({"do": "pivot", "to": "base"}, "Extra inputs"),
    ],
)
def test_a_step_that_says_nothing_possible_is_refused(words, says):
    with pytest.raises(ValidationError, match=says):
        step(**words)


def test_a_unit_changes_what_the_numbers_mean():
    asset = run(one_part(translation=(10, 0, 0)), {"do": "unit", "reads": "cm"}).asset
    assert asset_box(asset).size == pytest.approx([0.01, 0.02, 0.03])
    assert asset.nodes[0].placement.translation == pytest.approx([0.1, 0, 0])
    assert asset.nodes[0].placement.scale.tolist() == [1, 1, 1]
    assert asset.reading.source == "sheet"


def test_up_and_front_stand_a_model_up_and_bring_its_front_forward():
    asset = run(one_part(), {"do": "turn", "up": "+Z", "front": "-Y"}).asset
    # File z (3 long) is now height; file -y is front, so file y runs from 0 back to -2.
    assert asset_box(asset).size == pytest.approx([1, 3, 2])
    assert asset_box(asset).low == pytest.approx([0, 0, -2])


def test_the_asset_pivot_moves_all_so_that_the_base_middle_is_the_origin():
    asset = run(one_part(points_at=(7, 3, -2), scale=(2, 2, 2)), {"do": "pivot"}).asset
    assert asset_box(asset).base == pytest.approx([0, 0, 0])
    assert asset_box(asset).size == pytest.approx([2, 4, 6])


def test_part_pivots_move_and_geometry_stays():
    before = one_part(points_at=(7, 3, -2), rotation=(0, 0.6, 0, 0.8))
    prepared = run(before, {"do": "pivot", "of": "parts"})
    box = node_box(prepared.asset, 0)
    assert prepared.asset.worlds[0][:3, 3] == pytest.approx(box.base)
    assert world_points(prepared.asset, 0) == pytest.approx(world_points(before, 0))
    again = run(prepared.asset, {"do": "pivot", "of": "parts"})
    assert again.outcomes[0].outcome == "nothing"
    assert "already" in again.outcomes[0].detail


def test_a_bake_says_its_consequences():
    prepared = run(one_part(rotation=(0, 0.6, 0, 0.8), scale=(-1, 2, 2)), {"do": "bake"})
    assert any("own axes now follow the parent's: 'post'" in w for w in prepared.outcomes[0].warnings)
    assert any("wound the other way" in w for w in prepared.outcomes[0].warnings)
    sent = run(one_part(translation=(4, 0, 0)), {"do": "bake", "what": ["location"]})
    assert any("sent to their parent's origin" in w for w in sent.outcomes[0].warnings)
    clean = run(one_part(), {"do": "bake"})
    assert clean.outcomes[0].outcome == "nothing"


def test_a_camera_keeps_its_direction_through_a_bake():
    camera = Node(name="eye", parent=None, placement=Placement.of(rotation=(0, 0.6, 0, 0.8)), aimed=True)
    asset = Asset(file="c.glb", format="glb", reading=METRES, nodes=(camera,), meshes=())
    assert run(asset, {"do": "bake"}).asset.worlds[0] == pytest.approx(asset.worlds[0])


def test_place_sets_down_assets_and_named_parts():
    asset = run(one_part(points_at=(7, 3, -2)), {"do": "place", "ground": True}).asset
    assert asset_box(asset).low == pytest.approx([7, 0, -2])
    asset = run(one_part(points_at=(7, 3, -2)), {"do": "place", "at": "origin", "ground": True}).asset
    assert asset_box(asset).base == pytest.approx([0, 0, 0])
    part = run(one_part(translation=(5, 5, 5)), {"do": "place", "at": "origin", "parts": ["po*"]}).asset
    assert part.worlds[0][:3, 3] == pytest.approx([0, 0, 0])


def test_names_that_fit_nothing_are_said_not_passed_over():
    for words in EXAMPLES:
        if STEPS[words["do"]].takes_parts:
            named = {**words, "parts": ["nobody"]}
            assert run(one_part(points_at=(1, 1, 1), scale=(2, 2, 2)), named).outcomes[0].detail == NO_SUCH_NODE


def test_globs_fit_path_name_and_stem_and_skip_wins():
    one = step(do="bake", **{"for": ["lamps/*", "gate_leaf", "*.stl"], "skip": ["*_old.*"]})
    assert one.covers("lamps/lamp.obj")
    assert one.covers("x/gate_leaf.glb")
    assert one.covers("deep/down/windlass.stl")
    assert not one.covers("deep/down/windlass_old.stl")
    assert not one.covers("narrowboat.glb")


def test_sheet_numbers_are_along_the_delivery_axes():
    z_up = Setting(unit=0.01, up="Z")
    assert z_up.point([100, 200, "3 m"]) == pytest.approx([1, 3, -2])
