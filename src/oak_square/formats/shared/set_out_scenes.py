"""Scenes in which delivered models stand: written by a format that can hold them, and read again for the proof."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import Asset
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.model_file import Chunk, Received

__all__ = ["SCENES", "Placed", "SceneKind", "scene_kind"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Placed:
    """A delivered model and where it stands.

    Attributes
    ----------
    name : str
    received : Received
        Its delivered file as read.
    asset : Asset
        That under the reading that its numbers are meant in.
    matrix : ndarray, shape (4, 4), working frame, metres
        From where the model's own frame is to where it stands: a rotation and a move.
    path : str
        Its delivered file, from the scene's folder.
    """

    name: str
    received: Received
    asset: Asset
    matrix: Array
    path: str


@dataclass(frozen=True, slots=True)
class SceneKind:
    """How scenes of a suffix are written, and how the matrices of what stands in one are read again, in order."""

    write: Callable[[Sequence[Placed], str], tuple[Chunk, ...]]
    read: Callable[[Path], list[Array]]


SCENES: dict[str, SceneKind] = {}
"""By suffix; filled by the formats that hold scenes, as they are loaded."""


def scene_kind(suffix: str) -> SceneKind | None:
    """Return how scenes of a suffix, in small letters, are written and read; None where no format holds any."""
    for entry in FORMATS.entries():
        if suffix in entry.suffixes and entry.scenes:
            import_module(entry.scenes)
    return SCENES.get(suffix)
