"""Whole runs over real folders: what is written, what is refused, and what is left alone."""

from __future__ import annotations

import hashlib
import json
import os
import shutil
from pathlib import Path

import numpy as np
import pytest

from oak_square.core.errors import BadReference, BadUsage, Failed
from oak_square.delivery import surveying
from oak_square.delivery.batch import find_sources
from oak_square.delivery.proof import prove_asset
from oak_square.delivery.proving import prove
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.delivery.surveying import receive, survey_source, surveyed
from oak_square.demo import SHEET
from oak_square.sheet.text import load_sheet, parse_sheet
from tests.made import GLOWING, opened, stl_binary, triangle_document, write_glb, write_gltf
from tests.runs import troubles

CORNERS = np.array([[[0, 0, 0], [4, 0, 0], [0, 4, 0]]], dtype="<f4")
BAKE = "prep-sheet: 1\nsteps:\n  - {do: bake}\n"
GROUND = "prep-sheet: 1\nsteps:\n  - {do: place, at: origin}\n"


def run(folder, out, text=BAKE, progress=None, **more):
    sheet = parse_sheet(text, "s.yaml")
    sources = tuple(find_sources([folder] if isinstance(folder, Path) else folder))
    return deliver(Run(sources=sources, sheet=sheet, sheet_bytes=text.encode(), out=out, **more), progress)


def hashes(folder: Path) -> dict[str, str]:
    files = [p for p in sorted(folder.rglob("*")) if p.is_file()]
    return {p.relative_to(folder).as_posix(): hashlib.sha256(p.read_bytes()).hexdigest() for p in files}


@pytest.fixture
def models(tmp_path):
    """Two scaled signs, one in a folder below; a text glTF with its buffer; an STL."""
    folder = tmp_path / "models"
    (folder / "deep").mkdir(parents=True)
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    write_glb(folder / "sign.glb", document, binary)
    write_glb(folder / "deep" / "sign.glb", document, binary)
    write_gltf(folder / "text.gltf", document, binary)
    (folder / "windlass.stl").write_bytes(stl_binary(CORNERS))
    (folder / "readme.txt").write_text("no model")
    return folder


def test_a_run_delivers_proves_and_touches_no_source(models, tmp_path):
    before = hashes(models)
    manifest = run(models, tmp_path / "out")
    assert hashes(models) == before
    assert manifest == json.loads((tmp_path / "out" / "delivery.json").read_text())
    by_source = {e["source"]: e for e in manifest["assets"]}
    assert list(by_source) == ["deep/sign.glb", "sign.glb", "text.gltf", "windlass.stl"]
    assert by_source["sign.glb"]["status"] == "delivered"
    assert by_source["sign.glb"]["size_after_m"] == {"width": 2.0, "height": 4.0, "depth": 0.0}
    assert by_source["sign.glb"]["deviation_m"] == 0.0
    assert by_source["windlass.stl"]["status"] == "unchanged"
    there = hashes(tmp_path / "out")
    assert there["windlass.stl"] == before["windlass.stl"]
    for entry in manifest["assets"]:
        assert there[entry["output"]] == entry["output_sha256"]
        for companion in entry["companions"]:
            assert there[companion["path"]] == companion["sha256"]
    assert by_source["text.gltf"]["companions"][0]["path"] == "text.gltf.bin"
    assert troubles(tmp_path / "out") == {e["output"]: None for e in manifest["assets"]}


def test_any_number_of_jobs_gives_the_same_files(models, tmp_path):
    run(models, tmp_path / "one", jobs=1)
    run(models, tmp_path / "two", jobs=2)
    assert hashes(tmp_path / "one") == hashes(tmp_path / "two")


def test_a_broken_file_costs_itself_only(models, tmp_path):
    (models / "broken.glb").write_bytes(b"glTF rubbish")
    manifest = run(models, tmp_path / "out")
    entry = next(e for e in manifest["assets"] if e["source"] == "broken.glb")
    assert entry["status"] == "failed"
    assert entry["output"] is None
    assert "GLB version" in entry["reason"] or "no GLB" in entry["reason"]
    assert sum(e["status"] in {"delivered", "unchanged"} for e in manifest["assets"]) == 4
    assert [p.name for p in (tmp_path / "out" / ".oak-square").iterdir()] == ["read.json"]  # of the text glTF's buffer


