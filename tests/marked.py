"""A language for tests: every word that can be translated stands between marks, and all else is seen not to be."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from pathlib import Path

from PySide6.QtCore import QTranslator

from oak_square import languages
from oak_square.core import words

SOURCE = Path(__file__).resolve().parent.parent / "translations" / "de.ts"
LEFT, RIGHT = "⟦", "⟧"
_PART = re.compile(r"(\{[^{}]*\})")


def begin() -> None:
    """Let this process say all between marks, before anything of it is imported that has words."""
    languages.speak_in("de")
    unfinished = _read_unfinished()
    german = QTranslator()
    assert german.load(str(languages._FOLDER / "de.qm"))

    def marked(pattern: str, sense: str, count: int) -> str:
        known = german.translate(languages.CONTEXT, pattern, sense, count)
        if not known and (pattern, sense) not in unfinished:
            return pattern
        runs = _PART.split(known or pattern)
        return "".join(run if k % 2 or not run else f"{LEFT}{run}{RIGHT}" for k, run in enumerate(runs))

    words.speak("de", marked)


def _read_unfinished() -> set[tuple[str, str]]:
    """Return the patterns and senses that have no German yet, which is none of this language's business."""
    return {
        (message.findtext("source") or "", message.findtext("comment") or "")
        for message in ET.parse(SOURCE).getroot().iter("message")
        if message.find("translation[@type='unfinished']") is not None
    }


def unmarked(text: str) -> str:
    """Return what of a text stands outside of all marks."""
    found, deep = [], 0
    for letter in text:
        deep += (letter == LEFT) - (letter == RIGHT)
        if not deep:
            found.append(" " if letter == RIGHT else letter)
    return "".join(found)
