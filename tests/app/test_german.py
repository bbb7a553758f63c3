"""The window in German: in processes that speak it from their first import on."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

HOME = Path(__file__).resolve().parent.parent.parent
LAYOUTS = "cuts_words_off or seen_whole"


@pytest.mark.parametrize(
    ("language", "what"),
    [
        ("marked", ["tests/app/in_german.py"]),
        ("de", ["tests/app/in_german.py", "tests/app/test_looks.py", "-k", f"in_german or ({LAYOUTS}) and not 2560"]),
    ],
    ids=["no English left", "numbers, plurals, and seen whole"],
)
def test_the_german_window(language, what):
    environment = {**os.environ, "OAK_SQUARE_TEST_LANGUAGE": language}
    for name in ("PYTEST_XDIST_WORKER", "PYTEST_CURRENT_TEST", "PYTEST_ADDOPTS"):
        environment.pop(name, None)
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-p", "no:cacheprovider", "-n", "0", *what],
        cwd=HOME,
        env=environment,
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stdout[-6000:]
    assert " passed" in done.stdout
