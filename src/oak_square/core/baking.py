"""Channels that become identity: baked while the world stays, squared, or reset while it moves."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import readonly
from oak_square.core.frames import apply
from oak_square.core.motion import reframe
from oak_square.core.placement import (
    Placement,
    inverse,
    lean,
    quaternion_of,
    rotation_of,
    squared_up,
)
from oak_square.core.tolerances import SHEARED
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["baked", "reset", "squared"]

Array = NDArray[np.float64]


def baked(asset: Asset, what: frozenset[str], chosen: frozenset[int]) -> Asset:
    """Return `asset` with channels of the `chosen` nodes made identity and all geometry kept in the world.

    Other channels keep their numbers. Translations follow, so that pivots stay where they are in the world, unless
    `location` is baked. A camera or light keeps its world direction.

    Raises
    ------
    Refused
        If a frame that geometry or children hang from flattens space.
    """
    worlds = np.empty_like(asset.worlds)
    hints: dict[int, Placement] = {}
    for i in asset.order:
        node, old = asset.nodes[i], asset.nodes[i].placement
        above = np.eye(4) if node.parent is None else worlds[node.parent]
        frozen = what if i in chosen else frozenset()
        placement = replace(
            old,
            rotation=readonly(np.array([0.0, 0, 0, 1])) if "rotation" in frozen else old.rotation,
            scale=readonly(np.ones(3)) if "scale" in frozen else old.scale,
            shear=readonly(np.zeros(3)) if frozen & {"rotation", "scale"} else old.shear,
        )
        if node.aimed and what & {"rotation", "scale"}:
            placement = _looking_as_before(asset, i, above, placement)
        if "location" in frozen:
            moved = np.zeros(3)
        else:
            at = asset.worlds[i][:3, 3]
            moved = _bring_below(above, at, node.name)
        hints[i] = replace(placement, translation=readonly(moved))
        worlds[i] = above @ hints[i].matrix
    return reframe(asset, worlds, hints=hints)


def _bring_below(above: Array, at: Array, name: str) -> Array:
    back = inverse(above, what=say("node '{name}'", name=name))
    return apply(back, at)


def _looking_as_before(asset: Asset, i: int, above: Array, placement: Placement) -> Placement:
    looks = rotation_of(Placement.from_matrix(asset.worlds[i], what=asset.nodes[i].name).rotation)
    under = rotation_of(Placement.from_matrix(above, what=asset.nodes[i].name).rotation)
    return replace(placement, rotation=readonly(quaternion_of(under.T @ looks)))


def squared(asset: Asset, chosen: Iterable[int]) -> tuple[Asset, tuple[str, ...]]:
    """Return `asset` with the `chosen` nodes' axes made square where they lean by no more than rounding, and notes.

    Files write matrices with a few digits: what leans by less than `SHEARED` is no shear that anybody meant.
    """
    nodes, notes = list(asset.nodes), list[str]()
    for i in chosen:
        cosine = lean(nodes[i].placement)
        if 0 < cosine <= SHEARED:
            nodes[i] = replace(nodes[i], placement=squared_up(nodes[i].placement))
            degrees = float(np.degrees(np.arcsin(cosine)))
            notes.append(
                say(
                    "the axes of '{name}' are squared up by {degrees:.2g}°, the rounding of its matrix",
                    name=nodes[i].name,
                    degrees=degrees,
                )
            )
    return (replace(asset, nodes=tuple(nodes)) if notes else asset), tuple(notes)


def reset(asset: Asset, what: frozenset[str], chosen: frozenset[int]) -> Asset:
    """Return `asset` with channels of the `chosen` nodes made identity; they and all below move."""
    nodes = list(asset.nodes)
    for i in chosen:
        old = nodes[i].placement
        nodes[i] = replace(
            nodes[i],
            placement=replace(
                old,
                translation=readonly(np.zeros(3)) if "location" in what else old.translation,
                rotation=readonly(np.array([0.0, 0, 0, 1])) if "rotation" in what else old.rotation,
                scale=readonly(np.ones(3)) if "scale" in what else old.scale,
                shear=readonly(np.zeros(3)) if what & {"rotation", "scale"} else old.shear,
            ),
        )
    return replace(asset, nodes=tuple(nodes))
