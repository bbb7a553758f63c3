"""Processes that know nothing of the program that has started them: they run no line of its main file again."""

from __future__ import annotations

import io
import os
from multiprocessing import context, forkserver, popen_forkserver, reduction, spawn, util
from typing import Any

__all__ = ["context_apart"]

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


def context_apart() -> context.ForkServerContext:
    """Return what starts processes by way of a fork server, none of which runs the caller's main file."""
    return _Context()
