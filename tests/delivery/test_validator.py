"""The standard body's validator finds no error in a delivered glTF that its source did not have.

A development check: it runs where `scripts/test.sh` found Node.js and set the validator up.
"""

from __future__ import annotations

import json
import shutil
import subprocess
from pathlib import Path

import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.demo import BATCH, SHEET
from oak_square.sheet.text import parse_sheet
from tests.formats.test_draco import squeezed
from tests.formats.test_instances import row_of_posts
from tests.formats.test_morphs import pennant as morphed
from tests.formats.test_skins import pennant as skinned
from tests.formats.test_split import bollards
from tests.made import glb, triangle_document, write_gltf

VALIDATOR = Path(__file__).parents[2] / "scripts" / "validator"
SHEETS = [
    ["{do: bake, may-refuse: true}", "{do: pivot, at: middle, of: all, may-refuse: true}"],
    ["{do: turn, by: [20, 30, 40], parts: ['*'], may-refuse: true}", "{do: bake, what: [rotation], may-refuse: true}"],
    ["{do: unit, reads: cm, may-refuse: true}", "{do: turn, up: +Z, front: -Y, may-refuse: true}"],
    ["{do: split, parts: ['*'], into: pieces, may-refuse: true}", "{do: pivot, at: base, of: parts, may-refuse: true}"],
    [
        "{do: parent, parts: ['*.1', tip, rope], to: null, may-refuse: true}",
        "{do: place, at: origin, may-refuse: true}",
    ],
]

pytestmark = pytest.mark.skipif(
    not (VALIDATOR / "node_modules" / "gltf-validator").is_dir() or shutil.which("node") is None,
    reason="no Node.js, or the validator is not set up",
)


def errors_in(folder: Path) -> dict[str, set[str]]:
    """The codes of the errors in each glTF and GLB below `folder`."""
    paths = sorted(str(p) for p in folder.rglob("*.gl*") if p.suffix in {".glb", ".gltf"})
    command = ["node", str(VALIDATOR / "validate.mjs"), *paths]
    lines = subprocess.run(command, check=True, capture_output=True, text=True).stdout.splitlines()
    reports = [json.loads(line) for line in lines]
    assert len(reports) == len(paths) > 0
    return {str(Path(r["path"]).relative_to(folder)): {code for code, _, _ in r["errors"]} for r in reports}


@pytest.fixture(scope="module")
def models(tmp_path_factory):
    """The demo batch, and files of each kind that the tests of formats make by hand."""
    folder = tmp_path_factory.mktemp("models") / "in"
    shutil.copytree(BATCH, folder)
    made = {
        "bollards": bollards(),
        "draco": squeezed(scale=[2, 2, 2]),
        "morphed": glb(*morphed((-2, 1, 1))),
        "posts": row_of_posts(shared=True, scale=[3, 3, 3]),
        "skinned": skinned(),
    }
    for name, data in made.items():
        (folder / f"{name}.glb").write_bytes(data)
    write_gltf(folder / "sign.gltf", *triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [-2, 2, 2]}]))
    return folder


@pytest.mark.parametrize("steps", [None, *SHEETS])
def test_no_delivered_file_has_an_error_its_source_has_not(models, tmp_path, steps):
    text = SHEET.read_text() if steps is None else "prep-sheet: 1\nsteps:\n" + "".join(f"  - {s}\n" for s in steps)
    sheet = parse_sheet(text, "s")
    deliver(Run(sources=tuple(find_sources([models])), sheet=sheet, sheet_bytes=text.encode(), out=tmp_path / "out"))
    before, after = errors_in(models), errors_in(tmp_path / "out")
    assert len(after) > 12
    assert {file: codes - before[file] for file, codes in after.items() if codes - before[file]} == {}
