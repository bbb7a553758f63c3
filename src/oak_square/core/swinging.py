"""How a part swings about its pivot, and where it cuts into the others of its asset on the way."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.motion import in_place
from oak_square.core.scene import Asset
from oak_square.core.shapes import corners_of, is_closed
from oak_square.core.tolerances import CUT, SAME_ANGLE_DEG, TINY

__all__ = ["Collision", "Sweep", "depth_in", "sweep", "swing_motion", "turn_about"]

Array = NDArray[np.float64]
_STEP_DEG = 2.0
_SPACING, _FINEST = 0.025, 24  # between points, of the asset's diagonal; parts of a side at most
_MOST_SAMPLES = 6_000  # points of a part: a denser mesh is looked at by every so many of its own
_MOST_TRIANGLES = 20_000  # of a part: of a denser one, the inside is told by its larger triangles
# Turned by angles that nothing is modelled at.
_ASKEW = np.linalg.qr(np.array([[0.613, -0.271, 0.742], [0.117, 0.955, 0.252], [-0.781, -0.067, 0.621]]))[0]
_CHUNK = 2_000_000  # points times triangles at a time


@dataclass(frozen=True, slots=True)
class Collision:
    """Where a part cuts into another: its name, the first angle, degrees, and the greatest depth, metres, and where."""

    part: str
    angle_deg: float
    depth_m: float
    deepest_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Sweep:
    """What a swing comes to: the cuts, the first one first; `coarse` where a dense mesh was looked at by samples."""

    cuts: tuple[Collision, ...]
    coarse: bool = False


def swing_motion(asset: Asset, node: int, axis: Array, angle_deg: float) -> Array:
    """Return the world motion, shape (4, 4), that turns about a node's pivot, right-handed about a unit axis."""
    return in_place(turn_about(axis, angle_deg), asset.worlds[node][:3, 3])


def turn_about(axis: Array, angle_deg: float) -> Array:
    """Return the rotation, shape (3, 3), by an angle about a unit axis (Rodrigues' formula)."""
    x, y, z = axis
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    a = np.radians(angle_deg)
    found: Array = np.eye(3) + np.sin(a) * cross + (1 - np.cos(a)) * (cross @ cross)
    return found


def sweep(
    asset: Asset,
    node: int,
    axis: Array,
    low_deg: float,
    high_deg: float,
    stopped: Callable[[], bool] = lambda: False,
    looked: Callable[[float], None] = lambda _: None,
) -> Sweep:
    """Return where a node, with all below it, cuts into the other parts of its asset as it swings between two angles.

    What the two share at rest is no cut: hinges are modelled so. Each is looked at by points of its surface inside
    the other, two degrees at a time, and the first angle is then closed in on.

    Parameters
    ----------
    axis : ndarray, shape (3,), world
        Unit; the swing is right-handed about it.
    stopped : callable
        Asked now and then whether it is still wanted.
    looked : callable
        Told now and then which share of it is looked at, 0 to 1, never less than before.
    """
    box = asset_box(asset)
    moving = [i for i in asset.below(node) if i in asset.parts]
    still = [i for i in asset.parts if i not in moving]
    if box is None or not moving or not still:
        return Sweep(cuts=())
    least = CUT * box.diagonal
    pivot = asset.worlds[node][:3, 3]
    spacing = box.diagonal * _SPACING
    swung = _Solid(np.concatenate([corners_of(asset, [i]) for i in moving]), spacing)
    count = max(1, int(np.ceil(abs(high_deg - low_deg) / _STEP_DEG)))
    angles = np.linspace(low_deg, high_deg, count + 1)
    # Outward from rest: what is met first on either side is met first by a hand that swings it.
    angles = angles[np.argsort(np.abs(angles), kind="stable")]
    cuts, coarse = list[Collision](), swung.coarse
    for nth, i in enumerate(still):
        looked(nth / len(still))
        other = _Solid(corners_of(asset, [i]), spacing)
        coarse |= other.coarse
        depth = _Depth(swung, other, pivot, axis)
        if not depth.may_meet():
            continue
        rest = depth.at(0.0)
        depths = np.empty(len(angles))
        for k, angle in enumerate(angles):
            if stopped():
                return Sweep(cuts=())
            depths[k] = depth.at(float(angle)) - rest
            looked((nth + (k + 1) / len(angles)) / len(still))
        over = np.flatnonzero(depths > least)
        if len(over):
            first = float(angles[over[0]])
            clear = _clear_before(angles, depths, first, least)
            cuts.append(
                Collision(
                    part=asset.nodes[i].name,
                    angle_deg=_closed_in(depth, rest + least, clear, first),
                    depth_m=float(depths.max()),
                    deepest_deg=float(angles[int(np.argmax(depths))]),
                )
            )
    return Sweep(cuts=tuple(sorted(cuts, key=lambda c: abs(c.angle_deg))), coarse=coarse)


