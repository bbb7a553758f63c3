"""The commands that deliver, and the one that proves a delivery afterwards."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any

import typer

from oak_square.commands.options import Paths, SheetFile
from oak_square.commands.talk import (
    check_stopped,
    code_of,
    listed_paths,
    print_on,
    progress,
    say,
    stoppable,
    tell_at_once,
)
from oak_square.core.errors import BadReference, BadSheet, BadUsage, ChoiceTrouble, one_line
from oak_square.core.lengths import format_size
from oak_square.delivery.batch import find_sources
from oak_square.delivery.documents import json_text
from oak_square.delivery.files import Digests
from oak_square.delivery.guessing import book_for
from oak_square.delivery.pictures import Pictured, pictures_of
from oak_square.delivery.proving import Proved, prove
from oak_square.delivery.report import check_reports, write_reports
from oak_square.delivery.run import Run, Stopped, Unrecorded
from oak_square.delivery.running import WOULD_STOP, deliver
from oak_square.delivery.watching import watching
from oak_square.sheet.text import load_sheet, step_line

__all__ = ["prep_command", "prove_command", "watch_command"]

Entry = dict[str, Any]
Drawn = dict[tuple[str, str, str], Pictured]
Folders = Annotated[list[Path], typer.Argument(metavar="DIR…", help="Folders that models come into.")]
Out = Annotated[Path, typer.Option(help="The folder to deliver into.")]
Reports = Annotated[
    list[Path] | None,
    typer.Option("--report", metavar="F.html|F.csv|F.json", help="Write what the run came to; any number of times."),
]


Quiet = Annotated[bool, typer.Option("--quiet", help="Print nothing but what went wrong.")]
Lines = Annotated[bool, typer.Option("--json-lines", help="Print a JSON line for each asset once it is done.")]


@dataclass(frozen=True, slots=True)
class Voice:
    """How a run tells on stdout what comes of it: in words, not at all, a line for each asset, or in one document."""

    quiet: bool = False
    lines: bool = False
    document: bool = False

    def __post_init__(self) -> None:
        if self.quiet + self.lines + self.document > 1:
            raise BadUsage("--quiet, --json and --json-lines exclude one another")

    def landed(self, done: int, total: int, entry: Entry) -> None:
        """Tell of an asset that is done."""
        if self.lines:
            print_on(json_text({"done": done, "of": total, "asset": entry}, indent=None), end="", flush=True)
        elif not self.quiet:
            progress(done, total, entry)

    def ended(self, entries: Iterable[Entry], manifest: dict[str, Any], dry: bool = False) -> None:
        """Tell what happened to some assets, and what all came to; what went wrong is said in any case."""
        for entry in entries:
            if not _say_failure(entry) and self == Voice():
                self._of_asset(entry, dry)
        counts = Counter(entry["status"] for entry in manifest["assets"])
        if self.lines:
            print_on(json_text({"totals": counts, "warnings": manifest["warnings"]}, indent=None), end="", flush=True)
        elif self.document:
            print_on(json_text(manifest), end="")
        elif not self.quiet:
            total = ", ".join(f"{n} {status}" for status, n in counts.items()) or "nothing to deliver"
            print_on(f"{'would be: ' if dry else ''}{total}")

    def _of_asset(self, entry: Entry, dry: bool) -> None:
        size, status = entry["size_after_m"], f"{'would be ' if dry else ''}{entry['status']}"
        print_on(f"{one_line(entry['source'])}  {status}  {format_size(*size.values()) if size else 'empty'}")
        for warning in entry["warnings"]:
            print_on(f"  {one_line(warning)}")


def prep_command(  # noqa: PLR0913 - a command's options
    sheet: SheetFile,
    paths: Paths,
    out: Out,
    jobs: Annotated[int, typer.Option(min=0, help="Processes; 0 chooses by the batch's size.")] = 0,
    dry_run: Annotated[bool, typer.Option("--dry-run", help="Say what would happen; write nothing else.")] = False,
    resume: Annotated[bool, typer.Option("--resume", help="Keep what is whole, redo the rest.")] = False,
    replace: Annotated[bool, typer.Option("--replace", help="Overwrite an earlier delivery.")] = False,
    report: Reports = None,
    scheduler: Annotated[
        str, typer.Option(metavar="ADDR|local:N", help="Work on a Dask cluster there, or on N workers started here.")
    ] = "",
    quiet: Quiet = False,
    lines: Lines = False,
    document: Annotated[bool, typer.Option("--json", help="Print the manifest in the end, and nothing else.")] = False,
) -> None:
    """Run a prep sheet over a batch, deliver, and prove each file."""
    voice = Voice(quiet, lines, document)
    check_reports(report or [], out)
    loaded, data = load_sheet(sheet)
    paths = listed_paths(paths)
    run = Run(
        sources=tuple(find_sources(paths)),
        sheet=loaded,
        sheet_bytes=data,
        out=out,
        jobs=jobs,
        scheduler=scheduler,
        dry=dry_run,
        replace=replace,
        resume=resume,
        book=book_for(loaded, paths),
    )
    if not run.sources:
        say(f"no models found in {', '.join(map(str, paths))}")
    manifest = _deliver_and_report(run, sheet, report or [], voice)
    voice.ended(manifest["assets"], manifest, dry_run)
    raise typer.Exit(_find_exit_code(manifest))


def watch_command(  # noqa: PLR0913 - a command's options
    sheet: SheetFile,
    folders: Folders,
    out: Out,
    report: Reports = None,
    once: Annotated[bool, typer.Option("--once", help="Prepare what there is, and end as prep does.")] = False,
    quiet: Quiet = False,
    lines: Lines = False,
    document: Annotated[bool, typer.Option("--json", help="Print the manifest in the end, and nothing else.")] = False,
) -> None:
    """Prepare, deliver and prove every file as it comes or changes."""
    tell_at_once()
    voice, last = Voice(quiet, lines, document), _Last()
    check_reports(report or [], out)
    loaded, data = load_sheet(sheet)
    digests, drawn = Digests(), Drawn()
    # It may be ended at any moment, also between a run and the next.
    stands = f"stopped; what stands in {out} is whole and recorded"
    with last.told(voice), stoppable(stands), watching(folders, out, say) as watcher:
        while True:
            sources = watcher.wait(for_all=once, check=check_stopped)
            run = Run(
                sources=sources,
                sheet=loaded,
                sheet_bytes=data,
                out=out,
                jobs=0,
                resume=True,
                keeps=True,
                digests=digests,
                book=book_for(loaded, folders),
            )
            fresh: list[Entry] = []
            try:
                last.manifest = manifest = _deliver_and_report(
                    run, sheet, report or [], voice, fresh, drawn, last.warned
                )
            except ChoiceTrouble as error:
                if once:
                    raise
                say(f"{error}; waiting for a change")
                continue
            if document:
                for entry in fresh:
                    _say_failure(entry)
            else:
                voice.ended(fresh, manifest)
            if once:
                raise typer.Exit(_find_exit_code(manifest))


def _deliver_and_report(
    run: Run,
    sheet: Path,
    reports: list[Path],
    voice: Voice,
    fresh: list[Entry] | None = None,
    drawn: Drawn | None = None,
    warned: set[str] | None = None,
) -> dict[str, Any]:
    """Deliver, write the reports, and return the manifest; what was done anew is added to `fresh`.

    What the batch is warned of is said unless it is in `warned`, and added there. Pictures for a page are added to
    `drawn`, and what is there is not drawn again.
    """

    def landed(done: int, total: int, entry: Entry) -> None:
        voice.landed(done, total, entry)
        if fresh is not None:
            fresh.append(entry)

    def write(manifest: dict[str, Any]) -> None:
        pages = not run.dry and any(path.suffix.lower() == ".html" for path in reports)
        pictures = pictures_of(manifest, run.sources, run.sheet, run.out, run.jobs, drawn, run.book) if pages else None
        write_reports(reports, manifest, pictures)

    try:
        manifest = deliver(run, landed, tell=say)
    except BadReference as error:
        raise BadSheet(str(sheet), step_line(run.sheet_bytes, error.step), str(error)) from error
    except Stopped as error:
        write_reports(reports, error.manifest)
        there = sum(e["output"] is not None for e in error.manifest["assets"])
        say(f"stopped: {there} of {error.total} assets stand in {run.out}, proved and recorded; --resume does the rest")
        raise typer.Exit(code_of(error)) from error
    except Unrecorded as error:
        if error.stands:
            write(error.manifest)
            voice.ended(error.manifest["assets"], error.manifest, run.dry)
        say(f"{run.out}: {error}{error.options}")
        raise typer.Exit(3) from error
    try:
        write(manifest)
    except KeyboardInterrupt:
        write_reports(reports, manifest)
        raise
    for warning in manifest["warnings"]:
        if warned is not None and warning in warned:
            continue
        say(warning if warning.startswith(WOULD_STOP) else f"{sheet}: {warning}")
    if warned is not None:
        warned.clear()
        warned.update(manifest["warnings"])
    return manifest


def _say_failure(entry: Entry) -> bool:
    """Say why an asset was not delivered; tell whether there was that to say."""
    if entry["status"] not in {"refused", "failed"}:
        return False
    say(f"{entry['source']}: {entry['status']}: {entry['reason']}")
    return True


class _Last:
    """The last manifest of a watch, what was warned of in the last run, and the one document that it ends with."""

    def __init__(self) -> None:
        self.manifest: dict[str, Any] | None = None
        self.warned: set[str] = set()

    @contextmanager
    def told(self, voice: Voice) -> Iterator[None]:
        try:
            yield
        finally:
            if voice.document and self.manifest is not None:
                print_on(json_text(self.manifest), end="")


def _find_exit_code(manifest: dict[str, Any]) -> int:
    if any(w.startswith(WOULD_STOP) for w in manifest["warnings"]):  # a dry run ends as the run would
        return 2
    return 3 if any(e["status"] in {"refused", "failed"} for e in manifest["assets"]) else 0


def prove_command(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="A delivery.")],
    quiet: Quiet = False,
    document: Annotated[bool, typer.Option("--json", help="Print what was found as one document.")] = False,
    lines: Lines = False,
) -> None:
    """Re-open a delivery and check it against its manifest."""
    Voice(quiet, lines, document)  # which says what excludes what

    def proved(done: int, total: int, each: Proved) -> None:
        if lines:
            row = {"done": done, "of": total, "asset": _proved_row(each)}
            print_on(json_text(row, indent=None), end="", flush=True)

    with stoppable():
        results = prove(folder, told=proved)
    wrong = [r for r in results if r.trouble is not None]
    for each in wrong:
        say(f"{each.name}: {each.trouble}")
    if document:
        print_on(json_text({"holds": not wrong, "assets": [_proved_row(r) for r in results]}), end="")
    elif lines:
        totals = {word: n for word, n in (("holds", len(results) - len(wrong)), ("does not hold", len(wrong))) if n}
        print_on(json_text({"totals": totals, "warnings": []}, indent=None), end="", flush=True)
    elif not quiet:
        moving = [r.times for r in results if r.trouble is None and r.times]
        also = f", {len(moving)} of them at {sum(moving)} times of their clips too" if moving else ""
        print_on(f"{len(results) - len(wrong)} of {len(results)} hold{also}")
    raise typer.Exit(1 if wrong else 0)


def _proved_row(each: Proved) -> dict[str, Any]:
    return {"output": each.name, "holds": each.trouble is None, "reason": each.trouble}
