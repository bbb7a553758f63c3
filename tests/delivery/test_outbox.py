"""What a delivery may touch: nothing it was not asked for, however files are linked, named or changed."""

from __future__ import annotations

import errno
import json
import os
import shutil

import numpy as np
import pytest

from oak_square.core.errors import BadUsage
from oak_square.delivery import files as delivery_files
from oak_square.delivery.batch import find_sources
from oak_square.delivery.outbox import Outbox
from oak_square.delivery.run import Run, Unrecorded
from oak_square.delivery.running import deliver
from oak_square.sheet.text import parse_sheet
from tests.made import triangle_document, write_glb, write_gltf
from tests.runs import through

BAKE = "prep-sheet: 1\nsteps:\n  - {do: bake}\n"


def run(folders, out, text=BAKE, said=None, **more):
    sheet = parse_sheet(text, "s.yaml")
    sources = tuple(find_sources(folders))
    request = Run(sources=sources, sheet=sheet, sheet_bytes=text.encode(), out=out, **more)
    return deliver(request, tell=None if said is None else said.append)


def made(folder, name="sign.gltf", scale=2.0):
    folder.mkdir(parents=True, exist_ok=True)
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [scale] * 3}])
    return (write_gltf if name.endswith(".gltf") else write_glb)(folder / name, document, binary)


def bytes_of(folder):
    return {p.relative_to(folder).as_posix(): p.read_bytes() for p in sorted(folder.rglob("*")) if p.is_file()}


@pytest.mark.parametrize("more", [{"replace": True}, {"resume": True}])
def test_a_source_is_not_written_through_links_of_any_kind(tmp_path, more):
    made(tmp_path / "in")
    made(tmp_path / "in", "lamp.glb")
    before, out = bytes_of(tmp_path / "in"), tmp_path / "out"
    out.mkdir()
    (out / "lamp.glb").symlink_to(tmp_path / "in" / "lamp.glb")
    for name in ("sign.gltf", "sign data.bin"):
        os.link(tmp_path / "in" / name, out / name)
    run([tmp_path / "in"], out, **more)
    assert bytes_of(tmp_path / "in") == before
    assert not (out / "lamp.glb").is_symlink()


def test_a_folder_of_the_delivery_that_leads_into_the_sources_is_refused(tmp_path):
    made(tmp_path / "in" / "deep", "lamp.glb")
    before, out = bytes_of(tmp_path / "in"), tmp_path / "out"
    out.mkdir()
    (out / "deep").symlink_to(tmp_path / "in" / "deep")
    with pytest.raises(BadUsage, match="leads out of the delivery"):
        run([tmp_path / "in"], out, replace=True)
    assert bytes_of(tmp_path / "in") == before


def test_a_path_that_is_a_link_into_the_delivery_is_refused(tmp_path):
    there = made(tmp_path / "out", "lamp.glb")
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "lamp.glb").symlink_to(there)
    before = there.read_bytes()
    with pytest.raises(BadUsage, match="lies in the folder to deliver into"):
        run([tmp_path / "in" / "lamp.glb"], tmp_path / "out", replace=True)
    assert there.read_bytes() == before


@pytest.mark.parametrize("more", [{}, {"replace": True}, {"resume": True}])
def test_companions_of_one_name_and_other_contents_are_not_swapped(tmp_path, more):
    for folder, shift in (("a", 0.0), ("b", 5.0)):
        document, binary = triangle_document()
        moved = np.frombuffer(binary[:36], "<f4") + np.float32(shift)
        (tmp_path / folder).mkdir()
        write_gltf(tmp_path / folder / f"{folder}.gltf", document, moved.tobytes() + binary[36:])
    manifest = run([tmp_path / "a", tmp_path / "b"], tmp_path / "out", "prep-sheet: 1\nsteps: []\n", **more)
    first, second = manifest["assets"]
    assert (first["status"], second["status"]) == ("unchanged", "failed")
    assert "'sign data.bin' goes with it, and with 'a.gltf' with other contents" in second["reason"]
    assert (tmp_path / "out" / "sign data.bin").read_bytes() == (tmp_path / "a" / "sign data.bin").read_bytes()


def test_a_companion_called_like_the_manifest_is_refused(tmp_path):
    document, binary = triangle_document()
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "delivery.json").write_bytes(binary)
    document["buffers"] = [{"byteLength": len(binary), "uri": "delivery.json"}]
    (tmp_path / "in" / "sign.gltf").write_text(json.dumps(document))
    (entry,) = run([tmp_path / "in"], tmp_path / "out", "prep-sheet: 1\nsteps: []\n")["assets"]
    assert entry["status"] == "failed"
    assert "'delivery.json', which the delivery needs for itself" in entry["reason"]
    assert json.loads((tmp_path / "out" / "delivery.json").read_text())["assets"] == [entry]


def test_a_second_run_on_one_folder_is_refused_and_left_overs_are_swept(tmp_path):
    made(tmp_path / "in")
    out = tmp_path / "out"
    first = Outbox(out, replace=False, models=())
    first.stage(3).mkdir()
    with pytest.raises(BadUsage, match="another run is delivering into it"):
        run([tmp_path / "in"], out)
    assert first.stage(3).exists()
    first.close()
    shop = out / ".oak-square"
    (shop / "stage-9").mkdir(parents=True)
    shutil.copy(tmp_path / "in" / "sign.gltf", shop / "stage-9")
    assert find_sources([out]) == []
    run([tmp_path / "in"], out)
    assert [p.name for p in shop.iterdir()] == ["read.json"]


