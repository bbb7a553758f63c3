"""A glTF document being edited: a copy of its JSON and buffers, made where it is first touched."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.formats.gltf.accessors import AccessorLayout, layout_of, overlaps
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.limits import Limits

__all__ = ["FLOAT", "UINT", "Edit", "numbers"]

FLOAT, UINT = 5126, 5125
"""Component types (specification, 3.6.2.2)."""


@dataclass(slots=True)
class Edit:
    """A document being edited: what is copied is copied when it is first touched."""

    document: GltfDocument
    limits: Limits
    json: dict[str, Any] = field(init=False)
    changed: bool = field(init=False, default=False)
    warnings: list[str] = field(init=False, default_factory=list)
    copies: dict[int, NDArray[np.uint8]] = field(init=False, default_factory=dict)
    appended: list[NDArray[Any]] = field(init=False, default_factory=list)
    appended_bytes: int = field(init=False, default=0)
    home: int = field(init=False)
    layouts: list[AccessorLayout] = field(init=False)
    spans: NDArray[np.int64] = field(init=False)  # of each layout: its buffer, first byte, one past its last
    done: dict[tuple[int, str, bytes], int] = field(init=False, default_factory=dict)
    owners: dict[int, set[tuple[str, bytes]]] = field(init=False, default_factory=dict)
    edited: set[str] = field(init=False, default_factory=set)

    def __post_init__(self) -> None:
        # Deep where steps write, shallow elsewhere: extras and extensions stay the source's own objects.
        self.json = dict(self.document.json)
        for name in ("nodes", "meshes", "accessors", "bufferViews", "buffers"):
            if name in self.json:
                self.json[name] = [dict(item) for item in self.json[name]]
        there = [i for i, buffer in enumerate(self.document.buffers) if not buffer.is_absent]
        self.home = there[0] if there else 0
        self.layouts = [layout_of(self.document, i, self.limits) for i in range(len(self.document.items("accessors")))]
        spans = [(-1 if at.buffer is None else at.buffer, at.offset, at.end) for at in self.layouts]
        self.spans = np.array(spans, dtype=np.int64).reshape(-1, 3)

    def is_sole(self, accessor: int, layout: AccessorLayout) -> bool:
        """Tell whether an accessor's bytes are wanted in one way only, so that they can be written over."""
        if len(self.owners.get(accessor, ())) > 1:
            return False
        near = (
            (self.spans[:, 0] == layout.buffer) & (self.spans[:, 1] < layout.end) & (self.spans[:, 2] > layout.offset)
        )
        others = (self.layouts[k] for k in np.flatnonzero(near) if k != accessor)
        return not any(overlaps(layout, other) for other in others)

    def copy(self, buffer: int) -> NDArray[np.uint8]:
        """Return the bytes of a buffer to write in."""
        if buffer not in self.copies:
            self.copies[buffer] = self.document.buffers[buffer].data.copy()
        return self.copies[buffer]

    def append(self, values: NDArray[Any], like: dict[str, Any]) -> int:
        """Add `values` behind the first buffer, with a view and an accessor of their own like `like`."""
        if not self.appended and not self.document.buffers:
            self.json.setdefault("buffers", []).append({"byteLength": 0})
        start = -(-(self.base_length() + self.appended_bytes) // 4) * 4
        padding = start - self.base_length() - self.appended_bytes
        if padding:
            self.appended.append(np.zeros(padding, dtype=np.uint8))
        self.appended.append(values)
        self.appended_bytes += padding + values.nbytes
        view = {"buffer": self.home, "byteOffset": start, "byteLength": values.nbytes}
        self.json.setdefault("bufferViews", []).append(view)
        item = {k: v for k, v in like.items() if k not in {"sparse", "byteOffset", "normalized", "min", "max"}}
        item["bufferView"] = len(self.json["bufferViews"]) - 1
        if values.dtype.kind == "f":
            item["componentType"] = FLOAT
        self.json.setdefault("accessors", []).append(item)
        return len(self.json["accessors"]) - 1

    def bound(self, entry: int, values: NDArray[Any], *, always: bool = False) -> None:
        """Make an accessor's declared bounds those of `values`, its elements as stored, where it declares any."""
        item = self.json["accessors"][entry]
        if always or "min" in item or "max" in item:
            low, high = values.min(axis=0), values.max(axis=0)
            item["min"], item["max"] = (
                (numbers(low), numbers(high)) if values.dtype.kind == "f" else (low.tolist(), high.tolist())
            )

    def append_coded(self, values: NDArray[Any], like: dict[str, Any]) -> int:
        """Add elements of a vertex attribute as they are stored, shape (count, width), of the type `like` has."""
        size = values.dtype.itemsize * values.shape[1]
        stride = -(-size // 4) * 4  # elements start at multiples of four (specification, 3.6.2.4)
        rows = np.zeros((len(values), stride), dtype=np.uint8)
        rows[:, :size] = np.ascontiguousarray(values).view(np.uint8).reshape(len(values), size)
        entry = self.append(rows, like)
        item = self.json["accessors"][entry]
        item["count"] = len(values)
        if like.get("normalized"):
            item["normalized"] = True
        if stride != size:
            self.json["bufferViews"][-1]["byteStride"] = stride
        return entry

    def base_length(self) -> int:
        """How long the buffer is that is written behind."""
        return len(self.document.buffers[self.home].data) if self.document.buffers else 0


def numbers(values: NDArray[Any]) -> list[float]:
    """Return numbers as JSON writes them."""
    # + 0.0 turns -0.0 into 0.0.
    return [float(v) + 0.0 for v in values]
