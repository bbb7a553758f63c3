"""The longest time the window does not answer while 500 assets load, are surveyed, drawn small and listed."""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from beats import longest_gaps, until, watched_beats

from oak_square.app.start import open_window
from oak_square.demo import BATCH
from oak_square.formats.register import format_of

COUNT = 500


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        models = [p for p in sorted(BATCH.iterdir()) if format_of(p) is not None]
        for k in range(COUNT):
            model = models[k % len(models)]
            shutil.copy(model, Path(name) / f"{k:03d}_{model.name}")
        window = open_window([])
        beats = watched_beats()
        started = time.perf_counter()
        window.open_paths([Path(name)])
        until(lambda: window.session.is_settled() and not window.thumbnails.busy)
        took = time.perf_counter() - started
        longest = longest_gaps(beats, 5)
        print(f"{COUNT} assets in {took:.1f} s; longest stalls {longest} ms (aim 100)")
        window.close()


if __name__ == "__main__":
    main()
