"""A document as plain words and back: what a journal keeps of it, told by what differs from another one."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

from oak_square.app.session.aim import ScopeChoice
from oak_square.app.session.document import Document
from oak_square.app.session.grip import Grip
from oak_square.core.size_book import parse_book
from oak_square.core.words import say
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.measures import dump_measures, parse_measures
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS, Step

__all__ = ["document_of", "words_of"]


def words_of(document: Document, base: Document | None = None) -> dict[str, Any]:
    """Return a document as JSON can hold it; with a `base`, only what differs from that one."""
    told: dict[str, Any] = {}
    for name, words in _FIELDS.items():
        value = getattr(document, name)
        if base is None or not _is_same_value(value, getattr(base, name)):
            told[name] = words(value)
    return told


def document_of(words: Mapping[str, Any], base: Document | None = None) -> Document:
    """Return the document that such words tell of.

    Raises
    ------
    ValueError, KeyError, TypeError, OakSquareError
        If they are none.
    """
    read = {name: _READERS[name](value) for name, value in words.items()}
    return replace(base or Document(), **read)


def _is_same_value(one: object, other: object) -> bool:
    return one is other or (not isinstance(one, Sheet | SheetText) and one == other)


def _sheet_words(sheet: Sheet) -> dict[str, Any]:
    words = sheet.model_dump(by_alias=True, exclude_defaults=True, mode="json", exclude={"steps"})
    return {**words, "steps": [step.words() for step in sheet.steps]}


def _read_sheet(words: Mapping[str, Any]) -> Sheet:
    steps = tuple(_read_step(each) for each in words.get("steps", ()))
    return Sheet.model_validate({**words, "steps": ()}).model_copy(update={"steps": steps})


def _read_step(words: Mapping[str, Any]) -> Step:
    return STEPS[str(words["do"])].model_validate(words)


def _read_grip(words: Mapping[str, Any]) -> Grip:
    return Grip(**{**words, "aside": (str(words["aside"][0]), str(words["aside"][1]))})


def _read_aim(words: Mapping[str, Any]) -> ScopeChoice:
    told: dict[str, Any] = {k: tuple(v) if isinstance(v, list) else v for k, v in words.items()}
    return ScopeChoice(**told)


_FIELDS: Mapping[str, Any] = {
    "sheet": _sheet_words,
    "draft": lambda step: None if step is None else step.words(),
    "editing": lambda index: index,
    "aim": asdict,
    "grip": lambda grip: {**{k: getattr(grip, k) for k in grip.__slots__}, "aside": list(grip.aside)},
    "together": bool,
    "left_out": sorted,
    "measures": lambda found: json.loads(dump_measures(found)),
    "book": lambda book: None if book is None else book.text(),
    "book_path": lambda path: None if path is None else str(path),
    "path": lambda path: None if path is None else str(path),
    "typed": lambda typed: None if typed is None else typed.text,
}
_READERS: Mapping[str, Any] = {
    "sheet": _read_sheet,
    "draft": lambda words: None if words is None else _read_step(words),
    "editing": lambda index: None if index is None else int(index),
    "aim": _read_aim,
    "grip": _read_grip,
    "together": bool,
    "left_out": frozenset,
    "measures": lambda words: parse_measures(json.dumps(words), say("the journal")),
    "book": lambda text: None if text is None else parse_book(text, say("the journal")),
    "book_path": lambda path: None if path is None else Path(path),
    "path": lambda path: None if path is None else Path(path),
    "typed": lambda text: None if text is None else SheetText.of(text, say("the journal")),
}
