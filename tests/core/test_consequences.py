"""What a bake announces of each node, held against what is found in the numbers by other ways."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.consequences import consequences_of
from oak_square.core.errors import Refused
from oak_square.core.frames import axis_turn
from oak_square.core.motion import baked
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from tests.strategies import assets, solid_box, world_points

CHANNELS = st.sets(st.sampled_from(["rotation", "scale", "location"]), min_size=1)


def told(before, after):
    return {(c.node, c.kind): c.amount for c in consequences_of(before, after)}


def unit_columns(world):
    return world[:3, :3] / np.linalg.norm(world[:3, :3], axis=0)


@given(asset=assets(), what=CHANNELS)
def test_what_happens_is_announced_and_what_is_announced_happens(asset, what):
    try:
        after = baked(asset, frozenset(what), frozenset(range(len(asset.nodes))))
    except Refused:
        assume(False)
    said = told(asset, after)
    size = max(np.abs(asset.worlds[:, :3, 3]).max(), 1e-9)
    for i, node in enumerate(asset.nodes):
        old, new = asset.worlds[i], after.worlds[i]
        off = np.linalg.norm(new[:3, 3] - old[:3, 3])
        assert ((i, "pivot") in said) == (off > 1e-9 * size) or off < 1e-6 * size
        # A pair of axes lie on one line just where their product is one: no frame of ours is asked.
        lines = np.abs((unit_columns(old) * unit_columns(new)).sum(axis=0)).min()
        turned = np.degrees(np.arccos(np.clip(lines, -1, 1)))
        if abs(turned - 0.01) > 2e-3:
            assert ((i, "axes") in said) == (turned > 0.01)
        if node.mesh is None:
            assert (i, "mirror") not in said
            assert (i, "shear") not in said
            continue
        change = after.nodes[i].local_from_mesh[:3, :3] @ np.linalg.inv(node.local_from_mesh[:3, :3])
        assert ((i, "mirror") in said) == (np.linalg.det(change) < 0)
        lengths = np.linalg.norm(change, axis=0)
        lean = np.abs((change / lengths).T @ (change / lengths) - np.eye(3)).max()
        if not 0.5e-4 < lean < 2e-4:
            assert ((i, "shear") in said) == (lean > 1e-4)
        assert np.abs(world_points(asset, i) - world_points(after, i)).max() <= 1e-6 * max(
            np.abs(world_points(asset, i)).max(), 1e-9
        )


def test_amounts_are_degrees_from_the_world_and_metres():
    quarter = Placement.from_matrix(np.vstack([np.c_[axis_turn(1, 34.0), [3.0, 0, 4.0]], [0, 0, 0, 1]]), what="leaf")
    asset = Asset(
        file="a.glb", format="glb", reading=_working(), meshes=(solid_box(np.ones(3)),),
        nodes=(Node(name="leaf", parent=None, placement=quarter, mesh=0),),
    )  # fmt: skip
    after = baked(asset, frozenset(["rotation", "location"]), frozenset([0]))
    assert told(asset, after) == {(0, "axes"): pytest.approx(34.0), (0, "pivot"): pytest.approx(5.0)}


def _working():
    from oak_square.core.frames import WORKING

    return WORKING
