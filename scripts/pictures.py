"""Renders the pictures of the README from the demo batch, by working the real window offscreen."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from oak_square.app.start import open_window, settle
from oak_square.app.window import Window
from oak_square.demo import BATCH, SHEET
from oak_square.steps import STEPS

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def receive(window: Window) -> None:
    """What came in."""
    window.session.select(("narrowboat.glb",))


def size(window: Window) -> None:
    """The unit of the windlass, being tried."""
    window.session.select(("windlass.stl",))
    _try(window, {"do": "unit", "reads": "mm", "for": ["windlass.stl"]})


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
    window.session.select(("gate_leaf.glb",), 1)
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


def before_after(window: Window) -> None:
    """The lamp as it came and as it goes."""
    window.session.select(("lamp_standard.obj",))
    window.views.show_view("before-after")
    window.session.enter_stage("place")


def deliver(window: Window) -> None:
    """Delivered and proved."""
    window.session.select(("gate_leaf.glb",), 2)
    window.session.enter_stage("deliver")
    settle(window)
    with TemporaryDirectory() as folder:
        window.deliver_body.run_wished.emit(Path(folder) / "fenwick_delivery", False)
        settle(window)
    window.deliver_body.folder.setText("fenwick_delivery")


def _try(window: Window, words: dict[str, object]) -> None:
    step = STEPS[str(words["do"])].model_validate(words)
    window.session.enter_stage(step.stage)
    window.session.try_step(step)


SHEETED = {deliver, before_after}
SCENES: tuple[Callable[[Window], None], ...] = (receive, size, turn, pivot, bake, place, deliver, before_after)


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
        window.close()


if __name__ == "__main__":
    main(sys.argv[1:])
