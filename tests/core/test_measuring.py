"""Measurements against closed forms, and how they follow the steps."""

from __future__ import annotations

import math

import numpy as np
import pytest

from oak_square.core.errors import Failed
from oak_square.core.frames import translation
from oak_square.core.measuring import Anchor, Measure, read_measure
from oak_square.core.motion import carry_all
from tests.steps.test_steps import one_part

CORNER, ALONG, UP = (0.0, 0, 0), (1.0, 0, 0), (0.0, 2, 0)  # of a box 1 × 2 × 3


def on(*points):
    return tuple(Anchor(node=0, name="post", at=p, kind="vertex") for p in points)


def values(measure, asset=None, frame=None):
    reading = read_measure(measure, asset or one_part(), frame)
    return {v.name: v.value for v in reading.values}


def test_a_span_tells_its_length_whole_and_along_each_axis():
    found = values(Measure(kind="span", file="post.glb", anchors=on(ALONG, UP)))
    assert found["length"] == pytest.approx(math.sqrt(5))
    assert [found[f"along {a}"] for a in "xyz"] == pytest.approx([-1, 2, 0])
    assert [found[f"to {a}"] for a in "xyz"] == pytest.approx([0, 2, 0])


def test_an_angle_is_exact_where_the_cosine_alone_is_not():
    right = values(Measure(kind="angle", file="post.glb", anchors=on(ALONG, CORNER, UP)))
    assert right["angle"] == pytest.approx(90)
    tiny = values(Measure(kind="angle", file="post.glb", anchors=on(ALONG, CORNER, (1.0, 1e-9, 0))))
    assert tiny["angle"] == pytest.approx(math.degrees(1e-9), rel=1e-6)


def test_a_circle_and_a_plane_tell_where_they_lie():
    circle = values(Measure(kind="circle", file="post.glb", anchors=on((3.0, 1, 0), (-3.0, 1, 0), (0.0, 1, 3))))
    assert circle["diameter"] == pytest.approx(6)
    assert [circle[f"centre {a}"] for a in "xyz"] == pytest.approx([0, 1, 0], abs=1e-12)
    plane = values(Measure(kind="plane", file="post.glb", anchors=on((0.0, 2, 0), (0.0, 2, 3), (1.0, 3, 0))))
    assert plane["tilt"] == pytest.approx(45)
    assert plane["off the origin"] == pytest.approx(math.sqrt(2))
    with pytest.raises(Failed, match="on one line"):
        values(Measure(kind="plane", file="post.glb", anchors=on(CORNER, ALONG, (2.0, 0, 0))))


def test_what_is_measured_follows_the_steps_and_is_told_along_other_axes():
    span = Measure(kind="span", file="post.glb", anchors=on(CORNER, ALONG))
    turned = one_part(rotation=(0, math.sin(math.pi / 4), 0, math.cos(math.pi / 4)), scale=(2, 2, 2))
    assert values(span, turned)["along z"] == pytest.approx(-2)
    own = values(span, turned, np.linalg.inv(turned.worlds[0]))
    assert [own[f"along {a}"] for a in "xyz"] == pytest.approx([1, 0, 0], abs=1e-12)
    moved = carry_all(one_part(), translation(np.array([5.0, 0, 0])))
    assert values(span, moved)["from x"] == pytest.approx(5)


def test_a_box_point_is_one_of_the_box_as_it_is_and_what_is_gone_is_said():
    top = Anchor(node=None, name="", at=(0.5, 1.0, 0.5), kind="box point")
    assert top.world(one_part(points_at=(1, 0, 0))) == pytest.approx([1.5, 2, 1.5])
    renamed = Anchor(node=7, name="post", at=ALONG)
    assert renamed.world(one_part()) == pytest.approx(ALONG)
    with pytest.raises(Failed, match="no part 'lamp'"):
        Anchor(node=0, name="lamp", at=ALONG).world(one_part())
