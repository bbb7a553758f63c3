"""What a delivery's assets look like before and after, for its report: drawn alike, from what lies on the disk."""

from __future__ import annotations

import multiprocessing
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.boxes import asset_box
from oak_square.core.likely.answers import Answer
from oak_square.core.motion import resize_all, with_reading
from oak_square.core.portrait import camera_on, png_of, portrait
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.delivery.batch import Source
from oak_square.delivery.guessing import guessed
from oak_square.delivery.surveying import receive
from oak_square.delivery.workers import fitting, in_processes
from oak_square.formats.register import FORMATS
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet

__all__ = ["MOST_PICTURED", "Pictured", "pictures_of"]

Key = tuple[str, str, str]
MOST_PICTURED = 1000
"""Assets; of more a page would grow past what is sent on."""
_SIZE = 200, 150
_FAR_APART = 8.0  # times: one of them would be a speck beside the other


@dataclass(frozen=True, slots=True, kw_only=True)
class Pictured:
    """PNG pictures of an asset, from the same side.

    Attributes
    ----------
    before, after : bytes or None
    closer : float
        How many times as large the second is drawn as the first; 1 but where they differ too much for one scale.
    """

    before: bytes | None
    after: bytes | None
    closer: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class _Job:
    key: Key
    source: Source | None
    sheet: Sheet
    output: Source
    answers: Mapping[str, Answer] = field(default_factory=dict)


def pictures_of(  # noqa: PLR0913 - what a run was, and how to draw it
    manifest: Mapping[str, Any],
    sources: tuple[Source, ...],
    sheet: Sheet,
    out: Path,
    jobs: int = 0,
    known: dict[Key, Pictured] | None = None,
    book: SizeBook | None = None,
    abandoned: Callable[[], bool] | None = None,
) -> dict[str, Pictured]:
    """Return pictures of what a manifest says was delivered into `out`, by source; what can't be drawn is left out.

    Parameters
    ----------
    jobs : int
        Processes; 0 for one a core, as far as memory has room.
    known : dict
        What was drawn before, by the hashes of source and output: not drawn again, and added to.
    book : SizeBook, optional
        As of the run.
    abandoned : callable, optional
        As of `in_processes`.
    """
    known = {} if known is None else known
    by_file = {s.file: s for s in sources}
    due = [e for e in manifest["assets"] if e["output"] is not None][:MOST_PICTURED]
    answers = guessed(sheet, sources, book, jobs or multiprocessing.cpu_count(), abandoned=abandoned)
    work = [
        _Job(
            key=_find_entry_key(e),
            source=by_file.get(e["source"]),
            sheet=sheet,
            answers={f: a for f, a in answers.items() if f == e["source"]},
            output=Source(path=out / e["output"], file=e["output"], folder=out, searched=False),
        )
        for e in due
        if _find_entry_key(e) not in known
    ]
    sizes = [job.output.path.stat().st_size for job in work if job.output.path.is_file()]
    processes = jobs or fitting(sizes, multiprocessing.cpu_count())
    results = in_processes(_picture_job, work, processes, abandoned=abandoned)
    known.update({job.key: pictured for job, pictured, _ in results if pictured is not None})
    return {e["source"]: known[_find_entry_key(e)] for e in due if _find_entry_key(e) in known}


def _find_entry_key(entry: Mapping[str, Any]) -> Key:
    return entry["source"], entry["source_sha256"], entry["output_sha256"]


def _picture_job(job: _Job) -> Pictured | None:
    try:
        after = receive(job.output).asset
        if job.source is None:
            return _draw_pair(None, after)
        before = evaluate(receive(job.source).asset, job.sheet, before=1, answers=job.answers).asset
        kind = FORMATS[after.format]
        reading = kind.reading_out(job.sheet.deliver.file_reading(before.reading, declares=kind.declares))
        # As it stands for life: both are seen at one scale.
        life = 1 / job.sheet.deliver.scale
        return _draw_pair(before, resize_all(with_reading(after, reading), np.diag([life, life, life, 1.0])))
    except Exception:  # the border of a job: the delivery is done, and its report does without
        return None


def _draw_pair(before: Asset | None, after: Asset) -> Pictured:
    assets = [before, after]
    boxes = [None if asset is None else asset_box(asset) for asset in assets]
    there = [box for box in boxes if box is not None]
    if not there:
        return Pictured(before=None, after=None)
    cameras = [None if box is None else camera_on([box], *_SIZE) for box in boxes]
    spans = [camera.across for camera in cameras if camera is not None]
    closer = spans[0] / spans[-1]
    if max(closer, 1 / closer) <= _FAR_APART:
        cameras, closer = [camera_on(there, *_SIZE)] * 2, 1.0
    found = [
        None if asset is None or box is None or camera is None else png_of(portrait(asset, camera))
        for asset, box, camera in zip(assets, boxes, cameras, strict=True)
    ]
    return Pictured(before=found[0], after=found[1], closer=closer)
