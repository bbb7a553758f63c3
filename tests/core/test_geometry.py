from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given

from oak_square.core import checked
from oak_square.core.errors import BadArray, BadFile, BadSheet, did_you_mean, one_line
from oak_square.core.geometry import cofactors, is_mirror, normal_matrix, write_directions, write_points
from tests.strategies import frames


@given(frames())
def test_cofactors_are_the_inverse_transpose_times_the_determinant(matrix):
    linear = matrix[:3, :3]
    assume(np.linalg.cond(linear) < 1e6)
    wanted = np.linalg.inv(linear).T * np.linalg.det(linear)
    assert cofactors(linear) == pytest.approx(wanted, rel=1e-6, abs=1e-9 * np.abs(wanted).max())


@given(frames())
def test_normals_stay_square_to_their_surface_and_outward(matrix):
    linear = matrix[:3, :3]
    assume(np.linalg.cond(linear) < 1e4)
    along, across = np.array([1.0, 2, -1]), np.array([0.5, -1, 2])
    normal = np.cross(along, across)[None]
    out = np.empty((1, 3))
    write_directions(normal, normal_matrix(linear), out)
    moved = out[0]
    assert np.linalg.norm(moved) == pytest.approx(1)
    for vector in (linear @ along, linear @ across):
        assert abs(moved @ vector) < 1e-7 * np.linalg.norm(vector)
    # A point in front of the face stays in front of it.
    assert moved @ (linear @ normal[0]) > 0
    assert is_mirror(matrix) == (np.linalg.det(linear) < 0)


def test_points_are_carried_in_chunks_as_in_one_go():
    points = np.random.default_rng(3).normal(size=(40_001, 3)).astype(np.float32)
    matrix = np.eye(4)
    matrix[:3] = np.random.default_rng(4).normal(size=(3, 4))
    out = np.empty((40_001, 3))
    write_points(points, matrix, out)
    assert out == pytest.approx(points.astype(float) @ matrix[:3, :3].T + matrix[:3, 3])


def test_a_zero_vector_has_no_direction_and_stays():
    out = np.empty((2, 3))
    write_directions(np.array([[0.0, 0, 0], [0, 3, 0]]), np.eye(3), out)
    assert out.tolist() == [[0, 0, 0], [0, 1, 0]]


def test_arrays_are_checked_once_and_then_read_only():
    good = checked.floats([1, 2, 3], (3,), "sill")
    assert not good.flags.writeable
    with pytest.raises(BadArray, match=r"sill: has shape \(2,\), needs \(3,\)"):
        checked.floats([1, 2], (3,), "sill")
    with pytest.raises(BadArray, match="sill: holds a number that is not finite"):
        checked.floats([1, 2, np.inf], (3,), "sill")


def test_errors_stay_on_one_line_whatever_is_in_a_name():
    error = BadFile("a\nb\x1b[31m.obj", "is\tno file")
    assert str(error) == "a\\nb\\x1b[31m.obj: is\\tno file"
    assert one_line("naïve ‘name’") == "naïve ‘name’"
    assert str(BadSheet("s.yaml", None, "is no YAML")) == "s.yaml: is no YAML"
    assert did_you_mean("rotaton", ["rotation", "scale"]) == "; did you mean 'rotation'?"
    assert did_you_mean("zzz", ["rotation"]) == ""


def test_errors_cross_to_another_process_whole():
    import pickle

    for error in (BadFile("a.obj", "is empty"), BadSheet("s.yaml", 3, "no step")):
        again = pickle.loads(pickle.dumps(error))
        assert str(again) == str(error)
        assert again.reason == error.reason
