"""The assets that the steps of a sheet name or move together, read from their sources."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from oak_square.core.errors import BadFile
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.delivery.batch import Source
from oak_square.delivery.surveying import receive

__all__ = ["NamedSources"]


class NamedSources:
    """The assets that steps name, read from their sources; `marks` are the times and sizes of those that were."""

    def __init__(self, sources: Mapping[str, Source]) -> None:
        self._sources = sources
        self._by_file = {source.file: source for source in sources.values()}
        self.marks: dict[Path, tuple[int, int]] = {}

    def file_of(self, name: str) -> str | None:
        """Return the path in the batch of the asset called `name`; None where none is called so."""
        return self._sources[name].file if name in self._sources else None

    def files(self) -> Sequence[str]:
        """Return the paths of all of them."""
        return tuple(self._by_file)

    def received(self, file: str) -> Asset:
        """Return an asset as received.

        Raises
        ------
        BadFile
            If it can't be read.
        """
        source = self._by_file[file]
        if source.trouble:
            raise BadFile(file, source.trouble)
        try:
            self.marks[source.path] = _time_and_size(source.path)
        except OSError as error:
            raise BadFile(file, say("can't be read: {strerror}", strerror=error.strerror)) from error
        return receive(source).asset

    def is_still_so(self) -> bool:
        """Tell whether the files that were read look from outside as they did then."""
        try:
            return all(_time_and_size(path) == mark for path, mark in self.marks.items())
        except OSError:
            return False


def _time_and_size(path: Path) -> tuple[int, int]:
    there = path.stat()
    return there.st_mtime_ns, there.st_size
