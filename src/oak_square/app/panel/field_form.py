"""Every field of a step, as a form drawn from its model: what has no means of its own on a stage is reached here."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from io import StringIO
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QPushButton, QWidget
from ruamel.yaml import YAML
from ruamel.yaml.error import YAMLError

from oak_square.app.widgets.fields import Advice, Choices, column, labelled, soft
from oak_square.sheet.text import in_words
from oak_square.steps import STEPS, Step

__all__ = ["FieldForm", "FieldForms", "written"]

_ELSEWHERE = {"do", "for_", "parts", "skip", "paused", "may_refuse", "note"}  # the scope row and the cards have these


def words_of(annotation: Any) -> Iterator[str]:
    """Yield the words that a field's type knows: the literals in it, at any depth that is not a list."""
    origin = get_origin(annotation)
    if origin is Literal:
        yield from (a for a in get_args(annotation) if isinstance(a, str))
    elif origin in (Union, UnionType, Annotated):
        for part in get_args(annotation):
            yield from words_of(part)
    elif annotation is bool:
        yield "true"


class FieldForm(QWidget):
    """One kind of step: a row for each field, its known words to choose, anything else typed as a sheet has it."""

    words_wished = Signal(dict)

    def __init__(self, kind: type[Step], parent: QWidget) -> None:
        super().__init__(parent)
        self.kind = kind
        self.nodes: Mapping[str, Any] = {}
        """How a new step says which nodes it is for."""
        self._do = str(kind.model_fields["do"].default)
        rows = column(self, 5)
        self.edits: dict[str, QComboBox] = {}
        self._unfinished = False  # what stands in the rows is no step yet, and is left to be finished
        for name, field in kind.model_fields.items():
            if name in _ELSEWHERE:
                continue
            key = field.alias or name
            edit = QComboBox(self)
            edit.setEditable(True)
            edit.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
            edit.setCompleter(None)  # type: ignore[arg-type]  # a word half typed is not another one
            edit.addItems(["", *dict.fromkeys(words_of(field.annotation))])
            edit.setToolTip(f"{field.description or ''}\nAs a sheet has it: a word, a length, [x, y, z], {{point: …}}")
            edit.setAccessibleName(f"{self._do} {key}")
            edit.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            edit.textActivated.connect(lambda _: self._changed())
            line = edit.lineEdit()
            assert line is not None
            line.textEdited.connect(lambda _: self._changed())
            self.edits[key] = edit
            rows.addWidget(labelled(key, edit, self))
        self.advice = Advice(self)
        self.advice.hide()
        rows.addWidget(self.advice)

    def _changed(self) -> None:
        words: dict[str, Any] = {"do": self._do}
        for key, edit in self.edits.items():
            text = edit.currentText().strip()
            if text:
                try:
                    words[key] = YAML(typ="safe").load(text)
                except YAMLError:
                    self._unfinished = True
                    self._complain(f"{key}: '{text}' can't be read; write it as a sheet does")
                    return
        nodes = self.nodes if self.kind.is_for_nodes(words) else {}
        why = "" if len(words) == 1 else in_words(self.kind, {**nodes, **words})
        self._unfinished = bool(why)
        self._complain(why)
        if not why:
            self.words_wished.emit(words if len(words) > 1 else {})

    def _complain(self, why: str) -> None:
        self.advice.show_lines([why] if why else [], "check")

    def show_words(self, words: Mapping[str, Any]) -> None:
        """Match the rows to a step's words; what is being typed is left alone."""
        mine = words.get("do") == self._do
        typing = any((line := e.lineEdit()) is not None and line.hasFocus() for e in self.edits.values())
        if self._unfinished and not mine:
            if typing:
                return
            # What was left half written is no part of what comes next.
            self._unfinished = False
            self._complain("")
        for key, edit in self.edits.items():
            line = edit.lineEdit()
            assert line is not None
            if line.hasFocus() and line.isModified() and mine:
                continue
            text = written(words[key]) if mine and key in words else ""
            if edit.currentText() != text and not (line.hasFocus() and line.isModified()):
                edit.setEditText(text)
        if mine:
            self._unfinished = False
            self._complain("")


def written(value: Any) -> str:
    """Return a value as a sheet has it, on one line."""
    yaml = YAML(typ="safe")
    yaml.default_flow_style = True
    yaml.width = 4096
    out = StringIO()
    yaml.dump(value, out)
    return out.getvalue().strip().removesuffix("...").strip()


class FieldForms(QWidget):
    """The forms of a stage's steps, folded away until they are asked for."""

    words_wished = Signal(dict)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._rows = column(self, 6)
        self.open = QPushButton("every field  ▾", self)
        self.open.setProperty("role", "quiet")
        self.open.setCheckable(True)
        self.open.setToolTip("All that the steps of this stage can say, field by field")
        self.open.clicked.connect(lambda _=False: self._fold())
        self._rows.addWidget(self.open, 0, Qt.AlignmentFlag.AlignLeft)
        self._inner = QWidget(self)
        self._inner.hide()
        self._rows.addWidget(self._inner)
        self._column = column(self._inner, 6)
        self._stage = ""
        self._tabs: Choices | None = None
        self.forms: dict[str, FieldForm] = {}
        self._words: Mapping[str, Any] = {}
        self._said: Mapping[str, Mapping[str, Any]] = {}

    def show_stage(self, stage: str, words: Mapping[str, Any], said: Mapping[str, Mapping[str, Any]]) -> None:
        """Match to a stage, to the draft's words, and to how steps of each kind say which nodes they are for."""
        self._words, self._said = words, said
        kinds = [k for k in STEPS.values() if k.stage == stage]
        self.setVisible(bool(kinds))
        if stage != self._stage:
            self._stage = stage
            self._clear()
        if self.open.isChecked() and not self.forms and kinds:
            self._make(kinds)
        for do, form in self.forms.items():
            form.nodes = {k: v for k, v in words.items() if k == "parts"} if words else said.get(do, {})
            form.show_words(words)
            if words.get("do") == do:
                self._show_form(do)

    def _clear(self) -> None:
        while (item := self._column.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.forms, self._tabs = {}, None

    def _make(self, kinds: list[type[Step]]) -> None:
        names = [str(k.model_fields["do"].default) for k in kinds]
        help_of = {n: (k.__doc__ or "").split("\n")[0] for n, k in zip(names, kinds, strict=True)}
        self._tabs = Choices([(n, n, help_of[n]) for n in names], self)
        self._tabs.setVisible(len(names) > 1)
        self._tabs.chosen.connect(self._show_form)
        self._column.addWidget(self._tabs)
        self._column.addWidget(soft("Written as a sheet has it; what is empty is left to its default.", self))
        for name, kind in zip(names, kinds, strict=True):
            form = FieldForm(kind, self._inner)
            form.words_wished.connect(self.words_wished)
            form.show_words(self._words)
            self.forms[name] = form
            self._column.addWidget(form)
        self._show_form(str(self._words.get("do")) if self._words.get("do") in self.forms else names[0])

    def _show_form(self, do: str) -> None:
        for name, form in self.forms.items():
            form.setVisible(name == do)
        if self._tabs is not None:
            self._tabs.show_choice(do)

    def _fold(self) -> None:
        self.open.setText("every field  ▴" if self.open.isChecked() else "every field  ▾")
        self._inner.setVisible(self.open.isChecked())
        self.show_stage(self._stage, self._words, self._said)
