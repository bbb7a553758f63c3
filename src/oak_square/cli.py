"""The command `oak-square`: it finds the command that is asked for, loads that alone, and ends as it should."""

from __future__ import annotations

import io
import os
import signal
import sys
import warnings
from collections.abc import Callable
from functools import wraps
from importlib import import_module
from typing import Annotated, Any

import typer
from typer.core import TyperGroup

from oak_square.commands.talk import code_of, hung_up, interrupted, print_out, say, stoppable, terminated, unheard
from oak_square.core.errors import BadUsage, ChoiceTrouble, did_you_mean
from oak_square.core.words import in_english
from oak_square.delivery.workers import load_ahead
from oak_square.version import __version__

__all__ = ["COMMANDS", "main", "whole"]

COMMANDS: dict[str, tuple[str, str]] = {
    "open": ("window:open_command", "Open the window."),
    "demo": ("window:demo_command", "Open the window on the shipped batch, Fenwick Lock."),
    "survey": ("surveying:survey_command", "Read, measure and list what is not true; writes nothing."),
    "prep": ("delivering:prep_command", "Run a prep sheet over a batch, deliver, and prove each file."),
    "watch": ("delivering:watch_command", "Prepare, deliver and prove every file as it comes or changes."),
    "prove": ("delivering:prove_command", "Re-open a delivery and check it against its manifest."),
    "sheet": ("sheets:sheet_app", "Look at prep sheets."),
    "formats": ("formats:formats_command", "Say what each format reads, writes and can carry."),
}
"""Each command: where it stands, and the first line of its help, so that listing them loads none."""

_WORKED_BY = {
    "survey": ("oak_square.delivery.surveying",),
    "prep": ("oak_square.delivery.preparing", "oak_square.delivery.guessing"),
    "watch": ("oak_square.delivery.preparing", "oak_square.delivery.guessing"),
    "prove": ("oak_square.delivery.proving",),
}
"""What the processes load that a command has work done in."""


def main() -> None:
    """Run the command line; every trouble is one line on stderr and an exit code."""
    # A terminal that lacks a letter, and a name that is no UTF-8, show escapes.
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")
    signal.signal(signal.SIGTERM, terminated)
    if signal.getsignal(signal.SIGINT) is signal.default_int_handler:  # not where a shell has it ignored
        signal.signal(signal.SIGINT, interrupted)
    if signal.getsignal(signal.SIGHUP) is signal.SIG_DFL:  # not where `nohup` has it ignored
        signal.signal(signal.SIGHUP, hung_up)
    # What overflows in a hostile file is found and said by the survey and the proof; NumPy's own words help nobody.
    os.environ.setdefault("PYTHONWARNINGS", "ignore::RuntimeWarning")
    # Our models take no plugins: looking for some goes through all that is installed.
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")
    try:
        code = typer.main.get_command(app).main(standalone_mode=False)
    except typer.TyperException as error:
        say(error.format_message())
        code = 2
    except ChoiceTrouble as error:
        # The window may speak another language; the terminal has English.
        say("".join(in_english([str(error), error.options])))
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
        unheard()
    except OSError as error:
        unheard()
        say(f"standard output: {error.strerror or error}")
        code = 3
    sys.exit(code or 0)


class _Commands(TyperGroup):
    """Lists the commands by their table, and loads the one that is asked for."""

    def list_commands(self, ctx: Any) -> list[str]:
        return list(COMMANDS)

    def get_command(self, ctx: Any, cmd_name: str) -> Any:
        if cmd_name not in COMMANDS:
            raise BadUsage(f"No such command '{cmd_name}'{did_you_mean(cmd_name, list(COMMANDS))} (see --help)")
        if cmd_name in _WORKED_BY and "--help" not in sys.argv:
            # What reads files takes as long to load as the command itself: it does so beside it.
            load_ahead(*_WORKED_BY[cmd_name])
        return _load_command(cmd_name)

    def invoke(self, ctx: Any) -> Any:
        # Typer would end without a word, and as Ctrl+C does whatever has ended it.
        with stoppable("stopped"):
            return super().invoke(ctx)

    def format_commands(self, ctx: Any, formatter: Any) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, words) for name, (_, words) in COMMANDS.items()])


def _load_command(name: str) -> Any:
    module, _, attribute = COMMANDS[name][0].partition(":")
    found = getattr(import_module(f"oak_square.commands.{module}"), attribute)
    if not isinstance(found, typer.Typer):
        made = typer.Typer(add_completion=False, pretty_exceptions_enable=False, rich_markup_mode=None)
        made.command(name)(found)
        found = made
    command = typer.main.get_command(found)
    command.name = name
    if command.callback is not None:
        command.callback = _silence_warnings(command.callback)
    return command


def _silence_warnings(callback: Callable[..., Any]) -> Callable[..., Any]:
    """Return a command that says nothing of numbers that overflow: for as long as it runs, and no longer."""

    @wraps(callback)
    def run(*args: Any, **options: Any) -> Any:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", RuntimeWarning)
            return callback(*args, **options)

    return run


app = typer.Typer(cls=_Commands, add_completion=False, pretty_exceptions_enable=False, rich_markup_mode=None)


def whole() -> Any:
    """Return the whole command line as one group, every command loaded."""
    return typer.main.get_command(app)


def _tell_version(wanted: bool) -> None:
    if wanted:
        print_out(f"oak-square {__version__}")
        raise typer.Exit


@app.callback(invoke_without_command=True)
def _window_by_default(
    context: typer.Context,
    version: Annotated[
        bool, typer.Option("--version", callback=_tell_version, is_eager=True, help="Say which version this is.")
    ] = False,
) -> None:
    """Make batches of imported 3D models true, and prove what is delivered."""
    if context.invoked_subcommand is None:
        import_module("oak_square.commands.window").open_window([], None)
