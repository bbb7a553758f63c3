"""What can be picked of shapes whose corners, faces and circles are known in closed form."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.picks import circle_through, face_at, picks_at
from oak_square.core.scene import Mesh
from oak_square.core.topology import topology
from tests.strategies import frames, quaternions, solid_box


def drum(sides=24, radius=2.0, height=3.0) -> Mesh:
    """A closed drum along y: its top is one face with a round rim, its wall as many faces as it has sides."""
    angles = np.arange(sides) / sides * 2 * np.pi
    ring = np.column_stack([radius * np.cos(angles), np.zeros(sides), radius * np.sin(angles)])
    points = np.vstack([ring, ring + np.array([0, height, 0])])
    after = (np.arange(sides) + 1) % sides
    low, high = np.arange(sides), np.arange(sides) + sides
    wall = np.vstack([np.column_stack([low, high, after]), np.column_stack([high, after + sides, after])])
    top = np.column_stack([np.full(sides - 2, sides), after[1:-1] + sides, high[1:-1]])
    bottom = np.column_stack([np.zeros(sides - 2, dtype=int), low[1:-1], after[1:-1]])
    return Mesh(name="drum", points=points, triangles=np.vstack([top, bottom, wall]))


HERE = np.eye(4)


def test_a_box_has_six_faces_each_with_four_corners_and_its_middle():
    box = solid_box(np.array([2.0, 3, 4]))
    faces = [face_at(box, HERE, t) for t in range(12)]
    centres = {tuple(np.round(f.centre, 9)) for f in faces}
    assert centres == {(0, 1.5, 2), (2, 1.5, 2), (1, 0, 2), (1, 3, 2), (1, 1.5, 0), (1, 1.5, 4)}
    assert all(len(f.corners) == len(f.edges) == 4 for f in faces)
    out = np.array([f.centre - [1, 1.5, 2] for f in faces])
    assert np.einsum("ij,ij->i", out, [f.normal for f in faces]) == pytest.approx(np.linalg.norm(out, axis=1))


@given(frames(), st.sampled_from(range(3)))
def test_a_face_looks_outward_whatever_mirrors_its_part(frame, axis):
    """Mirrored once, or along an axis more: out of the middle all the same."""
    box, mirror = solid_box(np.array([2.0, 3, 4])), np.eye(4)
    mirror[axis, axis] = -1
    for matrix in (frame, frame @ mirror):
        assume(np.linalg.cond(matrix[:3, :3]) < 1e4)
        middle = matrix[:3, :3] @ [1, 1.5, 2] + matrix[:3, 3]
        for triangle in range(12):
            face = face_at(box, matrix, triangle)
            assert (face.centre - middle) @ face.normal > 0


def test_near_a_corner_it_is_offered_with_its_edges_their_middles_and_the_face():
    box = solid_box(np.array([2.0, 3, 4]))
    top = next(t for t in range(12) if face_at(box, HERE, t).centre[1] == 3)
    picks = picks_at(box, HERE, top, np.array([1.9, 3, 3.7]))
    nearest = {kind: next(p.at for p in picks if p.kind == kind) for kind in {p.kind for p in picks}}
    assert nearest["vertex"] == pytest.approx([2, 3, 4])
    assert nearest["edge"] == pytest.approx([2, 3, 3.7])
    assert nearest["edge middle"] == pytest.approx([2, 3, 2])
    assert nearest["face centre"] == pytest.approx([1, 3, 2])
    assert nearest["surface"] == pytest.approx([1.9, 3, 3.7])
    assert "circle centre" not in nearest


def test_a_drums_rim_is_a_circle_and_its_wall_offers_both_rims():
    rim = [p for p in picks_at(drum(), HERE, 0, np.array([1.9, 3, 0.1])) if p.circle is not None]
    assert {p.kind for p in rim} == {"circle centre", "edge", "edge middle", "vertex"}
    assert rim[0].circle.radius == pytest.approx(2)
    assert next(p.at for p in rim if p.kind == "circle centre") == pytest.approx([0, 3, 0], abs=1e-12)
    wall = face_at(drum(), HERE, len(drum().triangles) - 1)
    assert len(wall.corners) == 4
    assert sorted(c.centre[1] for c in wall.circles) == pytest.approx([0, 3])


def test_a_circle_is_one_in_the_world_not_in_the_files_numbers():
    squashed = np.diag([1.0, 1, 0.5, 1])
    assert face_at(drum(), squashed, 0).circles == ()
    ellipse = Mesh(name="", points=np.asarray(drum().points) * [1, 1, 2], triangles=drum().triangles)
    assert face_at(ellipse, HERE, 0).circles == ()
    assert face_at(ellipse, squashed, 0).circles[0].radius == pytest.approx(2)


@given(q=quaternions(), sizes=st.tuples(*[st.floats(0.01, 100)] * 3), at=st.tuples(*[st.floats(-50, 50)] * 3))
def test_a_circle_is_found_through_any_three_of_its_points(q, sizes, at):
    radius = sizes[0]
    angles = np.array([0.0, 0.7 + sizes[1] / 100, 3.0 + sizes[2] / 100])
    flat = radius * np.column_stack([np.cos(angles), np.sin(angles), np.zeros(3)])
    x, y, z, w = q
    turn = np.array([
        [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
        [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
        [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
    ])  # fmt: skip
    circle = circle_through(flat @ turn.T + np.array(at))
    assert circle.centre == pytest.approx(np.array(at), abs=1e-7 * (1 + radius))
    assert circle.radius == pytest.approx(radius, rel=1e-7)
    assert abs(circle.normal @ turn[:, 2]) == pytest.approx(1)


def test_three_points_on_a_line_make_no_circle():
    assert circle_through(np.array([[0.0, 0, 0], [1, 1, 1], [3, 3, 3]])) is None
    assert circle_through(np.zeros((3, 3))) is None


def test_empty_flat_and_broken_meshes_are_taken():
    points = np.array([[0.0, 0, 0], [1, 0, 0], [2, 0, 0], [np.nan, 0, 0]])
    flat = Mesh(name="flat", points=points, triangles=np.array([[0, 1, 2], [0, 1, 3]]))
    assert [p.kind for p in picks_at(flat, HERE, 0, np.zeros(3))][-1] == "surface"
    topology(Mesh(name="none", points=np.empty((0, 3)), triangles=np.empty((0, 3), dtype=int)))


@given(frame=frames())
def test_faces_hang_together_whatever_frame_the_numbers_are_in(frame):
    assume(np.linalg.cond(frame[:3, :3]) < 50)
    plain = drum(12)
    moved = Mesh(name="m", points=plain.points @ frame[:3, :3].T + frame[:3, 3], triangles=plain.triangles)
    assert len(face_at(plain, HERE, 0).corners) == len(face_at(moved, HERE, 0).corners) == 12
