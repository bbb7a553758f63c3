"""The camera: orbit, pan, zoom to the pointer, framing, projecting. Plain numbers, no VTK."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.tolerances import FURTHEST_M, NEAREST_M, SPECK

__all__ = ["Camera", "framed"]

Array = NDArray[np.float64]
_STEEPEST = 89.0
_FILL = 0.82


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Camera:
    """Looks at `target` from `distance` metres.

    Attributes
    ----------
    target : ndarray, shape (3,), metres
    distance : float, metres
    azimuth_deg, elevation_deg : float
        0, 0 looks at the front; azimuth turns to the right side, elevation up.
    angle_deg : float
        Height of the view, as an angle.
    flat_m : float or None, metres
        Height of the view in parallel projection, for an elevation; None looks in perspective. The distance then only
        tells what lies before the eye.
    """

    target: Array
    distance: float
    azimuth_deg: float = 32.0
    elevation_deg: float = 22.0
    angle_deg: float = 28.0
    flat_m: float | None = None

    @property
    def axes(self) -> Array:
        """Right, up and backward of the picture as rows, shape (3, 3)."""
        return _view_axes(self.azimuth_deg, self.elevation_deg)

    @property
    def position(self) -> Array:
        """Where it stands, metres."""
        eye: Array = self.target + self.axes[2] * self.distance
        return eye

    def turned(self, azimuth_deg: float, elevation_deg: float, about: Array | None = None) -> Camera:
        """Return it looking another way, `about`, shape (3,) metres, staying where it is in the picture."""
        there = replace(self, azimuth_deg=azimuth_deg % 360, elevation_deg=elevation_deg)
        if about is None:
            return there
        return replace(there, target=about + (self.axes @ (self.target - about)) @ there.axes)

    def orbited(self, dx: float, dy: float, about: Array | None = None) -> Camera:
        """Return it after a drag by pixels, `about`, shape (3,) metres, staying where it is in the picture."""
        elevation = float(np.clip(self.elevation_deg + dy * 0.4, -_STEEPEST, _STEEPEST))
        return self.turned(self.azimuth_deg - dx * 0.4, elevation, about)

    def panned(self, dx: float, dy: float, height: int) -> Camera:
        """Return it after a drag by pixels of a picture `height` pixels high."""
        metres = self.metres_per_pixel(height)
        right, up, _ = self.axes
        return replace(self, target=self.target - right * dx * metres + up * dy * metres)

    def zoomed(self, factor: float, x: float, y: float, width: int, height: int) -> Camera:
        """Return it nearer by `factor`, what is under the pixel x, y at the target's depth staying there."""
        metres = self.metres_per_pixel(height)
        right, up, _ = self.axes
        offset = right * (x - width / 2) * metres - up * (y - height / 2) * metres
        before = self.distance if self.flat_m is None else self.flat_m
        after = float(np.clip(before / factor, NEAREST_M, FURTHEST_M))
        target = self.target + offset * (1 - after / before)
        if self.flat_m is None:
            return replace(self, distance=after, target=target)
        return replace(self, flat_m=after, target=target)

    def flattened(self, reach: float) -> Camera:
        """Return it in parallel projection, the target as large as before; `reach` metres around that are seen."""
        height = self.flat_m or 2 * self.distance * self.slope
        return replace(self, flat_m=height, distance=max(self.distance, reach))

    def deepened(self) -> Camera:
        """Return it in perspective, the target as large as before."""
        if self.flat_m is None:
            return self
        return replace(self, distance=self.flat_m / (2 * self.slope), flat_m=None)

    def resized(self, scale: float, target: Array) -> Camera:
        """Return one that sees a scene `scale` times as large as this one sees its own, about another target."""
        flat = None if self.flat_m is None else self.flat_m * scale
        return replace(self, target=target, distance=self.distance * scale, flat_m=flat)

    @property
    def slope(self) -> float:
        """How far the upper rim of the picture rises, for each metre of the way; in perspective."""
        return float(np.tan(np.radians(self.angle_deg / 2)))

    def metres_per_pixel(self, height: int, depth: float | None = None) -> float:
        """Return the size of a pixel at the target, or at a depth, metres before the camera."""
        if self.flat_m is not None:
            return self.flat_m / max(1, height)
        return 2 * (self.distance if depth is None else depth) * self.slope / max(1, height)

    def projected(self, points: Array, width: int, height: int) -> Array:
        """Return world points, shape (N, 3), as pixels and depth: rows of x, y, metres before the camera."""
        seen = (np.atleast_2d(points) - self.position) @ self.axes.T
        depth = -seen[:, 2]
        scale = height / 2 / self.slope / np.maximum(depth, SPECK) if self.flat_m is None else height / self.flat_m
        return np.column_stack([width / 2 + seen[:, 0] * scale, height / 2 - seen[:, 1] * scale, depth])

    def ray(self, x: float, y: float, width: int, height: int) -> tuple[Array, Array]:
        """Return where it starts and the unit direction, world, of the ray through a pixel."""
        right, up, back = self.axes
        if self.flat_m is not None:
            metres = self.metres_per_pixel(height)
            return self.position + right * (x - width / 2) * metres - up * (y - height / 2) * metres, -back
        slope = self.slope / (height / 2)
        toward = right * (x - width / 2) * slope - up * (y - height / 2) * slope - back
        return self.position, toward / np.linalg.norm(toward)


