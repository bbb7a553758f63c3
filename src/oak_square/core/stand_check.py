"""How an asset stands once it is set down by its pivot: on level ground, on a slope, on gently uneven ground."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.frames import apply
from oak_square.core.scene import Asset, Mesh, Surface
from oak_square.core.tolerances import SPECK

__all__ = ["COPIES", "GROUNDS", "SLOPE_DEG", "Stance", "Stand", "ground_mesh", "stand_of", "strip_shift"]

Array = NDArray[np.float64]
COPIES = 5
SLOPE_DEG = 6.0
_WAVE, _AMPLITUDE = 2.4, 0.05  # of the uneven ground: its length and its height, of the footprint's longer side
_FOOT = 0.01  # of the height: what counts to the foot that a thing stands on
_ROOM = 1.6  # between two copies, of the footprint's longer side
_STRIPS = 1.9  # between two grounds, of that too
_GROUND = (0.72, 0.70, 0.55)


@dataclass(frozen=True, slots=True, kw_only=True)
class Stance:
    """How one copy stands: metres that its foot's highest point is above the ground, and its lowest below; degrees.

    `leans_deg` is how far the ground under it is from level: by so much it would have to lean to lie on it.
    """

    floats_m: float
    sinks_m: float
    leans_deg: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Stand:
    """An asset on one ground.

    Attributes
    ----------
    ground : str
        `level`, `slope` or `uneven`.
    places : ndarray, shape (COPIES, 3), world, metres
        Where the pivots of the copies are, on the ground.
    stances : tuple of Stance
        Of each copy.
    """

    ground: str
    places: Array
    stances: tuple[Stance, ...]

    @property
    def floats_m(self) -> float:
        """The most that a copy floats."""
        return max(s.floats_m for s in self.stances)

    @property
    def sinks_m(self) -> float:
        """The most that a copy sinks."""
        return max(s.sinks_m for s in self.stances)

    @property
    def leans_deg(self) -> float:
        """The most that the ground under a copy is from level."""
        return max(s.leans_deg for s in self.stances)


def _make_level(x: Array, z: Array, reach: float) -> Array:
    return np.zeros(np.broadcast(x, z).shape)


def _make_slope(x: Array, z: Array, reach: float) -> Array:
    rise: Array = np.tan(np.radians(SLOPE_DEG)) * x + 0 * z
    return rise


def _make_uneven(x: Array, z: Array, reach: float) -> Array:
    wave = 2 * np.pi / (_WAVE * reach)
    height: Array = _AMPLITUDE * reach * (np.sin(wave * x) + np.cos(0.8 * wave * z)) / 2
    return height


GROUNDS: dict[str, Callable[[Array, Array, float], Array]] = {
    "level": _make_level,
    "slope": _make_slope,
    "uneven": _make_uneven,
}
"""Heights, metres, at x and z, of things whose footprint's longer side is `reach` metres."""


def _measure_extent(asset: Asset) -> float:
    box = asset_box(asset)
    return 1.0 if box is None else max(float(box.size[0]), float(box.size[2]), SPECK)


def _find_foot(asset: Asset) -> Array:
    """Return the points that an asset stands on, shape (N, 3), world: those in the lowest hundredth of its height."""
    box = asset_box(asset)
    if box is None:
        return np.empty((0, 3))
    top = box.low[1] + max(float(box.size[1]) * _FOOT, SPECK)
    found = list[Array]()
    for i in asset.parts:
        points = apply(asset.world_from_mesh(i), np.asarray(asset.mesh_of(i).points, dtype=np.float64))
        found.append(points[points[:, 1] <= top])
    return np.vstack(found) if found else np.empty((0, 3))


def stand_of(asset: Asset, ground: str) -> Stand:
    """Return how copies of an asset stand upright on a ground, each set down with its pivot (its origin) on it."""
    reach, foot, height = _measure_extent(asset), _find_foot(asset), GROUNDS[ground]
    x = (np.arange(COPIES, dtype=np.float64) - (COPIES - 1) / 2) * reach * _ROOM
    z = np.zeros(COPIES)
    places: Array = np.column_stack([x, height(x, z, reach), z])
    step = 1e-4 * reach
    stances = []
    for place in places:
        at = foot + place
        gap = at[:, 1] - height(at[:, 0], at[:, 2], reach) if len(at) else np.zeros(1)
        dx = (height(place[:1] + step, place[2:], reach) - height(place[:1] - step, place[2:], reach)) / (2 * step)
        dz = (height(place[:1], place[2:] + step, reach) - height(place[:1], place[2:] - step, reach)) / (2 * step)
        lean = float(np.degrees(np.arctan(np.hypot(dx[0], dz[0]))))
        stances.append(Stance(floats_m=max(0.0, float(gap.max())), sinks_m=max(0.0, float(-gap.min())), leans_deg=lean))
    return Stand(ground=ground, places=places, stances=tuple(stances))


def ground_mesh(asset: Asset, ground: str) -> Mesh:
    """Return a patch of a ground that the copies of an asset stand on, in world numbers."""
    reach, height = _measure_extent(asset), GROUNDS[ground]
    half = reach * (_ROOM * (COPIES - 1) / 2 + 1.0)
    across, deep = np.linspace(-half, half, 73), np.linspace(-0.8 * reach, 0.8 * reach, 13)
    x, z = np.meshgrid(across, deep)
    points = np.stack([x, height(x, z, reach), z], axis=-1).reshape(-1, 3)
    at = np.arange(points.shape[0]).reshape(len(deep), len(across))
    a, b, c, d = at[:-1, :-1].ravel(), at[:-1, 1:].ravel(), at[1:, 1:].ravel(), at[1:, :-1].ravel()
    triangles = np.concatenate([np.column_stack([a, d, c]), np.column_stack([a, c, b])])
    return Mesh(
        name=ground, points=points.astype(np.float32), triangles=triangles.astype(np.uint32),
        surfaces=(Surface(first=0, count=len(triangles), colour=_GROUND),),
    )  # fmt: skip


def strip_shift(asset: Asset, number: int) -> Array:
    """Return how far the ground of that number is moved to stand before the others, metres."""
    return np.array([0.0, 0.0, number * _measure_extent(asset) * _STRIPS])
