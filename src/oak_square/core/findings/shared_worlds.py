"""Files of one folder that stand off their origins by one arrangement: they came out of one scene, and belong together.

Each sent to its own origin, how they stood to one another is lost.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import PurePosixPath

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.findings.finding import Finding, add_kind, finding
from oak_square.core.lengths import format_length
from oak_square.core.tolerances import ABUTS, OFF_BASE, ONE_OFFSET
from oak_square.core.words import one_or_many, say

__all__ = ["SharedWorld", "shared_worlds", "world_finding"]

Array = NDArray[np.float64]
_MOST = 400  # files of a folder of which all pairs are looked at; of more, the first by name

add_kind(
    "shared-world",
    level="note",
    stage="place",
    title=say("shares one world with its neighbours"),
    why=say("Each sent to its own origin, how they stand to one another is lost. Placed together, it stays."),
    remedy={"do": "place", "at": "origin", "together": True},
    symptoms=say("falls apart pile stacked over one another scattered scene", "symptoms"),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class SharedWorld:
    """Files of one folder that stand in one arrangement.

    `offset_m` is how far off their origins they all stand, metres; None where it is that their boxes fit together.
    """

    files: tuple[str, ...]
    offset_m: float | None


def shared_worlds(boxes: Mapping[str, Box], units: Mapping[str, float | None]) -> dict[str, SharedWorld]:
    """Return the arrangement of each file that shares one with others of its folder.

    Parameters
    ----------
    boxes : mapping of file to Box
        World, metres, each file under its own reading; files without geometry are left out.
    units : mapping of file to float or None
        The unit, metres, that each file seems to be made in where it is read in another. Lengths of files of which
        that differs are not held against each other.
    """
    folders: dict[tuple[str, float | None], list[str]] = {}
    for file in sorted(boxes):
        folders.setdefault((PurePosixPath(file).parent.as_posix(), units.get(file)), []).append(file)
    found: dict[str, SharedWorld] = {}
    for files in folders.values():
        some = files[:_MOST]
        if len(some) > 1:
            low, high = (np.array([getattr(boxes[f], end) for f in some]) for end in ("low", "high"))
            for world in (*_list_abutting(some, low, high), *_list_offset_alike(some, low, high)):
                found |= dict.fromkeys(world.files, world)
    return found


def world_finding(world: SharedWorld) -> Finding:
    """Return what is said of each file of an arrangement."""
    count = len(world.files)
    others = one_or_many(count - 1, "{count} other file of its folder", "{count} other files of its folder")
    how = (
        say("their boxes fit together")
        if world.offset_m is None
        else say("all stand {offset} off their origins, one way", offset=format_length(world.offset_m))
    )
    message = say("shares one world with {others}: {how}", others=others, how=how)
    return finding("shared-world", message, measure=float(count))


def _list_offset_alike(files: Sequence[str], low: Array, high: Array) -> list[SharedWorld]:
    """Return those whose origins lie further outside their footprints than they are large, all off by one offset."""
    size = (high - low).max(axis=1)
    outside = np.linalg.norm(np.maximum(np.maximum(low[:, [0, 2]], -high[:, [0, 2]]), 0), axis=1)
    far = np.flatnonzero(outside > size)
    base = (low + high) / 2
    base[:, 1] = low[:, 1]
    offsets = base[far]
    lengths = np.linalg.norm(offsets, axis=1)
    apart = np.linalg.norm(offsets[:, None] - offsets[None], axis=2)
    alike = apart <= ONE_OFFSET * np.minimum(lengths[:, None], lengths[None])
    return [
        SharedWorld(files=tuple(files[far[i]] for i in group), offset_m=float(lengths[group].mean()))
        for group in _list_groups(alike)
    ]


def _list_abutting(files: Sequence[str], low: Array, high: Array) -> list[SharedWorld]:
    """Return those whose boxes lie beside one another, near and without overlap, not each about its own origin."""
    between = np.maximum(low[:, None] - high[None], low[None] - high[:, None])
    gap = np.linalg.norm(np.maximum(between, 0), axis=2)
    both = np.maximum(high[:, None], high[None]) - np.minimum(low[:, None], low[None])
    diagonal = np.linalg.norm(both, axis=2)
    overlaps: NDArray[np.bool_] = np.asarray((-between).min(axis=2) > OFF_BASE * diagonal)
    at_origin: NDArray[np.bool_] = np.asarray(((low[:, [0, 2]] <= 0) & (high[:, [0, 2]] >= 0)).all(axis=1))
    found = []
    for group in _list_groups(~overlaps & (gap <= ABUTS * diagonal)):
        pairs = overlaps[np.ix_(group, group)]
        np.fill_diagonal(pairs, val=False)
        if not pairs.any() and not at_origin[group].all():
            found.append(SharedWorld(files=tuple(files[i] for i in group), offset_m=None))
    return found


def _list_groups(linked: NDArray[np.bool_]) -> list[NDArray[np.int64]]:
    """Return the groups of two and more that links, shape (N, N), tie together."""
    count = len(linked)
    # Importing SciPy takes longer than this does with the most files that are looked at.
    labels, before = np.arange(count), np.full(count, -1)
    while not np.array_equal(labels, before):
        before = labels
        labels = np.minimum(labels, np.where(linked, labels, count).min(axis=1, initial=count))
    groups = (np.flatnonzero(labels == label) for label in np.unique(labels))
    return [group for group in groups if len(group) > 1]
