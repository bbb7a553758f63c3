"""What a step applies to: the selected assets, all, or names; and which of their parts."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QLabel, QLineEdit, QWidget

from oak_square.app.facts.scopes import Scope
from oak_square.app.widgets.fields import Choices, column
from oak_square.steps import Step, globs_for

__all__ = ["ScopeRow"]


class ScopeRow(QWidget):
    """Shows a step's scope in words; wishes for another."""

    scope_wished = Signal()  # read `words`

    def __init__(self, current: Callable[[], Scope], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._current = current
        rows = column(self, 6)
        self.says = QLabel(self)
        self.says.setProperty("role", "soft")
        self.says.setWordWrap(True)
        self.says.setTextFormat(Qt.TextFormat.RichText)
        rows.addWidget(self.says)
        self.which = Choices(
            [
                ("selected", "selected", "Apply to the assets that are selected now"),
                ("all", "all", "Apply to every asset of the batch, also of the next one"),
                ("names", "by name", "Apply to the assets whose path or name fits a pattern"),
            ],
            self,
        )
        self.which.chosen.connect(self._choose)
        rows.addWidget(self.which)
        self.names = QLineEdit(self)
        self.names.setPlaceholderText("*.stl, lamp_*")
        self.names.setToolTip("Patterns on path or name, parted by commas: * any letters, ? one letter")
        self.names.setAccessibleName("Name patterns")
        self.names.textEdited.connect(self.scope_wished)
        rows.addWidget(self.names)
        self.parts = Choices(
            [
                ("all", "whole", "The step is not narrowed to parts"),
                ("picked", "picked part", "Only the part or group that is picked, by its name"),
            ],
            self,
        )
        self.parts.chosen.connect(self.scope_wished)
        rows.addWidget(self.parts)
        self._touched = self._naming = False
        self._globs: list[str] | None = None
        self._parts: list[str] = []  # of the step that is open

    def _choose(self, key: str) -> None:
        self._touched = True
        self.names.setVisible(key == "names")
        self._naming = key == "names"
        if self._naming:
            # What holds now is the text to start from.
            self.names.setText(", ".join(self._globs if self._globs is not None else ["*"]))
            self.names.selectAll()
            self.names.setFocus(Qt.FocusReason.OtherFocusReason)
        self.scope_wished.emit()

    def show_scope(self, scope: Scope, step: Step | None, counts: tuple[int, int] | None) -> None:
        """Match the row to what there is, to the draft's own scope, and to how many assets and parts it meets."""
        self.which.show_word("selected", f"selected {len(scope.selected)}", enabled=bool(scope.selected))
        self.which.show_word("all", f"all {scope.total}")
        if step is not None:
            self._show_step(step, scope)
            self._globs, self._touched = step.for_, False
        elif not self._touched:
            # A new step never inherits the scope of the last one.
            self.which.show_choice("selected" if scope.selected else "all")
            self.names.clear()
            self.parts.show_choice("all")
            self._globs, self._naming = globs_for(scope.selected), False
        self.names.setVisible(self.which.choice == "names")
        can_pick = scope.picked is not None or bool(step is not None and step.parts)
        self.parts.setVisible(can_pick and not (step is not None and step.is_reading))
        if not can_pick:
            self.parts.show_choice("all")
        self._parts = list(step.parts or ()) if step is not None else []
        name = ", ".join(step.parts) if step is not None and step.parts else scope.picked
        self.parts.show_word("picked", f"only {name}" if name else "picked part")
        self.says.setText(self._words(scope, counts))

    def _show_step(self, step: Step, scope: Scope) -> None:
        if not self._naming and step.for_ is None:
            self.which.show_choice("all")
        elif not self._naming and step.for_ == globs_for(scope.selected):
            self.which.show_choice("selected")
        else:
            self.which.show_choice("names")
            # What is being typed is left alone while it means the same.
            globs = step.for_ if step.for_ is not None else ["*"]
            if _patterns(self.names.text()) != globs:
                self.names.setText(", ".join(globs))
        self.parts.show_choice("picked" if step.parts else "all")

    def _words(self, scope: Scope, counts: tuple[int, int] | None) -> str:
        if counts is None:
            return "Applies to what you choose here; nothing is tried yet."
        assets, parts = counts
        words = f"Applies to <b>{assets} {'asset' if assets == 1 else 'assets'}</b>"
        return f"{words}, <b>{parts} {'part' if parts == 1 else 'parts'}</b>"

    @property
    def words(self) -> dict[str, Any]:
        """The scope as a step's own words."""
        scope = self._current()
        found: dict[str, Any] = {}
        if self.which.choice == "selected":
            found["for"] = globs_for(scope.selected)
        elif self.which.choice == "names":
            found["for"] = _patterns(self.names.text())
        if self.parts.isVisibleTo(self) and self.parts.choice == "picked":
            # The parts that a step names already stay, whatever is picked meanwhile.
            parts = self._parts or ([] if scope.picked is None else globs_for([scope.picked]))
            found |= {"parts": list(parts)} if parts else {}
        return found


def _patterns(text: str) -> list[str]:
    return [p.strip() for p in text.split(",") if p.strip()]
