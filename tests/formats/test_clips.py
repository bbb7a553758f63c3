"""Clips: the sluice wheel turns as it did, at any time, whatever a step did to its frames; or it is refused."""

from __future__ import annotations

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from oak_square.core.clips import pose
from oak_square.core.errors import BadFile, Failed
from oak_square.delivery.batch import find_sources
from oak_square.delivery.proof_clips import prove_clips
from oak_square.delivery.surveying import receive
from tests.made import TRIANGLE, glb
from tests.runs import through, troubles

TIMES = np.array([0, 1, 2.5], dtype="<f4")
HALF = np.sqrt(0.5)
TURNS = np.array([[0, 0, 0, 1], [0, 0, HALF, HALF], [0, 0, 1, 0]], dtype="<f4")
LIFTS = np.array([[[0, 0, 0], [0, y, 0], [0, 1, 0]] for y in (1, 2, 1.5)], dtype="<f4").reshape(-1, 3)
SIZES = np.array([[1, 1, 1], [2, 2, 2], [1, 1, 1]], dtype="<f4")


def sluice(*, frame=None, wheel=None, sizes=SIZES, matrix=False, path=None):
    """A frame, a gate below it that lifts (spline), and on the gate a wheel that turns and swells (linear)."""
    parts = [TRIANGLE, np.array([0, 1, 2, 0], "<u2"), TIMES, TURNS, LIFTS, sizes]
    views, at, blob = [], 0, b""
    for part in parts:
        views.append({"buffer": 0, "byteOffset": at, "byteLength": part.nbytes})
        at, blob = at + part.nbytes, blob + part.tobytes()
    kinds = [("VEC3", 3), ("SCALAR", 3), ("SCALAR", 3), ("VEC4", 3), ("VEC3", 9), ("VEC3", 3)]
    accessors = [
        {"bufferView": k, "componentType": 5123 if k == 1 else 5126, "count": n, "type": t}
        for k, (t, n) in enumerate(kinds)
    ]
    accessors[0] |= {"min": [0, 0, 0], "max": [1, 2, 0]}
    accessors[2] |= {"min": [0], "max": [2.5]}
    channels = [
        {"sampler": 0, "target": {"node": 2, "path": path or "rotation"}},
        {"sampler": 1, "target": {"node": 1, "path": "translation"}},
        {"sampler": 2, "target": {"node": 2, "path": "scale"}},
    ]
    samplers = [
        {"input": 2, "output": 3},
        {"input": 2, "output": 4, "interpolation": "CUBICSPLINE"},
        {"input": 2, "output": 5, "interpolation": "STEP"},
    ]
    nodes = [
        {"name": "frame", "children": [1], "mesh": 0, **(frame or {"scale": [2, 2, 2], "translation": [5, 0, 0]})},
        {"name": "gate", "children": [2], "translation": [0, 1, 0]},
        {"name": "wheel", "mesh": 0, **(wheel or {"translation": [0, 0, 3]})},
    ]
    if matrix:
        nodes[2] = {"name": "wheel", "mesh": 0, "matrix": np.eye(4).ravel().tolist()}
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": nodes,
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1}]}],
        "animations": [{"name": "open", "channels": channels, "samplers": samplers, "extras": {"kept": 1}}],
        "accessors": accessors, "bufferViews": views, "buffers": [{"byteLength": at}],
    }  # fmt: skip
    return glb(document, blob)


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "sluice.glb").write_bytes(sluice())
    return tmp_path


def moving(path, at_s):
    """World vertices of frame and wheel at a time."""
    asset = receive(find_sources([path])[0]).asset
    worlds = pose(asset, asset.clips[0], at_s)
    found = []
    for i in (0, 2):
        matrix = worlds[i] @ asset.nodes[i].local_from_mesh
        found.append(np.asarray(asset.mesh_of(i).points, dtype=float) @ matrix[:3, :3].T + matrix[:3, 3])
    return np.concatenate(found)


AT = (0.0, 0.3, 1.0, 1.8, 2.5)


