"""Files whose parts get another shape: positions where they should be, normals as the faces are, all else kept."""

from __future__ import annotations

import shutil

import numpy as np
import pytest
from pxr import Usd, UsdGeom

from oak_square.delivery import running
from oak_square.demo import BATCH
from oak_square.formats.gltf import mesh_writing
from tests.made import accessor, laid_out, opened, write_glb
from tests.runs import through

# A cube of quads from 0 to 1, corners of each side in order, wound to face out.
CUBE = np.array([[0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1], [0, 1, 0], [1, 1, 0], [1, 1, 1], [0, 1, 1]], dtype=float)
SIDES = [(0, 1, 2, 3), (7, 6, 5, 4), (0, 4, 5, 1), (3, 2, 6, 7), (0, 3, 7, 4), (1, 5, 6, 2)]
WAYS = [(0, -1, 0), (0, 1, 0), (0, 0, -1), (0, 0, 1), (-1, 0, 0), (1, 0, 0)]
NARROWED = "{do: shape, take: {side: top}, width: 50 cm}"
UP = np.array([0.0, 1, 0])
NOW = np.where(CUBE[:, 1:2] > 0, (CUBE - [0.5, 0, 0.5]) * 0.5 + [0.5, 0.5, 0.5], CUBE)


def flat_normals(points, sides):
    """The normal of each quad, by two of its sides."""
    a, b, d = (points[[side[k] for side in sides]] for k in (0, 1, 3))
    across = np.cross(b - a, d - a)
    return across / np.linalg.norm(across, axis=1)[:, None]


def source(tmp_path, name, text):
    (tmp_path / "in").mkdir(exist_ok=True)
    path = tmp_path / "in" / name
    path.write_text(text)
    return path


def delivered(tmp_path, name, *steps):
    entry = through(tmp_path, *steps)
    assert entry["status"] == "delivered", entry["reason"]
    assert entry["deviation_m"] < 1e-6
    return tmp_path / "out" / name


def obj_of(corner):
    """The cube as a text; `corner` writes a side's corner, of a vertex and a normal, both from 0."""
    lines = ["# Fenwick Lock", "o post", *(f"v {x:.6f} {y:.6f} {z:.6f}" for x, y, z in CUBE)]
    lines += [f"vn {x} {y} {z}" for x, y, z in WAYS]
    lines += ["f " + " ".join(corner(v, n) for v in side) for n, side in enumerate(SIDES)]
    return "\r\n".join(lines) + "\r\n"


def read_obj(path):
    """Positions, normals and each face's corners, read the plain way."""
    points, normals, faces = [], [], []
    for line in path.read_text().split("\n"):
        words = line.split()
        if words[:1] == ["v"]:
            points.append([float(w) for w in words[1:4]])
        elif words[:1] == ["vn"]:
            normals.append([float(w) for w in words[1:4]])
        elif words[:1] == ["f"]:
            corners = [[int(n) for n in w.split("/") if n] for w in words[1:]]
            # What counts back does so from its own line.
            back = (len(points), len(normals))
            faces.append([tuple(n - 1 if n > 0 else b + n for n, b in zip(c, back, strict=True)) for c in corners])
    return np.array(points), np.array(normals), faces


def test_an_obj_s_slanted_sides_get_their_normals_and_lines_that_stay_are_left_as_they_are_written(tmp_path):
    before = source(tmp_path, "post.obj", obj_of(lambda v, n: f"{v + 1}//{n + 1}"))
    after = delivered(tmp_path, "post.obj", NARROWED)
    points, normals, faces = read_obj(after)
    assert points == pytest.approx(NOW)
    wanted = flat_normals(NOW, SIDES)
    for k, face in enumerate(faces):
        assert [v for v, _ in face] == list(SIDES[k])
        for _, n in face:
            assert normals[n] == pytest.approx(wanted[k], abs=1e-8)
    old, new = before.read_bytes().split(b"\r\n"), after.read_bytes().split(b"\r\n")
    assert len(old) == len(new)
    kept = [a for a, b in zip(old, new, strict=True) if a == b]
    assert b"v 1.000000 0.000000 0.000000" in kept
    assert b"vn 0 -1 0" in kept
    assert b"vn 0 1 0" in kept


