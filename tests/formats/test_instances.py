"""Instances: whatever a step does, each one is drawn where it should be, or the step is refused."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.core.placement import Placement
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.limits import Limits
from oak_square.formats.register import FORMATS
from tests.made import TRIANGLE, UP_Z, accessor, glb, laid_out, opened
from tests.runs import through, troubles
from tests.strategies import quaternions

SPOTS = np.array([[0, 0, 0], [2, 0, 0], [0, 0, -3]], dtype="<f4")
HALVES = np.array([[0, 0, 0, 127], [0, 127, 0, 0], [0, 90, 0, 90]], dtype="i1")
SIZES = np.array([[1, 1, 1], [2, 2, 2], [-1, 1, 1]], dtype="<f4")


def row_of_posts(*, sizes=SIZES, turns=HALVES, spots=SPOTS, shared=False, **node):
    """A GLB of a post drawn once for each spot; its rotations are bytes."""
    lists, binary = laid_out(TRIANGLE, UP_Z, np.array([0, 1, 2], "<u2"), spots, turns, sizes, a4={"normalized": True})
    attributes = {"TRANSLATION": 3, "ROTATION": 4, "SCALE": 5}
    extension = {"EXT_mesh_gpu_instancing": {"attributes": attributes, "extras": {"kept": 1}}}
    nodes = [{"name": "posts", "mesh": 0, "extensions": extension, **node}]
    if shared:
        nodes.append({"name": "spare", "mesh": 0})
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": list(range(len(nodes)))}], "nodes": nodes,
        "meshes": [{"name": "post", "primitives": [{"attributes": {"POSITION": 0, "NORMAL": 1}, "indices": 2}]}],
        "extensionsUsed": ["EXT_mesh_gpu_instancing"], **lists,
    }  # fmt: skip
    return glb(document, binary)


def drawn(data):
    """Where the file's own numbers put every vertex of every instance, shape (instances, 3, 3), one by one."""
    document, binary = opened(data)
    node = document["nodes"][0]
    of_node = Placement.of(**{k: node[k] for k in ("translation", "rotation", "scale") if k in node}).matrix
    primitive = document["meshes"][node["mesh"]]["primitives"][0]
    points = accessor(document, binary, primitive["attributes"]["POSITION"]).astype(float)
    names = node["extensions"]["EXT_mesh_gpu_instancing"]["attributes"]
    found = []
    for k in range(document["accessors"][names["TRANSLATION"]]["count"]):
        own = {}
        for name, channel in (("TRANSLATION", "translation"), ("ROTATION", "rotation"), ("SCALE", "scale")):
            item = document["accessors"][names[name]]
            if item["componentType"] == 5120:
                view = document["bufferViews"][item["bufferView"]]
                row = np.frombuffer(binary, "i1", 4, view["byteOffset"] + 4 * k)
                own[channel] = np.maximum(row / 127, -1)
            else:
                own[channel] = accessor(document, binary, names[name])[k]
        world = of_node @ Placement.of(**own).matrix
        found.append(points @ world[:3, :3].T + world[:3, 3])
    return np.array(found)


def prepared(folder, data, *steps):
    (folder / "in").mkdir()
    (folder / "in" / "posts.glb").write_bytes(data)
    entry = through(folder, *steps)
    out = folder / "out" / "posts.glb"
    return entry, out.read_bytes() if out.exists() else b""


def test_every_instance_counts_in_box_and_numbers(tmp_path):
    (tmp_path / "posts.glb").write_bytes(row_of_posts())
    asset = receive(find_sources([tmp_path])[0]).asset
    points = drawn(row_of_posts()).reshape(-1, 3)
    assert asset_box(asset).low == pytest.approx(points.min(axis=0), abs=1e-6)
    assert asset_box(asset).high == pytest.approx(points.max(axis=0), abs=1e-6)
    assert (asset.triangle_count, asset.vertex_count) == (3, 9)
    assert "instances" in asset.carries


