"""Which files a batch is: the models under the paths given."""

from __future__ import annotations

import os
import stat
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path, PurePosixPath

from oak_square.core.errors import BadUsage, Occupied, one_line
from oak_square.core.words import say
from oak_square.formats.register import FORMATS, Entry, entry_of

__all__ = [
    "BOOK",
    "READ_ALONG",
    "WORKSHOP",
    "Source",
    "check_apart",
    "check_outputs",
    "conflicts",
    "find_book",
    "find_sources",
    "output_name",
    "output_of",
    "passed_over",
    "told_apart",
]

WORKSHOP = ".oak-square"
"""A folder in a delivery that holds what is under way, and the journal; no search for models looks into it."""
BOOK = "size_book.csv"
"""A size book of this name in an opened folder is taken along."""

# What lies beside models, and is none: given by name, as a shell's `*` does, it is passed over.
_READ_ALONG = ".mtl .bin .png .jpg .jpeg .jpe .gif .bmp .tga .tif .tiff .webp .ktx .ktx2 .dds .hdr .exr .psd .svg"
_APART = ".csv .tsv .yaml .yml .json .txt .md .rst .pdf .html .htm .log .xml .ini .toml .py .sh .sha256 .md5 .ico .bak"
READ_ALONG = frozenset(_READ_ALONG.split())
"""Suffixes of what models are read from beside their own file."""
_BESIDE = READ_ALONG | frozenset(_APART.split()) | {".tmp", ".part"}


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
    trouble : str
        Why it can't be looked into, such as a folder that can't be entered; empty where it can.
    """

    path: Path
    file: str
    folder: Path
    searched: bool
    trouble: str = ""


def find_sources(paths: Sequence[Path], stopped: Callable[[], bool] | None = None) -> list[Source]:
    """Return the models at `paths`: files as given, folders searched recursively; links out are not followed.

    What can't be looked into is there with its reason. Files given by name that are plainly no models are left out:
    `passed_over` counts them. Once `stopped` says so, what was found by then is all.

    Raises
    ------
    BadUsage
        If a path is not there.
    """
    found: list[Source] = []
    seen: set[str] = set()
    for path in paths:
        if path.is_dir():
            candidates = _search_folder(path, stopped)
        elif os.path.lexists(path):
            given = Source(path=path, file=path.name, folder=path.parent, searched=False, trouble=_find_trouble(path))
            candidates = iter([] if _is_beside(path) else [given])
        else:
            raise BadUsage(say("{path}: is not there", path=one_line(str(path))))
        for source in candidates:
            if stopped is not None and stopped():
                return found
            real = os.path.realpath(source.path)
            if real not in seen:
                seen.add(real)
                found.append(source)
    return found


def passed_over(paths: Sequence[Path]) -> int:
    """Return how many of `paths` are files that are plainly no models."""
    return sum(not p.is_dir() and _is_beside(p) for p in paths)


def _is_beside(path: Path) -> bool:
    return entry_of(path) is None and (not path.suffix or path.suffix.lower() in _BESIDE)


def _find_trouble(path: Path) -> str:
    """Return why a file can't be read without being opened: a pipe would keep its reader waiting for ever."""
    try:
        mode = path.stat().st_mode
    except OSError as error:
        return say("can't be read: {strerror}", strerror=error.strerror)
    kinds = ((stat.S_ISFIFO, "pipe"), (stat.S_ISSOCK, "socket"), (stat.S_ISCHR, "device"), (stat.S_ISBLK, "device"))
    kind = next((word for is_kind, word in kinds if is_kind(mode)), None)
    return say("is a {kind}, no file", kind=kind) if kind is not None else ""


def _search_folder(folder: Path, stopped: Callable[[], bool] | None) -> Iterator[Source]:
    home = Path(os.path.realpath(folder))
    barred: list[OSError] = []
    for place, folders, files in os.walk(folder, onerror=barred.append):
        if stopped is not None and stopped():
            return
        folders[:] = sorted(name for name in folders if name != WORKSHOP)
        for name in sorted(files):
            path = Path(place) / name
            if entry_of(path) is None or not Path(os.path.realpath(path)).is_relative_to(home):
                continue
            yield _make_source(path, folder, _find_trouble(path))
    for error in barred:
        yield _make_source(Path(error.filename), folder, say("can't be entered: {strerror}", strerror=error.strerror))


def _make_source(path: Path, folder: Path, trouble: str) -> Source:
    file = path.relative_to(folder).as_posix() if path != folder else path.name
    return Source(path=path, file=file, folder=folder, searched=True, trouble=trouble)


