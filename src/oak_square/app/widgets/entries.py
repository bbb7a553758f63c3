"""Fields that numbers are typed into: lengths with their units, factors, angles; relative entries too."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QApplication, QHBoxLayout, QLabel, QLineEdit, QWidget

from oak_square.core.errors import BadLength
from oak_square.core.lengths import as_written, parse_entry, parse_factor, point_in
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import Words, number, say

__all__ = ["LengthEdit", "NumberEdit", "ShareEdit", "Triple", "fields_of", "unreadable"]

_RELATIVE = ("+", "*", "/", "×")


class _Entry(QLineEdit):
    """Reads what is typed as it is typed. What can't be read as a whole is marked, and `why` says so."""

    complained = Signal(str)  # why what is typed can't be read; empty once it can

    def __init__(self, name: str, tip: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setAccessibleName(term(name))
        self._tip, self.why = tip, ""
        self.setToolTip(tip)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.textEdited.connect(self.read_typed)

    def show_text(self, text: str) -> None:
        """Show a value; what is being typed is left alone."""
        if not self.hasFocus() or not self.isModified():
            self.setText(text if isinstance(text, Words) else number(text))
            self.complain("")
            if not self.hasFocus():
                self.setCursorPosition(0)  # of a long number its front is read

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Go on typing behind what stands there, wherever it was read from."""
        super().focusInEvent(event)
        if event.reason() != Qt.FocusReason.MouseFocusReason and not self.hasSelectedText():
            self.end(False)

    def read_typed(self, text: str) -> None:
        raise TypeError("each kind of field reads its own text")

    def complain(self, why: str) -> None:
        """Mark the field as one that can't be read so, and say why; empty takes the mark away."""
        if why != self.why:
            self.why = why
            self.complained.emit(why)
        self.setToolTip(why or self._tip)
        if self.property("wrong") != bool(why):
            self.setProperty("wrong", bool(why))
            self.style().unpolish(self)
            self.style().polish(self)


class LengthEdit(_Entry):
    """A length. `entered` carries it as a sheet would write it; empty for none."""

    entered = Signal(str)

    def __init__(self, name: str, tip: str, parent: QWidget) -> None:
        super().__init__(
            name, f"{tip}\n" + say("90 cm, 3' 6\", 5.2 m; or from what it is now: +4cm, *0.5, 50%"), parent
        )
        self.present_m: float | None = 0.0
        self._unit = ShownUnit()

    def show_length(
        self, text: str, present_m: float | None, unit: ShownUnit, *, as_shown: ShownUnit | None = None
    ) -> None:
        """Show `text`, or nothing over what the length is now, as `as_shown`; what is typed bare is in `unit`."""
        self.present_m, self._unit = present_m, unit
        self.setPlaceholderText("" if present_m is None else (as_shown or unit).length(present_m))
        self.show_text(text)

    def read_typed(self, text: str) -> None:
        if not text.strip():
            self.complain("")
            self.entered.emit("")
            return
        try:
            relative = as_written(text).startswith(_RELATIVE) or text.strip().endswith("%")
            if relative and self.present_m is None:
                raise BadLength(say("there is no one length that this could be told from"))
            metres = parse_entry(text, present=self.present_m or 0.0, bare=self._unit.bare, module=self._unit.module)
            typed = self._unit.as_typed(as_written(text))
        except BadLength as error:
            self.complain(str(error))
            return
        self.complain("")
        self.entered.emit(f"{metres:.9g} m" if relative else typed)


class ShareEdit(_Entry):
    """A length, or a share of something in per cent. `entered` carries it as a sheet would write it; empty for none."""

    entered = Signal(str)

    def __init__(self, name: str, tip: str, parent: QWidget) -> None:
        super().__init__(name, tip, parent)
        self._unit = ShownUnit()

    def show_share(self, text: str, unit: ShownUnit) -> None:
        """Show `text`; what is typed bare is in `unit`."""
        self._unit = unit
        self.show_text(text)

    def read_typed(self, text: str) -> None:
        told, body = "", as_written(text).strip()
        try:
            if body.endswith("%"):
                share = float(body.removesuffix("%"))
                if not 0 <= share <= 100:
                    raise BadLength(say("a share lies between 0 and 100 %"))
                told = f"{share:g} %"
            elif body:
                if parse_entry(body, present=0.0, bare=self._unit.bare, module=self._unit.module) < 0:
                    raise BadLength(say("it must not be less than nothing"))
                told = self._unit.as_typed(body)
        except (BadLength, ValueError) as error:
            self.complain(str(error))
            return
        self.complain("")
        self.entered.emit(told)


class NumberEdit(_Entry):
    """A plain number: a factor, or degrees. `entered` carries it, or None when the field is empty."""

    entered = Signal(object)

    def __init__(self, name: str, tip: str, parent: QWidget, *, factor: bool = False) -> None:
        super().__init__(name, tip, parent)
        self._read: Callable[[str], float] = parse_factor if factor else _degrees

    @property
    def value(self) -> float | None:
        """The number that stands there; None where there is none that can be read."""
        try:
            return self._read(as_written(self.text())) if self.text().strip() else None
        except (BadLength, ValueError):
            return None

    def read_typed(self, text: str) -> None:
        if not text.strip():
            self.complain("")
            self.entered.emit(None)
            return
        try:
            value = self._read(as_written(text))
        except (BadLength, ValueError) as error:
            self.complain(str(error))
            return
        self.complain("")
        self.entered.emit(value)


def fields_of(within: QWidget) -> list[_Entry]:
    """Return the fields that numbers are typed into there."""
    return within.findChildren(_Entry)


def unreadable(within: QWidget) -> str:
    """Return why something that is typed there can't be read, with the field's name; empty where all can."""
    fields = (e for e in fields_of(within) if e.why and e.isVisible())
    return next((f"{e.accessibleName()}: {e.why}" for e in fields), "")


def _degrees(text: str) -> float:
    body = text.strip().replace("−", "-").removesuffix("°").strip()
    try:
        return float(body)
    except ValueError as error:
        raise ValueError(say("'{text}' is no angle in degrees", text=text)) from error


class Triple(QWidget):
    """Three fields in a row, each under its letter; three lengths that are pasted go one into each."""

    def __init__(self, fields: Sequence[tuple[str, QWidget]], parent: QWidget) -> None:
        super().__init__(parent)
        self.fields = [field for _, field in fields]
        for field in self.fields:
            field.installEventFilter(self)
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(4)
        for letter, field in fields:
            label = QLabel(letter, self)
            label.setBuddy(field)
            line.addWidget(label)
            field.setMinimumWidth(40)
            line.addWidget(field, 1)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Take a point that is pasted apart; what is no point is pasted as ever."""
        if event.type() != QEvent.Type.KeyPress or not isinstance(event, QKeyEvent):
            return False
        if not event.matches(QKeySequence.StandardKey.Paste):
            return False
        parts = point_in(QApplication.clipboard().text())
        if parts is None or len(self.fields) != 3:
            return False
        for field, text in zip(self.fields, parts, strict=True):
            if isinstance(field, _Entry):
                field.setText(number(text))
                field.setModified(True)
                field.textEdited.emit(field.text())
        return True
