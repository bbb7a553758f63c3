"""Renders the pictures of the README from the demo batch, by working the real window offscreen."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from collections.abc import Callable
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory, mkdtemp

os.environ["QT_QPA_PLATFORM"] = "offscreen"
sys.path.insert(0, str(Path(__file__).resolve().parent.parent))  # for what the benchmarks make

import numpy as np
from benchmarks.stores.making import write_stores
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QTextBrowser

from oak_square.app.start import open_window, settle
from oak_square.app.view import Bench
from oak_square.app.widgets import theme
from oak_square.app.window import Window
from oak_square.core.features import features_of
from oak_square.core.scene import Asset
from oak_square.delivery.pictures import pictures_of
from oak_square.delivery.report import write_reports
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver as run_through
from oak_square.demo import BATCH, SHEET
from oak_square.steps.step import STEPS

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def receive(window: Window) -> None:
    """What came in."""
    window.session.select(("narrowboat.glb",))


def size(window: Window) -> None:
    """The height of the milepost, typed on its box."""
    window.session.enter_stage("size")
    window.session.drafts.take_certain_units()
    window.session.select(("milepost.glb",))
    settle(window)
    QTest.mouseClick(window.bench, Qt.MouseButton.LeftButton, pos=window.desk.plates.plate("height").center().toPoint())
    QTest.keyClicks(window.desk.plate_editor.field, "5' 3\"")


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
        window.session.drafts.keep()
    window.session.select(("keepers_hut.obj",))
    _try(window, {"do": "unit", "reads": "cm", "for": ["keepers_hut.obj"]})
    window._show_view("line-up")


def turn(window: Window) -> None:
    """A maker's things that came lying, each shown as it would stand."""
    window.session.enter_stage("turn")
    window.session.select(("kitchen_chair.obj",))


def folder(window: Window) -> None:
    """What a maker's folder says of its unit, and the bed that does not fit in."""
    window.session.enter_stage("size")
    window.session.select(("single_bed.obj",))


def bake(window: Window) -> None:
    """The weather vane's uneven scale, which shears its vane."""
    window.session.select(("weather_vane.glb",))
    _try(window, {"do": "bake", "for": ["weather_vane.glb", "narrowboat.glb", "reed_clump.glb"]})


def shape(window: Window) -> None:
    """The handrails of the footbridge, lifted by the Rule while the posts' feet stay."""
    session = window.session
    session.enter_stage("bake")
    _pick(window, "footbridge.dae", "railing")
    body = window.panel_desk.bake_body
    QTest.mouseClick(body.means.buttons["shape"], Qt.MouseButton.LeftButton)
    settle(window)
    QTest.mouseClick(body.shape.take.kinds.buttons["slab"], Qt.MouseButton.LeftButton)
    QTest.keyClicks(body.shape.take.ends["from"], "90 cm")
    settle(window)
    window.desk.take_up("rule")
    settle(window)
    held, bench = window.desk.hand.held, window.bench
    line = next(h.line for h in held.handles(held.scene.hold, bench.lens()) if h.name == "y")
    start = QPoint(*(round(float(v)) for v in line[0] + (line[1] - line[0]) * 0.7))
    _press(bench, start)
    for k in range(1, 7):
        _drag(bench, start + QPoint(0, -6 * k))


def narrow(window: Window) -> None:
    """Where there is little room: two parts of the gate get pivots of their own."""
    window.resize(1024, 700)
    _try(window, {"do": "unit", "reads": "cm", "for": ["gate_leaf.glb"]})
    window.session.drafts.keep()
    window.session.select(("gate_leaf.glb",), (1, 2))
    _try(window, {"do": "pivot", "at": "base", "for": ["gate_leaf.glb"], "parts": ["heel_post", "leaf"]})


