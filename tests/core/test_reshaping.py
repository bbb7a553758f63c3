"""Moved vertices and their normals, against loops over every corner."""

from __future__ import annotations

import hashlib
import struct
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.attached import Attached
from oak_square.core.pieces import pieces_of
from oak_square.core.reshaping import (
    attached_now,
    facets_now,
    fingerprint,
    normals_at_corners,
    normals_at_triangles,
    reshaped,
    squared_to,
)
from oak_square.core.scene import Faces, Mesh
from tests.strategies import solid_box

UP = np.array([0.0, 1, 0])
FAR = np.array([5.0, 0, 0])


def ring(sides: int, *, smooth: bool = True) -> Mesh:
    """A tube of quads of radius and height 1, each corner with a point of its own."""
    angles = np.linspace(0, 2 * np.pi, sides, endpoint=False)
    around = np.column_stack([np.cos(angles), np.zeros(sides), np.sin(angles)])
    points, normals = [], []
    for k in range(sides):
        a, b = around[k], around[(k + 1) % sides]
        points += [a, a + UP, b + UP, b]
        flat = (a + b) / np.linalg.norm(a + b)
        normals += [a, a, b, b] if smooth else [flat] * 4
    corners = np.arange(4 * sides)
    triangles = np.array([[4 * k + c for c in three] for k in range(sides) for three in ((0, 1, 2), (0, 2, 3))])
    return Mesh(
        name="tube",
        points=np.array(points),
        triangles=triangles.astype(np.uint32),
        normals=np.array(normals),
        faces=Faces(corners=corners, counts=np.full(sides, 4)),
    )


def as_told(mesh, now, normals):
    """The normals of a mesh whose points are `now`, corner by corner, as the contract tells it."""
    faces, start = [], 0
    for count in mesh.faces.counts if mesh.faces is not None else [3] * len(mesh.triangles):
        row = mesh.faces.corners if mesh.faces is not None else mesh.triangles.reshape(-1)
        faces.append([int(c) for c in row[start : start + count]])
        start += count

    def area(points, face):
        first, rest = points[face[0]], points[face[1:]]
        return np.cross(rest[:-1] - first, rest[1:] - first).sum(axis=0)

    before = [area(mesh.points, f) for f in faces]
    after = [area(now, f) for f in faces]
    changed = [np.linalg.norm(a - b) > 1e-8 * np.linalg.norm(a) for a, b in zip(before, after, strict=True)]
    groups = {}
    for number, face in enumerate(faces):
        for c in face:
            groups.setdefault((mesh.points[c].tobytes(), normals[c].tobytes()), []).append(number)
    found = normals.copy()
    for face in faces:
        for c in face:
            own = groups[mesh.points[c].tobytes(), normals[c].tobytes()]
            if any(changed[n] for n in own):
                mean = sum(after[n] for n in own)
                found[c] = mean / np.linalg.norm(mean)
    return found


