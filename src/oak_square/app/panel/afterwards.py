"""What there is to do once a delivery has ended: look at it, tell of it, do the rest of it."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from PySide6.QtCore import QUrl, Signal
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QWidget

from oak_square.core.words import say

__all__ = ["Afterwards"]

_KINDS = say("A page (*.html);;A table (*.csv);;A document (*.json)")


class Afterwards(QWidget):
    """Three buttons under what came of a run; what would do nothing is not there."""

    rest_wished = Signal()
    report_wished = Signal(object, object)  # path, manifest

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.folder = Path()
        """What was delivered into."""
        self._manifest: Mapping[str, Any] = {}
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(4)
        self.rest = QPushButton(say("Do the rest"), self)
        self.rest.setToolTip(
            say("Deliver again what failed, was refused or has changed; what stands and is whole stays")
        )
        self.rest.clicked.connect(self.rest_wished)
        self.open = QPushButton(say("Open folder"), self)
        self.open.setToolTip(say("Show what was delivered in the file manager"))
        self.open.clicked.connect(lambda: QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.folder))))
        self.report = QPushButton(say("Report…"), self)
        self.report.setToolTip(say("Save what the run came to: a page to send on, a table, or a document for scripts"))
        self.report.clicked.connect(self._ask_for_report)
        for button in (self.rest, self.open, self.report):
            line.addWidget(button)
        line.addStretch(1)
        self.hide()

    def show_manifest(self, manifest: Mapping[str, Any], folder: Path) -> None:
        """Offer what can be done with a run that came to `manifest`."""
        self._manifest, self.folder = manifest, folder
        self.rest.setVisible(any(e["output"] is None for e in manifest["assets"]))
        self.show()

    def _ask_for_report(self) -> None:
        start = self.folder.with_name(f"{self.folder.name}.html")
        found, kind = QFileDialog.getSaveFileName(self, say("Save the report"), str(start), _KINDS)
        if found:
            suffix = kind[kind.rfind("*") + 1 : -1]
            named = Path(found)
            self.report_wished.emit(named if named.suffix else named.with_suffix(suffix), self._manifest)
