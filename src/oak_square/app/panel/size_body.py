"""Size: which unit a file was made in; extents by their lengths; factors; to match, or as measured."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from oak_square.app.panel.body import Body
from oak_square.app.panel.common_factor import axis_along, factor_keeping
from oak_square.app.panel.folder_form import FolderForm
from oak_square.app.panel.frame_rows import AlongRow, CentreRow, centre_said
from oak_square.app.panel.measures_form import MeasuresForm
from oak_square.app.panel.point_row import PointRow
from oak_square.app.panel.unit_question import UnitQuestionForm
from oak_square.app.widgets.entries import LengthEdit, NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, Fold, column, labelled, push_button, section, soft
from oak_square.app.widgets.pages import Pages
from oak_square.core.boxes import EXTENTS
from oak_square.core.lengths import UNIT_WORDS, parse_length
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import capital, say
from oak_square.steps.edited import own_words
from oak_square.steps.naming import as_reads
from oak_square.steps.step import Step

__all__ = ["SizeBody"]

_ONE = {"feet": "foot", "inches": "inch"}
_WHOLE = ("longest", "diagonal")
_SIDES = {
    "longest": (say("longest side"), say("The length of the longest of the three")),
    "diagonal": ("diagonal", say("The length from one corner of its box to the opposite one")),
}
_FRAME = ("along", "about")


class SizeBody(Body):
    """The unit a file's numbers are in, or the size the thing shall have."""

    stage = "size"
    by_hand = ("unit", "size")
    pick_wished = Signal(object)  # what to call with the name of the asset that is picked

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.pages = Pages(
            [
                ("unit", say("made in"), say("Say which unit the file's numbers are in")),
                ("extent", "extent", say("Type how wide, high or deep it shall be; the factor is found")),
                ("factor", "factor", say("Size by a factor or percent")),
                ("match", "match", say("Make an extent as long as another asset's")),
                ("measure", "measure", say("Distances and angles taken with the Dividers; make one a known length")),
            ],
            self,
        )
        rows = column(self)
        rows.addWidget(self.pages)
        self.pages.turned.connect(lambda _: self._show_page())
        self.pages.turned.connect(lambda _: self.narrowing_changed.emit())
        self._fill_unit(self.pages.add("unit"))
        self._fill_extent(self.pages.add("extent"))
        self._fill_factor(self.pages.add("factor"))
        self._fill_match(self.pages.add("match"))
        self.measures = MeasuresForm(self)
        self._fill_measure(self.pages.add("measure"))
        self._fill_frame(rows)
        self._keep = "proportions"
        self._lengths: dict[str, str] = {}
        self._last = ("height", "")  # what was typed last
        self._factors = ["", "", ""]
        self._between: list[Any] = [None, None]
        self._span = ""
        self._told: dict[str, Any] = {}

    def _fill_frame(self, above: QVBoxLayout) -> None:
        """Make what every way of sizing has: what stays in place, and along which axes extents and factors are."""
        self.frame = Fold("", say("What stays in place, and along which axes extents and factors are taken"), self)
        above.addWidget(self.frame)
        rows = column(self.frame.inner, 6)
        self.about = CentreRow(self.frame.inner, tip=say("Pick what stays in place: a corner, a circle, a pivot"))
        self.about.chosen.connect(lambda _: self._change_centre_or_axes("about"))
        asks = say("Centre: click what stays in place")
        self.about.pick_wished.connect(self.asking(asks, self.about.choose, elsewhere=True))
        rows.addWidget(self.about)
        self.axes = AlongRow(self.frame.inner)
        self.axes.chosen.connect(lambda _: self._change_centre_or_axes("along"))
        rows.addWidget(self.axes)
        self._about: Any = None

    def _fill_unit(self, page: QWidget) -> None:
        rows = column(page)
        self.folder = FolderForm(page)
        rows.addWidget(self.folder)
        self.question = UnitQuestionForm(page)
        self.question.unit_wished.connect(lambda unit: self.wish({"do": "unit", "reads": as_reads(unit)}))
        rows.addWidget(self.question)
        rows.addWidget(section(say("one unit in the file is one"), page))
        words = [
            (u, _ONE.get(w, w.removesuffix("s")), say("Read the file's numbers as {w}", w=term(w)))
            for u, w in UNIT_WORDS.items()
        ]
        words.append(("declared", "declared", say("Believe what the file says of itself")))
        words.append(
            ("guess", "guess", say("For each asset the likeliest, also in the next batch; doubts are warned of"))
        )
        self.unit = Choices(words, page, per_row=3)
        self.unit.chosen.connect(lambda key: self.wish({"do": "unit", "reads": key}))
        rows.addWidget(self.unit)
        self.one = LengthEdit(say("One unit is"), say("How long one unit of the file's numbers is: 25.4 mm"), page)
        self.one.entered.connect(self._one_typed)
        rows.addWidget(labelled(say("or one is"), self.one, page))

    def _fill_extent(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section(say("make it"), page))
        self.extents: dict[str, LengthEdit] = {}
        for name in (*EXTENTS, *_WHOLE):
            word, tip = _SIDES.get(name, (name, say("The {name} it shall have", name=term(name))))
            edit = LengthEdit(capital(term(word)), tip, page)
            edit.entered.connect(lambda text, n=name: self._size_by_length(n, text))
            self.extents[name] = edit
            rows.addWidget(labelled(word, edit, page))
        rows.addWidget(section(say("and what follows"), page))
        self.keep = Choices(
            [
                ("proportions", say("all", "extents"), say("The other extents follow in proportion")),
                ("none", say("nothing", "follows"), say("Only this extent changes")),
                ("volume", say("volume kept"), say("The other extents give way, so that the volume stays")),
            ],
            page,
        )
        self.keep.show_choice("proportions")
        self.keep.chosen.connect(self._choose_keep)
        rows.addWidget(self.keep)
        self.whose = Choices(
            [
                ("each", say("each"), say("Each of them gets this length")),
                (
                    "together",
                    say("together"),
                    say("All of them are sized by the one factor that makes the whole so long"),
                ),
            ],
            page,
        )
        self.whose.show_choice("each")
        self.whose.chosen.connect(lambda _: self._size_by_length(*self._last) if self._last[1] else None)
        rows.addWidget(self.whose)

    def _fill_factor(self, page: QWidget) -> None:
        rows = column(page)
        self.factor = NumberEdit(say("Factor"), say("How many times as large: 0.5, 50%, *2, /3"), page, factor=True)
        self.factor.entered.connect(lambda v: self._size_by_factors({} if v is None else {"factor": v}))
        rows.addWidget(labelled(say("times as large"), self.factor, page))
        rows.addWidget(section(say("or along each axis by itself"), page))
        self.factors = [
            NumberEdit(say("Factor along {a}", a=a), say("How many times as large along {a}", a=a), page, factor=True)
            for a in "xyz"
        ]
        for k, edit in enumerate(self.factors):
            edit.entered.connect(lambda v, k=k: self._factor_typed(k, v))
        rows.addWidget(Triple(list(zip("xyz", self.factors, strict=True)), page))
        rows.addWidget(soft(say("It goes into the geometry, not into scales."), page))

    def _fill_match(self, page: QWidget) -> None:
        rows = column(page)
        rows.addWidget(section(say("as long as the same extent of"), page))
        self.other = QComboBox(page)
        self.other.setAccessibleName(say("Asset to match"))
        self.other.setToolTip(
            say("The asset whose extent it shall have, as it stands after its own steps before this one")
        )
        self.other.activated.connect(lambda _: self._wish_for_match())
        rows.addWidget(self.other)
        self.pick = push_button(
            say("Pick it in the list or the view"),
            say("The next asset you click, in the list, the Bench or the line-up, is the one to match"),
            page,
        )
        self.pick.clicked.connect(lambda: self.pick_wished.emit(self.match_to))
        rows.addWidget(self.pick)
        rows.addWidget(section(say("along its"), page))
        self.along = Choices([(e, e, say("Make the {e} as long as the other's", e=term(e))) for e in EXTENTS], page)
        self.along.show_choice("height")
        self.along.chosen.connect(lambda _: self._wish_for_match())
        rows.addWidget(self.along)
        rows.addWidget(soft(say("All extents follow in proportion."), page))

    def show_assets(self, assets: Sequence[tuple[str, str]]) -> None:
        """Offer assets to match, as (how a step names it, words)."""
        if [self.other.itemData(k) for k in range(1, self.other.count())] != [name for name, _ in assets]:
            present = self.other.currentData()
            self.other.clear()
            self.other.addItem(say("choose an asset…"), None)
            for name, words in assets:
                self.other.addItem(words, name)
            self.other.setCurrentIndex(max(0, self.other.findData(present)))

    def match_to(self, name: str) -> None:
        """Match to the asset called `name`."""
        self.pages.open("match")
        self.other.setCurrentIndex(max(0, self.other.findData(name)))
        self._wish_for_match()

    def _wish_for_match(self) -> None:
        name = self.other.currentData()
        words = {
            "do": "size",
            "match": name,
            "along": self.along.choice or "height",
            **self._add_frame_words(axes=False),
        }
        self.wish({} if name is None else words)

    def _fill_measure(self, page: QWidget) -> None:
        rows = column(page, 6)
        rows.addWidget(self.measures)
        rows.addWidget(section(say("or the distance of two picks, found on each asset"), page))
        self.ends: list[PointRow] = []
        for k, word in enumerate((say("from a pick"), say("to a pick"))):
            row = PointRow(say("Pick a corner, an edge, a face or a circle in the view"), ("mark",), page, word=word)
            row.pick_wished.connect(
                self.asking(
                    (say("Measured length: click its start"), say("Measured length: click its end"))[k],
                    self._make_taker(k),
                )
            )
            row.chosen.connect(self._make_taker(k))
            self.ends.append(row)
            rows.addWidget(row)
        self.length = LengthEdit(
            say("Distance"), say("How far apart the two picks shall be; all is sized with it"), page
        )
        self.length.entered.connect(self._span_typed)
        rows.addWidget(labelled(say("shall be"), self.length, page))

    def _make_taker(self, k: int) -> Any:
        return lambda at: self._end_taken(k, at)

    def _end_taken(self, k: int, at: Mapping[str, Any]) -> None:
        self._between[k] = list(at["xyz"]) if "xyz" in at else dict(at)
        self.ends[k].show_names(self.names, self._between[k])
        self._wish_for_span()

    def _span_typed(self, text: str) -> None:
        self._span = text
        self._wish_for_span()

    def _wish_for_span(self) -> None:
        """Wish for the two picks to be so far apart, once all three are there."""
        if all(p is not None for p in self._between) and self._span:
            words = {"do": "size", "between": list(self._between), "length": self._span}
            self.wish({**words, **self._add_frame_words(axes=False)})
        elif "between" in self._told:
            self.wish({})

    def _one_typed(self, text: str) -> None:
        self.wish({"do": "unit", "reads": parse_length(text, bare=1.0, module=self.shown.module)} if text else {})

    def _add_frame_words(self, *, axes: bool) -> dict[str, Any]:
        """Return what stays in place and, where they are asked for, the axes, as a step says them."""
        about = {} if self._about is None else {"about": self._about}
        return {**(self.axes.told() if axes else {}), **about}

    def _change_centre_or_axes(self, key: str) -> None:
        """Another centre, or other axes: of the step that is open, else of the next one."""
        if key == "about":
            self._about = self.about.centre
        self._say_frame()
        self._show_lengths(self._told, self.lead_asset)
        if self._told.get("do") == "size" and set(self._told) - {"do", *_FRAME}:
            axes = "match" not in self._told and "between" not in self._told
            kept = {k: v for k, v in self._told.items() if k not in _FRAME or (k == "along" and not axes)}
            self.wish({**kept, **self._add_frame_words(axes=axes)})

    def _say_frame(self) -> None:
        usual = "base" if self.nodes is None else "pivot"
        self.about.show_centre(self._about or usual, self.names, of_nodes=self.nodes is not None)
        along = self.axes.along
        words = {"world": say("the world's axes"), "own": say("its own axes"), "parent": say("its parent's axes")}
        axes = words[along] if isinstance(along, str) else say("datum {name}", name=along["datum"])
        self.frame.say(say("{centre} stays, along {axes}", centre=centre_said(self._about or usual), axes=axes))

    def _size_by_length(self, name: str, text: str) -> None:
        self._last = name, text
        if name in _WHOLE:
            self._lengths = {name: text} if text else {}
        else:
            left = {n: v for n, v in self._lengths.items() if n in EXTENTS and n != name}
            self._lengths = {n: v for n in EXTENTS if (v := text if n == name else left.get(n, ""))}
        self._wish_lengths()

    def _wish_lengths(self) -> None:
        if not self._lengths:
            self.wish({})
            return
        factor = self._find_common_factor()
        if factor is not None:
            self._size_by_factors({"factor": factor})
            return
        one = len(self._lengths) == 1 and not set(_WHOLE) & set(self._lengths)
        keep = {"keep": self._keep} if one and self._keep != "proportions" else {}
        whole = bool(set(_WHOLE) & set(self._lengths))
        self.wish({"do": "size", **self._lengths, **keep, **self._add_frame_words(axes=not whole)})

    def _find_common_factor(self) -> float | list[float] | None:
        """Return the one factor of all that is sized, where several are and not each gets a length of its own."""
        if not self.several or len(self._lengths) != 1:
            return None
        ((name, text),) = self._lengths.items()
        factor = self.extents[name].factor_for(text, together=self.whose.choice == "together")
        if factor is None or name in _WHOLE:
            return factor
        axes, sides = self.axes_and_sides(self.lead_asset, self.axes.along)
        return factor_keeping(factor, self._keep, axis_along(axes, sides[:, EXTENTS.index(name)]))

    def _size_by_factors(self, words: Mapping[str, Any]) -> None:
        self.wish({"do": "size", **words, **self._add_frame_words(axes=True)} if words else {})

    def _factor_typed(self, axis: int, value: float | None) -> None:
        self._factors[axis] = "" if value is None else repr(value)
        given = [float(v) if v else 1.0 for v in self._factors]
        self._size_by_factors({"factor": given} if any(self._factors) else {})

    def _choose_keep(self, key: str) -> None:
        self._keep = key
        if len(self._lengths) == 1:
            self._wish_lengths()

    @property
    def narrows(self) -> bool:
        """A unit is the file's; a measured length is the asset's that was measured."""
        return self.pages.tabs.choice in ("extent", "factor", "match")

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front."""
        self.pages.open(page)

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a unit or size step."""
        had, words = bool(self._told), step.words() if step is not None else {}
        self._told = own_words(words)
        self.keep_asset(asset)
        self._show_unit(words)
        factor = words.get("factor")
        each = factor if isinstance(factor, list | tuple) else None
        self.factor.show_text("" if factor is None or each is not None else f"{factor:g}")
        self._factors = ["", "", ""] if each is None else [repr(float(v)) if v != 1 else "" for v in each]
        for edit, text in zip(self.factors, self._factors, strict=True):
            edit.show_text(f"{float(text):g}" if text else "")
        if "match" in words:
            self.other.setCurrentIndex(max(0, self.other.findData(words["match"])))
            self.along.show_choice(words["along"])
        self._show_span(words)
        along = self.axes.along
        if words or had:
            # What was chosen before there is a step stays chosen for it.
            self._about = words.get("about")
            along = words.get("along", "world") if "match" not in words else "world"
        self.axes.show_along(along, self.names, of_nodes=self.nodes is not None, own=False)
        self._show_lengths(words, asset)
        self._say_frame()
        typed = any(edit.hasFocus() and edit.isModified() for edit in self.extents.values())
        self.whose.setVisible(self.several and not self.axes.isHidden())
        if step is not None and not typed:
            ways = (("unit", "reads"), ("factor", "factor"), ("match", "match"), ("measure", "between"))
            self.pages.open_for(step, next((page for page, key in ways if key in words), "extent"))
        self._show_page()

    def _show_page(self) -> None:
        page = self.pages.tabs.choice
        self.frame.setVisible(page != "unit")
        self.axes.setVisible(page in ("extent", "factor"))

    def _show_unit(self, words: Mapping[str, Any]) -> None:
        reads = words.get("reads") if words.get("do") == "unit" else None
        self.unit.show_choice(reads if isinstance(reads, str) else None)
        self.one.show_length("" if isinstance(reads, str) or reads is None else f"{reads:.12g} m", None, self.shown)

    def _show_lengths(self, words: Mapping[str, Any], asset: Asset | None) -> None:
        is_size = words.get("do") == "size"
        self._lengths = {n: str(words[n]) for n in (*EXTENTS, *_WHOLE) if is_size and n in words}
        for (name, edit), present in zip(self.extents.items(), self._measure_extents(asset), strict=True):
            edit.show_length(self._lengths.get(name, ""), present, self.shown)
        several = len(self._lengths) > 1
        self._keep = words.get("keep") or "proportions"
        self.keep.show_choice("none" if several else self._keep)
        for key, word in (("proportions", say("all", "extents")), ("volume", say("volume kept"))):
            self.keep.show_word(key, word, enabled=not several)

    def _measure_extents(self, asset: Asset | None) -> Sequence[float | None]:
        """Return width, height and depth along the axes in force; the longest and the diagonal along the world's."""
        plain = self.find_box(asset)
        along = plain if self.axes.along == "world" else self.find_box(asset, self.axes.along)
        if plain is None or along is None:
            return [None] * 5
        return [*along.size.tolist(), float(plain.size.max()), plain.diagonal]

    def _show_span(self, words: Mapping[str, Any]) -> None:
        if "between" in words:
            self._between, self._span = list(words["between"]), str(words["length"])
        elif words:
            self._between, self._span = [None, None], ""
        for row, end in zip(self.ends, self._between, strict=True):
            row.show_names(self.names, end)
        self.measures.show_length(self._span if "between" in words else "", self.shown)
        self.length.show_length(self._span, None, self.shown)
