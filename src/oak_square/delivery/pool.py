"""Work in processes of its own, bounded in memory and time: what dies costs what it was at, and nothing else.

Processes are forked from a small one that has loaded what the first work needed, so that the first of them costs an
import and the others next to nothing. They end with the process they work for, however that ends.
"""

from __future__ import annotations

import contextlib
import os
import resource
import select
import shutil
import signal
import threading
import time
import weakref
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, TimeoutError, wait
from concurrent.futures.process import BrokenProcessPool
from functools import partial
from pathlib import Path
from tempfile import mkdtemp
from typing import Any

import numpy as np

from oak_square.core.errors import BadUsage
from oak_square.core.words import say
from oak_square.delivery.apart import context_apart
from oak_square.formats.limits import LIMITS

__all__ = ["CRASHED", "Subprocess", "fitting", "in_processes"]

CRASHED = say("its reader crashed, or ran out of memory")
"""What is said of a file whose process died over it."""
_PROCESS_BYTES = 100_000_000  # with all our modules
_TIMES_IN_MEMORY = 16  # a text of many vertices takes so much, what is binary less
_PREFIX = "oak-square-"
_LEAST_BYTES = 400_000_000  # of addresses: a process with our modules and its threads, before it has read anything
_LOST_IN_A_ROW = 3  # files from the first on, before it is asked whether a process can do anything
_BREAKS = 5  # of the pool, with nothing done in between
_WATCH_S = 1.0
_LOOK_S = 0.1
_PAUSE_S = 0.01  # between looks of the pool at its processes: a short run should not wait on them


def in_processes(
    work: Callable[[Any], Any],
    items: Sequence[Any],
    jobs: int,
    cancelled: Callable[[], bool] | None = None,
    *,
    niceness: int = 0,
    abandoned: Callable[[], bool] | None = None,
) -> Iterator[tuple[Any, Any, str]]:
    """Yield each item with its result and "", as they come; with None and why, where its process died over it twice.

    A process may die of what has nothing to do with its item: that is begun once more. An item has `LIMITS.seconds`.
    With `niceness` the processes give way to others. What `work` raises is raised here. Once `cancelled` says so no
    item is begun; once `abandoned` does, what is under way is ended too, and not told of.
    """
    if not items:
        return
    jobs = max(1, min(jobs, len(items)))
    aside = _folder_aside()
    try:
        start = partial(_started, work, jobs, aside, niceness)
        yield from _run_items(start, work, list(items), 2 * jobs, cancelled, abandoned)
    finally:
        _take_folder(aside)


def _folder_aside() -> str:
    """Return a folder for what processes write for a while; none where there is no place for one."""
    try:
        return mkdtemp(prefix=_PREFIX)
    except OSError:
        return ""


def _take_folder(aside: str) -> None:
    if aside:
        shutil.rmtree(aside, ignore_errors=True)


def _run_items(
    start: Callable[[], Any],
    work: Callable[[Any], Any],
    items: list[Any],
    most: int,
    cancelled: Callable[[], bool] | None,
    abandoned: Callable[[], bool] | None,
) -> Iterator[tuple[Any, Any, str]]:
    pool = start()
    waiting, running = list(reversed(items)), dict[Future[Any], Any]()
    died: list[Any] = []
    through, breaks, lost = False, 0, 0
    try:
        while waiting or running:
            if cancelled is not None and cancelled():
                waiting.clear()
            whole = _fill(pool, work, waiting, running, most)
            if abandoned is not None and abandoned():
                return
            for future in wait(running, _LOOK_S if abandoned else None, FIRST_COMPLETED).done:
                if _is_broken(future):
                    whole = False
                    continue
                found, item = _result(future), running.pop(future)
                breaks = 0
                if found[1] == CRASHED and not any(item is other for other in died):
                    died.append(item)
                    waiting.append(item)
                else:
                    lost = lost + 1 if found[1] == CRASHED else -len(items)  # one that went well tells enough
                    yield (item, *found)
            if not whole:  # what was under way is begun anew
                pool.stop()
                pool.join()
                pool, left, breaks = start(), list(running.values()), breaks + 1
                running.clear()
                if breaks > _BREAKS:
                    yield from ((item, None, CRASHED) for item in left)
                else:
                    waiting += reversed(left)
            if lost >= _LOST_IN_A_ROW:
                _check_alive(pool)
                lost = -len(items)
        through = True
        pool.close()
    finally:
        if not through:  # left early: by an error, by Ctrl+C, or by whoever took the results
            pool.stop()
        pool.join()


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


