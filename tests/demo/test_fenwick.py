from __future__ import annotations

from oak_square.core.findings.finding import KINDS
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import survey_batch
from oak_square.demo import BATCH
from oak_square.demo.fenwick import make_batch


def test_the_shipped_files_are_what_the_script_makes(tmp_path):
    make_batch(tmp_path)
    for path in sorted(tmp_path.iterdir()):
        assert path.read_bytes() == (BATCH / path.name).read_bytes(), path.name


def test_troubles_lists_what_the_survey_finds():
    told = (BATCH / "TROUBLES.md").read_text()
    for entry in survey_batch(find_sources([BATCH])):
        section = told.split(f"## {entry['file']}")[1].split("\n## ")[0]
        codes = {f["code"] for f in entry["findings"]}
        named = {c for c in KINDS if f"`{c}`" in section}
        assert named == codes, entry["file"]
