"""Once a delivery has ended: the rest of it done, a report of it saved, from the panel."""

from __future__ import annotations

import csv
import io
import json

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QFileDialog

from tests.patience import WAIT_MS
from tests.runs import troubles

TEXT = """prep-sheet: 1
steps:
  - {do: check, height: {min: 0 m, max: 3 m}, for: ["lamp_standard.*"]}
  - {do: bake}
"""


@pytest.fixture
def ended(hand, batch, tmp_path):
    """Six models delivered, one of which does not pass what is checked."""
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text(TEXT)
    hand.open(batch)
    hand.open(sheet)
    hand.stage("deliver")
    body = hand.window.panel_desk.deliver_body
    body.folder.setText(str(tmp_path / "out"))
    assert not body.afterwards.isVisible()
    hand.click(body.run)
    return hand


def marks(folder):
    return {p.name: p.stat().st_mtime_ns for p in folder.iterdir() if p.suffix not in {".json", ""}}


def test_the_rest_of_a_delivery_is_done_and_what_stands_stays(ended, tmp_path):
    body = ended.window.panel_desk.deliver_body
    assert ended.window.ruler.note("deliver") == "5 ready, 1 not"
    assert body.outcome.text().startswith("5 of 6 delivered and proved")
    assert "5 of 6 delivered and proved" in ended.window.foot.words.text()
    before = marks(tmp_path / "out")
    assert len(before) >= 5
    ended.click(body.afterwards.rest)
    assert body.outcome.text().startswith("5 of 6 delivered")
    assert marks(tmp_path / "out") == before
    ended.session.sheet.remove_step(0)
    ended.settle()
    ended.click(body.afterwards.rest)
    assert ended.window.ruler.note("deliver") == "6 ready"
    assert body.outcome.text().startswith("6 of 6 delivered")
    assert not body.afterwards.rest.isVisible()
    assert not any(troubles(tmp_path / "out").values())


@pytest.mark.parametrize(
    ("name", "kind"),
    [("run", "A table (*.csv)"), ("run.json", "A page (*.html)"), ("page", "A page (*.html)")],
)
def test_a_report_is_saved_as_what_it_is_called_or_else_as_the_kind_that_is_chosen(
    ended, tmp_path, monkeypatch, name, kind
):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / name), kind))
    with ended.qtbot.waitSignal(
        ended.session.messages.said, timeout=WAIT_MS, check_params_cb=lambda w: "The report is in" in w
    ):
        ended.click(ended.window.panel_desk.deliver_body.afterwards.report)
    if name == "page":
        # Before and after of each that was delivered.
        assert (tmp_path / "page.html").read_text().count("data:image/png;base64,") == 10
    elif name == "run":
        rows = list(csv.DictReader(io.StringIO((tmp_path / "run.csv").read_text())))
        assert {r["source"] for r in rows if r["status"] == "failed"} == {"lamp_standard.obj"}
    else:
        assert json.loads((tmp_path / "run.json").read_text())["totals"]["failed"] == 1


def test_looking_first_writes_nothing_and_tells_of_all_that_is_in_the_way(ended, tmp_path):
    body, out = ended.window.panel_desk.deliver_body, tmp_path / "out"
    before = {p.name: p.read_bytes() for p in out.iterdir() if p.is_file()}
    ended.click(body.look)
    assert body.outcome.text().startswith(
        "Nothing was written, and nothing would be. Without what is in the way: 5 of 6."
    )
    assert "--" not in body.outcome.toolTip()  # that is the command's way out
    assert f"In the way: {out}/delivery.json: exists, and so do 5 more" in body.outcome.toolTip()
    assert body.results.table.horizontalHeaderItem(1).text() == "would be"
    assert not body.afterwards.isVisible()
    body.folder.setText(str(tmp_path / "elsewhere"))
    ended.click(body.look)
    assert body.outcome.text() == "Nothing was written. 5 of 6 would be delivered."
    assert {p.name: p.read_bytes() for p in out.iterdir() if p.is_file()} == before
    assert not (tmp_path / "elsewhere").exists()
    ended.click(body.run)
    assert body.results.table.horizontalHeaderItem(1).text() == "status"


def test_what_there_is_to_read_of_an_asset_stands_under_its_row_the_gravest_first(ended, tmp_path):
    body = ended.window.panel_desk.deliver_body
    table = body.results.table
    assert [table.item(0, k).text() for k in (0, 1)] == ["lamp_standard.obj", "failed"]
    assert "height" in table.item(1, 0).text()
    assert "lamp_standard.obj: " not in body.outcome.toolTip()
    ended.click(table.viewport(), table.visualItemRect(table.item(1, 0)).center())
    assert ended.session.lead == "lamp_standard.obj"
    # Every warning of every asset is under its own row, and nothing else is.
    manifest = json.loads((tmp_path / "out" / "delivery.json").read_text())
    entries = {e["source"]: e for e in manifest["assets"]}
    for row in range(table.rowCount()):
        entry = entries[table.item(row, 0).data(Qt.ItemDataRole.UserRole)]
        told = [*([entry["reason"]] if entry["reason"] else []), *entry["warnings"]]
        if table.columnSpan(row, 0) == 3:
            assert table.item(row, 0).toolTip() == "\n".join(told)
            assert table.item(row - 1, 0).text() == entry["source"]
        else:
            followed = row + 1 < table.rowCount() and table.columnSpan(row + 1, 0) == 3
            assert followed == bool(told)


def test_a_report_never_takes_the_place_of_the_manifest(ended, tmp_path, monkeypatch):
    manifest = tmp_path / "out" / "delivery.json"
    before = manifest.read_bytes()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(manifest), "A document (*.json)"))
    with ended.qtbot.waitSignal(
        ended.session.messages.said, timeout=WAIT_MS, check_params_cb=lambda w: "another name" in w
    ):
        ended.click(ended.window.panel_desk.deliver_body.afterwards.report)
    assert manifest.read_bytes() == before


def test_the_folder_is_shown_in_the_file_manager(ended, tmp_path, monkeypatch):
    shown = []
    monkeypatch.setattr(QDesktopServices, "openUrl", lambda url: shown.append(url.toLocalFile()))
    ended.click(ended.window.panel_desk.deliver_body.afterwards.open)
    assert shown == [str(tmp_path / "out")]