def _clear_before(angles: Array, depths: Array, first: float, least: float) -> float:
    """Return the last angle on the way to `first` at which nothing is cut."""
    same_way = (np.sign(angles) == np.sign(first)) & (np.abs(angles) < abs(first)) & (depths <= least)
    return float(angles[same_way][-1]) if same_way.any() else 0.0


def _closed_in(depth: _Depth, limit: float, clear: float, cuts: float) -> float:
    if abs(clear) >= abs(cuts):
        return cuts
    while abs(cuts - clear) > SAME_ANGLE_DEG:
        middle = (clear + cuts) / 2
        if depth.at(middle) > limit:
            cuts = middle
        else:
            clear = middle
    return cuts


class _Solid:
    """Triangles, and the points of their surface that stand for it."""

    def __init__(self, corners: Array, spacing: float) -> None:
        self.coarse = len(corners) > _MOST_TRIANGLES
        self.triangles = corners
        if self.coarse:
            size = np.linalg.norm(np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1)
            self.triangles = corners[np.sort(np.argsort(size)[-_MOST_TRIANGLES:])]
        points = np.unique(np.round(_spread_over(corners, spacing), 9), axis=0)
        if len(points) > _MOST_SAMPLES:
            self.coarse = True
            points = points[:: int(np.ceil(len(points) / _MOST_SAMPLES))]
        self.points = points
        self.closed = not self.coarse and is_closed(corners)
        self.low, self.high = corners.reshape(-1, 3).min(axis=0), corners.reshape(-1, 3).max(axis=0)

    def depth_of(self, points: Array) -> float:
        """Return how deep the deepest of some points lies inside; 0 where none does."""
        return depth_in(self.triangles, self.within_box(points), closed=self.closed)

    def within_box(self, points: Array) -> Array:
        """Return those of the points that its box holds."""
        found: Array = points[((points >= self.low) & (points <= self.high)).all(axis=1)]
        return found


def _spread_over(corners: Array, spacing: float) -> Array:
    """Return points over triangles, shape (M, 3, 3), so near one another that little can pass between.

    They are the corners, and a grid between them where a side is longer than `spacing`.
    """
    longest = np.linalg.norm(corners - np.roll(corners, -1, axis=1), axis=2).max(axis=1)
    parts = np.clip(np.ceil(longest / spacing), 1, _FINEST).astype(np.int64)
    found = [np.empty((0, 3))]
    for n in np.unique(parts).tolist():
        u, v = (g.ravel() for g in np.meshgrid(np.arange(n + 1), np.arange(n + 1), indexing="ij"))
        u, v = u[u + v <= n], v[u + v <= n]
        share = np.column_stack([n - u - v, u, v]) / n
        found.append(np.einsum("ij,mjk->mik", share, corners[parts == n]).reshape(-1, 3))
    return np.concatenate(found)


class _Depth:
    """How deep one solid is in another once it is swung."""

    def __init__(self, moving: _Solid, still: _Solid, pivot: Array, axis: Array) -> None:
        self._moving, self._still, self._pivot, self._axis = moving, still, pivot, axis

    def may_meet(self) -> bool:
        """Tell whether the swing could bring them together: the rings about the axis that they fill meet."""

        def ring(solid: _Solid) -> tuple[float, float, float]:
            off = solid.points - self._pivot
            along = off @ self._axis
            out = np.linalg.norm(off - np.outer(along, self._axis), axis=1)
            return float(along.min()), float(along.max()), float(out.max())

        a, b = ring(self._moving), ring(self._still)
        gap = np.linalg.norm(np.clip(self._pivot, self._still.low, self._still.high) - self._pivot)
        return a[0] <= b[1] and b[0] <= a[1] and float(gap) <= max(a[2], float(np.hypot(a[2], max(map(abs, a[:2])))))

    def at(self, angle_deg: float) -> float:
        """Return the depth at an angle, metres; 0 where neither is in the other."""
        turn = turn_about(self._axis, angle_deg)
        there = (self._moving.points - self._pivot) @ turn.T + self._pivot
        back = (self._still.points - self._pivot) @ turn + self._pivot
        return max(self._still.depth_of(there), self._moving.depth_of(back))


