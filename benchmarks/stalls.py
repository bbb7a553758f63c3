"""The longest time the window does not answer while 500 assets load, are surveyed, drawn small and listed."""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

import itertools

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from oak_square.app.start import open_window
from oak_square.demo import BATCH
from oak_square.formats import format_of

COUNT = 500


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        models = [p for p in sorted(BATCH.iterdir()) if format_of(p) is not None]
        for k in range(COUNT):
            model = models[k % len(models)]
            shutil.copy(model, Path(name) / f"{k:03d}_{model.name}")
        window = open_window([])
        idle_until = time.perf_counter() + 1.5
        while time.perf_counter() < idle_until:
            QApplication.processEvents()
        beats: list[float] = []
        timer = QTimer()
        timer.setInterval(0)
        timer.timeout.connect(lambda: beats.append(time.perf_counter()))
        timer.start()
        started = time.perf_counter()
        window.open_paths([Path(name)])
        while not window.session.is_settled() or window.thumbnails.busy:
            QApplication.processEvents()
        took = time.perf_counter() - started
        gaps = sorted((b - a for a, b in itertools.pairwise(beats)), reverse=True)
        longest = ", ".join(f"{gap * 1000:.0f}" for gap in gaps[:5])
        print(f"{COUNT} assets in {took:.1f} s; longest stalls {longest} ms (aim 100)")
        window.close()


if __name__ == "__main__":
    main()
