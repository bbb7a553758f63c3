"""`split` and `parent` in formats whose files nest their nodes: COLLADA, 3MF and USD, delivered as themselves."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pytest
import trimesh
from lxml import etree
from pxr import Usd, UsdGeom, UsdShade

from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.formats.register import format_of
from tests.runs import deliver_as, through, troubles
from tests.strategies import world_points

TETRAHEDRON = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]], dtype=float)
FACES = np.array([[0, 2, 1], [0, 1, 3], [1, 2, 3], [0, 3, 2]])

# Two quoins and a sill in one geometry: polygons of three kinds, texture coordinates that share the positions' column,
# a hole, and a normal list of its own. A crate stands in the library and is placed by reference.
QUOINS = """<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
 <asset><unit meter="1" name="meter"/><up_axis>Z_UP</up_axis></asset>
 <library_effects><effect id="oak-fx"><profile_COMMON><technique sid="c"><lambert><diffuse><color>0.5 0.3 0.1 1</color>
  </diffuse></lambert></technique></profile_COMMON></effect></library_effects>
 <library_materials><material id="oak"><instance_effect url="#oak-fx"/></material></library_materials>
 <library_geometries>
  <geometry id="wall" name="wall"><mesh>
   <source id="wall-p"><float_array id="wall-p-a" count="51">
     0 0 0  1 0 0  1 1 0  0 1 0   5 0 0  8 0 0  8 3 0  5 3 0   6 1 0  7 1 0  7 2 0  6 2 0
     20 0 0  21 0 0  21 1 0  22 0 0  22 1 0
    </float_array><technique_common><accessor source="#wall-p-a" count="17" stride="3">
     <param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor>
    </technique_common></source>
   <source id="wall-n"><float_array id="wall-n-a" count="9">0 0 -1 0 0 1 0 1 0</float_array>
    <technique_common><accessor source="#wall-n-a" count="3" stride="3"><param name="X" type="float"/>
     <param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
   <source id="wall-t"><float_array id="wall-t-a" count="8">0 0 1 0 1 1 0 1</float_array>
    <technique_common><accessor source="#wall-t-a" count="4" stride="2"><param name="S" type="float"/>
     <param name="T" type="float"/></accessor></technique_common></source>
   <vertices id="wall-v"><input semantic="POSITION" source="#wall-p"/></vertices>
   <polylist count="1" material="m"><input semantic="VERTEX" source="#wall-v" offset="0"/>
    <input semantic="NORMAL" source="#wall-n" offset="1"/>
    <input semantic="TEXCOORD" source="#wall-t" offset="2" set="0"/>
    <vcount>4</vcount><p>0 1 0 1 1 1 2 1 2 3 1 3</p></polylist>
   <polygons count="1" material="m"><input semantic="VERTEX" source="#wall-v" offset="0"/>
    <input semantic="NORMAL" source="#wall-n" offset="1"/>
    <ph><p>4 1 5 1 6 1 7 1</p><h>8 1 11 1 10 1 9 1</h></ph></polygons>
   <tristrips count="1" material="m"><input semantic="VERTEX" source="#wall-v" offset="0"/>
    <input semantic="NORMAL" source="#wall-n" offset="1"/><p>12 2 13 2 14 2 15 2 16 2</p></tristrips>
  </mesh></geometry>
  <geometry id="crate-g"><mesh>
   <source id="crate-p"><float_array id="crate-p-a" count="12">0 0 0 1 0 0 0 1 0 0 0 1</float_array>
    <technique_common><accessor source="#crate-p-a" count="4" stride="3"><param name="X" type="float"/>
     <param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
   <vertices id="crate-v"><input semantic="POSITION" source="#crate-p"/></vertices>
   <triangles count="4"><input semantic="VERTEX" source="#crate-v" offset="0"/>
    <p>0 2 1 0 1 3 1 2 3 0 3 2</p></triangles></mesh></geometry>
 </library_geometries>
 <library_nodes><node id="crate" name="crate"><translate>0 0 9</translate>
  <instance_geometry url="#crate-g"/></node></library_nodes>
 <library_visual_scenes><visual_scene id="s"><node id="lock" name="lock"><rotate>0 0 1 30</rotate>
   <instance_node url="#crate"/><node id="wall-node" name="wall" type="NODE"><translate>1 2 3</translate>
    <instance_geometry url="#wall"><bind_material><technique_common><instance_material symbol="m" target="#oak"/>
     </technique_common></bind_material></instance_geometry>
    <extra><technique profile="LOCKSIDE"><kept>yes</kept></technique></extra></node>
   <node id="ledge" name="ledge"/></node><extra/></visual_scene></library_visual_scenes>
 <scene><instance_visual_scene url="#s"/></scene>
