"""All keys on one sheet: found by what they do or what they are, changed there, clashes told beforehand."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QKeySequenceEdit,
    QLabel,
    QLineEdit,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.widgets.actions import Actions, KeyRow, keys_said
from oak_square.app.widgets.fields import push_button, quiet_table
from oak_square.core.words import say

__all__ = ["KeysSheet"]

_WORDS, _KEYS, _FIRST = range(3)


class KeysSheet(QDialog):
    """Shows what every key does; gives an action another one."""

    given = Signal()

    def __init__(self, deeds: Actions, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(say("Keys"))
        self.resize(720, 560)
        self._deeds = deeds
        self.filter = QLineEdit(self)
        self.filter.setPlaceholderText(say("What it does, or a key…"))
        self.filter.setAccessibleName(say("Filter the keys"))
        self.filter.setClearButtonEnabled(True)
        self.table = quiet_table(say("Keys"), (say("what it does"), say("key"), say("at first")), self)
        self.table.setSelectionBehavior(self.table.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(self.table.SelectionMode.SingleSelection)
        self.edit = QKeySequenceEdit(self)
        self.edit.setAccessibleName(say("The new key"))
        self.edit.setToolTip(say("Press the keys that shall do what is chosen above"))
        self.edit.setMaximumSequenceLength(1)
        self.give = push_button(say("Give it this key"), say("Let this key do what is chosen above"), self)
        self.none = push_button(say("No key"), say("Let what is chosen above have no key"), self)
        self.back = push_button(say("As at first"), say("Give what is chosen above the key that it had at first"), self)
        self.all_back = push_button(say("All as at first"), say("Give everything the keys that it had at first"), self)
        self.says = QLabel(self)
        self.says.setWordWrap(True)
        self.says.setMinimumHeight(34)
        self._lay_out()
        self.shown: list[KeyRow] = []
        self.filter.textChanged.connect(lambda _: self.show_rows())
        self.table.itemSelectionChanged.connect(self._show_chosen)
        self.edit.keySequenceChanged.connect(lambda _: self._tell_new_key())
        self.give.clicked.connect(lambda _=False: self._give_keys([self.edit.keySequence().toString()]))
        self.none.clicked.connect(lambda _=False: self._give_keys([]))
        self.back.clicked.connect(lambda _=False: self._as_first(self._find_name()))
        self.all_back.clicked.connect(lambda _=False: self._as_first(""))
        self.show_rows()

    def _lay_out(self) -> None:
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 14, 16, 14)
        rows.setSpacing(8)
        for part, stretch in ((self.filter, 0), (self.table, 1), (self.says, 0)):
            rows.addWidget(part, stretch)
        line = QHBoxLayout()
        line.addWidget(self.edit, 1)
        for button in (self.give, self.none, self.back, self.all_back):
            line.addWidget(button)
        rows.addLayout(line)

    def show_rows(self, name: str = "") -> None:
        """Show what the filter leaves, with `name` chosen."""
        letters = self.filter.text().casefold()
        self.shown = [r for r in self._deeds.rows() if letters in f"{r.words} {keys_said(r.keys)} {r.where}".casefold()]
        self.table.setRowCount(len(self.shown))
        for k, row in enumerate(self.shown):
            changed = row.name and row.keys != row.first
            where = f", {row.where}" if row.where else ""
            cells = (
                f"{row.words}{where}",
                keys_said(row.keys) or say("none"),
                keys_said(row.first) if changed else "",
            )
            for at, words in enumerate(cells):
                item = QTableWidgetItem(words)
                item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                self.table.setItem(k, at, item)
        at = next((k for k, row in enumerate(self.shown) if row.name == name and name), 0 if self.shown else -1)
        self.table.selectRow(at)
        self._show_chosen()

    def _current_row(self) -> KeyRow | None:
        at = self.table.currentRow()
        return self.shown[at] if 0 <= at < len(self.shown) else None

    def _find_name(self) -> str:
        row = self._current_row()
        return row.name if row is not None else ""

    def _show_chosen(self) -> None:
        self.edit.clear()
        self._tell_new_key()

    def _tell_new_key(self) -> None:
        """Say what a new key would mean, and let it be given where it may."""
        row = self._current_row()
        free = row is not None and bool(row.name)
        key = self.edit.keySequence()
        self.edit.setEnabled(free)
        self.none.setEnabled(free and row is not None and row.keys != row.firm)
        self.back.setEnabled(free and row is not None and row.keys != row.first)
        self.all_back.setEnabled(bool(self._deeds.other_keys()))
        words, may = "", free and not key.isEmpty()
        if row is not None and not row.name:
            words = say("These keys stay as they are: the views, the lists or the instruments take them themselves.")
        elif row is not None and may:
            words, may = self._find_clash(row, key)
        elif row is not None:
            words = say("Press the keys for: {words}.", words=row.words)
        self.says.setText(words)
        self.give.setEnabled(may)

    def _find_clash(self, row: KeyRow, key: QKeySequence) -> tuple[str, bool]:
        said = key.toString()
        other = self._deeds.whose(said, row.name)
        if said in row.keys:
            return say("{said} does it already.", said=keys_said([said])), False
        if other is None:
            return say("{said} is free.", said=keys_said([said])), True
        if not other.name or said in other.firm:
            return say(
                "{said} can't be given: {where} it is for “{words}”.",
                said=keys_said([said]),
                where=other.where or say("everywhere"),
                words=other.words,
            ), False
        rest = keys_said([k for k in other.keys if k != said])
        return say(
            "▲ {said} is the key of “{words}”, which would then have {rest}.",
            said=keys_said([said]),
            words=other.words,
            rest=rest or say("none"),
        ), True

    def _give_keys(self, keys: Sequence[str]) -> None:
        name = self._find_name()
        self._deeds.give(name, keys)
        self.show_rows(name)
        self.given.emit()

    def _as_first(self, name: str) -> None:
        self._deeds.as_first(name)
        self.show_rows(name)
        self.given.emit()
