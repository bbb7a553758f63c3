"""Axis-aligned boxes: of parts, of groups with all below, of assets; and the points named on them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import SIDES
from oak_square.core.memo import Memo
from oak_square.core.tolerances import SPECK

if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from oak_square.core.scene import Asset, Mesh

__all__ = [
    "EXTENTS",
    "Box",
    "asset_box",
    "box_point",
    "fraction_of",
    "node_box",
    "part_boxes",
    "points_box",
    "tree_box",
    "tree_boxes",
]

Array = NDArray[np.float64]
EXTENTS = ("width", "height", "depth")
"""A box's sizes along its axes, in their order."""
_CHUNK = 16_384  # rows; three float64 rows of these stay in a core's cache
_MANY_NODES, _MANY_USERS = 64, 8  # from which on boxes are worked out for all at once
_SMALL, _AT_ONCE = 2048, 4096  # vertices of a mesh that is not worth a call of its own; how many of these at once
_CORNERS = np.array([[k & 1, k >> 1 & 1, k >> 2 & 1] for k in range(8)], dtype=np.float64)


@dataclass(frozen=True, slots=True, eq=False)
class Box:
    """A box along the axes of its frame; `low` and `high` are (3,) arrays, metres."""

    low: Array
    high: Array

    @property
    def size(self) -> Array:
        """Width, height, depth."""
        return self.high - self.low

    @property
    def diagonal(self) -> float:
        """Length of the space diagonal."""
        return float(np.linalg.norm(self.size))

    @property
    def middle(self) -> Array:
        """Its centre point."""
        return (self.low + self.high) / 2

    @property
    def base(self) -> Array:
        """The middle of its bottom side."""
        return box_point(self, (0.5, 0.0, 0.5))

    @property
    def corners(self) -> Array:
        """Its eight corners, shape (8, 3): bit k of a row's number says low or high along axis k."""
        return self.low + _CORNERS * self.size

    def same_as(self, other: Box | None) -> bool:
        """Tell whether both are one box, but for rounding."""
        if other is None:
            return False
        apart = max(np.abs(self.low - other.low).max(), np.abs(self.high - other.high).max())
        return bool(apart <= SPECK * (1 + max(self.diagonal, other.diagonal)))

    def distance_to(self, point: Array) -> float:
        """Return how far `point` lies outside, 0 inside."""
        return float(np.linalg.norm(np.maximum(np.maximum(self.low - point, point - self.high), 0)))


_BOXES: Memo[Box | None] = Memo(most=24)
_PARTS: Memo[Array] = Memo()
_WHOLE: Memo[Box | None] = Memo()
_TREES: Memo[tuple[Box | None, ...]] = Memo(most=3)


def box_point(box: Box, fractions: Sequence[float]) -> Array:
    """Return the point at `fractions` along width, height and depth (0 left, bottom, back; 1 right, top, front)."""
    return box.low + np.asarray(fractions, dtype=np.float64) * box.size


def fraction_of(word: str | float, axis: int) -> float:
    """Return the fraction a word of a box point means on `axis`: a side of that axis, `middle`, or a number.

    Raises
    ------
    KeyError
        If the word is no side of that axis.
    """
    if isinstance(word, int | float):
        return float(word)
    if word == "middle":
        return 0.5
    side_axis, fraction = SIDES[word]
    if side_axis != axis:
        raise KeyError(word)
    return fraction


def points_box(points: NDArray[np.floating], matrix: Array) -> Box | None:
    """Return the box of `points`, shape (N, 3), carried by an affine (4, 4) `matrix`; None when nothing is finite."""
    low, high = np.full(3, np.inf), np.full(3, -np.inf)
    linear, moved = matrix[:3, :3], matrix[:3, 3][:, None]
    for start in range(0, len(points), _CHUNK):
        with np.errstate(invalid="ignore", over="ignore"):  # what is no number is left out below
            rows = linear @ points[start : start + _CHUNK].T.astype(np.float64) + moved
        if not np.isfinite(rows).all():
            rows = rows[:, np.isfinite(rows).all(axis=0)]
            if not rows.size:
                continue
        np.minimum(low, rows.min(axis=1), out=low)
        np.maximum(high, rows.max(axis=1), out=high)
    return Box(low, high) if np.isfinite(low).all() else None


def _mesh_box(mesh: Mesh, matrix: Array) -> Box | None:
    return _BOXES.of(mesh, matrix.tobytes(), lambda: points_box(mesh.points, matrix))


def part_boxes(asset: Asset) -> Array:
    """Return the lowest and highest corners of each node's own geometry, shape (nodes, 2, 3), world axes, metres.

    Rows that are not finite stand where there is none.
    """
    return _PARTS.of(asset, None, lambda: _all_parts(asset))