@pytest.mark.parametrize(
    "step",
    [
        "{do: bake}",
        "{do: bake, what: [scale]}",
        "{do: pivot, at: base, parts: [frame]}",
        "{do: pivot, at: {xyz: [1, 2, 3]}, axes: world, of: all, parts: [gate]}",
        "{do: pivot, at: {xyz: [0, 0, 0], in: part}, axes: {bring: +X, to: top}, parts: [wheel]}",
    ],
)
def test_what_moves_frames_leaves_every_moving_vertex_where_it_was(folder, step):
    before = [moving(folder / "in", t) for t in AT]
    entry = through(folder, step)
    assert entry["status"] == "delivered", entry["reason"]
    assert entry["deviation_m"] < 1e-4
    for at_s, wanted in zip(AT, before, strict=True):
        assert moving(folder / "out", at_s) == pytest.approx(wanted, abs=2e-5)
    assert troubles(folder / "out") == {"sluice.glb": None}


@pytest.mark.parametrize(
    ("step", "motion"),
    [
        ("{do: size, factor: 3, about: origin}", lambda p: 3 * p),
        ("{do: unit, reads: cm}", lambda p: p / 100),
        ("{do: turn, by: [0, 90, 0]}", lambda p: p[:, [2, 1, 0]] * [1, 1, -1]),
        ("{do: turn, up: +Z, front: -Y}", lambda p: p[:, [0, 2, 1]] * [1, 1, -1]),
        ("{do: place, at: [1, 2, 3], by: pivot}", lambda p: p + np.array([1, 2, 3])),
    ],
)
def test_what_moves_the_asset_moves_its_clips_with_it(folder, step, motion):
    before = [moving(folder / "in", t) for t in AT]
    entry = through(folder, step)
    assert entry["status"] == "delivered", entry["reason"]
    for at_s, wanted in zip(AT, before, strict=True):
        assert moving(folder / "out", at_s) == pytest.approx(motion(wanted), abs=5e-5)
    written = receive(find_sources([folder / "out"])[0]).carrier.json["animations"][0]
    assert written["extras"] == {"kept": 1}
    assert [s.get("interpolation", "LINEAR") for s in written["samplers"]] == ["LINEAR", "CUBICSPLINE", "STEP"]


@pytest.mark.parametrize(
    ("step", "why"),
    [
        ("{do: pivot, at: base, parts: [wheel]}", "turns or sizes it in steps"),
        ("{do: place, at: origin, parts: [wheel]}", "'wheel' would move by itself"),
        ("{do: parent, parts: [wheel], to: frame}", "'wheel' is animated, and would hang from another node"),
        ("{do: size, factor: [1, 2, 1]}", "can't hold an uneven scale"),
    ],
)
def test_what_no_clip_can_hold_is_refused_with_its_node(folder, step, why):
    entry = through(folder, step)
    assert entry["status"] == "refused"
    assert why in entry["reason"]
    assert not (folder / "out" / "sluice.glb").exists()


def test_a_sampler_that_two_nodes_share_is_parted_when_they_need_different_keys(folder):
    data = receive(find_sources([folder / "in"])[0]).carrier.json
    assert len(data["animations"][0]["samplers"]) == 3
    raw = (folder / "in" / "sluice.glb").read_bytes()
    # The wheel's lift is given to the gate as well: both follow one sampler.
    old = b'"sampler": 2, "target": {"node": 2, "path": "scale"}'
    shared = raw.replace(old, b'"sampler": 1, "target": {"node": 2, "path": "translation"}')
    size = len(shared) - len(raw)
    text = int.from_bytes(raw[12:16], "little") + size
    padding = -text % 4
    body = shared[20 : 20 + text] + b" " * padding + shared[20 + text :]
    total = 20 + len(body)
    head = shared[:8] + total.to_bytes(4, "little") + (text + padding).to_bytes(4, "little") + shared[16:20]
    (folder / "in" / "sluice.glb").write_bytes(head + body)
    before = [moving(folder / "in", t) for t in AT]
    assert through(folder, "{do: bake}")["status"] == "delivered"
    for at_s, wanted in zip(AT, before, strict=True):
        assert moving(folder / "out", at_s) == pytest.approx(wanted, abs=2e-5)


@settings(max_examples=15)
@given(scale=st.floats(0.2, 4), turn=st.floats(-3, 3), at_s=st.floats(0, 2.5))
def test_a_bake_of_any_frame_keeps_any_time(tmp_path_factory, scale, turn, at_s):
    folder = tmp_path_factory.mktemp("clip")
    (folder / "in").mkdir()
    frame = {"scale": [scale] * 3, "rotation": [float(np.sin(turn / 2)), 0, 0, float(np.cos(turn / 2))]}
    (folder / "in" / "sluice.glb").write_bytes(sluice(frame=frame))
    assert through(folder, "{do: bake}")["status"] in {"delivered", "unchanged"}
    assert moving(folder / "out", at_s) == pytest.approx(moving(folder / "in", at_s), abs=1e-4)


