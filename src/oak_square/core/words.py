"""Sentences that know what they were made of: English for files and scripts, another language for a window."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from functools import partial
from numbers import Integral, Real
from string import Formatter
from typing import Any, SupportsIndex

__all__ = [
    "Words",
    "capital",
    "counted",
    "either",
    "in_english",
    "joined",
    "language",
    "lowered",
    "number",
    "numbers_in_a_row",
    "one_or_many",
    "ordinal",
    "say",
    "speak",
]

# Of a pattern in one sense, for so many (-1: no number is told); empty where there are no words for it yet.
Translate = Callable[[str, str, int], str]


class Words(str):
    """Text in the language spoken in this process, which knows its English.

    It crosses between processes as what it was made of, and is in the language of the one it arrives in.
    """

    __slots__ = ("_make_words", "english")

    english: str
    _make_words: tuple[Any, ...]

    def __new__(cls, text: str, english: str, made: tuple[Any, ...]) -> Words:
        """`made` is the function that makes it anew, and what that is given."""
        new = super().__new__(cls, text)
        new.english, new._make_words = english, made
        return new

    def __str__(self) -> str:
        """Return itself, so that a message keeps its English on the way through an exception."""
        return self

    def __reduce__(self) -> tuple[Any, ...]:
        maker, *given = self._make_words
        return (_remake_words, (maker, tuple(given)))

    def __deepcopy__(self, memo: object) -> Words:
        return self

    def __add__(self, other: str) -> str:
        return joined("", (self, other))

    def __radd__(self, other: str) -> str:
        return joined("", (other, self))

    def replace(self, old: str, new: str, count: SupportsIndex = -1) -> str:
        """Do what `str.replace` does, in both languages."""
        return _change_text("replace", self, old, new, count)

    def strip(self, chars: str | None = None) -> str:
        """Do what `str.strip` does, in both languages."""
        return _change_text("strip", self, chars)

    def rstrip(self, chars: str | None = None) -> str:
        """Do what `str.rstrip` does, in both languages."""
        return _change_text("rstrip", self, chars)

    def removeprefix(self, prefix: str) -> str:
        """Do what `str.removeprefix` does, in both languages."""
        return _change_text("removeprefix", self, prefix)

    def removesuffix(self, suffix: str) -> str:
        """Do what `str.removesuffix` does, in both languages."""
        return _change_text("removesuffix", self, suffix)


_OWN: dict[str, Callable[[str], str]] = {
    "capital": lambda text: text[:1].upper() + text[1:],
    "lowered": lambda text: text[:1].lower() + text[1:],
}


class _Spoken(Formatter):
    """Fills a pattern with numbers written as the language spoken writes them."""

    def format_field(self, value: Any, format_spec: str) -> str:
        text: str = super().format_field(value, format_spec)
        if isinstance(value, float) or (isinstance(value, int) and "," in format_spec):
            return text.translate(_marks)
        return text


# What this process speaks: set once, before anything is said, or the words of constants stay English.
_language = "en"
_translate: Translate | None = None
_marks: dict[int, Any] = {}
_spoken = _Spoken()

_MARKS_OF: dict[str, dict[int, Any]] = {"en": {}, "de": str.maketrans(".,", ",.")}


def speak(code: str, translate: Translate | None = None) -> None:
    """Let all that is said from now on in this process be in another language.

    Parameters
    ----------
    code : str
        `en`, or `de`: the language whose marks numbers are written with.
    translate : callable, optional
        Returns a pattern of a sense in that language, in the form for so many, or nothing where it has no words for it
        yet: that is said in English. None for English.
    """
    global _language, _translate, _marks
    _language, _translate, _marks = code, translate, _MARKS_OF.get(code, {})


def language() -> str:
    """Return the language spoken in this process, `en` at first."""
    return _language


def say(pattern: str, sense: str = "", /, **parts: object) -> str:
    """Return what a pattern says with its parts put in, as `Words`.

    Parameters
    ----------
    pattern : str
        English, with `{name}` for each part, and `{name:.3g}` for one to be written so. A pattern without parts is
        taken as it stands. It is what the translations are looked up by.
    sense : str, optional
        Which of the meanings of a word is meant, where another language has different words for them.
    **parts
        Text, other `Words`, or numbers; of anything else, its text.
    """
    kept = {name: _keep_part(part) for name, part in parts.items()}
    return _make_words(pattern, pattern, sense, -1, kept, (say, pattern, sense, kept))


def one_or_many(count: int, one: str, many: str, /, **parts: object) -> str:
    """Return `one` or `many`, as `count` says, with its parts put in, and `{count}` among them.

    In a language with a translation, that for `many` has a form for each number that is told apart there.
    """
    kept = {"count": count} | {name: _keep_part(part) for name, part in parts.items()}
    return _make_words(one if count == 1 else many, many, "", count, kept, (one_or_many, count, one, many, kept))


def counted(count: int, word: str, words: str = "") -> str:
    """Return `1 asset`, `3 assets`; `words` is the plural where it is not formed by an s."""
    return one_or_many(count, "{count} " + word, "{count} " + (words or f"{word}s"))


def ordinal(count: int) -> str:
    """Return `1st`, `2nd`, `3rd`, `4th`, `11th`; in German `1.`."""
    ending = {1: "st", 2: "nd", 3: "rd"}.get(count % 10, "th") if count % 100 not in (11, 12, 13) else "th"
    english = f"{count}{ending}"
    return Words(f"{count}." if _language == "de" else english, english, (ordinal, count))


def number(text: str) -> str:
    """Return a number or a length in digits, written in English, with the marks of the language spoken."""
    return Words(text.translate(_marks) if _marks else text, text, (number, text))


def either(english: str, **others: str) -> str:
    """Return what is called `english`, as the language spoken calls it where `others` says that: `de="Poller"`."""
    return Words(others.get(_language) or english, english, (either, english, others))


def joined(between: str, texts: Iterable[str]) -> str:
    """Return texts one after the other, as `str.join` does, with the English of each kept."""
    texts = list(texts)
    english = (in_english(text) for text in (between, *texts))
    return Words(between.join(texts), next(english).join(english), (joined, between, texts))


def numbers_in_a_row(numbers: Iterable[str]) -> str:
    """Return numbers or lengths one after the other, parted by what is no mark in them."""
    return joined(either(", ", de="; "), numbers)


def capital(text: str) -> str:
    """Return a text with its first letter a capital."""
    return _change_text("capital", text) if isinstance(text, Words) else _OWN["capital"](text)


def lowered(text: str) -> str:
    """Return a text with its first letter small, where the language spoken has such words small."""
    if not isinstance(text, Words):
        return _OWN["lowered"](text)
    # German has its nouns with a capital wherever they stand.
    return Words(
        text[:] if _language == "de" else _OWN["lowered"](text[:]), _OWN["lowered"](text.english), (lowered, text)
    )


def in_english(document: Any) -> Any:
    """Return a document of mappings, lists and texts with all `Words` in it in English, as plain text."""
    if isinstance(document, Words):
        return document.english
    if isinstance(document, Mapping):
        return {in_english(key): in_english(value) for key, value in document.items()}
    if isinstance(document, list | tuple):
        return [in_english(value) for value in document]
    return document


def _change_text(how: str, words: Words, *given: Any) -> str:
    change = _OWN[how] if how in _OWN else partial(_as_str, how, given)
    # A slice of it is plain text, of which no more is known.
    return Words(change(words[:]), change(words.english), (_change_text, how, words, *given))


def _as_str(how: str, given: tuple[Any, ...], text: str) -> str:
    changed: str = getattr(text, how)(*given)
    return changed


def _make_words(
    english: str, key: str, sense: str, count: int, parts: Mapping[str, object], made: tuple[Any, ...]
) -> str:
    plain = english.format(**_take_english(parts)) if parts else english
    if _translate is None:
        return Words(plain, plain, made)
    spoken = _translate(key, sense, count) or english
    return Words(_spoken.vformat(spoken, (), parts) if parts else spoken, plain, made)


def _keep_part(part: object) -> object:
    """Return a part as it can be kept: nothing that may change, or that another process may not have."""
    if isinstance(part, Words) or type(part) in (str, int, float):
        return part
    if isinstance(part, Integral) and not isinstance(part, bool):
        return int(part)
    return float(part) if isinstance(part, Real) and not isinstance(part, bool) else str(part)


def _take_english(parts: Mapping[str, object]) -> dict[str, object]:
    return {name: part.english if isinstance(part, Words) else part for name, part in parts.items()}


def _remake_words(maker: Callable[..., str], given: tuple[Any, ...]) -> str:
    if given and isinstance(given[-1], dict):
        return maker(*given[:-1], **given[-1])
    return maker(*given)
