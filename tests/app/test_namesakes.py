"""One of several nodes of one name: picked alone it is moved alone, and what goes together is counted."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt

from tests.app import lockworks
from tests.app.lockworks import Part, box

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def barge(hand, tmp_path):
    """Two barges with three casks each, and a plank."""
    for file in ("barge.glb", "butty.glb"):
        casks = [Part("cask", *box((0.6, 0.9, 0.6)), at=(float(2 * k), 0.0, 0.0)) for k in range(3)]
        lockworks.write(tmp_path / file, [*casks, Part("plank", *box((6, 0.1, 1)), at=(0, -0.1, 0))])
    hand.open(tmp_path / "barge.glb", tmp_path / "butty.glb")
    hand.pick("barge.glb")
    return hand


def pick_node(hand, *nodes):
    tree = hand.window.hierarchy
    for k, node in enumerate(nodes):
        index = tree.place_of(node)
        tree.tree.scrollTo(index)
        keys = CTRL if k else Qt.KeyboardModifier.NoModifier
        hand.click(tree.tree.viewport(), tree.tree.visualRect(index).center(), keys)


def moved(hand, file="barge.glb"):
    outcome = hand.session.outcomes[file]
    return np.abs(outcome.after.asset.worlds - outcome.before.asset.worlds).max(axis=(1, 2)) > 1e-6


def test_one_of_three_casks_moves_alone_and_the_step_says_which(barge):
    hand = barge
    hand.stage("place")
    hand.click(hand.window.views.instruments["rule"])
    pick_node(hand, 1)  # the focus is where that click has left it
    assert hand.window.hierarchy.tree.hasFocus()
    for letter in "x1 m":
        hand.qtbot.keyClick(hand.window.hierarchy.tree, letter)
    hand.settle()
    assert hand.session.document.draft.parts == ["cask#2"]
    assert moved(hand).tolist() == [False, True, False, False]
    hand.key(Qt.Key.Key_Return)
    hand.key(Qt.Key.Key_Return)
    assert "only cask#2" in hand.window.strip.shown[-1].tip
    # All three that have the name are named by it, and the card counts them.
    pick_node(hand, 0, 1, 2)
    assert hand.session.scope.picked == ("cask",)
    assert hand.window.panel.scope.target.buttons["picked"].text() == "picked 3"


def test_parts_of_one_name_in_other_assets_are_counted_and_left_out_by_one_click(barge):
    hand = barge
    hand.stage("place")
    hand.pick("butty.glb", "barge.glb")
    pick_node(hand, 2)
    hand.click(hand.window.views.instruments["rule"])
    assert "2 assets, 2 parts" in hand.window.views.band.text()
    assert hand.window.hold_bar.beside.text() == "2 assets, 2 parts"
    scope = hand.window.panel.scope
    assert scope.says.text() == "Applies to <b>2 assets</b>, <b>2 parts</b>; nothing is tried yet."
    assert scope.lead_alone.text() == "only barge"
    hand.click(scope.lead_alone)
    assert hand.session.selection == ("barge.glb",)
    assert not scope.lead_alone.isVisible()
    assert scope.says.text() == "Applies to <b>1 asset</b>, <b>1 part</b>; nothing is tried yet."
    assert "2 assets" not in hand.window.views.band.text()


def test_a_row_of_bake_is_unticked_without_its_namesakes(barge):
    hand = barge
    hand.stage("bake")
    table = hand.body("bake").table
    hand.click(hand.body("bake").usual)
    index = table.model.index(next(k for k, r in enumerate(table.model.rows) if r.node == 1), 0)
    hand.window.panel.area.ensureWidgetVisible(table.view)
    table.view.scrollTo(index)
    room = table.view.visualRect(index)
    hand.click(table.view.viewport(), QPoint(room.left() + 11, room.top() + room.height() // 4))
    assert hand.session.document.draft.parts == ["cask#1", "cask#3", "plank"]
