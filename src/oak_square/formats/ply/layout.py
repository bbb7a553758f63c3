"""The header of a PLY file, and where the rows of its elements lie.

Follows the description by its author (G. Turk, "The PLY Polygon File Format", 1994). Values are seen alike in text and
in binary: a `Table` says where each property of each row is, in bytes or in words.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.limits import Limits
from oak_square.formats.shared.text_edit import in_utf8, token_spans

__all__ = ["Header", "Lists", "Numbers", "Property", "Table", "parse_header", "tables_of"]

Ints = NDArray[np.int64]
_TYPES = {
    "char": "i1", "uchar": "u1", "short": "i2", "ushort": "u2", "int": "i4", "uint": "u4", "float": "f4",
    "double": "f8", "int8": "i1", "uint8": "u1", "int16": "i2", "uint16": "u2", "int32": "i4", "uint32": "u4",
    "float32": "f4", "float64": "f8",
}  # fmt: skip
_ORDERS = {"ascii": "", "binary_little_endian": "<", "binary_big_endian": ">"}
_LARGEST_HEADER = 1_000_000
_MOST_PROPERTIES = 1000
_MOST_LEFT = 16


@dataclass(frozen=True, slots=True, kw_only=True)
class Property:
    """A column: its type, and that of its count where it is a list."""

    name: str
    kind: str
    count_kind: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlyElement:
    """A kind of row."""

    name: str
    count: int
    properties: tuple[Property, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Header:
    """What a file declares; `order` is its byte order, empty for text; `end` where its rows begin."""

    order: str
    elements: tuple[PlyElement, ...]
    comments: tuple[str, ...]
    end: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Lists:
    """A list property's rows: how long each is, and where its items start, in bytes or words."""

    counts: Ints
    starts: Ints


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """An element's rows.

    Attributes
    ----------
    start, stride : int
        Of the first row, and from one to the next, in bytes or words; a stride of 0 where rows differ.
    offsets : dict of str to int
        Of each plain property in a row of a table whose rows are alike.
    lists : dict of str to Lists
    begins : ndarray of integers, shape (rows,)
        Where each row begins, of rows that differ.
    """

    element: PlyElement
    start: int
    stride: int
    offsets: dict[str, int] = field(default_factory=dict)
    lists: dict[str, Lists] = field(default_factory=dict)
    begins: Ints = field(default_factory=lambda: np.empty(0, dtype=np.int64))

    def kind(self, name: str) -> str:
        """Return the type of a property."""
        return next(p.kind for p in self.element.properties if p.name == name)


def parse_header(data: bytes, file: str) -> Header:
    """Return what a PLY file declares.

    Raises
    ------
    BadFile
        If it is no PLY, or a line of its header can't be understood.
    """
    head = in_utf8(data[:_LARGEST_HEADER])[0] if data[:3] == b"\xef\xbb\xbf" else data[:_LARGEST_HEADER]
    skipped = len(head) - len(head.lstrip(b" "))
    head = head if not skipped else head[skipped:]
    if not head.startswith(b"ply"):
        raise BadFile(file, say("is no PLY: it does not start with 'ply'"))
    at, order, comments = 0, None, []
    elements: list[tuple[str, int, list[Property]]] = []
    number = 0
    while True:
        end = head.find(b"\n", at)
        if end < 0:
            raise BadFile(file, say("is cut short: its header has no end"))
        line, number = head[at:end].strip().decode("utf-8", "replace"), number + 1
        at = end + 1
        words = line.split()
        if words[:1] == ["end_header"]:
            break
        if words[:1] == ["format"] and len(words) > 1 and words[1] in _ORDERS:
            order = _ORDERS[words[1]]
        elif words[:1] == ["element"] and len(words) == 3 and words[2].isdecimal():
            elements.append((words[1], int(words[2]), []))
        elif words[:1] == ["property"] and elements and len(elements[-1][2]) < _MOST_PROPERTIES:
            elements[-1][2].append(_parse_property(words, file, number))
        elif words[:1] == ["comment"]:
            comments.append(line[7:].strip())
        elif words[:1] in (["format"], ["element"], ["property"]):
            raise BadFile(
                file, say("line {number}: '{line}' is nothing a PLY header has", number=number, line=line[:60])
            )
    if order is None:
        raise BadFile(file, say("its header names no format that is known"))
    found = tuple(PlyElement(name=n, count=c, properties=tuple(p)) for n, c, p in elements)
    return Header(order=order, elements=found, comments=tuple(comments), end=at + skipped)