@settings(max_examples=25)
@given(turn=quaternions(), size=st.floats(0.2, 6), at=st.tuples(*[st.floats(-9, 9)] * 3))
def test_bakes_and_pivots_leave_every_instance_where_it_was(tmp_path_factory, turn, size, at):
    data = row_of_posts(translation=list(at), rotation=list(map(float, turn)), scale=[size] * 3)
    entry, out = prepared(
        tmp_path_factory.mktemp("posts"), data, "{do: pivot, at: middle, of: parts}", "{do: bake, may-refuse: true}"
    )
    assert entry["status"] == "delivered", entry["reason"]
    before, after = drawn(data), drawn(out)
    assert np.abs(after - before).max() < 1e-5 * np.abs(before).max()


def test_a_size_goes_into_the_mesh_and_the_spots(tmp_path):
    entry, out = prepared(tmp_path, row_of_posts(), "{do: size, factor: 3, about: origin}")
    document, binary = opened(out)
    assert entry["deviation_m"] < 1e-5
    assert np.abs(drawn(out) - 3 * drawn(row_of_posts())).max() < 1e-5
    extension = document["nodes"][0]["extensions"]["EXT_mesh_gpu_instancing"]
    assert (extension["extras"], extension["attributes"]["SCALE"]) == ({"kept": 1}, 5)
    assert (accessor(document, binary, extension["attributes"]["TRANSLATION"]) == 3 * SPOTS).all()
    assert troubles(tmp_path / "out") == {"posts.glb": None}


def test_an_uneven_size_is_exact_where_instances_only_move_and_refused_where_they_turn(tmp_path):
    upright = np.array([[0, 0, 0, 127]] * 3, dtype="i1")
    (tmp_path / "a").mkdir()
    data = row_of_posts(turns=upright, sizes=np.ones((3, 3), "<f4"))
    _, out = prepared(tmp_path / "a", data, "{do: size, factor: [1, 2, 3], about: origin}")
    assert np.abs(drawn(out) - drawn(data) * [1, 2, 3]).max() < 1e-5
    slanted = np.array([[0, 0, 0, 127], [40, 0, 0, 120], [0, 0, 0, 127]], dtype="i1")
    (tmp_path / "b").mkdir()
    entry, _ = prepared(tmp_path / "b", row_of_posts(turns=slanted), "{do: size, factor: [1, 2, 3]}")
    assert entry["reason"] == (
        "step 1 (size): the instances of 'posts' would be sheared, which their channels can't hold"
    )


def test_a_node_that_uses_the_same_mesh_alone_is_not_changed_with_it(tmp_path):
    steps = "{do: bake, parts: [posts]}"
    entry, out = prepared(tmp_path, row_of_posts(shared=True, scale=[2, 2, 2]), steps)
    document, binary = opened(out)
    assert entry["warnings"] == ["shared mesh 'post' split: 'post.2' for 'posts'"]
    spare = document["meshes"][document["nodes"][1]["mesh"]]["primitives"][0]["attributes"]["POSITION"]
    assert (accessor(document, binary, spare) == TRIANGLE).all()


def test_instances_are_not_taken_apart(tmp_path):
    entry, _ = prepared(tmp_path, row_of_posts(), "{do: split, parts: [posts], into: pieces}")
    assert "drawn as many instances" in entry["reason"]


def test_more_than_can_be_drawn_is_said_before_it_is_made(tmp_path):
    path = tmp_path / "posts.glb"
    path.write_bytes(row_of_posts())
    with pytest.raises(BadFile, match="draws 9 vertices by instancing, over the limit of 8"):
        FORMATS["glb"].read(path, "posts.glb", Limits(drawn_vertices=8))
    path.write_bytes(row_of_posts(sizes=SIZES[:2]))
    with pytest.raises(BadFile, match="node 0 has instances with different numbers"):
        FORMATS["glb"].read(path, "posts.glb")
