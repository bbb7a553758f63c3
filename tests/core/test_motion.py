from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.baking import baked, reset
from oak_square.core.boxes import asset_box
from oak_square.core.errors import Refused
from oak_square.core.frames import AXES, Reading, translation
from oak_square.core.geometry import (
    flipped,
    is_mirror,
    normal_matrix,
    write_directions,
    write_points,
)
from oak_square.core.motion import carry, carry_all, reframe, resize_all, with_reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from tests.strategies import (
    assert_same_points,
    assets,
    frames,
    signed_volume,
    solid_box,
    triangle_normals,
    vectors,
    world_points,
)

CHANNELS = st.sets(st.sampled_from(["rotation", "scale", "location"]), min_size=1).map(frozenset)


def condition(asset: Asset) -> float:
    """The worst of the world frames: what rounding is multiplied by."""
    return max(float(np.linalg.cond(w[:3, :3])) for w in asset.worlds)


@st.composite
def reframings(draw):
    asset = draw(assets())
    worlds = asset.worlds.copy()
    for i in range(len(worlds)):
        if draw(st.booleans()):
            worlds[i] = draw(frames())
    return asset, worlds


@given(reframings())
def test_reframe_moves_nothing_in_the_world(case):
    asset, worlds = case
    assume(condition(asset) < 1e5 and max(np.linalg.cond(w[:3, :3]) for w in worlds) < 1e5)
    after = reframe(asset, worlds)
    for i in asset.parts:
        # Far frames are inverted on the way: rounding is of the largest number met.
        reach = max(1.0, float(np.abs(worlds).max()), float(np.abs(asset.worlds).max()))
        assert np.abs(world_points(after, i) - world_points(asset, i)).max() < 1e-7 * reach
    assert np.abs(after.worlds - worlds).max() <= 1e-7 * max(1.0, float(np.abs(worlds).max()))


@given(reframings())
def test_reframed_geometry_keeps_unit_normals_that_agree_with_faces_wound_outward(case):
    asset, worlds = case
    assume(max(np.linalg.cond(w[:3, :3]) for w in [*worlds, *asset.worlds]) < 1e4)
    after = reframe(asset, worlds)
    for i in after.parts:
        mesh, matrix = after.mesh_of(i), after.nodes[i].local_from_mesh
        points, normals = np.empty((24, 3)), np.empty((24, 3))
        write_points(mesh.points, matrix, points)
        write_directions(mesh.normals, normal_matrix(matrix[:3, :3]), normals)
        triangles = flipped(mesh.triangles) if is_mirror(matrix) else mesh.triangles
        assert np.linalg.norm(normals, axis=1) == pytest.approx(np.ones(24))
        faces = triangle_normals(points, triangles)
        faces /= np.linalg.norm(faces, axis=1, keepdims=True)
        # A box's sides are flat: every corner's normal is its side's.
        assert np.abs((faces * normals[triangles[:, 0]]).sum(axis=1) - 1).max() < 1e-5
        assert signed_volume(points, triangles) > 0


@given(assets(), frames())
def test_carry_moves_everything_by_the_motion(asset, motion):
    assume(condition(asset) < 1e6)
    after = carry_all(asset, motion)
    for i in asset.parts:
        wanted = world_points(asset, i) @ motion[:3, :3].T + motion[:3, 3]
        assert_same_points(world_points(after, i), wanted, relative=1e-7)


@given(assets(), vectors())
def test_carry_moves_the_named_nodes_with_all_below_and_nothing_else(asset, shift):
    assume(condition(asset) < 1e6)
    after = carry(asset, {0: translation(shift)})
    below = set(asset.below(0))
    for i in asset.parts:
        wanted = world_points(asset, i) + (shift if i in below else 0)
        assert_same_points(world_points(after, i), wanted, relative=1e-7)


@given(assets(), CHANNELS)
def test_a_bake_clears_its_channels_and_moves_nothing(asset, what):
    assume(condition(asset) < 1e4)
    after = baked(asset, what, frozenset(range(len(asset.nodes))))
    size = max(1.0, float(np.abs(asset.worlds).max()))
    for i in asset.parts:
        reach = max(size, float(np.abs(world_points(asset, i)).max()))
        assert np.abs(world_points(after, i) - world_points(asset, i)).max() < 1e-7 * reach
    for before, node in zip(asset.nodes, after.nodes, strict=True):
        if "rotation" in what:
            assert node.placement.rotation.tolist() == [0, 0, 0, 1]
        if "scale" in what:
            assert node.placement.scale.tolist() == [1, 1, 1]
        if "location" in what:
            assert node.placement.translation.tolist() == [0, 0, 0]
        if what == {"rotation"}:
            # Channels that are not named keep their numbers.
            assert node.placement.scale.tobytes() == before.placement.scale.tobytes()
    if "location" not in what:
        assert np.abs(after.worlds[:, :3, 3] - asset.worlds[:, :3, 3]).max() < 1e-7 * size


