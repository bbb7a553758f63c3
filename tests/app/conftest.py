"""The real window, offscreen; Qt's own complaints fail a test."""

from __future__ import annotations

import gc
import hashlib
import time
from weakref import WeakKeyDictionary

import pytest
from PySide6.QtCore import QCoreApplication, QEvent, QEventLoop, QPoint, Qt, QTimer
from PySide6.QtWidgets import QApplication
from pytestqt.exceptions import TimeoutError
from pytestqt.qtbot import QtBot

from oak_square.app.session import memory, worker
from oak_square.app.session.session import Session
from oak_square.app.session.stamps import stamp_of
from oak_square.app.view.bench import Bench
from oak_square.app.widgets import theme
from oak_square.app.window import Window
from oak_square.delivery.workers import load_ahead
from tests.app.deeds import Deeds
from tests.patience import WAIT_MS, WAIT_S

_BEAT_MS = 5
CHATTER = "This plugin does not support"


def work_off(is_done, seconds=WAIT_S) -> None:
    """Deal with events as they come until something is so."""
    until = time.monotonic() + seconds
    # A thread that is through sends an event; where none comes, it is looked at anew after a while all the same.
    beat = QTimer(interval=_BEAT_MS)
    beat.start()
    while not is_done():
        if time.monotonic() > until:
            raise TimeoutError("nothing came of it")
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)


def wait_until(_bot, callback, *, timeout=WAIT_MS) -> None:
    """Stand in for what pytest-qt waits with: its loops run no longer once some test has asked Qt to quit."""

    def is_done():
        try:
            return callback() in (None, True)
        except AssertionError:
            return False

    work_off(is_done, timeout / 1000)


class Hand:
    """A window, and the ways a person has of working it."""

    def __init__(self, qtbot, habits=None, pictures=None) -> None:
        self.qtbot = qtbot
        self.session = Session()
        self.window = Window(self.session, pictures, habits)
        # What is said goes after a while: on a slow machine, before a test has read it.
        self.window.foot._timer.setInterval(WAIT_MS)
        self.window.files.ask_unsaved = lambda: "leave"
        # Nobody is there to answer.
        self.window.panel_desk.ask_moved = lambda _moved: True
        qtbot.addWidget(self.window)
        self.window.show()

    def open(self, *paths) -> None:
        self.window.open_paths(list(paths))
        self.settle()

    def settle(self) -> None:
        """Wait until all is read, worked out and shown."""
        work_off(lambda: self.session.is_settled() and not self.session.deliveries.is_running)
        QApplication.processEvents()
        work_off(self.window.is_shown)

    def click(self, widget, at: QPoint | None = None, keys=Qt.KeyboardModifier.NoModifier) -> None:
        assert widget.isVisible(), f"{widget} can't be seen"
        assert widget.isEnabled(), f"{widget} can't be pressed"
        self.qtbot.mouseClick(widget, Qt.MouseButton.LeftButton, keys, at or QPoint())
        self.settle()

    def key(self, key, keys=Qt.KeyboardModifier.NoModifier) -> None:
        self.qtbot.keyClick(QApplication.focusWidget() or self.window, key, keys)
        self.settle()

    def look_from(self, azimuth: float, elevation: float) -> None:
        """Walk round to where all is seen from there, in perspective."""
        self.window.bench.look_from(azimuth, elevation, flat=False)
        self.window.bench.frame()

    def stage(self, name: str) -> None:
        self.click(self.window.ruler, self.window.ruler.segment(name).center().toPoint())

    def pick(self, *files: str) -> None:
        """Click rows of the batch, further ones with Ctrl."""
        for k, file in enumerate(files):
            room = self.window.batch.visualRect(self.window.batch.place_of(file))
            keys = Qt.KeyboardModifier.ControlModifier if k else Qt.KeyboardModifier.NoModifier
            self.click(self.window.batch.viewport(), room.center(), keys)

    def pick_if_seen(self, *files: str) -> None:
        """Click rows of the batch, brought to the front first where the columns share one place."""
        self.window.frame.show_column("left")
        self.pick(*files)
        self.window.frame.show_column("right")

    def row(self, file: str):
        return next(r for r in self.window.batch.shown if r.file == file)

    def steps(self) -> list[str]:
        return [s.title() for s in self.session.document.sheet.steps]

    def body(self, stage: str):
        return self.window.panel.bodies[stage]


