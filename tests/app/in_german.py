"""The window in German; run by test_german.py in a process that speaks it from its first import on."""

from __future__ import annotations

import os
import re

import pytest
from PySide6.QtCore import QModelIndex, QPoint, Qt
from PySide6.QtGui import QAction, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QComboBox,
    QInputDialog,
    QMenu,
    QTabBar,
    QTableView,
    QTreeView,
    QWidget,
)
from pytestqt.qtbot import QtBot

from oak_square.app.desk.hover_pictures import HoverPictures
from oak_square.app.view.view_area import VIEWS
from oak_square.app.widgets import theme
from oak_square.core.likely.nouns import nouns
from oak_square.core.stages import STAGES
from oak_square.core.words import in_english
from oak_square.demo import BATCH
from oak_square.languages import install
from oak_square.manual import pages
from oak_square.sheet.model import Mark
from oak_square.sheet.text import load_sheet
from oak_square.steps.step import STEPS
from tests.app.conftest import Hand
from tests.marked import LEFT, RIGHT, unmarked

IS_MARKED = os.environ.get("OAK_SQUARE_TEST_LANGUAGE") == "marked"
marked = pytest.mark.skipif(not IS_MARKED, reason="says all between marks")
german = pytest.mark.skipif(IS_MARKED, reason="says all in German")

# Names of things, units, formats, the sheet's own words, and what Qt says in German by itself.
NAMES = re.compile(
    r"(?<![A-Za-z])(Oak Square|Fenwick Lock|mm|cm|km|in|ft|yd|mod|µm|[xyz]{3}|Strg|Umschalt|Entf|Alt|Esc|Return|Enter"
    r"|glb|gltf|dae|obj|usd[acz]?|stl|ply|off|3mf|MF|COLLADA|glTF|OFF|PLY|STL|OBJ|USD|Words in English|Text auf Deutsch"
    r"|Geben Sie ein Tastenkürzel ein|Nach (links|rechts) scrollen|blade_\*|lamp_\*|\*\.stl|gate_leaf\.glb)(?![A-Za-z])"
)
STEP_WORDS = re.compile(rf"\b({'|'.join(STEPS)})\b")
TRIED = (
    {"do": "bake", "what": ["rotation", "scale", "location"], "for": ["gate_leaf*", "weather_vane"]},
    {"do": "split", "into": "pieces", "parts": ["*"]},
    {"do": "shape", "take": {"side": "top"}, "by": ["1 cm", 0, 0]},
    {"do": "size", "height": "2 m"},
    {"do": "size", "factor": [1, 2, 3]},
    {"do": "unit", "reads": "guess"},
    {"do": "pivot", "at": {"point": ["left", "bottom", "middle"]}, "of": "parts", "axes": "square"},
    {"do": "place", "ground": True, "shift": [1, 0, 0]},
    {"do": "turn", "by": [0, 90, 0]},
    {"do": "turn", "up": "guess", "front": "guess"},
    {"do": "check", "height": {"min": "1 m"}, "baked": True, "grounded": True, "pivot": "base"},
)
TEXTS = ("text", "toolTip", "accessibleName", "accessibleDescription", "placeholderText", "windowTitle", "title")


OWN = set[str]()  # what a window that is kept goes on showing from test to test


