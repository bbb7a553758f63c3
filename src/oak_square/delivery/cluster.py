"""The same work on the workers of a Dask cluster: files by paths that all of them share, results as they come.

A worker has each asset worked on in a process of its own, as is done here (`workers`): time and memory are bounded
there too, and what dies costs its asset alone. Dask sees to workers that come, go and die.
"""

from __future__ import annotations

import logging
import pickle
import queue
import re
import socket
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, nullcontext, suppress
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from oak_square.core.errors import BadUsage, one_line
from oak_square.core.words import say
from oak_square.delivery.local_cluster import begin_local_cluster, ends_held_back
from oak_square.delivery.workers import CRASHED, WorkerPool
from oak_square.formats.limits import LIMITS, Limits
from oak_square.version import __version__

__all__ = ["Crew", "connected"]

_LOCAL = re.compile(r"local:([1-9][0-9]{0,3})")
_PLACE = re.compile(r"(?P<how>[a-z]+://)?(?P<host>\[[^]/\s]+\]|[^/\s:]+):(?P<port>[0-9]{1,5})")
_PATIENCE_S = 20.0  # for a scheduler to answer, and for a first worker
_LOOK_S = 0.2
_ROUND_S = 1.0  # between looks at who has come and gone
_SEEN_S = 3.0  # until what was just made is seen over a shared file system
_DEATHS = 1  # of workers over one asset that it is begun anew after

_IDLE: list[WorkerPool] = []
"""In a worker: processes that wait for work, one for each of its threads."""

Paths = Callable[[Any], Sequence[Path]]
Say = Callable[[str], None]


class _Unfit(Exception):
    """A worker (its address) that can't take up work, and why."""


class _NobodyLeft(OSError):
    """The scheduler answers, and has had no worker for long."""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Terms:
    """What a worker must have: our version, our limits, and these paths in sight.

    Work is given up once `shop`, the folder it is done in, is gone.
    """

    version: str = __version__
    limits: Limits = LIMITS
    seen: tuple[Path, ...] = ()
    shop: Path | None = None


@contextmanager
def connected(scheduler: str, sight: Sequence[Path], most: int, say: Say | None) -> Iterator[Crew]:
    """Give the workers of a Dask scheduler at an address, or of one that `local:N` starts here with N workers.

    Parameters
    ----------
    scheduler : str
    sight : sequence of Path
        What workers must see.
    most : int
        How many assets are under way at once, at most.
    say : callable of a line, optional
        Told of workers that can't be used.

    Raises
    ------
    BadUsage
        If it can't be reached, or none of its workers can be used.
    """
    try:
        import dask
        import distributed
    except ImportError as error:
        raise BadUsage("--scheduler needs the extra 'cluster': pip install 'oak-square[cluster]'") from error
    for name in [n for n in logging.root.manager.loggerDict if n.split(".")[0] in {"distributed", "tornado"}]:
        logging.getLogger(name).setLevel(logging.CRITICAL + 1)  # what matters of it is said in our words
    local = _LOCAL.fullmatch(scheduler)
    if scheduler.startswith("local:") and local is None:
        raise BadUsage(f"--scheduler {scheduler}: wants local:N, with N workers")
    settings = {
        "distributed.scheduler.allowed-failures": _DEATHS,
        "distributed.scheduler.worker-saturation": 1.0,  # what waits beside an asset that kills is not blamed for it
    }
    own = begin_local_cluster(min(int(local[1]), max(most, 1)), _PATIENCE_S) if local else nullcontext(scheduler)
    with dask.config.set(settings), own as place:
        client = _make_client(distributed, place)
        try:
            crew = Crew(client, scheduler, most, say)
            crew.gather(_Terms(seen=tuple(sight)))
            yield crew
        finally:
            with ends_held_back():
                with suppress(OSError):  # the scheduler may be gone
                    if client.status == "running":
                        client.run(_let_go, on_error="ignore")
                client.close(timeout=_LOOK_S * 10)


