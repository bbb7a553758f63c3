"""Assets that can't lie side by side: which stands hangs on the batch alone, not on which was ready first."""

from __future__ import annotations

import itertools
import json
from dataclasses import replace

import numpy as np
import pytest

from oak_square.core.errors import BadUsage
from oak_square.delivery import running as running_module
from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.sheet.text import parse_sheet
from tests.made import TRIANGLE

TEXT = "prep-sheet: 1\nsteps:\n  - {do: bake}\n"


def sign(folder, name, *buffers):
    """A triangle whose numbers lie in the first of some buffers, each a name and a fill of its own."""
    folder.mkdir(exist_ok=True)
    listed = []
    for file, fill in buffers:
        data = TRIANGLE.tobytes() + bytes([fill]) * 12
        (folder / file).write_bytes(data)
        listed.append({"byteLength": len(data), "uri": file})
    low, high = TRIANGLE.min(axis=0), TRIANGLE.max(axis=0)
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"name": name, "mesh": 0}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}], "buffers": listed,
        "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
                       "min": np.asarray(low).tolist(), "max": np.asarray(high).tolist()}],
        "bufferViews": [{"buffer": 0, "byteOffset": 0, "byteLength": 36}],
    }  # fmt: skip
    (folder / f"{name}.gltf").write_text(json.dumps(document))
    return folder / f"{name}.gltf"


def deliver_as_ready(monkeypatch, sources, out, ready):
    """Deliver with the assets ready in an order: of each place, which of the batch it is."""
    order = {sources[k].file: place for place, k in enumerate(ready)}
    results = running_module.in_processes

    def as_ready(*args, **more):
        return iter(sorted(results(*args, **more), key=lambda r: order[r[0].source.file]))

    monkeypatch.setattr(running_module, "in_processes", as_ready)
    return deliver(Run(sources=sources, sheet=parse_sheet(TEXT, "s"), sheet_bytes=TEXT.encode(), out=out))


@pytest.mark.parametrize("ready", list(itertools.permutations(range(3))))
def test_which_of_those_that_clash_stands_is_the_same_in_whatever_order_they_are_ready(tmp_path, monkeypatch, ready):
    paths = [
        sign(tmp_path / "one", "a", ("data.bin", 1)),
        sign(tmp_path / "two", "b", ("data.bin", 2), ("more.bin", 2)),
        sign(tmp_path / "three", "c", ("more.bin", 3)),
    ]
    sources = tuple(find_sources(paths))
    out = tmp_path / "out"
    sheet = parse_sheet(TEXT, "s")
    manifest = deliver_as_ready(monkeypatch, sources, out, ready)
    assert [e["status"] for e in manifest["assets"]] == ["unchanged", "failed", "unchanged"]
    assert "'data.bin' goes with it, and with 'a.gltf' with other contents" in manifest["assets"][1]["reason"]
    assert {p.name for p in out.iterdir()} - {".oak-square"} == {
        "a.gltf", "c.gltf", "data.bin", "more.bin", "delivery.json"
    }  # fmt: skip
    assert (out / "data.bin").read_bytes() == (tmp_path / "one" / "data.bin").read_bytes()
    assert (out / "more.bin").read_bytes() == (tmp_path / "three" / "more.bin").read_bytes()
    again = deliver(Run(sources=sources, sheet=sheet, sheet_bytes=TEXT.encode(), out=out, resume=True))
    assert again == manifest


@pytest.mark.parametrize("ready", list(itertools.permutations(range(3))))
def test_what_another_model_needs_stays_when_one_is_taken_back(tmp_path, monkeypatch, ready):
    paths = [
        sign(tmp_path / "one", "a", ("data.bin", 1)),
        sign(tmp_path / "two", "b", ("data.bin", 2), ("more.bin", 3)),
        sign(tmp_path / "three", "c", ("more.bin", 3)),
    ]
    out = tmp_path / "out"
    manifest = deliver_as_ready(monkeypatch, tuple(find_sources(paths)), out, ready)
    assert [e["status"] for e in manifest["assets"]] == ["unchanged", "failed", "unchanged"]
    assert (out / "data.bin").read_bytes() == (tmp_path / "one" / "data.bin").read_bytes()
    assert (out / "more.bin").read_bytes() == (tmp_path / "three" / "more.bin").read_bytes()
    assert not (out / "b.gltf").exists()


def test_a_dry_run_tells_of_all_that_would_stop_it_and_of_what_would_clash(tmp_path):
    paths = [
        sign(tmp_path / "one", "a", ("data.bin", 1)),
        sign(tmp_path / "two", "b", ("data.bin", 2)),
        sign(tmp_path / "three", "c", ("more.bin", 3)),
        sign(tmp_path / "four", "C", ("other.bin", 4)),
    ]
    out = tmp_path / "out"
    out.mkdir()
    for name in ("a.gltf", "c.gltf", "z.gltf", "delivery.json"):
        (out / name).write_bytes(b"there")
    (out / "more.bin").write_bytes(b"somebody's own")
    before = {p.name: p.read_bytes() for p in out.iterdir()}
    run = Run(
        sources=tuple(find_sources([*paths, out / "z.gltf"])),
        sheet=parse_sheet(TEXT, "s.yaml"),
        sheet_bytes=TEXT.encode(),
        out=out,
        dry=True,
    )
    manifest = deliver(run)
    said = manifest["warnings"]
    assert all(w.startswith("it would stop: ") for w in said)
    assert len(said) == 4
    for words in (
        "apart from the input folder",
        "lies in the folder to deliver into",
        "'C.gltf'",
        "exists, and so do 3",
    ):
        assert any(words in w for w in said), words
    reasons = {e["source"]: e["reason"] or "" for e in manifest["assets"] if e["status"] == "failed"}
    assert "and with 'a.gltf' with other contents" in reasons["b.gltf"]
    assert "'more.bin' is there already with other contents" in reasons["c.gltf"]
    assert {p.name: p.read_bytes() for p in out.iterdir()} == before
    # What it said of the outputs holds of the run itself, one after the other.
    with pytest.raises(BadUsage, match="apart from the input folder"):
        deliver(replace(run, dry=False))


def test_a_dry_run_with_nothing_in_its_way_warns_of_nothing(tmp_path, monkeypatch):
    sources = tuple(find_sources([sign(tmp_path / "one", "a", ("data.bin", 1))]))
    run = Run(sources=sources, sheet=parse_sheet(TEXT, "s"), sheet_bytes=TEXT.encode(), out=tmp_path / "out", dry=True)
    assert deliver(run)["warnings"] == []
    deliver(replace(run, dry=False))
    (words,) = deliver(run)["warnings"]
    assert words.endswith("delivery.json: exists, and so do 1 more; give --replace or --resume, or another folder")
    assert deliver(replace(run, resume=True))["warnings"] == []
    monkeypatch.setattr(running_module.os, "access", lambda *_: False)
    (words,) = deliver(replace(run, out=tmp_path / "shut" / "out"))["warnings"]
    assert words.endswith(f"can't be delivered into: '{tmp_path}' may not be written in")
