"""Small pictures of the assets, rendered in idle slices of the interface thread."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path

import numpy as np
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QImage

from oak_square.app.facts.bench import bench_view
from oak_square.app.view import Camera, Renderer, framed
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit

__all__ = ["Thumbnails"]

Key = tuple[str, str, str]
_SIZE = 88
_IDLE_MS = 15
_MOST_TRIANGLES = 3_000_000


class Thumbnails(QObject):
    """Keeps a picture of each asset as it faces, by the content of its file; makes one at a time in idle moments."""

    made = Signal()

    def __init__(self, renderer: Callable[[], Renderer], folder: Path | None, parent: QObject | None = None) -> None:
        """Take what draws them, and the folder they are kept in between runs (None: they are not)."""
        super().__init__(parent)
        self._folder = folder
        self._renderer = renderer
        self._kept: dict[Key, QImage] = {}
        self._newest: dict[str, QImage] = {}
        self._files: list[tuple[Key, str]] = []
        self._waiting: dict[Key, Asset] = {}
        self._timer = QTimer(self, interval=_IDLE_MS)
        self._timer.timeout.connect(self._make_one)

    def want(self, assets: Sequence[tuple[Asset, str]]) -> None:
        """Ask for pictures of assets, each with its content's hash, in that order; earlier asks are forgotten."""
        keyed = {_make_key(asset, digest): asset for asset, digest in assets}
        self._waiting = {k: a for k, a in keyed.items() if k not in self._kept}
        self._files = [(_make_key(asset, digest), asset.file) for asset, digest in assets]
        self._name_newest()
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
        self._kept[key] = self._load_kept(key) or self._draw_and_keep(key, asset)
        self._name_newest()
        self.made.emit()

    def _name_newest(self) -> None:
        self._newest.update({file: self._kept[key] for key, file in self._files if key in self._kept})

    def _load_kept(self, key: Key) -> QImage | None:
        """Return the picture that an earlier run kept, if there is one."""
        path = self._find_path(key)
        image = QImage(str(path)) if path is not None and path.is_file() else QImage()
        return None if image.isNull() else image

    def _draw_and_keep(self, key: Key, asset: Asset) -> QImage:
        image = _draw_thumbnail(asset, self._renderer())
        path = self._find_path(key)
        if path is not None and not image.isNull():
            with suppress(OSError):  # a cache that can't be written is only slower
                path.parent.mkdir(parents=True, exist_ok=True)
                image.save(str(path))
        return image

    def _find_path(self, key: Key) -> Path | None:
        digest, up, front = key
        return self._folder / f"{digest}{up}{front}.png" if self._folder is not None and len(digest) == 64 else None


def _make_key(asset: Asset, digest: str) -> Key:
    # The picture is framed, so a change of unit or place does not change it; a turn does.
    return digest or asset.file, asset.reading.up, asset.reading.front


def _draw_thumbnail(asset: Asset, renderer: Renderer) -> QImage:
    picture, _ = bench_view([asset], unit=ShownUnit(), previewed=False)
    if picture.box is None or asset.triangle_count > _MOST_TRIANGLES:
        return QImage()
    camera = framed(Camera(target=np.zeros(3), distance=1.0, angle_deg=18.0), picture.box, _SIZE, _SIZE)
    pixels = renderer.render(picture, camera, (_SIZE, _SIZE), grid=None, fine=True)
    return QImage(pixels.data, _SIZE, _SIZE, 4 * _SIZE, QImage.Format.Format_RGBA8888_Premultiplied).copy()
