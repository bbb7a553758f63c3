"""Signals to a window: it closes as by its cross, also while nothing happens and no Python runs."""

from __future__ import annotations

import signal
import socket
from collections.abc import Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING

from PySide6.QtCore import QSocketNotifier

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

__all__ = ["closing_on_signals"]

_CLOSING = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)


@contextmanager
def closing_on_signals(window: QWidget) -> Iterator[None]:
    """Let Ctrl+C, SIGTERM and SIGHUP close a window while its event loop runs.

    Python's own handlers wait until Python runs again, which it does not while Qt waits: what the signal writes into a
    socket wakes Qt.
    """
    here, there = socket.socketpair()
    here.setblocking(False)
    there.setblocking(False)
    before = {number: signal.getsignal(number) for number in _CLOSING}
    heard = [number for number in _CLOSING if before[number] is not signal.SIG_IGN]
    for number in heard:
        signal.signal(number, lambda *_: None)
    woken_before = signal.set_wakeup_fd(there.fileno(), warn_on_full_buffer=False)
    notifier = QSocketNotifier(here.fileno(), QSocketNotifier.Type.Read, window)

    def close() -> None:
        if any(number in _CLOSING for number in here.recv(256)):
            window.close()

    notifier.activated.connect(close)
    try:
        yield
    finally:
        signal.set_wakeup_fd(woken_before)
        for number in heard:
            signal.signal(number, before[number])
        here.close()
        there.close()
