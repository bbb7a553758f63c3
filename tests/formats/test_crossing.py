"""From every format to every other: each triangle where it should be, and what gets lost is said beforehand."""

from __future__ import annotations

import shutil
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from oak_square.core.errors import Failed
from oak_square.core.frames import Reading
from oak_square.delivery.batch import find_sources
from oak_square.delivery.proof_across import prove_across
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.crossing import losses
from tests.formats.test_collada import BRIDGE
from tests.formats.test_off import SIGN
from tests.formats.test_ply import made
from tests.formats.test_threemf import package
from tests.formats.test_usd import SIGN as USD
from tests.made import UP_Z, glb, laid_out, opened, stl_binary, triangle_document
from tests.runs import deliver_as, troubles

PNG = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de0000000c4944415408d763f8cfc000000301010018dd8db0"
    "0000000049454e44ae426082"
)
LOOKED = """# a signboard
mtllib board.mtl
v 0 0 0
v 2 0 0
v 2 1 0
v 0 1 0
vt 0 0
vt 1 0
vt 1 1
vt 0 1
vn 0 0 1
o board
usemtl painted
f 1/1/1 2/2/1 3/3/1 4/4/1
o back
usemtl bare
f 4/4/1 3/3/1 1/1/1
"""
LIBRARY = "newmtl painted\nKd 1 0.5 0.25\nmap_Kd letters.png\nnewmtl bare\nKd 0.2 0.2 0.2\nd 0.5\n"


def nested():
    """A GLB of a board below a turned, scaled group, twice, with texture coordinates and vertex colours."""
    points = np.array([[0, 0, 0], [1, 0, 0], [0, 2, 0]], dtype="<f4")
    uvs = np.array([[0, 1], [1, 1], [0, 0.25]], dtype="<f4")
    reds = np.array([[1, 0, 0], [1, 0.5, 0], [1, 1, 1]], dtype="<f4")
    lists, binary = laid_out(points, UP_Z, uvs, reds, np.array([0, 1, 2], "<u2"))
    attributes = {"POSITION": 0, "NORMAL": 1, "TEXCOORD_0": 2, "COLOR_0": 3}
    primitive = {"attributes": attributes, "indices": 4, "material": 0}
    nodes = [
        {"name": "right", "mesh": 0, "translation": [3, 0, 0]},
        {
            "name": "group",
            "children": [0, 2],
            "rotation": [0, 0.6, 0, 0.8],
            "scale": [2, 2, 2],
            "translation": [0, 1, 0],
        },
        {"name": "left", "mesh": 0, "scale": [-1, 1, 1]},
    ]
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [1]}], "nodes": nodes,
        "meshes": [{"primitives": [primitive]}], **lists,
        "materials": [{"name": "tarred", "pbrMetallicRoughness": {"baseColorFactor": [0.2, 0.1, 0.05, 1]}}],
    }  # fmt: skip
    return glb(document, binary)


def sources(folder):
    folder.mkdir(exist_ok=True)
    (folder / "board.obj").write_text(LOOKED)
    (folder / "board.mtl").write_text(LIBRARY)
    (folder / "letters.png").write_bytes(PNG)
    (folder / "nested.glb").write_bytes(nested())
    (folder / "bridge.dae").write_text(BRIDGE)
    (folder / "casks.3mf").write_bytes(package())
    (folder / "hanging.usda").write_text(USD)
    corners = np.array([[[0, 0, 0], [4, 0, 0], [0, 4, 1]]], dtype="<f4")
    (folder / "plate.stl").write_bytes(stl_binary(corners))
    (folder / "sign.off").write_bytes(SIGN)
    (folder / "tiller.ply").write_bytes(made("binary_big_endian"))
    return folder


MADE = sorted(k for k, f in FORMATS.items() if f.is_made)
SPOKEN = {"glb", "gltf", "obj", "stl", "ply", "off"}
"""What an independent reader, trimesh, opens by itself."""


def corners_of(path):
    """Every triangle's corners as that reader sees them, sorted."""
    loaded = trimesh.load(path, force="scene", process=False)
    rows = [g.triangles for g in loaded.dump()]
    return np.concatenate(rows).reshape(-1, 9)


