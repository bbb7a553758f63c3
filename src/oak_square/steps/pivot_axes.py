"""How a pivot's axes are turned: the words of `axes`, and the turns they mean. Geometry stays."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from oak_square.core.euler import rotation_by
from oak_square.core.node_axes import own_axes, unit_axes
from oak_square.core.scene import Asset
from oak_square.core.shapes import nearest_right_angles
from oak_square.core.terms import term
from oak_square.core.words import joined, numbers_in_a_row, say
from oak_square.steps.along import Along, along_axes, along_words
from oak_square.steps.bring import Bring, To, bring_turn, direction_words
from oak_square.steps.centre import DatumName, MappingWords
from oak_square.steps.setting import Setting

__all__ = ["Axes", "axes_turn", "axes_words"]

Array = NDArray[np.float64]


class BringTo(MappingWords):
    """The smallest turn of the axes that brings one direction onto another."""

    bring: Bring
    to: To


class Half(MappingWords):
    """Half a turn about one of its own axes."""

    half: Literal["x", "y", "z"]


class TurnBy(MappingWords):
    """Degrees about x, then y, then z of some axes."""

    turn: Annotated[list[Annotated[float, Field(allow_inf_nan=False)]], Field(min_length=3, max_length=3)]
    along: Along | None = None


Axes = Literal["keep", "world", "parent", "received", "square"] | DatumName | BringTo | Half | TurnBy


def axes_turn(asset: Asset, i: int, axes: Axes, setting: Setting) -> Array:
    """Return the working rotation, shape (3, 3), that turns the axes of a node's pivot as the words say.

    Raises
    ------
    DataTrouble
        If what they name is not there, or a frame is flat.
    """
    if isinstance(axes, BringTo):
        return bring_turn(axes.bring, axes.to, asset, i, setting)
    if isinstance(axes, Half | TurnBy):
        angles = axes.turn if isinstance(axes, TurnBy) else [180.0 * (a == axes.half) for a in "xyz"]
        along = (axes.along or "world") if isinstance(axes, TurnBy) else "own"
        frame = along_axes(asset, i, along, setting)
        turned: Array = frame @ rotation_by(angles, "zyx") @ frame.T
        return turned
    own = own_axes(asset, i)
    if axes == "square":
        return nearest_right_angles(own)
    target: Array = _find_axes(asset, i, axes, setting) @ own.T
    return target


def _find_axes(asset: Asset, i: int, axes: str | DatumName, setting: Setting) -> Array:
    if isinstance(axes, DatumName):
        return setting.datum(axes.datum, asset, i)[:3, :3]
    node = asset.nodes[i]
    if axes == "received":
        return unit_axes(asset.worlds[i] @ node.received, node.name)
    if axes == "parent" and node.parent is not None:
        return own_axes(asset, node.parent)
    return np.eye(3)


def axes_words(axes: Axes) -> str:
    """Return the axes as a card says them; empty where they are kept."""
    if isinstance(axes, BringTo):
        return say(
            "{what} to {where}",
            what=direction_words(axes.bring),
            where=direction_words(axes.to),
        )
    if isinstance(axes, Half):
        return say("half a turn about {half}", half=axes.half)
    if isinstance(axes, TurnBy):
        angles = numbers_in_a_row(say("{v:g}°", v=v) for v in axes.turn).replace("-", "−")
        return joined(" ", (w for w in (say("axes turned {angles}", angles=angles), along_words(axes.along)) if w))
    if isinstance(axes, DatumName):
        return say("axes {datum}", datum=axes.datum)
    return {"keep": "", "received": say("axes as received"), "square": say("axes squared")}.get(
        axes, say("axes {axes}", axes=term(axes))
    )