def _check_alive(pool: Any) -> None:
    """Make sure that a process can do anything at all.

    Raises
    ------
    BadUsage
        If it dies of nothing, as it does under too low a ceiling of memory.
    """
    try:
        pool.schedule(_alive, timeout=LIMITS.seconds).result()
    except Exception as error:
        soft = resource.getrlimit(resource.RLIMIT_AS)[0]
        room = "" if soft == resource.RLIM_INFINITY else say(": memory is limited to {mb} MB", mb=soft // 1_000_000)
        raise BadUsage(say("processes end as soon as they begin{room} (see ulimit -v)", room=room)) from error


def _alive() -> None:
    """Do nothing, in a process of the pool."""


def fitting(sizes: Sequence[int], most: int) -> int:
    """Return how many processes, at most `most`, may work at files of these sizes, bytes, in the memory there is.

    The largest may be under way at one time. One process there is always: its own ceiling is what bounds it.
    """
    largest = sorted(sizes, reverse=True)[: max(1, most)]
    room, count = _room() * 3 // 4, 0
    for size in largest:
        room -= _PROCESS_BYTES + _TIMES_IN_MEMORY * size
        if room < 0:
            break
        count += 1
    return max(1, count)


def _room() -> int:
    """Return the bytes of memory that can be had: of this machine, or of what this process may take of it."""
    there = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")
    with contextlib.suppress(OSError, ValueError, StopIteration):
        rows = Path("/proc/meminfo").read_text().splitlines()
        there = next(1024 * int(row.split()[1]) for row in rows if row.startswith("MemAvailable:"))
    with contextlib.suppress(OSError, ValueError):  # a container's own bound; "max" where there is none
        there = min(there, int(Path("/sys/fs/cgroup/memory.max").read_text()))
    return there


class Subprocess:
    """One process that does items one after the other, and is replaced where it dies; for one thread at a time."""

    def __init__(self) -> None:
        self._pool: Any = None
        self._clear: Callable[[], object] | None = None

    def do(self, work: Callable[[Any], Any], item: Any, abandoned: Callable[[], bool]) -> tuple[Any, str]:
        """Return what `in_processes` gives with an item."""
        died = 0
        for _ in range(_BREAKS):
            if self._pool is None:
                aside = _folder_aside()
                # One that is never ended, as in a worker that is killed, leaves its folder no longer than itself.
                self._clear = weakref.finalize(self, _take_folder, aside)
                self._pool = _started(work, 1, aside)
            running = dict[Future[Any], Any]()
            whole = _fill(self._pool, work, [item], running, 1)
            for future in running:
                while not wait([future], _LOOK_S).done:
                    if abandoned():
                        self.end()
                        return None, say("given up")
                if _is_broken(future):
                    whole = False
                    continue
                found = _result(future)
                died += found[1] == CRASHED
                if found[1] != CRASHED or died > 1:
                    return found
            if not whole:
                self.end()
        return None, CRASHED

    def end(self) -> None:
        """End the process, and what it is at."""
        if self._pool is not None:
            self._pool.stop()
            self._pool.join()
            self._pool = None
        if self._clear is not None:
            self._clear()
            self._clear = None


def _started(work: Callable[[Any], Any], jobs: int, aside: str, niceness: int = 0) -> Any:
    """Return a pool whose processes put what they write for a while into the folder `aside`, where that is one.

    Raises
    ------
    BadUsage
        If there is no shared memory for them to be told by, or less memory than one needs to begin.
    """
    _check_room()
    # Loads its own machinery; commands that read nothing do without.
    from pebble import CONSTS, ProcessPool

    CONSTS.sleep_unit = _PAUSE_S
    while isinstance(work, partial):
        work = work.func
    context = context_apart(work.__module__)
    settle = partial(_settle_in, niceness, os.getpid(), LIMITS.memory_bytes, aside)
    try:
        return ProcessPool(max_workers=jobs, initializer=settle, context=context)
    except OSError as error:
        raise BadUsage(
            say("no process can be started: {strerror} (is /dev/shm there?)", strerror=error.strerror or error)
        ) from error


def _fill(
    pool: Any, work: Callable[[Any], Any], waiting: list[Any], running: dict[Future[Any], Any], most: int
) -> bool:
    """Begin what is waiting, while less than `most` is under way; tell whether the pool still takes any."""
    while waiting and len(running) < most:
        try:
            running[pool.schedule(work, args=(waiting[-1],), timeout=LIMITS.seconds)] = waiting[-1]
        except RuntimeError:
            return False
        waiting.pop()
    return True


def _is_broken(future: Future[Any]) -> bool:
    """Tell whether the pool was given up, which it is where a process dies before it was heard of."""
    return not future.cancelled() and isinstance(future.exception(), BrokenProcessPool)


def _result(future: Future[Any]) -> tuple[Any, str]:
    from pebble import ProcessExpired

    try:
        return future.result(), ""
    except TimeoutError:
        return None, say("took over {seconds} seconds, which no file may", seconds=LIMITS.seconds)
    except ProcessExpired:
        return None, CRASHED


def _settle_in(niceness: int, parent: int, memory_bytes: int, aside: str) -> None:
    """Make a process give way to others, end with the one it works for, bound its memory, and say nothing itself."""
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    # A library that ends the process writes pages of it; what is to be told goes back as a result.
    nowhere = os.open(os.devnull, os.O_WRONLY)
    for number in (1, 2):
        os.dup2(nowhere, number)
    if aside:
        os.environ["TMPDIR"] = aside
    os.nice(niceness)
    # What overflows in a hostile file is found and said by the survey and the proof; nothing else is said of it.
    np.seterr(all="ignore")
    threading.Thread(target=_end_with, args=(parent,), daemon=True).start()
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    # A quarter is left to all others, however much may be asked for.
    there = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") * 3 // 4
    ceiling = min(memory_bytes, max(there, 2_000_000_000))
    ceiling = ceiling if hard == resource.RLIM_INFINITY else min(ceiling, hard)
    resource.setrlimit(resource.RLIMIT_AS, (ceiling, hard))


def _end_with(parent: int) -> None:
    """End this process when `parent` has ended."""
    try:
        handle = os.pidfd_open(parent)
    except ProcessLookupError:
        os._exit(1)
    except OSError:  # a kernel, or a container, that has no such handles
        while _is_there(parent):
            time.sleep(_WATCH_S)
    else:
        select.select([handle], [], [])
    os._exit(1)


def _is_there(process: int) -> bool:
    with contextlib.suppress(ProcessLookupError):
        os.kill(process, 0)
        return True
    return False
