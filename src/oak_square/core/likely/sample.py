"""A few thousand points of an asset's surface and its outermost corners: enough to judge a shape of any size by.

All numbers here are the file's own: its units along its axes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.frames import apply
from oak_square.core.geometry import is_mirror

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["Sample", "sample_of"]

Array = NDArray[np.float64]
_MOST_PARTS = 256
_MOST_TRIANGLES = 8_000
_MOST_POINTS = 30_000
_DENSE, _FEW = 4000, 800


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Sample:
    """What stands for an asset's surface.

    Attributes
    ----------
    box : Box
        In the file's own units.
    points : ndarray, shape (N, 3)
        Its corners, all of them unless there are very many.
    areas : ndarray, shape (T, 3)
        Area vectors of triangles, each for as many as it stands for.
    middles : ndarray, shape (T, 3)
        Their middles.
    corners : ndarray, shape (T, 3, 3)
    dense, few : ndarray, shape (D, 3) and (F, 3)
        Points spread evenly over the surface, drawn independently of one another.
    """

    box: Box
    points: Array
    areas: Array
    middles: Array
    corners: Array
    dense: Array
    few: Array


def sample_of(asset: Asset) -> Sample | None:
    """Return the sample of an asset as its file has it; None where it has no surface, or numbers that are none.

    The same file always gives the same sample.
    """
    rng = np.random.default_rng(20_260)
    parts = [i for i in asset.parts if len(asset.mesh_of(i).triangles)]
    if not parts:
        return None
    taken = _spread_places(rng, len(parts), _MOST_PARTS)
    shown = [parts[k] for k in taken.tolist()]
    whole = sum(len(asset.mesh_of(i).triangles) for i in shown)
    all_points = sum(len(asset.mesh_of(i).points) for i in shown)
    back = asset.reading.rotation.T / asset.reading.metres_per_unit
    corners, weights, points = [], [], []
    for i in shown:
        mesh, matrix = asset.mesh_of(i), asset.world_from_mesh(i).copy()
        matrix[:3] = back @ matrix[:3]
        rows = np.asarray(mesh.triangles)
        most = max(32, _MOST_TRIANGLES * len(rows) // whole)
        chosen = _spread_places(rng, len(rows), most)
        found = apply(matrix, np.asarray(mesh.points)[rows[chosen]].reshape(-1, 3)).reshape(-1, 3, 3)
        corners.append(found[:, ::-1] if is_mirror(matrix) else found)
        weights.append(np.full(len(chosen), len(rows) / len(chosen)))
        some = _spread_places(rng, len(mesh.points), max(64, _MOST_POINTS * len(mesh.points) // all_points))
        here = np.asarray(mesh.points)
        ends = [np.argmin(here, axis=0), np.argmax(here, axis=0)]  # no foot goes unseen
        points.append(apply(matrix, here[np.concatenate([some, *ends])]))
    return _sample_surface(rng, np.concatenate(corners), np.concatenate(weights), np.concatenate(points))


def _sample_surface(rng: np.random.Generator, corners: Array, weights: Array, points: Array) -> Sample | None:
    used = np.concatenate([points, corners.reshape(-1, 3)])
    if not np.isfinite(used).all():
        return None
    with np.errstate(over="ignore", invalid="ignore"):
        areas = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]) / 2 * weights[:, None]
        sizes = np.linalg.norm(areas, axis=1)
        whole = float(sizes.sum())
    low, high = used.min(axis=0), used.max(axis=0)
    if not np.isfinite(whole) or whole <= 0 or not np.isfinite(high - low).all():
        return None
    return Sample(
        box=Box(low, high), points=used, areas=areas, middles=corners.mean(axis=1), corners=corners,
        dense=_strew_points(rng, corners, sizes, _DENSE), few=_strew_points(rng, corners, sizes, _FEW),
    )  # fmt: skip


def _spread_places(rng: np.random.Generator, whole: int, most: int) -> NDArray[np.int64]:
    """Return at most so many places among `whole`, one at random in each of as many runs: in no rhythm of a file."""
    if whole <= most:
        return np.arange(whole)
    steps = (np.arange(most) + rng.random(most)) * (whole / most)
    return np.minimum(steps.astype(np.int64), whole - 1)


def _strew_points(rng: np.random.Generator, corners: Array, sizes: Array, count: int) -> Array:
    """Return so many points of triangles, shape (T, 3, 3), as many on each as its size has of all."""
    edges = np.cumsum(sizes)
    at = (np.arange(count) + rng.random(count)) * (edges[-1] / count)
    chosen = corners[np.minimum(np.searchsorted(edges, at), len(corners) - 1)]
    u, v = rng.random((2, count))
    over = u + v > 1
    u, v = np.where(over, 1 - u, u)[:, None], np.where(over, 1 - v, v)[:, None]
    found: Array = chosen[:, 0] + u * (chosen[:, 1] - chosen[:, 0]) + v * (chosen[:, 2] - chosen[:, 0])
    return found
