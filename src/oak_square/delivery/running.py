"""A batch through a sheet: jobs spread over processes, results in the batch's order, one manifest."""

from __future__ import annotations

import hashlib
import multiprocessing
import os
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import nullcontext
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from oak_square.core.errors import BadUsage, Occupied, one_line
from oak_square.core.likely.answers import Answer
from oak_square.core.words import say
from oak_square.delivery.batch import Source, check_outputs, conflicts, find_sources, output_of
from oak_square.delivery.cluster import Crew, connected
from oak_square.delivery.entries import ManifestEntry
from oak_square.delivery.files import Digests
from oak_square.delivery.guessing import guessed
from oak_square.delivery.landing import Landing, clashing
from oak_square.delivery.outbox import MANIFEST, Outbox
from oak_square.delivery.preparing import Job, prepare
from oak_square.delivery.proof_written import COMPARED, NOT_COMPARED
from oak_square.delivery.run import Run, Stopped, Unrecorded
from oak_square.delivery.set_out import SetOutPlan, blank_set_out, plan_set_out, write_set_out
from oak_square.delivery.staged import Landed, Staged
from oak_square.delivery.workers import fitting, in_processes
from oak_square.formats.register import FORMATS
from oak_square.sheet.evaluate import unmatched_steps
from oak_square.sheet.model import Sheet
from oak_square.sheet.references import go_together, hanging_on, named_assets
from oak_square.steps.step import NO_SUCH_NODE
from oak_square.version import __version__

__all__ = ["MANIFEST", "WOULD_STOP", "deliver"]

WOULD_STOP = say("it would stop: ")
"""What warnings of a dry run begin with that tell of what the run itself would not begin over."""
_MANY_BYTES = 64_000_000
Progress = Callable[[int, int, dict[str, Any]], None]


def deliver(
    run: Run,
    progress: Progress | None = None,
    cancelled: Callable[[], bool] | None = None,
    tell: Callable[[str], None] | None = None,
    abandoned: Callable[[], bool] | None = None,
) -> dict[str, Any]:
    """Deliver a batch and return its manifest, written to `delivery.json` unless the run is dry.

    Parameters
    ----------
    run : Run
    progress : callable of (done, all, manifest entry of the asset just done), optional
    cancelled : callable, optional
        Asked between assets; those not yet begun are then left out of the manifest.
    tell : callable of a line, optional
        Told what is odd about an earlier delivery that is resumed, and of workers that can't be used.
    abandoned : callable, optional
        As `cancelled`, and what is under way is ended too.

    Raises
    ------
    BadUsage
        If the outputs can't be where they are asked for, or the scheduler has no worker for it; nothing was delivered.
    BadReference
        If a step names an asset that is not there, or several; nothing was written.
    Stopped
        If the user stopped it; the manifest tells of what had landed.
    Unrecorded
        If the manifest can't be written.
    """
    by_file = {s.file: s for s in (*run.known, *run.sources)}
    names = named_assets(run.sheet, list(by_file))
    together = {file: file for file in go_together(run.sheet, list(by_file))}
    others = {name: by_file[file] for name, file in (together | names).items()}
    if run.sheet.deliver.format != "same" and run.sheet.deliver.format not in FORMATS:
        raise BadUsage(say("'{format}' is no format that this version writes", format=run.sheet.deliver.format))
    answers = guessed(run.sheet, list(by_file.values()), run.book, _count_processes(run), cancelled, abandoned)
    with _make_crew(run, tell) as crew:
        return _deliver_run(run, names, _Hands(others, crew, cancelled, abandoned, answers), progress, tell)


def _make_crew(run: Run, tell: Callable[[str], None] | None) -> Any:
    if not run.scheduler or not run.sources:
        return nullcontext()
    sight = [s.path.absolute() for s in run.sources[:1] if not s.trouble]
    return connected(run.scheduler, sight, run.jobs or len(run.sources), tell)