def _make_client(distributed: Any, address: Any) -> Any:
    try:
        if isinstance(address, str):
            # The package waits its whole patience for what isn't there, and leaves half a client behind.
            place = _PLACE.fullmatch(address)
            if place is None:
                raise BadUsage(f"--scheduler {one_line(address)}: wants HOST:PORT, tcp://HOST:PORT, or local:N")
            if place["how"] in {None, "tcp://", "tls://"}:
                socket.create_connection((place["host"].strip("[]"), int(place["port"])), _PATIENCE_S).close()
        return distributed.Client(address, timeout=_PATIENCE_S, set_as_default=False)
    except (OSError, ValueError) as error:
        raise BadUsage(f"--scheduler {one_line(str(address))}: no Dask scheduler answers there") from error


class Crew:
    """The workers of a scheduler, and which of them can be used; made by `connected`."""

    def __init__(self, client: Any, address: str, most: int, say: Say | None) -> None:
        self._make_client, self._address, self._most = client, address, max(most, 1)
        self._say = say if say is not None else lambda line: None
        self._threads: dict[str, int] = {}
        self._asked: set[str] = set()
        self._unfit: dict[str, str] = {}
        self._terms = _Terms()

    def gather(self, terms: _Terms) -> None:
        """Ask every worker there is whether it can do work on these terms, and wait for a first that can.

        Raises
        ------
        BadUsage
            If none can.
        """
        self._terms, self._asked = terms, set(self._unfit)
        until = time.monotonic() + _PATIENCE_S
        while not self._count_fit_workers():
            self._look_for_workers()
            if self._count_fit_workers():
                return
            if self._threads and set(self._threads) <= set(self._unfit):
                raise BadUsage(f"--scheduler {self._address}: none of its {len(self._threads)} workers can be used")
            if time.monotonic() > until:
                raise BadUsage(f"--scheduler {self._address}: no worker came in {_PATIENCE_S:.0f} seconds")
            time.sleep(_LOOK_S)

    def do(
        self,
        work: Callable[[Any], Any],
        items: Sequence[Any],
        paths: Paths,
        shop: Path | None,
        cancelled: Callable[[], bool] | None = None,
        *,
        abandoned: Callable[[], bool] | None = None,
    ) -> Iterator[tuple[Any, Any, str]]:
        """Do as `in_processes` does, on these workers, which must see `paths(item)`; `shop` is where they write."""
        if not items:
            return
        self._threads = {}
        self.gather(replace(self._terms, seen=(*self._terms.seen, *([] if shop is None else [shop])), shop=shop))
        waiting, running = list(reversed(items)), dict[Any, tuple[Any, frozenset[str] | None]]()
        try:
            yield from self._yield_done(work, (waiting, running), paths, cancelled, abandoned)
        except OSError as error:
            left = [item for item, _ in running.values()] + waiting
            running.clear()
            lost = "no worker was left at" if isinstance(error, _NobodyLeft) else "there was no word any more from"
            yield from ((item, None, f"{lost} {self._address}: --resume does it") for item in left)
        finally:
            with suppress(OSError):
                if running:
                    self._make_client.cancel(list(running), force=True)

    def _yield_done(
        self,
        work: Callable[[Any], Any],
        due: tuple[list[Any], dict[Any, tuple[Any, frozenset[str] | None]]],
        paths: Paths,
        cancelled: Callable[[], bool] | None,
        abandoned: Callable[[], bool] | None,
    ) -> Iterator[tuple[Any, Any, str]]:
        """Yield what is done; what is `due`, waiting and under way, is always told of there."""
        waiting, running = due
        done: queue.SimpleQueue[Any] = queue.SimpleQueue()
        last_seen, next_look = time.monotonic(), 0.0
        while waiting or running:
            if cancelled is not None and cancelled():
                waiting.clear()
            if abandoned is not None and abandoned():
                return
            if time.monotonic() >= next_look:
                self._look_for_workers()
                waiting += self._take_back_stranded(running)
                next_look = time.monotonic() + _ROUND_S
            while waiting and len(running) < min(self._most, 2 * sum(self._count_fit_workers().values())):
                self._submit_item(work, waiting[-1], paths, running, done)
                waiting.pop()
            if self._count_fit_workers():
                last_seen = time.monotonic()
            elif time.monotonic() - last_seen > _PATIENCE_S:
                raise _NobodyLeft
            try:
                future = done.get(timeout=_LOOK_S)
            except queue.Empty:
                continue
            if future in running:
                item, _ = running[future]
                found = self._take_result(future, [p for p in paths(item) if not p.exists()])
                del running[future]
                if found is None:
                    waiting.append(item)
                else:
                    yield (item, *found)

    def _count_fit_workers(self) -> dict[str, int]:
        """Return how many threads each worker has that can be used."""
        return {w: n for w, n in self._threads.items() if w not in self._unfit}

    def _look_for_workers(self) -> None:
        """See who is there; ask those who have come whether they can take up work."""
        there: dict[str, int] = dict(self._make_client.nthreads())
        fresh = [w for w in there if w not in self._asked]
        self._threads = {w: n for w, n in there.items() if w in self._asked}
        if not fresh:
            return
        answers = self._make_client.run(_why_unfit, self._terms, workers=fresh, on_error="return")
        for worker, why in answers.items():
            self._asked.add(worker)
            if isinstance(why, BaseException):
                why = f"can't run Oak Square: {type(why).__name__}: {why}"
            if why:
                self._leave_out(worker, why)
        self._threads = {w: n for w, n in there.items() if w in self._asked}

    def _leave_out(self, worker: str, why: str) -> None:
        if worker not in self._unfit:
            self._unfit[worker] = why
            self._say(one_line(f"worker {worker}: {why}; it is left out"))

    def _submit_item(
        self, work: Any, item: Any, paths: Paths, running: dict[Any, tuple[Any, frozenset[str] | None]], done: Any
    ) -> None:
        # Only where some can't be used: of others the scheduler knows best, and it hands on what they had.
        workers = frozenset(self._count_fit_workers()) if self._unfit else None
        terms = replace(self._terms, seen=(*self._terms.seen, *(p for p in paths(item) if p.exists())))
        whole = pickle.dumps((work, item))  # as it is to the scheduler, which need not know what is in it
        future = self._make_client.submit(_work_apart, whole, terms, workers=workers and sorted(workers), pure=False)
        running[future] = item, workers
        future.add_done_callback(done.put)

    def _take_back_stranded(self, running: dict[Any, tuple[Any, frozenset[str] | None]]) -> list[Any]:
        """Take back what none of the workers that are left may do."""
        lost = [f for f, (_, workers) in running.items() if workers is not None and workers.isdisjoint(self._threads)]
        items = [running.pop(future)[0] for future in lost]
        if lost:
            self._make_client.cancel(lost, force=True)
        return items

    def _take_result(self, future: Any, gone: Sequence[Path]) -> tuple[Any, str] | None:
        """Return what came of an item, and why not; None where it is to be begun anew, by another worker."""
        from distributed import CancelledError, KilledWorker

        try:
            found: tuple[Any, str] = future.result()
        except KilledWorker:
            return None, CRASHED
        except CancelledError:
            return None
        except _Unfit as error:
            worker, why = error.args
            if not gone:  # else it is nowhere, which is not the worker's fault
                self._leave_out(worker, why)
            return None
        except ImportError as error:
            raise BadUsage(f"--scheduler {self._address}: Oak Square is not installed there: {error}") from error
        return found