def as_sets(corners):
    found = np.round(corners.reshape(-1, 3, 3), 4) + 0.0
    return sorted(tuple(sorted(map(tuple, face))) for face in found.tolist())


@pytest.mark.parametrize(("unit", "up"), [("m", "Y"), ("mm", "Z"), ("ft", "same")])
@pytest.mark.parametrize("key", MADE)
def test_every_triangle_arrives_in_the_unit_and_axes_asked_for(tmp_path, key, unit, up):
    folder = sources(tmp_path / "in")
    manifest = deliver_as(
        tmp_path, f"{{unit: {unit}, up: {up}, format: {key}}}", "{do: unit, reads: cm, for: ['*.stl']}"
    )
    entries = {e["source"]: e for e in manifest["assets"]}
    assert [e["reason"] for e in entries.values()] == [None] * 8
    assert not any(troubles(tmp_path / "out").values())
    for file, entry in entries.items():
        assert entry["deviation_m"] < 1e-5
        before = receive(next(s for s in find_sources([folder]) if s.file == file)).asset
        scale = 0.01 if file == "plate.stl" else 1.0
        wanted = np.concatenate(
            [
                (before.mesh_of(i).points @ (w := before.world_from_mesh(i))[:3, :3].T + w[:3, 3])[
                    before.mesh_of(i).triangles
                ].reshape(-1, 9)
                for i in before.parts
            ]
        )
        if key in SPOKEN and (key, file) != ("ply", "tiller.ply"):  # it does not read what strangers add to a PLY
            kind = FORMATS[key]
            upward, front = {"Y": ("+Y", "+Z"), "Z": ("+Z", "-Y")}.get(up, (before.reading.up, before.reading.front))
            asked = Reading(
                metres_per_unit={"m": 1, "mm": 0.001, "ft": 0.3048}[unit], up=upward, front=front,
                source="sheet",
            )  # fmt: skip
            reading = kind.reading_out(asked)
            there = corners_of(tmp_path / "out" / entry["output"]).reshape(-1, 3) @ reading.working_from_file[:3, :3].T
            assert as_sets(there) == as_sets(wanted * scale)


def test_looks_names_and_pivots_go_as_far_as_the_target_holds_them(tmp_path):
    sources(tmp_path / "in")
    manifest = deliver_as(tmp_path, "{format: glb}")
    out = receive(next(s for s in find_sources([tmp_path / "out"]) if s.file == "board.glb"))
    document = out.carrier.json
    assert [n["name"] for n in document["nodes"]] == ["board", "back"]
    painted, bare = document["materials"]
    assert painted["pbrMetallicRoughness"]["baseColorTexture"] == {"index": 0}
    assert bare["alphaMode"] == "BLEND"
    view = document["bufferViews"][document["images"][0]["bufferView"]]
    assert bytes(out.carrier.buffers[0].data[view["byteOffset"] :][: view["byteLength"]]) == PNG
    plain = FORMATS["glb"].plains(out, out.asset)[0]
    assert plain.uvs.tolist() == [[0, 0], [1, 0], [1, 1], [0, 1]]
    assert all(e["warnings"] == [] for e in manifest["assets"] if e["source"] != "nested.glb")


def test_a_glb_becomes_an_obj_with_all_it_can_hold_and_says_the_rest(tmp_path):
    sources(tmp_path / "in")
    entries = {e["source"]: e for e in deliver_as(tmp_path, "{format: obj}")["assets"]}
    entry = entries["nested.glb"]
    assert entry["warnings"] == [
        "Wavefront OBJ can't hold its hierarchy, the pivots of its parts and its unit and axes; "
        "Oak Square does not carry its vertex colours into Wavefront OBJ yet"
    ]
    text = (tmp_path / "out" / "nested.obj").read_text()
    assert [line for line in text.splitlines() if line.startswith("o ")] == ["o right", "o left"]
    assert [line for line in text.splitlines() if line.startswith("vt ")][:3] == ["vt 0 0", "vt 1 0", "vt 0 0.75"]
    assert entry["companions"][0]["path"] == "nested.mtl"
    board = entries["board.obj"]
    assert board["status"] == "unchanged"