def test_a_refused_asset_is_not_delivered_and_says_why(models, tmp_path):
    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [2, 2, 2]}], animations=GLOWING)
    write_glb(models / "moving.glb", document, binary)
    entry = next(e for e in run(models, tmp_path / "out")["assets"] if e["source"] == "moving.glb")
    assert (entry["status"], entry["output"]) == ("refused", None)
    assert entry["reason"].startswith("step 1 (bake): its clips animate 'glow'")
    assert not (tmp_path / "out" / "moving.glb").exists()


def test_a_dry_run_writes_nothing(models, tmp_path):
    manifest = run(models, tmp_path / "out", dry=True)
    assert {e["status"] for e in manifest["assets"]} == {"delivered", "unchanged"}
    assert not (tmp_path / "out").exists()


def test_a_resumed_run_redoes_what_has_lost_a_companion_or_is_of_another_version(models, tmp_path, monkeypatch):
    out = tmp_path / "out"
    first = run(models, out)
    text = next(e for e in first["assets"] if e["source"] == "text.gltf")
    companion = out / text["companions"][0]["path"]
    sound = companion.read_bytes()
    companion.write_bytes(b"\0" * len(sound))
    seen = []
    run(models, out, resume=True, progress=lambda _done, _all, entry: seen.append(entry["source"]))
    assert (companion.read_bytes(), seen) == (sound, ["text.gltf"])
    companion.unlink()
    run(models, out, resume=True)
    assert companion.read_bytes() == sound
    monkeypatch.setattr("oak_square.delivery.running.__version__", "0.0.9")
    seen.clear()
    run(models, out, resume=True, progress=lambda _done, _all, entry: seen.append(entry["source"]))
    assert len(seen) == 4


def test_a_companion_with_other_contents_is_not_overwritten_unasked(models, tmp_path):
    out = tmp_path / "out"
    out.mkdir()
    (out / "text.gltf.bin").write_bytes(b"somebody's own")
    manifest = run(models, out)
    entry = next(e for e in manifest["assets"] if e["source"] == "text.gltf")
    assert (entry["status"], entry["output"]) == ("failed", None)
    assert "'text.gltf.bin' is there already with other contents" in entry["reason"]
    assert (out / "text.gltf.bin").read_bytes() == b"somebody's own"
    assert not (out / "text.gltf").exists()


def test_outputs_that_differ_in_case_only_are_refused(models, tmp_path):
    shutil.copy(models / "sign.glb", models / "Sign.GLB")
    with pytest.raises(BadUsage, match="would both be delivered as"):
        run(models, tmp_path / "out")
    assert not (tmp_path / "out").exists()


def test_nothing_is_overwritten_unasked(models, tmp_path):
    out = tmp_path / "out"
    run(models, out)
    with pytest.raises(BadUsage, match="exists"):
        run(models, out)
    run(models, out, GROUND, replace=True)
    assert prove(out)[0].trouble is None


def test_a_resumed_run_redoes_just_what_is_not_whole(models, tmp_path):
    out = tmp_path / "out"
    first = run(models, out)
    stamps = {p: p.stat().st_mtime_ns for p in out.rglob("*.*")}
    (out / "deep" / "sign.glb").write_bytes(b"spoilt")
    os.utime(out / "sign.glb", ns=(1, 1))
    again = run(models, out, resume=True)
    assert again == first
    assert (out / "sign.glb").stat().st_mtime_ns == 1  # kept
    assert (out / "deep" / "sign.glb").stat().st_mtime_ns != stamps[out / "deep" / "sign.glb"]
    assert not any(troubles(out).values())
    # Another sheet makes everything due again.
    run(models, out, GROUND, resume=True)
    assert (out / "sign.glb").stat().st_mtime_ns != 1


