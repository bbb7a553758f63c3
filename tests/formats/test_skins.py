"""Skins: every skinned vertex where it belongs, at rest and in any other pose, after any step that keeps them whole."""

from __future__ import annotations

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.core.placement import Placement
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.skins import bind_matrices
from oak_square.formats.limits import LIMITS
from tests.made import glb
from tests.runs import through, troubles

# A pennant: a strip of four vertices up a pole, held by two joints one above the other.
STRIP = np.array([[0, 0, 0], [1, 0, 0], [0, 2, 0], [1, 2, 0]], dtype="<f4")
JOINTS = np.array([[0, 1, 0, 0]] * 4, dtype="u1")
WEIGHTS = np.array([[1, 0, 0, 0], [1, 0, 0, 0], [0, 1, 0, 0], [0.25, 0.75, 0, 0]], dtype="<f4")
FACES = np.array([0, 1, 3, 0, 3, 2], dtype="<u2")


def pennant(*, pole=None, binds=True, mesh_scale=(5, 5, 5), joints=JOINTS, names=("JOINTS_0", "WEIGHTS_0")):
    """A GLB document whose joints are scaled and turned, and whose mesh hangs from a node that carries nothing."""
    top = np.eye(4)
    top[1, 3] = -1.0
    inverse_binds = np.stack([np.eye(4), top]).transpose(0, 2, 1).astype("<f4")
    parts = [STRIP.tobytes(), joints.tobytes(), WEIGHTS.tobytes(), FACES.tobytes(), inverse_binds.tobytes()]
    views, at = [], 0
    for part in parts:
        views.append({"buffer": 0, "byteOffset": at, "byteLength": len(part)})
        at += len(part)
    accessors = [
        {"bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3", "min": [0, 0, 0], "max": [1, 2, 0]},
        {"bufferView": 1, "componentType": 5121, "count": 4, "type": "VEC4"},
        {"bufferView": 2, "componentType": 5126, "count": 4, "type": "VEC4"},
        {"bufferView": 3, "componentType": 5123, "count": 6, "type": "SCALAR"},
        {"bufferView": 4, "componentType": 5126, "count": 2, "type": "MAT4"},
    ]
    attributes = {"POSITION": 0, names[0]: 1, names[1]: 2}
    nodes = [
        {"name": "pole", "children": [1, 3], **(pole or {"scale": [2, 2, 2], "translation": [10, 0, 0]})},
        {"name": "foot", "children": [2]},
        {"name": "tip", "translation": [0, 1, 0]},
        {"name": "cloth", "mesh": 0, "skin": 0, "scale": list(mesh_scale), "translation": [0, 7, 0]},
    ]
    skin = {"joints": [1, 2], "skeleton": 1, **({"inverseBindMatrices": 4} if binds else {})}
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": nodes, "skins": [skin],
        "meshes": [{"primitives": [{"attributes": attributes, "indices": 3}]}],
        "accessors": accessors, "bufferViews": views, "buffers": [{"byteLength": at}],
    }  # fmt: skip
    return glb(document, b"".join(parts))


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "pennant.glb").write_bytes(pennant())
    return tmp_path


def posed(path, bend=None):
    """Skinned vertices in the world, worked out from the file's own numbers; `bend` turns the tip about its own z."""
    received = receive(find_sources([path])[0])
    document, asset = received.carrier, received.asset
    nodes = document.json["nodes"]
    local = {i: asset.nodes[i].placement.matrix for i in range(len(nodes))}
    if bend is not None:
        half = np.radians(bend) / 2
        local[2] = local[2] @ Placement.of(rotation=(0, 0, np.sin(half), np.cos(half))).matrix
    world = {0: local[0]}
    world[1] = world[0] @ local[1]
    world[2] = world[1] @ local[2]
    binds = bind_matrices(document, 0, LIMITS)
    matrices = [world[1] @ binds[0], world[2] @ binds[1]]
    names = document.json["meshes"][0]["primitives"][0]["attributes"]
    points = dense(document, names["POSITION"], LIMITS).astype(float)
    return np.array([
        sum(WEIGHTS[v, k] * (matrices[JOINTS[v, k]] @ [*points[v], 1])[:3] for k in range(2)) for v in range(4)
    ])  # fmt: skip