</COLLADA>
"""


def three_mf(objects, items):
    model = (
        '<model unit="meter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02" '
        'xmlns:p="http://schemas.microsoft.com/3dmanufacturing/production/2015/06"><resources>'
        '<basematerials id="1"><base name="oak" displaycolor="#805030FF"/><base name="iron" displaycolor="#303030FF"/>'
        f"</basematerials>{objects}</resources><build>{items}</build></model>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(BATCH / "casks.3mf") as old, zipfile.ZipFile(out, "w") as new:
        for row in old.infolist():
            new.writestr(row.filename, model if row.filename.endswith(".model") else old.read(row))
    return out.getvalue()


def mesh_text(points, faces, attributes=lambda k: ""):
    vertices = "".join('<vertex x="{:g}" y="{:g}" z="{:g}"/>'.format(*p) for p in points)
    rows = [f'<triangle v1="{a}" v2="{b}" v3="{c}"{attributes(k)}/>' for k, (a, b, c) in enumerate(faces)]
    return f"<mesh><vertices>{vertices}</vertices><triangles>{''.join(rows)}</triangles></mesh>"


PAIR = mesh_text(
    np.vstack([TETRAHEDRON, TETRAHEDRON + np.array([5, 0, 0])]),
    np.vstack([FACES, FACES + 4]),
    lambda k: f' pid="1" p1="{k // 4}"',
)
TWIN_GATES = three_mf(
    f'<object id="2" name="pair" p:UUID="0b0e1c9c-0000-4000-8000-000000000002" pid="1" pindex="0">{PAIR}</object>'
    '<object id="3" name="gate"><components><component objectid="2"/>'
    '<component objectid="2" transform="1 0 0 0 1 0 0 0 1 0 9 0"/></components></object>'
    f'<object id="4" name="sill">{mesh_text(TETRAHEDRON, FACES)}</object>'
    '<object id="5" name="late"><components><component objectid="4"/>'
    '<component objectid="4" transform="1 0 0 0 1 0 0 0 1 0 20 0"/></components></object>',
    '<item objectid="3"/><item objectid="5"/>',
)

SIGN = """#usda 1.0
(
    defaultPrim = "sign"
    metersPerUnit = 1
    upAxis = "Z"
)

