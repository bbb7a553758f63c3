"""A language for tests: every word that has a German one stands between marks, and all else is seen to have none."""

from __future__ import annotations

import re

from PySide6.QtCore import QTranslator

from oak_square import languages
from oak_square.core import words

LEFT, RIGHT = "⟦", "⟧"
_PART = re.compile(r"(\{[^{}]*\})")


def begin() -> None:
    """Let this process say all between marks, before anything of it is imported that has words."""
    languages.speak_in("de")
    german = QTranslator()
    assert german.load(str(languages._FOLDER / "de.qm"))

    def marked(pattern: str, sense: str, count: int) -> str:
        known = german.translate(languages.CONTEXT, pattern, sense, count)
        if not known:
            return pattern
        runs = _PART.split(known)
        return "".join(run if k % 2 or not run else f"{LEFT}{run}{RIGHT}" for k, run in enumerate(runs))

    words.speak("de", marked)


def unmarked(text: str) -> str:
    """Return what of a text stands outside of all marks."""
    found, deep = [], 0
    for letter in text:
        deep += (letter == LEFT) - (letter == RIGHT)
        if not deep:
            found.append(" " if letter == RIGHT else letter)
    return "".join(found)
