"""The edits of a COLLADA geometry: its numbers, and the corners that name them.

A corner that wants another normal than those it shares a row with is given a row of its own, behind all others.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.geometry import write_directions
from oak_square.core.reshaping import normals_at_corners, squared_to
from oak_square.core.scene import Faces, Mesh, Unshaped
from oak_square.core.words import say
from oak_square.formats.collada.document import ColladaDocument
from oak_square.formats.collada.groups import Group, rings_of
from oak_square.formats.collada.sources import Floats
from oak_square.formats.shared.change import Change, told_apart
from oak_square.formats.shared.polygons import reversed_corners
from oak_square.formats.shared.text_edit import digits_of, nine_digits, spliced, token_spans
from oak_square.formats.shared.xml_spans import Element

__all__ = ["edits_of", "free_suffix", "position_rows", "position_starts", "shared_out", "with_own_ids"]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
Edit = tuple[int, int, bytes]
_DIRECTIONS = ("NORMAL", "TANGENT", "TEXTANGENT", "BINORMAL", "TEXBINORMAL")


def position_starts(groups: Sequence[Group]) -> dict[str, int]:
    """Return which row of its mesh each of a geometry's position sources starts at, by its id."""
    found, rows = dict[str, int](), 0
    for group in groups:
        source = group.sources["POSITION"]
        if source.id not in found:
            found[source.id] = rows
            rows += len(source.rows)
    return found


def position_rows(groups: Sequence[Group]) -> int:
    """Return how many rows a geometry's position sources have."""
    return sum({g.sources["POSITION"].id: len(g.sources["POSITION"].rows) for g in groups}.values())


def shared_out(mesh: Mesh, geometries: Sequence[Sequence[Group]]) -> list[Mesh]:
    """Return a node's shaped mesh taken apart into those of its geometries, which lie in it one behind the other."""
    found, row = list[Mesh](), 0
    assert mesh.unshaped is not None
    for groups in geometries:
        starts = position_starts(groups)
        own = {g.sources["POSITION"].id: len(g.sources["POSITION"].rows) for g in groups}
        rows = slice(row, row + sum(own.values()))
        corners = [g.corners["POSITION"] + starts[g.sources["POSITION"].id] for g in groups]
        counts = [g.counts for g in groups]
        none = [np.empty(0, dtype=np.int64)]
        found.append(
            replace(
                mesh,
                points=mesh.points[rows],
                unshaped=Unshaped(points=mesh.unshaped.points[rows], normals=None),
                faces=Faces(corners=np.concatenate(none + corners), counts=np.concatenate(none + counts)),
                surfaces=(),
                strokes=(),
            )
        )
        row = rows.stop
    return found


def free_suffix(document: ColladaDocument, geometry: Element, first: int, taken: set[str]) -> str:
    """Return `.2`, from `first` on, or the next that makes ids of a copy of a geometry that nothing has.

    `taken` are ids beside those of the document; those of the copy are added.
    """
    own = [e.attributes["id"] for e in geometry.walk() if "id" in e.attributes]
    number = first
    while any(f"{i}.{number}" in taken or f"{i}.{number}" in document.ids for i in own):
        number += 1
    taken.update(f"{i}.{number}" for i in own)
    return f".{number}"


def with_own_ids(geometry: Element, text: bytes, suffix: str) -> bytes:
    """Return the text of a copy of a geometry, its ids and what refers to them with a suffix."""
    own = {e.attributes["id"].encode() for e in geometry.walk() if "id" in e.attributes}
    return re.sub(
        rb"(\s(?:id=|source=|url=)[\"']#?)([^\"'#]+)([\"'])",
        lambda m: m[1] + m[2] + (suffix.encode() if m[2] in own else b"") + m[3],
        text,
    )


def edits_of(document: ColladaDocument, geometry: Element, change: Change) -> list[Edit]:
    """Return the edits that change the numbers of a geometry.

    Raises
    ------
    Refused
        If its text does not allow it.
    """
    groups = document.groups_of(geometry)
    edits, starts = list[Edit](), position_starts(groups)
    for source in {g.sources["POSITION"].id: g.sources["POSITION"] for g in groups}.values():
        old = source.rows[:, :3]
        edits += _edit_numbers(document, source, change.points(old, starts[source.id]), digits_of(old))
    if change.shaped is None:
        named = dict[int, dict[str, Ints]]()
        done = set[str]()
        for group in groups:
            for semantic, source in group.sources.items():
                if semantic in _DIRECTIONS and source.id not in done:
                    done.add(source.id)
                    edits += _edit_numbers(document, source, _carry_rows(change, semantic, source.rows[:, :3]), 9)
    else:
        named, own = _renumber_corners(document, groups, change, change.shaped)
        edits += own
    for k, group in enumerate(groups):
        edits += _edit_corners(group, named.get(k, {}), mirrored=change.mirrors)
    return edits


def _carry_rows(change: Change, semantic: str, rows: Array) -> Array:
    if semantic == "NORMAL":
        return change.normals(rows)
    found = np.empty((len(rows), 3))
    write_directions(rows, change.matrix[:3, :3], found)
    return found


