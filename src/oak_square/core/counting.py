"""Numbers of things in words, right for one and for many."""

from __future__ import annotations

__all__ = ["counted", "ordinal"]


def counted(count: int, word: str, words: str = "") -> str:
    """Return `1 asset`, `3 assets`; `words` is the plural where it is not formed by an s."""
    return f"{count} {word if count == 1 else words or f'{word}s'}"


def ordinal(number: int) -> str:
    """Return `1st`, `2nd`, `3rd`, `4th`, `11th`."""
    ending = {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th") if number % 100 not in (11, 12, 13) else "th"
    return f"{number}{ending}"
