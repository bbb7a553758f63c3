"""Files of one folder that came out of one scene, told from where they stand."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.boxes import Box
from oak_square.core.findings.shared_worlds import shared_worlds, world_finding


def box(low, size=(1, 1, 1)):
    return Box(np.array(low, float), np.array(low, float) + size)


def worlds(boxes, units=None):
    return {file: world.files for file, world in shared_worlds(boxes, units or {}).items()}


def test_a_frame_and_its_leaf_beside_it_share_a_world():
    found = shared_worlds(
        {"d/frame.obj": box((4, 0, 0), (0.2, 2, 0.1)), "d/leaf.obj": box((4.2, 0, 0), (1, 2, 0.1))}, {}
    )
    assert {file: world.files for file, world in found.items()} == dict.fromkeys(
        ("d/frame.obj", "d/leaf.obj"), ("d/frame.obj", "d/leaf.obj")
    )
    said = world_finding(found["d/leaf.obj"])
    assert (said.code, said.level, said.stage, said.measure, said.part) == ("shared-world", "note", "place", 2.0, None)
    assert said.message == "shares one world with 1 other file of its folder: their boxes fit together"


@pytest.mark.parametrize(
    ("other", "shares"),
    [
        ((5.0, 0, 0), True),  # touching
        ((5.2, 0, 0), True),  # a gap of 0.2, the whole 2.6 long
        ((5.5, 0, 0), False),  # a gap of 0.5
        ((4.5, 0, 0), False),  # half in one another
    ],
)
def test_boxes_must_lie_beside_one_another_near_and_without_overlap(other, shares):
    assert bool(worlds({"a.obj": box((4, 0, 0)), "b.obj": box(other)})) is shares


def test_each_about_its_own_origin_is_no_shared_world_though_boxes_fit():
    assert not worlds({"a.obj": box((-1, 0, 0), (1, 1, 1)), "b.obj": box((0, 0, 0), (1, 1, 1))})


def test_all_off_by_one_offset_share_a_world_and_those_of_another_folder_do_not():
    far = {"a/x.obj": box((5000, 0, 3000)), "a/y.obj": box((5003, 0, 2998)), "b/z.obj": box((5001, 0, 3000))}
    found = shared_worlds({**far, "a/home.obj": box((-0.5, 0, -0.5))}, {})
    assert set(found) == {"a/x.obj", "a/y.obj"}
    assert found["a/x.obj"].offset_m == pytest.approx(5831, rel=0.01)


def test_offsets_that_differ_by_more_than_a_hundredth_are_no_arrangement():
    assert not worlds({"x.obj": box((1000, 0, 0)), "y.obj": box((1020, 0, 0))})
    assert worlds({"x.obj": box((1000, 0, 0)), "y.obj": box((1008, 0, 0))})


def test_files_that_seem_to_be_in_other_units_are_not_held_against_each_other():
    beside = {"a.obj": box((4, 0, 0)), "b.obj": box((5, 0, 0))}
    assert not worlds(beside, {"b.obj": 0.001})
    assert worlds(beside, {"a.obj": 0.001, "b.obj": 0.001})
