"""The small controls the forms are made of. They show values under blocked signals, and send what the user enters."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPalette
from PySide6.QtWidgets import (
    QAbstractItemView,
    QButtonGroup,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.widgets.theme import colour
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = [
    "Advice",
    "Choices",
    "Elided",
    "Fold",
    "column",
    "labelled",
    "push_button",
    "quiet_table",
    "rule",
    "section",
    "soft",
]


_ROOM = 268  # pixels that a column leaves a row
_LONGEST_LINE = 130  # the rest is in the tooltip


class Choices(QWidget):
    """A row of words of which at most one holds."""

    chosen = Signal(str)

    def __init__(
        self,
        words: Sequence[tuple[str, str, str]],
        parent: QWidget | None = None,
        *,
        per_row: int = 9,
        tight: bool = False,
    ) -> None:
        """Take (key, word, tooltip) of each; `tight` ones stand close, for many in a row."""
        super().__init__(parent)
        self._group = QButtonGroup(self)
        self._group.setExclusive(True)
        self.buttons: dict[str, QPushButton] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        for k, (key, word, tip) in enumerate(words):
            button = QPushButton(term(word), self)
            button.setProperty("role", "tight" if tight else "choice")
            button.setCheckable(True)
            button.setToolTip(tip)
            button.setAccessibleDescription(tip)
            button.setAutoDefault(False)
            # `clicked`, not `toggled`: picking what holds already is a wish too.
            button.clicked.connect(lambda _=False, key=key: self.chosen.emit(key))
            self._group.addButton(button)
            self.buttons[key] = button
            grid.addWidget(button, k // per_row, k % per_row)
        if not tight and self._measure_columns(per_row) > _ROOM:
            # In another language the same row may not fit: its words then stand closer.
            for button in self.buttons.values():
                button.setProperty("role", "tight")
                button.style().unpolish(button)
                button.style().polish(button)

    def _measure_columns(self, per_row: int) -> int:
        """Return how wide the buttons want to be, each column as wide as the widest in it."""
        columns = [0] * min(per_row, len(self.buttons))
        for k, button in enumerate(self.buttons.values()):
            button.ensurePolished()
            columns[k % per_row] = max(columns[k % per_row], button.sizeHint().width())
        return sum(columns) + 4 * (len(columns) - 1)

    def show_choice(self, key: str | None) -> None:
        """Let `key` hold, or none."""
        blockers = [QSignalBlocker(self._group)]
        self._group.setExclusive(False)
        for name, button in self.buttons.items():
            button.setChecked(name == key)
        self._group.setExclusive(True)
        del blockers

    @property
    def choice(self) -> str | None:
        """The key that holds."""
        return next((k for k, b in self.buttons.items() if b.isChecked()), None)

    def show_word(self, key: str, word: str, *, enabled: bool = True) -> None:
        """Change what a button says, and whether it can be pressed."""
        self.buttons[key].setText(term(word))
        self.buttons[key].setEnabled(enabled)


class Elided(QLabel):
    """One line that gives way where there is little room: its end is then left off, and stands in the tooltip."""

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw as much as there is room for."""
        shown = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        role = QPalette.ColorRole.WindowText
        where = self.alignment() | Qt.AlignmentFlag.AlignVCenter
        self.style().drawItemText(QPainter(self), self.rect(), int(where), self.palette(), True, shown, role)


