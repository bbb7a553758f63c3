"""What ends a command waits while it starts or ends processes: left half way, they would all tell of it."""

from __future__ import annotations

import signal
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from oak_square.delivery.apart import hearing_no_ctrl_c

__all__ = ["ends_held_back"]


@contextmanager
def ends_held_back() -> Iterator[None]:
    """Let Ctrl+C, and a request to end, come once this is through; processes that are started in it hear no Ctrl+C.

    A terminal gives it to all processes of a command. Other threads than the first are not interrupted anyway.
    """
    if threading.current_thread() is not threading.main_thread():
        with hearing_no_ctrl_c():
            yield
        return
    came: list[int] = []
    numbers = [n for n in (signal.SIGINT, signal.SIGTERM) if callable(signal.getsignal(n))]
    heard = {n: signal.signal(n, lambda number, _: came.append(number)) for n in numbers}
    try:
        with hearing_no_ctrl_c():
            yield
    finally:
        for number, way in heard.items():
            signal.signal(number, way)
        if came:
            signal.raise_signal(came[0])
