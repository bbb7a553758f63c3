"""Of the size: its unit, and what the team has agreed."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import EXTENTS, Box
from oak_square.core.findings.finding import Finding, add_kind, finding, looks
from oak_square.core.lengths import format_length
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.core.terms import term
from oak_square.core.words import say

__all__: list[str] = []

Array = NDArray[np.float64]

add_kind(
    "unit-assumed",
    level="note",
    stage="size",
    title=say("nothing declares the unit"),
    why=say("The numbers are taken for metres until you say what they are."),
    remedy={"do": "unit", "reads": "m"},
    symptoms=say("too big too small wrong size units", "symptoms"),
)

add_kind(
    "size-out-of-book",
    level="fix",
    stage="size",
    title=say("outside the size book"),
    why=say("The team has agreed what this measures; it does not fit its place otherwise."),
    by_hand=say("Say which unit each was made in, or type the extent it shall have"),
    symptoms=say("too big too small wrong size does not fit scale", "symptoms"),
)


@looks
def _look_at_unit(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
    reading = asset.reading
    if box is not None and reading.source == "assumed":
        yield finding(
            "unit-assumed", say("the file declares no unit; taken for metres"), measure=reading.metres_per_unit
        )


@looks
def _look_into_book(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
    entry = book.entry_for(asset.file) if book is not None else None
    if entry is None or box is None:
        return
    for k in entry.outside(box.size):
        extent = float(box.size[k])
        message = say(
            "{extent} {there}; '{asset}' should have {words}",
            extent=term(EXTENTS[k]),
            there=format_length(extent),
            asset=entry.pattern,
            words=entry.spans[k].words(),
        )
        yield finding("size-out-of-book", message, measure=extent)
