"""The faces, points and lines of an OBJ text: what their corners name, and where in the text."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.obj.text import ObjText, bad_line, gathered, is_one_slice, numbers_in, tokens

__all__ = ["FaceCorners", "corner_spans", "face_corners", "stroke_lines", "stroke_vertices"]

Ints = NDArray[np.int64]
_SPACE, _SLASH = b" /"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FaceCorners:
    """The corners of all faces, in a row: what each names, counted from 0, -1 for none; how many each face has.

    Attributes
    ----------
    vertex, texture, normal : ndarray of integers, shape (corners,)
    counts : ndarray of integers, shape (faces,)
    """

    vertex: Ints
    texture: Ints
    normal: Ints
    counts: Ints


def face_corners(text: ObjText, file: str, vertices: int, textures: int, normals: int) -> FaceCorners:
    """Return what every face corner names, of so many vertices, texture coordinates and normals.

    A texture coordinate that is not there counts as none.

    Raises
    ------
    BadFile
        If a face names a vertex or normal that is not there, or can't be read: with its line number.
    """
    lines = text.lines["f"]
    if not len(lines):
        nothing = np.empty(0, dtype=np.int64)
        return FaceCorners(vertex=nothing, texture=nothing, normal=nothing, counts=nothing)
    body, begins = gathered(text, lines, 1)
    at, counts = tokens(body, begins)
    if (counts < 3).any():
        raise bad_line(text, int(lines[int(np.argmax(counts < 3))]), file, say("has fewer than 3 corners"))
    vertex, texture, normal = _alike_corners(body, at) or _any_corners(body, at, file)
    line_of_corner = np.repeat(lines, counts)
    vertex = _make_absolute(vertex, text.lines["v"], line_of_corner)
    own = _make_absolute(texture, text.lines["vt"], line_of_corner)
    texture = np.where((texture == 0) | (own < 0) | (own >= textures), -1, own)
    normal = np.where(normal == 0, -1, _make_absolute(normal, text.lines["vn"], line_of_corner))
    for values, high, low, what in ((vertex, vertices, 0, "vertex"), (normal, normals, -1, "normal")):
        if len(values) and (int(values.min()) < low or int(values.max()) >= high):
            k = int(np.argmax((values < low) | (values >= high)))
            why = say("names a {what} that is not there (there are {high})", what=what, high=high)
            raise bad_line(text, int(line_of_corner[k]), file, why)
    return FaceCorners(vertex=vertex, texture=texture, normal=normal, counts=counts)


def _any_corners(body: NDArray[np.uint8], at: Ints, file: str) -> tuple[Ints, Ints, Ints]:
    """Return every corner's three numbers, 0 for none, however corners are written.

    Raises
    ------
    BadFile
        If one can't be read.
    """
    rank, total = _slashes_so_far(body), len(at)
    vertex = numbers_in(np.where(rank == 0, body, np.uint8(_SPACE)), total, np.int64)
    if vertex is None:
        raise BadFile(file, say("a face has a corner without a vertex number"))
    normal = _behind_slashes(body, rank, at, total, 2)
    if normal is None:
        raise BadFile(file, say("a face has a corner that can't be read"))
    texture = _behind_slashes(body, rank, at, total, 1)
    return vertex, np.zeros(total, dtype=np.int64) if texture is None else texture, normal


def stroke_lines(text: ObjText) -> Ints:
    """Return the lines that draw points or lines, in order."""
    return np.sort(np.concatenate([text.lines["l"], text.lines["p"]]))


def stroke_vertices(text: ObjText, file: str, vertices: int) -> tuple[Ints, Ints]:
    """Return the vertices that points and lines are drawn through, 0-based, and how many each line of them has.

    Raises
    ------
    BadFile
        If one is not there, or can't be read.
    """
    lines = stroke_lines(text)
    if not len(lines):
        return np.empty(0, dtype=np.int64), np.empty(0, dtype=np.int64)
    body, begins = gathered(text, lines, 1)
    at, counts = tokens(body, begins)
    found = numbers_in(np.where(_slashes_so_far(body) == 0, body, np.uint8(_SPACE)), len(at), np.int64)
    if found is None:
        raise BadFile(file, say("a point or line has a corner without a vertex number"))
    line_of = np.repeat(lines, counts)
    rows = _make_absolute(found, text.lines["v"], line_of)
    wrong = (rows < 0) | (rows >= vertices)
    if wrong.any():
        line = int(line_of[int(np.argmax(wrong))])
        raise bad_line(
            text, line, file, say("names a vertex that is not there (there are {vertices})", vertices=vertices)
        )
    return rows, counts


def _alike_corners(body: NDArray[np.uint8], at: Ints) -> tuple[Ints, Ints, Ints] | None:
    """Return every corner's three numbers, 0 for none, where all corners are written alike; None where they are not."""
    text, total = body.tobytes(), len(at)
    slashes, doubles = text.count(b"/"), text.count(b"//")
    form = {(0, 0): (0,), (total, 0): (0, 1), (2 * total, total): (0, 2), (2 * total, 0): (0, 1, 2)}.get(
        (slashes, doubles)
    )
    if form is None or not total:
        return None
    plain = np.where(body == _SLASH, np.uint8(_SPACE), body)
    starts = np.flatnonzero((plain[1:] > _SPACE) & (plain[:-1] <= _SPACE)) + 1
    starts = np.concatenate([[0], starts]) if plain[0] > _SPACE else starts
    if len(starts) != len(form) * total or (starts[:: len(form)] != at).any():
        return None
    values = numbers_in(plain, len(starts), np.int64)
    if values is None:
        return None
    rows = values.reshape(total, len(form))
    columns = [np.zeros(total, dtype=np.int64)] * 3
    for k, place in enumerate(form):
        columns[place] = rows[:, k]
    return columns[0], columns[1], columns[2]


