"""What the command says, and how it ends: lines on stdout and stderr, signals, exit codes."""

from __future__ import annotations

import io
import os
import signal
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import typer

from oak_square.core.errors import BadUsage, one_line

__all__ = [
    "check_stopped",
    "code_of",
    "hung_up",
    "interrupted",
    "listed_paths",
    "print_on",
    "print_out",
    "progress",
    "say",
    "stoppable",
    "tell_at_once",
    "terminated",
    "unheard",
]


def print_out(text: str, end: str = "\n", *, flush: bool = False) -> None:
    """Print to whoever listens; where nobody does any more, as after `| head`, the command has done what it was for."""
    try:
        print(text, end=end, flush=flush)
    except BrokenPipeError as error:
        raise typer.Exit(unheard()) from error


def print_on(text: str, end: str = "\n", *, flush: bool = False) -> None:
    """Print to whoever listens, and go on where nobody does any more: the work is not done for what is said of it."""
    try:
        print(text, end=end, flush=flush)
    except BrokenPipeError:
        unheard()


def tell_at_once() -> None:
    """Have each line heard as it is printed, also by a file or a pipe: a command that goes on for days has no end."""
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(line_buffering=True)


def unheard() -> int:
    """Let the rest of stdout go nowhere; return the exit code."""
    # What is still to be flushed goes nowhere, without a word.
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


@contextmanager
def stoppable(said: str = "stopped; nothing was written") -> Iterator[None]:
    """Say in one line that work was stopped, and how it stands; end with the code that a shell expects."""
    try:
        yield
    except KeyboardInterrupt as error:
        say(said)
        raise typer.Exit(code_of(error)) from error


class _Terminated(KeyboardInterrupt):
    """A polite request to end, which Ctrl+C is too."""


class _HungUp(_Terminated):
    """The terminal is gone."""


_CAME: list[type[KeyboardInterrupt]] = []


def interrupted(*_: object) -> None:
    """End as Ctrl+C does: what its signal handler calls."""
    _CAME.append(KeyboardInterrupt)
    raise KeyboardInterrupt


def check_stopped() -> None:
    """Raise what was to end this command, and came where Python drops whatever is raised, as while it frees objects."""
    if _CAME:
        raise _CAME.pop()


def hung_up(*_: object) -> None:
    """End as Ctrl+C does, where the terminal is gone: nobody hears what is still said."""
    _CAME.append(_HungUp)
    for stream in (sys.stdout, sys.stderr):
        os.dup2(os.open(os.devnull, os.O_WRONLY), stream.fileno())
    raise _HungUp


def terminated(*_: object) -> None:
    """End as Ctrl+C does: what a signal handler calls."""
    _CAME.append(_Terminated)
    raise _Terminated


def code_of(error: BaseException) -> int:
    """Return the exit code that a shell expects of what a signal has ended."""
    _CAME.clear()  # it was heard
    # A run that was stopped says by what; it is not asked for its kind, which would load all that runs.
    ended_by = getattr(error, "by", error)
    if isinstance(ended_by, _HungUp):
        return 128 + signal.SIGHUP
    return 128 + (signal.SIGTERM if isinstance(ended_by, _Terminated) else signal.SIGINT)


def say(text: str) -> None:
    """Say one line on stderr."""
    print(one_line(text), file=sys.stderr)


def progress(done: int, total: int, entry: dict[str, Any]) -> None:
    """Show on a terminal how far a run is."""
    if sys.stderr.isatty():
        end = "\n" if done == total else ""
        print(f"\r\x1b[K{done}/{total} {one_line(entry['source'])[:60]}", end=end, file=sys.stderr, flush=True)


def listed_paths(paths: list[Path]) -> list[Path]:
    """Return paths with a `-` among them replaced by those that standard input lists, one a line.

    Raises
    ------
    BadUsage
        If it lists none, or is named twice.
    """
    if Path("-") not in paths:
        return paths
    if paths.count(Path("-")) > 1:
        raise BadUsage("-: standard input can be read once only")
    data = sys.stdin.buffer.read()
    names = [os.fsdecode(line) for line in data.split(b"\0" if b"\0" in data else b"\n") if line.strip()]
    if not names:
        raise BadUsage("-: standard input lists no paths")
    at = paths.index(Path("-"))
    return [*paths[:at], *(Path(name) for name in names), *paths[at + 1 :]]
