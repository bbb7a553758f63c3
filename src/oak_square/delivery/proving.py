"""`prove`: a delivery held against its manifest, any time later."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile, BadUsage, one_line
from oak_square.delivery.batch import Source
from oak_square.delivery.files import sha256_of
from oak_square.delivery.running import MANIFEST
from oak_square.delivery.surveying import receive
from oak_square.formats import FORMATS

__all__ = ["prove"]

_SAME_SIZE = 1e-5  # relative; a float32 box written and read again


def prove(folder: Path) -> list[tuple[str, str | None]]:
    """Return each delivered asset of `folder` with what does not hold of it, None when all does.

    Raises
    ------
    BadUsage
        If there is no manifest, or it can't be read.
    """
    path = folder / MANIFEST
    try:
        manifest = json.loads(path.read_text("utf-8"))
        entries = [e for e in manifest["assets"] if e["output"] is not None]
        return [(e["output"], trouble) for e in entries for trouble in [_trouble(folder, e)]]
    except OSError as error:
        raise BadUsage(f"{one_line(str(path))}: there is no manifest to prove by ({error.strerror})") from error
    except (ValueError, KeyError, TypeError) as error:
        raise BadUsage(f"{one_line(str(path))}: is no delivery manifest") from error


def _trouble(folder: Path, entry: dict[str, Any]) -> str | None:
    home = folder.resolve()
    for path, digest in [(entry["output"], entry["output_sha256"]), *_companions(entry)]:
        target = (folder / path).resolve()
        if not target.is_relative_to(home):
            return f"'{path}' leads out of the delivery"
        if not target.is_file():
            return f"'{path}' is missing"
        if sha256_of(target) != digest:
            return f"'{path}' is not the file that was delivered"
    target = folder / entry["output"]
    try:
        asset = receive(Source(path=target, file=entry["output"], folder=folder, searched=True)).asset
    except BadFile as error:
        return error.reason
    box = asset_box(asset)
    wanted = entry["size_after_m"]
    if wanted is None or box is None:
        return None if wanted is None and box is None else "its geometry is not what was delivered"
    return _size_trouble(box.size, np.array(list(wanted.values())), FORMATS[asset.format].declares)


def _companions(entry: dict[str, Any]) -> Iterator[tuple[str, str]]:
    for companion in entry["companions"]:
        yield companion["path"], companion["sha256"]


def _size_trouble(there: Any, wanted: Any, declares: bool) -> str | None:
    if not declares:
        # The file names neither unit nor axes: its extents must be the delivered ones but for order and one factor.
        there, wanted = np.sort(there), np.sort(wanted)
        there = there * (wanted[-1] / there[-1]) if there[-1] > 0 else there
    if np.abs(there - wanted).max() > _SAME_SIZE * wanted.max():
        return "its size is not what was delivered"
    return None
