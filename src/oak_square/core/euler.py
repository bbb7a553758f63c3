"""Rotations written as three angles about x, y and z, in any of the six orders."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import axis_turn
from oak_square.core.tolerances import UPRIGHT_COSINE

__all__ = ["angles_of", "rotation_by"]

Array = NDArray[np.float64]


def rotation_by(angles_deg: Sequence[float], order: str) -> Array:
    """Return the rotation, shape (3, 3), of angles about x, y and z, degrees; `order` `xyz`: R = Rx Ry Rz."""
    found = np.eye(3)
    for axis in order:
        k = "xyz".index(axis)
        found = found @ axis_turn(k, angles_deg[k])
    return found


def angles_of(rotation: Array, order: str) -> tuple[float, float, float]:
    """Return the angles about x, y and z, degrees, that make a rotation, shape (3, 3), in an order.

    The middle one lies within 90 degrees either way; where it is 90, the third is 0. With R = Ri(a) Rj(b) Rk(c) and e
    the sign of the permutation ijk: R[i, k] = e sin b, R[j, k] = -e sin a cos b, R[k, k] = cos a cos b, R[i, j] = -e
    cos b sin c, R[i, i] = cos b cos c (multiplied out; see Shoemake, Euler Angle Conversion, 1994).
    """
    i, j, k = ("xyz".index(axis) for axis in order)
    sign = 1.0 if (j - i) % 3 == 1 else -1.0
    r = rotation
    cosine = math.hypot(r[i, i], r[i, j])
    middle = math.atan2(sign * r[i, k], cosine)
    if cosine > UPRIGHT_COSINE:
        first, third = math.atan2(-sign * r[j, k], r[k, k]), math.atan2(-sign * r[i, j], r[i, i])
    else:
        first, third = math.atan2(sign * r[k, j], r[j, j]), 0.0
    found = [0.0, 0.0, 0.0]
    for axis, angle in ((i, first), (j, middle), (k, third)):
        found[axis] = math.degrees(angle)
    return found[0], found[1], found[2]
