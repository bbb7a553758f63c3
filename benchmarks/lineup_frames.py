"""The line-up with 500 assets: how long a frame takes while it is panned and zoomed, against an empty paint."""

from __future__ import annotations

import os
import shutil
import statistics
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QApplication, QWidget

from oak_square.app.start import open_window, settle
from oak_square.demo import BATCH, SHEET
from oak_square.formats.register import format_of

COUNT, FRAMES = 500, 120


class Empty(QWidget):
    def paintEvent(self, event: QPaintEvent) -> None:
        QPainter(self).fillRect(self.rect(), QColor("#F1ECE2"))


def frame_ms(widget: QWidget, move) -> tuple[float, float]:
    """Return the middle and the longest frame of a run of `move`s, each painted at once."""
    took = []
    for k in range(FRAMES):
        started = time.perf_counter()
        move(k)
        widget.repaint()
        took.append((time.perf_counter() - started) * 1000)
        QApplication.processEvents()
    return statistics.median(took), max(took)


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        models = [p for p in sorted(BATCH.iterdir()) if format_of(p) is not None]
        for k in range(COUNT):
            model = models[k % len(models)]
            shutil.copy(model, Path(name) / f"{model.stem}_{k:03d}{model.suffix}")
        text = SHEET.read_text().replace(".*]", "_*]")
        sheet = Path(name).parent / f"{Path(name).name}.prepsheet.yaml"
        sheet.write_text(text)
        window = open_window([Path(name)], sheet)
        settle(window)
        window._show_view("line-up")
        started = time.perf_counter()
        settle(window)
        sharp = time.perf_counter() - started
        row = window.views.lineup.row
        empty = Empty()
        empty.resize(row.size())
        empty.show()
        bare, _ = frame_ms(empty, lambda _: None)
        print(f"{COUNT} assets sharp after {sharp:.1f} s; an empty paint takes {bare:.2f} ms")
        at = QPointF(row.width() / 2, row.height() - 120)
        for words, move in (
            ("panned, the whole row in sight", lambda k: row.pan(4 if k % 20 < 10 else -4, 0)),
            ("zoomed in from there", lambda k: row.zoom(1.06, at)),
            ("panned, near", lambda k: row.pan(12 if k % 20 < 10 else -12, 0)),
        ):
            middle, longest = frame_ms(row, move)
            print(f"{words}: {middle:.1f} ms a frame, at most {longest:.1f}: {middle / bare:.1f} empty paints")
        window.close()
        sheet.unlink()


if __name__ == "__main__":
    main()
