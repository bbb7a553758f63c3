"""What USD draws without points of its own: shapes, instancers, what a skeleton holds, what is hidden or moves."""

from __future__ import annotations

import shutil

import numpy as np
import pytest
from pxr import Gf, Sdf, Usd, UsdGeom, UsdSkel

from oak_square.core.boxes import asset_box, node_box
from oak_square.core.findings.survey import survey
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.usd.shapes import mesh_of_shape
from tests.runs import deliver_as, through, troubles

N = 64
DISC = N / 2 * np.sin(2 * np.pi / N)  # the area of a regular polygon in the unit circle
KINDS = {
    "Cube": ({"size": 3.0}, 27.0),
    "Cylinder": ({"radius": 2.0, "height": 5.0}, 20 * DISC),
    "Cone": ({"radius": 2.0, "height": 6.0}, 8 * DISC),
    "Cylinder_1": ({"radiusBottom": 2.0, "radiusTop": 1.0, "height": 3.0}, 7 * DISC),
    "Sphere": ({"radius": 2.0}, 4 / 3 * np.pi * 8),
    "Capsule": ({"radius": 1.0, "height": 4.0}, 4 * np.pi + 4 / 3 * np.pi),
    "Capsule_1": ({"radiusBottom": 0.75, "radiusTop": 0.25, "height": 1.0}, None),
    "Plane": ({"width": 2.0, "length": 7.0}, 0.0),
}


@pytest.fixture
def stage(tmp_path):
    (tmp_path / "in").mkdir()
    made = Usd.Stage.CreateNew(str(tmp_path / "in" / "yard.usda"))
    UsdGeom.SetStageMetersPerUnit(made, 1)
    UsdGeom.SetStageUpAxis(made, "Y")
    made.SetDefaultPrim(UsdGeom.Xform.Define(made, "/yard").GetPrim())
    return made


def asset_in(folder, name="in"):
    return receive(find_sources([folder / name])[0]).asset


def opened(folder):
    """The delivered layer as it lies on the disk: the library remembers what it has opened by name."""
    return Usd.Stage.Open(Sdf.Layer.OpenAsAnonymous(str(folder / "out" / "yard.usda")))


@pytest.mark.parametrize("axis", "XYZ")
@pytest.mark.parametrize("kind", KINDS)
def test_a_shape_has_the_extent_that_the_library_has_and_encloses_its_volume(kind, axis):
    stage = Usd.Stage.CreateInMemory()
    prim = stage.DefinePrim("/shape", kind)
    numbers, volume = KINDS[kind]
    for name, value in numbers.items():
        prim.GetAttribute(name).Set(value)
    if prim.HasAttribute("axis"):
        prim.GetAttribute("axis").Set(axis)
    mesh = mesh_of_shape(prim)
    extent = UsdGeom.Boundable.ComputeExtentFromPlugins(UsdGeom.Boundable(prim), 0.0)
    assert np.abs(np.array([mesh.points.min(axis=0), mesh.points.max(axis=0)]) - np.array(extent)).max() < 1e-6
    a, b, c = (mesh.points[mesh.triangles[:, k]] for k in range(3))
    if volume is not None:  # by the divergence theorem: positive where triangles face out
        found = np.einsum("ij,ij->", a, np.cross(b, c)) / 6
        assert found == pytest.approx(volume, rel=5e-3 if kind in {"Sphere", "Capsule"} else 1e-9)
    facing = np.einsum("ij,ij->i", np.cross(b - a, c - a), mesh.normals[mesh.triangles].mean(axis=1))
    assert (facing > 0).all()