class Ears:
    """Hears all that a window says, and keeps what of it has no mark."""

    def __init__(self, monkeypatch) -> None:
        # The table of nouns has them in German beside the English.
        self.own = OWN | {noun.said[:] for senses in nouns().values() for noun in senses if noun.german}
        self.heard: dict[str, str] = {}
        drawn = QPainter.drawText

        def draw(painter, *told):
            for text in told:
                if isinstance(text, str):
                    self.hear("drawn", text)
            return drawn(painter, *told)

        monkeypatch.setattr(QPainter, "drawText", draw)
        # What a row shows under the pointer takes longer to draw than all that it says.
        picture, drawn_of = HoverPictures.__call__, dict[str, str]()
        monkeypatch.setattr(
            HoverPictures,
            "__call__",
            lambda self, f: drawn_of[f] if f in drawn_of else drawn_of.setdefault(f, picture(self, f)),
        )

    def hear(self, where: str, text: str) -> None:
        self.heard.setdefault(text, where)

    def _names(self) -> re.Pattern[str]:
        return re.compile("|".join(re.escape(name) for name in sorted(self.own, key=len, reverse=True)) or "(?!)")

    def left(self) -> dict[str, str]:
        """Return what was heard without a mark that is no name."""
        found = {}
        names = self._names()
        for text, where in self.heard.items():
            rest = re.sub(r"<[^<>]*>|[\w.]*…", " ", unmarked(text))  # what is cut off is no word
            rest = names.sub(" ", rest)
            for known in (NAMES, STEP_WORDS):
                rest = known.sub(" ", rest)
            if re.search(r"[A-Za-z]{2,}", rest):
                found[" ".join(rest.split())] = f"{where}: {text[:90]}"
        return found

    def pointed(self) -> dict[str, str]:
        """Return what has a number with a point in it, as English has them."""
        found = {}
        names = self._names()
        for text, where in self.heard.items():
            rest = names.sub(" ", text.replace(LEFT, "").replace(RIGHT, ""))
            if re.search(r"\d\.\d", rest) and "base64" not in rest:
                found[rest[:90]] = where
        return found

    def listen(self, where: str) -> None:
        for top in QApplication.topLevelWidgets():
            for widget in (top, *top.findChildren(QWidget)):
                self._widget(where, widget)
            for action in top.findChildren(QAction):
                self.hear(f"{where}, an action", action.text())
                self.hear(f"{where}, an action", action.toolTip())
            if top.isVisible():
                top.grab()

    def _widget(self, where: str, widget: QWidget) -> None:
        kind = f"{where}, {type(widget).__name__}"
        for name in TEXTS:
            said = getattr(widget, name, None)
            if callable(said) and not (name == "title" and not isinstance(widget, QMenu)):
                self.hear(kind, str(said()))
        if isinstance(widget, QComboBox):
            for k in range(widget.count()):
                self.hear(kind, widget.itemText(k))
        elif isinstance(widget, QTabBar):
            for k in range(widget.count()):
                self.hear(kind, widget.tabText(k))
        elif isinstance(widget, QAbstractItemView) and widget.model() is not None:
            self._rows(kind, widget, QModelIndex())
            for k in range(widget.model().columnCount() if isinstance(widget, QTableView) else 0):
                self.hear(kind, str(widget.model().headerData(k, Qt.Orientation.Horizontal) or ""))

    def _rows(self, kind: str, view: QAbstractItemView, parent: QModelIndex) -> None:
        model = view.model()
        columns = model.columnCount(parent) if isinstance(view, QTableView | QTreeView) else 1
        for row in range(min(model.rowCount(parent), 40)):
            for column in range(columns):
                index = model.index(row, column, parent)
                for role in ("DisplayRole", "ToolTipRole", "AccessibleTextRole"):
                    text = model.data(index, getattr(Qt.ItemDataRole, role))
                    if isinstance(text, str):
                        self.hear(kind, text)
            if isinstance(view, QTreeView):
                self._rows(kind, view, model.index(row, 0, parent))


@pytest.fixture
def ears(monkeypatch):
    return Ears(monkeypatch)


@pytest.fixture(autouse=True, scope="session")
def german_dialogs(qapp):
    install(qapp, "de")


def _learn(ears: Ears, hand) -> None:
    """Learn what things are called: names are nobody's language."""
    for file, asset in hand.session.assets.items():
        ears.own |= {file, file.rsplit(".", 1)[0], *(node.name for node in asset.nodes)}
    ears.own |= {f"{BATCH}_delivery", str(BATCH), BATCH.name, "fenwick_lock", "size_book.csv", "set_out.glb"}
    notes = (entry.note for entry in hand.session.book.entries) if hand.session.book is not None else ()
    ears.own |= {note for note in notes if note}


@pytest.fixture(scope="module")
def kept(qapp, pictures, request):
    """A window that is open from test to test: what one leaves in it is more for the next to hear."""
    theme.install(qapp)
    bot = QtBot(request)
    made = Hand(bot, pictures=pictures)
    made.open(BATCH)
    yield made
    made.window.close()
    OWN.clear()


@pytest.fixture
def opened(kept, ears):
    kept.session.drafts.drop()
    kept.settle()
    _learn(ears, kept)
    return kept


@marked
def test_no_english_is_left_where_nothing_is_open(hand, ears):
    ears.listen("nothing open")
    hand.window.beginning.begin()
    hand.settle()
    _learn(ears, hand)
    for _ in hand.window.beginning.steps:
        ears.listen("the tour")
        hand.click(hand.window.tour_card.on)
    assert not ears.left()
    assert not ears.pointed()
    assert len(ears.heard) > 500


