"""Morph targets: every vertex where a step says, at any weight, with its normal pointing where it should."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_square.core.boxes import asset_box, node_box
from oak_square.core.clips import morphed_points, sampled
from oak_square.core.errors import BadFile
from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.delivery.surveying import receive
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.limits import LIMITS
from oak_square.sheet.text import parse_sheet
from tests.made import TRIANGLE, UP_Z, write_glb
from tests.runs import troubles

RAISED = np.array([[0, 0, 0], [0, 0, 1], [0, 0.5, 0]], dtype="<f4")
LEANING = np.array([[0, 0, 0], [0.5, 0, 0], [0, 0.25, -0.1]], dtype="<f4")


def pennant(scale=(1, 1, 1), *, weights=None, node_weights=None, targets=1, rotation=(0, 0, 0, 1)):
    """A triangle with one morph target that raises a corner, its normals leaning with it."""
    corners = np.array([0, 1, 2, 0], "<u2")
    parts = [a.tobytes() for a in (TRIANGLE, UP_Z, RAISED, LEANING, corners)]
    views, at = [], 0
    for part in parts:
        views.append({"buffer": 0, "byteOffset": at, "byteLength": len(part)})
        at += len(part)
    vec = {"componentType": 5126, "count": 3, "type": "VEC3"}
    accessors = [{**vec, "bufferView": k} for k in range(4)]
    accessors[0] |= {"min": [0, 0, 0], "max": [1, 2, 0]}
    accessors[2] |= {"min": [0, 0, 0], "max": [0, 0.5, 1]}
    accessors.append({"bufferView": 4, "componentType": 5123, "count": 3, "type": "SCALAR"})
    primitive = {
        "attributes": {"POSITION": 0, "NORMAL": 1}, "indices": 4,
        "targets": [{"POSITION": 2, "NORMAL": 3}] * targets, "extras": {"kept": True},
    }  # fmt: skip
    node = {"name": "pennant", "mesh": 0, "scale": list(scale), "rotation": list(rotation)}
    mesh = {"name": "pennant", "primitives": [primitive], "extras": {"targetNames": ["raised"]}}
    if weights is not None:
        mesh["weights"] = weights
    if node_weights is not None:
        node["weights"] = node_weights
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [node], "meshes": [mesh],
        "accessors": accessors, "bufferViews": views, "buffers": [{"byteLength": at}],
    }  # fmt: skip
    return document, b"".join(parts)


def through(folder, out, text):
    sources, sheet = tuple(find_sources([folder])), parse_sheet(text, "s")
    manifest = deliver(Run(sources=sources, sheet=sheet, sheet_bytes=text.encode(), out=out, replace=True))
    return manifest["assets"][0]


def bent(received, weight):
    """World positions and unit normals at a weight, worked out from the file's own numbers."""
    document, asset = received.carrier, received.asset
    primitive = document.json["meshes"][0]["primitives"][0]
    of = lambda names, kind: dense(document, names[kind], LIMITS).astype(float)  # noqa: E731
    points = of(primitive["attributes"], "POSITION") + weight * of(primitive["targets"][0], "POSITION")
    normals = of(primitive["attributes"], "NORMAL") + weight * of(primitive["targets"][0], "NORMAL")
    world = asset.worlds[0]
    carried = normals @ np.linalg.inv(world[:3, :3])
    return points @ world[:3, :3].T + world[:3, 3], carried / np.linalg.norm(carried, axis=1, keepdims=True)


BAKE = "prep-sheet: 1\nsteps:\n  - {do: bake}\n  - {do: pivot, at: middle, of: parts}\n"


@settings(max_examples=25)
@given(scale=st.tuples(*[st.floats(0.2, 5)] * 3), turn=st.floats(-3, 3), weight=st.floats(-1, 2))
def test_a_bake_leaves_every_vertex_and_normal_where_it_was_at_any_weight(tmp_path_factory, scale, turn, weight):
    folder = tmp_path_factory.mktemp("morph")
    (folder / "in").mkdir()
    document, binary = pennant(scale, rotation=(0, np.sin(turn / 2), 0, np.cos(turn / 2)))
    write_glb(folder / "in" / "pennant.glb", document, binary)
    entry = through(folder / "in", folder / "out", BAKE)
    assert entry["status"] == "delivered", entry["reason"]
    before, after = (receive(find_sources([folder / n])[0]) for n in ("in", "out"))
    assert after.asset.nodes[0].placement.scale == pytest.approx([1, 1, 1])
    for old, new in zip(bent(before, weight), bent(after, weight), strict=True):
        assert new == pytest.approx(old, abs=1e-5)


