"""Size: which unit a file was made in; an extent by its length; a factor."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QPushButton, QWidget

from oak_square.app.panel.body import Body, Pages, box_of
from oak_square.app.panel.measures_form import MeasuresForm
from oak_square.app.panel.unit_question import UnitQuestionForm
from oak_square.app.widgets.entries import LengthEdit, NumberEdit
from oak_square.app.widgets.fields import Choices, column, labelled, section, soft
from oak_square.core.boxes import EXTENTS
from oak_square.core.lengths import UNIT_WORDS
from oak_square.core.scene import Asset
from oak_square.steps import Step, as_reads

__all__ = ["SizeBody"]

# What the pages show of a step, each on a page of its own: a wish from one takes the others' away.
_DRAWN = ("do", "reads", *EXTENTS, "keep", "factor", "match", "along", "between", "length")
_ONE = {"feet": "foot", "inches": "inch"}


class SizeBody(Body):
    """The unit a file's numbers are in, or the size the thing shall have."""

    stage = "size"
    pick_wished = Signal(object)  # what to call with the name of the asset that is picked

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.pages = Pages(
            [
                ("unit", "made in", "Say which unit the file's numbers are in"),
                ("extent", "extent", "Type how wide, high or deep it shall be; the factor is found"),
                ("factor", "factor", "Size by a factor or percent"),
                ("match", "match", "Make an extent as long as another asset's"),
                ("measure", "measure", "Distances and angles taken with the Dividers; make one a known length"),
            ],
            self,
        )
        column(self).addWidget(self.pages)
        self.pages.turned.connect(lambda _: self.narrowing_changed.emit())
        self._fill_unit(self.pages.add("unit"))
        self._fill_extent(self.pages.add("extent"))
        self._fill_factor(self.pages.add("factor"))
        self._fill_match(self.pages.add("match"))
        self.measures = MeasuresForm(self)
        column(self.pages.add("measure")).addWidget(self.measures)
        self._keep = "proportions"
        self._told: dict[str, Any] = {}

    def _fill_unit(self, page: QWidget) -> None:
        rows = column(page)
        self.question = UnitQuestionForm(page)
        self.question.unit_wished.connect(lambda unit: self.wish({"do": "unit", "reads": as_reads(unit)}))
        rows.addWidget(self.question)
        rows.addWidget(section("one unit in the file is one", page))
        words = [
            (u, _ONE.get(w, w.removesuffix("s")), f"Read the file's numbers as {w}") for u, w in UNIT_WORDS.items()
        ]
        words.append(("declared", "declared", "Believe what the file says of itself"))
        words.append(("guess", "guess", "For each asset the likeliest, also in the next batch; doubts are warned of"))
        self.unit = Choices(words, page, per_row=3)
        self.unit.chosen.connect(lambda key: self.wish({"do": "unit", "reads": key}))
        rows.addWidget(self.unit)

    def _fill_extent(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("make one extent of it", page))
        self.extents: dict[str, LengthEdit] = {}
        for name in EXTENTS:
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
        rows.addWidget(
            soft("Of an asset the base middle stays, of named parts their pivots. No scale is left on nodes.", page)
        )

    def _fill_match(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section("as long as the same extent of", page))
        self.other = QComboBox(page)
        self.other.setAccessibleName("Asset to match")
        self.other.setToolTip("The asset whose extent it shall have, as it stands after its own steps before this one")
        self.other.activated.connect(lambda _: self._match())
        rows.addWidget(self.other)
        self.pick = QPushButton("Pick it in the list or the view", page)
        self.pick.setProperty("role", "small")
        self.pick.setToolTip("The next asset you click, in the list, the Bench or the line-up, is the one to match")
        self.pick.clicked.connect(lambda: self.pick_wished.emit(self.match_to))
        rows.addWidget(self.pick)
        rows.addWidget(section("along its", page))
        self.along = Choices([(e, e, f"Make the {e} as long as the other's") for e in EXTENTS], page)
        self.along.show_choice("height")
        self.along.chosen.connect(lambda _: self._match())
        rows.addWidget(self.along)
        rows.addWidget(soft("All extents follow in proportion.", page))

    def show_assets(self, assets: Sequence[tuple[str, str]]) -> None:
        """Offer assets to match, as (how a step names it, words)."""
        if [self.other.itemData(k) for k in range(1, self.other.count())] != [name for name, _ in assets]:
            present = self.other.currentData()
            self.other.clear()
            self.other.addItem("choose an asset…", None)
            for name, words in assets:
                self.other.addItem(words, name)
            self.other.setCurrentIndex(max(0, self.other.findData(present)))

    def match_to(self, name: str) -> None:
        """Match to the asset called `name`."""
        self.pages.open("match")
        self.other.setCurrentIndex(max(0, self.other.findData(name)))
        self._match()

    def _match(self) -> None:
        name = self.other.currentData()
        self.wish({} if name is None else {"do": "size", "match": name, "along": self.along.choice or "height"})

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

    @property
    def narrows(self) -> bool:
        """A unit is the file's; a measured length is the asset's that was measured."""
        return self.pages.tabs.choice in ("extent", "factor", "match")

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front."""
        self.pages.open(page)

    def told(self) -> dict[str, Any]:
        """Return what the pages show of the step that is open."""
        return dict(self._told)

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a unit or size step."""
        words = step.words() if step is not None else {}
        self._told = {k: words[k] for k in _DRAWN if k in words}
        reads = words.get("reads") if words.get("do") == "unit" else None
        self.unit.show_choice(reads if isinstance(reads, str) else None)
        box = None if asset is None else box_of(asset, self.nodes)
        for k, (name, edit) in enumerate(self.extents.items()):
            value = words.get(name, "") if words.get("do") == "size" else ""
            edit.show_length(str(value), None if box is None else float(box.size[k]), self.shown)
        factor = words.get("factor")
        self.factor.show_text("" if factor is None else f"{factor:g}" if isinstance(factor, float) else str(factor))
        self._keep = words.get("keep") or "proportions"
        if step is not None:
            ways = (("unit", "reads"), ("factor", "factor"), ("match", "match"), ("measure", "between"))
            self.pages.open_for(step, next((page for page, key in ways if key in words), "extent"))
        if "match" in words:
            self.other.setCurrentIndex(max(0, self.other.findData(words["match"])))
            self.along.show_choice(words["along"])
        self.measures.show_length(str(words.get("length", "")), self.shown)
        self.keep.show_choice(self._keep)