def depth_in(triangles: Array, points: Array, *, closed: bool) -> float:
    """Return how deep the deepest of `points`, shape (N, 3), lies inside a solid of triangles, shape (M, 3, 3)."""
    deepest = 0.0
    step = max(1, _CHUNK // max(1, len(triangles)))
    for start in range(0, len(points), step):
        some = points[start : start + step]
        inside = some[_find_enclosed(triangles, some) if closed else np.abs(_measure_winding(triangles, some)) > 0.5]
        if len(inside):
            deepest = max(deepest, float(_measure_away(triangles, inside).max()))
    return deepest


def _find_enclosed(triangles: Array, points: Array) -> NDArray[np.bool_]:
    """Tell which points a closed surface encloses: a ray from there crosses it an odd number of times.

    The ray goes a way that no model has an edge along; single precision tells sides well enough, and is twice as fast.
    """
    turned = (triangles.reshape(-1, 3) @ _ASKEW.T).reshape(-1, 3, 3).astype(np.float32)
    at = (points @ _ASKEW.T).astype(np.float32)
    x, y, z = (at[:, k, None] for k in range(3))
    a, b, c = (turned[None, :, k] for k in range(3))
    one = (b[..., 0] - a[..., 0]) * (y - a[..., 1]) - (b[..., 1] - a[..., 1]) * (x - a[..., 0])
    two = (c[..., 0] - b[..., 0]) * (y - b[..., 1]) - (c[..., 1] - b[..., 1]) * (x - b[..., 0])
    three = (a[..., 0] - c[..., 0]) * (y - c[..., 1]) - (a[..., 1] - c[..., 1]) * (x - c[..., 0])
    within = ((one >= 0) & (two >= 0) & (three >= 0)) | ((one < 0) & (two < 0) & (three < 0))
    p, t = np.nonzero(within)
    whole = one[p, t] + two[p, t] + three[p, t]
    height = (one[p, t] * turned[t, 2, 2] + two[p, t] * turned[t, 0, 2] + three[p, t] * turned[t, 1, 2]) / np.where(
        whole == 0, 1, whole
    )
    above = height > z[p, 0]
    found: NDArray[np.bool_] = np.bincount(p[above], minlength=len(points)) % 2 == 1
    return found


def _measure_winding(triangles: Array, points: Array) -> Array:
    """Return how often a surface winds round each point: the sum of the triangles' solid angles over 4 pi.

    Van Oosterom & Strackee, The Solid Angle of a Plane Triangle, 1983; Jacobson et al., Robust Inside-Outside
    Segmentation using Generalized Winding Numbers, 2013: open seams do little harm.
    """
    a, b, c = (triangles[None, :, k] - points[:, None] for k in range(3))
    la, lb, lc = (np.linalg.norm(v, axis=2) for v in (a, b, c))
    top = np.einsum("ijk,ijk->ij", a, np.cross(b, c))
    dots = [np.einsum("ijk,ijk->ij", u, v) for u, v in ((a, b), (b, c), (c, a))]
    below = la * lb * lc + dots[0] * lc + dots[1] * la + dots[2] * lb
    found: Array = np.arctan2(top, below).sum(axis=1) / (2 * np.pi)
    return found


def _measure_away(triangles: Array, points: Array) -> Array:
    """Return how far each point is from the nearest triangle (Ericson, Real-Time Collision Detection, 2004, 5.1.5)."""
    a, b, c = (triangles[:, k] for k in range(3))
    ab, ac, bc = b - a, c - a, c - b
    normal = np.cross(ab, ac)
    area = np.maximum(np.einsum("ij,ij->i", normal, normal), TINY)
    off = points[:, None] - a[None]
    # Where the foot on the plane lies in the triangle, the plane is nearest; else one of the three sides.
    v = np.einsum("ijk,jk->ij", np.cross(off, ac[None]), normal) / area
    w = np.einsum("ijk,jk->ij", np.cross(ab[None], off), normal) / area
    plane = np.abs(np.einsum("ijk,jk->ij", off, normal)) / np.sqrt(area)
    sides = [_from_side(points, start, along) for start, along in ((a, ab), (a, ac), (b, bc))]
    nearest = np.minimum.reduce(sides)
    found: Array = np.where((v >= 0) & (w >= 0) & (v + w <= 1), plane, nearest).min(axis=1)
    return found


def _from_side(points: Array, start: Array, along: Array) -> Array:
    off = points[:, None] - start[None]
    squared = np.maximum(np.einsum("ij,ij->i", along, along), TINY)
    share = np.clip(np.einsum("ijk,jk->ij", off, along) / squared, 0, 1)
    found: Array = np.linalg.norm(off - share[:, :, None] * along[None], axis=2)
    return found
