"""The model part of a 3MF package: objects, their vertices and triangles with their places in the text.

Vertices and triangles are elements of their own, millions of them: they are found by pattern, and blanked before the
rest is parsed, which keeps every place in the text what it was.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.limits import Limits
from oak_square.formats.shared.text_edit import tidied_matrix
from oak_square.formats.shared.xml_spans import Element, parse_xml

__all__ = ["UNITS", "MeshRows", "Model", "open_model", "row_words", "transform_text", "transform_values"]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
Block = tuple[int, int] | None
UNITS = {
    "micron": 1e-6, "millimeter": 0.001, "centimeter": 0.01, "inch": 0.0254, "foot": 0.3048, "meter": 1.0,
}  # fmt: skip
_OPENING = re.compile(rb"<(?:[\w.-]+:)?(vertices|triangles)(?:\s[^<>]*)?(?<!/)>")
_CLOSING = {n: re.compile(rb"</(?:[\w.-]+:)?" + n + rb"\s*>") for n in (b"vertices", b"triangles")}
_CLOSED = re.compile(rb"</(?:[\w.-]+:)?([^\s<>]*)\s*>")
_ROW = re.compile(rb"<(?:[\w.-]+:)?(vertex|triangle)\s([^<>]*?)/?>")
_MORE = (b"pid", b"p1")
_NAMES = (b"x", b"y", b"z", b"v1", b"v2", b"v3", *_MORE)
_VALUE = {n: re.compile(rb"(?:^|\s)" + n + rb"\s*=\s*[\"']([^\"']*)[\"']") for n in _NAMES}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MeshRows:
    """An object's own mesh: numbers, and where each of them stands in the text.

    Attributes
    ----------
    points : ndarray, shape (N, 3)
    point_spans : ndarray, shape (N, 3, 2)
    triangles : ndarray, shape (M, 3)
    corner_spans : ndarray, shape (M, 3, 2)
    groups, rows : ndarray, shape (M,)
        The group of properties and the row in it that each triangle has of its own, -1 for none.
    """

    points: Array
    point_spans: Ints
    triangles: Ints
    corner_spans: Ints
    groups: Ints
    rows: Ints


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Model:
    """The models of a package as read, one text behind the other, so that every place in them is one number.

    Attributes
    ----------
    data : bytes
    root : Element
        Of the root model.
    roots : tuple of Element
        Of all models.
    bounds : dict of str to (int, int)
        Where each part's text lies in `data`.
    objects, shapes : dict by object
        Objects of the root model are called by their id, those of another by `part#id`.
    """

    data: bytes
    root: Element
    roots: tuple[Element, ...]
    metres: float
    bounds: dict[str, tuple[int, int]]
    objects: dict[str, Element]
    shapes: dict[str, MeshRows]

    def called(self, place: Element, above: str, file: str) -> str:
        """Return what the object is called that an item or component places, itself in the object `above`.

        Raises
        ------
        BadFile
            If it is not there.
        """
        ident, path = place.attributes.get("objectid", ""), place.attributes.get("path")
        home = path.lstrip("/") if path is not None else above.rpartition("#")[0]
        found = ident if home in {"", next(iter(self.bounds))} else f"{home}#{ident}"
        if found not in self.objects:
            raise BadFile(file, say("places object {found}, which is not there", found=found[:80]))
        return found


def open_model(models: dict[str, bytes], file: str, limits: Limits) -> Model:
    """Return what the models of a package hold, given by part, the root model first.

    Raises
    ------
    BadFile
        If one is no model, or vertices and triangles do not hold together.
    """
    data = b"".join(models.values())
    objects, shapes, bounds = dict[str, Element](), dict[str, MeshRows](), dict[str, tuple[int, int]]()
    start, roots = 0, list[Element]()
    for part, text in models.items():
        blanked, inside = _blank_rows(text, start)
        root = parse_xml(text, file, limits, blanked=blanked)
        if root.tag != "model":
            raise BadFile(file, say("is no 3MF model: its root is <{tag}>", tag=root.tag[:40]))
        root.move(data, start)
        for element in root.all("resources", "object"):
            ident = element.attributes.get("id", "")
            ident = f"{part}#{ident}" if roots else ident
            objects[ident] = element
            vertices, triangles = element.one("mesh", "vertices"), element.one("mesh", "triangles")
            if vertices is not None and triangles is not None:
                shapes[ident] = _read_shape(
                    data, file, ident, inside.get(vertices.start), inside.get(triangles.start), limits
                )
        bounds[part] = start, start + len(text)
        start += len(text)
        roots.append(root)
    unit = roots[0].attributes.get("unit", "millimeter")
    if unit not in UNITS:
        raise BadFile(file, say("its unit '{unit}' is none of {units}", unit=unit[:40], units=", ".join(UNITS)))
    return Model(
        data=data, root=roots[0], roots=tuple(roots), metres=UNITS[unit], bounds=bounds, objects=objects, shapes=shapes
    )


def _blank_rows(text: bytes, base: int) -> tuple[bytes, dict[int, tuple[int, int]]]:
    """Return a model's text with its vertices and triangles blanked, and where those lie, `base` further on."""
    blanked = bytearray(text)
    inside: dict[int, tuple[int, int]] = {}
    at = 0
    while (match := _OPENING.search(text, at)) is not None:
        close = _CLOSING[match[1]].search(text, match.end())
        if close is None:
            break  # what is not closed is no XML: the parser will say so
        start, end = match.end(), close.start()
        inside[base + match.start()] = base + start, base + end
        blanked[start:end] = b" " * (end - start)
        at = close.end()
    return bytes(blanked), inside


