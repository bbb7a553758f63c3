from __future__ import annotations

import json
import subprocess
import sys

import numpy as np
import pytest

from oak_square.core.baking import baked
from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import WORKING, translation
from oak_square.core.motion import carry_all, reframe
from oak_square.formats.register import FORMATS
from tests.made import GLOWING, TRIANGLE, accessor, glb, opened, triangle_document, write_glb, write_gltf
from tests.strategies import world_points

EVERY = frozenset({"rotation", "scale"})


def read(path):
    return FORMATS[path.suffix[1:]].read(path, path.name)


def written(received, asset) -> bytes:
    out = FORMATS[asset.format].write(received, asset, WORKING)
    assert out.chunks is not None
    return b"".join(bytes(memoryview(np.ascontiguousarray(p)).cast("B")) if isinstance(p, np.ndarray) else p
                    for p in out.chunks)  # fmt: skip


def bake_all(asset):
    return baked(asset, EVERY, frozenset(range(len(asset.nodes))))


def test_a_glb_reads_as_metres_y_up_with_its_hierarchy(tmp_path):
    nodes = [
        {"name": "post", "children": [1], "translation": [0, 5, 0], "scale": [2, 2, 2]},
        {"name": "sign", "mesh": 0, "translation": [1, 0, 0]},
        {"name": "spare"},
    ]
    document, binary = triangle_document(nodes=nodes)
    asset = read(write_glb(tmp_path / "sign.glb", document, binary)).asset
    assert asset.reading == WORKING
    assert [(n.name, n.kind, n.parent, n.shown) for n in asset.nodes] == [
        ("post", "group", None, True),
        ("sign", "part", 0, True),
        ("spare", "group", None, False),
    ]
    assert world_points(asset, 1) == pytest.approx(TRIANGLE * 2 + [2, 5, 0])


def test_only_what_a_step_touches_is_rewritten(tmp_path):
    document, binary = triangle_document(
        nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2], "extras": {"drawing": "FL-7"}}],
        extensions={"FENWICK_unknown": {"kept": [1, 2, 3]}},
        extensionsUsed=["FENWICK_unknown"],
        materials=[{"name": "oak", "extras": {"stain": 3}}],
    )
    document["bufferViews"].append({"buffer": 0, "byteOffset": 78, "byteLength": 2})
    received = read(write_glb(tmp_path / "sign.glb", document, binary))
    after, body = opened(written(received, bake_all(received.asset)))
    expected = json.loads(json.dumps(document))
    expected["nodes"][0]["scale"] = [1.0, 1.0, 1.0]
    expected["accessors"][0].update(min=[0.0, 0.0, 0.0], max=[2.0, 4.0, 0.0])
    assert after == expected
    assert accessor(after, body, 0) == pytest.approx(TRIANGLE * 2)
    assert body[36:] == binary[36:]  # normals, indices and unused bytes, to the bit


def test_what_nothing_changed_is_the_source_itself(tmp_path):
    document, binary = triangle_document()
    received = read(write_glb(tmp_path / "sign.glb", document, binary))
    assert FORMATS["glb"].write(received, received.asset, WORKING).chunks is None


def test_a_mirror_bake_turns_winding_and_normals_outward(tmp_path):
    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [-1, 1, 1]}])
    received = read(write_glb(tmp_path / "sign.glb", document, binary))
    after, body = opened(written(received, bake_all(received.asset)))
    primitive = after["meshes"][0]["primitives"][0]
    assert accessor(after, body, 0) == pytest.approx(TRIANGLE * [-1, 1, 1])
    assert accessor(after, body, primitive["indices"]).ravel().tolist() == [0, 2, 1]
    assert accessor(after, body, 1) == pytest.approx(np.array([[0, 0, 1]] * 3))


def test_strips_that_are_mirrored_become_triangles(tmp_path):
    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [1, -1, 1]}])
    document["meshes"][0]["primitives"][0]["mode"] = 5
    received = read(write_glb(tmp_path / "sign.glb", document, binary))
    assert received.asset.triangle_count == 1
    after, body = opened(written(received, bake_all(received.asset)))
    primitive = after["meshes"][0]["primitives"][0]
    assert primitive["mode"] == 4
    assert accessor(after, body, primitive["indices"]).ravel().tolist() == [0, 2, 1]


