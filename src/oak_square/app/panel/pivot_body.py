"""Pivot: where assets and parts turn about."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.fields import Choices, column, section, soft
from oak_square.steps import Step

__all__ = ["PivotBody"]


class PivotBody(Body):
    """To the base: of the asset, or of each part."""

    stage = "pivot"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section("to the middle of the bottom, of", self))
        self.target = Choices(
            [
                ("asset", "the asset", "The whole asset moves so that its base middle is the file origin"),
                ("parts", "each part", "Each part turns about its own base middle; nothing moves in the world"),
            ],
            self,
        )
        self.target.chosen.connect(lambda key: self.wish({"do": "pivot", "at": "base", "of": key}))
        rows.addWidget(self.target)
        rows.addWidget(soft("Of parts: geometry stays where it is. Of the asset: all of it moves to the origin.", self))

    def show_step(self, step: Step | None) -> None:
        """Match the form to a pivot step."""
        is_pivot = step is not None and step.do == "pivot"
        self.target.show_choice(getattr(step, "target", None) if is_pivot else None)
