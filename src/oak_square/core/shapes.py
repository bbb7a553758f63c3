"""Shapes by what they enclose and cover: centres and principal directions. World numbers in, float64 throughout."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import apply
from oak_square.core.geometry import flipped, is_mirror
from oak_square.core.tolerances import OPEN_VOLUME, OPPOSITE, SAME_VERTEX, SQUARE_COSINE, TINY

if TYPE_CHECKING:
    from collections.abc import Iterable

    from oak_square.core.scene import Asset

__all__ = [
    "centre_of_mass",
    "corners_of",
    "is_closed",
    "mean_point",
    "nearest_right_angles",
    "principal_turn",
    "smallest_turn",
    "turn_onto_face",
]

Array = NDArray[np.float64]


def corners_of(asset: Asset, parts: Iterable[int]) -> Array:
    """Return the triangles of parts by world corners, shape (M, 3, 3), metres; those of mirrored parts rewound."""
    found = [np.empty((0, 3, 3))]
    for i in parts:
        mesh, matrix = asset.mesh_of(i), asset.world_from_mesh(i)
        world = apply(matrix, mesh.points)
        rows = np.asarray(mesh.triangles)
        found.append(world[flipped(rows) if is_mirror(matrix) else rows])
    return np.concatenate(found)


def is_closed(corners: Array) -> bool:
    """Tell whether triangles, shape (M, 3, 3), enclose space: each side is met once in either direction.

    Corners count as one where they lie within float32 rounding of the whole's size.
    """
    if not len(corners):
        return False
    points = corners.reshape(-1, 3)
    low = points.min(axis=0)
    cells = np.round((points - low) / (SAME_VERTEX * max(float(np.ptp(points, axis=0).max()), TINY)))
    _, numbers = np.unique(cells.astype(np.int64), axis=0, return_inverse=True)
    rows = numbers.reshape(-1, 3)
    sides = rows[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2)
    sides = sides[sides[:, 0] != sides[:, 1]]
    there, times = np.unique(sides, axis=0, return_counts=True)
    back, back_times = np.unique(sides[:, ::-1], axis=0, return_counts=True)
    return bool(len(there) and np.array_equal(there, back) and np.array_equal(times, back_times))


def centre_of_mass(corners: Array) -> tuple[Array, str] | None:
    """Return the centre of what triangles, shape (M, 3, 3), enclose, and `volume`; open ones: of their `surface`.

    The volume is the sum of the signed tetrahedra that each triangle makes with one point (Mirtich, Fast and Accurate
    Computation of Polyhedral Mass Properties, 1996, in the form for uniform density). None where there is no area.
    """
    if not len(corners):
        return None
    home = corners.reshape(-1, 3).mean(axis=0)
    a, b, c = (corners[:, k] - home for k in range(3))
    normals = np.cross(b - a, c - a)
    if is_closed(corners):
        volumes = np.einsum("ij,ij->i", a, np.cross(b, c)) / 6
        whole = float(volumes.sum())
        if abs(whole) > OPEN_VOLUME * float(np.abs(volumes).sum()) > 0:
            return home + (volumes[:, None] * (a + b + c) / 4).sum(axis=0) / whole, "volume"
    areas = np.linalg.norm(normals, axis=1) / 2
    total = float(areas.sum())
    return None if total <= 0 else (home + (areas[:, None] * (a + b + c) / 3).sum(axis=0) / total, "surface")


def mean_point(asset: Asset, parts: Iterable[int]) -> Array | None:
    """Return the mean of the parts' vertices, world, metres; None when there is none."""
    total, count = np.zeros(3), 0
    for i in parts:
        points, matrix = asset.mesh_of(i).points, asset.world_from_mesh(i)
        if len(points):
            middle = np.asarray(points, dtype=np.float64).mean(axis=0)
            total += len(points) * apply(matrix, middle)
            count += len(points)
    return total / count if count else None


