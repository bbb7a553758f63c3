"""How a PLY file's own rows change where an asset differs from it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.reshaping import normals_at_points
from oak_square.core.tolerances import WHOLE_NUMBER
from oak_square.core.words import say
from oak_square.formats.ply.carrier import CORNER_LISTS, PlyCarrier, find_columns, find_face_list, find_list_starts
from oak_square.formats.ply.layout import Table
from oak_square.formats.shared.change import Change
from oak_square.formats.shared.polygons import reversed_corners
from oak_square.formats.shared.text_edit import digits_of, nine_digits, spliced, token_spans

__all__ = ["PlyEdit", "corner_edits", "number_edits", "reverse_winding", "write_in_binary", "write_in_text"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlyEdit:
    """Numbers of one type to be put into rows that are alike, shape (rows, width), or at places, shape (numbers,)."""

    values: NDArray[Any]
    kind: str
    first: int = 0
    stride: int = 0
    places: NDArray[np.int64] | None = None
    digits: int = 9


def number_edits(carrier: PlyCarrier, change: Change) -> list[PlyEdit]:
    """Return the edits that give the vertices their new positions and normals."""
    table = carrier.tables["vertex"]
    edits = []
    for names in (("x", "y", "z"), ("nx", "ny", "nz")):
        old = find_columns(carrier, "vertex", names)
        if old is None:
            continue
        if names[0] == "x":
            new = change.points(old)
        else:
            new = change.normals(old if change.shaped is None else normals_at_points(change.shaped, old))
        rows = np.flatnonzero((new != old).any(axis=1))
        for k, name in enumerate(names):
            kind = table.kind(name)
            at = table.start + table.offsets[name]
            values = _cast_values(new[:, k : k + 1], kind)
            if len(rows) == len(new):
                edits.append(PlyEdit(values=values, kind=kind, first=at, stride=table.stride, digits=digits_of(old)))
            else:
                places = at + rows * table.stride
                edits.append(PlyEdit(values=values[rows, 0], kind=kind, places=places, digits=digits_of(old)))
    return edits


def _cast_values(values: NDArray[np.float64], kind: str) -> NDArray[Any]:
    """Return values in a column's own type.

    Raises
    ------
    Refused
        If it can't hold them.
    """
    if kind[0] == "f":
        return values.astype(kind)
    whole = np.rint(values)
    info = np.iinfo(kind)
    if (
        np.abs(values - whole).max(initial=0.0) > WHOLE_NUMBER
        or whole.min(initial=0) < info.min
        or whole.max(initial=0) > info.max
    ):
        raise Refused(say("its coordinates are whole numbers, and would no longer be"))
    return whole.astype(kind)


def corner_edits(carrier: PlyCarrier) -> list[PlyEdit]:
    """Return the edits that wind every face the other way round, with what is given for each corner."""
    faces = find_face_list(carrier)
    if faces is None:
        if "tristrips" in carrier.tables:
            raise Refused(say("its triangle strips can't be wound the other way round"))
        return []
    name, counts = faces
    table = carrier.tables["face"]
    edits = [reverse_winding(carrier, table, name, counts, 1)]
    edits += [
        reverse_winding(carrier, table, other, counts, 2)
        for other in CORNER_LISTS
        if other in table.lists and (table.lists[other].counts == 2 * counts).all()
    ]
    return edits


def reverse_winding(carrier: PlyCarrier, table: Table, name: str, counts: NDArray[np.int64], each: int) -> PlyEdit:
    """Return the edit that winds a list of every face the other way, `each` numbers for each corner."""
    kind, source = table.kind(name), carrier.source
    size, own = source.size(kind), table.lists[name]
    if table.stride and len(counts):
        width = int(own.counts[0])
        old = source.grid(int(own.starts[0]), table.stride, len(counts), width, kind)
        order = reversed_corners(np.array([width // each]))[:, None] * each + np.arange(each)
        values = old[:, order.ravel()].astype(kind)
        return PlyEdit(values=values, kind=kind, first=int(own.starts[0]), stride=table.stride)
    places = find_list_starts(carrier, table, name, each)[:, None] + np.arange(each) * size
    values = source.at(places[reversed_corners(counts)].ravel(), kind).astype(kind)
    return PlyEdit(values=values, kind=kind, places=places.ravel())


def write_in_binary(carrier: PlyCarrier, edits: list[PlyEdit]) -> NDArray[np.uint8]:
    """Return the bytes of a binary file with edits made."""
    data, order = carrier.data.copy(), carrier.header.order
    for edit in edits:
        size = np.dtype(edit.kind).itemsize
        if edit.places is None:
            np.ndarray(edit.values.shape, order + edit.kind, data, edit.first, (edit.stride, size))[:] = edit.values
            continue
        rows = np.ascontiguousarray(edit.values.astype(order + edit.kind)).view(np.uint8)
        data[edit.places[:, None] + np.arange(size)] = rows.reshape(-1, size)
    return data


def write_in_text(carrier: PlyCarrier, edits: list[PlyEdit]) -> bytes:
    """Return a text file with edits made: every number that is not changed stays as it was written."""
    starts, ends = token_spans(carrier.data[carrier.header.end :])
    places, texts = [], list[bytes]()
    for edit in edits:
        at = edit.places
        if at is None:
            rows, width = edit.values.shape
            at = (edit.first + np.arange(rows)[:, None] * edit.stride + np.arange(width)).ravel()
        places.append(at)
        flat = edit.values.ravel()
        texts += [b"%d" % v for v in flat.tolist()] if edit.kind[0] != "f" else nine_digits(flat, digits=edit.digits)
    chosen, base = np.concatenate(places), carrier.header.end
    return spliced(carrier.data.tobytes(), starts[chosen] + base, ends[chosen] + base, texts)
