"""What a bake announces of each node, held against what is found in the numbers by other ways."""

from __future__ import annotations

import shutil

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from oak_square.core.baking import baked
from oak_square.core.consequences import consequences_of
from oak_square.core.errors import Refused
from oak_square.core.frames import axis_turn
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS
from tests.formats.test_collada import BRIDGE
from tests.formats.test_mixed_files import Maker, World
from tests.formats.test_obj import GATE
from tests.formats.test_polygons import plates
from tests.formats.test_usd import SIGN
from tests.made import accessor
from tests.runs import through
from tests.strategies import assets, solid_box, world_points

CHANNELS = st.sets(st.sampled_from(["rotation", "scale", "location"]), min_size=1)


def told(before, after):
    return {(c.node, c.kind): c.amount for c in consequences_of(before, after)}


def unit_columns(world):
    return world[:3, :3] / np.linalg.norm(world[:3, :3], axis=0)


@given(asset=assets(), what=CHANNELS)
def test_what_happens_is_announced_and_what_is_announced_happens(asset, what):
    try:
        after = baked(asset, frozenset(what), frozenset(range(len(asset.nodes))))
    except Refused:
        assume(False)
    said = told(asset, after)
    size = max(np.abs(asset.worlds[:, :3, 3]).max(), 1e-9)
    for i, node in enumerate(asset.nodes):
        old, new = asset.worlds[i], after.worlds[i]
        off = np.linalg.norm(new[:3, 3] - old[:3, 3])
        assert ((i, "pivot") in said) == (off > 1e-9 * size) or off < 1e-6 * size
        # A pair of axes lie on one line just where their product is one: no frame of ours is asked.
        lines = np.abs((unit_columns(old) * unit_columns(new)).sum(axis=0)).min()
        turned = np.degrees(np.arccos(np.clip(lines, -1, 1)))
        if abs(turned - 0.01) > 2e-3:
            assert ((i, "axes") in said) == (turned > 0.01)
        if node.mesh is None:
            assert (i, "mirror") not in said
            assert (i, "shear") not in said
            continue
        change = after.nodes[i].local_from_mesh[:3, :3] @ np.linalg.inv(node.local_from_mesh[:3, :3])
        assert ((i, "mirror") in said) == (np.linalg.det(change) < 0)
        lengths = np.linalg.norm(change, axis=0)
        lean = np.abs((change / lengths).T @ (change / lengths) - np.eye(3)).max()
        if not 0.5e-4 < lean < 2e-4:
            assert ((i, "shear") in said) == (lean > 1e-4)
        assert np.abs(world_points(asset, i) - world_points(after, i)).max() <= 1e-6 * max(
            np.abs(world_points(asset, i)).max(), 1e-9
        )


def test_amounts_are_degrees_from_the_world_and_metres():
    quarter = Placement.from_matrix(np.vstack([np.c_[axis_turn(1, 34.0), [3.0, 0, 4.0]], [0, 0, 0, 1]]), what="leaf")
    asset = Asset(
        file="a.glb", format="glb", reading=_working(), meshes=(solid_box(np.ones(3)),),
        nodes=(Node(name="leaf", parent=None, placement=quarter, mesh=0),),
    )  # fmt: skip
    after = baked(asset, frozenset(["rotation", "location"]), frozenset([0]))
    assert told(asset, after) == {(0, "axes"): pytest.approx(34.0), (0, "pivot"): pytest.approx(5.0)}


@pytest.mark.parametrize("what", [["rotation", "scale"], ["location"], ["scale"]])
@pytest.mark.parametrize("file", ["sluice_wheel.glb", "pennant.glb", "mooring_bollards.glb", "reed_clump.glb"])
def test_what_was_announced_is_what_the_delivered_file_shows(tmp_path, file, what):
    (tmp_path / "in").mkdir()
    shutil.copy(BATCH / file, tmp_path / "in")
    assert_announced(tmp_path, what)


@settings(max_examples=30)
@given(seed=st.integers(0, 10_000), what=CHANNELS)
def test_what_was_announced_is_what_files_of_every_mixture_show(tmp_path_factory, seed, what):
    folder = tmp_path_factory.mktemp("announced")
    (folder / "in").mkdir()
    (folder / "in" / "made.glb").write_bytes(Maker(seed).file())
    assert_announced(folder, sorted(what))


