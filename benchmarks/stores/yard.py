"""What stands and moves in the yard, on the water and along the lane. Metres, Y up, front +Z."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from oak_square.demo.shapes import Solid, along, box, joined, lathe, prism

__all__ = ["YARD"]


def _wheel(radius: float, wide: float) -> Solid:
    rim = [(0, 0), (radius * 0.75, 0), (radius, wide * 0.2), (radius, wide * 0.8), (radius * 0.75, wide), (0, wide)]
    return along(lathe(rim, 20), "x").moved(x=-wide / 2)


def _ball(radius: float, height: float = 1.0, rings: int = 8) -> Solid:
    """Return an egg of that radius, stretched upright by `height`, on the ground."""
    angles = np.linspace(-np.pi / 2, np.pi / 2, rings + 1)
    outline = [(abs(float(np.cos(a))) * radius, (float(np.sin(a)) + 1) * radius * height) for a in angles]
    outline[0], outline[-1] = (0.0, outline[0][1]), (0.0, outline[-1][1])
    return lathe(outline, 16)


def _hull(length: float, wide: float, high: float, bow: float = 0.35) -> Solid:
    """Return a hull, bow to the front: its deck's outline drawn down to a narrower keel."""
    z = [-0.5, -0.42, 0.5 - bow, 0.5 - bow / 3, 0.5]
    half = [0.75, 1.0, 1.0, 0.6, 0.02]
    ring = [(h * wide / 2, y * length) for y, h in zip(z, half, strict=True)]
    outline = ring + [(-x, y) for x, y in reversed(ring)]
    deck = np.array([(x, high, y) for x, y in outline])
    keel = np.array([(0.45 * x, 0.0, 0.94 * y) for x, y in outline])
    count = len(outline)
    faces = [[k, (k + 1) % count, count + (k + 1) % count] for k in range(count)]
    faces += [[k, count + (k + 1) % count, count + k] for k in range(count)]
    faces += [[count, count + k, count + k + 1] for k in range(1, count - 1)]
    points = np.concatenate([deck, keel])
    triangles = np.array(faces)
    corners = points[triangles]
    normals = np.zeros_like(points)
    np.add.at(normals, triangles, np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])[:, None])
    return Solid(points, normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-12), triangles)


def _rowing_boat() -> Solid:
    benches = [box(1.1, 0.03, 0.22, at=(0, 0.36, z)) for z in (-0.9, 0.1, 0.9)]
    return joined([_hull(3.6, 1.35, 0.5), *benches])


def _barge() -> Solid:
    return joined(
        [
            _hull(24.0, 4.4, 1.8, 0.2),
            box(3.2, 1.9, 3.6, at=(0, 1.8, -9.0)),
            box(3.4, 0.7, 13.0, at=(0, 1.8, 1.0)),
            lathe([(0.0, 1.8), (0.15, 1.8), (0.12, 3.4), (0, 3.4)], 12).moved(z=-6.6),
        ]
    )


def _tug() -> Solid:
    return joined(
        [
            _hull(16.0, 5.0, 2.2),
            box(3.4, 2.4, 5.0, at=(0, 2.2, 0.5)),
            box(2.6, 1.8, 2.4, at=(0, 4.6, 1.2)),
            lathe([(0, 4.6), (0.55, 4.6), (0.5, 7.4), (0, 7.4)], 16).moved(z=-1.2),
        ]
    )


def _canoe() -> Solid:
    shell = _hull(4.8, 0.85, 0.36, 0.5)
    return joined([shell, *(box(0.6, 0.03, 0.18, at=(0, 0.26, z)) for z in (-1.2, 1.0))])


def _cart() -> Solid:
    wheels = [_wheel(0.55, 0.08).moved(x=x, y=0.55) for x in (-0.75, 0.75)]
    shafts = [box(0.06, 0.06, 1.6, at=(x, 0.62, 1.7)) for x in (-0.4, 0.4)]
    sides = [box(0.04, 0.4, 1.9, at=(x, 0.72, 0)) for x in (-0.6, 0.6)]
    return joined(
        [box(1.24, 0.08, 1.9, at=(0, 0.65, 0)), *sides, box(1.24, 0.4, 0.04, at=(0, 0.72, -0.95)), *wheels, *shafts]
    )


