"""Ratios to life: `1:12` is one that stands for twelve."""

from __future__ import annotations

import math
import re

from oak_square.core.errors import BadLength
from oak_square.core.words import say

__all__ = ["is_ratio", "parse_ratio"]

_NUMBER = r"(\d+(?:\.\d*)?|\.\d+)"
_RATIO = re.compile(rf"\s*{_NUMBER}\s*:\s*{_NUMBER}\s*\Z")


def is_ratio(text: object) -> bool:
    """Tell whether something is text that is meant as a ratio."""
    return isinstance(text, str) and ":" in text


def parse_ratio(text: str) -> float:
    """Return the quotient of a ratio such as `1:12`.

    Raises
    ------
    BadLength
        If it is not two positive, finite numbers with a colon between them.
    """
    found = _RATIO.match(text)
    parts = [float(part) for part in found.groups()] if found is not None else []
    if not parts or not all(0 < part < math.inf for part in parts) or not 0 < parts[0] / parts[1] < math.inf:
        raise BadLength(say("'{text}' is no ratio: a ratio is two positive numbers, such as 1:12", text=text[:40]))
    return parts[0] / parts[1]
