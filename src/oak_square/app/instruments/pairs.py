"""What of the moved thing comes near what of the still ones: points of the kinds that are on, and the pair as picks."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.instrument import Scene
from oak_square.app.view.overlay import Lens
from oak_square.core.features import FeatureKind, features_of
from oak_square.core.measuring import Anchor
from oak_square.core.nearing import Nearing

__all__ = ["Pairs"]

Array = NDArray[np.float64]
_KINDS: dict[str, FeatureKind] = {
    "circle centre": "circle", "face centre": "face", "edge middle": "edge", "vertex": "vertex",
}  # fmt: skip
_MOST_MOVED, _MOST_STILL = 3_000, 20_000  # points that are tried without holding the hand up
_REACH = 10.0  # pixels


class Pairs:
    """The points to either side of a drag, from when it began; the eye stays meanwhile."""

    def __init__(self, scene: Scene, hold: HeldNodes, lens: Lens) -> None:
        self._asset = hold.asset
        self._moved = _Side(scene, hold, sorted(hold.moved), _MOST_MOVED)
        still = [i for i in range(len(hold.asset.nodes)) if i not in hold.moved]
        self._still = _Side(scene, hold, still, _MOST_STILL)
        self._nearing = Nearing(self._moved.points, self._still.points, lens.seen)

    def nearest(self, move: Array, held: Array) -> tuple[ClickTarget, ClickTarget, Array] | None:
        """Return what is moved, what it comes onto, and the move for that; as `Nearing.nearest`."""
        pair = self._nearing.nearest(move, held, _REACH)
        if pair is None:
            return None
        return self._moved.aim(pair.moved), self._still.aim(pair.still), pair.move


class _Side:
    """Points of some nodes of the held asset, each with what it is."""

    def __init__(self, scene: Scene, hold: HeldNodes, nodes: Iterable[int], most: int) -> None:
        self._asset = hold.asset
        self._runs: list[tuple[str, int, Array]] = []  # kind, node, directions: of each run of points
        self._starts = [0]
        points = list[Array]()
        nodes = list(nodes)
        if "pivot" in scene.kinds:
            for i in nodes:
                self._add_points(points, "pivot", i, hold.asset.worlds[i][None, :3, 3], np.zeros((1, 3)))
        parts = [i for i in nodes if hold.asset.nodes[i].mesh is not None and scene.ready(hold.asset.mesh_of(i))]
        for kind in [k for k in _KINDS if k in scene.kinds]:
            for i in parts:
                found = features_of(hold.asset.mesh_of(i), _KINDS[kind], hold.asset.world_from_mesh(i))
                if self._starts[-1] + len(found.points) <= most:
                    self._add_points(points, kind, i, found.points, found.ways)
        self.points: Array = np.vstack(points) if points else np.empty((0, 3))

    def _add_points(self, points: list[Array], kind: str, node: int, at: Array, ways: Array) -> None:
        if len(at):
            points.append(at)
            self._runs.append((kind, node, ways))
            self._starts.append(self._starts[-1] + len(at))

    def aim(self, row: int) -> ClickTarget:
        """Return a point as what it is."""
        run = int(np.searchsorted(self._starts, row, side="right")) - 1
        kind, node, ways = self._runs[run]
        at = self.points[row]
        local = (0.0, 0.0, 0.0)
        if kind != "pivot":
            x, y, z = np.linalg.solve(self._asset.world_from_mesh(node), np.append(at, 1.0))[:3].tolist()
            local = (x, y, z)
        anchor = Anchor(node=node, name=self._asset.nodes[node].name, at=local, kind=kind)
        return ClickTarget(file=self._asset.file, anchor=anchor, at=at, way=ways[row - self._starts[run]])
