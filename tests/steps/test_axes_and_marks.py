"""Steps along other axes, angles set one by one, pivots as received, things moved away, marks wherever a point is."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import permutations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from oak_square.core.boxes import asset_box, node_box
from oak_square.core.errors import BadSheet
from oak_square.core.euler import angles_of, rotation_by
from oak_square.core.frames import Reading
from oak_square.core.motion import with_reading
from oak_square.core.placement import rotation_of
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.sheet.text import parse_sheet
from oak_square.steps.setting import Setting
from oak_square.steps.step import STEPS
from tests.bored import plate_asset
from tests.runs import through
from tests.steps.test_pivots_and_places import axes, lock_gate, node, pivot
from tests.steps.test_steps import one_part
from tests.strategies import assert_same_points, assets, quaternions, world_points

ORDERS = ["".join(p) for p in permutations("xyz")]


def sheet_of(*steps, top="") -> Sheet:
    lines = "".join(f"  - {s}\n" for s in steps)
    return parse_sheet(f"prep-sheet: 1\n{top}steps:\n{lines}", "s.yaml")


def after(asset, *steps, top=""):
    prepared = evaluate(asset, sheet_of(*steps, top=top))
    assert prepared.status == "ready", prepared.reason
    return prepared.asset


def refusal(asset, *steps, top=""):
    prepared = evaluate(asset, sheet_of(*steps, top=top))
    assert prepared.status in ("refused", "failed")
    return prepared.reason


# Angles


@given(q=quaternions(), order=st.sampled_from(ORDERS))
def test_angles_are_those_of_another_library_and_come_back(q, order):
    rotation = rotation_of(q)
    angles = angles_of(rotation, order)
    assert rotation_by(angles, order) == pytest.approx(rotation, abs=1e-9)
    if abs(angles["xyz".index(order[1])]) < 89.9:
        theirs = Rotation.from_matrix(rotation).as_euler(order.upper(), degrees=True)
        mine = [angles["xyz".index(a)] for a in order]
        assert np.abs((np.array(mine) - theirs + 180) % 360 - 180).max() < 1e-6
    assert -90.0000001 <= angles["xyz".index(order[1])] <= 90.0000001


@pytest.mark.parametrize("order", ORDERS)
@pytest.mark.parametrize("quarter", [90, -90])
def test_at_a_right_middle_angle_the_third_is_nothing(order, quarter):
    i, j, k = ("xyz".index(a) for a in order)
    wanted = [0.0, 0.0, 0.0]
    wanted[i], wanted[j], wanted[k] = 20.0, quarter, 35.0
    rotation = rotation_by(wanted, order)
    found = angles_of(rotation, order)
    assert found[k] == 0
    assert rotation_by(found, order) == pytest.approx(rotation, abs=1e-9)


def test_one_angle_is_set_and_the_others_stay_as_the_file_writes_them():
    q = Rotation.from_euler("XYZ", [10, 20, 30], degrees=True).as_quat()
    part = replace(one_part().nodes[0], placement=type(one_part().nodes[0].placement).of(rotation=q, scale=(2, 1, 1)))
    asset = replace(one_part(), nodes=(part,))
    for order, angle, value in (("xyz", "x", 12.5), ("zyx", "z", -170), ("yxz", "x", 45)):
        then = Rotation.from_matrix(rotation_of(q)).as_euler(order.upper(), degrees=True)
        wanted = np.array(then)
        wanted[order.index(angle)] = value
        done = after(asset, f"{{do: turn, set: {{order: {order}, {angle}: {value}}}, parts: [post]}}")
        now = Rotation.from_quat(done.nodes[0].placement.rotation)
        assert np.abs((now * Rotation.from_euler(order.upper(), wanted, degrees=True).inv()).magnitude()) < 1e-9
        assert done.nodes[0].placement.scale == pytest.approx([2, 1, 1])
        assert pivot(done, "post") == pytest.approx(pivot(asset, "post"))


def test_where_a_format_has_no_channels_the_geometry_turns_about_the_pivot(tmp_path):
    """An OBJ's parts have the file's origin for their pivots, and hold no angle: both stay, the vertices turn."""
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "posts.obj").write_text(
        "o near\nv 1 0 0\nv 2 0 0\nv 1 3 0\nf 1 2 3\no far\nv 4 0 1\nv 5 0 1\nv 4 3 1\nf 4 5 6\n"
    )
    entry = through(tmp_path, "{do: turn, set: {y: 90}, parts: [far]}")
    assert entry["status"] == "delivered", entry["reason"]
    made = receive(find_sources([tmp_path / "out" / "posts.obj"])[0]).asset
    # A quarter turn about y brings x to the back, and what lay in front to the right.
    assert world_points(made, 0) == pytest.approx(np.array([[1, 0, 0], [2, 0, 0], [1, 3, 0]]), abs=1e-6)
    assert world_points(made, 1) == pytest.approx(np.array([[1, 0, -4], [1, 0, -5], [1, 3, -4]]), abs=1e-6)
    received = receive(find_sources([tmp_path / "in"])[0]).asset
    done = after(received, "{do: turn, set: {y: 90}, parts: [far]}")
    assert all(node.pinned for node in done.nodes)
    assert np.array_equal(done.worlds, received.worlds)


def test_in_a_file_with_z_up_angles_and_own_axes_are_the_files():
    z_up = Reading(metres_per_unit=1.0, up="+Z", front="-Y", source="declared")
    received = replace(one_part(), reading=Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared"))
    asset = with_reading(received, z_up)
    done = after(asset, "{do: turn, set: {z: 90}, parts: [post]}")
    # The file's z is up: working y. A quarter turn about it brings x (right) to the back: working -z.
    assert axes(done, "post")[:, 0] == pytest.approx([0, 0, -1], abs=1e-12)
    moved = after(asset, "{do: place, shift: [0, 0, 2], along: own, parts: [post]}")
    assert pivot(moved, "post") == pytest.approx([0, 2, 0], abs=1e-12)
    high = after(asset, "{do: size, height: 6, keep: none, along: own, parts: [post]}")
    assert node_box(high, 0).size[1] == pytest.approx(6)
    # The file's z stands upright already; its y lies to the back.
    still = after(asset, "{do: turn, bring: +Z, to: top, parts: [post]}")
    assert axes(still, "post") == pytest.approx(axes(asset, "post"))
    laid = after(asset, "{do: turn, bring: +Y, to: top, parts: [post]}")
    assert axes(laid, "post")[:, 2] == pytest.approx([0, -1, 0], abs=1e-12)


# Along


def test_turns_moves_and_sizes_go_along_own_and_parents_axes():
    asset = lock_gate()
    # The gate is turned a quarter about y: its z lies along the world's x, and so does the leaf's.
    moved = after(asset, "{do: place, shift: [0, 0, 1], along: own, parts: [pin]}")
    assert pivot(moved, "pin") == pytest.approx(np.add(pivot(asset, "pin"), [1, 0, 0]))
    moved = after(asset, "{do: place, shift: [1, 0, 0], along: parent, parts: [pin]}")
    assert pivot(moved, "pin") == pytest.approx(np.add(pivot(asset, "pin"), [0, 0, -1]))
    turned = after(asset, "{do: turn, by: [90, 0, 0], along: own, parts: [leaf]}")
    # About its own x, the world's -z: its y goes from up to its own z, the world's x.
    assert axes(turned, "leaf")[:, 1] == pytest.approx([1, 0, 0], abs=1e-12)
    long = after(asset, "{do: size, factor: [1, 1, 3], along: own, parts: [leaf]}")
    assert node_box(long, 1).size == pytest.approx(node_box(asset, 1).size * [3, 1, 1])
    deep = after(asset, "{do: size, depth: 12, keep: none, along: own, parts: [leaf]}")
    assert node_box(deep, 1).size == pytest.approx([12, 4, 2])
    aslant = "datums: {quay: {turn: [0, 45, 0]}}\n"
    moved = after(asset, "{do: place, shift: [0, 0, 1], along: {datum: quay}, parts: [sign]}", top=aslant)
    assert pivot(moved, "sign") - pivot(asset, "sign") == pytest.approx(np.array([1, 0, 1]) / math.sqrt(2))
    wide = after(one_part(), "{do: size, factor: [2, 1, 1], along: {datum: quay}}", top=aslant)
    stretched = wide.world_from_mesh(0)[:3, :3]
    assert stretched @ np.array([1, 0, -1]) == pytest.approx([2, 0, -2])
    assert stretched @ np.array([1, 0, 1]) == pytest.approx([1, 0, 1])


def test_an_assets_own_axes_are_those_of_its_one_root():
    one = replace(lock_gate(), nodes=lock_gate().nodes[:3])
    moved = after(one, "{do: place, shift: [0, 0, 1], along: own}")
    assert pivot(moved, "gate") == pytest.approx([11, 0, 0])
    assert "2 roots" in refusal(lock_gate(), "{do: turn, by: [0, 0, 9], along: own}")


def test_several_turn_about_the_mean_of_their_pivots_and_about_their_common_middle():
    asset = lock_gate()
    done = after(asset, "{do: turn, by: [0, 180, 0], about: mean, parts: [pin, sign]}")
    assert pivot(done, "pin") == pytest.approx(pivot(asset, "sign"))
    assert pivot(done, "sign") == pytest.approx(pivot(asset, "pin"))
    done = after(asset, "{do: turn, by: [0, 180, 0], about: common, parts: [pin, sign]}")
    low = np.minimum(node_box(asset, 2).low, node_box(asset, 3).low)
    high = np.maximum(node_box(asset, 2).high, node_box(asset, 3).high)
    assert node_box(done, 2).low[[0, 2]] == pytest.approx((low + high - node_box(asset, 2).high)[[0, 2]])


# Pivots


def test_a_pivot_goes_back_to_where_it_was_in_its_geometry():
    asset = lock_gate()
    steps = (
        "{do: pivot, at: base, of: all}", "{do: pivot, at: {move: [0, 1, 0]}, axes: {turn: [10, 20, 30]}, of: all}",
        "{do: turn, by: [0, 30, 0], parts: [gate]}", "{do: size, factor: 2, about: base}",
        "{do: bake, what: [rotation, scale]}", "{do: place, shift: [5, 0, 0]}",
    )  # fmt: skip
    moved = after(asset, *steps)
    back = after(asset, *steps, "{do: pivot, at: received, axes: received, of: all}")
    for name in ("leaf", "pin", "sign"):
        i = node(asset, name)
        was, now = asset.world_from_mesh(i), back.world_from_mesh(i)
        # Where a pivot stood in its mesh's numbers, it stands again, though the mesh has moved.
        in_mesh = np.linalg.solve(was, [*pivot(asset, name), 1])
        assert pivot(back, name) == pytest.approx((now @ in_mesh)[:3])
        assert_same_points(world_points(back, i), world_points(moved, i))
        turn = now[:3, :3] @ np.linalg.inv(was[:3, :3])
        assert axes(back, name) == pytest.approx(turn / np.cbrt(np.linalg.det(turn)) @ axes(asset, name))


@given(asset=assets(deepest=3))
def test_untouched_pivots_are_where_they_were_received(asset):
    step = STEPS["pivot"].model_validate({"at": "received", "axes": "received", "of": "all"})
    outcome = evaluate(asset, Sheet(steps=(step,))).outcomes[0]
    assert outcome.outcome == "nothing"


def test_an_assets_origin_goes_back_to_the_files_own_and_a_pieces_pivot_to_its_parts():
    done = after(one_part(), "{do: turn, by: [0, 90, 0]}", "{do: place, at: [3, 0, 0]}", "{do: pivot, at: received}")
    # The file's origin was the box's corner at the back left; the quarter turn brought its back right there.
    assert asset_box(done).low == pytest.approx([0, 0, -1], abs=1e-12)
    split = "{do: split, parts: [sign], into: pieces}"
    two = replace(plate_asset(names=("sign",)), meshes=(_two_boxes(),))
    done = after(two, split, "{do: pivot, at: base, of: parts}", "{do: pivot, at: received, of: parts}")
    assert len(done.nodes) == 3
    assert pivot(done, "sign.2") == pytest.approx(pivot(two, "sign"), abs=1e-12)


def _two_boxes():
    mesh = one_part().meshes[0]
    points = np.asarray(mesh.points)
    triangles = np.asarray(mesh.triangles, dtype=np.int64)
    more = np.vstack([triangles, triangles + len(points)])
    return replace(
        mesh, points=np.vstack([points, points + np.array([5, 0, 0])]), triangles=more, normals=None, surfaces=()
    )


def test_pivots_go_across_on_by_a_move_and_turn_by_themselves():
    asset = lock_gate()
    middle = asset_box(asset).middle
    done = after(asset, "{do: pivot, at: {across: width}, parts: [pin]}")
    assert pivot(done, "pin") == pytest.approx(pivot(asset, "pin") * [-1, 1, 1] + [2 * middle[0], 0, 0])
    assert axes(done, "pin") == pytest.approx(axes(asset, "pin"))
    done = after(asset, "{do: pivot, at: {move: [0, 0, 50 cm], along: own}, parts: [pin]}")
    assert pivot(done, "pin") == pytest.approx(np.add(pivot(asset, "pin"), [0.5, 0, 0]))
    done = after(asset, "{do: pivot, at: {move: [0, 0, 0]}, axes: {half: y}, parts: [pin]}")
    assert pivot(done, "pin") == pytest.approx(pivot(asset, "pin"))
    assert axes(done, "pin") == pytest.approx(axes(asset, "pin") * [-1, 1, -1])
    tilted = after(asset, "{do: turn, by: [7, 0, 3], parts: [pin]}")
    done = after(tilted, "{do: pivot, at: {move: [0, 0, 0]}, axes: square, parts: [pin]}")
    assert axes(done, "pin") == pytest.approx(axes(asset, "pin"), abs=1e-12)
    assert_same_points(world_points(done, 2), world_points(tilted, 2))


# Places


def test_things_move_away_from_a_centre_and_nearer():
    asset = lock_gate()
    done = after(asset, "{do: place, away: 2, from: {part: gate}, parts: [pin, sign]}")
    assert pivot(done, "pin") == pytest.approx([16, 0, 0])
    assert pivot(done, "sign") == pytest.approx([-3, 0, 0])
    aslant = "{do: place, away: -1 m, from: {xyz: [0, -5, 0]}, axes: [x, z], parts: [pin]}"
    assert pivot(after(asset, aslant), "pin") == pytest.approx([13, 0, 0])
    assert "lies on the centre" in refusal(asset, "{do: place, away: 1, from: {part: pin}, parts: [pin]}")
    whole = after(one_part(), "{do: place, away: 1, from: {xyz: [0.5, -1, 1.5]}}")
    assert asset_box(whole).low == pytest.approx([0, 1, 0])


def test_several_move_as_one_by_a_point_of_their_common_box():
    asset = lock_gate()
    done = after(asset, "{do: place, at: origin, as-one: true, parts: [pin, sign]}")
    step = pivot(done, "pin") - pivot(asset, "pin")
    assert pivot(done, "sign") - pivot(asset, "sign") == pytest.approx(step)
    low = np.minimum(node_box(done, 2).low, node_box(done, 3).low)
    high = np.maximum(node_box(done, 2).high, node_box(done, 3).high)
    assert [(low + high)[0], low[1], (low + high)[2]] == pytest.approx([0, 0, 0], abs=1e-9)


# Marks

MARKS = """marks:
  bore: {on: "flap_*", kind: circle, where: [0.75, 1, 0.375], way: top, size: 0.0696}
  corner: {on: "flap_*", kind: vertex, where: [0, 0, 0]}
  sill: {on: sill, kind: vertex, where: [1, 1, 1]}
  side: {on: "flap_*", kind: face, where: [1, 0.5, 0.5], way: right}
  rim: {on: "flap_*", kind: edge, where: [0.5, 0, 0], way: left}
