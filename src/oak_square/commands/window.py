"""The commands that open the window."""

from __future__ import annotations

import gc
import os
from collections.abc import Iterator
from contextlib import contextmanager
from importlib import import_module
from pathlib import Path
from types import ModuleType
from typing import Annotated

import typer

from oak_square.core.errors import BadUsage
from oak_square.display import has_display

__all__ = ["begin", "demo_command", "loaded", "open_command", "open_window"]


# What the window needs of others, and has nothing to say in any language.
_WITHOUT_QT = ("numpy", "pydantic", "ruamel.yaml", "concurrent.futures.process")
_SHEETS = {".yaml", ".yml"}


def open_command(
    paths: Annotated[list[Path] | None, typer.Argument(metavar="PATH…", help="What to open.")] = None,
    sheet: Annotated[Path | None, typer.Option(help="A prep sheet to start with.")] = None,
) -> None:
    """Open the window."""
    models = [path for path in paths or [] if path.suffix.lower() not in _SHEETS]
    sheets = [path for path in paths or [] if path.suffix.lower() in _SHEETS]
    if sheet is not None:
        sheets.append(sheet)
    if len(sheets) > 1:
        raise BadUsage(f"{sheets[1]}: one prep sheet is open at a time, and {sheets[0]} is named too")
    open_window(models, sheets[0] if sheets else None)


def open_window(paths: list[Path], sheet: Path | None) -> None:
    """Open the window on paths, or on nothing, and end with it."""
    begin(kept=True)
    from oak_square.delivery.batch import find_sources
    from oak_square.sheet.text import load_sheet

    find_sources(paths)
    if sheet is not None:
        load_sheet(sheet)
    # Qt and VTK take half a second to import; the other commands do without.
    _check_display()
    raise typer.Exit(loaded().run_window(paths=paths, sheet=sheet))


def begin(*, kept: bool) -> None:
    """Let this process speak the window's language, before what has words is imported."""
    with _hold_collection():
        # PySide looks through the source of all that is imported after it, to see whether that wants something of it.
        for name in _WITHOUT_QT:
            import_module(name)
        _window_part("oak_square.languages").begin(kept=kept)


def loaded() -> ModuleType:
    """Return what starts the window, once `begin` was called."""
    with _hold_collection():
        app = _window_part("oak_square.app.start")
        gc.freeze()
        return app


@contextmanager
def _hold_collection() -> Iterator[None]:
    """Keep what is loaded meanwhile from being looked through for what can be let go: all of it stays."""
    gc.disable()
    try:
        yield
    finally:
        gc.enable()


def _window_part(name: str) -> ModuleType:
    """Return a part of the window, which needs what only the extra of its name brings."""
    try:
        return import_module(name)
    except ModuleNotFoundError as error:
        if (error.name or "").split(".")[0] not in {"PySide6", "vtk", "vtkmodules"}:
            raise
        raise BadUsage(
            f"the window needs {error.name}: install 'oak-square[window]'; all else works without"
        ) from error


def _check_display() -> None:
    """Make sure that there is a display to show a window on: Qt ends the process where there is none."""
    if not os.environ.get("QT_QPA_PLATFORM") and not has_display():
        raise BadUsage("there is no display to show a window on; the other commands do without one (see --help)")


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
    begin(kept=shot is None)
    raise typer.Exit(loaded().run_demo(shot=shot, stage=stage, view=view))
