"""The demo batch, Fenwick Lock: how it is made, and the files."""

from pathlib import Path

__all__ = ["BATCH", "SHEET"]

BATCH = Path(__file__).parent / "fenwick_lock"
"""The folder of models as received."""

SHEET = BATCH / "fenwick.prepsheet.yaml"
"""The sheet that makes them true."""
