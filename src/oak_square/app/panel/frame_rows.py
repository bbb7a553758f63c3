"""Rows that say along which axes numbers are, and about what something happens."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QComboBox, QWidget

from oak_square.app.panel.point_row import PointRow
from oak_square.app.widgets.fields import Choices, column, labelled
from oak_square.core.terms import term
from oak_square.core.words import number, say
from oak_square.steps.centre import spot_words

__all__ = ["AlongRow", "CentreRow", "centre_said"]

_AXES = (
    ("world", "world", say("Along the world's axes")),
    ("own", "own", say("Along its own axes")),
    ("parent", say("parent's"), say("Of parts and groups: along the axes of what it hangs from")),
)
_CENTRES = (
    ("pivot", say("its pivot"), say("Its pivot stays in place")),
    ("base", "base", say("The middle of the bottom of its box stays in place")),
    ("middle", "middle", say("The middle of its box stays in place")),
    ("origin", "origin", say("0, 0, 0 stays in place")),
    ("mean", "mean", say("Of several: the mean of their pivots stays in place")),
    ("common", "common", say("Of several: the middle of their common box stays in place")),
)
_OF_SEVERAL = ("mean", "common")


class AlongRow(QWidget):
    """Shows the axes that numbers are along; wishes for others: `world`, `own`, `parent` or `{datum: NAME}`."""

    chosen = Signal(object)

    def __init__(self, parent: QWidget, *, word: str = say("along")) -> None:
        super().__init__(parent)
        rows = column(self, 4)
        self.kinds = Choices(_AXES, self, tight=True)
        self.kinds.chosen.connect(self._choose_axes)
        for key, name in (("world", say("Along the world's axes")), ("own", say("Along its own axes")),
                          ("parent", say("Along its parent's axes"))):  # fmt: skip
            self.kinds.buttons[key].setAccessibleName(name)
        rows.addWidget(labelled(word, self.kinds, self))
        self.datums = QComboBox(self)
        self.datums.setAccessibleName(say("Along the axes of a datum"))
        self.datums.setToolTip(say("Along the axes of a datum, by its name"))
        self.datums.activated.connect(self._choose_datum)
        rows.addWidget(self.datums)
        self.along: Any = "world"

    @property
    def buttons(self) -> Mapping[str, QWidget]:
        """The button of each kind of axes."""
        return self.kinds.buttons

    def _choose_axes(self, key: str) -> None:
        self.along = key
        self.chosen.emit(key)

    def _choose_datum(self, index: int) -> None:
        name = self.datums.itemData(index)
        if name is not None:
            self.along = {"datum": name}
            self.chosen.emit(self.along)

    def told(self) -> dict[str, Any]:
        """Return the axes as a step says them; nothing for the world's."""
        return {} if self.along == "world" else {"along": self.along}

    def show_along(self, along: Any, names: Mapping[str, Sequence[str]], *, of_nodes: bool, own: bool = True) -> None:
        """Match the row to some axes; `own` and the parent's can be chosen where a step of these can have them."""
        self.along = along
        self.kinds.show_choice(along if isinstance(along, str) else None)
        self.kinds.show_word("parent", "parent's", enabled=of_nodes)
        self.kinds.show_word("own", "own", enabled=of_nodes or own)
        held = along["datum"] if isinstance(along, dict) else None
        known = [*names.get("datum", ())]
        known += [held] if held is not None and held not in known else []
        with QSignalBlocker(self.datums):
            self.datums.clear()
            self.datums.addItem(say("or along a datum…"), None)
            for name in known:
                self.datums.addItem(say("datum {name}", name=name), name)
            self.datums.setCurrentIndex(max(0, self.datums.findData(held)) if held is not None else 0)
        self.datums.setVisible(bool(known))


class CentreRow(QWidget):
    """Shows a centre; wishes for another: a word, a mark, a datum, a part's pivot, or coordinates."""

    chosen = Signal(object)
    pick_wished = Signal()

    def __init__(
        self, parent: QWidget, *, tip: str = say("Pick what it happens about: a corner, a circle, a pivot")
    ) -> None:
        super().__init__(parent)
        rows = column(self, 4)
        self.kinds = Choices(_CENTRES, self, per_row=3)
        self.kinds.chosen.connect(self.choose)
        for key, word, _ in _CENTRES:
            self.kinds.buttons[key].setAccessibleName(say("About {about}", about=term(word)))
        rows.addWidget(self.kinds)
        self.point = PointRow(tip, ("mark", "datum", "part"), self)
        self.point.pick_wished.connect(self.pick_wished)
        self.point.chosen.connect(self.choose)
        rows.addWidget(self.point)
        self.centre: Any = "pivot"

    @property
    def buttons(self) -> Mapping[str, QWidget]:
        """The button of each kind of centre."""
        return self.kinds.buttons

    def choose(self, centre: Any, _pick: object = None) -> None:
        """Wish for a centre."""
        self.centre = dict(centre) if isinstance(centre, Mapping) else centre
        self.chosen.emit(self.centre)

    def show_centre(self, centre: Any, names: Mapping[str, Sequence[str]], *, of_nodes: bool) -> None:
        """Match the row to a centre."""
        self.centre = centre
        self.kinds.show_choice(centre if isinstance(centre, str) else None)
        for key, word, _ in _CENTRES:
            self.kinds.show_word(key, word, enabled=of_nodes or key not in _OF_SEVERAL)
        self.point.show_names(names, centre)


def centre_said(centre: Any) -> str:
    """Return a centre in a few words."""
    if isinstance(centre, str):
        return term(next(word for key, word, _ in _CENTRES if key == centre))
    if "xyz" in centre:
        return number(", ".join(str(v) for v in centre["xyz"]))
    kind, name = next(iter(centre.items()))
    if kind == "point":
        words = spot_words(name)
    else:
        words = say("the pivot of {name}", name=name) if kind == "part" else f"{term(kind)} {name}"
    return say("{place} on {name}", place=words, name=centre["of"]) if "of" in centre else words
