"""The model part of a 3MF package: objects, their vertices and triangles with their places in the text.

Vertices and triangles are elements of their own, millions of them: they are found by pattern, and blanked before the
rest is parsed, which keeps every place in the text what it was.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.formats.limits import Limits
from oak_square.formats.text_edit import tidied_matrix
from oak_square.formats.xml_spans import Element, parse_xml

__all__ = ["UNITS", "Model", "Shape", "open_model", "transform_text", "transform_values"]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
Block = tuple[int, int] | None
UNITS = {
    "micron": 1e-6, "millimeter": 0.001, "centimeter": 0.01, "inch": 0.0254, "foot": 0.3048, "meter": 1.0,
}  # fmt: skip
_OPENING = re.compile(rb"<(?:[\w.-]+:)?(vertices|triangles)(?:\s[^>]*)?(?<!/)>")
_CLOSING = {n: re.compile(rb"</(?:[\w.-]+:)?" + n + rb"\s*>") for n in (b"vertices", b"triangles")}
_ROW = re.compile(rb"<(?:[\w.-]+:)?(vertex|triangle)\s([^>]*?)/?>")
_NAMES = (b"x", b"y", b"z", b"v1", b"v2", b"v3")
_VALUE = {n: re.compile(rb"(?:^|\s)" + n + rb"\s*=\s*[\"']([^\"']*)[\"']") for n in _NAMES}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shape:
    """An object's own mesh: numbers, and where each of them stands in the text.

    Attributes
    ----------
    points : ndarray, shape (N, 3)
    point_spans : ndarray, shape (N, 3, 2)
    triangles : ndarray, shape (M, 3)
    corner_spans : ndarray, shape (M, 3, 2)
    groups : tuple of bytes
        The attributes of each triangle, as text.
    """

    points: Array
    point_spans: Ints
    triangles: Ints
    corner_spans: Ints
    groups: tuple[bytes, ...] = field(default=())


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Model:
    """A model part as read."""

    data: bytes
    root: Element
    metres: float
    objects: dict[str, Element]
    shapes: dict[str, Shape]


def open_model(data: bytes, file: str, limits: Limits) -> Model:
    """Return the model that the bytes of a part hold.

    Raises
    ------
    BadFile
        If it is no model, or vertices and triangles do not hold together.
    """
    blanked = bytearray(data)
    inside: dict[int, tuple[int, int]] = {}
    at = 0
    while (match := _OPENING.search(data, at)) is not None:
        close = _CLOSING[match[1]].search(data, match.end())
        if close is None:
            break  # what is not closed is no XML: the parser will say so
        start, end = match.end(), close.start()
        inside[match.start()] = start, end
        blanked[start:end] = b" " * (end - start)
        at = close.end()
    root = parse_xml(data, file, limits, blanked=bytes(blanked))
    if root.tag != "model":
        raise BadFile(file, f"is no 3MF model: its root is <{root.tag[:40]}>")
    unit = root.attributes.get("unit", "millimeter")
    if unit not in UNITS:
        raise BadFile(file, f"its unit '{unit[:40]}' is none of {', '.join(UNITS)}")
    objects = {o.attributes.get("id", ""): o for o in root.all("resources", "object")}
    shapes = {}
    for ident, element in objects.items():
        vertices, triangles = element.one("mesh", "vertices"), element.one("mesh", "triangles")
        if vertices is not None and triangles is not None:
            shapes[ident] = _shape(data, file, ident, inside.get(vertices.start), inside.get(triangles.start), limits)
    return Model(data=data, root=root, metres=UNITS[unit], objects=objects, shapes=shapes)


def _shape(
    data: bytes,
    file: str,
    ident: str,
    vertices: tuple[int, int] | None,
    triangles: tuple[int, int] | None,
    limits: Limits,
) -> Shape:
    rows, row_spans, _ = _values(data, file, vertices, (b"x", b"y", b"z"), b"vertex", limits.vertices)
    corners, corner_spans, rest = _values(data, file, triangles, (b"v1", b"v2", b"v3"), b"triangle", limits.triangles)
    if len(corners) and (corners.min() < 0 or corners.max() >= len(rows) or (corners != np.rint(corners)).any()):
        raise BadFile(
            file, f"object {ident[:40]} has a triangle that names a vertex that is not there ({len(rows)} are)"
        )
    return Shape(
        points=rows, point_spans=row_spans, triangles=corners.astype(np.int64), corner_spans=corner_spans, groups=rest
    )


def _values(
    data: bytes, file: str, block: Block, names: tuple[bytes, ...], tag: bytes, most: int
) -> tuple[Array, Ints, tuple[bytes, ...]]:
    """Return three numbers of every row of a block, where each stands, and each row's attributes as text."""
    if block is None:
        return np.empty((0, 3)), np.empty((0, 3, 2), dtype=np.int64), ()
    texts, spans, rest = list[bytes](), list[int](), list[bytes]()
    patterns = [_VALUE[n] for n in names]
    for match in _ROW.finditer(data, *block):
        if match[1] != tag:
            continue
        words, at = match[2], match.start(2)
        rest.append(words)
        for pattern in patterns:
            found = pattern.search(words)
            if found is None:
                line = data.count(b"\n", 0, match.start()) + 1
                raise BadFile(file, f"line {line}: a {tag.decode()} lacks one of its three numbers")
            texts.append(found[1])
            spans += [at + found.start(1), at + found.end(1)]
        if len(rest) > most:
            raise BadFile(file, f"has over {most} rows of {tag.decode()}, the limit")
    try:
        values = np.array(texts).astype(np.float64) if texts else np.empty(0)
    except ValueError as error:
        raise BadFile(file, f"has a {tag.decode()} with something that is no number") from error
    return values.reshape(-1, 3), np.array(spans, dtype=np.int64).reshape(-1, 3, 2), tuple(rest)


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
        raise BadFile(file, f"its transform '{text[:60]}' holds something that is no number") from error
    if values.shape != (12,) or not np.isfinite(values).all():
        raise BadFile(file, f"its transform '{text[:60]}' is not twelve numbers")
    # Row vectors in the file (core specification, 3.3): its rows are our columns.
    matrix[:3, :] = values.reshape(4, 3).T
    return matrix


def transform_text(matrix: Array) -> bytes:
    """Return the transform attribute of a (4, 4) matrix for column vectors."""
    return " ".join(f"{float(v) + 0.0:.12g}" for v in tidied_matrix(matrix)[:3, :].T.ravel()).encode()
