"""One asset, from its source to its proved output. Runs in a worker."""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from functools import lru_cache, partial
from pathlib import Path
from typing import Any
from urllib.parse import unquote

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile, DataTrouble, Failed, Refused, one_line
from oak_square.core.frames import Reading
from oak_square.core.motion import with_reading
from oak_square.core.scene import Asset
from oak_square.delivery.batch import Source, output_name
from oak_square.delivery.files import copy_file, sha256_of, write_pieces
from oak_square.delivery.proof import prove_asset, prove_edited
from oak_square.delivery.proof_across import prove_across
from oak_square.delivery.proof_clips import prove_clips
from oak_square.delivery.surveying import receive, size_json
from oak_square.formats import FORMATS, LIMITS, Format, Received, Written, cross, target_of
from oak_square.sheet import Prepared, Sheet, evaluate

__all__ = ["Job", "blank_entry", "prepare"]

Entry = dict[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """A request to deliver one source into `out`; with `dry`, everything but the writing.

    `others` are the sources that the sheet's steps name, by those names; `outputs` all that the run delivers.
    """

    source: Source
    sheet: Sheet
    out: Path
    dry: bool
    replace: bool
    others: Mapping[str, Source] = field(default_factory=dict)
    outputs: frozenset[str] = frozenset()


class _FromDisk:
    """The assets that steps name, read from their sources; a worker remembers the last few."""

    def __init__(self, sources: Mapping[str, Source]) -> None:
        self._sources = sources

    def file_of(self, name: str) -> str | None:
        return self._sources[name].file if name in self._sources else None

    def received(self, file: str) -> Asset:
        source = next(s for s in self._sources.values() if s.file == file)
        try:
            there = source.path.stat()
        except OSError as error:
            raise BadFile(file, f"can't be read: {error.strerror}") from error
        return _received(source, there.st_mtime_ns, there.st_size)


@lru_cache(maxsize=4)
def _received(source: Source, mtime_ns: int, size: int) -> Asset:
    """Return an asset that steps name; its file's time and size tell whether it is still the one remembered."""
    return receive(source).asset


def blank_entry(file: str, status: str, reason: str | None) -> Entry:
    """Return a manifest entry for an asset that has no output."""
    return {
        "source": file,
        "source_sha256": None,
        "output": None,
        "output_sha256": None,
        "companions": [],
        "status": status,
        "reason": reason,
        "size_before_m": None,
        "size_after_m": None,
        "deviation_m": None,
        "steps": [],
        "warnings": [],
    }


def prepare(job: Job) -> Entry:
    """Deliver one asset and return its manifest entry; what is wrong with it is said there, not raised."""
    entry = blank_entry(job.source.file, "failed", None)
    with ThreadPoolExecutor(2) as hashing:
        return _prepare(job, entry, hashing)


def _prepare(job: Job, entry: Entry, hashing: ThreadPoolExecutor) -> Entry:
    # Hashing lets go of the interpreter: it runs beside the work on the same file.
    digest = hashing.submit(sha256_of, job.source.path)
    try:
        received = receive(job.source)
        prepared = evaluate(received.asset, job.sheet, _FromDisk(job.others))
        _note_steps(entry, prepared)
        entry["source_sha256"] = digest.result()
        if prepared.status != "ready":
            entry.update(status=prepared.status, reason=one_line(prepared.reason or ""))
            return entry
        _deliver(job, received, prepared, entry, hashing)
    except Refused as error:
        _give_up(entry, "refused", str(error))
    except BadFile as error:
        _give_up(entry, "failed", error.reason)
    except DataTrouble as error:
        _give_up(entry, "failed", str(error))
    except OSError as error:
        _give_up(entry, "failed", f"{error.strerror or error}: {error.filename or job.out}")
    except Exception as error:  # the border of a job: a fault of ours costs this asset, not the batch
        _give_up(entry, "failed", f"a fault of ours: {error!r}; please report it")
    if digest.exception() is None:
        entry["source_sha256"] = digest.result()
    return entry


def _give_up(entry: Entry, status: str, reason: str) -> None:
    entry.update(
        status=status, reason=one_line(reason), output=None, output_sha256=None, companions=[], size_after_m=None,
        deviation_m=None,
    )  # fmt: skip


def _note_steps(entry: Entry, prepared: Prepared) -> None:
    entry["size_before_m"] = size_json(asset_box(prepared.read))
    entry["steps"] = [{"step": o.step, "do": o.do, "outcome": o.outcome, "detail": o.detail} for o in prepared.outcomes]
    entry["warnings"] = list(prepared.warnings)


def _deliver(job: Job, received: Received, prepared: Prepared, entry: Entry, hashing: ThreadPoolExecutor) -> None:
    target = target_of(received.asset, job.sheet.deliver.format)
    wanted = job.sheet.deliver.file_reading(prepared.read.reading)
    reading = target.reading_out(wanted)
    is_kin = target.is_kin(FORMATS[received.asset.format])
    written = (target.write if is_kin else partial(_crossed, target))(received, prepared.asset, reading)
    entry["warnings"] += [*written.warnings, *target.unnamed(wanted)]
    entry["status"] = "unchanged" if written.pieces is None else "delivered"
    if job.dry:
        entry["size_after_m"] = size_json(asset_box(prepared.asset))
        return
    job.out.mkdir(parents=True, exist_ok=True)
    stage = Path(tempfile.mkdtemp(prefix=".oak-", dir=job.out))
    try:
        output = output_name(job.source.file, target)
        model = stage / Path(output).name
        _stage(model, job.source, written)
        digest = hashing.submit(sha256_of, model)
        reopened = target.read(model, output, LIMITS)
        again = with_reading(reopened.asset, reading)
        entry["deviation_m"] = _proved(received, prepared.asset, reopened, again, written)
        entry["size_after_m"] = size_json(asset_box(again))
        entry["output_sha256"] = digest.result()
        entry["output"] = output
        entry["companions"] = _settle(job, stage, output, written)
    finally:
        shutil.rmtree(stage, ignore_errors=True)


def _proved(received: Received, wanted: Asset, reopened: Received, there: Asset, written: Written) -> float:
    """Return the deviation of what was written, every proof that is due made.

    Raises
    ------
    Failed
        If one does not hold.
    """
    if not FORMATS[reopened.asset.format].is_kin(FORMATS[received.asset.format]):
        return prove_across(wanted, there)
    moving = prove_clips(received.asset, wanted, there)
    if written.pieces is None:  # the source's own bytes
        return max(prove_asset(wanted, there), moving)
    return max(prove_edited(received, wanted, reopened, there), moving)


def _crossed(target: Format, received: Received, asset: Asset, reading: Reading) -> Written:
    return cross(received, asset, target, reading)


def _stage(model: Path, source: Source, written: Written) -> None:
    """Put the model and its companions into a folder aside, laid out as they will lie."""
    if written.pieces is None:
        copy_file(source.path, model)
    else:
        write_pieces(model, written.pieces)
    for companion in written.companions:
        target = model.parent / unquote(companion.path)
        if companion.source is None:
            write_pieces(target, companion.pieces)
        elif not target.exists():
            copy_file(companion.source, target)


def _settle(job: Job, stage: Path, output: str, written: Written) -> list[dict[str, str]]:
    """Rename the staged files into place, the model last, and return the companions' entries."""
    folder = (job.out / output).parent
    names, entries = list[str](), list[dict[str, str]]()
    for name in dict.fromkeys(unquote(c.path) for c in written.companions):
        digest = sha256_of(stage / name)
        target = folder / name
        path = os.path.relpath(target, job.out).replace(os.sep, "/")
        entries.append({"path": path, "sha256": digest})
        if path in job.outputs:
            continue  # a model of its own, which the run puts there
        names.append(name)
        if target.exists() and not job.replace and sha256_of(target) != digest:
            raise Failed(f"'{name}' is there already with other contents, and goes with this model")
    placed: list[Path] = []
    try:
        for name in [*names, Path(output).name]:
            target = folder / name
            target.parent.mkdir(parents=True, exist_ok=True)
            fresh = not target.exists()
            (stage / name).replace(target)
            placed += [target] if fresh else []
    except OSError:
        # A model with all that goes with it, or nothing.
        for target in placed:
            target.unlink(missing_ok=True)
        raise
    return entries
