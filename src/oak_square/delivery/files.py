"""Files that appear whole or not at all, and their hashes."""

from __future__ import annotations

import contextlib
import errno
import fcntl
import glob
import hashlib
import os
import shutil
import stat
import time
from collections.abc import Iterable
from io import BufferedReader
from pathlib import Path
from typing import BinaryIO
from urllib.parse import unquote

import numpy as np

from oak_square.formats.shared.model_file import Chunk

__all__ = [
    "Digests",
    "copy_file",
    "further_files",
    "holds",
    "mark_of",
    "read_plain",
    "sha256_of",
    "sha256_of_chunks",
    "sweep_parts",
    "sync_folder",
    "take_away",
    "write_chunks",
    "write_whole",
]

_BLOCK = 1 << 20
_SETTLED_NS = 2_000_000_000


def sha256_of(path: Path) -> str:
    """Return the SHA-256 of a file, hexadecimal.

    Raises
    ------
    OSError
        If it can't be read, or is a pipe or a device, which might never end.
    """
    with _opened_plain(path, 0) as stream:
        return hashlib.file_digest(stream, "sha256").hexdigest()


def mark_of(state: os.stat_result) -> tuple[int, int, int]:
    """Return what tells from outside that a file was changed, or is another one."""
    return state.st_ino, state.st_size, state.st_mtime_ns


class Digests:
    """The SHA-256 of files, worked out again only where a file has been touched since."""

    def __init__(self) -> None:
        self._known: dict[Path, tuple[tuple[int, ...], str]] = {}

    def of(self, path: Path) -> str | None:
        """Return a file's SHA-256, hexadecimal; None where there is no file that can be read."""
        try:
            if not path.is_file():
                return None
            state = path.stat()
            mark = (*mark_of(state), state.st_ctime_ns)
            known, digest = self._known.get(path, ((), ""))
            if known == mark:
                return digest
            digest = sha256_of(path)
        except OSError:
            return None
        # What was touched a moment ago could be touched again without its times telling.
        if time.time_ns() - state.st_ctime_ns > _SETTLED_NS:
            self._known[path] = (mark, digest)
        return digest


def holds(path: Path, data: bytes) -> bool:
    """Tell whether a file holds exactly these bytes."""
    try:
        return path.is_file() and path.stat().st_size == len(data) and path.read_bytes() == data
    except OSError:
        return False


def further_files(folder: Path, names: Iterable[str]) -> dict[str, Path]:
    """Return what a model in `folder` is read from beside its own file, where it is there, by its path from there."""
    found = {}
    for name in names:
        spelled = (os.path.normpath(n) for n in (name, unquote(name)))
        path = next((p for n in spelled if (p := folder / n).is_file()), None)
        if path is not None:
            found[path.relative_to(folder).as_posix()] = path
    return found


def sha256_of_chunks(chunks: Iterable[Chunk]) -> str:
    """Return the hash of what `write_chunks` would write."""
    digest = hashlib.sha256()
    for piece in chunks:
        digest.update(np.ascontiguousarray(piece).data if isinstance(piece, np.ndarray) else piece)
    return digest.hexdigest()


def write_chunks(path: Path, chunks: Iterable[Chunk]) -> None:
    """Write `pieces` one after the other to a new file and flush it to the disk."""
    path.parent.mkdir(parents=True, exist_ok=True)
    with _made_anew(path) as stream:
        for piece in chunks:
            stream.write(np.ascontiguousarray(piece).data if isinstance(piece, np.ndarray) else piece)
        stream.flush()
        os.fsync(stream.fileno())


def _made_anew(path: Path) -> BinaryIO:
    """Return a new file at `path`: what lies there goes, and a link is never followed."""
    path.unlink(missing_ok=True)
    return os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW, 0o666), "wb")


def read_plain(path: Path) -> bytes:
    """Return the bytes of a file that is one by itself: no link is followed, and no pipe waited for.

    Raises
    ------
    OSError
        If it is not there, or is something else.
    """
    with _opened_plain(path, os.O_NOFOLLOW) as stream:
        return stream.read()


def _opened_plain(path: Path, more: int) -> BufferedReader:
    handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | more)
    if not stat.S_ISREG(os.fstat(handle).st_mode):
        os.close(handle)
        raise OSError(errno.EINVAL, "is no plain file", str(path))
    return os.fdopen(handle, "rb")


def take_away(path: Path) -> None:
    """Take away a folder with all that is in it, or whatever else lies there; what a link leads to stays."""
    if path.is_symlink() or not path.is_dir():
        with contextlib.suppress(OSError):
            path.unlink()
        return
    shutil.rmtree(path, ignore_errors=True)


def copy_file(source: Path, target: Path) -> None:
    """Copy a file's bytes to a new file and flush it to the disk."""
    target.parent.mkdir(parents=True, exist_ok=True)
    with source.open("rb") as old, _made_anew(target) as new:
        shutil.copyfileobj(old, new, _BLOCK)
        new.flush()
        os.fsync(new.fileno())


def sync_folder(folder: Path) -> None:
    """Flush a folder's own entries to the disk: what was renamed into it is then there after a power cut."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def write_whole(path: Path, data: bytes) -> None:
    """Write `data` aside and rename it to `path`; what a killed process has left of it goes."""
    aside = path.with_name(f".{path.name}.{os.getpid()}.part")
    path.parent.mkdir(parents=True, exist_ok=True)
    sweep_parts(path)
    try:
        with _made_anew(aside) as stream:
            # Locked by whoever writes it: nobody else takes it for left over.
            with contextlib.suppress(OSError):  # not everywhere can be locked
                fcntl.flock(stream, fcntl.LOCK_EX | fcntl.LOCK_NB)
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
            aside.replace(path)
    finally:
        aside.unlink(missing_ok=True)


def sweep_parts(path: Path) -> None:
    """Take away what processes that were killed while they wrote a file whole have left beside it."""
    for left in path.parent.glob(f".{glob.escape(path.name)}.*.part"):
        with contextlib.suppress(OSError), _opened_plain(left, os.O_NOFOLLOW) as stream:
            fcntl.flock(stream, fcntl.LOCK_EX | fcntl.LOCK_NB)  # refused where somebody writes it
            left.unlink()
