"""The second line at the foot: what is picked and snapped to, at which steps, along which axes and about what."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from typing import Any

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QAction, QActionGroup, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QInputDialog, QLabel, QMenu, QPushButton, QWidget

from oak_square.app.widgets.actions import tip
from oak_square.app.widgets.fields import push_button
from oak_square.app.widgets.tab_order import ButtonRow
from oak_square.app.widgets.theme import colour
from oak_square.app.widgets.things_menu import ThingsButton
from oak_square.core.errors import BadLength
from oak_square.core.lengths import as_written, parse_length
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import number, say

__all__ = ["HoldBar"]

_STEPS = (0.0, 1.0, 5.0, 15.0, 22.5, 30.0, 45.0, 90.0)
_GRIDS = ("1 mm", "1 cm", "5 cm", "10 cm", "25 cm", "50 cm", "1 m")
_NAMED = re.compile(r"^(?:datum |mark )?'?([^']+)'?$")  # a name alone, where the button's tooltip says of what
_TIGHT, _TIGHT_BESIDE, _LONGEST, _SHORT = 600, 850, 20, 9  # pixels of width; letters of what holds
_KINDS = ("vertex", "edge middle", "edge", "face centre", "circle centre", "pivot", "box point", "surface")


class _Switch(QAbstractButton):
    """A kind's own shape, to be switched on and off."""

    def __init__(self, kind: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._kind = kind
        self.setCheckable(True)
        self.setChecked(True)
        self.setFixedSize(QSize(24, 24))
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName(say("Pick and snap to: {kind}", kind=term(kind)))
        self.setToolTip(say("Pick and snap to: {kind}", kind=term(kind)))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5)
        if self.isChecked():
            painter.setPen(QPen(colour("oak"), 1))
            painter.setBrush(colour("oak-pale"))
            painter.drawRoundedRect(room, 4, 4)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("ink" if self.isChecked() else "ink-soft"), 1.4))
        _draw_snap_sign(painter, room.center(), self._kind)
        if not self.isChecked():
            painter.drawLine(room.bottomLeft() + QPointF(3, -3), room.topRight() + QPointF(-3, 3))
        if self.hasFocus():
            painter.setPen(QPen(colour("oak-deep"), 1.4))
            painter.drawRoundedRect(room, 4, 4)


def _draw_snap_sign(painter: QPainter, at: QPointF, kind: str) -> None:
    if kind == "vertex":
        painter.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8))
    elif kind == "edge middle":
        painter.drawPolygon(QPolygonF([at + QPointF(0, -5), at + QPointF(5, 4), at + QPointF(-5, 4)]))
    elif kind == "edge":
        painter.drawLine(at + QPointF(-6, 5), at + QPointF(6, -5))
    elif kind == "face centre":
        painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in ((0, -6), (6, 0), (0, 6), (-6, 0))]))
    elif kind == "circle centre":
        painter.drawEllipse(at, 5.5, 5.5)
        painter.drawPoint(at)
    elif kind == "pivot":
        painter.drawLine(at + QPointF(0, -7), at)
        painter.drawPolygon(QPolygonF([at + QPointF(x, y) for x, y in ((-4, 0), (4, 0), (0, 7))]))
    elif kind == "box point":
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))
        painter.drawLine(at + QPointF(-2, 0), at + QPointF(2, 0))
        painter.drawLine(at + QPointF(0, -2), at + QPointF(0, 2))
    elif kind == "grid":
        for d in (-3.5, 3.5):
            painter.drawLine(at + QPointF(d, -6), at + QPointF(d, 6))
            painter.drawLine(at + QPointF(-6, d), at + QPointF(6, d))
    else:
        painter.drawArc(QRectF(at.x() - 7, at.y() - 3, 14, 12), 30 * 16, 120 * 16)
        painter.drawEllipse(at, 1.5, 1.5)


