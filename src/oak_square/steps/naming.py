"""How a step names things: assets and nodes by globs, another asset by name, a unit by its word or its metres."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from glob import escape
from pathlib import PurePosixPath

from oak_square.core.lengths import UNITS

__all__ = ["as_reads", "called", "globs_for"]


def globs_for(names: Sequence[str]) -> list[str]:
    """Return globs that match just these paths or names."""
    return [escape(n) for n in names]


def as_reads(unit: str) -> str | float:
    """Return a candidate unit as a step writes it: its name, or metres per unit."""
    return unit if unit in UNITS else float(unit)


def called(files: Sequence[str]) -> dict[str, str]:
    """Return how a step names each asset: its name without suffix where no other has it, else its path."""
    stems = {file: PurePosixPath(file).stem for file in files}
    often = Counter(stems.values())
    return {file: stem if often[stem] == 1 else file for file, stem in stems.items()}
