"""Simple solids for the demo batch, wound outward, with normals."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

__all__ = ["Solid", "along", "box", "joined", "lathe", "prism"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Solid:
    """Points and unit normals, shape (N, 3), and triangles, shape (M, 3)."""

    points: Array
    normals: Array
    triangles: NDArray[np.int64]

    def moved(self, x: float = 0.0, y: float = 0.0, z: float = 0.0) -> Solid:
        """Return it moved."""
        return Solid(self.points + np.array([x, y, z]), self.normals, self.triangles)

    def scaled(self, factor: float) -> Solid:
        """Return it larger or smaller, about the origin."""
        return Solid(self.points * factor, self.normals, self.triangles)

    def turned(self, matrix: Array) -> Solid:
        """Return it under a (3, 3) rotation."""
        return Solid(self.points @ matrix.T, self.normals @ matrix.T, self.triangles)


def joined(solids: Sequence[Solid]) -> Solid:
    """Return several solids as one."""
    starts = np.cumsum([0, *(len(s.points) for s in solids[:-1])])
    return Solid(
        np.concatenate([s.points for s in solids]),
        np.concatenate([s.normals for s in solids]),
        np.concatenate([s.triangles + start for s, start in zip(solids, starts, strict=True)]),
    )


def _make_face(corners: Array) -> Solid:
    """Return a flat convex polygon; counter-clockwise corners, shape (K, 3)."""
    normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
    normal /= np.linalg.norm(normal)
    rows = [[0, k, k + 1] for k in range(1, len(corners) - 1)]
    return Solid(corners, np.tile(normal, (len(corners), 1)), np.array(rows))


def prism(outline: Sequence[tuple[float, float]], back: float, front: float) -> Solid:
    """Return a convex outline in x and y, counter-clockwise, drawn out along z."""
    flat = np.array(outline, dtype=np.float64)
    far = np.column_stack([flat, np.full(len(flat), back)])
    near = np.column_stack([flat, np.full(len(flat), front)])
    faces = [_make_face(near), _make_face(far[::-1])]
    for k in range(len(flat)):
        j = (k + 1) % len(flat)
        faces.append(_make_face(np.array([far[k], far[j], near[j], near[k]])))
    return joined(faces)


def box(width: float, height: float, depth: float, *, at: tuple[float, float, float] = (0, 0, 0)) -> Solid:
    """Return a box standing on the point `at`, which is the middle of its base."""
    half = width / 2
    solid = prism([(-half, 0), (half, 0), (half, height), (-half, height)], -depth / 2, depth / 2)
    return solid.moved(*at)


def lathe(profile: Sequence[tuple[float, float]], sides: int = 24) -> Solid:
    """Return a profile of (radius, height) from bottom to top, turned about y; edges of the profile stay sharp."""
    angles = np.linspace(0, 2 * np.pi, sides + 1)
    around = np.column_stack([np.sin(angles), np.zeros(sides + 1), np.cos(angles)])
    bands = []
    for (r0, y0), (r1, y1) in pairwise(profile):
        slope = np.array([y1 - y0, r0 - r1])
        slope /= np.linalg.norm(slope)
        normals = around * slope[0] + [0, slope[1], 0]
        low, high = around * r0 + [0, y0, 0], around * r1 + [0, y1, 0]
        k = np.arange(sides)
        up = k + sides + 1
        lower = np.stack([k, k + 1, up + 1], axis=1) if r0 > 0 else np.empty((0, 3), dtype=int)
        upper = np.stack([k, up + 1, up], axis=1) if r1 > 0 else np.empty((0, 3), dtype=int)
        bands.append(Solid(np.vstack([low, high]), np.vstack([normals, normals]), np.concatenate([lower, upper])))
    return joined(bands)


def along(solid: Solid, axis: str) -> Solid:
    """Return a solid that stands along y laid along `x` or `z` instead."""
    turns = {"x": [[0, 1, 0], [-1, 0, 0], [0, 0, 1]], "z": [[1, 0, 0], [0, 0, -1], [0, 1, 0]]}
    return solid.turned(np.array(turns[axis], dtype=np.float64))