@dataclass(frozen=True, slots=True)
class _Hands:
    """What the work of a run needs: assets that steps name, a cluster's workers if any, what may end it, guesses."""

    others: dict[str, Source]
    crew: Crew | None
    cancelled: Callable[[], bool] | None
    abandoned: Callable[[], bool] | None
    answers: Mapping[str, Answer]


def _deliver_run(
    run: Run,
    names: dict[str, str],
    hands: _Hands,
    progress: Progress | None,
    tell: Callable[[str], None] | None,
) -> dict[str, Any]:
    digest = hashlib.sha256(run.sheet_bytes).hexdigest()
    may_exist = run.replace or run.resume
    plan = plan_set_out(run.sheet, run.sources, run.out, may_exist=may_exist or run.dry)
    if run.dry:
        return _try_run(run, digest, progress, hands)
    check_outputs(run.sources, run.out, wanted=run.sheet.deliver.format, may_exist=may_exist)
    outputs = {output_of(s, run.sheet.deliver.format): s for s in run.sources}
    box = Outbox(run.out, replace=may_exist, models=outputs)
    try:
        kept, beyond = _find_kept(run, digest, names, (box, hands.answers), tell) if run.resume else ({}, {})
        return _fill_outbox(run, digest, outputs, (box, kept, beyond, plan), progress, hands)
    finally:
        box.close()


def _try_run(run: Run, digest: str, progress: Progress | None, hands: _Hands) -> dict[str, Any]:
    """Return what a run would come to, with what would stop it among its warnings."""
    may_exist, ready = run.replace or run.resume, dict[str, Staged]()
    entries: dict[str, ManifestEntry] = {}
    for staged, _ in _yield_results(run, list(run.sources), None, hands):
        ready[staged.entry.source] = staged
        _take_entry(entries, staged.entry, run, progress)
    for file, why in clashing((ready[s.file] for s in run.sources if s.file in ready), run.out, may_exist).items():
        entries[file] = entries[file].given_up("failed", why)
    manifest = _make_manifest(run, digest, entries)
    in_the_way = [e for _, e in conflicts(run.sources, run.out, wanted=run.sheet.deliver.format, may_exist=may_exist)]
    try:
        plan_set_out(run.sheet, run.sources, run.out, may_exist=may_exist)
    except BadUsage as error:
        in_the_way.append(error)
    home = next(p for p in (run.out.absolute(), *run.out.absolute().parents) if p.exists())
    if home.is_dir() and not os.access(home, os.W_OK | os.X_OK):
        in_the_way.append(
            BadUsage(
                say(
                    "{out}: can't be delivered into: '{home}' may not be written in",
                    out=one_line(str(run.out)),
                    home=home,
                )
            )
        )
    there = [error for error in in_the_way if isinstance(error, Occupied)]
    said = [str(error) for error in in_the_way if not isinstance(error, Occupied)]
    if there:
        also = say(", and so do {count} more", count=len(there) - 1) if len(there) > 1 else ""
        said.append(say("{first}{also}{options}", first=str(there[0]), also=also, options=there[0].options))
    manifest["warnings"] += [say("{stop}{words}", stop=WOULD_STOP, words=words) for words in said]
    return manifest


