"""How the batch is sorted and grouped: the button beside the filter, and the orders themselves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtGui import QActionGroup
from PySide6.QtWidgets import QMenu, QPushButton, QWidget

from oak_square.app.facts.batch import AssetRow
from oak_square.core.findings.finding import LEVELS
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stages import STAGES, stage_name
from oak_square.core.words import say

__all__ = ["Arrangement", "SortButton", "arranged"]

_SORTS = {
    "read": say("as they were read"),
    "name": say("by name"),
    "format": say("by format"),
    "size": say("by size, largest first"),
    "finding": say("by finding, gravest first"),
    "unit": say("by unit, those in doubt first"),
}
_GROUPS = {"none": say("no groups"), "format": say("format"), "size": say("size"), "finding": say("finding")}

Arrangement = tuple[str, str]
"""What rows are sorted by and grouped by: a key of `_SORTS`, a key of `_GROUPS`."""


def arranged(rows: Sequence[AssetRow], arrangement: Arrangement) -> list[AssetRow]:
    """Return rows sorted, and with a heading before each group."""
    sort, group = arrangement
    keys = {
        "name": lambda r: (r.title.casefold(),),
        "format": lambda r: (r.format,),
        "size": lambda r: (-r.largest_m,),
        "finding": lambda r: _rank_row(r),
        "unit": lambda r: (("open", "certain", "settled", "").index(r.unit_state),),
    }
    ordered = sorted(rows, key=keys[sort]) if sort in keys else list(rows)
    if group == "none":
        return ordered
    groups: dict[tuple[float, str], list[AssetRow]] = {}
    for row in ordered:
        groups.setdefault(_group_of(row, group), []).append(row)
    found: list[AssetRow] = []
    for (_, words), own in sorted(groups.items(), key=lambda g: g[0]):
        found.append(AssetRow(file="", title=f"{words} · {len(own)}", detail="", heading=True))
        found += [replace(row) for row in own]
    return found


def _rank_row(row: AssetRow) -> tuple[int, int]:
    if row.trouble:
        return -9, 0
    levels = [LEVELS.index(level) for _, level in row.marks if level in LEVELS]
    return -max(levels, default=-1), -len(levels)


def _group_of(row: AssetRow, group: str) -> tuple[float, str]:
    """Return the place of a row's group, and its words."""
    if row.trouble and not row.marks:
        return -1, say("can't be read")
    if group == "format":
        return 0, row.format or say("being read")
    if group == "size":
        for k, top in enumerate((0.01, 0.1, 1.0, 10.0, 100.0, 1000.0)):
            if row.largest_m < top:
                return k, say("under {mark}", mark=ShownUnit().mark(top))
        return 9, say("1000 m and more")
    stage = next((s for s in STAGES if any(s == m for m, _ in row.marks)), "")
    return (
        (STAGES.index(stage), say("to settle at {stage}", stage=stage_name(stage)))
        if stage
        else (9, say("nothing to settle"))
    )


class SortButton(QPushButton):
    """Shows how the batch is arranged; wishes for another way."""

    arrangement_wished = Signal(tuple)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(say("sort ▾"), parent)
        self.setProperty("role", "quiet")
        self.setToolTip(say("Sort and group the batch"))
        self.arrangement: Arrangement = ("read", "none")
        menu = QMenu(self)
        self.items = {}
        for at, words in ((0, _SORTS), (1, _GROUPS)):
            exclusive = QActionGroup(self)
            menu.addSection(say("sort") if at == 0 else say("group by"))
            for key, text in words.items():
                item = menu.addAction(text)
                item.setData(f"{('sort', 'group')[at]}/{key}")
                item.setCheckable(True)
                item.setChecked(key == self.arrangement[at])
                exclusive.addAction(item)
                item.triggered.connect(lambda _=False, a=at, k=key: self._choose_order(a, k))
                self.items[("sort", "group")[at], key] = item
        self.setMenu(menu)

    def show_arrangement(self, sort: str, group: str) -> None:
        """Arrange it in another way; what is no way is as it was at first."""
        self.arrangement = (sort if sort in _SORTS else "read", group if group in _GROUPS else "none")
        for at, key in zip(("sort", "group"), self.arrangement, strict=True):
            self.items[at, key].setChecked(True)

    def _choose_order(self, at: int, key: str) -> None:
        sort, group = self.arrangement
        self.arrangement = (key, group) if at == 0 else (sort, key)
        self.arrangement_wished.emit(self.arrangement)
