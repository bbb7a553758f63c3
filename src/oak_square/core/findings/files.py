"""Of the files that a model names."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.findings.finding import Finding, add_kind, finding, looks
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.core.words import say

__all__: list[str] = []

Array = NDArray[np.float64]

add_kind(
    "texture-astray",
    level="check",
    stage="deliver",
    title=say("names files outside its folder"),
    why=say("They can't go along: the delivered model would stand without them, or show somebody else's."),
    symptoms=say("pink white grey missing texture picture material", "symptoms"),
)


@looks
def _look_at_files(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
    if asset.astray:
        more = say(" and {count} more files", count=len(asset.astray) - 1) if len(asset.astray) > 1 else ""
        message = say(
            "it names '{astray}'{more}, outside its folder: put a copy beside it, and name that",
            astray=asset.astray[0],
            more=more,
        )
        yield finding("texture-astray", message, measure=len(asset.astray))
