"""A 3MF model whose objects are made of others than before: hung elsewhere, and cut into pieces; all numbers stay.

An object is a mesh or is made of components, never both. One that is cut becomes one made of its pieces. Objects come
behind those they are made of (core specification 1.3, 3.4.3).
"""

from __future__ import annotations

import re
from collections import Counter
from uuid import NAMESPACE_OID, uuid5

import numpy as np

from oak_square.core.errors import Refused
from oak_square.core.scene import Asset, Cut
from oak_square.core.words import say
from oak_square.formats.shared.hanging import Rehanging
from oak_square.formats.shared.text_edit import spliced
from oak_square.formats.shared.xml_spans import Element, in_value
from oak_square.formats.threemf.editing import ids_of
from oak_square.formats.threemf.model import Model, row_words

__all__ = ["rehung_model"]

Places = tuple[tuple[Element, str], ...]
Edit = tuple[int, int, bytes]
_PLACING = {"objectid", "transform", "path", "UUID"}
_OF_A_MESH = ("pid", "pindex")
_NAME = re.compile(rb"<([^\s/>]+)")


def rehung_model(model: Model, places: Places, asset: Asset, change: Rehanging) -> bytes:
    """Return the text of the root model, its objects placed as the nodes of `asset` hang, with objects for pieces.

    Raises
    ------
    Refused
        If 3MF has no room for it, or what would change stands once in the file for several parts.
    """
    return _ObjectHanger(model, places, asset, change).text()


