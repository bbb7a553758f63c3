"""How long commands take to start, each in a fresh process, against what importing NumPy alone takes."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time

from oak_square.demo import SHEET

RUNS = 7


def seconds(*words: str) -> float:
    """Return the best of a few runs."""
    best = float("inf")
    for _ in range(RUNS):
        started = time.perf_counter()
        subprocess.run([sys.executable, *words], check=True, capture_output=True)
        best = min(best, time.perf_counter() - started)
    return best


def main() -> None:
    bare = seconds("-c", "import numpy")
    print(f"python -c 'import numpy': {bare:.2f} s")
    with tempfile.TemporaryDirectory() as empty:
        for words in (
            ("--help",),
            ("--version",),
            ("survey", empty),
            ("sheet", "check", str(SHEET)),
        ):
            took = seconds("-m", "oak_square", *words)
            print(f"oak-square {' '.join(words[:2])}: {took:.2f} s, {took / bare:.2f} times (aim 1.5)")


if __name__ == "__main__":
    main()