def test_shapes_keep_what_they_are_where_they_are_only_moved_and_become_meshes_where_they_are_baked(stage, tmp_path):
    ball = UsdGeom.Sphere.Define(stage, "/yard/ball")
    ball.CreateRadiusAttr(2.0)
    ball.AddScaleOp().Set(Gf.Vec3f(1, 2, 1))
    stage.GetRootLayer().Save()
    assert through(tmp_path, "{do: place, shift: [0, 2, 0]}")["status"] == "delivered"
    out = opened(tmp_path)
    assert out.GetPrimAtPath("/yard/ball").GetTypeName() == "Sphere"
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    assert "'ball', a shape with a radius or size, is written as the mesh" in entry["warnings"][0]
    out = opened(tmp_path)
    prim = out.GetPrimAtPath("/yard/ball")
    assert (prim.GetTypeName(), prim.GetAttribute("radius").IsAuthored()) == ("Mesh", False)
    points = np.array(UsdGeom.Mesh(prim).GetPointsAttr().Get())
    assert np.abs((points / [2, 4, 2]) ** 2 @ [1, 1, 1] - 1).max() < 1e-6  # on the ellipsoid
    normals = np.array(UsdGeom.Mesh(prim).GetNormalsAttr().Get())
    slope = points / np.array([4, 16, 4])
    assert np.abs(normals - slope / np.linalg.norm(slope, axis=1, keepdims=True)).max() < 1e-5
    assert not any(troubles(tmp_path / "out").values())


def crate(stage, kind="Cube"):
    """A shape of half a turn and a half, twice its size, with a colour for all of it."""
    prim = UsdGeom.Gprim(stage.DefinePrim("/yard/crate", kind))
    prim.AddScaleOp().Set(Gf.Vec3f(2, 2, 2))
    prim.CreateDisplayColorAttr([(1, 0, 0)])
    return prim


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "Plane"])
def test_a_shape_that_only_grows_stays_one_and_keeps_its_colour(stage, tmp_path, kind):
    crate(stage, kind)
    stage.GetRootLayer().Save()
    before = asset_box(asset_in(tmp_path))
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    out = opened(tmp_path)
    prim = out.GetPrimAtPath("/yard/crate")
    assert prim.GetTypeName() == kind
    assert list(UsdGeom.Gprim(prim).GetDisplayColorAttr().Get()) == [(1, 0, 0)]
    after = asset_in(tmp_path, "out")
    assert np.abs(asset_box(after).corners - before.corners).max() < 1e-6
    assert (after.nodes[1].placement.scale == 1).all()


def test_a_cube_that_becomes_a_mesh_keeps_coordinates_where_they_were(stage, tmp_path):
    cube = crate(stage)
    cube.AddRotateZOp().Set(30)
    # By the corner: 0 and 1 tell x and y apart, and whether it is above.
    corners = [(1, 1, 1), (-1, 1, 1), (-1, -1, 1), (1, -1, 1), (-1, -1, -1), (-1, 1, -1), (1, 1, -1), (1, -1, -1)]
    told = [(x + 10 * y, z) for x, y, z in corners]
    st = UsdGeom.PrimvarsAPI(cube).CreatePrimvar("st", Sdf.ValueTypeNames.TexCoord2fArray, "vertex")
    st.Set(told)
    st.SetIndices(list(range(8)))
    stage.GetRootLayer().Save()
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    out = opened(tmp_path)
    mesh = UsdGeom.Mesh(out.GetPrimAtPath("/yard/crate"))
    primvar = UsdGeom.PrimvarsAPI(mesh).GetPrimvar("st")
    values = np.array(primvar.ComputeFlattened())
    places = np.array(mesh.GetPointsAttr().Get())[np.array(mesh.GetFaceVertexIndicesAttr().Get())]
    turn = np.array([[np.cos(np.pi / 6), -np.sin(np.pi / 6)], [np.sin(np.pi / 6), np.cos(np.pi / 6)]])
    own = np.column_stack([places[:, :2] @ turn, places[:, 2]]) / 2
    assert str(primvar.GetInterpolation()) == "faceVarying"
    assert np.abs(values - np.column_stack([own[:, 0] + 10 * own[:, 1], own[:, 2]])).max() < 1e-5
    assert list(UsdGeom.Gprim(mesh).GetDisplayColorAttr().Get()) == [(1, 0, 0)]


