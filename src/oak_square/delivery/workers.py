"""Work in processes of its own, bounded in memory and time: what dies costs what it was at, and nothing else."""

from __future__ import annotations

import contextlib
import json
import os
import resource
import shutil
import signal
import socket
import sys
import threading
import time
import weakref
from collections import deque
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from multiprocessing import Pipe
from multiprocessing.connection import Connection, wait
from pathlib import Path
from pickle import dumps, loads
from tempfile import mkdtemp
from typing import Any

from oak_square.core.errors import BadUsage
from oak_square.core.words import say
from oak_square.delivery.fork_server import LARGEST_ORDER, LAUNCH
from oak_square.formats.limits import LIMITS

__all__ = ["CRASHED", "WorkerPool", "fitting", "in_processes", "load_ahead"]

CRASHED = say("its reader crashed, or ran out of memory")
"""What is said of a file whose process died over it."""
_PROCESS_BYTES = 100_000_000  # with all our modules
_TIMES_IN_MEMORY = 16  # a text of many vertices takes so much, what is binary less
_PREFIX = "oak-square-"
_LEAST_BYTES = 400_000_000  # of addresses: a process with our modules and its threads, before it has read anything
_LOST_IN_A_ROW = 3  # workers that ended before they had begun
_IN_HAND = 2  # items sent to each worker, so that it need not wait while what came of one is dealt with
_LOOK_S = 0.1
_END_S = 5.0  # for the system to take a killed process away

Work = Callable[[Any], Any]
Asked = Callable[[], bool]


def in_processes(
    work: Work,
    items: Sequence[Any],
    jobs: int,
    cancelled: Asked | None = None,
    *,
    niceness: int = 0,
    abandoned: Asked | None = None,
) -> Iterator[tuple[Any, Any, str]]:
    """Yield each item with its result and "", as they come; with None and why, where its process died over it twice.

    A process may die of what has nothing to do with its item: that is begun once more. An item has `LIMITS.seconds`.
    With `niceness` the processes give way to others. What `work` raises is raised here. Once `cancelled` says so no
    item is begun; once `abandoned` does, what is under way is ended too, and not told of.
    """
    if not items:
        return
    pool = WorkerPool(max(1, min(jobs, len(items))), niceness)
    try:
        yield from pool.run(work, items, cancelled, abandoned)
    finally:
        pool.end()


class WorkerPool:
    """Processes that do items of work, and are replaced where they die; for one thread at a time.

    Parameters
    ----------
    most : int
        How many there are at once.
    niceness : int
        By how much they give way to others.
    """

    def __init__(self, most: int, niceness: int = 0) -> None:
        self._most, self._niceness = most, niceness
        self._workers: list[_Worker] = []
        self._lost = 0
        self._aside = _make_folder_aside()
        # One that is never ended, as in a process that is killed, leaves its folder no longer than itself.
        self._clear = weakref.finalize(self, _take_folder, self._aside)

    def run(
        self, work: Work, items: Sequence[Any], cancelled: Asked | None = None, abandoned: Asked | None = None
    ) -> Iterator[tuple[Any, Any, str]]:
        """Yield what `in_processes` does; the processes stay for the next time.

        Raises
        ------
        BadUsage
            If no process can begin.
        """
        _check_room()
        waiting, died = deque(items), list[Any]()
        try:
            while waiting or any(worker.due for worker in self._workers):
                if cancelled is not None and cancelled():
                    waiting.clear()
                if abandoned is not None and abandoned():
                    return
                self._hand_out(work, waiting)
                for worker in self._list_ready(abandoned is not None):
                    yield from self._take_answer(worker, waiting, died)
        finally:  # it may be left early: by an error, by Ctrl+C, or by whoever took the results
            self._let_go([worker for worker in self._workers if worker.due])

    def end(self) -> None:
        """End the processes, and what they are at."""
        self._let_go(list(self._workers))
        self._clear()

    def _hand_out(self, work: Work, waiting: deque[Any]) -> None:
        """Send each worker one item, and another to follow; begin workers where there are too few."""
        for in_hand in range(_IN_HAND):
            # The last of them are not sent ahead: whoever is free first is to have them.
            while len(waiting) > in_hand * self._most:
                worker = next((w for w in self._workers if len(w.due) <= in_hand), None)
                if worker is None:
                    if len(self._workers) == self._most:
                        break
                    worker = _begin_worker(work, self._niceness, self._aside)
                    self._workers.append(worker)
                worker.send(work, waiting.popleft())

    def _list_ready(self, looks: bool) -> list[_Worker]:
        """Return the workers that have something to tell, or have taken too long; with `looks` none, after a while."""
        longest = min((w.since for w in self._workers if w.due), default=0.0) + LIMITS.seconds - time.monotonic()
        heard = wait([w.channel for w in self._workers], max(0.0, min(longest, _LOOK_S) if looks else longest))
        late = time.monotonic() - LIMITS.seconds
        return [w for w in self._workers if w.channel in heard or (w.due and w.since < late)]

    def _take_answer(self, worker: _Worker, waiting: deque[Any], died: list[Any]) -> Iterator[tuple[Any, Any, str]]:
        """Yield what came of the item that `worker` was at; what it had not come to goes back to `waiting`."""
        late = not worker.channel.poll()
        words = None if late else worker.receive()
        if words is not None:
            if not words:
                self._lost = 0
                return
            result, error = loads(words)
            item = worker.due.popleft()
            if error is not None:
                raise error
            yield item, result, ""
            return
        self._let_go([worker])
        left = list(worker.due)
        if late:
            yield left.pop(0), None, say("took over {seconds} seconds, which no file may", seconds=LIMITS.seconds)
        elif not worker.has_begun:
            self._lost += 1
            if self._lost >= _LOST_IN_A_ROW:
                raise BadUsage(_why_none_begins())
        elif left and any(left[0] is other for other in died):
            yield left.pop(0), None, CRASHED
        else:
            died += left[:1]
        waiting.extendleft(reversed(left))

    def _let_go(self, workers: list[_Worker]) -> None:
        for worker in workers:
            worker.kill()
        for worker in workers:
            worker.close()
            self._workers.remove(worker)


