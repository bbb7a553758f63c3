"""OpenUSD: unit and axis believed, operations kept, edits authored on the prims, and nothing let in from outside."""

from __future__ import annotations

import shutil
import struct
import zipfile

import numpy as np
import pytest
from pxr import Gf, Sdf, Usd, UsdGeom, UsdShade, UsdUtils

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.register import FORMATS
from tests.made import accessor, opened
from tests.runs import deliver_as, through, troubles
from tests.strategies import world_points

SIGN = """#usda 1.0
(
    defaultPrim = "sign"
    metersPerUnit = 0.01
    upAxis = "Z"
)

# the hanging sign of the lock-keeper's hut
def Xform "sign" (
    customData = { string cut_by = "a stranger" }
)
{
    double3 xformOp:translate = (0, 0, 300)
    float3 xformOp:translate:pivot = (0, 10, 0)
    float xformOp:rotateZ = 90
    float3 xformOp:scale = (2, 2, 2)
    uniform token[] xformOpOrder = [ORDER]

    def Mesh "board"
    {
        # two planks
        int[] faceVertexCounts = [4]
        int[] faceVertexIndices = [0, 1, 2, 3]
        normal3f[] normals = [(0, -1, 0), (0, -1, 0), (0, -1, 0), (0, -1, 0)] (
            interpolation = "vertex"
        )
        point3f[] points = [(0, 0, 0), (40, 0, 0), (40, 0, 25), (0, 0, 25)]
        texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (
            interpolation = "faceVarying"
        )
        custom string note = "kept"
    }
}
"""
ORDER = ("translate", "translate:pivot", "rotateZ", "!translate:pivot", "scale")
NAMES = ['"' + ("!invert!" if n[0] == "!" else "") + f'xformOp:{n.lstrip("!")}"' for n in ORDER]
SIGN = SIGN.replace("ORDER", ", ".join(NAMES))


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "sign.usda").write_text(SIGN)
    return tmp_path


def read(folder, name="in"):
    return receive(next(s for s in find_sources([folder / name]) if s.path.stem == "sign"))


def corners(path):
    """The board's points in the world as the library itself sees them, metres, file axes."""
    stage = Usd.Stage.Open(str(path))
    prim = next(p for p in stage.Traverse() if p.IsA(UsdGeom.Mesh))
    world = UsdGeom.XformCache().GetLocalToWorldTransform(prim)
    points = [world.Transform(Gf.Vec3d(p)) for p in UsdGeom.Mesh(prim).GetPointsAttr().Get()]
    return np.array(points) * UsdGeom.GetStageMetersPerUnit(stage)


def test_unit_axis_and_operations_are_read_as_the_library_has_them(folder):
    asset = read(folder).asset
    assert (asset.reading.metres_per_unit, asset.reading.up, asset.reading.source) == (0.01, "+Z", "declared")
    assert [n.name for n in asset.nodes] == ["sign", "board"]
    x, y, z = corners(folder / "in" / "sign.usda").T
    assert np.abs(world_points(asset, 1) - np.column_stack([x, z, -y])).max() < 1e-9


def test_a_place_changes_one_value_and_leaves_comments_and_order(folder):
    entry = through(folder, "{do: place, shift: [0, 1, 0]}")
    assert (entry["status"], entry["deviation_m"] < 1e-7) == ("delivered", True)
    out = (folder / "out" / "sign.usda").read_text()
    assert out == SIGN.replace("xformOp:translate = (0, 0, 300)", "xformOp:translate = (0, 0, 400)")
    assert not any(troubles(folder / "out").values())


def test_a_bake_rewrites_points_and_leaves_the_rest(folder):
    before = corners(folder / "in" / "sign.usda")
    entry = through(folder, "{do: bake}", "{do: pivot, at: base, of: parts}")
    assert entry["status"] == "delivered", entry["reason"]
    assert np.abs(corners(folder / "out" / "sign.usda") - before).max() < 1e-6
    out = (folder / "out" / "sign.usda").read_text()
    assert "# the hanging sign" in out
    assert 'custom string note = "kept"' in out
    assert 'cut_by = "a stranger"' in out
    after = read(folder, "out").asset
    assert all((n.placement.scale == 1).all() for n in after.nodes)


def test_a_mirror_turns_the_orientation(folder):
    (folder / "in" / "sign.usda").write_text(SIGN.replace("(2, 2, 2)", "(-2, 2, 2)"))
    before = read(folder).asset
    assert through(folder, "{do: bake}")["status"] == "delivered"
    after = read(folder, "out").asset
    sides = []
    for asset in (before, after):
        points, rows = world_points(asset, 1), asset.meshes[0].triangles
        flip = -1 if np.linalg.det(asset.world_from_mesh(1)[:3, :3]) < 0 else 1
        sides.append(flip * np.cross(points[rows[:, 1]] - points[rows[:, 0]], points[rows[:, 2]] - points[rows[:, 0]]))
    assert np.abs(sides[0] - sides[1]).max() < 1e-6