def _read_shape(data: bytes, file: str, ident: str, vertices: Block, triangles: Block, limits: Limits) -> MeshRows:
    points = _find_rows(data, file, vertices, (b"x", b"y", b"z"), b"vertex", limits.vertices)
    corners = _find_rows(data, file, triangles, (b"v1", b"v2", b"v3"), b"triangle", limits.triangles)
    named, there = corners.values, len(points.values)
    if len(named) and (named.min() < 0 or named.max() >= there or (named != np.rint(named)).any()):
        raise BadFile(
            file,
            say(
                "object {ident} has a triangle that names a vertex that is not there (there are {there})",
                ident=ident[:40],
                there=there,
            ),
        )
    return MeshRows(
        points=points.values,
        point_spans=points.spans,
        triangles=named.astype(np.int64),
        corner_spans=corners.spans,
        groups=corners.more[b"pid"],
        rows=corners.more[b"p1"],
    )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _TextRows:
    """Three numbers of every row, where each stands, and the whole numbers of two more attributes, -1 for none."""

    values: Array
    spans: Ints
    more: dict[bytes, Ints]


def _find_rows(data: bytes, file: str, block: Block, names: tuple[bytes, ...], tag: bytes, most: int) -> _TextRows:
    if block is None:
        none = np.empty(0, dtype=np.int64)
        return _TextRows(
            values=np.empty((0, 3)), spans=np.empty((0, 3, 2), dtype=np.int64), more=dict.fromkeys(_MORE, none)
        )
    return _plain_rows(data, block, names, tag, most) or _any_rows(data, file, block, names, tag, most)


def _plain_rows(
    data: bytes, block: tuple[int, int], names: tuple[bytes, ...], tag: bytes, most: int
) -> _TextRows | None:
    """Return the rows of a block as programs write them, without a loop; None where something is unusual."""
    body = np.frombuffer(data, dtype=np.uint8, count=block[1] - block[0], offset=block[0])
    quotes = np.flatnonzero(body == ord('"'))
    tags = np.flatnonzero(body == ord("<"))
    opened = tags[body[np.minimum(tags + 1, len(body) - 1)] != ord("/")]
    head = opened[:, None] + 1 + np.arange(len(tag) + 1)
    named = body[np.minimum(head, len(body) - 1)]
    if (named[:, :-1] != np.frombuffer(tag, dtype=np.uint8)).any() or (named[:, -1] > 32).any():
        return None
    starts, ends = quotes[0::2], quotes[1::2]
    odd = len(starts) != len(ends) or not len(opened) or len(opened) > most or bool((body == ord("'")).any())
    if odd or opened[-1] + 1 + len(tag) > len(body) or (len(starts) and starts[0] < 3):
        return None
    if (body[starts - 1] != ord("=")).any():
        return None
    last, before, third = body[starts - 2].astype(np.int64), body[starts - 3].astype(np.int64), body[starts - 4]
    inside = np.cumsum(body == ord('"')) % 2 == 1
    inside[quotes] = False
    text = np.where(inside, body, np.uint8(32)).tobytes().decode("latin-1")
    try:
        numbers = np.fromstring(text, dtype=np.float64, sep=" ")
    except (ValueError, DeprecationWarning):
        return None
    if len(numbers) != len(starts):
        return None
    row = np.searchsorted(opened, starts) - 1
    picked = []
    for name in names:
        own = (last == name[-1]) & ((before <= 32) if len(name) == 1 else (before == name[0]) & (third <= 32))
        where = np.flatnonzero(own)
        if len(where) != len(opened) or (row[where] != np.arange(len(opened))).any():
            return None
        picked.append(where)
    more = {}
    for name in _MORE:
        own = (last == name[-1]) & (before == name[-2]) & (third == name[0] if len(name) == 3 else third <= 32)
        found = np.full(len(opened), -1, dtype=np.int64)
        found[row[own]] = np.clip(numbers[own], -1, 1e9).astype(np.int64)
        more[name] = found
    chosen = np.stack(picked, axis=1)
    spans = np.stack([starts[chosen] + 1, ends[chosen]], axis=2) + block[0]
    return _TextRows(values=numbers[chosen], spans=spans, more=more)