def rule(window: Window) -> None:
    """The paddle of a gate in mid-drag by a corner of its own, about to snap to a corner of the leaf."""
    window.session.enter_stage("place")
    asset = _pick(window, "gate_leaf_twin.glb", "paddle")
    window.views.look_from(-24, 20)
    bench, pick = window.bench, window.desk.hand.usual
    paddle, leaf = (features_of(asset.mesh_of(i), "vertex", asset.world_from_mesh(i)).points
                    for i in _named(asset, "paddle", "leaf"))  # fmt: skip

    def seen(points: np.ndarray, whose: str) -> list[QPoint]:
        places = [_pixel(bench, p) for p in points]
        aims = [pick.aims(bench.pointing(QPointF(at))) for at in places]
        return [at for at, found in zip(places, aims, strict=True)
                if found and found[0].kind == "vertex" and found[0].whose == whose]  # fmt: skip

    start = max(seen(paddle, "paddle"), key=lambda at: at.x() - at.y())
    end = max(seen(leaf, "leaf"), key=lambda at: at.x() - at.y())
    window.desk.take_up("rule")
    settle(window)
    _press(bench, start)
    for k in range(1, 9):
        _drag(bench, start + (end + QPoint(3, -2) - start) * k / 8)


def swing(window: Window) -> None:
    """A wheel swung about an axis that it should not turn about: it cuts into its rack."""
    _pick(window, "sluice_wheel.glb", "wheel")
    window.desk.take_up("swing")
    settle(window)
    check = window.desk.hand.instruments["swing"]
    check.swing_to(high_deg=95.0, angle_deg=60.0)
    until = time.monotonic() + 30
    while window.desk.swinging.found is None and time.monotonic() < until:
        QApplication.processEvents()


def _pick(window: Window, file: str, name: str) -> Asset:
    """Pick a part, and return its asset as it is shown."""
    asset = window.session.outcomes[file].after.asset
    window.session.select((file,), tuple(_named(asset, name)))
    settle(window)
    return asset


def _named(asset: Asset, *names: str) -> list[int]:
    return [next(i for i, n in enumerate(asset.nodes) if n.name == name) for name in names]


def _pixel(bench: Bench, world: np.ndarray) -> QPoint:
    x, y, _ = bench.lens().seen(np.asarray(world)[None])[0]
    return QPoint(round(float(x)), round(float(y)))


def _press(bench: Bench, at: QPoint) -> None:
    QTest.mouseMove(bench, at)
    QTest.mousePress(bench, Qt.MouseButton.LeftButton, pos=at)


def _drag(bench: Bench, at: QPoint) -> None:
    place = QPointF(at)
    event = QMouseEvent(QEvent.Type.MouseMove, place, QPointF(bench.mapToGlobal(at)), Qt.MouseButton.NoButton,
                        Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)  # fmt: skip
    QApplication.sendEvent(bench, event)
    QApplication.processEvents()


def before_after(window: Window) -> None:
    """The lamp as it came and as it goes."""
    window.session.select(("lamp_standard.obj",))
    window.views.show_view("before-after")
    window.session.enter_stage("place")


def set_out(window: Window) -> None:
    """The batch as one scene: the gate at its sill, bollards on the quay, the rest in rows."""
    session = window.session
    session.berths.put("sill", [0, 0.4, -6], (0, 90, 0))
    session.berths.put("quay_1", [4, 0, -6])
    session.berths.put("quay_2", [7.5, 0, -6])
    at = {"gate_leaf": "sill", "strapping_bollard": ["quay_1", "quay_2"]}
    session.berths.set_out({"file": "lock.glb", "at": at, "row": {"gap": "50 cm", "columns": 6}})
    session.select(("strapping_bollard.glb",))
    session.enter_stage("place")
    window._show_view("set-out")


def deliver(window: Window) -> None:
    """Delivered and proved but for one that does not pass a check, whose row is chosen."""
    session, body = window.session, window.panel_desk.deliver_body
    words = {"do": "check", "height": {"max": "4 m"}, "for": ["lamp_standard.obj"]}
    session.drafts.try_step(STEPS["check"].model_validate(words))
    session.drafts.keep()
    session.enter_stage("deliver")
    settle(window)
    with TemporaryDirectory() as folder:
        body.folder.setText(str(Path(folder) / "fenwick_delivery"))
        QTest.mouseClick(body.run, Qt.MouseButton.LeftButton)
        settle(window)
        body.results.table.selectRow(0)
        settle(window)
    body.folder.setText("fenwick_delivery")


