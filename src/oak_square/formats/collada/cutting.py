"""A COLLADA geometry cut into pieces: copies of its text, each with its own faces and the rows that these name."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.words import say
from oak_square.formats.collada.document import ColladaDocument
from oak_square.formats.collada.geometry import position_starts
from oak_square.formats.collada.groups import Group, corners_of_group, rings_of
from oak_square.formats.shared.text_edit import spliced
from oak_square.formats.shared.xml_spans import Element

__all__ = ["GeometryCutter"]

Ints = NDArray[np.int64]
Edit = tuple[int, int, bytes]
_STROKES = {"lines", "linestrips"}
_BY_FACE = {"triangles", "polylist"}


@dataclass(slots=True)
class _GroupFaces:
    """A group's faces: the columns of its indices, and in which piece each face is."""

    group: Group
    rows: Ints  # (corners, width)
    counts: Ints
    piece_of_face: Ints
    classes: list[int] = field(default_factory=list)  # for each column the sources whose rows it names; -1 for none


class GeometryCutter:
    """Cuts a geometry.

    Parameters
    ----------
    document : ColladaDocument
    geometry : Element
    piece_of : ndarray, shape (rows,)
        In which piece each row of its positions is, those of its position sources one behind the other; -1 for none.

    Raises
    ------
    Refused
        If its text can't be cut.
    """

    def __init__(self, document: ColladaDocument, geometry: Element, piece_of: Ints) -> None:
        self._document, self._geometry, self._piece_of = document, geometry, piece_of
        mesh = geometry.one("mesh")
        if mesh is None or any(child.tag in _STROKES for child in mesh.children):
            raise Refused(say("its geometry has lines beside its faces, which belong to no piece of it"))
        groups = document.groups_of(geometry)
        self._starts = position_starts(groups)
        self._faces = [self._faces_of(group) for group in groups]
        self._sources = self._join_columns()
        self._tokens = {ident: self._tokens_of(ident) for ident in {i for own in self._sources for i in own}}

    def text(self, piece: int) -> bytes | None:
        """Return the text of the geometry that a piece is; None where the piece has no face of it."""
        if not any((faces.piece_of_face == piece).any() for faces in self._faces):
            return None
        kept = self._kept_rows(piece)
        edits: list[Edit] = []
        for number, own in enumerate(self._sources):
            for ident in own:
                edits += self._cut_source(ident, kept[number])
        for faces in self._faces:
            edits += _cut_faces(faces, piece, kept)
        own_text = self._document.data[self._geometry.start : self._geometry.end]
        starts, ends, texts = zip(*edits, strict=True)
        first = self._geometry.start
        return spliced(own_text, np.array(starts) - first, np.array(ends) - first, texts)

    def _faces_of(self, group: Group) -> _GroupFaces:
        offsets = [int(i.attributes.get("offset", "0")) for i in group.element.all("input")]
        rows, counts, _ = corners_of_group(self._document, group.element, 1 + max(offsets, default=0))
        if group.element.tag in _BY_FACE and len(rings_of(group.element)) > 1:
            raise Refused(say("its polygons are told in several runs, which can't be changed"))
        first = np.cumsum(counts) - counts
        points = group.corners["POSITION"] + self._starts[group.sources["POSITION"].id]
        piece_of_face = np.full(len(counts), -1)
        filled = counts > 0
        piece_of_face[filled] = self._piece_of[points[first[filled]]]
        return _GroupFaces(group=group, rows=rows, counts=counts, piece_of_face=piece_of_face)

    def _join_columns(self) -> list[list[str]]:
        """Return the sources by what numbers their rows: all that a column names, or that share a source with it."""
        joined: list[set[str]] = []
        columns: list[tuple[_GroupFaces, int, set[str]]] = []
        for faces in self._faces:
            for column in range(faces.rows.shape[1]):
                own = self._named_in(faces.group.element, column)
                columns.append((faces, column, own))
                touched = [other for other in joined if other & own]
                joined = [other for other in joined if not other & own]
                if own:
                    joined.append(own.union(*touched))
        for faces, _, own in columns:
            faces.classes.append(next((k for k, other in enumerate(joined) if own & other), -1))
        return [sorted(own) for own in joined]

    def _named_in(self, element: Element, column: int) -> set[str]:
        found = set[str]()
        for item in element.all("input"):
            if int(item.attributes.get("offset", "0")) != column:
                continue
            target = self._document.target(item.attributes.get("source"))
            named = target.all("input") if target is not None and target.tag == "vertices" else [item]
            found |= {i.attributes.get("source", "#")[1:] for i in named}
        return found

    def _tokens_of(self, ident: str) -> list[bytes]:
        source = self._document.source(ident)
        others = [i for own in self._sources for i in own if i != ident]
        if any(self._document.source(i).floats is source.floats for i in others):
            raise Refused(say("its geometry has sources that share their numbers, which can't be cut"))
        raw = source.floats.raw()
        if b"<" in raw or b"&" in raw:
            raise Refused(say("its numbers have comments among them, which can't be kept"))
        return raw.split()

    def _kept_rows(self, piece: int) -> list[Ints]:
        """Return the rows that a piece keeps of the sources of each lot."""
        found = []
        own = np.flatnonzero(self._piece_of == piece)
        for number, idents in enumerate(self._sources):
            named = [
                own[(own >= s) & (own < s + self._count_rows(i))] - s for i, s in self._starts.items() if i in idents
            ]
            for faces in self._faces:
                here = np.repeat(faces.piece_of_face == piece, faces.counts)
                named += [faces.rows[here, c] for c, k in enumerate(faces.classes) if k == number]
            found.append(np.unique(np.concatenate(named)))
        return found

    def _count_rows(self, ident: str) -> int:
        return len(self._document.source(ident).rows)

    def _cut_source(self, ident: str, kept: Ints) -> list[Edit]:
        source, tokens = self._document.source(ident), self._tokens[ident]
        kept = kept[kept < len(source.rows)]
        at = (source.first + kept[:, None] * source.stride + np.arange(source.stride)).ravel().tolist()
        text = b" ".join([*tokens[: source.first], *(tokens[k] for k in at)])
        edits: list[Edit] = [(source.floats.opened, source.floats.closing, text)]
        accessor = self._document.ids[ident].one("technique_common", "accessor")
        for element, count in ((source.floats, source.first + len(at)), (accessor, len(kept))):
            edits += _count_anew(element, count)
        return edits


