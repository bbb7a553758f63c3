"""Elevations of assets as images: made a few at a time, kept, and made anew where a zoom would show their pixels."""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Container, Sequence
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QObject, QRectF, QTimer, Signal
from PySide6.QtGui import QImage

from oak_square.app.facts.picture import Picture
from oak_square.app.view.camera import Camera
from oak_square.app.view.renderer import Renderer
from oak_square.core.tolerances import SPECK

__all__ = ["SIDES", "Sprite", "SpriteWish", "Sprites"]

SIDES = {"front": 0.0, "side": 90.0}
"""What an elevation looks at, with the camera's azimuth in degrees."""

_SLICE_S = 0.012
_TELL_EVERY_S = 0.15
_SPARE = 0.35  # drawn beyond the window's edges, so that a small pan shows no end
_COARSE, _LAVISH = 0.9, 3.0  # pixels of an image for one on screen, outside of which it is made anew
_LARGEST = 2048
_SMALLEST = 12


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Sprite:
    """An elevation, or the part of it that was in the window.

    Attributes
    ----------
    picture, side : what it shows
    room : QRectF
        The part of the asset's outline it covers, as shares: x from the left, y from the bottom.
    image : QImage
    """

    picture: Picture
    side: str
    room: QRectF
    image: QImage


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SpriteWish:
    """An asset in the window: its outline there in pixels, and the window's own size; dots are device pixels in one."""

    file: str
    picture: Picture
    outline: QRectF
    window: QRectF
    dots: float


class Sprites(QObject):
    """Makes and keeps them. `made` tells when there are new ones."""

    made = Signal()

    def __init__(self, renderer: Callable[[], Renderer], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._renderer = renderer
        self._kept: dict[str, Sprite] = {}
        self._due: list[SpriteWish] = []
        self._side = "front"
        self._told = 0.0
        self._timer = QTimer(self, interval=0)
        self._timer.timeout.connect(self._make_some)

    @property
    def busy(self) -> bool:
        """Whether some are still to be made."""
        return self._timer.isActive()

    def of(self, file: str) -> Sprite | None:
        """Return the sprite there is for a file, sharp or not."""
        return self._kept.get(file)

    def want(self, wishes: Sequence[SpriteWish], side: str) -> None:
        """Make what is wished for, the first first; earlier wishes are forgotten."""
        self._side = side
        self._due = [w for w in wishes if not self._is_as_wanted(w)][::-1]
        if self._due:
            self._timer.start()
        else:
            self._timer.stop()

    def keep_only(self, files: Container[str]) -> None:
        """Let go of what was made of other files."""
        self._kept = {file: sprite for file, sprite in self._kept.items() if file in files}

    def stop(self) -> None:
        """Make no more."""
        self._due.clear()
        self._timer.stop()

    def _is_as_wanted(self, wish: SpriteWish) -> bool:
        sprite = self._kept.get(wish.file)
        if sprite is None or sprite.picture is not wish.picture or sprite.side != self._side:
            return False
        shown = sprite.room.width() * wish.outline.width() * wish.dots
        sharp = sprite.image.width() / max(shown, 1.0)
        if sharp > _LAVISH and sprite.image.width() > 64:
            return False
        whole = sprite.room.contains(QRectF(0, 0, 1, 1))
        covered = whole or sprite.room.adjusted(-1e-3, -1e-3, 1e-3, 1e-3).contains(_in_window(wish, 0.0))
        return covered and (sharp > _COARSE or sprite.image.width() >= _LARGEST)

    def _make_some(self) -> None:
        until = time.monotonic() + _SLICE_S
        while self._due and time.monotonic() < until:
            wish = self._due.pop()
            self._kept[wish.file] = self._make_sprite(wish)
        if not self._due:
            self._timer.stop()
        if not self._due or time.monotonic() > self._told + _TELL_EVERY_S:
            self._told = time.monotonic()
            self.made.emit()

    def _make_sprite(self, wish: SpriteWish) -> Sprite:
        box = wish.picture.box
        assert box is not None
        room = _in_window(wish, _SPARE)
        wide = room.width() * wish.outline.width() * wish.dots
        high = room.height() * wish.outline.height() * wish.dots
        shrink = min(1.0, _LARGEST / max(wide, high, 1.0))
        size = (max(_SMALLEST, math.ceil(wide * shrink)), max(_SMALLEST, math.ceil(high * shrink)))
        across = 0 if self._side == "front" else 2
        sides = np.maximum(box.size[[across, 1]], SPECK * max(box.diagonal, SPECK))
        # The image is whole pixels: what it covers is taken from them, so that nothing is stretched.
        per_pixel = max(room.width() * sides[0] / size[0], room.height() * sides[1] / size[1])
        width, height = size[0] * per_pixel / sides[0], size[1] * per_pixel / sides[1]
        centre = room.center()
        target = box.middle.copy()
        # Seen from its right side, the front is at the left.
        target[across] += (centre.x() - 0.5) * sides[0] * (1 if across == 0 else -1)
        target[1] += (centre.y() - 0.5) * sides[1]
        camera = Camera(
            target=target, distance=2 * box.diagonal + SPECK, azimuth_deg=SIDES[self._side], elevation_deg=0.0,
            flat_m=size[1] * per_pixel,
        )  # fmt: skip
        pixels = self._renderer().render(wish.picture, camera, size, grid=None, fine=True)
        rows, columns, _ = pixels.shape
        image = QImage(pixels.data, columns, rows, 4 * columns, QImage.Format.Format_RGBA8888_Premultiplied).copy()
        covered = QRectF(centre.x() - width / 2, centre.y() - height / 2, width, height)
        return Sprite(picture=wish.picture, side=self._side, room=covered, image=image)


def _in_window(wish: SpriteWish, spare: float) -> QRectF:
    """Return the part of an outline that lies in the window, as shares of it; all of it where that is no larger."""
    outline, window = wish.outline, wish.window
    if outline.width() <= window.width() and outline.height() <= window.height():
        return QRectF(0, 0, 1, 1)
    near = window.adjusted(
        -spare * window.width(), -spare * window.height(), spare * window.width(), spare * window.height()
    )
    seen = outline.intersected(near)
    wide, high = max(outline.width(), SPECK), max(outline.height(), SPECK)
    return QRectF(
        (seen.left() - outline.left()) / wide, (outline.bottom() - seen.bottom()) / high,
        max(seen.width() / wide, SPECK), max(seen.height() / high, SPECK),
    )  # fmt: skip