def test_a_mirror_keeps_its_targets_and_the_rest_of_the_file(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = pennant((-2, 1, 1))
    write_glb(tmp_path / "in" / "pennant.glb", document, binary)
    assert through(tmp_path / "in", tmp_path / "out", BAKE)["deviation_m"] < 1e-6
    after = receive(find_sources([tmp_path / "out"])[0])
    written = after.carrier.json["meshes"][0]
    assert written["extras"] == {"targetNames": ["raised"]}
    assert written["primitives"][0]["extras"] == {"kept": True}
    assert bent(after, 1.0)[0] == pytest.approx(bent(receive(find_sources([tmp_path / "in"])[0]), 1.0)[0], abs=1e-6)
    accessor = after.carrier.json["accessors"][written["primitives"][0]["targets"][0]["POSITION"]]
    assert accessor["max"] == pytest.approx([0, 0.5, 1])
    assert troubles(tmp_path / "out") == {"pennant.glb": None}


def test_default_weights_count_in_the_box_and_in_the_proof(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = pennant((3, 3, 3), weights=[1.0])
    write_glb(tmp_path / "in" / "pennant.glb", document, binary)
    asset = receive(find_sources([tmp_path / "in"])[0]).asset
    assert asset_box(asset).size == pytest.approx([3, 7.5, 3])
    assert through(tmp_path / "in", tmp_path / "out", BAKE)["size_after_m"]["height"] == pytest.approx(7.5)


def test_nodes_share_a_mesh_at_weights_of_their_own(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = pennant((3, 3, 3), weights=[1.0], node_weights=[0.5])
    document["nodes"][0]["children"] = [1]
    document["nodes"].append({"name": "spare", "mesh": 0})
    write_glb(tmp_path / "in" / "pennant.glb", document, binary)
    asset = receive(find_sources([tmp_path / "in"])[0]).asset
    assert [node_box(asset, i).size[1] for i in (0, 1)] == pytest.approx([6.75, 7.5])
    entry = through(tmp_path / "in", tmp_path / "out", BAKE)
    assert (entry["status"], entry["deviation_m"] < 1e-6) == ("delivered", True)
    after = receive(find_sources([tmp_path / "out"])[0])
    assert after.carrier.json["nodes"][0]["weights"] == [0.5]
    assert [node_box(after.asset, i).size[1] for i in (0, 1)] == pytest.approx([6.75, 7.5])


def test_a_clip_of_weights_says_where_every_vertex_is(tmp_path):
    document, binary = pennant(weights=[0.25])
    keys = np.array([0, 2], "<f4"), np.array([0, 1], "<f4")
    for k, values in enumerate(keys):
        document["bufferViews"].append({"buffer": 0, "byteOffset": len(binary), "byteLength": 8})
        document["accessors"].append({"bufferView": 5 + k, "componentType": 5126, "count": 2, "type": "SCALAR"})
        binary += values.tobytes()
    document["buffers"][0]["byteLength"] = len(binary)
    target = {"node": 0, "path": "weights"}
    document["animations"] = [{"channels": [{"sampler": 0, "target": target}], "samplers": [{"input": 5, "output": 6}]}]
    write_glb(tmp_path / "pennant.glb", document, binary)
    asset = receive(find_sources([tmp_path])[0]).asset
    (track,) = asset.clips[0].morphing
    assert asset.clips[0].length_s == 2.0
    weights = sampled(track, 1.2)
    assert weights == pytest.approx([0.6])
    assert morphed_points(asset.meshes[0], weights) == pytest.approx(TRIANGLE + 0.6 * RAISED, abs=1e-6)


def test_targets_of_another_size_are_said(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = pennant(weights=[0.5, 0.5])
    write_glb(tmp_path / "in" / "pennant.glb", document, binary)
    with pytest.raises(BadFile, match="mesh 0 weights"):
        receive(find_sources([tmp_path / "in"])[0])
    document, binary = pennant()
    document["accessors"][2]["count"] = 2
    write_glb(tmp_path / "in" / "pennant.glb", document, binary)
    with pytest.raises(BadFile, match="morph target of 2 vertices for 3"):
        receive(find_sources([tmp_path / "in"])[0])