def test_shared_geometry_stays_shared_when_all_need_the_same(tmp_path):
    both = [{"name": "a", "mesh": 0, "scale": [3, 3, 3]}, {"name": "b", "mesh": 0, "scale": [3, 3, 3]}]
    document, binary = triangle_document(nodes=both, scenes=[{"nodes": [0, 1]}])
    received = read(write_glb(tmp_path / "two.glb", document, binary))
    after, body = opened(written(received, bake_all(received.asset)))
    assert len(after["meshes"]) == 1
    assert accessor(after, body, 0) == pytest.approx(TRIANGLE * 3)


def test_shared_geometry_is_split_and_named_when_they_differ(tmp_path):
    both = [{"name": "a", "mesh": 0}, {"name": "b", "mesh": 0, "scale": [3, 3, 3]}]
    document, binary = triangle_document(nodes=both, scenes=[{"nodes": [0, 1]}])
    path = write_glb(tmp_path / "two.glb", document, binary)
    received = read(path)
    prepared = bake_all(received.asset)
    out = FORMATS["glb"].write(received, prepared, WORKING)
    assert out.warnings == ("shared mesh 'sign' split: 'sign.2' for 'b'",)
    path.write_bytes(written(received, prepared))
    again = read(path).asset
    assert [m.name for m in again.meshes] == ["sign", "sign.2"]
    assert world_points(again, 0) == pytest.approx(TRIANGLE)
    assert world_points(again, 1) == pytest.approx(TRIANGLE * 3)


def test_interleaved_quantised_and_sparse_vertices_move_as_they_should(tmp_path):
    rows = np.zeros(3, dtype=[("p", "<i2", 3), ("pad", "<i2"), ("n", "<f4", 3)])
    rows["p"] = [[0, 0, 0], [32767, 0, 0], [0, 16384, 0]]
    rows["n"] = [0, 0, 1]
    override = np.array([2], dtype="<u2").tobytes() + b"\0\0" + np.array([1, 1, 1], dtype="<f4").tobytes()
    binary = rows.tobytes() + override
    document, _ = triangle_document()
    document["nodes"][0]["scale"] = [10, 10, 10]
    document["meshes"][0]["primitives"][0].pop("indices")
    document["bufferViews"] = [
        {"buffer": 0, "byteOffset": 0, "byteLength": 60, "byteStride": 20},
        {"buffer": 0, "byteOffset": 60, "byteLength": 4},
        {"buffer": 0, "byteOffset": 64, "byteLength": 12},
    ]
    normal = {"bufferView": 0, "byteOffset": 8, "componentType": 5126, "count": 3, "type": "VEC3"}
    normal["sparse"] = {
        "count": 1,
        "indices": {"bufferView": 1, "componentType": 5123},
        "values": {"bufferView": 2},
    }
    document["accessors"] = [
        {"bufferView": 0, "componentType": 5122, "normalized": True, "count": 3, "type": "VEC3"},
        normal,
    ]
    document["buffers"] = [{"byteLength": len(binary)}]
    path = write_glb(tmp_path / "odd.glb", document, binary)
    received = read(path)
    wanted = np.array([[0, 0, 0], [1, 0, 0], [0, 16384 / 32767, 0]]) * 10
    assert world_points(received.asset, 0) == pytest.approx(wanted, abs=1e-5)
    path.write_bytes(written(received, bake_all(received.asset)))
    again = read(path).asset
    assert again.nodes[0].placement.scale.tolist() == [1, 1, 1]
    assert world_points(again, 0) == pytest.approx(wanted, abs=1e-5)
    assert again.meshes[0].normals[2] == pytest.approx(np.ones(3) / np.sqrt(3), abs=1e-6)