def test_values_that_only_a_drawing_could_lay_on_a_shape_are_never_laid_on_its_mesh(stage, tmp_path):
    ball = crate(stage, "Sphere")
    ball.AddRotateZOp().Set(30)
    UsdGeom.PrimvarsAPI(ball).CreatePrimvar("st", Sdf.ValueTypeNames.TexCoord2fArray, "vertex").Set([(0, 0), (1, 1)])
    stage.GetRootLayer().Save()
    entry = through(tmp_path, "{do: bake}")
    assert (entry["status"], entry["output"]) == ("refused", None)
    assert "'st' of 'crate'" in entry["reason"]


def bollards(stage, path="/yard/bollards"):
    """Two posts of a unit cube stood on the ground: one as it is, one twice as large, turned a quarter about +Y."""
    many = UsdGeom.PointInstancer.Define(stage, path)
    post = UsdGeom.Cube.Define(stage, f"{path}/post")
    post.CreateSizeAttr(1.0)
    post.AddTranslateOp().Set((0, 0.5, 0))
    post.AddScaleOp().Set(Gf.Vec3f(1, 1, 3))
    many.CreatePrototypesRel().AddTarget(post.GetPath())
    many.CreateProtoIndicesAttr([0, 0, 0])
    many.CreatePositionsAttr([(0, 0, 0), (10, 0, 0), (99, 99, 99)])
    many.CreateOrientationsAttr([Gf.Quath(1, 0, 0, 0), Gf.Quath(0.70710678, 0, 0.70710678, 0), Gf.Quath(1, 0, 0, 0)])
    many.CreateScalesAttr([(1, 1, 1), (2, 2, 2), (1, 1, 1)])
    many.CreateInvisibleIdsAttr([2])
    return many


def test_an_instancer_is_measured_by_all_it_draws(stage, tmp_path):
    bollards(stage)
    stage.GetRootLayer().Save()
    box = asset_box(asset_in(tmp_path))
    assert np.abs(box.low - [-0.5, 0, -1.5]).max() < 1e-6
    assert np.abs(box.high - [13, 2, 1.5]).max() < 2e-3  # its turns are halves