@given(assets(), CHANNELS)
def test_a_second_bake_changes_nothing(asset, what):
    assume(condition(asset) < 1e4)
    every = frozenset(range(len(asset.nodes)))
    once = baked(asset, what, every)
    twice = baked(once, what, every)
    for a, b in zip(once.nodes, twice.nodes, strict=True):
        assert np.allclose(a.placement.matrix, b.placement.matrix, rtol=1e-9, atol=1e-9)
        assert np.allclose(a.local_from_mesh, b.local_from_mesh, rtol=1e-9, atol=1e-9)


@given(assets())
def test_a_mirrored_part_is_no_longer_so_once_its_scale_is_baked(asset):
    assume(condition(asset) < 1e4)
    after = baked(asset, frozenset({"rotation", "scale"}), frozenset(range(len(asset.nodes))))
    for i in after.parts:
        assert np.abs(after.worlds[i][:3, :3] - np.eye(3)).max() < 1e-12


def test_a_flat_scale_above_geometry_can_not_be_moved_out_of():
    flat = Node(name="sail", parent=None, placement=Placement.of(scale=(1, 0, 1)))
    part = Node(name="cloth", parent=0, placement=Placement.of(), mesh=0)
    asset = Asset(file="a", format="glb", reading=_metres(), nodes=(flat, part), meshes=(solid_box(np.ones(3)),))
    with pytest.raises(Refused, match="'sail'"):
        reframe(asset, np.stack([asset.worlds[0], translation(np.array([1.0, 2, 3]))]))


def test_reset_lets_the_node_and_all_below_move():
    group = Node(name="group", parent=None, placement=Placement.of(translation=(5, 0, 0), scale=(2, 2, 2)))
    part = Node(name="part", parent=0, placement=Placement.of(translation=(1, 0, 0)), mesh=0)
    asset = Asset(file="a", format="glb", reading=_metres(), nodes=(group, part), meshes=(solid_box(np.ones(3)),))
    after = reset(asset, frozenset({"location", "scale"}), frozenset({0}))
    assert world_points(after, 1).min(axis=0) == pytest.approx([1, 0, 0])
    assert world_points(after, 1).max(axis=0) == pytest.approx([2, 1, 1])


@given(assets(), st.sampled_from(AXES), st.sampled_from(AXES), st.sampled_from([0.001, 0.0254, 1.0]))
def test_a_reading_moves_points_by_its_frame_and_leaves_clean_channels_clean(asset, up, front, metres):
    assume(up[1] != front[1] and condition(asset) < 1e6)
    reading = Reading(metres_per_unit=metres, up=up, front=front, source="sheet")
    after = with_reading(asset, reading)
    basis = reading.working_from_file
    for i, node in enumerate(asset.nodes):
        if node.mesh is not None:
            wanted = world_points(asset, i) @ basis[:3, :3].T
            assert_same_points(world_points(after, i), wanted, relative=1e-7)
        if (node.placement.scale == 1).all() and node.placement.rotation.tolist() == [0, 0, 0, 1]:
            assert (after.nodes[i].placement.scale == 1).all()
            assert after.nodes[i].placement.rotation.tolist() == [0, 0, 0, 1]


@given(assets(), st.floats(0.01, 100))
def test_a_size_goes_into_the_geometry_and_leaves_nothing_to_bake(asset, factor):
    assume(condition(asset) < 1e5 and asset.parts)
    motion = np.diag([factor, factor, factor, 1.0])
    after = resize_all(asset, motion)
    for i in asset.parts:
        assert_same_points(world_points(after, i), world_points(asset, i) * factor, relative=1e-7)
    for before, node in zip(asset.nodes, after.nodes, strict=True):
        assert node.placement.scale == pytest.approx(before.placement.scale, abs=1e-8)
        assert node.placement.rotation == pytest.approx(before.placement.rotation, abs=1e-8)
    old, new = asset_box(asset), asset_box(after)
    assert old is not None
    assert new is not None
    assert new.size == pytest.approx(old.size * factor, rel=1e-6)


def _metres() -> Reading:
    return Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")
