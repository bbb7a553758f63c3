"""The command `oak-square`. It only parses, calls, prints and exits."""

from __future__ import annotations

import io
import json
import os
import signal
import sys
from collections.abc import Callable
from functools import partial
from pathlib import Path
from types import ModuleType
from typing import Annotated, Any

import numpy as np
import typer

from oak_square.core.counting import counted
from oak_square.core.errors import BadUsage, ChoiceTrouble, did_you_mean, one_line
from oak_square.core.findings import LEVELS
from oak_square.core.lengths import format_size
from oak_square.core.likely.nouns import nouns
from oak_square.delivery import (
    Source,
    Surveyed,
    find_book,
    find_sources,
    in_processes,
    json_text,
    load_book,
    passed_over,
    survey_document,
    surveyed,
    told_apart,
    with_answers,
)
from oak_square.delivery.surveying import unreadable_entry
from oak_square.delivery_commands import Paths, SheetFile, prep_command, prove_command, watch_command
from oak_square.display import has_display
from oak_square.formats import FORMATS, format_of, made
from oak_square.sheet import differences, load_sheet, sheet_schema
from oak_square.talk import code_of, listed_paths, print_out, progress, say, stoppable, terminated, unheard

app = typer.Typer(add_completion=False, pretty_exceptions_enable=False, rich_markup_mode=None)
sheet_app = typer.Typer(add_completion=False, pretty_exceptions_enable=False, rich_markup_mode=None)
app.add_typer(sheet_app, name="sheet", help="Look at prep sheets.")


def main() -> None:
    """Run the command line; every trouble is one line on stderr and an exit code."""
    # A terminal that lacks a letter, and a name that is no UTF-8, show escapes.
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")
    signal.signal(signal.SIGTERM, terminated)
    # What overflows in a hostile file is found and said by the survey and the proof; NumPy's own words help nobody.
    os.environ.setdefault("PYTHONWARNINGS", "ignore::RuntimeWarning")
    try:
        with np.errstate(all="ignore"):
            code = typer.main.get_command(app).main(standalone_mode=False)
    except typer.TyperException as error:
        say(error.format_message())
        code = 2
    except ChoiceTrouble as error:
        say(f"{error}{error.options}")
        code = 2
    except KeyboardInterrupt as error:
        say("stopped")
        code = code_of(error)
    except OSError as error:
        say(f"{error.filename or 'oak-square'}: {error.strerror or error}")
        code = 3
    try:
        sys.stdout.flush()
    except BrokenPipeError:
        code = unheard()
    sys.exit(code or 0)


@app.callback(invoke_without_command=True)
def _window_by_default(context: typer.Context) -> None:
    """Make batches of imported 3D models true, and prove what is delivered."""
    if context.invoked_subcommand is None:
        _open_window([], None)


@app.command("open")
def open_command(
    paths: Annotated[list[Path] | None, typer.Argument(metavar="PATH…", help="What to open.")] = None,
    sheet: Annotated[Path | None, typer.Option(help="A prep sheet to start with.")] = None,
) -> None:
    """Open the window."""
    _open_window(paths or [], sheet)


def _open_window(paths: list[Path], sheet: Path | None) -> None:
    find_sources(paths)
    if sheet is not None:
        load_sheet(sheet)
    # Qt and VTK take half a second to import; the other commands do without.
    _check_display()
    raise typer.Exit(_app().run_window(paths=paths, sheet=sheet))


def _app() -> ModuleType:
    """Return the window's package, which needs what only the extra of its name brings."""
    try:
        from oak_square import app as window
    except ModuleNotFoundError as error:
        if (error.name or "").split(".")[0] not in {"PySide6", "vtk", "vtkmodules"}:
            raise
        raise BadUsage(
            f"the window needs {error.name}: install 'oak-square[window]'; all else works without"
        ) from error
    return window


def _check_display() -> None:
    """Make sure that there is a display to show a window on: Qt ends the process where there is none."""
    if not os.environ.get("QT_QPA_PLATFORM") and not has_display():
        raise BadUsage("there is no display to show a window on; the other commands do without one (see --help)")


@app.command("demo")
def demo_command(
    shot: Annotated[Path | None, typer.Option(help="Render the window, save a PNG, exit.")] = None,
    stage: Annotated[str | None, typer.Option(help="The stage to show.")] = None,
    view: Annotated[str | None, typer.Option(help="The view to show.")] = None,
) -> None:
    """Open the window on the shipped batch, Fenwick Lock."""
    if shot is None:
        _check_display()
    elif not has_display():
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    raise typer.Exit(_app().run_demo(shot=shot, stage=stage, view=view))