def _any_rows(
    data: bytes, file: str, block: tuple[int, int], names: tuple[bytes, ...], tag: bytes, most: int
) -> _TextRows:
    """Return the rows of a block however they are written."""
    texts, spans = list[bytes](), list[int]()
    more: dict[bytes, list[int]] = {name: [] for name in _MORE}
    count = 0
    for closed in _CLOSED.finditer(data, *block):
        if closed[1] != tag:
            line = data.count(b"\n", 0, closed.start()) + 1
            raise BadFile(
                file, say("line {line}: a {decode} is closed by another name", line=line, decode=tag.decode())
            )
    for match in _ROW.finditer(data, *block):
        if match[1] != tag:
            continue
        words, at, count = match[2], match.start(2), count + 1
        for name in _MORE:
            own = _VALUE[name].search(words)
            more[name].append(int(own[1]) if own is not None and own[1].isdigit() and len(own[1]) < 10 else -1)
        for name in names:
            found = _VALUE[name].search(words)
            if found is None:
                line = data.count(b"\n", 0, match.start()) + 1
                raise BadFile(
                    file, say("line {line}: a {decode} lacks one of its three numbers", line=line, decode=tag.decode())
                )
            texts.append(found[1])
            spans += [at + found.start(1), at + found.end(1)]
        if count > most:
            raise BadFile(file, say("has over {most} rows of {decode}, the limit", most=most, decode=tag.decode()))
    try:
        values = np.array(texts).astype(np.float64) if texts else np.empty(0)
    except ValueError as error:
        raise BadFile(file, say("has a {decode} with something that is no number", decode=tag.decode())) from error
    return _TextRows(
        values=values.reshape(-1, 3),
        spans=np.array(spans, dtype=np.int64).reshape(-1, 3, 2),
        more={name: np.array(rows, dtype=np.int64) for name, rows in more.items()},
    )


def row_words(block: bytes, tag: bytes) -> list[bytes]:
    """Return what each row of a block of vertices or triangles says between its tag's name and its end."""
    return [match[2] for match in _ROW.finditer(block) if match[1] == tag]


def transform_values(text: str | None, file: str) -> Array:
    """Return the (4, 4) matrix, for column vectors, of a transform attribute; the identity where there is none.

    Raises
    ------
    BadFile
        If it is not twelve finite numbers.
    """
    matrix = np.eye(4)
    if text is None:
        return matrix
    try:
        values = np.array(text.split(), dtype=np.float64)
    except ValueError as error:
        raise BadFile(file, say("its transform '{text}' holds something that is no number", text=text[:60])) from error
    if values.shape != (12,) or not np.isfinite(values).all():
        raise BadFile(file, say("its transform '{text}' is not twelve numbers", text=text[:60]))
    # Row vectors in the file (core specification, 3.3): its rows are our columns.
    matrix[:3, :] = values.reshape(4, 3).T
    return matrix


def transform_text(matrix: Array) -> bytes:
    """Return the transform attribute of a (4, 4) matrix for column vectors."""
    return " ".join(f"{float(v) + 0.0:.12g}" for v in tidied_matrix(matrix)[:3, :].T.ravel()).encode()
