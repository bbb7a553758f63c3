"""How long a window does not answer: the times between turns of its event loop."""

from __future__ import annotations

import itertools
import time
from collections.abc import Callable

from PySide6.QtCore import QCoreApplication, QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

__all__ = ["longest_gaps", "until", "watched_beats"]

_IDLE_S = 1.5
_EVERY_MS = 4


def watched_beats() -> list[float]:
    """Let the window come to rest, then note the time at turns of the event loop in the list returned.

    Every few milliseconds only: a loop that never sleeps would take the interpreter from the work it is to watch.
    """
    idle_until = time.perf_counter() + _IDLE_S
    while time.perf_counter() < idle_until:
        QApplication.processEvents()
    beats: list[float] = []
    timer = QTimer(QCoreApplication.instance(), interval=_EVERY_MS)
    timer.timeout.connect(lambda: beats.append(time.perf_counter()))
    timer.start()
    return beats


def until(done: Callable[[], bool]) -> None:
    """Let the window work until something is so, as its own loop would: asleep while nothing is due."""
    looks = QTimer(QCoreApplication.instance(), interval=_EVERY_MS)
    looks.start()
    while not done():
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
    looks.stop()


def longest_gaps(beats: list[float], count: int) -> str:
    """Return the longest times between beats, in whole milliseconds, the longest first."""
    gaps = sorted((b - a for a, b in itertools.pairwise(beats)), reverse=True)
    return ", ".join(f"{gap * 1000:.0f}" for gap in gaps[:count])
