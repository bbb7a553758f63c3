"""What a file has that no step changes, as its delivered self is to have it still, and may have more of."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from typing import Any

__all__ = ["TO_NOTHING", "Kept"]

TO_NOTHING = "to nothing"
"""What the form of a reference begins with that names something which is not there."""

Line = tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """Lines of a file, and the forms that all of them have.

    Attributes
    ----------
    lines : Counter of tuple
        How often each is there.
    forms : frozenset
        What each line is, without its place and its names: a copy of what was shared is like what it was copied from.
    near : Counter of (tuple, tuple)
        Each line by its place in the nearest node alone, wherever that hangs, with its form. Where that is a single
        word, which tells what stands there and no more, the line may go.
    made : frozenset
        Of the forms those that a file may have got with its pieces.
    """

    lines: Counter[Any]
    forms: frozenset[Any] = frozenset()
    near: Counter[tuple[Line, Line]] = field(default_factory=Counter)
    made: frozenset[Any] = frozenset()

    def is_in(self, other: object) -> bool:
        """Tell whether a delivered file has all of it, and beside it nothing but copies."""
        return isinstance(other, Kept) and not (self.lines - other.lines) and other.forms <= self.forms

    def is_told_in(self, other: object) -> bool:
        """Tell whether a delivered file has all of it, its nodes hung elsewhere, and parts of it cut into pieces.

        What the pieces have is like what the part had.
        """
        if not isinstance(other, Kept):
            return False
        old, new = ({form for _, form in kept.near} for kept in (self, other))
        lost = [form for (_, form) in self.near - other.near if len(form) > 1 and form not in new]
        leads_nowhere = any(form[0] == TO_NOTHING for form in other.forms - self.forms)
        return not lost and not leads_nowhere and new <= old | other.made
