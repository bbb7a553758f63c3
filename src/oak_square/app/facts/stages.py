"""What each stage measures of an asset, in words: the numbers of before and after."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from oak_square.core.boxes import Box, asset_box, node_box
from oak_square.core.placement import turn_degrees
from oak_square.core.precision import float32_step
from oak_square.core.scene import Asset
from oak_square.core.shown_units import Shown
from oak_square.core.tolerances import COARSE_FLOAT32_M, OFF_BASE, PIVOT_OUTSIDE, ROTATION_BAKED_DEG, SCALE_BAKED

__all__ = ["box_words", "measure"]

AUTO = Shown()
_EMPTY = "no geometry"


def measure(stage: str, asset: Asset, unit: Shown = AUTO) -> str:
    """Return what `stage` looks at in `asset`, in a few words, lengths in `unit`."""
    return _MEASURES.get(stage, _size)(asset, unit)


def box_words(box: Box, unit: Shown) -> str:
    """Return a box's extents in words."""
    width, height, depth = (float(v) for v in box.size)
    return unit.size(width, height, depth)


def _size(asset: Asset, unit: Shown) -> str:
    box = asset_box(asset)
    return _EMPTY if box is None else box_words(box, unit)


def _turn(asset: Asset, unit: Shown) -> str:
    box = asset_box(asset)
    if box is None:
        return _EMPTY
    up = f"{asset.reading.up} up".replace("-", "−")
    return f"{up}, {unit.length(float(box.size[1]))} tall"


def _pivot(asset: Asset, unit: Shown) -> str:
    box = asset_box(asset)
    if box is None:
        return _EMPTY
    off = float(np.linalg.norm(box.base))
    own = "on its base" if off <= OFF_BASE * box.diagonal else f"{unit.length(off)} off"
    outside = _pivots_outside(asset)
    return f"{own}, {outside} outside{_coarse(box, unit)}" if outside else f"{own}{_coarse(box, unit)}"


def _coarse(box: Box, unit: Shown) -> str:
    """Say what precision float32 has left out there, where it is little."""
    steps = float32_step(float(np.abs([box.low, box.high]).max()))
    return f", float32 steps {unit.length(steps)}" if steps > COARSE_FLOAT32_M else ""


def _pivots_outside(asset: Asset) -> int:
    count = 0
    for i in asset.parts:
        box = node_box(asset, i)
        if box is not None and not asset.nodes[i].pinned:
            count += box.distance_to(asset.worlds[i][:3, 3]) > PIVOT_OUTSIDE * box.diagonal
    return count


def _bake(asset: Asset, unit: Shown) -> str:
    scales = {float(s) for n in asset.nodes for s in n.placement.scale if abs(s - 1) > SCALE_BAKED}
    turned = sum(turn_degrees(n.placement.rotation) > ROTATION_BAKED_DEG for n in asset.nodes if not n.aimed)
    words = []
    if scales:
        shown = ", ".join(f"{s:.4g}" for s in sorted(scales)[:2])
        words.append(f"scale {shown}{'…' if len(scales) > 2 else ''}".replace("-", "−"))
    if turned:
        words.append(f"{turned} turned")
    return ", ".join(words) or "clean"


def _place(asset: Asset, unit: Shown) -> str:
    box = asset_box(asset)
    if box is None:
        return _EMPTY
    low = float(box.low[1])
    away = float(np.hypot(box.base[0], box.base[2]))
    height = "on the ground" if abs(low) <= 1e-6 * max(box.diagonal, 1e-9) else f"bottom at {unit.length(low)}"
    words = height if away <= 1e-6 * max(box.diagonal, 1e-9) else f"{height}, {unit.length(away)} off"
    return f"{words}{_coarse(box, unit)}"


_MEASURES: dict[str, Callable[[Asset, Shown], str]] = {
    "size": _size,
    "turn": _turn,
    "pivot": _pivot,
    "bake": _bake,
    "place": _place,
}
