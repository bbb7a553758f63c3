"""What a proof must see: each of these files is delivered wrong by hand, or would be by a fault of ours."""

from __future__ import annotations

import hashlib
import json
import re
import struct
from dataclasses import replace

import numpy as np
import pytest

from oak_square.core.errors import Failed
from oak_square.core.findings.survey import survey
from oak_square.core.geometry import write_points
from oak_square.core.motion import resize_all
from oak_square.core.placement import Placement
from oak_square.delivery.batch import find_sources
from oak_square.delivery.documents import json_text
from oak_square.delivery.files import write_chunks
from oak_square.delivery.proof import prove_asset, prove_edited
from oak_square.delivery.proving import prove
from oak_square.delivery.surveying import receive
from oak_square.formats.register import FORMATS
from tests.made import TRIANGLE, accessor, glb, laid_out, opened, triangle_document, write_glb
from tests.runs import deliver_as, through

SLANTED = np.array([[0, 0, 0], [2, 0, 1], [0, 1, 1]], dtype="<f4")


def facing(corners):
    normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
    return normal / np.linalg.norm(normal)


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    return tmp_path


def read(path):
    return receive(find_sources([path])[0])


def sized(folder, name, *factor):
    """Size a file of `folder`/in by a motion that no sheet has, mirrors included; return where it was written."""
    source = read(folder / "in" / name)
    wanted = resize_all(source.asset, np.diag([*factor, 1.0]))
    out = FORMATS[source.asset.format].write(source, wanted, source.asset.reading)
    (folder / "out").mkdir()
    write_chunks(folder / "out" / name, out.chunks)
    again = read(folder / "out" / name)
    assert prove_edited(source, wanted, again, again.asset) < 1e-5
    return folder / "out" / name


def test_a_model_that_grows_past_float32_is_refused_in_every_format(folder):
    for name, data in ((f"a.{key}", made()) for key, made in SLANTED_FILES.items()):
        for old in (folder / "in").iterdir():
            old.unlink()
        (folder / "in" / name).write_bytes(data)
        entry = through(folder, *["{do: size, factor: 1000000000}"] * 5)
        assert entry["status"] == "refused", (name, entry["reason"])
        assert "grow past what" in entry["reason"]
        assert not (folder / "out" / name).exists()


def test_what_is_no_number_never_reaches_a_file():
    with pytest.raises(Exception, match="grow past"):
        write_points(np.array([[np.nan, 0, 0]]), np.eye(4), np.empty((1, 3)))


def test_a_vertex_that_is_no_number_fails_the_proof(folder):
    document, binary = triangle_document()
    wanted = read(write_glb(folder / "in" / "sign.glb", document, binary))
    there = read(write_glb(folder / "off.glb", document, np.array([np.nan], "<f4").tobytes() + binary[4:]))
    with pytest.raises(Failed, match="1 coordinates that are NaN"):
        prove_asset(wanted.asset, there.asset)
    # Nor where the count of them were wrong: of 0 and what is no number, the larger is no number.
    meshes = tuple(replace(m, not_finite=0) for m in there.asset.meshes)
    with pytest.raises(Failed, match="a vertex of 'sign' is"):
        prove_asset(wanted.asset, replace(there.asset, meshes=meshes))


def test_a_delivery_without_a_finite_size_does_not_hold(folder):
    document, binary = triangle_document()
    write_glb(folder / "in" / "sign.glb", document, binary)
    entry = through(folder, "{do: place, shift: [1, 0, 0]}")
    out = folder / "out" / "sign.glb"
    spoilt = out.read_bytes().replace(np.array([2], "<f4").tobytes(), np.array([np.inf], "<f4").tobytes())
    out.write_bytes(spoilt)
    manifest = json.loads((folder / "out" / "delivery.json").read_text())
    manifest["assets"][0]["output_sha256"] = hashlib.sha256(spoilt).hexdigest()
    (folder / "out" / "delivery.json").write_text(json.dumps(manifest))
    assert entry["status"] == "delivered"
    assert "NaN or infinite" in prove(folder / "out")[0].trouble


