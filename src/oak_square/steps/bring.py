"""Directions as a sheet writes them, and the smallest turn that brings one onto another."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, Field

from oak_square.core.errors import Refused
from oak_square.core.frames import SIDES, axis_vector
from oak_square.core.node_axes import named_axes
from oak_square.core.scene import Asset
from oak_square.core.shapes import smallest_turn
from oak_square.core.terms import term
from oak_square.core.words import numbers_in_a_row, say
from oak_square.steps.centre import MarkName
from oak_square.steps.setting import Setting

__all__ = [
    "Bring",
    "Direction",
    "SheetDirection",
    "Side",
    "SignedAxis",
    "To",
    "bring_turn",
    "direction",
    "direction_words",
]

Array = NDArray[np.float64]
SignedAxis = Literal["+X", "-X", "+Y", "-Y", "+Z", "-Z"]


def _is_direction(values: list[float]) -> list[float]:
    if not np.isfinite(values).all() or np.linalg.norm(values) <= 0:
        raise ValueError(say("{values} is no direction: it has no length", values=values))
    return values


Direction = Annotated[list[float], Field(min_length=3, max_length=3), AfterValidator(_is_direction)]
Bring = SignedAxis | Direction | MarkName
"""A signed axis of what is turned, a direction along the delivery axes, or the way of a mark."""

Side = Literal["left", "right", "bottom", "top", "back", "front"]
SheetDirection = Side | SignedAxis | Direction
"""A side, a signed delivery axis, or a direction along the delivery axes."""

To = SheetDirection | MarkName
"""A side, a signed delivery axis, a direction along the delivery axes, or the way of a mark."""


def direction(to: SheetDirection, setting: Setting) -> Array:
    """Return a side, signed delivery axis or direction as a unit vector, shape (3,), working frame."""
    if isinstance(to, str) and to in SIDES:
        axis, fraction = SIDES[to]
        found: Array = np.eye(3)[axis] * (1 if fraction else -1)
        return found
    found = setting.working_from_delivery @ (axis_vector(to) if isinstance(to, str) else np.asarray(to, dtype=float))
    return found / float(np.linalg.norm(found))


def _find_mark_way(mark: MarkName, asset: Asset, node: int | None, setting: Setting) -> Array:
    found = setting.mark(mark.mark, asset, node)
    if not found.way.any():
        raise Refused(say("mark '{mark}' is a vertex: it points nowhere", mark=mark.mark))
    return found.way


def bring_turn(bring: Bring, to: To, asset: Asset, node: int | None, setting: Setting) -> Array:
    """Return the smallest working rotation, shape (3, 3), that brings one direction onto the other.

    Parameters
    ----------
    bring, to
    node : int or None
        The node that is turned, whose signed axes are meant, by the letters its file has for them; None for an asset,
        whose signed axes are the delivery's.

    Raises
    ------
    DataTrouble
        If a mark is not found, or has no way; if the node's frame is flat.
    """
    if isinstance(bring, MarkName):
        start = _find_mark_way(bring, asset, node, setting)
    elif isinstance(bring, str) and node is not None:
        start = named_axes(asset, node) @ axis_vector(bring)
    else:
        start = direction(bring, setting)
    end = _find_mark_way(to, asset, node, setting) if isinstance(to, MarkName) else direction(to, setting)
    return smallest_turn(start, end)


def direction_words(way: Bring | To | None) -> str:
    """Return a direction as a card says it."""
    if isinstance(way, MarkName):
        return say("mark {mark}", mark=way.mark)
    text = term(way) if isinstance(way, str) else numbers_in_a_row(say("{v:g}", v=v) for v in way or ())
    return text.replace("-", "−")
