"""A few means of which one is shown at a time, behind tabs."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from oak_square.app.widgets.fields import Choices, column

__all__ = ["Pages"]


class Pages(QWidget):
    """A few means of one stage, one shown at a time."""

    turned = Signal(str)

    def __init__(self, words: Sequence[tuple[str, str, str]], parent: QWidget) -> None:
        super().__init__(parent)
        self.tabs = Choices(words, self, tight=len(words) > 3)
        self._rows = column(self)
        self._rows.addWidget(self.tabs)
        self._pages: dict[str, QWidget] = {}
        self._step: object = None
        self.tabs.chosen.connect(self.open)
        self.tabs.chosen.connect(self.turned)

    def add(self, key: str) -> QWidget:
        """Return a new page for `key`, to be filled."""
        page = QWidget(self)
        self._pages[key] = page
        self._rows.addWidget(page)
        page.setVisible(len(self._pages) == 1)
        if len(self._pages) == 1:
            self.tabs.show_choice(key)
        return page

    def open_for(self, step: object, key: str) -> None:
        """Show the page of a step, once: whoever turns to another page meanwhile stays there."""
        if step != self._step:
            self._step = step
            self.open(key)

    def open(self, key: str) -> None:
        """Show a page."""
        self.tabs.show_choice(key)
        for name, page in self._pages.items():
            page.setVisible(name == key)

    def key_of(self, page: QWidget) -> str | None:
        """Return which page this is; None where it is none."""
        return next((key for key, each in self._pages.items() if each is page), None)