@pytest.mark.parametrize("key", ["glb", "ply", "usda", "dae"])
def test_colours_of_vertices_cross_where_they_can_be_held(tmp_path, key):
    (tmp_path / "in").mkdir()
    shades = [(1, 0, 0), (0, 0.5, 0), (0.2, 0.4, 0.8)]
    rows = "".join(
        f"v {x} {y} 0 {r} {g} {b}\n" for (x, y), (r, g, b) in zip([(0, 0), (1, 0), (0, 1)], shades, strict=True)
    )
    (tmp_path / "in" / "sign.obj").write_text(f"o sign\n{rows}f 1 2 3\n")
    (entry,) = deliver_as(tmp_path, f"{{format: {key}}}")["assets"]
    out = receive(find_sources([tmp_path / "out"])[0])
    assert "vertex-colours" in out.asset.carries
    (plain,) = FORMATS[key].plains(out, out.asset).values()
    assert plain.colours == pytest.approx(np.array(shades), abs=5e-3)
    assert [run.look.colour for run in plain.runs] == [pytest.approx((1, 1, 1))]
    shutil.rmtree(tmp_path / "out")
    (entry,) = deliver_as(tmp_path, "{format: stl}")["assets"]
    assert "its vertex colours" in entry["warnings"][0]


def test_textures_keep_their_places_and_those_inside_a_file_get_names_of_their_own(tmp_path):
    folder = tmp_path / "in"
    (folder / "maps").mkdir(parents=True)
    (folder / "maps" / "letters.png").write_bytes(PNG)
    (folder / "board.obj").write_text(LOOKED)
    (folder / "board.mtl").write_text(LIBRARY.replace("letters.png", "maps/letters.png"))
    for key in ("gltf", "dae", "usda"):
        (entry,) = deliver_as(tmp_path, f"{{format: {key}}}")["assets"]
        assert "maps/letters.png" in [c["path"] for c in entry["companions"]]
        out = receive(next(s for s in find_sources([tmp_path / "out"]) if s.file == f"board.{key}"))
        assert "maps/letters.png" in out.companions
        shutil.rmtree(tmp_path / "out")
    deliver_as(tmp_path, "{format: glb}")
    (tmp_path / "glb" / "in").mkdir(parents=True)
    for name in ("one", "two"):
        shutil.copy(tmp_path / "out" / "board.glb", tmp_path / "glb" / "in" / f"{name}.glb")
    entries = deliver_as(tmp_path / "glb", "{format: obj}")["assets"]
    assert [[c["path"] for c in e["companions"]][1] for e in entries] == [
        "one_maps_letters_png.png", "two_maps_letters_png.png",
    ]  # fmt: skip


@pytest.mark.parametrize("turned", [[1, 2, 0], [0, 2, 1]])
def test_a_proof_fails_where_a_face_is_turned_inside_out_and_only_there(tmp_path, turned):
    (tmp_path / "nested.glb").write_bytes(nested())
    received = receive(find_sources([tmp_path])[0])
    asset = received.asset
    meshes = tuple(replace(m, triangles=m.triangles[:, turned]) for m in asset.meshes)
    other = replace(asset, meshes=meshes)
    if turned[0]:
        assert prove_across(received, asset, replace(received, asset=other), other) == 0.0
    else:
        with pytest.raises(Failed, match="a corner of"):
            prove_across(received, asset, replace(received, asset=other), other)


@pytest.mark.parametrize("key", ["dae", "3mf", "usda", "obj", "gltf"])
def test_names_that_no_one_expects_cross_without_harm(tmp_path, key):
    (tmp_path / "in").mkdir()
    odd = ["a <b> & \"c\" 'd'", "two\nlines", "bell\u0007", "", "0 1", "ünï/cödé", "a <b> & \"c\" 'd'"]
    lists, binary = laid_out(np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0]], "<f4"), np.array([0, 1, 2], "<u2"))
    primitive = {"attributes": {"POSITION": 0}, "indices": 1}
    document = {
        "asset": {"version": "2.0"}, "nodes": [{"name": name, "mesh": 0} for name in odd],
        "meshes": [{"primitives": [primitive]}], **lists,
    }  # fmt: skip
    (tmp_path / "in" / "odd names.glb").write_bytes(glb(document, binary))
    (entry,) = deliver_as(tmp_path, f"{{format: {key}}}")["assets"]
    assert entry["reason"] is None
    out = receive(next(s for s in find_sources([tmp_path / "out"]) if s.path.suffix == f".{key}")).asset
    assert len(out.parts) == len(odd)


