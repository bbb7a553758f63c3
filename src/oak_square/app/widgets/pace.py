"""How long something still takes, judged by how it went since its first item was done."""

from __future__ import annotations

import time
from collections.abc import Callable

from oak_square.core.words import say

__all__ = ["Pace"]

_ENOUGH_S = 0.5  # of work that was seen, before anything is said of the rest


class Pace:
    """Counts from the first item that is done: what comes before it, looking and starting, happens once."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._first: tuple[float, int] | None = None

    def left_s(self, done: int, total: int) -> float | None:
        """Return how many seconds are left; None while that can't be told."""
        now = self._clock()
        if self._first is None:
            if done > 0:
                self._first = now, done
            return None
        began, before = self._first
        if now - began < _ENOUGH_S or done <= before:
            return None
        return (now - began) / (done - before) * (total - done)

    def words(self, done: int, total: int) -> str:
        """Return `, 26 s left`, or nothing."""
        left = self.left_s(done, total)
        if left is None or left < 1:
            return ""
        return say(", {left:.0f} s left", left=left) if left < 100 else say(", {left:.0f} min left", left=left / 60)