@pytest.mark.parametrize("corner", [lambda v, n: f"{v + 1}//{n + 1}", lambda v, n: f"{v - 8}//{n - 6}"])
def test_corners_of_one_normal_line_that_come_to_want_different_ones_get_lines_of_their_own(tmp_path, corner):
    # Sides that face one way share a normal line, from below and from above: the lower stays, the upper one leans.
    text = obj_of(corner).replace("o post\r\n", "o post\r\n", 1)
    lifted = [f"v {x} {y + 1} {z}" for x, y, z in CUBE]
    upper = ["o cap", *lifted, *("f " + " ".join(f"{v + 9}//{n + 1}" for v in side) for n, side in enumerate(SIDES))]
    source(tmp_path, "post.obj", text + "\r\n".join(upper) + "\r\n")
    after = delivered(tmp_path, "post.obj", "{do: shape, take: {side: top}, width: 50 cm, parts: [cap]}")
    points, normals, faces = read_obj(after)
    assert points == pytest.approx(np.concatenate([CUBE, NOW + UP]))
    for k, face in enumerate(faces):
        wanted = (np.array(WAYS, dtype=float) if k < 6 else flat_normals(NOW, SIDES))[k % 6]
        for v, n in face:
            assert v // 8 == k // 6
            assert normals[n] == pytest.approx(wanted, abs=1e-8)
    assert len(normals) == 6 + 4


def test_parts_of_an_obj_that_turn_apart_no_longer_share_their_normal_lines(tmp_path):
    text = obj_of(lambda v, n: f"{v + 1}//{n + 1}")
    upper = ["o cap", *(f"v {x} {y + 3} {z}" for x, y, z in CUBE)]
    upper += ["f " + " ".join(f"{v + 9}//{n + 1}" for v in side) for n, side in enumerate(SIDES)]
    source(tmp_path, "post.obj", text + "\r\n".join(upper) + "\r\n")
    after = delivered(tmp_path, "post.obj", "{do: turn, by: [0, 30, 0], parts: [cap]}")
    points, normals, faces = read_obj(after)
    wanted = flat_normals(points, [[v for v, _ in face] for face in faces])
    for k, face in enumerate(faces):
        for _, n in face:
            assert normals[n] == pytest.approx(wanted[k], abs=1e-8)


def test_vertices_that_two_parts_of_an_obj_share_go_with_both_or_with_none(tmp_path):
    lines = obj_of(lambda v, n: f"{v + 1}//{n + 1}").split("\r\n")
    lid = next(line for line in lines if line.startswith("f 8//2"))
    source(tmp_path, "post.obj", "\r\n".join([*(k for k in lines if k != lid), "o lid", lid, ""]))
    refused = through(tmp_path, "{do: shape, take: {side: top}, by: [0, 1, 0], parts: [post]}")
    assert refused["status"] == "refused"
    assert "share vertices, and would have to move apart" in refused["reason"]
    after = delivered(tmp_path, "post.obj", "{do: shape, take: {side: top}, by: [0, 1, 0]}")
    assert read_obj(after)[0][:, 1].max() == 2


def dae_of(normal_offset):
    """The cube as a COLLADA geometry with a polylist; normals numbered by themselves or with the vertices."""
    numbers = [f"{v} {n}" if normal_offset else f"{v}" for n, side in enumerate(SIDES) for v in side]
    floats = lambda rows: " ".join(f"{c:g}" for row in rows for c in row)  # noqa: E731
    rows = np.array(WAYS, dtype=float) if normal_offset else (CUBE - 0.5) / 0.75**0.5
    return f"""<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
 <asset><unit name="meter" meter="1"/><up_axis>Y_UP</up_axis></asset>
 <library_geometries><geometry id="post" name="post"><mesh>
  <source id="p"><float_array id="pa" count="24">{floats(CUBE)}</float_array>
   <technique_common><accessor source="#pa" count="8" stride="3"/></technique_common></source>
  <source id="n"><float_array id="na" count="{rows.size}">{floats(rows)}</float_array>
   <technique_common><accessor source="#na" count="{len(rows)}" stride="3"/></technique_common></source>
  <vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
  <polylist count="6"><input semantic="VERTEX" source="#v" offset="0"/>
   <input semantic="NORMAL" source="#n" offset="{normal_offset}"/>
   <vcount>4 4 4 4 4 4</vcount><p>{" ".join(numbers)}</p></polylist>
 </mesh></geometry></library_geometries>
 <library_visual_scenes><visual_scene id="s"><node id="stand" name="post"><instance_geometry url="#post"/></node>
 </visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene>
</COLLADA>
"""