def test_json_has_null_for_what_is_no_number():
    text = json_text({"a": [1.0, float("nan")], "b": {"c": float("-inf"), "d": "NaN"}})
    assert json.loads(text, parse_constant=pytest.fail) == {"a": [1.0, None], "b": {"c": None, "d": "NaN"}}


def _glb_with_tangents(**primitive):
    tangents = np.array([[1, 0, 0, -1], [1, 0, 0, -1], [1, 0, 0, 1]], dtype="<f4")
    normals = np.tile(facing(SLANTED), (3, 1)).astype("<f4")
    uvs = np.array([[0, 0], [1, 0], [0, 1]], dtype="<f4")
    lists, binary = laid_out(SLANTED, normals, tangents, uvs, np.array([0, 1, 2], "<u2"))
    attributes = {"POSITION": 0, "NORMAL": 1, "TANGENT": 2, "TEXCOORD_0": 3}
    primitives = [{"attributes": attributes, "indices": 4, "material": 0, **primitive}]
    document = {
        "asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"name": "sign", "mesh": 0}],
        "meshes": [{"name": "sign", "primitives": primitives}],
        "materials": [{"name": "oak"}, {"name": "iron"}], **lists,
    }  # fmt: skip
    return document, binary


def test_tangents_keep_their_line_and_change_their_hand_under_a_mirror(folder):
    (folder / "in" / "sign.glb").write_bytes(glb(*_glb_with_tangents()))
    document, binary = opened(sized(folder, "sign.glb", -1, 2, 3).read_bytes())
    names = document["meshes"][0]["primitives"][0]["attributes"]
    there = accessor(document, binary, names["TANGENT"])
    # The bitangent, normal × tangent × hand, is what maps see: it must be where the mirror carries it.
    normals, old = accessor(document, binary, names["NORMAL"]), np.array([[1, 0, 0, -1]] * 2 + [[1, 0, 0, 1]])
    before = np.cross(np.tile(facing(SLANTED), (3, 1)), old[:, :3]) * old[:, 3:]
    after = np.cross(normals, there[:, :3]) * there[:, 3:]
    assert there[:, :3] == pytest.approx(np.tile([-1, 0, 0], (3, 1)))
    assert (np.sign((after * (before * [-1, 2, 3])).sum(axis=1)) == 1).all()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda d, b: (d, b[:36] + (-np.frombuffer(b[36:72], "<f4")).tobytes() + b[72:]), "the normals of 'sign'"),
        (lambda d, b: (d, b[:84] + struct.pack("<f", 1) + b[88:]), "the wrong handedness"),
        (lambda d, b: (d, b[:72] + struct.pack("<f", -1) + b[76:]), "the tangents of 'sign' do not point"),
        (lambda d, b: (d, b[:120] + struct.pack("<f", 0.5) + b[124:]), "coordinates of 'sign' are not what"),
        (lambda d, b: (d, b[:144] + struct.pack("<3H", 0, 2, 1) + b[150:]), "turned inside out"),
        (lambda d, b: (d["materials"][0].update(doubleSided=True) or d, b), "its materials are not what they were"),
        (lambda d, b: (d["meshes"][0]["primitives"][0].update(material=1) or d, b), "the materials of 'sign'"),
        (lambda d, b: (d["meshes"][0]["primitives"][0]["attributes"].pop("TANGENT") and (d, b)), "gained tangents"),
        (lambda d, b: (d["meshes"][0].update(name="board") or d, b), "is called 'board'"),
    ],
    ids=range(9),
)  # fmt: skip
def test_a_delivered_file_that_differs_in_one_thing_fails_its_proof(folder, change, says):
    source = read(write_glb(folder / "in" / "sign.glb", *_glb_with_tangents()))
    other = read(write_glb(folder / "other.glb", *change(*_glb_with_tangents())))
    with pytest.raises(Failed, match=says):
        prove_edited(source, source.asset, other, other.asset)
    assert prove_edited(source, source.asset, source, source.asset) == 0.0


