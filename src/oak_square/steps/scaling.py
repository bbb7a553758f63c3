"""Factors: as they are typed, from lengths that are asked for, along the axes that a step speaks of."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, BeforeValidator

from oak_square.core.boxes import EXTENTS
from oak_square.core.errors import BadLength, Refused
from oak_square.core.lengths import parse_length
from oak_square.core.ratios import is_ratio, parse_ratio
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.tolerances import GREATEST_UNIT_M, LEAST_UNIT_M, SAME_FACTOR
from oak_square.core.words import joined, say
from oak_square.steps.along import Along, along_axes
from oak_square.steps.setting import Length, Setting

__all__ = ["Factor", "Keep", "Positive", "factor_words", "factors_along", "factors_to", "ratio", "scaled_about"]

Array = NDArray[np.float64]
Keep = Literal["proportions", "none", "volume"]


def _as_quotient(value: Any) -> Any:
    if not is_ratio(value):
        return value
    try:
        return parse_ratio(value)
    except BadLength as error:
        raise ValueError(str(error)) from error


def _is_factor(value: float | list[float]) -> float | list[float]:
    values = value if isinstance(value, list) else [value]
    if len(values) not in (1, 3) or not all(LEAST_UNIT_M <= v <= GREATEST_UNIT_M for v in values):
        raise ValueError(say("a factor is one positive number, or three along x, y, z, not {value}", value=value))
    return value


def _is_positive(value: float | str) -> float | str:
    if parse_length(value, bare=1.0, module=1.0) <= 0:
        raise ValueError(say("a length to size to must be longer than nothing, not {value}", value=value))
    return value


Factor = Annotated[float | list[float], BeforeValidator(_as_quotient), AfterValidator(_is_factor)]
"""How many times as large: one number, a ratio such as `1:12`, or three numbers along x, y, z."""

Positive = Annotated[Length, AfterValidator(_is_positive)]
"""A length that something is to have."""


def ratio(wanted: float, there: float, what: str) -> float:
    """Return the factor from a length that is there to one that is wanted, metres.

    Raises
    ------
    Refused
        If there is nothing to size; `what` says of what.
    """
    if there <= 0:
        raise Refused(
            say("its {what} is nothing, and no factor makes that {wanted:g} m", what=term(what), wanted=wanted)
        )
    return wanted / there


def factors_to(lengths: Mapping[str, float], size: Array, keep: Keep | None) -> Array:
    """Return the factors along width, height and depth that make some of these as long as asked for, metres.

    Parameters
    ----------
    lengths : mapping of extent to float, metres
    size : ndarray, shape (3,), metres
        What is there.
    keep
        What follows where one is given: all of them (the default), nothing, or the others giving way.
    """
    scale = np.ones(3)
    for k, extent in enumerate(EXTENTS):
        if extent in lengths:
            scale[k] = ratio(lengths[extent], float(size[k]), extent)
    if len(lengths) == 1 and keep != "none":
        k = EXTENTS.index(next(iter(lengths)))
        others = scale[k] if keep != "volume" else scale[k] ** -0.5
        scale = np.where(np.arange(3) == k, scale[k], others)
    return scale


def factors_along(
    factor: float | list[float], asset: Asset, node: int | None, along: Along, setting: Setting
) -> tuple[Array, Array]:
    """Return the directions that a factor is along, as columns, shape (3, 3), working frame, and that along each."""
    factors = np.broadcast_to(np.asarray(factor, dtype=np.float64), (3,))
    if along == "world":
        return np.eye(3), np.abs(setting.working_from_delivery) @ factors
    return along_axes(asset, node, along, setting), np.array(factors)


def scaled_about(centre: Array, frame: Array, scale: Array) -> Array:
    """Return the motion, shape (4, 4), that scales along the columns of `frame` about a centre, world."""
    motion = np.eye(4)
    motion[:3, :3] = (frame * scale) @ frame.T
    motion[:3, 3] = centre - motion[:3, :3] @ centre
    return motion


def factor_words(scale: Array) -> str:
    """Return factors in words: `2 times as large`."""
    same = np.ptp(scale) <= SAME_FACTOR * scale.max()
    return (
        say("{factor:.6g} times as large", factor=float(scale[0]))
        if same
        else say("{factors} times as large", factors=joined(" × ", (say("{s:.5g}", s=float(s)) for s in scale)))
    )
