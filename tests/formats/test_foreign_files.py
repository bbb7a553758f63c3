"""Files as other programs write them: read whole and right, or refused for the right reason."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.clips import pose
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive, survey_source
from tests.formats.test_collada import BRIDGE
from tests.formats.test_polygons import plates
from tests.formats.test_threemf import package
from tests.made import TRIANGLE, laid_out, triangle_document, write_glb, write_gltf
from tests.runs import deliver_as, through, troubles

SHIFT = "{do: place, shift: [10, 0, 0]}"


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    return tmp_path


def read(path):
    return receive(find_sources([path])[0]).asset


def reason(path):
    return survey_source(find_sources([path])[0])["error"] or ""


# Geometry placed by reference


def library(*uses):
    """The L-shaped plate in the library of nodes, placed by reference."""
    node = '<library_nodes><node id="leaf" name="leaf"><instance_geometry url="#g"/></node></library_nodes>'
    rows = "".join(f'<node name="{n}"><translate>{t}</translate><instance_node url="{u}"/></node>' for n, t, u in uses)
    text = plates(0)["dae"].replace("<library_visual_scenes>", node + "<library_visual_scenes>")
    return text.replace('<node name="plate"><instance_geometry url="#g"/></node>', rows)


def test_nodes_placed_by_reference_are_read_as_often_as_they_are_placed(folder):
    (folder / "in" / "two.dae").write_text(library(("a", "0 0 0", "#leaf"), ("b", "10 0 0", "#leaf")))
    asset = read(folder / "in" / "two.dae")
    assert asset_box(asset).size.tolist() == [12, 2, 0]
    assert asset.triangle_count == 8
    (entry,) = deliver_as(folder, "{format: glb}")["assets"]
    assert entry["size_after_m"]["width"] == 12
    (folder / "out").rename(folder / "first")
    entry = through(folder, SHIFT)
    assert entry["status"] == "delivered", entry["reason"]
    assert asset_box(read(folder / "out" / "two.dae")).low.tolist() == [10, 0, 0]
    entry = through(folder, "{do: turn, parts: [leaf], by: [0, 10, 0], about: origin}")
    assert entry["status"] == "refused"
    assert "stands once in the file for several parts" in entry["reason"]


@pytest.mark.parametrize(("url", "says"), [("other.dae#leaf", "of another file"), ("#none", "which is not there")])
def test_nodes_that_can_not_be_found_are_no_empty_model(folder, url, says):
    (folder / "in" / "a.dae").write_text(library(("a", "0 0 0", url)))
    assert says in reason(folder / "in" / "a.dae")


def test_a_node_inside_itself_is_told_of(folder):
    text = library(("a", "0 0 0", "#leaf")).replace('<instance_geometry url="#g"/></node></library_nodes>',
        '<instance_node url="#leaf"/></node></library_nodes>')  # fmt: skip
    (folder / "in" / "a.dae").write_text(text)
    assert "inside itself" in reason(folder / "in" / "a.dae")


MODEL = """<model unit="meter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
 xmlns:p="http://schemas.microsoft.com/3dmanufacturing/production/2015/06"><resources>{}</resources><build>{}</build></model>"""
BRICK = """<object id="{}" type="model"><mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/>
<vertex x="0" y="2" z="0"/><vertex x="0" y="0" z="3"/></vertices><triangles><triangle v1="0" v2="2" v3="1"/>
<triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="2" v2="0" v3="3"/></triangles>
</mesh></object>"""


def packed(**parts):
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(package())) as old, zipfile.ZipFile(out, "w") as new:
        for row in old.infolist():
            if not row.filename.endswith(".model"):
                new.writestr(row, old.read(row))
        for name, text in parts.items():
            new.writestr({"root": "3D/casks.model", "more": "3D/Objects/o.model"}[name], text)
    return out.getvalue()


def test_objects_of_another_model_of_the_package_are_read_and_changed_there(folder):
    placed = '<object id="2" type="model"><components><component p:path="/3D/Objects/o.model" objectid="1"/>'
    placed += "</components></object>"
    items = '<item objectid="9" transform="1 0 0 0 1 0 0 0 1 50 0 0"/><item objectid="2"/>'
    data = packed(root=MODEL.format(BRICK.format(9) + placed, items), more=MODEL.format(BRICK.format(1), ""))
    (folder / "in" / "two.3mf").write_bytes(data)
    asset = read(folder / "in" / "two.3mf")
    assert asset.triangle_count == 8
    assert asset_box(asset).size[0] == 51
    entry = through(folder, "{do: size, factor: 2, about: origin}")
    assert entry["status"] == "delivered", entry["reason"]
    assert asset_box(read(folder / "out" / "two.3mf")).size[0] == 102
    with zipfile.ZipFile(folder / "out" / "two.3mf") as there:
        assert b'<vertex x="2" y="0" z="0"/>' in there.read("3D/Objects/o.model")
    broken = packed(root=MODEL.format(placed, '<item objectid="2"/>'))
    (folder / "in" / "two.3mf").write_bytes(broken)
    assert "places object 3D/Objects/o.model#1, which is not there" in reason(folder / "in" / "two.3mf")


def test_unnamed_objects_placed_twice_keep_what_they_are_called(folder):
    pair = '<object id="2" type="model"><components><component objectid="1"/>'
    pair += '<component objectid="1" transform="-1 0 0 0 1 0 0 0 1 20 0 0"/></components></object>'
    (folder / "in" / "a.3mf").write_bytes(packed(root=MODEL.format(BRICK.format(1) + pair, '<item objectid="2"/>')))
    entry = through(folder, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    assert [n.name for n in read(folder / "out" / "a.3mf").nodes] == ["object_2", "object_1", "object_1"]
    assert not any(troubles(folder / "out").values())


def test_components_that_double_are_counted_before_they_are_unfolded(folder):
    rows = BRICK.format(1)
    for k in range(2, 42):
        twice = f'<component objectid="{k - 1}"/>' * 2
        rows += f'<object id="{k}" type="model"><components>{twice}</components></object>'
    (folder / "in" / "a.3mf").write_bytes(packed(root=MODEL.format(rows, '<item objectid="41"/>')))
    assert "come to 2199023255551 parts and groups" in reason(folder / "in" / "a.3mf")
    own = '<object id="2" type="model"><components><component objectid="2"/></components></object>'
    (folder / "in" / "a.3mf").write_bytes(packed(root=MODEL.format(own, '<item objectid="2"/>')))
    assert "or of themselves" in reason(folder / "in" / "a.3mf")


def test_a_made_3mf_shares_vertices_so_that_it_stays_closed_and_keeps_names(folder):
    lib3mf = pytest.importorskip("lib3mf")
    from tests.made import glb
    from tests.strategies import solid_box

    box = solid_box(np.array([1.0, 2, 3]))
    lists, binary = laid_out(
        box.points.astype("<f4"), box.normals.astype("<f4"), box.triangles.reshape(-1).astype("<u2")
    )
    primitive = {"attributes": {"POSITION": 0, "NORMAL": 1}, "indices": 2, "material": 0}
    nodes = [{"name": "left", "mesh": 0}, {"name": "right", "mesh": 0, "translation": [5, 0, 0]}]
    document = {
        "asset": {"version": "2.0"}, "scenes": [{"nodes": [0, 1]}], "nodes": nodes, **lists,
        "meshes": [{"primitives": [primitive]}], "materials": [{"name": "oak"}],
    }  # fmt: skip
    (folder / "in" / "pair.glb").write_bytes(glb(document, binary))
    (entry,) = deliver_as(folder, "{format: 3mf}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    wrapper = lib3mf.get_wrapper()
    model = wrapper.CreateModel()
    reader = model.QueryReader("3mf")
    reader.ReadFromFile(str(folder / "out" / "pair.3mf"))
    assert reader.GetWarningCount() == 0
    meshes = model.GetMeshObjects()
    assert meshes.MoveNext()
    mesh = meshes.GetCurrentMeshObject()
    assert (mesh.GetVertexCount(), mesh.GetTriangleCount(), mesh.IsManifoldAndOriented()) == (8, 12, True)
    assert {"left", "right"} <= {n.name for n in read(folder / "out" / "pair.3mf").nodes}
    (folder / "out").rename(folder / "in2")
    (folder / "in").rename(folder / "old")
    (folder / "in2").rename(folder / "in")
    (folder / "in" / "delivery.json").unlink()
    deliver_as(folder, "{format: dae}")
    assert 'name="oak"' in (folder / "out" / "pair.dae").read_text()


# Rounding is no shear


@pytest.mark.parametrize("digits", [4, 6, 8])
def test_matrices_of_a_few_digits_are_squared_up_with_a_note(folder, digits):
    turn = np.array([[0.36, 0.48, -0.8], [-0.8, 0.6, 0], [0.48, 0.64, 0.6]]) @ np.diag([1.3, 1.3, 1.3])
    c, s = np.cos(0.7), np.sin(0.7)
    matrix = np.eye(4)
    matrix[:3, :3] = np.round(turn @ [[c, 0, s], [0, 1, 0], [-s, 0, c]], digits)
    stack = f'<node name="plate"><matrix>{" ".join(map(str, matrix.ravel()))}</matrix>'
    (folder / "in" / "a.dae").write_text(plates(0)["dae"].replace('<node name="plate">', stack))
    (entry,) = deliver_as(folder, "{format: glb}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    assert "squared up by" in entry["warnings"][0]
    assert entry["deviation_m"] < 1e-6
    (folder / "in" / "a.dae").unlink()
    (folder / "out").rename(folder / "first")
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "matrix": matrix.T.ravel().tolist()}])
    write_glb(folder / "in" / "a.glb", document, binary)
    entry = through(folder, SHIFT)
    assert (entry["status"], entry["warnings"]) == ("delivered", [])


def test_what_leans_more_than_rounding_is_still_refused(folder):
    lean = [1, 0, 0, 0, 0.01, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "matrix": lean}])
    write_glb(folder / "in" / "a.glb", document, binary)
    assert "would be sheared" in through(folder, SHIFT)["reason"]


# Text as it is written elsewhere


@pytest.mark.parametrize("encoding", ["utf-8-sig", "utf-16-le", "utf-16-be"])
@pytest.mark.parametrize("key", ["obj", "off", "ply", "dae"])
def test_text_in_other_encodings_is_read_and_comes_back_in_its_own(folder, key, encoding):
    if key == "ply" and encoding.startswith("utf-16"):
        pytest.skip("a PLY's header is ASCII")
    mark = {"utf-16-le": b"\xff\xfe", "utf-16-be": b"\xfe\xff"}.get(encoding, b"")
    text = plates(0)[key]
    text = f'<?xml version="1.0" encoding="{encoding[:6]}"?>\n{text}' if key == "dae" and mark else text
    path = folder / "in" / f"plate.{key}"
    path.write_bytes(mark + text.encode(encoding))
    assert asset_box(read(path)).size.tolist() == [2, 2, 0]
    entry = through(folder, SHIFT)
    assert entry["status"] == "delivered", entry["reason"]
    data = (folder / "out" / path.name).read_bytes()
    assert data.startswith(mark or b"\xef\xbb\xbf")
    assert asset_box(read(folder / "out" / path.name)).low.tolist() == [10, 0, 0]
    data.decode("utf-16" if mark else "utf-8-sig")


@pytest.mark.parametrize(
    ("body", "count"), [("p 1 2 3\n", 3), ("l 1 2 3\n", 3), ("", 3), ("o far\np 1\no near\nl 2 3\n", 3)]
)
def test_points_and_lines_of_an_obj_move_and_count(folder, body, count):
    path = folder / "in" / "a.obj"
    path.write_text("v 1 0 0\nv 2 3 4\nv 5 6 7\n" + body)
    asset = read(path)
    assert (asset_box(asset).size.tolist(), asset.vertex_count) == ([4, 6, 7], count)
    assert through(folder, SHIFT)["status"] == "delivered"
    assert (folder / "out" / "a.obj").read_text().splitlines()[:3] == ["v 11 0 0", "v 12 3 4", "v 15 6 7"]
    (folder / "out").rename(folder / "first")
    (entry,) = deliver_as(folder, "{format: glb}")["assets"]
    assert "its points and lines" in entry["warnings"][0]


@pytest.mark.parametrize("key", ["obj", "off", "ply", "dae"])
def test_doubles_keep_the_digits_they_came_with(folder, key):
    text = plates(0)[key].replace("2.0 0.0 0.0", "1234567.890123 0 0").replace("float x", "double x")
    text = text.replace("float y", "double y").replace("float z", "double z")
    assert "1234567.890123" in text
    (folder / "in" / f"a.{key}").write_text(text)
    # A node takes a shift up by itself: its size goes into the numbers.
    entry = through(folder, SHIFT if key != "dae" else "{do: size, factor: 3, about: origin}")
    assert entry["status"] == "delivered", entry["reason"]
    wanted = "1234577.890123" if key != "dae" else "3703703.670369"
    assert wanted in (folder / "out" / f"a.{key}").read_text()
    if key != "ply":
        (folder / "out").rename(folder / "first")
        deliver_as(folder, "{format: dae}" if key != "dae" else "{format: obj}", SHIFT)
        crossed = next((folder / "out").glob("a.[do]*"))
        assert "1234577.890123" in crossed.read_text()


def test_odd_headers_and_decimal_commas_are_no_end(folder):
    ply = plates(0)["ply"].replace("format ascii 1.0\n", "format ascii 1.0\nCreated by a program\n")
    (folder / "in" / "a.ply").write_text(ply)
    assert asset_box(read(folder / "in" / "a.ply")).size.tolist() == [2, 2, 0]
    unit = '<asset><unit meter="0,010000"/></asset><library_geometries>'
    (folder / "in" / "a.dae").write_text(plates(0)["dae"].replace("<library_geometries>", unit))
    assert asset_box(read(folder / "in" / "a.dae")).size[0] == pytest.approx(0.02)
    assert "wood%20grain.png" in BRIDGE


# glTF


def test_a_gltf_without_nodes_is_delivered_as_nothing(folder):
    (folder / "in" / "none.gltf").write_text('{"asset": {"version": "2.0"}}')
    assert through(folder, SHIFT)["status"] == "unchanged"
    (folder / "out").rename(folder / "first")
    (entry,) = deliver_as(folder, "{format: glb}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]


def test_geometry_behind_an_extension_that_nobody_knows_is_refused_never_zeros(folder):
    document, binary = triangle_document(extensionsUsed=["FENWICK_packed"], extensionsRequired=["FENWICK_packed"])
    path = write_glb(folder / "in" / "a.glb", document, binary)
    assert through(folder, SHIFT)["status"] == "refused"
    assert (through(folder)["status"], read(path).triangle_count) == ("unchanged", 1)
    (folder / "out").rename(folder / "first")
    (entry,) = deliver_as(folder, "{format: stl}")["assets"]
    assert (entry["status"], "'FENWICK_packed'" in entry["reason"]) == ("refused", True)
    del document["accessors"][0]["bufferView"]
    write_glb(path, document, binary)
    assert "no positions that can be read" in reason(path)


def test_packed_geometry_counts_as_its_accessors_say(folder):
    document, binary = triangle_document(extensionsUsed=["EXT_meshopt_compression"])
    for view in document["bufferViews"]:
        view["extensions"] = {"EXT_meshopt_compression": {"buffer": 0, "byteLength": 4, "byteStride": 12, "count": 3}}
    asset = read(write_glb(folder / "in" / "a.glb", document, binary))
    assert (asset.vertex_count, asset.triangle_count) == (3, 1)


def test_an_uneven_scale_that_a_clip_animates_goes_into_keys_and_geometry(folder):
    times, sizes = np.array([0, 1], "<f4"), np.array([[2, 1, 1], [4, 1, 3]], "<f4")
    turns = np.array([[0, 0, 0, 1], [0, 0, 0.70710678, 0.70710678]], "<f4")
    lists, binary = laid_out(TRIANGLE, np.array([0, 1, 2], "<u2"), times, sizes, turns)
    channels = [{"sampler": k, "target": {"node": 0, "path": p}} for k, p in enumerate(("scale", "rotation"))]
    clip = {"name": "swell", "channels": channels, "samplers": [{"input": 2, "output": 3}, {"input": 2, "output": 4}]}
    document = {
        "asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "animations": [clip], **lists,
        "nodes": [{"name": "bellows", "mesh": 0, "scale": [2, 1, 1], "translation": [0, 5, 0]}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1}]}],
    }  # fmt: skip
    before = read(write_glb(folder / "in" / "a.glb", document, binary))
    entry = through(folder, "{do: bake, what: [scale]}")
    assert entry["status"] == "delivered", entry["reason"]
    after = read(folder / "out" / "a.glb")
    assert after.nodes[0].placement.scale.tolist() == [1, 1, 1]
    for at_s in (0.0, 0.25, 0.5, 1.0):
        old, new = (
            pose(a, a.clips[0], at_s)[0] @ np.vstack([a.meshes[0].points.T, np.ones(3)]) for a in (before, after)
        )
        assert new == pytest.approx(old, abs=1e-5)


def test_an_edited_text_gltf_with_its_buffers_inside_keeps_them_inside(folder):
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    write_gltf(folder / "in" / "a.gltf", document, binary, embedded=True)
    entry = through(folder, "{do: bake}")
    assert (entry["status"], entry["companions"]) == ("delivered", [])
    text = (folder / "out" / "a.gltf").read_text()
    assert '"uri": "data:application/octet-stream;base64,' in text
    assert np.asarray(read(folder / "out" / "a.gltf").meshes[0].points) == pytest.approx(2 * TRIANGLE)