class _Worker:
    """A process at the other end of a channel, which is told what to do, and ends when the channel is closed.

    Attributes
    ----------
    channel : Connection
    due : deque
        The items sent to it of which nothing was heard; it is at the first.
    since : float
        When it began with that, by the monotonic clock.
    has_begun : bool
    """

    def __init__(self, channel: Connection, process: int, handle: int | None) -> None:
        self.channel, self._process, self._handle = channel, process, handle
        self.due = deque[Any]()
        self.since = time.monotonic()
        self.has_begun = False

    def send(self, work: Work, item: Any) -> None:
        if not self.due:
            self.since = time.monotonic()
        self.due.append(item)
        with contextlib.suppress(OSError):  # it has died: that is heard from it next
            self.channel.send_bytes(dumps((work, item)))

    def receive(self) -> bytes | None:
        """Return what it says of its first item, "" as it begins; None where it has ended."""
        try:
            words = self.channel.recv_bytes()
        except (EOFError, OSError):
            return None
        self.since, self.has_begun = time.monotonic(), True
        return words

    def kill(self) -> None:
        with contextlib.suppress(ProcessLookupError):
            if self._handle is None:
                os.kill(self._process, signal.SIGKILL)
            else:
                signal.pidfd_send_signal(self._handle, signal.SIGKILL)

    def close(self) -> None:
        """Wait until it is gone, and what it wrote no longer grows."""
        until = time.monotonic() + _END_S
        with contextlib.suppress(EOFError, OSError):
            while self.channel.poll(max(0.0, until - time.monotonic())):
                self.channel.recv_bytes()
        self.channel.close()
        if self._handle is not None:
            os.close(self._handle)


