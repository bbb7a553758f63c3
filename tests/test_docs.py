from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from oak_square.delivery.proof_written import NOT_COMPARED
from oak_square.demo import SHEET

ROOT = Path(__file__).resolve().parent.parent
DOCS = [ROOT / "README.md", *sorted((ROOT / "docs").rglob("*.md"))]
HOMES = [ROOT, ROOT / "src" / "oak_square", ROOT / "docs"]


@pytest.mark.parametrize("doc", DOCS, ids=lambda d: d.name)
def test_paths_named_in_the_docs_exist(doc):
    text = doc.read_text()
    named = set(re.findall(r"`((?:[\w.]+/)+[\w.]*)`", text)) | set(re.findall(r"\]\((?!http)([^)#]+)\)", text))
    for name in named - {"models/", "delivery/"}:
        assert any((home / name).exists() for home in [doc.parent, *HOMES]), name


def test_every_picture_is_linked_from_the_readme_and_there_are_few():
    pictures = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
    readme = (ROOT / "README.md").read_text()
    assert 0 < len(pictures) < 20
    for picture in pictures:
        assert f"docs/screenshots/{picture.name}" in readme


def test_the_gate_in_the_readme_passes_a_true_delivery_and_stops_an_untrue_one(lock, tmp_path):
    script = re.search(r"```sh\n(.*?)```", (ROOT / "README.md").read_text(), re.DOTALL).group(1)
    home = {"PATH": f"{Path(sys.executable).parent}:{os.environ['PATH']}", "HOME": str(tmp_path)}
    for name in ("size_book.csv", "conventions.prepsheet.yaml"):
        shutil.copy(lock / name, tmp_path)

    def run(*words, **more):
        return subprocess.run(words, cwd=tmp_path, env=home, capture_output=True, text=True, check=False, **more)

    prep = run("oak-square", "prep", str(SHEET), str(lock), "--out", "delivered")
    assert prep.returncode == 0, prep.stderr
    passed = run("sh", input=script)
    assert (passed.returncode, passed.stderr) == (0, "0 of 20 assets fail on check\n")
    assert not (tmp_path / "nothing").exists()
    shutil.copy(lock / "gate_leaf_twin.glb", tmp_path / "delivered")
    assert run("sh", input=script).returncode == 1
    checks = run("sh", input=script.replace("oak-square survey", "true"))
    assert checks.returncode == 3
    assert "gate_leaf_twin.glb: failed: step 2 (check): 'gate' carries a scale" in checks.stderr


def test_the_readme_lists_what_a_proof_does_not_compare():
    text = (ROOT / "README.md").read_text("utf-8")
    for words in NOT_COMPARED:
        assert f"* {words}\n" in text
