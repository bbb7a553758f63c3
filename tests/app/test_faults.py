"""A fault of ours in a slot: a line in the foot, all of it in a log, the window as it was."""

from __future__ import annotations

import sys

from oak_square.app.session import memory
from oak_square.app.start import watch_faults
from oak_square.core.stages import STAGES


def test_a_fault_is_told_of_and_logged_and_the_window_stays(hand, batch, tmp_path, monkeypatch):
    hand.open(batch)
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    faults = watch_faults(hand.window, tmp_path / "state" / "faults.log")
    said, before = [], [r.file for r in hand.window.batch.shown]
    hand.session.messages.failed.connect(said.append)
    try:
        {}["nothing"]
    except KeyError as error:
        sys.excepthook(type(error), error, error.__traceback__)
    assert said == [f"A fault of ours, please report it: KeyError('nothing'); all of it is in {faults.log}"]
    assert "test_faults.py" in faults.log.read_text()
    assert [r.file for r in hand.window.batch.shown] == before


def test_an_asset_that_a_fault_of_ours_has_cost_is_a_row_that_says_so_at_every_stage(hand, batch, monkeypatch):
    real = memory.evaluate
    monkeypatch.setattr(memory, "evaluate", lambda a, *m, **k: {}["milk"] if "windlass" in a.file else real(a, *m, **k))
    monkeypatch.setattr(memory, "answers_of", lambda *_: {}["honey"])
    hand.open(batch)
    assert [line for _, line, went_wrong in hand.window.foot.log if went_wrong] == [
        "A fault of ours, please report it: KeyError('honey')",
        "A fault of ours, please report it: KeyError('milk')",
    ]
    for file in ("windlass.stl", "milepost.glb"):
        hand.pick(file)
        for stage in STAGES:
            hand.stage(stage)
    assert hand.row("windlass.stl").trouble == "a fault of ours: KeyError('milk'); please report it"
    assert hand.row("milepost.glb").trouble is None
    assert hand.window.ruler.note("deliver") == "5 ready, 1 not"
