"""What a run came to, as a page, a table and a document: all of it, and nothing in it taken for anything else."""

from __future__ import annotations

import csv
import io
import json
import shutil
import subprocess
import sys

import lxml.html
import pytest

from oak_square.core.errors import BadUsage
from oak_square.delivery import pictures
from oak_square.delivery.batch import find_sources
from oak_square.delivery.pictures import pictures_of
from oak_square.delivery.report import check_reports, write_reports
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.demo import BATCH
from oak_square.sheet.text import parse_sheet
from tests.made import triangle_document, write_glb
from tests.patience import WAIT_S

NASTY = "=cmd|'x'!A1 <script>alert(1)</script> & \"it\".glb"
TEXT = "prep-sheet: 1\ntitle: '</title><b>Fenwick'\nsteps:\n  - {do: bake}\n"


@pytest.fixture
def told(tmp_path):
    """One model delivered, one with a name that means ill, one that can't be read; the manifest, and its reports."""
    (tmp_path / "in").mkdir()
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    for name in ("plain.glb", NASTY.replace("/", "∕")):
        write_glb(tmp_path / "in" / name, document, binary)
    (tmp_path / "in" / "broken.glb").write_bytes(b"rubbish")
    sources = tuple(find_sources([tmp_path / "in"]))
    run = Run(sources=sources, sheet=parse_sheet(TEXT, "s"), sheet_bytes=TEXT.encode(), out=tmp_path / "out")
    manifest = deliver(run)
    files = {kind: tmp_path / "reports" / f"r.{kind}" for kind in ("html", "csv", "json")}
    check_reports(list(files.values()), run.out)
    write_reports(files.values(), manifest)
    return manifest, {kind: path.read_text("utf-8") for kind, path in files.items()}


def test_the_page_tells_of_each_asset_the_gravest_first_and_asks_nothing_of_the_network(told):
    manifest, reports = told
    page = lxml.html.document_fromstring(reports["html"])
    rows = page.xpath("//tbody/tr")
    names = [row.xpath("string(th/text())") for row in rows]
    nasty = next(e["source"] for e in manifest["assets"] if "script" in e["source"])
    assert names == ["broken.glb", nasty, "plain.glb"]
    assert [row.get("class") for row in rows] == ["failed", "delivered", "delivered"]
    assert "is no GLB" in rows[0].text_content()
    assert "2.00 × 4.00 × 0 m" in rows[2].text_content().replace("0.00 m", "0 m")
    assert rows[2].xpath("string(td[4])") == "exact"
    assert page.xpath("string(//h1)") == "</title><b>Fenwick"
    assert len(page.xpath("//script")) == 1
    assert not page.xpath("//@src | //@href | //link | //img")  # none were asked for
    assert "default-src 'none'" in page.xpath("string(//meta[@http-equiv]/@content)")


def test_pictures_are_of_what_lies_there_before_and_after_from_one_side(tmp_path):
    """One is moved, one sized a hundredfold, one left alone, one of a source that is gone."""
    (tmp_path / "in").mkdir()
    document, binary = triangle_document()
    for name in ("gone", "moved", "same", "sized"):
        write_glb(tmp_path / "in" / f"{name}.glb", document, binary)
    text = """prep-sheet: 1
steps:
  - {do: place, shift: [0.3, 0, 0], for: [moved.glb]}
  - {do: size, factor: 100, for: [sized.glb]}
"""
    sources = tuple(find_sources([tmp_path / "in"]))
    run = Run(sources=sources, sheet=parse_sheet(text, "s"), sheet_bytes=text.encode(), out=tmp_path / "out")
    manifest = deliver(run)
    there = tuple(s for s in sources if s.file != "gone.glb")
    known = {}
    pictures = pictures_of(manifest, there, run.sheet, run.out, 1, known)
    assert (pictures["gone.glb"].before, pictures["gone.glb"].after is not None) == (None, True)
    assert pictures["same.glb"].before == pictures["same.glb"].after
    assert pictures["moved.glb"].before != pictures["moved.glb"].after
    assert pictures["sized.glb"].closer == pytest.approx(0.01)
    write_reports([tmp_path / "r.html"], manifest, pictures)
    page = lxml.html.document_fromstring((tmp_path / "r.html").read_text("utf-8"))
    images = page.xpath("//img")
    assert len(images) == 7
    assert all(i.get("src").startswith("data:image/png;base64,") and i.get("alt") for i in images)
    assert "img-src data:" in page.xpath("string(//meta[@http-equiv]/@content)")
    (row,) = [r for r in page.xpath("//tbody/tr") if "sized.glb" in r.text_content()]
    assert "drawn 1/100 as large" in row.text_content()
    (tmp_path / "out" / "same.glb").unlink()  # what is known is not looked at again
    assert pictures_of(manifest, there, run.sheet, run.out, 1, known) == pictures


def test_what_can_not_be_drawn_costs_its_picture_alone(tmp_path, monkeypatch):
    (tmp_path / "in").mkdir()
    document, binary = triangle_document()
    write_glb(tmp_path / "in" / "sign.glb", document, binary)
    text = "prep-sheet: 1\nsteps: []\n"
    sources = tuple(find_sources([tmp_path / "in"]))
    run = Run(sources=sources, sheet=parse_sheet(text, "s"), sheet_bytes=text.encode(), out=tmp_path / "out")
    manifest = deliver(run)

    def fault(*_):
        raise ValueError("a fault of ours")

    monkeypatch.setattr(pictures, "portrait", fault)
    (output,) = find_sources([tmp_path / "out"])
    assert (
        pictures._picture_job(pictures._Job(key=("", "", ""), source=sources[0], sheet=run.sheet, output=output))
        is None
    )
    write_reports([tmp_path / "r.html"], manifest, {})
    assert "sign.glb" in (tmp_path / "r.html").read_text()


