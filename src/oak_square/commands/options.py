"""Arguments that several commands take."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

__all__ = ["Paths", "SheetFile"]

Paths = Annotated[list[Path], typer.Argument(metavar="PATH…", help="Model files, or folders to search.")]
SheetFile = Annotated[Path, typer.Argument(metavar="SHEET", help="A prep sheet (*.prepsheet.yaml).")]