class Advice(QLabel):
    """A few lines set apart by a bar in the colour of their level."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWordWrap(True)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setProperty("role", "soft")
        self.setContentsMargins(12, 8, 8, 8)
        self.level = "note"

    def show_lines(self, lines: Sequence[str], level: str, *, most: int = 4) -> None:
        """Show the first `most` lines, and how many more there are; hidden when there is none."""
        shown = list(dict.fromkeys(lines))
        more = [say("… {count} more", count=len(shown) - most)] if len(shown) > most else []
        self.setText("\n".join([*(_shorten_line(line) for line in shown[:most]), *more]))
        self.setToolTip("\n".join(shown))
        self.level = level
        self.setVisible(bool(shown))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the ground and the bar, then the text."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.fillRect(0, 0, 3, self.height(), colour(self.level))
        painter.end()
        super().paintEvent(event)


def _shorten_line(line: str) -> str:
    return line if len(line) <= _LONGEST_LINE else f"{line[:_LONGEST_LINE].rstrip()}…"


class Fold(QWidget):
    """What is seldom needed, folded away under a line that says what holds in there."""

    def __init__(self, words: str, tip: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._rows = column(self, 6)
        self.button = QPushButton(self)
        self.button.setProperty("role", "fold")
        self.button.setCheckable(True)
        self.button.setToolTip(tip)
        self.button.clicked.connect(lambda _=False: self._show_fold())
        self._rows.addWidget(self.button)
        self.inner = QWidget(self)
        self._rows.addWidget(self.inner)
        self._words = term(words)
        self._show_fold()

    def say(self, words: str) -> None:
        """Say what holds in there."""
        self._words = words
        self._show_fold()

    def open(self) -> None:
        """Show what is in there."""
        self.button.setChecked(True)
        self._show_fold()

    def _show_fold(self) -> None:
        is_open = self.button.isChecked()
        self.button.setText(f"{self._words}  {'▴' if is_open else '▾'}")
        self.inner.setVisible(is_open)


def quiet_table(name: str, headings: Sequence[str], parent: QWidget) -> QTableWidget:
    """Return a table to be read, not edited: the first column takes the room, the others what they need."""
    table = QTableWidget(0, len(headings), parent)
    table.setAccessibleName(term(name))
    table.setHorizontalHeaderLabels([term(word) for word in headings])
    table.verticalHeader().hide()
    table.setTabKeyNavigation(False)
    table.setShowGrid(False)
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    header = table.horizontalHeader()
    header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
    for k in range(len(headings)):
        stretch = QHeaderView.ResizeMode.Stretch if k == 0 else QHeaderView.ResizeMode.ResizeToContents
        header.setSectionResizeMode(k, stretch)
    return table


def section(text: str, parent: QWidget) -> QLabel:
    """Return a small heading."""
    label = QLabel(term(text), parent)
    label.setProperty("role", "section")
    return label


def soft(text: str, parent: QWidget) -> QLabel:
    """Return a line of quiet text that wraps."""
    label = QLabel(text, parent)
    label.setProperty("role", "soft")
    label.setWordWrap(True)
    return label


def labelled(text: str, field: QWidget, parent: QWidget) -> QWidget:
    """Return a field with its label to the left."""
    row = QWidget(parent)
    line = QHBoxLayout(row)
    line.setContentsMargins(0, 0, 0, 0)
    line.setSpacing(8)
    label = QLabel(term(text), row)
    label.setBuddy(field)
    label.setMinimumWidth(102)
    line.addWidget(label)
    line.addWidget(field, 1)
    return row


def push_button(words: str, tip: str, parent: QWidget, role: str = "small") -> QPushButton:
    """Return a button that Enter does not press from elsewhere."""
    button = QPushButton(words, parent)
    if role:
        button.setProperty("role", role)
    button.setToolTip(tip)
    button.setAutoDefault(False)
    return button


def rule(parent: QWidget) -> QFrame:
    """Return a hairline."""
    line = QFrame(parent)
    line.setProperty("role", "rule")
    line.setFixedHeight(1)
    return line


def column(parent: QWidget, spacing: int = 8) -> QVBoxLayout:
    """Give `parent` a column without margins."""
    rows = QVBoxLayout(parent)
    rows.setContentsMargins(0, 0, 0, 0)
    rows.setSpacing(spacing)
    rows.setAlignment(Qt.AlignmentFlag.AlignTop)
    return rows
