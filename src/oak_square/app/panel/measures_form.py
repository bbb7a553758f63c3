"""The measurements: what was taken with the Dividers, read anew as steps change it, copied, or made a known length."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLabel, QPushButton, QTableWidgetItem, QWidget

from oak_square.app.facts.measurements import MeasureRow
from oak_square.app.widgets.entries import LengthEdit
from oak_square.app.widgets.fields import Choices, column, labelled, push_button, quiet_table, section, soft
from oak_square.core.shown_units import ShownUnit
from oak_square.core.words import say

__all__ = ["MeasuresForm"]

_ROW, _MOST_SHOWN = 24, 6


class MeasuresForm(QWidget):
    """Shows rows; wishes to measure, to choose, to forget, for other coordinates, for a length."""

    kind_wished = Signal(str)
    chosen = Signal(int)
    forget_wished = Signal(int)
    frame_wished = Signal(str)
    length_wished = Signal(int, str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        rows = column(self, 6)
        rows.addWidget(section(say("take up the Dividers for"), self))
        self.kind = Choices(
            [
                ("point", "point", say("One point: its coordinates")),
                ("span", "span", say("Two points: how far apart, in all and along each axis")),
                ("angle", "angle", say("Three points: the angle at the second")),
                ("circle", "circle", say("A rim, or three points: diameter and centre")),
                ("plane", "plane", say("A face: where it lies and how it tilts")),
            ],
            self,
        )
        self.kind.chosen.connect(self.kind_wished)
        rows.addWidget(self.kind)
        self.empty = soft(say("Nothing is measured yet. What you measure is kept with the sheet."), self)
        rows.addWidget(self.empty)
        self.table = quiet_table(say("Measurements"), ["of", "reads"], self)
        self.table.horizontalHeader().hide()
        self.table.verticalHeader().setDefaultSectionSize(_ROW)
        self.table.setSelectionBehavior(self.table.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(self.table.SelectionMode.SingleSelection)
        self.table.itemSelectionChanged.connect(self._tell_chosen)
        rows.addWidget(self.table)
        self._details = QWidget(self)
        rows.addWidget(self._details)
        self._fill_details(self._details)
        self._rows: tuple[MeasureRow, ...] = ()
        self._at: int | None = None
        self.values: dict[str, QPushButton] = {}
        self._showing = False
        self.table.installEventFilter(self)

    def _fill_details(self, page: QWidget) -> None:
        rows = column(page, 6)
        self.frame = QComboBox(page)
        self.frame.setAccessibleName(say("Coordinates along"))
        self.frame.setToolTip(say("Whose axes the coordinates are told along; switched after the fact"))
        self.frame.activated.connect(lambda _: self.frame_wished.emit(str(self.frame.currentData())))
        rows.addWidget(labelled(say("along the axes of"), self.frame, page))
        self._grid = QGridLayout()
        self._grid.setSpacing(2)
        rows.addLayout(self._grid)
        line = QHBoxLayout()
        line.setSpacing(6)
        for word, tip, work in (
            (
                say("Copy all"),
                say("Copy the whole measurement (Ctrl+C); click a number to copy that one"),
                self._copy_whole,
            ),
            (say("Forget it"), say("Take this measurement off the list"), self._forget_chosen),
        ):
            button = push_button(word, tip, page)
            button.clicked.connect(work)
            line.addWidget(button)
        line.addStretch(1)
        rows.addLayout(line)
        self.length = LengthEdit(
            say("Make this length"), say("The length that this span shall be; all is sized with it"), page
        )
        self.length.entered.connect(self._lengthen_chosen)
        self._length_row = labelled(say("make this length"), self.length, page)
        rows.addWidget(self._length_row)

    def show_kind(self, kind: str | None) -> None:
        """Show what is being measured; None when the Dividers lie by."""
        self.kind.show_choice(kind)

    def show_frames(self, frames: Sequence[tuple[str, str]], now: str) -> None:
        """Offer frames for the coordinates, as (key, words)."""
        if [(self.frame.itemData(k), self.frame.itemText(k)) for k in range(self.frame.count())] != list(frames):
            self.frame.clear()
            for key, words in frames:
                self.frame.addItem(words, key)
        self.frame.setCurrentIndex(max(0, self.frame.findData(now)))

    def show_measures(self, rows: Sequence[MeasureRow], at: int | None, shown: ShownUnit) -> None:
        """Match the list to `rows`, and the details to the one at `at`."""
        self._showing = True
        self._rows, self._at = tuple(rows), at
        self.empty.setVisible(not rows)
        self.table.setVisible(bool(rows))
        self.table.setRowCount(len(rows))
        for k, row in enumerate(rows):
            for j, text in enumerate((row.title, row.reads)):
                item = QTableWidgetItem(text)
                item.setToolTip(row.whole)
                if j:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(k, j, item)
        self.table.setFixedHeight(_ROW * min(max(len(rows), 1), _MOST_SHOWN) + 4)
        if at is not None and at < len(rows):
            self.table.selectRow(at)
            self._show_details(rows[at], shown)
        else:
            self.table.clearSelection()
        self._details.setVisible(at is not None and at < len(rows))
        self._showing = False

    def _show_details(self, row: MeasureRow, shown: ShownUnit) -> None:
        for button in self.values.values():
            button.hide()
            button.deleteLater()
        while (item := self._grid.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.values = {}
        exact = dict(row.exact)
        for k, (name, words) in enumerate(row.values):
            label = QLabel(name, self._details)
            label.setProperty("role", "soft")
            button = push_button(words, say("Copy {exact}", exact=exact[name]), self._details, "value")
            button.clicked.connect(lambda _=False, w=exact[name]: QGuiApplication.clipboard().setText(w))
            self.values[name] = button
            self._grid.addWidget(label, k, 0)
            self._grid.addWidget(button, k, 1)
            label.show()
            button.show()
        self._length_row.setVisible(row.length_m is not None)
        self.length.show_length(self.length.text(), row.length_m, shown)

    def show_length(self, text: str, shown: ShownUnit) -> None:
        """Show the length that a step makes of a span; empty for none."""
        self.length.show_length(text, self.length.present_m or None, shown)

    def _tell_chosen(self) -> None:
        rows = self.table.selectionModel().selectedRows()
        if not self._showing and rows:
            self.chosen.emit(rows[0].row())

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Take the key that copies, in the list, before the window does."""
        kinds = (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress)
        if event.type() not in kinds or not isinstance(event, QKeyEvent):
            return False
        if not event.matches(QKeySequence.StandardKey.Copy):
            return False
        event.accept()
        if event.type() == QEvent.Type.KeyPress:
            self._copy_whole()
        return True

    def _copy_whole(self) -> None:
        if self._at is not None and self._at < len(self._rows):
            QGuiApplication.clipboard().setText(self._rows[self._at].whole)

    def _forget_chosen(self) -> None:
        if self._at is not None:
            self.forget_wished.emit(self._at)

    def _lengthen_chosen(self, text: str) -> None:
        if self._at is not None:
            self.length_wished.emit(self._at, text)
