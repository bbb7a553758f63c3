"""A small process that others are forked from, and what these do: items of work as they come, one after the other.

It has loaded what the work needs, so that the first worker costs an import and the others next to nothing. None of
these processes runs the caller's main file, which in a script may have no guard. All of them end with the process that
holds the other end of their socket, however that ends.
"""

from __future__ import annotations

import contextlib
import json
import os
import pickle
import resource
import signal
import socket
import sys
import threading
from collections.abc import Sequence
from importlib import import_module
from multiprocessing.connection import Connection
from queue import SimpleQueue
from typing import Any

__all__ = ["LARGEST_ORDER", "LAUNCH", "serve"]

LAUNCH = "import sys; sys.path[:] = sys.argv[2:]; from oak_square.delivery.fork_server import serve; serve(sys.argv[1])"
"""Python that a process runs to become the server; its arguments are modules to load, and the caller's `sys.path`."""
LARGEST_ORDER = 1 << 17
"""Bytes that say what a worker is to be."""
_LEAST_CEILING_BYTES = 2_000_000_000


def serve(modules: str = "") -> None:
    """Load modules, told with commas between; then fork a worker for each order, until standard input is closed.

    Standard input is a socket. An order is JSON, along with the worker's end of a channel; the answer is the worker's
    process number, along with a handle of it where the system has such.
    """
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # nobody waits for workers: their sockets tell of their end
    control = socket.socket(fileno=0)
    _load_modules(modules.split(",") if modules else ())
    while True:
        words, handles, _, _ = socket.recv_fds(control, LARGEST_ORDER, 1)
        if not words:
            return
        order = json.loads(words)
        _load_modules(order["modules"])
        process = os.fork()
        if process == 0:
            try:
                _answer_items(Connection(handles[0]), order)
            finally:
                os._exit(1)
        os.close(handles[0])
        try:
            handle = [os.pidfd_open(process)]
        except OSError:  # it has ended already; or a kernel, or a container, that has no such handles
            handle = []
        socket.send_fds(control, [str(process).encode()], handle)
        for each in handle:
            os.close(each)


def _load_modules(modules: Sequence[str]) -> None:
    for module in modules:
        with contextlib.suppress(Exception):  # the worker that needs it says so
            import_module(module)


def _answer_items(channel: Connection, order: dict[str, Any]) -> None:
    """Say that this process has begun, and answer each item of work with what came of it, or what it raised."""
    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    nowhere = os.open(os.devnull, os.O_RDWR)
    os.dup2(nowhere, 0)  # in place of the server's socket
    _settle_in(order)
    channel.send_bytes(b"")
    due = SimpleQueue[bytes]()
    threading.Thread(target=_receive_items, args=(channel, due), daemon=True).start()
    while True:
        words = due.get()
        answer: tuple[Any, BaseException | None]
        try:
            work, item = pickle.loads(words)
            answer = work(item), None
        except BaseException as error:
            answer = None, error
        channel.send_bytes(_pickle_answer(answer))


def _receive_items(channel: Connection, due: SimpleQueue[bytes]) -> None:
    """Take items as they come, so that whoever sends them never waits; end with the sender."""
    while True:
        try:
            due.put(channel.recv_bytes())
        except (EOFError, OSError):
            os._exit(1)


def _pickle_answer(answer: tuple[Any, BaseException | None]) -> bytes:
    try:
        words = pickle.dumps(answer)
        if answer[1] is not None:
            pickle.loads(words)  # an error that wants more than its arguments can be sent and not received
    except Exception as error:
        trouble = answer[1] if answer[1] is not None else error
        words = pickle.dumps((None, RuntimeError(f"{type(trouble).__name__}: {trouble}")))
    return words


def _settle_in(order: dict[str, Any]) -> None:
    """Give way to others, work where the caller does, bound this process's memory, and let nobody hear it."""
    sys.path[:] = order["path"]
    with contextlib.suppress(OSError):  # it may be gone
        os.chdir(order["folder"])
    if order["aside"]:
        os.environ["TMPDIR"] = order["aside"]
    os.nice(order["niceness"])
    import numpy as np  # not before: a command begins the server before it has loaded anything itself

    # What overflows in a hostile file is found and said by the survey and the proof; nothing else is said of it.
    np.seterr(all="ignore")
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    # A quarter is left to all others, however much may be asked for.
    there = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") * 3 // 4
    ceiling = min(order["memory_bytes"], max(there, _LEAST_CEILING_BYTES))
    ceiling = ceiling if hard == resource.RLIM_INFINITY else min(ceiling, hard)
    resource.setrlimit(resource.RLIMIT_AS, (ceiling, hard))
