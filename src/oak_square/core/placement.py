"""A node's placement in its parent: translation, rotation, scale and what shear is left over.

A linear part is `R · H · diag(scale)`: R a proper rotation, H unit upper triangular (the shear). This is the QR
decomposition with the signs moved into the scale (Golub & Van Loan, Matrix Computations, 5.2); it exists for every
invertible matrix, and H is the identity just when the columns are square to one another.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import product

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import floats, readonly
from oak_square.core.errors import Refused
from oak_square.core.tolerances import EXACT_CHANNEL, SAME_MATRIX, SINGULAR, TINY
from oak_square.core.words import say

__all__ = [
    "REST",
    "Placement",
    "completed",
    "inverse",
    "is_singular",
    "lean",
    "matrices_of",
    "matrix_of",
    "quaternion_of",
    "rotation_of",
    "rotations_of",
    "settled",
    "squared_up",
    "turn_degrees",
    "turn_degrees_of",
]

Array = NDArray[np.float64]


def _unit_quaternion() -> Array:
    return np.array([0.0, 0.0, 0.0, 1.0])


def rotation_of(quaternion: Array) -> Array:
    """Return the (3, 3) rotation of a unit `quaternion` (x, y, z, w)."""
    x, y, z, w = quaternion
    return np.array(
        [
            [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
            [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
            [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
        ]
    )


def rotations_of(quaternions: Array) -> Array:
    """Return `rotation_of` of each of some unit quaternions, shape (N, 4), as shape (N, 3, 3)."""
    x, y, z, w = quaternions.T
    found = np.empty((len(quaternions), 3, 3))
    found[:, 0] = np.stack([1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)], axis=1)
    found[:, 1] = np.stack([2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)], axis=1)
    found[:, 2] = np.stack([2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)], axis=1)
    return found


def quaternion_of(rotation: Array) -> Array:
    """Return the unit quaternion (x, y, z, w), w >= 0, of a proper (3, 3) rotation.

    Shepperd's method: divides by the largest of the four, so it is stable at every angle.
    """
    m = rotation
    squares = np.array(
        [
            1 + m[0, 0] - m[1, 1] - m[2, 2],
            1 - m[0, 0] + m[1, 1] - m[2, 2],
            1 - m[0, 0] - m[1, 1] + m[2, 2],
            1 + m[0, 0] + m[1, 1] + m[2, 2],
        ]
    )
    k = int(np.argmax(squares))
    if k == 3:
        q = np.array([m[2, 1] - m[1, 2], m[0, 2] - m[2, 0], m[1, 0] - m[0, 1], squares[3]])
    else:
        a, b = (k + 1) % 3, (k + 2) % 3
        q = np.empty(4)
        q[k], q[a], q[b] = squares[k], m[a, k] + m[k, a], m[b, k] + m[k, b]
        q[3] = m[b, a] - m[a, b]
    q /= np.linalg.norm(q)
    return q if q[3] >= 0 else -q


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Placement:
    """Where a node stands in its parent.

    Attributes
    ----------
    translation : ndarray, shape (3,)
    rotation : ndarray, shape (4,)
        Unit quaternion x, y, z, w.
    scale : ndarray, shape (3,)
    shear : ndarray, shape (3,)
        The upper elements xy, xz, yz of H.
    """

    translation: Array
    rotation: Array
    scale: Array
    shear: Array

    @staticmethod
    def of(
        *,
        translation: object = (0, 0, 0),
        rotation: object = (0, 0, 0, 1),
        scale: object = (1, 1, 1),
        what: str = "node",
    ) -> Placement:
        """Return a checked placement; `rotation` is normalised.

        Raises
        ------
        BadArray
            If a channel has another shape, is not finite, or the rotation is zero.
        """
        q = floats(rotation, (4,), say("{what} rotation", what=what))  # type: ignore[arg-type]
        length = float(np.linalg.norm(q))
        unit = q if abs(length - 1) < SAME_MATRIX else q / (length or 1.0)
        return Placement(
            translation=floats(translation, (3,), say("{what} translation", what=what)),  # type: ignore[arg-type]
            rotation=readonly(np.array(unit)) if length else readonly(_unit_quaternion()),
            scale=floats(scale, (3,), say("{what} scale", what=what)),  # type: ignore[arg-type]
            shear=readonly(np.zeros(3)),
        )

    @staticmethod
    def from_matrix(matrix: Array, *, like: Placement | None = None, what: str = "node") -> Placement:
        """Return the placement whose matrix is `matrix`, shape (4, 4).

        Where `like` has the same linear part, its rotation and scale numbers are kept to the bit; else its signs of
        scale, where they can be.

        Raises
        ------
        Refused
            If the linear part is singular and no `like` holds it.
        """
        linear = matrix[:3, :3]
        size = float(np.abs(linear).max())
        moved = readonly(np.array(matrix[:3, 3]))
        if like is not None and np.abs(matrix_of(like)[:3, :3] - linear).max() <= SAME_MATRIX * max(size, TINY):
            return replace(like, translation=moved)
        if is_singular(linear):
            raise Refused(say("{what}: its scale is zero along an axis, which has no inverse", what=what))
        rotation, scale, shear = _split_linear(linear, like)
        return Placement(
            translation=moved, rotation=readonly(quaternion_of(rotation)), scale=readonly(scale), shear=readonly(shear)
        )

    @staticmethod
    def as_read(matrix: Array, *, what: str = "node") -> Placement:
        """Return the placement that a file's matrix, shape (4, 4), holds: as `from_matrix`, flat axes allowed.

        A scale of zero along an axis is how files hide things: what is left of its axes must be square.

        Raises
        ------
        Refused
            If the linear part is singular and not a rotation times scales.
        """
        linear = matrix[:3, :3]
        if not is_singular(linear):
            return Placement.from_matrix(matrix, what=what)
        scale = np.linalg.norm(linear, axis=0)
        turn = completed(linear / np.where(scale > 0, scale, 1.0))
        if np.abs(turn * scale - linear).max() > SAME_MATRIX * max(float(scale.max()), TINY):
            raise Refused(say("{what}: it flattens space aslant, which has no inverse", what=what))
        return Placement(
            translation=readonly(np.array(matrix[:3, 3])), rotation=readonly(quaternion_of(turn)),
            scale=readonly(scale), shear=readonly(np.zeros(3)),
        )  # fmt: skip

    @property
    def matrix(self) -> Array:
        """The (4, 4) matrix, parent from local."""
        return matrix_of(self)

    @property
    def is_sheared(self) -> bool:
        """Whether translation, rotation and scale alone can't hold this."""
        return bool(np.any(self.shear != 0))


