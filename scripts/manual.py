"""Writes the manual into docs/manual, from the package that ships it: `python scripts/manual.py`."""

from __future__ import annotations

import sys
from pathlib import Path

from oak_square.manual import pages

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "manual"


def written() -> dict[Path, str]:
    """Return every file of the manual, and what it holds."""
    pipeline = FOLDER.parent / "PIPELINE.md"  # others link to it where it always stood
    found = {pipeline if page.name == "pipeline" else FOLDER / f"{page.name}.md": page.text for page in pages()}
    lines = ["# The manual", "", "The same pages stand behind F1 in the window.", ""]
    places = {page.name: "../PIPELINE.md" if page.name == "pipeline" else f"{page.name}.md" for page in pages()}
    lines += [f"* [{page.title}]({places[page.name]})" for page in pages()]
    return found | {FOLDER / "README.md": "\n".join(lines) + "\n"}


if __name__ == "__main__":
    FOLDER.mkdir(parents=True, exist_ok=True)
    for path, text in written().items():
        path.write_text(text, "utf-8")
        print(path, file=sys.stderr)
