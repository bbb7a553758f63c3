"""Which point of what is moved comes near which point of what stands still, as the eye sees them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

__all__ = ["Nearing", "Pair"]

Array = NDArray[np.float64]
Seen = Callable[[Array], Array]
_STAYS = 0.5  # pixels
_NEIGHBOURS, _ASIDE = 8, 6.0  # still points tried for each moved one, and how many reaches aside they may lie


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Pair:
    """Two points, by their rows, and the world move, metres, shape (3,), that brings one onto the other."""

    moved: int
    still: int
    move: Array


class Nearing:
    """The points of what is moved and of what stands still, for as long as a drag goes on and the eye stays."""

    def __init__(self, moved: Array, still: Array, seen: Seen) -> None:
        """Take points, world, shapes (N, 3) and (M, 3); `seen` gives their pixels and depth, as rows."""
        # Heavy to import: only once something is dragged.
        from scipy.spatial import cKDTree

        places = seen(still) if len(still) else np.empty((0, 3))
        self._rows = np.flatnonzero(places[:, 2] > 0)
        self._tree = cKDTree(places[self._rows, :2])
        self._moved, self._still, self._seen = moved, still, seen

    def nearest(self, move: Array, held: Array, reach: float) -> Pair | None:
        """Return the pair that a free move has brought nearest to one another; None where none is near.

        Parameters
        ----------
        move : ndarray, shape (3,), world, metres
        held : ndarray, shape (3, H)
            The unit axes that it goes along, as columns: on these alone one point is brought onto the other.
        reach : float, pixels
            Within which two points are near, and by which a snap may change the move.
        """
        if not len(self._rows) or not len(self._moved):
            return None
        seen = self._seen(self._moved + move)
        # Along some axes alone what lies aside counts too: an edge comes level with another edge.
        aside = held.shape[1] < 3
        away, at = self._tree.query(
            seen[:, :2], k=_NEIGHBOURS if aside else 1, distance_upper_bound=reach * (_ASIDE if aside else 1.0)
        )
        away, at = np.asarray(away).reshape(len(seen), -1), np.asarray(at).reshape(len(seen), -1)
        near, which = np.nonzero(np.isfinite(away) & (seen[:, 2:] > 0))
        if not len(near):
            return None
        still = self._rows[at[near, which]]
        moves: Array = (self._still[still] - self._moved[near]) @ held @ held.T
        # Two points that lie behind one another may be far apart along the axes: what leaps is no snap.
        goes = self._seen(self._moved[near] + moves)[:, :2]
        leap = np.linalg.norm(goes - seen[near, :2], axis=1)
        # Nor are points that touch from the start: it would be held where it is.
        leap[np.linalg.norm(goes - self._seen(self._moved[near])[:, :2], axis=1) < _STAYS] = np.inf
        # Of those as good along the axes, the two that lie nearest to one another.
        best = int(np.argmin(leap + away[near, which] / 1000))
        if leap[best] > reach:
            return None
        return Pair(moved=int(near[best]), still=int(still[best]), move=moves[best])
