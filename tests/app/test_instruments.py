"""An instrument is one file: a made-up one is put there, and it is in the window, at its key, on the Bench."""

from __future__ import annotations

import importlib.util
import sys

import pytest
from PySide6.QtCore import QPoint, Qt

from oak_square.app.instruments import INSTRUMENTS
from oak_square.app.instruments.instrument import Instrument, registered

PLUMB_LINE = '''
"""The plumb line: press and drag, and the asset is set down where it is let go."""

from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import Redraw, TryWords
from PySide6.QtCore import QPointF


@registered
class PlumbLine(Instrument):
    name, key, word, tip = "plumb", "9", "Plumb line", "Drag to set down (9)"

    def __init__(self, wish):
        super().__init__(wish)
        self.path, self.drawn = [], 0

    @property
    def band(self):
        return f"Plumb line: {len(self.path)} places  ·  Esc lays it down"

    def press(self, at):
        self.path = [(at.x, at.y, at.hit() is not None)]

    def move(self, at):
        self.path.append((at.x, at.y))
        self.wish(Redraw())

    def release(self, at):
        self.wish(TryWords(words={"do": "place", "shift": ["10 cm", 0, 0]}))

    def draw(self, canvas):
        self.drawn += 1
        for x, y, *_ in self.path:
            canvas.painter.drawEllipse(QPointF(x, y), 4, 4)
'''


@pytest.fixture
def plumb_line(tmp_path):
    path = tmp_path / "plumb_line.py"
    path.write_text(PLUMB_LINE)
    spec = importlib.util.spec_from_file_location("plumb_line", path)
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    yield
    INSTRUMENTS.pop("plumb")
    sys.modules.pop("plumb_line", None)


def test_a_new_instrument_is_one_file(plumb_line, hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    window, bench = hand.window, hand.window.bench
    assert window.views.instruments["plumb"].text() == "Plumb line"
    hand.key(Qt.Key.Key_9)
    held = window.desk.hand.held
    assert held.name == "plumb"
    assert window.views.band.text() == "Plumb line: 0 places  ·  Esc lays it down"
    middle = QPoint(bench.width() // 2, bench.height() // 2)
    past = len(hand.session.sheet.history.past)
    hand.qtbot.mousePress(bench, Qt.MouseButton.LeftButton, pos=middle)
    for k in (1, 2, 3):
        hand.qtbot.mouseMove(bench, middle + QPoint(10 * k, 0))
    hand.settle()
    assert window.views.band.text() == "Plumb line: 4 places  ·  Esc lays it down"
    hand.qtbot.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=middle + QPoint(30, 0))
    hand.settle()
    assert held.path[0][2]  # the ray met the model
    assert held.drawn > 0
    assert hand.session.document.draft.words() == {"do": "place", "shift": ["10 cm", 0, 0], "for": ["milepost.glb"]}
    assert len(hand.session.sheet.history.past) == past + 1
    assert hand.session.nodes == ()  # nothing was picked meanwhile
    hand.key(Qt.Key.Key_Escape)  # what was begun last goes first
    assert hand.session.document.draft is None
    assert window.desk.hand.held.name == "plumb"
    hand.key(Qt.Key.Key_Escape)
    assert window.desk.hand.held.name == "pick"


def test_two_instruments_with_one_key_are_a_fault_at_the_start():
    class Other(Instrument):
        name, key = "other", "1"

    with pytest.raises(RuntimeError, match="two instruments"):
        registered(Other)


def test_the_plates_yield_to_the_dividers_and_come_before_the_pick(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb")
    desk, bench = hand.window.desk, hand.window.bench
    bench.repaint()
    at = desk.plates.plate("height").center().toPoint()
    hand.qtbot.mouseMove(bench, at)
    assert bench.cursor().shape() == Qt.CursorShape.IBeamCursor
    assert bench.toolTip() == "Click and type the height it shall have"
    desk.take_up("dividers")
    hand.settle()
    hand.qtbot.mouseMove(bench, at + QPoint(1, 0))
    assert bench.cursor().shape() == Qt.CursorShape.CrossCursor
    hand.click(bench, at)
    assert not desk.plate_editor.isVisible()
