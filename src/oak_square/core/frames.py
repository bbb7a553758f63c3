"""Readings, frames and sides: how the numbers of a file stand to the working frame.

Working frame: metres, right-handed, +Y up, +Z front (so +X is right as seen by someone facing the front).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from oak_square.core.checked import readonly
from oak_square.core.errors import BadArray
from oak_square.core.words import say

if TYPE_CHECKING:
    from numpy.typing import NDArray

__all__ = [
    "AXES",
    "FRONT_OF",
    "SIDES",
    "WORKING",
    "Reading",
    "apply",
    "axis_turn",
    "axis_vector",
    "on_one_line",
    "translation",
]

SaidBy = Literal["declared", "assumed", "sheet"]

AXES: tuple[str, ...] = ("+X", "-X", "+Y", "-Y", "+Z", "-Z")

FRONT_OF = {"+Y": "+Z", "-Y": "+Z", "+Z": "-Y", "-Z": "+Y", "+X": "+Z", "-X": "+Z"}
"""The front that goes with an up axis by custom."""

SIDES: dict[str, tuple[int, float]] = {
    "left": (0, 0.0), "right": (0, 1.0),
    "bottom": (1, 0.0), "top": (1, 1.0),
    "back": (2, 0.0), "front": (2, 1.0),
}  # fmt: skip
"""Each side's working axis and its fraction along it. The front faces +Z; left is low X."""


def axis_vector(axis: str) -> NDArray[np.float64]:
    """Return the unit vector of a signed axis such as `-Z`."""
    if axis not in AXES:
        raise BadArray(say("'{axis}' is no signed axis (one of {axes})", axis=axis, axes=", ".join(AXES)))
    vector = np.zeros(3)
    vector["XYZ".index(axis[1])] = 1.0 if axis[0] == "+" else -1.0
    return vector


def on_one_line(first: str, second: str) -> bool:
    """Tell whether two signed axes lie along one line."""
    return first[1] == second[1]


def axis_turn(axis: int, degrees: float) -> NDArray[np.float64]:
    """Return the (3, 3) right-hand turn by `degrees` about axis 0, 1 or 2; quarter turns are exact."""
    quarters, rest = divmod(degrees, 90.0)
    if rest == 0:
        cos, sin = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarters) % 4]
    else:
        cos, sin = float(np.cos(np.radians(degrees))), float(np.sin(np.radians(degrees)))
    turn = np.eye(3)
    a, b = (axis + 1) % 3, (axis + 2) % 3
    turn[a, a] = turn[b, b] = cos
    turn[a, b], turn[b, a] = -sin, sin
    return turn


def translation(vector: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return the (4, 4) matrix that moves points by `vector`, shape (3,)."""
    matrix = np.eye(4)
    matrix[:3, 3] = vector
    return matrix


def apply(matrix: NDArray[np.float64], points: NDArray[np.floating]) -> NDArray[np.float64]:
    """Return `points`, shape (N, 3) or (3,), carried by an affine (4, 4) `matrix`, as float64."""
    return np.asarray(points, dtype=np.float64) @ matrix[:3, :3].T + matrix[:3, 3]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """How a file's numbers are understood.

    Attributes
    ----------
    metres_per_unit : float
    up, front : str
        Signed file axes.
    source : {"declared", "assumed", "sheet"}
        Who said so.
    """

    metres_per_unit: float
    up: str
    front: str
    source: SaidBy

    def __post_init__(self) -> None:
        if not (np.isfinite(self.metres_per_unit) and self.metres_per_unit > 0):
            raise BadArray(
                say("metres per unit must be positive, not {metres_per_unit}", metres_per_unit=self.metres_per_unit)
            )
        if on_one_line(self.up, self.front):
            raise BadArray(say("up {up} and front {front} lie on one line", up=self.up, front=self.front))

    @property
    def rotation(self) -> NDArray[np.float64]:
        """The (3, 3) rotation from file axes to working axes; its rows are right, up, front."""
        up, front = axis_vector(self.up), axis_vector(self.front)
        return np.vstack([np.cross(up, front), up, front])

    @property
    def working_from_file(self) -> NDArray[np.float64]:
        """The (4, 4) matrix from file numbers to metres in the working frame."""
        matrix = np.eye(4)
        matrix[:3, :3] = self.rotation * self.metres_per_unit
        readonly(matrix)
        return matrix

    @property
    def file_from_working(self) -> NDArray[np.float64]:
        """The inverse of `working_from_file`."""
        matrix = np.eye(4)
        matrix[:3, :3] = self.rotation.T / self.metres_per_unit
        readonly(matrix)
        return matrix

    def same_frame(self, other: Reading) -> bool:
        """Tell whether both understand numbers alike, whoever said so."""
        return (self.metres_per_unit, self.up, self.front) == (other.metres_per_unit, other.up, other.front)


WORKING = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")
"""The working frame, as a reading: also what a glTF file always declares."""