class HoldBar(QWidget):
    """Shows how things are taken hold of; wishes for other ways."""

    kinds_wished = Signal(object)  # frozenset of str
    grid_wished = Signal(bool, float)  # whether moves snap to it, metres between its lines
    step_wished = Signal(float)  # degrees
    along_wished = Signal(str)
    about_wished = Signal(str)
    about_pick_wished = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(30)
        line = QHBoxLayout(self)
        line.setContentsMargins(12, 0, 12, 2)
        line.setSpacing(2)
        self._snap = QLabel(say("snap"), self)
        self._snap.setProperty("role", "soft")
        line.addWidget(self._snap)
        line.addSpacing(4)
        self.switches: dict[str, _Switch] = {}
        for kind in (*_KINDS, "grid"):
            switch = self.switches[kind] = _Switch(kind, self)
            line.addWidget(switch)
            switch.clicked.connect(self._tell_grid if kind == "grid" else self._tell_kinds)
        self.switches["grid"].setToolTip(say("Snap to the grid; right click sets its spacing"))
        self.switches["grid"].setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.switches["grid"].customContextMenuRequested.connect(lambda _: self._grid_menu())
        self.switches["grid"].setChecked(False)
        self._grid_m, self._unit = 0.1, ShownUnit()
        self._drawn = (1.0, 5)
        self._said = (say("world"), say("its pivot"))
        line.addSpacing(8)
        self.step = self._menu_button("15°", say("What turns snap to while they are dragged; Shift snaps to nothing"))
        self.along = self._menu_button(say("along: world"), "")
        tip(self.along, say("The axes in force; to swap world and own"), "axes")
        self.about = self._menu_button(say("about: its pivot"), "")
        tip(self.about, say("What turns and sizes happen about; to pick it in the view"), "centre")
        for button in (self.step, self.along, self.about):
            line.addWidget(button)
        self.things = ThingsButton(self)
        line.addWidget(self.things)
        line.addStretch(1)
        self.beside = QLabel(self)
        self.beside.setToolTip(say("What goes together: other assets have parts of the names that are picked"))
        line.addWidget(self.beside)
        menu = QMenu(self)
        for degrees in _STEPS:
            word = number(f"{degrees:g}°")
            item = menu.addAction(say("turn in steps of {word}", word=word) if degrees else say("turn without steps"))
            item.setData(number(f"{degrees:g}"))
            item.triggered.connect(lambda _=False, d=degrees: self.step_wished.emit(d))
        menu.addAction(say("Another…")).triggered.connect(self._ask_step)
        self.step.setMenu(menu)
        ButtonRow(self)

    def _menu_button(self, word: str, tip: str) -> QPushButton:
        button = push_button(word, tip, self)
        button.setMenu(QMenu(self))
        return button

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Let go of words where there is little room."""
        self._arrange_parts()

    def show_beside(self, words: str) -> None:
        """Show how many things go together; nothing where it is what is picked alone."""
        if words != self.beside.text():
            self.beside.setText(words)
            self._arrange_parts()

    @property
    def _is_tight(self) -> bool:
        return self.width() <= (_TIGHT_BESIDE if self.beside.text() else _TIGHT)

    def _arrange_parts(self) -> None:
        tight = self._is_tight
        self._snap.setVisible(not tight)
        for switch in self.switches.values():
            switch.setFixedWidth(20 if tight else 24)
        self._write_all()

    def _tell_kinds(self) -> None:
        self.kinds_wished.emit(frozenset(k for k in _KINDS if self.switches[k].isChecked()))

    def _tell_grid(self) -> None:
        self.grid_wished.emit(self.switches["grid"].isChecked(), self._grid_m)

    def show_drawn(self, spacing: float, majors: int) -> None:
        """Take note of the grid that is drawn: metres between its lines, and how many make a major one."""
        self._drawn = spacing, majors

    def _grid_menu(self) -> None:
        menu = QMenu(self)
        spacing, majors = self._drawn
        for word, metres in ((say("lines as drawn"), spacing), (say("major lines as drawn"), spacing * majors)):
            action = menu.addAction(f"{word}: {self._unit.mark(metres)}")
            action.triggered.connect(lambda _=False, m=metres: self.grid_wished.emit(True, m))
        menu.addSeparator()
        for text in _GRIDS:
            metres = parse_length(text, bare=1.0)
            menu.addAction(text).triggered.connect(lambda _=False, m=metres: self.grid_wished.emit(True, m))
        menu.addAction(say("Another…")).triggered.connect(self._ask_grid)
        self.menu = menu
        menu.popup(self.switches["grid"].mapToGlobal(self.switches["grid"].rect().topLeft()))

    def _ask_grid(self) -> None:
        text, agreed = QInputDialog.getText(self, "Grid", say("The distance between its lines"))
        if agreed:
            try:
                metres = parse_length(as_written(text), bare=self._unit.bare, module=self._unit.module)
            except BadLength:
                return
            if metres > 0:
                self.grid_wished.emit(True, metres)

    def _ask_step(self) -> None:
        degrees, agreed = QInputDialog.getDouble(self, say("Angle step"), "Degrees", 15.0, 0.0, 180.0, 3)
        if agreed:
            self.step_wished.emit(degrees)

    def show_settings(
        self, kinds: Collection[str], step_deg: float, *, to_grid: bool, grid_m: float, unit: ShownUnit
    ) -> None:
        """Show what is snapped to."""
        for kind in _KINDS:
            self.switches[kind].setChecked(kind in kinds)
        self.switches["grid"].setChecked(to_grid)
        self.switches["grid"].setToolTip(
            say("Snap to a grid of {mark}; right click sets its spacing", mark=unit.mark(grid_m))
        )
        self._grid_m, self._unit = grid_m, unit
        self.step.setText(number(f"{step_deg:g}°") if step_deg else say("no step"))

    def show_grip(
        self, along: str, about: str, said: tuple[str, str], alongs: Sequence[Any], abouts: Sequence[Any]
    ) -> None:
        """Show the axes and the centre in force, and what else there is: values with `key` and `words`."""
        self._said = said
        self._write_all()
        self._fill_choices(self.along, alongs, along, self.along_wished)
        self._fill_choices(self.about, abouts, about, self.about_wished)
        self.about.menu().addSeparator()
        pick = self.about.menu().addAction(say("pick it in the view…"))
        pick.triggered.connect(self.about_pick_wished)

    def _write_all(self) -> None:
        """Write what holds, as short as there is room for; the name that is read aloud has the whole of it."""
        tight = self._is_tight
        most = _LONGEST if not tight else _SHORT
        for button, word, said in (
            (self.along, say("along"), self._said[0]),
            (self.about, say("about"), self._said[1]),
        ):
            short = _NAMED.sub(r"\1", said.replace("the pivot of ", ""))
            short = short if len(short) <= most else f"{short[: most - 1]}…"
            button.setText(short if tight else f"{word}: {short}")
            button.setAccessibleName(f"{word} {said}")
        self.things.show_short(tight)

    def _fill_choices(self, button: QPushButton, choices: Sequence[Any], held: str, wished: Any) -> None:
        menu = button.menu()
        menu.clear()
        group = QActionGroup(menu)
        for choice in choices:
            action = QAction(choice.words, menu, checkable=True, checked=choice.key == held)
            action.setData(choice.key)
            action.triggered.connect(lambda _=False, k=choice.key: wished.emit(k))
            group.addAction(action)
            menu.addAction(action)