def _wheelbarrow() -> Solid:
    tray = prism([(-0.3, 0.35), (0.3, 0.35), (0.36, 0.62), (-0.36, 0.62)], -0.35, 0.4)
    handles = [box(0.04, 0.04, 1.3, at=(x, 0.32, -0.25)) for x in (-0.25, 0.25)]
    legs = [box(0.04, 0.34, 0.04, at=(x, 0, -0.35)) for x in (-0.25, 0.25)]
    return joined([tray, *handles, *legs, _wheel(0.2, 0.07).moved(y=0.2, z=0.55)])


def _lorry() -> Solid:
    wheels = [_wheel(0.48, 0.28).moved(x=x, y=0.48, z=z) for x in (-0.95, 0.95) for z in (-2.2, 2.1)]
    return joined(
        [
            box(2.1, 1.5, 1.7, at=(0, 0.6, 2.5)),
            box(2.0, 0.75, 1.5, at=(0, 2.1, 2.35)),
            box(2.3, 0.16, 4.6, at=(0, 0.95, -0.9)),
            box(2.3, 0.6, 0.06, at=(0, 1.1, -3.2)),
            *wheels,
        ]
    )


def _bicycle() -> Solid:
    rims = [
        along(lathe([(0.31, 0), (0.34, 0.015), (0.31, 0.03), (0.31, 0)], 28), "x").moved(x=-0.015, y=0.34, z=z)
        for z in (-0.53, 0.53)
    ]
    frame = [
        box(0.03, 0.03, 0.62, at=(0, 0.78, 0.02)),
        box(0.03, 0.55, 0.03, at=(0, 0.3, -0.15)),
        box(0.03, 0.66, 0.03, at=(0, 0.34, 0.45)),
        box(0.025, 0.025, 0.42, at=(0, 0.33, -0.33)),
    ]
    return joined(
        [
            *rims,
            *frame,
            box(0.56, 0.03, 0.03, at=(0, 1.02, 0.42)),
            box(0.16, 0.05, 0.26, at=(0, 0.92, -0.2)),
            box(0.03, 0.1, 0.03, at=(0, 0.84, -0.17)),
        ]
    )


def _locomotive() -> Solid:
    boiler = along(lathe([(0, -2.2), (0.8, -2.2), (0.8, 3.0), (0, 3.0)], 20), "z").moved(y=2.0)
    wheels = [_wheel(0.6, 0.14).moved(x=x, y=0.6, z=z) for x in (-0.75, 0.75) for z in (-2.4, -0.6, 1.2, 2.6)]
    return joined(
        [
            boiler,
            box(2.5, 2.6, 1.8, at=(0, 1.2, -3.1)),
            box(2.7, 0.12, 2.1, at=(0, 3.8, -3.1)),
            box(2.2, 0.3, 7.6, at=(0, 0.9, -0.2)),
            lathe([(0, 2.7), (0.22, 2.7), (0.3, 3.9), (0, 3.9)], 14).moved(z=2.4),
            *wheels,
        ]
    )


def _tree(height: float, wide: float, trunk: float) -> Solid:
    crown = [
        _ball(wide * r, h).moved(x=x * wide, y=y * height, z=z * wide)
        for r, h, x, y, z in (
            (0.5, 1.1, 0, 0.35, 0),
            (0.36, 1, 0.3, 0.3, 0.16),
            (0.34, 1, -0.28, 0.33, -0.2),
            (0.3, 1, 0.05, 0.6, -0.1),
        )
    ]
    return joined([lathe([(0, 0), (trunk, 0), (trunk * 0.6, height * 0.5), (0, height * 0.5)], 10), *crown])


