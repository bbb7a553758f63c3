"""OFF, text: a list of vertices, then of faces; edited in place; declares neither unit nor axes.

Only the numbers of positions and normals change, and the order of a face's corners where a mirror turns it inside out.
Colours, comments and all else stay as they are.
"""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.errors import BadFile
from oak_square.core.frames import Reading
from oak_square.core.reshaping import normals_at_points
from oak_square.core.scene import PLAIN_COLOUR, Asset, Faces, Mesh, Surface
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.off import OFF
from oak_square.formats.register import Entry
from oak_square.formats.shared.model_file import Format, Received, Written, checked_size, count_not_finite, registered
from oak_square.formats.shared.plain import PlainScene, flat_parts, merged
from oak_square.formats.shared.polygons import polygons_to_triangles, reversed_corners
from oak_square.formats.shared.text_edit import as_it_came, digits_of, in_utf8, nine_digits, spliced, token_spans
from oak_square.formats.shared.unframed import lost_pivots, mesh_changes, unframed_asset

__all__ = ["Off"]

Ints = NDArray[np.int64]
_MOST_RUNS = 4096
_MANY = 1000  # words from which it pays to read all that follow at once
_COMMENT = re.compile(rb"#[^\r\n]*")
_WORD = re.compile(rb"(ST)?(C)?(N)?OFF\Z")


@dataclass(frozen=True, slots=True, kw_only=True)
class _OffCarrier:
    data: bytes
    starts: Ints  # of every word, and one past its end
    ends: Ints
    points: NDArray[np.float64]
    point_words: Ints  # (N,) the first word of each vertex
    normals: NDArray[np.float64] | None
    corner_words: Ints  # (corners,)
    counts: Ints  # (faces,)
    further_words: Ints  # all that is no position, normal or corner: colours
    colours: NDArray[np.float64]  # (faces, 3), 0 to 1; not a number where a face has none
    encoding: str = "utf-8"


