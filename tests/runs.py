"""Whole runs, from a folder of sources to a delivery."""

from __future__ import annotations

from oak_square.delivery.batch import find_sources
from oak_square.delivery.proving import prove
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.sheet.text import parse_sheet


def through(folder, *steps):
    """Deliver the one model in `folder`/in through `steps`, given as lines of a sheet; return its manifest entry."""
    lines = "".join(f"  - {s}\n" for s in steps)
    text = f"prep-sheet: 1\nsteps:\n{lines}"
    sources, sheet = tuple(find_sources([folder / "in"])), parse_sheet(text, "s")
    run = Run(sources=sources, sheet=sheet, sheet_bytes=text.encode(), out=folder / "out", replace=True)
    return deliver(run)["assets"][0]


def deliver_as(folder, how, *steps):
    """Deliver all in `folder`/in as the sheet's `deliver` says; return the manifest."""
    text = f"prep-sheet: 1\ndeliver: {how}\nsteps: [{', '.join(steps)}]\n"
    sources, sheet = tuple(find_sources([folder / "in"])), parse_sheet(text, "s")
    return deliver(Run(sources=sources, sheet=sheet, sheet_bytes=text.encode(), out=folder / "out"))


def troubles(folder):
    """What does not hold of each asset of a delivery; None where all does."""
    return {p.name: p.trouble for p in prove(folder)}
