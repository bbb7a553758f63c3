"""Keeps an eye on the files of the batch: what changes, goes or comes is told, and read anew."""

from __future__ import annotations

import os
from collections.abc import Iterable
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, QTimer, Signal

from oak_square.delivery import Source, find_sources, told_apart

__all__ = ["SourceWatch"]

_QUIET_MS = 400  # a file that is being written is left alone until it rests
_MOST_WATCHED = 4000

Stamp = tuple[int, int] | None


class SourceWatch(QObject):
    """Watches sources and the folders they were found in. `news` carries what to read anew and what has gone."""

    news = Signal(object, object)  # list of Source to read, list of files that are gone

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._stamps: dict[str, tuple[Source, Stamp]] = {}
        self._also: dict[str, dict[Path, Stamp]] = {}
        self._paths: list[Path] = []
        self._watcher: QFileSystemWatcher | None = None
        self._quiet = QTimer(self, singleShot=True, interval=_QUIET_MS)
        self._quiet.timeout.connect(self.look)
        self._later = QTimer(self, singleShot=True, interval=0)
        self._later.timeout.connect(self._watch)
        self._waiting: list[str] = []

    def add(self, paths: Iterable[Path], sources: Iterable[Source]) -> None:
        """Watch `sources`, found at `paths`; their state now is what is about to be read."""
        self._paths += paths
        for source in sources:
            self._stamps[source.file] = (source, _stamp(source.path))
            self._waiting.append(str(source.path))
            self._waiting.append(str(source.path.parent))
        self._later.start()

    def watch_also(self, source: Source, paths: Iterable[Path]) -> None:
        """Watch what a source is read from beside its own file: buffers, material files, textures, layers."""
        self._also[source.file] = {path: _stamp(path) for path in paths}
        self._waiting += map(str, self._also[source.file])
        if self._waiting:
            self._later.start()

    def forget(self, files: Iterable[str]) -> None:
        """Watch these no more."""
        for file in files:
            self._stamps.pop(file, None)

    def _watch(self) -> None:
        fresh = list(dict.fromkeys(self._waiting))
        self._waiting = []
        if self._watcher is None:
            self._watcher = QFileSystemWatcher(self)
            self._watcher.fileChanged.connect(lambda _: self._quiet.start())
            self._watcher.directoryChanged.connect(lambda _: self._quiet.start())
        room = _MOST_WATCHED - len(self._watcher.files()) - len(self._watcher.directories())
        known = {*self._watcher.files(), *self._watcher.directories()}
        due = [p for p in fresh if p not in known and Path(p).exists()][: max(0, room)]
        if due:
            self._watcher.addPaths(due)

    def look(self) -> int:
        """Look at every file once, and tell what is new; return how many files are."""
        gone = [f for f, (source, stamp) in self._stamps.items() if stamp is not None and _stamp(source.path) is None]
        changed = [
            source
            for file, (source, stamp) in self._stamps.items()
            if file not in gone and (_stamp(source.path) not in (stamp, None) or self._has_other_parts(file))
        ]
        changed += self._fresh()
        for file in gone:
            self._stamps[file] = (self._stamps[file][0], None)
        self.add([], changed)
        for source in changed:
            self._also.pop(source.file, None)
        if changed or gone:
            self.news.emit(changed, gone)
        return len(changed) + len(gone)

    def _has_other_parts(self, file: str) -> bool:
        """Tell whether something that a source is read from has changed; what has gone or come counts as changed."""
        return any(_stamp(path) != stamp for path, stamp in self._also.get(file, {}).items())

    def _fresh(self) -> list[Source]:
        folders = [p for p in self._paths if p.is_dir()]
        known = {os.path.realpath(source.path) for source, _ in self._stamps.values()}
        found = [s for s in find_sources(folders) if os.path.realpath(s.path) not in known]
        return told_apart(found, self._stamps)

    def close(self) -> None:
        """Watch nothing any more."""
        self._quiet.stop()
        self._later.stop()
        if self._watcher is not None:
            self._watcher.deleteLater()
            self._watcher = None


def _stamp(path: Path) -> Stamp:
    try:
        there = path.stat()
    except OSError:
        return None
    return there.st_mtime_ns, there.st_size