# the sign at the lock
def Xform "sign"
{
    def Scope "Looks"
    {
        def Material "oak"
        {
        }
        def Material "iron"
        {
        }
    }
    def Mesh "board" (
        prepend apiSchemas = ["MaterialBindingAPI"]
    )
    {
        uniform token subdivisionScheme = "none"
        uniform token orientation = "leftHanded"
        int[] faceVertexCounts = [4, 3, 3]
        int[] faceVertexIndices = [0, 3, 2, 1, 4, 6, 5, 4, 7, 6]
        point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0), (5, 0, 0), (6, 0, 0), (6, 1, 0), (5, 1, 0)]
        normal3f[] normals = [(0, 0, 1), (0, 1, 0), (1, 0, 0)] (
            interpolation = "uniform"
        )
        texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (
            interpolation = "faceVarying"
        )
        int[] primvars:st:indices = [0, 1, 2, 3, 0, 1, 2, 0, 2, 3]
        color3f[] primvars:displayColor = [(1, 0, 0), (0, 1, 0), (0, 0, 1)] (
            interpolation = "uniform"
        )
        rel material:binding = </sign/Looks/oak>
        double3 xformOp:translate = (1, 2, 3)
        uniform token[] xformOpOrder = ["xformOp:translate"]
        def GeomSubset "edge" (
            prepend apiSchemas = ["MaterialBindingAPI"]
        )
        {
            uniform token elementType = "face"
            uniform token familyName = "materialBind"
            int[] indices = [2]
            rel material:binding = </sign/Looks/iron>
        }
    }
    def Xform "arm"
    {
        double xformOp:rotateZ = 30
        uniform token[] xformOpOrder = ["xformOp:rotateZ"]
        custom rel holds = </sign/board>
    }
}
"""


def deliver(folder, name, data, *steps):
    (folder / "in").mkdir()
    (folder / "in" / name).write_bytes(data if isinstance(data, bytes) else data.encode())
    entry = through(folder, *steps)
    return entry, folder / "out" / name


def delivered(folder, name, data, *steps):
    entry, path = deliver(folder, name, data, *steps)
    assert entry["status"] == "delivered", entry["reason"]
    assert not any(troubles(folder / "out").values())
    return entry, path


def tree(path):
    """Each node by its name: the name of its parent."""
    (source,) = find_sources([path])
    nodes = receive(source).asset.nodes
    return [(n.name, None if n.parent is None else nodes[n.parent].name) for n in nodes]


def drawn(path):
    """All triangles in the world, in an order of their own, as another reader has them."""
    if path.suffix == ".usda":
        (source,) = find_sources([path])
        asset = receive(source).asset
        rows = np.concatenate([world_points(asset, i)[asset.mesh_of(i).triangles] for i in asset.parts])
    elif path.suffix == ".3mf":
        model = model_of(path)
        objects = {o.get("id"): o for o in model.iter("{*}object")}
        rows = np.concatenate([placed(i, objects) for i in model.iter("{*}item")])
    else:
        scene = trimesh.load(path, force="scene")
        rows = np.concatenate([mesh.triangles for mesh in scene.dump()])
    rows = np.round(rows, 6) + 0.0
    rows = np.array([np.roll(t, -min(range(3), key=lambda k: tuple(t[k])), axis=0) for t in rows]).reshape(-1, 9)
    return rows[np.lexsort(rows.T)]


def placed(place, objects):
    """The triangles of what an item or a component of a 3MF places."""
    element = objects[place.get("objectid")]
    matrix = np.array((place.get("transform") or "1 0 0 0 1 0 0 0 1 0 0 0").split(), dtype=float).reshape(4, 3)
    points = np.array([[float(v.get(k)) for k in "xyz"] for v in element.iter("{*}vertex")]).reshape(-1, 3)
    faces = [[int(t.get(k)) for k in ("v1", "v2", "v3")] for t in element.iter("{*}triangle")]
    rows = [points[faces]] if faces else [placed(c, objects) for c in element.iter("{*}component")]
    return np.concatenate(rows) @ matrix[:3] + matrix[3]


def assert_same_drawn(folder, path):
    assert drawn(path) == pytest.approx(drawn(folder / "in" / path.name), abs=2e-6)


def test_pieces_of_a_collada_part_keep_their_polygons_and_what_they_name(tmp_path):
    entry, path = delivered(tmp_path, "wall.dae", QUOINS, "{do: split, parts: [wall], into: pieces}")
    assert entry["steps"][0]["detail"] == "3 pieces of 'wall'"
    assert tree(path) == [("lock", None), ("crate", "lock"), ("wall", "lock"), ("wall.1", "wall"), ("wall.2", "wall"),
                          ("wall.3", "wall"), ("ledge", "lock")]  # fmt: skip
    root = etree.parse(path).getroot()
    space = {"c": root.nsmap[None]}
    names = [g.get("name") for g in root.findall(".//c:geometry", space)]
    assert names == ["wall.1", "wall.2", "wall.3", None]
    first, holed, strip = root.findall(".//c:geometry", space)[:3]
    assert first.find(".//c:polylist/c:p", space).text == "0 0 0 1 0 1 2 0 2 3 0 3"
    assert first.find(".//c:polylist/c:vcount", space).text == "4"
    assert holed.find(".//c:h", space).text == "4 0 7 0 6 0 5 0"
    assert strip.find(".//c:tristrips/c:p", space).text == "0 0 1 0 2 0 3 0 4 0"
    assert len(first.find(".//c:float_array", space).text.split()) == 12
    assert_same_drawn(tmp_path, path)


def test_collada_nodes_stand_in_the_order_that_the_schema_has(tmp_path):
    steps = ("{do: parent, parts: [crate], to: wall}", "{do: parent, parts: [ledge], to: null}",
             "{do: split, parts: [wall], into: pieces}", "{do: parent, parts: [wall.2], to: ledge}")  # fmt: skip
    _, path = delivered(tmp_path, "wall.dae", QUOINS, *steps)
    root = etree.parse(path).getroot()
    for element in root.iter("{*}node", "{*}visual_scene"):
        tags = [etree.QName(c).localname for c in element]
        order = ["translate", "rotate", "scale", "matrix", "instance_geometry", "instance_node", "node", "extra"]
        assert tags == sorted(tags, key=order.index)
    assert dict(tree(path)) == {"lock": None, "ledge": None, "wall.2": "ledge", "wall": "lock", "crate": "wall",
                                "wall.1": "wall", "wall.3": "wall"}  # fmt: skip
    assert_same_drawn(tmp_path, path)


def test_a_collada_node_that_stands_for_several_parts_is_not_hung_elsewhere(tmp_path):
    twice = QUOINS.replace(
        '<node id="ledge" name="ledge"/>', '<node id="ledge" name="ledge"/><instance_node url="#crate"/>'
    )
    entry, _ = deliver(tmp_path, "wall.dae", twice, "{do: parent, parts: [ledge], to: 'crate#1'}")
    assert (entry["status"], "stands once in the file for several parts" in entry["reason"]) == ("refused", True)


def test_a_collada_node_that_closes_itself_takes_nodes_and_instances(tmp_path):
    steps = ("{do: parent, parts: [wall, crate], to: ledge}", "{do: split, parts: [wall], into: pieces}")
    _, path = delivered(tmp_path, "wall.dae", QUOINS, *steps)
    ledge = next(n for n in etree.parse(path).getroot().iter("{*}node") if n.get("name") == "ledge")
    assert [etree.QName(c).localname for c in ledge if "node" in str(c.tag)] == ["instance_node", "node"]
    assert_same_drawn(tmp_path, path)


def test_pieces_of_a_3mf_object_are_objects_behind_which_it_stands(tmp_path):
    _, path = delivered(tmp_path, "gate.3mf", TWIN_GATES, "{do: split, parts: [pair], into: pieces}")
    assert [name for name, _ in tree(path)].count("pair.1") == 2
    model = model_of(path)
    objects = model.findall(".//{*}object")
    numbers = [o.get("id") for o in objects]
    assert len(numbers) == len(set(numbers)) == 6
    for at, element in enumerate(objects):
        assert all(c.get("objectid") in numbers[:at] for c in element.iter("{*}component"))
    pair = next(o for o in objects if o.get("name") == "pair")
    assert (pair.get("pid"), len(pair.findall(".//{*}component"))) == (None, 2)
    marks = [o.get("{http://schemas.microsoft.com/3dmanufacturing/production/2015/06}UUID") for o in objects]
    assert len({m for m in marks if m}) == sum(m is not None for m in marks) == 3
    second = next(o for o in objects if o.get("name") == "pair.2")
    assert {t.get("p1") for t in second.iter("{*}triangle")} == {"1"}
    assert_same_drawn(tmp_path, path)


def model_of(path):
    with zipfile.ZipFile(path) as package:
        name = next(n for n in package.namelist() if n.endswith(".model"))
        return etree.fromstring(package.read(name))


def test_3mf_objects_stand_behind_what_hangs_from_them_now(tmp_path):
    _, path = delivered(
        tmp_path, "gate.3mf", TWIN_GATES, "{do: parent, parts: [late], to: gate}", "{do: turn, by: [0, 0, 30]}"
    )
    assert dict(tree(path))["late"] == "gate"
    names = [o.get("name") for o in model_of(path).iter("{*}object")]
    assert names.index("late") < names.index("gate")


@pytest.mark.parametrize(
    ("step", "says"),
    [
        ("{do: parent, parts: [gate], to: 'sill#1'}", "3MF holds nothing below 'sill', which has geometry of its own"),
        ("{do: parent, parts: [pair], to: null}", "'gate' would be left empty, which 3MF can't hold"),
    ],
)
def test_what_3mf_has_no_room_for_is_refused_by_name(tmp_path, step, says):
    entry, _ = deliver(tmp_path, "gate.3mf", TWIN_GATES, step)
    assert (entry["status"], entry["reason"]) == ("refused", says)


def test_pieces_of_a_usd_mesh_keep_their_faces_values_and_materials(tmp_path):
    entry, path = delivered(tmp_path, "sign.usda", SIGN, "{do: split, parts: [board], into: pieces}")
    assert "USD holds no 'board.1': it is called 'board_1', and 1 more likewise" in entry["warnings"]
    stage = Usd.Stage.Open(str(path))
    assert str(stage.GetPrimAtPath("/sign/board").GetTypeName()) == "Xform"
    second = UsdGeom.Mesh(stage.GetPrimAtPath("/sign/board/board_2"))
    assert list(second.GetFaceVertexIndicesAttr().Get()) == [0, 2, 1, 0, 3, 2]
    assert np.array(second.GetNormalsAttr().Get()).tolist() == [[0, 1, 0], [1, 0, 0]]
    colours = UsdGeom.PrimvarsAPI(second).GetPrimvar("displayColor")
    assert np.array(colours.Get()).tolist() == [[0, 1, 0], [0, 0, 1]]
    coordinates = UsdGeom.PrimvarsAPI(second).GetPrimvar("st").ComputeFlattened()
    assert np.array(coordinates).tolist() == [[0, 0], [1, 0], [1, 1], [0, 0], [1, 1], [0, 1]]
    (subset,) = UsdShade.MaterialBindingAPI(second).GetMaterialBindSubsets()
    assert list(subset.GetIndicesAttr().Get()) == [1]
    assert not UsdShade.MaterialBindingAPI(stage.GetPrimAtPath("/sign/board/board_1")).GetMaterialBindSubsets()
    assert b"# the sign at the lock" in path.read_bytes()
    assert_same_drawn(tmp_path, path)


def test_a_usd_prim_that_hangs_elsewhere_is_drawn_and_named_as_before(tmp_path):
    steps = ("{do: split, parts: [board], into: pieces}", "{do: parent, parts: [board.1, board], to: arm}",
             "{do: parent, parts: [arm], to: null}", "{do: bake}")  # fmt: skip
    _, path = delivered(tmp_path, "sign.usda", SIGN, *steps)
    assert dict(tree(path)) == {"sign": None, "arm": None, "board_1": "arm", "board": "arm", "board_2": "board"}
    stage = Usd.Stage.Open(str(path))
    assert stage.GetPrimAtPath("/arm").GetRelationship("holds").GetTargets() == ["/arm/board"]
    piece = stage.GetPrimAtPath("/arm/board_1")
    assert UsdShade.MaterialBindingAPI(piece).ComputeBoundMaterial()[0].GetPath() == "/sign/Looks/oak"
    assert_same_drawn(tmp_path, path)


def test_usd_that_is_told_elsewhere_or_has_two_of_one_name_is_refused(tmp_path):
    lock = """#usda 1.0