@pytest.mark.parametrize("normal_offset", [1, 0])
def test_a_collada_geometry_is_shaped_with_its_normals_as_sharp_as_they_were(tmp_path, normal_offset):
    source(tmp_path, "post.dae", dae_of(normal_offset))
    after = delivered(tmp_path, "post.dae", "{do: shape, take: {from: {height: 50 cm}}, by: [1, 0, 0]}")
    now = CUBE + [1, 0, 0] * (CUBE[:, 1:2] > 0)
    text = after.read_text()
    points, rows = (
        np.array(text.split(f'id="{name}"')[1].split(">")[1].split("<")[0].split(), dtype=float).reshape(-1, 3)
        for name in ("pa", "na")
    )
    assert points == pytest.approx(now)
    assert f'count="{rows.size}"' in text
    assert f'count="{len(rows)}" stride="3"' in text
    numbers = np.array(text.split("<p>")[1].split("<")[0].split(), dtype=int).reshape(24, -1)
    areas = flat_normals(now, SIDES) * np.array([1, 1, 1, 1, 2**0.5, 2**0.5])[:, None]
    for k, (v, n) in enumerate(zip(numbers[:, 0], numbers[:, -1], strict=True)):
        own = [k // 4] if normal_offset else [s for s, side in enumerate(SIDES) if v in side]
        wanted = areas[own].sum(axis=0)
        assert rows[n] == pytest.approx(wanted / np.linalg.norm(wanted), abs=1e-8)


@pytest.mark.parametrize("left_handed", [False, True])
@pytest.mark.parametrize("how", ["faceVarying", "indexed", "uniform", "vertex", "constant"])
def test_usd_normals_are_worked_out_anew_whatever_they_are_given_for(tmp_path, how, left_handed):
    (tmp_path / "in").mkdir()
    stage = Usd.Stage.CreateNew(str(tmp_path / "in" / "post.usda"))
    UsdGeom.SetStageUpAxis(stage, "Y")
    UsdGeom.SetStageMetersPerUnit(stage, 1.0)
    mesh = UsdGeom.Mesh.Define(stage, "/post")
    sides = [side[::-1] for side in SIDES] if left_handed else SIDES
    mesh.CreateOrientationAttr("leftHanded" if left_handed else "rightHanded")
    mesh.CreatePointsAttr([tuple(p) for p in CUBE])
    mesh.CreateFaceVertexCountsAttr([4] * 6)
    mesh.CreateFaceVertexIndicesAttr([v for side in sides for v in side])
    mesh.CreateSubdivisionSchemeAttr("none")
    kind = mesh.GetNormalsAttr().GetTypeName()
    primvar = UsdGeom.PrimvarsAPI(mesh).CreatePrimvar("normals", kind)
    corners = (CUBE - 0.5) / 0.75**0.5
    given = {
        "faceVarying": [WAYS[k] for k in range(6) for _ in range(4)],
        "indexed": WAYS, "uniform": WAYS, "vertex": [tuple(c) for c in corners], "constant": [(0, 1, 0)],
    }  # fmt: skip
    primvar.Set(given[how])
    primvar.SetInterpolation("faceVarying" if how == "indexed" else how)
    if how == "indexed":
        primvar.SetIndices([k for k in range(6) for _ in range(4)])
    stage.Save()
    after = delivered(tmp_path, "post.usda", NARROWED)
    opened_again = Usd.Stage.Open(str(after))
    made = UsdGeom.Mesh(opened_again.GetPrimAtPath("/post"))
    assert np.array(made.GetPointsAttr().Get()) == pytest.approx(NOW)
    assert list(made.GetFaceVertexIndicesAttr().Get()) == [v for side in sides for v in side]
    now = UsdGeom.PrimvarsAPI(made).GetPrimvar("normals")
    values = np.array(now.ComputeFlattened())
    flat = flat_normals(NOW, SIDES)
    interpolation = str(now.GetInterpolation())
    if how == "vertex":
        assert interpolation == "vertex"
        size = np.array([1, 0.25, *[0.75 * np.hypot(0.25, 1) / 1] * 4])
        for v in range(8):
            own = [k for k, side in enumerate(SIDES) if v in side]
            wanted = (flat[own] * size[own, None]).sum(axis=0)
            assert values[v] == pytest.approx(wanted / np.linalg.norm(wanted), abs=1e-6)
    elif how == "uniform":
        assert values == pytest.approx(flat, abs=1e-6)
    elif how == "constant":
        # One direction for all is one normal a place: eight of them once the sides lean, told by corner.
        assert interpolation == "faceVarying"
        assert np.linalg.norm(values, axis=1) == pytest.approx(np.ones(24))
    else:
        assert values == pytest.approx(np.repeat(flat, 4, axis=0), abs=1e-6)


def gltf_cube(tmp_path, *, shared=False):
    """A cube in two primitives, the top in one of its own, with normals and tangents, all told by one list of rows."""
    rows = np.array([v for side in SIDES for v in side])
    points, normals = CUBE[rows].astype("<f4"), np.repeat(np.array(WAYS, dtype="<f4"), 4, axis=0)
    along = np.cross(normals, [[0.3, 0.5, 0.8]])
    tangents = np.column_stack([along / np.linalg.norm(along, axis=1)[:, None], np.ones(24)]).astype("<f4")
    threes = np.array([[4 * k + c for c in t] for k in range(6) for t in ((0, 1, 2), (0, 2, 3))], dtype="<u2")
    document, binary = laid_out(
        points, normals, tangents, threes[2:4].reshape(-1, 1), np.delete(threes, [2, 3], 0).reshape(-1, 1)
    )
    attributes = {"POSITION": 0, "NORMAL": 1, "TANGENT": 2}
    document |= {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0, 1] if shared else [0]}],
        "nodes": [{"name": "post", "mesh": 0}, {"name": "stump", "mesh": 0, "translation": [4, 0, 0]}][: 1 + shared],
        "meshes": [{"name": "post", "primitives": [
            {"attributes": attributes, "indices": 3}, {"attributes": attributes, "indices": 4},
        ]}],
    }  # fmt: skip
    (tmp_path / "in").mkdir()
    write_glb(tmp_path / "in" / "post.glb", document, binary)
    return points, normals, tangents


