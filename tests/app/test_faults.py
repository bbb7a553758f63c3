"""A fault of ours in a slot: a line in the foot, all of it in a log, the window as it was."""

from __future__ import annotations

import sys

from oak_square.app.start import watch_faults


def test_a_fault_is_told_of_and_logged_and_the_window_stays(hand, batch, tmp_path, monkeypatch):
    hand.open(batch)
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    faults = watch_faults(hand.window, tmp_path / "state" / "faults.log")
    said, before = [], [r.file for r in hand.window.batch.shown]
    hand.session.failed.connect(said.append)
    try:
        {}["nothing"]
    except KeyError as error:
        sys.excepthook(type(error), error, error.__traceback__)
    assert said == [f"A fault of ours, please report it: KeyError('nothing'); all of it is in {faults.log}"]
    assert "test_faults.py" in faults.log.read_text()
    assert [r.file for r in hand.window.batch.shown] == before
