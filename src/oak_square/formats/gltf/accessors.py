"""Accessors: typed views into buffers, every declared count held against the bytes that are there."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.words import say
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.limits import Limits

__all__ = ["AccessorLayout", "coded", "dense", "layout_of", "overlaps", "strided"]

_TYPES: dict[int, tuple[str, float]] = {
    5120: ("<i1", 127.0), 5121: ("<u1", 255.0), 5122: ("<i2", 32767.0),
    5123: ("<u2", 65535.0), 5125: ("<u4", 4294967295.0), 5126: ("<f4", 1.0),
}  # fmt: skip
_WIDTHS = {"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4, "MAT2": 4, "MAT3": 9, "MAT4": 16}


@dataclass(frozen=True, slots=True, kw_only=True)
class AccessorLayout:
    """Where an accessor's elements lie. `buffer` is None where it has no view: then they are zeros.

    Attributes
    ----------
    buffer : int or None
    offset, stride, size : int, bytes
        Of the first element, from one to the next, of one.
    count, width : int
        Elements, and numbers in one.
    dtype : str
    divisor : float
        What normalised integers are divided by, else 1.
    sparse : dict or None
    """

    buffer: int | None
    offset: int
    stride: int
    size: int
    count: int
    width: int
    dtype: str
    divisor: float
    sparse: dict[str, Any] | None

    @property
    def end(self) -> int:
        """One past its last byte."""
        return self.offset + self.stride * (self.count - 1) + self.size if self.count else self.offset

    @property
    def is_plain(self) -> bool:
        """Whether it is float32 that lies whole in a buffer."""
        return self.dtype == "<f4" and self.sparse is None and self.buffer is not None


def _read_whole(document: GltfDocument, item: dict[str, Any], key: str, default: int | None, what: str) -> int:
    value = item.get(key, default)
    if not isinstance(value, int) or isinstance(value, bool) or value < 0:
        raise document.fail(say("{what} has no usable {key}", what=what, key=key))
    return value


def layout_of(document: GltfDocument, index: object, limits: Limits) -> AccessorLayout:
    """Return the layout of an accessor.

    Raises
    ------
    BadFile
        If it is not there, or reaches past the bytes it lies in.
    """
    accessors = document.items("accessors")
    if not isinstance(index, int) or isinstance(index, bool) or not 0 <= index < len(accessors):
        raise document.fail(say("accessor {index} is not there (there are {count})", index=index, count=len(accessors)))
    key = "layout", index, id(limits)
    found = document.known.get(key)
    if not isinstance(found, AccessorLayout):
        found = document.known[key] = _worked_out(document, index, limits)
    return found


def _worked_out(document: GltfDocument, index: int, limits: Limits) -> AccessorLayout:
    accessors = document.items("accessors")
    item, what = accessors[index], say("accessor {index}", index=index)
    component, kind = item.get("componentType"), item.get("type")
    if not isinstance(component, int) or component not in _TYPES or not isinstance(kind, str) or kind not in _WIDTHS:
        raise document.fail(
            say("{what} has an unknown type {component} {kind}", what=what, component=component, kind=kind)
        )
    dtype, divisor = _TYPES[component]
    count = _read_whole(document, item, "count", None, what)
    if count > limits.vertices * 3:
        raise document.fail(
            say(
                "{what} declares {count} elements, over the limit of {vertices}",
                what=what,
                count=count,
                vertices=limits.vertices * 3,
            )
        )
    if "bufferView" not in item and count > limits.drawn_vertices:
        raise document.fail(
            say(
                "{what} declares {count} elements that no bytes stand for, over {drawn_vertices}",
                what=what,
                count=count,
                drawn_vertices=limits.drawn_vertices,
            )
        )
    width = _WIDTHS[kind]
    size = np.dtype(dtype).itemsize * width
    sparse = item.get("sparse")
    buffer, offset, stride = None, 0, size
    if "bufferView" in item:
        own = _read_whole(document, item, "byteOffset", 0, what)
        buffer, offset, stride, room = _check_view(document, item["bufferView"], size, what)
        need = own + (stride * (count - 1) + size if count else 0)
        if need > room:
            raise document.fail(
                say(
                    "{what} reaches past its bytes: {count} elements need {need}, there are {room}",
                    what=what,
                    count=count,
                    need=need,
                    room=room,
                )
            )
        offset += own
    return AccessorLayout(
        buffer=buffer,
        offset=offset,
        stride=stride,
        size=size,
        count=count,
        width=width,
        dtype=dtype,
        divisor=divisor if item.get("normalized") is True else 1.0,
        sparse=sparse if isinstance(sparse, dict) else None,
    )


def _check_view(document: GltfDocument, index: object, size: int, what: str) -> tuple[int, int, int, int]:
    views = document.items("bufferViews")
    if not isinstance(index, int) or isinstance(index, bool) or not 0 <= index < len(views):
        raise document.fail(say("{what} names buffer view {index}, which is not there", what=what, index=index))
    view, name = views[index], say("buffer view {index}", index=index)
    buffer = _read_whole(document, view, "buffer", None, name)
    if buffer >= len(document.buffers):
        raise document.fail(say("{name} names buffer {buffer}, which is not there", name=name, buffer=buffer))
    offset = _read_whole(document, view, "byteOffset", 0, name)
    length = _read_whole(document, view, "byteLength", None, name)
    stride = _read_whole(document, view, "byteStride", size, name) or size
    there = len(document.buffers[buffer].data)
    if offset + length > there:
        raise document.fail(
            say(
                "{name} reaches past its buffer: to byte {offset} of {there}",
                name=name,
                offset=offset + length,
                there=there,
            )
        )
    if stride < size:
        raise document.fail(
            say("{name} has a stride of {stride} bytes for elements of {size}", name=name, stride=stride, size=size)
        )
    return buffer, offset, stride, length


def strided(data: NDArray[np.uint8], layout: AccessorLayout) -> NDArray[Any]:
    """Return the elements of `layout` in `data` as a (count, width) view, nothing copied."""
    itemsize = np.dtype(layout.dtype).itemsize
    return np.ndarray(
        shape=(layout.count, layout.width),
        dtype=layout.dtype,
        buffer=data,
        offset=layout.offset,
        strides=(layout.stride, itemsize),
    )


def dense(document: GltfDocument, index: object, limits: Limits) -> NDArray[Any]:
    """Return an accessor's elements, shape (count, width): a view where they lie plain, else float32 or integers.

    Raises
    ------
    BadFile
        As `layout_of`; or if sparse indices lead out of range.
    """
    layout = layout_of(document, index, limits)
    values = coded(document, index, limits)
    if layout.divisor != 1.0:
        # Signed normalised integers: the lowest code also means -1 (specification, 3.6.2.2).
        values = np.maximum(values / np.float32(layout.divisor), np.float32(-1.0))
    return values


def coded(document: GltfDocument, index: object, limits: Limits) -> NDArray[Any]:
    """Return an accessor's elements as they are stored, shape (count, width): normalised integers stay integers.

    Raises
    ------
    BadFile
        As `dense`.
    """
    layout = layout_of(document, index, limits)
    if index in document.decoded:
        return document.decoded[index]
    if layout.buffer is None:
        values: NDArray[Any] = np.broadcast_to(np.zeros(1, dtype=layout.dtype), (layout.count, layout.width))
    else:
        values = strided(document.buffers[layout.buffer].data, layout)
    return values if layout.sparse is None else _with_sparse(document, values, layout, index)


def _with_sparse(document: GltfDocument, values: NDArray[Any], layout: AccessorLayout, index: object) -> NDArray[Any]:
    sparse, what = layout.sparse or {}, say("sparse accessor {index}", index=index)
    count = _read_whole(document, sparse, "count", None, what)
    where, what_values = sparse.get("indices"), sparse.get("values")
    if not isinstance(where, dict) or not isinstance(what_values, dict):
        raise document.fail(say("{what} lacks its indices or values", what=what))
    if not isinstance(where.get("componentType"), int) or where["componentType"] not in _TYPES:
        raise document.fail(say("{what} lacks its indices or values", what=what))
    index_type = _TYPES[where["componentType"]][0]
    rows = _read_run(document, where, np.dtype(index_type).itemsize, count, index_type, 1, what)[:, 0].astype(np.int64)
    if count > layout.count or (len(rows) and (rows.max() >= layout.count or rows.min() < 0)):
        raise document.fail(say("{what} names elements that are not there", what=what))
    values = np.array(values)
    values[rows] = _read_run(document, what_values, layout.size, count, layout.dtype, layout.width, what)
    return values


def _read_run(
    document: GltfDocument, item: dict[str, Any], size: int, count: int, dtype: str, width: int, what: str
) -> NDArray[Any]:
    buffer, offset, _, room = _check_view(document, item.get("bufferView"), size, what)
    own = _read_whole(document, item, "byteOffset", 0, what)
    if own + size * count > room:
        raise document.fail(say("{what} reaches past its bytes", what=what))
    data = document.buffers[buffer].data
    return np.ndarray(shape=(count, width), dtype=dtype, buffer=data, offset=offset + own)


def overlaps(a: AccessorLayout, b: AccessorLayout) -> bool:
    """Tell whether two accessors share a byte. Interleaved neighbours do not."""
    if a.buffer is None or a.buffer != b.buffer or a.end <= b.offset or b.end <= a.offset:
        return False
    if a.stride != b.stride or a.stride == a.size:
        return True
    apart = (b.offset - a.offset) % a.stride
    return not (apart >= a.size and apart + b.size <= a.stride)
