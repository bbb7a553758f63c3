"""The set-out: delivered models in one scene, where other readers find them where the manifest says."""

from __future__ import annotations

import errno
import json
import shutil

import numpy as np
import pytest
import trimesh
from pxr import Usd, UsdGeom

from oak_square.core.errors import BadReference, BadSheet, BadUsage
from oak_square.delivery.proving import prove
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.text import parse_sheet
from tests.app import lockworks
from tests.delivery.test_delivery import hashes, run

BERTHS = "berths: {sill: {at: [1, 2, 3], turn: [0, 90, 0]}, quay: {at: [-4, 0, 0]}, far: {at: [9, 0, 1]}}\n"
HEAD = "prep-sheet: 1\n"
STEPS = "steps:\n  - {do: place, at: origin, by: base}\n"


def sheet(scene, at="{post: sill}", row="", deliver=""):
    row = f", row: {row}" if row else ""
    return f"{HEAD}{deliver}{BERTHS}set-out: {{file: {scene}, at: {at}{row}}}\n{STEPS}"


def part(name, size):
    return [lockworks.Part(name, *lockworks.box(size))]


@pytest.fixture
def yard(tmp_path):
    """A post two high, a crate, and a plank in a folder below."""
    folder = tmp_path / "yard"
    (folder / "deep").mkdir(parents=True)
    lockworks.write(folder / "post.glb", part("post", (0.4, 2.0, 0.2)))
    lockworks.write(folder / "crate.glb", part("crate", (1.0, 1.0, 1.0)))
    lockworks.write(folder / "deep" / "plank.glb", part("plank", (3.0, 0.1, 0.5)))
    return folder


def matrices(manifest):
    return [np.array(p["matrix"]).reshape(4, 4).T for p in manifest["set_out"]["placed"]]


def boxes_in_usd(path):
    """Return the world box, metres, Y up, of each model of a scene, by the library's own bounds."""
    stage = Usd.Stage.Open(str(path))
    assert (UsdGeom.GetStageMetersPerUnit(stage), UsdGeom.GetStageUpAxis(stage)) == (1.0, "Y")
    cache = UsdGeom.BBoxCache(Usd.TimeCode.Default(), ["default", "render"])
    found = [cache.ComputeWorldBound(p).ComputeAlignedRange() for p in stage.GetDefaultPrim().GetChildren()]
    return [np.array([b.GetMin(), b.GetMax()]) for b in found]


def boxes_in_glb(path):
    """Return the box of each root of a scene, by another library."""
    scene = trimesh.load(str(path), process=False)
    found = []
    for root in scene.graph.transforms.children["world"]:
        below = scene.graph.transforms.successors(root)
        corners = []
        for node in below:
            matrix, geometry = scene.graph[node]
            if geometry is not None:
                points = scene.geometry[geometry].vertices
                corners.append(points @ matrix[:3, :3].T + matrix[:3, 3])
        points = np.vstack(corners)
        found.append(np.array([points.min(axis=0), points.max(axis=0)]))
    return found


