"""The size book: what a thing of some name should measure. CSV in, CSV out, and what falls outside it."""

from __future__ import annotations

import csv
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from io import StringIO
from pathlib import PurePosixPath

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import EXTENTS
from oak_square.core.errors import BadBook, BadLength, did_you_mean, one_line
from oak_square.core.globs import names_file
from oak_square.core.lengths import format_length, parse_length
from oak_square.core.tolerances import BOOK_ROUNDING, SPECK
from oak_square.core.words import say

__all__ = ["COLUMNS", "MOST_BYTES", "BookEntry", "SizeBook", "Span", "book_of", "parse_book", "span_of"]

COLUMNS = ("pattern", *(f"{e}_{end}" for e in EXTENTS for end in ("min", "max")), "note")
MOST_BYTES = 4_000_000
_MOST_ENTRIES = 20_000


@dataclass(frozen=True, slots=True)
class Span:
    """A range of lengths, metres, as it was written; an end that is None is open."""

    low: float | None = None
    high: float | None = None
    low_text: str = ""
    high_text: str = ""

    @property
    def is_open(self) -> bool:
        """Whether it says nothing."""
        return self.low is None and self.high is None

    def words(self, told: Callable[[float], str] = format_length) -> str:
        """Return it as people say it: `0.9 m to 1 m`, `at least 0.9 m`."""
        if self.low is not None and self.high is not None:
            return say("{low} to {high}", low=told(self.low), high=told(self.high))
        if self.low is not None:
            return say("at least {low}", low=told(self.low))
        return say("at most {high}", high=told(self.high)) if self.high is not None else say("anything")

    def off_by(self, metres: float) -> float:
        """Return how far outside a length is as a natural logarithm of the ratio: 0 inside, below negative."""
        if self.low is not None and metres < self.low * (1 - BOOK_ROUNDING):
            return float(np.log(max(metres, SPECK) / max(self.low, SPECK)))
        if self.high is not None and metres > self.high * (1 + BOOK_ROUNDING):
            return float(np.log(metres / max(self.high, SPECK)))
        return 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BookEntry:
    """What assets of a name should measure: a span for width, height and depth."""

    pattern: str
    spans: tuple[Span, Span, Span]
    note: str = ""

    def covers(self, file: str) -> bool:
        """Tell whether the asset at `file` is meant, by its path or its name, with or without suffix."""
        return names_file((self.pattern,), file)

    def outside(self, size: NDArray[np.float64]) -> tuple[int, ...]:
        """Return which extents of `size`, (3,) metres, lie outside: 0 width, 1 height, 2 depth."""
        return tuple(k for k, span in enumerate(self.spans) if span.off_by(float(size[k])) != 0)

    def cells(self) -> list[str]:
        """Return the entry as a row of the file."""
        return [self.pattern, *(t for s in self.spans for t in (s.low_text, s.high_text)), self.note]


@dataclass(frozen=True, slots=True, kw_only=True)
class SizeBook:
    """Entries in the file's order; the first that covers an asset holds."""

    entries: tuple[BookEntry, ...] = ()

    def entry_for(self, file: str) -> BookEntry | None:
        """Return the entry that holds for the asset at `file`."""
        return next((e for e in self.entries if e.covers(file)), None)

    def text(self) -> str:
        """Return the book as CSV."""
        out = StringIO()
        rows = csv.writer(out, lineterminator="\n")
        rows.writerow(COLUMNS)
        rows.writerows(e.cells() for e in self.entries)
        return out.getvalue()


def parse_book(text: str, file: str) -> SizeBook:
    """Return the size book that CSV `text` says; `file` is named in errors.

    Raises
    ------
    BadBook
        With the line of the first mistake.
    """
    rows = csv.reader(StringIO(text), strict=True)
    entries: list[BookEntry] = []
    try:
        places = _find_columns(next(rows, []), file)
        for cells in rows:
            if any(c.strip() for c in cells):
                if len(entries) >= _MOST_ENTRIES:
                    raise BadBook(
                        file,
                        rows.line_num,
                        say("has more than the {_most_entries} entries a book may have", _most_entries=_MOST_ENTRIES),
                    )
                entries.append(_read_book_entry(cells, places, file, rows.line_num))
    except csv.Error as error:
        raise BadBook(file, rows.line_num, say("is no CSV: {error}", error=error)) from error
    return SizeBook(entries=tuple(entries))