def test_binary_and_another_unit_come_out_when_asked_for(folder):
    before = corners(folder / "in" / "sign.usda")
    (entry,) = deliver_as(folder, "{unit: m, up: Y, format: usdc}")["assets"]
    assert (entry["output"], entry["reason"]) == ("sign.usdc", None)
    out = folder / "out" / "sign.usdc"
    assert out.read_bytes()[:8] == b"PXR-USDC"
    x, y, z = before.T
    assert np.abs(corners(out) - np.column_stack([x, z, -y])).max() < 1e-6


def test_opinions_go_into_the_root_layer_and_what_it_is_made_of_goes_along(folder):
    parts = folder / "in" / "parts"
    parts.mkdir()
    (folder / "in" / "sign.usda").rename(parts / "board.usda")
    root = Usd.Stage.CreateNew(str(folder / "in" / "sign.usda"))
    UsdGeom.SetStageMetersPerUnit(root, 0.01)
    UsdGeom.SetStageUpAxis(root, "Z")
    prim = root.DefinePrim("/sign")
    prim.GetPayloads().AddPayload("./parts/board.usda")
    root.GetRootLayer().Save()
    entry = next(
        e for e in deliver_as(folder, "{}", "{do: bake, for: ['sign.*']}")["assets"] if e["source"] == "sign.usda"
    )
    assert entry["status"] == "delivered", entry["reason"]
    assert [c["path"] for c in entry["companions"]] == ["parts/board.usda"]
    assert (folder / "out" / "parts" / "board.usda").read_text() == SIGN
    assert not any(troubles(folder / "out").values())
    text = (folder / "out" / "sign.usda").read_text()
    assert "payload = @./parts/board.usda@" in text
    assert np.abs(corners(folder / "out" / "sign.usda") - corners(folder / "in" / "sign.usda")).max() < 1e-6


def test_a_model_is_not_delivered_with_another_one_of_what_it_is_made_of(folder):
    (folder / "in" / "sign.usda").rename(folder / "in" / "board.usda")
    root = Usd.Stage.CreateNew(str(folder / "in" / "sign.usda"))
    UsdGeom.SetStageMetersPerUnit(root, 0.01)
    UsdGeom.SetStageUpAxis(root, "Z")
    root.DefinePrim("/sign").GetReferences().AddReference("./board.usda")
    root.GetRootLayer().Save()
    entries = {e["source"]: e for e in deliver_as(folder, "{}", "{do: bake}")["assets"]}
    assert entries["board.usda"]["status"] == "delivered"
    assert "'board.usda', which is delivered changed" in entries["sign.usda"]["reason"]
    assert sorted(p.name for p in (folder / "out").glob("[!.]*")) == ["board.usda", "delivery.json"]
    shutil.rmtree(folder / "out")
    entries = deliver_as(folder, "{}", "{do: check, height: {max: 10 cm}, for: [board.*]}", "{do: bake}")["assets"]
    assert [e["status"] for e in entries] == ["failed", "delivered"]
    assert (folder / "out" / "board.usda").read_text() == SIGN
    assert not any(troubles(folder / "out").values())


def test_what_instances_share_moves_with_them_and_is_not_rewritten(folder):
    stage = Usd.Stage.CreateNew(str(folder / "in" / "pair.usda"))
    stage.GetRootLayer().subLayerPaths.append("./sign.usda")
    for k in (1, 2):
        prim = UsdGeom.Xform.Define(stage, f"/copy_{k}").GetPrim()
        prim.GetReferences().AddInternalReference("/sign")
        prim.SetInstanceable(True)
    stage.GetRootLayer().Save()
    source = next(s for s in find_sources([folder / "in"]) if s.file == "pair.usda")
    asset = receive(source).asset
    assert "instances" in asset.carries
    assert asset_box(asset) is not None
    entries = {e["source"]: e for e in deliver_as(folder, "{}", "{do: bake}")["assets"]}
    assert "is shared by instances, and this would rewrite it" in entries["pair.usda"]["reason"]


