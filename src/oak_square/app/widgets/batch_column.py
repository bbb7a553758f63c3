"""The column at the left: the filter, the batch, and the hierarchy of the asset that leads."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QSplitter, QVBoxLayout, QWidget

from oak_square.app.widgets.actions import tip
from oak_square.app.widgets.batch_list import BatchList
from oak_square.app.widgets.entry_keys import FilterEdit
from oak_square.app.widgets.hierarchy import Hierarchy
from oak_square.app.widgets.sort_menu import SortButton
from oak_square.core.words import say

__all__ = ["BatchColumn"]

_SHARE = 0.63


class BatchColumn(QWidget):
    """Holds them, one over the other."""

    def __init__(self, batch: BatchList, hierarchy: Hierarchy, filter_: FilterEdit, sort: SortButton) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        filter_.setObjectName("filter")
        filter_.setPlaceholderText(say("filter by name…"))
        tip(filter_, say("Show only the assets whose path holds these letters"), "filter")
        filter_.setAccessibleName(say("Filter the batch"))
        self.bar = QWidget(self)
        self.bar.setObjectName("filter-bar")
        self.bar.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        above = QHBoxLayout(self.bar)
        above.setContentsMargins(0, 0, 8, 1)
        above.addWidget(filter_, 1)
        above.addWidget(sort)
        column.addWidget(self.bar)
        split = self.split = QSplitter(Qt.Orientation.Vertical, self)
        split.setHandleWidth(1)
        split.setChildrenCollapsible(False)
        split.addWidget(batch)
        split.addWidget(hierarchy)
        self.set_share(_SHARE)
        column.addWidget(split, 1)

    @property
    def share(self) -> float:
        """How much of the column the batch has, above the hierarchy."""
        above, below = self.split.sizes()
        return above / (above + below) if above + below else _SHARE

    def set_share(self, share: float) -> None:
        """Give the batch this much of the column."""
        self.split.setSizes([round(1000 * share), round(1000 * (1 - share))])
