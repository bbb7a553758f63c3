"""What must hold: the form of a check, which changes nothing and fails the assets for which it does not."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QWidget

from oak_square.app.widgets.entries import LengthEdit
from oak_square.app.widgets.fields import Choices, column, labelled, section, soft
from oak_square.core.boxes import EXTENTS
from oak_square.core.frames import AXES
from oak_square.core.lengths import UNIT_WORDS, parse_length
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["CheckForm"]

_CHANNELS = ("rotation", "scale", "location")
_USUAL = ["rotation", "scale"]
_FLAGS = (
    ("grounded", say("Its bottom is at height 0"), say("Its lowest point is at height 0")),
    ("upright", say("It stands upright"), say("It does not seem to lie on its side or back")),
)


class CheckForm(QWidget):
    """Shows a check; `wished` carries another, empty where nothing is asked for."""

    wished = Signal(dict)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(
            soft(say("A check changes nothing. An asset for which it does not hold is not delivered."), self)
        )
        rows.addWidget(section(say("its size lies between"), self))
        self.ends: dict[str, tuple[LengthEdit, LengthEdit]] = {}
        for extent in EXTENTS:
            low = LengthEdit(
                say("Least {extent}", extent=term(extent)),
                say("Its {extent} is at least this", extent=term(extent)),
                self,
            )
            high = LengthEdit(
                say("Greatest {extent}", extent=term(extent)),
                say("Its {extent} is at most this", extent=term(extent)),
                self,
            )
            for end, edit in (("min", low), ("max", high)):
                edit.entered.connect(lambda text, x=extent, e=end: self._ranged(x, e, text))
            pair = QWidget(self)
            line = QHBoxLayout(pair)
            line.setContentsMargins(0, 0, 0, 0)
            line.setSpacing(4)
            line.addWidget(low)
            line.addWidget(high)
            self.ends[extent] = low, high
            rows.addWidget(labelled(extent, pair, self))
        rows.addWidget(section(say("channels of every node read 0 and 1"), self))
        channels = QWidget(self)
        line = QHBoxLayout(channels)
        line.setContentsMargins(0, 0, 0, 0)
        self.channels: dict[str, QCheckBox] = {}
        for name in _CHANNELS:
            box = QCheckBox(term(name), self)
            box.setToolTip(say("No node carries a {name}", name=term(name)))
            box.clicked.connect(lambda _=False: self._channels_changed())
            self.channels[name] = box
            line.addWidget(box)
        line.addStretch(1)
        rows.addWidget(channels)
        rows.addWidget(section("and", self))
        self.flags: dict[str, QCheckBox] = {}
        for key, word, tip in _FLAGS:
            box = QCheckBox(word, self)
            box.setToolTip(tip)
            box.clicked.connect(lambda on, k=key: self._change(k, True if on else None))
            self.flags[key] = box
            rows.addWidget(box)
        self.pivot = self._choices(
            "pivot",
            [
                ("", "any", say("The pivot may be anywhere")),
                ("base", "base", say("The pivot is the middle of its box's bottom")),
                ("middle", "middle", say("The pivot is the middle of its box")),
            ],
        )
        rows.addWidget(labelled(say("its pivot"), self.pivot, self))
        units = [("", "any", say("The file may be read in any unit"))]
        self.unit = self._choices(
            "unit", [*units, *((u, u, say("Read in {w}", w=term(w))) for u, w in UNIT_WORDS.items())], 4
        )
        rows.addWidget(section(say("the file's unit is"), self))
        rows.addWidget(self.unit)
        self.one = LengthEdit(
            say("One unit of the file"), say("How long one unit of the file is, where it is none of these"), self
        )
        self.one.entered.connect(self._one_typed)
        rows.addWidget(labelled(say("or one is"), self.one, self))
        ups = [("", "any", say("Any axis of the file may be up"))]
        self.up = self._choices(
            "up", [*ups, *((a, a.replace("-", "−"), say("The file's {a} is up", a=a)) for a in AXES)], 7
        )
        rows.addWidget(section(say("the file's up is"), self))
        rows.addWidget(self.up)
        self._words: dict[str, Any] = {}
        self._module: float | None = None

    def _choices(self, key: str, words: list[tuple[str, str, str]], per_row: int = 9) -> Choices:
        choices = Choices(words, self, per_row=per_row, tight=per_row == 7)
        choices.chosen.connect(lambda value: self._change(key, value or None))
        return choices

    def _change(self, key: str, value: Any) -> None:
        words = {k: v for k, v in self._words.items() if k != key}
        if value is not None:
            words[key] = value
        self.wished.emit({"do": "check", **words} if set(words) - {"do"} else {})

    def _ranged(self, extent: str, end: str, text: str) -> None:
        held = {k: v for k, v in self._words.get(extent, {}).items() if k != end}
        self._change(extent, {**held, **({end: text} if text else {})} or None)

    def _channels_changed(self) -> None:
        ticked = [name for name, box in self.channels.items() if box.isChecked()]
        self._change("baked", True if ticked == _USUAL else ticked or None)

    def _one_typed(self, text: str) -> None:
        self._change("unit", parse_length(text, bare=1.0, module=self._module) if text else None)

    def show_words(self, words: Mapping[str, Any], shown: ShownUnit, *, of_nodes: bool) -> None:
        """Match the form to a check, or to none; `of_nodes`, it is for parts and groups, which have no unit or up."""
        self._words, self._module = dict(words), shown.module
        for extent, edits in self.ends.items():
            held = words.get(extent) or {}
            for edit, end, hint in zip(edits, ("min", "max"), (say("at least"), say("at most")), strict=True):
                edit.show_length(str(held[end]) if end in held else "", None, shown)
                edit.setPlaceholderText(hint)
        baked = words.get("baked")
        channels = _USUAL if baked is True else baked or []
        for name, box in self.channels.items():
            box.setChecked(name in channels)
        for key, box in self.flags.items():
            box.setChecked(bool(words.get(key)))
        self.pivot.show_choice(words.get("pivot", ""))
        unit, up = words.get("unit", ""), str(words.get("up", ""))
        self.unit.show_choice(unit if isinstance(unit, str) else None)
        self.one.show_length("" if isinstance(unit, str) else f"{unit:.12g} m", None, shown)
        self.up.show_choice(up if up.startswith(("+", "-")) or not up else f"+{up}")
        for widget in (self.flags["upright"], self.unit, self.one, self.up):
            widget.setEnabled(not of_nodes)