@registered
class Off(Format):
    """OFF files."""

    entry: ClassVar[Entry] = OFF
    declares: ClassVar[bool] = False
    holds: ClassVar[tuple[str, ...]] = ("colours",)
    looks: ClassVar[tuple[str, ...]] = ("colour",)
    makes: ClassVar[tuple[str, ...]] = ("colours",)

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        data, encoding = in_utf8(path.read_bytes())
        body = np.frombuffer(_COMMENT.sub(lambda m: b" " * len(m[0]), data), dtype=np.uint8)
        starts, ends = token_spans(body)
        words = _Words(data=data, body=body, starts=starts, ends=ends, file=file)
        has_normals, at = words.opening()
        carrier = replace(words.carrier(at, has_normals, limits), encoding=encoding)
        corners = words.numbers(carrier.corner_words).astype(np.int64)
        if len(corners) and (corners.min() < 0 or corners.max() >= len(carrier.points)):
            raise BadFile(
                file, say("a face names a vertex that is not there (there are {count})", count=len(carrier.points))
            )
        triangles = polygons_to_triangles(corners, carrier.counts, carrier.points)
        mesh = Mesh(
            name=path.stem,
            points=carrier.points,
            triangles=triangles,
            surfaces=_make_surfaces(carrier.colours, np.maximum(carrier.counts - 2, 0)),
            normals=carrier.normals,
            not_finite=count_not_finite([carrier.points]),
            faces=Faces.where_any_is_wide(corners, carrier.counts),
        )
        return Received(asset=unframed_asset(self, file, [mesh]), carrier=carrier)

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the text with the numbers of its positions and normals rewritten."""
        carrier: _OffCarrier = received.carrier
        (change,) = mesh_changes(received.asset, asset, reading)
        lost = lost_pivots(self, asset)
        if change.is_none:
            return Written(chunks=None, warnings=lost)
        points = change.points(carrier.points)
        rows = np.flatnonzero((points != carrier.points).any(axis=1))
        places, texts = (
            [_spread_triples(carrier.point_words[rows])],
            nine_digits(points[rows], digits=digits_of(carrier.points)),
        )
        if carrier.normals is not None:
            own = carrier.normals
            normals = change.normals(own if change.shaped is None else normals_at_points(change.shaped, own))
            rows = np.flatnonzero((normals != own).any(axis=1))
            places.append(_spread_triples(carrier.point_words[rows] + 3))
            texts += nine_digits(normals[rows])
        if change.mirrors:
            places.append(carrier.corner_words)
            turned = carrier.corner_words[reversed_corners(carrier.counts)]
            spans = zip(carrier.starts[turned].tolist(), carrier.ends[turned].tolist(), strict=True)
            texts += [carrier.data[a:b] for a, b in spans]
        chosen = np.concatenate(places)
        out = spliced(carrier.data, carrier.starts[chosen], carrier.ends[chosen], texts)
        return Written(chunks=(as_it_came(out, carrier.encoding),), warnings=lost)

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return the words behind its vertices and faces, which are colours, by their hash."""
        carrier: _OffCarrier = received.carrier
        own = carrier.further_words
        spans = zip(carrier.starts[own].tolist(), carrier.ends[own].tolist(), strict=True)
        text = b" ".join(carrier.data[a:b] for a, b in spans)
        return {"colours": hashlib.sha256(text).hexdigest()}

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return the normals of its vertices, where it has them."""
        normals = received.carrier.normals
        return {} if normals is None else {0: (Attached(what="normals", kind="normal", values=normals),)}

    def make(self, scene: PlainScene) -> Written:
        """Return a text of all vertices and triangles, each of these with its colour."""
        plain = merged(flat_parts(scene))
        colours = np.full((len(plain.triangles), 3), 184)
        for run in plain.runs:
            colours[run.first : run.first + run.count] = np.round(255 * np.array(run.look.colour))
        form = f"%.{plain.digits}g %.{plain.digits}g %.{plain.digits}g\n"
        points = (form * len(plain.points)) % tuple((plain.points + 0.0).ravel().tolist())
        rows = np.column_stack([plain.triangles, colours]).ravel().tolist()
        faces = ("3 %d %d %d %d %d %d\n" * len(plain.triangles)) % tuple(rows)
        head = f"OFF\n# Oak Square\n{len(plain.points)} {len(plain.triangles)} 0\n"
        return Written(chunks=((head + points + faces).encode(),))


def _spread_triples(first: Ints) -> Ints:
    return (first[:, None] + np.arange(3)).ravel()


@dataclass(frozen=True, slots=True, kw_only=True)
class _Words:
    """A file's words, its comments blanked."""

    data: bytes
    body: NDArray[np.uint8]
    starts: Ints
    ends: Ints
    file: str
    cache: list[NDArray[np.float64] | None] = field(default_factory=list)

    def word(self, k: int) -> bytes:
        return self.body[self.starts[k] : self.ends[k]].tobytes() if k < len(self.starts) else b""

    def opening(self) -> tuple[bool, int]:
        """Return whether vertices have normals, and the first word of the counts."""
        first = self.word(0)
        if first.isdigit():
            return False, 0  # the keyword may be left out
        match = _WORD.match(first)
        if match is None or self.word(1).upper() == b"BINARY":
            raise BadFile(
                self.file, say("is no OFF that is read: it does not start with OFF, COFF, NOFF or STOFF, as text")
            )
        return match[3] is not None, 1

    def numbers(self, places: Ints) -> NDArray[np.float64]:
        """Return the numbers that words are.

        Raises
        ------
        BadFile
            If one is none: with its line.
        """
        if len(places) > _MANY and (found := self._parse_all()) is not None:
            own: NDArray[np.float64] = found[places - 1]
            return own
        spans = zip(self.starts[places].tolist(), self.ends[places].tolist(), strict=True)
        texts = [self.data[a:b] for a, b in spans]
        try:
            return np.array(texts, dtype=np.bytes_).astype(np.float64) if texts else np.empty(0)
        except ValueError as error:
            for place, text in zip(places.tolist(), texts, strict=True):
                if not _is_number(text):
                    shown = text[:40].decode("latin-1")
                    raise BadFile(
                        self.file, say("line {line}: '{shown}' is no number", line=self.line(place), shown=shown)
                    ) from error
            raise

    def _parse_all(self) -> NDArray[np.float64] | None:
        """Return every word but the first as a number; None where some is none."""
        if not self.cache:
            text = self.body[self.starts[1] :].tobytes().decode("latin-1")
            try:
                found = np.fromstring(text, dtype=np.float64, sep=" ")
            except (ValueError, DeprecationWarning):
                found = np.empty(0)
            self.cache.append(found if len(found) == len(self.starts) - 1 else None)
        return self.cache[0]

    def line(self, word: int) -> int:
        """Return the line number, from 1, that an editor shows."""
        return self.data[: int(self.starts[word])].count(b"\n") + 1

    def carrier(self, at: int, has_normals: bool, limits: Limits) -> _OffCarrier:
        """Return where vertices and faces are, each on a line of its own."""
        counts = self.numbers(np.arange(at, min(at + 2, len(self.starts))))
        if len(counts) < 2 or not (np.isfinite(counts) & (counts >= 0) & (counts == np.rint(counts))).all():
            raise BadFile(self.file, say("lacks its numbers of vertices and faces"))
        vertices, faces = int(counts[0]), int(counts[1])
        if vertices > limits.vertices or faces > limits.triangles:
            raise BadFile(
                self.file,
                say("declares {vertices} vertices and {faces} faces, over the limit", vertices=vertices, faces=faces),
            )
        line_of = np.cumsum(self.body == 10)[self.starts] if len(self.starts) else self.starts
        first = np.flatnonzero(np.concatenate([[True], np.diff(line_of) > 0])) if len(line_of) else line_of
        first = first[first > at]
        if len(first) < vertices + faces:
            raise BadFile(
                self.file,
                say(
                    "is cut short: it declares {vertices} vertices and {faces} faces on {count} lines",
                    vertices=vertices,
                    faces=faces,
                    count=len(first),
                ),
            )
        lengths = np.diff(np.append(first, len(self.starts)))[: vertices + faces]
        need = 6 if has_normals else 3
        short = np.flatnonzero(lengths[:vertices] < need)
        if len(short):
            raise BadFile(
                self.file,
                say("line {line} has fewer than {need} numbers", line=self.line(int(first[short[0]])), need=need),
            )
        if len(first) > vertices + faces:
            line = self.line(int(first[vertices + faces]))
            raise BadFile(
                self.file,
                say(
                    "line {line} is behind the {vertices} vertices and {faces} faces that it declares",
                    line=line,
                    vertices=vertices,
                    faces=faces,
                ),
            )
        odd = np.flatnonzero(lengths[:vertices] != _find_usual_length(lengths[:vertices]))
        if len(odd):
            many = int(lengths[odd[0]])
            raise BadFile(
                self.file,
                say(
                    "line {line} has {many} numbers, unlike other vertices",
                    line=self.line(int(first[odd[0]])),
                    many=many,
                ),
            )
        rows, openings = first[:vertices], first[vertices : vertices + faces]
        sides = self.numbers(openings).astype(np.int64)
        bad = np.flatnonzero((sides < 0) | (sides + 1 > lengths[vertices:]))
        if len(bad):
            raise BadFile(
                self.file, say("line {line} has fewer corners than it says", line=self.line(int(openings[bad[0]])))
            )
        # A colour may follow: a place in a map, or three or four numbers.
        odd = np.flatnonzero(~np.isin(lengths[vertices:] - sides - 1, (0, 1, 3, 4)))
        if len(odd):
            line = self.line(int(openings[odd[0]]))
            raise BadFile(self.file, say("line {line} has more numbers than its corners and a colour", line=line))
        start = np.concatenate([[0], np.cumsum(sides)[:-1]]).astype(np.int64) if faces else sides
        corners = np.repeat(openings + 1 - start, sides) + np.arange(int(sides.sum()))
        points, normals = (
            _spread_triples(rows),
            _spread_triples(rows + 3) if has_normals else np.empty(0, dtype=np.int64),
        )
        is_further = np.zeros(len(self.starts), dtype=bool)
        is_further[first[0] if len(first) else 0 :] = True
        for taken in (points, normals, openings, corners):
            is_further[taken] = False
        return _OffCarrier(
            data=self.data,
            starts=self.starts,
            ends=self.ends,
            points=self.numbers(_spread_triples(rows)).reshape(-1, 3),
            point_words=rows,
            normals=self.numbers(_spread_triples(rows + 3)).reshape(-1, 3) if has_normals else None,
            corner_words=corners,
            counts=sides,
            further_words=np.flatnonzero(is_further),
            colours=self.colours(openings + 1 + sides, lengths[vertices:] - sides - 1),
        )

    def colours(self, places: Ints, counts: Ints) -> NDArray[np.float64]:
        """Return the colour of each face, shape (faces, 3), by its first word's place and its number of words."""
        found = np.full((len(places), 3), np.nan)
        told = np.flatnonzero(counts >= 3)
        if len(told):
            values = self.numbers(_spread_triples(places[told])).reshape(-1, 3)
            first = int(places[told[0]])
            text = self.data[self.starts[first] : self.ends[first]]
            found[told] = np.clip(values if b"." in text else values / 255, 0, 1)
        return found


def _make_surfaces(colours: NDArray[np.float64], fans: Ints) -> tuple[Surface, ...]:
    """Return the runs of triangles that share a colour, by the colour of each face and the triangles it comes to."""
    total = int(fans.sum())
    rows = np.repeat(np.where(np.isnan(colours), PLAIN_COLOUR, colours), fans, axis=0)
    starts = [0, *(np.flatnonzero((np.diff(rows, axis=0) != 0).any(axis=1)) + 1).tolist()]
    if not total or len(starts) > _MOST_RUNS:  # with a colour for every face there is no look that a mesh could have
        return (Surface(first=0, count=total),)
    ends = [*starts[1:], total]
    pairs = zip(starts, ends, rows[starts].tolist(), strict=True)
    return tuple(Surface(first=a, count=b - a, colour=(red, green, blue)) for a, b, (red, green, blue) in pairs)


def _find_usual_length(lengths: Ints) -> int:
    """Return what most of some lengths are."""
    return int(np.bincount(lengths).argmax()) if len(lengths) else 0


def _is_number(text: bytes) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True
