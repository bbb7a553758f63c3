"""A hand that counts what it does on one made-up model, and holds the sheet it leaves against the file."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication

from oak_square.core.boxes import asset_box, tree_box
from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.delivery.surveying import receive
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.sheet.text import parse_sheet
from tests.app import lockworks
from tests.strategies import world_points

NO_KEYS, CTRL, SHIFT = (
    Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier,
)  # fmt: skip


class Deeds:
    """A hand that counts what it does: a click, a key chord, a typed entry and a drag are one each."""

    def __init__(self, hand, tmp_path: Path, name: str, parts: list[lockworks.Part]) -> None:
        self.hand, self.session, self.bench = hand, hand.session, hand.window.bench
        self.folder, self.file, self.parts = tmp_path, f"{name}.glb", parts
        (tmp_path / "in").mkdir()
        lockworks.write(tmp_path / "in" / self.file, parts)
        hand.open(tmp_path / "in")
        hand.window.resize(1280, 800)
        hand.settle()
        self.count = 0

    @property
    def asset(self):
        return self.session.outcomes[self.file].after.asset

    def node(self, name: str, asset=None) -> int:
        return [n.name for n in (asset or self.asset).nodes].index(name)

    def pivot(self, name: str, asset=None):
        asset = asset or self.asset
        return asset.worlds[self.node(name, asset)][:3, 3]

    def box(self, name: str, asset=None):
        asset = asset or self.asset
        return tree_box(asset, self.node(name, asset))

    def look(self, azimuth: float, elevation: float) -> None:
        """Walk round: the eye's place is no deed."""
        self.hand.look_from(azimuth, elevation)
        self.hand.settle()

    def pixel(self, world) -> QPoint:
        x, y, _ = self.bench.lens().seen(np.asarray(world, dtype=float)[None])[0]
        return QPoint(round(x), round(y))

    def point_at(self, world) -> QPoint:
        at = self.pixel(world)
        self.mouse(QEvent.Type.MouseMove, at, Qt.MouseButton.NoButton)
        return at

    def mouse(self, kind, at: QPoint, down, keys=NO_KEYS) -> None:
        button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else Qt.MouseButton.LeftButton
        place = QPointF(at)
        event = QMouseEvent(kind, place, QPointF(self.bench.mapToGlobal(at)), button, down, keys)
        QApplication.sendEvent(self.bench, event)
        QApplication.processEvents()

    def select(self) -> None:
        self.hand.pick(self.file)
        self.count += 1

    def row(self, name: str, keys=NO_KEYS, button=Qt.MouseButton.LeftButton) -> None:
        tree = self.hand.window.hierarchy
        room = tree.tree.visualRect(tree.place_of(self.node(name)))
        self.hand.qtbot.mouseClick(tree.tree.viewport(), button, keys, room.center())
        self.hand.settle()
        self.count += 1

    def menu(self, name: str, words: str) -> None:
        """Right click a row of the hierarchy, and click an entry of its menu: two deeds."""
        hierarchy = self.hand.window.hierarchy
        room = hierarchy.tree.visualRect(hierarchy.place_of(self.node(name)))
        hierarchy.tree.customContextMenuRequested.emit(room.center())
        self.hand.settle()
        entry = next(a for a in hierarchy.menu.actions() if a.text() == words)
        place = hierarchy.menu.actionGeometry(entry).center()
        self.hand.qtbot.mouseClick(hierarchy.menu, Qt.MouseButton.LeftButton, NO_KEYS, place)
        self.hand.settle()
        self.count += 2

    def click(self, world, keys=NO_KEYS) -> None:
        at = self.point_at(world)
        self.hand.qtbot.mouseClick(self.bench, Qt.MouseButton.LeftButton, keys, at)
        self.hand.settle()
        self.count += 1

    def press(self, widget) -> None:
        self.hand.click(widget)
        self.count += 1

    def key(self, key, keys=NO_KEYS) -> None:
        self.hand.key(key, keys)
        self.count += 1

    def entry(self, text: str) -> None:
        """Type into whatever has the focus; a last line break is Enter."""
        for letter in text:
            target = QApplication.focusWidget() or self.hand.window
            if letter == "\n":
                self.hand.qtbot.keyClick(target, Qt.Key.Key_Return)
            else:
                self.hand.qtbot.keyClicks(target, letter)
            QApplication.processEvents()
        self.hand.settle()
        self.count += 1

    def drag(self, start, end, *, by_pixels: bool = False) -> None:
        a = start if by_pixels else self.pixel(start)
        b = end if by_pixels else self.pixel(end)
        self.mouse(QEvent.Type.MouseMove, a, Qt.MouseButton.NoButton)
        self.hand.qtbot.mousePress(self.bench, Qt.MouseButton.LeftButton, NO_KEYS, a)
        for k in range(1, 9):
            self.mouse(QEvent.Type.MouseMove, a + (b - a) * k / 8, Qt.MouseButton.LeftButton)
        self.hand.qtbot.mouseRelease(self.bench, Qt.MouseButton.LeftButton, NO_KEYS, b)
        self.hand.settle()
        self.count += 1

    def done(self, at_most: int) -> None:
        """Hold the count, the sheet run on the untouched files, and undo against one another."""
        assert self.count <= at_most, f"{self.count} actions"
        assert self.session.document.draft is None
        wanted, text = self.asset, self.session.sheet.text()
        run = Run(
            sources=tuple(find_sources([self.folder / "in"])), sheet=parse_sheet(text, "s"),
            sheet_bytes=text.encode(), out=self.folder / "out", replace=True,
        )  # fmt: skip
        entry = deliver(run)["assets"][0]
        assert entry["status"] == "delivered", entry["reason"]
        made = receive(find_sources([self.folder / "out" / self.file])[0]).asset
        size = asset_box(wanted).diagonal
        for i in wanted.parts:
            assert np.abs(world_points(made, i) - world_points(wanted, i)).max() < 1e-6 * size
        assert np.abs(made.worlds[:, :3, 3] - wanted.worlds[:, :3, 3]).max() < 1e-6 * size
        while self.session.sheet.history.past:
            self.hand.key(Qt.Key.Key_Z, CTRL)
        assert self.session.document.sheet == Sheet()
        received = self.session.assets[self.file]
        assert np.array_equal(self.asset.worlds, received.worlds)
        while self.session.sheet.history.future:
            self.hand.key(Qt.Key.Key_Z, CTRL | SHIFT)

    def second(self, steps: int | None = None):
        """Return what the sheet, or its first steps, make of a second version of the models."""
        (self.folder / "second").mkdir()
        lockworks.write(self.folder / "second" / self.file, self.parts, second=True)
        asset = receive(find_sources([self.folder / "second"])[0]).asset
        sheet = self.session.document.sheet
        return evaluate(asset, sheet.model_copy(update={"steps": sheet.steps[:steps]}))
