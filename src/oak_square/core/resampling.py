"""Translations resampled: what a pivot that moved under a turning node leaves of its path, on keys of its own."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.clips import Clip, Track, carried_values, clip_frames, pose, sampled
from oak_square.core.errors import Refused
from oak_square.core.placement import Placement, matrix_of
from oak_square.core.tolerances import RESAMPLED, SAME_PLACE
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["check_clips", "is_resampled", "resampled_translation"]

Array = NDArray[np.float64]
_MOST_KEYS = 4096
_MOST_POSES = 32
# A curve that bends both ways crosses the line between its ends in the middle: it is looked at beside it too.
_PROBES = np.array([0.2, 0.35, 0.5, 0.65, 0.8])


def check_clips(before: Asset, after: Asset) -> None:
    """Make sure that the clips of an asset can be rewritten for what steps made of it.

    Raises
    ------
    Refused
        With the node that stands in the way, and why.
    """
    if not before.clips:
        return
    frames = clip_frames(before, after)
    for clip in before.clips:
        for track in clip.tracks:
            carried_values(replace(track, values=track.values[:1]), before, *frames[track.node])
        for node in {t.node for t in clip.tracks}:
            if is_resampled(before, node, frames[node][1]):
                resampled_translation(before, clip, node, frames)


def is_resampled(before: Asset, node: int, below: Array) -> bool:
    """Tell whether a node's pivot moved in its own frame while clips turn or size it.

    Its translation then depends on both, on a curve that no few keys hold: it is resampled.
    """
    paths = {t.path for clip in before.clips for t in clip.tracks if t.node == node}
    return bool(np.abs(below[:3, 3]).max() > SAME_PLACE * _measure_reach(before)) and bool(
        paths & {"rotation", "scale"}
    )


def _measure_reach(asset: Asset) -> float:
    box = asset_box(asset)
    return box.diagonal if box is not None else 1.0


def resampled_translation(
    before: Asset, clip: Clip, node: int, frames: Mapping[int, tuple[Array, Array]]
) -> Track | None:
    """Return a node's translation between new frames as a track of its own; None where the clip leaves the node alone.

    Keys are added, halving stretch by stretch, until the straight line between two of them is off by no more than
    `RESAMPLED` of the asset's diagonal, shared by all nodes that are resampled: what is off adds up down the hierarchy.

    Parameters
    ----------
    frames : mapping of node to (above, below)
        As `clip_frames` gives them.

    Raises
    ------
    Refused
        If a track goes in steps, which no line can follow, or more keys would be needed than are sensible.
    """
    tracks = [t for t in clip.tracks if t.node == node]
    if not tracks:
        return None
    above, below = frames[node]
    sharers = sum(is_resampled(before, n, own[1]) for n, own in frames.items())
    name = before.nodes[node].name
    if any(t.interpolation == "STEP" for t in tracks):
        raise Refused(
            say(
                "the pivot of '{name}' would move while the clip '{name_2}' turns or sizes it in steps",
                name=name,
                name_2=clip.name,
            )
        )
    times = np.unique(np.concatenate([t.times for t in tracks]))
    values = np.array([_translation_at(before, tracks, node, t, above, below) for t in times])
    allowed = RESAMPLED * _measure_reach(before) / _stretch_above(before, clip, node, above) / max(1, sharers)
    while True:
        spans = (times[1:] - times[:-1])[:, None]
        probes = times[:-1, None] + spans * _PROBES
        rows = [_translation_at(before, tracks, node, t, above, below) for t in probes.ravel()]
        there = np.array(rows).reshape(*probes.shape, 3)
        line = values[:-1, None] + (values[1:] - values[:-1])[:, None] * _PROBES[:, None]
        coarse = (np.linalg.norm(there - line, axis=2) > allowed).any(axis=1)
        if not coarse.any():
            return Track(node=node, path="translation", times=times, values=values)
        if len(times) + int(coarse.sum()) > _MOST_KEYS:
            raise Refused(
                say(
                    "the clip '{name}' of '{name_2}' would need over {_most_keys} keys about its new pivot",
                    name=clip.name,
                    name_2=name,
                    _most_keys=_MOST_KEYS,
                )
            )
        places, middle = np.flatnonzero(coarse) + 1, len(_PROBES) // 2
        times = np.insert(times, places, probes[coarse, middle])
        values = np.insert(values, places, there[coarse, middle], axis=0)


def _stretch_above(before: Asset, clip: Clip, node: int, above: Array) -> float:
    """Return how many world lengths a length in a node's new parent frame comes to at most, at rest and in a clip."""
    parent = before.nodes[node].parent
    if parent is None:
        return float(np.linalg.norm(np.linalg.inv(above[:3, :3]), ord=2))
    times = np.unique(np.concatenate([t.times for t in clip.tracks]))
    frames = [before.worlds[parent]]
    frames += [pose(before, clip, float(t))[parent] for t in times[:: max(1, len(times) // _MOST_POSES)]]
    back = np.linalg.inv(above[:3, :3])
    return max(float(np.linalg.norm(f[:3, :3] @ back, ord=2)) for f in frames)


def _translation_at(before: Asset, tracks: list[Track], node: int, at_s: float, above: Array, below: Array) -> Array:
    rest = before.nodes[node].placement
    own = {t.path: sampled(t, at_s) for t in tracks}
    local = matrix_of(
        Placement.of(
            translation=own.get("translation", rest.translation),
            rotation=own.get("rotation", rest.rotation),
            scale=own.get("scale", rest.scale),
            what=before.nodes[node].name,
        )
    )
    found: Array = (above @ local @ below)[:3, 3]
    return found
