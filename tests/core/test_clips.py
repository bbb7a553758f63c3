"""Sampling of clips against SciPy and the specification's own polynomials."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import CubicHermiteSpline
from scipy.spatial.transform import Rotation, Slerp

from oak_square.core.clips import Track, sampled
from tests.strategies import quaternions

TIMES = np.array([0.0, 0.5, 2.0])


@given(st.lists(quaternions(), min_size=3, max_size=3), st.floats(0, 2))
def test_rotations_go_the_short_way_round_at_an_even_pace(keys, at_s):
    values = np.array(keys)
    for k in (1, 2):  # SciPy takes the short way; so must the keys' signs not matter
        if values[k] @ values[k - 1] < -0.999:
            return
    wanted = Slerp(TIMES, Rotation.from_quat(values))(at_s).as_matrix()
    found = sampled(Track(node=0, path="rotation", times=TIMES, values=values), at_s)
    assert Rotation.from_quat(found).as_matrix() == pytest.approx(wanted, abs=1e-6)


@given(st.lists(st.tuples(*[st.floats(-9, 9)] * 9), min_size=3, max_size=3), st.floats(0, 2))
def test_splines_are_the_cubic_that_keys_and_tangents_say(keys, at_s):
    values = np.array(keys).reshape(3, 3, 3)
    # In and out tangents of a key may differ: a spline for each stretch.
    k = 0 if at_s < 0.5 else 1
    spline = CubicHermiteSpline(TIMES[k : k + 2], values[k : k + 2, 1], [values[k, 2], values[k + 1, 0]])
    track = Track(node=0, path="translation", times=TIMES, values=values, interpolation="CUBICSPLINE")
    assert sampled(track, at_s) == pytest.approx(spline(at_s), abs=1e-9)


def test_steps_hold_and_all_hold_outside_their_keys():
    values = np.array([[0.0, 0, 0], [1, 0, 0], [5, 0, 0]])
    step = Track(node=0, path="scale", times=TIMES, values=values, interpolation="STEP")
    line = Track(node=0, path="scale", times=TIMES, values=values)
    assert [sampled(step, t)[0] for t in (-1, 0.49, 0.5, 1.9, 2, 9)] == [0, 0, 1, 1, 5, 5]
    assert [sampled(line, t)[0] for t in (-1, 0.25, 1.25, 9)] == [0, 0.5, 3, 5]
