"""Lots of polygons of a COLLADA geometry, and the triangles that are drawn of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.words import say
from oak_square.formats.collada.sources import Floats, parse_whole
from oak_square.formats.shared.polygons import cut_with_holes, fans, polygons_to_triangles
from oak_square.formats.shared.xml_spans import Element

if TYPE_CHECKING:
    from oak_square.formats.collada.document import ColladaDocument

__all__ = ["Group", "corners_of_group", "read_group", "rings_of"]

_OWN = {"NORMAL", "TEXCOORD", "COLOR", "TANGENT", "TEXTANGENT", "BINORMAL", "TEXBINORMAL"}

Array = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Group:
    """Polygons of one material: for each semantic its source and the corners' indices, and each polygon's count."""

    element: Element
    material: str
    sources: dict[str, Floats]
    corners: dict[str, Ints]
    counts: Ints
    triangles: NDArray[Any]  # (M, 3), places among the corners


def read_group(document: ColladaDocument, geometry: Element, element: Element) -> Group:
    """Return a lot of polygons, or of triangles, as `element` of a geometry tells it."""
    sources, offsets, width = dict[str, Floats](), dict[str, int](), 1
    for item in sorted(element.all("input"), key=lambda e: parse_whole(e.attributes.get("set"), 0)):
        semantic, offset = item.attributes.get("semantic", ""), parse_whole(item.attributes.get("offset"), 0)
        width = max(width, offset + 1)
        target = document.target(item.attributes.get("source"))
        if target is None:
            raise document.fail(
                say("an input of geometry '{get}' names no source", get=geometry.attributes.get("id", "")[:60])
            )
        if semantic == "VERTEX":
            for inner in target.all("input"):
                own = inner.attributes.get("semantic", "")
                if own in {"POSITION", "NORMAL", "TEXCOORD"} and own not in sources:
                    sources[own] = document.source(inner.attributes.get("source", "#")[1:])
                    offsets[own] = offset
        elif semantic in _OWN:
            if semantic in sources and (semantic != "TEXCOORD" or "TEXCOORD_1" in sources):
                continue
            semantic = "TEXCOORD_1" if semantic in sources else semantic
            sources[semantic] = document.source(item.attributes.get("source", "#")[1:])
            offsets[semantic] = offset
    if "POSITION" not in sources or sources["POSITION"].stride < 3:
        raise document.fail(
            say("geometry '{get}' has polygons without positions", get=geometry.attributes.get("id", "")[:60])
        )
    rows, counts, holes = corners_of_group(document, element, width)
    corners = {semantic: rows[:, offset] for semantic, offset in offsets.items()}
    for semantic, named in corners.items():
        there = len(sources[semantic].rows)
        if len(named) and (named.min() < 0 or named.max() >= there):
            raise document.fail(
                say(
                    "a polygon names {semantic} {max}, which is not there (there are {there})",
                    semantic=semantic,
                    max=int(named.max()),
                    there=there,
                )
            )
    return Group(
        element=element,
        material=element.attributes.get("material", ""),
        sources=sources,
        corners=corners,
        counts=counts,
        triangles=_cut_triangles(element.tag, counts, holes, sources["POSITION"].rows[corners["POSITION"], :3]),
    )


def rings_of(element: Element) -> list[Element]:
    """Return what lists the corners of a group: its `p`, and where a polygon has holes its `p` and each `h`."""
    found = list[Element]()
    for child in element.children:
        if child.tag == "p":
            found.append(child)
        elif child.tag == "ph":
            found += [*child.all("p")[:1], *child.all("h")]
    return found


def corners_of_group(
    document: ColladaDocument, element: Element, width: int
) -> tuple[Ints, Ints, list[tuple[int, int]]]:
    """Return each corner's indices, shape (corners, width), and each polygon's, strip's or fan's count.

    Where polygons have holes, the rings are counted as polygons, and the outer one's place and how many rings it has
    are told too.
    """
    rings, holes = rings_of(element), list[tuple[int, int]]()
    for k, ring in enumerate(rings):
        if ring.tag == "p" and ring.parent is not None and ring.parent.tag == "ph":
            holes.append((k, 1 + len(ring.parent.all("h"))))
    lists = [document.numbers(p).astype(np.int64) for p in rings]
    if any(len(numbers) % width for numbers in lists):
        raise document.fail(say("<{tag}> has indices that are no whole number of corners", tag=element.tag))
    rows = np.concatenate(lists).reshape(-1, width) if lists else np.empty((0, width), dtype=np.int64)
    if element.tag == "triangles":
        return rows[: len(rows) // 3 * 3], np.full(len(rows) // 3, 3), []
    if element.tag == "polylist":
        vcount = element.one("vcount")
        counts = document.numbers(vcount).astype(np.int64) if vcount is not None else np.empty(0, dtype=np.int64)
        if (counts < 0).any() or int(counts.sum()) > len(rows):
            raise document.fail(
                say("<polylist> counts {sum} corners and has {count}", sum=int(counts.sum()), count=len(rows))
            )
        return rows[: int(counts.sum())], counts, []
    return rows, np.array([len(numbers) // width for numbers in lists], dtype=np.int64), holes


def _cut_triangles(tag: str, counts: Ints, holes: list[tuple[int, int]], points: Array) -> NDArray[Any]:
    """Return the triangles, shape (M, 3), places among the corners, whose positions are `points`."""
    if tag == "trifans":
        return fans(counts)
    if holes:
        return _around_holes(counts, dict(holes), points)
    if tag != "tristrips":
        return polygons_to_triangles(np.arange(int(counts.sum())), counts, points)
    rows = []
    start = 0
    for count in counts.tolist():  # a strip each, not a triangle each
        at = np.arange(start, start + max(0, count - 2))
        strip = np.stack([at, at + 1, at + 2], axis=1)
        strip[1::2] = strip[1::2][:, [1, 0, 2]]
        rows.append(strip)
        start += count
    return np.concatenate(rows).astype(np.uint32) if rows else np.empty((0, 3), dtype=np.uint32)


def _around_holes(counts: Ints, holes: dict[int, int], points: Array) -> NDArray[Any]:
    starts, rows, ring = np.concatenate([[0], np.cumsum(counts)]), list[NDArray[Any]](), 0
    while ring < len(counts):  # a polygon each, not a corner each
        rings = holes.get(ring, 1)
        first, ends = int(starts[ring]), starts[ring + 1 : ring + rings + 1] - starts[ring]
        own = points[first : first + int(ends[-1])]
        if rings > 1 and int(ends[0]) > 2:
            rows.append(cut_with_holes(own, ends.tolist()) + first)
        else:
            rows.append(polygons_to_triangles(np.arange(int(ends[0])), ends[:1], own) + first)
        ring += rings
    return np.concatenate(rows).astype(np.uint32)