@marked
def test_no_english_is_left_in_any_stage_or_view(opened, ears):
    for file in ("weather_vane.glb", "gate_leaf.glb"):
        opened.session.select((file,))
        for stage in STAGES:
            opened.session.enter_stage(stage)
            opened.settle()
            ears.listen(stage)
    for view in VIEWS:
        opened.window._show_view(view)
        opened.settle()
        ears.listen(view)
    assert not ears.left()
    assert not ears.pointed()


@marked
def test_no_english_is_left_in_what_is_tried_and_kept(opened, ears):
    said = []
    opened.session.messages.said.connect(said.append)
    opened.session.messages.failed.connect(said.append)
    opened.session.select(("gate_leaf.glb",))
    for words in TRIED:
        opened.session.enter_stage(STEPS[words["do"]].stage)
        opened.session.drafts.try_whole(dict(words))
        opened.settle()
        ears.listen(f"trying {words['do']}")
        if words["do"] in {"bake", "size", "check"}:
            opened.session.drafts.keep()
        opened.settle()
    ears.listen("kept")
    for _ in range(3):
        opened.session.sheet.undo()
    opened.settle()
    for outcome in opened.session.outcomes.values():
        ears.hear("a reason", outcome.after.reason or "")
        for line in outcome.after.warnings:
            ears.hear("a warning", line)
    for line in said:
        ears.hear("said", line)
    assert not ears.left()
    assert not ears.pointed()


@marked
def test_no_english_is_left_in_dialogs_the_finder_the_keys_and_the_manual(opened, ears):
    window = opened.window
    window.finder_desk.open()
    for entry in window.finder_desk.entries():
        ears.hear("the finder", f"{entry.words} {entry.hint}" if not entry.name.startswith("manual:") else entry.words)
    window.finder_desk.open_keys()
    window.files.edit_book()
    for name in ("shelf", "said"):
        window.deeds[name].trigger()
    opened.settle()
    ears.own |= {page.title for page in pages()} | {str(page.text) for page in pages()}
    ears.listen("dialogs")
    for top in QApplication.topLevelWidgets():
        if top is not window:
            top.close()
    for page in pages():
        if page.stage or page.name == "findings":
            ears.hear(f"the page {page.name}", re.sub(r"`[^`]*`", "", page.text))
    assert not ears.left()
    assert not ears.pointed()


@marked
def test_no_english_is_left_in_the_instruments(opened, ears):
    opened.session.select(("gate_leaf.glb",))
    opened.settle()
    bench = opened.window.bench
    for name in [n for n in opened.window.deeds._made if n.startswith("hold.")]:
        opened.window.deeds[name].trigger()
        opened.settle()
        for x in range(40, bench.width(), 130):
            for y in range(90, bench.height(), 110):
                QTest.mouseMove(bench, QPoint(x, y))
        opened.settle()
        ears.listen(name)
    assert not ears.left()
    assert not ears.pointed()


@marked
def test_no_english_is_left_in_what_is_delivered_and_named(opened, ears, tmp_path):
    OWN.update((f"{tmp_path}/out/delivery.json", f"{tmp_path}/out", "sill"))
    ears.own |= OWN
    said = []
    opened.session.messages.said.connect(said.append)
    opened.session.messages.failed.connect(said.append)
    opened.session.names.put_datum("sill", ["1 m", 0, 0], (0, 90, 0))
    opened.session.drafts.try_whole({"do": "check", "height": {"max": "2 m"}})
    opened.session.drafts.keep()
    opened.stage("deliver")
    body = opened.window.panel_desk.deliver_body
    opened.click(body.pages.tabs.buttons["write"])
    body.folder.setText(str(tmp_path / "out"))
    for button in (body.look, body.run, body.run):
        opened.click(button)
        ears.listen("delivered")
    for entry in opened.window.finder_desk.entries():
        if not entry.name.startswith("manual:"):
            ears.hear("the finder", f"{entry.words} {entry.hint}")
    for line in said:
        ears.hear("said", line)
    assert {words for words in ears.heard if words.endswith(("geliefert⟧", "gescheitert⟧"))}
    assert not ears.left()
    assert not ears.pointed()


