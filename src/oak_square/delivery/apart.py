"""Processes that know nothing of the program that has started them: they run no line of its main file again."""

from __future__ import annotations

import io
import os
import signal
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from multiprocessing import context, forkserver, popen_forkserver, reduction, resource_tracker, spawn, util
from typing import Any

__all__ = ["context_apart", "hearing_no_ctrl_c"]

_SAYING = threading.Lock()
_OF_MAIN = ("init_main_from_name", "init_main_from_path")


class _Launch(popen_forkserver.Popen):
    """Starts a process as the fork server does, but for what it is told of the main module."""

    def _launch(self, process_obj: Any) -> None:
        # As in the standard library, which would have the child run the caller's main file anew, to find there what
        # it is given to do. What ours do stands in our own modules; a main file without a guard is common in scripts.
        told = {k: v for k, v in spawn.get_preparation_data(process_obj._name).items() if k not in _OF_MAIN}
        words = io.BytesIO()
        context.set_spawning_popen(self)
        try:
            reduction.dump(told, words)
            reduction.dump(process_obj, words)
        finally:
            context.set_spawning_popen(None)
        self.sentinel, given = forkserver.connect_to_new_process(self._fds)  # type: ignore[attr-defined]
        kept = os.dup(given)
        self.finalizer = util.Finalize(self, util.close_fds, (kept, self.sentinel))  # type: ignore[attr-defined]
        with os.fdopen(given, "wb") as pipe:
            pipe.write(words.getbuffer())
        self.pid = forkserver.read_signed(self.sentinel)


class _Process(context.ForkServerProcess):
    @staticmethod
    def _Popen(process_obj: Any) -> Any:  # noqa: N802 - the standard library's own name
        return _Launch(process_obj)


class _Context(context.ForkServerContext):
    Process = _Process


def context_apart(*modules: str) -> context.ForkServerContext:
    """Return what starts processes by way of a fork server, none of which runs the caller's main file.

    The server is started unless it runs, and loads `modules` for them. Neither it nor they hear Ctrl+C, which a
    terminal gives to all processes of a command: the one that the user started says what stands, and ends the others.
    """
    found = _Context()
    found.set_forkserver_preload(["oak_square.delivery.served", *modules])
    with hearing_no_ctrl_c():
        forkserver.ensure_running()
    return found


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
def hearing_no_ctrl_c() -> Iterator[None]:
    """Have the processes that are started in this, by this thread or one it starts, hear no Ctrl+C."""
    # Where it starts, the standard library lets the signal through again: that is done before.
    with _saying_nothing():
        resource_tracker.ensure_running()
    let_through = signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})
    try:
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_SETMASK, let_through)
