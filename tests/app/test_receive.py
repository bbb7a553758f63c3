"""Receive: the batch sorted and grouped, files that change under the window, the size book's editor."""

from __future__ import annotations

import shutil

import pytest
from PySide6.QtCore import Qt

from oak_square.app.facts.findings import finding_groups
from oak_square.core.boxes import asset_box
from tests.patience import WAIT_MS


def files(hand):
    return [r.file for r in hand.window.batch.shown]


def test_the_batch_is_sorted_and_grouped_by_what_is_asked_for(hand, batch):
    hand.open(batch)
    items = hand.window.sort.items
    items["sort", "size"].trigger()
    hand.settle()
    largest = [r.largest_m for r in hand.window.batch.shown]
    assert largest == sorted(largest, reverse=True)
    items["sort", "name"].trigger()
    items["group", "format"].trigger()
    hand.settle()
    headings = [r.title for r in hand.window.batch.shown if r.heading]
    assert headings == ["glb · 4", "obj · 1", "stl · 1"]
    items["group", "finding"].trigger()
    hand.settle()
    assert hand.window.batch.shown[0].title.startswith("to settle at ")
    hand.pick("windlass.stl")
    assert hand.session.lead == "windlass.stl"
    items["group", "size"].trigger()
    items["sort", "unit"].trigger()
    hand.settle()
    assert {r.title.split(" · ")[0] for r in hand.window.batch.shown if r.heading} <= {
        "under 1 m", "under 10 m", "under 100 m", "under 1000 m",
    }  # fmt: skip


def test_a_file_that_changes_goes_or_comes_is_read_again_and_the_sheet_stays(hand, batch):
    hand.open(batch)
    hand.session.drafts.try_step(step_of(hand, {"do": "bake"}))
    hand.session.drafts.keep()
    shutil.copy(batch / "windlass.stl", batch / "second.stl")
    shutil.copy(batch / "milepost.glb", batch / "gate_leaf.glb")
    (batch / "milepost.glb").unlink()
    hand.key(Qt.Key.Key_F5)
    hand.qtbot.waitUntil(lambda: "second.stl" in hand.session.assets, timeout=WAIT_MS)
    hand.settle()
    gate = asset_box(hand.session.outcomes["gate_leaf.glb"].after.asset).size
    assert gate == pytest.approx([0.46, 0.92, 0.34], rel=1e-3)
    assert hand.row("milepost.glb").trouble == "is not there any more"
    assert "milepost.glb" not in hand.session.included()
    assert hand.steps() == ["Bake: rotation, scale"]
    hand.key(Qt.Key.Key_F5)
    hand.qtbot.waitUntil(lambda: hand.window.foot.words.text() == "Every file is as it was read", timeout=WAIT_MS)


def step_of(hand, words):
    from oak_square.steps.step import STEPS

    return STEPS[words["do"]].model_validate(words)


def test_a_change_is_noticed_without_being_asked(hand, batch):
    hand.open(batch)
    # The watcher is set up once the batch is shown.
    hand.qtbot.waitUntil(
        lambda: bool(hand.session.batch.watch._watcher and hand.session.batch.watch._watcher.files()), timeout=WAIT_MS
    )
    shutil.copy(batch / "milepost.glb", batch / "gate_leaf.glb")
    hand.qtbot.waitUntil(
        lambda: hand.session.assets["gate_leaf.glb"].nodes[0].name == hand.session.assets["milepost.glb"].nodes[0].name,
        timeout=WAIT_MS,
    )
    hand.settle()


def test_the_size_book_is_found_changed_made_of_the_batch_and_saved(hand, lock, tmp_path):
    hand.open(lock)
    assert len(hand.session.book.entries) == 19
    editor = hand.window.files.edit_book()
    row = next(k for k in range(editor.table.rowCount()) if editor.table.item(k, 0).text() == "milepost")
    editor.table.item(row, 4).setText("0.5 m")
    hand.settle()
    assert "row" in editor.complaint.text()
    assert "the smaller comes first" in editor.complaint.text()
    editor.table.item(row, 3).setText("40 cm")
    hand.settle()
    assert editor.complaint.text() == ""
    codes = [f.code for f in hand.session.outcomes["milepost.glb"].findings]
    assert "size-out-of-book" in codes
    hand.session.sheet.undo()
    hand.settle()
    assert editor.table.item(row, 3).text() == "0.9 m"
    hand.session.sheet.redo()
    hand.settle()
    assert editor.table.item(row, 3).text() == "40 cm"
    hand.click(editor.buttons["make"])
    assert len(hand.session.book.entries) == 20
    assert not any(
        f.code == "size-out-of-book" for o in hand.session.outcomes.values() for f in o.findings
    )  # fmt: skip
    editor.save_book(tmp_path / "made.csv")
    hand.click(editor.buttons["none"])
    assert hand.session.book is None
    editor.open_book(tmp_path / "made.csv")
    assert len(hand.session.book.entries) == 20
    editor.open_book(tmp_path / "nowhere.csv")
    assert "can't be read" in editor.complaint.text()
    editor.close()


def test_whichever_was_read_first_a_finding_shows_the_first_of_the_batch(hand, lock):
    hand.open(lock)
    said = [(g.code, g.example, g.files) for g in finding_groups(hand.session)[0]]
    assert max(len(files) for _, _, files in said) > 5
    outcomes = hand.session.outcomes
    for file in reversed(list(outcomes)):
        outcomes[file] = outcomes.pop(file)
    assert [(g.code, g.example, g.files) for g in finding_groups(hand.session)[0]] == said


def test_a_finding_of_the_book_leads_to_the_size_stage_with_those_that_have_it(hand, lock):
    hand.open(lock)
    hand.window.panel_desk.settle("size-out-of-book")
    hand.settle()
    assert hand.session.stage == "size"
    assert set(hand.session.selection) == {
        "gate_leaf.glb", "keepers_hut.obj", "lamp_standard.obj", "tiller.ply", "windlass.stl",
    }  # fmt: skip
    assert "type the extent" in hand.window.foot.words.text()
