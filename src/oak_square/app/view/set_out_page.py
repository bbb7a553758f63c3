"""The set-out: the batch standing as one scene, lit and to scale with the figure; assets dragged to berths."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPen, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QSpinBox, QVBoxLayout, QWidget

from oak_square.app.facts.set_out import SetOutShown
from oak_square.app.view.bench import Bench
from oak_square.app.view.lineup_marks import draw_figure
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.app.view.renderer import Renderer
from oak_square.app.widgets.entries import LengthEdit
from oak_square.app.widgets.fields import Choices, push_button
from oak_square.app.widgets.theme import colour
from oak_square.core.shown_units import ShownUnit
from oak_square.core.words import say

__all__ = ["SetOutPage"]

Array = NDArray[np.float64]
_FIGURE_AT, _FIGURE_HIGH = np.array([-0.8, 0.0, 0.0]), np.array([0.0, 1.75, 0.0])


class _NameEdit(QLineEdit):
    """A line whose Enter ends it, and keeps no step of the sheet."""

    def event(self, event: QEvent) -> bool:
        """Take Enter before the window does."""
        is_key = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if is_key and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):  # type: ignore[attr-defined]  # a key's
            event.accept()
            return True
        return super().event(event)


class SetOutPage(QWidget):
    """Shows the scene; wishes for another one, as the sheet says it, for selections and for none."""

    words_wished = Signal(dict)  # the whole set-out; empty for none
    selection_wished = Signal(tuple)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._renderer = Renderer()
        self.bench = Bench(self._renderer, self)
        self.bench.setAccessibleName(say("Set-out"))
        self.bench.show_marks(self._draw_figure)
        self.bench.has_figure = False
        self.bench.pressed.connect(self._press_at)
        self.bench.dragged.connect(self._drag_to)
        self.bench.released.connect(self._release_at)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.bench, 1)
        rows.addWidget(self._make_bar())
        self._shown: SetOutShown | None = None
        self._told: dict[str, Any] = {}
        self._dragged: tuple[str, Array] | None = None  # which asset is dragged, and from where, world
        self._at: QPointF | None = None

    def _make_bar(self) -> QWidget:
        bar = QWidget(self)
        bar.setObjectName("lineup-bar")
        column = QVBoxLayout(bar)
        column.setContentsMargins(12, 6, 12, 6)
        column.setSpacing(4)
        line = QHBoxLayout()
        line.setSpacing(6)
        self.file = _NameEdit(bar)
        self.file.setAccessibleName(say("Scene file"))
        self.file.setToolTip(
            say("What the scene is called beside the delivered files: usda and usdc refer to them, glb copies")
        )
        self.file.setFixedWidth(104)
        self.file.editingFinished.connect(self._rename_file)
        self.along = Choices(
            [
                ("", say("no rows"), say("Only what has a berth stands in the scene")),
                ("width", say("right", "rows"), say("Rows to the right")),
                ("depth", say("forward"), say("Rows to the front")),
            ],
            bar,
            tight=True,
        )
        self.along.chosen.connect(self._change_row)
        self.gap = LengthEdit(say("Gap"), say("Between the boxes, and between rows"), bar)
        self.gap.setFixedWidth(72)
        self.gap.entered.connect(lambda text: self._row_said("gap", text or None))
        self.columns = QSpinBox(bar)
        self.columns.setAccessibleName(say("Columns"))
        self.columns.setToolTip(say("How many stand in a row; all in one where it is 0"))
        self.columns.setRange(0, 999)
        self.columns.valueChanged.connect(lambda n: self._row_said("columns", n or None))
        self.free = push_button(
            say("off its berth"), say("Take what is selected off its berths: it stands in the rows again"), bar
        )
        self.free.clicked.connect(lambda _=False: self._free_lead())
        self.forget = push_button(say("no set-out"), say("Take the set-out off the sheet; berths stay"), bar)
        self.forget.clicked.connect(lambda _=False: self.words_wished.emit({}))
        rows = QLabel(say("rows"), bar)
        for widget in (
            self.file,
            rows,
            self.along,
            QLabel(say("gap"), bar),
            self.gap,
            QLabel(say("columns"), bar),
            self.columns,
        ):
            line.addWidget(widget)
        line.addStretch(1)
        column.addLayout(line)
        self.note = QLabel(bar)
        self.note.setProperty("role", "soft")
        self.note.setWordWrap(True)
        below = QHBoxLayout()
        below.setSpacing(6)
        below.addWidget(self.note, 1)
        below.addWidget(self.free)
        below.addWidget(self.forget)
        column.addLayout(below)
        return bar

    # What is said

    def _wished_words(self) -> dict[str, Any]:
        """Return what is said by now: what was wished last, though it is not shown yet."""
        return dict(self._told)

    def _wish_for_words(self, words: Mapping[str, Any]) -> None:
        self._told = dict(words)
        self.words_wished.emit(dict(words))

    def _rename_file(self) -> None:
        if self._shown is not None and self.file.text() != self._shown.words["file"]:
            self._wish_for_words({**self._wished_words(), "file": self.file.text().strip()})

    def _change_row(self, along: str) -> None:
        words = self._wished_words()
        row = dict(words.pop("row", {"gap": "50 cm"}))
        self._wish_for_words({**words, "row": {**row, "along": along}} if along else words)

    def _row_said(self, key: str, value: Any) -> None:
        words = self._wished_words()
        row = {k: v for k, v in words.get("row", {}).items() if k != key}
        self._wish_for_words({**words, "row": {**row, **({} if value is None else {key: value})}})

    def _free_lead(self) -> None:
        lead = next((s.file for s in self.bench.picture.shapes if s.picked), "")
        if lead:
            self._wish_for_words(self._drop_berth_of(self._wished_words(), lead))

    def _drop_berth_of(self, words: Mapping[str, Any], file: str) -> dict[str, Any]:
        """Return a set-out in which an asset has no berth; it then has rows to stand in."""
        assert self._shown is not None
        at = {n: b for n, b in words.get("at", {}).items() if n not in (file, self._shown.names[file])}
        return {**{k: v for k, v in words.items() if k != "at"}, **({"at": at} if at else {}),
                "row": words.get("row", {"gap": "50 cm"})}  # fmt: skip

    def _set_down(self, file: str, berth: str) -> None:
        """Wish for an asset at a berth; what stands there goes where that stood, or into the rows."""
        shown = self._shown
        assert shown is not None
        before = shown.berth_of.get(file, ())
        words = self._drop_berth_of(self._wished_words(), file)
        at = dict(words.get("at", {}))
        for other, berths in shown.berth_of.items():
            if berth in berths and other != file:
                left = [*(b for b in berths if b != berth), *before[:1]]
                at.pop(other, None)
                at.pop(shown.names[other], None)
                if left:
                    at[shown.names[other]] = left if len(left) > 1 else left[0]
        at[shown.names[file]] = berth
        self._wish_for_words({**words, "at": at})

    # The hand

    def _press_at(self, at: Pointing) -> None:
        hit = at.hit(near=True)
        self._dragged = None if hit is None else (hit[0].file, hit[1])

    def _drag_to(self, at: Pointing) -> None:
        self._at = QPointF(at.x, at.y)
        self.bench.update()

    def _release_at(self, at: Pointing) -> None:
        dragged, self._dragged, self._at = self._dragged, None, None
        self.bench.update()
        if dragged is None:
            return
        berth = self._berth_at(self.bench.lens(), QPointF(at.x, at.y))
        if at.clicked:
            self.selection_wished.emit((dragged[0],))
        elif berth:
            self._set_down(dragged[0], berth)

    def _berth_at(self, lens: Lens, at: QPointF) -> str:
        """Return the berth whose rectangle, or whose name's place, is under a pixel; empty where there is none."""
        for berth in self.bench.facts.berths:
            seen = lens.seen(berth.corners)
            inside = QPolygonF([QPointF(x, y) for x, y, _ in seen]).containsPoint(at, Qt.FillRule.OddEvenFill)
            if (seen[:, 2] > 0).all() and inside:
                return berth.name
        return ""

    def _draw_figure(self, canvas: Canvas) -> None:
        """Draw the figure beside the origin, and where what is dragged would go."""
        lens, painter = canvas.lens, canvas.painter
        foot, head = lens.seen(np.array([_FIGURE_AT, _FIGURE_AT + _FIGURE_HIGH]))
        if foot[2] > 0 and head[2] > 0:
            high = float(foot[1] - head[1])
            draw_figure(painter, QRectF(float(foot[0]) - high * 0.15, float(head[1]), high * 0.3, high))
        if self._dragged is None or self._at is None:
            return
        start = lens.seen(self._dragged[1][None])[0]
        berth = self._berth_at(lens, self._at)
        pen = QPen(colour("verdigris"), 2.0)
        pen.setStyle(Qt.PenStyle.SolidLine if berth else Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.drawLine(QPointF(float(start[0]), float(start[1])), self._at)
        for shown in self.bench.facts.berths:
            if shown.name == berth:
                painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y, _ in lens.seen(shown.corners)]))

    # Showing

    def show_set_out(self, shown: SetOutShown, unit: ShownUnit) -> None:
        """Match the page to a scene."""
        self._shown, self._told = shown, dict(shown.words)
        row = shown.words.get("row")
        if not self.file.hasFocus():
            self.file.setText(shown.words["file"])
        self.along.show_choice("" if row is None else row.get("along", "width"))
        self.gap.show_length("" if row is None else str(row.get("gap", "")), None, unit)
        self.columns.blockSignals(True)
        self.columns.setValue(0 if row is None else int(row.get("columns") or 0))
        self.columns.blockSignals(False)
        for widget in (self.gap, self.columns):
            widget.setEnabled(row is not None)
        lead = next((s.file for s in shown.picture.shapes if s.picked), "")
        self.free.setEnabled(bool(shown.berth_of.get(lead)))
        self.forget.setEnabled(shown.is_told)
        how = (
            ""
            if shown.is_told
            else say("No set-out is on the sheet yet: change something here, or drag a model onto a berth. ")
        )
        self.note.setText(f"{how}{shown.note}.")
        self.bench.show_in(unit)
        self.bench.show_picture(shown.picture, shown.facts, "set-out")

    def frame(self) -> None:
        """Bring all of it into the picture."""
        self.bench.frame()

    def close_renderer(self) -> None:
        """Give the graphics context back."""
        self._renderer.close()
