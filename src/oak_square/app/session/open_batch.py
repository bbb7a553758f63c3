"""What is open: the files of the batch as they are read and change."""

from __future__ import annotations

import os
from collections.abc import Iterable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from oak_square.app.session.document import BatchRow
from oak_square.app.session.messages import Messages
from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.reading import ReadResult
from oak_square.app.session.source_watch import SourceWatch
from oak_square.app.session.stamps import FoundSource
from oak_square.app.session.worker import Worker
from oak_square.core.errors import BadUsage, one_line
from oak_square.core.scene import Asset
from oak_square.core.words import one_or_many, say
from oak_square.delivery.batch import Source, told_apart

__all__ = ["OpenBatch"]

_GATHER_MS = 30  # news of many files is passed on together


class OpenBatch(QObject):
    """The files, what was read of them, and what the steps make of them as far as that is known."""

    batch_changed = Signal()  # rows were added or read
    opened = Signal(list)  # paths
    freshly_read = Signal()

    def __init__(self, messages: Messages, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.said, self.failed = messages.said, messages.failed
        self.rows: dict[str, BatchRow] = {}
        self.paths: list[Path] = []
        self.taken_out: set[str] = set()  # files that were taken out of the batch, until something is opened again
        self.outcomes: dict[str, Outcome] = {}
        self._searched: list[tuple[Path, ...]] = []  # where models are being looked for
        self._unread: set[str] = set()
        self.owed: set[str] = set()  # what the present document makes of these is not worked out yet
        self._fresh: list[Asset] = []
        self._homes: dict[str, str] = {}  # of each file, where it lies once links are followed
        self._gathering = QTimer(self, singleShot=True, interval=_GATHER_MS)
        self._gathering.timeout.connect(self.freshly_read)
        self.watch = SourceWatch(self)
        self.watch.news.connect(self._take_news)
        self.watch.looked.connect(self._take_looked)
        self._asked = False  # whether someone waits to hear that nothing is new
        self.worker = Worker(self)
        self.worker.read.connect(self._take_read)
        self.worker.found.connect(self._take_found)
        self.worker.said.connect(self.said)
        self.worker.broke.connect(self.failed)

    def take_fresh(self) -> list[Asset]:
        """Return what was read since this was last asked."""
        fresh, self._fresh = self._fresh, []
        return fresh

    @property
    def assets(self) -> dict[str, Asset]:
        """The assets that are read, by file."""
        return {f: r.asset for f, r in self.rows.items() if r.asset is not None}

    @property
    def to_read(self) -> int:
        """How many files are still being read; at least one while they are being looked for."""
        return len(self._unread) or len(self._searched)

    @property
    def is_read(self) -> bool:
        """Whether nothing more is read, and all that was read has been taken."""
        return not (self.to_read or self._fresh or self._gathering.isActive())

    # Opening and reading

    def open_paths(self, paths: list[Path]) -> None:
        """Add the models at `paths` to the batch and start reading them, once they are found.

        Raises
        ------
        BadUsage
            If a path is not there.
        """
        for path in paths:
            if not os.path.lexists(path):
                raise BadUsage(say("{path}: is not there", path=one_line(str(path))))
        self._searched.append(tuple(paths))
        self.taken_out.clear()
        self.paths += paths
        self.worker.find_sources(paths)
        self.opened.emit(paths)

    def _take_found(self, paths: list[Path], found: list[FoundSource], why: str | None) -> None:
        if tuple(paths) not in self._searched:
            return  # the batch was closed, or reading stopped, meanwhile
        self._searched.remove(tuple(paths))
        known = {self._homes.get(file) for file in self.rows}
        new = [f for f in found if f.home not in known and f.source.file not in self.taken_out]
        fresh = told_apart([f.source for f in new], self.rows)
        for source, met in zip(fresh, new, strict=True):
            self.rows[source.file] = BatchRow(source=source)
            self._homes[source.file] = met.home
            self._unread.add(source.file)
        self.watch.add(paths, zip(fresh, (f.stamp for f in new), strict=True))
        self.worker.read_sources(fresh)
        self.batch_changed.emit()
        if why is not None or (paths and not fresh):
            (self.said.emit if why is None else self.failed.emit)(
                why or say("No models there that are not open already")
            )

    def recheck(self) -> None:
        """Look whether files have changed, gone or come since they were read; the sheet stays."""
        self._asked = True
        self.watch.look()

    def _take_looked(self, count: int) -> None:
        if self._asked and not count:
            self.said.emit(say("Every file is as it was read"))
        self._asked = False

    def _take_news(self, changed: list[Source], gone: list[str]) -> None:
        for source in changed:
            # What was read last stays to be seen until the new is there.
            if source.file not in self.rows:
                self.rows[source.file] = BatchRow(source=source)
                self._homes[source.file] = os.path.realpath(source.path)
            self._unread.add(source.file)
        for file in gone:
            self.rows[file] = BatchRow(source=self.rows[file].source, error=say("is not there any more"))
            self._unread.discard(file)
            self.outcomes.pop(file, None)
            self.owed.discard(file)
        words = [say("{count} changed or new, read again", count=len(changed))] if changed else []
        words += [say("{count} gone", count=len(gone))] if gone else []
        self.said.emit(say("Files: {words}", words=", ".join(words)))
        self.batch_changed.emit()
        if changed:
            self.worker.read_sources(changed)

    def _take_read(self, source: Source, result: ReadResult) -> None:
        asset, error, findings, digest, also, _ = result
        row = self.rows.get(source.file)
        if row is None or row.source.path != source.path:
            return  # reading was stopped, or it was taken out
        self._unread.discard(source.file)
        self.watch.watch_also(source, also)
        if row.asset is not None:
            self.worker.forget([source.file])
        self.rows[source.file] = BatchRow(source=source, asset=asset, error=error, findings=findings, digest=digest)
        if asset is not None:
            self._fresh.append(asset)
        if not self._gathering.isActive():
            self._gathering.start()

    def take_out(self, files: Iterable[str]) -> None:
        """Take files out of the batch; on the disk they stay, and opened again they are back."""
        out = [f for f in files if f in self.rows]
        self.taken_out.update(out)
        for file in out:
            del self.rows[file]
            self._homes.pop(file, None)
            self.outcomes.pop(file, None)
            self._unread.discard(file)
            self.owed.discard(file)
        self._fresh = [a for a in self._fresh if a.file in self.rows]
        self.watch.let_go(out)
        self.worker.forget(out)
        self.batch_changed.emit()
        what = out[0] if len(out) == 1 else say("{count} files", count=len(out))
        self.said.emit(say("Taken out of the batch: {what}; open it again to have it back", what=what))

    def close(self) -> None:
        """Close all files; nothing is open from then on."""
        self.worker.stop_reading()
        self.watch.forget_all()
        self.worker.forget(list(self.rows), drop_plan=True)
        for known in (self.rows, self.paths, self.outcomes, self._unread, self.owed, self._fresh, self._homes):
            known.clear()
        self._searched.clear()
        self.taken_out.clear()
        self.batch_changed.emit()

    def stop_reading(self) -> None:
        """Read no more files, and look for no more; those that are not read leave the batch."""
        self.worker.stop_reading()
        given = {path for paths in self._searched for path in paths}
        self.paths = [path for path in self.paths if path not in given]
        self._searched.clear()
        unread = [f for f in self._unread if self.rows[f].asset is None]
        for file in unread:
            del self.rows[file]
        # Looked at again, what was not read is new.
        self.watch.forget(unread)
        self._unread.clear()
        self.batch_changed.emit()
        self.said.emit(
            one_or_many(
                len(unread),
                "Stopped reading; {count} file was not read",
                "Stopped reading; {count} files were not read",
            )
        )
