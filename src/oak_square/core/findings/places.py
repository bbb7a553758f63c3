"""Of where it stands: its origin, the ground, and numbers that are too large."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.findings.finding import Finding, add_kind, finding, looks
from oak_square.core.lengths import format_length
from oak_square.core.precision import float32_step, stored_steps
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.core.tolerances import (
    COARSE_FLOAT32_M,
    OFF_BASE,
    OFF_GROUND,
    SCALE_BAKED,
    SPECK,
)
from oak_square.core.words import say

__all__: list[str] = []

Array = NDArray[np.float64]

add_kind(
    "pivot-off-base",
    level="check",
    stage="pivot",
    title=say("origin off its base middle"),
    why=say("Set down by its origin, it stands beside its place, and copies cut through the ground."),
    remedy={"do": "pivot", "at": "base"},
    symptoms=say("floats sinks off its place beside the grid snapping rotates orbits", "symptoms"),
)

add_kind(
    "off-ground",
    level="check",
    stage="place",
    title=say("not on the ground"),
    why=say("Set down at height 0, it floats or sinks."),
    remedy={"do": "place", "ground": True},
    symptoms=say("floats hovers sinks buried shadow detached ground", "symptoms"),
)

add_kind(
    "off-origin",
    level="check",
    stage="place",
    title=say("away from its origin"),
    why=say("Dropped into a set, it appears somewhere else than where it was put."),
    remedy={"do": "pivot", "at": "base"},
    symptoms=say("appears elsewhere lost far away off-centre jumps rotates orbits", "symptoms"),
)

add_kind(
    "far-from-origin",
    level="fix",
    stage="place",
    title=say("too far out for its numbers"),
    why=say("Files hold float32: out there neighbouring vertices snap to a coarse lattice, and edges jitter."),
    remedy={"do": "pivot", "at": "base"},
    symptoms=say("flickers jitters shakes shadow z-fighting precision wobbles physics", "symptoms"),
)


@looks
def _look_at_place(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
    if box is None:
        return
    diagonal = box.diagonal
    off = float(np.linalg.norm(box.base))
    if off > OFF_BASE * diagonal:
        message = say("the origin is {off} off the middle of its base", off=format_length(off))
        yield finding("pivot-off-base", message, measure=off)
    bottom = float(box.low[1])
    if abs(bottom) > OFF_GROUND * max(float(box.size[1]), SPECK):
        yield finding(
            "off-ground",
            say("its bottom is {bottom} above height 0", bottom=format_length(abs(bottom)))
            if bottom > 0
            else say("its bottom is {bottom} below height 0", bottom=format_length(abs(bottom))),
            measure=bottom,
        )
    outside = Box(box.low[[0, 2]], box.high[[0, 2]]).distance_to(np.zeros(2))
    if outside > SCALE_BAKED * diagonal:
        yield finding(
            "off-origin",
            say("the origin is {outside} outside its footprint", outside=format_length(outside)),
            measure=outside,
        )


@looks
def _look_at_numbers(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
    if box is None:
        return
    furthest = float(np.abs([box.low, box.high]).max())
    spacing = float32_step(furthest)
    if spacing > COARSE_FLOAT32_M:
        message = say(
            "{furthest} out, float32 steps are {spacing}",
            furthest=format_length(furthest),
            spacing=format_length(spacing),
        )
        yield finding("far-from-origin", message, measure=spacing)
    # A node may bring back what its numbers have far out: they are as coarse all the same.
    parts = [i for i in asset.parts if asset.nodes[i].skin is None]
    steps = stored_steps(asset, parts)
    if len(steps) and steps.max() > max(COARSE_FLOAT32_M, spacing):
        worst = int(np.argmax(steps))
        name, step = asset.nodes[parts[worst]].name, float(steps[worst])
        message = say(
            "the numbers of '{name}' lie so far from its pivot that float32 steps are {step}",
            name=name,
            step=format_length(step),
        )
        yield finding("far-from-origin", message, part=name, measure=step)