def test_checks_and_what_a_format_loses_have_lists_of_their_own(tmp_path):
    (tmp_path / "in").mkdir()
    for name in ("gate_leaf_twin.glb", "lamp_standard.obj"):
        shutil.copy(BATCH / name, tmp_path / "in")
    text = """prep-sheet: 1
deliver: {format: obj}
steps:
  - {do: check, height: {max: 10 m}}
  - {do: bake}
"""
    sources = tuple(find_sources([tmp_path / "in"]))
    run = Run(sources=sources, sheet=parse_sheet(text, "s"), sheet_bytes=text.encode(), out=tmp_path / "out")
    manifest = deliver(run)
    write_reports([tmp_path / "r.html"], manifest)
    page = lxml.html.document_fromstring((tmp_path / "r.html").read_text("utf-8"))
    told = {}
    for row in page.xpath("//tbody/tr"):
        cell = row.xpath("td")[-1]
        told[row.xpath("string(th/text())")] = {
            part.xpath("string(preceding-sibling::b[1])"): part.xpath("li/text()") for part in cell.xpath("ul")
        }
    gate, lamp = told["gate_leaf_twin.glb"], told["lamp_standard.obj"]
    assert any("hierarchy" in line for line in gate["What the file can't hold, or holds otherwise"])
    assert all(line.startswith("step 2") for line in gate["What else they bring about"])
    assert [line[:13] for line in gate["Checks"]] == ["step 1, check"]
    assert [*lamp] == [""]  # one list needs no heading
    assert "not at most 10 m" in lamp[""][0]
    # All that the manifest says is there once.
    for entry in manifest["assets"]:
        lines = [line for part in told[entry["source"]].values() for line in part]
        assert len(lines) == len(entry["steps"]) + len(entry["warnings"]) + bool(entry["reason"])


def test_the_table_has_a_row_for_each_asset_and_no_formula(told):
    manifest, reports = told
    rows = list(csv.DictReader(io.StringIO(reports["csv"])))
    assert len(rows) == len(manifest["assets"]) == 3
    by_status = {row["status"]: row for row in rows}
    assert "is no GLB" in by_status["failed"]["reason"]
    assert by_status["failed"]["width_after_m"] == ""
    plain = next(row for row in rows if row["source"] == "plain.glb")
    assert (float(plain["width_after_m"]), float(plain["height_before_m"])) == (2.0, 4.0)
    assert float(plain["deviation_m"]) == 0
    assert plain["steps"] == "1 bake: applied"
    assert not [cell for row in rows for cell in row.values() if cell.startswith("=")]
    assert any(row["source"].startswith("'=cmd|") for row in rows)


def test_the_document_is_the_manifest_with_totals(told):
    manifest, reports = told
    document = json.loads(reports["json"])
    assert document.pop("totals") == {"failed": 1, "refused": 0, "delivered": 2, "unchanged": 0}
    assert document == manifest


def test_a_report_never_takes_the_place_of_the_manifest(tmp_path):
    with pytest.raises(BadUsage, match="manifest"):
        check_reports([tmp_path / "out" / "delivery.json"], tmp_path / "out")


def test_a_dry_run_reports_and_writes_nothing_else(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = triangle_document()
    write_glb(tmp_path / "in" / "sign.glb", document, binary)
    (tmp_path / "s.prepsheet.yaml").write_text(TEXT)
    words = ["prep", "s.prepsheet.yaml", "in", "--out", "out", "--dry-run", "--report", "deep/r.csv"]
    subprocess.run([sys.executable, "-m", "oak_square", *words], cwd=tmp_path, capture_output=True, check=True)
    assert [row["source"] for row in csv.DictReader(io.StringIO((tmp_path / "deep" / "r.csv").read_text()))] == [
        "sign.glb"
    ]
    assert not (tmp_path / "out").exists()


@pytest.mark.parametrize("name", ["folder.csv", "file.txt/r.csv", "file.txt/deep/r.csv"])
def test_a_report_that_can_not_be_written_is_told_before_anything_is_done(tmp_path, name):
    (tmp_path / "folder.csv").mkdir()
    (tmp_path / "file.txt").write_text("no folder")
    with pytest.raises(BadUsage, match="can't be written there"):
        check_reports([tmp_path / name], tmp_path / "out")
    check_reports([tmp_path / "not" / "yet" / "r.csv"], tmp_path / "out")


@pytest.mark.parametrize("command", ["prep", "watch"])
def test_a_report_of_another_kind_is_two_and_nothing_is_written(tmp_path, command):
    (tmp_path / "in").mkdir()
    document, binary = triangle_document()
    write_glb(tmp_path / "in" / "sign.glb", document, binary)
    (tmp_path / "s.prepsheet.yaml").write_text(TEXT)
    before = sorted(tmp_path.rglob("*"))
    words = [command, "s.prepsheet.yaml", "in", "--out", "out", "--report", "r.htm"]
    done = subprocess.run(
        [sys.executable, "-m", "oak_square", *words], cwd=tmp_path, capture_output=True, timeout=WAIT_S, check=False
    )
    assert done.returncode == 2
    assert done.stderr.decode() == (
        "--report r.htm: its suffix says no kind of report (.html, .csv, .json); did you mean '.html'?\n"
    )
    assert sorted(tmp_path.rglob("*")) == before
