"""What any step may say besides its work: what it leaves out, a note, and whether an asset may refuse it."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QLineEdit, QWidget

from oak_square.app.widgets.fields import Fold, column, labelled
from oak_square.core.words import say
from oak_square.steps.step import Step

__all__ = ["StepRow"]


class StepRow(QWidget):
    """Shows `skip`, `note` and `may-refuse` of the step that is open; `wished` carries one of them, None for none."""

    wished = Signal(str, object)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.fold = Fold(
            say("exceptions, a note"), say("What this step leaves out, and what is to be said of it"), self
        )
        column(self).addWidget(self.fold)
        rows = column(self.fold.inner, 4)
        self.skip = QLineEdit(self.fold.inner)
        self.skip.setAccessibleName(say("Assets that are left out"))
        self.skip.setPlaceholderText("lamp_*, gate_leaf.glb")
        self.skip.setToolTip(
            say("Patterns on path or name, parted by commas: assets that this step leaves as they are")
        )
        self.skip.textEdited.connect(lambda text: self.wished.emit("skip", _part_names(text) or None))
        rows.addWidget(labelled(say("but not"), self.skip, self.fold.inner))
        self.note = QLineEdit(self.fold.inner)
        self.note.setAccessibleName(say("Note"))
        self.note.setToolTip(say("A word to whoever reads the sheet; it changes nothing"))
        self.note.textEdited.connect(lambda text: self.wished.emit("note", text or None))
        rows.addWidget(labelled("note", self.note, self.fold.inner))
        self.may_refuse = QCheckBox(say("An asset that refuses it goes on without it"), self.fold.inner)
        self.may_refuse.setToolTip(say("Without this, an asset to which it can't be done exactly is not delivered"))
        self.may_refuse.clicked.connect(lambda on: self.wished.emit("may-refuse", True if on else None))
        rows.addWidget(self.may_refuse)

    def show_step(self, step: Step | None) -> None:
        """Match the row to the step that is open; hidden where there is none."""
        self.setVisible(step is not None)
        if step is None:
            return
        skip = list(step.skip or ())
        if _part_names(self.skip.text()) != skip:
            self.skip.setText(", ".join(skip))
        if self.note.text() != (step.note or ""):
            self.note.setText(step.note or "")
        self.may_refuse.setChecked(step.may_refuse)
        words: list[Any] = [say("but not {skip}", skip=", ".join(skip))] if skip else []
        words += [say("may be refused")] if step.may_refuse else []
        words += [say("note: {note}", note=step.note)] if step.note else []
        text = "; ".join(words) or say("exceptions, a note")
        self.fold.say(text if len(text) < 42 else f"{text[:40]}…")


def _part_names(text: str) -> list[str]:
    return [p.strip() for p in text.split(",") if p.strip()]
