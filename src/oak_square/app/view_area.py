"""The middle of the window: the views, the tabs to choose one, and from where to look."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QStackedLayout, QWidget

from oak_square.app.compare import Compare
from oak_square.app.view import Bench, Renderer

__all__ = ["VIEWS", "ViewArea"]

VIEWS = {"bench": "Bench", "before-after": "Before / After"}
_LOOKS = (("front", 0, 0), ("right", 90, 0), ("top", 0, 89), ("corner", 32, 22))


class ViewArea(QWidget):
    """Stacks the views; what stands over them is sized to its words, so that the pictures stay free."""

    view_wished = Signal(str)

    def __init__(self, renderer: Renderer, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.bench = Bench(renderer, self)
        self.compare: Compare | None = None
        self._stack = QStackedLayout(self)
        self._stack.setContentsMargins(0, 0, 0, 0)
        self._stack.addWidget(self.bench)
        self._left, self._right = QWidget(self), QWidget(self)
        self.tabs: dict[str, QPushButton] = {}
        self.title = QLabel(self._left)
        self.title.setObjectName("bench-title")
        self.title.setTextFormat(Qt.TextFormat.PlainText)
        line = _row(self._left)
        for key, word in VIEWS.items():
            button = _over(word, self._left)
            button.setCheckable(True)
            button.setToolTip(f"Show the {word.lower()} view")
            button.clicked.connect(lambda _=False, k=key: self.view_wished.emit(k))
            self.tabs[key] = button
            line.addWidget(button)
        line.addSpacing(8)
        line.addWidget(self.title)
        line = _row(self._right)
        for word, azimuth, elevation in _LOOKS:
            button = _over(word, self._right)
            button.setToolTip(f"Look from the {word}")
            button.clicked.connect(lambda _=False, a=azimuth, e=elevation: self.look_from(a, e))
            line.addWidget(button)
        self.view = "bench"
        self.show_view("bench")

    def show_view(self, view: str) -> None:
        """Bring one view to the front."""
        self.view = view
        if view == "before-after" and self.compare is None:
            # Two more graphics contexts: made when first asked for.
            self.compare = Compare(self)
            self.compare.picked.connect(self.bench.picked)
            self.compare.missed.connect(self.bench.missed)
            self._stack.addWidget(self.compare)
        shown = self.compare if view == "before-after" and self.compare is not None else self.bench
        self._stack.setCurrentWidget(shown)
        for key, button in self.tabs.items():
            button.setChecked(key == view)
        self._left.raise_()
        self._right.raise_()

    def show_title(self, title: str) -> None:
        """Say what is shown."""
        self.title.setText(title)
        self._lay_over()

    def look_from(self, azimuth_deg: float, elevation_deg: float) -> None:
        """Turn the camera of the view in front."""
        target = self.compare if self.view == "before-after" and self.compare is not None else self.bench
        target.look_from(azimuth_deg, elevation_deg)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep what stands over the pictures at their corners."""
        self._lay_over()

    def _lay_over(self) -> None:
        self._left.adjustSize()
        self._right.adjustSize()
        self._left.move(12, 10)
        self._right.move(self.width() - self._right.width() - 12, 10)

    def close_renderers(self) -> None:
        """Give the graphics contexts back."""
        if self.compare is not None:
            self.compare.close_renderers()


def _row(parent: QWidget) -> QHBoxLayout:
    line = QHBoxLayout(parent)
    line.setContentsMargins(0, 0, 0, 0)
    line.setSpacing(4)
    parent.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
    parent.setObjectName("clear")
    return line


def _over(word: str, parent: QWidget) -> QPushButton:
    button = QPushButton(word, parent)
    button.setProperty("role", "over")
    button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    return button
