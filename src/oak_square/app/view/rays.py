"""Rays through pixels of a picture: what lies under the pointer, around it, and before a point."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.picture import Picture
from oak_square.app.view.overlay import Lens
from oak_square.app.view.pointing import Hit, Passed
from oak_square.app.view.renderer import Renderer

__all__ = ["GROUND_REACH", "Rays"]

Array = NDArray[np.float64]
GROUND_REACH = 50
"""Times the way to what is looked at, as far as the ground is pointed to."""

_AROUND = tuple((6 * dx, 6 * dy) for dx in (-1, 0, 1) for dy in (-1, 0, 1) if dx or dy)
# On a circle farther out: what a point at the edge of the pointer's reach belongs to.
_REACH = tuple((round(11 * np.cos(a)), round(11 * np.sin(a))) for a in np.arange(8) * np.pi / 4)
_BEFORE = 2.0  # pixels: what lies no more than so much before a point is what it is on


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Rays:
    """Those about one pixel of a picture, x and y, as it is seen through a lens."""

    renderer: Renderer
    picture: Picture
    lens: Lens
    x: float
    y: float

    def ray(self, dx: float = 0.0, dy: float = 0.0) -> tuple[Array, Array]:
        """Return the eye and the direction, shape (3,) each, of the ray so many pixels beside the pixel."""
        return self.lens.camera.ray(self.x + dx, self.y + dy, self.lens.width, self.lens.height)

    def first(self, near: bool, passing: Passed | None) -> Hit | None:
        """Return what the ray through the pixel meets, or with `near` one of those a few pixels around it."""
        for dx, dy in ((0, 0), *(_AROUND if near else ())):
            hit = self.renderer.pick(self.picture, *self.ray(dx, dy), passing)
            if hit is not None:
                return hit
        return None

    def around(self, passing: Passed | None) -> list[Hit]:
        """Return what rays within the pointer's reach meet, each triangle once; what lies under the pointer first."""
        found = dict[tuple[int, int], Hit]()
        for dx, dy in ((0, 0), *_AROUND, *_REACH):
            hit = self.renderer.pick(self.picture, *self.ray(dx, dy), passing)
            if hit is not None:
                found.setdefault((id(hit[0]), hit[2]), hit)
        return list(found.values())

    def sees(self, point: Array, passing: Passed | None) -> bool:
        """Tell whether nothing lies before a world point, as far as two pixels can tell."""
        seen = self.lens.seen(point[None])[0]
        eye, toward = self.lens.camera.ray(float(seen[0]), float(seen[1]), self.lens.width, self.lens.height)
        hit = self.renderer.pick(self.picture, eye, toward, passing)
        return hit is None or float((hit[1] - point) @ toward) > -self.lens.reach(point, _BEFORE)

    def world(self) -> Array | None:
        """Return the surface point under the pixel, else the ground's; None over neither, or too far off."""
        eye, toward = self.ray()
        hit = self.renderer.pick(self.picture, eye, toward)
        if hit is not None:
            return hit[1]
        if toward[1] == 0 or (reach := -eye[1] / toward[1]) <= 0 or reach > self.lens.camera.distance * GROUND_REACH:
            return None
        return eye + toward * reach
