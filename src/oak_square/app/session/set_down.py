"""What a sheet sets down at berths: which assets stand there, and what needs no settling for that."""

from __future__ import annotations

from collections.abc import Sequence

from oak_square.core.findings.finding import Finding
from oak_square.sheet.model import Sheet
from oak_square.steps.step import Step

__all__ = ["berth_in", "berth_of", "without_place"]

_PLACE = ("off-origin", "off-ground", "pivot-off-base", "shared-world")
"""What is found of where an asset stands in its file."""


def berth_in(step: Step) -> str:
    """Return the berth that a step sets assets down at as a whole; empty where it does something else."""
    words = step.words()
    at = words.get("at")
    whole = step.do == "place" and step.parts is None and not step.paused
    return str(at["berth"]) if whole and isinstance(at, dict) and "berth" in at else ""


def berth_of(sheet: Sheet, file: str) -> str:
    """Return the berth that the last step of a sheet to place an asset as a whole sets it down at; empty for none."""
    places = [s for s in sheet.steps if s.do == "place" and s.parts is None and not s.paused and s.covers(file)]
    return berth_in(places[-1]) if places else ""


def _is_placed_together(sheet: Sheet, file: str) -> bool:
    """Tell whether the last step of a sheet to place an asset as a whole moves it together with others."""
    places = [s for s in sheet.steps if s.do == "place" and s.parts is None and not s.paused and s.covers(file)]
    return bool(places) and places[-1].moves_together


def without_place(findings: Sequence[Finding], sheet: Sheet, file: str) -> tuple[Finding, ...]:
    """Return findings without those that tell where an asset stands, where a berth, or its group, has settled that."""
    if not berth_of(sheet, file) and not _is_placed_together(sheet, file):
        return tuple(findings)
    return tuple(f for f in findings if f.code not in _PLACE)
