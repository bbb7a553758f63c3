"""How the lines of an OBJ file change where an asset differs from it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import say
from oak_square.formats.obj.faces import FaceCorners
from oak_square.formats.obj.normals import with_lines_of_their_own
from oak_square.formats.obj.text import (
    Numbers,
    ObjText,
)
from oak_square.formats.shared.change import Change

__all__ = ["ObjCarrier", "carry_whole", "flip_faces", "move_normals", "move_points"]

_APART = 100 * SAME_MATRIX


@dataclass(frozen=True, slots=True, kw_only=True)
class ObjCarrier:
    """What is kept of an OBJ file: its text, and which of its lines are whose."""

    text: ObjText
    folder: Path
    positions: NDArray[np.float64]  # (N, 3) of the `v` lines
    normals: NDArray[np.float64]  # (M, 3) of the `vn` lines
    part_of_vertex: NDArray[np.int64]  # (N,) first part that uses it, -1 for none
    used: tuple[NDArray[np.int64], ...]  # per part: vertices it uses
    used_normals: tuple[NDArray[np.int64], ...]
    part_of_face: NDArray[np.int64]
    faces: FaceCorners
    uvs: NDArray[np.float64]  # (K, 2) of the `vt` lines


def move_points(carrier: ObjCarrier, changes: list[Change], asset: Asset) -> NDArray[np.float64]:
    """Return where the `v` lines go.

    Raises
    ------
    Refused
        If two parts share some, and would have to move apart.
    """
    out = carrier.positions.copy()
    reach = float(np.abs(out[np.isfinite(out)]).max(initial=0.0))
    for k, change in enumerate(changes):
        own = carrier.used[k]
        if k == 0:
            # Vertices no face uses go with the first part: they are reference points of the whole.
            spare = np.flatnonzero(carrier.part_of_vertex < 0)
            out[spare] = replace(change, shaped=None).points(carrier.positions[spare])
        moved = change.points(carrier.positions[own])
        first = carrier.part_of_vertex[own]
        is_mine = first == k
        apart = ~is_mine & (np.abs(moved - out[own]).max(axis=1, initial=0.0) > _APART * reach)
        if apart.any():
            a, b = asset.nodes[int(first[apart][0])].name, asset.nodes[k].name
            raise Refused(say("parts '{a}' and '{b}' share vertices, and would have to move apart", a=a, b=b))
        out[own[is_mine]] = moved[is_mine]
    return out


def move_normals(carrier: ObjCarrier, changes: list[Change], file: str) -> tuple[ObjText, Numbers]:
    """Return the text, with more `vn` lines where corners want their own, what these are and what they become."""
    text, normals = carrier.text, carrier.normals
    whole = carry_whole(carrier, changes)
    if whole is not None:
        return text, (normals, whole)
    named, counts = carrier.faces.normal, carrier.faces.counts
    return with_lines_of_their_own(text, file, normals, named, np.repeat(carrier.part_of_face, counts), changes)


def carry_whole(carrier: ObjCarrier, changes: list[Change]) -> NDArray[np.float64] | None:
    """Return what `vn` lines become where all who name one turn it alike, the usual case; None where they do not."""
    out, turned_by = carrier.normals.copy(), np.full(len(carrier.normals), -1)
    if any(change.shaped is not None for change in changes) and len(out):
        return None
    for k, (own, change) in enumerate(zip(carrier.used_normals, changes, strict=True)):
        rows = own[turned_by[own] < 0]
        moved = change.normals(carrier.normals[rows])
        out[rows] = moved
        shared = own[turned_by[own] >= 0]
        if len(shared) and np.abs(change.normals(carrier.normals[shared]) - out[shared]).max() > _APART:
            return None
        turned_by[rows] = k
    return out


def flip_faces(carrier: ObjCarrier, changes: list[Change]) -> NDArray[np.bool_] | None:
    """Return which faces are written the other way round; None where none is."""
    mirrored = np.array([change.mirrors for change in changes], dtype=bool)
    return mirrored[carrier.part_of_face] if mirrored.any() else None
