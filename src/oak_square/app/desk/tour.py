"""What the tour says: five steps from what came in to files that are proved."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtWidgets import QWidget

from oak_square.app.desk.opening_desk import TourStep
from oak_square.app.widgets.actions import key_hint
from oak_square.core.words import say

__all__ = ["tour_steps"]


class Shown(Protocol):
    """The parts of the window that the tour speaks of."""

    @property
    def batch(self) -> QWidget: ...
    @property
    def views(self) -> QWidget: ...
    @property
    def panel(self) -> QWidget: ...
    @property
    def strip(self) -> QWidget: ...


def tour_steps(window: Shown) -> tuple[TourStep, ...]:
    """Return the steps, each with the part of the window that it speaks of."""
    return (
        TourStep(
            stage="receive",
            view="bench",
            target=window.batch,
            title=say("What came in"),
            text=say(
                "Every model of the batch, with its real size and a mark for each stage that has something to settle. "
                "At the right stands what is not true of them, gravest first, "
                "and why that matters. Click a model to see "
                "it on the Bench; drag with the right button to look around it."
            ),
        ),
        TourStep(
            stage="size",
            view="line-up",
            target=window.views,
            title=say("Is it as large as it should be?"),
            text=say(
                "The Line-up sets the whole batch side by side at true scale, beside a person and a staff. Most "
                "files don't say their unit; what is certain is settled with "
                "one click at the right. Click a model that "
                "is wrong and choose its unit."
            ),
        ),
        TourStep(
            stage="bake",
            of="scale-unbaked",
            view="bench",
            target=window.panel,
            title=say("Try it, see it, keep it"),
            text=say(
                "Press Bake rotation and scale: nothing is changed yet, you see before → after and what it would "
                "bring about. Enter keeps it as a step, Esc drops it. Undo{key} takes anything back.",
                key=key_hint("undo"),
            ),
        ),
        TourStep(
            stage="pivot",
            view="bench",
            target=window.strip,
            title=say("The prep sheet"),
            text=say(
                "What you keep becomes a card here, in order. Click a card to see the batch as it stood after it and "
                "to change it; drag it elsewhere. Saved, the sheet does the "
                "same to tomorrow's batch, from here or from "
                "the command line."
            ),
        ),
        TourStep(
            stage="deliver",
            view="bench",
            target=window.panel,
            title=say("Deliver, and prove it"),
            text=say(
                "New files are written, opened again and held against what they should be; the ones that came in are "
                "never touched. Look first says what would happen without "
                "writing. That is all: the finder{key} has everything "
                "else.",
                key=key_hint("finder"),
            ),
        ),
    )
