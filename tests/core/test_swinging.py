"""Where a part cuts into others as it swings: against closed forms of boxes that turn about an upright axis."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.core.swinging import depth_in, sweep, swing_motion, turn_about
from tests.core.test_picks import drum
from tests.strategies import solid_box

UP = np.array([0.0, 1.0, 0.0])


def part(name, mesh, at=(0, 0, 0), parent=None):
    return Node(name=name, parent=parent, placement=Placement.of(translation=np.array(at, dtype=float)), mesh=mesh)


def gate(*still, leaf=(2.0, 1.0, 0.02)):
    """A thin leaf hung at the origin along +X, and boxes that stand still: (name, size, low corner)."""
    meshes = (solid_box(np.array(leaf)), *(solid_box(np.array(size)) for _, size, _ in still))
    nodes = [part("leaf", 0)] + [part(name, k, at) for k, (name, _, at) in enumerate(still, 1)]
    return Asset(file="g.glb", format="glb", reading=WORKING, nodes=tuple(nodes), meshes=meshes)


def test_a_turn_is_right_handed_about_its_axis_and_keeps_the_pivot():
    assert turn_about(UP, 90.0) @ [1, 0, 0] == pytest.approx([0, 0, -1])
    assert turn_about(np.array([0.0, 0, 1]), 30.0) @ [1, 0, 0] == pytest.approx([np.cos(np.pi / 6), 0.5, 0])
    asset = gate(("stop", (1, 1, 1), (5, 0, 0)))
    moved = part("leaf", 0, (1, 2, 3))
    asset = Asset(file="g", format="glb", reading=WORKING, nodes=(moved, *asset.nodes[1:]), meshes=asset.meshes)
    motion = swing_motion(asset, 0, UP, 40.0)
    assert motion[:3, :3] @ [1, 2, 3] + motion[:3, 3] == pytest.approx([1, 2, 3])


@pytest.mark.parametrize("sign", [1, -1])
def test_a_leaf_meets_a_stop_at_the_angle_of_its_nearest_corner(sign):
    # The stop's side toward the leaf begins at x 1, z ∓1: the leaf's plane passes there at 45 degrees.
    stop = ("stop", (0.5, 1.0, 0.5), (1.0, 0.0, -1.5 if sign > 0 else 1.0))
    found = sweep(gate(stop), 0, UP, -80.0, 80.0)
    (cut,) = found.cuts
    nearest = {1: np.degrees(np.arctan2(1.0, 1.5)), -1: -np.degrees(np.arctan2(1.0, 1.5))}[sign]
    assert cut.part == "stop"
    assert cut.angle_deg == pytest.approx(nearest, abs=1.5)
    assert abs(cut.deepest_deg) > abs(cut.angle_deg)
    assert 0 < cut.depth_m < 0.5
    assert not found.coarse


def test_what_is_out_of_reach_or_below_or_behind_the_hinge_is_no_cut():
    far = ("far", (1, 1, 1), (2.5, 0, -3))
    below = ("below", (1, 0.5, 1), (0.5, -0.6, -2))
    post = ("post", (0.45, 1.0, 0.5), (-0.5, 0.0, -0.25))
    assert sweep(gate(far, below, post), 0, UP, -90.0, 90.0).cuts == ()


def test_of_two_the_one_that_is_met_first_comes_first_and_limits_keep_the_rest_out():
    near = ("near", (0.4, 1.0, 0.4), (1.4, 0.0, -0.8))
    late = ("late", (0.4, 1.0, 0.4), (0.4, 0.0, -1.9))
    asset = gate(near, late)
    assert [c.part for c in sweep(asset, 0, UP, 0.0, 90.0).cuts] == ["near", "late"]
    assert [c.part for c in sweep(asset, 0, UP, 0.0, 40.0).cuts] == ["near"]
    assert sweep(asset, 0, UP, 0.0, 5.0).cuts == ()
    assert sweep(asset, 0, UP, -90.0, 0.0).cuts == ()


def test_what_hangs_from_it_swings_along_and_is_nothing_to_cut_into():
    asset = gate(("stop", (0.5, 1.0, 0.5), (1.0, 0.0, -1.5)))
    handle = part("handle", 1, (1.5, 0.0, -0.6), parent=0)
    asset = Asset(file="g", format="glb", reading=WORKING, nodes=(*asset.nodes, handle), meshes=asset.meshes)
    alone = sweep(gate(("stop", (0.5, 1.0, 0.5), (1.0, 0.0, -1.5))), 0, UP, 0.0, 80.0).cuts[0]
    (with_handle,) = sweep(asset, 0, UP, 0.0, 80.0).cuts
    assert with_handle.part == "stop"
    assert with_handle.angle_deg < alone.angle_deg


def test_a_sweep_that_is_not_wanted_any_more_ends_with_nothing():
    asset = gate(("stop", (0.5, 1.0, 0.5), (1.0, 0.0, -1.5)))
    assert sweep(asset, 0, UP, 0.0, 80.0, stopped=lambda: True).cuts == ()
    assert sweep(gate(), 0, UP, 0.0, 80.0).cuts == ()


@pytest.mark.parametrize("closed", [True, False])
def test_depth_is_how_far_inside_the_deepest_point_lies(closed):
    mesh = drum(48, 1.0, 4.0)
    triangles = np.asarray(mesh.points, dtype=float)[np.asarray(mesh.triangles)]
    inradius = np.cos(np.pi / 48)
    assert depth_in(triangles, np.array([[0.0, 2.0, 0.0]]), closed=closed) == pytest.approx(inradius, abs=1e-9)
    assert depth_in(triangles, np.array([[0.0, 0.25, 0.0], [3, 2, 0]]), closed=closed) == pytest.approx(0.25)
    assert depth_in(triangles, np.array([[1.01, 2.0, 0.0], [0, 4.1, 0], [0, -0.1, 0]]), closed=closed) == 0
    assert depth_in(triangles, np.empty((0, 3)), closed=closed) == 0


def test_the_share_that_is_looked_at_goes_up_to_all_of_it():
    shares = list[float]()
    stops = [(f"stop{k}", (0.5, 1.0, 0.5), (1.0, 0.0, -1.5 + k)) for k in range(3)]
    sweep(gate(*stops), 0, UP, -20.0, 20.0, looked=shares.append)
    assert shares == sorted(shares)
    assert shares[0] == 0
    assert shares[-1] == 1
    # Three things, each looked at over 21 angles.
    assert len(set(shares)) == 1 + 3 * 21