def test_text_gltf_keeps_its_form_and_writes_its_buffer_beside_it(tmp_path):
    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [2, 2, 2]}])
    path = write_gltf(tmp_path / "sign.gltf", document, binary)
    received = read(path)
    out = FORMATS["gltf"].write(received, bake_all(received.asset), WORKING)
    text = b"".join(out.chunks)
    assert text.startswith(b'{\n  "asset"')
    assert text.endswith(b"}\n")
    after = json.loads(text)
    assert after["buffers"][0]["uri"] == "sign.gltf.bin"
    (companion,) = out.companions
    assert companion.path == "sign.gltf.bin"
    body = b"".join(bytes(p) for p in companion.chunks)
    assert accessor(after, body, 0) == pytest.approx(TRIANGLE * 2)


def test_a_shear_is_refused_where_a_node_can_not_hold_it(tmp_path):
    turned = {"name": "vane", "mesh": 0, "rotation": [0, 0, np.sin(0.3), np.cos(0.3)]}
    nodes = [{"name": "pole", "children": [1], "scale": [1, 3, 1]}, turned]
    document, binary = triangle_document(nodes=nodes)
    received = read(write_glb(tmp_path / "vane.glb", document, binary))
    worlds = received.asset.worlds.copy()
    worlds[0] = np.eye(4)  # the pole straightened, the vane's own frame kept: sheared from then on
    with pytest.raises(Refused, match="'vane' would be sheared"):
        FORMATS["glb"].write(received, reframe(received.asset, worlds), WORKING)


def test_matrices_stay_matrices_and_channels_channels(tmp_path):
    matrix = [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 1, 2, 3, 1]
    document, binary = triangle_document(nodes=[{"mesh": 0, "matrix": matrix}])
    received = read(write_glb(tmp_path / "m.glb", document, binary))
    after, _ = opened(written(received, carry_all(received.asset, translation(np.array([1.0, 0, 0])))))
    assert after["nodes"][0] == {"mesh": 0, "matrix": [*matrix[:12], 2, 2, 3, 1]}


def test_chunks_nobody_knows_survive(tmp_path):
    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [2, 2, 2]}])
    further = (4).to_bytes(4, "little") + b"FENW" + b"oak!"
    path = tmp_path / "sign.glb"
    path.write_bytes(glb(document, binary, further=further))
    received = read(path)
    assert written(received, bake_all(received.asset)).endswith(further)


@pytest.mark.parametrize(
    ("more", "reason"),
    [
        ({"nodes": [{"name": "sign", "mesh": 0, "skin": 0}], "skins": [{"joints": [0]}]}, "skin"),
        ({"animations": GLOWING}, "clips animate"),
    ],
)
def test_what_would_be_bent_is_said_to_be_rigid(tmp_path, more, reason):
    document, binary = triangle_document(**more)
    asset = read(write_glb(tmp_path / "s.glb", document, binary)).asset
    assert asset.rigid_reason is not None
    assert reason in asset.rigid_reason
    assert {"skin", "animation"} & set(asset.carries)


def spoilt(change):
    document, binary = triangle_document()
    change(document)
    return glb(document, binary)


def few_vertices(document):
    document["accessors"][0].update(count=2)
    del document["meshes"][0]["primitives"][0]["attributes"]["NORMAL"]


