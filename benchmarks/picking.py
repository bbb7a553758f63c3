"""Picking: our build and picks against VTK's static cell locator alone, at three sizes of mesh, side by side.

python benchmarks/picking.py [TRIANGLES…]
"""

from __future__ import annotations

import sys
import time

import numpy as np

from oak_square.app.facts.picture import Picture, Shape
from oak_square.app.view.renderer import Renderer
from oak_square.core.picks import picks_at
from oak_square.core.scene import Mesh, Surface
from oak_square.core.topology import Topology, topology

_PICKS = 400


def _bumpy(count: int) -> Mesh:
    """A closed bumpy ball of about `count` triangles, every eighth row of it flat facets two triangles wide."""
    rows = int(np.sqrt(count / 2))
    around, up = np.meshgrid(np.linspace(0, 2 * np.pi, rows, endpoint=False), np.linspace(0.02, np.pi - 0.02, rows))
    radius = 1 + 0.03 * np.sin(9 * around) * np.sin(7 * up)
    points = np.stack(
        [radius * np.sin(up) * np.cos(around), radius * np.cos(up), radius * np.sin(up) * np.sin(around)], -1
    )
    k = np.arange(rows * (rows - 1)).reshape(rows - 1, rows)
    right = np.roll(k, -1, axis=1)
    triangles = np.stack([k, k + rows, right, right, k + rows, right + rows], axis=-1).reshape(-1, 3)
    return Mesh(
        name="ball", points=points.reshape(-1, 3).astype(np.float32), triangles=triangles.astype(np.uint32),
        surfaces=(Surface(first=0, count=len(triangles)),),
    )  # fmt: skip


def _timed(work: object, *arguments: object) -> tuple[float, object]:
    since = time.perf_counter()
    found = work(*arguments)  # type: ignore[operator]
    return time.perf_counter() - since, found


def main(sizes: list[int]) -> None:
    """Print a line for each size."""
    renderer = Renderer()
    random = np.random.default_rng(3)
    print("triangles   locator s   topology s   both / locator   ray ms   pick ms (all kinds)")
    for size in sizes:
        mesh = _bumpy(size)
        shape = Shape(file="b", node=0, mesh=mesh, world_from_mesh=np.eye(4))
        picture = Picture(shapes=(shape,))
        drawn = renderer._find_drawn(mesh)
        locator_s, _ = _timed(drawn.locator)
        topology_s, _ = _timed(Topology, mesh)
        topology(mesh)
        ways = random.normal(size=(_PICKS, 3))
        ways /= np.linalg.norm(ways, axis=1)[:, None]
        picks_at(mesh, np.eye(4), 0, np.asarray(mesh.points[0], dtype=float))  # what is worked out once for a mesh
        since = time.perf_counter()
        hits = [renderer.pick(picture, 3 * w, -w) for w in ways]
        ray_s = (time.perf_counter() - since) / _PICKS
        since = time.perf_counter()
        for hit in hits:
            if hit is not None:
                picks_at(mesh, np.eye(4), hit[2], hit[1])
        pick_s = (time.perf_counter() - since) / _PICKS + ray_s
        share = (locator_s + topology_s) / locator_s
        print(f"{len(mesh.triangles):9d}   {locator_s:9.3f}   {topology_s:10.3f}   {share:14.2f}   "
              f"{ray_s * 1000:6.3f}   {pick_s * 1000:7.3f}")  # fmt: skip
    renderer.close()


if __name__ == "__main__":
    main([int(a) for a in sys.argv[1:]] or [10_000, 100_000, 1_000_000])
