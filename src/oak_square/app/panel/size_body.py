"""Size: which unit a file was made in; an extent by its length; a factor."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QWidget

from oak_square.app.panel.body import Body, Pages
from oak_square.app.panel.edits import LengthEdit, NumberEdit
from oak_square.app.panel.fields import Choices, column, labelled, section, soft
from oak_square.core.boxes import asset_box
from oak_square.core.lengths import UNIT_WORDS
from oak_square.core.scene import Asset
from oak_square.steps import Step

__all__ = ["SizeBody"]

_ONE = {"feet": "foot", "inches": "inch"}


class SizeBody(Body):
    """The unit a file's numbers are in, or the size the thing shall have."""

    stage = "size"

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.pages = Pages(
            [
                ("unit", "made in", "Say which unit the file's numbers are in"),
                ("extent", "extent", "Type how wide, high or deep it shall be; the factor is found"),
                ("factor", "factor", "Size by a factor or percent"),
            ],
            self,
        )
        column(self).addWidget(self.pages)
        self._fill_unit(self.pages.add("unit"))
        self._fill_extent(self.pages.add("extent"))
        self._fill_factor(self.pages.add("factor"))
        self._keep = "proportions"

    def _fill_unit(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("one unit in the file is one", page))
        words = [
            (u, _ONE.get(w, w.removesuffix("s")), f"Read the file's numbers as {w}") for u, w in UNIT_WORDS.items()
        ]
        words.append(("declared", "as declared", "Believe what the file says of itself"))
        self.unit = Choices(words, page, per_row=3)
        self.unit.chosen.connect(lambda key: self.wish({"do": "unit", "reads": key}))
        rows.addWidget(self.unit)
        rows.addWidget(soft("A reading changes no numbers in the file as received, only what they mean.", page))

    def _fill_extent(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("make one extent of it", page))
        self.extents: dict[str, LengthEdit] = {}
        for name in ("width", "height", "depth"):
            edit = LengthEdit(name.capitalize(), f"The {name} it shall have", page)
            edit.entered.connect(lambda text, n=name: self._sized(n, text))
            self.extents[name] = edit
            rows.addWidget(labelled(name, edit, page))
        rows.addWidget(section("and what follows", page))
        self.keep = Choices(
            [
                ("proportions", "all", "The other extents follow in proportion"),
                ("none", "nothing", "Only this extent changes"),
                ("volume", "volume kept", "The other extents give way, so that the volume stays"),
            ],
            page,
        )
        self.keep.show_choice("proportions")
        self.keep.chosen.connect(self._kept)
        rows.addWidget(self.keep)

    def _fill_factor(self, page: QWidget) -> None:
        rows = column(page)
        self.factor = NumberEdit("Factor", "How many times as large: 0.5, 50%, *2, /3", page, factor=True)
        self.factor.entered.connect(lambda v: self.wish({} if v is None else {"do": "size", "factor": v}))
        rows.addWidget(labelled("times as large", self.factor, page))
        rows.addWidget(soft("The base middle stays where it is. No scale is left on any node.", page))

    def _sized(self, name: str, text: str) -> None:
        words: dict[str, Any] = {"do": "size", name: text}
        if self._keep != "proportions":
            words["keep"] = self._keep
        self.wish(words if text else {})

    def _kept(self, key: str) -> None:
        self._keep = key
        name = next((n for n, e in self.extents.items() if e.text()), None)
        if name is not None:
            self._sized(name, self.extents[name].text())

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a unit or size step."""
        words = step.words() if step is not None else {}
        reads = words.get("reads") if words.get("do") == "unit" else None
        self.unit.show_choice(reads if isinstance(reads, str) else None)
        box = asset_box(asset) if asset is not None else None
        for k, (name, edit) in enumerate(self.extents.items()):
            value = words.get(name, "") if words.get("do") == "size" else ""
            edit.show_length(str(value), None if box is None else float(box.size[k]))
        factor = words.get("factor")
        self.factor.show_text("" if factor is None else f"{factor:g}" if isinstance(factor, float) else str(factor))
        self._keep = words.get("keep") or "proportions"
        if step is not None:
            page = "unit" if step.do == "unit" else "factor" if "factor" in words else "extent"
            self.pages.open_for(step, page)
        self.keep.show_choice(self._keep)