def _all_parts(asset: Asset) -> Array:
    found = np.full((len(asset.nodes), 2, 3), np.nan)
    users: dict[int, list[int]] = {}
    for i, node in enumerate(asset.nodes):
        if node.mesh is not None:
            users.setdefault(node.mesh, []).append(i)
    users = _small_parts(asset, users, found)
    for index, own in users.items():
        points = asset.meshes[index].points
        matrices = asset.worlds[own] @ np.array([asset.nodes[i].local_from_mesh for i in own])
        if len(own) < _MANY_USERS or not len(points) or not np.isfinite(points).all():
            boxes = [_mesh_box(asset.meshes[index], matrix) for matrix in matrices]
            for i, box in zip(own, boxes, strict=True):
                if box is not None:
                    found[i] = box.low, box.high
            continue
        # All that draw one mesh at once, as many as fit the chunk.
        rows = np.ascontiguousarray(points.T, dtype=np.float64)
        for start in range(0, len(own), max(1, _CHUNK // len(points))):
            some = slice(start, start + max(1, _CHUNK // len(points)))
            linear, moved = matrices[some, :3, :3], matrices[some, :3, 3]
            at = linear @ rows
            found[own[some], 0] = at.min(axis=2) + moved
            found[own[some], 1] = at.max(axis=2) + moved
    found.setflags(write=False)
    return found


def _small_parts(asset: Asset, users: dict[int, list[int]], found: Array) -> dict[int, list[int]]:
    """Fill in the boxes of what draws a small mesh of its own, all in one go; return the other meshes' users."""
    small = [k for k, own in users.items() if len(own) == 1 and 0 < len(asset.meshes[k].points) <= _SMALL]
    if len(small) < _MANY_USERS:
        return users
    lengths = np.array([len(asset.meshes[k].points) for k in small])
    nodes = [users[k][0] for k in small]
    matrices = asset.worlds[nodes] @ np.array([asset.nodes[i].local_from_mesh for i in nodes])
    ends = np.cumsum(lengths)
    for first in range(0, len(small), _AT_ONCE):
        some = slice(first, first + _AT_ONCE)
        points = np.concatenate([asset.meshes[k].points for k in small[some]]).astype(np.float64)
        if not np.isfinite(points).all():
            return users  # what is no number is left out, one by one
        each = np.repeat(matrices[some], lengths[some], axis=0)
        at = np.einsum("nij,nj->ni", each[:, :3, :3], points) + each[:, :3, 3]
        starts = (ends - lengths)[some] - (ends - lengths)[first]
        found[nodes[some], 0] = np.minimum.reduceat(at, starts)
        found[nodes[some], 1] = np.maximum.reduceat(at, starts)
    done = set(small)
    return {k: own for k, own in users.items() if k not in done}


def node_box(asset: Asset, index: int, frame_from_world: Array | None = None) -> Box | None:
    """Return the box of one part's own geometry, along world axes or those of another frame."""
    mesh = asset.nodes[index].mesh
    if mesh is None:
        return None
    if frame_from_world is None and len(asset.nodes) > _MANY_NODES:
        low, high = part_boxes(asset)[index]
        return Box(low, high) if np.isfinite(low).all() else None
    matrix = asset.world_from_mesh(index)
    return _mesh_box(asset.meshes[mesh], matrix if frame_from_world is None else frame_from_world @ matrix)


def _unite_boxes(boxes: Iterable[Box | None]) -> Box | None:
    present = [b for b in boxes if b is not None]
    if len(present) < 2:
        return present[0] if present else None
    return Box(np.min([b.low for b in present], axis=0), np.max([b.high for b in present], axis=0))


def tree_box(asset: Asset, index: int, frame_from_world: Array | None = None) -> Box | None:
    """Return the box of a node with all below it."""
    return tree_boxes(asset, frame_from_world)[index]


def tree_boxes(asset: Asset, frame_from_world: Array | None = None) -> tuple[Box | None, ...]:
    """Return the box of each node with all below it, along world axes or those of another frame.

    Each is worked out of those of its children, once for an asset and a frame.
    """
    key = None if frame_from_world is None else frame_from_world.tobytes()
    return _TREES.of(asset, key, lambda: _all_trees(asset, frame_from_world))


def _all_trees(asset: Asset, frame_from_world: Array | None) -> tuple[Box | None, ...]:
    found: list[Box | None] = [None] * len(asset.nodes)
    for i in reversed(asset.order):
        own = node_box(asset, i, frame_from_world)
        found[i] = _unite_boxes([own, *(found[child] for child in asset.children[i])])
    return tuple(found)


def asset_box(asset: Asset, frame_from_world: Array | None = None) -> Box | None:
    """Return the box of all that the default scene shows, along world axes or those of another frame; None for none."""
    if frame_from_world is not None:
        return _unite_boxes(node_box(asset, i, frame_from_world) for i in asset.parts)
    return _WHOLE.of(asset, None, lambda: _find_box(asset))


def _find_box(asset: Asset) -> Box | None:
    if len(asset.nodes) <= _MANY_NODES:
        return _unite_boxes(node_box(asset, i) for i in asset.parts)
    shown = part_boxes(asset)[list(asset.parts)]
    there = shown[np.isfinite(shown).all(axis=(1, 2))]
    return Box(there[:, 0].min(axis=0), there[:, 1].max(axis=0)) if len(there) else None
