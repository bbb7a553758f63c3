"""Assets that can't lie side by side: which stands hangs on the batch alone, not on which was ready first."""

from __future__ import annotations

import itertools
import json

import numpy as np
import pytest

from oak_square.delivery import Run, deliver, find_sources
from oak_square.delivery import running as running_module
from oak_square.sheet import parse_sheet
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


@pytest.mark.parametrize("ready", list(itertools.permutations(range(3))))
def test_which_of_those_that_clash_stands_is_the_same_in_whatever_order_they_are_ready(tmp_path, monkeypatch, ready):
    paths = [
        sign(tmp_path / "one", "a", ("data.bin", 1)),
        sign(tmp_path / "two", "b", ("data.bin", 2), ("more.bin", 2)),
        sign(tmp_path / "three", "c", ("more.bin", 3)),
    ]
    sources = tuple(find_sources(paths))
    order = {sources[k].file: place for place, k in enumerate(ready)}
    results = running_module.in_processes

    def as_ready(*args, **more):
        return iter(sorted(results(*args, **more), key=lambda r: order[r[0].source.file]))

    monkeypatch.setattr(running_module, "in_processes", as_ready)
    out = tmp_path / "out"
    sheet = parse_sheet(TEXT, "s.yaml")
    manifest = deliver(Run(sources=sources, sheet=sheet, sheet_bytes=TEXT.encode(), out=out))
    assert [e["status"] for e in manifest["assets"]] == ["unchanged", "failed", "unchanged"]
    assert "'data.bin' goes with it, and with 'a.gltf' with other contents" in manifest["assets"][1]["reason"]
    assert {p.name for p in out.iterdir()} - {".oak-square"} == {
        "a.gltf", "c.gltf", "data.bin", "more.bin", "delivery.json"
    }  # fmt: skip
    assert (out / "data.bin").read_bytes() == (tmp_path / "one" / "data.bin").read_bytes()
    assert (out / "more.bin").read_bytes() == (tmp_path / "three" / "more.bin").read_bytes()
    again = deliver(Run(sources=sources, sheet=sheet, sheet_bytes=TEXT.encode(), out=out, resume=True))
    assert again == manifest