def test_the_box_is_that_of_the_rest_pose_and_the_meshs_own_node_counts_for_nothing(folder):
    asset = receive(find_sources([folder / "in"])[0]).asset
    wanted = posed(folder / "in")
    box = asset_box(asset)
    assert box.low == pytest.approx(wanted.min(axis=0))
    assert box.high == pytest.approx(wanted.max(axis=0))
    assert box.size == pytest.approx([2, 4, 0])


@pytest.mark.parametrize(
    "steps",
    [
        ["{do: bake}"],
        ["{do: bake, what: [rotation, scale, location]}"],
        ["{do: pivot, at: middle, of: all}"],
        ["{do: pivot, at: base, of: parts}", "{do: bake, what: [scale]}"],
        ["{do: parent, parts: [cloth], to: null}"],
    ],
    ids=str,
)
@pytest.mark.parametrize("bend", [None, 40.0, -115.0])
def test_what_moves_frames_moves_no_skinned_vertex_at_rest_or_bent(folder, steps, bend):
    before = posed(folder / "in", bend)
    entry = through(folder, *steps)
    assert entry["status"] == "delivered", entry["reason"]
    assert entry["deviation_m"] < 1e-5
    if bend is None or steps != ["{do: bake, what: [rotation, scale, location]}"]:
        after = posed(folder / "out", bend)
        same_frame = np.abs(after - before).max() < 1e-5
        # A pivot that was moved bends about its new place: only the rest pose is the same then.
        assert same_frame or (bend is not None and "pivot" in steps[0])
    assert troubles(folder / "out") == {"pennant.glb": None}


@pytest.mark.parametrize(
    ("step", "motion"),
    [
        ("{do: size, factor: 3, about: origin}", lambda p: 3 * p),
        ("{do: size, height: 2 m, about: origin}", lambda p: p / 2),
        ("{do: unit, reads: cm}", lambda p: p / 100),
        ("{do: turn, by: [0, 90, 0]}", lambda p: p[:, [2, 1, 0]] * [1, 1, -1]),
        ("{do: place, at: origin}", lambda p: p - [11, 0, 0]),
    ],
)
@pytest.mark.parametrize("bend", [None, 70.0])
def test_what_moves_the_asset_moves_every_skinned_vertex_with_it(folder, step, motion, bend):
    before = posed(folder / "in", bend)
    entry = through(folder, step)
    assert entry["status"] == "delivered", entry["reason"]
    assert posed(folder / "out", bend) == pytest.approx(motion(before), abs=2e-5)


def test_another_up_axis_relabels_the_joints_axes_and_moves_the_rest_pose_with_them(folder):
    before = posed(folder / "in")
    assert through(folder, "{do: turn, up: +Z, front: -Y}")["status"] == "delivered"
    assert posed(folder / "out") == pytest.approx(before[:, [0, 2, 1]] * [1, 1, -1], abs=2e-5)
    nodes = receive(find_sources([folder / "out"])[0]).asset.nodes
    assert all(n.placement.rotation.tolist() == [0, 0, 0, 1] for n in nodes)


@pytest.mark.parametrize(
    "step",
    [
        "{do: turn, by: [0, 0, 30], parts: [tip]}",
        "{do: place, at: origin, parts: [foot]}",
        "{do: reset, what: [location], parts: [tip]}",
        "{do: size, factor: 2, parts: [cloth]}",
        "{do: turn, by: [0, 0, 30], parts: [cloth]}",
    ],
)
def test_a_step_that_would_bend_the_skin_is_refused_with_its_name(folder, step):
    entry = through(folder, step)
    assert entry["status"] == "refused"
    assert "the skin of 'cloth' would be bent" in entry["reason"]
    assert not (folder / "out" / "pennant.glb").exists()


