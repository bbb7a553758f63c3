"""Which files a batch is: the models under the paths given."""

from __future__ import annotations

import os
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path, PurePosixPath

from oak_square.core.errors import BadUsage, one_line
from oak_square.formats import FORMATS, Format, format_of

__all__ = ["Source", "check_outputs", "find_sources", "output_name", "output_of"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """One model file of the batch.

    Attributes
    ----------
    path : Path
        Where it is.
    file : str
        Its name in the batch: relative to the folder it was found in, with `/`; a file given by itself, its name.
    folder : Path
        That folder, or the one the file lies in.
    searched : bool
        Found by searching `folder`, not given by itself.
    """

    path: Path
    file: str
    folder: Path
    searched: bool


def find_sources(paths: Sequence[Path]) -> list[Source]:
    """Return the models at `paths`: files as given, folders searched recursively; links out are not followed.

    Raises
    ------
    BadUsage
        If a path is not there.
    """
    found: list[Source] = []
    seen: set[str] = set()
    for path in paths:
        if path.is_dir():
            candidates = _search(path)
        elif path.exists():
            candidates = iter([Source(path=path, file=path.name, folder=path.parent, searched=False)])
        else:
            raise BadUsage(f"{one_line(str(path))}: is not there")
        for source in candidates:
            real = os.path.realpath(source.path)
            if real not in seen:
                seen.add(real)
                found.append(source)
    return found


def _search(folder: Path) -> Iterator[Source]:
    home = Path(os.path.realpath(folder))
    for place, folders, files in os.walk(folder):
        folders.sort()
        for name in sorted(files):
            path = Path(place) / name
            if format_of(path) is None or not Path(os.path.realpath(path)).is_relative_to(home):
                continue
            yield Source(path=path, file=path.relative_to(folder).as_posix(), folder=folder, searched=True)


def output_name(file: str, target: Format) -> str:
    """Return what a source is delivered as: its own path, the suffix following the format."""
    path = PurePosixPath(file)
    return file if path.suffix.lower() in target.suffixes else path.with_suffix(target.suffixes[0]).as_posix()


def output_of(source: Source, wanted: str) -> str:
    """Return what a source is delivered as where the format `wanted` is asked for."""
    kind = format_of(source.path) if wanted == "same" else FORMATS[wanted]
    return source.file if kind is None else output_name(source.file, kind)


def check_outputs(sources: Sequence[Source], out: Path, *, wanted: str = "same", may_exist: bool) -> None:
    """Make sure that a delivery into `out` would touch no source and overwrite nothing unasked.

    Raises
    ------
    BadUsage
        If `out` is, holds or lies in a searched folder, or is the folder of a file given by itself; if two sources
        would land on one name; or if an output exists and `may_exist` is false.
    """
    home = Path(os.path.realpath(out))
    for source in sources:
        folder = Path(os.path.realpath(source.folder))
        nested = home.is_relative_to(folder) or folder.is_relative_to(home)
        if home == folder or (source.searched and nested):
            raise BadUsage(f"{one_line(str(out))}: the delivery must lie apart from the input folder '{source.folder}'")
    if out.exists() and not out.is_dir():
        raise BadUsage(f"{one_line(str(out))}: is no folder")
    taken: dict[str, Source] = {}
    for source in sources:
        name = output_of(source, wanted)
        other = taken.setdefault(name.casefold(), source)
        if other is not source:
            raise BadUsage(one_line(f"'{other.path}' and '{source.path}' would both be delivered as '{name}'"))
    if not may_exist:
        for name in ["delivery.json", *(output_of(s, wanted) for s in sources)]:
            if (out / name).exists():
                raise BadUsage(f"{one_line(str(out / name))}: exists; give --replace or --resume, or another folder")
