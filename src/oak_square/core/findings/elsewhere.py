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
    symptoms=say("broken corrupt damaged crash missing error", "symptoms"),
)

add_kind(
    "cannot-carry",
    level="note",
    stage="deliver",
    title=say("the target format loses something"),
    why=say("What the format can't hold is gone in the delivered file."),
    symptoms=say("lost missing colours textures hierarchy animation gone", "symptoms"),
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
    symptoms=say(
        "too big too small huge tiny giant physics gravity heavy floaty light fall-off scale units", "symptoms"
    ),
)

add_kind(
    "up-suspect",
    level="check",
    stage="turn",
    title=say("seems to lie on its side"),
    why=say("It would be set down lying, and every height typed for it would size the wrong extent."),
    asks="up",
    symptoms=say("upside down on its side lying fallen rotated wrong way up axis", "symptoms"),
)
