"""A row that takes a point or a direction: picked in the view, or one that has a name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QWidget

from oak_square.app.widgets.fields import push_button
from oak_square.core.terms import TERMS, term
from oak_square.core.words import number, say

__all__ = ["PointRow"]

_KINDS = {"mark": "mark", "datum": "datum", "berth": "berth", "asset": "asset"}


class PointRow(QWidget):
    """Shows which point holds; wishes for another: `{mark: NAME}`, `{datum: NAME}` or `{part: NAME}`.

    One that is held by its coordinates is shown by them.
    """

    chosen = Signal(object)
    pick_wished = Signal()

    def __init__(
        self,
        tip: str,
        kinds: Sequence[str],
        parent: QWidget,
        *,
        word: str = say("pick in the view"),
        part: str = say("pivot of"),
    ) -> None:
        """Take what the button says, and what stands before a part's name."""
        super().__init__(parent)
        self._said = {**_KINDS, "part": part}
        self._kinds = tuple(kinds)
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(4)
        self.pick = push_button(word, tip, self, "choice")
        self.pick.clicked.connect(self.pick_wished)
        self.names = QComboBox(self)
        self.names.setAccessibleName(say("A point that has a name"))
        self.names.setToolTip(say("A mark, a datum, or another part's pivot, by its name"))
        self.names.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.names.setMinimumContentsLength(8)
        self.names.activated.connect(self._choose_name)
        line.addWidget(self.pick)
        line.addWidget(self.names, 1)

    def _choose_name(self, index: int) -> None:
        told = self.names.itemData(index)
        if told:
            self.chosen.emit({told[0]: told[1]})

    def show_names(self, names: Mapping[str, Sequence[str]], holds: Any) -> None:
        """Offer what has a name, by kind; `holds` is the one in force, or something that has none."""
        told = {} if not isinstance(holds, Mapping) else holds
        held = next(((k, told[k]) for k in self._kinds if k in told), None)
        on = say(" on {name}", name=told["of"]) if "of" in told else ""
        with QSignalBlocker(self.names):
            self.names.clear()
            self.names.addItem(say("by name…"), None)
            for kind in self._kinds:
                for name in names.get(kind, ()):
                    self.names.addItem(f"{term(self._said[kind])} {name}", (kind, name))
            if held is not None and on:
                self.names.addItem(f"{term(self._said[held[0]])} {held[1]}{on}", None)
                self.names.setCurrentIndex(self.names.count() - 1)
            elif held is not None:
                at = next((k for k in range(self.names.count()) if self.names.itemData(k) == held), -1)
                if at < 0:
                    self.names.addItem(f"{term(self._said[held[0]])} {held[1]}", held)
                    at = self.names.count() - 1
                self.names.setCurrentIndex(at)
            elif "xyz" in told or isinstance(holds, list | tuple):
                numbers = ", ".join(_in_words(v) for v in (told.get("xyz") or holds))
                self.names.addItem(
                    say("at {numbers} of the part", numbers=numbers)
                    if told.get("in")
                    else say("at {numbers}", numbers=numbers),
                    None,
                )
                self.names.setCurrentIndex(self.names.count() - 1)


def _in_words(place: object) -> str:
    """Return a side, a length or a fraction as people read it."""
    return term(place) if isinstance(place, str) and place in TERMS else number(str(place))
