"""What of a sheet is told along the axes of its delivery, and means something else once another axis is up."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from oak_square.core.errors import BadLength
from oak_square.core.lengths import parse_length
from oak_square.core.words import say
from oak_square.sheet.model import Deliver, Sheet

__all__ = ["meant_otherwise"]

_AXIS = re.compile(r"[+-][XYZ]")
_SIDES = ("point", "where", "up", "front", "for", "parts", "skip", "note")
"""What is told by sides, by axes of a file, or by names."""


def meant_otherwise(sheet: Sheet, deliver: Deliver) -> list[str]:
    """Return the steps, datums, berths and marks whose numbers would mean other places if it were delivered so."""
    if sheet.setting().up == sheet.model_copy(update={"deliver": deliver}).setting().up:
        return []
    steps = [(k, step) for k, step in enumerate(sheet.steps, 1) if _has_vectors(step.words())]
    found = [say("step {number} ({title})", number=k, title=step.title()) for k, step in steps]
    for word, things in (("datum", sheet.datums), ("berth", sheet.berths), ("mark", sheet.marks)):
        named = [name for name, thing in things.items() if _has_vectors(thing.model_dump())]
        found += [say("{kind} {name}", kind=word, name=name) for name in named]
    return found


def _has_vectors(words: Any) -> bool:
    """Tell whether a step's words have numbers along x, y and z that are not all nothing, or name such an axis."""
    if isinstance(words, Mapping):
        return any(_has_vectors(v) for key, v in words.items() if key not in _SIDES)
    if isinstance(words, list | tuple):
        if len(words) == 3 and all(map(_is_number, words)):
            return any(_read_length(v) != 0 for v in words)
        return any(v in ("x", "y", "z") or _has_vectors(v) for v in words)
    return isinstance(words, str) and _AXIS.fullmatch(words) is not None


def _is_number(value: Any) -> bool:
    return _read_length(value) is not None


def _read_length(value: Any) -> float | None:
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        return None
    try:
        return parse_length(value, bare=1.0, module=1.0)
    except BadLength:
        return None
