"""Dragging: frames of a hand that drags many parts by the Rule, against the bare renderer moving the same parts.

    python benchmarks/dragging.py [PARTS] [TRIANGLES]

First the many parts; then one scene of many triangles against one of ten thousand.
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QImage, QMouseEvent
from PySide6.QtWidgets import QApplication

from oak_square.app.facts.picture import Picture
from oak_square.app.start import open_window, settle
from oak_square.core.boxes import Box
from oak_square.core.frames import translation

_FRAMES = 60


def _write(path: Path, parts: int, triangles: int) -> None:
    """Write a GLB of `parts` bumpy sheets under one group, of so many triangles in all."""
    sys.path.insert(0, str(Path(__file__).parent.parent))
    from tests.app.lockworks import Part, write

    side = max(2, int(np.sqrt(triangles / parts / 2)))
    u, v = np.meshgrid(np.linspace(0, 1, side + 1), np.linspace(0, 1, side + 1))
    points = np.stack([u, 0.05 * np.sin(9 * u) * np.cos(7 * v), v], -1).reshape(-1, 3)
    k = np.arange((side + 1) ** 2).reshape(side + 1, side + 1)
    a, b, c, d = k[:-1, :-1], k[:-1, 1:], k[1:, :-1], k[1:, 1:]
    faces = np.stack([a, c, b, b, c, d], axis=-1).reshape(-1, 3)
    row = int(np.ceil(np.sqrt(parts)))
    found = [Part("all")]
    found += [
        Part(f"sheet_{n}", points, faces, at=(1.2 * (n % row), 0, 1.2 * (n // row)), parent="all") for n in range(parts)
    ]
    write(path, found)


def _frames(parts: int, triangles: int) -> tuple[float, float]:
    """Return the median frame of a drag in the window, and of the bare renderer, seconds."""
    with tempfile.TemporaryDirectory() as folder:
        _write(Path(folder) / "sheets.glb", parts, triangles)
        window = open_window([Path(folder)])
        window.resize(1280, 800)
        settle(window)
        asset = next(iter(window.session.outcomes.values())).after.asset
        window.session.select(
            window.session.selection, tuple(i for i, n in enumerate(asset.nodes) if n.mesh is not None)
        )
        settle(window)
        window.desk.take_up("rule")
        settle(window)
        bench, hand = window.bench, window.desk.hand.held
        handle = {h.name: h for h in hand.handles(hand.scene.hold, bench.lens())}["x"]
        start = QPoint(*(round(v) for v in handle.line[0] + (handle.line[1] - handle.line[0]) * 0.7))
        _mouse(bench, QEvent.Type.MouseMove, start, Qt.MouseButton.NoButton)
        _mouse(bench, QEvent.Type.MouseButtonPress, start, Qt.MouseButton.LeftButton)
        times = []
        for k in range(_FRAMES):
            since = time.perf_counter()
            _mouse(bench, QEvent.Type.MouseMove, start + QPoint(4 + k % 30, k % 7), Qt.MouseButton.LeftButton)
            bench.repaint()
            times.append(time.perf_counter() - since)
            QApplication.processEvents()
        bare = _bare(window)
        window.files.ask_unsaved = lambda: "leave"
        window.close()
    return float(np.median(times[5:])), bare


def _mouse(bench: object, kind: QEvent.Type, at: QPoint, down: Qt.MouseButton) -> None:
    button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else down
    place = QPointF(at)
    event = QMouseEvent(kind, place, QPointF(bench.mapToGlobal(at)), button, down, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(bench, event)


def _bare(window: object) -> float:
    """Return the median time of a frame in which every actor moves, rendered and made an image: nothing else."""
    bench = window.bench
    renderer, picture = window._renderer, bench.picture
    size = (bench.width(), bench.height())
    times = []
    for k in range(_FRAMES):
        shift = translation(np.array([0.02 if k % 2 else -0.02, 0, 0]))
        since = time.perf_counter()
        for actor in renderer._actors:
            matrix = actor.GetUserMatrix()
            matrix.SetElement(0, 3, matrix.GetElement(0, 3) + shift[0, 3])
        pixels = renderer.render(renderer._picture, bench.camera, size, grid=(1.0, 5), fine=False)
        QImage(pixels.data, size[0], size[1], 4 * size[0], QImage.Format.Format_RGBA8888_Premultiplied).copy()
        times.append(time.perf_counter() - since)
    assert isinstance(picture, Picture)
    assert isinstance(picture.box, Box)
    return float(np.median(times[5:]))


def main(parts: int, triangles: int) -> None:
    """Print both comparisons."""
    ours, bare = _frames(parts, 40_000)
    print(
        f"{parts} parts, 40,000 triangles: {ours * 1000:.1f} ms a frame, bare {bare * 1000:.1f} ms: {ours / bare:.2f}x"
    )
    small, _ = _frames(4, 10_000)
    large, bare = _frames(4, triangles)
    said = f"{large * 1000:.1f} ms a frame (bare {bare * 1000:.1f}), 10,000: {small * 1000:.1f} ms"
    print(f"{triangles:,} triangles: {said}: {large / small:.2f}x")


if __name__ == "__main__":
    wanted = [int(a) for a in sys.argv[1:]]
    main(*(wanted + [150, 1_000_000][len(wanted) :]))
