"""What is kept of a PLY file: its bytes, its tables, and where in them its columns and lists stand."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.formats.ply.layout import Header, Numbers, Table

__all__ = ["CORNER_LISTS", "FACE_LISTS", "PlyCarrier", "find_columns", "find_face_list", "find_list_starts"]


CORNER_LISTS = ("texcoord",)
"""Lists of two numbers for each corner of a face."""
FACE_LISTS = ("vertex_indices", "vertex_index")
"""What the list of a face's corners is called."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PlyCarrier:
    """A file's bytes, its header, its tables by element, its numbers, and the folder it lies in."""

    data: NDArray[np.uint8]
    header: Header
    tables: dict[str, Table]
    source: Numbers
    folder: Path


def find_columns(carrier: PlyCarrier, element: str, names: tuple[str, ...]) -> NDArray[Any] | None:
    """Return columns of an element side by side, shape (rows, names); None where it lacks one."""
    table = carrier.tables.get(element)
    plain = {p.name for p in table.element.properties if p.count_kind is None} if table is not None else set()
    if table is None or not set(names) <= plain:
        return None
    kinds = {table.kind(n) for n in names}
    dtype = np.dtype("f4") if kinds == {"f4"} else np.dtype("f8")
    size = carrier.source.size(table.kind(names[0]))
    offsets = [table.offsets.get(name, 0) for name in names]
    if len(kinds) == 1 and offsets == [offsets[0] + k * size for k in range(len(names))]:
        kind, first = table.kind(names[0]), table.start + offsets[0]
        beside: NDArray[Any] = carrier.source.grid(first, table.stride, table.element.count, len(names), kind)
        return beside.astype(dtype)
    found = np.empty((table.element.count, len(names)), dtype=dtype)
    for k, name in enumerate(names):
        at = table.start + table.offsets.get(name, 0)
        found[:, k] = carrier.source.grid(at, table.stride, table.element.count, 1, table.kind(name))[:, 0]
    return found


def find_face_list(carrier: PlyCarrier) -> tuple[str, NDArray[np.int64]] | None:
    """Return the name of the list of a face's corners, and each face's count."""
    table = carrier.tables.get("face")
    name = next((n for n in FACE_LISTS if table is not None and n in table.lists), None)
    return None if table is None or name is None else (name, table.lists[name].counts)


def find_list_starts(carrier: PlyCarrier, table: Table, name: str, each: int) -> NDArray[np.int64]:
    """Return where every `each` items of a list property start, lists in a row."""
    own = table.lists[name]
    counts = own.counts // each
    size = carrier.source.size(table.kind(name)) * each
    first = np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64)
    step = np.arange(int(counts.sum())) - np.repeat(first, counts)
    found: NDArray[np.int64] = np.repeat(own.starts, counts) + step * size
    return found
