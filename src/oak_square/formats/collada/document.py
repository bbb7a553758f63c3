"""A COLLADA document: its elements by id, its sources as numbers, its reading.

Follows the COLLADA 1.4.1 specification (Khronos Group, 2008), chapters 4 and 5.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.core.frames import Reading
from oak_square.core.tolerances import GREATEST_UNIT_M, LEAST_UNIT_M, SAME_UNIT
from oak_square.core.words import say
from oak_square.formats.collada.groups import Group, read_group
from oak_square.formats.collada.sources import Floats, parse_whole
from oak_square.formats.limits import Limits
from oak_square.formats.shared.text_edit import in_utf8
from oak_square.formats.shared.xml_spans import Element, parse_xml

__all__ = [
    "FRONT_OF",
    "PROFILE",
    "ColladaDocument",
    "name_of",
    "open_document",
    "opened_again",
    "transform_of",
    "up_word",
]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
FRONT_OF = {"Y_UP": ("+Y", "+Z"), "Z_UP": ("+Z", "-Y"), "X_UP": ("+X", "+Z")}
"""What each `up_axis` means: up and front."""
PROFILE = "OakSquare"
"""What our own extras are marked with."""
_GEOMETRIC = {"float_array", "source", "vertices", "geometry", "controller"}
_POLYGONS = ("triangles", "polylist", "polygons", "trifans", "tristrips")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ColladaDocument:
    """A file as read; `data` is UTF-8, or what XML's own declaration says, whatever `encoding` it came in."""

    file: str
    folder: Path
    data: bytes
    root: Element
    ids: dict[str, Element]
    reading: Reading
    limits: Limits
    encoding: str = "utf-8"
    sources: dict[str, Floats] = field(default_factory=dict)
    groups: dict[str, tuple[Group, ...]] = field(default_factory=dict)

    def fail(self, reason: str) -> BadFile:
        """Return the error that this file is wrong."""
        return BadFile(self.file, reason)

    def target(self, url: str | None) -> Element | None:
        """Return the element that a url inside the file names."""
        return self.ids.get(url[1:]) if url is not None and url.startswith("#") else None

    def numbers(self, element: Element) -> Array:
        """Return the numbers between an element's tags.

        Raises
        ------
        BadFile
            If one is no number.
        """
        raw = element.raw()
        text = element.text() if b"<" in raw or b"&" in raw else raw.decode("latin-1")
        words = text.split()
        try:
            return np.array(words, dtype=np.float64) if len(words) < 64 else np.array(words).astype(np.float64)
        except ValueError as error:
            line = self.data.count(b"\n", 0, element.start) + 1
            raise self.fail(
                say("line {line}: <{tag}> holds something that is no number", line=line, tag=element.tag)
            ) from error

    def source(self, ident: str) -> Floats:
        """Return a source by its id.

        Raises
        ------
        BadFile
            If it is not there, or has fewer numbers than it declares.
        """
        if ident not in self.sources:
            self.sources[ident] = _read_source(self, ident)
        return self.sources[ident]

    def groups_of(self, geometry: Element) -> tuple[Group, ...]:
        """Return the polygons of a geometry, group by group."""
        key = geometry.attributes.get("id", str(geometry.start))
        if key not in self.groups:
            mesh = geometry.one("mesh")
            rows = [c for c in mesh.children if c.tag in _POLYGONS] if mesh is not None else []
            self.groups[key] = tuple(read_group(self, geometry, row) for row in rows)
        return self.groups[key]


def open_document(path: Path, data: bytes, file: str, limits: Limits) -> ColladaDocument:
    """Return the document that `data`, read from `path`, holds.

    Raises
    ------
    BadFile
        If it is no COLLADA, or its unit or axis can't be understood.
    """
    raw, (data, encoding) = data, in_utf8(data)
    if encoding == "utf-8-sig":
        data = raw  # the parser knows the mark, and wants no blanks before a declaration
    return _make_document(path.parent, data, file, limits, encoding)


def opened_again(document: ColladaDocument, data: bytes) -> ColladaDocument:
    """Return the document that a changed text of one is."""
    return _make_document(document.folder, data, document.file, document.limits, document.encoding)


def _make_document(folder: Path, data: bytes, file: str, limits: Limits, encoding: str) -> ColladaDocument:
    root = parse_xml(data, file, limits, is_utf8=encoding.startswith("utf-16"))
    if root.tag != "COLLADA":
        raise BadFile(file, say("is no COLLADA: its root is <{tag}>", tag=root.tag[:40]))
    ids = _index_ids(root, file)
    return ColladaDocument(
        file=file, folder=folder, data=data, root=root, ids=ids, reading=_find_reading(root, file), limits=limits,
        encoding=encoding if encoding.startswith("utf-16") else "utf-8",
    )  # fmt: skip


def _find_reading(root: Element, file: str) -> Reading:
    unit, axis = root.one("asset", "unit"), root.one("asset", "up_axis")
    text = unit.attributes.get("meter", "1") if unit is not None else "1"
    try:
        metres = float(text.replace(",", ".", 1))  # as some programs write it in some countries
    except ValueError as error:
        raise BadFile(file, say("its unit is '{text}' metres, which is no number", text=text[:40])) from error
    if not (math.isfinite(metres) and LEAST_UNIT_M <= metres <= GREATEST_UNIT_M):
        raise BadFile(file, say("its unit is {metres:g} metres", metres=metres))
    up = axis.text() if axis is not None else "Y_UP"
    if up not in FRONT_OF:
        raise BadFile(file, say("its up axis '{up}' is none of X_UP, Y_UP, Z_UP", up=up[:40]))
    upward, front = FRONT_OF[up]
    return Reading(metres_per_unit=metres, up=upward, front=front, source="declared")