def _parse_property(words: list[str], file: str, line: int) -> Property:
    if len(words) == 3 and words[1] in _TYPES:
        return Property(name=words[2], kind=_TYPES[words[1]])
    if len(words) == 5 and words[1] == "list" and words[2] in _TYPES and words[3] in _TYPES:
        if _TYPES[words[2]][0] not in "iu":
            raise BadFile(
                file,
                say("line {line}: a list is counted by '{word}', which is no whole number", line=line, word=words[2]),
            )
        return Property(name=words[4], kind=_TYPES[words[3]], count_kind=_TYPES[words[2]])
    raise BadFile(file, say("line {line}: '{word}' is no property that is known", line=line, word=" ".join(words)[:60]))


class Numbers:
    """Numbers of a file's body by their place: a byte in binary, a word in text."""

    def __init__(self, data: NDArray[np.uint8], header: Header, file: str) -> None:
        self.data, self.order, self.file = data, header.order, file
        self.header_lines = int(np.count_nonzero(data[: header.end] == ord("\n")))
        self.first, self.end = header.end, len(data)
        self.words: NDArray[np.float64] | None = None
        self.line_starts = np.empty(0, dtype=bool)  # of each word, whether it is the first on its line
        if not header.order:
            self.words, self.line_starts = _parse_rows(data[header.end :], file)
            self.first, self.end = 0, len(self.words)

    def size(self, kind: str) -> int:
        """How far it is from one number of a type to the next."""
        return 1 if self.words is not None else np.dtype(kind).itemsize

    def at(self, places: Ints, kind: str) -> NDArray[Any]:
        """Return the numbers of one type at any places."""
        if self.words is not None:
            return self._check_whole(self.words[places], places, kind)
        size = np.dtype(kind).itemsize
        rows = self.data[places[:, None] + np.arange(size)]
        return np.ascontiguousarray(rows).view(self.order + kind)[:, 0]

    def grid(self, first: int, stride: int, count: int, width: int, kind: str) -> NDArray[Any]:
        """Return `width` numbers of one type from each of `count` rows that are alike, as a view."""
        if not count or not width:
            return np.empty((count, width), dtype=kind)
        if self.words is not None:
            found = np.ndarray((count, width), np.float64, self.words, first * 8, (stride * 8, 8))
            places = first + np.arange(count)[:, None] * stride + np.arange(width)
            return self._check_whole(found, places, kind) if kind[0] in "iu" else found
        dtype = np.dtype(self.order + kind)
        return np.ndarray((count, width), dtype, self.data, first, (stride, dtype.itemsize))

    def _check_whole(self, values: NDArray[np.float64], places: Ints, kind: str) -> NDArray[np.float64]:
        """Return words, of a type of whole numbers where they are such."""
        odd = np.flatnonzero(values != np.rint(values)) if kind[0] in "iu" else np.empty(0)
        if len(odd):
            place, value = int(places.ravel()[odd[0]]), float(values.ravel()[odd[0]])
            raise BadFile(
                self.file,
                say("line {line}: {value:g} stands where a whole number should", line=self.line(place), value=value),
            )
        return values

    def line(self, word: int) -> int:
        """Return the line of the file, from 1, that a word of a text is on, blank lines left out."""
        return self.header_lines + int(self.line_starts[: word + 1].sum())

    def one(self, place: int, kind: str) -> int:
        """Return one whole number; EOFError where there is none."""
        if place + self.size(kind) > self.end:
            raise EOFError
        return int(self.at(np.array([place]), kind)[0])


def _parse_rows(body: NDArray[np.uint8], file: str) -> tuple[NDArray[np.float64], NDArray[np.bool_]]:
    """Return the numbers of a text's rows, and which are the first on their lines."""
    text, starts = body.tobytes(), token_spans(body)[0]
    count, breaks = len(starts), np.flatnonzero(body == ord("\n"))
    is_first = np.zeros(count + 1, dtype=bool)
    is_first[np.searchsorted(starts, breaks)] = True
    is_first[0] = True
    try:
        values = np.fromstring(text.decode("latin-1"), dtype=np.float64, sep=" ") if count else np.empty(0)
    except (ValueError, DeprecationWarning) as error:
        raise BadFile(file, say("holds something that is no number among its rows")) from error
    if len(values) != count:
        raise BadFile(file, say("holds something that is no number among its rows"))
    return values, is_first[:count]


