"""Centres and turns against closed forms."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.placement import rotation_of, turn_degrees_of
from oak_square.core.shapes import (
    centre_of_mass,
    is_closed,
    mean_point,
    nearest_right_angles,
    principal_turn,
    smallest_turn,
    turn_onto_face,
)
from tests.core.test_picks import drum
from tests.steps.test_steps import one_part
from tests.strategies import quaternions, solid_box, vectors


def corners(mesh):
    return np.asarray(mesh.points, dtype=float)[np.asarray(mesh.triangles)]


def cone(sides=360, radius=1.0, height=3.0, closed=True):
    angles = np.arange(sides + 1) / sides * 2 * np.pi
    ring = np.column_stack([radius * np.cos(angles), np.zeros(sides + 1), radius * np.sin(angles)])
    tip, home = np.array([0, height, 0]), np.zeros(3)
    wall = [[ring[k + 1], ring[k], tip] for k in range(sides)]
    base = [[ring[k], ring[k + 1], home] for k in range(sides)]
    return np.array(wall + (base if closed else []))


def test_a_box_balances_at_its_middle_and_a_cone_a_quarter_up():
    box, how = centre_of_mass(corners(solid_box(np.array([2.0, 4, 6]))))
    assert (how, box) == ("volume", pytest.approx([1, 2, 3]))
    solid, how = centre_of_mass(cone())
    assert (how, solid) == ("volume", pytest.approx([0, 0.75, 0], abs=1e-9))


def test_an_open_shell_balances_by_its_surface():
    # A cone's wall alone: its surface's centre is a third of the way up.
    shell, how = centre_of_mass(cone(closed=False))
    assert (how, shell) == ("surface", pytest.approx([0, 1, 0], abs=1e-9))
    assert not is_closed(cone(closed=False))
    assert is_closed(corners(drum()))
    assert centre_of_mass(np.empty((0, 3, 3))) is None
    assert centre_of_mass(np.zeros((2, 3, 3))) is None


@given(q=quaternions(), move=vectors(), scale=st.floats(0.01, 100))
def test_the_centre_of_mass_goes_where_the_shape_goes(q, move, scale):
    turn = rotation_of(q)
    there, how = centre_of_mass(scale * (cone(24) @ turn.T) + move)
    assert how == "volume"
    assert there == pytest.approx(scale * (turn @ [0, 0.75, 0]) + move, abs=1e-6 * (scale + np.abs(move).max()))


def test_the_mean_of_vertices_is_theirs():
    asset = one_part(translation=(1, 0, 0))
    assert mean_point(asset, asset.parts) == pytest.approx([1.5, 1, 1.5])
    assert mean_point(asset, ()) is None


@given(vectors(), vectors())
def test_the_smallest_turn_brings_one_direction_onto_the_other_and_no_further(a, b):
    assume(np.linalg.norm(a) > 1e-3 and np.linalg.norm(b) > 1e-3)
    turn = smallest_turn(a, b)
    assert turn @ turn.T == pytest.approx(np.eye(3), abs=1e-7)
    assert np.linalg.det(turn) == pytest.approx(1)
    ua, ub = a / np.linalg.norm(a), b / np.linalg.norm(b)
    assert turn @ ua == pytest.approx(ub, abs=1e-7)
    between = np.degrees(np.arctan2(np.linalg.norm(np.cross(ua, ub)), ua @ ub))
    assert turn_degrees_of(turn) == pytest.approx(between, abs=1e-5)


def test_an_opposite_direction_is_reached_about_the_upright():
    assert smallest_turn(np.array([1.0, 0, 0]), np.array([-1.0, 0, 0])) == pytest.approx(np.diag([-1, 1, -1]))
    up = smallest_turn(np.array([0.0, 1, 0]), np.array([0.0, -1, 0]))
    assert up @ [0, 1, 0] == pytest.approx([0, -1, 0])


@given(quaternions())
def test_the_nearest_right_angles_are_a_rotation_onto_the_axes(q):
    frame = rotation_of(q)
    turned = nearest_right_angles(frame) @ frame
    assert np.abs(turned) == pytest.approx(np.abs(np.round(turned)), abs=1e-9)
    assert np.linalg.det(turned) == pytest.approx(1)


@given(st.floats(-40, 40), st.floats(-40, 40), st.sampled_from([(1.0, 2, 3), (5, 0.2, 3)]))
def test_a_crooked_box_is_squared_up(yaw, pitch, size):
    a, b = np.radians(yaw), np.radians(pitch)
    crooked = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]]) @ np.array(
        [[1, 0, 0], [0, np.cos(b), -np.sin(b)], [0, np.sin(b), np.cos(b)]]
    )
    shape = corners(solid_box(np.array(size))) @ crooked.T
    squared = shape @ principal_turn(shape).T
    extents = np.ptp(squared.reshape(-1, 3), axis=0)
    assert sorted(extents) == pytest.approx(sorted(size), rel=1e-6)
    assert principal_turn(np.zeros((1, 3, 3))) is None


@pytest.mark.parametrize(
    ("normal", "up", "front"),
    [
        ((0, 1, 0), (0, 1, 0), (0, 0, 1)),  # a floor
        ((0, -1, 0), (0, 1, 0), (0, 0, 1)),  # a ceiling: what stands there stands upright all the same
        ((1, 0, 0), (0, 1, 0), (1, 0, 0)),  # a wall, and one that looks to the back
        ((0, 0, -1), (0, 1, 0), (0, 0, -1)),
        ((0, 0.8, 0.6), (0, 0.8, 0.6), (0, -0.6, 0.8)),  # a ramp
        ((0, 0.6, 0.8), (0, 0.8, -0.6), (0, 0.6, 0.8)),  # a wall that leans back
    ],
)
def test_what_stands_on_a_face_is_upright_on_floors_and_looks_out_from_walls(normal, up, front):
    turn = turn_onto_face(np.array(normal, dtype=float))
    assert turn[:, 1] == pytest.approx(up, abs=1e-9)
    assert turn[:, 2] == pytest.approx(front, abs=1e-9)
    assert np.linalg.det(turn) == pytest.approx(1)
