"""What a shape tells of the side it stands on: one row of numbers for each of the six sides that could be up.

Sides are the signed file axes, in the order of `AXES`. Every number is one where it speaks plainly for that side being
up, and nothing where it says nothing; `weights.py` says how much each counts.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.likely.sample import Sample
from oak_square.core.tolerances import NO_EXTENT, SAME_PLACE, TINY, UNLIKELY

__all__ = ["TELLS", "ShapeTells", "shape_of"]

Array = NDArray[np.float64]

TELLS: tuple[str, ...] = (
    "stands",  # how far it can be tilted before it falls over, of a quarter turn; below nothing: it falls as it is
    "foot",  # how much of its outline the support under it fills
    "sole",  # how much of its outline flat faces at the bottom fill
    "origin_base",  # the file's origin is the middle of its base
    "origin_ground",  # the file's origin is level with its base, but not in its middle
    "origin_axis",  # the file's origin is on its middle line, and neither at its base nor in its middle
    "origin_hung",  # the file's origin is the middle of its top
    "low",  # how much lower than its middle its surface lies
    "faces_up",  # how much more of it faces up than down, where that is level
    "open_below",  # how much of the outline is missing at the bottom: what nobody sees, nobody models
    "level",  # how much of its surface is level
    "upright",  # how much of its surface is upright
    "mirrored",  # how like itself it is, mirrored top to bottom
    "sided",  # how like itself it is, mirrored across the better of the other two axes
    "round",  # how like itself it is, turned about this axis
    "long",  # how much longer it is this way than the others
    "detail",  # how much more of its corners than of its surface lie in its upper half
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ShapeTells:
    """What a shape tells.

    Attributes
    ----------
    sides : ndarray, shape (6, len(TELLS))
    mirrors : ndarray, shape (3,)
        How like itself it is mirrored across each file axis, 0 to 1.
    falls : ndarray of bool, shape (6,)
        Its centre lies outside its foot with that side up.
    """

    sides: Array
    mirrors: Array
    falls: NDArray[np.bool_]


def shape_of(sample: Sample) -> ShapeTells:
    """Return what a sampled shape tells of each side."""
    sides = np.zeros((6, len(TELLS)))
    mirrors, rounds = _measure_likenesses(sample)
    sizes = np.linalg.norm(sample.areas, axis=1)
    centre = (sample.middles * sizes[:, None]).sum(axis=0) / sizes.sum()
    falls = np.zeros(6, dtype=bool)
    for axis in range(3):
        others = [k for k in range(3) if k != axis]
        outline = max(_hull_area(sample.points[:, others]), NO_EXTENT * sample.box.diagonal**2)
        both = _of_axis(sample, sizes, axis, others, mirrors, rounds)
        for up in (1, -1):
            row = _of_side(sample, sizes, centre, axis, up, others, outline)
            falls[2 * axis + (up < 0)] = row["stands"] < 0
            sides[2 * axis + (up < 0)] = [(row | both)[name] for name in TELLS]
    return ShapeTells(sides=sides, mirrors=mirrors, falls=falls)


def _of_axis(
    sample: Sample, sizes: Array, axis: int, others: Sequence[int], mirrors: Array, rounds: Array
) -> dict[str, float]:
    """Return what is alike for both ways of an axis."""
    facing = np.abs(sample.areas[:, axis]) / np.maximum(sizes, TINY)
    size = np.maximum(sample.box.size, SAME_PLACE * sample.box.diagonal)
    return {
        "level": float(sizes[facing > 0.995].sum() / sizes.sum()),
        "upright": float(sizes[facing < 0.05].sum() / sizes.sum()),
        "mirrored": float(mirrors[axis]),
        "sided": float(mirrors[list(others)].max()),
        "round": float(rounds[axis]),
        "long": float(np.clip(np.log(size[axis] / np.sqrt(size[others[0]] * size[others[1]])), -2, 2)),
    }


def _of_side(
    sample: Sample, sizes: Array, centre: Array, axis: int, up: int, others: Sequence[int], outline: float
) -> dict[str, float]:
    """Return what speaks for one way of an axis: heights are counted that way."""
    box = sample.box
    size, diagonal = box.size, box.diagonal
    low, high = (box.low[axis], box.high[axis]) if up > 0 else (-box.high[axis], -box.low[axis])
    extent = max(high - low, NO_EXTENT * diagonal)
    heights = sample.points[:, axis] * up
    there = sample.points[heights <= low + 0.012 * extent + 0.002 * diagonal][:, others]
    foot, margin = _measure_support(there, centre[list(others)])
    rise = max(centre[axis] * up - low, NO_EXTENT * diagonal)
    of_area = sample.areas[:, axis] * up / outline
    facing = sample.areas[:, axis] * up / np.maximum(sizes, TINY)
    ends = sample.corners[:, :, axis] * up
    flat = (np.abs(facing) > 0.98) & (ends.max(axis=1) <= low + 0.01 * extent + 0.001 * diagonal)
    middle = sample.box.middle
    centred = all(abs(middle[k]) < 0.02 * max(size[k], 0.1 * diagonal) for k in others)
    at_base, at_top = abs(low) < 0.01 * extent, abs(high) < 0.01 * extent
    inside = low + 0.01 * extent < 0 < high - 0.01 * extent
    off_middle = abs(middle[axis]) > 0.05 * extent
    half = (low + high) / 2
    above = sample.middles[:, axis] * up > half
    return {
        "stands": float(np.clip(np.arctan2(margin, rise) / (np.pi / 2), -0.5, 0.5)),
        "foot": min(1.0, foot / outline),
        "sole": float(min(1.0, np.abs(of_area[flat]).sum())),
        "origin_base": float(at_base and centred),
        "origin_ground": float(at_base and not centred),
        "origin_axis": float(centred and inside and off_middle),
        "origin_hung": float(at_top and centred),
        "low": 0.5 - float(rise / extent),
        "faces_up": float(np.clip(of_area[np.abs(facing) > 0.98].sum(), -1, 1)),
        "open_below": float(np.clip(of_area.sum(), -1, 1)),
        "detail": float((heights > half).mean() - sizes[above].sum() / sizes.sum()),
    }


def _find_hull(points: Array) -> Array | None:
    """Return the corners of the convex outline of points, shape (N, 2), in order; None of a line or a point."""
    if len(points) < 3:
        return None
    # What lies inside the box of the points that are furthest each way can't be on the outline: most points don't.
    ways = np.array([[1, 0], [1, 1], [0, 1], [-1, 1]], dtype=np.float64)
    far = points @ ways.T
    ends = points[np.concatenate([far.argmax(axis=0), far.argmin(axis=0)])]
    edges = np.roll(ends, -1, axis=0) - ends
    outward = np.stack([edges[:, 1], -edges[:, 0]])
    beyond = points @ outward - (ends * outward.T).sum(axis=1)
    slack = UNLIKELY * float(np.ptp(ends, axis=0).max()) ** 2
    some = np.concatenate([ends, points[(beyond > slack).any(axis=1)]])
    if len(some) < 3:
        return None
    from scipy.spatial import ConvexHull, QhullError

    scale = float(np.ptp(some, axis=0).max())
    if scale <= 0:
        return None
    try:
        return some[ConvexHull((some - some.mean(axis=0)) / scale).vertices]
    except (QhullError, ValueError):
        return None  # all on one line


def _hull_area(points: Array) -> float:
    hull = _find_hull(points)
    if hull is None:
        return 0.0
    x, y = (hull - hull.mean(axis=0)).T
    return float(abs((x * np.roll(y, -1) - y * np.roll(x, -1)).sum()) / 2)


def _measure_support(points: Array, centre: Array) -> tuple[float, float]:
    """Return the area that points, shape (N, 2), span, and how far inside it `centre` is; outside below nothing."""
    hull = _find_hull(points)
    if hull is None:
        return 0.0, -float(np.linalg.norm(points - centre, axis=1).min()) if len(points) else 0.0
    edges = np.roll(hull, -1, axis=0) - hull
    lengths = np.maximum(np.linalg.norm(edges, axis=1), TINY)
    inward = (edges[:, 0] * (centre - hull)[:, 1] - edges[:, 1] * (centre - hull)[:, 0]) / lengths
    x, y = (hull - hull.mean(axis=0)).T
    turned = (x * np.roll(y, -1) - y * np.roll(x, -1)).sum()
    return float(abs(turned) / 2), float((inward * np.sign(turned)).min())


def _measure_likenesses(sample: Sample) -> tuple[Array, Array]:
    """Return how like itself a shape is mirrored across each axis, and turned about each, shape (3,) both, 0 to 1.

    Points of the surface are moved, and held against others of it: how far off they are, beside points that were not
    moved. Twice as far is half alike, four times not at all.
    """
    from scipy.spatial import cKDTree

    tree = cKDTree(sample.dense)
    usual = max(float(np.mean(tree.query(sample.few)[0])), NO_EXTENT * sample.box.diagonal)
    middle = sample.box.middle
    few = sample.few - middle
    mirrors, rounds = np.zeros(3), np.zeros(3)
    for axis in range(3):
        across = few.copy()
        across[:, axis] *= -1
        mirrors[axis] = _rate_likeness(float(np.mean(tree.query(across + middle)[0])) / usual)
        a, b = (axis + 1) % 3, (axis + 2) % 3
        size = sample.box.size
        if max(size[a], size[b]) > 1.15 * min(size[a], size[b]):
            continue  # no turn brings it onto itself
        found = []
        for angle in (np.pi / 2, 0.9):
            turned = few.copy()
            turned[:, a] = few[:, a] * np.cos(angle) - few[:, b] * np.sin(angle)
            turned[:, b] = few[:, a] * np.sin(angle) + few[:, b] * np.cos(angle)
            found.append(_rate_likeness(float(np.mean(tree.query(turned + middle)[0])) / usual))
        rounds[axis] = sum(found) / 2
    return mirrors, rounds


def _rate_likeness(ratio: float) -> float:
    return float(np.clip(1 - np.log(max(ratio, 1.0)) / np.log(4), 0, 1))
