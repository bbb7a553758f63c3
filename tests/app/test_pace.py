"""How long something still takes: counted from the first that is done, not from the press of a button."""

from __future__ import annotations

from oak_square.app.widgets.pace import Pace


def test_the_time_before_the_first_is_done_does_not_count():
    now = [0.0]
    pace = Pace(clock=lambda: now[0])
    assert pace.words(0, 100) == ""
    now[0] = 40.0  # looking at a slow disk
    assert pace.words(1, 100) == ""
    now[0] = 40.1
    assert pace.words(2, 100) == ""  # too little was seen
    now[0] = 45.0
    assert pace.left_s(21, 100) == 5.0 / 20 * 79
    assert pace.words(21, 100) == ", 20 s left"
    now[0] = 64.75
    assert pace.words(100, 100) == ""


def test_minutes_are_said_as_minutes():
    now = [0.0]
    pace = Pace(clock=lambda: now[0])
    pace.left_s(1, 1021)
    now[0] = 10.0
    assert pace.words(11, 1021) == ", 17 min left"
