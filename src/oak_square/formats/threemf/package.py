"""A 3MF package: a ZIP archive opened with care, and written again with one part changed.

Follows the 3MF core specification 1.3 (3MF Consortium) and ECMA-376 part 2 (open packaging).
"""

from __future__ import annotations

import hashlib
import io
import zipfile
import zlib
from dataclasses import dataclass
from pathlib import Path

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.limits import Limits
from oak_square.formats.shared.archives import checked_rows
from oak_square.formats.shared.xml_spans import parse_xml

__all__ = ["Package", "digests_beside", "open_package", "repacked"]

_DAMAGE = (zipfile.BadZipFile, zipfile.LargeZipFile, zlib.error, RuntimeError, EOFError, ValueError)
_BLOCK = 1 << 20
_MODEL = "http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"


@dataclass(frozen=True, slots=True, kw_only=True)
class Package:
    """A package as read: its path, and the bytes of each model in it by the name of its part, the root model first."""

    path: Path
    models: dict[str, bytes]


def open_package(path: Path, file: str, limits: Limits) -> Package:
    """Return the package at `path`.

    Raises
    ------
    BadFile
        If it is no 3MF, names parts that lead out, or holds more than the limits allow.
    """
    try:
        with zipfile.ZipFile(path) as archive:
            names = {r.filename for r in checked_rows(archive, path, file, limits)}
            root = _model_part(archive, names, file, limits)
            rest = sorted(n for n in names if n.lower().endswith(".model") and n != root)
            return Package(path=path, models={n: _unpack_part(archive, n, limits, file) for n in (root, *rest)})
    except _DAMAGE as error:
        raise BadFile(file, say("is no 3MF package, or its archive is damaged")) from error


def _unpack_part(archive: zipfile.ZipFile, name: str, limits: Limits, file: str) -> bytes:
    """Return a part's bytes, no more of them than it declares."""
    declared = archive.getinfo(name).file_size
    if declared > limits.text_bytes * 4:
        raise BadFile(
            file, say("holds '{name}' of {declared} bytes, over the limit", name=name[:80], declared=declared)
        )
    with archive.open(name) as stream:
        data = stream.read(declared + 1)
    if len(data) > declared:
        raise BadFile(file, say("holds '{name}', which is larger than it declares", name=name[:80]))
    return data


def _model_part(archive: zipfile.ZipFile, names: set[str], file: str, limits: Limits) -> str:
    if "_rels/.rels" not in names:
        raise BadFile(file, say("is no 3MF package: it has no relationships"))
    root = parse_xml(_unpack_part(archive, "_rels/.rels", limits, file), file, limits)
    for row in root.all("Relationship"):
        if row.attributes.get("Type") == _MODEL:
            name = row.attributes.get("Target", "").lstrip("/")
            if name in names:
                return name
    raise BadFile(file, say("is no 3MF package: it has no model"))


def digests_beside(package: Package) -> dict[str, str]:
    """Return the SHA-256 of each part of a package that is no model, by its name; of one that is damaged, why."""
    found = {}
    with zipfile.ZipFile(package.path) as archive:
        for row in archive.infolist():
            if row.filename in package.models:
                continue
            digest = hashlib.sha256()
            try:
                with archive.open(row) as stream:
                    while block := stream.read(_BLOCK):
                        digest.update(block)
                found[row.filename] = digest.hexdigest()
            except _DAMAGE as error:
                found[row.filename] = type(error).__name__
    return found


def repacked(package: Package, models: dict[str, bytes]) -> bytes:
    """Return the package with parts of it replaced by name, all others as they are.

    Raises
    ------
    BadFile
        If another part can't be unpacked.
    """
    try:
        return _repack_models(package, models)
    except _DAMAGE as error:
        raise BadFile(package.path.name, say("holds a part beside its model that is damaged; repack it")) from error


def _repack_models(package: Package, models: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(package.path) as old, zipfile.ZipFile(out, "w") as new:
        for row in old.infolist():
            data = models[row.filename] if row.filename in models else old.read(row)
            info = zipfile.ZipInfo(row.filename, row.date_time)
            info.compress_type, info.external_attr = row.compress_type, row.external_attr
            info.comment, info.create_system = row.comment, row.create_system
            new.writestr(info, data)
        new.comment = old.comment
    return out.getvalue()
