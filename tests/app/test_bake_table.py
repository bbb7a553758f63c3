"""Bake as a table: each node of all in scope, ticked by channel and by node, its consequences beside it."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QPainter

from oak_square.core.placement import turn_degrees
from tests.app.test_aim import draft


@pytest.fixture
def vane(hand, lock):
    hand.open(lock)
    hand.pick("weather_vane.glb", "gate_leaf.glb")
    hand.stage("bake")
    return hand, hand.body("bake").table


def texts(table):
    model = table.model
    return {
        model.index(r, 0).data().strip(): [model.index(r, c).data() for c in (1, 2, 3)] for r in range(model.rowCount())
    }


def tick(hand, table, name):
    row = next(r for r in range(table.model.rowCount()) if table.model.index(r, 0).data().strip() == name)
    index = table.model.index(row, 0)
    hand.window.panel.area.ensureWidgetVisible(table.view)
    table.view.scrollTo(index)
    room = table.view.visualRect(index)
    hand.click(table.view.viewport(), QPoint(room.left() + 11, room.top() + room.height() // 4))


def test_each_channel_is_shown_as_it_is_and_as_it_would_be(vane):
    hand, table = vane
    before = texts(table)
    asset = hand.session.outcomes["weather_vane.glb"].before.asset
    turned = turn_degrees(asset.nodes[[n.name for n in asset.nodes].index("vane")].placement.rotation)
    assert before["vane"][0] == f"{turned:.3g}°"
    assert any("gate_leaf" in name for name in before)
    hand.click(hand.body("bake").channels["rotation"], QPoint(8, 8))
    assert texts(table)["vane"][0] == f"{turned:.3g}°→0°"
    assert "→" not in texts(table)["leaf"][0]
    row = next(r for r in table._all if r.name == "vane")
    assert any(s.startswith("own axes now follow the parent's, which stood") for s in row.happens)
    assert hand.window.bench.facts.notes == ()  # nothing else happens to what leads
    hand.session.select(("gate_leaf.glb", "weather_vane.glb"))
    hand.settle()
    assert [n.text for n in hand.window.bench.facts.notes] == ["vane: axes"]
    assert table.said.text().endswith("something else happens to 1")


def test_a_node_that_is_unticked_is_left_out_and_ticked_again_taken_in(vane):
    hand, table = vane
    hand.click(hand.body("bake").usual)
    tick(hand, table, "vane")
    names = draft(hand)["parts"]
    assert "vane" not in names
    assert {"mast", "leaf"} <= set(names)
    assert not next(r for r in table._all if r.name == "vane").is_met
    tick(hand, table, "vane")
    assert "parts" not in draft(hand)
    assert all(r.is_met for r in table._all)


def test_the_table_is_filtered_by_name_and_by_what_is_unclean(vane):
    hand, table = vane
    hand.qtbot.keyClicks(table.filter, "van")
    assert set(texts(table)) == {"vane"}
    table.filter.clear()
    hand.click(table.unclean, QPoint(8, 8))
    assert "leaf" not in texts(table)
    assert "vane" in texts(table)
    assert table.said.text().startswith("2 of ")


def test_a_click_on_a_row_shows_its_node_with_what_happens_written_on_it(vane):
    hand, table = vane
    hand.click(hand.body("bake").usual)
    row = next(r for r in range(table.model.rowCount()) if table.model.index(r, 0).data().strip() == "vane")
    hand.window.panel.area.ensureWidgetVisible(table.view)
    hand.click(table.view.viewport(), table.view.visualRect(table.model.index(row, 1)).center())
    assert hand.session.lead == "weather_vane.glb"
    assert [n.text for n in hand.window.bench.facts.notes] == ["vane: axes, slanted"]
    hand.key(Qt.Key.Key_Escape)
    assert hand.window.bench.facts.notes == ()


def test_names_have_the_whole_row_and_what_happens_stands_beside_them_clear_of_them(vane, monkeypatch):
    hand, table = vane
    hand.click(hand.body("bake").usual)
    header = table.view.horizontalHeader()
    assert sum(header.sectionSize(k) for k in range(4)) <= table.view.viewport().width()
    row = next(r for r in range(table.model.rowCount()) if table.model.index(r, 0).data().strip() == "vane")
    assert "axes" in table.model.index(row, 0).data(Qt.ItemDataRole.UserRole)
    room = table.view.visualRect(table.model.index(row, 0))
    longest = max((r.name for r in table._all), key=len)
    assert room.width() < table.view.fontMetrics().horizontalAdvance(longest) + 40 < table.view.viewport().width()
    drawn, told = QPainter.drawText, []
    monkeypatch.setattr(QPainter, "drawText", lambda painter, *what: (told.append(what), drawn(painter, *what))[1])
    hand.window.panel.area.ensureWidgetVisible(table.view)
    table.view.scrollTo(table.model.index(row, 0))
    table.view.grab()
    beside = next(what[0] for what in told if str(what[-1]).startswith("axes"))
    room = table.view.visualRect(table.model.index(row, 0))
    name = str(table.model.index(row, 0).data())
    assert beside.left() > room.left() + table.view.fontMetrics().horizontalAdvance(name)
    assert beside.bottom() < room.bottom()
    assert beside.right() <= table.view.viewport().width()
