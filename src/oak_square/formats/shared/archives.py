"""ZIP archives that models come in, looked at before anything is unpacked."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.limits import Limits

__all__ = ["checked_rows"]

_MOST_FILES = 10_000
_HIGHEST_RATIO = 1000  # of what is unpacked to its own size: coordinates as text shrink to a tenth, not a thousandth


def checked_rows(archive: zipfile.ZipFile, path: Path, file: str, limits: Limits) -> list[zipfile.ZipInfo]:
    """Return what the archive at `path` holds.

    Raises
    ------
    BadFile
        If it is more than the limits allow, or a name leads out.
    """
    rows = archive.infolist()
    most = min(limits.unpacked_bytes, max(path.stat().st_size, 10_000) * _HIGHEST_RATIO)
    if len(rows) > _MOST_FILES or sum(r.file_size for r in rows) > most:
        raise BadFile(file, say("holds more files or bytes than the limits allow"))
    for name in (r.filename for r in rows):
        if name.startswith(("/", "\\")) or ".." in re.split(r"[/\\]", name) or ":" in name:
            raise BadFile(file, say("holds '{name}', which leads out of the package", name=name[:80]))
    return rows
