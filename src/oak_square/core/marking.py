"""Marks made of what was picked: which words find it again, and the name it gets until somebody gives it one."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from glob import escape
from os.path import commonprefix

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import node_box
from oak_square.core.errors import Refused
from oak_square.core.features import FeatureKind
from oak_square.core.frames import SIDES
from oak_square.core.marks import candidates
from oak_square.core.node_names import nodes_named, patterns_for
from oak_square.core.scene import Asset
from oak_square.core.tolerances import MARK_SAME_WAY
from oak_square.core.words import say

__all__ = ["MARKABLE", "PickedMark", "fresh_name", "is_unnamed", "mark_words", "shared_pattern"]

Array = NDArray[np.float64]
MARKABLE: dict[str, FeatureKind] = {
    "vertex": "vertex",
    "edge middle": "edge",
    "face centre": "face",
    "circle centre": "circle",
}
"""The kinds of picks that can become marks, and what they are marks of."""
_UNNAMED = "mark_"
_DIGITS = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class PickedMark:
    """A mark's words as the sheet has them; `way` in delivery axes."""

    on: str
    kind: FeatureKind
    where: tuple[float, float, float]
    way: str | tuple[float, float, float] | None = None
    size: float | None = None


def mark_words(
    asset: Asset, node: int, kind: str, at: Array, way: Array, on: str, delivery_from_working: Array
) -> PickedMark:
    """Return the words of a mark that finds what was picked.

    Parameters
    ----------
    asset : Asset
        As it stands where the mark is to be found.
    node : int
        The part it is on.
    kind : str
        What was picked, in words: a key of `MARKABLE`.
    at : ndarray, shape (3,), world, metres
    way : ndarray, shape (3,), world
    on : str
        The glob it is looked for on.
    delivery_from_working : ndarray, shape (3, 3)

    Raises
    ------
    Refused
        If the part has nothing of that kind.
    """
    feature = MARKABLE[kind]
    found, fractions, sizes = candidates(asset, node, feature)
    box = node_box(asset, node)
    if box is None or not len(found.points):
        raise Refused(say("'{name}' has no {feature} there", name=asset.nodes[node].name, feature=feature))
    row = int(np.argmin(np.linalg.norm(found.points - at, axis=1)))
    x, y, z = (round(float(v), _DIGITS) + 0.0 for v in fractions[row])
    told = None if feature == "vertex" else _way_words(found.ways[row], way, delivery_from_working)
    size = None if feature == "vertex" else float(f"{sizes[row]:.5g}")
    return PickedMark(on=on, kind=feature, where=(x, y, z), way=told, size=size or None)


def _way_words(way: Array, wanted: Array, delivery_from_working: Array) -> str | tuple[float, float, float]:
    """Return a direction as a side where it is one, else as three numbers along the delivery axes."""
    way = -way if float(way @ wanted) < 0 else way
    for side, (axis, fraction) in SIDES.items():
        if float(way[axis]) * (1 if fraction else -1) >= MARK_SAME_WAY:
            return side
    x, y, z = (round(float(v), _DIGITS) + 0.0 for v in delivery_from_working @ way)
    return x, y, z


def fresh_name(taken: Collection[str]) -> str:
    """Return a name for a mark that has none yet."""
    return next(name for k in range(1, len(taken) + 2) if (name := f"{_UNNAMED}{k}") not in taken)


def is_unnamed(name: str) -> bool:
    """Tell whether a mark's name was given by `fresh_name`."""
    return name.startswith(_UNNAMED) and name.removeprefix(_UNNAMED).isdigit()


def shared_pattern(asset: Asset, patterns: Sequence[str], node: int) -> str:
    """Return one pattern for a mark on a node that fits all nodes a step is for, where that is one of them.

    Parameters
    ----------
    patterns : sequence of str
        Those that say which nodes the step is for; none where it is for none by name.
    node : int
        The part that was picked.
    """
    if node not in nodes_named(asset, patterns):
        return patterns_for(asset, (node,))[0]
    if len(set(patterns)) == 1:
        return patterns[0]
    names = {asset.nodes[i].name for i in nodes_named(asset, patterns)}
    if len(names) == 1:
        return escape(names.pop())
    literal = [name for name in patterns if not any(c in name for c in "*?[#/")]
    # Letter by letter, which paths are not.
    start = commonprefix(literal) if len(literal) == len(patterns) else ""  # noqa: RUF071
    return f"{escape(start)}*"
