"""What any step may say besides its work, changed on its card: for whom, which parts, what it leaves out, a note."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import QEvent, QPoint, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from oak_square.app.widgets.fields import labelled
from oak_square.app.widgets.over_card import OverCard
from oak_square.core.terms import term
from oak_square.core.words import capital, say

__all__ = ["CardEditor"]

_WIDE = 380
_FIELDS = (
    (
        "for",
        say("for", "assets"),
        "*.stl, lamp_*",
        say("Patterns on path or name, parted by commas; empty: every asset"),
    ),
    (
        "parts",
        "parts",
        say("blade_*, leaf"),
        say("Patterns on names of parts and groups, parted by commas; empty: as a whole"),
    ),
    (
        "skip",
        say("but not"),
        "lamp_*, gate_leaf.glb",
        say("Assets that this step leaves as they are: patterns on path or name"),
    ),
    ("note", say("note"), say("why it is here"), say("A word to whoever reads the sheet; it changes nothing")),
)


class CardEditor(OverCard):
    """Stands over a card; tells what is typed as it is typed, and wishes for it to be kept."""

    edited = Signal(dict)  # what it says now
    keep_wished = Signal(dict)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("finder")
        self.setFixedWidth(_WIDE)
        self.title = QLabel(self)
        self.title.setProperty("role", "heading")
        self.title.setWordWrap(True)
        self.fields: dict[str, QLineEdit] = {}
        self._rows: dict[str, QWidget] = {}
        rows = QVBoxLayout(self)
        rows.setContentsMargins(16, 12, 16, 14)
        rows.setSpacing(6)
        rows.addWidget(self.title)
        for key, word, example, tip in _FIELDS:
            field = self.fields[key] = QLineEdit(self)
            field.setPlaceholderText(example)
            field.setToolTip(tip)
            field.setAccessibleName(capital(term(word)))
            field.textEdited.connect(lambda _: self.edited.emit(self.words()))
            self._rows[key] = labelled(word, field, self)
            rows.addWidget(self._rows[key])
        self.may_refuse = QCheckBox(say("An asset that refuses it goes on without it"), self)
        self.may_refuse.setToolTip(say("Without this, an asset to which it can't be done exactly is not delivered"))
        self.paused = QCheckBox(say("Paused: kept on the sheet, left out of the run"), self)
        for box in (self.may_refuse, self.paused):
            box.clicked.connect(lambda _=False: self.edited.emit(self.words()))
            rows.addWidget(box)
        self.says = QLabel(self)
        self.says.setWordWrap(True)
        self.says.setProperty("role", "soft")
        rows.addWidget(self.says)
        self.keep = QPushButton(say("Keep the change  ⏎"), self)
        self.keep.setProperty("role", "primary")
        self.keep.clicked.connect(lambda _=False: self._keep_text())
        self.drop = QPushButton(say("Drop  Esc"), self)
        self.drop.clicked.connect(lambda _=False: self.leave())
        line = QHBoxLayout()
        line.addWidget(self.keep, 1)
        line.addWidget(self.drop)
        rows.addLayout(line)

    def open(self, title: str, words: Mapping[str, Any], *, takes_parts: bool, card: QWidget) -> None:
        """Show what a step says, over its card."""
        self.back = card
        self.title.setText(title)
        for key, field in self.fields.items():
            value = words.get(key) or ""
            field.setText(value if isinstance(value, str) else ", ".join(value))
        self._rows["parts"].setVisible(takes_parts)
        self.may_refuse.setChecked(bool(words.get("may-refuse")))
        self.paused.setChecked(bool(words.get("paused")))
        self.edited.emit(self.words())
        self.show()
        self.place()
        self.raise_()
        self.fields["for"].setFocus(Qt.FocusReason.PopupFocusReason)

    def place(self) -> None:
        """Stand over the card, within the window."""
        if self.back is None or self.isHidden():
            return
        self.adjustSize()
        at = self.back.mapTo(self.window_, QPoint(0, 0))
        x = max(8, min(at.x(), self.window_.width() - self.width() - 8))
        self.move(x, max(8, at.y() - self.height() - 8))

    def words(self) -> dict[str, Any]:
        """Return what is typed, as a sheet says it; None for what it says nothing of."""
        found: dict[str, Any] = {}
        for key, field in self.fields.items():
            parted = [p.strip() for p in field.text().split(",") if p.strip()]
            found[key] = (field.text().strip() or None) if key == "note" else (parted or None)
        for key, box in (("may-refuse", self.may_refuse), ("paused", self.paused)):
            found[key] = True if box.isChecked() else None
        return found

    def tell(self, words: str, *, wrong: bool) -> None:
        """Say what it means so far, or why it can't be kept."""
        self.says.setText(words)
        self.says.setProperty("role", "wrong" if wrong else "soft")
        self.says.style().unpolish(self.says)
        self.says.style().polish(self.says)
        self.keep.setEnabled(not wrong)
        self.place()

    def _keep_text(self) -> None:
        if self.keep.isEnabled():
            self.keep_wished.emit(self.words())

    def event(self, event: QEvent) -> bool:
        """While it is open, Enter and Esc are its own."""
        own = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape)
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and event.key() in own:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter keeps, Esc drops."""
        if event.key() == Qt.Key.Key_Escape:
            self.leave()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._keep_text()
        else:
            super().keyPressEvent(event)
