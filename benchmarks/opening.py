"""Opening 1,000 small assets: the first row, all rows, and the longest time the window does not answer.

Beside it, bare reading: the same files through the same readers in one process, nothing else done.
"""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from beats import longest_gaps, watched_beats
from PySide6.QtWidgets import QApplication

from oak_square.app.start import open_window
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.formats.register import format_of

COUNT = 1000
SMALL_BYTES = 200_000


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        models = [p for p in sorted(BATCH.iterdir()) if format_of(p) is not None and p.stat().st_size < SMALL_BYTES]
        for k in range(COUNT):
            model = models[k % len(models)]
            shutil.copy(model, Path(name) / f"{k:04d}_{model.name}")
        started = time.perf_counter()
        for source in find_sources([Path(name)]):
            receive(source)
        bare = time.perf_counter() - started
        window = open_window([])
        beats = watched_beats()
        started = time.perf_counter()
        window.open_paths([Path(name)])
        first = None
        while not window.session.is_settled():
            QApplication.processEvents()
            if first is None and any(not r.reading for r in window.batch.shown):
                first = time.perf_counter() - started
        took = time.perf_counter() - started
        longest = longest_gaps(beats, 3)
        print(f"{COUNT} assets: first row after {first or took:.2f} s, all worked out after {took:.1f} s;")
        print(f"bare reading takes {bare:.1f} s: {took / bare:.2f} times; longest stalls {longest} ms (aim 100)")
        window.close()


if __name__ == "__main__":
    main()
