"""The commands that look at prep sheets."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer

from oak_square.commands.options import SheetFile
from oak_square.commands.talk import print_out
from oak_square.core.errors import BadUsage, one_line
from oak_square.core.words import counted
from oak_square.sheet.text import load_sheet

__all__ = ["sheet_app"]

sheet_app = typer.Typer(add_completion=False, pretty_exceptions_enable=False, rich_markup_mode=None)


@sheet_app.callback(invoke_without_command=True)
def sheet_command(
    context: typer.Context,
    schema: Annotated[bool, typer.Option("--schema", help="Print the JSON Schema of a prep sheet.")] = False,
) -> None:
    """Look at prep sheets."""
    if schema:
        from oak_square.sheet.schema import sheet_schema

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
    from oak_square.sheet.comparing import differences

    found = differences(load_sheet(sheet)[0], load_sheet(other)[0])
    for line in found:
        print_out(one_line(line))
    print_out(f"{counted(len(found), 'difference')}" if found else "they say the same")
    raise typer.Exit(1 if found else 0)
