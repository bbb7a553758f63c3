"""The stand check: copies on three grounds, the batch in a list; nothing changes by it."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt

from oak_square.sheet.model import Sheet
from tests.app import lockworks


@pytest.fixture
def yard(hand, tmp_path):
    """A crate whose pivot is its base's middle, and one that stands beside its own."""
    (tmp_path / "in").mkdir()
    lockworks.write(tmp_path / "in" / "true.glb", [lockworks.Part("t", *lockworks.box((1.0, 1, 1), (-0.5, 0, -0.5)))])
    lockworks.write(
        tmp_path / "in" / "sunk.glb", [lockworks.Part("s", *lockworks.box((1.0, 1, 1), (-0.5, -0.25, -0.5)))]
    )
    hand.open(tmp_path / "in")
    hand.pick("true.glb")
    hand.key(Qt.Key.Key_J)
    return hand


def said(hand):
    table = hand.window.views.stand.table
    return {table.item(r, 0).text(): [table.item(r, c).text() for c in (1, 2, 3)] for r in range(table.rowCount())}


def test_each_of_the_batch_is_listed_with_how_it_stands(yard):
    rows = said(yard)
    assert rows["true"][0] == "stands true"
    assert rows["sunk"][0] == "sinks 0.25 m"
    assert rows["true"][1].endswith("would have to lean 6.0°")
    notes = [n.text for n in yard.window.views.stand.bench.facts.notes]
    assert notes[0] == "level: stands true"
    assert len({s.mesh.name for s in yard.window.views.stand.bench.picture.shapes}) == 4
    assert yard.session.document.sheet == Sheet()
    assert not yard.session.sheet.history.past


def test_a_click_in_the_list_shows_that_one_and_a_step_mends_it_at_once(yard):
    table = yard.window.views.stand.table
    row = next(r for r in range(table.rowCount()) if table.item(r, 0).text() == "sunk")
    yard.click(table.viewport(), table.visualItemRect(table.item(row, 1)).center())
    assert yard.session.lead == "sunk.glb"
    assert yard.window.views.stand.bench.facts.notes[0].text == "level: sinks 0.25 m"
    yard.stage("pivot")
    yard.click(yard.body("pivot").places.buttons["base"])
    assert said(yard)["sunk"][0] == "stands true"
    yard.key(Qt.Key.Key_J)
    assert yard.window.views.view == "bench"