def test_a_gltf_s_normals_and_tangents_follow_across_primitives_that_share_their_numbers(tmp_path):
    gltf_cube(tmp_path)
    after = delivered(tmp_path, "post.glb", NARROWED)
    document, binary = opened(after.read_bytes())
    rows = [v for side in SIDES for v in side]
    first, second = (p["attributes"] for p in document["meshes"][0]["primitives"])
    assert first == second
    normals = np.repeat(flat_normals(NOW, SIDES), 4, axis=0)
    assert accessor(document, binary, first["POSITION"]) == pytest.approx(NOW[rows])
    assert accessor(document, binary, first["NORMAL"]) == pytest.approx(normals, abs=1e-6)
    tangents = accessor(document, binary, first["TANGENT"])
    assert np.einsum("ij,ij->i", tangents[:, :3], normals) == pytest.approx(np.zeros(24), abs=1e-6)
    assert (tangents[:, 3] == 1).all()
    assert document["accessors"][first["POSITION"]]["max"] == pytest.approx([1, 1, 1])


def test_a_shared_mesh_is_shaped_once_for_all_or_parts_with_a_warning_and_pieces_are_shaped_like_parts(tmp_path):
    gltf_cube(tmp_path, shared=True)
    after = delivered(tmp_path, "post.glb", NARROWED)
    assert len(opened(after.read_bytes())[0]["meshes"]) == 1
    entry = through(tmp_path, "{do: turn, by: [90, 0, 0], parts: [stump]}", "{do: bake}", NARROWED)
    assert entry["status"] == "delivered", entry["reason"]
    assert any("shared mesh 'post' split" in w for w in entry["warnings"])


def test_a_piece_is_shaped_and_what_was_shaped_comes_apart(tmp_path):
    (tmp_path / "in").mkdir()
    shutil.copy(BATCH / "mooring_bollards.glb", tmp_path / "in")
    for steps in (
        (
            "{do: split, parts: [bollard_2], into: pieces}",
            "{do: shape, take: {side: top}, width: 10 cm, parts: [bollard_2.2]}",
        ),
        ("{do: shape, take: {side: top, within: 5 %}, by: [0, 10 cm, 0]}", "{do: split, parts: ['*'], into: pieces}"),
    ):
        entry = through(tmp_path, *steps)
        assert entry["status"] == "delivered", entry["reason"]
        assert entry["steps"][0]["outcome"] == entry["steps"][1]["outcome"] == "applied"


def test_a_normal_that_is_left_as_it_was_does_not_pass_the_proof(tmp_path, monkeypatch):
    gltf_cube(tmp_path)
    monkeypatch.setattr(running, "in_processes", lambda work, items, *_, **__: ((i, work(i), "") for i in items))
    assert through(tmp_path, NARROWED)["status"] == "delivered"
    monkeypatch.setattr(mesh_writing, "normals_at_points", lambda _mesh, normals: normals)
    entry = through(tmp_path, NARROWED)
    assert entry["status"] == "failed"
    assert "the normals of 'post' do not point where they should" in entry["reason"]
