"""The languages of the window: which one is spoken, and where its words come from."""

from __future__ import annotations

import json
import os
from pathlib import Path

from PySide6.QtCore import QCoreApplication, QLibraryInfo, QLocale, QStandardPaths, QTranslator

from oak_square.core.words import speak

__all__ = ["CONTEXT", "LANGUAGES", "begin", "install", "speak_in", "wanted_language"]

LANGUAGES = ("en", "de")
"""What the window can speak; English needs no file."""

CONTEXT = "oak_square"
"""What all that is said stands under in a file of translations."""

_FOLDER = Path(__file__).parent
_MOST_BYTES = 1_000_000


def begin(*, kept: bool = True) -> str:
    """Let this process speak what is wanted, and return that; to be called before what has words is imported.

    `kept`: what was settled in an earlier run counts, and else what the desktop speaks; without it, English.
    """
    code = wanted_language(kept)
    speak_in(code)
    return code


def wanted_language(kept: bool) -> str:
    """Return the language that `OAK_SQUARE_LANGUAGE` names; or the one settled in the window, or the desktop's."""
    named = os.environ.get("OAK_SQUARE_LANGUAGE", "")
    if named in LANGUAGES or not kept:
        return named if named in LANGUAGES else "en"
    settled = _read_settled()
    if settled in LANGUAGES:
        return settled
    for name in QLocale.system().uiLanguages():
        code = name.replace("_", "-").partition("-")[0].lower()
        if code in LANGUAGES:
            return code
    return "en"


def speak_in(code: str) -> None:
    """Let this process say all in a language, its numbers and its dates with it."""
    country = {"de": QLocale.Country.Germany}.get(code, QLocale.Country.UnitedKingdom)
    kind = {"de": QLocale.Language.German}.get(code, QLocale.Language.English)
    locale = QLocale(kind, country)
    # Digits are read and written as those of our own are: in one run, with no mark between thousands.
    locale.setNumberOptions(QLocale.NumberOption.OmitGroupSeparator | QLocale.NumberOption.RejectGroupSeparator)
    QLocale.setDefault(locale)
    if code == "en":
        speak("en")
        return
    words = QTranslator()
    if not words.load(str(_FOLDER / f"{code}.qm")):
        raise FileNotFoundError(f"{_FOLDER / code}.qm: can't be read")

    def translated(pattern: str, sense: str, count: int) -> str:
        return words.translate(CONTEXT, pattern, sense, count) or ""

    speak(code, translated)


def install(app: QCoreApplication, code: str) -> None:
    """Let the words that are Qt's own, of its dialogs and keys, be in the same language."""
    if code == "en":
        return
    own = QTranslator(app)
    if own.load(f"qtbase_{code}", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)):
        app.installTranslator(own)


def _read_settled() -> str:
    """Return the language that the window's file of habits has; empty where it has none, or can't be read."""
    config = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericConfigLocation)
    try:
        with (Path(config) / "oak-square" / "window.json").open("rb") as file:
            found = json.loads(file.read(_MOST_BYTES))
    except (OSError, ValueError, RecursionError):
        return ""
    return str(found.get("language", "")) if isinstance(found, dict) else ""