@given(
    st.integers(3, 9), st.booleans(), st.lists(st.floats(0.25, 3, width=32), min_size=3, max_size=3), st.integers(0, 3)
)
def test_normals_follow_their_faces_and_stay_where_these_do(sides, smooth, factor, kept):
    mesh = ring(sides, smooth=smooth)
    rows = np.flatnonzero((mesh.points[:, 1] > 0.5) & (np.arange(len(mesh.points)) // 4 >= kept))
    rows = np.flatnonzero([any(np.array_equal(p, q) for q in mesh.points[rows]) for p in mesh.points])
    now = mesh.points.copy()
    now[rows] = now[rows] * factor + [0, 0.5, 0]
    made = reshaped(mesh, rows, now[rows])
    assert made.normals == pytest.approx(as_told(mesh, now, mesh.normals), abs=1e-12)
    others = np.setdiff1d(np.arange(len(now)), rows)
    assert (made.points[others] == mesh.points[others]).all()
    # Told by the corners of the triangles that the faces are cut in, it is the faces that count.
    rows_of_triangles = mesh.triangles.reshape(-1)
    by_threes = normals_at_triangles(made, mesh.normals[rows_of_triangles])
    assert by_threes == pytest.approx(made.normals[rows_of_triangles], abs=1e-12)
    back = reshaped(made, rows, mesh.points[rows])
    assert (back.points == mesh.points).all()
    assert (back.normals == mesh.normals).all()


def test_inside_out_normals_stay_inside_out_and_what_is_none_stays_none():
    mesh = ring(8)
    inward = replace(mesh, normals=-mesh.normals)
    rows = np.flatnonzero(mesh.points[:, 1] > 0.5)
    made = reshaped(inward, rows, inward.points[rows] * [0.5, 1, 0.5])
    outward = reshaped(mesh, rows, mesh.points[rows] * [0.5, 1, 0.5])
    assert made.normals == pytest.approx(-outward.normals)
    given_so = mesh.normals.copy()
    given_so[0], given_so[4] = 0, np.nan
    found = normals_at_corners(outward, given_so[mesh.faces.corners])
    assert (found[0] == 0).all()
    assert np.isnan(found[4]).all()


def test_a_flat_side_that_only_grows_keeps_its_normal_to_the_bit_and_a_slanted_one_gets_its_own():
    mesh = solid_box(np.array([1.0, 2, 1]))
    rows = np.flatnonzero(mesh.points[:, 1] > 1)
    taller = reshaped(mesh, rows, mesh.points[rows] + [0, 1, 0])
    assert (taller.normals == mesh.normals).all()
    wedge = reshaped(mesh, rows, mesh.points[rows] + [0.5, 0, 0])
    a, b, c = (wedge.points[wedge.triangles[:, k]] for k in range(3))
    across = np.cross(b - a, c - a)
    across /= np.linalg.norm(across, axis=1)[:, None]
    for triangle, normal in zip(wedge.triangles, across, strict=True):
        assert wedge.normals[triangle] == pytest.approx(np.tile(normal, (3, 1)), abs=1e-12)


def test_facets_of_changed_faces_alone_are_worked_out_anew():
    mesh = replace(solid_box(np.ones(3)), normals=None)
    rows = np.flatnonzero(mesh.points[:, 1] > 0.5)
    leant = reshaped(mesh, rows, mesh.points[rows] + [0, 0, 0.75])
    given_so = np.tile([0.6, 0.0, 0.8], (12, 1))
    found = facets_now(leant, given_so)
    turned = (found != given_so).any(axis=1)
    # Top and bottom stay level, left and right upright and as large: front and back alone lean.
    assert np.flatnonzero(turned).tolist() == [8, 9, 10, 11]
    assert np.abs(found[turned]) == pytest.approx(np.tile([0, 0.6, 0.8], (4, 1)))


def test_tangents_stay_square_to_the_normals_that_turned_and_others_stay_as_they_are():
    old = np.array([[0.0, 1, 0], [0, 1, 0], [0, 1, 0]])
    new = np.array([[0.0, 1, 0], [0, 0.8, 0.6], [1, 0, 0]])
    along = np.array([[0.9, 0.1, 0], [0, 0, 1.0], [1, 0, 0]])
    found = squared_to(along, old, new)
    assert (found[0] == along[0]).all()
    assert found[1] == pytest.approx([0, -0.6, 0.8])
    assert (found[2] == along[2]).all()  # along the new normal nothing is left of it: it stays what it was
    rows = {
        "normals": Attached(what="normals", kind="normal", values=ring(6).normals),
        "tangents": Attached(what="tangents", kind="vector", values=np.tile([0.0, 1, 0], (24, 1))),
    }
    mesh = ring(6)
    top = np.flatnonzero(mesh.points[:, 1] > 0.5)
    now = attached_now(reshaped(mesh, top, mesh.points[top] * [0.5, 1, 0.5]), rows)
    assert np.einsum("ij,ij->i", now["tangents"].values, now["normals"].values) == pytest.approx(
        np.zeros(24), abs=1e-12
    )
    assert now["normals"].values[0, 1] > 0.1


def test_a_fingerprint_is_of_the_vertex_count_and_the_corners_as_listed():
    mesh = ring(3)
    data = struct.pack("<13I", 12, *range(12))
    assert fingerprint(mesh) == hashlib.sha256(data).hexdigest()[:12]
    plain = replace(mesh, faces=None)
    data = struct.pack("<19I", 12, *plain.triangles.reshape(-1).tolist())
    assert fingerprint(plain) == hashlib.sha256(data).hexdigest()[:12]


def test_pieces_of_what_was_shaped_remember_what_they_were():
    one, other = solid_box(np.ones(3)), solid_box(np.ones(3))
    both = Mesh(
        name="two",
        points=np.concatenate([one.points, other.points + FAR]),
        triangles=np.concatenate([one.triangles, other.triangles + 24]),
        normals=np.concatenate([one.normals, other.normals]),
    )
    rows = np.flatnonzero(both.points[:, 0] == 6)
    made = reshaped(both, rows, both.points[rows] * [1, 0.5, 1])
    first, second = pieces_of(made)
    assert (second.unshaped.points == other.points + FAR).all()
    assert (first.normals == one.normals).all()
    assert second.normals == pytest.approx(
        reshaped(replace(other, points=other.points + FAR), rows - 24, second.points[rows - 24]).normals
    )


@pytest.mark.parametrize(("off_deg", "normals"), [(0.0, 1), (1e-4, 1), (0.05, 1), (0.3, 2)])
def test_normals_that_differ_by_rounding_are_one_and_stay_one(off_deg, normals):
    ridge = Mesh(
        name="ridge",
        points=np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 0, 0], [1, 1, 0], [0, 2, 0]], dtype=float),
        triangles=np.array([[0, 1, 2], [3, 4, 5]]),
        normals=np.array([[0, 0, 1]] * 3 + [[np.sin(np.radians(off_deg)), 0, np.cos(np.radians(off_deg))]] * 3),
    )
    raised = reshaped(ridge, np.array([5]), np.array([[0, 2, 0.5]]))
    for here, there in ((0, 3), (2, 4)):
        assert len({tuple(raised.normals[k]) for k in (here, there)}) == normals
