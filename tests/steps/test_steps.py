"""Laws every step keeps, run over the register, and what each of them computes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from pydantic import ValidationError

from oak_square.core.boxes import asset_box, node_box
from oak_square.core.errors import BadReference
from oak_square.core.frames import Reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Deliver, Sheet
from oak_square.sheet.references import asset_called
from oak_square.sheet.standings import Standings
from oak_square.steps.setting import Setting
from oak_square.steps.step import NO_SUCH_NODE, STEPS
from tests.strategies import assets, solid_box, world_points

EXAMPLES = [
    {"do": "unit", "reads": "mm"},
    {"do": "unit", "reads": 0.5},
    {"do": "turn", "up": "+Z", "front": "-Y"},
    {"do": "turn", "by": [0, 90, 0]},
    {"do": "turn", "by": [10, 20, 30], "about": "middle", "parts": ["node_*"]},
    {"do": "size", "factor": 2.5},
    {"do": "size", "factor": [1, 2, 3], "parts": ["node_0"]},
    {"do": "size", "height": "5.2 m"},
    {"do": "size", "longest": "3' 6\"", "about": "middle"},
    {"do": "size", "between": [[0, 0, 0], [0, "30 cm", 0.4]], "length": "1 m"},
    {"do": "size", "match": "post", "along": "depth"},
    {"do": "unit", "reads": "guess"},
    {"do": "check", "up": "Y"},
    {"do": "turn", "bring": "+X", "to": "top"},
    {"do": "turn", "square": True, "about": "base", "parts": ["node_*"]},
    {"do": "pivot", "at": "mass"},
    {"do": "pivot", "at": "mean", "axes": "world", "of": "all"},
    {"do": "pivot", "at": "parent", "axes": {"bring": [1, 0, 0], "to": "+Z"}, "of": "parts"},
    {"do": "place", "at": {"onto": "post", "point": ["left", "top", 0.25]}, "by": "middle"},
    {"do": "parent", "parts": ["node_1"], "to": None},
    {"do": "split", "parts": ["node_*"], "into": "pieces"},
    {"do": "pivot"},
    {"do": "pivot", "at": "origin", "of": "all"},
    {"do": "pivot", "at": {"point": ["left", 0.25, "middle"], "inset": {"left": "40 mm"}}, "of": "all"},
    {"do": "pivot", "at": {"xyz": [1, 2, "3 cm"], "in": "part"}, "of": "parts"},
    {"do": "pivot", "at": "middle", "of": "parts", "box-axes": "own", "box": "tree"},
    {"do": "reset", "what": ["location"]},
    {"do": "place", "at": [1, 2, 3], "by": "middle", "axes": ["x", "z"]},
    {"do": "place", "shift": [0, "10 cm", 0], "ground": True, "at": "origin", "by": ["left", "top", 0.5]},
    {"do": "place", "at": "parent", "parts": ["node_*"]},
    {"do": "pivot", "of": "parts"},
    {"do": "bake"},
    {"do": "bake", "what": ["location"]},
    {"do": "place", "at": "origin"},
    {"do": "place", "ground": True},
    {"do": "place", "ground": True, "parts": ["node_0"]},
    {"do": "turn", "by": [10, 0, 30], "along": "own", "about": "common", "parts": ["node_*"]},
    {"do": "turn", "set": {"order": "zyx", "y": 40}, "parts": ["node_*"]},
    {"do": "size", "factor": [1, 2, 1], "along": "own", "about": "mean", "parts": ["node_*"]},
    {"do": "pivot", "at": "received", "axes": "received", "of": "all"},
    {"do": "pivot", "at": {"across": "width"}, "axes": "square", "of": "parts"},
    {"do": "pivot", "at": {"move": [1, "2 cm", 0], "along": "parent"}, "axes": {"half": "z"}, "of": "all"},
    {"do": "pivot", "at": {"move": [0, 0, 0]}, "axes": {"turn": [0, 30, 0], "along": "own"}, "of": "parts"},
    {"do": "place", "shift": [0, 1, 0], "along": "own", "parts": ["node_*"]},
    {"do": "place", "at": "origin", "as-one": True, "parts": ["node_*"]},
    {"do": "shape", "take": {"from": {"height": 0}}, "width": "20 cm"},
    {
        "do": "shape",
        "take": {"side": "left", "within": "2 %"},
        "turn": [0, 30, 0],
        "about": "pivot",
        "parts": ["node_*"],
    },
    {
        "do": "shape",
        "take": {"from": {"height": "1 cm"}, "to": {"height": 2}},
        "by": [0, "1 cm", 0],
        "along": "parent",
        "parts": ["node_*"],
    },
    {"do": "shape", "take": {"to": {"depth": "10 cm"}}, "set": {"height": 0, "width": "-2 cm"}},
    {"do": "shape", "take": {"side": "top", "within": "3 mm"}, "factor": [2, 1, 2], "about": "common", "parts": ["*"]},
    {"do": "place", "away": "2 m", "from": {"xyz": [1000, 0, 3]}, "by": "middle", "axes": ["x", "z"]},
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


class Batch:
    """A few assets that steps can name."""

    def __init__(self, *assets):
        self.assets = {a.file: a for a in assets}

    def file_of(self, name):
        try:
            return asset_called(name, list(self.assets))
        except BadReference:
            return None

    def received(self, file):
        return self.assets[file]


def run(asset, *steps, others=None):
    others, sheet = others or Batch(one_part()), Sheet(steps=tuple(step(**w) for w in steps))
    prepared = evaluate(asset, sheet, Standings(sheet, others))
    assert prepared.status == "ready", prepared.reason
    return prepared


def test_every_kind_of_step_has_an_example_here():
    missing = set(STEPS) - {e["do"] for e in EXAMPLES}
    assert not missing, f"no example of {', '.join(sorted(missing))}: add the words of one to EXAMPLES in this file"


@pytest.mark.parametrize("words", EXAMPLES, ids=lambda w: "-".join(str(v) for v in w.values()))
@given(asset=assets(deepest=3))
def test_a_step_leaves_its_input_alone_and_repeats_exactly(words, asset):
    assume(max(np.linalg.cond(w[:3, :3]) for w in asset.worlds) < 1e4)
    before = [(n.placement.matrix.copy(), n.local_from_mesh.copy()) for n in asset.nodes]
    sheet = Sheet(steps=(step(**words),))
    first, second = (evaluate(asset, sheet, Standings(sheet, Batch(one_part()))) for _ in range(2))
    # Frames that stretch a hundred times over may leave no digits for the shape.
    assert first.status == "ready" or "float32 steps are" in first.reason, first.reason
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
    assert made.stage in {"size", "turn", "pivot", "bake", "place", "deliver"}


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
        ({"do": "turn", "up": "+Z", "front": "-Y", "parts": ["a"]}, "takes no parts"),
        ({"do": "turn", "up": "+Z"}, "'front' is missing"),
        ({"do": "turn", "up": "+Z", "front": "-Y", "by": [0, 0, 1]}, "turn takes either up and front, by"),
        ({"do": "turn", "up": "+Z", "front": "-Y", "about": "base"}, "about goes with a turn"),
        ({"do": "size"}, "size needs one of"),
        ({"do": "size", "factor": 2, "height": 3}, "size needs one of"),
        ({"do": "size", "factor": -1}, "positive number"),
        ({"do": "size", "height": "0 m"}, "longer than nothing"),
        ({"do": "size", "height": 1, "width": 1, "keep": "volume"}, "goes with one extent"),
        ({"do": "size", "factor": 2, "keep": "none"}, "keep goes with"),
        ({"do": "size", "between": [[0, 0, 0], [0, 1, 0]]}, "between and length go together"),
        ({"do": "size", "match": "post", "factor": 2}, "size needs one of"),
        ({"do": "check"}, "check needs something to hold"),
        ({"do": "check", "baked": False}, "checks nothing"),
        ({"do": "check", "height": {}}, "needs min, max"),
        ({"do": "check", "unit": "guess"}, "no unit to check for"),
        ({"do": "check", "up": "Y", "parts": ["a"]}, "of the whole asset"),
        ({"do": "turn", "bring": "+X"}, "bring and to go together"),
        ({"do": "turn", "bring": [0, 0, 0], "to": "top"}, "is no direction"),
        ({"do": "turn", "square": False}, "turns nothing"),
        ({"do": "turn", "square": True, "by": [0, 1, 0]}, "turn takes either"),
        ({"do": "pivot", "at": "parent"}, "are a node's"),
        ({"do": "pivot", "axes": "world"}, "axes are of parts and groups"),
        ({"do": "pivot", "at": {"vertices": [-1]}, "of": "parts"}, "greater than or equal to 0"),
        ({"do": "parent", "to": None}, "parent needs parts"),
        ({"do": "parent", "parts": ["a"]}, "Field required"),
        ({"do": "pivot", "at": {"point": ["left", "bottom"]}}, "at least 3"),
        ({"do": "pivot", "at": {"point": ["bottom", "left", "middle"]}}, "'bottom' is no side along the width"),
        ({"do": "pivot", "at": {"point": ["left", 0, 0], "inset": {"right": 1}}}, "not on the right side"),
        ({"do": "pivot", "of": "asset", "parts": ["a"]}, "takes no parts"),
        ({"do": "pivot", "at": "origin"}, "is the origin already"),
        ({"do": "place", "at": "parent"}, "for named parts"),
        ({"do": "place", "ground": True, "axes": ["x"]}, "go with 'at'"),
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
        apart = (
            step(**words).is_reading
            or {"up", "match"} & set(words)
            or step(**words).refers_to
            or step(**words).moves_together
        )
        if not apart and words.get("of") != "asset":
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


def test_a_height_sizes_all_in_proportion_and_leaves_nothing_to_bake():
    before = one_part(points_at=(-0.5, 0, -1.5), rotation=(0, 0.6, 0, 0.8))
    asset = run(before, {"do": "size", "height": "5 m"}).asset
    assert asset_box(asset).size == pytest.approx(asset_box(before).size * 2.5)
    assert asset_box(asset).low[1] == pytest.approx(0)
    assert asset.nodes[0].placement.scale.tolist() == [1, 1, 1]
    again = run(asset, {"do": "size", "height": 5})
    assert again.outcomes[0].outcome == "nothing"


@pytest.mark.parametrize(
    ("words", "size"),
    [
        ({"factor": 2}, [2, 4, 6]),
        ({"factor": [2, 1, 3]}, [2, 2, 9]),
        ({"width": 4, "keep": "none"}, [4, 2, 3]),
        ({"width": 4, "keep": "volume"}, [4, 1, 1.5]),
        ({"width": 4, "depth": 1}, [4, 2, 1]),
        ({"longest": "6 m"}, [2, 4, 6]),
        ({"diagonal": np.sqrt(14) * 10}, [10, 20, 30]),
    ],
)
def test_every_way_to_size_gives_the_extents_it_says(words, size):
    asset = run(one_part(), {"do": "size", **words}).asset
    assert asset_box(asset).size == pytest.approx(size)
    if words.get("keep") == "volume":
        assert np.prod(size) == pytest.approx(6)


@pytest.mark.parametrize(
    ("about", "fixed"),
    [
        ("base", (7.5, 3, -0.5)),
        ("middle", (7.5, 4, -0.5)),
        ("origin", (0, 0, 0)),
        ("pivot", (0, 0, 0)),
        ({"xyz": [1, 1, 1]}, (1, 1, 1)),
        ({"part": "post"}, (0, 0, 0)),
    ],
)
def test_sizes_and_turns_keep_their_centre_in_place(about, fixed):
    before = one_part(points_at=(7, 3, -2))
    sized = run(before, {"do": "size", "factor": 3, "about": about}).asset
    assert world_points(sized, 0) == pytest.approx((world_points(before, 0) - fixed) * 3 + fixed)
    turned = run(before, {"do": "turn", "by": [0, 90, 0], "about": about}).asset
    quarter = np.array([[0, 0, 1], [0, 1, 0], [-1, 0, 0]])
    assert world_points(turned, 0) == pytest.approx((world_points(before, 0) - fixed) @ quarter.T + fixed)


def test_a_part_is_sized_with_all_below_it_and_its_neighbours_stay():
    group = Node(name="gate", parent=None, placement=Placement.of(translation=(1, 0, 0)))
    geometry = np.eye(4)
    leaf = Node(name="leaf", parent=0, placement=Placement.of(translation=(2, 0, 0)), mesh=0, local_from_mesh=geometry)
    post = replace(leaf, name="post", parent=None)
    before = Asset(
        file="g.glb", format="glb", reading=METRES, nodes=(group, leaf, post), meshes=(solid_box(np.ones(3)),)
    )
    after = run(before, {"do": "size", "factor": 2, "parts": ["gate"]}).asset
    assert world_points(after, 1) == pytest.approx((world_points(before, 1) - [1, 0, 0]) * 2 + [1, 0, 0])
    assert world_points(after, 2) == pytest.approx(world_points(before, 2))
    assert after.worlds[1][:3, 3] == pytest.approx([5, 0, 0])
    assert all(n.placement.scale.tolist() == [1, 1, 1] for n in after.nodes)


def test_turns_go_about_x_then_y_then_z_of_the_delivery_axes():
    from scipy.spatial.transform import Rotation

    before = one_part()
    turned = run(before, {"do": "turn", "by": [10, 20, 30]}).asset
    wanted = Rotation.from_euler("xyz", [10, 20, 30], degrees=True).apply(world_points(before, 0))
    assert world_points(turned, 0) == pytest.approx(wanted)
    sheet = Sheet(deliver=Deliver(up="Z"), steps=(step(do="turn", by=[0, 0, 90]),))
    about_up = evaluate(before, sheet).asset
    # Delivery z is up: a point at the front (+Z, delivery -y) goes to the right.
    assert about_up.worlds[0][:3, :3] @ [0, 0, 1] == pytest.approx([1, 0, 0])


def test_four_quarter_turns_are_exactly_none():
    steps = [{"do": "turn", "by": [0, 90, 0], "about": "middle"}] * 4
    before = one_part(points_at=(7, 3, -2))
    asset = run(before, *steps).asset
    assert asset.nodes[0].placement.rotation.tolist() in ([0, 0, 0, 1], [0, 0, 0, -1])
    assert world_points(asset, 0) == pytest.approx(world_points(before, 0), abs=1e-14)


def test_a_box_point_with_insets_is_measured_from_its_sides():
    at = {"point": ["left", "bottom", "front"], "inset": {"left": "10 cm", "front": 0.5}}
    prepared = run(one_part(points_at=(7, 3, -2)), {"do": "pivot", "at": at, "of": "parts"})
    assert prepared.asset.worlds[0][:3, 3] == pytest.approx([7.1, 3, 0.5])
    asset = run(one_part(points_at=(7, 3, -2)), {"do": "pivot", "at": {"point": [0.25, 1, "middle"]}}).asset
    assert asset_box(asset).low == pytest.approx([-0.25, -2, -1.5])


def test_a_groups_box_is_that_of_all_below_and_its_pivot_moves_alone():
    group = Node(name="gate", parent=None, placement=Placement.of(translation=(9, 9, 9)))
    leaf = Node(name="leaf", parent=0, placement=Placement.of(scale=(2, 2, 2)), mesh=0)
    before = Asset(file="g.glb", format="glb", reading=METRES, nodes=(group, leaf), meshes=(solid_box(np.ones(3)),))
    after = run(before, {"do": "pivot", "of": "groups"}).asset
    assert after.worlds[0][:3, 3] == pytest.approx([10, 9, 10])
    assert after.worlds[1] == pytest.approx(before.worlds[1])
    assert world_points(after, 1) == pytest.approx(world_points(before, 1))
    empty = run(one_part(), {"do": "pivot", "of": "groups"})
    assert empty.outcomes[0].detail == "it has no groups"


def test_own_axes_and_own_numbers_are_the_parts_own():
    turned = one_part(rotation=(0, 0, np.sin(np.pi / 8), np.cos(np.pi / 8)), scale=(2, 2, 2))
    corner = {"point": ["right", "bottom", "back"]}
    own = run(turned, {"do": "pivot", "at": corner, "of": "parts", "box-axes": "own"}).asset
    # Own x, 2 long from the pivot, turned by 45 degrees.
    assert own.worlds[0][:3, 3] == pytest.approx([np.sqrt(2), np.sqrt(2), 0])
    along = run(turned, {"do": "pivot", "at": {"xyz": [1, 0, 0], "in": "part"}, "of": "parts"}).asset
    assert along.worlds[0][:3, 3] == pytest.approx([np.sqrt(2), np.sqrt(2), 0])
    world = run(turned, {"do": "pivot", "at": {"xyz": [1, 0, 0]}, "of": "parts"}).asset
    assert world.worlds[0][:3, 3] == pytest.approx([1, 0, 0])
    sent = run(turned, {"do": "pivot", "at": "origin", "of": "parts"}).asset
    assert sent.worlds[0][:3, 3] == pytest.approx([0, 0, 0])


def test_a_reset_moves_the_node_and_says_who_moved_along():
    group = Node(name="gate", parent=None, placement=Placement.of(translation=(1, 0, 0)))
    leaf = Node(name="leaf", parent=0, placement=Placement.of(), mesh=0)
    asset = Asset(file="g.glb", format="glb", reading=METRES, nodes=(group, leaf), meshes=(solid_box(np.ones(3)),))
    prepared = run(asset, {"do": "reset", "what": ["location"]})
    assert world_points(prepared.asset, 1).min(axis=0) == pytest.approx([0, 0, 0])
    assert prepared.outcomes[0].warnings == ("moved along: leaf",)


def test_place_moves_only_the_chosen_coordinates():
    before = one_part(points_at=(7, 3, -2))  # base middle at 7.5, 3, -0.5
    low = asset_box(before).low

    def moved(**words):
        return asset_box(run(before, {"do": "place", **words}).asset).low - low

    assert moved(at="origin") == pytest.approx([-7.5, -3, 0.5])
    assert moved(at="origin", axes=["x", "z"]) == pytest.approx([-7.5, 0, 0.5])
    assert moved(at=[1, "50 cm", 0]) == pytest.approx([-6.5, -2.5, 0.5])
    assert moved(at="origin", by="middle") == pytest.approx([-7.5, -4, 0.5])
    assert moved(at="origin", by=["left", "bottom", "back"]) == pytest.approx([-7, -3, 2])
    assert moved(at="origin", by="middle", ground=True) == pytest.approx([-7.5, -3, 0.5])
    assert moved(shift=["1 m", 0, "-2 ft"]) == pytest.approx([1, 0, -0.6096])
    z_up = Sheet(deliver=Deliver(up="Z"), steps=(step(do="place", at="origin", axes=["z"]),))
    assert asset_box(evaluate(before, z_up).asset).low - low == pytest.approx([0, -3, 0])


def test_a_part_can_go_to_its_parents_pivot():
    group = Node(name="gate", parent=None, placement=Placement.of(translation=(4, 5, 6)))
    leaf = Node(name="leaf", parent=0, placement=Placement.of(translation=(1, 1, 1)), mesh=0)
    asset = Asset(file="g.glb", format="glb", reading=METRES, nodes=(group, leaf), meshes=(solid_box(np.ones(3)),))
    after = run(asset, {"do": "place", "at": "parent", "parts": ["leaf"]}).asset
    assert after.worlds[1][:3, 3] == pytest.approx([4, 5, 6])


def test_what_can_not_be_sized_is_refused_with_its_reason():
    flat = replace(solid_box(np.ones(3)), points=solid_box(np.ones(3)).points * [1, 0, 1])
    node = Node(name="mat", parent=None, placement=Placement.of(), mesh=0)
    asset = Asset(file="m.glb", format="glb", reading=METRES, nodes=(node,), meshes=(flat,))
    prepared = evaluate(asset, Sheet(steps=(step(do="size", height=2),)))
    assert prepared.status == "refused"
    assert "its height is nothing" in prepared.reason
    missing = evaluate(asset, Sheet(steps=(step(do="turn", by=[0, 1, 0], about={"part": "matt"}),)))
    assert missing.status == "failed"
    assert "did you mean 'mat'" in missing.reason


def test_a_measured_distance_becomes_the_length_asked_for():
    # Two marks 0.5 m apart (3, 4, 5) shall be 2 m apart: four times as large.
    asset = run(one_part(), {"do": "size", "between": [[0, 0, 0], [0, "30 cm", 0.4]], "length": "2 m"}).asset
    assert asset_box(asset).size == pytest.approx([4, 8, 12])
    words = {"do": "size", "between": [[1, 1, 1], [1, 1, 1]], "length": 1}
    assert "measured distance is nothing" in evaluate(one_part(), Sheet(steps=(step(**words),))).reason


def test_an_asset_is_matched_to_another_as_it_stands_after_its_own_steps():
    post = one_part()
    boat = replace(one_part(), file="boats/boat.glb")
    steps = [
        {"do": "size", "factor": 10, "for": ["post.*"]},
        {"do": "size", "match": "post", "along": "height", "for": ["*"]},
        {"do": "size", "factor": 3, "for": ["post.*"]},
    ]
    found = run(boat, *steps, others=Batch(post, boat))
    assert asset_box(found.asset).size == pytest.approx([10, 20, 30])
    own = run(post, *steps, others=Batch(post, boat))
    assert own.outcomes[1].detail == "the others are held against it"
    assert asset_box(own.asset).size == pytest.approx([30, 60, 90])


@pytest.mark.parametrize(
    ("longest", "declared", "unit", "doubt"),
    [(1750.0, "assumed", "mm", True), (1.6, "declared", "m", False), (3500.0, "declared", "mm", True)],
)
def test_a_guess_takes_the_likeliest_unit_and_says_its_doubt(longest, declared, unit, doubt):
    mesh = solid_box(np.array([longest / 4, longest, longest / 4]))
    node = Node(name="post", parent=None, placement=Placement.of(), mesh=0)
    reading = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source=declared)
    asset = Asset(file="post.glb", format="glb", reading=reading, nodes=(node,), meshes=(mesh,))
    outcome = run(asset, {"do": "unit", "reads": "guess"}).outcomes[0]
    assert outcome.detail.startswith(f"Unit: guess, {unit}")
    assert bool(outcome.warnings) == doubt


@pytest.mark.parametrize(
    ("words", "wrong"),
    [
        ({"height": {"max": "1.9 m"}}, "height 2.00 m, not at most 1.9 m"),
        ({"width": {"min": 1, "max": "1 m"}}, None),
        ({"depth": {"min": "10 ft"}, "baked": True}, "'post' carries a scale; depth 3.00 m, not at least 10 ft"),
        ({"baked": ["rotation", "location"]}, None),
        ({"grounded": True}, "its bottom is at height -1.00 m"),
        ({"pivot": "middle", "unit": "m", "up": "+Y", "upright": True}, None),
        ({"pivot": "base"}, "its pivot is 1.00 m off its base"),
        ({"unit": "mm", "up": "Z"}, "one unit is 1 m, not 0.001 m; +Y is up in the file, not Z"),
        ({"pivot": "base", "parts": ["p*"]}, "'post': its pivot is 1.00 m off its base"),
    ],
)
def test_a_check_changes_nothing_and_fails_what_does_not_hold(words, wrong):
    mesh = solid_box(np.array([0.5, 1, 1.5]))
    centred = np.eye(4)
    centred[:3, 3] = -np.array([0.25, 0.5, 0.75])
    node = Node(name="post", parent=None, placement=Placement.of(scale=(2, 2, 2)), mesh=0, local_from_mesh=centred)
    asset = Asset(file="post.glb", format="glb", reading=METRES, nodes=(node,), meshes=(mesh,))
    prepared = evaluate(asset, Sheet(steps=(step(do="check", **words),)))
    assert prepared.asset is asset
    assert (prepared.status, prepared.reason) == (
        ("ready", None) if wrong is None else ("failed", f"step 1 (check): {wrong}")
    )
