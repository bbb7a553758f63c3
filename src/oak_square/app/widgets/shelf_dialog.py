"""The shelf: sheets that were kept, their steps, what differs from the one at hand, what matches nothing here."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.facts.shelf import Shelved
from oak_square.app.widgets.actions import key_hint
from oak_square.app.widgets.fields import Choices, push_button
from oak_square.app.widgets.theme import colour
from oak_square.core.words import say

__all__ = ["ShelfDialog"]

_NOTHING = say("No sheet is on the shelf yet: what you open or save is listed here, and what you give a name stays.")


class ShelfDialog(QDialog):
    """Shows sheets; wishes for one to be run, put on the shelf under a name, or taken off."""

    run_wished = Signal(object)  # path
    name_wished = Signal(str, object)  # name, path
    off_wished = Signal(str)  # name
    open_wished = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(say("Sheets on the shelf"))
        self.resize(860, 520)
        self.list = QListWidget(self)
        self.list.setAccessibleName(say("Sheets on the shelf"))
        self.list.setFixedWidth(250)
        self.title = QLabel(self)
        self.title.setProperty("role", "heading")
        self.title.setWordWrap(True)
        self.where = QLabel(self)
        self.where.setProperty("role", "soft")
        self.where.setWordWrap(True)
        self.pages = Choices(
            [
                ("steps", say("its steps"), say("What the sheet does, in order")),
                ("differs", say("against the one at hand"), say("What differs, step by step: at hand → on the shelf")),
                ("idle", say("on this batch"), say("What of it matches nothing in the batch that is open")),
            ],
            self,
        )
        self.pages.show_choice("steps")
        self.text = QPlainTextEdit(self)
        self.text.setReadOnly(True)
        self.text.setAccessibleName(say("What the sheet says"))
        self.run = push_button(
            say("Run it on this batch"),
            say("Take it in place of the sheet at hand; undo{key} takes that back", key=key_hint("undo")),
            self,
            "",
        )
        self.run.setProperty("role", "primary")
        self.name = push_button(say("Put it on the shelf as…"), say("Keep it here under a name"), self, "")
        self.off = push_button(say("Take it off the shelf"), say("Forget its name; the file stays"), self, "")
        self.other = push_button(say("Open a sheet…"), say("Look for a sheet that is not listed"), self, "")
        self._lay_out()
        self.shown: tuple[Shelved, ...] = ()
        self.list.currentRowChanged.connect(lambda _: self._show_row())
        self.list.itemActivated.connect(lambda _: self._run_chosen())
        self.pages.chosen.connect(lambda _: self._show_row())
        self.run.clicked.connect(lambda _=False: self._run_chosen())
        self.name.clicked.connect(lambda _=False: self._ask_name())
        self.off.clicked.connect(lambda _=False: self._take_off())
        self.other.clicked.connect(lambda _=False: self.open_wished.emit())

    def _lay_out(self) -> None:
        right = QVBoxLayout()
        right.setSpacing(8)
        for part in (self.title, self.where, self.pages, self.text):
            right.addWidget(part)
        line = QHBoxLayout()
        line.setSpacing(6)
        for button in (self.run, self.name, self.off):
            line.addWidget(button)
        line.addStretch(1)
        right.addLayout(line)
        left = QVBoxLayout()
        left.addWidget(self.list, 1)
        left.addWidget(self.other)
        whole = QHBoxLayout(self)
        whole.setContentsMargins(16, 14, 16, 14)
        whole.setSpacing(16)
        whole.addLayout(left)
        whole.addLayout(right, 1)

    def show_sheets(self, sheets: Sequence[Shelved]) -> None:
        """Match the list to `sheets`; the one looked at stays in front."""
        held = self._find_current()
        self.shown = tuple(sheets)
        self.list.clear()
        for each in sheets:
            item = QListWidgetItem(each.name or each.title)
            item.setToolTip(str(each.path))
            if each.trouble:
                item.setText(f"▲ {item.text()}")
                item.setForeground(colour("fix"))
            elif each.name:
                item.setText(f"{each.name}   ·  {each.title}" if each.title != each.name else each.name)
            self.list.addItem(item)
        at = next((k for k, each in enumerate(sheets) if held is not None and each.path == held.path), 0)
        self.list.setCurrentRow(at if sheets else -1)
        self._show_row()

    def _find_current(self) -> Shelved | None:
        at = self.list.currentRow()
        return self.shown[at] if 0 <= at < len(self.shown) else None

    def _show_row(self) -> None:
        here = self._find_current()
        readable = here is not None and not here.trouble
        self.run.setEnabled(readable)
        self.name.setEnabled(readable)
        self.off.setEnabled(here is not None and bool(here.name))
        self.pages.setEnabled(readable)
        if here is None:
            self.title.setText(say("The shelf is empty"))
            self.where.setText("")
            self.text.setPlainText(_NOTHING)
            return
        self.title.setText(here.title)
        self.where.setText(str(here.path))
        lines = {
            "steps": [f"{k}  {words}" for k, words in enumerate(here.steps, 1)] or [say("It has no steps.")],
            "differs": list(here.differs) or [say("They say the same.")],
            "idle": list(here.idle) or [say("Every pattern of it matches something here.")],
        }[self.pages.choice or "steps"]
        self.text.setPlainText(here.trouble or "\n".join(lines))

    def _run_chosen(self) -> None:
        here = self._find_current()
        if here is not None and not here.trouble:
            self.run_wished.emit(here.path)

    def _ask_name(self) -> None:
        here = self._find_current()
        if here is None:
            return
        name, agreed = QInputDialog.getText(self, say("On the shelf"), say("What it is called there"), text=here.title)
        if agreed and name.strip():
            self.name_wished.emit(name.strip(), here.path)

    def _take_off(self) -> None:
        here = self._find_current()
        if here is not None and here.name:
            self.off_wished.emit(here.name)