def tables_of(data: NDArray[np.uint8], header: Header, file: str, limits: Limits) -> tuple[dict[str, Table], Numbers]:
    """Return where the rows of each element lie, and a reader of their numbers.

    Raises
    ------
    BadFile
        If rows are missing, or are more than the limits allow.
    """
    source = Numbers(data, header, file)
    at, found = source.first, dict[str, Table]()
    for element in header.elements:
        if element.count > limits.vertices:
            raise BadFile(
                file,
                say(
                    "declares {count} rows of {name}, over the limit of {vertices}",
                    count=element.count,
                    name=element.name,
                    vertices=limits.vertices,
                ),
            )
        try:
            table, at = _find_table(source, element, at)
        except EOFError as error:
            raise BadFile(
                file,
                say(
                    "is cut short: it declares {count} rows of {name} and has fewer",
                    count=element.count,
                    name=element.name,
                ),
            ) from error
        if source.words is not None:
            _check_lines(source, table, at)
        found.setdefault(element.name, table)
    # A few bytes, such as a line's end, may follow; more means that rows are wider, or more, than is declared.
    if source.end - at > (0 if not header.order else _MOST_LEFT):
        what = "numbers" if not header.order else "bytes"
        raise BadFile(
            file,
            say("has {end} {what} behind the rows that it declares: it is damaged", end=source.end - at, what=what),
        )
    return found, source


def _check_lines(source: Numbers, table: Table, end: int) -> None:
    """Make sure that each row of a text, up to the word `end`, is one line: else damage is read on as the next row.

    Raises
    ------
    BadFile
        With the line of the first that does not.
    """
    count = table.element.count
    begins = table.start + np.arange(count) * table.stride if table.stride else table.begins
    odd = np.flatnonzero(~source.line_starts[begins]) if count else begins
    if len(odd):
        line = source.line(int(begins[odd[0]]))
        raise BadFile(
            source.file,
            say("line {line} has more numbers than a row of {name}: it is damaged", line=line, name=table.element.name),
        )
    lines = np.flatnonzero(source.line_starts[table.start : end]) + table.start
    if len(lines) > count:
        odd = np.flatnonzero(begins != lines[:count])
        line = source.line(int(lines[odd[0] if len(odd) else count]))
        raise BadFile(
            source.file,
            say("line {line} lies within a row of {name} that began before it", line=line, name=table.element.name),
        )


def _find_table(source: Numbers, element: PlyElement, at: int) -> tuple[Table, int]:
    if not element.count:
        return Table(element=element, start=at, stride=0), at
    alike = _find_even_table(source, element, at)
    if alike is not None:
        return alike, at + alike.stride * element.count
    if sum(p.count_kind is not None for p in element.properties) > 4:
        raise EOFError
    counts: dict[str, list[int]] = {p.name: [] for p in element.properties if p.count_kind}
    starts: dict[str, list[int]] = {name: [] for name in counts}
    place, begins = at, list[int]()
    # Where a row ends is known only once its lists are: the one walk over rows there is, over their counts alone.
    for _ in range(element.count):
        begins.append(place)
        for p in element.properties:
            if p.count_kind is None:
                place += source.size(p.kind)
                continue
            count = source.one(place, p.count_kind)
            place += source.size(p.count_kind)
            if count < 0 or place + count * source.size(p.kind) > source.end:
                raise EOFError
            counts[p.name].append(count)
            starts[p.name].append(place)
            place += count * source.size(p.kind)
        if place > source.end:
            raise EOFError
    lists = {name: Lists(counts=np.array(counts[name]), starts=np.array(starts[name])) for name in counts}
    return Table(element=element, start=at, stride=0, lists=lists, begins=np.array(begins)), place


def _find_even_table(source: Numbers, element: PlyElement, at: int) -> Table | None:
    """Return the table of rows whose lists are all as long as those of the first; None where some are not."""
    offsets, lengths, place = dict[str, int](), dict[str, tuple[int, int]](), 0
    for p in element.properties:
        if p.count_kind is None:
            offsets[p.name] = place
            place += source.size(p.kind)
            continue
        count = source.one(at + place, p.count_kind)
        if count < 0:
            raise EOFError
        lengths[p.name] = (count, place)
        place += source.size(p.count_kind) + count * source.size(p.kind)
    if not place:
        raise EOFError  # a row of nothing can be declared any number of times
    if at + place * element.count > source.end:
        if lengths:
            return None
        raise EOFError
    rows = at + np.arange(element.count) * place
    lists = {}
    for p in element.properties:
        if p.count_kind is not None:
            count, offset = lengths[p.name]
            if (source.grid(at + offset, place, element.count, 1, p.count_kind) != count).any():
                return None
            starts = rows + offset + source.size(p.count_kind)
            lists[p.name] = Lists(counts=np.full(element.count, count), starts=starts)
    return Table(element=element, start=at, stride=place, offsets=offsets, lists=lists)
