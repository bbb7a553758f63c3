"""Turn: which axes of the file are up and front; or a turn by degrees."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QWidget

from oak_square.app.panel.body import Body, Pages
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column, section, soft
from oak_square.core.frames import AXES, FRONT_OF, on_one_line
from oak_square.core.scene import Asset
from oak_square.steps import Step

__all__ = ["TurnBody"]


class TurnBody(Body):
    """Up and front, as signed file axes; degrees about the delivery axes."""

    stage = "turn"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.pages = Pages(
            [
                ("reading", "up and front", "Say which axes of the file point up and to the front"),
                ("by", "degrees", "Turn by angles about a centre"),
            ],
            self,
        )
        column(self).addWidget(self.pages)
        self.pages.turned.connect(lambda _: self.narrowing_changed.emit())
        self._fill_reading(self.pages.add("reading"))
        self._fill_degrees(self.pages.add("by"))
        self._by = [0.0, 0.0, 0.0]
        self._about, self._about_other = "pivot", False

    def _fill_reading(self, page: QWidget) -> None:
        rows = column(page)
        shown = [(a, a.replace("-", "−")) for a in AXES]
        rows.addWidget(section("in the file, up is", page))
        self.up = Choices([(a, w, f"The file's {w} points up") for a, w in shown], page, per_row=6)
        rows.addWidget(self.up)
        rows.addWidget(section("and the front faces", page))
        self.front = Choices([(a, w, f"The front faces the file's {w}") for a, w in shown], page, per_row=6)
        rows.addWidget(self.front)
        rows.addWidget(soft("Readings are settled before all other steps, wherever they stand on the sheet.", page))
        self.up.chosen.connect(self._up_chosen)
        self.front.chosen.connect(self._front_chosen)

    def _fill_degrees(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("turn about x, then y, then z, in degrees", page))
        self.angles = [NumberEdit(f"Degrees about {a}", f"Degrees about {a}, right-handed", page) for a in "xyz"]
        for k, edit in enumerate(self.angles):
            edit.entered.connect(lambda value, k=k: self._turned(k, value))
        rows.addWidget(Triple(list(zip("xyz", self.angles, strict=True)), page))
        self.quarters = Choices(
            [
                ("-90", "↻ 90°", "A quarter turn to the right, seen from above"),
                ("180", "180°", "Half a turn about the upright"),
                ("90", "↺ 90°", "A quarter turn to the left, seen from above"),
            ],
            page,
        )
        self.quarters.chosen.connect(lambda key: self._turned(1, float(key)))
        rows.addWidget(self.quarters)
        rows.addWidget(section("about", page))
        self.about = Choices(
            [
                ("pivot", "its pivot", "The pivot stays in place"),
                ("base", "base", "The middle of the bottom stays in place"),
                ("middle", "middle", "The middle of its box stays in place"),
                ("origin", "origin", "0, 0, 0 stays in place"),
            ],
            page,
        )
        self.about.show_choice("pivot")
        self.about.chosen.connect(self._about_chosen)
        rows.addWidget(self.about)

    def _turned(self, axis: int, value: float | None) -> None:
        self._by[axis] = value or 0.0
        self._wish_degrees()

    def _about_chosen(self, key: str) -> None:
        self._about, self._about_other = key, False
        if any(self._by):
            self._wish_degrees()

    def _wish_degrees(self) -> None:
        self.wish(self._degrees() if any(self._by) else {})

    def _degrees(self) -> dict[str, Any]:
        words: dict[str, Any] = {"do": "turn", "by": list(self._by)}
        if self._about != "pivot" and not self._about_other:
            words["about"] = self._about
        return words

    @property
    def narrows(self) -> bool:
        """Up and front are the file's."""
        return self.pages.tabs.choice == "by"

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front."""
        self.pages.open(page)

    def told(self) -> dict[str, Any]:
        """Return the reading or the degrees of the step that is open; a centre that has no button is left out."""
        if any(self._by):
            return self._degrees()
        up, front = self.up.choice, self.front.choice
        return {k: v for k, v in (("do", "turn"), ("up", up), ("front", front)) if v is not None}

    def _up_chosen(self, up: str) -> None:
        front = self.front.choice
        if front is None or on_one_line(up, front):
            front = FRONT_OF[up]
        self.wish({"do": "turn", "up": up, "front": front})

    def _front_chosen(self, front: str) -> None:
        up = self.up.choice
        if up is None or on_one_line(up, front):
            up = "+Z" if front[1] == "Y" else "+Y"
        self.wish({"do": "turn", "up": up, "front": front})

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a turn step."""
        words = step.words() if step is not None else {}
        self.up.show_choice(words.get("up"))
        self.front.show_choice(words.get("front"))
        self._by = [float(v) for v in words.get("by", (0.0, 0.0, 0.0))]
        about = words.get("about", "pivot")
        self._about_other = not isinstance(about, str) or about not in self.about.buttons
        self._about = "pivot" if self._about_other else about
        for edit, value in zip(self.angles, self._by, strict=True):
            edit.show_text(f"{value:g}" if value else "")
        only_y = not (self._by[0] or self._by[2])
        self.quarters.show_choice(f"{self._by[1]:g}" if only_y else None)
        self.about.show_choice(None if self._about_other else self._about)
        if step is not None:
            self.pages.open_for(step, "by" if "by" in words else "reading")
