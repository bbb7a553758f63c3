"""Shared geometry that comes apart: as it is foretold, so it is in the file that is delivered."""

from __future__ import annotations

import json
import shutil
import struct
from pathlib import Path

import pytest

from oak_square.core.sharing import partings
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS
from tests.runs import through


def document_of(path: Path) -> dict:
    data = path.read_bytes()
    (length,) = struct.unpack_from("<I", data, 12)
    return json.loads(data[20 : 20 + length])


@pytest.mark.parametrize(
    ("file", "words", "copies"),
    [
        ("reed_clump.glb", {"do": "bake", "what": ["rotation", "scale"]}, None),
        ("mooring_bollards.glb", {"do": "pivot", "at": "base", "of": "parts"}, 0),
        ("mooring_bollards.glb", {"do": "size", "height": "2 m", "parts": ["bollard_2"]}, 2),
        ("mooring_bollards.glb", {"do": "place", "at": [1, 2, 3]}, 0),
        ("mooring_bollards.glb", {"do": "shape", "take": {"side": "top"}, "by": [0, "5 cm", 0]}, 0),
        ("mooring_bollards.glb", {"do": "shape", "take": {"side": "top"}, "set": {"width": 7.5}}, 4),
    ],
)
def test_what_comes_apart_in_the_file_is_what_was_foretold(tmp_path, file, words, copies):
    source = next(s for s in find_sources([BATCH]) if s.file == file)
    received = receive(source).asset
    sheet = Sheet(steps=(STEPS[words["do"]].model_validate(words),))
    bare = evaluate(received, Sheet()).asset
    after = evaluate(received, sheet).asset
    found = partings(bare, after)
    (tmp_path / "in").mkdir()
    shutil.copy(source.path, tmp_path / "in")
    assert through(tmp_path, json.dumps(words))["status"] == "delivered"
    there = document_of(tmp_path / "out" / file)
    before = document_of(source.path)
    drawn = {n["mesh"] for n in there["nodes"] if "mesh" in n}
    if copies is not None:
        assert [p.copies for p in found] == ([copies] if copies else [])
    assert len(drawn) == (found[0].copies if found else len({n["mesh"] for n in before["nodes"] if "mesh" in n}))
    grown = (tmp_path / "out" / file).stat().st_size - source.path.stat().st_size
    if found:
        # Beside positions and normals the file grows by what names the copies.
        assert found[0].more_bytes * 0.8 < grown < found[0].more_bytes + 1500 * found[0].copies
