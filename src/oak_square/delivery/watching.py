"""Folders that are watched: which of their models have stopped changing, and when that calls for another run."""

from __future__ import annotations

import contextlib
import os
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

from watchdog.events import FileSystemEvent, FileSystemEventHandler
from watchdog.observers import Observer

from oak_square.core.errors import BadUsage, one_line
from oak_square.delivery.batch import READ_ALONG, WORKSHOP, Source, check_apart, find_sources
from oak_square.delivery.files import mark_of

__all__ = ["Watcher", "watching"]

QUIET_S = 2.0
"""For how long a file must look the same before it is taken for whole."""
_LOOKS_A_QUIET = 4
_POLL_S = 10.0  # where events may not tell of everything, as of what another machine writes to a shared folder
_POLL_ALONE_S = 1.0
_TOUCHES = frozenset({"created", "modified", "moved", "deleted", "closed"})

Mark = tuple[int, ...]
Beside = frozenset[tuple[Path, Mark]]
State = tuple[Mark, Beside]


class _Waker(FileSystemEventHandler):
    def __init__(self, woken: threading.Event) -> None:
        self._woken = woken

    def on_any_event(self, event: FileSystemEvent) -> None:
        if event.event_type in _TOUCHES:
            self._woken.set()


class Watcher:
    """Looks at folders again and again, and tells when a run is due.

    Parameters
    ----------
    folders : sequence of Path
    say : callable of a line
        Told when a folder can't be found any more, and when it is there again.
    woken : threading.Event, optional
        Set from outside when something may have happened.
    quiet, poll : float
        Seconds for which a file must look the same to be taken for whole, and between looks when nothing happens.
    """

    def __init__(
        self,
        folders: Sequence[Path],
        say: Callable[[str], None],
        *,
        woken: threading.Event | None = None,
        quiet: float = QUIET_S,
        poll: float = _POLL_ALONE_S,
    ) -> None:
        self._folders, self._say, self._quiet, self._poll = tuple(folders), say, quiet, poll
        self._woken = woken or threading.Event()
        self._since: dict[Path, tuple[Mark, float]] = {}
        self._done: dict[Path, State] | None = None
        self._lost: set[Path] = set()

    def wait(self, *, for_all: bool = False, check: Callable[[], object] = lambda: None) -> tuple[Source, ...]:
        """Return the models that have stopped changing, once one has come, changed or gone since the last time.

        The first time, that is once those that are there already have been looked at for long enough. `for_all` waits
        until nothing changes any more. `check` is called at each look; what it raises ends the wait.
        """
        while True:
            check()
            self._woken.clear()
            looked = self._look_for_models()
            still, growing = looked if looked is not None else ({}, set())
            if looked is not None and self._is_due(still, growing) and not (for_all and growing):
                before = self._done or {}
                self._done = {p: state for p, (_, state) in still.items()}
                self._done |= {p: before[p] for p in growing if p in before}
                return tuple(source for source, _ in still.values())
            if growing:
                time.sleep(self._quiet / _LOOKS_A_QUIET)
            else:
                self._woken.wait(self._poll)

    def _is_due(self, still: dict[Path, tuple[Source, State]], growing: set[Path]) -> bool:
        if self._done is None:
            return bool(still) or not growing
        changed = any(self._done.get(path) != state for path, (_, state) in still.items())
        return changed or any(path not in still and path not in growing for path in self._done)

    def _look_for_models(self) -> tuple[dict[Path, tuple[Source, State]], set[Path]] | None:
        """Return the models that are whole, each with all that tells of a change, and those that are still changing.

        None where a folder is not there: a share that is away for a moment has lost nothing.
        """
        lost = {folder for folder in self._folders if not folder.is_dir()}
        for folder in lost ^ self._lost:
            self._say(f"{folder}: {'is not there any more: waiting' if folder in lost else 'is there again'}")
        self._lost = lost
        if lost:
            return None
        now, seen = time.monotonic(), dict[Path, tuple[Mark, float]]()
        along = self._mark_companions(now, seen)
        still: dict[Path, tuple[Source, State]] = {}
        growing: set[Path] = set()
        for source in find_sources(self._folders):
            mark, quiet = self._mark_file(source.path, now, seen)
            beside, all_quiet = along.get(source.path.parent, (frozenset(), True))
            if quiet and all_quiet:
                still[source.path] = (source, (mark, beside))
            else:
                growing.add(source.path)
        self._since = seen
        return still, growing

    def _mark_file(self, path: Path, now: float, seen: dict[Path, tuple[Mark, float]]) -> tuple[Mark, bool]:
        """Return what a file looks like from outside, and whether it has looked so for long enough."""
        mark: Mark = ()
        with contextlib.suppress(OSError):
            mark = mark_of(path.stat())
        before, since = self._since.get(path, (None, now))
        seen[path] = (mark, since if mark == before else now)
        return mark, now - seen[path][1] >= self._quiet

    def _mark_companions(self, now: float, seen: dict[Path, tuple[Mark, float]]) -> dict[Path, tuple[Beside, bool]]:
        """Return what models in each folder may be read from beside themselves, and whether all of it is whole."""
        found: dict[Path, tuple[set[tuple[Path, Mark]], bool]] = {}
        for home, path in _read_along(self._folders):
            mark, quiet = self._mark_file(path, now, seen)
            for folder in path.parents:
                files, whole = found.get(folder, (set(), True))
                files.add((path, mark))
                found[folder] = (files, whole and quiet)
                if folder == home:
                    break
        return {folder: (frozenset(files), whole) for folder, (files, whole) in found.items()}


def _read_along(folders: Sequence[Path]) -> Iterator[tuple[Path, Path]]:
    for home in folders:
        for place, inner, files in os.walk(home):
            inner[:] = [name for name in inner if name != WORKSHOP]
            yield from ((home, Path(place) / name) for name in files if Path(name).suffix.lower() in READ_ALONG)


@contextlib.contextmanager
def watching(folders: Sequence[Path], out: Path, say: Callable[[str], None]) -> Iterator[Watcher]:
    """Watch folders for a delivery into `out`: by the system's events where it has them, else by looking often.

    Raises
    ------
    BadUsage
        If one is no folder, or is, holds or lies in `out`.
    """
    for folder in folders:
        if not folder.is_dir():
            raise BadUsage(f"{one_line(str(folder))}: is no folder to watch")
        check_apart(folder, out)
    woken = threading.Event()
    try:
        observer = Observer()
        for folder in folders:
            observer.schedule(_Waker(woken), str(folder), recursive=True)
        observer.start()
    except OSError:  # as many watches, or watchers, are in use as the system allows
        yield Watcher(folders, say)
        return
    try:
        yield Watcher(folders, say, woken=woken, poll=_POLL_S)
    finally:
        observer.stop()
        observer.join()
