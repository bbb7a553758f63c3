"""How long commands take to start, each in a fresh process, against what importing NumPy alone takes.

Python may keep what it compiles, as it does for who installs a package. The floor of `sheet check` is what the packages
for commands, YAML and models take by themselves.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time

from oak_square.demo import SHEET

RUNS = 7
FLOOR = "import typer, ruamel.yaml, pydantic; pydantic.create_model('One', x=int)"
KEEPS = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}


def seconds(*words: str) -> float:
    """Return the best of a few runs."""
    best = float("inf")
    for _ in range(RUNS):
        started = time.perf_counter()
        subprocess.run([sys.executable, *words], check=True, capture_output=True, env=KEEPS)
        best = min(best, time.perf_counter() - started)
    return best


def main() -> None:
    bare = seconds("-c", "import numpy")
    print(f"python -c 'import numpy': {bare:.2f} s")
    floor = seconds("-c", FLOOR)
    print(f"Typer, YAML and one model: {floor:.2f} s, {floor / bare:.2f} times")
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
