"""The measurements that are kept with a sheet: a small JSON file beside it, `NAME.measures.json`.

A sheet's own keys are settled with everyone who reads sheets; what was measured concerns the window alone.
"""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

from oak_square.core.errors import BadSheet
from oak_square.core.measuring import KINDS_OF_MEASURE, Anchor, Measure
from oak_square.core.words import say

__all__ = ["dump_measures", "load_measures", "measures_path", "parse_measures"]

_MOST_BYTES = 4_000_000
_VERSION = 1


def measures_path(sheet: Path) -> Path:
    """Return where the measurements of the sheet at a path are kept."""
    name = sheet.name
    for suffix in (".prepsheet.yaml", ".yaml", ".yml"):
        name = name.removesuffix(suffix)
    return sheet.with_name(f"{name}.measures.json")


def dump_measures(measures: tuple[Measure, ...]) -> str:
    """Return measurements as the text of their file."""
    entries = [
        {
            "kind": m.kind,
            "file": m.file,
            "points": [
                {
                    "node": a.node,
                    "name": a.name,
                    "at": list(a.at),
                    "kind": a.kind,
                    **({"file": a.file} if a.file else {}),
                }
                for a in m.anchors
            ],
        }
        for m in measures
    ]
    return json.dumps({"measures": _VERSION, "list": entries}, indent=1, ensure_ascii=False) + "\n"


def load_measures(path: Path) -> tuple[Measure, ...]:
    """Return the measurements in a file; none when there is no such file.

    Raises
    ------
    BadSheet
        If it can't be read, or is no list of measurements.
    """
    if not path.exists():
        return ()
    try:
        if path.stat().st_size > _MOST_BYTES:
            raise BadSheet(
                str(path),
                None,
                say("larger than the {_most_bytes} MB measurements may take", _most_bytes=_MOST_BYTES // 1_000_000),
            )
        text = path.read_text("utf-8")
    except OSError as error:
        raise BadSheet(str(path), None, say("can't be read: {strerror}", strerror=error.strerror)) from error
    except UnicodeDecodeError as error:
        raise BadSheet(str(path), None, say("is no list of measurements: {error}", error=error)) from error
    return parse_measures(text, str(path))


def parse_measures(text: str, file: str) -> tuple[Measure, ...]:
    """Return the measurements that a text tells of; `file` is named in errors.

    Raises
    ------
    BadSheet
        If it is no list of measurements.
    """
    try:
        raw = json.loads(text)
        if raw["measures"] != _VERSION:
            raise BadSheet(
                file,
                None,
                say("measures {raw} is not known; this is version {_version}", raw=raw["measures"], _version=_VERSION),
            )
        return tuple(_read_one_measure(entry) for entry in raw["list"])
    except (ValueError, KeyError, TypeError, RecursionError) as error:
        raise BadSheet(file, None, say("is no list of measurements: {error}", error=error)) from error


def _read_one_measure(entry: dict[str, Any]) -> Measure:
    kind, anchors = entry["kind"], tuple(_read_anchor(p) for p in entry["points"])
    if kind not in KINDS_OF_MEASURE or len(anchors) != KINDS_OF_MEASURE[kind]:
        raise ValueError(say("'{kind}' with {count} points is no measurement", kind=kind, count=len(anchors)))
    return Measure(kind=kind, file=str(entry["file"]), anchors=anchors)


def _read_anchor(entry: dict[str, Any]) -> Anchor:
    at = [float(v) for v in entry["at"]]
    node = entry["node"]
    known = node is None or (isinstance(node, int) and node >= 0)
    if len(at) != 3 or not all(math.isfinite(v) for v in at) or not known:
        raise ValueError(say("{entry} is no point", entry=entry))
    kind, file = str(entry["kind"]), str(entry.get("file", ""))
    return Anchor(node=node, name=str(entry["name"]), at=(at[0], at[1], at[2]), kind=kind, file=file)
