"""A point that was picked goes along with the vertices of what it was picked of, and comes back."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oak_square.core.carrying import point_after_shaping, point_before_shaping
from oak_square.core.scene import Unshaped
from tests.core.test_picks import drum
from tests.strategies import solid_box


def shaped(mesh, move):
    points = np.asarray(mesh.points, dtype=np.float64)
    return replace(mesh, points=move(points.copy()), unshaped=Unshaped(points=mesh.points, normals=mesh.normals))


def narrowed(points):
    """The top of a box of 1 × 2 × 3 half as wide, and 1 m higher on one side."""
    top = points[:, 1] > 1
    points[top, 0] = 0.25 + points[top, 0] / 2
    points[top & (points[:, 0] > 0.5), 1] += 1
    return points


BOX = solid_box(np.array([1.0, 2.0, 3.0]))


@pytest.mark.parametrize(
    ("kind", "at", "now"),
    [
        ("vertex", (1, 2, 3), (0.75, 3, 3)), ("vertex", (0, 0, 0), (0, 0, 0)), ("rim", (0, 2, 0), (0.25, 2, 0)),
        ("edge middle", (0.5, 2, 3), (0.5, 2.5, 3)), ("edge", (0.25, 2, 0), (0.375, 2.25, 0)),
        ("edge middle", (1, 1, 3), (0.875, 1.5, 3)), ("face centre", (0.5, 2, 1.5), (0.5, 2.5, 1.5)),
        ("face centre", (0.5, 0, 1.5), (0.5, 0, 1.5)), ("surface", (0.3, 2, 1), (0.3, 2, 1)),
    ],
)  # fmt: skip
def test_each_kind_goes_along_and_comes_back(kind, at, now):
    mesh = shaped(BOX, narrowed)
    there = point_after_shaping(mesh, np.array(at, dtype=float), kind)
    assert there == pytest.approx(now, abs=1e-9)
    assert point_before_shaping(mesh, there, kind) == pytest.approx(at, abs=1e-9)


def test_a_circles_centre_goes_with_its_rim_and_another_vertex_at_its_old_place_is_not_taken_for_it():
    rim = drum(24, 1.0, 3.0)
    lifted = shaped(rim, lambda p: p + (p[:, 1:2] > 1) * np.array([0.5, 1, 0]))
    assert point_after_shaping(lifted, np.array([0.0, 3, 0]), "circle centre") == pytest.approx([0.5, 4, 0])
    # All vertices go one place on: where one was, there is another now.
    swapped = shaped(BOX, lambda p: p[:, [0, 1, 2]] * [-1, 1, 1] + [1, 0, 0])
    assert point_after_shaping(swapped, np.array([1.0, 2, 3]), "vertex") == pytest.approx([0, 2, 3])


def test_of_a_mesh_that_nobody_shaped_points_stay():
    at = np.array([0.3, 0.4, 0.5])
    assert point_after_shaping(BOX, at, "face centre") is at
    assert point_before_shaping(BOX, at, "edge") is at