def smallest_turn(a: Array, b: Array) -> Array:
    """Return the smallest rotation, shape (3, 3), that brings direction `a` onto direction `b`.

    Rodrigues' formula with the axis `a × b`. For opposite directions any axis across would do: the one that is most
    upright is taken, so that things turn about the vertical where they can.
    """
    a, b = a / np.linalg.norm(a), b / np.linalg.norm(b)
    axis, cosine = np.cross(a, b), float(a @ b)
    if cosine < -1 + OPPOSITE:
        upright = np.array([0.0, 1, 0]) if abs(a[1]) < 0.9 else np.array([1.0, 0, 0])
        axis = upright - a * (a @ upright)
        axis /= np.linalg.norm(axis)
        turn: Array = 2 * np.outer(axis, axis) - np.eye(3)
        return turn
    cross = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
    found: Array = np.eye(3) + cross + cross @ cross / (1 + cosine)
    return found


def turn_onto_face(normal: Array) -> Array:
    """Return the rotation, shape (3, 3), working frame, of what stands on a face of this normal as things do.

    On a level face up is along its normal, under one (a ceiling) against it; from a wall the front looks out along it.
    """
    normal = normal / np.linalg.norm(normal)
    up, level = np.array([0.0, 1, 0]), normal * [1.0, 0, 1]
    if abs(normal[1]) >= np.sqrt(0.5):
        return smallest_turn(up, normal if normal[1] > 0 else -normal)
    front = level / np.linalg.norm(level)
    upright = np.column_stack([np.cross(up, front), up, front])
    found: Array = smallest_turn(front, normal) @ upright
    return found


def nearest_right_angles(frame: Array) -> Array:
    """Return the rotation, shape (3, 3), that brings a frame's axes (columns) onto the nearest world axes."""
    order = sorted(((abs(float(frame[r, c])), r, c) for r in range(3) for c in range(3)), reverse=True)
    target, rows, columns = np.zeros((3, 3)), set[int](), set[int]()
    for _, r, c in order:
        if r not in rows and c not in columns:
            target[r, c] = 1.0 if frame[r, c] >= 0 else -1.0
            rows.add(r)
            columns.add(c)
    if np.linalg.det(target) * np.linalg.det(frame) < 0:
        target[:, order[-1][2]] *= -1
    found: Array = target @ frame.T
    return found


def principal_turn(corners: Array) -> Array | None:
    """Return the rotation that squares triangles, shape (M, 3, 3), up by their principal directions; None for none.

    The first is the one that most area faces (either way), the second the one across it that most area faces.
    """
    areas = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]) / 2
    sizes = np.linalg.norm(areas, axis=1)
    areas, sizes = areas[sizes > 0], sizes[sizes > 0]
    if not len(sizes):
        return None
    normals = areas / sizes[:, None]
    first = _most_faced(normals, sizes)
    across = np.abs(normals @ first) < np.sqrt(1 - SQUARE_COSINE**2)
    if not across.any():
        return nearest_right_angles(smallest_turn(np.array([0.0, 1, 0]), first))
    second = _most_faced(normals[across], sizes[across])
    second = second - first * (first @ second)
    second /= np.linalg.norm(second)
    return nearest_right_angles(np.column_stack([first, second, np.cross(first, second)]))


def _most_faced(normals: Array, sizes: Array) -> Array:
    """Return the direction that most area faces, either way, as the mean of what faces nearly there."""
    lead = np.argmax(np.abs(normals), axis=1)
    signs = np.sign(normals[np.arange(len(normals)), lead])
    same_way = normals * signs[:, None]
    cells = np.round(same_way / 0.02).astype(np.int64)
    _, numbers = np.unique(cells, axis=0, return_inverse=True)
    weights = np.bincount(numbers.reshape(-1), weights=sizes)
    best = same_way[numbers.reshape(-1) == int(np.argmax(weights))]
    core = best.mean(axis=0)
    near = np.abs(same_way @ core) > SQUARE_COSINE * np.linalg.norm(core)
    mean = (same_way[near] * np.sign(same_way[near] @ core)[:, None] * sizes[near][:, None]).sum(axis=0)
    found: Array = mean / np.linalg.norm(mean)
    return found
