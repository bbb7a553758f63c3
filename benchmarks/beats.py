"""How long a window does not answer: the times between turns of its event loop."""

from __future__ import annotations

import itertools
import time

from PySide6.QtCore import QCoreApplication, QTimer
from PySide6.QtWidgets import QApplication

__all__ = ["longest_gaps", "watched_beats"]

_IDLE_S = 1.5


def watched_beats() -> list[float]:
    """Let the window come to rest, then note the time at each turn of the event loop in the list returned."""
    idle_until = time.perf_counter() + _IDLE_S
    while time.perf_counter() < idle_until:
        QApplication.processEvents()
    beats: list[float] = []
    timer = QTimer(QCoreApplication.instance(), interval=0)
    timer.timeout.connect(lambda: beats.append(time.perf_counter()))
    timer.start()
    return beats


def longest_gaps(beats: list[float], count: int) -> str:
    """Return the longest times between beats, in whole milliseconds, the longest first."""
    gaps = sorted((b - a for a, b in itertools.pairwise(beats)), reverse=True)
    return ", ".join(f"{gap * 1000:.0f}" for gap in gaps[:count])