def assert_announced(folder, what):
    """Bake the one GLB of `folder`/in and hold what was told beforehand against the bytes before and after."""
    source = find_sources([folder / "in"])[0]
    received = receive(source).asset
    after = evaluate(received, Sheet(steps=(STEPS["bake"].model_validate({"do": "bake", "what": what}),)))
    entry = through(folder, f"{{do: bake, what: {what}}}")
    if after.status != "ready":
        assert entry["status"] == "refused"
        return
    if entry["status"] == "refused":
        assert "would be sheared" in entry["reason"], entry["reason"]  # seen only where the file is written
        return
    said = told(received, after.asset)
    old, new = (World((folder / d / source.path.name).read_bytes()) for d in ("in", "out"))
    frames = [np.array(w.worlds(None)[0]) for w in (old, new)]
    size = max(np.abs(frames[0][:, :3, 3]).max(), 1e-9)
    for i, node in enumerate(old.json["nodes"]):
        name = node["name"]
        assert_told_of_frame(i, said, frames[0][i], frames[1][i], size)
        values = [_tracks(w.json, w.binary, i) for w in (old, new)]
        changed = values[0].keys() != values[1].keys() or any(
            values[0][k].shape != values[1][k].shape or np.abs(values[0][k] - values[1][k]).max() > 1e-5
            for k in values[0]
        )
        assert changed == bool({(i, "clip"), (i, "path")} & said.keys()), name
        told_so = [w for w in entry["warnings"] if "resampled" in w and f"'{name}'" in w]
        assert ((i, "path") in said) == bool(told_so), name
        if "mesh" in node:
            users = [[n.get("mesh") for n in w.json["nodes"]].count(w.json["nodes"][i]["mesh"]) for w in (old, new)]
            assert ((i, "shared") in said) == (users[1] < users[0]), name


TEXTS = {"bridge.dae": BRIDGE, "sign.usda": SIGN, "gate.obj": GATE, "plate.dae": plates(0)["dae"]}
OTHERS = sorted(p.name for p in BATCH.iterdir() if p.suffix in {".dae", ".usda", ".obj", ".3mf", ".ply", ".stl"})


@pytest.mark.parametrize("what", [["rotation", "scale"], ["location"]])
@pytest.mark.parametrize("file", [*OTHERS, *TEXTS])
def test_frames_come_out_of_every_other_format_as_was_announced(tmp_path, file, what):
    (tmp_path / "in").mkdir()
    if file in TEXTS:
        (tmp_path / "in" / file).write_bytes(TEXTS[file].encode())
    else:
        shutil.copy(BATCH / file, tmp_path / "in")
    received = receive(find_sources([tmp_path / "in"])[0]).asset
    after = evaluate(received, Sheet(steps=(STEPS["bake"].model_validate({"do": "bake", "what": what}),)))
    entry = through(tmp_path, f"{{do: bake, what: {what}}}")
    if entry["status"] == "refused":
        assert after.status == "refused" or "would be sheared" in entry["reason"], entry["reason"]
        return
    said = told(received, after.asset)
    written = receive(find_sources([tmp_path / "out" / file])[0]).asset
    assert [n.name for n in written.nodes] == [n.name for n in received.nodes]
    size = max(np.abs(received.worlds[:, :3, 3]).max(), 1e-9)
    for i in range(len(received.nodes)):
        assert_told_of_frame(i, said, received.worlds[i], written.worlds[i], size)


def assert_told_of_frame(i, said, old, new, size):
    """Hold what was told of a node's own frame against its world before and after."""
    off = np.linalg.norm(new[:3, 3] - old[:3, 3])
    assert ((i, "pivot") in said) == (off > 1e-5 * size) or off < 1e-4 * size
    lines = np.abs((unit_columns(old) * unit_columns(new)).sum(axis=0)).min()
    turned = np.degrees(np.arccos(np.clip(lines, -1, 1)))
    # Files hold float32, and the arc cosine of nearly 1 knows a few hundredths of a degree of it.
    if not 0.005 < turned < 0.06:
        assert ((i, "axes") in said) == (turned > 0.01)


def _tracks(document, data, node):
    """What a node's channels go through, by clip and path."""
    found = {}
    for k, clip in enumerate(document.get("animations", [])):
        for channel in clip["channels"]:
            if channel["target"].get("node") == node:
                sampler = clip["samplers"][channel["sampler"]]
                found[k, channel["target"]["path"]] = accessor(document, data, sampler["output"])
    return found


def _working():
    from oak_square.core.frames import WORKING

    return WORKING
