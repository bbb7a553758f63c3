"""Fields that numbers are typed into: lengths with their units, factors, angles; relative entries too."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QResizeEvent
from PySide6.QtWidgets import QApplication, QGridLayout, QLabel, QLineEdit, QWidget

from oak_square.core.errors import BadLength
from oak_square.core.lengths import as_written, is_relative, parse_entry, parse_factor, parse_length, point_in, shortest
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import Words, number, say

__all__ = ["LengthEdit", "NumberEdit", "ShareEdit", "Triple", "fields_of", "unreadable"]


_FIELD_EDGES, _NARROWEST = 22, 200  # pixels: of a field beside its text; of three fields before they are laid out


class _Entry(QLineEdit):
    """Reads what is typed as it is typed. What can't be read as a whole is marked, and `why` says so."""

    complained = Signal(str)  # why what is typed can't be read; empty once it can

    def __init__(self, name: str, tip: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setAccessibleName(term(name))
        self._tip, self.why = tip, ""
        self._began_m: float | None = 0.0  # the length as the entry began, and what was typed comes to
        self._came_to_m: float | None = None
        self.setToolTip(tip)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.textEdited.connect(self.read_typed)

    @property
    def is_typed_in(self) -> bool:
        """Whether someone is typing in it just now."""
        return self.hasFocus() and self.isModified()

    def show_text(self, text: str) -> None:
        """Show a value; what is being typed is left alone."""
        if not self.is_typed_in:
            self.setText(text if isinstance(text, Words) else number(text))
            self.complain("")
            if not self.hasFocus():
                self.setCursorPosition(0)  # of a long number its front is read

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Go on typing behind what stands there, wherever it was read from."""
        super().focusInEvent(event)
        self.begin_entry()
        if event.reason() != Qt.FocusReason.MouseFocusReason and not self.hasSelectedText():
            self.end(False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """What is typed over all that stood there is an entry of its own: it is told from what that came to."""
        if self.hasSelectedText() and self.selectedText() == self.text() and event.text().isprintable():
            self.begin_entry()
        super().keyPressEvent(event)

    def begin_entry(self) -> None:
        """Take note that another entry begins: what was typed before is what is there now."""
        if self._came_to_m is not None:
            self._began_m = self._came_to_m

    def note_shown(self, metres: float | None) -> None:
        """Take note of the length that is shown, unless someone is typing another."""
        if not self.is_typed_in:
            self._began_m, self._came_to_m = metres, None

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
            name, f"{tip}\n" + say("90 cm, 5' 3\", 5.2 m; or from what it is now: +4cm, *0.5, 50%"), parent
        )
        self.present_m: float | None = 0.0
        self.factor: float | None = None
        """How many times what it is now was typed, where it was told from that."""
        self._unit = ShownUnit()

    def show_length(
        self, text: str, present_m: float | None, unit: ShownUnit, *, as_shown: ShownUnit | None = None
    ) -> None:
        """Show `text`, or nothing over what the length is now, as `as_shown`; what is typed bare is in `unit`."""
        self.present_m, self._unit = present_m, unit
        told = _metres_in(text, unit)
        self.note_shown(present_m if told is None else told)
        self.setPlaceholderText("" if present_m is None else (as_shown or unit).length(present_m))
        self.show_text(text)

    def factor_for(self, text: str, *, together: bool) -> float | None:
        """Return how many times what it is now a length is: as it was typed, or worked out for all `together`."""
        if self.factor is not None or not together or not self.present_m:
            return self.factor
        metres = parse_length(text, bare=self._unit.bare, module=self._unit.module)
        return float(f"{metres / self.present_m:.12g}")

    def read_typed(self, text: str) -> None:
        self.factor = None
        if not text.strip():
            self.complain("")
            self.entered.emit("")
            return
        try:
            relative = is_relative(text)
            if relative and self._began_m is None:
                raise BadLength(say("there is no one length that this could be told from"))
            metres = parse_entry(text, present=self._began_m or 0.0, bare=self._unit.bare, module=self._unit.module)
            typed = self._unit.as_typed(as_written(text))
        except BadLength as error:
            self.complain(str(error))
            return
        self.complain("")
        self._came_to_m = metres
        self.factor = float(f"{metres / self.present_m:.12g}") if relative and self.present_m else None
        self.entered.emit(f"{shortest(metres)} m" if relative else typed)


class ShareEdit(_Entry):
    """A length, or a share of something in per cent. `entered` carries it as a sheet would write it; empty for none."""

    entered = Signal(str)

    def __init__(self, name: str, tip: str, parent: QWidget, *, signed: bool = False) -> None:
        """With `signed`, a length may be less than nothing."""
        super().__init__(name, tip, parent)
        self._unit, self._signed = ShownUnit(), signed

    def show_share(self, text: str, unit: ShownUnit) -> None:
        """Show `text`; what is typed bare is in `unit`."""
        self._unit = unit
        self.note_shown(_metres_in(text, unit) or 0.0)
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
                unit = self._unit
                metres = parse_entry(body, present=self._began_m or 0.0, bare=unit.bare, module=unit.module)
                if metres < 0 and not self._signed:
                    raise BadLength(say("it must not be less than nothing"))
                self._came_to_m = metres
                told = f"{shortest(metres)} m" if is_relative(body) else unit.as_typed(body)
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
        self._read: Callable[[str], float] = parse_factor if factor else _parse_degrees

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


def _metres_in(text: str, unit: ShownUnit) -> float | None:
    """Return the length that a sheet's text says, metres; None where it says none."""
    try:
        return parse_length(as_written(text), bare=unit.bare, module=unit.module) if text.strip() else None
    except BadLength:
        return None


def fields_of(within: QWidget) -> list[_Entry]:
    """Return the fields that numbers are typed into there."""
    return within.findChildren(_Entry)


def unreadable(within: QWidget) -> str:
    """Return why something that is typed there can't be read, with the field's name; empty where all can."""
    fields = (e for e in fields_of(within) if e.why and e.isVisible())
    return next((f"{e.accessibleName()}: {e.why}" for e in fields), "")


def _parse_degrees(text: str) -> float:
    body = text.strip().replace("−", "-").removesuffix("°").strip()
    try:
        return float(body)
    except ValueError as error:
        raise ValueError(say("'{text}' is no angle in degrees", text=text)) from error


class Triple(QWidget):
    """Three fields, each beside its letter; three lengths that are pasted go one into each.

    They stand in a row, or below one another where a number would not be seen whole.
    """

    def __init__(self, fields: Sequence[tuple[str, QWidget]], parent: QWidget) -> None:
        super().__init__(parent)
        self.fields = [field for _, field in fields]
        self._labels: list[QLabel] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(4)
        for letter, field in fields:
            field.installEventFilter(self)
            label = QLabel(letter, self)
            label.setBuddy(field)
            self._labels.append(label)
            field.setMinimumWidth(40)
            if isinstance(field, QLineEdit):
                field.textChanged.connect(lambda _: self._fit_fields())
        self._stacked: bool | None = None
        self._place_fields(stacked=False)

    def _place_fields(self, *, stacked: bool) -> None:
        if stacked == self._stacked:
            return
        self._stacked = stacked
        for k, (label, field) in enumerate(zip(self._labels, self.fields, strict=True)):
            row, column = (k, 0) if stacked else (0, 2 * k)
            self._grid.addWidget(label, row, column)
            self._grid.addWidget(field, row, column + 1)
            self._grid.setColumnStretch(2 * k + 1, 0 if stacked and k else 1)

    def _fit_fields(self) -> None:
        """Stand as there is room for; not while someone types."""
        if any(isinstance(field, _Entry) and field.is_typed_in for field in self.fields):
            return
        texts = [field.text() for field in self.fields if isinstance(field, QLineEdit)]
        wide = max((self.fontMetrics().horizontalAdvance(text) for text in texts), default=0) + _FIELD_EDGES
        letters = sum(label.sizeHint().width() + 8 for label in self._labels)
        self._place_fields(stacked=3 * wide + letters > max(self.width(), _NARROWEST))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Stand as there is room for."""
        super().resizeEvent(event)
        self._fit_fields()

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
