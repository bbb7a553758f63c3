"""What the guide for pipelines says, done as it says."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from oak_square.demo import BATCH, SHEET
from tests.made import triangle_document, write_glb
from tests.patience import WAIT_S

GUIDE = Path(__file__).parents[1] / "docs" / "PIPELINE.md"


@pytest.fixture
def gate(tmp_path):
    """Run the guide's script in a folder of its own; returns its exit code and stderr."""
    script = next(b for b in re.findall(r"```sh\n(.*?)```", GUIDE.read_text("utf-8"), re.S) if "gate.sh" in b)
    (tmp_path / "gate.sh").write_text(script)
    (tmp_path / "bin").mkdir()
    command = tmp_path / "bin" / "oak-square"
    command.write_text(f'#!/bin/sh\nexec {sys.executable} -m oak_square "$@"\n')
    command.chmod(0o755)
    environment = {**os.environ, "PATH": f"{tmp_path / 'bin'}:{os.environ['PATH']}"}

    def run(incoming, sheet=SHEET):
        words = ["sh", "gate.sh", str(incoming), str(sheet), str(BATCH / "size_book.csv")]
        done = subprocess.run(words, cwd=tmp_path, env=environment, capture_output=True, timeout=WAIT_S, check=False)
        return done.returncode, done.stderr.decode()

    return run


def test_the_gate_lets_the_demo_batch_pass_and_stops_what_is_not_right(gate, tmp_path):
    shutil.copytree(BATCH, tmp_path / "incoming")
    passed = (0, "0 of 20 assets fail on check\n")
    assert gate(tmp_path / "incoming") == passed
    written = {p: p.stat().st_mtime_ns for p in (tmp_path / "delivery").glob("*.*") if p.is_file()}
    assert gate(tmp_path / "incoming") == passed
    assert {p: p.stat().st_mtime_ns for p in written} == written
    (tmp_path / "incoming" / "new.glb").write_bytes(b"rubbish")
    code, said = gate(tmp_path / "incoming")
    assert code == 3
    assert said.startswith("new.glb: failed: is no GLB")
    assert "new.glb" in (tmp_path / "report.html").read_text("utf-8")
    (tmp_path / "bad.prepsheet.yaml").write_text("prep-sheet: 1\nsteps:\n  - {do: bakke}\n")
    assert gate(tmp_path / "incoming", tmp_path / "bad.prepsheet.yaml")[0] == 2


def test_what_is_written_is_the_same_for_any_number_of_jobs(tmp_path):
    (tmp_path / "in").mkdir()
    for k in range(6):
        document, binary = triangle_document(nodes=[{"name": f"sign{k}", "mesh": 0, "scale": [k + 1] * 3}])
        write_glb(tmp_path / "in" / f"{k}.glb", document, binary)
    (tmp_path / "s.prepsheet.yaml").write_text("prep-sheet: 1\nsteps:\n  - {do: bake}\n")
    found = []
    for jobs in ("1", "4"):
        words = ["prep", "s.prepsheet.yaml", "in", "--out", jobs, "--jobs", jobs]
        subprocess.run([sys.executable, "-m", "oak_square", *words], cwd=tmp_path, capture_output=True, check=True)
        found.append({p.name: p.read_bytes() for p in (tmp_path / jobs).iterdir() if p.is_file()})
    assert found[0] == found[1]
    assert len(found[0]) == 7