def _fir() -> Solid:
    cones = [lathe([(0, y), (r, y), (0, y + 3.4)], 14) for y, r in ((1.4, 2.3), (3.3, 1.8), (5.2, 1.3), (7.0, 0.8))]
    return joined([lathe([(0, 0), (0.2, 0), (0.16, 2.0), (0, 2.0)], 10), *cones])


def _beast(long: float, high: float, wide: float, neck: float, head: float) -> Solid:
    """Return a beast on four legs, looking to the front."""
    body = along(_ball(wide / 2, long * 0.7 / wide), "z").moved(y=high * 0.68, z=-long * 0.38)
    legs = [
        lathe([(0, 0), (wide * 0.11, 0), (wide * 0.15, high * 0.55), (0, high * 0.55)], 8).moved(
            x=x * wide * 0.3, z=z * long
        )
        for x in (-1, 1)
        for z in (-0.24, 0.2)
    ]
    throat = prism(
        [(-wide * 0.13, 0), (wide * 0.13, 0), (wide * 0.1, neck), (-wide * 0.1, neck)], -wide * 0.15, wide * 0.15
    )
    face = along(_ball(head * 0.36, 1.5), "z").moved(y=high * 0.72 + neck, z=long * 0.27)
    tail = box(wide * 0.08, high * 0.4, wide * 0.08, at=(0, high * 0.35, -long * 0.42))
    return joined([body, *legs, throat.moved(y=high * 0.68, z=long * 0.27), face, tail])


def _duck() -> Solid:
    return joined(
        [
            along(_ball(0.09, 2.2), "z").moved(y=0.12, z=-0.2),
            _ball(0.05).moved(y=0.24, z=0.17),
            box(0.04, 0.012, 0.06, at=(0, 0.28, 0.24)),
            lathe([(0, 0.1), (0.03, 0.1), (0.025, 0.26), (0, 0.26)], 10).moved(z=0.15),
            *(box(0.05, 0.01, 0.08, at=(x, 0, 0.02)) for x in (-0.05, 0.05)),
            *(box(0.012, 0.05, 0.012, at=(x, 0, 0)) for x in (-0.05, 0.05)),
        ]
    )


def _man() -> Solid:
    legs = [box(0.15, 0.86, 0.17, at=(x, 0, 0)) for x in (-0.1, 0.1)]
    feet = [box(0.1, 0.08, 0.28, at=(x, 0, 0.05)) for x in (-0.1, 0.1)]
    arms = [box(0.1, 0.62, 0.12, at=(x, 0.82, 0)) for x in (-0.28, 0.28)]
    return joined(
        [
            *legs,
            *feet,
            *arms,
            box(0.44, 0.6, 0.24, at=(0, 0.86, 0)),
            _ball(0.11, 1.2).moved(y=1.5),
            box(0.04, 0.04, 0.05, at=(0, 1.6, 0.11)),
        ]
    )


def _house(width: float, depth: float, wall: float, roof: float) -> Solid:
    gable = prism(
        [(-width / 2 - 0.3, wall), (width / 2 + 0.3, wall), (0, wall + roof)], -depth / 2 - 0.3, depth / 2 + 0.3
    )
    windows = [box(0.9, 1.1, 0.06, at=(x * width / 4, wall * 0.4, depth / 2)) for x in (-1, 1)]
    return joined(
        [
            box(width, wall, depth),
            gable,
            *windows,
            box(0.95, 2.0, 0.06, at=(0, 0, depth / 2)),
            box(0.6, roof + 0.5, 0.6, at=(width * 0.28, wall, -depth / 4)),
        ]
    )


def _church() -> Solid:
    spire = lathe([(0, 14.0), (2.9, 14.0), (0, 27.0)], 4)
    return joined(
        [
            box(4.2, 14.0, 4.2, at=(0, 0, -10)),
            spire.moved(z=-10),
            box(8.0, 6.0, 18.0, at=(0, 0, 1)),
            prism([(-4.4, 6.0), (4.4, 6.0), (0, 10.5)], -8.0, 10.0),
        ]
    )


