"""The command that says what each format reads, writes and can carry."""

from __future__ import annotations

import json
from typing import Annotated, Any

import typer

from oak_square.commands.talk import print_out
from oak_square.formats.register import FORMATS

__all__ = ["formats_command"]


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
        kept, across = (_list_words(row[key]) for key in ("holds", "carries_across"))
        across = across if row["made_from_others"] else "not made from others"
        print_out(f"| {row['title']} | {' '.join(row['suffixes'])} | {says} | {kept} | {across} |")


def _list_words(words: list[str]) -> str:
    """Return what a format holds; but for its unit and axes, which stand by themselves."""
    told = [w for w in words if w != "unit and axes"]
    return ", ".join(told) or "triangles alone"
