from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from oak_square.core.errors import BadArray, Refused
from oak_square.core.placement import Placement, inverse, quaternion_of, rotation_of, settled, turn_degrees
from tests.strategies import frames, placements, quaternions


@given(quaternions())
def test_rotations_agree_with_an_independent_library(q):
    mine = rotation_of(q)
    assert np.abs(mine - Rotation.from_quat(q).as_matrix()).max() < 1e-12
    assert np.abs(rotation_of(quaternion_of(mine)) - mine).max() < 1e-12
    assert turn_degrees(q) == pytest.approx(np.degrees(Rotation.from_quat(q).magnitude()), abs=1e-6)


@given(frames())
def test_every_invertible_frame_is_held_exactly(matrix):
    placement = Placement.from_matrix(matrix)
    assert np.abs(placement.matrix - matrix).max() <= 1e-9 * np.abs(matrix).max()
    assert np.linalg.det(rotation_of(placement.rotation)) == pytest.approx(1.0)


@given(placements())
def test_what_has_no_shear_is_told_from_what_has(placement):
    again = Placement.from_matrix(placement.matrix)
    assert not again.is_sheared
    # Mirroring is kept apart from shear, in the scale's signs.
    assert np.sign(np.prod(again.scale)) == np.sign(np.prod(placement.scale))
    assert np.allclose(np.sort(np.abs(again.scale)), np.sort(np.abs(placement.scale)), rtol=1e-7)


def test_a_shear_is_kept_as_a_shear():
    sheared = np.eye(4)
    sheared[0, 1] = 0.5
    placement = Placement.from_matrix(sheared)
    assert placement.is_sheared
    assert placement.shear == pytest.approx([0.5, 0, 0])


@given(placements())
def test_channels_are_kept_to_the_bit_where_they_still_hold(placement):
    moved = placement.matrix.copy()
    moved[:3, 3] += [1.0, 2.0, 3.0]
    again = Placement.from_matrix(moved, like=placement)
    assert again.rotation.tobytes() == placement.rotation.tobytes()
    assert again.scale.tobytes() == placement.scale.tobytes()


def test_near_identity_channels_become_exactly_that():
    rough = Placement.of(rotation=(1e-12, 0, 0, 1), scale=(1 + 1e-12, 1, 1 - 1e-12))
    fine = settled(rough)
    assert fine.rotation.tolist() == [0, 0, 0, 1]
    assert fine.scale.tolist() == [1, 1, 1]


@given(q=quaternions(), scale=st.permutations([0.0, 2.0, -3.0]), zeros=st.integers(1, 3))
def test_what_a_file_flattens_along_an_axis_is_read_as_it_is(q, scale, zeros):
    flat = np.where(np.argsort(np.argsort(np.abs(scale))) < zeros, 0.0, scale)
    matrix = Placement.of(translation=(1, 2, 3), rotation=q, scale=flat).matrix
    assert Placement.as_read(matrix).matrix == pytest.approx(matrix, abs=1e-12)


def test_a_flattened_frame_has_no_inverse_and_is_named():
    flat = np.diag([1.0, 0.0, 1.0, 1.0])
    with pytest.raises(Refused, match="node 'sail': its scale is zero along an axis"):
        inverse(flat, what="node 'sail'")
    # A very small frame is not a flat one.
    assert inverse(np.diag([1e-9, 1e-9, 1e-9, 1]), what="x")[0, 0] == pytest.approx(1e9)


def test_channels_are_checked_at_the_border():
    with pytest.raises(BadArray, match="scale: has shape"):
        Placement.of(scale=(1, 2))
    with pytest.raises(BadArray, match="not finite"):
        Placement.of(translation=(0, np.nan, 0))
    assert Placement.of(rotation=(0, 0, 0, 2)).rotation.tolist() == [0, 0, 0, 1]