def _count_anew(element: Element | None, count: int) -> list[Edit]:
    span = element.value_span("count") if element is not None else None
    return [] if span is None else [(*span, b"%d" % count)]


def _cut_faces(faces: _GroupFaces, piece: int, kept: Sequence[Ints]) -> list[Edit]:
    """Return the edits that leave a group the faces of one piece, by the new numbers of their rows."""
    element, here = faces.group.element, faces.piece_of_face == piece
    if not here.any():
        return [(element.start, element.end, b"")]
    rows = faces.rows.copy()
    corners = np.repeat(here, faces.counts)
    for column, number in enumerate(faces.classes):
        if number >= 0:
            rows[corners, column] = np.searchsorted(kept[number], rows[corners, column])
    if element.tag in _BY_FACE:
        (ring,) = rings_of(element)
        edits = [(ring.opened, ring.closing, _numbers_text(rows[corners])), *_count_anew(element, int(here.sum()))]
        vcount = element.one("vcount")
        return edits if vcount is None else [*edits, (vcount.opened, vcount.closing, _numbers_text(faces.counts[here]))]
    bounds = np.cumsum([0, *faces.counts.tolist()])
    edits, ring_number, units = [], 0, 0
    for child in element.children:
        rings = [child] if child.tag == "p" else [*child.all("p")[:1], *child.all("h")] if child.tag == "ph" else []
        numbers = range(ring_number, ring_number + len(rings))
        ring_number += len(rings)
        if rings and not here[numbers[0]]:
            edits.append((child.start, child.end, b""))
            continue
        units += bool(rings)
        for ring, k in zip(rings, numbers, strict=True):
            edits.append((ring.opened, ring.closing, _numbers_text(rows[bounds[k] : bounds[k + 1]])))
    return [*edits, *_count_anew(element, units)]


def _numbers_text(numbers: Ints) -> bytes:
    return " ".join(map(str, numbers.ravel().tolist())).encode()
