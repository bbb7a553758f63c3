"""Vertices, edges, faces and circles of shapes whose own are known in closed form; and marks found among them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.errors import Failed, Refused
from oak_square.core.features import features_of, fitted_rings
from oak_square.core.marks import MarkLook, find_mark
from oak_square.core.placement import rotation_of
from oak_square.core.scene import Mesh
from oak_square.core.shapes import corners_of, is_closed
from oak_square.core.topology import topology
from tests.bored import bored_plate, plate_asset
from tests.strategies import quaternions, solid_box

HERE = np.eye(4)


def look(kind, where, *, on="plate", way=None, size=None) -> MarkLook:
    way = None if way is None else np.array(way, dtype=float)
    return MarkLook(name="m", on=on, kind=kind, where=np.array(where, dtype=float), way=way, size=size)


def test_the_plate_of_these_tests_is_closed():
    assert is_closed(corners_of(plate_asset(), (0,)))


def test_a_bored_plate_has_its_two_circles_its_outer_edges_and_its_faces():
    plate = bored_plate(shuffle=3)
    circles = features_of(plate, "circle", HERE)
    assert sorted(circles.points.round(9).tolist()) == [[0.5, -0.25, -0.25], [0.5, 0.25, -0.25]]
    assert circles.sizes == pytest.approx(0.2)
    assert np.abs(circles.ways[:, 1]) == pytest.approx(1)
    edges = features_of(plate, "edge", HERE)
    # Each side of the square is cut into six, and is one edge all the same; what two faces share is one.
    long = edges.sizes > 1
    assert long.sum() == 8
    assert edges.sizes[long] == pytest.approx(2)
    assert len(edges.sizes) == 8 + 4 + 24 * 3  # round the plate, its uprights, two rims and the wall's uprights
    faces = features_of(plate, "face", HERE)
    assert len(faces.sizes) == 6 + 24
    area = np.pi  # not of the circle: of the 24-gon
    area = 24 / 2 * 0.2**2 * np.sin(2 * np.pi / 24)
    tops = faces.ways[:, 1] > 0.9
    assert faces.sizes[tops] == pytest.approx(np.sqrt(4 - area))
    assert faces.points[tops][0] == pytest.approx([-0.5 * area / (4 - area), 0.25, 0.25 * area / (4 - area)])
    corners = features_of(plate, "vertex", HERE)
    assert len(corners.points) == 4 * 24


def test_a_mirrored_part_still_faces_outward():
    matrix = np.diag([-1.0, 1, 1, 1])
    faces = features_of(solid_box(np.ones(3)), "face", matrix)
    out = faces.points - [-0.5, 0.5, 0.5]
    assert (np.einsum("ij,ij->i", faces.ways, out) > 0.49).all()


def test_the_rim_of_a_hole_in_an_open_surface_is_a_circle():
    ring = np.arange(16) / 16 * 2 * np.pi
    circle = np.column_stack([np.cos(ring), np.zeros(16), np.sin(ring)])
    after = np.roll(np.arange(16), -1)
    low, high = np.arange(16), np.arange(16) + 16
    wall = np.vstack([np.column_stack([low, high, high[after]]), np.column_stack([low, high[after], low[after]])])
    tube = Mesh(name="tube", points=np.vstack([circle, np.add(circle, [0, 3, 0])]), triangles=wall)
    circles = features_of(tube, "circle", HERE)
    assert sorted(circles.points[:, 1]) == pytest.approx([0, 3])


def test_a_gentle_bend_is_no_face_and_a_crooked_ring_is_no_circle():
    # A strip that bends by 0.05 degrees a step, 400 times: each step is in one plane with the next, the whole is not.
    turns = np.radians(0.05) * np.arange(401)
    line = np.column_stack([np.sin(turns) * 100, np.cos(turns) * 100, np.zeros(401)])
    points = np.vstack([line, np.add(line, [0, 0, 1])])
    low, high = np.arange(400), np.arange(400) + 401
    strip = np.vstack([np.column_stack([low, low + 1, high]), np.column_stack([low + 1, high + 1, high])])
    assert topology(Mesh(name="s", points=points, triangles=strip)).faces > 100
    for off, count in ((0.009, 2), (0.03, 0)):
        plate = bored_plate()
        crooked = np.array(plate.points)
        crooked[[0, 48]] = crooked[[0, 48]] + [off * 0.2 * 24 / 23, 0, 0]
        assert (
            len(fitted_rings(topology(Mesh(name="c", points=crooked, triangles=plate.triangles)), HERE).radii) == count
        )


@given(q=quaternions(), size=st.floats(1e-3, 1e4), at=st.tuples(*[st.floats(-100, 100)] * 3))
def test_a_ring_is_fitted_wherever_it_lies(q, size, at):
    matrix = np.eye(4)
    matrix[:3, :3] = rotation_of(q) * size
    matrix[:3, 3] = at
    circles = features_of(bored_plate(), "circle", matrix)
    wanted = np.array([[0.5, y, -0.25] for y in (-0.25, 0.25)]) @ matrix[:3, :3].T + at
    reach = np.abs(wanted).max() + size
    for point in wanted:
        assert np.linalg.norm(circles.points - point, axis=1).min() <= 1e-9 * reach
    assert circles.sizes == pytest.approx(0.2 * size, rel=1e-6)


BORE = look("circle", (0.75, 1, 0.375), way=(0, 1, 0), size=0.2 / np.sqrt(8.25))


def test_a_mark_is_found_by_what_it_is_in_another_order_unit_and_size():
    for asset in (plate_asset(), plate_asset(shuffle=5), plate_asset(size=(2.1, 0.525, 2.1), at=(0.525, -0.2625))):
        found = find_mark(asset, BORE)
        assert found.point[1] == pytest.approx(0.25 * (1.05 if asset.meshes[0].points.max() > 1 else 1))
        assert found.way == pytest.approx([0, 1, 0])
    down = look("circle", (0.75, 1, 0.375), way=(0, -1, 0))
    assert find_mark(plate_asset(), down).way == pytest.approx([0, -1, 0])


@pytest.mark.parametrize(
    ("mark", "says"),
    [
        (look("circle", (0.75, 1, 0.5), way=(0, 1, 0)), "no circle of 'plate' fits; the nearest at .0.75, 1, 0.375."),
        (look("circle", (0.75, 1, 0.375), way=(0, 1, 0.2)), "11.3° off its way"),
        (look("circle", (0.75, 1, 0.375), size=0.09), "of size 0.0696"),
        (look("edge", (0, 0.5, 0), way=(1, 0, 0)), "90° off its way"),
        (look("face", (0.485, 1, 0.507), way=(0, -1, 0)), "off its way"),
        (look("circle", (0.75, 0.5, 0.375)), "no circle"),
    ],
)
def test_what_is_not_there_is_refused_with_the_nearest_there_is(mark, says):
    with pytest.raises(Refused, match=says):
        find_mark(plate_asset(), mark)


def test_two_that_are_as_near_are_refused_and_the_nearer_by_enough_is_taken():
    flat = plate_asset(size=(2.0, 0.02, 2.0))
    # Corners of the bore's rim lie 0.026 apart along the width: between two of them neither is nearer.
    corners = flat.meshes[0].points[:2] / 2 + 0.5
    between = (corners[0] + corners[1]) / 2
    with pytest.raises(Refused, match=r"two of 'plate' fit as well"):
        find_mark(flat, look("vertex", (between[0], 0, between[2])))
    assert find_mark(flat, look("vertex", (corners[0][0], 0, corners[0][2]))).point == pytest.approx(
        flat.meshes[0].points[0]
    )


def test_an_extent_of_no_length_is_not_compared():
    sheet = Mesh(name="s", points=np.array([[0.0, 0, 0], [2, 0, 0], [0, 0, 1]]), triangles=np.array([[0, 2, 1]]))
    asset = plate_asset()
    flat = replace(asset, meshes=(sheet,))
    assert find_mark(flat, look("vertex", (1, 0.7, 0))).point == pytest.approx([2, 0, 0])


def test_a_glob_means_the_steps_own_part_else_the_only_one_that_has_it():
    asset = plate_asset(names=("flap_1", "flap_2", "sill"))
    own = look("circle", (0.75, 1, 0.375), way=(0, 1, 0), on="flap_*")
    assert find_mark(asset, own, node=1).point == pytest.approx([3.5, 0.25, -0.25])
    with pytest.raises(Refused, match="is on several parts: 'flap_1', 'flap_2'"):
        find_mark(asset, own, node=2)
    other = plate_asset(names=("flap_1", "flap_2"))
    box = solid_box(np.ones(3))
    boxed = replace(other, meshes=(*other.meshes, box), nodes=(other.nodes[0], replace(other.nodes[1], mesh=1)))
    assert find_mark(boxed, own).node == 0
    with pytest.raises(Failed, match="has no part 'flop'; did you mean"):
        find_mark(asset, look("vertex", (0, 0, 0), on="flop"))


@given(q=quaternions())
def test_an_uneven_scale_does_not_hide_what_it_keeps(q):
    # The turn is after the scale: fractions along the world's axes differ, the features are the same ones.
    matrix = np.eye(4)
    matrix[:3, :3] = rotation_of(q) @ np.diag([1.0, 3.0, 1.0])
    assume(np.linalg.cond(matrix[:3, :3]) < 10)
    assert len(features_of(bored_plate(), "circle", matrix).sizes) == 2
    assert len(features_of(bored_plate(), "face", matrix).sizes) == 30