def test_what_is_rewritten_below_a_variant_set_is_told(folder):
    stage = Usd.Stage.CreateNew(str(folder / "in" / "lamp.usda"))
    UsdGeom.SetStageMetersPerUnit(stage, 1)
    lamp = UsdGeom.Xform.Define(stage, "/lamp").GetPrim()
    UsdGeom.Xformable(lamp).AddScaleOp().Set(Gf.Vec3f(2, 2, 2))
    choice = lamp.GetVariantSets().AddVariantSet("glass")
    for name, height in (("round", 1.0), ("square", 3.0)):
        choice.AddVariant(name)
        choice.SetVariantSelection(name)
        with choice.GetVariantEditContext():
            pane = UsdGeom.Mesh.Define(stage, "/lamp/pane")
            pane.CreatePointsAttr([(0, 0, 0), (1, 0, 0), (0, 1, height)])
            pane.CreateFaceVertexCountsAttr([3])
            pane.CreateFaceVertexIndicesAttr([0, 1, 2])
    stage.GetRootLayer().Save()
    (folder / "in" / "sign.usda").unlink()
    entry = through(folder, "{do: bake}")
    assert entry["warnings"] == [
        "'lamp' is written as its variant 'glass: square' has it; under its other variants (round) it would not be true"
    ]
    out = Usd.Stage.Open(str(folder / "out" / "lamp.usda"))
    assert out.GetPrimAtPath("/lamp").GetVariantSet("glass").GetVariantNames() == ["round", "square"]


@pytest.mark.parametrize("suffix", ["usda", "usdc"])
def test_a_package_is_edited_as_a_package_and_made_into_others(folder, suffix):
    (folder / "in" / "plank.png").write_bytes(b"\x89PNG a picture")
    stage = Usd.Stage.Open(str(folder / "in" / "sign.usda"))
    look = UsdShade.Material.Define(stage, "/sign/oak")
    shader = UsdShade.Shader.Define(stage, "/sign/oak/image")
    shader.CreateInput("file", Sdf.ValueTypeNames.Asset).Set("./plank.png")
    assert look
    root = folder / f"sign.{suffix}"
    stage.GetRootLayer().Export(str(root))
    shutil.copy(folder / "in" / "plank.png", folder)
    package = folder / "in" / "sign.usdz"
    UsdUtils.CreateNewUsdzPackage(Sdf.AssetPath(str(root)), str(package))
    (folder / "in" / "sign.usda").unlink()
    (folder / "in" / "plank.png").unlink()
    before = corners(package)
    assert through(folder, "{do: size, factor: 1}")["status"] == "unchanged"
    shutil.rmtree(folder / "out")
    entry = through(folder, "{do: place, shift: [0, 1, 0]}", "{do: bake}")
    assert (entry["status"], entry["output"]) == ("delivered", "sign.usdz"), entry["reason"]
    out = folder / "out" / "sign.usdz"
    assert np.abs(corners(out) - before - [0, 0, 1]).max() < 1e-6
    assert not any(troubles(folder / "out").values())
    with zipfile.ZipFile(package) as old, zipfile.ZipFile(out) as new:
        assert [r.filename for r in new.infolist()] == [r.filename for r in old.infolist()]
        assert new.read(new.namelist()[1]) == b"\x89PNG a picture"
        assert {r.compress_type for r in new.infolist()} == {zipfile.ZIP_STORED}
        data = out.read_bytes()
        for row in new.infolist():
            name, extra = struct.unpack("<HH", data[row.header_offset + 26 : row.header_offset + 30])
            assert (row.header_offset + 30 + name + extra) % 64 == 0
    shutil.rmtree(folder / "out")
    (entry,) = deliver_as(folder, "{format: glb}")["assets"]
    assert (entry["output"], entry["reason"]) == ("sign.glb", None)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (("def Xform", "def Xform }"), "is no USD that can be read: line 9 can't be understood"),
        (("#usda 1.0\n(", '#usda 1.0\n(\n    subLayers = [@../secret.usda@]'), "lies outside its folder"),
        (("#usda 1.0\n(", '#usda 1.0\n(\n    subLayers = [@/etc/secret.usda@]'), "no path inside its folder"),
        (("#usda 1.0\n(", '#usda 1.0\n(\n    subLayers = [@gone.usda@]'), "'gone.usda', which is not there"),
        (("[0, 1, 2, 3]", "[0, 1, 2, 9]"), "names a vertex that is not there"),
        (("faceVertexCounts = [4]", "faceVertexCounts = [5]"), "counts 5 corners and has 4"),
        (("metersPerUnit = 0.01", "metersPerUnit = -1"), "its unit is -1 metres"),
    ],
)  # fmt: skip
def test_what_is_wrong_or_hostile_is_said(folder, change, says, capfd):
    path = folder / "in" / "sign.usda"
    path.write_text(SIGN.replace(*change, 1))
    with pytest.raises(BadFile, match=says):
        FORMATS["usda"].read(path, "sign.usda")
    assert capfd.readouterr().err == ""


