"""The seven stages, in the order the work is done: written here once."""

from __future__ import annotations

from oak_square.core.words import say

__all__ = ["STAGES", "STAGE_HELP", "STEP_STAGES", "stage_name"]

STAGE_HELP = {
    "receive": say("What came in, and what is not true of it"),
    "size": say("Which unit a file was made in, and how large it shall be"),
    "turn": say("Which way is up and which is front"),
    "pivot": say("Where things turn about"),
    "bake": say("Clean rotation and scale channels, take parts apart, give them another shape"),
    "place": say("To the origin and onto the ground"),
    "deliver": say("Write new files and prove them"),
}
"""Each stage's name with what it is for, in order."""

STAGES = tuple(STAGE_HELP)
STEP_STAGES = STAGES[1:-1]
"""Those whose steps change assets; at the others the batch is looked at as a whole."""


def stage_name(stage: str) -> str:
    """Return what a stage is called in the window: `Size`."""
    return {
        "receive": say("Receive"),
        "size": say("Size", "stage"),
        "turn": say("Turn", "stage"),
        "pivot": say("Pivot"),
        "bake": say("Bake"),
        "place": say("Place", "stage"),
        "deliver": say("Deliver"),
    }[stage]
