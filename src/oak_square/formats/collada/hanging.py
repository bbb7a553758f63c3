"""A COLLADA text whose nodes are hung elsewhere, and whose geometries are cut into pieces; all numbers stay."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.formats.collada.cutting import GeometryCutter
from oak_square.formats.collada.document import ColladaDocument
from oak_square.formats.collada.geometry import free_suffix, position_rows, with_own_ids
from oak_square.formats.collada.reading import NodePlace
from oak_square.formats.shared.hanging import Rehanging
from oak_square.formats.shared.text_edit import spliced
from oak_square.formats.shared.xml_spans import Element, in_value

__all__ = ["rehung_text"]

Ints = NDArray[np.int64]
Edit = tuple[int, int, bytes]
_BEHIND_NODES = {"extra", "evaluate_scene"}
_NAME = re.compile(rb"<([^\s/>]+)")


def rehung_text(document: ColladaDocument, stands: tuple[NodePlace, ...], asset: Asset, change: Rehanging) -> bytes:
    """Return the text of a document, its nodes hung as those of `asset`, with a node for each piece.

    Raises
    ------
    Refused
        If a node that would change stands once in the file for several.
    """
    return _NodeHanger(document, stands, asset, change).text()


@dataclass(slots=True)
class _Added:
    """What hangs from an element now, beside what it holds: nodes, and instances of nodes."""

    element: Element
    nodes: list[bytes] = field(default_factory=list)
    instances: list[bytes] = field(default_factory=list)

    def edits(self) -> list[Edit]:
        """Return the edits that put it where the schema has it: instances ahead of nodes, these ahead of extras."""
        element = self.element
        if element.opened == element.end:  # it closes itself
            match = _NAME.match(element.data, element.start)
            assert match is not None
            inside = _on_lines([*self.instances, *self.nodes])
            return [(element.opened - 2, element.end, b">" + inside + b"</" + match[1] + b">")]
        lots = ((self.instances, _BEHIND_NODES | {"node"}), (self.nodes, _BEHIND_NODES))
        places = [next((c.start for c in element.children if c.tag in behind), element.closing) for _, behind in lots]
        return [(at, at, _on_lines(texts)) for at, (texts, _) in zip(places, lots, strict=True) if texts]


def _on_lines(texts: list[bytes]) -> bytes:
    return b"".join(b"\n" + text for text in texts) + b"\n"


class _NodeHanger:
    def __init__(
        self, document: ColladaDocument, stands: tuple[NodePlace, ...], asset: Asset, change: Rehanging
    ) -> None:
        self.document, self.stands, self.asset, self.change = document, stands, asset, change
        self.placed = Counter(stand.element.start for stand in stands)
        self.hung = Counter(stand.place.start for stand in stands)
        self.cuts = sorted({(stands[i].place.start, stands[i].place.end) for i in change.anew if i < len(stands)})
        self.edits: list[Edit] = []
        self.added: dict[int, _Added] = {}
        self.pieces: dict[int, tuple[bytes, list[bytes], bytes]] = {}  # tags, and what is between them
        self.taken = set[str]()

    def text(self) -> bytes:
        self._split_parts()
        for i in self.change.anew:  # those below others first: what goes along is in place by then
            if i in self.pieces:
                head, inside, tail = self.pieces[i]
                self._hang_node(i, head + b"".join(inside) + tail, is_node=True)
                continue
            place = self.stands[i].place
            if self.hung[place.start] > 1:
                self._refuse_many(i)
            self._hang_node(i, self._splice_span(place.start, place.end), is_node=place.tag == "node")
        return self._splice_span(0, len(self.document.data))

    def _hang_node(self, i: int, text: bytes, *, is_node: bool) -> None:
        """Put a node's text below the node that it hangs from."""
        above = self.asset.nodes[i].parent
        if above in self.pieces:
            self.pieces[above][1].append(text)
            return
        if above is not None and self.placed[self.stands[above].element.start] > 1 and above not in self.change.pieces:
            self._refuse_many(above)
        element = self._scene_of(i) if above is None else self.stands[above].element
        added = self.added.setdefault(element.start, _Added(element))
        (added.nodes if is_node else added.instances).append(text)

    def _scene_of(self, i: int) -> Element:
        origin = self.asset.nodes[i].cut_from
        scene: Element | None = self.stands[i if origin is None else origin].place
        while scene is not None and scene.tag != "visual_scene":
            scene = scene.parent
        scenes = self.document.root.all("library_visual_scenes", "visual_scene")
        if scene is None and len(scenes) == 1:
            return scenes[0]
        if scene is None:
            raise Refused(
                say(
                    "'{name}' is in no scene of its own, so that it must hang from a node",
                    name=self.asset.nodes[i].name,
                )
            )
        return scene

    def _refuse_many(self, i: int) -> None:
        name = self.asset.nodes[i].name
        raise Refused(
            say("'{name}' stands once in the file for several parts, which would have to change alike", name=name)
        )

    def _splice_span(self, start: int, end: int) -> bytes:
        """Return a span of the text with all that changes in it, without what hangs elsewhere now."""
        out = [c for c in self.cuts if start <= c[0] and c[1] <= end and c != (start, end)]

        def is_out(at: int) -> bool:
            return any(a <= at < b for a, b in out)

        edits = [e for e in self.edits if start <= e[0] < end and not is_out(e[0])]
        edits += [(a, b, b"") for a, b in out if not any(c <= a and b <= d and (a, b) != (c, d) for c, d in out)]
        for at, added in self.added.items():
            if start <= at < end and not is_out(at):
                edits += added.edits()
        if not edits:
            return self.document.data[start:end]
        starts, ends, words = zip(*edits, strict=True)
        return spliced(self.document.data[start:end], np.array(starts) - start, np.array(ends) - start, words)

    def _split_parts(self) -> None:
        done, gone = set[int](), set[int]()
        for i, pieces in self.change.pieces.items():
            stand = self.stands[i]
            alike = [k for k, other in enumerate(self.stands) if other.element is stand.element]
            if any(k not in self.change.pieces for k in alike):
                self._refuse_many(i)
            if stand.element.start not in done:
                done.add(stand.element.start)
                self._cut_part(stand, pieces)
                gone |= {instance.start for instance, _ in stand.instances}
        self._drop_geometries(gone)

    def _cut_part(self, stand: NodePlace, pieces: tuple[int, ...]) -> None:
        """Let a part's instances give way to nodes of its pieces."""
        lists: list[list[bytes]] = [[] for _ in pieces]
        row = 0
        for instance, geometry in stand.instances:
            count = position_rows(self.document.groups_of(geometry))
            piece_of = np.full(count, -1)
            for k, node in enumerate(pieces):
                cut = self.asset.mesh_of(node).cut
                assert cut is not None
                rows = cut.points[(cut.points >= row) & (cut.points < row + count)] - row
                piece_of[rows] = k
            row += count
            cutter = GeometryCutter(self.document, geometry, piece_of)
            for k in range(len(pieces)):
                text = cutter.text(k)
                if text is not None:
                    lists[k].append(self._placed_piece(instance, geometry, text, k + 1))
            self.edits.append((instance.start, instance.end, b""))
        for k, (node, instances) in enumerate(zip(pieces, lists, strict=True), 1):
            head, tail = self._tags_of_piece(stand.element, self.asset.nodes[node].name, k)
            self.pieces[node] = head, instances, tail

    def _placed_piece(self, instance: Element, geometry: Element, text: bytes, number: int) -> bytes:
        """Add a geometry of a piece; return the instance that places it."""
        suffix = free_suffix(self.document, geometry, number, self.taken)
        name = geometry.value_span("name")
        if name is not None:
            at = name[1] - geometry.start
            text = text[:at] + f".{number}".encode() + text[at:]
        self.edits.append((geometry.end, geometry.end, b"\n" + with_own_ids(geometry, text, suffix)))
        span = instance.value_span("url")
        assert span is not None
        own = self.document.data
        return own[instance.start : span[1]] + suffix.encode() + own[span[1] : instance.end]

    def _tags_of_piece(self, part: Element, name: str, number: int) -> tuple[bytes, bytes]:
        """Return the tags of the node of a piece: those of its part, under another name."""
        head = self.document.data[part.start : part.opened].rstrip(b">").rstrip(b"/").rstrip()
        edits: list[Edit] = []
        called = part.value_span("name")
        ident = part.attributes.get("id")
        if called is not None:
            edits.append((called[0] - 1, called[1] + 1, in_value(name).encode()))
        else:
            edits.append((part.start + len(head), part.start + len(head), b" name=" + in_value(name).encode()))
        span = part.value_span("id")
        if span is not None and ident is not None:
            while f"{ident}.{number}" in self.document.ids or f"{ident}.{number}" in self.taken:
                number += 1
            self.taken.add(f"{ident}.{number}")
            edits.append((*span, f"{ident}.{number}".encode()))
        starts, ends, texts = zip(*edits, strict=True)
        text = spliced(head, np.array(starts) - part.start, np.array(ends) - part.start, texts)
        match = _NAME.match(head)
        assert match is not None
        return text + b">", b"</" + match[1] + b">"

    def _drop_geometries(self, gone: set[int]) -> None:
        """Take out the geometries that only instances which start in `gone` place."""
        kept = set[str]()
        for element in self.document.root.walk():
            if element.start not in gone:
                kept |= {element.attributes[k][1:] for k in ("url", "source", "target") if k in element.attributes}
        placed = {g.start: g for s in self.stands for instance, g in s.instances if instance.start in gone}
        self.edits += [(g.start, g.end, b"") for g in placed.values() if g.attributes.get("id", "") not in kept]