@pytest.mark.parametrize(
    ("scene", "deliver", "boxes"),
    [
        ("lock.usda", "deliver: {format: usda}\n", boxes_in_usd),
        ("lock.usdc", "deliver: {format: usdc, unit: cm, up: Z}\n", boxes_in_usd),
        ("lock.glb", "", boxes_in_glb),
        ("lock.glb", "deliver: {format: obj, unit: mm, up: Z}\n", boxes_in_glb),
    ],
)
def test_other_readers_find_each_where_its_berth_or_its_row_is(yard, tmp_path, scene, deliver, boxes):
    unit = next((n for word, n in (("cm", 100), ("mm", 1000)) if f"unit: {word}" in deliver), 1)
    text = sheet(scene, "{post: sill, crate: [quay, far]}", "{gap: 50 cm}", deliver)
    if "up: Z" in deliver:
        # The sheet's numbers are along the delivery's axes, in its unit.
        numbers = {"[1, 2, 3]": (1, -3, 2), "[-4, 0, 0]": (-4, 0, 0), "[9, 0, 1]": (9, -1, 0)}
        for typed, (x, y, z) in numbers.items():
            text = text.replace(typed, f"[{x * unit}, {y * unit}, {z * unit}]")
        text = text.replace("turn: [0, 90, 0]", "turn: [0, 0, 90]")
    out = tmp_path / "out"
    manifest = run(yard, out, text)
    assert manifest["warnings"] == []
    said = manifest["set_out"]
    assert [(p["asset"], p["berth"]) for p in said["placed"]] == [
        ("post.glb", "sill"), ("crate.glb", "quay"), ("crate.glb", "far"), ("deep/plank.glb", None),
    ]  # fmt: skip
    quarter = np.array([[0, 0, 1], [0, 1, 0], [-1, 0, 0]], dtype=float)
    assert matrices(manifest)[0][:3, :3] == pytest.approx(quarter, abs=1e-9)
    assert matrices(manifest)[0][:3, 3] == pytest.approx([1, 2, 3], abs=1e-9)
    wanted = [
        [[0.9, 2, 2.8], [1.1, 4, 3.2]], [[-4.5, 0, -0.5], [-3.5, 1, 0.5]], [[8.5, 0, 0.5], [9.5, 1, 1.5]],
        [[0, 0, -0.25], [3, 0.1, 0.25]],
    ]  # fmt: skip
    found = boxes(out / scene)
    if scene.endswith(".glb"):  # whose reader keeps no order
        found, wanted = (sorted(np.round(np.array(each), 4).tolist()) for each in (found, wanted))
    assert np.array(found) == pytest.approx(np.array(wanted), abs=1e-4)
    assert all(p.trouble is None for p in prove(out))
    assert [p.name for p in prove(out)][-1] == scene


def test_copies_in_a_glb_share_one_mesh_and_jobs_make_no_difference(yard, tmp_path):
    text = sheet("lock.glb", "{crate: [sill, quay, far]}")
    run(yard, tmp_path / "one", text)
    run(yard, tmp_path / "two", text, jobs=2)
    assert hashes(tmp_path / "one") == hashes(tmp_path / "two")
    data = (tmp_path / "one" / "lock.glb").read_bytes()
    document = json.loads(data[20 : 20 + int.from_bytes(data[12:16], "little")])
    assert len(document["meshes"]) == 1
    before = hashes(tmp_path / "one")
    run(yard, tmp_path / "one", text, resume=True)
    assert hashes(tmp_path / "one") == before


def test_what_was_not_delivered_is_left_out_with_a_warning(yard, tmp_path):
    (yard / "post.glb").write_bytes(b"no model at all")
    manifest = run(yard, tmp_path / "out", sheet("lock.glb", "{post: sill, crate: quay}"))
    assert manifest["warnings"] == ["set-out: 'post.glb' was not delivered, and is left out"]
    assert [p["asset"] for p in manifest["set_out"]["placed"]] == ["crate.glb"]
    assert "set_out" not in run(yard, tmp_path / "plain", HEAD + STEPS)
    dry = run(yard, tmp_path / "dry", sheet("lock.glb"), dry=True)
    assert dry["set_out"] == {"output": None, "sha256": None, "placed": []}
    again = run(yard, tmp_path / "out", sheet("lock.glb"), dry=True)["warnings"]
    assert f"it would stop: {tmp_path / 'out' / 'lock.glb'}: exists" in again