@lru_cache(maxsize=64)  # asked for with every point that is drawn
def _view_axes(azimuth_deg: float, elevation_deg: float) -> Array:
    a, e = np.radians(azimuth_deg), np.radians(elevation_deg)
    back = np.array([np.sin(a) * np.cos(e), np.sin(e), np.cos(a) * np.cos(e)])
    right = np.array([np.cos(a), 0.0, -np.sin(a)])
    axes = np.vstack([right, np.cross(back, right), back])
    axes.setflags(write=False)
    return axes


_MOST_OVER = 0.25  # of the picture's height


def framed(camera: Camera, box: Box, width: int, height: int, *, top: int = 0) -> Camera:
    """Return the camera, its directions kept, with the whole of `box` large in the middle of the picture.

    `top` are pixels at the upper rim that something stands over: the middle is that of what is left below.

    In perspective every corner (x right, y up, z towards the eye, about the box's middle) must lie in the picture:
    for a slope k of its rim, `|x - c| <= k (d - z)`. The nearest such d, and the c that goes with it, follow from the
    extremes of `x + k z` and `x - k z`, for each direction of the picture by itself.
    """
    seen = (box.corners - box.middle) @ camera.axes.T
    slope = camera.slope
    over = min(top / max(1, height), _MOST_OVER)
    share = np.array([_FILL * width / max(1, height), (_FILL - 0.08) * (1 - over)])
    if camera.flat_m is not None:
        size = np.ptp(seen[:, :2], axis=0)
        flat = max(float((size / share).max()), NEAREST_M)
        distance = max(2 * box.diagonal, flat)
        return replace(camera, target=box.middle + camera.axes[1] * (over * flat / 2), distance=distance, flat_m=flat)
    rim = slope * share
    outer = (seen[:, :2] + rim * seen[:, 2:]).max(axis=0)
    inner = (seen[:, :2] - rim * seen[:, 2:]).min(axis=0)
    nearest = seen[:, 2].max() + 1e-3 * max(box.diagonal, SPECK)
    distance = max(float(((outer - inner) / (2 * rim)).max()), float(nearest))
    across = (outer + inner) / 2 @ camera.axes[:2]
    # What the eye is on lies in the middle of the picture: higher than the box by half of what is covered.
    higher = camera.axes[1] * (over * slope * distance)
    return replace(camera, target=box.middle + across + higher, distance=distance)