def test_a_resumed_run_looks_at_all_that_a_model_is_read_from(tmp_path):
    made(tmp_path / "in")
    made(tmp_path / "in", "lamp.glb")
    out, seen = tmp_path / "out", []
    run([tmp_path / "in"], out)
    before = bytes_of(out)

    def again():
        seen.clear()
        request = Run(
            sources=tuple(find_sources([tmp_path / "in"])), sheet=parse_sheet(BAKE, "s"), sheet_bytes=BAKE.encode(),
            out=out, resume=True,
        )  # fmt: skip
        return deliver(request, lambda _d, _a, entry: seen.append(entry["source"]))

    again()
    assert (seen, bytes_of(out)) == ([], before)
    buffer = tmp_path / "in" / "sign data.bin"
    moved = np.frombuffer(buffer.read_bytes()[:36], "<f4") + np.float32(3)
    buffer.write_bytes(moved.tobytes() + buffer.read_bytes()[36:])
    again()
    assert seen == ["sign.gltf"]
    there = np.frombuffer((out / "sign.gltf.bin").read_bytes()[:36], "<f4")
    assert there == pytest.approx(2 * moved)
    shutil.rmtree(out / ".oak-square")  # as when it was not copied along: nothing says what else was read
    again()
    assert seen == ["sign.gltf"]


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda text: text[: len(text) // 2], "damaged"),
        (lambda text: "[" * 100_000, "damaged"),
        (lambda text: text.replace('"output": "', '"output": 7, "was": "'), "damaged"),
        (lambda text: text.replace("0.0", "0.5"), "was changed since it was written"),
    ],
    ids=range(4),
)
def test_a_manifest_that_was_edited_or_broken_is_a_line_and_not_believed(tmp_path, spoil, says):
    made(tmp_path / "in")
    out, said = tmp_path / "out", []
    first = run([tmp_path / "in"], out)
    text = (out / "delivery.json").read_text()
    (out / "delivery.json").write_text(spoil(text))
    assert run([tmp_path / "in"], out, said=said, resume=True) == first
    (line,) = said
    assert says in line
    assert line.endswith("all is done anew")
    assert (out / "delivery.json").read_text() == text


def test_a_folder_that_can_not_be_written_in_is_a_line(tmp_path):
    made(tmp_path / "in")
    (tmp_path / "out").write_text("a file")
    with pytest.raises(BadUsage, match="is no folder"):
        run([tmp_path / "in"], tmp_path / "out")
    with pytest.raises(BadUsage, match="can't be delivered into: Not a directory"):
        Outbox(tmp_path / "out" / "deeper", replace=False, models=())


def test_a_disk_that_is_full_at_the_end_says_what_stands(tmp_path, monkeypatch):
    made(tmp_path / "in")
    whole = delivery_files.write_whole

    def full(path, data):
        if path.name == "delivery.json":
            raise OSError(errno.ENOSPC, "No space left on device", str(path))
        whole(path, data)

    monkeypatch.setattr("oak_square.delivery.outbox.write_whole", full)
    with pytest.raises(Unrecorded, match="can't be written: No space left on device; what was delivered stands") as why:
        run([tmp_path / "in"], tmp_path / "out")
    assert [e["status"] for e in why.value.manifest["assets"]] == ["delivered"]
    monkeypatch.undo()
    before = bytes_of(tmp_path / "out")["sign.gltf"]
    run([tmp_path / "in"], tmp_path / "out", resume=True)
    assert bytes_of(tmp_path / "out")["sign.gltf"] == before


def test_a_step_that_may_refuse_does_so_too_where_the_format_refuses_at_writing(tmp_path):
    nodes = [{"name": "post", "children": [1], "scale": [1, 3, 1]},
             {"name": "sign", "mesh": 0, "rotation": [0, 0, 0.3826834, 0.9238795]}]  # fmt: skip
    document, binary = triangle_document(nodes=nodes)
    (tmp_path / "in").mkdir()
    source = write_glb(tmp_path / "in" / "sign.glb", document, binary)
    shear = "{do: parent, parts: [sign], to: null, may-refuse: %s}"
    assert through(tmp_path, shear % "false")["status"] == "refused"
    entry = through(tmp_path, "{do: place, at: origin, by: pivot}", shear % "true")
    assert entry["status"] == "unchanged", entry["reason"]
    assert [s["outcome"] for s in entry["steps"]][-1] == "refused"
    assert "would be sheared" in entry["steps"][-1]["detail"]
    assert (tmp_path / "out" / "sign.glb").read_bytes() == source.read_bytes()
    # Of two that may refuse, the one that the format could hold stands.
    entry = through(tmp_path, "{do: place, at: [1, 0, 0], by: pivot, may-refuse: true}", shear % "true")
    assert [s["outcome"] for s in entry["steps"]] == ["applied", "refused"]
    assert entry["status"] == "delivered"
