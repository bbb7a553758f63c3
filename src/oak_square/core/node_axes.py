"""The axes of a node's frame, as the file has them and squared: what it is turned and measured along."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.placement import is_singular
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["named_axes", "own_axes", "unit_axes"]

Array = NDArray[np.float64]


def named_axes(asset: Asset, node: int) -> Array:
    """Return a node's three unit axes, as columns, working frame, in the order that its file names them.

    Raises
    ------
    Refused
        If its frame is flat.
    """
    # Frames are kept relabelled to the working axes; the file calls them by its own.
    found: Array = own_axes(asset, node) @ asset.reading.rotation
    return found


def own_axes(asset: Asset, node: int) -> Array:
    """Return a node's three unit axes, as columns, working frame: a rotation; as `unit_axes`."""
    return unit_axes(asset.worlds[node], asset.nodes[node].name)


def unit_axes(world: Array, name: str) -> Array:
    """Return the three unit axes of a frame, shape (4, 4), as columns: a rotation.

    Sheared axes are squared (polar decomposition: the nearest orthogonal frame); x of a mirrored frame is turned round.

    Raises
    ------
    Refused
        If it is flat; its node's name is in the message.
    """
    linear = world[:3, :3]
    if is_singular(linear):
        raise Refused(say("node '{name}': its scale is zero along an axis, so it has no axes", name=name))
    u, _, vt = np.linalg.svd(linear / np.linalg.norm(linear, axis=0))
    axes: Array = u @ vt
    if np.linalg.det(axes) < 0:
        axes[:, 0] *= -1
    return axes
