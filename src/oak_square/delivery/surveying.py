"""The survey of a batch, as the JSON that other people's scripts read."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.boxes import Box, asset_box, node_box, tree_boxes
from oak_square.core.errors import BadBook, BadFile, OakSquareError
from oak_square.core.findings.finding import Finding, finding
from oak_square.core.findings.shared_worlds import shared_worlds, world_finding
from oak_square.core.findings.survey import survey
from oak_square.core.frames import Reading
from oak_square.core.likely.answers import Answer, answers_of
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.likely.suspects import suspects, with_suspects
from oak_square.core.scene import Asset
from oak_square.core.size_book import MOST_BYTES, SizeBook, parse_book
from oak_square.core.words import say
from oak_square.delivery.batch import Source
from oak_square.delivery.workers import in_processes
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import FORMATS, entry_of, format_of
from oak_square.formats.shared.crossing import losses_said
from oak_square.formats.shared.model_file import Received

__all__ = [
    "Surveyed",
    "asset_entry",
    "box_json",
    "load_book",
    "receive",
    "size_json",
    "survey_batch",
    "survey_source",
    "surveyed",
    "unreadable_entry",
    "why_not",
    "with_answers",
]


def receive(source: Source, limits: Limits = LIMITS) -> Received:
    """Return the file of `source` as read.

    Raises
    ------
    BadFile
        If no format knows it, or it can't be read.
    """
    if source.trouble:
        raise BadFile(source.file, source.trouble)
    try:
        kind = format_of(source.path)
        if kind is None:
            raise BadFile(source.file, say("'{suffix}' is no format that is read", suffix=source.path.suffix))
        return kind.read(source.path, source.file, limits)
    except BadFile:
        raise
    except Exception as error:  # the border of reading: a fault of ours costs this file, not the batch
        raise BadFile(source.file, why_not(error)) from error


def why_not(error: Exception) -> str:
    """Return in words why a file can't be read: what is wrong with it, with the disk, with the memory, or with us."""
    if isinstance(error, OakSquareError):
        return getattr(error, "reason", str(error))
    if isinstance(error, OSError):
        return say("can't be read: {strerror}", strerror=error.strerror or error)
    if isinstance(error, MemoryError):
        return say("needs more memory than there is")
    return say("can't be read, by a fault of ours: {error}; please report it", error=repr(error))


