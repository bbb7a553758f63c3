from __future__ import annotations

from itertools import product

import numpy as np
import pytest

from oak_square.core.boxes import Box, box_point, fraction_of, points_box
from oak_square.core.errors import BadArray
from oak_square.core.frames import AXES, WORKING, Reading, apply, axis_vector

LEGAL = [(u, f) for u, f in product(AXES, AXES) if u[1] != f[1]]


@pytest.mark.parametrize(("up", "front"), LEGAL)
def test_every_reading_is_a_proper_rotation_that_brings_up_up_and_front_front(up, front):
    reading = Reading(metres_per_unit=0.0254, up=up, front=front, source="sheet")
    working = apply(reading.working_from_file, np.array([axis_vector(up), axis_vector(front)]))
    assert working == pytest.approx(np.array([[0, 0.0254, 0], [0, 0, 0.0254]]))
    assert np.linalg.det(reading.rotation) == pytest.approx(1)
    assert reading.working_from_file @ reading.file_from_working == pytest.approx(np.eye(4))


def test_z_up_is_delivered_as_x_minus_z_y():
    z_up = Reading(metres_per_unit=1.0, up="+Z", front="-Y", source="sheet")
    assert apply(z_up.file_from_working, np.array([1.0, 2.0, 3.0])) == pytest.approx([1, -3, 2])


def test_readings_that_can_not_be_are_refused():
    with pytest.raises(BadArray, match="on one line"):
        Reading(metres_per_unit=1, up="+Y", front="-Y", source="sheet")
    with pytest.raises(BadArray, match="positive"):
        Reading(metres_per_unit=0, up="+Y", front="+Z", source="sheet")
    with pytest.raises(BadArray, match="no signed axis"):
        axis_vector("Y")
    assert WORKING.same_frame(Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="assumed"))


def test_box_points_are_named_by_sides_and_fractions():
    box = Box(np.array([-1.0, 0, 2]), np.array([3.0, 5, 4]))
    words = ("left", "top", 0.25)
    fractions = [fraction_of(w, k) for k, w in enumerate(words)]
    assert box_point(box, fractions) == pytest.approx([-1, 5, 2.5])
    assert box.base == pytest.approx([1, 0, 3])
    assert fraction_of("front", 2) == 1.0
    assert fraction_of("middle", 1) == 0.5
    with pytest.raises(KeyError):
        fraction_of("top", 0)
    assert box.distance_to(np.array([4.0, 6, 3])) == pytest.approx(np.sqrt(2))


def test_a_box_passes_over_points_that_are_not_finite():
    points = np.array([[0.0, 0, 0], [np.nan, 9, 9], [1, 2, 3]])
    box = points_box(points, np.eye(4))
    assert box is not None
    assert box.size == pytest.approx([1, 2, 3])
    assert points_box(points[1:2], np.eye(4)) is None
    many = np.random.default_rng(1).normal(size=(40_000, 3))
    turned = Reading(metres_per_unit=2.0, up="+Z", front="-Y", source="sheet").working_from_file
    box = points_box(many, turned)
    assert box is not None
    assert box.low == pytest.approx(apply(turned, many).min(axis=0))
