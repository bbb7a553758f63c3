"""How an asset stands at each stage: the numbers that before and after are told by."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from oak_square.core.boxes import Box, asset_box, node_box
from oak_square.core.placement import turn_degrees
from oak_square.core.precision import float32_step
from oak_square.core.scene import Asset
from oak_square.core.tolerances import OFF_BASE, PIVOT_OUTSIDE, ROTATION_BAKED_DEG, SAME_PLACE, SCALE_BAKED, SPECK

__all__ = ["Standing", "standing_at"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """What one stage looks at in an asset; what it does not look at keeps its default.

    Attributes
    ----------
    stage : str
    size : tuple of 3 float, or None
        Width, height, depth, metres; None where it has no geometry.
    up : str
        The signed file axis that is read as up.
    off_m : float
        At pivot, how far its base middle is from the origin, at place, how far it is beside it; 0 where it is on it
        within the tolerance.
    outside : int
        Parts whose pivots lie outside their boxes.
    scales : tuple of float
        The scales that are left on nodes, each once, the smallest first.
    turned : int
        Nodes that a rotation is left on.
    low_m : float
        The height of its lowest point; 0 where it is on the ground within the tolerance.
    step_m : float
        How far float32 numbers lie apart where it stands.
    """

    stage: str
    size: tuple[float, float, float] | None
    up: str = "+Y"
    off_m: float = 0.0
    outside: int = 0
    scales: tuple[float, ...] = ()
    turned: int = 0
    low_m: float = 0.0
    step_m: float = 0.0


def standing_at(stage: str, asset: Asset) -> Standing:
    """Return how `asset` stands at `stage`; at a stage that measures nothing of its own, its size."""
    box = asset_box(asset)
    if stage == "bake":
        return _judge_bake(asset, box)
    if box is None:
        return Standing(stage=stage, size=None)
    return _LOOKS.get(stage, _stand_sized)(stage, asset, box)


def _find_extents(box: Box | None) -> tuple[float, float, float] | None:
    if box is None:
        return None
    width, height, depth = (float(v) for v in box.size)
    return width, height, depth


def _stand_sized(stage: str, _asset: Asset, box: Box) -> Standing:
    return Standing(stage=stage, size=_find_extents(box))


def _stand_turned(stage: str, asset: Asset, box: Box) -> Standing:
    return Standing(stage=stage, size=_find_extents(box), up=asset.reading.up)


def _judge_pivot(stage: str, asset: Asset, box: Box) -> Standing:
    off = float(np.linalg.norm(box.base))
    return Standing(
        stage=stage,
        size=_find_extents(box),
        off_m=0.0 if off <= OFF_BASE * box.diagonal else off,
        outside=_pivots_outside(asset),
        step_m=_float_step(box),
    )


def _judge_bake(asset: Asset, box: Box | None) -> Standing:
    scales = {float(s) for n in asset.nodes for s in n.placement.scale if abs(s - 1) > SCALE_BAKED}
    turned = sum(turn_degrees(n.placement.rotation) > ROTATION_BAKED_DEG for n in asset.nodes if not n.aimed)
    return Standing(stage="bake", size=_find_extents(box), scales=tuple(sorted(scales)), turned=turned)


def _stand_in_place(stage: str, _asset: Asset, box: Box) -> Standing:
    near = SAME_PLACE * max(box.diagonal, SPECK)
    low, away = float(box.low[1]), float(np.hypot(box.base[0], box.base[2]))
    return Standing(
        stage=stage,
        size=_find_extents(box),
        low_m=0.0 if abs(low) <= near else low,
        off_m=0.0 if away <= near else away,
        step_m=_float_step(box),
    )


def _pivots_outside(asset: Asset) -> int:
    count = 0
    for i in asset.parts:
        box = node_box(asset, i)
        if box is not None and not asset.nodes[i].pinned:
            count += box.distance_to(asset.worlds[i][:3, 3]) > PIVOT_OUTSIDE * box.diagonal
    return count


def _float_step(box: Box) -> float:
    return float32_step(float(np.abs([box.low, box.high]).max()))


_LOOKS: dict[str, Callable[[str, Asset, Box], Standing]] = {
    "turn": _stand_turned,
    "pivot": _judge_pivot,
    "place": _stand_in_place,
}