def lean(placement: Placement) -> float:
    """Return the largest cosine between the axes of a placement: 0 where they are square to one another."""
    if not placement.is_sheared:
        return 0.0
    linear = matrix_of(placement)[:3, :3]
    axes = linear / np.linalg.norm(linear, axis=0)
    return float(np.abs(axes.T @ axes - np.eye(3)).max())


def squared_up(placement: Placement) -> Placement:
    """Return a placement without its shear: the nearest rotation to its unit axes, each as long as it was.

    The polar decomposition gives the nearest rotation (Higham, Computing the Polar Decomposition, 1986).
    """
    linear = matrix_of(placement)[:3, :3]
    signs = np.where(placement.scale < 0, -1.0, 1.0)
    lengths = np.linalg.norm(linear, axis=0)
    turn = completed(linear / (lengths * signs))
    return replace(
        placement, rotation=readonly(quaternion_of(turn)), scale=readonly(lengths * signs), shear=readonly(np.zeros(3))
    )


REST = Placement.of()
"""Where a node stands that is placed by nothing."""


def matrix_of(placement: Placement) -> Array:
    """Return the (4, 4) matrix, parent from local, of a placement."""
    matrix = np.eye(4)
    rotation = rotation_of(placement.rotation)
    if placement.is_sheared:
        xy, xz, yz = placement.shear
        rotation = rotation @ np.array([[1, xy, xz], [0, 1, yz], [0, 0, 1]])
    matrix[:3, :3] = rotation * placement.scale
    matrix[:3, 3] = placement.translation
    return matrix


