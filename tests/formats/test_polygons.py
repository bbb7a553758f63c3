"""Polygons are covered by their triangles, and nothing beside them."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from oak_square.core.shapes import corners_of
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.shared.polygons import cut_with_holes, polygons_to_triangles
from tests.runs import deliver_as, through, troubles
from tests.strategies import quaternions

PLATE = [(0, 0), (2, 0), (2, 1), (1, 1), (1, 2), (0, 2)]
"""An L, three square metres; a fan from its fourth corner on covers more."""


def area(corners):
    twice = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    return float(np.linalg.norm(twice, axis=1).sum() / 2)


def plate(start):
    ring = PLATE[start:] + PLATE[:start]
    return np.array([(x, y, 0) for x, y in ring], dtype=float)


@given(st.integers(0, 5), st.booleans(), st.lists(st.floats(0.1, 0.9), max_size=3), quaternions())
def test_a_plate_keeps_its_area_and_its_corners_however_it_lies(start, turned, straight, q):
    ring = plate(start)
    ring = np.vstack([ring, *(ring[-1] + (ring[0] - ring[-1]) * t for t in sorted(straight))])
    ring = (ring[::-1] if turned else ring) @ Rotation.from_quat(q).as_matrix().T + [10, -3, 1e3]
    rows = polygons_to_triangles(np.arange(len(ring)), np.array([len(ring)]), ring)
    assert len(rows) == len(ring) - 2
    assert area(ring[rows]) == pytest.approx(3, rel=1e-9)
    assert set(rows.ravel().tolist()) == set(range(len(ring)))
    # Wound as the ring is: the same vector area.
    whole = np.cross(ring - ring[0], np.roll(ring, -1, axis=0) - ring[0]).sum(axis=0)
    cut = np.cross(ring[rows[:, 1]] - ring[rows[:, 0]], ring[rows[:, 2]] - ring[rows[:, 0]]).sum(axis=0)
    assert cut == pytest.approx(whole, abs=1e-9)


@pytest.mark.parametrize("turn", [np.eye(3), np.array([[0, 0, 1.0], [1, 0, 0], [0, 1, 0]]), np.diag([1.0, -1, -1])])
def test_a_window_stays_open(turn):
    frame = np.array([(0, 0, 0), (4, 0, 0), (4, 4, 0), (0, 4, 0), (1, 1, 0), (1, 3, 0), (3, 3, 0), (3, 1, 0)]) @ turn.T
    rows = cut_with_holes(frame, [4, 8])
    assert area(frame[rows]) == pytest.approx(12)
    normals = np.cross(frame[rows[:, 1]] - frame[rows[:, 0]], frame[rows[:, 2]] - frame[rows[:, 0]])
    assert (normals @ (turn @ [0, 0, 1]) > 0).all()


def plates(start):
    points, ring = plate(start), range(6)
    obj = "".join(f"v {x} {y} {z}\n" for x, y, z in points) + "f 1 2 3 4 5 6\n"
    off = "OFF\n6 1 0\n" + "".join(f"{x} {y} {z}\n" for x, y, z in points) + "6 0 1 2 3 4 5\n"
    head = "ply\nformat ascii 1.0\nelement vertex 6\nproperty float x\nproperty float y\nproperty float z\n"
    ply = head + "element face 1\nproperty list uchar int vertex_indices\nend_header\n"
    ply += "".join(f"{x} {y} {z}\n" for x, y, z in points) + "6 0 1 2 3 4 5\n"
    usda = '#usda 1.0\n(\n    metersPerUnit = 1\n    upAxis = "Y"\n)\ndef Mesh "plate"\n{\n'
    usda += "    int[] faceVertexCounts = [6]\n"
    usda += f"    int[] faceVertexIndices = {list(ring)}\n"
    usda += f"    point3f[] points = {[tuple(p) for p in points.tolist()]}\n}}\n"
    numbers = " ".join(str(v) for v in points.ravel())
    dae = f"""<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><library_geometries>
<geometry id="g"><mesh><source id="p"><float_array id="pa" count="18">{numbers}</float_array><technique_common>
<accessor source="#pa" count="6" stride="3"/></technique_common></source><vertices id="v">
<input semantic="POSITION" source="#p"/></vertices><polygons count="1"><input semantic="VERTEX" source="#v" offset="0"/>
<p>0 1 2 3 4 5</p></polygons></mesh></geometry></library_geometries><library_visual_scenes><visual_scene id="s">
<node name="plate"><instance_geometry url="#g"/></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#s"/></scene></COLLADA>"""
    return {"obj": obj, "off": off, "ply": ply, "usda": usda, "dae": dae}