def _find_columns(header: list[str], file: str) -> dict[str, int]:
    names = [h.strip().lstrip("\ufeff").lower() for h in header]
    if "pattern" not in names:
        raise BadBook(file, 1, say("is no size book: its first line should read {columns}", columns=",".join(COLUMNS)))
    for name in names:
        if name not in COLUMNS:
            raise BadBook(
                file,
                1,
                say(
                    "unknown column '{name}'{did_you_mean}",
                    name=one_line(name),
                    did_you_mean=did_you_mean(name, COLUMNS),
                ),
            )
        if names.count(name) > 1:
            raise BadBook(file, 1, say("has the column '{name}' twice", name=name))
    return {name: k for k, name in enumerate(names)}


def _read_book_entry(cells: list[str], places: dict[str, int], file: str, line: int) -> BookEntry:
    if len(cells) > len(places):
        raise BadBook(file, line, say("has {count} cells for {count_2} columns", count=len(cells), count_2=len(places)))

    def cell(name: str) -> str:
        place = places.get(name)
        return cells[place].strip() if place is not None and place < len(cells) else ""

    if not cell("pattern"):
        raise BadBook(file, line, say("has no pattern"))
    try:
        spans = [span_of(cell(f"{e}_min"), cell(f"{e}_max")) for e in EXTENTS]
    except BadLength as error:
        raise BadBook(file, line, str(error)) from error
    return BookEntry(pattern=cell("pattern"), spans=(spans[0], spans[1], spans[2]), note=cell("note"))


def span_of(low_text: str, high_text: str) -> Span:
    """Return the span between two cells; blank ones are open, bare numbers metres.

    Raises
    ------
    BadLength
        If one is no length, is below nothing, or they stand the wrong way round.
    """
    ends = [parse_length(t, bare=1.0) if t.strip() else None for t in (low_text, high_text)]
    for text, value in zip((low_text, high_text), ends, strict=True):
        if value is not None and value < 0:
            raise BadLength(say("'{text}' is below nothing, and no extent is", text=text))
    low, high = ends
    if low is not None and high is not None and low > high:
        raise BadLength(
            say(
                "'{low_text}' is more than '{high_text}': the smaller comes first",
                low_text=low_text,
                high_text=high_text,
            )
        )
    return Span(low, high, low_text.strip(), high_text.strip())


def book_of(sizes: Iterable[tuple[str, Sequence[float]]], *, slack: float = 0.02) -> SizeBook:
    """Return a book that says what a batch measures now, give or take `slack`.

    Parameters
    ----------
    sizes : iterable of (file, extents)
        Extents in metres. Files of one name share an entry that spans them all.
    slack : float, relative
    """
    ranges: dict[str, list[Sequence[float]]] = {}
    for file, size in sizes:
        ranges.setdefault(PurePosixPath(file).stem, []).append(size)
    entries = []
    for name, found in ranges.items():
        low, high = np.min(found, axis=0) * (1 - slack), np.max(found, axis=0) * (1 + slack)
        spans = [span_of(_format_metres(a), _format_metres(b)) for a, b in zip(low, high, strict=True)]
        entries.append(BookEntry(pattern=_as_pattern(name), spans=(spans[0], spans[1], spans[2])))
    return SizeBook(entries=tuple(entries))


def _as_pattern(name: str) -> str:
    return "".join(f"[{c}]" if c in "*?[" else c for c in name)


def _format_metres(value: float) -> str:
    return f"{value:.4g} m" if value >= 0.1 else f"{value * 1000:.4g} mm"
