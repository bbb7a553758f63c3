"""Keeps an eye on the files of the batch: what changes, goes or comes is told, and read anew."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, QTimer, Signal

from oak_square.app.session.stamps import News, Stamp, Watched, news_of
from oak_square.delivery.batch import Source

__all__ = ["SourceWatch"]

_QUIET_MS = 400  # a file that is being written is left alone until it rests
_MOST_WATCHED = 4000
_AT_ONCE = 200  # how many are taken under watch in one turn of the window


class SourceWatch(QObject):
    """Watches sources and the folders they were found in. The disk is asked on a thread of its own."""

    news = Signal(object, object)  # list of Source to read, list of files that are gone
    looked = Signal(int)  # how many files were changed, come or gone
    _seen = Signal(object, object)  # what was looked at, what is new

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._stamps: dict[str, tuple[Source, Stamp]] = {}
        self._also: dict[str, Mapping[Path, Stamp]] = {}
        self._paths: list[Path] = []
        self._watcher: QFileSystemWatcher | None = None
        self._quiet = QTimer(self, singleShot=True, interval=_QUIET_MS)
        self._quiet.timeout.connect(self.look)
        self._later = QTimer(self, singleShot=True, interval=0)
        self._later.timeout.connect(self._watch_folders)
        self._waiting: dict[str, None] = {}
        self._aside = ThreadPoolExecutor(1, thread_name_prefix="oak-watch")
        self._let_go: set[str] = set()  # known still, so that a look at their folder does not find them anew
        self._looking = self._again = self._closed = False
        self._seen.connect(self._take_news)

    def add(self, paths: Iterable[Path], sources: Iterable[tuple[Source, Stamp]]) -> None:
        """Watch sources, found at `paths`, each as it was before it is read."""
        self._paths += paths
        for source, stamp in sources:
            self._stamps[source.file] = source, stamp
            self._let_go.discard(source.file)
            self._waiting |= dict.fromkeys((str(source.path), str(source.path.parent)))
        self._later.start()

    def watch_also(self, source: Source, parts: Mapping[Path, Stamp]) -> None:
        """Watch what a source is read from beside its own file: buffers, material files, textures, layers."""
        self._also[source.file] = parts
        self._waiting |= dict.fromkeys(map(str, parts))
        if self._waiting:
            self._later.start()

    def forget(self, files: Iterable[str]) -> None:
        """Watch these no more."""
        for file in files:
            self._stamps.pop(file, None)

    def let_go(self, files: Iterable[str]) -> None:
        """Tell no news of these any more; they are not found anew by a look."""
        self._let_go |= set(files)

    def forget_all(self) -> None:
        """Watch nothing; what is being looked at is told of no more."""
        for known in (self._stamps, self._also, self._paths, self._waiting, self._let_go):
            known.clear()
        if self._watcher is not None:
            self._watcher.deleteLater()
            self._watcher = None

    def _watch_folders(self) -> None:
        if self._watcher is None:
            self._watcher = QFileSystemWatcher(self)
            self._watcher.fileChanged.connect(lambda _: self._quiet.start())
            self._watcher.directoryChanged.connect(lambda _: self._quiet.start())
        known = {*self._watcher.files(), *self._watcher.directories()}
        due = [p for p in self._waiting if p not in known]
        now = due[: max(0, min(_AT_ONCE, _MOST_WATCHED - len(known)))]
        self._waiting = dict.fromkeys(due[len(now) :]) if now else {}
        if now:
            self._watcher.addPaths(now)
            self._later.start()

    def look(self) -> None:
        """Look at every file once; `news` tells what is new, if anything is, and `looked` how much that is."""
        if self._looking:
            self._again = True
            return
        self._looking = True
        watched = Watched(sources=dict(self._stamps), also=dict(self._also), paths=tuple(self._paths))
        self._aside.submit(news_of, watched).add_done_callback(lambda done: self._tell_news(watched, done))

    def _tell_news(self, watched: Watched, done: Future[News]) -> None:
        if done.cancelled() or self._closed:
            return
        # Whatever went wrong with the disk: the next look is not kept from looking.
        nothing = News(changed=(), gone=())
        self._seen.emit(watched, nothing if done.exception() is not None else done.result())

    def _take_news(self, watched: Watched, news: News) -> None:
        self._looking = False
        # What was read anew or forgotten meanwhile is as it was found then.
        is_same = {f for f, known in watched.sources.items() if self._stamps.get(f) == known}
        is_same -= self._let_go
        gone = [f for f in news.gone if f in is_same]
        # Of folders that were closed meanwhile, nothing is new.
        fresh = () if watched.paths != tuple(self._paths) else news.changed
        changed = [c for c in news.changed if c[0].file in is_same]
        changed += [c for c in fresh if c[0].file not in self._stamps]
        for file in gone:
            self._stamps[file] = (self._stamps[file][0], None)
        self.add([], changed)
        for source, _ in changed:
            self._also.pop(source.file, None)
        if changed or gone:
            self.news.emit([source for source, _ in changed], gone)
        self.looked.emit(len(changed) + len(gone))
        if self._again:
            self._again = False
            self.look()

    def close(self) -> None:
        """Watch nothing any more."""
        self._closed = True
        self._quiet.stop()
        self._later.stop()
        self._aside.shutdown(wait=False, cancel_futures=True)
        if self._watcher is not None:
            self._watcher.deleteLater()
            self._watcher = None
