"""How the engine of `prep` grows: with jobs, with the number of assets, and in memory with the number of files.

Each figure is a ratio of two runs side by side: two jobs against one, 10,000 small assets against 1,000, and the peak
memory of all processes of a run over 200 files against that over the largest of them alone.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from formats_ratio import SHEET, make_ply

from oak_square.demo import BATCH

PREP = [str(Path(sys.executable).parent / "oak-square"), "prep"]
MANY, FEW, FILES = 10_000, 1_000, 200
SMALL = BATCH / "stop_planks.glb"
LOOK_S = 0.01


def run(sheet: Path, folder: Path, out: Path, jobs: int) -> tuple[float, int]:
    """Return the seconds that a run takes, and the most bytes that its processes hold at once."""
    started, peak = time.perf_counter(), 0
    command = [*PREP, str(sheet), str(folder), "--out", str(out), "--jobs", str(jobs)]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    while process.poll() is None:
        peak = max(peak, sum(held(p) for p in family(process.pid)))
        time.sleep(LOOK_S)
    assert process.returncode == 0
    took = time.perf_counter() - started
    shutil.rmtree(out)
    return took, peak


def family(pid: int) -> Iterator[int]:
    """Yield a process and all it has started."""
    yield pid
    try:
        for task in Path(f"/proc/{pid}/task").iterdir():
            for child in (task / "children").read_text().split():
                yield from family(int(child))
    except OSError:
        return


def held(pid: int) -> int:
    """Return the bytes that a process holds, what it shares with others counted in parts."""
    try:
        rows = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
    except OSError:
        return 0
    return next((1024 * int(row.split()[1]) for row in rows if row.startswith("Pss:")), 0)


def filled(folder: Path, count: int, model: Path) -> Path:
    """Return a folder of that many copies of a model."""
    folder.mkdir()
    for k in range(count):
        shutil.copy(model, folder / f"m{k:05}{model.suffix}")
    return folder


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        home = Path(name)
        sheet, plain = home / "s.prepsheet.yaml", home / "p.prepsheet.yaml"
        sheet.write_text(SHEET)
        plain.write_text("prep-sheet: 1\nsteps:\n  - {do: bake}\n")
        large = home / "large.ply"
        make_ply(large)
        folder = filled(home / "jobs", 24, large)
        times = np.array([[run(sheet, folder, home / "out", jobs)[0] for jobs in (1, 2)] for _ in range(3)]).min(axis=0)
        size = sum(p.stat().st_size for p in folder.iterdir()) / 1e6
        print(f"{size:.0f} MB in 24 files: one job {times[0]:.1f} s, two {times[1]:.1f} s: "
              f"{times[1] / times[0]:.2f} times on {os.cpu_count()} cores (wanted 0.6)")  # fmt: skip
        alone = filled(home / "alone", 1, large)
        half = home / "half.glb"
        shutil.copy(SMALL, half)
        mixed = filled(home / "mixed", FILES - 1, half)
        shutil.copy(large, mixed / "large.ply")
        peaks = [min(run(sheet, f, home / "out", 1)[1] for _ in range(2)) for f in (alone, mixed)]
        print(f"peak memory: the largest alone {peaks[0] / 1e6:.0f} MB, "
              f"with {FILES - 1} others {peaks[1] / 1e6:.0f} MB: "
              f"{peaks[1] / peaks[0]:.2f} times (wanted 1.15)")  # fmt: skip
        few, many = (filled(home / str(n), n, SMALL) for n in (FEW, MANY))
        took = [run(plain, f, home / "out", 0)[0] for f in (few, many)]
        print(f"{FEW} assets {took[0]:.1f} s, {MANY} {took[1]:.1f} s: {took[1] / took[0]:.1f} times (wanted 11)")


if __name__ == "__main__":
    main()