def test_outputs_must_lie_apart_from_inputs(models, tmp_path):
    for out in (models, models / "out", tmp_path):
        with pytest.raises(BadUsage, match="apart from the input folder"):
            run(models, out)
    with pytest.raises(BadUsage, match="apart from"):
        run([models / "sign.glb"], models)
    (tmp_path / "file").write_text("x")
    with pytest.raises(BadUsage, match="is no folder"):
        run(models, tmp_path / "file")


def test_two_sources_on_one_name_are_told_apart_before_anything_is_written(models, tmp_path):
    with pytest.raises(BadUsage, match="would both be delivered"):
        run([models / "sign.glb", models / "deep" / "sign.glb"], tmp_path / "out")
    assert not (tmp_path / "out").exists()


def test_companions_with_one_name_and_other_contents_fail_the_second(models, tmp_path):
    # Two models in one folder may share a buffer; a changed copy gets a name of its own.
    document, binary = triangle_document(nodes=[{"mesh": 0, "scale": [3, 3, 3]}])
    write_gltf(models / "more.gltf", document, binary)
    manifest = run(models, tmp_path / "out")
    names = {e["source"]: [c["path"] for c in e["companions"]] for e in manifest["assets"]}
    assert names["more.gltf"] == ["more.gltf.bin"]
    assert names["text.gltf"] == ["text.gltf.bin"]


def test_paths_that_are_not_there_and_links_out_are_minded(models, tmp_path):
    with pytest.raises(BadUsage, match="is not there"):
        find_sources([tmp_path / "none"])
    outside = tmp_path / "outside.stl"
    outside.write_bytes(stl_binary(CORNERS))
    (models / "link.stl").symlink_to(outside)
    assert "link.stl" not in {s.file for s in find_sources([models])}
    assert [s.file for s in find_sources([models / "sign.glb", models / "sign.glb"])] == ["sign.glb"]


def nudged(path, word):
    path.write_bytes(path.read_bytes().replace(word.title(), word))


def grown(path):
    document, binary = opened(path.read_bytes())
    node = {**document["nodes"][0], "scale": [2, 2, 2]}
    write_glb(path, {**document, "nodes": [node]}, binary)


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda out: (out / "sign.glb").unlink(), "is missing"),
        (lambda out: (out / "sign.glb").write_bytes(b"x"), "not the file that was delivered; it can't be read: "),
        (lambda out: nudged(out / "sign.glb", b"FENWICK"), "delivered; its size is still the same"),
        (lambda out: grown(out / "sign.glb"), "; its size is 4.00 × 8.00 × 0.00 m, and was 2.00 × 4.00 × 0.00 m"),
        (lambda out: (out / "text.gltf.bin").write_bytes(b"x" * 80), "not the file that was delivered"),
    ],
)
def test_a_proof_that_does_not_hold_says_what(models, tmp_path, spoil, says):
    run(models, tmp_path / "out")
    spoil(tmp_path / "out")
    found = [why for why in troubles(tmp_path / "out").values() if why]
    assert len(found) == 1
    assert says in found[0]


def test_a_manifest_that_lies_about_sizes_or_leads_out_is_caught(models, tmp_path):
    out = tmp_path / "out"
    run(models, out)
    manifest = json.loads((out / "delivery.json").read_text())
    manifest["assets"][0]["size_after_m"]["height"] = 9.0
    manifest["assets"][1]["output"] = "../models/sign.glb"
    (out / "delivery.json").write_text(json.dumps(manifest))
    found = troubles(out)
    assert found["deep/sign.glb"] == "its size is not what was delivered"
    assert "leads out" in found["../models/sign.glb"]
    (out / "delivery.json").write_text("{}")
    with pytest.raises(BadUsage, match="no delivery manifest"):
        prove(out)
    with pytest.raises(BadUsage, match="no manifest"):
        prove(models)


def test_a_vertex_out_of_place_fails_the_proof(models):
    wanted = receive(find_sources([models / "sign.glb"])[0]).asset
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    spoilt = np.frombuffer(binary[:36], dtype="<f4").copy()
    spoilt[3] += 0.01
    path = write_glb(models / "off.glb", document, spoilt.tobytes() + binary[36:])
    there = receive(find_sources([path])[0]).asset
    with pytest.raises(Failed, match=r"a vertex of 'sign' is 20\.00 mm from where it should be"):
        prove_asset(wanted, there)


