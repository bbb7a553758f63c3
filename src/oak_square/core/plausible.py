"""What is likely of things people model: how large they are, and which side they stand on.

Size: the longest extent of a modelled thing is taken as log-normal about 1.5 m, one natural-log standard deviation
of 1.3; so 95 % lie between a cup and a bridge span. A unit is *far more plausible* when it is a hundred times as
likely as the present one.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import apply
from oak_square.core.lengths import UNITS

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["likelier_side_down", "likelier_unit", "likelier_up", "size_log_likelihood"]

_TYPICAL_M = 1.5
_SPREAD = 1.3
_FAR_MORE = math.log(100)
_CANDIDATES = ("m", "cm", "mm", "in", "ft")
_MOST_TRIANGLES = 200_000

# The six ways a thing can stand: the side that is down, its working axis and the sign of "outward" along it.
_DOWN = (("bottom", 1, -1), ("top", 1, 1), ("left", 0, -1), ("right", 0, 1), ("back", 2, -1), ("front", 2, 1))


def size_log_likelihood(longest_m: float) -> float:
    """Return the log-likelihood, up to a constant, of a longest extent in metres."""
    if longest_m <= 0:
        return -math.inf
    return -0.5 * (math.log(longest_m / _TYPICAL_M) / _SPREAD) ** 2


def likelier_unit(size_units: NDArray[np.float64], metres_per_unit: float) -> tuple[str, float] | None:
    """Return the unit far more plausible than the present one, and its metres; None when there is none.

    Parameters
    ----------
    size_units : ndarray, shape (3,), file units
    metres_per_unit : float
        The present reading.
    """
    longest = float(size_units.max())
    if longest <= 0:
        return None
    best = max(_CANDIDATES, key=lambda u: size_log_likelihood(longest * UNITS[u]))
    gain = size_log_likelihood(longest * UNITS[best]) - size_log_likelihood(longest * metres_per_unit)
    return (best, UNITS[best]) if gain > _FAR_MORE else None


def likelier_side_down(asset: Asset) -> str | None:
    """Return the side the model seems to stand on, when it is plainly not its bottom.

    A thing that stands has a foot: flat faces, looking outward, at the very end of one axis, filling much of its
    outline. A model is suspect when it has no foot below and a full one on another side, but none facing that.
    """
    shares = _foot_shares(asset)
    if shares is None or shares["bottom"] > 0.1 or shares["top"] > 0.5:
        return None
    side = max(("left", "right", "back", "front"), key=lambda s: shares[s])
    facing = {"left": "right", "right": "left", "back": "front", "front": "back"}[side]
    return side if shares[side] > 0.6 and shares[facing] < 0.25 else None


def likelier_up(asset: Asset) -> str | None:
    """Return the signed file axis that is up where the model seems to stand on a side; None where it does not."""
    side = likelier_side_down(asset)
    if side is None:
        return None
    axis, sign = next((axis, sign) for name, axis, sign in _DOWN if name == side)
    up = asset.reading.rotation.T @ (np.eye(3)[axis] * -sign)
    k = int(np.argmax(np.abs(up)))
    return f"{'+' if up[k] > 0 else '-'}{'XYZ'[k]}"


def _foot_shares(asset: Asset) -> dict[str, float] | None:
    """Return, by side, the part of the outline box that flat outward faces at its very end fill."""
    if asset.triangle_count == 0 or asset.triangle_count > _MOST_TRIANGLES:
        return None
    corners = []
    for i in asset.parts:
        mesh = asset.mesh_of(i)
        matrix = asset.world_from_mesh(i)
        world = apply(matrix, mesh.points)
        corners.append(world[mesh.triangles])
    triangles = np.concatenate(corners)
    if not len(triangles) or not np.isfinite(triangles).all():
        return None
    low, high = triangles.min(axis=(0, 1)), triangles.max(axis=(0, 1))
    area = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0]) / 2
    near = 0.01 * float((high - low).max())
    shares = {}
    for side, axis, sign in _DOWN:
        others = [k for k in range(3) if k != axis]
        outline = float(np.prod((high - low)[others]))
        end = low[axis] if sign < 0 else high[axis]
        there = (np.abs(triangles[:, :, axis] - end) <= near).all(axis=1)
        facing = np.abs(area[:, axis]) > 0.99 * np.linalg.norm(area, axis=1)
        shares[side] = float(np.abs(area[there & facing, axis]).sum()) / outline if outline > 0 else 0.0
    return shares