@pytest.fixture(scope="session", autouse=True)
def server():
    """What reads files apart is forked for each test from one process that has loaded what reading them takes."""
    read = ("oak_square.app.session.reading", "oak_square.formats.usd.files", "pxr.UsdSkel", "pxr.UsdShade")
    load_ahead(*read, "scipy.spatial", "oak_square.delivery.preparing", "oak_square.delivery.proving")


@pytest.fixture(scope="session")
def pictures(tmp_path_factory):
    """The folder of small pictures, kept from test to test as it is from run to run: each is drawn once."""
    return tmp_path_factory.mktemp("pictures")


@pytest.fixture
def hand(qtbot, qapp, pictures):
    theme.install(qapp)
    made = Hand(qtbot, pictures=pictures)
    yield made
    made.window.close()


@pytest.fixture(autouse=True)
def waits(qapp, monkeypatch):
    """Wait by dealing with events, and go on when the last window is closed; leave no window behind."""
    qapp.setQuitOnLastWindowClosed(False)
    monkeypatch.setattr(QtBot, "waitUntil", wait_until)
    yield
    # Outside of a loop nothing that is to be deleted later ever is: each test left four hundred widgets to the next.
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    gc.collect()
    gc.freeze()  # what is left, modules above all, stays: to go through all of it again takes a tenth of a second


@pytest.fixture(autouse=True)
def rough(request, monkeypatch):
    """Without a graphics card a smooth picture takes longer than all else a test does: only where one is about it."""
    if request.node.get_closest_marker("smooth") is None:
        monkeypatch.setattr(Bench, "_draw_fine", lambda self: None)


@pytest.fixture(autouse=True)
def no_complaints(qapp, qtlog):
    yield
    said = [r.message for r in qtlog.records if not r.message.startswith(CHATTER)]
    assert not said


@pytest.fixture
def deeds(hand, tmp_path):
    return lambda name, parts: Deeds(hand, tmp_path, name, parts)


class Remembered:
    """What was read of files that tests copy from one place, and what their clues are: assets never change.

    A file is the same where its bytes are, and those of all that it is read from.
    """

    def __init__(self, read, look) -> None:
        self._read, self._look = read, look
        self._known: dict[tuple[str, str], tuple] = {}
        self._clues = WeakKeyDictionary()

    def read_bare(self, source):
        key = (source.file, _digest(source.path))
        kept, beside = self._known.get(key, (None, {}))
        if kept is not None and all(_digest(source.path.parent / name) == d for name, d in beside.items()):
            also = {source.path.parent / name: stamp_of(source.path.parent / name) for name in beside}
            return (*kept[:4], also, kept[5])
        found = self._read(source)
        home = source.path.parent
        if found[0] is not None and all(path.is_relative_to(home) for path in found[4]):
            beside = {path.relative_to(home).as_posix(): _digest(path) for path in found[4]}
            self._known[key] = found, beside
        return found

    def clues_of(self, asset):
        if asset not in self._clues:
            self._clues[asset] = self._look(asset)
        return self._clues[asset]


def _digest(path) -> str:
    try:
        return hashlib.sha256(path.read_bytes()).hexdigest() if path.is_file() else ""
    except OSError:
        return ""


_REMEMBERED = Remembered(worker.read_bare, memory.clues_of)


@pytest.fixture(autouse=True)
def remembered(request, monkeypatch):
    """Read and look at the same file once: half of what opening a batch takes."""
    if request.node.get_closest_marker("anew"):
        return
    monkeypatch.setattr(worker, "read_bare", _REMEMBERED.read_bare)
    monkeypatch.setattr(memory, "clues_of", _REMEMBERED.clues_of)
