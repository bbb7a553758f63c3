"""What a file has that no step changes, as its delivered self is to have it still, and may have more of."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Any

__all__ = ["Kept"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """Lines of a file, and the forms that all of them have.

    Attributes
    ----------
    lines : Counter of tuple
        How often each is there.
    forms : frozenset
        What each line is, without its place and its names: a copy of what was shared is like what it was copied from.
    """

    lines: Counter[tuple[str, ...]]
    forms: frozenset[Any] = frozenset()

    def is_in(self, other: object) -> bool:
        """Tell whether a delivered file has all of it, and beside it nothing but copies."""
        return isinstance(other, Kept) and not (self.lines - other.lines) and other.forms <= self.forms