def test_a_skin_without_bind_matrices_gets_them_when_they_are_needed(folder):
    (folder / "in" / "pennant.glb").write_bytes(pennant(binds=False))
    before = posed(folder / "in", 30.0)
    assert through(folder, "{do: bake, what: [scale]}")["status"] == "delivered"
    assert posed(folder / "out", 30.0) == pytest.approx(before, abs=1e-5)
    assert through(folder, "{do: bake, what: [rotation]}")["status"] == "unchanged"


@settings(max_examples=20)
@given(scale=st.tuples(*[st.floats(0.2, 4)] * 3), turn=st.floats(-3, 3), bend=st.floats(-90, 90))
def test_a_bake_of_any_pole_keeps_any_pose(tmp_path_factory, scale, turn, bend):
    folder = tmp_path_factory.mktemp("skin")
    (folder / "in").mkdir()
    pole = {"scale": list(scale), "rotation": [0, float(np.sin(turn / 2)), 0, float(np.cos(turn / 2))]}
    (folder / "in" / "pennant.glb").write_bytes(pennant(pole=pole))
    entry = through(folder, "{do: bake}")
    assert entry["status"] in {"delivered", "unchanged"}, entry["reason"]
    assert posed(folder / "out") == pytest.approx(posed(folder / "in"), abs=1e-4)


@pytest.mark.parametrize(
    ("more", "says"),
    [
        ({"joints": np.array([[0, 7, 0, 0]] * 4, dtype="u1")}, "names joint 7 of 2"),
        ({"names": ("JOINTS_0", "COLOR_0")}, None),
    ],
)
def test_joints_that_are_not_there_are_an_error_and_a_mesh_without_any_is_left_alone(folder, more, says):
    (folder / "in" / "pennant.glb").write_bytes(pennant(**more))
    if says is not None:
        with pytest.raises(BadFile, match=says):
            receive(find_sources([folder / "in"])[0])
        return
    entry = through(folder, "{do: bake}")
    assert (entry["status"], "name no joints" in entry["reason"]) == ("refused", True)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda d: d["nodes"][3].update(skin=[0]), "not of glTF's shape"),
        (lambda d: d["nodes"][3].update(skin=4), "names skin 4"),
        (lambda d: d["skins"][0].update(joints=[]), "has no joints"),
        (lambda d: d["skins"][0].update(joints=[9]), "names joint 9"),
        (
            lambda d: d["skins"][0].update(inverseBindMatrices=2),
            "inverse bind matrices",
        ),
        (lambda d: d["accessors"][4].update(count=1), "1 inverse bind matrices for 2 joints"),
        (lambda d: d["accessors"][1].update(count=3), "joints and weights that do not go together"),
    ],
)
def test_skins_that_do_not_hold_together_are_one_clear_error(folder, change, says):
    received = receive(find_sources([folder / "in"])[0]).carrier
    document = json.loads(json.dumps(received.json))
    change(document)
    (folder / "in" / "pennant.glb").write_bytes(glb(document, bytes(received.buffers[0].data)))
    with pytest.raises(BadFile, match=says):
        receive(find_sources([folder / "in"])[0])


def test_joints_keep_one_root_and_a_hint_that_no_longer_holds_is_left_out(tmp_path):
    for name, steps in (("a", "{do: parent, parts: [tip], to: null}"), ("b", "{do: parent, parts: [tip], to: pole}")):
        (tmp_path / name / "in").mkdir(parents=True)
        (tmp_path / name / "in" / "pennant.glb").write_bytes(pennant())
        entry = through(tmp_path / name, steps)
        if name == "a":
            assert "'tip' is a joint of a skin, and would no longer hang from one root" in entry["reason"]
        else:
            assert entry["warnings"] == ["skin 0 no longer hangs whole from 'foot': that is not said of it now"]
            written = receive(find_sources([tmp_path / name / "out"])[0]).carrier.json
            assert "skeleton" not in written["skins"][0]