def _windmill() -> Solid:
    arms = [box(0.9, 6.5, 0.08, at=(0, 0.8, 0)), box(0.9, 6.5, 0.08, at=(0, -7.3, 0))]
    across = [a.turned(np.array([[0.0, -1, 0], [1, 0, 0], [0, 0, 1]])) for a in arms]
    return joined(
        [
            lathe([(0, 0), (3.6, 0), (2.2, 10.0), (0, 10.0)], 12),
            lathe([(2.4, 10.0), (0, 13.0)], 12),
            *(a.moved(y=10.5, z=2.9) for a in (*arms, *across)),
        ]
    )


def _well() -> Solid:
    posts = [box(0.12, 2.0, 0.12, at=(x, 0, 0)) for x in (-0.75, 0.75)]
    return joined(
        [
            lathe([(0, 0), (0.8, 0), (0.8, 0.8), (0.6, 0.8), (0.6, 0.1), (0, 0.1)], 20),
            *posts,
            prism([(-1.1, 2.0), (1.1, 2.0), (0, 2.6)], -0.7, 0.7),
            along(lathe([(0, -0.9), (0.08, -0.9), (0.08, 0.9), (0, 0.9)], 10), "x").moved(y=1.5),
        ]
    )


def _gate() -> Solid:
    bars = [box(2.9, 0.1, 0.04, at=(0, y, 0)) for y in (0.15, 0.42, 0.68, 0.92, 1.14)]
    return joined(
        [*bars, *(box(0.1, 1.3, 0.07, at=(x, 0, 0)) for x in (-1.45, 1.45)), box(0.08, 1.1, 0.05, at=(0, 0.1, 0))]
    )


def _ladder() -> Solid:
    rungs = [box(0.4, 0.035, 0.035, at=(0, 0.25 + 0.28 * k, 0)) for k in range(10)]
    return joined([*rungs, *(box(0.04, 3.0, 0.07, at=(x, 0, 0)) for x in (-0.21, 0.21))])


def _signpost() -> Solid:
    boards = [
        prism([(0.05, y), (0.85, y), (1.0, y + 0.1), (0.85, y + 0.2), (0.05, y + 0.2)], -0.015, 0.015)
        for y in (1.9, 2.2)
    ]
    return joined([box(0.1, 2.5, 0.1), *boards])


def _bollard() -> Solid:
    return lathe([(0, 0), (0.2, 0), (0.17, 0.08), (0.13, 0.55), (0.2, 0.66), (0.2, 0.74), (0.1, 0.82), (0, 0.83)], 20)


YARD: dict[str, Callable[[], Solid]] = {
    "rowing_boat": _rowing_boat, "coal_barge": _barge, "tugboat": _tug, "canoe": _canoe, "hay_cart": _cart,
    "wheelbarrow": _wheelbarrow, "lorry": _lorry, "bicycle": _bicycle, "locomotive": _locomotive,
    "oak_tree": lambda: _tree(13.0, 9.0, 0.5), "apple_tree": lambda: _tree(4.5, 3.8, 0.15), "fir": _fir,
    "horse": lambda: _beast(2.4, 1.55, 0.62, 0.5, 0.55), "cow": lambda: _beast(2.3, 1.4, 0.75, 0.15, 0.55),
    "sheep": lambda: _beast(1.2, 0.75, 0.5, 0.12, 0.3), "dog": lambda: _beast(0.95, 0.58, 0.26, 0.12, 0.24),
    "duck": _duck, "lock_keeper": _man, "cottage": lambda: _house(8.5, 6.0, 2.7, 2.6),
    "garden_shed": lambda: _house(3.2, 2.4, 2.1, 0.8),
    "church": _church, "windmill": _windmill, "draw_well": _well, "field_gate": _gate, "ladder": _ladder,
    "signpost": _signpost, "quay_bollard": _bollard,
}  # fmt: skip
"""What there is, by the name its file has."""
