"""What a folder answers, in the Size and Turn panels: its way, one click for it, one for the doubts, the odd ones."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from oak_square.app.facts.folder import FolderFacts
from oak_square.app.widgets.fields import column, section, soft
from oak_square.app.widgets.tiles import Tiles
from oak_square.core.lengths import UNIT_WORDS
from oak_square.core.terms import term
from oak_square.core.words import one_or_many, say

__all__ = ["FolderForm"]


class FolderForm(QWidget):
    """Shows the folder's answer; wishes for it to be taken for files, for files to be looked at, for one of them."""

    taken = Signal(object)  # the files to take their best answers for
    looked_at = Signal(object)  # the files to select

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.title = section("", self)
        rows.addWidget(self.title)
        self.words = soft("", self)
        rows.addWidget(self.words)
        line = QHBoxLayout()
        line.setSpacing(4)
        self.take = QPushButton(self)
        self.take.setProperty("role", "small")
        self.take.clicked.connect(lambda: self.taken.emit(self._facts.take if self._facts is not None else ()))
        self.doubts = QPushButton(self)
        self.doubts.setProperty("role", "small")
        self.doubts.clicked.connect(lambda: self.looked_at.emit(self._facts.doubts if self._facts is not None else ()))
        line.addWidget(self.take)
        line.addWidget(self.doubts)
        rows.addLayout(line)
        self.picture: Callable[[str], QImage | None] = lambda _: None
        self.tiles = Tiles(say("Odd ones and doubts of the folder"), lambda file: self.picture(file), self)
        self.tiles.asset_wished.connect(lambda file: self.looked_at.emit((file,)))
        rows.addWidget(self.tiles)
        self._facts: FolderFacts | None = None

    def show_folder(self, facts: FolderFacts | None, selected: Sequence[str]) -> None:
        """Match the form to what the folder answers; hidden where nothing is asked of it."""
        self._facts = facts
        asked = facts is not None and bool(facts.take or facts.doubts or facts.tiles)
        self.setVisible(asked)
        if facts is None:
            return
        self.title.setText(facts.title)
        self.words.setText(facts.words)
        what = (
            term(UNIT_WORDS.get(facts.answer, facts.answer))
            if facts.kind == "unit"
            else say("{answer} up", answer=facts.answer)
        )
        self.take.setText(say("Take {what} for {count}", what=what, count=len(facts.take)))
        self.take.setToolTip(
            one_or_many(
                len(facts.take),
                "Keep a step that says so for {count} file of this folder",
                "Keep a step that says so for {count} files of this folder",
            )
        )
        self.take.setVisible(bool(facts.take))
        self.doubts.setText(say("Look at {count} in doubt", count=len(facts.doubts)))
        self.doubts.setToolTip(say("Select those that differ from their folder, and those of which nobody can tell"))
        self.doubts.setVisible(bool(facts.doubts))
        self.tiles.show_tiles(facts.tiles, selected)
        # A line that wraps makes it higher than the layout above last heard.
        layout = self.layout()
        if layout is not None:
            layout.invalidate()
            self.setMinimumHeight(layout.minimumHeightForWidth(self.width()))
