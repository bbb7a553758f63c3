"""What a step applies to, chosen once above every form: which assets, and which of their parts and groups."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QLabel, QLineEdit, QWidget

from oak_square.app.facts.scopes import ScopeShown
from oak_square.app.widgets.fields import Choices, column, push_button
from oak_square.core.words import say

__all__ = ["ScopeRow"]

_TARGETS = (
    ("whole", "whole", say("The asset as a whole")),
    ("parts", "parts", say("Each part by itself")),
    ("groups", "groups", say("Each group by itself, with all below it")),
    ("picked", "picked", say("The parts and groups that are picked in the hierarchy or the view; Ctrl picks several")),
    ("names", say("by name"), say("The parts and groups whose name fits a pattern")),
)


class ScopeRow(QWidget):
    """Shows what a step is for; wishes for something else."""

    which_wished = Signal(str)  # selected, all or names
    globs_wished = Signal(tuple)  # patterns on assets
    target_wished = Signal(str)  # whole, parts, groups, picked or names
    names_wished = Signal(tuple)  # patterns on nodes
    lead_wished = Signal()  # the asset that is looked at, and no other

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.says = QLabel(self)
        self.says.setProperty("role", "soft")
        self.says.setWordWrap(True)
        self.says.setTextFormat(Qt.TextFormat.RichText)
        rows.addWidget(self.says)
        self.lead_alone = push_button("", say("Leave the other assets out, whose parts have the same names"), self)
        self.lead_alone.clicked.connect(self.lead_wished)
        rows.addWidget(self.lead_alone, 0, Qt.AlignmentFlag.AlignLeft)
        self.which = Choices(
            [
                ("selected", "selected", say("Apply to the assets that are selected now")),
                ("all", "all", say("Apply to every asset of the batch, also of the next one")),
                ("names", say("by name"), say("Apply to the assets whose path or name fits a pattern")),
            ],
            self,
        )
        rows.addWidget(self.which)
        self.globs = self._add_patterns(say("Name patterns"), "*.stl, lamp_*", say("path or name"))
        rows.addWidget(self.globs)
        self.target = Choices(_TARGETS, self, tight=True)
        rows.addWidget(self.target)
        self.names = self._add_patterns(
            say("Part patterns"), say("blade_*, leaf"), say("the names of parts and groups")
        )
        rows.addWidget(self.names)
        self.which.chosen.connect(lambda key: self._choose_key(key, self.globs, self.which_wished.emit))
        self.target.chosen.connect(lambda key: self._choose_key(key, self.names, self.target_wished.emit))
        self.globs.textEdited.connect(lambda text: self.globs_wished.emit(_part_patterns(text)))
        self.names.textEdited.connect(lambda text: self.names_wished.emit(_part_patterns(text)))

    def _add_patterns(self, name: str, example: str, of: str) -> QLineEdit:
        field = QLineEdit(self)
        field.setPlaceholderText(example)
        field.setToolTip(say("Patterns on {of}, parted by commas: * any letters, ? one letter", of=of))
        field.setAccessibleName(name)
        return field

    def _choose_key(self, key: str, field: QLineEdit, wish: object) -> None:
        wish(key)  # type: ignore[operator]  # a signal's emit
        field.setVisible(key == "names")
        if key == "names":
            # What holds now is the text to start from.
            field.selectAll()
            field.setFocus(Qt.FocusReason.OtherFocusReason)

    def show_scope(self, shown: ScopeShown, *, narrows: bool) -> None:
        """Match the row to what a step is for; `narrows`, it can be for parts and groups."""
        self.says.setText(shown.says)
        self.lead_alone.setVisible(bool(shown.lead_alone))
        self.lead_alone.setText(say("only {name}", name=shown.lead_alone))
        self.which.show_word(
            "selected", say("selected {selected}", selected=shown.selected), enabled=bool(shown.selected)
        )
        self.which.show_word("all", say("all {total}", total=shown.total))
        self.which.show_choice(shown.which)
        self.globs.setVisible(shown.which == "names")
        _show_patterns(self.globs, shown.globs)
        for key, _, tip in _TARGETS:
            word, why = shown.targets.get(key, (key, ""))
            self.target.show_word(key, word, enabled=not why)
            button = self.target.buttons[key]
            button.setToolTip(why or tip)
            button.setVisible(key in shown.targets)
        self.target.show_choice(shown.target)
        self.target.setVisible(narrows)
        self.names.setVisible(narrows and shown.target == "names")
        _show_patterns(self.names, shown.names)


def _show_patterns(field: QLineEdit, patterns: tuple[str, ...]) -> None:
    # What is being typed is left alone while it means the same.
    if _part_patterns(field.text()) != patterns:
        field.setText(", ".join(patterns))


def _part_patterns(text: str) -> tuple[str, ...]:
    return tuple(p.strip() for p in text.split(",") if p.strip())
