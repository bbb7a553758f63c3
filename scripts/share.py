"""Print how much of all code lines are tests; fails outside a quarter to a third."""

import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def code_lines(folder: str) -> int:
    """Count lines that are neither blank nor comments only."""
    lines = (line.strip() for path in (ROOT / folder).rglob("*.py") for line in path.read_text().splitlines())
    return sum(bool(line) and not line.startswith("#") for line in lines)


source, tests = code_lines("src"), code_lines("tests")
share = tests / (source + tests)
print(f"tests are {share:.0%} of {source + tests} code lines (wanted: 25 to 33 %)")
sys.exit(not 0.245 <= share <= 0.335)
