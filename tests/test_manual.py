"""The manual: true to the models it is made from, and its sheets do what they are said to do."""

from __future__ import annotations

import re

import pytest
from scripts import manual

import oak_square
from oak_square.core.findings.finding import KINDS
from oak_square.demo import BATCH
from oak_square.manual import pages
from oak_square.manual.pages import sheets_in
from oak_square.steps.step import STEPS, Step

COOKBOOK = next(page for page in pages() if page.name == "cookbook")
JOBS = re.split(r"^## ", COOKBOOK.text, flags=re.M)[1:]
# Of each job: what its last step must have done, to which of the demo's files.
DONE = {
    1: ("lamp_standard.obj", 1), 2: ("windlass.stl", 1), 3: ("lamp_standard.obj", 1), 4: ("gate_leaf.glb", 3),
    5: ("reed_clump.glb", 1), 6: ("gate_leaf_twin.glb", 1), 7: ("gate_leaf_twin.glb", 1),
    8: ("strapping_bollard.glb", 2), 9: ("stop_planks.glb", 1), 10: ("strapping_bollard.glb", 1),
    11: ("milepost.glb", 2), 12: ("gate_leaf_twin.glb", 1),
}  # fmt: skip


def test_what_stands_in_docs_is_what_ships():
    for path, text in manual.written().items():
        assert path.read_text("utf-8") == text, f"{path.name}: python scripts/manual.py writes it anew"
    there = {p.name for p in manual.FOLDER.iterdir()}
    assert there == {p.name for p in manual.written() if p.parent == manual.FOLDER}


def test_every_step_and_every_field_of_it_is_told_of_at_its_stage():
    for do, step in STEPS.items():
        (page,) = (page for page in pages() if page.stage == step.stage)
        own = page.text.split(f"\n## {do}\n")[1].split("\n## ")[0]
        for key, field in step.model_fields.items():
            if key not in Step.model_fields:
                assert f"| `{field.alias or key}` |" in own, (do, key)
                assert field.description, (do, key)


def test_every_finding_is_told_of_with_its_reason_and_its_remedy():
    (page,) = (page for page in pages() if page.name == "findings")
    for code, kind in KINDS.items():
        (line,) = (line for line in page.text.split("\n") if f"(`{code}`," in line)
        assert kind.why in line
        if kind.remedy is not None:
            assert f"do: {kind.remedy['do']}" in line


def test_there_are_twelve_jobs_each_with_its_sheet():
    assert len(JOBS) == 12
    assert [len(sheets_in(job)) for job in JOBS] == [1] * 12


@pytest.mark.parametrize("number", range(1, 13))
def test_each_job_does_on_the_demo_what_it_is_for(number, tmp_path):
    (text,) = sheets_in(JOBS[number - 1])
    file, step = DONE[number]
    told = oak_square.prep(text, BATCH, tmp_path / "out", jobs=1)
    assert not told["warnings"]
    entry = next(e for e in told["assets"] if e["source"] == file)
    outcome = next(o for o in entry["steps"] if o["step"] == step)
    assert outcome["outcome"] == "applied", entry
    assert entry["status"] in ("delivered", "unchanged")
    assert oak_square.prove(tmp_path / "out")["holds"]
    (there,) = (a for a in oak_square.survey(tmp_path / "out")["assets"] if a["file"] == entry["output"])
    assert there["size_m"] == pytest.approx(entry["size_after_m"], rel=1e-5)
