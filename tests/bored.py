"""A plate with a round bore: every edge, face and circle of it is known in closed form."""

from __future__ import annotations

import numpy as np

from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node


def bored_plate(
    size=(2.0, 0.5, 2.0), radius=0.2, at=(0.5, -0.25), sides=24, shuffle: int | None = None, name="plate"
) -> Mesh:
    """A plate about the origin, `size` wide, high and deep, with a bore along y through (x, z) `at`.

    `sides` is a multiple of 8, so that the square's corners are among the rays from the bore's middle. With `shuffle`
    its points and triangles come in another order.
    """
    wide, high, deep = size
    around = np.arange(sides) / sides * 2 * np.pi
    circle = np.column_stack([np.cos(around), np.sin(around)])
    square = circle / np.abs(circle).max(axis=1)[:, None]
    inner = np.array(at) + radius * circle
    outer = square * [wide / 2, deep / 2]
    points = np.array([(x, y, z) for y in (-high / 2, high / 2) for ring in (inner, outer) for x, z in ring])
    low_in, low_out, top_in, top_out = (np.arange(sides) + k * sides for k in range(4))
    after = np.roll(np.arange(sides), -1)

    def band(a, b):
        return np.vstack([np.column_stack([a, b, b[after]]), np.column_stack([a, b[after], a[after]])])

    # Seen along y the rays run from z's side to x's: outward is (top: in to out), (wall: out, up), and so on.
    triangles = np.vstack([band(top_out, top_in), band(low_in, low_out), band(low_out, top_out), band(top_in, low_in)])
    if shuffle is not None:
        random = np.random.default_rng(shuffle)
        order = random.permutation(len(points))
        points = points[order]
        triangles = np.argsort(order)[triangles][random.permutation(len(triangles))]
        triangles = np.array(
            [np.roll(t, k) for t, k in zip(triangles, random.integers(0, 3, len(triangles)), strict=True)]
        )
    return Mesh(name=name, points=points, triangles=triangles)


def plate_asset(file="plate.glb", names=("plate",), **shape) -> Asset:
    """One plate, or some a metre apart along x that share its mesh, each a root."""
    nodes = tuple(
        Node(name=n, parent=None, placement=Placement.of(translation=(3.0 * k, 0, 0)), mesh=0)
        for k, n in enumerate(names)
    )
    return Asset(file=file, format="glb", reading=WORKING, nodes=nodes, meshes=(bored_plate(**shape),))