def test_a_full_disk_costs_the_set_out_and_not_the_delivery(yard, tmp_path, monkeypatch):
    def full(path, _chunks):
        raise OSError(errno.ENOSPC, "No space left on device", str(path))

    monkeypatch.setattr("oak_square.delivery.set_out.write_chunks", full)
    manifest = run(yard, tmp_path / "out", sheet("lock.glb"))
    assert manifest["set_out"] == {"output": None, "sha256": None, "placed": []}
    assert manifest["warnings"] == ["set-out: not written: lock.glb: No space left on device"]
    assert {p.name for p in (tmp_path / "out").iterdir()} == {"crate.glb", "deep", "post.glb", "delivery.json"}
    assert all(proof.trouble is None for proof in prove(tmp_path / "out"))


@pytest.mark.parametrize("scene", ["lock.glb", "lock.usda"])
def test_the_proof_sees_a_scene_that_was_changed_and_a_model_that_stands_elsewhere(yard, tmp_path, scene):
    out = tmp_path / "out"
    run(yard, out, sheet(scene, deliver="" if scene == "lock.glb" else "deliver: {format: usda}\n"))
    kept = tmp_path / "kept"
    shutil.copytree(out, kept)
    (out / scene).write_bytes((out / scene).read_bytes() + b"\n")
    assert "is not the file that was delivered" in prove(out)[-1].trouble
    manifest = json.loads((kept / "delivery.json").read_text())
    manifest["set_out"]["placed"][0]["matrix"][12] += 0.001
    (kept / "delivery.json").write_text(json.dumps(manifest))
    assert prove(kept)[-1].trouble == "'post.glb' does not stand where it should"
    manifest["set_out"]["placed"] = "nowhere"
    (kept / "delivery.json").write_text(json.dumps(manifest))
    assert "is no set-out" in prove(kept)[-1].trouble


@pytest.mark.parametrize(
    ("text", "line", "reason"),
    [
        (sheet("lock.obj"), 3, "its suffix is one of"),
        (sheet("deep/lock.glb"), 3, "no plain file name"),
        (sheet("lock.glb", "{post: sil}"), 3, "no berth 'sil' is declared; did you mean 'sill'?"),
        (sheet("lock.glb", "{}"), 3, "needs 'at', 'row', or both"),
        (sheet("lock.glb", row="{gap: -1}"), 3, "a gap is no less than nothing"),
        (sheet("lock.glb", row="{gap: 1 mod}"), 3, "'mod' needs a module length"),
        (sheet("lock.glb", row="{colums: 2}"), 3, "unknown key"),
        (sheet("lock.usda", deliver="deliver: {format: glb}\n"), 4, "refers to USD files, and glb is delivered"),
    ],
)
def test_a_set_out_that_can_not_be_is_a_bad_sheet(text, line, reason):
    with pytest.raises(BadSheet) as caught:
        parse_sheet(text, "s.yaml")
    assert reason in caught.value.reason
    assert caught.value.line == line


def test_names_and_files_that_do_not_fit_the_batch_stop_it_before_anything_is_written(yard, tmp_path):
    for text, error, reason in (
        (sheet("lock.glb", "{past: sill}"), BadReference, "there is no asset 'past' in the batch"),
        (sheet("lock.usda"), BadReference, "'post.glb' is delivered as glb"),
        (sheet("CRATE.glb"), BadUsage, "is what an asset is delivered as"),
    ):
        with pytest.raises(error, match=reason):
            run(yard, tmp_path / "out", text)
        assert not (tmp_path / "out").exists()
    (tmp_path / "out").mkdir()
    (tmp_path / "out" / "lock.glb").write_text("mine")
    with pytest.raises(BadUsage, match="exists"):
        run(yard, tmp_path / "out", sheet("lock.glb"))
    assert (tmp_path / "out" / "lock.glb").read_text() == "mine"


def test_a_set_out_comes_back_from_its_own_text():
    told = parse_sheet(sheet("lock.usda", "{post: sill, crate: [quay, far]}", "{gap: 50 cm, columns: 5}"), "s")
    again = parse_sheet(dump_sheet(told), "s")
    assert again == told
    assert "set-out:" in dump_sheet(told)
