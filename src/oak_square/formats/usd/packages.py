"""USDZ packages: archives of files that lie as they are, the first a layer, each from a place that 64 divides."""

from __future__ import annotations

import io
import struct
import zipfile
from pathlib import Path

__all__ = ["first_layer", "packed_again"]

_ALIGNED = 64  # OpenUSD, "Usdz File Format Specification": so that a file can be used where it lies
_HEADER = 30  # bytes of a local header before its name (APPNOTE 4.3.7)
_PADDING_ID = 0x1986


def first_layer(path: Path) -> bytes:
    """Return the layer that a package at `path`, looked at before, begins with."""
    with zipfile.ZipFile(path) as package:
        return package.read(package.infolist()[0])


def packed_again(path: Path, layer: bytes) -> bytes:
    """Return the package at `path` with another first layer, all else in it as it was."""
    out = io.BytesIO()
    with zipfile.ZipFile(path) as package, zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as made:
        for k, row in enumerate(package.infolist()):
            data = layer if k == 0 else package.read(row)
            item = zipfile.ZipInfo(row.filename, row.date_time)
            item.external_attr = row.external_attr
            start = out.tell() + _HEADER + len(item.filename.encode())
            # An extra field has a head of four bytes.
            padding = -(start + 4) % _ALIGNED
            item.extra = struct.pack("<HH", _PADDING_ID, padding) + bytes(padding)
            made.writestr(item, data)
    return out.getvalue()
