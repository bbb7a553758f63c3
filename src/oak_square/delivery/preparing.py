"""One asset, from its source to its proved output. Runs in a worker."""

from __future__ import annotations

import errno
import os
import posixpath
import tempfile
from collections.abc import Iterable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path, PurePosixPath
from typing import Any

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile, DataTrouble, Failed, Refused, fault_words, one_line
from oak_square.core.frames import Reading
from oak_square.core.likely.answers import Answer
from oak_square.core.motion import with_reading
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.delivery.batch import Source, output_name
from oak_square.delivery.entries import FileBeside, ManifestEntry
from oak_square.delivery.files import (
    copy_file,
    further_files,
    mark_of,
    sha256_of,
    sha256_of_chunks,
    take_away,
    write_chunks,
)
from oak_square.delivery.named_sources import NamedSources
from oak_square.delivery.proof_written import prove_written
from oak_square.delivery.staged import Staged
from oak_square.delivery.surveying import receive, size_json
from oak_square.formats.limits import LIMITS
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.crossing import cross, target_of
from oak_square.formats.shared.model_file import Companion, Format, Received, Written
from oak_square.sheet.course import at_ratio
from oak_square.sheet.evaluate import Prepared, evaluate
from oak_square.sheet.model import Sheet
from oak_square.sheet.standings import Standings