def _why_unfit(terms: _Terms) -> str:
    """Return why this process can't do work on these terms; empty where it can."""
    if terms.version != __version__:
        return f"it has Oak Square {__version__}, this is {terms.version}"
    if terms.limits != LIMITS:
        return "it reads under other limits (OAK_SQUARE_LIMITS)"
    until = time.monotonic() + _SEEN_S
    for path in terms.seen:
        while not path.exists():
            if time.monotonic() > until:
                return f"it can't see {path}: share that folder under the same path"
            time.sleep(_LOOK_S)
    return ""


def _work_apart(whole: bytes, terms: _Terms) -> tuple[Any, str]:
    """Do an item's work in a process of this worker; return what came of it and "", or None and why not."""
    from distributed import get_worker

    why = _why_unfit(terms)
    if why:
        raise _Unfit(get_worker().address, why)
    work, item = pickle.loads(whole)
    pool = _IDLE.pop() if _IDLE else WorkerPool(1)
    try:
        given_up = None, say("given up")
        found = pool.run(work, [item], abandoned=lambda: terms.shop is not None and not terms.shop.exists())
        return next(((result, why) for _, result, why in found), given_up)
    finally:
        _IDLE.append(pool)


def _let_go() -> None:
    """End the processes that wait for work in this worker."""
    while _IDLE:
        _IDLE.pop().end()