def _fill_outbox(
    run: Run,
    digest: str,
    outputs: dict[str, Source],
    place: tuple[Outbox, dict[str, Landed], dict[str, Landed], SetOutPlan | None],
    progress: Progress | None,
    hands: _Hands,
) -> dict[str, Any]:
    box, kept, beyond, plan = place
    gone = {file: landed.entry for file, landed in beyond.items()}
    entries = {file: landed.entry for file, landed in kept.items()}
    due = [s for s in run.sources if s.file not in kept]
    stopped: KeyboardInterrupt | None = None
    landing = Landing(box)
    try:
        box.begin_journal(__version__, digest, [*kept.values(), *beyond.values()])
        for staged, number in _yield_results(run, due, box, hands):
            entry = landing.land(staged, number)
            if entry is not None:
                _take_entry(entries, entry, run, progress)
        for entry in landing.settle(entries, [s.file for s in run.sources]):
            _take_entry(entries, entry, run, progress)
    except KeyboardInterrupt as error:
        stopped = error
        # It may have come after an asset landed and before that was noted here: the journal knows.
        entries = {
            file: landed.entry for file, landed in box.noted(__version__, digest).items() if file not in gone
        } | entries
    except OSError as error:
        raise Unrecorded(_make_manifest(run, digest, entries | gone), error.strerror or str(error)) from error
    everything = landing.join(entries | gone, outputs)
    entries = {file: everything[file] for file in entries}
    manifest = _make_manifest(run, digest, everything)
    if plan is not None and stopped is None:
        by_file = {s.file: s for s in run.sources}
        manifest["set_out"], warnings = write_set_out(plan, run.sheet, by_file, entries, box, hands.answers)
        manifest["warnings"] += warnings
    if run.keeps:
        manifest["warnings"] += _list_untold(run.out, manifest)
    try:
        box.fold(manifest)
    except OSError as error:
        raise Unrecorded(manifest, error.strerror or str(error)) from error
    if stopped is not None:
        raise Stopped(manifest, len(run.sources), stopped)
    return manifest


def _take_entry(entries: dict[str, ManifestEntry], entry: ManifestEntry, run: Run, progress: Progress | None) -> None:
    entries[entry.source] = entry
    if progress is not None:
        progress(len(entries), len(run.sources), entry.as_json())


def _make_manifest(run: Run, digest: str, entries: dict[str, ManifestEntry]) -> dict[str, Any]:
    ordered = [entries[name] for name in sorted(entries)]
    acted = {s["step"] for e in ordered for s in e.steps if s["detail"] != NO_SUCH_NODE}
    found: dict[str, Any] = {
        "oak_square": __version__,
        "sheet": {"title": run.sheet.title, "sha256": digest} | _say_ratio(run.sheet),
        "warnings": list(unmatched_steps(run.sheet, [s.file for s in run.sources], acted)),
        "assets": [e.as_json() for e in ordered],
        "proof": {"compared": list(COMPARED), "not_compared": list(NOT_COMPARED)},
    }
    if run.sheet.set_out is not None:
        found["set_out"] = blank_set_out()
    return found


def _say_ratio(sheet: Sheet) -> dict[str, str]:
    return {} if sheet.deliver.ratio is None else {"ratio": sheet.deliver.ratio}


def _yield_results(run: Run, due: list[Source], box: Outbox | None, hands: _Hands) -> Iterator[tuple[Staged, int]]:
    """Yield each of the sources that are due as it is prepared, with its number."""
    processes = _count_processes(run)
    # The largest first: begun last, one alone would keep everybody waiting.
    ordered = sorted(due, key=_size_of, reverse=True) if processes > 1 or hands.crew else due
    others = (
        hands.others if hands.crew is None else {name: _make_absolute_source(s) for name, s in hands.others.items()}
    )
    jobs = [
        Job(
            source=s if hands.crew is None else _make_absolute_source(s),
            sheet=run.sheet,
            stage=None if box is None else box.stage(k).absolute(),
            number=k,
            others=others,
            answers={
                f: a for f in (s.file, *(o.file for o in others.values())) if (a := hands.answers.get(f)) is not None
            },
        )
        for k, s in enumerate(ordered)
    ]
    if hands.crew is None:
        results = in_processes(prepare, jobs, processes, hands.cancelled, abandoned=hands.abandoned)
    else:
        shop = None if box is None else box.stage(0).absolute().parent
        results = hands.crew.do(prepare, jobs, _read_by, shop, hands.cancelled, abandoned=hands.abandoned)
    for job, staged, why in results:
        lost = (
            None
            if staged is not None
            else Staged(entry=ManifestEntry(source=job.source.file, status="failed", reason=why))
        )
        yield lost or staged, job.number


def _make_absolute_source(source: Source) -> Source:
    """Return a source by paths that mean the same in whatever folder a worker was started."""
    return replace(source, path=source.path.absolute(), folder=source.folder.absolute())