def test_nodes_that_shared_a_mesh_and_no_longer_do_fail_the_proof(folder):
    both = [{"name": "a", "mesh": 0}, {"name": "b", "mesh": 0}]
    document, binary = triangle_document(nodes=both, scenes=[{"nodes": [0, 1]}])
    source = read(write_glb(folder / "in" / "two.glb", document, binary))
    document["meshes"] = document["meshes"] * 2
    document["nodes"][1]["mesh"] = 1
    other = read(write_glb(folder / "other.glb", document, binary))
    with pytest.raises(Failed, match="'b' and 'a' no longer share their mesh"):
        prove_edited(source, source.asset, other, other.asset)


def test_a_mirror_turns_triangles_and_strips_of_one_list_of_indices_each_rightly(folder):
    points = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [1, 1, 0]], dtype="<f4")
    lists, binary = laid_out(points, np.array([0, 1, 2, 1, 3, 2], "<u2"))
    alike = {"attributes": {"POSITION": 0}, "indices": 1}
    document = {
        "asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"name": "sign", "mesh": 0}],
        "meshes": [{"primitives": [alike, {**alike, "mode": 5}]}], **lists,
    }  # fmt: skip
    (folder / "in" / "sign.glb").write_bytes(glb(document, binary))
    after, body = opened(sized(folder, "sign.glb", -1, 1, 1).read_bytes())
    lists = [accessor(after, body, p["indices"]).ravel().tolist() for p in after["meshes"][0]["primitives"]]
    # By hand: the strip 0 1 2 1 3 2 is 012, 112, 213 and 123 turned (specification, 3.7.2.1): now each turned round.
    corners = [[frozenset(row) for row in np.reshape(rows, (-1, 3)).tolist()] for rows in lists]
    assert corners == [[{0, 1, 2}, {1, 2, 3}], [{0, 1, 2}, {1, 2}, {1, 2, 3}, {1, 2, 3}]]
    flat = accessor(after, body, 0)
    for rows, wanted in zip(lists, ([1, 1], [1, 0, 1, -1]), strict=True):
        a, b, c = (flat[np.reshape(rows, (-1, 3))[:, k]] for k in range(3))
        # What faced the front, seen from where the mirror leaves it, still does; the strip's last lay on its face.
        assert np.cross(b - a, c - a)[:, 2].tolist() == wanted


def _obj():
    lines = [f"v {x} {y} {z}" for x, y, z in SLANTED.tolist()] + ["vn {} {} {}".format(*facing(SLANTED))]
    return ("\n".join([*lines, "o sign", "f 1//1 2//1 3//1"]) + "\n").encode()


def _stl():
    text = "solid sign\nfacet normal {} {} {}\nouter loop\n".format(*facing(SLANTED))
    text += "".join(f"vertex {x} {y} {z}\n" for x, y, z in SLANTED.tolist())
    return (text + "endloop\nendfacet\nendsolid sign\n").encode()


def _ply():
    head = "ply\nformat ascii 1.0\nelement vertex 3\n" + "".join(
        f"property float {n}\n" for n in ("x", "y", "z", "nx", "ny", "nz")
    )
    rows = "".join("{} {} {} {} {} {}\n".format(*p, *facing(SLANTED)) for p in SLANTED.tolist())
    return (head + "element face 1\nproperty list uchar int vertex_indices\nend_header\n" + rows + "3 0 1 2\n").encode()


def _dae():
    def source(name, rows):
        numbers = " ".join(repr(float(v)) for row in rows for v in row)
        return (
            f'<source id="{name}"><float_array id="{name}-a" count="{3 * len(rows)}">{numbers}</float_array>'
            "<technique_common>"
            f'<accessor source="#{name}-a" count="{len(rows)}" stride="3"/></technique_common></source>'
        )

    return (
        '<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1"><library_geometries>'
        f'<geometry id="g"><mesh>{source("p", SLANTED)}{source("n", [facing(SLANTED)])}'
        '<vertices id="v"><input semantic="POSITION" source="#p"/></vertices><triangles count="1">'
        '<input semantic="VERTEX" source="#v" offset="0"/><input semantic="NORMAL" source="#n" offset="1"/>'
        "<p>0 0 1 0 2 0</p></triangles></mesh></geometry></library_geometries><library_visual_scenes>"
        '<visual_scene id="s"><node name="sign"><instance_geometry url="#g"/></node></visual_scene>'
        '</library_visual_scenes><scene><instance_visual_scene url="#s"/></scene></COLLADA>'
    ).encode()