CLIPS = """
        clips = {
            dictionary default = {
                asset manifestAssetPath = @./m.usda@
                string templateAssetPath = "%s"
                double templateStartTime = 1
                double templateEndTime = 2
                double templateStride = 1
                string primPath = "/sign"
            }
        }
"""


@pytest.mark.parametrize("place", ["../../secret.#.usda", "/etc/secret.#.usda"])
def test_clip_templates_that_lead_out_are_refused(folder, place):
    path = folder / "in" / "sign.usda"
    path.write_text(f'#usda 1.0\ndef Xform "sign" ({CLIPS % place}){{}}\n')
    with pytest.raises(BadFile, match=r"outside its folder|no path inside"):
        FORMATS["usda"].read(path, "sign.usda")


@pytest.mark.parametrize("line", ["subLayers = [@../secret.usda@]", "subLayers = [@/etc/secret.usda@]"])
def test_a_package_whose_layers_name_files_outside_is_refused(tmp_path, line):
    (tmp_path / "secret.usda").write_text(SIGN)
    (tmp_path / "in").mkdir()
    path = tmp_path / "in" / "sign.usdz"
    for name, text in (("sign.usda", SIGN.replace("#usda 1.0\n(", f"#usda 1.0\n(\n    {line}", 1)),):
        (tmp_path / name).write_text(text)
    with zipfile.ZipFile(path, "w") as package:
        package.write(tmp_path / "sign.usda", "sign.usda")
    with pytest.raises(BadFile, match="outside the package"):
        FORMATS["usdz"].read(path, "sign.usdz")


def test_meshes_without_points_and_indices_at_times_alone_are_read(folder):
    path = folder / "in" / "sign.usda"
    path.write_text("""#usda 1.0
(
    defaultPrim = "a"
    metersPerUnit = 1
    upAxis = "Y"
)
def Xform "a"
{
    def Mesh "hollow"
    {
    }
    def Mesh "m"
    {
        int[] faceVertexCounts = [3]
        int[] faceVertexIndices = [0, 1, 2]
        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
        texCoord2f[] primvars:st = [(0, 0), (1, 0), (0, 1)] (
            interpolation = "faceVarying"
        )
        int[] primvars:st:indices.timeSamples = {
            0: [2, 1, 0],
            10: [0, 1, 2],
        }
    }
}
""")
    assert asset_box(receive(find_sources([path])[0]).asset).size.tolist() == [1, 1, 0]
    (entry,) = deliver_as(folder, "{format: glb}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    document, binary = opened((folder / "out" / "sign.glb").read_bytes())
    uvs = accessor(document, binary, document["meshes"][0]["primitives"][0]["attributes"]["TEXCOORD_0"])
    points = accessor(document, binary, document["meshes"][0]["primitives"][0]["attributes"]["POSITION"])
    at = {tuple(p): tuple(uv) for p, uv in zip(points.tolist(), uvs.tolist(), strict=True)}
    assert at == {(0, 0, 0): (0, 0), (1, 0, 0): (1, 1), (0, 1, 0): (0, 1)}


def test_a_package_that_leads_out_is_refused(tmp_path):
    path = tmp_path / "sign.usdz"
    with zipfile.ZipFile(path, "w") as package:
        package.writestr("../../sign.usda", SIGN)
    with pytest.raises(BadFile, match="leads out of the package"):
        FORMATS["usdz"].read(path, "sign.usdz")


def test_a_unit_stored_as_a_single_float_is_the_unit(tmp_path):
    layer = Sdf.Layer.CreateNew(str(tmp_path / "sign.usdc"))
    stage = Usd.Stage.Open(layer)
    mesh = UsdGeom.Mesh.Define(stage, "/sign")
    mesh.CreatePointsAttr([(0, 0, 0), (1, 0, 0), (0, 1, 0)])
    mesh.CreateFaceVertexCountsAttr([3])
    mesh.CreateFaceVertexIndicesAttr([0, 1, 2])
    layer.pseudoRoot.SetInfo("metersPerUnit", float(np.float32(0.01)))
    layer.Save()
    del stage, layer
    data = (tmp_path / "sign.usdc").read_bytes()
    # A double that is a float to the bit lies in the file as that float: only its kind, 9, is changed to a float's, 8.
    stored = struct.pack("<f", 0.01) + b"\0\0\x09"
    assert data.count(stored) == 1
    (tmp_path / "old.usdc").write_bytes(data.replace(stored, stored[:-1] + b"\x08"))
    asset = receive(find_sources([tmp_path / "old.usdc"])[0]).asset
    assert (asset.reading.metres_per_unit, asset.reading.source) == (0.01, "declared")
