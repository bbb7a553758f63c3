"""The longest time the window does not answer: while 500 assets load, are surveyed, drawn small and listed, and
while half of 1,000 are selected as the other half loads."""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from beats import longest_gaps, until, watched_beats
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from oak_square.app.start import open_window
from oak_square.demo import BATCH
from oak_square.formats.register import format_of


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        time_loading(Path(name), 500)
    with tempfile.TemporaryDirectory() as name:
        time_selecting(Path(name), 1000)


def fill(folder: Path, count: int, most_bytes: int) -> None:
    """Copy the demo's models time and again."""
    models = [p for p in sorted(BATCH.iterdir()) if format_of(p) is not None and p.stat().st_size < most_bytes]
    for k in range(count):
        model = models[k % len(models)]
        shutil.copy(model, folder / f"{k:04d}_{model.name}")


def time_loading(folder: Path, count: int) -> None:
    """Say how long the window does not answer while all loads."""
    fill(folder, count, 1 << 40)
    window = open_window([])
    beats = watched_beats()
    started = time.perf_counter()
    window.open_paths([folder])
    until(lambda: window.session.is_settled() and not window.thumbnails.busy)
    took = time.perf_counter() - started
    print(f"{count} assets in {took:.1f} s; longest stalls {longest_gaps(beats, 5)} ms (aim 100)")
    window.close()


def time_selecting(folder: Path, count: int) -> None:
    """Say how long it does not answer once half of them are selected, while the other half loads."""
    fill(folder, count, 200_000)
    window = open_window([])
    beats = watched_beats()
    window.open_paths([folder])
    until(lambda: len(window.session.assets) >= count // 2)
    del beats[:]
    rows, batch = window.batch.shown, window.batch
    for row, keys in ((0, Qt.KeyboardModifier.NoModifier), (count // 2 - 1, Qt.KeyboardModifier.ShiftModifier)):
        place = batch.place_of(rows[row].file)
        batch.scrollTo(place)
        QApplication.processEvents()
        QTest.mouseClick(batch.viewport(), Qt.MouseButton.LeftButton, keys, batch.visualRect(place).center())
    until(lambda: window.session.is_settled() and window.is_shown())
    chosen = len(window.session.selection)
    print(f"{chosen} of {count} selected while they load; longest stalls {longest_gaps(beats, 5)} ms (aim 100)")
    window.close()


if __name__ == "__main__":
    main()
