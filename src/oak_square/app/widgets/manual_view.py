"""The manual, in a window of its own beside the work."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QUrl
from PySide6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QTextBrowser, QWidget

from oak_square.app.widgets.theme import colour, follow_tone, font
from oak_square.core.words import say
from oak_square.manual import Page

__all__ = ["ManualView"]


class ManualView(QDialog):
    """Lists the pages at the left, and shows one."""

    def __init__(self, pages: Sequence[Page], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(say("The manual"))
        self.resize(900, 620)
        self._pages = tuple(pages)
        self.list = QListWidget(self)
        self.list.setAccessibleName(say("Pages of the manual"))
        self.list.setFixedWidth(240)
        self.list.setWordWrap(True)
        self.list.addItems([page.title for page in pages])
        self.text = QTextBrowser(self)
        self.text.setAccessibleName(say("The page"))
        self.text.setOpenLinks(False)
        self.text.anchorClicked.connect(self._follow_link)
        line = QHBoxLayout(self)
        line.setContentsMargins(16, 14, 16, 14)
        line.setSpacing(16)
        line.addWidget(self.list)
        line.addWidget(self.text, 1)
        self.list.currentRowChanged.connect(self._show_place)
        self.list.setCurrentRow(0)
        follow_tone(self._dress_page)

    def open_page(self, name: str) -> None:
        """Show a page; an unknown one leaves the present one."""
        at = next((k for k, page in enumerate(self._pages) if page.name == name), None)
        if at is not None:
            self.list.setCurrentRow(at)
        self.show()
        self.raise_()
        self.text.setFocus()

    def _show_place(self, at: int) -> None:
        document = self.text.document()
        document.setDefaultFont(font(13))
        ink, soft, ground = (colour(name).name() for name in ("ink", "ink-soft", "paper"))
        document.setDefaultStyleSheet(
            f"body {{ color: {ink}; }} code {{ background: {ground}; }} th {{ color: {soft}; }}"
        )
        self.text.setMarkdown(self._pages[at].text)

    def _dress_page(self) -> None:
        self._show_place(self.list.currentRow())

    def _follow_link(self, link: QUrl) -> None:
        """Go to another page; nothing outside of the manual is opened."""
        self.open_page(link.fileName().removesuffix(".md"))
