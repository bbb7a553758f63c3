"""A batch through a sheet: jobs spread over processes, results in the batch's order, one manifest."""

from __future__ import annotations

import hashlib
import json
import multiprocessing
import os
import resource
import signal
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

from oak_square import __version__
from oak_square.core.errors import BadUsage
from oak_square.delivery.batch import Source, check_outputs, output_of
from oak_square.delivery.files import copy_file, json_text, sha256_of, write_whole
from oak_square.delivery.preparing import Entry, Job, blank_entry, prepare
from oak_square.formats import FORMATS, LIMITS, format_of
from oak_square.sheet import Sheet, check_references, referred_to, unmatched_steps
from oak_square.steps import NO_SUCH_NODE

__all__ = ["CRASHED", "MANIFEST", "Run", "deliver", "in_processes", "risky"]

MANIFEST = "delivery.json"
_MANY_BYTES = 64_000_000
CRASHED = "its reader crashed, or ran out of memory or time"
"""What is said of a file whose process died over it."""
Progress = Callable[[int, int, Entry], None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """A request to deliver a batch.

    Attributes
    ----------
    sources : tuple of Source
    sheet : Sheet
    sheet_bytes : bytes
        The sheet's file, for its hash.
    out : Path
    jobs : int
        Processes; 0 chooses by the batch's size.
    dry, replace, resume : bool
    known : tuple of Source
        Further assets that steps may name, not delivered themselves.
    """

    sources: tuple[Source, ...]
    sheet: Sheet
    sheet_bytes: bytes
    out: Path
    jobs: int = 1
    dry: bool = False
    replace: bool = False
    resume: bool = False
    known: tuple[Source, ...] = ()


def deliver(run: Run, progress: Progress | None = None, cancelled: Callable[[], bool] | None = None) -> dict[str, Any]:
    """Deliver a batch and return its manifest, written to `delivery.json` unless the run is dry.

    Parameters
    ----------
    run : Run
    progress : callable of (done, all, manifest entry of the asset just done), optional
    cancelled : callable, optional
        Asked between assets; those not yet begun are then left out of the manifest.

    Raises
    ------
    BadUsage
        If the outputs can't be where they are asked for; nothing was written.
    BadReference
        If a step names an asset that is not there, or assets hang on one another in a circle; nothing was written.
    """
    by_file = {s.file: s for s in (*run.known, *run.sources)}
    names = check_references(run.sheet, list(by_file))
    others = {name: by_file[file] for name, file in names.items()}
    if run.sheet.deliver.format != "same" and run.sheet.deliver.format not in FORMATS:
        raise BadUsage(f"'{run.sheet.deliver.format}' is no format that this version writes")
    if not run.dry:
        check_outputs(run.sources, run.out, wanted=run.sheet.deliver.format, may_exist=run.replace or run.resume)
    digest = hashlib.sha256(run.sheet_bytes).hexdigest()
    kept = _kept_entries(run, digest, names) if run.resume and not run.dry else {}
    redo = run.replace or run.resume
    outputs = {output_of(s, run.sheet.deliver.format): s for s in run.sources}
    shared = frozenset(outputs)
    due = [
        Job(source=s, sheet=run.sheet, out=run.out, dry=run.dry, replace=redo, others=others, outputs=shared)
        for s in run.sources
        if s.file not in kept
    ]
    entries = dict(kept)
    for done, (job, entry) in enumerate(_results(due, run, cancelled), 1):
        entries[job.source.file] = entry
        if progress is not None:
            progress(len(kept) + done, len(run.sources), entry)
    if not run.dry:
        _join(run.out, entries, outputs)
    manifest = _manifest(run, digest, entries)
    if not run.dry:
        run.out.mkdir(parents=True, exist_ok=True)
        write_whole(run.out / MANIFEST, json_text(manifest).encode())
    return manifest


def _join(out: Path, entries: dict[str, Entry], outputs: dict[str, Source]) -> None:
    """See to models that others are made of: what those need must be what was delivered, else they fail."""
    by_output = {e["output"]: e for e in entries.values() if e["output"] is not None}
    for entry in entries.values():
        for companion in entry["companions"]:
            path = companion["path"]
            if path not in outputs or entry["output"] is None:
                continue
            other = by_output.get(path)
            if other is None and sha256_of(outputs[path].path) == companion["sha256"]:
                copy_file(outputs[path].path, out / path)
            elif other is None or other["output_sha256"] != companion["sha256"]:
                (out / entry["output"]).unlink(missing_ok=True)
                why = f"it is made of '{path}', which is delivered changed, as a model of its own: leave that out"
                entry.update(blank_entry(entry["source"], "failed", why), source_sha256=entry["source_sha256"])


def _manifest(run: Run, digest: str, entries: dict[str, Entry]) -> dict[str, Any]:
    ordered = [entries[name] for name in sorted(entries)]
    acted = {s["step"] for e in ordered for s in e["steps"] if s["detail"] != NO_SUCH_NODE}
    return {
        "oak_square": __version__,
        "sheet": {"title": run.sheet.title, "sha256": digest},
        "warnings": list(unmatched_steps(run.sheet, [s.file for s in run.sources], acted)),
        "assets": ordered,
    }


def _results(due: list[Job], run: Run, cancelled: Callable[[], bool] | None) -> Iterator[tuple[Job, Entry]]:
    jobs = run.jobs or _fitting_jobs(run.sources)
    alone = jobs == 1 or len(due) < 2
    here, apart = list[Job](), list[Job]()
    for job in due:
        (apart if not alone or risky(job.source) else here).append(job)
    for job in here:
        if cancelled is not None and cancelled():
            return
        yield job, prepare(job)
    for job, entry in in_processes(prepare, apart, jobs, cancelled):
        yield job, entry if entry is not None else {**blank_entry(job.source.file, "failed", CRASHED)}


def risky(source: Source) -> bool:
    """Tell whether reading a file could take the process down: it is then read in one of its own."""
    kind = format_of(source.path)
    return kind is not None and kind.reads_in_c(source.path)


def _fitting_jobs(sources: Sequence[Source]) -> int:
    size = sum(s.path.stat().st_size for s in sources if s.path.exists())
    return multiprocessing.cpu_count() if size > _MANY_BYTES else 1


def in_processes(
    work: Callable[[Any], Any],
    items: Sequence[Any],
    jobs: int,
    cancelled: Callable[[], bool] | None = None,
    *,
    niceness: int = 0,
) -> Iterator[tuple[Any, Any]]:
    """Yield each item with its result as they come; None for one whose process died.

    A process that dies takes its pool along: what was under way is tried again one by one, so that only the item
    that kills its process is lost. With `niceness` the processes give way to others.
    """
    context = multiprocessing.get_context("spawn")
    work = partial(_guarded, work)
    waiting, doubtful = list(reversed(items)), []
    while waiting:
        with ProcessPoolExecutor(min(jobs, len(waiting)), context, _settle_in, (niceness,)) as pool:
            running: dict[Future[Any], Any] = {}
            broken = False
            while (waiting or running) and not broken:
                if cancelled is not None and cancelled():
                    waiting.clear()
                while waiting and len(running) < 2 * jobs:
                    item = waiting.pop()
                    running[pool.submit(work, item)] = item
                for future in wait(running, return_when=FIRST_COMPLETED).done:
                    item = running.pop(future)
                    try:
                        yield item, future.result()
                    except BrokenProcessPool:
                        broken = True
                        doubtful.append(item)
            doubtful += running.values()
    for item in doubtful:
        with ProcessPoolExecutor(1, context, _settle_in, (niceness,)) as pool:
            try:
                yield item, pool.submit(work, item).result()
            except BrokenProcessPool:
                yield item, None


def _settle_in(niceness: int) -> None:
    """Make a process give way to others, and bound its memory."""
    os.nice(niceness)
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    # A quarter is left to all others, however much may be asked for.
    there = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") * 3 // 4
    ceiling = min(LIMITS.memory_bytes, max(there, 2_000_000_000))
    ceiling = ceiling if hard == resource.RLIM_INFINITY else min(ceiling, hard)
    resource.setrlimit(resource.RLIMIT_AS, (ceiling, hard))


def _guarded(work: Callable[[Any], Any], item: Any) -> Any:
    """Do a piece of work; when it takes too long, the process ends, C code and all."""
    signal.alarm(LIMITS.seconds)
    try:
        return work(item)
    finally:
        signal.alarm(0)


def _kept_entries(run: Run, digest: str, names: dict[str, str]) -> dict[str, Entry]:
    """Return the entries of an earlier manifest whose source, sheet, version and output are all as they were.

    What an asset is held against must be as it was too.
    """
    try:
        manifest = json.loads((run.out / MANIFEST).read_text("utf-8"))
        if manifest["oak_square"] != __version__ or manifest["sheet"]["sha256"] != digest:
            return {}
        earlier = {e["source"]: e for e in manifest["assets"]}
        there = {s.file: s for s in (*run.known, *run.sources)}
        others = {f: _hangs_on(run.sheet, f, names) for f in earlier}
        same = {
            f: f in earlier and f in there and sha256_of(there[f].path) == earlier[f]["source_sha256"]
            for f in {*names.values()} & {o for each in others.values() for o in each}
        }
        return {
            s.file: earlier[s.file]
            for s in run.sources
            if s.file in earlier and all(same[o] for o in others[s.file]) and _is_whole(run, s, earlier[s.file])
        }
    except (OSError, ValueError, KeyError, TypeError):
        return {}


def _hangs_on(sheet: Sheet, file: str, names: dict[str, str]) -> set[str]:
    """Return every asset that `file` is held against, directly or through others."""
    found: set[str] = set()
    due = [file]
    while due:
        fresh = set(referred_to(sheet, due.pop(), names)) - found
        found |= fresh
        due += fresh
    return found


def _is_whole(run: Run, source: Source, entry: Entry) -> bool:
    if entry["status"] not in {"delivered", "unchanged"} or sha256_of(source.path) != entry["source_sha256"]:
        return False
    there = [(entry["output"], entry["output_sha256"]), *((c["path"], c["sha256"]) for c in entry["companions"])]
    return all((run.out / path).is_file() and sha256_of(run.out / path) == digest for path, digest in there)
