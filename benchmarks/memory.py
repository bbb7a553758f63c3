"""How much memory a window holds after a batch of a gigabyte was opened and closed again, ten times over.

    python benchmarks/memory.py [ROUNDS]

It prints megabytes of resident memory, open and closed; the last closed one should be the first, within a tenth.
"""

from __future__ import annotations

import os
import sys
import time
from pathlib import Path
from tempfile import TemporaryDirectory

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PySide6.QtWidgets import QApplication

from oak_square.app.session.session import Session
from oak_square.app.start import settle
from oak_square.app.widgets import theme
from oak_square.app.window import Window

FILES, TRIANGLES = 20, 1_000_000
REST_S = 1.0


def write_batch(folder: Path) -> None:
    side = int((TRIANGLES / 2) ** 0.5)
    x, y = np.meshgrid(np.arange(side + 1) * 0.01, np.arange(side + 1) * 0.01)
    for k in range(FILES):
        at = np.stack([x, 0.05 * np.sin(3 * x + k) * np.cos(2 * y), y], -1).astype("f4")
        a, b, c, d = at[:-1, :-1], at[1:, :-1], at[1:, 1:], at[:-1, 1:]
        corners = [np.stack(three, -2).reshape(-1, 3, 3) for three in ((a, b, c), (a, c, d))]
        rows = np.zeros(2 * side * side, dtype=[("n", "<f4", 3), ("v", "<f4", (3, 3)), ("a", "<u2")])
        rows["v"] = np.concatenate(corners)
        (folder / f"slab_{k}.stl").write_bytes(bytes(80) + np.uint32(len(rows)).tobytes() + rows.tobytes())


def resident_mb() -> int:
    row = next(line for line in Path("/proc/self/status").read_text().splitlines() if line.startswith("VmRSS"))
    return int(row.split()[1]) // 1000


def rest(app: QApplication, seconds: float) -> None:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        app.processEvents()
        time.sleep(0.01)


def main() -> None:
    app = QApplication([])
    theme.install(app)
    with TemporaryDirectory() as home:
        write_batch(Path(home))
        window = Window(Session(), Path(home), None)
        window.resize(1280, 800)
        window.show()
        print(f"empty {resident_mb()} MB")
        for k in range(int(sys.argv[1]) if len(sys.argv) > 1 else 10):
            window.open_paths([Path(home)])
            while len(window.session.assets) < FILES:
                rest(app, 0.1)
            settle(window)
            held = resident_mb()
            window.session.close_batch()
            settle(window)
            rest(app, REST_S)
            print(f"{k + 1}: open {held} MB, closed {resident_mb()} MB", flush=True)
        window.close()


if __name__ == "__main__":
    main()
