"""Connected pieces: joined by shared or by coincident vertices, by nothing else."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.errors import Refused
from oak_square.core.pieces import pieces_of
from oak_square.core.scene import Mesh, Surface
from tests.strategies import solid_box


def boxes(count, *, seed=0):
    """Boxes apart from one another, their triangles shuffled."""
    box, points, triangles = solid_box(np.ones(3)), [], []
    for k in range(count):
        triangles.append(box.triangles + 24 * k)
        points.append(box.points + np.array([3.0 * k, 0, 0]))
    rows = np.concatenate(triangles)
    np.random.default_rng(seed).shuffle(rows)
    return Mesh(
        name="boxes", points=np.concatenate(points), triangles=rows, surfaces=(Surface(first=0, count=len(rows)),)
    )


@given(count=st.integers(2, 9), seed=st.integers(0, 50))
def test_boxes_apart_are_pieces_in_the_order_of_their_first_vertex(count, seed):
    mesh = boxes(count, seed=seed)
    pieces = pieces_of(mesh)
    assert [p.points[:, 0].min() for p in pieces] == [3.0 * k for k in range(count)]
    for piece in pieces:
        assert (piece.points == mesh.points[piece.cut.points]).all()
        assert (piece.points[piece.triangles] == mesh.points[mesh.triangles[piece.cut.triangles]]).all()
    together = np.concatenate([p.cut.triangles for p in pieces])
    assert sorted(together) == list(range(len(mesh.triangles)))


def test_a_box_is_one_piece_though_each_side_has_corners_of_its_own():
    box = solid_box(np.ones(3))
    assert pieces_of(box) == (box,)


def test_zeros_of_both_signs_are_one_position():
    points = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-0.0, 0, 0], [-1, 0, 0], [0, -1, 0]])
    mesh = Mesh(name="m", points=points, triangles=np.array([[0, 1, 2], [3, 4, 5]], dtype=np.uint32))
    assert pieces_of(mesh) == (mesh,)


def test_lines_stay_whole_and_vertices_that_draw_nothing_are_left_out():
    points = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [9, 9, 9], [5, 0, 0], [6, 0, 0], [7, 0, 0]], dtype=float)
    mesh = Mesh(name="m", points=points, triangles=np.array([[0, 1, 2]], dtype=np.uint32), strokes=((4, 3),))
    first, second = pieces_of(mesh)
    assert first.cut.points.tolist() == [0, 1, 2]
    assert second.cut.points.tolist() == [4, 5, 6]
    assert len(second.triangles) == 0


def test_looks_go_with_their_triangles():
    mesh = boxes(2)
    red, blue = (1.0, 0.0, 0.0), (0.0, 0.0, 1.0)
    mesh = Mesh(
        name="m", points=mesh.points, triangles=mesh.triangles,
        surfaces=(Surface(first=0, count=6, colour=red), Surface(first=6, count=18, colour=blue)),
    )  # fmt: skip
    for piece in pieces_of(mesh):
        of_red = int((piece.cut.triangles < 6).sum())
        counts = {s.colour: s.count for s in piece.surfaces}
        assert counts.get(red, 0) == of_red
        assert counts[blue] == 12 - of_red


def test_a_soup_of_triangles_is_refused_as_parts():
    rows = np.arange(3 * 10_001, dtype=np.uint32).reshape(-1, 3)
    points = np.random.default_rng(0).random((rows.size, 3))
    with pytest.raises(Refused, match="apart in 10001 pieces"):
        pieces_of(Mesh(name="soup", points=points, triangles=rows))