def load_book(path: Path) -> SizeBook:
    """Return the size book in a CSV file.

    Raises
    ------
    BadBook
        If it can't be read, or says something impossible: with the line.
    """
    try:
        if path.stat().st_size > MOST_BYTES:
            raise BadBook(
                str(path),
                None,
                say("larger than the {most_bytes} MB a size book may be", most_bytes=MOST_BYTES // 1_000_000),
            )
        return parse_book(path.read_text("utf-8-sig"), str(path))
    except OSError as error:
        raise BadBook(str(path), None, say("can't be read: {strerror}", strerror=error.strerror)) from error
    except UnicodeDecodeError as error:
        raise BadBook(str(path), None, say("is not UTF-8 text")) from error


def size_json(box: Box | None) -> dict[str, float] | None:
    """Return a box's extents by name, metres."""
    if box is None:
        return None
    width, height, depth = (float(v) for v in box.size)
    return {"width": width, "height": height, "depth": depth}


def box_json(box: Box | None) -> dict[str, list[float]] | None:
    """Return a box's corners, metres."""
    return None if box is None else {"min": box.low.tolist(), "max": box.high.tolist()}


def asset_entry(asset: Asset, findings: tuple[Finding, ...]) -> dict[str, Any]:
    """Return the survey's entry for one asset."""
    box = asset_box(asset)
    reading = asset.reading
    return {
        "file": asset.file,
        "format": asset.format,
        "error": None,
        "reading": {
            "metres_per_unit": reading.metres_per_unit,
            "up": reading.up,
            "front": reading.front,
            "source": reading.source,
        },
        "box_m": box_json(box),
        "size_m": size_json(box),
        "parts": sum(n.kind == "part" for n in asset.nodes),
        "groups": sum(n.kind == "group" for n in asset.nodes),
        "triangles": asset.triangle_count,
        "vertices": asset.vertex_count,
        "carries": list(asset.carries),
        "findings": [asdict(f) for f in findings],
        "nodes": [_node_entry(asset, i, whole) for i, whole in enumerate(tree_boxes(asset))],
    }


def _node_entry(asset: Asset, index: int, whole: Box | None) -> dict[str, Any]:
    node, world = asset.nodes[index], asset.worlds[index]
    axes = []
    for k in range(3):
        column = world[:3, k]
        length = float((column @ column) ** 0.5)
        axes.append([float(v) for v in (column / length if length > 0 else column)])
    box = node_box(asset, index) if node.mesh is not None else whole
    return {
        "name": node.name,
        "parent": node.parent,
        "kind": node.kind,
        "pivot_m": [float(v) for v in world[:3, 3]],
        "axes": axes,
        "scale": [float(v) for v in node.placement.scale],
        "box_m": box_json(box),
    }


def unreadable_entry(file: str, format_key: str | None, reason: str) -> dict[str, Any]:
    """Return the survey's entry for a file that can't be read."""
    return {
        "file": file,
        "format": format_key,
        "error": reason,
        "reading": None,
        "box_m": None,
        "size_m": None,
        "parts": 0,
        "groups": 0,
        "triangles": 0,
        "vertices": 0,
        "carries": [],
        "findings": [asdict(finding("unreadable", reason))],
        "nodes": [],
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class Surveyed:
    """The survey's entry for one file, and what it says of its unit and sides: its folder has a say in these."""

    entry: dict[str, Any]
    clues: Clues | None = None


def survey_source(source: Source, book: SizeBook | None = None, to: str | None = None) -> dict[str, Any]:
    """Return the survey's entry for one file by itself; as `surveyed`."""
    return with_answers([surveyed(source, book, to)], book)[0]


def surveyed(source: Source, book: SizeBook | None = None, to: str | None = None) -> Surveyed:
    """Return what one file comes to, readable or not.

    Extents are held against `book`, what it has against what the format `to` can hold.
    """
    try:
        asset = receive(source).asset
        found = survey(asset, book)
        lost = losses_said(asset, FORMATS[to]) if to is not None else None
        if lost is not None:
            found = (*found, finding("cannot-carry", lost))
        return Surveyed(entry=asset_entry(asset, found), clues=clues_of(asset))
    except Exception as error:  # the border of a file: what is wrong with it, or with us, costs it alone
        kind = entry_of(source.path)
        return Surveyed(entry=unreadable_entry(source.file, None if kind is None else kind.key, why_not(error)))


def survey_batch(
    sources: Sequence[Source],
    *,
    book: SizeBook | None = None,
    to: str | None = None,
    jobs: int = 1,
    told: Callable[[int, Source], object] | None = None,
) -> list[dict[str, Any]]:
    """Return the survey's entry of each source, in their order, read in processes of their own.

    `told` is called with how many are done and the one that was done last.
    """
    look, by_file = partial(surveyed, to=to, book=book), dict[str, Surveyed]()
    for source, found, why in in_processes(look, list(sources), jobs):
        kind = entry_of(source.path)
        lost = Surveyed(entry=unreadable_entry(source.file, kind.key if kind else None, why))
        by_file[source.file] = found or lost
        if told is not None:
            told(len(by_file), source)
    return with_answers([by_file[s.file] for s in sources], book)


def with_answers(found: Sequence[Surveyed], book: SizeBook | None = None) -> list[dict[str, Any]]:
    """Return the survey's entries, with what is suspect of each beside the rest of its folder."""
    answers = answers_of([each.clues for each in found if each.clues is not None], None, book)
    entries = [
        each.entry if each.clues is None else _add_suspicions(each.entry, answers[each.clues.file]) for each in found
    ]
    units = {e["file"]: f["measure"] for e in entries for f in e["findings"] if f["code"] == "unit-suspect"}
    boxes = {entry["file"]: box for entry in entries if (box := _read_box(entry)) is not None}
    worlds = shared_worlds(boxes, units)
    return [
        {**entry, "findings": _add_findings(entry, (world_finding(worlds[entry["file"]]),))}
        if entry["file"] in worlds
        else entry
        for entry in entries
    ]


def _read_box(entry: Mapping[str, Any]) -> Box | None:
    told = entry["box_m"]
    box = None if told is None else Box(np.array(told["min"]), np.array(told["max"]))
    return box if box is not None and np.isfinite(box.size).all() else None


def _add_findings(entry: Mapping[str, Any], also: Iterable[Finding]) -> list[dict[str, Any]]:
    return [asdict(f) for f in with_suspects([Finding(**f) for f in entry["findings"]], also)]


def _add_suspicions(entry: dict[str, Any], answer: Answer) -> dict[str, Any]:
    size = entry["size_m"]
    reading = Reading(**entry["reading"])
    longest = max(size.values()) if size is not None else 0.0
    also = suspects(reading, longest, answer)
    return {**entry, "findings": _add_findings(entry, also)}