@app.command("survey")
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
    if fail_on is not None and fail_on not in LEVELS:
        raise BadUsage(f"--fail-on: '{fail_on}' is no level (note, check, fix){did_you_mean(fail_on, LEVELS)}")
    if to is not None and to not in made():
        raise BadUsage(f"--to: '{to}' is no format that is made ({', '.join(made())}){did_you_mean(to, made())}")
    paths = listed_paths(paths)
    book = size_book or find_book(paths)
    look = partial(surveyed, to=to, book=None if book is None else load_book(book))
    if size_book is None and book is not None and not as_json:
        print_out(f"held against the size book {one_line(str(book))}")
    sources = told_apart(find_sources(paths))
    passed = passed_over(paths)
    if passed:
        say(f"{passed} {'file is' if passed == 1 else 'files are'} no models, and passed over")
    nouns()  # a table that can't be read is a matter of the command, not of each file
    entries = with_answers(_surveyed(look, sources, jobs), None if book is None else load_book(book))
    if as_json:
        print_out(json_text(survey_document(entries)), end="")
    else:
        _print_survey(entries)
    for entry in entries:
        if entry["error"] is not None:
            say(f"{entry['file']}: {entry['error']}")
    raise typer.Exit(_survey_code(entries, fail_on, paths))


def _surveyed(work: Callable[[Source], Any], sources: list[Source], jobs: int) -> list[Surveyed]:
    """Return what each source comes to, in their order."""
    by_file: dict[str, Surveyed] = {}
    with stoppable():
        for source, found, why in in_processes(work, sources, jobs):
            kind = format_of(source.path)
            lost = Surveyed(entry=unreadable_entry(source.file, kind.key if kind else None, why))
            by_file[source.file] = found or lost
            progress(len(by_file), len(sources), {"source": source.file})
    return [by_file[s.file] for s in sources]


def _survey_code(entries: list[dict[str, Any]], fail_on: str | None, paths: list[Path]) -> int:
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
        levels = LEVELS[LEVELS.index(fail_on or "") :]
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
    for entry in entries:
        size = entry["size_m"]
        words = format_size(*size.values()) if size else "nothing to measure"
        print_out(f"{one_line(entry['file'])}  {words}")
        for f in entry["findings"]:
            print_out(f"  {f['level']:<5}  {f['code']:<16}  {one_line(f['message'])}")


app.command("prep")(prep_command)
app.command("watch")(watch_command)
app.command("prove")(prove_command)


@sheet_app.callback(invoke_without_command=True)
def sheet_command(
    context: typer.Context,
    schema: Annotated[bool, typer.Option("--schema", help="Print the JSON Schema of a prep sheet.")] = False,
) -> None:
    """Look at prep sheets."""
    if schema:
        print_out(json.dumps(sheet_schema(), indent=1, ensure_ascii=False))
        raise typer.Exit(0)
    if context.invoked_subcommand is None:
        raise BadUsage("sheet: say what: --schema, check F, or compare F G")


@sheet_app.command("check")
def sheet_check_command(sheet: SheetFile) -> None:
    """Validate a prep sheet."""
    loaded, _ = load_sheet(sheet)
    print_out(f"{one_line(str(sheet))}: {counted(len(loaded.steps), 'step')}, all well formed")


@sheet_app.command("compare")
def sheet_compare_command(
    sheet: SheetFile,
    other: Annotated[Path, typer.Argument(metavar="OTHER", help="The one it is held against.")],
) -> None:
    """Say what differs between two prep sheets, step by step; exit 1 when anything does."""
    found = differences(load_sheet(sheet)[0], load_sheet(other)[0])
    for line in found:
        print_out(one_line(line))
    print_out(f"{counted(len(found), 'difference')}" if found else "they say the same")
    raise typer.Exit(1 if found else 0)


@app.command("formats")
def formats_command(
    as_json: Annotated[bool, typer.Option("--json", help="Print one JSON document.")] = False,
) -> None:
    """Say what each format reads, writes and can carry."""
    rows: list[dict[str, Any]] = [
        {"format": f.key, "title": f.title, "suffixes": list(f.suffixes), "reads": True, "writes": True,
         "declares": f.declares, "holds": list(f.holds), "made_from_others": f.is_made, "carries_across": list(f.makes)}
        for f in FORMATS.values()
    ]  # fmt: skip
    if as_json:
        print_out(json.dumps({"formats": rows}, indent=1))
        return
    print_out("| format | files | unit and axes | kept in its own files | carried in from others |")
    print_out("| --- | --- | --- | --- | --- |")
    for row in rows:
        says = "declared" if row["declares"] else "assumed"
        kept, across = (_listed(row[key]) for key in ("holds", "carries_across"))
        across = across if row["made_from_others"] else "not made from others"
        print_out(f"| {row['title']} | {' '.join(row['suffixes'])} | {says} | {kept} | {across} |")


def _listed(words: list[str]) -> str:
    """Return what a format holds; but for its unit and axes, which stand by themselves."""
    told = [w for w in words if w != "unit and axes"]
    return ", ".join(told) or "triangles alone"


if __name__ == "__main__":
    main()