"""
FLAPS = plate_asset(names=("flap_1", "flap_2", "sill"))


def test_a_mark_is_a_point_wherever_a_point_is_said():
    done = after(FLAPS, '{do: pivot, at: {mark: bore}, parts: ["flap_*"]}', top=MARKS)
    assert pivot(done, "flap_2") == pytest.approx([3.5, 0.25, -0.25])
    done = after(FLAPS, '{do: place, by: {mark: corner}, at: {mark: sill}, parts: ["flap_2"]}', top=MARKS)
    assert node_box(done, 1).low == pytest.approx(node_box(FLAPS, 2).high)
    done = after(
        FLAPS, "{do: place, by: {mark: corner}, at: {onto: sill, point: {mark: sill}}, parts: [flap_1]}", top=MARKS
    )
    assert node_box(done, 0).low == pytest.approx(node_box(FLAPS, 2).high)
    done = after(FLAPS, "{do: place, by: {mark: corner}, at: {onto: {mark: sill}}, parts: [flap_1]}", top=MARKS)
    assert node_box(done, 0).low == pytest.approx(node_box(FLAPS, 2).high)
    done = after(FLAPS, "{do: size, between: [{mark: corner}, [-1, 0.25, -1]], length: 1, parts: [flap_1]}", top=MARKS)
    assert node_box(done, 0).size == pytest.approx(node_box(FLAPS, 0).size * 2)
    done = after(FLAPS, '{do: turn, by: [0, 180, 0], about: {mark: corner}, parts: ["flap_*"]}', top=MARKS)
    assert node_box(done, 1).high == pytest.approx([2, 0.25, -1])
    top = MARKS + "datums: {hinge: {at: {mark: corner}, turn: [0, 90, 0]}}\n"
    done = after(FLAPS, '{do: pivot, at: {datum: hinge}, axes: {datum: hinge}, parts: ["flap_*"]}', top=top)
    assert pivot(done, "flap_2") == pytest.approx([2, -0.25, -1])
    assert axes(done, "flap_2")[:, 0] == pytest.approx([0, 0, -1], abs=1e-12)


def test_a_marks_way_is_a_direction():
    done = after(FLAPS, '{do: turn, bring: {mark: side}, to: bottom, parts: ["flap_1"]}', top=MARKS)
    assert node_box(done, 0).size == pytest.approx([0.5, 2, 2])
    done = after(
        FLAPS, '{do: pivot, at: {mark: rim}, axes: {bring: +Z, to: {mark: rim}}, parts: ["flap_*"]}', top=MARKS
    )
    assert axes(done, "flap_2")[:, 2] == pytest.approx([-1, 0, 0], abs=1e-12)
    # Tilted ones are brought round by what they are, not by how they stand.
    tilted = after(FLAPS, "{do: turn, by: [0, 4, 0], parts: [flap_2]}")
    square = after(tilted, '{do: turn, bring: {mark: side}, to: right, parts: ["flap_*"]}', top=MARKS)
    assert node_box(square, 1).size == pytest.approx([2, 0.5, 2])


def test_a_step_is_done_for_the_parts_that_its_mark_is_found_on_and_says_which_it_is_not():
    turned = after(FLAPS, "{do: turn, by: [0, 90, 0], parts: [flap_2]}")
    hinge = MARKS + "datums: {hinge: {at: {mark: bore}}}\n"
    for at, top in (("{mark: bore}", MARKS), ("{datum: hinge}", hinge)):
        done = evaluate(turned, sheet_of(f'{{do: pivot, at: {at}, parts: ["flap_*"]}}', top=top))
        assert pivot(done.asset, "flap_1") == pytest.approx([0.5, 0.25, -0.25])
        assert pivot(done.asset, "flap_2") == pytest.approx(pivot(turned, "flap_2"))
        (outcome,) = done.outcomes
        assert (done.status, outcome.outcome, outcome.left_out) == ("ready", "applied", (1,))
        (told,) = outcome.warnings
        assert told.startswith("'flap_2' stays as it is: mark 'bore': no circle of 'flap_2' fits; the nearest at")
    # Each part by itself, with no pattern: on those no mark could be on, it is the one on which it is found.
    done = evaluate(turned, sheet_of("{do: pivot, at: {mark: bore}, of: parts}", top=MARKS))
    assert done.outcomes[0].left_out == (1,)
    assert pivot(done.asset, "sill") == pytest.approx([0.5, 0.25, -0.25])


@pytest.mark.parametrize("step", ["{do: turn, by: [0, 5, 0], about: {mark: bore}, parts: ['flap_*']}",
                                  "{do: place, by: {mark: bore}, at: origin, parts: ['flap_*']}",
                                  "{do: size, factor: 2, about: {mark: bore}, parts: ['flap_*']}"])  # fmt: skip
def test_every_step_that_names_a_mark_leaves_out_what_it_does_not_fit(step):
    turned = after(FLAPS, "{do: turn, by: [0, 90, 0], parts: [flap_2]}")
    done = evaluate(turned, sheet_of(step, top=MARKS))
    moved = np.abs(done.asset.worlds - turned.worlds).max(axis=(1, 2)) > 1e-6
    assert moved.tolist() == [True, False, False]


def test_a_mark_that_is_not_found_on_any_or_not_on_all_that_it_must_be_refuses_the_asset():
    turned = after(FLAPS, "{do: turn, by: [0, 90, 0], parts: [flap_2]}")
    assert "no circle of 'flap_2' fits; the nearest at" in refusal(
        turned, "{do: pivot, at: {mark: bore}, parts: [flap_2]}", top=MARKS
    )
    strict = "{do: pivot, at: {mark: bore}, parts: ['flap_*'], all: true"
    assert "no circle of 'flap_2' fits" in refusal(turned, f"{strict}}}", top=MARKS)
    assert evaluate(FLAPS, sheet_of(f"{strict}}}", top=MARKS)).status == "ready"
    assert evaluate(turned, sheet_of(f"{strict}, may-refuse: true}}", top=MARKS)).status == "ready"
    for bad in ("{do: pivot, at: base, parts: [flap_1], all: true}", "{do: pivot, at: {mark: bore}, all: true}"):
        with pytest.raises(BadSheet, match="all: true is of a step for parts that names a mark"):
            sheet_of(bad, top=MARKS)
    other = plate_asset(names=("lid",))
    assert "has no part 'flap_*'" in refusal(other, "{do: pivot, at: {mark: bore}, of: parts}", top=MARKS)


def test_marks_round_trip_and_mean_the_delivery_axes():
    top = "deliver: {up: Z}\n" + MARKS.replace("way: top", "way: +Z")
    sheet = sheet_of('{do: pivot, at: {mark: bore}, parts: ["flap_*"]}', top=top)
    assert parse_sheet(dump_sheet(sheet), "s") == sheet
    assert sheet.setting().marks["bore"].way == pytest.approx([0, 1, 0])
    assert pivot(evaluate(FLAPS, sheet).asset, "flap_2") == pytest.approx([3.5, 0.25, -0.25])


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("marks: {pin: {on: a, kind: ring, where: [0, 0, 0]}}", "line 2: marks pin: kind: 'ring' is not one of"),
        ("marks: {pin: {on: a, kind: edge, where: [0, 0]}}", "line 2: marks pin: where: .*at least 3"),
        ("marks: {pin: {on: a, kind: vertex, where: [0, 0, 0], way: top}}", "line 2: marks pin: a vertex has neither"),
        ("marks: {pin: {on: a, kind: edge, where: [0, 0, 0], size: 0}}", "line 2: marks pin: size: .*greater than 0"),
        ("marks: {pin: {on: a, kind: edge, where: [0, 0, .nan]}}", "line 2: marks pin: where.2: .*finite"),
        ("marks: [pin]", "line 2: marks must name marks"),
        ("steps:\n - {do: pivot, at: {mark: pin}}", "line 3: step 1 .pivot.: no mark 'pin' is declared"),
        ("marks: {pin: {on: a, kind: face, where: [0,0,0]}}\nsteps:\n - {do: turn, by: [1, 0, 0], about: {mark: pim}}",
         "line 4: step 1 .turn.: no mark 'pim' is declared; did you mean 'pin'"),
        ("datums: {sill: {at: {mark: pin}}}", "line 2: datums sill: no mark 'pin' is declared"),
        ("marks: {pin: {on: a, kind: vertex, where: [0, 0, 0]}}\nsteps:\n - {do: turn, bring: {mark: pin}, to: top}",
         "line 4: step 1 .turn.: mark 'pin' is a vertex, which points nowhere"),
        ("steps:\n - {do: turn, set: {x: 1}}", "line 3: .*set needs parts"),
        ("steps:\n - {do: turn, set: {order: xyx, x: 1}, parts: [a]}", "'xyx' is no order of x, y and z"),
        ("steps:\n - {do: turn, set: {order: xyz}, parts: [a]}", "it sets none of x, y and z"),
        ("steps:\n - {do: turn, square: true, along: own, parts: [a]}", "along goes with by"),
        ("steps:\n - {do: turn, by: [1, 0, 0], about: mean}", "about: mean is of several parts"),
        ("steps:\n - {do: size, factor: 2, along: own}", "along: own needs parts"),
        ("steps:\n - {do: size, longest: 2, along: world}", "along goes with a factor"),
        ("steps:\n - {do: size, match: a, along: own}", "along is width, height or depth"),
        ("steps:\n - {do: pivot, at: {move: [1, 0, 0], along: own}}", "along: own needs of: parts"),
        ("steps:\n - {do: pivot, axes: square}", "axes are of parts and groups"),
        ("steps:\n - {do: place, away: 2}", "away and from go together"),
        ("steps:\n - {do: place, away: 2, from: origin, at: origin}", "not both"),
        ("steps:\n - {do: place, ground: true, as-one: true}", "as-one is of several parts"),
        ("steps:\n - {do: place, at: origin, by: pivot, as-one: true, parts: [a]}", "as-one moves by a point"),
        ("steps:\n - {do: place, at: origin, along: own, parts: [a]}", "along goes with shift"),
        ("steps:\n - {do: place, at: {onto: {mark: a}, point: [left, top, 0]}}", "a mark is a point already"),
    ],
)  # fmt: skip
def test_what_a_sheet_can_not_mean_is_said_with_its_line(text, says):
    with pytest.raises(BadSheet, match=says):
        parse_sheet(f"prep-sheet: 1\n{text}\n", "s.yaml")


def test_what_centres_say_is_in_words():
    turn = STEPS["turn"].model_validate({"by": [1, 0, 0], "about": "mean", "parts": ["a"]})
    assert turn.stays == "the mean of their pivots"
    assert Setting().marks == {}
