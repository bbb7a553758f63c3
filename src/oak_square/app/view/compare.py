"""Before and after, side by side: as received and as prepared, walked round with one camera."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from oak_square.app.facts.bench import bench_view
from oak_square.app.facts.stages import stage_words
from oak_square.app.view import Bench, Camera, Facts, Picture, Renderer
from oak_square.app.view.overlay import Canvas, draw_sizes
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stages import STEP_STAGES, stage_name
from oak_square.core.standing import standing_at
from oak_square.core.tolerances import SPECK
from oak_square.core.words import lowered, say

__all__ = ["Compare"]

# Sizes this far apart can't be seen at one scale; the left picture is then drawn at its own, and says so.
_FAR_APART = 4.0


class Compare(QWidget):
    """Shows one asset twice. The right picture leads; the left one follows its camera."""

    released = Signal(object)  # Pointing

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._renderers: list[Renderer] = []
        self.sides: list[Bench] = []
        self.words: list[QLabel] = []
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(1)
        for name in (say("before"), say("after")):
            column = QVBoxLayout()
            column.setSpacing(0)
            renderer = Renderer()
            bench = Bench(renderer, self)
            bench.setAccessibleName(name)
            bench.show_marks(partial(_draw_sizes, bench))
            bench.released.connect(self.released)
            label = QLabel(self)
            label.setObjectName("compare-words")
            label.setTextFormat(Qt.TextFormat.RichText)
            label.setWordWrap(True)
            label.setContentsMargins(12, 8, 12, 10)
            self._renderers.append(renderer)
            self.sides.append(bench)
            self.words.append(label)
            column.addWidget(bench, 1)
            column.addWidget(label)
            line.addLayout(column, 1)
        before, after = self.sides
        before.leads = False
        after.moved.connect(lambda camera: before.follow(self._on_left(camera)))
        before.moved.connect(lambda camera: after.follow(self._on_right(camera)))
        self._scale = 1.0
        self._shift = np.zeros(3)

    def show_asset(
        self,
        before: Asset | None,
        after: Asset | None,
        nodes: Sequence[int],
        unit: ShownUnit,
        notice: str = "",
    ) -> None:
        """Show an asset as it was and as it is; or nothing, and say what to do."""
        if before is None or after is None:
            for bench, label in zip(self.sides, self.words, strict=True):
                bench.show_picture(Picture(), Facts(notice=notice), None)
                label.setText("")
            return
        views = [bench_view([asset], nodes, unit=unit, previewed=False) for asset in (before, after)]
        self._relate_pictures(views[0][0], views[1][0])
        for bench, (picture, facts) in zip(self.sides, views, strict=True):
            bench.show_in(unit)
            bench.show_picture(picture, replace(facts, title=""), (after.file, self._scale))
        self.sides[0].follow(self._on_left(self.sides[1].camera))
        said = [[stage_words(standing_at(stage, asset), unit) for stage in STEP_STAGES] for asset in (before, after)]
        for k, label in enumerate(self.words):
            label.setText(self._print_table(k, said))

    def _relate_pictures(self, before: Picture, after: Picture) -> None:
        """Work out how the left picture's scale and place stand to the right one's."""
        self._scale, self._shift = 1.0, np.zeros(3)
        if before.box is None or after.box is None:
            return
        ratio = before.box.diagonal / max(after.box.diagonal, SPECK)
        if not 1 / _FAR_APART <= ratio <= _FAR_APART:
            self._scale = ratio
        apart = before.box.middle - after.box.middle * self._scale
        if np.linalg.norm(apart) > 0.6 * before.box.diagonal:
            self._shift = apart

    def _on_left(self, camera: Camera) -> Camera:
        return camera.resized(self._scale, camera.target * self._scale + self._shift)

    def _on_right(self, camera: Camera) -> Camera:
        return camera.resized(1 / self._scale, (camera.target - self._shift) / self._scale)

    def _print_table(self, side: int, said: list[list[str]]) -> str:
        rows = [f"<b>{(say('As received'), say('As prepared'))[side]}</b>"]
        for k, stage in enumerate(STEP_STAGES):
            text = said[side][k]
            name = lowered(stage_name(stage))
            changed = side == 1 and said[0][k] != said[1][k]
            rows.append(f"{name}: <b>{text}</b>" if changed else f"{name}: {text}")
        if self._scale == 1.0:
            return "<br>".join(rows)
        times = self._scale if self._scale > 1 else 1 / self._scale
        note = (
            say("drawn {times:.4g} times smaller than at the right", times=times)
            if self._scale > 1
            else say("drawn {times:.4g} times larger than at the right", times=times)
        )
        return "<br>".join([*rows, f"<i>{note}</i>" if side == 0 else "&nbsp;"])

    def frame(self) -> None:
        """Bring the whole asset into both pictures."""
        self.sides[1].frame()

    def close_renderers(self) -> None:
        """Give the graphics contexts back."""
        for renderer in self._renderers:
            renderer.close()


def _draw_sizes(bench: Bench, canvas: Canvas) -> None:
    draw_sizes(canvas, bench.facts)
