"""Along which axes a step speaks: the world's, the parent's, a node's own, a datum's."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from oak_square.core.errors import Refused
from oak_square.core.node_axes import named_axes
from oak_square.core.scene import Asset
from oak_square.core.words import counted, say
from oak_square.steps.centre import DatumName
from oak_square.steps.setting import Setting

__all__ = ["NODE_AXES", "Along", "along_axes", "along_sides", "along_words", "told_axes"]

Array = NDArray[np.float64]
Along = Literal["world", "parent", "own"] | DatumName
"""The axes that numbers are along."""

_ALONG: TypeAdapter[Any] = TypeAdapter(Along)

NODE_AXES = ("own", "parent")
"""Those that only a node has."""


def along_axes(asset: Asset, node: int | None, along: Along, setting: Setting) -> Array:
    """Return x, y and z as unit columns, shape (3, 3), working frame: a rotation.

    Parameters
    ----------
    node : int or None
        None for an asset as a whole, whose own axes are those of its one root.
    along
        `world` are the delivery axes; `own` those that the node's file names, as they stand; `parent` its parent's,
        or, where it hangs from nothing, the delivery axes.

    Raises
    ------
    Refused
        If an asset's own axes are asked for and it has several roots; if a frame is flat.
    """
    if isinstance(along, DatumName):
        return setting.datum(along.datum, asset, node)[:3, :3]
    if along == "world":
        return setting.working_from_delivery
    if node is None:
        node = _only_root(asset)
    if along == "parent":
        parent = asset.nodes[node].parent
        if parent is None:
            return setting.working_from_delivery
        node = parent
    return named_axes(asset, node)


def along_sides(asset: Asset, node: int | None, along: Along, setting: Setting) -> Array:
    """Return the directions of width, height and depth as unit columns, shape (3, 3), working frame: a rotation."""
    axes = along_axes(asset, node, along, setting)
    if along in NODE_AXES and (along == "own" or node is None or asset.nodes[node].parent is not None):
        named: Array = asset.reading.rotation
    else:
        named = setting.working_from_delivery
    sides: Array = axes @ named.T
    return sides


def _only_root(asset: Asset) -> int:
    roots = [i for i, node in enumerate(asset.nodes) if node.parent is None]
    if len(roots) != 1:
        raise Refused(say("it has {roots}, so no axes of its own: name the parts", roots=counted(len(roots), "root")))
    return roots[0]


def told_axes(asset: Asset, node: int | None, words: Any, setting: Setting) -> tuple[Array, Array]:
    """Return `along_axes` and `along_sides` of axes in words: `world`, `parent`, `own` or `{datum: NAME}`.

    Raises
    ------
    DataTrouble
        As of these.
    """
    along = _ALONG.validate_python(words)
    return along_axes(asset, node, along, setting), along_sides(asset, node, along, setting)


def along_words(along: Along | None) -> str:
    """Return axes in a few words: `along own axes`; empty for the world's."""
    if along is None or along == "world":
        return ""
    if isinstance(along, DatumName):
        return say("along datum '{datum}'", datum=along.datum)
    return say("along own axes") if along == "own" else say("along the parent's axes")