def _slashes_so_far(body: NDArray[np.uint8]) -> Ints:
    """Return for each byte how many slashes stand before it, itself included, in its own token."""
    total = np.cumsum(body == _SLASH)
    at_break = np.where(body <= _SPACE, total, 0)
    return total - np.maximum.accumulate(at_break)


def _behind_slashes(body: NDArray[np.uint8], rank: Ints, at: Ints, total: int, slashes: int) -> Ints | None:
    """Return each corner's number behind so many slashes, 0 where there is none; None where one can't be read."""
    is_digit = (rank == slashes) & (body > _SPACE) & (body != _SLASH)
    if not is_digit.any():
        return np.zeros(total, dtype=np.int64)
    starts = is_digit.copy()
    starts[1:] &= ~is_digit[:-1]
    where = np.flatnonzero(starts)
    values = numbers_in(np.where(is_digit, body, np.uint8(_SPACE)), len(where), np.int64)
    if values is None:
        return None
    out = np.zeros(total, dtype=np.int64)
    out[np.searchsorted(at, where, side="right") - 1] = values
    return out


def corner_spans(text: ObjText, corners: int) -> tuple[Ints, Ints, NDArray[np.bool_]]:
    """Return where the normal that each face corner names stands in the text, from and to, and whether it counts back.

    Both are 0 where a corner names none.
    """
    lines = text.lines["f"]
    body, begins = gathered(text, lines, 1)
    at, counts = tokens(body, begins)
    named = (_slashes_so_far(body) == 2) & (body > _SPACE) & (body != _SLASH)
    first, last = named.copy(), named.copy()
    first[1:] &= ~named[:-1]
    last[:-1] &= ~named[1:]
    here, there = np.flatnonzero(first), np.flatnonzero(last) + 1
    corner = np.searchsorted(at, here, side="right") - 1
    line = np.repeat(np.arange(len(lines)), counts)[corner]
    base = text.starts[lines] + (0 if is_one_slice(lines) else 1) - begins
    starts, ends, back = (np.zeros(corners, dtype=np.int64) for _ in range(3))
    starts[corner], ends[corner] = here + base[line], there + base[line]
    back[corner] = body[here] == ord("-")
    return starts, ends, back.astype(bool)


def _make_absolute(numbers: Ints, definitions: Ints, line_of_corner: Ints) -> Ints:
    """Return 0-based indices: positive ones count from the file's start, negative ones back from their own line."""
    if (numbers >= 0).all():
        return numbers - 1
    before = np.searchsorted(definitions, line_of_corner)
    return np.where(numbers < 0, before + numbers, numbers - 1)