def test_a_survey_entry_has_all_the_contract_names(models):
    entry = survey_source(find_sources([models / "sign.glb"])[0])
    assert list(entry) == [
        "file", "format", "error", "reading", "box_m", "size_m", "parts", "groups", "triangles", "vertices",
        "carries", "findings", "nodes",
    ]  # fmt: skip
    assert entry["reading"] == {"metres_per_unit": 1.0, "up": "+Y", "front": "+Z", "source": "declared"}
    assert entry["nodes"] == [
        {
            "name": "sign", "parent": None, "kind": "part", "pivot_m": [0, 0, 0],
            "axes": [[1, 0, 0], [0, 1, 0], [0, 0, 1]], "scale": [2, 2, 2],
            "box_m": {"min": [0, 0, 0], "max": [2, 4, 0]},
        }
    ]  # fmt: skip
    finding = next(f for f in entry["findings"] if f["code"] == "scale-unbaked")
    assert (finding["level"], finding["stage"], finding["part"], finding["measure"]) == ("fix", "bake", "sign", 2.0)


def test_the_demo_sheet_makes_the_demo_batch_true(lock, tmp_path):
    sheet, data = load_sheet(SHEET)
    out = tmp_path / "out"
    manifest = deliver(Run(sources=tuple(find_sources([lock])), sheet=sheet, sheet_bytes=data, out=out, jobs=2))
    assert manifest["warnings"] == []
    for entry in manifest["assets"]:
        assert entry["status"] in {"delivered", "unchanged"}, entry
        diagonal = float(np.linalg.norm(list(entry["size_after_m"].values())))
        assert entry["deviation_m"] < 1e-6 * diagonal
    lamp = survey_source(find_sources([out / "lamp_standard.obj"])[0])
    assert lamp["size_m"]["height"] == pytest.approx(5.2, abs=1e-4)
    assert lamp["box_m"]["min"][1] == pytest.approx(0, abs=1e-6)
    for source in find_sources([out]):
        assert [f for f in survey_source(source)["findings"] if f["level"] != "note"] == []
    assert (out / "milepost.glb").read_bytes() == (lock / "milepost.glb").read_bytes()
    assert not any(troubles(out).values())


UNITS = "prep-sheet: 1\ndeliver: {unit: cm, up: Z}\nsteps:\n  - {do: unit, reads: mm, for: ['*.stl']}\n"


def test_files_are_written_in_the_delivery_unit_and_axes_where_they_can_be(models, tmp_path):
    manifest = run(models, tmp_path / "out", UNITS)
    entry = next(e for e in manifest["assets"] if e["source"] == "windlass.stl")
    # 4 x 4 mm lying in file x and y: 0.4 cm, and what was up is now along z.
    assert entry["size_after_m"] == pytest.approx({"width": 0.004, "height": 0.004, "depth": 0.0})
    again = receive(find_sources([tmp_path / "out" / "windlass.stl"])[0]).asset
    numbers = np.asarray(again.meshes[0].points)
    assert numbers.max(axis=0) == pytest.approx([0.4, 0, 0.4])
    # A glTF is always metres, Y up.
    assert next(e for e in manifest["assets"] if e["source"] == "sign.glb")["status"] == "unchanged"
    assert not any(troubles(tmp_path / "out").values())


def test_a_sheets_bare_numbers_are_in_the_delivery_unit(models, tmp_path):
    text = "prep-sheet: 1\ndeliver: {unit: cm}\nsteps:\n  - {do: size, height: 50}\n"
    manifest = run(models, tmp_path / "out", text)
    heights = {e["source"]: e["size_after_m"]["height"] for e in manifest["assets"]}
    assert heights == pytest.approx(dict.fromkeys(heights, 0.5), rel=1e-6)


