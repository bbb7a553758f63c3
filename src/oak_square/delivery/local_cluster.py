"""A Dask cluster on this machine. What ends a command waits while it begins and ends: all its processes would tell."""

from __future__ import annotations

import logging
import os
import signal
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from multiprocessing import resource_tracker
from typing import Any

__all__ = ["begin_local_cluster", "ends_held_back"]

_SAYING = threading.Lock()


@contextmanager
def begin_local_cluster(workers: int, patience_s: float) -> Iterator[Any]:
    """Give a Dask scheduler with workers on this machine, which end with it, within `patience_s` seconds."""
    import distributed

    kind: Any = distributed.LocalCluster
    cluster = None
    try:
        with ends_held_back():
            cluster = kind(
                n_workers=workers,
                threads_per_worker=1,
                processes=True,
                memory_limit=0,  # each asset's process is bounded, as always
                dashboard_address=None,
                scheduler_kwargs={"dashboard_address": ":0"},  # it serves on some port even so, and has one it likes
                silence_logs=logging.CRITICAL,
            )
        yield cluster
    finally:
        if cluster is not None:
            with ends_held_back():
                cluster.close(timeout=patience_s)


@contextmanager
def ends_held_back() -> Iterator[None]:
    """Let Ctrl+C, and a request to end, come once this is through; processes that are started in it hear no Ctrl+C.

    A terminal gives it to all processes of a command. Other threads than the first are not interrupted anyway.
    """
    if threading.current_thread() is not threading.main_thread():
        with _hearing_no_ctrl_c():
            yield
        return
    came: list[int] = []
    numbers = [n for n in (signal.SIGINT, signal.SIGTERM) if callable(signal.getsignal(n))]
    heard = {n: signal.signal(n, lambda number, _: came.append(number)) for n in numbers}
    try:
        with _hearing_no_ctrl_c():
            yield
    finally:
        for number, way in heard.items():
            signal.signal(number, way)
        if came:
            signal.raise_signal(came[0])


@contextmanager
def _saying_nothing() -> Iterator[None]:
    """Have a process that is started in this say nothing: the tracker would tell of what killed workers have left."""
    if not _SAYING.acquire(blocking=False):
        yield
        return
    kept, nowhere = os.dup(2), os.open(os.devnull, os.O_WRONLY)
    try:
        os.dup2(nowhere, 2)
        yield
    finally:
        os.dup2(kept, 2)
        os.close(kept)
        os.close(nowhere)
        _SAYING.release()


@contextmanager
def _hearing_no_ctrl_c() -> Iterator[None]:
    """Have the processes that are started in this, by this thread or one it starts, hear no Ctrl+C."""
    # Where it starts, the standard library lets the signal through again: that is done before.
    with _saying_nothing():
        resource_tracker.ensure_running()
    let_through = signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})
    try:
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_SETMASK, let_through)
