"""The command that surveys: it reads, measures, and lists what is not true."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from oak_square.commands.options import Paths
from oak_square.commands.talk import listed_paths, print_out, progress, say, stoppable
from oak_square.core.errors import BadUsage, did_you_mean, one_line
from oak_square.delivery.batch import Source, find_book, find_sources, passed_over, told_apart
from oak_square.delivery.documents import json_text, survey_document
from oak_square.formats.register import made

if TYPE_CHECKING:
    from oak_square.core.size_book import SizeBook

__all__ = ["survey_command"]


def survey_command(
    paths: Paths,
    size_book: Annotated[
        Path | None, typer.Option("--size-book", metavar="F.csv", help="What the assets should measure.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
    to: Annotated[str | None, typer.Option(metavar="FORMAT", help="Find what this format can't hold.")] = None,
    fail_on: Annotated[str | None, typer.Option(help="Exit 1 on a finding of this level: note, check or fix.")] = None,
    jobs: Annotated[int, typer.Option(min=1, help="Processes to read with.")] = 1,
) -> None:
    """Read, measure and list what is not true; writes nothing."""
    levels = [] if fail_on is None else _levels_from(fail_on)
    if to is not None and to not in made():
        raise BadUsage(f"--to: '{to}' is no format that is made ({', '.join(made())}){did_you_mean(to, made())}")
    paths = listed_paths(paths)
    book = size_book or find_book(paths)
    held = None if book is None else _read_book(book)
    if size_book is None and book is not None and not as_json:
        print_out(f"held against the size book {one_line(str(book))}")
    sources = told_apart(find_sources(paths))
    passed = passed_over(paths)
    if passed:
        say(f"{passed} {'file is' if passed == 1 else 'files are'} no models, and passed over")
    entries = _survey_sources(sources, held, to, jobs)
    if as_json:
        print_out(json_text(survey_document(entries)), end="")
    else:
        _print_survey(entries)
    for entry in entries:
        if entry["error"] is not None:
            say(f"{entry['file']}: {entry['error']}")
    raise typer.Exit(_survey_code(entries, fail_on, levels, paths))


def _levels_from(level: str) -> Sequence[str]:
    """Return a level of findings and those that are graver."""
    from oak_square.core.findings.finding import LEVELS

    if level not in LEVELS:
        raise BadUsage(f"--fail-on: '{level}' is no level ({', '.join(LEVELS)}){did_you_mean(level, LEVELS)}")
    return LEVELS[LEVELS.index(level) :]


def _read_book(path: Path) -> SizeBook:
    from oak_square.delivery.surveying import load_book

    return load_book(path)


def _survey_sources(sources: list[Source], book: SizeBook | None, to: str | None, jobs: int) -> list[dict[str, Any]]:
    """Return the survey of each source; what reads models is not loaded where there are none."""
    if not sources:
        return []
    from oak_square.core.likely.nouns import nouns
    from oak_square.delivery.surveying import survey_batch

    nouns()  # a table that can't be read is a matter of the command, not of each file
    with stoppable():
        return survey_batch(
            sources, book=book, to=to, jobs=jobs,
            told=lambda done, source: progress(done, len(sources), {"source": source.file}),
        )  # fmt: skip


def _survey_code(entries: list[dict[str, Any]], fail_on: str | None, levels: Sequence[str], paths: list[Path]) -> int:
    """Return the exit code of a survey, having said on stderr what makes it fail.

    Raises
    ------
    BadUsage
        If it is to fail on something and there is nothing to look at: a gate that sees nothing must not let pass.
    """
    where = ", ".join(map(str, paths))
    if not entries:
        if fail_on is not None:
            raise BadUsage(f"no models found in {where}: nothing was looked at")
        say(f"no models found in {where}")
        return 0
    bad = [e["file"] for e in entries if e["error"] is not None]
    failing = 0
    for entry in entries if fail_on is not None else ():
        grave = [f for f in entry["findings"] if f["level"] in levels and entry["error"] is None]
        if grave:
            failing += 1
            codes = dict.fromkeys(f["code"] for f in grave)
            say(f"{entry['file']}: fails on {fail_on}: {', '.join(codes)}")
    if fail_on is not None:
        unread = f", {len(bad)} can't be read" if bad else ""
        say(f"{failing} of {len(entries)} assets fail on {fail_on}{unread}")
    return 3 if bad else int(failing > 0)


def _print_survey(entries: list[dict[str, Any]]) -> None:
    if not entries:
        return
    from oak_square.core.lengths import format_size

    for entry in entries:
        size = entry["size_m"]
        words = format_size(*size.values()) if size else "nothing to measure"
        print_out(f"{one_line(entry['file'])}  {words}")
        for f in entry["findings"]:
            print_out(f"  {f['level']:<5}  {f['code']:<16}  {one_line(f['message'])}")
