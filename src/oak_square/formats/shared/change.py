"""What is done to a part's numbers when its file is written: some are moved, then all are carried by a matrix."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.geometry import is_mirror, normal_matrix, write_directions, write_points
from oak_square.core.motion import same_matrix
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.tolerances import SAME_FACTOR
from oak_square.formats.shared.model_file import is_unmoved

__all__ = ["Change", "change_of", "gather", "put_first", "told_apart"]

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
T = TypeVar("T")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Change:
    """What is done to a mesh's numbers.

    Attributes
    ----------
    matrix : ndarray, shape (4, 4)
        What all of them are carried by, in the end.
    shaped : Mesh or None
        The mesh with some of its points moved, in the numbers of its file; None where none are.
    """

    matrix: Array
    shaped: Mesh | None = None

    @property
    def is_none(self) -> bool:
        """Whether the numbers stay as they are."""
        return self.shaped is None and is_unmoved(self.matrix)

    @property
    def mirrors(self) -> bool:
        """Whether the inside turns out."""
        return is_mirror(self.matrix)

    def same_as(self, other: Change) -> bool:
        """Tell whether two changes come to the same numbers of one mesh."""
        return self.shaped is other.shaped and same_matrix(self.matrix, other.matrix)

    @property
    def key(self) -> bytes:
        """What tells it from other changes of one mesh, but for rounding; empty where nothing is changed."""
        if self.is_none:
            return b""
        return np.round(self.matrix, 12).tobytes() + (b"" if self.shaped is None else b"%d" % id(self.shaped))

    def points(self, old: NDArray[Any], first: int = 0) -> Array:
        """Return what the file's points `old`, shape (N, 3), become; they are the mesh's from `first` on.

        Raises
        ------
        Refused
            If one is not finite, or grows past what float32 can hold.
        """
        found = np.empty(old.shape)
        own = old if self.shaped is None else self.shaped.points[first : first + len(old)]
        write_points(own, self.matrix, found)
        return found

    def normals(self, now: NDArray[Any]) -> Array:
        """Return normals, shape (N, 3), of the mesh as it is shaped, as they are carried.

        Where nothing turns them they stay as they are, to the bit.
        """
        linear = normal_matrix(self.matrix[:3, :3])
        size = np.cbrt(abs(np.linalg.det(linear))) or 1.0
        if np.abs(linear / size - np.eye(3)).max() <= SAME_FACTOR:
            return np.array(now, dtype=np.float64)
        found = np.empty(now.shape)
        write_directions(now, linear, found)
        return found


def change_of(node: Node, asset: Asset) -> Change:
    """Return what is done to the numbers of a part, a node in its file's numbers as `file_nodes` gives it."""
    mesh = None if node.mesh is None else asset.meshes[node.mesh]
    return Change(matrix=node.local_from_mesh, shaped=mesh if mesh is not None and mesh.unshaped is not None else None)


def gather(groups: list[tuple[Change, list[T]]], wanted: Change, user: T) -> None:
    """Put a user of a mesh with those that want it changed alike."""
    for change, members in groups:
        if change.same_as(wanted):
            members.append(user)
            return
    groups.append((wanted, [user]))


def put_first(groups: list[tuple[Change, list[T]]]) -> None:
    """Sort users of a mesh: those who need no change keep it, else the largest group does."""
    groups.sort(key=lambda g: (not g[0].is_none, -len(g[1])))


def told_apart(old: Array, named: Ints, wanted: Array) -> tuple[Ints, Array]:
    """Return which row each corner is to name, shape (C,), and the rows of a list of directions, old ones and new ones.

    Where all corners that name a row want the same, that is what it becomes. Where they do not it stays with those who
    want it as it is, or else with one lot of them, and further rows stand behind all others.

    Parameters
    ----------
    old : ndarray, shape (N, 3)
    named : ndarray, shape (C,)
        The row that each corner names; -1 for none.
    wanted : ndarray, shape (C, 3)
        What each corner wants.
    """
    has_one = np.flatnonzero(named >= 0)
    values = np.ascontiguousarray(wanted[has_one], dtype=np.float64) + 0.0
    keys = np.column_stack([named[has_one], values.view(np.int64).reshape(-1, 3)])
    _, first, which = np.unique(keys, axis=0, return_index=True, return_inverse=True)
    rows, values = named[has_one][first], values[first]
    keeps = (values == old[rows]).all(axis=1)
    order = np.lexsort((np.arange(len(rows)), ~keeps, rows))
    further = order[1:][rows[order[1:]] == rows[order[:-1]]]
    number = rows.copy()
    number[further] = len(old) + np.arange(len(further))
    table = np.vstack([np.asarray(old, dtype=np.float64), np.zeros((len(further), 3))])
    table[number] = values
    found = np.full(len(named), -1, dtype=np.int64)
    found[has_one] = number[which.reshape(-1)]
    return found, table
