"""Small pictures of assets as a draft would meet them, its marks drawn on: for the list of what it applies to."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QBuffer, QByteArray, QIODevice
from PySide6.QtGui import QImage, QPainter

from oak_square.app.facts.bench import bench_view
from oak_square.app.facts.named_things import named_things
from oak_square.app.session.session import Session
from oak_square.app.view import Camera, Renderer
from oak_square.app.view.camera import framed
from oak_square.app.view.named_marks import draw_named
from oak_square.app.view.overlay import Lens
from oak_square.app.widgets.theme import colour

__all__ = ["HoverPictures"]

_WIDE, _HIGH = 240, 180
_MOST_TRIANGLES = 400_000  # more take longer than a hand waits


class HoverPictures:
    """Draws an asset as it is before the draft, with the marks that the draft speaks of where they were found."""

    def __init__(self, session: Session, renderer: Callable[[], Renderer]) -> None:
        self._session, self._renderer = session, renderer

    def __call__(self, file: str) -> str:
        """Return the picture as an image of rich text; empty where there is none to draw."""
        outcome = self._session.outcomes.get(file)
        if outcome is None:
            return ""
        asset = outcome.before.asset
        picture, _ = bench_view([asset], unit=self._session.unit, previewed=False)
        if picture.box is None or asset.triangle_count > _MOST_TRIANGLES:
            return ""
        camera = framed(Camera(target=np.zeros(3), distance=1.0), picture.box, _WIDE, _HIGH)
        pixels = self._renderer().render(picture, camera, (_WIDE, _HIGH), grid=None, fine=True)
        drawn = QImage(pixels.data, _WIDE, _HIGH, 4 * _WIDE, QImage.Format.Format_RGBA8888_Premultiplied)
        image = QImage(_WIDE, _HIGH, QImage.Format.Format_RGB32)
        image.fill(colour("view-high"))
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawImage(0, 0, drawn)
        _, marks = named_things(self._session, asset, asset)
        draw_named(painter, Lens(camera=camera, width=_WIDE, height=_HIGH), (), [m for m in marks if m.tried])
        painter.end()
        data = QByteArray()
        buffer = QBuffer(data)
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(buffer, "PNG")  # type: ignore[call-overload]  # its stub has bytes, which it refuses
        return f'<img src="data:image/png;base64,{bytes(data.toBase64().data()).decode()}" width="{_WIDE}">'