@marked
def test_no_english_is_left_of_marks_datums_and_berths(opened, ears, monkeypatch):
    marks = {"vertex": "peg", "edge": "rail", "face": "plank", "circle": "bore"}
    ears.own |= {"sill", "quay", "weir", *marks.values()}
    said = []
    opened.session.messages.said.connect(said.append)
    opened.session.messages.failed.connect(said.append)

    def asked(_owner, title, label, *_):
        ears.hear("asked, title", title)
        ears.hear("asked", label)
        return "weir", True

    monkeypatch.setattr(QInputDialog, "getText", asked)
    opened.session.select(("gate_leaf.glb",))
    opened.settle()
    node = next(n.name for n in opened.session.assets["gate_leaf.glb"].nodes if n.mesh is not None)
    for kind, name in marks.items():
        opened.session.names.put_marks({name: Mark(on=node, kind=kind, where=[0.5, 0.5, 0.5])})
        opened.session.berths.put(f"quay_{name}", {"mark": name})
    ears.own |= {f"quay_{name}" for name in marks.values()}
    opened.session.names.put_datum("sill", ["1 m", 0, 0], (0, 90, 0))
    opened.session.berths.put("quay", [5, 0, 0])
    opened.session.berths.set_down("quay", ["milepost.glb"])
    opened.settle()
    ears.listen("named things")
    things = opened.window.hold_bar.things
    things._ask_name("berth", "quay")
    things._ask_place("sill")
    things._ask_berth()
    opened.settle()
    for kind, name in (("datum", "sill"), ("berth", "weir")):
        opened.session.names.forget_thing(kind, name)
        opened.settle()
    ears.listen("forgotten")
    for entry in opened.window.finder_desk.entries():
        if not entry.name.startswith("manual:"):
            ears.hear("the finder", f"{entry.words} {entry.hint}")
    for line in said:
        ears.hear("said", line)
    assert {*opened.session.document.sheet.marks} == {*marks.values()}
    assert "weir" in opened.session.document.sheet.berths  # something is set down there: it says so, and stays
    assert "sill" not in opened.session.document.sheet.datums
    assert not ears.left()
    assert not ears.pointed()


@german
def test_german_numbers_are_shown_and_typed_with_a_comma_and_kept_as_sheets_have_them(hand, batch, tmp_path):
    hand.open(batch)
    hand.pick("lamp_standard.obj")
    hand.stage("size")
    body = hand.window.panel.bodies["size"]
    hand.click(body.pages.tabs.buttons["extent"])
    edit = body.extents["height"]
    edit.setFocus()
    hand.qtbot.keyClicks(edit, "1,25 m")
    hand.settle()
    assert hand.session.document.draft.words()["height"] == "1.25 m"
    assert hand.session.document.draft.title() == "Höhe 1,25 m"
    assert in_english(hand.session.document.draft.title()) == "Height 1.25 m"
    hand.key(Qt.Key.Key_Return)
    hand.session.sheet.save(tmp_path / "kept.prepsheet.yaml")
    kept, *_ = load_sheet(tmp_path / "kept.prepsheet.yaml")
    assert [step.words() for step in kept.steps] == [{"do": "size", "height": "1.25 m", "for": ["lamp_standard.obj"]}]
    row = next(r for r in hand.window.batch.shown if r.file == "lamp_standard.obj")
    assert "× 1,25 m" in row.detail or "1,25 ×" in row.detail
    hand.qtbot.keyClicks(edit, "1.250")
    assert "1,250 oder 1250" in edit.toolTip()


@german
def test_german_tells_one_from_many(hand, batch):
    hand.open(batch)
    hand.stage("receive")
    said = hand.window.panel.bodies["receive"].summary.text()
    assert re.fullmatch(r"Noch \d+ Arten von Mängeln, das Schwerste zuerst\.", said)
    hand.pick("lamp_standard.obj")
    hand.stage("place")
    hand.session.drafts.try_whole({"do": "place", "ground": True, "for": ["lamp_standard.obj"]})
    hand.settle()
    assert hand.window.strip.shown[-1].detail.startswith("1 Modell ")


@german
def test_a_size_book_is_read_and_typed_with_a_comma_and_kept_with_points(hand, batch):
    hand.open(BATCH)
    editor = hand.window.files.edit_book()
    row = next(k for k in range(editor.table.rowCount()) if editor.table.item(k, 0).text().startswith("gate_leaf"))
    assert editor.table.item(row, 1).text() == "3,9 m"
    editor.table.item(row, 1).setText("3,85 m")
    hand.settle()
    assert hand.session.book.entries[row].spans[0].low_text == "3.85 m"
    assert not editor.complaint.text()