@pytest.mark.parametrize("start", [0, 1, 4])
@pytest.mark.parametrize("key", ["obj", "off", "ply", "usda", "dae"])
def test_a_plate_is_delivered_with_the_area_it_came_with(tmp_path, key, start):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / f"plate.{key}").write_text(plates(start)[key])
    entry = through(tmp_path, "{do: turn, by: [30, 40, 50]}")
    assert entry["status"] == "delivered", entry["reason"]
    (tmp_path / "out").rename(tmp_path / "same")
    deliver_as(tmp_path, "{format: stl}", "{do: turn, by: [30, 40, 50]}")
    for folder in ("in", "same", "out"):
        (source,) = find_sources([tmp_path / folder])
        asset = receive(source).asset
        assert area(corners_of(asset, asset.parts)) == pytest.approx(3, rel=1e-5), folder
    assert not any(troubles(tmp_path / "same").values())


def test_holes_of_collada_polygons_are_read_and_turned_round(tmp_path):
    numbers = "0 0 0 4 0 0 4 4 0 0 4 0 1 1 0 1 3 0 3 3 0 3 1 0"
    text = plates(0)["dae"].replace('count="18"', 'count="24"').replace('count="6"', 'count="8"')
    start, end = text.index(">", text.index("float_array")) + 1, text.index("</float_array>")
    text = text[:start] + numbers + text[end:]
    text = text.replace("<p>0 1 2 3 4 5</p>", "<ph><p>0 1 2 3</p><h>4 5 6 7</h></ph>")
    text = text.replace('<node name="plate">', '<node name="plate"><scale>-1 1 1</scale>')
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "window.dae").write_text(text)
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    out = (tmp_path / "out" / "window.dae").read_text()
    assert "<ph><p>0 3 2 1</p><h>4 7 6 5</h></ph>" in out
    asset = receive(find_sources([tmp_path / "out"])[0]).asset
    corners = corners_of(asset, asset.parts)
    assert area(corners) == pytest.approx(12)
    assert (np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])[:, 2] > 0).all()


NOTCHED = np.array([[0, 0], [4, 0], [4, 3], [2, 1], [0, 3]], dtype=float)  # a notch of 2 by 4, cut from a 4 by 3 plate
L_PLATE = np.array([[0, 0], [3, 0], [3, 1], [1, 1], [1, 3], [0, 3]], dtype=float)
KINDS = ((np.array([[0, 0], [1, 0], [0, 1]], dtype=float), 0.5), (NOTCHED, 8.0), (L_PLATE, 5.0))


@pytest.mark.parametrize("order", [(0, 1, 2), (1, 1, 0, 2), (2, 0, 0, 1, 2), (0, 0)])
@pytest.mark.parametrize("begin", range(5))
def test_many_polygons_are_cut_each_as_its_own_wherever_they_lie(order, begin):
    points, corners, counts, areas, start = [], [], [], [], 0
    for k, which in enumerate(order):
        ring, area = KINDS[which]
        ring = np.roll(ring, begin, axis=0)
        points.append(np.column_stack([ring, np.full(len(ring), 2.0 * k)]) + np.array([1e4 * k, -3e4, 7.0]))
        corners.append(start + np.arange(len(ring)))
        counts.append(len(ring))
        areas.append(area)
        start += len(ring)
    at = np.concatenate(points)
    found = polygons_to_triangles(np.concatenate(corners), np.array(counts), at)
    assert (found.dtype, len(found)) == (np.uint32, sum(c - 2 for c in counts))
    ends = np.cumsum([c - 2 for c in counts])
    for own, area, triangles in zip(corners, areas, np.split(found, ends[:-1]), strict=True):
        assert set(triangles.ravel().tolist()) <= set(own.tolist())
        a, b, c = (at[triangles[:, k]] for k in range(3))
        up = np.cross(b - a, c - a)[:, 2] / 2
        assert (up > 0).all()  # none is turned over, so that the sum is what is covered
        assert up.sum() == pytest.approx(area, rel=1e-6)


def test_convex_ones_are_fans_from_their_first_corner_and_of_fewer_corners_than_three_none():
    square = np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]], dtype=float)
    counts = np.array([2, 4, 1, 3, 0])
    found = polygons_to_triangles(np.array([0, 1, 3, 0, 1, 2, 2, 0, 1, 2]), counts, square)
    assert found.tolist() == [[3, 0, 1], [3, 1, 2], [0, 1, 2]]
    empty = polygons_to_triangles(np.empty(0, dtype=int), np.empty(0, dtype=int), square)
    assert (empty.shape, empty.dtype) == ((0, 3), np.uint32)
