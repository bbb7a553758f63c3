"""Several sized together keep their proportion: percents, factors and drags are one factor for all of them."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.core.boxes import tree_box
from tests.app.lockworks import Part, box
from tests.app.test_hands import handle


@pytest.fixture
def posts(deeds):
    """A post of 1 m and one of 3 m."""
    d = deeds("posts", [Part("low", *box((0.5, 1, 0.5))), Part("high", *box((0.5, 3, 0.5)), at=(2, 0, 0))])
    d.look(-30, 30)
    d.hand.pick("posts.glb")
    d.row("low")
    d.row("high", keys=Qt.KeyboardModifier.ControlModifier)
    d.key(Qt.Key.Key_4)
    return d


def heights(d, asset=None):
    asset = asset or d.asset
    return [float(tree_box(asset, k).size[1]) for k in range(2)]


@pytest.mark.parametrize(
    ("text", "high"), [("y 50%", [0.5, 1.5]), ("y*2", [2, 6]), ("y/2", [0.5, 1.5]), ("y 100%", [1, 3])]
)
def test_what_is_told_from_what_they_are_is_one_factor(posts, text, high):
    d = posts
    d.entry(text)
    assert heights(d) == pytest.approx(high)
    factor = d.session.document.draft.words().get("factor", 1)
    assert factor == 1 or factor[0] == 1
    d.entry("\n")
    assert heights(d) == pytest.approx(high)


def test_about_their_common_middle_they_stay_in_proportion_where_they_stand(posts):
    d = posts
    d.session.names.set_grip(lambda g: type(g)(about="common"))
    d.hand.settle()
    d.entry("y*2\n")
    assert heights(d) == pytest.approx([2, 6])
    assert d.box("high").low[1] == pytest.approx(-1.5)
    assert d.box("low").low[1] == pytest.approx(-1.5)


def test_a_knob_that_is_dragged_sizes_both_by_one_factor_and_a_second_drag_goes_on_from_it(posts):
    d = posts
    for _ in range(2):
        before = heights(d)
        at = handle(d, "knob")
        d.drag(at, at + QPoint(20, -30), by_pixels=True)
        after = heights(d)
        assert after[0] / before[0] == pytest.approx(after[1] / before[1])
        assert after[0] > 1.01 * before[0]
    assert isinstance(d.session.document.draft.words()["factor"], float)


def test_a_typed_length_is_each_ones_or_that_of_all_together_as_tab_says(posts):
    d = posts
    d.entry("y 6 m")
    held = d.hand.window.desk.hand.held
    assert held.asks == "each, Tab: all together"
    assert heights(d) == pytest.approx([6, 6])
    d.key(Qt.Key.Key_Tab)
    assert held.asks == "all together, Tab: each"
    assert heights(d) == pytest.approx([2, 6])
    d.key(Qt.Key.Key_Tab)
    assert heights(d) == pytest.approx([6, 6])


def test_the_panels_height_over_several_is_a_factor_or_asks(posts):
    d = posts
    d.hand.stage("size")
    body = d.hand.body("size")
    d.press(body.pages.tabs.buttons["extent"])
    field = body.extents["height"]
    d.press(field)
    for letter in "*0.5":
        d.hand.qtbot.keyClicks(field, letter)
        d.hand.settle()
    assert field.text() == "*0.5"
    assert heights(d) == pytest.approx([0.5, 1.5])
    field.selectAll()
    d.hand.qtbot.keyClicks(field, "6 m")
    d.hand.settle()
    assert heights(d) == pytest.approx([6, 6])
    d.press(body.whose.buttons["together"])
    assert heights(d) == pytest.approx([2, 6])


@pytest.mark.parametrize("where", ["panel", "label"])
def test_over_two_assets_a_share_is_one_factor_too(hand, batch, where):
    hand.open(batch / "milepost.glb", batch / "gate_leaf.glb")
    hand.pick("milepost.glb", "gate_leaf.glb")
    hand.stage("size")
    body, desk = hand.body("size"), hand.window.desk
    hand.click(body.pages.tabs.buttons["extent"])
    before = {f: o.before.asset for f, o in hand.session.outcomes.items()}
    field = body.extents["height"]
    if where == "label":
        hand.click(hand.window.bench, desk.plates.plate("height").center().toPoint())
        field = desk.plate_editor.field
    hand.qtbot.keyClicks(field, "*0.5")
    hand.settle()
    for file, asset in before.items():
        after = hand.session.outcomes[file].after.asset
        assert tree_box(after, 0).size[1] == pytest.approx(0.5 * tree_box(asset, 0).size[1], rel=1e-6)


def test_one_thing_alone_gets_a_length(posts):
    d = posts
    d.row("high")
    d.entry("y 50%\n")
    assert heights(d) == pytest.approx([1, 1.5])
    assert d.session.document.sheet.steps[0].words()["height"] == "1.5 m"