def test_a_mirror_and_a_shear_come_through_delivery_and_its_proof(lock, tmp_path):
    manifest = run(lock, tmp_path / "out", "prep-sheet: 1\nsteps:\n  - {do: bake}\n")
    by_source = {e["source"]: e for e in manifest["assets"]}
    for name in ("gate_leaf_twin.glb", "weather_vane.glb", "reed_clump.glb"):
        assert by_source[name]["status"] == "delivered"
        assert by_source[name]["deviation_m"] < 1e-6
    assert "shared mesh 'blade' split: 'blade.2' for 'reed_02'" in by_source["reed_clump.glb"]["warnings"][-1]
    codes = {
        f["code"]
        for name in ("gate_leaf_twin.glb", "weather_vane.glb", "reed_clump.glb")
        for f in survey_source(find_sources([tmp_path / "out" / name])[0])["findings"]
    }
    assert not codes & {"mirrored", "sheared", "scale-unbaked", "scale-uneven", "rotation-unbaked", "shared-geometry"}


def test_an_asset_is_delivered_at_the_size_of_another_for_any_number_of_jobs(models, tmp_path):
    text = (
        "prep-sheet: 1\nsteps:\n"
        "  - {do: size, match: windlass, along: width, for: [text.*, deep/*]}\n"
        "  - {do: size, factor: 5, for: [windlass.*]}\n"
    )
    first = run(models, tmp_path / "one", text, jobs=1)
    assert first == run(models, tmp_path / "two", text, jobs=2)
    widths = {e["source"]: e["size_after_m"]["width"] for e in first["assets"]}
    # The windlass is 4 wide before its own, later, step.
    assert widths == pytest.approx({"deep/sign.glb": 4, "sign.glb": 2, "text.gltf": 4, "windlass.stl": 20})
    # A changed windlass changes what hangs on it, and only that, in a resumed run.
    (models / "windlass.stl").write_bytes(stl_binary(CORNERS / 2))
    second = run(models, tmp_path / "one", text, resume=True)
    assert {e["source"]: e["size_after_m"]["width"] for e in second["assets"]} == pytest.approx(
        {"deep/sign.glb": 2, "sign.glb": 2, "text.gltf": 2, "windlass.stl": 10}
    )
    with pytest.raises(BadReference, match="no asset 'windlas' in the batch; did you mean 'windlass'"):
        run(models, tmp_path / "three", text.replace("match: windlass", "match: windlas"))
    assert not (tmp_path / "three").exists()


def test_a_resumed_run_redoes_what_hangs_on_a_changed_asset_through_another(models, tmp_path):
    text = (
        "prep-sheet: 1\nsteps:\n"
        "  - {do: size, match: windlass, along: width, for: [text.*]}\n"
        "  - {do: size, match: text, along: width, for: [deep/*]}\n"
    )
    run(models, tmp_path / "out", text)
    (models / "windlass.stl").write_bytes(stl_binary(CORNERS / 2))
    done = []
    again = run(
        models, tmp_path / "out", text, resume=True, progress=lambda _done, _all, entry: done.append(entry["source"])
    )
    assert {e["source"]: e["size_after_m"]["width"] for e in again["assets"]} == pytest.approx(
        {"deep/sign.glb": 2, "sign.glb": 2, "text.gltf": 2, "windlass.stl": 2}
    )
    assert sorted(done) == ["deep/sign.glb", "text.gltf", "windlass.stl"]