HOSTILE = [
    ("accessor too long", lambda d: d["accessors"][0].update(count=10**9), "over the limit|reaches past"),
    ("accessor past its view", lambda d: d["accessors"][0].update(count=4), "reaches past its bytes"),
    ("view past its buffer", lambda d: d["bufferViews"][0].update(byteLength=10**12), "reaches past its buffer"),
    ("buffer cut short", lambda d: d["buffers"][0].update(byteLength=10**12), "cut short"),
    ("index out of range", few_vertices, "index 2 for 2 vertices"),
    ("no such accessor", lambda d: d["meshes"][0]["primitives"][0].update(indices=99), "accessor 99 is not there"),
    ("no such mesh", lambda d: d["nodes"][0].update(mesh=5), "mesh 5 is not there"),
    ("its own child", lambda d: d["nodes"][0].update(children=[0]), "its own ancestor"),
    ("negative offset", lambda d: d["bufferViews"][0].update(byteOffset=-4), "not of glTF's shape"),
    ("not finite", lambda d: d["nodes"][0].update(translation=[1e999, 0, 0]), "not finite|JSON number"),
    ("rotation of three", lambda d: d["nodes"][0].update(rotation=[0, 0, 1]), "not of glTF's shape"),
    ("a list for a node", lambda d: d.update(nodes=[[]]), "not of glTF's shape"),
    ("buffer outside", lambda d: d["buffers"][0].update(uri="../../etc/passwd"), "outside its folder"),
    ("buffer outside, encoded", lambda d: d["buffers"][0].update(uri="%2e%2e/%2e%2e/x.bin"), "outside its folder"),
    ("buffer by scheme", lambda d: d["buffers"][0].update(uri="file:///etc/passwd"), "no path inside"),
    ("old version", lambda d: d["asset"].update(version="1.0"), "version '1.0'"),
    ("unknown mode", lambda d: d["meshes"][0]["primitives"][0].update(mode=9), "not of glTF's shape"),
    ("primitives that are none", lambda d: d["meshes"][0].update(primitives=3), "not of glTF's shape"),
    ("normals too few", lambda d: d["accessors"][1].update(count=2), "2 normals for 3 positions"),
]


@pytest.mark.parametrize(("change", "says"), [h[1:] for h in HOSTILE], ids=[h[0] for h in HOSTILE])
def test_a_hostile_glb_is_one_line_that_names_file_and_reason(tmp_path, change, says):
    path = tmp_path / "bad.glb"
    path.write_bytes(spoilt(change))
    with pytest.raises(BadFile, match=says) as caught:
        read(path)
    assert str(caught.value).startswith("bad.glb: ")
    assert "\n" not in str(caught.value)


@pytest.mark.parametrize("keep", [0, 3, 11, 20, 60, -8])
def test_a_glb_that_is_cut_short_says_so(tmp_path, keep):
    document, binary = triangle_document()
    path = tmp_path / "cut.glb"
    path.write_bytes(glb(document, binary)[:keep])
    with pytest.raises(BadFile, match=r"cut short|empty|no GLB|no glTF|can't be read"):
        read(path)


def test_two_parents_and_deep_chains_are_told_before_they_cost(tmp_path):
    document, binary = triangle_document(nodes=[{"children": [2]}, {"children": [2]}, {"mesh": 0}])
    with pytest.raises(BadFile, match="two parents"):
        read(write_glb(tmp_path / "p.glb", document, binary))
    chain = [{"children": [k + 1]} for k in range(5000)] + [{"mesh": 0}]
    document, binary = triangle_document(nodes=chain)
    asset = read(write_glb(tmp_path / "deep.glb", document, binary)).asset
    assert world_points(asset, 5000) == pytest.approx(TRIANGLE)


def test_a_link_out_of_the_folder_is_not_followed(tmp_path):
    outside = tmp_path / "outside.bin"
    outside.write_bytes(b"x" * 80)
    folder = tmp_path / "models"
    folder.mkdir()
    (folder / "link.bin").symlink_to(outside)
    document, _ = triangle_document()
    document["buffers"] = [{"byteLength": 80, "uri": "link.bin"}]
    path = folder / "sign.gltf"
    path.write_text(json.dumps(document))
    with pytest.raises(BadFile, match="outside its folder"):
        read(path)


def test_files_are_read_by_many_threads_at_once_from_the_start(tmp_path):
    write_glb(tmp_path / "sign.glb", *triangle_document())
    program = (
        "import sys; from concurrent.futures import ThreadPoolExecutor; from pathlib import Path; "
        "sys.setswitchinterval(1e-6); from oak_square.formats.register import FORMATS; p = Path(sys.argv[1]); "
        "found = ThreadPoolExecutor(8).map(lambda _: FORMATS['glb'].read(p, 'a'), range(64)); "
        "print(sum(r.asset.triangle_count for r in found))"
    )
    # A process of its own each time: what races is what a process works out once.
    for _ in range(3):
        command = [sys.executable, "-c", program, str(tmp_path / "sign.glb")]
        done = subprocess.run(command, capture_output=True, check=True)
        assert done.stdout == b"64\n"
