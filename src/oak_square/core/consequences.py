"""What a bake brings about besides what is asked of it, part by part: told from the asset before and after."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.clips import Track, carried_values, clip_frames
from oak_square.core.errors import Refused
from oak_square.core.placement import turn_degrees_of
from oak_square.core.resampling import is_resampled
from oak_square.core.scene import Asset
from oak_square.core.sharing import partings
from oak_square.core.tolerances import ROTATION_BAKED_DEG, SAME_PLACE, SHEARED, TINY
from oak_square.core.words import say

__all__ = ["KINDS_OF_CONSEQUENCE", "Consequence", "consequences_of"]

Array = NDArray[np.float64]
Kind = Literal["axes", "pivot", "mirror", "shear", "shared", "clip", "path"]

KINDS_OF_CONSEQUENCE: dict[Kind, str] = {
    "axes": say("own axes now follow the parent's"),
    "pivot": say("pivots sent to their parent's origin"),
    "mirror": say("mirrored faces are wound the other way round"),
    "shear": say("a slant goes into the geometry"),
    "shared": say("its geometry comes apart from what shares it"),
    "clip": say("its clips are rewritten"),
    "path": say("its path is resampled"),
}
"""Each kind in words, in the order they are told in."""


@dataclass(frozen=True, slots=True)
class Consequence:
    """What happens to one node.

    `amount` are degrees that its own axes stood from the world's, metres that its pivot goes, or degrees that its
    geometry is slanted by; or how many shared the geometry. Of others it is 0.
    """

    node: int
    kind: Kind
    amount: float


def consequences_of(before: Asset, after: Asset) -> tuple[Consequence, ...]:
    """Return what happens to the nodes of an asset between two states of it, by node and kind.

    Nodes that only one of them has are left out.
    """
    count = min(len(before.nodes), len(after.nodes))
    old, new = before.worlds[:count], after.worlds[:count]
    size = max(float(np.abs(old[:, :3, 3]).max(initial=0.0)), TINY)
    moved = np.linalg.norm(new[:, :3, 3] - old[:, :3, 3], axis=1)
    was, now = old[:, :3, :3], new[:, :3, :3]
    has_mesh = np.array([n.mesh is not None for n in before.nodes[:count]], dtype=bool)
    axes = _unit_axes(was)
    turned = _turned_deg(axes, _unit_axes(now)) > ROTATION_BAKED_DEG
    mirrored = has_mesh & (np.sign(np.linalg.det(was)) * np.sign(np.linalg.det(now)) < 0)
    slants = np.where(has_mesh, _measure_slants(was, now), 0.0)
    found = [Consequence(i, "axes", turn_degrees_of(axes[i])) for i in _find_where(turned)]
    found += [Consequence(i, "pivot", float(moved[i])) for i in _find_where(moved > SAME_PLACE * size)]
    found += [Consequence(i, "mirror", 0.0) for i in _find_where(mirrored)]
    found += [
        Consequence(i, "shear", float(np.degrees(np.arcsin(min(slants[i], 1.0)))))
        for i in _find_where(slants > SHEARED)
    ]
    found += _of_shared(before, after)
    found += _of_clips(before, after)
    return tuple(sorted(found, key=lambda c: c.node))


def _find_where(which: NDArray[np.bool_]) -> list[int]:
    """Return where it is so."""
    return [int(i) for i in np.flatnonzero(which)]


def _of_shared(before: Asset, after: Asset) -> list[Consequence]:
    return [Consequence(i, "shared", float(p.users)) for p in partings(before, after) for i in p.nodes]


def _of_clips(before: Asset, after: Asset) -> list[Consequence]:
    """Return which nodes' clips come to other numbers, or to keys of their own."""
    if not before.clips:
        return []
    tracks: dict[int, list[Track]] = {}
    for track in (t for clip in before.clips for t in clip.tracks):
        tracks.setdefault(track.node, []).append(track)
    try:
        frames = clip_frames(before, after)
        moved = [i for i, (_, below) in frames.items() if is_resampled(before, i, below)]
        other = [i for i, own in tracks.items() if any(_is_other(t, before, frames[i]) for t in own)]
    except Refused:
        return []  # then the step is refused, and nothing comes of it
    return [Consequence(i, "path" if i in moved else "clip", 0.0) for i in sorted({*moved, *other})]


def _is_other(track: Track, before: Asset, frames: tuple[Array, Array]) -> bool:
    """Tell whether a track's values become other ones between new frames; of a rotation either sign is the same."""
    old, new = track.values, carried_values(track, before, *frames)
    off = np.abs(new - old).max(axis=-1, initial=0.0)
    if track.path == "rotation":
        off = np.minimum(off, np.abs(new + old).max(axis=-1, initial=0.0))
    return bool(off.max(initial=0.0) > SAME_PLACE * max(1.0 if track.path == "rotation" else 0.0, np.abs(old).max()))


def _unit_axes(linear: Array) -> Array:
    """Return the unit axes of linear parts, shape (N, 3, 3), as columns, mirrors taken out."""
    lengths = np.linalg.norm(linear, axis=1, keepdims=True)
    axes: Array = linear / np.where(lengths > 0, lengths, 1.0)
    return np.where(np.linalg.det(axes)[:, None, None] < 0, -axes, axes)


def _turned_deg(a: Array, b: Array) -> Array:
    """Return for each node the largest angle, degrees, between an axis and the same one afterwards, shape (N,).

    One that is turned about is the same.
    """
    cosines = np.abs((a * b).sum(axis=1))
    sines = np.linalg.norm(np.cross(a, b, axis=1), axis=1)
    angles: Array = np.degrees(np.arctan2(sines, cosines)).max(axis=1, initial=0.0)
    return angles


def _measure_slants(old: Array, new: Array) -> Array:
    """Return for each node the largest cosine between directions that are square in the old frame, shape (N,).

    They are rewritten for the new frame; one that flattens space tells nothing.
    """
    found = np.zeros(len(old))
    sound = np.abs(np.linalg.det(new)) > TINY
    change = np.linalg.solve(new[sound], old[sound])
    lengths = np.linalg.norm(change, axis=1, keepdims=True)
    axes = change / np.where(lengths > 0, lengths, 1.0)
    found[sound] = np.abs(axes.transpose(0, 2, 1) @ axes - np.eye(3)).max(axis=(1, 2), initial=0.0)
    return found
