"""A control for each kind of field that a step can have: shows what a sheet says there, tells of what is entered."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLineEdit, QWidget
from ruamel.yaml import YAML
from ruamel.yaml.error import YAMLError

from oak_square.app.panel.frame_rows import AlongRow, CentreRow
from oak_square.app.widgets.entries import LengthEdit, NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column
from oak_square.core.lengths import UNIT_WORDS, parse_length
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import say
from oak_square.steps.form_hints import FormField, FormHint

__all__ = ["UNSAID", "FieldEditor", "FormContext", "editor_of"]

UNSAID: Any = object()
"""The value of a field of which a step says nothing; None is what it says itself."""
_MANY_LETTERS = 30  # of all choices: more do not fit one row
_PER_ROW = 4
_MOST_TIGHT = 7  # choices of a sign and a letter, such as axes, stand close in one row


@dataclass(frozen=True, slots=True, kw_only=True)
class FormContext:
    """What a form is shown in: the unit of lengths, names by kind, the lead asset's nodes, whether for nodes."""

    shown: ShownUnit
    names: Mapping[str, Sequence[str]]
    nodes: Sequence[str]
    of_nodes: bool


class FieldEditor(QWidget):
    """Shows one field's value; `changed` carries another, as a sheet would say it, or `UNSAID`."""

    changed = Signal(object)
    pick_wished = Signal()

    def __init__(self, field: FormField, parent: QWidget) -> None:
        super().__init__(parent)
        self.hint: FormHint = field.hint
        self.line = QHBoxLayout(self)
        self.line.setContentsMargins(0, 0, 0, 0)
        self.line.setSpacing(4)
        self.fill()

    def fill(self) -> None:
        """Make the controls."""
        raise TypeError("each kind of editor makes its own controls")

    def show_value(self, value: Any, context: FormContext) -> None:
        """Match the controls to a value; sends nothing."""
        raise TypeError("each kind of editor shows its own values")

    def take(self, value: Any) -> None:
        """Take what was picked in the view."""
        self.changed.emit(value)


class _FlagEditor(FieldEditor):
    def fill(self) -> None:
        self.box = QCheckBox(self.hint.word, self)
        self.box.setToolTip(self.hint.tip)
        self.box.clicked.connect(lambda on: self.changed.emit(True if on else UNSAID))
        self.line.addWidget(self.box)
        self.line.addStretch(1)

    def show_value(self, value: Any, context: FormContext) -> None:
        self.box.setChecked(value is True)


class _ChoiceEditor(FieldEditor):
    def fill(self) -> None:
        words = self.hint.choices
        letters = sum(len(word) + 3 for _, word, _ in words)
        tight = len(words) > _PER_ROW and max(len(word) for _, word, _ in words[1:]) <= 2
        per_row = _MOST_TIGHT if tight else len(words) if letters <= _MANY_LETTERS else _PER_ROW
        self.choices = Choices(words, self, per_row=per_row, tight=tight)
        self.choices.chosen.connect(self._choose_value)
        self.line.addWidget(self.choices)
        self._value = ""

    def _choose_value(self, value: str) -> None:
        # What holds already is taken back, where there is no choice that says so.
        again = value == self._value and all(key for key, _, _ in self.hint.choices)
        self.changed.emit(UNSAID if again or not value else value)

    def show_value(self, value: Any, context: FormContext) -> None:
        self._value = "" if value is UNSAID else str(value)
        # Of axes a sheet may leave the plus out.
        known = {key for key, _, _ in self.hint.choices}
        self._value = f"+{self._value}" if f"+{self._value}" in known else self._value
        self.choices.show_choice(self._value)


class _TicksEditor(FieldEditor):
    def fill(self) -> None:
        self.boxes: dict[str, QCheckBox] = {}
        for value, word, tip in self.hint.choices:
            box = self.boxes[value] = QCheckBox(word, self)
            box.setToolTip(tip)
            box.clicked.connect(lambda _=False: self._take_ticks())
            self.line.addWidget(box)
        self.line.addStretch(1)

    def _take_ticks(self) -> None:
        ticked = [value for value, box in self.boxes.items() if box.isChecked()]
        usual = ticked and ticked == list(self.hint.usual)
        self.changed.emit(True if usual else ticked or UNSAID)

    def show_value(self, value: Any, context: FormContext) -> None:
        ticked = self.hint.usual if value is True else () if value is UNSAID or value is None else value
        for key, box in self.boxes.items():
            box.setChecked(key in ticked)


