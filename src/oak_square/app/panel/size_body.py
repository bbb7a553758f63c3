"""Size: which unit a file was made in."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.fields import Choices, column, section, soft
from oak_square.core.lengths import UNIT_WORDS
from oak_square.steps import Step

__all__ = ["SizeBody"]


class SizeBody(Body):
    """The unit a file's numbers are in."""

    stage = "size"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        rows.addWidget(section("one unit in the file is one", self))
        words = [(u, w.removesuffix("s"), f"Read the file's numbers as {w}") for u, w in UNIT_WORDS.items()]
        words = [(u, {"feet": "foot", "inche": "inch"}.get(w, w), tip) for u, w, tip in words]
        words.append(("declared", "as declared", "Believe what the file says of itself"))
        self.unit = Choices(words, self, per_row=3)
        self.unit.chosen.connect(lambda key: self.wish({"do": "unit", "reads": key}))
        rows.addWidget(self.unit)
        rows.addWidget(soft("A reading changes no numbers in the file as received, only what they mean.", self))

    def show_step(self, step: Step | None) -> None:
        """Match the form to a unit step."""
        words = step.words() if step is not None and step.do == "unit" else {}
        self.unit.show_choice(words.get("reads") if isinstance(words.get("reads"), str) else None)