def matrices_of(placements: Sequence[Placement]) -> Array:
    """Return `matrix_of` of each of some placements, shape (N, 4, 4), worked out for all at once."""
    found = np.tile(np.eye(4), (len(placements), 1, 1))
    if not placements:
        return found
    scale = np.array([p.scale for p in placements])
    found[:, :3, :3] = rotations_of(np.array([p.rotation for p in placements])) * scale[:, None, :]
    found[:, :3, 3] = np.array([p.translation for p in placements])
    for i in np.flatnonzero(np.array([p.shear for p in placements]).any(axis=1)).tolist():
        found[i] = matrix_of(placements[i])
    return found


def _split_linear(linear: Array, like: Placement | None) -> tuple[Array, Array, Array]:
    """Return rotation, scale and shear of an invertible (3, 3) matrix.

    Of the ways to share signs between rotation and scale, the one that `like` has is taken, so that what is turned is
    not mirrored twice; else the one with the fewest mirrors, and of those the one that turns least.
    """
    q, r = np.linalg.qr(linear)
    own = np.where(np.diag(r) < 0, -1.0, 1.0)
    mirror = np.sign(np.linalg.det(linear))
    patterns = [np.array(s) for s in product((1.0, -1.0), repeat=3) if np.prod(s) == mirror]
    wanted = None if like is None else np.where(like.scale < 0, -1.0, 1.0)
    if wanted is not None and np.prod(wanted) == mirror:
        signs = wanted
    else:
        signs = min(patterns, key=lambda s: (int((s < 0).sum()), -round(float(np.trace(q * (s * own))), 9)))
    # Q·diag(±1) keeps A = Q R.
    flips = signs * own
    rotation, upper = q * flips, r * flips[:, None]
    scale = np.diag(upper).copy()
    unit_upper = upper / scale
    shear = np.array([unit_upper[0, 1], unit_upper[0, 2], unit_upper[1, 2]])
    shear[np.abs(shear) <= EXACT_CHANNEL] = 0.0
    return rotation, scale, shear


def completed(columns: Array) -> Array:
    """Return a rotation, shape (3, 3), whose columns are those of `columns` that are unit and square, not zero."""
    u, _, vt = np.linalg.svd(columns)
    found: Array = u @ vt
    if np.linalg.det(found) < 0:
        found[:, int(np.argmin(np.linalg.norm(columns, axis=0)))] *= -1
    return found


def settled(placement: Placement) -> Placement:
    """Return `placement` with rotations and scales within rounding of 0 and 1 made exactly that."""
    q, scale = placement.rotation.copy(), placement.scale.copy()
    q[np.abs(q) <= EXACT_CHANNEL] = 0.0
    q /= np.linalg.norm(q)
    for sign in (1.0, -1.0):
        scale[np.abs(scale - sign) <= EXACT_CHANNEL] = sign
    # Three scales that are one number but for rounding are that number.
    if np.ptp(scale) <= EXACT_CHANNEL * abs(scale[0]):
        scale[:] = scale[0]
    return replace(placement, rotation=readonly(q), scale=readonly(scale))


def turn_degrees_of(rotation: Array) -> float:
    """Return the angle, degrees, that a rotation, shape (3, 3), turns by: by sine and cosine, exact at every angle."""
    sine = np.array([rotation[2, 1] - rotation[1, 2], rotation[0, 2] - rotation[2, 0], rotation[1, 0] - rotation[0, 1]])
    return float(np.degrees(np.arctan2(np.linalg.norm(sine), np.trace(rotation) - 1)))


def turn_degrees(quaternion: Array) -> float:
    """Return the angle, 0 to 180 degrees, that a unit quaternion turns by."""
    return float(np.degrees(2 * np.arctan2(np.linalg.norm(quaternion[:3]), abs(quaternion[3]))))


def is_singular(linear: Array) -> bool:
    """Tell whether a (3, 3) linear part flattens space, judged relative to its own size."""
    values = np.linalg.svd(linear, compute_uv=False)
    return bool(values[2] <= SINGULAR * max(values[0], TINY))


def inverse(matrix: Array, *, what: str) -> Array:
    """Return the inverse of an affine (4, 4) matrix.

    Raises
    ------
    Refused
        If it flattens space; the message starts with `what`.
    """
    linear = matrix[:3, :3]
    if is_singular(linear):
        raise Refused(say("{what}: its scale is zero along an axis, which has no inverse", what=what))
    result = np.eye(4)
    result[:3, :3] = np.linalg.inv(linear)
    result[:3, 3] = -result[:3, :3] @ matrix[:3, 3]
    return result
