"""Nodes are hung from others by dragging their rows: nothing moves, and nothing hangs from what hangs from it."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QModelIndex, Qt

from tests.app import lockworks
from tests.strategies import world_points

MOVE = Qt.DropAction.MoveAction


@pytest.fixture
def gate(deeds):
    d = deeds("gate", lockworks.gate())
    d.hand.pick(d.file)
    return d


def drop(d, names, above):
    """Drop rows onto another, or onto no row, as the list takes a drag."""
    tree = d.hand.window.hierarchy
    model = tree.tree.model()
    data = model.mimeData([tree.place_of(d.node(n)) for n in names])
    onto = QModelIndex() if above is None else tree.place_of(d.node(above))
    can = model.canDropMimeData(data, MOVE, -1, -1, onto)
    model.dropMimeData(data, MOVE, -1, -1, onto)
    d.hand.settle()
    return can


def parent(d, name):
    above = d.asset.nodes[d.node(name)].parent
    return None if above is None else d.asset.nodes[above].name


def test_several_rows_are_dragged_onto_another_and_nothing_moves(gate):
    before = {n: world_points(gate.asset, gate.node(n)) for n in ("leaf", "stop")}
    assert drop(gate, ["leaf", "stop"], "post")
    assert gate.session.document.draft.words() == {
        "do": "parent", "to": "post", "parts": ["leaf", "stop"], "for": ["gate.glb"],
    }  # fmt: skip
    gate.count += 1
    gate.key(Qt.Key.Key_Return)
    assert (parent(gate, "leaf"), parent(gate, "stop")) == ("post", "post")
    for name, points in before.items():
        assert np.abs(world_points(gate.asset, gate.node(name)) - points).max() < 1e-9
    gate.done(3)


def test_a_row_dropped_on_none_hangs_from_nothing(gate):
    assert drop(gate, ["leaf"], None)
    assert gate.session.document.draft.words()["to"] is None
    assert parent(gate, "leaf") is None


def test_nothing_hangs_from_itself_or_from_what_is_below_it_or_where_it_is(gate):
    for names, above in ((["gate"], "leaf"), (["leaf"], "leaf"), (["leaf", "stop"], "gate")):
        assert not drop(gate, names, above)
    assert gate.session.document.draft is None


def test_rows_can_be_dragged_and_dropped_on(gate):
    model = gate.hand.window.hierarchy.tree.model()
    flags = model.flags(gate.hand.window.hierarchy.place_of(gate.node("leaf")))
    assert flags & Qt.ItemFlag.ItemIsDragEnabled
    assert flags & Qt.ItemFlag.ItemIsDropEnabled
    assert gate.hand.window.hierarchy.tree.dragEnabled()
    assert gate.hand.window.hierarchy.tree.acceptDrops()