def _read_by(job: Job) -> list[Path]:
    return [s.path for s in (job.source, *job.others.values()) if not s.trouble]


def _count_processes(run: Run) -> int:
    return run.jobs or _fitting_jobs(run.sources)


def _fitting_jobs(sources: Sequence[Source]) -> int:
    sizes = [_size_of(s) for s in sources]
    return fitting(sizes, multiprocessing.cpu_count()) if sum(sizes) > _MANY_BYTES else 1


def _size_of(source: Source) -> int:
    try:
        return source.path.stat().st_size
    except OSError:
        return 0


def _find_kept(
    run: Run,
    digest: str,
    names: dict[str, str],
    place: tuple[Outbox, Mapping[str, Answer]],
    tell: Callable[[str], None] | None,
) -> tuple[dict[str, Landed], dict[str, Landed]]:
    """Return what earlier runs recorded whose source, sheet, version and output are all as they were.

    What an asset is held against must be as it was too, and what is guessed of both. Second comes what stands of
    sources that are not in this run.
    """
    box, answers = place
    earlier, odd = box.earlier(__version__, digest)
    if odd and tell is not None:
        tell(f"{run.out}: {odd}")
    there = {s.file: s for s in (*run.known, *run.sources)}
    same = {
        f: _same_source(there[f], landed, run.digests) and _same_guess(run.sheet, landed.entry, answers.get(f))
        for f, landed in earlier.items()
        if f in there
    }
    gone = {file for file in earlier if file not in there}
    stale = hanging_on({f for f in there if not same.get(f)} | gone, run.sheet, (*there, *gone), names)
    kept = {
        s.file: earlier[s.file]
        for s in run.sources
        if same.get(s.file) and s.file not in stale and _is_whole(run, earlier[s.file].entry)
    }
    if not run.keeps:
        return kept, {}
    files = {s.file for s in run.sources}
    taken = {output_of(s, run.sheet.deliver.format).casefold() for s in run.sources}
    return kept, {
        file: landed
        for file, landed in earlier.items()
        if file not in files and _is_whole(run, landed.entry) and (landed.entry.output or "").casefold() not in taken
    }


def _list_untold(out: Path, manifest: dict[str, Any]) -> list[str]:
    """Return a warning for each model in a delivery that its manifest does not tell of."""
    told = {e["output"] for e in manifest["assets"]} | {c["path"] for e in manifest["assets"] for c in e["companions"]}
    told.add((manifest.get("set_out") or {}).get("output"))
    there = (s.path.relative_to(out).as_posix() for s in find_sources([out]))
    return [
        say("'{path}' lies here, and is not of this delivery", path=path) for path in sorted(there) if path not in told
    ]


def _same_source(source: Source, landed: Landed, digests: Digests) -> bool:
    """Tell whether a source, and all it is read from, is what was read for an earlier delivery."""
    if source.trouble or digests.of(source.path) != landed.entry.source_sha256:
        return False
    if landed.read is None:  # nobody wrote down what else it was read from
        return not landed.entry.companions
    folder = source.path.parent
    return all(digests.of(folder / path) == digest for path, digest in landed.read.items())


def _same_guess(sheet: Sheet, entry: ManifestEntry, answer: Answer | None) -> bool:
    """Tell whether what an entry says was guessed is what would be guessed now: the rest of its folder has a say."""
    if answer is None:
        return True
    guesses = {n: step for n, step in enumerate(sheet.steps, 1) if step.is_guess}
    for told in entry.steps:
        step = guesses.get(told["step"])
        if step is not None and not told["detail"].startswith(step.guess_words(answer)):
            return False
    return True


def _is_whole(run: Run, entry: ManifestEntry) -> bool:
    if not entry.is_delivered:
        return False
    home = os.path.realpath(run.out)
    there = [(str(entry.output), entry.output_sha256), *entry.brings]
    return all(
        Path(os.path.realpath(run.out / path)).is_relative_to(home) and run.digests.of(run.out / path) == digest
        for path, digest in there
    )