@pytest.mark.parametrize("key", ["glb", "obj", "dae"])
def test_instancers_and_shapes_cross(stage, tmp_path, key):
    bollards(stage)
    UsdGeom.Cone.Define(stage, "/yard/cone")
    stage.GetRootLayer().Save()
    before = asset_box(asset_in(tmp_path))
    (entry,) = deliver_as(tmp_path, f"{{format: {key}, unit: m, up: Y}}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    after = asset_box(asset_in(tmp_path, "out"))
    assert np.abs(np.array([before.low - after.low, before.high - after.high])).max() < 1e-5


def test_an_instancer_is_baked_by_its_places_and_refuses_what_they_cannot_hold(stage, tmp_path):
    many = bollards(stage)
    many.AddTranslateOp().Set((1, 2, 3))
    many.AddRotateYOp().Set(30)
    many.AddScaleOp().Set(Gf.Vec3f(3, 3, 3))
    stage.GetRootLayer().Save()
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    whole = opened(tmp_path)
    out = UsdGeom.PointInstancer(whole.GetPrimAtPath("/yard/bollards"))
    assert [tuple(s) for s in out.GetScalesAttr().Get()] == [(3, 3, 3), (6, 6, 6), (3, 3, 3)]
    turn = out.GetOrientationsfAttr().Get()[0]
    assert (turn.GetReal(), turn.GetImaginary()[1]) == pytest.approx((np.cos(np.pi / 12), np.sin(np.pi / 12)))
    assert not any(troubles(tmp_path / "out").values())
    refused = through(tmp_path, "{do: size, factor: [1, 2, 1], parts: [bollards]}", "{do: bake}")
    assert "the instances of 'bollards' would be sized unevenly" in refused["reason"]


def test_what_draws_nothing_that_is_there_is_said(stage, tmp_path):
    bollards(stage).GetProtoIndicesAttr().Set([0, 0, 7])
    stage.GetRootLayer().Save()
    assert "draws a prototype that is not there" in through(tmp_path, "{do: bake}")["reason"]


def test_what_is_hidden_is_told_of_and_neither_measured_nor_taken_across(stage, tmp_path):
    UsdGeom.Cube.Define(stage, "/yard/hut")
    tall = UsdGeom.Cube.Define(stage, "/yard/shed")
    tall.CreateSizeAttr(50.0)
    tall.MakeInvisible()
    stage.GetRootLayer().Save()
    asset = asset_in(tmp_path)
    assert asset_box(asset).size.tolist() == [2, 2, 2]
    (said,) = (f for f in survey(asset) if f.code == "hidden")
    assert (said.level, said.measure) == ("note", 1)
    assert "'shed' is not shown" in said.message
    (entry,) = deliver_as(tmp_path, "{format: glb}")["assets"]
    assert any("what is in no scene" in w for w in entry["warnings"])
    assert b"shed" not in (tmp_path / "out" / "yard.glb").read_bytes()
    shutil.rmtree(tmp_path / "out")
    # In its own format it stays, hidden, with the rest.
    assert through(tmp_path, "{do: size, factor: 2}", "{do: bake}")["status"] == "delivered"
    out = opened(tmp_path)
    assert UsdGeom.Imageable(out.GetPrimAtPath("/yard/shed")).ComputeVisibility() == "invisible"


def test_a_value_at_one_time_is_rewritten_where_it_is_read(stage, tmp_path):
    mesh = UsdGeom.Mesh.Define(stage, "/yard/sill")
    mesh.CreatePointsAttr().Set([(0, 0, 0), (1, 0, 0), (0, 1, 0)], 3.0)
    mesh.CreateFaceVertexCountsAttr([3])
    mesh.CreateFaceVertexIndicesAttr([0, 1, 2])
    mesh.AddTranslateOp().Set((5, 0, 0), 3.0)
    mesh.AddScaleOp().Set(Gf.Vec3f(2, 2, 2), 3.0)
    stage.GetRootLayer().Save()
    entry = through(tmp_path, "{do: bake}", "{do: place, shift: [1, 0, 0], parts: [sill]}")
    assert entry["status"] == "delivered", entry["reason"]
    assert not any(troubles(tmp_path / "out").values())
    whole = opened(tmp_path)
    out = whole.GetPrimAtPath("/yard/sill")
    for time in (Usd.TimeCode.Default(), Usd.TimeCode(3.0)):
        assert np.array(UsdGeom.Mesh(out).GetPointsAttr().Get(time)).max() == 2
        assert UsdGeom.Xformable(out).GetLocalTransformation(time).ExtractTranslation() == (6, 0, 0)


def test_what_moves_is_read_where_it_begins_and_not_rewritten(stage, tmp_path):
    leaf = UsdGeom.Cube.Define(stage, "/yard/leaf")
    turn = leaf.AddTranslateOp()
    turn.Set((4, 0, 0), 1.0)
    turn.Set((9, 0, 0), 20.0)
    stage.GetRootLayer().Save()
    asset = asset_in(tmp_path)
    assert node_box(asset, 1).middle.tolist() == [4, 0, 0]
    assert "animation" in asset.carries
    assert "moves with time" in through(tmp_path, "{do: size, factor: 2}")["reason"]
    shutil.rmtree(tmp_path / "out")
    (entry,) = deliver_as(tmp_path, "{format: glb}")["assets"]
    assert any("its clips" in w for w in entry["warnings"])


def test_what_a_skeleton_holds_is_measured_where_it_stands(stage, tmp_path):
    """An arm of two bones along +X, its outer one raised to a right angle by the first key."""
    root = UsdSkel.Root.Define(stage, "/yard/crane")
    bones = UsdSkel.Skeleton.Define(stage, "/yard/crane/bones")
    bones.CreateJointsAttr(["inner", "inner/outer"])
    along = Gf.Matrix4d().SetTranslate((2, 0, 0))
    bones.CreateBindTransformsAttr([Gf.Matrix4d(1), along])
    bones.CreateRestTransformsAttr([Gf.Matrix4d(1), along])
    keys = UsdSkel.Animation.Define(stage, "/yard/crane/keys")
    keys.CreateJointsAttr(["inner", "inner/outer"])
    keys.CreateTranslationsAttr([(0, 0, 0), (2, 0, 0)])
    up = Gf.Quatf(float(np.sqrt(0.5)), 0, 0, float(np.sqrt(0.5)))
    keys.CreateRotationsAttr([Gf.Quatf(1, 0, 0, 0), up])
    keys.CreateScalesAttr([Gf.Vec3h(1, 1, 1)] * 2)
    arm = UsdGeom.Mesh.Define(stage, "/yard/crane/arm")
    arm.CreatePointsAttr([(0, 0, 0), (2, 0, 0), (2, 0, 1), (5, 0, 0), (5, 0, 1)])
    arm.CreateFaceVertexCountsAttr([3, 4])
    arm.CreateFaceVertexIndicesAttr([0, 1, 2, 1, 3, 4, 2])
    binding = UsdSkel.BindingAPI.Apply(arm.GetPrim())
    binding.CreateSkeletonRel().SetTargets([bones.GetPath()])
    binding.CreateJointIndicesPrimvar(False, 1).Set([0, 0, 0, 1, 1])
    binding.CreateJointWeightsPrimvar(False, 1).Set([1, 1, 1, 1, 1])
    UsdSkel.BindingAPI.Apply(bones.GetPrim()).CreateAnimationSourceRel().SetTargets([keys.GetPath()])
    assert root
    stage.GetRootLayer().Save()
    box = asset_box(asset_in(tmp_path))
    assert np.abs(np.array([box.low, box.high]) - [[0, 0, 0], [2, 3, 1]]).max() < 1e-6
    assert "skeleton" in through(tmp_path, "{do: size, factor: 2}")["reason"]
    assert through(tmp_path, "{do: size, factor: 1}")["status"] == "unchanged"
    shutil.rmtree(tmp_path / "out")
    (entry,) = deliver_as(tmp_path, "{format: glb}")["assets"]
    assert any("its skins (the shape at rest is written)" in w for w in entry["warnings"])
    assert asset_box(asset_in(tmp_path, "out")).size == pytest.approx([2, 3, 1])


def test_pieces_of_a_part_cross_with_what_they_wear(stage, tmp_path):
    mesh = UsdGeom.Mesh.Define(stage, "/yard/planks")
    mesh.CreatePointsAttr([(0, 0, 0), (1, 0, 0), (0, 1, 0), (5, 0, 0), (6, 0, 0), (5, 1, 0)])
    mesh.CreateFaceVertexCountsAttr([3, 3])
    mesh.CreateFaceVertexIndicesAttr([0, 1, 2, 3, 4, 5])
    primvar = UsdGeom.PrimvarsAPI(mesh).CreatePrimvar("st", Sdf.ValueTypeNames.TexCoord2fArray, "faceVarying")
    primvar.Set([(0, 0), (1, 0), (0, 1), (0.5, 0.5), (0.75, 0.5), (0.5, 0.75)])
    stage.GetRootLayer().Save()
    split = "{do: split, parts: [planks], into: pieces}"
    (entry,) = deliver_as(tmp_path, "{format: dae, unit: m, up: Y}", split)["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    (tmp_path / "out" / "yard.dae").rename(tmp_path / "in" / "yard.dae")
    (tmp_path / "in" / "yard.usda").unlink()
    shutil.rmtree(tmp_path / "out")
    (entry,) = deliver_as(tmp_path, "{format: usda, unit: m, up: Y}")["assets"]
    out = opened(tmp_path)
    second = next(p for p in out.Traverse() if p.GetName() == "planks_2")
    assert UsdGeom.PrimvarsAPI(second).GetPrimvar("st").Get() == [(0.5, 0.5), (0.75, 0.5), (0.5, 0.75)]
