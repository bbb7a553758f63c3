"""What becomes of a step that is open in a form when something in the form changes: that, and nothing else."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

__all__ = ["SHARED", "edited", "own_words"]

SHARED = ("for", "parts", "skip", "paused", "may-refuse", "all", "note", "together")
"""What a step of any kind may say; it is shown above and below the form of the stage."""


def edited(step: Mapping[str, Any], told: Mapping[str, Any], wished: Mapping[str, Any]) -> dict[str, Any]:
    """Return a step's words after an edit in a form.

    Parameters
    ----------
    step : mapping
        The words of the step that is open.
    told : mapping
        What of them the form shows, as it would say it.
    wished : mapping
        What the form says now; empty where what it shows was cleared.
    """
    shared = {k: step[k] for k in SHARED if k in step}
    if wished and wished["do"] != step["do"]:
        return {**wished, **shared}
    gone = set(told) - set(wished) - {"do"}
    changed = {k: v for k, v in wished.items() if k not in told or told[k] != v}
    left = {**{k: v for k, v in step.items() if k not in gone}, **changed}
    # Of a step that says nothing any more there is none.
    return left if set(left) - {"do", *shared} or not gone else {}


def own_words(step: Mapping[str, Any]) -> dict[str, Any]:
    """Return what the form of a step's stage shows of its words; what else it says has rows of its own."""
    return {k: v for k, v in step.items() if k not in (*SHARED, "of")}