def _edit_numbers(document: ColladaDocument, source: Floats, new: Array, digits: int) -> list[Edit]:
    """Return the edits that make the rows of a source `new` ones, shape (N, 3), and add what are more than it has."""
    old = source.rows[:, :3]
    rows = np.flatnonzero((new[: len(old)] != old).any(axis=1))
    more = new[len(old) :]
    if not len(rows) and not len(more):
        return []
    raw = source.floats.raw()
    if b"<" in raw or b"&" in raw:
        raise Refused(say("its numbers have comments among them, which can't be kept"))
    spans = token_spans(np.frombuffer(raw, dtype=np.uint8))
    at = (source.first + rows[:, None] * source.stride + np.arange(3)).ravel()
    text = spliced(raw, spans[0][at], spans[1][at], nine_digits(new[rows], digits=digits))
    edits: list[Edit] = [(source.floats.opened, source.floats.closing, text)]
    if not len(more):
        return edits
    accessor = document.ids[source.id].one("technique_common", "accessor")
    counts = [e.value_span("count") for e in (source.floats, accessor) if e is not None]
    whole = len(spans[0]) == source.first + len(old) * source.stride
    if accessor is None or None in counts or not whole or source.stride != 3:
        raise Refused(say("its normals are told in a way that has no room for more of them"))
    text += b" " + b" ".join(nine_digits(more))
    edits = [(source.floats.opened, source.floats.closing, text)]
    for span, count in zip(counts, (3 * len(new), len(new)), strict=True):
        assert span is not None
        edits.append((*span, b"%d" % count))
    return edits


def _renumber_corners(
    document: ColladaDocument, groups: Sequence[Group], change: Change, shaped: Mesh
) -> tuple[dict[int, dict[str, Ints]], list[Edit]]:
    """Return which rows the corners of each group are to name, by what they are, and the edits of those rows."""
    bounds = np.cumsum([0, *(len(g.corners["POSITION"]) for g in groups)])
    named, edits = dict[int, dict[str, Ints]](), list[Edit]()
    before = _at_corners(groups, "NORMAL")
    after = normals_at_corners(shaped, before)
    for semantic in _DIRECTIONS:
        ids = dict.fromkeys(g.sources[semantic].id for g in groups if semantic in g.sources)
        if not ids:
            continue
        if any(g.element.tag in {"trifans", "tristrips"} for g in groups):
            raise Refused(say("its triangle strips and fans have normals, which can't be worked out anew"))
        own = after if semantic == "NORMAL" else squared_to(_at_corners(groups, semantic), before, after)
        wanted = _carry_rows(change, semantic, own)
        for ident in ids:
            mine = [k for k, g in enumerate(groups) if semantic in g.sources and g.sources[semantic].id == ident]
            source = groups[mine[0]].sources[semantic]
            rows = np.concatenate([groups[k].corners[semantic] for k in mine])
            values = np.concatenate([wanted[bounds[k] : bounds[k + 1]] for k in mine])
            number, table = told_apart(source.rows[:, :3], rows, values)
            edits += _edit_numbers(document, source, table, 9)
            ends = np.cumsum([0, *(len(groups[k].corners[semantic]) for k in mine)])
            for place, k in enumerate(mine):
                share = number[ends[place] : ends[place + 1]]
                if (share != groups[k].corners[semantic]).any():
                    named.setdefault(k, {})[semantic] = share
    return named, edits


def _at_corners(groups: Sequence[Group], semantic: str) -> Array:
    """Return what all corners of a geometry name, in a row; not a number where they name nothing."""
    rows = [
        group.sources[semantic].rows[group.corners[semantic], :3]
        if semantic in group.sources
        else np.full((len(group.corners["POSITION"]), 3), np.nan)
        for group in groups
    ]
    return np.concatenate(rows) if rows else np.empty((0, 3))


def _edit_corners(group: Group, named: dict[str, Ints], *, mirrored: bool) -> list[Edit]:
    """Return the edits of the corners of a group: what they name, and their order where polygons turn round."""
    if not named and not mirrored:
        return []
    element, lists = group.element, rings_of(group.element)
    if mirrored and element.tag in {"trifans", "tristrips"}:
        raise Refused(say("its triangle strips and fans can't be wound the other way round"))
    offsets = [int(i.attributes.get("offset", "0")) for i in element.all("input")]
    inputs = dict(zip((i.attributes.get("semantic", "") for i in element.all("input")), offsets, strict=True))
    width = 1 + max(offsets, default=0)
    if element.tag != "polygons" and len(lists) > 1:
        raise Refused(say("its polygons are told in several runs, which can't be changed"))
    for semantic in named:
        if offsets.count(inputs.get(semantic, -1)) != 1:
            raise Refused(say("its normals share their numbers with something else, and would have to part from it"))
    edits, first = list[Edit](), 0
    for k, p in enumerate(lists):
        raw = p.raw()
        if b"<" in raw:
            raise Refused(say("its indices have comments among them, which can't be kept"))
        starts, ends = token_spans(np.frombuffer(raw, dtype=np.uint8))
        own = group.counts if element.tag != "polygons" else group.counts[k : k + 1]
        count = int(own.sum())
        spans = zip(starts[: count * width].tolist(), ends[: count * width].tolist(), strict=True)
        words = np.array([raw[a:b] for a, b in spans], dtype=object).reshape(count, width)
        for semantic, rows in named.items():
            words[:, inputs[semantic]] = [b"%d" % row for row in rows[first : first + count].tolist()]
        if mirrored:
            words = words[reversed_corners(own)]
        kept = count * width
        edits.append((p.opened, p.closing, spliced(raw, starts[:kept], ends[:kept], words.ravel().tolist())))
        first += count
    return edits
