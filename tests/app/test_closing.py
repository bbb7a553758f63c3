"""Nothing is thrown away by closing: the window, the batch, or one asset of it."""

from __future__ import annotations

import gc
import subprocess
import sys
import weakref

import pytest
from PySide6.QtCore import QCoreApplication, QEvent, Qt

from oak_square.app import window as window_module
from oak_square.app.session.session import Session
from oak_square.app.window import Window
from oak_square.steps.step import STEPS
from tests.patience import WAIT_MS


@pytest.mark.parametrize(("answer", "goes"), [("stay", False), ("leave", True), ("save", True)])
def test_closing_with_unsaved_steps_asks(hand, batch, tmp_path, answer, goes):
    hand.open(batch)
    asked = []
    hand.window.files.ask_unsaved = lambda: asked.append(answer) or answer
    path = tmp_path / "work.prepsheet.yaml"
    hand.window.files.save_sheet(path)
    hand.session.drafts.try_step(STEPS["bake"].model_validate({}))
    hand.session.drafts.keep()
    hand.settle()
    assert hand.window.close() == goes
    assert asked == [answer]
    assert ("bake" in path.read_text()) == (answer == "save")
    hand.window.files.ask_unsaved = lambda: "leave"


def test_closing_with_all_saved_asks_nothing(hand, batch):
    hand.open(batch)
    hand.window.files.ask_unsaved = lambda: pytest.fail("nothing is unsaved")
    assert hand.window.close()


def test_an_asset_is_taken_out_and_comes_back_when_it_is_opened_again(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb", "windlass.stl")
    hand.window.batch.setFocus()
    hand.key(Qt.Key.Key_Delete)
    assert "milepost.glb" not in hand.session.rows
    assert {r.file for r in hand.window.batch.shown} == set(hand.session.rows)
    assert hand.session.lead in hand.session.rows
    assert (batch / "milepost.glb").exists()
    # A look at the folder does not bring it back, nor does a change of its file; opening it does.
    (batch / "milepost.glb").touch()
    hand.session.batch.recheck()
    hand.qtbot.waitUntil(lambda: not hand.session.batch.watch._looking, timeout=WAIT_MS)
    hand.settle()
    assert "milepost.glb" not in hand.session.rows
    hand.open(batch / "milepost.glb")
    assert hand.session.rows["milepost.glb"].asset is not None
    assert "windlass.stl" not in hand.session.rows


def test_a_batch_is_closed_once_what_is_unsaved_is_settled(hand, batch, tmp_path):
    hand.open(batch)
    hand.session.drafts.try_step(STEPS["bake"].model_validate({}))
    hand.session.drafts.keep()
    asked = []
    hand.window.files.ask_unsaved = lambda: asked.append(1) or "stay"
    hand.key(Qt.Key.Key_W, Qt.KeyboardModifier.ControlModifier)
    assert asked
    assert hand.session.rows
    hand.window.files.ask_unsaved = lambda: "leave"
    hand.key(Qt.Key.Key_W, Qt.KeyboardModifier.ControlModifier)
    assert not hand.session.rows
    assert hand.steps() == []
    assert hand.window.batch.shown == ()
    assert hand.window.title.words == "Oak Square\nnothing open yet"
    hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert hand.steps() == []
    # Another batch is as if the first had never been there.
    hand.open(batch / "milepost.glb")
    assert list(hand.session.rows) == ["milepost.glb"]
    hand.pick("milepost.glb")
    assert hand.window.views.title.text() == "milepost"


def test_what_is_selected_is_left_out_and_taken_in_by_key(hand, batch):
    hand.open(batch)
    hand.pick("milepost.glb", "windlass.stl")
    hand.key(Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    assert hand.session.document.left_out == {"milepost.glb", "windlass.stl"}
    hand.key(Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    assert hand.session.document.left_out == frozenset()
    hand.session.sheet.undo()
    hand.settle()
    assert not hand.row("milepost.glb").included


def test_a_window_that_was_closed_leaves_nothing_in_memory(qapp, qtbot):
    window = Window(Session())
    window.show()
    qtbot.wait(50)
    window.close()
    gone = weakref.ref(window)
    window.deleteLater()
    del window
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    gc.collect()
    assert gone() is None


def freed(hand, kept):
    """Wait until all that `kept` refers to weakly is gone."""
    hand.qtbot.waitUntil(lambda: gc.collect() is not None and not any(ref() for ref in kept), timeout=WAIT_MS)


@pytest.mark.anew
def test_a_closed_batch_is_freed_with_all_that_was_made_of_it(hand, batch):
    hand.open(batch)
    hand.session.drafts.try_step(STEPS["size"].model_validate({"factor": 2}))
    hand.session.drafts.keep()
    for view in ("line-up", "before-after", "bench"):
        hand.window._show_view(view)
        hand.settle()
    for stage in ("Turn", "Pivot", "Bake", "Place"):
        hand.stage(stage.lower())
    kept = [weakref.ref(m) for a in hand.session.assets.values() for m in a.meshes]
    assert kept
    hand.session.close_batch()
    hand.settle()
    freed(hand, kept)


@pytest.mark.anew
def test_a_file_read_anew_leaves_nothing_of_its_former_self(hand, batch):
    hand.open(batch)
    former = weakref.ref(hand.session.assets["milepost.glb"])
    (batch / "milepost.glb").write_bytes((batch / "gate_leaf.glb").read_bytes())
    hand.session.batch.recheck()
    hand.qtbot.waitUntil(lambda: hand.session.assets["milepost.glb"] is not former(), timeout=WAIT_MS)
    hand.settle()
    freed(hand, [former])


def test_a_closed_batch_gives_its_memory_back_once(hand, batch, monkeypatch):
    given = []
    monkeypatch.setattr(window_module, "give_memory_back", lambda: given.append(len(hand.session.rows)))
    hand.settle()
    hand.open(batch)
    hand.stage("size")
    assert given == []
    hand.session.close_batch()
    hand.settle()
    hand.qtbot.waitUntil(lambda: given == [0], timeout=WAIT_MS)


GIVING = """
import time
import numpy as np
from pathlib import Path
from oak_square.app.session.memory import give_memory_back

def resident():
    return int(Path("/proc/self/status").read_text().split("VmRSS:")[1].split()[0]) / 1000

del [bytearray(31_000_000)][0]  # the C library then keeps what smaller ones lay in
held = [np.ones(1_000_000, np.uint8) for _ in range(300)]
above = np.ones(400_000, np.uint8)
del held
before = resident()
give_memory_back()
until = time.monotonic() + 30
while resident() > before - 250 and time.monotonic() < until:
    time.sleep(0.01)
print(before - resident())
"""


def test_what_was_freed_goes_back_to_the_system():
    done = subprocess.run([sys.executable, "-c", GIVING], capture_output=True, text=True, check=True)
    assert float(done.stdout) > 250
