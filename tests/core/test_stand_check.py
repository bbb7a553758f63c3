"""How a thing stands on grounds, against closed forms."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.frames import WORKING, translation
from oak_square.core.motion import carry_all
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.core.stand_check import GROUNDS, SLOPE_DEG, ground_mesh, stand_of
from tests.strategies import solid_box


def crate(size=(1.0, 2.0, 0.4), at=(-0.5, 0.0, -0.2)):
    """A box with its pivot at its base's middle, unless it is placed elsewhere."""
    node = Node(name="crate", parent=None, placement=Placement.of(), mesh=0)
    asset = Asset(file="c.glb", format="glb", reading=WORKING, nodes=(node,), meshes=(solid_box(np.array(size)),))
    return carry_all(asset, translation(np.array(at)))


def test_a_base_pivot_stands_true_on_level_ground():
    stand = stand_of(crate(), "level")
    assert (stand.floats_m, stand.sinks_m, stand.leans_deg) == pytest.approx((0, 0, 0), abs=1e-9)


@pytest.mark.parametrize(("up", "floats", "sinks"), [(0.3, 0.3, 0.0), (-1.0, 0.0, 1.0)])
def test_a_pivot_off_the_base_floats_or_sinks_by_as_much(up, floats, sinks):
    stand = stand_of(crate(at=(-0.5, up, -0.2)), "level")
    assert (stand.floats_m, stand.sinks_m) == pytest.approx((floats, sinks), abs=1e-7)


def test_on_a_slope_one_side_floats_and_the_other_sinks_by_half_the_width():
    stand = stand_of(crate(), "slope")
    half = 0.5 * np.tan(np.radians(SLOPE_DEG))
    for each in stand.stances:
        assert (each.floats_m, each.sinks_m) == pytest.approx((half, half), rel=1e-6)
        assert each.leans_deg == pytest.approx(SLOPE_DEG, rel=1e-6)


@pytest.mark.parametrize("ground", list(GROUNDS))
def test_pivots_lie_on_the_patch_that_is_drawn(ground):
    asset = crate()
    stand, mesh = stand_of(asset, ground), ground_mesh(asset, ground)
    points = np.asarray(mesh.points, dtype=float)
    for place in stand.places:
        near = np.argsort(np.linalg.norm(points[:, [0, 2]] - place[[0, 2]], axis=1))[:4]
        assert points[near, 1].min() - 0.02 <= place[1] <= points[near, 1].max() + 0.02
    a, b, c = (points[mesh.triangles[:, k]] for k in range(3))
    assert (np.cross(b - a, c - a)[:, 1] > 0).all()


def test_what_stands_is_measured_alike_at_any_size():
    small, large = (stand_of(crate(size=np.array([1.0, 2.0, 0.4]) * s, at=np.array([-0.5, 0, -0.2]) * s), "uneven")
                    for s in (1.0, 40.0))  # fmt: skip
    assert large.floats_m == pytest.approx(40 * small.floats_m, rel=1e-4)
    assert large.leans_deg == pytest.approx(small.leans_deg, rel=1e-4)
    assert small.floats_m > 0.001


def test_without_geometry_nothing_floats():
    empty = Asset(file="e.glb", format="glb", reading=WORKING, nodes=(), meshes=())
    assert stand_of(empty, "slope").floats_m == 0