def told_apart(sources: Iterable[Source], taken: Iterable[str] = ()) -> list[Source]:
    """Return sources with names that are all different: those of one name have that of their folder before it.

    `taken` are names that others of the batch have already.
    """
    sources, used = list(sources), set(taken)
    often = Counter(s.file for s in sources)
    alike = [s for s in sources if often[s.file] > 1 or s.file in used]
    used |= {s.file for s in sources}
    names = {id(s): s.file for s in sources}
    homes = {id(s): Path(os.path.realpath(s.folder)).parts[1:] for s in alike}
    # As much of the folder's path as it takes, the same much for all of them.
    for k in range(1, 1 + max((len(home) for home in homes.values()), default=0)):
        longer = {id(s): "/".join((*homes[id(s)][-k:], s.file)) for s in alike}
        if len(set(longer.values())) == len(alike) and not set(longer.values()) & used:
            names |= longer
            break
    return [replace(s, file=names[id(s)]) for s in sources]


def find_book(paths: Sequence[Path]) -> Path | None:
    """Return the size book that lies in the first of the folders given that has one."""
    return next((p / BOOK for p in paths if p.is_dir() and (p / BOOK).is_file()), None)


def output_name(file: str, target: Entry) -> str:
    """Return what a source is delivered as: its own path, the suffix following the format."""
    path = PurePosixPath(file)
    return file if path.suffix.lower() in target.suffixes else path.with_suffix(target.suffixes[0]).as_posix()


def output_of(source: Source, wanted: str) -> str:
    """Return what a source is delivered as where the format `wanted` is asked for."""
    target = entry_of(source.path) if wanted == "same" else FORMATS.entry(wanted)
    return source.file if target is None else output_name(source.file, target)


def check_apart(folder: Path, out: Path, *, searched: bool = True) -> None:
    """Make sure that a delivery and a folder of sources do not touch; links are followed first.

    Raises
    ------
    BadUsage
        If they are one folder; or, where it is `searched`, if one lies in the other.
    """
    home, real = Path(os.path.realpath(out)), Path(os.path.realpath(folder))
    if home == real or (searched and (home.is_relative_to(real) or real.is_relative_to(home))):
        raise BadUsage(
            one_line(say("{out}: the delivery must lie apart from the input folder '{folder}'", out=out, folder=folder))
        )


def check_outputs(sources: Sequence[Source], out: Path, *, wanted: str = "same", may_exist: bool) -> None:
    """Make sure that a delivery into `out` would touch no source and overwrite nothing unasked.

    Files are compared by what they are, not by their names: links are followed first.

    Raises
    ------
    BadUsage
        If `out` is, holds or lies in a searched folder, or is the folder of a file given by itself; if a source lies in
        `out`, or a folder of `out` leads out of it; if two sources would land on one name; or if an output exists and
        `may_exist` is false.
    """
    for _, error in conflicts(sources, out, wanted=wanted, may_exist=may_exist):
        raise error


def conflicts(
    sources: Sequence[Source], out: Path, *, wanted: str = "same", may_exist: bool
) -> Iterator[tuple[Source | None, BadUsage]]:
    """Yield all that `check_outputs` minds, the gravest first, each with the source it is about; None: with all."""
    home = Path(os.path.realpath(out))
    for folder, searched in dict.fromkeys((s.folder, s.searched) for s in sources):
        try:
            check_apart(folder, out, searched=searched)
        except BadUsage as error:
            yield None, error
    for source in sources:
        if Path(os.path.realpath(source.path)).is_relative_to(home):
            yield (
                source,
                BadUsage(
                    say("{path}: lies in the folder to deliver into, '{out}'", path=one_line(str(source.path)), out=out)
                ),
            )
    if out.exists() and not out.is_dir():
        yield None, BadUsage(say("{out}: is no folder", out=one_line(str(out))))
    names = {source: output_of(source, wanted) for source in sources}
    yield from _of_names(names)
    for source, name in names.items():
        place = Path(os.path.realpath((out / name).parent))
        if not place.is_relative_to(home):
            why = say("its folder leads out of the delivery, to '{place}'", place=place)
            yield source, BadUsage(say("{out}: {why}", out=one_line(str(out / name)), why=why))
    if not may_exist and os.path.lexists(out / "delivery.json"):
        yield None, Occupied(say("{out}: exists", out=one_line(str(out / "delivery.json"))))
    for source, name in names.items():
        if not may_exist and os.path.lexists(out / name):
            yield source, Occupied(say("{out}: exists", out=one_line(str(out / name))))


def _of_names(names: dict[Source, str]) -> Iterator[tuple[Source, BadUsage]]:
    taken: dict[str, Source] = {}
    for source, name in names.items():
        other = taken.setdefault(name.casefold(), source)
        if other is not source:
            why = say(
                "'{path}' and '{path_2}' would both be delivered as '{name}'",
                path=other.path,
                path_2=source.path,
                name=name,
            )
            yield source, BadUsage(one_line(why))
    folders = {p.as_posix().casefold() for name in names.values() for p in PurePosixPath(name).parents}
    for folded, source in taken.items():
        if folded in folders:
            why = say("'{path}' would be delivered as a file where another needs a folder", path=source.path)
            yield source, BadUsage(one_line(why))
