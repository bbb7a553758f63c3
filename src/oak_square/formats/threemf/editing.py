"""The edits of a 3MF model: spans of its text, and what goes there."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.frames import Reading
from oak_square.core.motion import same_matrix
from oak_square.core.scene import Asset, Node
from oak_square.core.words import say
from oak_square.formats.shared.change import Change, change_of, gather, put_first
from oak_square.formats.shared.model_file import same_placement
from oak_square.formats.shared.text_edit import digits_of, nine_digits, spliced
from oak_square.formats.shared.xml_spans import Element
from oak_square.formats.threemf.model import UNITS, MeshRows, Model, transform_text

__all__ = ["declared", "ids_of", "shape_edits", "transform_edits"]

Array = NDArray[np.float64]
Edit = tuple[int, int, bytes]


def declared(root: Element, reading: Reading) -> list[Edit]:
    """Return the edit that names the unit of a reading."""
    word = next(name for name, metres in UNITS.items() if metres == reading.metres_per_unit).encode()
    span = root.value_span("unit")
    if span is not None:
        return [(*span, word)]
    at = root.start + 1 + len(root.data[root.start + 1 : root.opened].split(None, 1)[0].rstrip(b">"))
    return [(at, at, b' unit="%s"' % word)]


def transform_edits(
    places: tuple[tuple[Element, str], ...], before: tuple[Node, ...], nodes: tuple[Node, ...], reach: float
) -> list[Edit]:
    """Return the edits of what places an object; one that several nodes come from must move alike."""
    wanted: dict[int, tuple[Element, Array, Array, str]] = {}
    for (place, _), old, new in zip(places, before, nodes, strict=True):
        known = wanted.get(place.start)
        if known is not None and not same_matrix(known[2], new.placement.matrix):
            raise Refused(
                say(
                    "'{name}' is placed once in the file for several parts, which would have to move apart",
                    name=new.name,
                )
            )
        if not same_placement(old.placement, new.placement, reach):
            wanted[place.start] = place, old.placement.matrix, new.placement.matrix, new.name
        else:
            wanted.setdefault(place.start, (place, old.placement.matrix, old.placement.matrix, new.name))
    edits = []
    for place, old_matrix, matrix, _ in wanted.values():
        if same_matrix(old_matrix, matrix) or np.array_equal(old_matrix, matrix):
            continue
        span = place.value_span("transform")
        text = transform_text(matrix)
        if span is not None:
            edits.append((*span, text))
        else:
            end = place.opened - (2 if place.data[place.opened - 2 : place.opened] == b"/>" else 1)
            edits.append((end, end, b' transform="%s"' % text))
    return edits


def shape_edits(
    model: Model, places: tuple[tuple[Element, str], ...], nodes: tuple[Node, ...], asset: Asset
) -> tuple[list[Edit], tuple[str, ...]]:
    """Return the edits of vertices, and what is told of objects that were split.

    An object is rewritten once for all places that need the same; the others place a copy of it.

    Raises
    ------
    Refused
        If one place in the file stands for several parts that need different geometry.
    """
    wanted: dict[str, list[tuple[Change, list[tuple[Element, str]]]]] = {}
    for (place, ident), node in zip(places, nodes, strict=True):
        if node.mesh is not None:
            gather(wanted.setdefault(ident, []), change_of(node, asset), (place, node.name))
    edits, told = list[Edit](), list[str]()
    fresh = 1 + max((int(i) for i in ids_of(model) if i.isdecimal() and len(i) < 10), default=0)
    for ident, groups in wanted.items():
        put_first(groups)
        starts = [{place.start for place, _ in members} for _, members in groups]
        if len(set[int]().union(*starts)) != sum(map(len, starts)):
            name = groups[0][1][0][1]
            raise Refused(
                say("'{name}' is placed once in the file for several parts, which need different geometry", name=name)
            )
        for rank, (change, members) in enumerate(groups):
            own = [] if change.is_none else _rewrite_shape(model.shapes[ident], change)
            if rank == 0:
                edits += own
                continue
            edits += _copy_object(model.objects[ident], own, fresh, [place for place, _ in members])
            names = say(" and ").join(f"'{name}'" for _, name in members[:2])
            told.append(
                say(
                    "object {ident} is placed with other geometry for {names}: a copy, object {fresh}, was made",
                    ident=ident,
                    names=names,
                    fresh=fresh,
                )
            )
            fresh += 1
    return edits, tuple(told)


def ids_of(model: Model) -> list[str]:
    """Return the ids of all that a package's models have as resources."""
    resources = [model.root.one("resources"), *(o.parent for o in model.objects.values())]
    return [c.attributes.get("id", "") for r in resources if r is not None for c in r.children]


def _copy_object(element: Element, edits: list[Edit], number: int, places: list[Element]) -> list[Edit]:
    """Return the edits that add a copy of an object, itself edited, and let `places` place that."""
    span = element.value_span("id")
    assert span is not None
    own_name = element.attributes.get("name") or element.attributes.get("partnumber")
    if own_name is None:
        # What has no name is called by its number: the copy goes on being called as what it was copied from.
        edits = [*edits, (span[1] + 1, span[1] + 1, b' name="object_%s"' % element.attributes["id"].encode())]
    starts, ends, texts = zip(*edits, (*span, b"%d" % number), strict=True)
    own = element.data[element.start : element.end]
    text = spliced(own, np.array(starts) - element.start, np.array(ends) - element.start, texts)
    found: list[Edit] = [(element.end, element.end, b"\n  " + text)]
    for place in {p.start: p for p in places}.values():
        target = place.value_span("objectid")
        assert target is not None
        found.append((*target, b"%d" % number))
    return found


def _rewrite_shape(shape: MeshRows, change: Change) -> list[Edit]:
    points = change.points(shape.points)
    rows = np.flatnonzero((points != shape.points).any(axis=1))
    spans = shape.point_spans[rows].reshape(-1, 2)
    texts = nine_digits(points[rows], digits=digits_of(shape.points))
    edits: list[Edit] = list(zip(spans[:, 0].tolist(), spans[:, 1].tolist(), texts, strict=True))
    if change.mirrors:
        spans = shape.corner_spans[:, [1, 2]].reshape(-1, 2)
        texts = [b"%d" % v for v in shape.triangles[:, [2, 1]].ravel().tolist()]
        edits += zip(spans[:, 0].tolist(), spans[:, 1].tolist(), texts, strict=True)
    return edits
