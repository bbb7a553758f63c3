"""What is typed with an instrument in hand goes to the instrument, with the focus where the last click left it."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QApplication, QLineEdit

from oak_square.app.instruments.aims import aims_at
from oak_square.core.boxes import asset_box
from oak_square.core.lengths import parse_length
from oak_square.sheet.model import Mark
from oak_square.steps.step import STEPS
from tests.app.test_aim import in_hierarchy
from tests.patience import WAIT_MS

WORK = {
    "rule": ("x10 cm", {"do": "place", "shift": ["0.1 m", 0, 0]}),
    "dial": ("y30", {"do": "turn", "by": [0.0, 30.0, 0.0]}),
    "callipers": ("y 50%", {"do": "size"}),
}


def bench(hand):
    """Click where nothing is."""
    view = hand.window.bench
    hand.click(view, QPoint(view.width() - 12, view.height() - 12))
    assert view.hasFocus()


def batch(hand):
    hand.pick("gate_leaf.glb")


def hierarchy(hand):
    in_hierarchy(hand, "leaf")


def panel(hand):
    """Open another page of a form."""
    hand.stage("pivot")
    tab = hand.body("pivot").pages.tabs.buttons["point"]
    hand.click(tab)
    assert tab.hasFocus()


def card(hand):
    """Open a card of the sheet and leave it again."""
    hand.session.drafts.try_step(STEPS["check"].model_validate({"height": {"max": "1 m"}, "for": ["nothing*"]}))
    hand.session.drafts.keep()
    hand.settle()
    (card,) = hand.window.strip.cards
    hand.click(card, QPoint(card.width() // 2, card.height() // 2))
    hand.key(Qt.Key.Key_Escape)
    assert hand.window.strip.cards[0].hasFocus()


def ruler(hand):
    hand.stage("turn")
    assert hand.window.ruler.hasFocus()


PLACES = [bench, batch, hierarchy, panel, card, ruler]


@pytest.fixture
def leaf(hand, batch):
    hand.open(batch / "gate_leaf.glb", batch / "milepost.glb")
    hand.pick("gate_leaf.glb")
    return hand


def take_up(hand, name):
    hand.click(hand.window.views.instruments[name])
    assert hand.window.desk.hand.held.name == name


def press(hand, text):
    """Type as fast as a hand does, wherever the focus is."""
    for letter in text:
        hand.qtbot.keyClick(QApplication.focusWidget(), letter)


def draft(hand):
    found = hand.session.document.draft
    return None if found is None else {k: v for k, v in found.words().items() if k not in ("for", "of")}


@pytest.mark.parametrize("place", PLACES, ids=lambda p: p.__name__)
@pytest.mark.parametrize("name", WORK)
def test_what_the_band_says_is_typed_wherever_the_focus_is(leaf, place, name):
    take_up(leaf, name)
    place(leaf)
    assert not isinstance(QApplication.focusWidget(), QLineEdit)
    before = len(leaf.steps())
    text, words = WORK[name]
    press(leaf, text)
    leaf.settle()
    assert {k: draft(leaf)[k] for k in words} == words
    assert leaf.window.desk.hand.held.name == name
    leaf.key(Qt.Key.Key_Return)
    assert len(leaf.steps()) == before + 1


@pytest.mark.parametrize("place", PLACES, ids=lambda p: p.__name__)
@pytest.mark.parametrize("name", WORK)
def test_a_number_without_an_axis_is_shown_and_does_nothing(leaf, place, name):
    take_up(leaf, name)
    place(leaf)
    said, before = [], leaf.steps()
    leaf.session.messages.said.connect(said.append)
    press(leaf, "10 cm")
    leaf.settle()
    held = leaf.window.desk.hand.held
    assert (held.name, held.entry) == (name, "10 cm")
    assert "10 cm" in held.band
    assert draft(leaf) is None
    leaf.key(Qt.Key.Key_Return)
    assert said
    assert held.example in said[-1]
    assert leaf.steps() == before
    leaf.key(Qt.Key.Key_Escape)
    assert (held.entry, leaf.window.desk.hand.held.name) == (None, name)


def test_a_digit_alone_does_what_its_key_does_after_a_moment(leaf):
    take_up(leaf, "rule")
    batch(leaf)
    press(leaf, "3")
    assert leaf.window.desk.hand.held.name == "rule"
    leaf.settle()
    assert leaf.window.desk.hand.held.name == "dial"
    press(leaf, "0")
    leaf.settle()
    assert draft(leaf)["at"] == "origin"


def test_a_digit_that_is_taken_back_does_nothing(leaf):
    take_up(leaf, "rule")
    batch(leaf)
    press(leaf, "0")
    leaf.key(Qt.Key.Key_Escape)
    leaf.qtbot.wait(600)
    leaf.settle()
    assert draft(leaf) is None
    assert leaf.window.desk.hand.held.name == "rule"


def test_with_nothing_in_hand_digits_act_at_once(leaf):
    batch(leaf)
    press(leaf, "2")
    assert leaf.window.desk.hand.held.name == "rule"


def test_letters_over_a_hold_that_is_blocked_say_why_and_fire_nothing(leaf):
    take_up(leaf, "dial")
    leaf.session.names.set_grip(lambda g: replace(g, pivots=True))
    leaf.settle()
    batch(leaf)
    held = leaf.window.desk.hand.held
    why = held.refuses(held.scene.hold)
    assert why
    press(leaf, "y30")
    leaf.settle()
    assert held.entry == "y30"
    assert why in held.band
    assert draft(leaf) is None
    assert leaf.window.desk.hand.held is held


def test_with_nothing_selected_nothing_is_fired_either(leaf):
    take_up(leaf, "rule")
    leaf.session.select(())
    leaf.settle()
    leaf.window.batch.setFocus()
    press(leaf, "x10")
    leaf.settle()
    assert leaf.window.desk.hand.held.entry == "x10"
    assert draft(leaf) is None


def test_a_field_keeps_what_is_typed_into_it(leaf):
    take_up(leaf, "rule")
    leaf.stage("size")
    leaf.click(leaf.body("size").pages.tabs.buttons["extent"])
    edit = leaf.body("size").extents["height"]
    leaf.click(edit)
    assert isinstance(QApplication.focusWidget(), QLineEdit)
    press(leaf, "2 m")
    leaf.settle()
    assert draft(leaf)["height"] == "2 m"
    assert leaf.window.desk.hand.held.entry is None


def test_a_drag_that_was_just_let_go_takes_digits_at_once(leaf):
    take_up(leaf, "rule")
    held = leaf.window.desk.hand.held
    press(leaf, "x")
    press(leaf, "1")
    assert held.entry == "1"
    leaf.qtbot.waitUntil(lambda: draft(leaf) is not None, timeout=WAIT_MS)


@pytest.mark.parametrize(
    ("name", "text", "words"),
    [
        ("rule", "x10 cm y20 cm", {"shift": ["0.1 m", "0.2 m", 0]}),
        ("rule", "z-1 yd x 2", {"shift": ["2 m", 0, "-0.9144 m"]}),
        ("rule", "x=1 y=2 m", {"at": ["1 m", "2 m", 0], "axes": ["x", "y"]}),
        ("dial", "x10 y20", {"by": [10.0, 20.0, 0.0]}),
        ("callipers", "x1 m y2 m z3 m", {"width": "1 m", "height": "2 m", "depth": "3 m"}),
    ],
)
def test_several_axes_in_one_entry_are_one_step(leaf, name, text, words):
    take_up(leaf, name)
    batch(leaf)
    press(leaf, text)
    leaf.settle()
    assert {k: draft(leaf)[k] for k in words} == words
    assert leaf.window.desk.hand.held.entry == text[1:]
    leaf.key(Qt.Key.Key_Return)
    assert len(leaf.steps()) == 1


def dragged(hand, text):
    """Drag along x, then type on from it; return what the step moved, turned or sized by the drag, and then."""
    held = hand.window.desk.hand.held
    handle = next(h for h in held.handles(held.scene.hold, hand.window.bench.lens()) if h.axes == (0,))
    start = handle.line[-1] if held.name != "dial" else handle.line[len(handle.line) // 2]
    bench, (x, y) = hand.window.bench, start
    hand.qtbot.mousePress(bench, Qt.MouseButton.LeftButton, pos=QPoint(int(x), int(y)))
    for k in range(1, 9):
        hand.qtbot.mouseMove(bench, QPoint(int(x) + 6 * k, int(y) - 3 * k))
    hand.qtbot.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=QPoint(int(x) + 48, int(y) - 24))
    hand.settle()
    first = draft(hand)
    press(hand, text)
    hand.settle()
    return first, draft(hand)


def metres(text):
    return parse_length(text, bare=1.0)


def test_a_relative_entry_starts_from_what_was_dragged_as_it_began(leaf):
    take_up(leaf, "rule")
    first, then = dragged(leaf, "+4cm")
    moved = metres(first["shift"][0])
    assert moved != 0
    assert metres(then["shift"][0]) == pytest.approx(moved + 0.04)
    leaf.key(Qt.Key.Key_Escape)
    first, then = dragged(leaf, "50%")
    assert metres(then["shift"][0]) == pytest.approx(metres(first["shift"][0]) / 2)


def test_a_relative_angle_and_a_relative_size_do_too(leaf):
    take_up(leaf, "dial")
    first, then = dragged(leaf, "+5")
    assert first["by"][0] != 0
    assert then["by"][0] == pytest.approx(first["by"][0] + 5)
    leaf.key(Qt.Key.Key_Escape)
    take_up(leaf, "callipers")
    first, then = dragged(leaf, "+4cm")
    assert metres(then["width"]) == pytest.approx(metres(first["width"]) + 0.04)


def test_escape_drops_what_was_begun_last(leaf):
    take_up(leaf, "rule")
    press(leaf, "0")
    leaf.settle()
    assert draft(leaf) is not None
    leaf.key(Qt.Key.Key_Escape)
    assert draft(leaf) is None
    assert leaf.window.desk.hand.held.name == "rule"
    leaf.key(Qt.Key.Key_Escape)
    assert leaf.window.desk.hand.held is leaf.window.desk.hand.usual
    press(leaf, "0")
    leaf.settle()
    assert draft(leaf) is not None
    take_up(leaf, "dial")
    leaf.key(Qt.Key.Key_Escape)
    assert leaf.window.desk.hand.held is leaf.window.desk.hand.usual
    assert draft(leaf) is not None
    leaf.key(Qt.Key.Key_Escape)
    assert draft(leaf) is None


BEGUN = {
    "instrument": lambda hand: take_up(hand, "dial"),
    "draft": lambda hand: hand.window.deeds["zero"].trigger(),
    "mode": lambda hand: hand.window.deeds["pivots"].trigger(),
    "datum": lambda hand: hand.session.names.take_datum("sill"),
    "point": lambda hand: hand.window.desk.pick_centre(),
}


# Of these the first ends, or rests, as the second begins.
ENDS = {("instrument", "point"), ("mode", "datum"), ("datum", "mode")}


@pytest.mark.parametrize(("first", "second"), list(permutations(BEGUN, 2)))
def test_escape_leaves_the_last_of_two_and_then_the_other(leaf, first, second):
    leaf.session.names.put_datum("sill", [0, 1, 0], (0, 0, 0), use=False)
    begun = leaf.window.desk.begun
    for name in (first, second):
        BEGUN[name](leaf)
        leaf.settle()
    assert begun.order == ([second] if (first, second) in ENDS else [first, second])
    leaf.key(Qt.Key.Key_Escape)
    # What rested for a point to be picked is in hand again.
    left = [] if (first, second) in ENDS and second != "point" else [first]
    assert begun.order == left
    if left:
        leaf.key(Qt.Key.Key_Escape)
    assert begun.order == []
    assert leaf.session.selection


@pytest.mark.parametrize(("name", "text"), [("rule", "+4cm"), ("callipers", "+4cm")])
def test_what_an_earlier_drag_came_to_is_not_gone_on_from(leaf, name, text):
    take_up(leaf, name)
    dragged(leaf, "")
    leaf.key(Qt.Key.Key_Escape)
    held, bench = leaf.window.desk.hand.held, leaf.window.bench
    handle = next(h for h in held.handles(held.scene.hold, bench.lens()) if h.axes == (0,))
    width = float(held.scene.hold.box.size[0])
    x, y = handle.line[-1]
    leaf.qtbot.mousePress(bench, Qt.MouseButton.LeftButton, pos=QPoint(int(x), int(y)))
    press(leaf, text)
    leaf.settle()
    if name == "rule":
        assert metres(draft(leaf)["shift"][0]) == pytest.approx(0.04)
    else:
        assert metres(draft(leaf)["width"]) == pytest.approx(width + 0.04)
    leaf.qtbot.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=QPoint(int(x), int(y)))


@pytest.mark.parametrize(
    ("name", "about"), [("rule", "part leaf"), ("dial", "part leaf"), ("callipers", "part leaf"), ("dial", "mark toe")]
)
def test_a_centre_of_another_asset_locks_nothing_and_is_said(leaf, name, about):
    mark = Mark.model_validate({"on": "leaf", "kind": "vertex", "where": [0, 0, 0]})
    leaf.session.names.put_marks({"toe": mark})
    leaf.session.names.set_grip(lambda g: replace(g, about=about))
    leaf.pick("milepost.glb")
    take_up(leaf, name)
    held, (text, words) = leaf.window.desk.hand.held, WORK[name]
    said = "the pivot of 'leaf' is not on it" if about == "part leaf" else "mark 'toe' is not on it"
    assert (said in held.band) == (name != "rule")
    press(leaf, text)
    leaf.settle()
    assert words.items() <= draft(leaf).items()
    assert "about" not in draft(leaf)
    # On the asset that has it, it holds as it did.
    leaf.key(Qt.Key.Key_Escape)
    leaf.key(Qt.Key.Key_Escape)
    leaf.pick("gate_leaf.glb")
    assert name == "rule" or about != "part leaf" or held.scene.hold.centre_words == {"about": {"part": "leaf"}}


def test_axes_of_a_datum_on_another_asset_fall_back_to_the_worlds(leaf):
    mark = Mark.model_validate({"on": "leaf", "kind": "vertex", "where": [0, 0, 0]})
    leaf.session.names.put_marks({"toe": mark})
    leaf.session.names.put_datum("sill", {"mark": "toe"}, (0, 30, 0))
    leaf.session.names.use_datum("sill")
    leaf.pick("milepost.glb")
    take_up(leaf, "rule")
    assert "world axes (datum 'sill' is not on it)" in leaf.window.desk.hand.held.band
    press(leaf, "x10 cm")
    leaf.settle()
    assert draft(leaf) == {"do": "place", "shift": ["0.1 m", 0, 0]}


def test_a_step_that_does_nothing_is_not_kept_and_says_why(leaf):
    leaf.stage("place")
    leaf.session.drafts.try_whole({"do": "place", "at": [0, 0, 0], "by": "pivot", "for": ["gate_leaf.glb"]})
    leaf.settle()
    leaf.key(Qt.Key.Key_Return)
    assert leaf.steps() == []
    assert draft(leaf) is None
    assert leaf.window.foot.words.text().startswith("Nothing to keep: ")


def test_a_centre_on_a_bare_surface_is_the_point_that_was_clicked(leaf):
    asset = leaf.session.outcomes["gate_leaf.glb"].after.asset
    bench = leaf.window.bench
    leaf.window.desk.pick_centre()
    leaf.look_from(0, 0)
    leaf.settle()
    target, box = leaf.window.desk.hand.usual.scene.target, asset_box(asset)
    for share in np.linspace(0.1, 0.9, 40):
        x, y, _ = bench.lens().seen((box.low + [0.31, share, 1.0] * box.size)[None])[0]
        aims = aims_at(bench.pointing(QPointF(round(x), round(y))), target)
        if aims and aims[0].kind == "surface":
            break
    leaf.click(bench, QPoint(round(x), round(y)))
    kind, *numbers = leaf.session.document.grip.about.split()
    assert kind == "xyz"
    assert [float(v) for v in numbers] == pytest.approx(aims[0].at.tolist(), abs=1e-6)