def report(window: Window) -> None:
    """What a delivery of the demo batch came to, as the page that is sent on: not the window, but a reader of pages."""
    page = QTextBrowser(window)
    with TemporaryDirectory() as folder:
        sheet, home = window.session.document.sheet, Path(folder)
        sources = tuple(window.session.rows[f].source for f in window.session.included())
        run = Run(sources=sources, sheet=sheet, sheet_bytes=SHEET.read_bytes(), out=home / "out", jobs=0)
        manifest = run_through(run)
        write_reports([home / "r.html"], manifest, pictures_of(manifest, sources, sheet, run.out))
        text = (home / "r.html").read_text("utf-8")
    # Neither scripts nor what is hidden without them.
    page.setHtml(re.sub(r'<div class="tools" hidden>.*?</div>', "", text, flags=re.DOTALL))
    page.setGeometry(window.rect())
    page.show()
    page.raise_()


def _try(window: Window, words: dict[str, object]) -> None:
    step = STEPS[str(words["do"])].model_validate(words)
    window.session.enter_stage(step.stage)
    window.session.drafts.try_step(step)


@cache
def _stores() -> Path:
    """Return the folder of one maker of the stores, made anew."""
    home = Path(mkdtemp(prefix="oak-square-"))
    write_stores(home)
    return home / "joiner"


def opening(window: Window) -> None:
    """What is seen before anything is open."""
    places = [Path("/tmp/vendors") / name for name in ("quay_2026-11", "footpaths", "towpath_furniture")]
    sheet = Path("/tmp/vendors/conventions.prepsheet.yaml")
    for place in places:
        place.mkdir(parents=True, exist_ok=True)
    sheet.write_text("prep-sheet: 1\n")
    window.habits.change(batches=tuple((str(place),) for place in places), sheets=(str(sheet),))
    window.refresh()


def finder(window: Window) -> None:
    """A few letters, and favourites in the tray."""
    for name in ("means:bake.usual", "action:view.line-up", "means:pivot.places.buttons.base", "asset:milepost.glb"):
        window.finder_desk.turn_tray(name)
    window.finder_desk.open()
    QTest.keyClicks(window.finder.field, "ground")


def dark_bench(window: Window) -> None:
    """The Bench by night: a pivot going to the base of every bollard."""
    window.deeds["tone.dark"].trigger()
    window.session.select(("mooring_bollards.glb",))
    _try(window, {"do": "pivot", "at": "base", "of": "parts", "for": ["mooring_bollards.glb"]})


def dark_line_up(window: Window) -> None:
    """The line-up by night."""
    window.deeds["tone.dark"].trigger()
    line_up(window)


def german() -> None:
    """The size stage, as the command pictures it in a process that speaks German."""
    words = [sys.executable, "-m", "oak_square", "demo", "--stage", "size", "--shot", str(FOLDER / "german.png")]
    subprocess.run(words, check=True, env={**os.environ, "OAK_SQUARE_LANGUAGE": "de"})


STORED = {folder, turn}
SHEETED = {report, deliver, before_after, set_out}
SCENES: tuple[Callable[[Window], None], ...] = (
    opening, receive, finder, line_up, folder, size, turn, bake, shape, narrow, rule, report, swing, set_out,
    deliver, before_after, dark_bench, dark_line_up,
)  # fmt: skip


def main(wanted: list[str]) -> None:
    """Render the scenes named, or all."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    if not wanted or "german" in wanted:
        german()
    for scene in SCENES:
        if wanted and scene.__name__ not in wanted:
            continue
        theme.dress("light")
        paths = [] if scene is opening else [_stores() if scene in STORED else BATCH]
        window = open_window(paths, SHEET if scene in SHEETED else None, kept=False)
        settle(window)
        scene(window)
        settle(window)
        window.grab().save(str(FOLDER / f"{scene.__name__}.png"))
        window.files.ask_unsaved = lambda: "leave"  # type: ignore[method-assign]  # nobody is there to answer
        window.close()


if __name__ == "__main__":
    main(sys.argv[1:])
