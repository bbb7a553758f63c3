"""What a proof leans on: where directions may point, what must be kept, how far vertices may be off."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.attached import Attached, how_it_strays
from oak_square.core.frames import WORKING
from oak_square.core.geometry import ends
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.delivery.proof import allowance, same_triangles

FLAT = np.diag([2.0, 1.0, 1.0, 1.0])  # twice as wide
SLOPE = np.array([[1.0, 1.0, 0.0]]) / np.sqrt(2)


def rows(values, kind="normal", hands=None):
    return Attached(what="w", kind=kind, values=np.asarray(values), hands=hands)


def test_normals_lean_away_from_what_is_stretched_and_vectors_along_it():
    as_normal = np.array([[1.0, 2.0, 0.0]]) / np.sqrt(5)
    as_vector = np.array([[2.0, 1.0, 0.0]]) / np.sqrt(5)
    assert how_it_strays(rows(SLOPE), rows(as_normal), FLAT, 1e-6) is None
    assert how_it_strays(rows(SLOPE), rows(as_vector), FLAT, 1e-6) == "do not point where they should"
    assert how_it_strays(rows(SLOPE, "vector"), rows(as_vector), FLAT, 1e-6) is None
    assert how_it_strays(rows(SLOPE, "vector"), rows(as_normal), FLAT, 1e-6) == "do not point where they should"
    # How long it is does not matter; that there is one does, and what was none may be anything.
    assert how_it_strays(rows(SLOPE * 3), rows(as_normal * 0.5), FLAT, 1e-6) is None
    assert how_it_strays(rows(SLOPE), rows(SLOPE * 0), FLAT, 1e-6) is not None
    assert how_it_strays(rows(SLOPE), rows(SLOPE * np.nan), FLAT, 1e-6) is not None
    for none in (0.0, np.nan, np.inf):
        assert how_it_strays(rows(np.full((1, 3), none)), rows(as_vector), FLAT, 1e-6) is None


@pytest.mark.parametrize("wrong", [0, 20_000, 39_999])
def test_one_row_of_many_is_seen_wherever_it_is(wrong):
    old = np.tile([[0.0, 0.0, 1.0]], (40_000, 1))
    new = old.copy()
    assert how_it_strays(rows(old), rows(new), np.eye(4), 1e-6) is None
    new[wrong] = [0.0, 0.002, 1.0]
    assert how_it_strays(rows(old), rows(new), np.eye(4), 1e-3) == "do not point where they should"
    assert how_it_strays(rows(old), rows(new), np.eye(4), 3e-3) is None


def test_what_no_step_changes_is_the_same_to_the_bit_and_as_many():
    old = np.array([[0.25, np.nan], [1.0, 2.0], [3.0, 4.0]])
    assert how_it_strays(rows(old, "kept"), rows(old.copy(), "kept"), FLAT, 1.0) is None
    other = old + np.spacing(old)
    assert how_it_strays(rows(old, "kept"), rows(other, "kept"), FLAT, 1.0) == "are not what they were"
    said = how_it_strays(rows(old, "kept"), rows(old[:2, :1], "kept"), FLAT, 1.0)
    assert said == "are 2 of 1 numbers, for 3 of 2"


def test_hands_turn_with_a_mirror_and_only_with_one():
    hands, old = np.array([1.0, -1.0, 1.0]), np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, 0]])
    mirror = np.diag([1.0, 1.0, -1.0, 1.0])

    def strays(new, matrix):
        return how_it_strays(rows(old, "vector", hands), rows(old, "vector", new), matrix, 1e-6)

    assert strays(hands, np.eye(4)) is None
    assert strays(hands * [1, 1, -1], np.eye(4)) is None  # of the last there is no vector
    assert strays(hands * [1, -1, 1], np.eye(4)) == "have the wrong handedness"
    assert strays(-hands, mirror) is None
    assert strays(hands, mirror) == "have the wrong handedness"
    assert strays(None, np.eye(4)) == "have lost their handedness"


def test_a_triangle_may_begin_at_any_corner_and_not_turn_round():
    old = np.arange(12).reshape(4, 3)
    assert same_triangles(old, old.copy())
    turned = np.array([old[0], np.roll(old[1], 1), np.roll(old[2], 2), old[3]])
    assert same_triangles(old, turned)
    for other in (turned[[1, 0, 2, 3]], np.where([[0], [0], [0], [1]], turned[:, [0, 2, 1]], turned)):
        assert not same_triangles(old, other)


def part_of(points, placement=None, matrix=None):
    mesh = Mesh(name="m", points=np.asarray(points), triangles=np.array([[0, 1, 2]][: len(points) // 3]))
    node = Node(
        name="n",
        parent=None,
        placement=placement or Placement.of(),
        mesh=0,
        local_from_mesh=np.eye(4) if matrix is None else matrix,
    )
    return Asset(file="f", format="glb", reading=WORKING, nodes=(node,), meshes=(mesh,))


def test_what_a_vertex_may_be_off_is_a_millionth_of_the_part_and_what_its_numbers_round_to():
    """By hand: a plate of 3 by 4 m is 5 m across, and stands `far` out; its numbers are its own, or reach as far."""
    plate = np.array([[0.0, 0, 0], [3, 0, 0], [3, 4, 0]])
    for far in (0.0, 100.0):
        near = part_of(plate, Placement.of(translation=np.array([far, 0, 0])))
        reach = far + 3 if far else 4.0
        wanted = 5e-6 + min(2.5e-7 * (reach + 4), 5e-4)
        assert allowance(near, 0, near, 0) == pytest.approx(wanted, rel=1e-9)
    # Stored in millimetres, its numbers are a thousand times as large and a thousandth of a metre each.
    small = part_of(plate * 1000, matrix=np.diag([1e-3, 1e-3, 1e-3, 1]))
    assert allowance(small, 0, small, 0) == pytest.approx(5e-6 + 2.5e-7 * 8, rel=1e-9)
    # However far out it is: never over what would be seen of it.
    away = part_of(plate, Placement.of(translation=np.array([1e9, 0, 0])))
    assert allowance(away, 0, away, 0) == pytest.approx(5e-6 + 5e-4, rel=1e-9)
    none = part_of(np.empty((0, 3)))
    assert allowance(none, 0, none, 0) == 0


@pytest.mark.parametrize("count", [0, 1, 16_384, 16_385, 40_000])
def test_the_ends_of_many_points_are_those_of_all(count):
    points = np.random.default_rng(count).normal(size=(count, 3)).astype(np.float32)
    low, high = ends(points)
    assert low.dtype == high.dtype == np.float32
    if not count:
        assert (low.tolist(), high.tolist()) == ([0, 0, 0], [0, 0, 0])
        return
    assert (low == points.min(axis=0)).all()
    assert (high == points.max(axis=0)).all()
