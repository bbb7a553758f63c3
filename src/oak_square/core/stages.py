"""The seven stages, in the order the work is done: written here once."""

from __future__ import annotations

__all__ = ["STAGES", "STAGE_HELP", "STEP_STAGES"]

STAGE_HELP = {
    "receive": "What came in, and what is not true of it",
    "size": "Which unit a file was made in, and how large it shall be",
    "turn": "Which way is up and which is front",
    "pivot": "Where things turn about",
    "bake": "Clean rotation and scale channels, take parts apart, give them another shape",
    "place": "To the origin and onto the ground",
    "deliver": "Write new files and prove them",
}
"""Each stage's name with what it is for, in order."""

STAGES = tuple(STAGE_HELP)
STEP_STAGES = STAGES[1:-1]
"""Those whose steps change assets; at the others the batch is looked at as a whole."""
