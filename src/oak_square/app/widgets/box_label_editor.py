"""The field that opens on a size plate: type an extent, choose what follows."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtWidgets import QFrame, QVBoxLayout, QWidget

from oak_square.app.widgets.entries import LengthEdit
from oak_square.app.widgets.fields import Choices, section, soft
from oak_square.core.shown_units import ShownUnit
from oak_square.core.words import say

__all__ = ["BoxLabelEditor"]

_WIDE = 190


class BoxLabelEditor(QFrame):
    """Shows one extent; wishes for a size step as it is typed. Enter and Esc are the window's."""

    words_wished = Signal(dict)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("plate-editor")
        self.setFixedWidth(_WIDE)
        self.name, self._text, self._keep = "height", "", "proportions"
        self._shown = ShownUnit()
        self._is_common = False
        self._several = False
        self.field = LengthEdit(say("Extent"), say("The length it shall have"), self)
        self.field.entered.connect(self._type_length)
        self.field.complained.connect(lambda why: self._show_why(why))
        self.keep = Choices(
            [
                ("proportions", say("all", "extents"), say("The other extents follow in proportion")),
                ("none", say("nothing", "follows"), say("Only this extent changes")),
                ("volume", "volume", say("The other extents give way, so that the volume stays")),
            ],
            self,
        )
        self.keep.chosen.connect(self._choose_keep)
        self.hint = soft("", self)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(7, 7, 7, 7)
        rows.setSpacing(4)
        self._follows = section(say("and what follows"), self)
        for widget in (self.field, self._follows, self.keep, self.hint):
            rows.addWidget(widget)
        self.hide()

    def open_at(
        self, name: str, plate: QRectF, present_m: float, shown: ShownUnit, *, common: bool, several: bool = False
    ) -> None:
        """Open on a plate; with `common`, it is the common box of all that is selected, which is sized as one.

        With `several` a share of what it is now, typed, is one factor for all of them too.
        """
        self._several = several
        self.name, self._text, self._keep, self._shown = name, "", "proportions", shown
        self._is_common = common
        self.field.setModified(False)
        self.field.show_length("", present_m, shown)
        self.keep.show_choice(self._keep)
        self._show_why("")
        self.adjustSize()
        above = self.parentWidget()
        assert above is not None
        room = above.size()
        left = min(max(plate.center().x() - _WIDE / 2, 8.0), room.width() - _WIDE - 8.0)
        top = min(max(plate.top() - 6, 44.0), room.height() - self.height() - 8.0)
        self.move(round(left), round(top))
        self.show()
        self.raise_()
        self.field.setFocus(Qt.FocusReason.MouseFocusReason)

    def _show_why(self, why: str) -> None:
        usual = (
            say("Enter keeps, Esc drops.")
            if not self._is_common
            else say("All that is selected, as one. Enter keeps, Esc drops.")
        )
        self.hint.setText(why or usual)
        self.adjustSize()

    def _type_length(self, text: str) -> None:
        self._text = text
        self.words_wished.emit(self._step_words())

    def _choose_keep(self, key: str) -> None:
        self._keep = key
        if self._text:
            self.words_wished.emit(self._step_words())

    def _step_words(self) -> dict[str, Any]:
        if not self._text:
            return {}
        if self._several and self.field.factor is not None:
            return {"do": "size", "factor": self.field.factor}
        words: dict[str, Any] = {"do": "size", self.name: self._text}
        if self._keep != "proportions":
            words["keep"] = self._keep
        return words