def test_one_gltf_wrapping_becomes_the_other_with_nothing_lost(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "nested.glb").write_bytes(nested())
    (entry,) = deliver_as(tmp_path, "{format: gltf}")["assets"]
    assert (entry["output"], entry["warnings"]) == ("nested.gltf", [])
    before = receive(find_sources([tmp_path / "in"])[0]).carrier.json
    after = receive(find_sources([tmp_path / "out"])[0]).carrier.json
    uri = after["buffers"][0].pop("uri")
    assert after == before
    assert (tmp_path / "out" / uri).is_file()
    (tmp_path / "again").mkdir()
    (tmp_path / "again" / "in").symlink_to(tmp_path / "out")
    (entry,) = deliver_as(tmp_path / "again", "{format: glb}")["assets"]
    assert entry["companions"] == []
    assert receive(find_sources([tmp_path / "again" / "out"])[0]).carrier.json == before


def test_lines_are_told_of(tmp_path):
    (tmp_path / "rope.obj").write_text("o rope\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\nl 1 2\n")
    rope = receive(find_sources([tmp_path])[0]).asset
    assert losses(rope, FORMATS["glb"]) == ("its points and lines",)


def test_what_a_target_can_not_hold_is_known_before():
    pennant = receive(next(s for s in find_sources([BATCH]) if s.file == "pennant.glb")).asset
    assert losses(pennant, FORMATS["gltf"]) == ()
    assert losses(pennant, FORMATS["stl"]) == (
        "its clips", "its skins (the shape at rest is written)", "its hierarchy", "the pivots of its parts",
        "the names of its 2 parts", "its normals", "its colours",
        "the roughness and metalness of its materials", "its unit and axes",
    )  # fmt: skip


def test_two_sources_that_would_land_on_one_name_are_told_apart_before_anything_is_written(tmp_path):
    from oak_square.core.errors import BadUsage

    folder = sources(tmp_path / "in")
    (folder / "nested.off").write_bytes(SIGN)
    with pytest.raises(BadUsage, match=r"would both be delivered as 'nested\.ply'"):
        deliver_as(tmp_path, "{format: ply}")
    assert not (tmp_path / "out").exists()


def test_colours_of_a_made_gltf_are_linear(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "board.obj").write_text(LOOKED.replace("map_Kd letters.png", ""))
    (tmp_path / "in" / "board.mtl").write_text("newmtl painted\nKd 1 0.5 0.25\nnewmtl bare\nKd 0.2 0.2 0.02\n")
    deliver_as(tmp_path, "{format: glb}")
    document, _ = opened((tmp_path / "out" / "board.glb").read_bytes())
    colours = [m["pbrMetallicRoughness"]["baseColorFactor"] for m in document["materials"]]
    # IEC 61966-2-1 by hand.
    assert colours[0] == pytest.approx([1.0, 0.214041, 0.050876, 1.0], abs=1e-6)
    assert colours[1] == pytest.approx([0.033105, 0.033105, 0.02 / 12.92, 1.0], abs=1e-6)


@pytest.mark.parametrize("key", ["same", *MADE])
def test_half_a_character_in_a_name_is_a_fault_of_nobody(tmp_path, key):
    document, binary = triangle_document(nodes=[{"name": "a\ud800b", "mesh": 0}], materials=[{"name": "m\udc00"}])
    document["meshes"][0]["primitives"][0]["material"] = 0
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "half.glb").write_bytes(glb(document, binary))
    (entry,) = deliver_as(tmp_path, f"{{format: {key}}}", "{do: turn, by: [0, 30, 0]}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    if key == "same":
        said, _ = opened((tmp_path / "out" / "half.glb").read_bytes())
        assert said["nodes"][0]["name"] == "a\ud800b"
