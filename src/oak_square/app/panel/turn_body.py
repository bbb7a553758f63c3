"""Turn: which axes of the file are up and front."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.fields import Choices, column, section, soft
from oak_square.core.frames import AXES, on_one_line
from oak_square.steps import Step

__all__ = ["TurnBody"]


class TurnBody(Body):
    """Up and front, as signed file axes."""

    stage = "turn"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self)
        shown = [(a, a.replace("-", "−"), "") for a in AXES]
        rows.addWidget(section("in the file, up is", self))
        self.up = Choices([(a, w, f"The file's {w} points up") for a, w, _ in shown], self, per_row=6)
        rows.addWidget(self.up)
        rows.addWidget(section("and the front faces", self))
        self.front = Choices([(a, w, f"The front faces the file's {w}") for a, w, _ in shown], self, per_row=6)
        rows.addWidget(self.front)
        rows.addWidget(soft("Readings are settled before all other steps, wherever they stand on the sheet.", self))
        self.up.chosen.connect(self._up_chosen)
        self.front.chosen.connect(self._front_chosen)

    def _up_chosen(self, up: str) -> None:
        front = self.front.choice
        if front is None or on_one_line(up, front):
            # What goes with it by custom: Y up faces Z, Z up faces -Y, X up faces Z.
            front = {"+Y": "+Z", "-Y": "+Z", "+Z": "-Y", "-Z": "+Y"}.get(up, "+Z")
        self.wish({"do": "turn", "up": up, "front": front})

    def _front_chosen(self, front: str) -> None:
        up = self.up.choice
        if up is None or on_one_line(up, front):
            up = "+Z" if front[1] == "Y" else "+Y"
        self.wish({"do": "turn", "up": up, "front": front})

    def show_step(self, step: Step | None) -> None:
        """Match the form to a turn step."""
        words = step.words() if step is not None and step.do == "turn" else {}
        self.up.show_choice(words.get("up"))
        self.front.show_choice(words.get("front"))
