"""What a step is for: chosen once above every form, and no choice that is offered makes an invalid or a silent step."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.core.boxes import node_box
from oak_square.steps.step import STEPS
from tests.app.test_entries import typed
from tests.patience import WAIT_MS

CTRL = Qt.KeyboardModifier.ControlModifier


def draft(hand):
    return hand.session.document.draft.words()


def in_hierarchy(hand, *names, keys=Qt.KeyboardModifier.NoModifier):
    """Click nodes in the hierarchy, further ones with Ctrl."""
    tree, asset = hand.window.hierarchy, hand.session.outcomes[hand.session.lead].after.asset
    for k, name in enumerate(names):
        index = tree.place_of(next(i for i, n in enumerate(asset.nodes) if n.name == name))
        tree.tree.scrollTo(index)
        hand.click(tree.tree.viewport(), tree.tree.visualRect(index).center(), CTRL if k else keys)


def dot(hand, at=(0.0, 0.0, 0.5)):
    picker = hand.body("pivot").picker
    hand.click(picker, picker.place(at).toPoint())


def test_a_part_that_is_picked_is_what_the_step_is_for_in_either_order(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("pivot")
    in_hierarchy(hand, "leaf")
    dot(hand)
    assert draft(hand) == {
        "do": "pivot", "at": {"point": ["left", "bottom", "middle"]}, "parts": ["leaf"], "for": ["gate_leaf.glb"],
    }  # fmt: skip
    assert hand.window.panel.scope.says.text() == "Applies to <b>1 asset</b>, <b>1 part</b>"
    hand.key(Qt.Key.Key_Escape)
    hand.key(Qt.Key.Key_Escape)
    assert hand.session.nodes == ()
    # The other way round: first the dot, then the part.
    dot(hand)
    assert "parts" not in draft(hand)
    in_hierarchy(hand, "leaf")
    assert "parts" not in draft(hand)  # looking at a part changes no step
    assert hand.window.panel.scope.target.choice == "whole"
    hand.click(hand.window.panel.scope.target.buttons["picked"])
    assert draft(hand)["parts"] == ["leaf"]
    before = hand.session.outcomes["gate_leaf.glb"].before.asset
    hand.key(Qt.Key.Key_Return)
    after = hand.session.outcomes["gate_leaf.glb"].after.asset
    for i, node in enumerate(before.nodes):
        moved = abs(before.worlds[i] - after.worlds[i]).max() > 1e-6
        assert moved == (node.name == "leaf"), node.name


def test_a_group_that_is_picked_gets_its_own_pivot(hand, batch):
    hand.open(batch)
    hand.pick("narrowboat.glb")
    hand.stage("pivot")
    in_hierarchy(hand, "stern")
    hand.click(hand.body("pivot").places.buttons["base"])
    assert (draft(hand)["of"], draft(hand)["parts"]) == ("groups", ["stern"])
    assert hand.window.panel.scope.says.text() == "Applies to <b>1 asset</b>, <b>0 parts</b>, <b>1 group</b>"
    (row,) = hand.window.panel.effect.rows
    assert row.outcome == "applied"
    in_hierarchy(hand, "stern", "hull")
    hand.click(hand.window.panel.scope.target.buttons["picked"])
    assert (draft(hand)["of"], sorted(draft(hand)["parts"])) == ("all", ["hull", "stern"])


def test_several_parts_are_picked_in_the_hierarchy_and_in_the_view(hand, batch):
    hand.open(batch)
    hand.pick("mooring_bollards.glb")
    in_hierarchy(hand, "bollard_1", "bollard_3")
    asset, bench = hand.session.outcomes["mooring_bollards.glb"].after.asset, hand.window.bench
    names = [n.name for n in asset.nodes]
    assert [names[i] for i in hand.session.nodes] == ["bollard_1", "bollard_3"]
    assert hand.window.views.title.text() == "mooring_bollards  ›  2 picked"
    box = node_box(asset, names.index("bollard_2"))
    x, y = bench.lens().seen(box.middle[None])[0][:2]
    hand.click(bench, QPoint(round(x), round(y)), CTRL)
    assert [names[i] for i in hand.session.nodes] == ["bollard_1", "bollard_3", "bollard_2"]
    chosen = hand.window.hierarchy.tree.selectionModel().selectedIndexes()
    assert sorted(index.data() for index in chosen) == ["bollard_1", "bollard_2", "bollard_3"]
    hand.click(bench, QPoint(round(x), round(y)), CTRL)
    assert [names[i] for i in hand.session.nodes] == ["bollard_1", "bollard_3"]
    hand.stage("turn")
    body = hand.body("turn")
    hand.click(body.pages.tabs.buttons["by"])
    typed(hand, body.angles[1], "30")
    assert draft(hand)["parts"] == ["bollard_1", "bollard_3"]
    # Up and front are the file's: such a step names no parts.
    hand.click(body.pages.tabs.buttons["reading"])
    hand.click(body.up.buttons["+Z"])
    assert "parts" not in draft(hand)
    assert not hand.window.panel.scope.target.isVisible()


def test_parts_are_named_by_pattern(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("bake")
    scope = hand.window.panel.scope
    hand.click(scope.target.buttons["names"])
    assert scope.names.text() == "*"
    hand.qtbot.keyClicks(scope.names, "*_post, paddle")
    hand.click(hand.body("bake").usual)
    assert draft(hand)["parts"] == ["*_post", "paddle"]
    assert hand.window.panel.scope.says.text() == "Applies to <b>1 asset</b>, <b>2 parts</b>"
    # The step it was is undone letter by letter no more than the pattern was typed: as one.
    scope.names.selectAll()
    hand.qtbot.keyClicks(scope.names, "leaf")
    assert draft(hand)["parts"] == ["leaf"]
    hand.session.sheet.undo()
    assert draft(hand)["parts"] == ["*_post", "paddle"]


def test_what_a_step_is_for_is_not_handed_on_to_the_next(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("bake")
    hand.click(hand.window.panel.scope.which.buttons["all"])
    hand.click(hand.body("bake").usual)
    hand.key(Qt.Key.Key_Return)
    assert hand.window.panel.scope.which.choice == "selected"
    hand.click(hand.body("bake").usual)
    assert draft(hand)["for"] == ["gate_leaf.glb"]


PRESSES = {
    "size": lambda hand: typed(hand, front(hand, "size", "factor").factor, "1.5"),
    "turn": lambda hand: typed(hand, front(hand, "turn", "by").angles[1], "30"),
    "pivot": lambda hand: hand.click(hand.body("pivot").places.buttons["middle"]),
    "bake": lambda hand: hand.click(hand.body("bake").usual),
    "place": lambda hand: hand.click(hand.body("place").ground, QPoint(8, 8)),
}


def front(hand, stage, page):
    body = hand.body(stage)
    hand.click(body.pages.tabs.buttons[page])
    return body


@pytest.mark.parametrize("stage", PRESSES)
def test_no_choice_that_is_offered_makes_an_invalid_or_a_silent_step(hand, batch, stage):
    hand.open(batch)
    hand.pick("narrowboat.glb")
    in_hierarchy(hand, "hull", "stern")
    hand.stage(stage)
    said = []
    hand.session.messages.failed.connect(said.append)
    scope = hand.window.panel.scope
    if stage in ("size", "turn"):
        front(hand, stage, "factor" if stage == "size" else "by")
    offered = [k for k, b in scope.target.buttons.items() if b.isVisible() and b.isEnabled()]
    assert {"whole", "picked", "names"} <= set(offered)
    for first in (True, False):
        for key in offered:
            if first:
                hand.click(scope.target.buttons[key])
            PRESSES[stage](hand)
            if not first:
                hand.click(scope.target.buttons[key])
            step = hand.session.document.draft
            assert step is not None, (key, first)
            assert scope.target.choice == key, (key, first)
            assert STEPS[step.do].model_validate(step.words()) == step
            (row,) = hand.window.panel.effect.rows
            # It does something, or says why there is nothing to do.
            assert row.outcome == "applied" or row.detail.endswith("already"), (key, first, row)
            assert hand.window.panel.scope.says.text() != "Applies to <b>1 asset</b>, <b>0 parts</b>"
            hand.key(Qt.Key.Key_Escape)
            assert hand.session.document.draft is None
    assert not [line for line in said if line.startswith("Not a step yet")]


def test_a_choice_that_a_step_can_not_take_is_not_offered(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    in_hierarchy(hand, "leaf")
    hand.stage("pivot")
    hand.click(hand.body("pivot").places.buttons["parent"])
    assert draft(hand)["at"] == "parent"
    whole = hand.window.panel.scope.target.buttons["whole"]
    assert not whole.isEnabled()
    assert "node's" in whole.toolTip()
    hand.key(Qt.Key.Key_Escape)
    hand.click(whole)
    assert not hand.body("pivot").places.buttons["parent"].isEnabled()


def test_parts_are_hung_and_set_to_their_parents_by_hand(hand, batch):
    hand.open(batch)
    hand.pick("narrowboat.glb")
    in_hierarchy(hand, "chimney")
    hand.stage("bake")
    hang = hand.body("bake").forms["parent"].editors["to"].box
    hang.setFocus()
    hang.setCurrentIndex(hang.findText("above"))
    hang.activated.emit(hang.currentIndex())
    hand.settle()
    assert draft(hand) == {"do": "parent", "to": "above", "parts": ["chimney"], "for": ["narrowboat.glb"]}
    hand.key(Qt.Key.Key_Return)
    asset = hand.session.outcomes["narrowboat.glb"].after.asset
    names = [n.name for n in asset.nodes]
    assert asset.nodes[names.index("chimney")].parent == names.index("above")
    hand.stage("place")
    hand.click(hand.body("place").parent_pivot, QPoint(8, 8))
    assert draft(hand) == {"do": "place", "at": "parent", "parts": ["chimney"], "for": ["narrowboat.glb"]}
    hand.key(Qt.Key.Key_Return)
    asset = hand.session.outcomes["narrowboat.glb"].after.asset
    chimney, above = (asset.worlds[names.index(n)][:3, 3] for n in ("chimney", "above"))
    assert abs(chimney - above).max() < 1e-9


def test_fields_read_what_is_aimed_at(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("size")
    body = front(hand, "size", "extent")
    whole = body.extents["height"].placeholderText()
    in_hierarchy(hand, "paddle")
    part = body.extents["height"].placeholderText()
    assert part
    assert part != whole
    before = hand.session.outcomes["gate_leaf.glb"].after.asset
    index = next(i for i, n in enumerate(before.nodes) if n.name == "paddle")
    tall = node_box(before, index).size[1]
    typed(hand, body.extents["height"], "*2")
    after = hand.session.outcomes["gate_leaf.glb"].after.asset
    assert node_box(after, index).size[1] == pytest.approx(2 * tall)


def test_up_and_front_turn_the_small_pictures_of_all_that_is_in_scope_while_one_chooses(hand, batch):
    hand.open(batch)
    hand.qtbot.waitUntil(lambda: not hand.window.thumbnails.busy, timeout=WAIT_MS)
    files = ("gate_leaf.glb", "milepost.glb")
    of = hand.window.thumbnails.of
    before = {f: of(f).copy() for f in hand.session.rows}
    hand.pick(*files)
    hand.stage("turn")
    hand.click(hand.body("turn").up.buttons["-Y"])
    hand.qtbot.waitUntil(lambda: not hand.window.thumbnails.busy, timeout=WAIT_MS)
    assert {f for f, image in before.items() if of(f) != image} == set(files)
    hand.key(Qt.Key.Key_Escape)
    hand.qtbot.waitUntil(lambda: not hand.window.thumbnails.busy, timeout=WAIT_MS)
    assert all(of(f) == image for f, image in before.items())


def test_each_stage_lists_what_is_left_there_and_settles_it(hand, lock):
    hand.open(lock)
    for stage in ("size", "turn", "pivot", "bake", "place"):
        hand.stage(stage)
        listed = hand.window.panel.findings
        wanted = {f.code for o in hand.session.outcomes.values() for f in o.findings if f.stage == stage}
        assert {g.code for g in listed._shown} == wanted
        assert wanted
        assert listed.isVisible()
    hand.stage("bake")
    code = next(iter(hand.window.panel.findings.settles))
    having = {f for f, o in hand.session.outcomes.items() if any(x.code == code for x in o.findings)}
    hand.click(hand.window.panel.findings.settles[code])
    assert not hand.window.panel.findings.isVisible()
    assert {f for f in hand.session.assets if hand.session.document.draft.covers(f)} == having
    hand.key(Qt.Key.Key_Return)
    assert code not in {f.code for f_ in having for f in hand.session.outcomes[f_].findings}


def test_a_step_for_nothing_is_not_kept(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage("bake")
    hand.click(hand.body("bake").usual)
    scope = hand.window.panel.scope
    hand.click(scope.which.buttons["names"])
    assert scope.globs.text() == "gate_leaf.glb"
    hand.key(Qt.Key.Key_Backspace)  # all of it is selected, to be typed over
    assert draft(hand)["for"] == []
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == []
    assert "for no asset" in hand.window.foot.words.text()
    hand.qtbot.keyClicks(scope.globs, "*.glb")
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Bake: rotation, scale"]


def test_what_a_split_meets_is_parts_alone(hand, batch):
    hand.open(batch)
    hand.pick("narrowboat.glb")
    hand.stage("bake")
    hand.click(hand.body("bake").forms["split"].editors["into"].choices.buttons["pieces"])
    assert hand.window.panel.scope.says.text() == "Applies to <b>1 asset</b>, <b>5 parts</b>"


def test_the_pick_stays_in_the_line_up_and_the_dividers_go_to_the_bench(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    hand.key(Qt.Key.Key_L)
    hand.key(Qt.Key.Key_1)
    assert hand.window.views.view == "line-up"
    hand.key(Qt.Key.Key_5)
    assert hand.window.views.view == "bench"


def test_a_step_that_says_of_parts_in_full_is_seen_as_what_is_picked(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    in_hierarchy(hand, "leaf")
    hand.stage("pivot")
    words = {"do": "pivot", "at": "mean", "of": "parts", "parts": ["leaf"], "for": ["gate_leaf.glb"]}
    hand.session.drafts.try_whole(words)
    hand.settle()
    assert hand.window.panel.scope.target.choice == "picked"
    assert draft(hand) == words
