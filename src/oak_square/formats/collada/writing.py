"""From a prepared asset back to its COLLADA text: edited where steps touched it.

A node whose place is unchanged keeps its stack of transformations as it is. Where only its translation changed, and the
stack starts with one, that one's numbers change. A stack of one matrix stays one. Any other is replaced by a
translation, a rotation and a scale, or by a matrix where those can't hold it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.frames import Reading
from oak_square.core.motion import same_matrix
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.words import say
from oak_square.formats.collada.document import ColladaDocument, transform_of, up_word
from oak_square.formats.collada.geometry import edits_of, free_suffix, shared_out, with_own_ids
from oak_square.formats.collada.reading import NodePlace
from oak_square.formats.shared.change import Change, change_of, gather, put_first
from oak_square.formats.shared.model_file import Written, file_nodes, placements_reach, same_placement
from oak_square.formats.shared.text_edit import as_it_came, spliced, tidied, tidied_matrix
from oak_square.formats.shared.xml_spans import Element

__all__ = ["digits", "stack_words", "written"]

Array = NDArray[np.float64]


def written(
    document: ColladaDocument, stands: tuple[NodePlace, ...], received: Asset, asset: Asset, reading: Reading
) -> Written:
    """Return the file for `asset`, prepared from `received`, its numbers under `reading`.

    Raises
    ------
    Refused
        If faces can't be wound the other way round.
    """
    edit = _Edit(document)
    if not reading.same_frame(document.reading):
        if received.rigid_reason:
            raise Refused(received.rigid_reason)
        edit.declare(reading)
    before = file_nodes(received, document.reading)
    nodes = file_nodes(asset, reading)
    reach = placements_reach(before, received.meshes)
    placed: dict[int, Placement] = {}
    for stand, old, new in zip(stands, before, nodes, strict=True):
        # A node of the library is one element, however often it is placed.
        known = placed.setdefault(stand.element.start, new.placement)
        if known is not new.placement:
            if not same_placement(known, new.placement, reach):
                raise Refused(
                    say(
                        "'{name}' stands once in the file for several parts, which would have to move apart",
                        name=new.name,
                    )
                )
        elif not same_placement(old.placement, new.placement, reach):
            edit.place(stand, new)
    edit.geometries(stands, nodes, asset)
    if not edit.edits:
        return Written(chunks=None)
    starts, ends, texts = zip(*edit.edits, strict=True)
    out = spliced(document.data, np.array(starts), np.array(ends), texts)
    return Written(chunks=(as_it_came(out, document.encoding),), warnings=tuple(edit.warnings))


def stack_words(placement: Placement) -> list[tuple[str, list[float]]]:
    """Return the transformation elements that hold a placement, each with its numbers."""
    if placement.is_sheared:
        return [("matrix", tidied_matrix(placement.matrix).ravel().tolist())]
    found: list[tuple[str, list[float]]] = []
    if placement.translation.any():
        found.append(("translate", tidied(placement.translation).tolist()))
    x, y, z, w = (float(v) for v in placement.rotation)
    sine = float(np.linalg.norm([x, y, z]))
    if sine > 0:
        degrees = float(np.degrees(2 * np.arctan2(sine, w)))
        found.append(("rotate", [x / sine, y / sine, z / sine, degrees]))
    if (placement.scale != 1).any():
        found.append(("scale", placement.scale.tolist()))
    return found


def digits(values: Sequence[float]) -> bytes:
    """Return numbers as text, to twelve digits: a thousandth of what float64 work leaves uncertain is not told."""
    return " ".join(f"{float(v) + 0.0:.12g}" for v in values).encode()


@dataclass(slots=True)
class _Edit:
    document: ColladaDocument
    edits: list[tuple[int, int, bytes]] = field(init=False, default_factory=list)
    warnings: list[str] = field(init=False, default_factory=list)
    shares: dict[Mesh, list[Mesh]] = field(init=False, default_factory=dict)
    taken: set[str] = field(init=False, default_factory=set)

    def declare(self, reading: Reading) -> None:
        """Write the unit and up axis that the numbers now have."""
        asset = self.document.root.one("asset")
        unit, axis = self.document.root.one("asset", "unit"), self.document.root.one("asset", "up_axis")
        word = up_word(reading) or "Y_UP"
        metres = digits([reading.metres_per_unit])
        if asset is None or asset.opened == asset.end:
            raise Refused(say("its asset element is missing or empty, so its unit can't be declared anew"))
        span = unit.value_span("meter") if unit is not None else None
        missing = b""
        if unit is None:
            missing += b'<unit meter="%s"/>' % metres
        elif span is None:
            self.edits.append((unit.start + 5, unit.start + 5, b' meter="%s"' % metres))
        else:
            self.edits.append((*span, metres))
            name = unit.value_span("name")
            if name is not None:
                self.edits.append((*name, _unit_name(reading.metres_per_unit)))
        if axis is None:
            missing += b"<up_axis>%s</up_axis>" % word.encode()
        else:
            self.edits.append((axis.opened, axis.closing, word.encode()))
        if missing:
            self.edits.append((asset.closing, asset.closing, missing))

    def place(self, stand: NodePlace, node: Node) -> None:
        placement, stack = node.placement, stand.stack
        if [e.tag for e in stack] == ["matrix"]:
            self.replace(stack[0], digits(tidied_matrix(placement.matrix).ravel().tolist()))
            return
        if stack and stack[0].tag == "translate":
            rest = np.eye(4)
            for element in stack[1:]:
                own = transform_of(self.document, element)
                assert own is not None
                rest = rest @ own
            moved = rest.copy()
            moved[:3, 3] = placement.translation
            if same_matrix(moved, placement.matrix):
                self.replace(stack[0], digits(tidied(placement.translation - rest[:3, 3]).tolist()))
                return
        words = [b"<%s>%s</%s>" % (t.encode(), digits(v), t.encode()) for t, v in stack_words(placement)]
        if stack:
            self.edits.append((stack[0].start, stack[0].end, b"".join(words)))
            self.edits += [(e.start, e.end, b"") for e in stack[1:]]
        elif stand.element.opened == stand.element.end:
            raise Refused(say("node '{name}' is an empty element, which holds no place", name=node.name))
        else:
            at = stand.element.opened
            asset = stand.element.one("asset")
            at = asset.end if asset is not None else at
            self.edits.append((at, at, b"".join(words)))

    def replace(self, element: Element, text: bytes) -> None:
        self.edits.append((element.opened, element.closing, text))

    def geometries(self, stands: tuple[NodePlace, ...], nodes: tuple[Node, ...], asset: Asset) -> None:
        """Rewrite each geometry once for all that place it alike; copies for those that need it otherwise."""
        users: dict[int, list[tuple[Change, list[tuple[Element, str]]]]] = {}
        elements: dict[int, Element] = {}
        for stand, node in zip(stands, nodes, strict=True):
            if not stand.instances:
                continue
            change = change_of(node, asset)
            shares = [change.shaped for _ in stand.instances]
            if change.shaped is not None and len(shares) > 1:
                if change.shaped not in self.shares:
                    geometries = [self.document.groups_of(geometry) for _, geometry in stand.instances]
                    self.shares[change.shaped] = shared_out(change.shaped, geometries)
                shares = list(self.shares[change.shaped])
            for (instance, geometry), shaped in zip(stand.instances, shares, strict=True):
                elements[geometry.start] = geometry
                own = replace(change, shaped=shaped)
                gather(users.setdefault(geometry.start, []), own, (instance, node.name))
        for start, groups in users.items():
            starts = [{instance.start for instance, _ in members} for _, members in groups]
            if len(set[int]().union(*starts)) != sum(map(len, starts)):
                name = groups[0][1][0][1]
                raise Refused(
                    say("'{name}' stands once in the file for several parts, which need different geometry", name=name)
                )
            put_first(groups)
            for rank, (change, members) in enumerate(groups):
                edits = [] if change.is_none else edits_of(self.document, elements[start], change)
                if rank == 0:
                    self.edits += edits
                else:
                    self.split(elements[start], edits, rank + 1, members)

    def split(
        self, geometry: Element, edits: list[tuple[int, int, bytes]], number: int, members: list[tuple[Element, str]]
    ) -> None:
        """Add a copy of a geometry under ids of its own, and let `members` place it."""
        starts, ends, texts = zip(*edits, strict=True) if edits else ((), (), ())
        base = np.array(starts, dtype=np.int64) - geometry.start
        own = self.document.data[geometry.start : geometry.end]
        text = spliced(own, base, np.array(ends, dtype=np.int64) - geometry.start, texts)
        suffix = free_suffix(self.document, geometry, number, self.taken)
        text = with_own_ids(geometry, text, suffix)
        self.edits.append((geometry.end, geometry.end, b"\n" + text))
        name = geometry.attributes.get("name") or geometry.attributes.get("id", "geometry")
        for instance, _ in members:
            span = instance.value_span("url")
            assert span is not None
            self.edits.append((span[1], span[1], suffix.encode()))
        listed = say(" and ").join(f"'{n}'" for _, n in members[:2])
        self.warnings.append(
            say(
                "shared geometry '{name}' split: '{name}{decode}' for {listed}",
                name=name,
                decode=suffix,
                listed=listed,
            )
        )


def _unit_name(metres: float) -> bytes:
    names = {1.0: b"meter", 0.01: b"centimeter", 0.001: b"millimeter", 1000.0: b"kilometer", 0.0254: b"inch",
             0.3048: b"foot", 0.9144: b"yard"}  # fmt: skip
    return names.get(metres, b"unit")