class _ForkServer:
    """The process that workers are forked from: begun when the first is wanted, and anew where it has died."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._control: socket.socket | None = None
        self._process = self._owner = 0

    def fork(self, order: dict[str, Any]) -> _Worker:
        """Return a worker as `order` has it.

        Raises
        ------
        OSError
            If the system allows no more processes, or files.
        """
        ours, theirs = Pipe()
        words = json.dumps(order).encode()
        with self._lock, theirs:
            if self._owner != os.getpid():  # forked from the one that has begun it
                self._control = None
            try:
                process, handle = self._order_worker(words, theirs)
            except OSError:  # it has died
                process, handle = self._order_worker(words, theirs)
        return _Worker(ours, process, handle)

    def _order_worker(self, words: bytes, theirs: Connection) -> tuple[int, int | None]:
        control = self._control or self._launch_server()
        self._control = None
        try:
            socket.send_fds(control, [words], [theirs.fileno()])
            answer, handles, _, _ = socket.recv_fds(control, LARGEST_ORDER, 1)
            if not answer:
                raise ConnectionResetError("the process that others are forked from has ended")
        except BaseException:  # Ctrl+C too: the answer to this order would be taken for that to the next
            control.close()
            raise
        self._control = control
        return int(answer), handles[0] if handles else None

    def begin(self, *modules: str) -> None:
        """Begin the process, unless it is there, and have it load modules while this one goes on."""
        with self._lock, contextlib.suppress(OSError):  # whoever orders a worker is told
            if self._control is None or self._owner != os.getpid():
                self._control = self._launch_server(*modules)

    def _launch_server(self, *modules: str) -> socket.socket:
        if self._owner == os.getpid():
            with contextlib.suppress(ChildProcessError):
                os.waitpid(self._process, os.WNOHANG)
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        nowhere = [(os.POSIX_SPAWN_OPEN, n, os.devnull, os.O_WRONLY, 0) for n in (1, 2)]
        with theirs:
            try:
                self._process = os.posix_spawn(
                    sys.executable,
                    [sys.executable, "-c", LAUNCH, ",".join(modules), *_search_path()],
                    os.environ,
                    file_actions=[(os.POSIX_SPAWN_DUP2, theirs.fileno(), 0), *nowhere],
                    # A terminal gives Ctrl+C to all processes of a command: the one that the user started says what
                    # stands, and ends the others.
                    setsigmask=[signal.SIGINT],
                )
            except OSError:
                ours.close()
                raise
        self._owner = os.getpid()
        return ours


_SERVER = _ForkServer()


def _search_path() -> list[str]:
    return [place or _find_own_folder() for place in sys.path]


def _find_own_folder() -> str:
    with contextlib.suppress(OSError):
        return str(Path.cwd())
    return "/"


def _begin_worker(work: Work, niceness: int, aside: str) -> _Worker:
    """Return a worker that has loaded the module of `work` and writes what it needs for a while into `aside`.

    Raises
    ------
    BadUsage
        If none can be started.
    """
    while isinstance(work, partial):
        work = work.func
    try:
        return _SERVER.fork(_make_order(work.__module__, niceness=niceness, aside=aside))
    except OSError as error:
        raise BadUsage(say("no process can be started: {strerror}", strerror=error.strerror or error)) from error


def _make_order(*modules: str, niceness: int = 0, aside: str = "") -> dict[str, Any]:
    """Return what the fork server is told of a worker that is to begin."""
    return {
        "modules": modules,
        "path": _search_path(),
        "folder": _find_own_folder(),
        "aside": aside,
        "niceness": niceness,
        "memory_bytes": LIMITS.memory_bytes,
    }


def load_ahead(*modules: str) -> None:
    """Begin what workers are forked from, and have it load `modules`, while this process goes on with its own work."""
    _SERVER.begin(*modules)


def _make_folder_aside() -> str:
    """Return a folder for what processes write for a while; none where there is no place for one."""
    try:
        return mkdtemp(prefix=_PREFIX)
    except OSError:
        return ""


def _take_folder(aside: str) -> None:
    if aside:
        shutil.rmtree(aside, ignore_errors=True)


def _check_room() -> None:
    soft = resource.getrlimit(resource.RLIMIT_AS)[0]
    if soft != resource.RLIM_INFINITY and soft < _LEAST_BYTES:
        raise BadUsage(
            say(
                "memory is limited to {mb} MB, and no process can begin in less than {least} MB (see ulimit -v)",
                mb=soft // 1_000_000,
                least=_LEAST_BYTES // 1_000_000,
            )
        )


def _why_none_begins() -> str:
    soft = resource.getrlimit(resource.RLIMIT_AS)[0]
    room = "" if soft == resource.RLIM_INFINITY else say(": memory is limited to {mb} MB", mb=soft // 1_000_000)
    return say("processes end as soon as they begin{room} (see ulimit -v)", room=room)


def fitting(sizes: Sequence[int], most: int) -> int:
    """Return how many processes, at most `most`, may work at files of these sizes, bytes, in the memory there is.

    The largest may be under way at one time. One process there is always: its own ceiling is what bounds it.
    """
    largest = sorted(sizes, reverse=True)[: max(1, most)]
    room, count = _find_free_bytes() * 3 // 4, 0
    for size in largest:
        room -= _PROCESS_BYTES + _TIMES_IN_MEMORY * size
        if room < 0:
            break
        count += 1
    return max(1, count)


def _find_free_bytes() -> int:
    """Return the bytes of memory that can be had: of this machine, or of what this process may take of it."""
    there = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")
    with contextlib.suppress(OSError, ValueError, StopIteration):
        rows = Path("/proc/meminfo").read_text().splitlines()
        there = next(1024 * int(row.split()[1]) for row in rows if row.startswith("MemAvailable:"))
    with contextlib.suppress(OSError, ValueError):  # a container's own bound; "max" where there is none
        there = min(there, int(Path("/sys/fs/cgroup/memory.max").read_text()))
    return there
