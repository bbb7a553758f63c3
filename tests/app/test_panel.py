"""The forms of the stages: what they show of a step, and the words they wish for."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QLabel, QPushButton

from oak_square.app.facts.batch import AssetRow
from oak_square.app.facts.cards import Card
from oak_square.app.facts.effects import EffectRow
from oak_square.app.facts.findings import FindingGroup
from oak_square.app.facts.scopes import ScopeShown
from oak_square.app.panel import PanelColumn
from oak_square.app.panel.deliver_body import DeliverBody
from oak_square.app.panel.effect_view import EffectView
from oak_square.app.panel.receive_body import ReceiveBody
from oak_square.app.widgets import theme
from oak_square.app.widgets.batch_list import BatchList, tick_rect
from oak_square.app.widgets.hierarchy import Hierarchy
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.stage_ruler import StageRuler
from oak_square.app.widgets.strip import Strip
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stages import STAGE_HELP, STAGES
from oak_square.delivery.batch import find_sources
from oak_square.delivery.entries import ManifestEntry
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.steps.step import STEPS
from tests.patience import WAIT_MS

SCOPE = ScopeShown(
    says="", which="selected", selected=2, total=5, globs=("a.obj",), target="whole", names=("*",),
    targets={"whole": ("whole", ""), "picked": ("picked", "Pick some first"), "names": ("by name", "")},
)  # fmt: skip


@pytest.fixture(autouse=True)
def dressed(qapp):
    theme.install(qapp)


@pytest.fixture
def column(qtbot):
    made = PanelColumn()
    made.wished = []
    made.words_wished.connect(lambda words, told: made.wished.append(words))
    qtbot.addWidget(made)
    made.resize(306, 700)
    made.show()
    return made


def step(**words):
    return STEPS[words["do"]].model_validate(words)


def split_button(bake):
    return bake.forms["split"].editors["into"].choices.buttons["pieces"]


def press(qtbot, button):
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton, pos=QPoint(8, 8))


def test_every_stage_has_a_form_that_says_what_it_is_for(column):
    for stage in STAGES:
        column.show_stage(stage, SCOPE, None, None)
        shown = [label.text() for label in column.findChildren(QLabel) if label.isVisible()]
        assert stage.capitalize() in shown
        assert f"{STAGE_HELP[stage]}." in shown
        assert [s for s, b in column.bodies.items() if b.isVisible()] == [stage]
        assert not column.keep.isVisible()


@pytest.mark.parametrize(
    ("stage", "button", "words"),
    [
        ("size", lambda b: b.unit.buttons["ft"], {"do": "unit", "reads": "ft"}),
        ("size", lambda b: b.unit.buttons["declared"], {"do": "unit", "reads": "declared"}),
        ("turn", lambda b: b.up.buttons["+Z"], {"do": "turn", "up": "+Z", "front": "-Y"}),
        ("turn", lambda b: b.up.buttons["-Y"], {"do": "turn", "up": "-Y", "front": "+Z"}),
        ("turn", lambda b: b.front.buttons["-X"], {"do": "turn", "up": "+Y", "front": "-X"}),
        ("turn", lambda b: b.front.buttons["+Y"], {"do": "turn", "up": "+Z", "front": "+Y"}),
        ("pivot", lambda b: b.places.buttons["mass"], {"do": "pivot", "at": "mass"}),
        ("bake", lambda b: b.channels["location"], {"do": "bake", "what": ["location"]}),
        ("bake", lambda b: b.usual, {"do": "bake", "what": ["rotation", "scale"]}),
        (
            "bake",
            split_button,
            {"do": "split", "into": "pieces"},
        ),
        ("place", lambda b: b.ground, {"do": "place", "ground": True}),
    ],
)
def test_one_press_makes_a_step(column, qtbot, stage, button, words):
    column.show_stage(stage, SCOPE, None, None)
    press(qtbot, button(column.bodies[stage]))
    assert column.wished == [words]


@pytest.mark.parametrize(
    ("words", "shows"),
    [
        ({"do": "unit", "reads": "cm"}, lambda b: b.unit.choice == "cm"),
        ({"do": "unit", "reads": 0.3}, lambda b: b.unit.choice is None),
        ({"do": "turn", "up": "-Z", "front": "+X"}, lambda b: (b.up.choice, b.front.choice) == ("-Z", "+X")),
        ({"do": "pivot"}, lambda b: b.places.choice == "base"),
        ({"do": "pivot", "at": "mean", "of": "parts"}, lambda b: b.places.choice == "mean"),
        ({"do": "bake", "what": ["scale"]}, lambda b: [k for k, c in b.channels.items() if c.isChecked()] == ["scale"]),
        ({"do": "place", "at": "origin"}, lambda b: b.origin.isChecked() and not b.ground.isChecked()),
    ],
)
def test_a_form_shows_the_step_it_is_given_and_wishes_nothing(column, words, shows):
    made = step(**words)
    column.show_stage(made.stage, SCOPE, made, None)
    assert shows(column.bodies[made.stage])
    assert column.wished == []
    assert column.keep.isVisible()
    # Another stage's form shows nothing of it, and a stage without a draft nothing at all.
    other = "turn" if made.stage != "turn" else "size"
    column.show_stage(other, SCOPE, made, None)
    column.show_stage(made.stage, SCOPE, None, None)
    assert not shows(column.bodies[made.stage]) or words["do"] == "unit"
    assert column.wished == []


def test_front_follows_when_up_would_lie_on_its_line(column, qtbot):
    column.show_stage("turn", SCOPE, step(do="turn", up="+Y", front="+Z"), None)
    press(qtbot, column.bodies["turn"].up.buttons["-Z"])
    assert (column.wished[-1]["up"], column.wished[-1]["front"]) == ("-Z", "+Y")
    column.show_stage("turn", SCOPE, step(do="turn", up="+Y", front="+Z"), None)
    press(qtbot, column.bodies["turn"].up.buttons["+X"])
    assert (column.wished[-1]["up"], column.wished[-1]["front"]) == ("+X", "+Z")


def test_unticking_the_last_channel_takes_the_draft_away(column, qtbot):
    column.show_stage("bake", SCOPE, step(do="bake", what=["scale"]), None)
    press(qtbot, column.bodies["bake"].channels["scale"])
    assert column.wished == [{}]


def test_the_row_above_the_form_shows_what_a_step_is_for_and_wishes_for_something_else(column, qtbot):
    wished = []
    row = column.scope
    for name in ("which", "globs", "target", "names"):
        getattr(row, f"{name}_wished").connect(lambda value, name=name: wished.append((name, value)))
    column.show_stage("place", SCOPE, None, None)
    assert (row.which.choice, row.target.choice) == ("selected", "whole")
    assert not row.target.buttons["picked"].isEnabled()
    assert row.target.buttons["picked"].toolTip() == "Pick some first"
    assert not row.target.buttons["groups"].isVisible()
    press(qtbot, row.which.buttons["all"])
    press(qtbot, row.target.buttons["names"])
    qtbot.keyClicks(row.names, "leaf, *_post")
    assert wished[:2] == [("which", "all"), ("target", "names")]
    assert wished[-1] == ("names", ("leaf", "*_post"))
    # Readings are of the whole file, and so is a page that makes one.
    column.show_stage("size", SCOPE, step(do="unit", reads="cm"), None)
    assert not row.target.isVisible()
    column.show_stage("turn", SCOPE, None, None)
    assert not row.target.isVisible()
    press(qtbot, column.bodies["turn"].pages.tabs.buttons["by"])
    assert row.target.isVisible()


def test_the_effect_says_refusals(qtbot):
    view = EffectView()
    qtbot.addWidget(view)
    view.show()
    looked = []
    view.asset_wished.connect(looked.append)
    rows = [
        EffectRow(file="a.glb", name="a", before="1 m", after="2 m", outcome="applied", detail=""),
        EffectRow(file="b.glb", name="b", before="1 m", after="1 m", outcome="nothing", detail="clean already"),
        EffectRow(file="c.glb", name="c", before="", after="", outcome="refused", detail="it has a skin"),
    ]
    view.show_effect(rows)
    model = view.table.model()
    assert [model.index(k, 1).data() for k in range(3)] == ["1 m → 2 m", "clean already", "refused"]
    assert "it has a skin" in model.index(2, 0).data(Qt.ItemDataRole.ToolTipRole)
    qtbot.mouseClick(
        view.table.viewport(), Qt.MouseButton.LeftButton, pos=view.table.visualRect(model.index(1, 0)).center()
    )
    assert looked == ["b.glb"]


def test_findings_are_listed_with_what_can_be_done(qtbot):
    body = ReceiveBody()
    qtbot.addWidget(body)
    body.resize(280, 500)
    body.show()
    groups = [
        FindingGroup(code="c1", level="fix", title="t1", why="w1", example="e1", files=("a",), settles=True),
        FindingGroup(code="c2", level="note", title="t2", why="w2", example="e2", files=("a", "b"), settles=False),
    ]
    said = []
    body.settle_wished.connect(lambda code: said.append(("settle", code)))
    body.show_wished.connect(lambda code: said.append(("show", code)))
    body.show_findings(groups, "two left")
    press(qtbot, body.findChild(QPushButton, "settle-c1"))
    press(qtbot, body.findChild(QPushButton, "show-c2"))
    assert said == [("settle", "c1"), ("show", "c2")]
    assert body.findChild(QPushButton, "settle-c2") is None
    shown = [label.text() for label in body.findChildren(QLabel)]
    assert "<b>1</b> asset: t1" in shown
    assert "<b>2</b> assets: t2" in shown


def test_a_delivery_under_way_shows_how_far_it_is_and_can_be_cancelled(qtbot, tmp_path):
    body = DeliverBody()
    qtbot.addWidget(body)
    body.show()
    body.show_ready(3, 1, tmp_path / "out")
    assert body.summary.text().startswith("3 assets through 1 step, each in the format it came in.")
    assert body.folder.text() == str(tmp_path / "out")
    body.show_running(0, 3, None)
    body.show_running(1, 3, ManifestEntry(source="a.glb", status="refused", reason="it has a skin").as_json())
    assert body.bar.text().startswith("1 of 3")
    assert [body.results.table.item(0, k).text() for k in range(3)] == ["a.glb", "refused", ""]
    assert body.results.table.item(0, 0).toolTip() == "it has a skin"
    assert not body.run.isEnabled()
    with qtbot.waitSignal(body.cancel_wished, timeout=WAIT_MS):
        press(qtbot, body.cancel)
    body.show_ended(None, "the disk is full")
    assert body.run.isEnabled()
    assert body.outcome.text() == "the disk is full"
    assert body.outcome.level == "fix"
    assert not body.bar.isVisible()


def test_the_ruler_is_walked_with_keys_and_explains_itself(qtbot):
    ruler = StageRuler()
    qtbot.addWidget(ruler)
    ruler.resize(900, 48)
    ruler.show()
    went = []
    ruler.stage_wished.connect(went.append)
    ruler.show_stages("receive", {"size": "3 to settle"})
    qtbot.keyClick(ruler, Qt.Key.Key_Right)
    qtbot.keyClick(ruler, Qt.Key.Key_Left)
    for stage in STAGES:
        qtbot.mouseClick(ruler, Qt.MouseButton.LeftButton, pos=ruler.segment(stage).center().toPoint())
    assert went == ["size", *STAGES]
    assert ruler.note("size") == "3 to settle"


def test_the_batch_list_selects_several_and_leads_with_the_last(qtbot):
    batch = BatchList(lambda _file: None)
    qtbot.addWidget(batch)
    batch.resize(262, 400)
    batch.show()
    wished, ticks = [], []
    batch.selection_wished.connect(wished.append)
    batch.inclusion_wished.connect(lambda *a: ticks.append(a))
    rows = [AssetRow(file=f, title=f, detail="1 m", marks=(("size", "fix"), ("bake", "note"))) for f in "abc"]
    batch.show_rows(rows, ["b"])
    assert wished == []  # showing is no wish
    for file in ("c", "a"):
        room = batch.visualRect(batch.place_of(file))
        qtbot.mouseClick(
            batch.viewport(), Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier, room.center()
        )
    assert wished[-1] == ("b", "c", "a")
    tick = tick_rect(batch.visualRect(batch.place_of("b"))).center().toPoint()
    qtbot.mouseClick(batch.viewport(), Qt.MouseButton.LeftButton, pos=tick)
    assert ticks == [(("b",), False)]
    qtbot.keyClick(batch, Qt.Key.Key_Down)
    assert len(wished[-1]) == 1
    assert "Size: to fix" in batch.place_of("a").data(Qt.ItemDataRole.ToolTipRole)


def test_the_hierarchy_tells_the_picked_nodes_channels(qtbot):
    tree = Hierarchy()
    qtbot.addWidget(tree)
    tree.resize(262, 300)
    tree.show()
    source = next(s for s in find_sources([BATCH]) if s.file == "narrowboat.glb")
    asset = receive(source).asset
    wished = []
    tree.nodes_wished.connect(wished.append)
    tree.show_asset(asset, (0,), ShownUnit())
    said = [label.text() for label in tree.findChildren(QLabel)]
    assert any("scale  0.0254" in t and "box  2.10 × 2.24 × 21.00 m" in t for t in said)
    assert wished == []
    names = [n.name for n in asset.nodes]
    tree.tree.setCurrentIndex(tree.place_of(names.index("chimney")))
    assert wished == [(names.index("chimney"),)]
    assert tree.place_of(names.index("chimney")).parent().data() == "stern  (group)"


def test_cards_grow_with_their_words_and_open_on_a_click(qtbot):
    strip = Strip()
    qtbot.addWidget(strip)
    strip.resize(900, 76)
    strip.show()
    opened, removed = [], []
    strip.open_wished.connect(opened.append)
    strip.remove_wished.connect(removed.append)
    strip.show_cards(
        [Card(title="1  Bake", detail="3 assets", tip=""), Card(title="2  " + "x" * 40, detail="", tip="")]
    )
    assert strip.cards[1].width() > strip.cards[0].width()
    press(qtbot, strip.cards[1])
    strip.cards[0].setFocus()
    qtbot.keyClick(strip.cards[0], Qt.Key.Key_Delete)
    assert (opened, removed) == ([1], [0])
    strip.show_cards([])
    assert strip.cards == []


def test_marks_differ_by_shape_not_by_colour_alone(qapp):
    from PySide6.QtCore import QRectF
    from PySide6.QtGui import QPainter

    shapes = set()
    for level in ("fix", "check", "note", "true"):
        image = QImage(21, 21, QImage.Format.Format_Grayscale8)
        image.fill(255)
        painter = QPainter(image)
        draw_mark(painter, QRectF(QPointF(0, 0), QPointF(21, 21)), level)
        painter.end()
        shapes.add(tuple(image.pixelColor(x, y).lightness() < 230 for y in range(0, 21, 2) for x in range(0, 21, 2)))
    assert len(shapes) == 4


def test_another_up_axis_is_asked_about_where_it_would_move_what_is_kept(hand, batch, monkeypatch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.session.drafts.try_whole({"do": "place", "shift": [0, "1 m", 0], "parts": ["leaf"], "for": ["gate_leaf.glb"]})
    hand.session.drafts.keep()
    hand.stage("deliver")
    up, asked = hand.body("deliver").up, []
    monkeypatch.setattr(hand.window.panel_desk, "ask_moved", lambda moved: asked.append(moved))

    def choose(axis):
        up.setCurrentIndex(up.findData(axis))
        up.activated.emit(up.currentIndex())
        hand.settle()

    choose("Z")
    assert len(asked) == 1
    assert asked[0][0].startswith("step 1 (Place")
    assert hand.session.document.sheet.deliver.up == "auto"
    assert up.currentData() == "auto"
    monkeypatch.setattr(hand.window.panel_desk, "ask_moved", lambda _moved: True)
    choose("Z")
    assert hand.session.document.sheet.deliver.up == "Z"