class _LengthEditor(FieldEditor):
    def fill(self) -> None:
        self.edit = LengthEdit(self.hint.word, self.hint.tip, self)
        self.edit.entered.connect(lambda text: self.changed.emit(text or UNSAID))
        self.line.addWidget(self.edit)

    def show_value(self, value: Any, context: FormContext) -> None:
        self.edit.show_length("" if value is UNSAID else str(value), None, context.shown)


class _LengthsEditor(FieldEditor):
    def fill(self) -> None:
        self._texts = ["", "", ""]
        self.edits = [LengthEdit(say("{word} {a}", word=self.hint.word, a=a), self.hint.tip, self) for a in "xyz"]
        for k, edit in enumerate(self.edits):
            edit.entered.connect(lambda text, k=k: self._take_coordinate(k, text))
        self.line.addWidget(Triple(list(zip("xyz", self.edits, strict=True)), self))

    def _take_coordinate(self, axis: int, text: str) -> None:
        self._texts[axis] = text
        self.changed.emit([t or 0 for t in self._texts] if any(self._texts) else UNSAID)

    def show_value(self, value: Any, context: FormContext) -> None:
        self._texts = ["", "", ""] if value is UNSAID else [str(v) if v else "" for v in value]
        for edit, text in zip(self.edits, self._texts, strict=True):
            edit.show_length(text, None, context.shown)


class _RangeEditor(FieldEditor):
    def fill(self) -> None:
        word = self.hint.word
        self.low = LengthEdit(
            say("Least {extent}", extent=word), say("Its {extent} is at least this", extent=word), self
        )
        self.high = LengthEdit(
            say("Greatest {extent}", extent=word), say("Its {extent} is at most this", extent=word), self
        )
        self._held: dict[str, Any] = {}
        for end, edit in (("min", self.low), ("max", self.high)):
            edit.entered.connect(lambda text, e=end: self._take_end(e, text))
            self.line.addWidget(edit)

    def _take_end(self, end: str, text: str) -> None:
        self._held = {k: v for k, v in self._held.items() if k != end} | ({end: text} if text else {})
        self.changed.emit(dict(self._held) or UNSAID)

    def show_value(self, value: Any, context: FormContext) -> None:
        self._held = {} if value is UNSAID else dict(value)
        for edit, end, hint in ((self.low, "min", say("at least")), (self.high, "max", say("at most"))):
            edit.show_length(str(self._held.get(end, "")), None, context.shown)
            edit.setPlaceholderText(hint)


class _NumberEditor(FieldEditor):
    def fill(self) -> None:
        self.edit = NumberEdit(self.hint.word, self.hint.tip, self, factor=self.hint.kind == "factor")
        self.edit.entered.connect(lambda value: self.changed.emit(UNSAID if value is None else value))
        self.line.addWidget(self.edit)

    def show_value(self, value: Any, context: FormContext) -> None:
        self.edit.show_text("" if value is UNSAID else f"{value:g}")


class _DegreesEditor(FieldEditor):
    def fill(self) -> None:
        self._angles: list[float] = [0.0, 0.0, 0.0]
        self.edits = [NumberEdit(say("Degrees about {a}", a=a), self.hint.tip, self) for a in "xyz"]
        for k, edit in enumerate(self.edits):
            edit.entered.connect(lambda value, k=k: self._take_angle(k, value))
        self.line.addWidget(Triple(list(zip("xyz", self.edits, strict=True)), self))

    def _take_angle(self, axis: int, value: float | None) -> None:
        self._angles[axis] = value or 0.0
        self.changed.emit(list(self._angles) if any(self._angles) else UNSAID)

    def show_value(self, value: Any, context: FormContext) -> None:
        self._angles = [0.0, 0.0, 0.0] if value is UNSAID else [float(v) for v in value]
        for edit, angle in zip(self.edits, self._angles, strict=True):
            edit.show_text(f"{angle:g}" if angle else "")


class _AlongEditor(FieldEditor):
    def fill(self) -> None:
        self.row = AlongRow(self, word="")
        self.row.chosen.connect(lambda along: self.changed.emit(UNSAID if along == "world" else along))
        self.line.addWidget(self.row)

    def show_value(self, value: Any, context: FormContext) -> None:
        self.row.show_along("world" if value is UNSAID else value, context.names, of_nodes=context.of_nodes)


