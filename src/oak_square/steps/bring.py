"""Directions as a sheet writes them, and the smallest turn that brings one onto another."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, Field

from oak_square.core.frames import SIDES, axis_vector
from oak_square.core.shapes import smallest_turn
from oak_square.steps.step import Setting

__all__ = ["Bring", "SignedAxis", "To", "bring_turn", "direction_words"]

Array = NDArray[np.float64]
SignedAxis = Literal["+X", "-X", "+Y", "-Y", "+Z", "-Z"]


def _is_direction(values: list[float]) -> list[float]:
    if not np.isfinite(values).all() or np.linalg.norm(values) <= 0:
        raise ValueError(f"{values} is no direction: it has no length")
    return values


Direction = Annotated[list[float], Field(min_length=3, max_length=3), AfterValidator(_is_direction)]
Bring = SignedAxis | Direction
"""A signed axis of what is turned, or a direction along the delivery axes."""

To = Literal["left", "right", "bottom", "top", "back", "front"] | SignedAxis | Direction
"""A side, a signed delivery axis, or a direction along the delivery axes."""


def bring_turn(bring: Bring, to: To, own_axes: Array | None, setting: Setting) -> Array:
    """Return the smallest working rotation, shape (3, 3), that brings one direction onto the other.

    Parameters
    ----------
    bring, to
    own_axes : ndarray, shape (3, 3), or None
        The unit axes of the node that is turned, as columns, working frame; None for an asset, whose signed axes are
        the delivery's.
    """
    delivery = setting.working_from_delivery
    if isinstance(bring, str):
        start = (delivery if own_axes is None else own_axes) @ axis_vector(bring)
    else:
        start = delivery @ np.asarray(bring, dtype=np.float64)
    if isinstance(to, str) and to in SIDES:
        axis, fraction = SIDES[to]
        end = np.eye(3)[axis] * (1 if fraction else -1)
    else:
        end = delivery @ (axis_vector(to) if isinstance(to, str) else np.asarray(to, dtype=np.float64))
    return smallest_turn(start, end)


def direction_words(direction: Bring | To | None) -> str:
    """Return a direction as a card says it."""
    text = direction if isinstance(direction, str) else ", ".join(f"{v:g}" for v in direction or ())
    return text.replace("-", "−")
