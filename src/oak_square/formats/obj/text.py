"""The lines of an OBJ file, found and read without a Python loop over them, and written back in place."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.shared.text_edit import as_it_came, digits_of, in_utf8, spliced, triples_in

__all__ = [
    "Numbers",
    "ObjText",
    "bad_line",
    "further_words",
    "gathered",
    "is_one_slice",
    "number_counts",
    "number_lines",
    "numbers_in",
    "tokens",
    "with_numbers",
]

Ints = NDArray[np.int64]
Numbers = tuple[NDArray[np.float64], NDArray[np.float64]]
_WORDS = ("v", "vn", "vt", "f", "l", "p", "o", "g", "usemtl", "mtllib")
_SPACE, _TAB, _NEWLINE, _RETURN, _SLASH = b" \t\n\r/"
_COMMENT = re.compile(rb"#[^\r\n]*")
_SHOWN_LINE = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class ObjText:
    """A file's bytes, and where its statements are.

    Attributes
    ----------
    data : bytes
        As read.
    flat : ndarray of uint8
        The same length, with line continuations and comments blanked, for reading only.
    starts, ends : ndarray, shape (lines,)
        Where each line begins (its first word) and where its text ends.
    lines : dict of str to ndarray
        For each statement word, the numbers of its lines.
    encoding : str
        What the file is in; `data` is UTF-8.
    """

    data: bytes
    flat: NDArray[np.uint8]
    starts: Ints
    ends: Ints
    lines: dict[str, Ints]
    encoding: str = "utf-8"

    @staticmethod
    def of(data: bytes, file: str) -> ObjText:
        """Find the statements of `data`."""
        data, encoding = in_utf8(data)
        if not data.isascii() and b"\0" in data[:4096]:
            raise BadFile(file, say("is no OBJ: it holds bytes that are no text"))
        body = data.replace(b"\\\r\n", b"   ").replace(b"\\\n", b"  ") if b"\\" in data else data
        if b"#" in body:
            body = _COMMENT.sub(lambda m: b" " * len(m[0]), body)
        flat = np.frombuffer(bytearray(body), dtype=np.uint8)
        breaks = np.flatnonzero((flat == _NEWLINE) | (flat == _RETURN))
        starts = np.concatenate([[0], breaks + 1])
        ends = np.concatenate([breaks, [len(flat)]])
        keep = ends > starts
        starts, ends = starts[keep], ends[keep]
        starts = _past_blanks(flat, starts, ends)
        keep = ends > starts
        starts, ends = starts[keep], ends[keep]
        lines = _by_word(flat, starts, ends)
        return ObjText(data=data, flat=flat, starts=starts, ends=ends, lines=lines, encoding=encoding)

    def rest_of(self, line: int) -> str:
        """Return what stands behind the first word of a line."""
        text = self.flat[self.starts[line] : self.ends[line]].tobytes().decode("utf-8", "replace")
        words = text.split(None, 1)
        return words[1].strip() if len(words) > 1 else ""

    def line_number(self, line: int) -> int:
        """Return the line number, from 1, that an editor shows."""
        return self.data[: int(self.starts[line])].count(b"\n") + 1

    def looks_binary(self) -> bool:
        """Tell whether no line is a statement and some bytes are no text."""
        return not any(len(v) for v in self.lines.values()) and b"\0" in self.data


def _past_blanks(flat: NDArray[np.uint8], starts: Ints, ends: Ints) -> Ints:
    starts = starts.copy()
    for _ in range(4096):
        blank = (flat[np.minimum(starts, len(flat) - 1)] <= _SPACE) & (starts < ends)
        if not blank.any():
            break
        starts[blank] += 1
    return starts


def _by_word(flat: NDArray[np.uint8], starts: Ints, ends: Ints) -> dict[str, Ints]:
    found = {}
    padded = np.concatenate([flat, np.full(8, _SPACE, dtype=np.uint8)])
    letters = [padded[starts], padded[starts + 1]]
    blanks = [(k == _SPACE) | (k == _TAB) | (k == _NEWLINE) | (k == _RETURN) for k in letters]
    for word in _WORDS:
        # All but a few lines are told apart by their first two letters.
        hit = letters[0] == ord(word[0])
        hit &= blanks[1] if len(word) == 1 else letters[1] == ord(word[1])
        rows = np.flatnonzero(hit)
        for k in range(2, len(word)):
            rows = rows[padded[starts[rows] + k] == ord(word[k])]
        if len(word) > 1:
            after = padded[starts[rows] + len(word)]
            rows = rows[(after == _SPACE) | (after == _TAB) | (starts[rows] + len(word) >= ends[rows])]
        found[word] = rows
    return found


def gathered(text: ObjText, lines: Ints, skip: int) -> tuple[NDArray[np.uint8], Ints]:
    """Return the bytes of `lines` behind their first `skip` bytes, a space after each, and where each begins."""
    starts, ends = text.starts[lines] + skip, text.ends[lines]
    lengths = ends - starts + 1
    offsets = np.concatenate([[0], np.cumsum(lengths)])
    if len(lines) and (lines[-1] - lines[0] + 1 == len(lines)) and skip <= 2:
        # Neighbouring lines, the usual case: one slice, its words blanked.
        span = text.flat[text.starts[lines[0]] : ends[-1]].copy()
        at = text.starts[lines] - text.starts[lines[0]]
        for k in range(skip):
            span[at + k] = _SPACE
        span[(span == _NEWLINE) | (span == _RETURN)] = _SPACE
        return span, at
    index = np.repeat(starts - offsets[:-1], lengths) + np.arange(offsets[-1])
    out = text.flat[np.minimum(index, len(text.flat) - 1)]
    out[offsets[1:] - 1] = _SPACE
    return out, offsets[:-1]


def tokens(body: NDArray[np.uint8], begins: Ints) -> tuple[Ints, Ints]:
    """Return where tokens start in `body`, and how many each line has."""
    solid = body > _SPACE
    first = solid.copy()
    first[1:] &= ~solid[:-1]
    at = np.flatnonzero(first)
    counts = np.diff(np.concatenate([np.searchsorted(at, begins), [len(at)]]))
    return at, counts


def numbers_in(body: NDArray[np.uint8], count: int, dtype: type) -> NDArray[Any] | None:
    """Return the numbers in `body`, or None when some token is none."""
    try:
        values = np.array(body.tobytes().split(), dtype=dtype) if count < 64 else _scan_numbers(body, dtype)
    except (ValueError, OverflowError):
        return None
    return values if len(values) == count else None


def _scan_numbers(body: NDArray[np.uint8], dtype: type) -> NDArray[Any]:
    return np.fromstring(body.tobytes().decode("latin-1"), dtype=dtype, sep=" ")


def number_counts(text: ObjText, word: str) -> Ints:
    """Return how many words each line of `word` has behind it."""
    lines = text.lines[word]
    if not len(lines):
        return np.empty(0, dtype=np.int64)
    return tokens(*gathered(text, lines, len(word)))[1]


def number_lines(text: ObjText, word: str, file: str, *, need: int) -> NDArray[np.float64]:
    """Return the first `need` numbers of each line of `word`, shape (lines, need).

    Raises
    ------
    BadFile
        If a line has fewer, or something else: with its line number.
    """
    lines = text.lines[word]
    if not len(lines):
        return np.empty((0, need))
    body, begins = gathered(text, lines, len(word))
    _, counts = tokens(body, begins)
    if (counts < need).any():
        line = int(lines[int(np.argmax(counts < need))])
        raise bad_line(text, line, file, say("has fewer than {need} numbers", need=need))
    values = numbers_in(body, int(counts.sum()), np.float64)
    if values is None:
        for line in lines.tolist():
            if _numbers_of_line(text, line) is None:
                raise bad_line(text, line, file, say("holds something that is no number"))
        raise BadFile(file, say("its '{word}' lines can't be read as numbers", word=word))
    offsets = np.concatenate([[0], np.cumsum(counts)[:-1]])
    return np.stack([values[offsets + k] for k in range(need)], axis=1)


def further_words(text: ObjText) -> dict[str, str]:
    """Return what a file says beside positions, normals and faces: its other lines, and words behind three numbers."""
    by_steps = np.zeros(len(text.starts), dtype=bool)
    for word in ("v", "vn", "f"):
        by_steps[text.lines[word]] = True
    rest = np.flatnonzero(~by_steps)
    lines, found = gathered(text, rest, 0)[0], {}
    found["further lines"] = hashlib.sha256(lines.tobytes()).hexdigest()
    body, begins = gathered(text, text.lines["v"], 1)
    at, counts = tokens(body, begins)
    if len(counts) and int(counts.max()) > 3:
        first = np.repeat(np.concatenate([[0], np.cumsum(counts)[:-1]]), counts)
        own = np.arange(len(at)) - first >= 3
        is_own = np.repeat(own, np.diff(np.append(at, len(body))))
        behind = body[at[0] :][is_own]
        found["words behind its positions"] = hashlib.sha256(b" ".join(behind.tobytes().split())).hexdigest()
    return found


def _numbers_of_line(text: ObjText, line: int) -> list[float] | None:
    try:
        return [float(w) for w in text.rest_of(line).split()]
    except ValueError:
        return None


def bad_line(text: ObjText, line: int, file: str, why: str) -> BadFile:
    """Return the error of a line, shown with its number."""
    shown = text.flat[text.starts[line] : text.ends[line]].tobytes().decode("utf-8", "replace")[:_SHOWN_LINE]
    return BadFile(
        file, say("line {line_number}: '{shown}' {why}", line_number=text.line_number(line), shown=shown, why=why)
    )


def with_numbers(
    text: ObjText,
    *,
    positions: Numbers,
    normals: Numbers,
    flipped: NDArray[np.bool_] | None,
) -> bytes:
    """Return the file with new numbers on its `v` and `vn` lines, and the faces of `flipped` wound the other way.

    Numbers are given as they are and as they shall be; lines that stay the same are left as they are written.
    """
    edits: list[tuple[Ints, Ints, list[bytes]]] = []
    for word, (old, new) in (("v", positions), ("vn", normals)):
        rows = np.flatnonzero((old != new).any(axis=1))
        if len(rows):
            edits.append(_number_edits(text, word, new, rows, digits_of(old) if word == "v" else 9))
    if flipped is not None:
        edits.append(_face_edits(text, text.lines["f"][flipped]))
    if not edits:
        return as_it_came(text.data, text.encoding)
    starts = np.concatenate([e[0] for e in edits])
    ends = np.concatenate([e[1] for e in edits])
    texts = [t for e in edits for t in e[2]]
    return as_it_came(spliced(text.data, starts, ends, texts), text.encoding)


def _number_edits(
    text: ObjText, word: str, values: NDArray[np.float64], rows: Ints, digits: int
) -> tuple[Ints, Ints, list[bytes]]:
    """Return the span of the first three numbers of some of the lines, and what goes there."""
    lines = text.lines[word]
    body, begins = gathered(text, lines, len(word))
    at, counts = tokens(body, begins)
    first = np.concatenate([[0], np.cumsum(counts)[:-1]])
    blanks = np.flatnonzero(body <= _SPACE)
    third = at[first + 2]
    stop: Ints = np.append(blanks, len(body))[np.searchsorted(blanks, third)]
    gathered_word = at[first] - begins
    base = text.starts[lines] if is_one_slice(lines) else text.starts[lines] + len(word)
    starts: Ints = base + gathered_word
    ends: Ints = base + (stop - begins)
    return triples_in(text.data, starts[rows], ends[rows], values[rows], digits)


def is_one_slice(lines: Ints) -> bool:
    """Tell whether lines stand one behind the other."""
    return bool(len(lines) and lines[-1] - lines[0] + 1 == len(lines))


def _face_edits(text: ObjText, lines: Ints) -> tuple[Ints, Ints, list[bytes]]:
    texts = []
    for line in lines.tolist():
        words = text.flat[text.starts[line] : text.ends[line]].tobytes().split()
        texts.append(b" ".join([words[0], words[1], *reversed(words[2:])]))
    return text.starts[lines], text.ends[lines], texts
