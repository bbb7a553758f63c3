"""Small pictures of the assets, rendered in idle slices of the interface thread."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage

from oak_square.app.bench_facts import bench_view
from oak_square.app.view import Camera, Renderer, framed
from oak_square.core.scene import Asset

__all__ = ["Thumbnails"]

_SIZE = 88
_IDLE_MS = 15
_MOST_TRIANGLES = 3_000_000


class Thumbnails(QObject):
    """Keeps a picture of each asset as it faces; makes one at a time when nothing else is to be done."""

    made = Signal()

    def __init__(self, renderer: Callable[[], Renderer], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._renderer = renderer
        self._kept: dict[tuple[object, ...], QImage] = {}
        self._newest: dict[str, QImage] = {}
        self._waiting: dict[tuple[object, ...], Asset] = {}
        self._timer = QTimer(self, interval=_IDLE_MS)
        self._timer.timeout.connect(self._make_one)

    def want(self, assets: Sequence[Asset]) -> None:
        """Ask for pictures of `assets`, in that order; earlier asks that are not among them are forgotten."""
        keyed = {_key(a): a for a in assets}
        self._waiting = {k: a for k, a in keyed.items() if k not in self._kept}
        self._newest.update({a.file: self._kept[k] for k, a in keyed.items() if k in self._kept})
        if self._waiting and not self._timer.isActive():
            self._timer.start()

    def of(self, file: str) -> QImage | None:
        """Return the newest picture of a file's asset, if one is made."""
        return self._newest.get(file)

    @property
    def busy(self) -> bool:
        """Whether some are still to be made."""
        return bool(self._waiting)

    def stop(self) -> None:
        """Make no more."""
        self._waiting.clear()
        self._timer.stop()

    def _make_one(self) -> None:
        if not self._waiting:
            self._timer.stop()
            return
        key = next(iter(self._waiting))
        asset = self._waiting.pop(key)
        self._kept[key] = self._newest[asset.file] = _drawn(asset, self._renderer())
        self.made.emit()


def _key(asset: Asset) -> tuple[object, ...]:
    # The picture is framed, so a change of unit or place does not change it; a turn does.
    return asset.file, asset.reading.up, asset.reading.front, asset.triangle_count


def _drawn(asset: Asset, renderer: Renderer) -> QImage:
    picture, _ = bench_view([asset], None, unit="auto", previewed=False)
    if picture.box is None or asset.triangle_count > _MOST_TRIANGLES:
        return QImage()
    camera = framed(Camera(target=np.zeros(3), distance=1.0, angle_deg=18.0), picture.box, _SIZE, _SIZE)
    pixels = renderer.render(picture, camera, (_SIZE, _SIZE), grid=None, fine=True)
    return QImage(pixels.data, _SIZE, _SIZE, 4 * _SIZE, QImage.Format.Format_RGBA8888_Premultiplied).copy()
