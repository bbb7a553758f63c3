"""The form that a step has by itself: a control for each of its fields, the seldom needed ones folded away."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from oak_square.app.panel.field_editors import UNSAID, FieldEditor, FormContext, editor_of
from oak_square.app.widgets.fields import Advice, Fold, column, labelled, section, soft
from oak_square.core.words import say
from oak_square.sheet.text import in_words
from oak_square.steps.form_hints import FormField, form_fields
from oak_square.steps.step import Step

__all__ = ["StepForm"]

_BARE = ("ticks", "choice", "unit")  # under a heading they say what they are


class StepForm(QWidget):
    """Shows a step of one kind, or none; `wished` carries another's words, empty where nothing is asked for."""

    wished = Signal(dict)
    point_wished = Signal(str, object)

    def __init__(self, kind: type[Step], parent: QWidget) -> None:
        super().__init__(parent)
        self.kind = kind
        self.do = str(kind.model_fields["do"].default)
        self.editors: dict[str, FieldEditor] = {}
        self._fields = {field.key: field for field in form_fields(kind)}
        self._words: dict[str, Any] = {}
        self._of_nodes = self._had = False
        rows = column(self, 6)
        if kind.form_note:
            rows.addWidget(soft(kind.form_note, self))
        self.more = Fold(say("more ways"), say("What is seldom needed"), self)
        folded = column(self.more.inner, 6)
        for field in self._fields.values():
            self._add_field(field, *((self.more.inner, folded) if field.hint.folded else (self, rows)))
        rows.addWidget(self.more)
        self.more.setVisible(any(field.hint.folded for field in self._fields.values()))
        self.trouble = Advice(self)
        self.trouble.hide()
        rows.addWidget(self.trouble)

    def _add_field(self, field: FormField, home: QWidget, rows: QVBoxLayout) -> None:
        editor = self.editors[field.key] = editor_of(field, home)
        editor.changed.connect(lambda value, key=field.key: self._change_field(key, value))
        editor.pick_wished.connect(lambda: self._ask_for_point(editor, field.hint.word))
        if field.hint.over:
            rows.addWidget(section(field.hint.over, home))
        hint = field.hint
        bare = hint.kind == "flag" or (hint.over and hint.kind in _BARE) or len(hint.choices) == 1
        rows.addWidget(editor if bare else labelled(field.hint.word, editor, home))

    def _ask_for_point(self, editor: FieldEditor, word: str) -> None:
        self.point_wished.emit(say("{word}: click it in the view", word=word), lambda at, _pick: editor.take(at))

    def _change_field(self, key: str, value: Any) -> None:
        words = {k: v for k, v in self._words.items() if k != key}
        if value is not UNSAID:
            words[key] = value
        self._words = {k: words[k] for k in self._fields if k in words}
        why = self._why_not() if self._words else ""
        self.trouble.show_lines([why] if why else [], "note")
        if self._words and not why:
            self.wished.emit({"do": self.do, **self._words})
        elif self._had:
            self.wished.emit({})

    def _why_not(self) -> str:
        """Return what is wrong with, or missing of, what is said so far; empty where it makes a step."""
        parts = {"parts": ["*"]} if self._of_nodes or self.kind.needs_parts else {}
        return in_words(self.kind, {"do": self.do, **parts, **self._words})

    def show_words(self, words: Mapping[str, Any], context: FormContext) -> None:
        """Match the form to a step's own words; of another kind of step, or of none, it says nothing."""
        own = words if words.get("do") == self.do else {}
        if own or self._had or not self._words:
            # What is told by halves, while no step is open, stays.
            self._words = {k: v for k, v in own.items() if k in self._fields}
            self.trouble.hide()
        self._had, self._of_nodes = bool(own), context.of_nodes
        for key, editor in self.editors.items():
            editor.show_value(self._words.get(key, UNSAID), context)
            editor.setEnabled(not (self._fields[key].hint.of_asset and context.of_nodes))
        self.setVisible(context.of_nodes or self.kind.means_all or not self.kind.needs_parts)
