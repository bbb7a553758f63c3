"""Measures an asset and says what is not true of it."""

from __future__ import annotations

from oak_square.core.boxes import asset_box
from oak_square.core.findings.finding import LOOKS, Finding
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.core.stages import STAGES

__all__ = ["survey"]


def survey(asset: Asset, book: SizeBook | None = None) -> tuple[Finding, ...]:
    """Return what is not true of `asset` under its reading, in the order of the stages.

    With a size `book`, extents outside what it expects are findings too. What is suspect of its unit, and of the side
    that is up, hangs on its folder as well: `likely.suspects` has that.
    """
    box = asset_box(asset)
    found = [each for look in LOOKS for each in look(asset, box, book)]
    return tuple(sorted(found, key=lambda f: STAGES.index(f.stage)))
