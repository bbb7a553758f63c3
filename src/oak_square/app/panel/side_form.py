"""Which side of the asset looked at is up, in the Turn panel: each that could be, its share, what speaks for it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.app.facts.folder import SideRow
from oak_square.app.facts.units import CandidateRow
from oak_square.app.widgets.candidates import Candidates
from oak_square.app.widgets.fields import column, soft
from oak_square.core.likely.units import percent
from oak_square.core.words import say

__all__ = ["SideForm"]


class SideForm(QWidget):
    """Shows the sides; wishes for one."""

    axis_wished = Signal(str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        self.asks = soft("", self)
        rows.addWidget(self.asks)
        self.candidates = Candidates(self)
        self.candidates.unit_wished.connect(self.axis_wished)
        rows.addWidget(self.candidates)
        self.why = soft("", self)
        rows.addWidget(self.why)

    def show_sides(self, name: str, sides: Sequence[SideRow]) -> None:
        """Match the form to the sides that could be up; hidden where nothing is known."""
        self.setVisible(bool(sides))
        self.asks.setText(say("{name}: in the file, up is most likely", name=name) if sides else "")
        self.candidates.show_rows([_side_words(side) for side in sides])
        why = next((s.says for s in sides if s.says), "")
        self.why.setText(say("Because {why}.", why=why) if why else "")
        self.why.setVisible(bool(why))


def _side_words(side: SideRow) -> CandidateRow:
    says = say("as it is read") if side.holds else ""
    tip = say("Read it with {axis} up, {percent}", axis=side.axis, percent=percent(side.share))
    return CandidateRow(
        unit=side.axis, word=side.axis.replace("-", "\u2212"), size=percent(side.share), says=says, share=side.share,
        holds=side.holds, tip=f"{tip}\n{side.says}" if side.says else tip,
    )  # fmt: skip