def test_a_clip_that_went_wrong_does_not_pass_the_proof(folder):
    received = receive(find_sources([folder / "in"])[0]).asset
    (folder / "in" / "sluice.glb").write_bytes(sluice(sizes=SIZES * 1.01))
    spoilt = receive(find_sources([folder / "in"])[0]).asset
    assert prove_clips(received, received, received) == pytest.approx(0)
    with pytest.raises(Failed, match="a clip leaves a part"):
        prove_clips(received, received, spoilt)


@pytest.mark.parametrize(("more", "why"), [({"matrix": True}, "has a matrix"), ({"path": "pointer"}, "'pointer'")])
def test_clips_that_are_not_known_keep_the_model_as_it_is(folder, more, why):
    (folder / "in" / "sluice.glb").write_bytes(sluice(**more))
    entry = through(folder, "{do: bake}")
    assert entry["status"] == "refused"
    assert why in entry["reason"]


@pytest.mark.parametrize("with_lift", [False, True])
def test_a_pivot_moved_under_a_turning_node_is_resampled_and_said(folder, with_lift):
    """The wheel's path about its new pivot is a curve: keys are added until the lines between them hold it."""
    document = receive(find_sources([folder / "in"])[0]).carrier
    channels = document.json["animations"][0]["channels"]
    channels = (
        channels[:1] if not with_lift else [channels[0], {"sampler": 1, "target": {"node": 2, "path": "translation"}}]
    )
    changed = {**document.json, "animations": [{**document.json["animations"][0], "channels": channels}]}
    (folder / "in" / "sluice.glb").write_bytes(glb(changed, bytes(document.buffers[0].data)))
    times = np.linspace(0, 2.5, 41)
    before = [moving(folder / "in", t) for t in times]
    entry = through(folder, "{do: pivot, at: {point: [right, top, middle]}, parts: [wheel]}")
    assert entry["status"] == "delivered", entry["reason"]
    assert any("the path of 'wheel' about its new pivot is resampled at" in w for w in entry["warnings"])
    diagonal = np.linalg.norm(np.ptp(before[0], axis=0))
    for at_s, wanted in zip(times, before, strict=True):
        assert np.abs(moving(folder / "out", at_s) - wanted).max() < 2e-4 * diagonal
    assert troubles(folder / "out") == {"sluice.glb": None}
    asset = receive(find_sources([folder / "out"])[0]).asset
    if not with_lift:
        assert asset.worlds[2][:3, 3] == pytest.approx(before[0][3:].max(axis=0), abs=1e-5)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda a: a["channels"][0].update(sampler=9), "can't be read"),
        (lambda a: a["channels"][0].update(target=None), "can't be read"),
        (lambda a: a["channels"][0]["target"].update(node=77), "animate node 77"),
        (lambda a: a["samplers"][0].update(interpolation="WAVY"), "go 'WAVY' between keys"),
        (lambda a: a.update(channels="none"), None),
    ],
)
def test_clips_that_do_not_hold_together_leave_the_model_as_it_is(folder, change, says):
    received = receive(find_sources([folder / "in"])[0]).carrier
    document = json.loads(json.dumps(received.json))
    change(document["animations"][0])
    (folder / "in" / "sluice.glb").write_bytes(glb(document, bytes(received.buffers[0].data)))
    asset = receive(find_sources([folder / "in"])[0]).asset
    assert (asset.rigid_reason is None) == (says is None)
    assert says is None or says in asset.rigid_reason


def test_a_clip_with_other_counts_of_times_and_values_is_an_error(folder):
    received = receive(find_sources([folder / "in"])[0]).carrier
    document = json.loads(json.dumps(received.json))
    document["accessors"][3]["count"] = 2
    (folder / "in" / "sluice.glb").write_bytes(glb(document, bytes(received.buffers[0].data)))
    with pytest.raises(BadFile, match="has 2 values for 3 times"):
        receive(find_sources([folder / "in"])[0])
