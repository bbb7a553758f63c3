"""A pivot step over many parts against bare NumPy that finds the same points and writes the same frames.

python benchmarks/pivots.py [PARTS]
"""

from __future__ import annotations

import sys
import time

import numpy as np

from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS

_TIMES = 5
_CORNERS = np.array([[k & 1, k >> 1 & 1, k >> 2 & 1] for k in range(8)], dtype=np.float32)


def _asset(parts: int) -> Asset:
    random = np.random.default_rng(5)
    meshes, nodes = [], [Node(name="all", parent=None, placement=Placement.of())]
    for k in range(parts):
        points = (_CORNERS * random.uniform(0.1, 2, 3)).astype(np.float32)
        meshes.append(Mesh(name=f"m{k}", points=points, triangles=np.array([[0, 1, 2], [1, 3, 2]], dtype=np.uint32)))
        at = random.uniform(-50, 50, 3)
        nodes.append(Node(name=f"part_{k}", parent=0, placement=Placement.of(translation=at), mesh=k))
    return Asset(file="a.glb", format="glb", reading=WORKING, nodes=tuple(nodes), meshes=tuple(meshes))


def _bare(asset: Asset) -> np.ndarray:
    """Return each part's new local frame, and rewrite its points, one part at a time as a script would."""
    frames = np.tile(np.eye(4), (len(asset.nodes), 1, 1))
    for i, node in enumerate(asset.nodes):
        if node.mesh is not None:
            points = asset.meshes[node.mesh].points.astype(np.float64) + node.placement.translation
            low, high = points.min(axis=0), points.max(axis=0)
            frames[i, :3, 3] = (low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2
            (points - frames[i, :3, 3]).astype(np.float32)
    return frames


def main(parts: int) -> None:
    """Print the medians and their ratio."""
    sheet = Sheet(steps=(STEPS["pivot"].model_validate({"at": "base", "of": "parts"}),))
    ours, bare = [], []
    for _ in range(_TIMES):
        asset = _asset(parts)
        since = time.perf_counter()
        found = _bare(asset)
        bare.append(time.perf_counter() - since)
        since = time.perf_counter()
        after = evaluate(asset, sheet).asset
        ours.append(time.perf_counter() - since)
        assert np.abs(after.worlds[1:, :3, 3] - found[1:, :3, 3]).max() < 1e-6
    ratio = np.median(ours) / np.median(bare)
    print(f"{parts:,} parts: {np.median(ours) * 1000:.0f} ms, NumPy {np.median(bare) * 1000:.0f} ms: {ratio:.1f}x")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 10_000)
