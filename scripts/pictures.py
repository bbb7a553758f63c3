"""Renders the pictures of the README from the demo batch, by working the real window offscreen."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from oak_square.app.start import open_window, settle
from oak_square.app.window import Window
from oak_square.core.boxes import node_box
from oak_square.demo import BATCH, SHEET
from oak_square.steps import STEPS

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def receive(window: Window) -> None:
    """What came in."""
    window.session.select(("narrowboat.glb",))


def size(window: Window) -> None:
    """The height of the milepost, typed on its box."""
    window.session.enter_stage("size")
    window.session.take_certain_units()
    window.session.select(("milepost.glb",))
    settle(window)
    QTest.mouseClick(window.bench, Qt.MouseButton.LeftButton, pos=window.desk.plates.plate("height").center().toPoint())
    QTest.keyClicks(window.desk.plate_editor.field, "3' 6\"")


def line_up(window: Window) -> None:
    """The keeper's hut tried in centimetres, the others settled."""
    window.session.enter_stage("size")
    for words in (
        {"do": "unit", "reads": "cm", "for": ["gate_leaf.glb"]},
        {"do": "unit", "reads": "mm", "for": ["windlass.stl", "tiller.ply"]},
        {"do": "unit", "reads": "in", "for": ["lamp_standard.obj"]},
        {"do": "turn", "up": "+Z", "front": "-Y", "for": ["lamp_standard.obj"]},
    ):
        _try(window, words)
        window.session.keep_draft()
    window.session.select(("keepers_hut.obj",))
    _try(window, {"do": "unit", "reads": "cm", "for": ["keepers_hut.obj"]})
    window._show_view("line-up")


def line_up_log(window: Window) -> None:
    """The batch as it came, by powers of ten."""
    window.session.enter_stage("size")
    window.session.select(("lamp_standard.obj",))
    window._show_view("line-up")
    settle(window)
    window.views.lineup.scale.buttons["log"].click()


def dividers(window: Window) -> None:
    """The doorway of the hut measured, and its height asked for."""
    window.session.enter_stage("size")
    window.session.take_certain_units()
    window.session.select(("keepers_hut.obj",))
    settle(window)
    window.desk.take_up("dividers")
    bench, asset = window.bench, window.session.outcomes["keepers_hut.obj"].after.asset
    door = next(i for i in asset.parts if asset.nodes[i].name == "door")
    corners = bench.lens().seen(node_box(asset, door).corners)
    for k, (dx, dy) in ((4, (4, -4)), (6, (4, 4)), (7, (-4, 4)), (5, (-4, -4))):
        at = QPoint(round(corners[k][0]) + dx, round(corners[k][1]) + dy)
        QTest.mouseMove(bench, at)
        if k != 5:
            QTest.mouseClick(bench, Qt.MouseButton.LeftButton, pos=at)
        if k == 6:
            QTest.mouseClick(bench, Qt.MouseButton.LeftButton, pos=at)
    settle(window)
    window.session.choose_measure(0)
    form = window.panel_desk.size_body.measures
    settle(window)
    form.length.setFocus()
    QTest.keyClicks(form.length, "2.1")


def turn(window: Window) -> None:
    """The lamp, stood up."""
    window.session.try_step(STEPS["unit"].model_validate({"do": "unit", "reads": "in", "for": ["lamp_standard.obj"]}))
    window.session.keep_draft()
    window.session.select(("lamp_standard.obj",))
    _try(window, {"do": "turn", "up": "+Z", "front": "-Y", "for": ["lamp_standard.obj"]})


def pivot(window: Window) -> None:
    """The heel post's own pivot, at a corner of its box."""
    _try(window, {"do": "unit", "reads": "cm", "for": ["gate_leaf.glb"]})
    window.session.keep_draft()
    window.session.select(("gate_leaf.glb",), (1,))
    spot = {"point": ["left", "bottom", "front"], "inset": {"left": "17 cm"}}
    _try(window, {"do": "pivot", "at": spot, "of": "parts", "for": ["gate_leaf.glb"], "parts": ["heel_post"]})


def bake(window: Window) -> None:
    """The weather vane's uneven scale, which shears its vane."""
    window.session.select(("weather_vane.glb",))
    _try(window, {"do": "bake", "for": ["weather_vane.glb", "narrowboat.glb", "reed_clump.glb"]})


def place(window: Window) -> None:
    """The lifebuoy post, onto the ground."""
    window.session.select(("lifebuoy_post.glb",))
    _try(window, {"do": "place", "at": "origin", "ground": True})


def narrow(window: Window) -> None:
    """Where there is little room: two parts of the gate get pivots of their own."""
    window.resize(1024, 700)
    _try(window, {"do": "unit", "reads": "cm", "for": ["gate_leaf.glb"]})
    window.session.keep_draft()
    window.session.select(("gate_leaf.glb",), (1, 2))
    _try(window, {"do": "pivot", "at": "base", "for": ["gate_leaf.glb"], "parts": ["heel_post", "leaf"]})


def before_after(window: Window) -> None:
    """The lamp as it came and as it goes."""
    window.session.select(("lamp_standard.obj",))
    window.views.show_view("before-after")
    window.session.enter_stage("place")


def deliver(window: Window) -> None:
    """Delivered and proved."""
    window.session.select(("gate_leaf.glb",), (2,))
    window.session.enter_stage("deliver")
    settle(window)
    with TemporaryDirectory() as folder:
        window.panel_desk.deliver_body.run_wished.emit(Path(folder) / "fenwick_delivery", False)
        settle(window)
    window.panel_desk.deliver_body.folder.setText("fenwick_delivery")


def _try(window: Window, words: dict[str, object]) -> None:
    step = STEPS[str(words["do"])].model_validate(words)
    window.session.enter_stage(step.stage)
    window.session.try_step(step)


SHEETED = {deliver, before_after}
SCENES: tuple[Callable[[Window], None], ...] = (
    receive, line_up, line_up_log, size, dividers, turn, pivot, bake, place, narrow, deliver, before_after,
)  # fmt: skip


def main(wanted: list[str]) -> None:
    """Render the scenes named, or all."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    for scene in SCENES:
        if wanted and scene.__name__ not in wanted:
            continue
        window = open_window([BATCH], SHEET if scene in SHEETED else None)
        settle(window)
        scene(window)
        settle(window)
        window.grab().save(str(FOLDER / f"{scene.__name__}.png"))
        window.files.ask_unsaved = lambda: "leave"  # type: ignore[method-assign]  # nobody is there to answer
        window.close()


if __name__ == "__main__":
    main(sys.argv[1:])