__all__ = ["Job", "prepare"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """A request to prepare one source; what it becomes is put into the folder `stage`, or nowhere where that is None.

    `others` are the sources that the sheet's steps name, by those names, and those that go together at some step, by
    their paths; `number` tells the job from others of its run;
    `answers` is what is guessed of it and of those.
    """

    source: Source
    sheet: Sheet
    stage: Path | None
    number: int = 0
    others: Mapping[str, Source] = field(default_factory=dict)
    answers: Mapping[str, Answer] = field(default_factory=dict)


_standings: list[tuple[tuple[object, ...], NamedSources, Standings]] = []  # those of the last run in this process


def _standings_of(job: Job) -> Standings:
    """Return how the assets stand that a job's steps name: the same for all jobs of a run, in one process."""
    own = {s.file: job.answers.get(s.file) for s in job.others.values()}
    key = (job.sheet, job.others, own)
    if not (_standings and _standings[0][0] == key and _standings[0][1].is_still_so()):
        others = NamedSources(job.others)
        _standings[:] = [(key, others, Standings(job.sheet, others, job.answers))]
    return _standings[0][2]


class _Note:
    """What is known so far of an asset that is being prepared: it stays, whatever goes wrong after."""

    def __init__(self, file: str) -> None:
        self.entry = ManifestEntry(source=file, status="failed")

    def take(self, **told: Any) -> None:
        self.entry = replace(self.entry, **told)

    def give_up(self, status: str, reason: str) -> None:
        self.entry = self.entry.given_up(status, reason)

    def take_steps(self, prepared: Prepared) -> None:
        steps = ({"step": o.step, "do": o.do, "outcome": o.outcome, "detail": o.detail} for o in prepared.outcomes)
        box = asset_box(prepared.read)
        self.take(size_before_m=size_json(box), steps=tuple(steps), warnings=tuple(prepared.warnings))


def prepare(job: Job) -> Staged:
    """Prepare, write and prove one asset; what is wrong with it is said in its entry, not raised."""
    with ThreadPoolExecutor(2) as hashing:
        return _prepare_job(job, _Note(job.source.file), hashing)


def _prepare_job(job: Job, note: _Note, hashing: ThreadPoolExecutor) -> Staged:
    digest = read = None
    staged = Staged(entry=note.entry)
    try:
        if job.source.trouble:
            raise BadFile(job.source.file, job.source.trouble)
        if job.stage is not None:
            take_away(job.stage)  # of a process that died over it
            job.stage.mkdir(parents=True)
            # What a library writes on the way goes with the stage, however this process ends.
            tempfile.tempdir = str(job.stage)
        found = _mark_files([job.source.path])
        # Hashing lets go of the interpreter: it runs beside the work on the same file.
        digest = hashing.submit(sha256_of, job.source.path)
        received = receive(job.source)
        found |= _mark_files(further_files(job.source.path.parent, received.companions).values())
        read = hashing.submit(_read_files, job.source.path.parent, received.companions)
        ready = _deliver_job(job, received, note, hashing, read)
        if (changed := _find_changed_file(found)) is not None:
            digest = None  # of what, nobody knows
            raise Failed(say("'{name}' was changed while it was read: --resume does it again", name=changed.name))
        staged = ready
    except Refused as error:
        note.give_up("refused", str(error))
    except BadFile as error:
        note.give_up("failed", error.reason)
    except DataTrouble as error:
        note.give_up("failed", str(error))
    except OSError as error:
        full = error.errno in {errno.ENOSPC, errno.EDQUOT} and job.stage is not None
        where = say("the folder to deliver into") if full else error.filename or job.source.path
        note.give_up("failed", say("{strerror}: {where}", strerror=error.strerror or error, where=where))
    except Exception as error:  # the border of a job: a fault of ours costs this asset, not the batch
        note.give_up("failed", fault_words(error))
    finally:
        tempfile.tempdir = None
    if digest is not None and digest.exception() is None:
        note.take(source_sha256=digest.result())
    if staged.names and read is not None and read.exception() is None:
        return replace(staged, entry=note.entry, read=read.result())
    return Staged(entry=note.entry, brings=staged.brings)


def _mark_files(paths: Iterable[Path]) -> dict[Path, tuple[int, int, int]]:
    return {path: mark_of(path.stat()) for path in paths if path.is_file()}


def _find_changed_file(found: dict[Path, tuple[int, int, int]]) -> Path | None:
    """Return the first file that is no longer what was read, or what its hash is of."""
    for path, mark in found.items():
        try:
            if mark_of(path.stat()) != mark:
                return path
        except OSError:
            return path
    return None


def _read_files(folder: Path, names: tuple[str, ...]) -> dict[str, str]:
    """Return the SHA-256 of each further file that a model is read from."""
    return {name: sha256_of(path) for name, path in further_files(folder, names).items()}


def _deliver_job(
    job: Job, received: Received, note: _Note, hashing: ThreadPoolExecutor, read: Future[dict[str, str]]
) -> Staged:
    prepared = _evaluate_job(job, received.asset, note, {})
    if prepared is None:
        return Staged(entry=note.entry)
    target = target_of(received.asset, job.sheet.deliver.format)
    _check_astray(received.asset, target)
    scale = job.sheet.deliver.scale
    prepared, written, reading = _write_prepared(job, received, prepared, target, note)
    if written is None:
        return Staged(entry=note.entry)
    written = _with_plain_paths(written)
    further = *written.warnings, *target.unnamed(_asked_reading(job, prepared, target))
    note.take(warnings=(*note.entry.warnings, *further), status="unchanged" if written.chunks is None else "delivered")
    if job.stage is None:
        note.take(size_after_m=_size_of_life(prepared.asset, scale))
        return Staged(entry=note.entry, brings=_list_brought(written, PurePosixPath(job.source.file).parent))
    output = output_name(job.source.file, target.entry)
    model = job.stage / Path(output).name
    _stage_files(model, job.source, written)
    digest = hashing.submit(sha256_of, model)
    reopened = target.read(model, output, LIMITS)
    wanted = written.asset or prepared.asset
    deviation = prove_written(received, wanted, written, reopened, reading)
    size = _size_of_life(with_reading(reopened.asset, reading), scale)
    names = [(n, PurePosixPath(output).parent.joinpath(n).as_posix()) for n in _list_companions(written)]
    beside = tuple(FileBeside(path=path, sha256=sha256_of(job.stage / name)) for name, path in names)
    note.take(
        deviation_m=deviation / scale,
        size_after_m=size,
        output=output,
        output_sha256=digest.result(),
        companions=beside,
    )
    _prove_copies(written, {n: c.sha256 for (n, _), c in zip(names, beside, strict=True)}, read)
    return Staged(entry=note.entry, names=(*names, (model.name, output)))


def _size_of_life(asset: Asset, scale: float) -> dict[str, float] | None:
    """Return the extents of what an asset stands for, which is written at a scale, metres."""
    found = size_json(asset_box(asset))
    return None if found is None else {extent: value / scale for extent, value in found.items()}


def _check_astray(asset: Asset, target: Format) -> None:
    """Make sure that all a model names can go along, where the format delivers it.

    Raises
    ------
    Failed
        With the first file that lies outside the model's folder.
    """
    if asset.astray and (target.is_kin(FORMATS[asset.format]) or "textures" in target.makes):
        raise Failed(
            say(
                "refers to '{astray}', which lies outside its folder, so that it can't go along", astray=asset.astray[0]
            )
        )


def _evaluate_job(job: Job, asset: Asset, note: _Note, refused: Mapping[int, str]) -> Prepared | None:
    """Return what the sheet makes of an asset, noted in its entry; None where it comes to nothing.

    The steps of `refused`, by number, are left out for the reasons given.
    """
    prepared = evaluate(asset, job.sheet, _standings_of(job), refused=refused, answers=job.answers)
    note.take_steps(prepared)
    if prepared.status != "ready":
        note.take(status=prepared.status, reason=one_line(prepared.reason or ""))
        return None
    return prepared


def _with_plain_paths(written: Written) -> Written:
    """Return what was written with each companion by one path, however the model names it: `x/../data.bin`."""

    def plain(companion: Companion) -> Companion:
        source = None if companion.source is None else Path(os.path.realpath(companion.source))
        return replace(companion, path=posixpath.normpath(companion.path), source=source)

    return replace(written, companions=tuple(plain(c) for c in written.companions))


def _asked_reading(job: Job, prepared: Prepared, target: Format) -> Reading:
    return job.sheet.deliver.file_reading(prepared.read.reading, declares=target.declares)


def _write_prepared(
    job: Job, received: Received, prepared: Prepared, target: Format, note: _Note
) -> tuple[Prepared, Written | None, Reading]:
    """Return what is written, with the reading it is in; where the format refuses, without steps that may refuse.

    Raises
    ------
    Refused
        If the format can't hold what the other steps come to.
    """
    refused: dict[int, str] = {}
    while True:
        reading = target.reading_out(_asked_reading(job, prepared, target))
        is_kin = target.is_kin(FORMATS[received.asset.format])
        write = target.write if is_kin else partial(_write_crossing, target)
        try:
            sized = at_ratio(prepared, received.asset, job.sheet.deliver.scale)
            return sized, write(received, sized.asset, reading), reading
        except Refused as error:
            # Which step the format can't hold is not told: the last that did something, and may refuse, goes first.
            may = [o.step for o in prepared.outcomes
                   if o.outcome == "applied" and job.sheet.steps[o.step - 1].may_refuse]  # fmt: skip
            if not may:
                raise
            refused[may[-1]] = str(error)
        again = _evaluate_job(job, received.asset, note, refused)
        if again is None:
            return prepared, None, reading
        prepared = again


def _prove_copies(written: Written, digests: Mapping[str, str], read: Future[dict[str, str]]) -> None:
    """Make sure that each file that goes along as it is has arrived so.

    Raises
    ------
    Failed
        With the one that has not.
    """
    for companion in written.companions:
        if companion.source is not None:
            before = read.result().get(companion.path) or sha256_of(companion.source)
            if before != digests[companion.path]:
                raise Failed(say("'{path}' is not the file that was to go along", path=companion.path))


def _write_crossing(target: Format, received: Received, asset: Asset, reading: Reading) -> Written:
    return cross(received, asset, target, reading)


def _stage_files(model: Path, source: Source, written: Written) -> None:
    """Put the model and its companions into a folder aside, laid out as they will lie."""
    if written.chunks is None:
        copy_file(source.path, model)
    else:
        write_chunks(model, written.chunks)
    for companion in written.companions:
        target = model.parent / companion.path
        if companion.source is None:
            write_chunks(target, companion.chunks)
        elif not target.exists():
            copy_file(companion.source, target)


def _list_brought(written: Written, folder: PurePosixPath) -> tuple[tuple[str, str], ...]:
    """Return each file that would go with a model: its path in the delivery, and its SHA-256."""
    return tuple(
        (folder.joinpath(c.path).as_posix(), sha256_of_chunks(c.chunks) if c.source is None else sha256_of(c.source))
        for c in {c.path: c for c in reversed(written.companions)}.values()
    )


def _list_companions(written: Written) -> list[str]:
    """Return the names, from the model's folder, of what goes with it, each once."""
    return list(dict.fromkeys(c.path for c in written.companions))
