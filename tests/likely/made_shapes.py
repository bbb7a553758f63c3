"""Shapes made for tests of what is likely: solids put together at random, as a file would have them."""

from __future__ import annotations

import numpy as np

from oak_square.core.frames import AXES, Reading, axis_vector
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.demo.shapes import Solid, along, box, joined, lathe

READ = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="assumed")


def as_file(solid: Solid, file: str, *, metres: float = 1.0, up: str = "+Y", front: str = "+Z", declared=None) -> Asset:
    """A solid of metres, Y up, as a file in that unit has it that is laid so."""
    turn = np.column_stack([np.cross(axis_vector(up), axis_vector(front)), axis_vector(up), axis_vector(front)])
    points = (solid.points @ turn.T / metres).astype(np.float32)
    mesh = Mesh(name="m", points=points, triangles=solid.triangles.astype(np.uint32))
    node = Node(name="m", parent=None, placement=Placement.of(), mesh=0)
    return Asset(
        file=file, format=file.rsplit(".", 1)[1], reading=declared or READ, nodes=(node,), meshes=(mesh,)
    )  # fmt: skip


def crosswise(up: str) -> str:
    """Some front that goes with an up axis."""
    return next(axis for axis in AXES if axis[1] != up[1])


def stand(rng: np.random.Generator) -> Solid:
    """Something that stands: a foot, a stem, what it carries, or a body on legs, or a vessel; of random proportions."""
    size, kind = float(np.exp(rng.normal(0, 0.5))), int(rng.integers(5))
    r = lambda a, b: float(rng.uniform(a, b)) * size  # noqa: E731
    if kind == 0:
        foot, stem = r(0.15, 0.3), r(0.6, 1.2)
        return lathe([(0, 0), (foot, 0), (foot, 0.05 * size), (0.03 * size, 0.08 * size), (0.03 * size, stem),
                      (r(0.05, 0.2), stem + 0.02 * size), (0, stem + r(0.05, 0.2))], 20)  # fmt: skip
    if kind == 1:
        wide, deep, high, t = r(0.4, 1.5), r(0.4, 0.9), r(0.4, 0.8), 0.05 * size
        legs = [box(t, high, t, at=(a * (wide / 2 - t), 0, b * (deep / 2 - t))) for a in (-1, 1) for b in (-1, 1)]
        back = [box(wide, r(0.3, 0.6), t, at=(0, high + t, -deep / 2 + t))] if rng.random() < 0.6 else []
        return joined([*legs, box(wide, t, deep, at=(0, high, 0)), *back])
    if kind == 2:
        wide, deep, high = r(0.6, 1.4), r(0.5, 1.2), r(0.4, 0.8)
        return joined([box(wide, high, deep), box(wide * 0.5, r(0.2, 0.6), deep * 0.4, at=(0, high, -deep * 0.2)),
                       box(0.2 * size, high * 0.7, 0.03 * size, at=(wide * 0.1, 0, deep / 2))])  # fmt: skip
    if kind == 3:
        low, top, high = r(0.1, 0.2), r(0.2, 0.35), r(0.3, 0.7)
        return lathe(
            [(0, 0), (low, 0), (top, high), (top * 0.93, high), (low * 0.9, 0.03 * size), (0, 0.03 * size)], 24
        )
    long, high = r(0.8, 1.4), r(0.4, 0.6)
    legs = [
        box(0.08 * size, high, 0.08 * size, at=(a * 0.12 * size, 0, b * long * 0.35)) for a in (-1, 1) for b in (-1, 1)
    ]
    body = along(lathe([(0, 0), (0.16 * size, 0.1 * long), (0.16 * size, 0.9 * long), (0, long)], 14), "z")
    return joined(
        [
            *legs,
            body.moved(y=high + 0.12 * size, z=-long / 2),
            box(0.12 * size, r(0.25, 0.4), 0.14 * size, at=(0, high + 0.1 * size, long * 0.45)),
        ]
    )
