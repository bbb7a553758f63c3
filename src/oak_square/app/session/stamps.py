"""What files looked like when they were read, and what is new about them: asked of the disk, so not by the window."""

from __future__ import annotations

import os
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from oak_square.core.errors import OakSquareError
from oak_square.delivery.batch import Source, find_sources, told_apart

__all__ = ["FoundSource", "News", "Stamp", "Watched", "news_of", "stamp_of"]

Stamp = tuple[int, int] | None
"""When a file was last written, nanoseconds, and its size in bytes; None where it is not there."""


def stamp_of(path: Path) -> Stamp:
    """Return what a file looks like now."""
    try:
        there = path.stat()
    except OSError:
        return None
    return there.st_mtime_ns, there.st_size


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FoundSource:
    """A source that was looked for: its stamp, and where it lies once links are followed."""

    source: Source
    stamp: Stamp
    home: str

    @staticmethod
    def of(source: Source) -> FoundSource:
        """Return a source as it is now."""
        return FoundSource(source=source, stamp=stamp_of(source.path), home=os.path.realpath(source.path))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Watched:
    """Sources by file, each with its stamp and those of what else it is read from; and the paths they were found at."""

    sources: Mapping[str, tuple[Source, Stamp]]
    also: Mapping[str, Mapping[Path, Stamp]]
    paths: tuple[Path, ...]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class News:
    """What is to be read anew or for the first time, each with its stamp, and the files that have gone."""

    changed: tuple[tuple[Source, Stamp], ...]
    gone: tuple[str, ...]


def news_of(watched: Watched) -> News:
    """Look at every file once, and return what is new."""
    changed, gone = list[tuple[Source, Stamp]](), list[str]()
    for file, (source, old) in watched.sources.items():
        now = stamp_of(source.path)
        if now is None:
            gone += [file] if old is not None else []
        elif now != old or any(stamp_of(p) != stamp for p, stamp in watched.also.get(file, {}).items()):
            changed.append((source, now))
    known = {os.path.realpath(source.path) for source, _ in watched.sources.values()}
    try:
        found = find_sources([p for p in watched.paths if p.is_dir()])
    except OakSquareError:
        found = []  # a folder that has gone has taken its files along: they are told of
    fresh = told_apart([s for s in found if os.path.realpath(s.path) not in known], watched.sources)
    return News(changed=(*changed, *((s, stamp_of(s.path)) for s in fresh)), gone=tuple(gone))