def _index_ids(root: Element, file: str) -> dict[str, Element]:
    """Return what has an id, by it.

    Raises
    ------
    BadFile
        If two that hold geometry share one: which is meant can't be told.
    """
    found: dict[str, Element] = {}
    for element in root.walk():
        ident = element.attributes.get("id")
        if ident is None:
            continue
        if ident in found and element.tag in _GEOMETRIC and found[ident].tag in _GEOMETRIC:
            raise BadFile(
                file,
                say(
                    "has two of '{ident}', a {tag} and a {tag_2}: it is damaged",
                    ident=ident[:60],
                    tag=found[ident].tag,
                    tag_2=element.tag,
                ),
            )
        found[ident] = element
    return found


def _read_source(document: ColladaDocument, ident: str) -> Floats:
    element = document.ids.get(ident)
    floats = element.one("float_array") if element is not None else None
    accessor = element.one("technique_common", "accessor") if element is not None else None
    if element is None or floats is None:
        raise document.fail(say("source '{ident}' is not there, or holds no numbers", ident=ident[:60]))
    numbers = document.numbers(floats)
    told = parse_whole(floats.attributes.get("count"), len(numbers))
    if told != len(numbers):
        raise document.fail(
            say(
                "source '{ident}' declares {told} numbers and has {count}: it is damaged",
                ident=ident[:60],
                told=told,
                count=len(numbers),
            )
        )
    declared = dict(accessor.attributes) if accessor is not None else {}
    count, stride, first = (parse_whole(declared.get(k), d) for k, d in (("count", -1), ("stride", 3), ("offset", 0)))
    if stride < 1:
        raise document.fail(say("source '{ident}' has a stride of {stride}", ident=ident[:60], stride=stride))
    count = (len(numbers) - first) // stride if count < 0 else count
    if first < 0 or count < 0 or first + count * stride > len(numbers):
        raise document.fail(
            say(
                "source '{ident}' declares {count} rows of {stride} and has {count_2} numbers",
                ident=ident[:60],
                count=count,
                stride=stride,
                count_2=len(numbers),
            )
        )
    rows = numbers[first : first + count * stride].reshape(count, stride)
    return Floats(id=ident, floats=floats, rows=rows, first=first, stride=stride)


def name_of(element: Element) -> str:
    """Return what an element is called, in full."""
    for technique in element.all("extra", "technique"):
        own = technique.one("name") if technique.attributes.get("profile") == PROFILE else None
        if own is not None and own.text():
            return own.text()  # in full: the attribute can't hold every name
    return element.attributes.get("name") or element.attributes.get("id") or "node"


def transform_of(document: ColladaDocument, element: Element) -> Array | None:
    """Return the (4, 4) matrix of one transformation element; None for what is none.

    Raises
    ------
    BadFile
        If it has too few numbers.
    """
    need = {"translate": 3, "rotate": 4, "scale": 3, "matrix": 16, "lookat": 9, "skew": 7}.get(element.tag)
    if need is None:
        return None
    values = document.numbers(element)
    if len(values) < need or not np.isfinite(values[:need]).all():
        raise document.fail(say("<{tag}> needs {need} numbers", tag=element.tag, need=need))
    matrix = np.eye(4)
    if element.tag == "translate":
        matrix[:3, 3] = values[:3]
    elif element.tag == "scale":
        matrix[:3, :3] = np.diag(values[:3])
    elif element.tag == "matrix":
        matrix = values[:16].reshape(4, 4).copy()
        matrix[3] = [0, 0, 0, 1]
    elif element.tag == "rotate":
        matrix[:3, :3] = _rotate_about(values[:3], math.radians(values[3]))
    elif element.tag == "lookat":
        eye, at, up = values[:3], values[3:6], values[6:9]
        back = (eye - at) / (np.linalg.norm(eye - at) or 1.0)
        right = np.cross(up, back)
        right = right / (np.linalg.norm(right) or 1.0)
        matrix[:3, :3] = np.column_stack([right, np.cross(back, right), back])
        matrix[:3, 3] = eye
    else:
        along, by = (v / (np.linalg.norm(v) or 1.0) for v in (values[4:7], values[1:4]))
        matrix[:3, :3] += math.tan(math.radians(values[0])) * np.outer(along, by)
    return matrix


def _rotate_about(axis: Array, angle: float) -> Array:
    """Return the (3, 3) right-hand rotation about an axis, radians (Rodrigues' formula)."""
    length = float(np.linalg.norm(axis))
    if length == 0:
        return np.eye(3)
    x, y, z = axis / length
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    found: Array = np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross
    # Quarter turns about an axis of the file are exact.
    square = abs(math.remainder(angle, math.pi / 2)) < SAME_UNIT and sorted(map(abs, (x, y, z)))[1] == 0
    return np.rint(found) if square else found


def up_word(reading: Reading) -> str | None:
    """Return the `up_axis` that means a reading's axes; None where none does."""
    return next((word for word, axes in FRONT_OF.items() if axes == (reading.up, reading.front)), None)