class _ObjectHanger:
    def __init__(self, model: Model, places: Places, asset: Asset, change: Rehanging) -> None:
        self.model, self.places, self.asset, self.change = model, places, asset, change
        self.placed = Counter(place.start for place, _ in places)
        self.users = Counter(ident for _, ident in places)
        self.cut: dict[str, str] = {}  # objects that become made of components, and the object that each is made from
        self.made: dict[str, bytes] = {}  # texts of objects of pieces
        self.own: dict[int, str] = {}  # the objects of pieces, and of parts that get one of their own
        self.shared: set[int] = set()  # pieces that an object which several parts place has already
        self.gone: dict[int, Element] = {}  # what placed nodes that hang elsewhere now
        self.added: dict[str, list[tuple[str, bytes]]] = {}  # components by object: what each places, and its text
        self.items: list[bytes] = []
        self.fresh = 1 + max((int(i) for i in ids_of(model) if i.isdecimal() and len(i) < 10), default=0)
        name = _NAME.match(model.data, model.root.start)
        assert name is not None
        self.prefix = name[1].decode().rpartition(":")[0] + ":" if b":" in name[1] else ""

    def text(self) -> bytes:
        self._check_home()
        for ident in dict.fromkeys(self.places[i][1] for i in self.change.pieces):
            self._cut_object(ident)
        for i in self.change.anew:
            self._place_node(i)
        resources, build = self.model.root.one("resources"), self.model.root.one("build")
        assert resources is not None
        assert build is not None
        edits: list[Edit] = [(o.start, o.end, b"") for o in resources.all("object")]
        edits += [(resources.closing, resources.closing, b"\n".join(self._object_texts()) + b"\n")]
        edits += [(e.start, e.end, b"") for e in self.gone.values() if e.tag == "item"]
        edits += self._retarget_places("item")
        edits.append((build.closing, build.closing, b"".join(item + b"\n" for item in self.items)))
        starts, ends, texts = zip(*edits, strict=True)
        last = self.model.bounds[next(iter(self.model.bounds))][1]
        return spliced(self.model.data[:last], np.array(starts), np.array(ends), texts)

    def _check_home(self) -> None:
        """Make sure that all that changes is in the root model."""
        nodes, count = self.asset.nodes, len(self.places)
        touched = {i for i in self.change.anew if i < count} | set(self.change.pieces)
        touched |= {above for i in self.change.anew if (above := nodes[i].parent) is not None and above < count}
        for i in touched:
            if "#" in self.places[i][1] or self.places[i][0].attributes.get("path") is not None:
                raise Refused(say("'{name}' is in another model of its package", name=nodes[i].name))

    def _cut_object(self, ident: str) -> None:
        """Make objects of an object's pieces, and let what placed it place an object that is made of them."""
        users = [i for i in self.change.pieces if self.places[i][1] == ident]
        pieces = self._make_pieces(ident, self.change.pieces[users[0]])
        for i in users:
            self.own.update(zip(self.change.pieces[i], pieces, strict=True))
        if len(users) == self.users[ident] and all(self._keeps_its_pieces(i) for i in users):
            self.cut[ident] = ident
            self.shared |= {k for i in users[1:] for k in self.change.pieces[i]}
            return
        for i in users:
            if self.placed[self.places[i][0].start] > 1:
                self._refuse_many(i)
            own = ident if self.users[ident] == 1 else self._take_number()
            self.own[i], self.cut[own] = own, ident

    def _keeps_its_pieces(self, part: int) -> bool:
        """Tell whether what hangs from a part that was cut is its pieces, and no more."""
        return self.asset.children[part] == self.change.pieces[part]

    def _make_pieces(self, ident: str, nodes: tuple[int, ...]) -> list[str]:
        element, shape = self.model.objects[ident], self.model.shapes[ident]
        mesh = element.one("mesh")
        assert mesh is not None
        if any(child.tag not in {"vertices", "triangles"} for child in mesh.children):
            raise Refused(say("object {ident} has more than vertices and triangles, which can't be cut", ident=ident))
        vertices, triangles = mesh.one("vertices"), mesh.one("triangles")
        assert vertices is not None
        assert triangles is not None
        cuts = [cut for k in nodes if (cut := self.asset.mesh_of(k).cut) is not None]
        place = np.zeros(len(shape.points), dtype=np.int64)
        for cut in cuts:
            place[cut.points] = np.arange(len(cut.points))
        spans = shape.corner_spans.reshape(-1, 2) - triangles.opened
        numbers = [b"%d" % k for k in place[shape.triangles].ravel().tolist()]
        told = spliced(triangles.raw(), spans[:, 0], spans[:, 1], numbers)
        rows = row_words(vertices.raw(), b"vertex"), row_words(told, b"triangle")
        if (len(rows[0]), len(rows[1])) != (len(shape.points), len(shape.triangles)):
            raise Refused(say("object {ident} has rows that are not well formed, and can't be cut", ident=ident))
        return [
            self._make_piece(element, self.asset.nodes[k].name, cut, rows) for k, cut in zip(nodes, cuts, strict=True)
        ]

    def _make_piece(self, element: Element, name: str, cut: Cut, rows: tuple[list[bytes], list[bytes]]) -> str:
        number = self._take_number()
        head = self._write_opening_tag(element, number, name, drop=("partnumber",))
        lists = []
        for tag, lines, own in zip(("vertex", "triangle"), rows, (cut.points, cut.triangles), strict=True):
            lists.append(b"".join(b"<%s %s/>" % (self._prefix_tag(tag), lines[k].strip()) for k in own.tolist()))
        mesh, points, faces = (self._prefix_tag(t) for t in ("mesh", "vertices", "triangles"))
        self.made[number] = b"%s<%s><%s>%s</%s><%s>%s</%s></%s></%s>" % (
            head, mesh, points, lists[0], points, faces, lists[1], faces, mesh, self._prefix_tag("object"),
        )  # fmt: skip
        return number

    def _write_opening_tag(self, element: Element, number: str, name: str, drop: tuple[str, ...]) -> bytes:
        """Return the opening tag of an object under another number and name, without what only one can have."""
        head = element.data[element.start : element.opened]
        edits: list[Edit] = []
        for key, value in (("id", number), ("name", name)):
            span = element.value_span(key)
            text = in_value(value).encode()
            edits.append((len(head) - 1, len(head) - 1, b" %s=%s" % (key.encode(), text)) if span is None else
                         (span[0] - 1 - element.start, span[1] + 1 - element.start, text))  # fmt: skip
        unique = element.value_span("UUID")
        if unique is not None and number != element.attributes.get("id"):  # as the production extension asks
            own = uuid5(NAMESPACE_OID, f"{element.attributes['UUID']} {number}")
            edits.append((unique[0] - element.start, unique[1] - element.start, str(own).encode()))
        for key in drop:
            span = element.value_span(key)
            if span is not None:
                before = head[: span[0] - element.start].rstrip(b"\"'= \t\r\n")
                start = max(before.rfind(b) for b in (b" ", b"\t", b"\n"))
                edits.append((start, span[1] + 1 - element.start, b""))
        starts, ends, texts = zip(*edits, strict=True)
        return spliced(head, np.array(starts), np.array(ends), texts)

    def _place_node(self, i: int) -> None:
        """Let the object that a node hangs from place it, or the build."""
        above = self.asset.nodes[i].parent
        ident = self.own.get(i, self.places[i][1] if i < len(self.places) else "")
        text = b'<%s objectid="%s"/>' % (self._prefix_tag("item" if above is None else "component"), ident.encode())
        if i < len(self.places):
            place = self.places[i][0]
            if self.placed[place.start] > 1:
                self._refuse_many(i)
            self.gone[place.start] = place
            text = self._write_place(place, ident, is_item=above is None)
        if i in self.shared:
            return
        if above is None:
            self.items.append(text)
        else:
            self.added.setdefault(self._room_below(above), []).append((ident, text))

    def _room_below(self, i: int) -> str:
        """Return the object of a node that others are to hang from."""
        name = self.asset.nodes[i].name
        if i >= len(self.places) or (i not in self.change.pieces and self.places[i][1] in self.model.shapes):
            raise Refused(say("3MF holds nothing below '{name}', which has geometry of its own", name=name))
        ident = self.own.get(i, self.places[i][1])
        if ident not in self.cut and self.users[ident] > 1:
            self._refuse_many(i)
        return ident

    def _write_place(self, place: Element, ident: str, *, is_item: bool) -> bytes:
        """Return what places an object, as an item or a component."""
        more = place.attributes.keys() - _PLACING
        if not is_item and (more or place.children):
            what = ", ".join(sorted(more)) or place.children[0].tag
            raise Refused(
                say("object {ident} is built with its own {what}, which it would lose", ident=ident, what=what)
            )
        head = place.data[place.start : place.opened]
        span = place.value_span("objectid")
        assert span is not None
        start, end = span[0] - place.start, span[1] - place.start
        attributes = head[:start] + ident.encode() + head[end:]
        words = attributes.split(None, 1)[1].rstrip(b">").rstrip(b"/").rstrip()
        return b"<%s %s/>" % (self._prefix_tag("item" if is_item else "component"), words)

    def _retarget_places(self, tag: str) -> list[Edit]:
        """Return the edits of what places a part that has got an object of its own, where it is."""
        found: list[Edit] = []
        for i, ident in self.own.items():
            place = self.places[i][0] if i < len(self.places) else None
            if place is not None and place.tag == tag and place.start not in self.gone:
                span = place.value_span("objectid")
                assert span is not None
                found.append((*span, ident.encode()))
        return found

    def _object_texts(self) -> list[bytes]:
        """Return the texts of all objects, each behind those it is made of."""
        retargeted = self._retarget_places("component")
        had = Counter(self.places[i][1] for i in self.own if i < len(self.places))
        left = {ident for ident, count in had.items() if count == self.users[ident]}
        texts = {
            ident: self._object_text(ident, element, retargeted)
            for ident, element in self.model.objects.items()
            if "#" not in ident and ident not in self.cut and ident not in left
        }
        needs = {ident: self._components_of(ident) for ident in texts}
        for own, ident in self.cut.items():
            texts[own], needs[own] = self._cut_text(own, ident), [k for k, _ in self.added.get(own, [])]
        return [(self.made | texts)[ident] for ident in [*self.made, *_behind_what_they_need(needs)]]

    def _components_of(self, ident: str) -> list[str]:
        element = self.model.objects[ident]
        kept = [c for c in element.all("components", "component") if c.start not in self.gone]
        owners = {self.places[i][0].start: own for i, own in self.own.items() if i < len(self.places)}
        return [owners.get(c.start, c.attributes.get("objectid", "")) for c in kept] + [
            k for k, _ in self.added.get(ident, [])
        ]

    def _object_text(self, ident: str, element: Element, retargeted: list[Edit]) -> bytes:
        edits = [(e.start, e.end, b"") for e in self.gone.values() if element.start <= e.start < element.end]
        edits += [e for e in retargeted if element.start <= e[0] < element.end]
        more = self.added.get(ident, [])
        components = element.one("components")
        if components is not None and not more and all(c.start in self.gone for c in components.children):
            name = element.attributes.get("name") or ident
            raise Refused(say("'{name}' would be left empty, which 3MF can't hold", name=name))
        if more:
            assert components is not None
            edits.append((components.closing, components.closing, b"".join(text for _, text in more)))
        own = element.data[element.start : element.end]
        starts, ends, texts = zip(*edits, strict=True) if edits else ((), (), ())
        first = element.start
        return spliced(own, np.array(starts, dtype=np.int64) - first, np.array(ends, dtype=np.int64) - first, texts)

    def _cut_text(self, own: str, ident: str) -> bytes:
        """Return the text of an object that is made of its pieces, and whatever else hangs from it now."""
        element = self.model.objects[ident]
        mesh = element.one("mesh")
        assert mesh is not None
        if not self.added.get(own):
            raise Refused(
                say("'{name}' would be left empty, which 3MF can't hold", name=element.attributes.get("name") or ident)
            )
        name = element.attributes.get("name") or element.attributes.get("partnumber") or f"object_{ident}"
        head = self._write_opening_tag(element, own, name, drop=_OF_A_MESH)
        between = element.data[element.opened : mesh.start]
        components = self._prefix_tag("components")
        inside = b"".join(text for _, text in self.added[own])
        return b"%s%s<%s>%s</%s></%s>" % (head, between, components, inside, components, self._prefix_tag("object"))

    def _refuse_many(self, i: int) -> None:
        name = self.asset.nodes[i].name
        raise Refused(
            say("'{name}' stands once in the file for several parts, which would have to change alike", name=name)
        )

    def _take_number(self) -> str:
        self.fresh += 1
        return str(self.fresh - 1)

    def _prefix_tag(self, tag: str) -> bytes:
        return (self.prefix + tag).encode()


def _behind_what_they_need(needs: dict[str, list[str]]) -> list[str]:
    """Return the keys, each behind those it needs, else in their order."""
    found: dict[str, None] = {}
    for first in needs:
        due = [first]
        while due:
            missing = [k for k in needs.get(due[-1], []) if k in needs and k not in found]
            if missing:
                due += missing[:1]
            else:
                found[due.pop()] = None
    return list(found)