def _glb():
    return glb(*_glb_with_tangents())


SLANTED_FILES = {"obj": _obj, "stl": _stl, "ply": _ply, "dae": _dae, "glb": _glb}


def _numbers(text):
    return np.array([[float(v) for v in row] for row in text])


def corners_and_normal(path):
    """Read a delivered file the plain way, by its own words."""
    if path.suffix == ".glb":
        document, binary = opened(path.read_bytes())
        primitive = document["meshes"][0]["primitives"][0]
        points, normals = (accessor(document, binary, primitive["attributes"][k]) for k in ("POSITION", "NORMAL"))
        return points[accessor(document, binary, primitive["indices"]).ravel()[:3]], normals[0]
    text = path.read_text()
    number = r"(-?[\d.e+-]+)"
    three = rf"{number} {number} {number}"
    if path.suffix == ".obj":
        points = _numbers(re.findall(rf"^v {three}", text, re.MULTILINE))
        face = [int(k.split("/")[0]) - 1 for k in re.search(r"^f (.*)", text, re.MULTILINE)[1].split()]
        return points[face], _numbers(re.findall(rf"^vn {three}", text, re.MULTILINE))[0]
    if path.suffix == ".stl":
        return _numbers(re.findall(rf"vertex {three}", text)), _numbers(re.findall(rf"normal {three}", text))[0]
    if path.suffix == ".ply":
        rows = [row.split() for row in text.split("end_header\n")[1].splitlines()]
        points = _numbers(rows[:3])
        return points[[int(k) for k in rows[3][1:]]][:, :3], points[0, 3:]
    sources = re.findall(r'count="\d+">([^<]*)</float', text)[:2]
    points, normals = (_numbers([m.split()]).reshape(-1, 3) for m in sources)
    corners = [int(k) for k in re.search("<p>(.*)</p>", text)[1].split()]
    return points[corners[:: len(corners) // 3]], normals[0]


@pytest.mark.parametrize("factor", [(1, 3, 2), (-1, 3, 2)])
@pytest.mark.parametrize("key", SLANTED_FILES)
def test_normals_stand_on_their_triangles_after_an_uneven_size(folder, key, factor):
    (folder / "in" / f"sign.{key}").write_bytes(SLANTED_FILES[key]())
    corners, normal = corners_and_normal(sized(folder, f"sign.{key}", *factor))
    assert np.abs(corners).max(axis=0) == pytest.approx([2, 3, 2])
    assert normal == pytest.approx(facing(corners), abs=1e-5)


@pytest.mark.parametrize("key", ["obj", "dae", "glb"])
def test_normals_stand_on_their_triangles_on_the_way_across(folder, key):
    (folder / "in" / "sign.ply").write_bytes(_ply())
    step = "{do: size, factor: [1, 3, 2], about: origin}"
    (entry,) = deliver_as(folder, f"{{format: {key}}}", step)["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    corners, normal = corners_and_normal(folder / "out" / f"sign.{key}")
    assert normal == pytest.approx(facing(corners), abs=1e-5)


def test_a_bake_far_out_is_refused_rather_than_rounded(folder):
    nodes = [{"name": "bollard", "mesh": 0, "translation": [545_000, 0, 0]}, {"name": "hut", "mesh": 0}]
    document, binary = triangle_document(nodes=nodes, scenes=[{"nodes": [0, 1]}])
    write_glb(folder / "in" / "site.glb", document, binary)
    entry = through(folder, "{do: bake, what: [location]}")
    assert entry["status"] == "refused"
    assert "the numbers of 'bollard' would lie 545.0 km from its pivot" in entry["reason"]
    # The same rounding in a delivered file fails its proof, however far the rest of the model reaches.
    wanted = read(folder / "in" / "site.glb").asset
    moved = [replace(n, placement=Placement.of(translation=(0.017 * (k == 0) + n.placement.translation[0], 0, 0)))
             for k, n in enumerate(wanted.nodes)]  # fmt: skip
    with pytest.raises(Failed, match=r"a vertex of 'bollard' is 17\.00 mm"):
        prove_asset(wanted, replace(wanted, nodes=tuple(moved)))


def test_a_survey_looks_at_numbers_as_they_are_stored(folder):
    document, binary = triangle_document(nodes=[{"name": "bollard", "mesh": 0, "translation": [-545_000, 0, 0]}])
    far = (np.array([545_000, 0, 0]) + TRIANGLE).astype("<f4").tobytes()
    document["accessors"][0].update(min=[545_000, 0, 0], max=[545_001, 2, 0])
    asset = read(write_glb(folder / "in" / "far.glb", document, far + binary[36:])).asset
    (said,) = (f for f in survey(asset) if f.code == "far-from-origin")
    assert (said.part, said.measure) == ("bollard", 0.0625)


def test_mirrored_instances_face_out_with_their_normals(folder):
    spots, turns = np.zeros((1, 3), "<f4"), np.array([[0, 0, 0, 1]], "<f4")
    normals = np.tile(facing(SLANTED), (3, 1)).astype("<f4")
    lists, binary = laid_out(SLANTED, normals, np.array([0, 1, 2], "<u2"), spots, turns, np.array([[-1, 3, 2]], "<f4"))
    names = {"TRANSLATION": 3, "ROTATION": 4, "SCALE": 5}
    node = {"name": "posts", "mesh": 0, "extensions": {"EXT_mesh_gpu_instancing": {"attributes": names}}}
    primitive = {"attributes": {"POSITION": 0, "NORMAL": 1}, "indices": 2}
    document = {
        "asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [node],
        "meshes": [{"primitives": [primitive]}], **lists,
    }  # fmt: skip
    mesh = read(write_glb(folder / "in" / "posts.glb", document, binary)).asset.meshes[-1]
    corners = np.asarray(mesh.points)[mesh.triangles[0]]
    assert corners.tolist() == [[0, 0, 0], [0, 3, 2], [-2, 0, 2]]
    assert mesh.normals[0] == pytest.approx(facing(corners), abs=1e-6)


def test_cameras_and_lights_look_where_they_looked_after_a_bake(folder):
    half = 0.5**0.5
    nodes = [
        {"name": "stand", "rotation": [0, half, 0, half], "children": [1, 2]},
        {"name": "view", "camera": 0, "rotation": [half, 0, 0, half], "translation": [0, 1, 0]},
        {"name": "lamp", "extensions": {"KHR_lights_punctual": {"light": 0}}, "translation": [2, 0, 0]},
    ]
    document, binary = triangle_document(nodes=nodes, cameras=[{"type": "perspective"}])
    document["extensions"] = {"KHR_lights_punctual": {"lights": [{"type": "directional"}]}}
    write_glb(folder / "in" / "stage.glb", document, binary)
    before = read(folder / "in" / "stage.glb").asset
    entry = through(folder, "{do: bake, what: [rotation]}")
    assert entry["status"] == "delivered", entry["reason"]
    after = read(folder / "out" / "stage.glb").asset
    assert after.nodes[0].placement.rotation.tolist() == [0, 0, 0, 1]
    # By hand: the camera looks along its -Z, tipped up by its own quarter turn, then swung by the stand's.
    assert -after.worlds[1][:3, 2] == pytest.approx([0, 1, 0], abs=1e-6)
    assert -after.worlds[2][:3, 2] == pytest.approx([-1, 0, 0], abs=1e-6)
    assert after.worlds[2][:3, 3] == pytest.approx(before.worlds[2][:3, 3], abs=1e-6)
    assert any("keeps" in w or "stays" in w or "direction" in w for w in entry["warnings"]), entry["warnings"]