def Xform "lock"
{
    def Xform "bay"
    {
    }
    def "kept" (
        references = @./assets/parts.usda@
    )
    {
    }
}
"""
    for k, step in enumerate(("{do: split, parts: [board], into: pieces}", "{do: parent, parts: [arm], to: bay}")):
        folder = tmp_path / str(k)
        (folder / "in" / "assets").mkdir(parents=True)
        (folder / "in" / "assets" / "parts.usda").write_text(SIGN)
        (folder / "in" / "lock.usda").write_text(lock)
        entries = {e["source"]: e for e in deliver_as(folder, "{}", step)["assets"]}
        assert entries["lock.usda"]["status"] == "refused"
        assert "is told in another file or variant, which stays as it is" in entries["lock.usda"]["reason"]
    clash = SIGN.replace(
        'def Xform "arm"\n    {', 'def Xform "arm"\n    {\n        def Xform "board"\n        {\n        }'
    )
    entry, _ = deliver(tmp_path, "sign.usda", clash, "{do: parent, parts: [board], to: arm}")
    says = "'arm' has a 'board' below it, and USD holds no two of one name there"
    assert (entry["status"], entry["reason"]) == ("refused", says)


def test_a_usd_package_is_hung_and_packed_again(tmp_path):
    path = tmp_path / "sign.usdz"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as package:
        package.writestr("sign.usda", SIGN)
    data = path.read_bytes()
    _, out = delivered(tmp_path, "sign.usdz", data, "{do: parent, parts: [board], to: arm}")
    assert dict(tree(out))["board"] == "arm"
    assert data == (tmp_path / "in" / "sign.usdz").read_bytes()


@pytest.mark.parametrize(
    ("name", "data", "what", "old", "new"),
    [
        ("wall.dae", QUOINS, "further elements", "<kept>yes</kept>", "<kept>no</kept>"),
        ("wall.dae", QUOINS, "further elements", ">0.5 0.3 0.1 1<", ">0.6 0.3 0.1 1<"),
        ("wall.dae", QUOINS, "further elements", 'target="#oak"', 'target="#pine"'),
        ("sign.usda", SIGN, "further fields", 'familyName = "materialBind"', 'familyName = "other"'),
        ("sign.usda", SIGN, "further fields", "custom rel holds", "custom rel carries"),
    ],
)
def test_what_gets_lost_while_nodes_are_hung_is_seen(tmp_path, name, data, what, old, new):
    part = "wall" if name == "wall.dae" else "board"
    _, path = delivered(tmp_path, name, data, f"{{do: split, parts: [{part}], into: pieces}}")

    def told(place):
        kind = format_of(place)
        return kind.belongings(kind.read(place, name))[what]

    before = told(tmp_path / "in" / name)
    assert before.is_told_in(told(path))
    text = path.read_text()
    assert old in text
    path.write_text(text.replace(old, new))
    assert not before.is_told_in(told(path))


@pytest.mark.parametrize(("name", "data"), [("wall.dae", QUOINS), ("gate.3mf", TWIN_GATES), ("sign.usda", SIGN)])
def test_whatever_comes_after_reaches_the_pieces(tmp_path, name, data):
    part = {"wall.dae": "wall", "gate.3mf": "pair", "sign.usda": "board"}[name]
    steps = (f"{{do: split, parts: [{part}], into: pieces}}", "{do: bake}", "{do: pivot, at: base, of: parts}",
             f"{{do: size, factor: 2, parts: [{part}.2]}}", "{do: unit, reads: cm}")  # fmt: skip
    entry, path = delivered(tmp_path, name, data, *steps)
    assert entry["deviation_m"] < 1e-6
    (source,) = find_sources([path])
    asset = receive(source).asset
    second = next(i for i, n in enumerate(asset.nodes) if n.name in {f"{part}.2", f"{part}_2"})
    # Its pivot is at the middle of its base.
    low, high = world_points(asset, second).min(axis=0), world_points(asset, second).max(axis=0)
    assert asset.worlds[second][:3, 3] == pytest.approx([(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2])
