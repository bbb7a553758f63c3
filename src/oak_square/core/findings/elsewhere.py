"""What others find: whoever reads files, writes them, or knows what lies beside them."""

from __future__ import annotations

from oak_square.core.findings.finding import add_kind
from oak_square.core.words import say

__all__: list[str] = []

add_kind(
    "unreadable",
    level="fix",
    stage="receive",
    title=say("can't be read"),
    why=say("Nothing can be measured or delivered from it."),
)

add_kind(
    "cannot-carry",
    level="note",
    stage="deliver",
    title=say("the target format loses something"),
    why=say("What the format can't hold is gone in the delivered file."),
)

add_kind(
    "unit-suspect",
    level="check",
    stage="size",
    title=say("another unit is far more plausible"),
    why=say(
        "At the wrong unit it dwarfs the set or disappears in it, and physics and light fall-off go wrong with it."
    ),
    asks="unit",
)

add_kind(
    "up-suspect",
    level="check",
    stage="turn",
    title=say("seems to lie on its side"),
    why=say("It would be set down lying, and every height typed for it would size the wrong extent."),
    asks="up",
)