class _CentreEditor(FieldEditor):
    def fill(self) -> None:
        self.row = CentreRow(self, tip=self.hint.tip)
        self.row.chosen.connect(self.changed)
        self.row.pick_wished.connect(self.pick_wished)
        self.line.addWidget(self.row)

    def show_value(self, value: Any, context: FormContext) -> None:
        self.row.show_centre("pivot" if value is UNSAID else value, context.names, of_nodes=context.of_nodes)

    def take(self, value: Any) -> None:
        self.row.choose(value)


class _UnitEditor(FieldEditor):
    def fill(self) -> None:
        inner = QWidget(self)
        rows = column(inner, 4)
        choices = [*self.hint.choices, *((u, u, say("Read in {w}", w=term(w))) for u, w in UNIT_WORDS.items())]
        self.choices = Choices(choices, inner, per_row=_PER_ROW)
        self.choices.chosen.connect(lambda unit: self.changed.emit(unit or UNSAID))
        rows.addWidget(self.choices)
        tip = say("How long one unit of the file is, where it is none of these")
        self.one = LengthEdit(say("One unit of the file"), tip, inner)
        self.one.entered.connect(self._take_unit)
        rows.addWidget(self.one)
        self.line.addWidget(inner)
        self._module: float | None = None

    def _take_unit(self, text: str) -> None:
        self.changed.emit(parse_length(text, bare=1.0, module=self._module) if text else UNSAID)

    def show_value(self, value: Any, context: FormContext) -> None:
        self._module = context.shown.module
        unit = "" if value is UNSAID else value
        self.choices.show_choice(unit if isinstance(unit, str) else None)
        self.one.show_length("" if isinstance(unit, str) else f"{unit:.12g} m", None, context.shown)
        self.one.setPlaceholderText(say("or one is"))


class _NameEditor(FieldEditor):
    """One of the assets of the batch, or of the nodes of the lead one."""

    def fill(self) -> None:
        self.box = QComboBox(self)
        self.box.setAccessibleName(self.hint.word)
        self.box.setToolTip(self.hint.tip)
        self.box.activated.connect(lambda k: self.changed.emit(self.box.itemData(k)[0]))
        self.line.addWidget(self.box)

    def show_value(self, value: Any, context: FormContext) -> None:
        is_node = self.hint.kind == "node"
        first = say("choose a node…") if is_node else say("choose an asset…")
        offered: list[tuple[str, Any]] = [(first, UNSAID)]
        offered += [(say("(none)"), None)] if is_node else []
        names = context.nodes if is_node else context.names.get("asset", ())
        offered += [(name, name) for name in names]
        if isinstance(value, str) and value not in names:
            offered.append((value, value))
        with QSignalBlocker(self.box):
            self.box.clear()
            for words, name in offered:
                self.box.addItem(words, (name,))  # boxed: Qt knows no other way to keep None
            self.box.setCurrentIndex(next(k for k, (_, name) in enumerate(offered) if name is value or name == value))


class _TextEditor(FieldEditor):
    """Plain text; of any other kind of field what a sheet would say, in its flow style."""

    def fill(self) -> None:
        self.edit = QLineEdit(self)
        self.edit.setAccessibleName(self.hint.word)
        self.edit.setToolTip(self.hint.tip)
        self.edit.textEdited.connect(self._take_words)
        self.line.addWidget(self.edit)

    def _take_words(self, text: str) -> None:
        value: Any = text.strip()
        if value and self.hint.kind == "words":
            try:
                value = YAML(typ="safe", pure=True).load(value)
            except YAMLError:
                return  # it is not typed to its end
        self.changed.emit(UNSAID if value in ("", None) else value)

    def show_value(self, value: Any, context: FormContext) -> None:
        if not self.edit.hasFocus() or not self.edit.isModified():  # what is being typed is left alone
            plain = value if isinstance(value, str) else json.dumps(value) if value is not UNSAID else ""
            self.edit.setText(plain)


_EDITORS: dict[str, Callable[[FormField, QWidget], FieldEditor]] = {
    "flag": _FlagEditor,
    "choice": _ChoiceEditor,
    "ticks": _TicksEditor,
    "length": _LengthEditor,
    "lengths": _LengthsEditor,
    "range": _RangeEditor,
    "number": _NumberEditor,
    "factor": _NumberEditor,
    "degrees": _DegreesEditor,
    "along": _AlongEditor,
    "centre": _CentreEditor,
    "unit": _UnitEditor,
    "node": _NameEditor,
    "asset": _NameEditor,
    "text": _TextEditor,
    "words": _TextEditor,
}


def editor_of(field: FormField, parent: QWidget) -> FieldEditor:
    """Return the control for a field."""
    return _EDITORS[field.hint.kind](field, parent)
