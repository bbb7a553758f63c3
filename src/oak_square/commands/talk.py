"""What the command says, and how it ends: lines on stdout and stderr, signals, exit codes."""

from __future__ import annotations

import os
import signal
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import typer

from oak_square.core.errors import one_line

__all__ = ["code_of", "listed_paths", "print_out", "progress", "say", "stoppable", "terminated", "unheard"]


def print_out(text: str, end: str = "\n", *, flush: bool = False) -> None:
    """Print to whoever listens; where nobody does any more, as after `| head`, the command has done what it was for."""
    try:
        print(text, end=end, flush=flush)
    except BrokenPipeError as error:
        raise typer.Exit(unheard()) from error


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


def terminated(*_: object) -> None:
    """End as Ctrl+C does: what a signal handler calls."""
    raise _Terminated


def code_of(error: BaseException) -> int:
    """Return the exit code that a shell expects of what a signal has ended."""
    # A run that was stopped says by what; it is not asked for its kind, which would load all that runs.
    ended_by = getattr(error, "by", error)
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
    """Return paths with a `-` among them replaced by those that standard input lists, one a line."""
    if Path("-") not in paths:
        return paths
    data = sys.stdin.buffer.read()
    names = [os.fsdecode(line) for line in data.split(b"\0" if b"\0" in data else b"\n") if line.strip()]
    at = paths.index(Path("-"))
    return [*paths[:at], *(Path(name) for name in names), *(p for p in paths[at + 1 :] if p != Path("-"))]
