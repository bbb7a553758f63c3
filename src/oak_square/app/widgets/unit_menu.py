"""What lengths are shown in: the button at the foot, its menu, and the small dialog for a module."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QInputDialog, QMenu, QPushButton, QWidget

from oak_square.core.errors import BadLength
from oak_square.core.lengths import UNIT_WORDS, as_written, parse_length
from oak_square.core.shown_units import DENOMINATORS, ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import number, ordinal, say

__all__ = ["UnitButton"]

_METRIC = ("mm", "cm", "m", "km")
_GRIDS = ("1 mm", "1 cm", "10 cm", "25 cm", "50 cm", "1 m", "5 m")


class UnitButton(QPushButton):
    """Shows the unit in use; wishes for another, and for another module."""

    unit_wished = Signal(object)  # ShownUnit
    module_wished = Signal(str, str)  # its name, its length as typed

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setProperty("role", "small")
        self.setToolTip(say("The unit lengths are shown and typed in, and the grid; geometry never changes by it"))
        self._shown = ShownUnit()
        self.menu_ = QMenu(self)
        self._exclusive = QActionGroup(self)
        self.actions_: dict[str, QAction] = {}
        self._add_unit_item(self.menu_, "auto", say("metric, as it suits each length"), {"kind": "auto"})
        for unit in _METRIC:
            self._add_unit_item(
                self.menu_, unit, say("metric, always {unit_word}", unit_word=term(UNIT_WORDS[unit])), {"kind": unit}
            )
        self.menu_.addSeparator()
        feet = self.menu_.addMenu(say("feet and inches"))
        for d in DENOMINATORS:
            self._add_unit_item(feet, f"ft-in/{d}", say("inches to 1/{d}", d=d), {"kind": "ft-in", "denominator": d})
        for unit in ("in", "ft"):
            self._add_unit_item(
                feet, unit, say("decimal {unit_word}", unit_word=term(UNIT_WORDS[unit])), {"kind": unit}
            )
        self.menu_.addSeparator()
        self._add_unit_item(self.menu_, "mod", say("modules"), {"kind": "mod"})
        module = self.menu_.addAction(say("Set the module…"))
        module.setData("module")
        module.triggered.connect(self._ask_module)
        self.menu_.addSeparator()
        self._fill_grid(self.menu_.addMenu(say("grid lines")))
        self.setMenu(self.menu_)
        self.show_unit(self._shown)

    def _fill_grid(self, menu: QMenu) -> None:
        follow = menu.addAction(say("follow the view and the unit"))
        follow.setData("grid/follow")
        follow.triggered.connect(lambda: self.unit_wished.emit(replace(self._shown, grid=None, majors=None)))
        for text in _GRIDS:
            metres = parse_length(text, bare=1.0)
            line = menu.addAction(say("every {text}", text=text))
            line.setData(f"grid/{text}")
            line.triggered.connect(lambda _=False, m=metres: self.unit_wished.emit(replace(self._shown, grid=m)))
        menu.addAction(say("every…")).triggered.connect(self._ask_grid)
        menu.addSeparator()
        for count in (2, 4, 5, 8, 10, 12):
            menu.addAction(say("every {which} a major one", which=ordinal(count))).triggered.connect(
                lambda _=False, n=count: self.unit_wished.emit(replace(self._shown, majors=n))
            )

    def _add_unit_item(self, menu: QMenu, key: str, words: str, change: dict[str, object]) -> None:
        item = menu.addAction(words)
        item.setData(key)
        item.setCheckable(True)
        self._exclusive.addAction(item)
        item.triggered.connect(lambda _=False: self.unit_wished.emit(replace(self._shown, **change)))  # type: ignore[arg-type]
        self.actions_[key] = item

    def show_unit(self, shown: ShownUnit) -> None:
        """Say what is shown."""
        self._shown = shown
        self.setText(shown.words)
        key = f"ft-in/{shown.denominator}" if shown.kind == "ft-in" else shown.kind
        if key in self.actions_:
            self.actions_[key].setChecked(True)
        self.actions_["mod"].setText(say("modules: {words}", words=replace(shown, kind="mod").words))

    def _ask_module(self) -> None:
        name, wanted = QInputDialog.getText(
            self, say("The module"), say("What one is called"), text=self._shown.module_name
        )
        if not wanted:
            return
        length, wanted = QInputDialog.getText(
            self, say("The module"), say("How long one {name} is", name=name), text=number(f"{self._shown.module:g} m")
        )
        if wanted:
            self.module_wished.emit(name.strip() or "module", length)

    def _ask_grid(self) -> None:
        present = "" if self._shown.grid is None else number(f"{self._shown.grid:g} m")
        text, wanted = QInputDialog.getText(self, say("The grid"), say("One line every"), text=present)
        if wanted:
            try:
                metres = parse_length(as_written(text), bare=self._shown.bare, module=self._shown.module)
            except BadLength:
                return
            if metres > 0:
                self.unit_wished.emit(replace(self._shown, grid=metres))