@pytest.mark.parametrize("suffix", ["glb", "gltf"])
def test_a_node_that_is_hung_anew_stays_where_it_is_in_the_delivered_file(tmp_path, suffix):
    folder = tmp_path / "models"
    folder.mkdir()
    nodes = [
        {"name": "gate", "children": [1, 2], "rotation": [0, 1, 0, 0], "translation": [3, 0, 0]},
        {"name": "leaf", "mesh": 0, "scale": [2, 2, 2]},
        {"name": "hook"},
        {"name": "wall", "translation": [0, 5, 0]},
    ]
    document, binary = triangle_document(nodes=nodes, scenes=[{"nodes": [0]}, {"nodes": [0, 3]}], scene=1)
    (write_glb if suffix == "glb" else write_gltf)(folder / f"lock.{suffix}", document, binary)
    before = survey_source(find_sources([folder])[0])
    text = (
        "prep-sheet: 1\nsteps:\n  - {do: parent, parts: [leaf], to: wall}\n  - {do: parent, parts: [hook], to: null}\n"
        "  - {do: parent, parts: [wall], to: hook}\n"
    )
    manifest = run(folder, tmp_path / "out", text)
    assert manifest["assets"][0]["status"] == "delivered", manifest["assets"][0]["reason"]
    after = survey_source(find_sources([tmp_path / "out"])[0])
    assert after["box_m"]["min"] == pytest.approx(before["box_m"]["min"])
    assert after["box_m"]["max"] == pytest.approx(before["box_m"]["max"])
    assert [n["parent"] for n in after["nodes"]] == [None, 3, None, 2]
    written = receive(find_sources([tmp_path / "out"])[0]).carrier.json
    assert [s["nodes"] for s in written["scenes"]] == [[0, 2], [0, 2]]
    assert "children" not in written["nodes"][0]
    assert not any(troubles(tmp_path / "out").values())


def test_a_format_without_hierarchy_refuses_to_hang_nodes(tmp_path):
    (tmp_path / "models").mkdir()
    corners = "v 0 0 0\nv 1 0 0\nv 0 1 0\n"
    (tmp_path / "models" / "two.obj").write_text(f"{corners}o leaf\nf 1 2 3\no post\nf 1 2 3\n")
    text = "prep-sheet: 1\nsteps:\n  - {do: parent, parts: [leaf], to: post}\n"
    (entry,) = run(tmp_path / "models", tmp_path / "out", text)["assets"]
    assert (entry["status"], entry["reason"]) == ("refused", "step 1 (parent): its format holds no hierarchy")


@pytest.mark.parametrize(
    ("step", "why"),
    [
        ("{do: place, at: origin, by: pivot, shift: [1, 0, 0]}", None),
        ("{do: turn, by: [0, 90, 0]}", None),
        ("{do: reset}", None),
        ("{do: bake}", "the geometry of 'sign' is compressed, and this would rewrite it"),
        ("{do: size, factor: 2}", "compressed, and this would rewrite it"),
        ("{do: unit, reads: cm}", "compressed, and a reading would rewrite it"),
    ],
)
def test_of_compressed_geometry_frames_change_and_numbers_do_not(tmp_path, step, why):
    folder = tmp_path / "models"
    folder.mkdir()
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    # Its positions are to be unpacked into a buffer that has a length and no bytes.
    squeezed = {"buffer": 0, "byteLength": 20, "byteStride": 12, "count": 3, "mode": "ATTRIBUTES"}
    document["bufferViews"][0] = {
        "buffer": 1, "byteLength": 36, "byteStride": 12, "extensions": {"EXT_meshopt_compression": squeezed}
    }  # fmt: skip
    document["buffers"].append({"byteLength": 36, "extensions": {"EXT_meshopt_compression": {"fallback": True}}})
    document["extensionsUsed"] = document["extensionsRequired"] = ["EXT_meshopt_compression"]
    write_glb(folder / "sign.glb", document, binary)
    entry = run(folder, tmp_path / "out", f"prep-sheet: 1\nsteps:\n  - {step}\n")["assets"][0]
    if why is not None:
        assert (entry["status"], why in entry["reason"]) == ("refused", True)
        return
    assert entry["status"] == "delivered", entry["reason"]
    carrier = receive(find_sources([tmp_path / "out"])[0]).carrier
    assert bytes(carrier.buffers[0].data[:78]) == binary[:78]
    assert carrier.json["meshes"] == document["meshes"]


def test_a_fault_of_ours_while_a_file_is_surveyed_costs_that_file_alone(models, monkeypatch):
    monkeypatch.setattr(surveying, "survey", lambda *_: {}["milk"])
    entries = [surveyed(source).entry for source in find_sources([models])]
    assert {e["error"] for e in entries} == {"can't be read, by a fault of ours: KeyError('milk'); please report it"}
