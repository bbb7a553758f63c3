"""What stands in the keeper's house and hangs in its kitchen. Metres, Y up, front +Z, on the middle of its base."""

from __future__ import annotations

from collections.abc import Callable

from oak_square.demo.shapes import Solid, along, box, joined, lathe, prism

__all__ = ["FURNISHINGS"]


def _legs(width: float, depth: float, height: float, thick: float) -> list[Solid]:
    x, z = width / 2 - thick / 2, depth / 2 - thick / 2
    return [box(thick, height, thick, at=(a * x, 0, b * z)) for a in (-1, 1) for b in (-1, 1)]


def _chair() -> Solid:
    back = [box(0.04, 0.44, 0.03, at=(x, 0.45, -0.19)) for x in (-0.19, 0.0, 0.19)]
    return joined(
        [
            *_legs(0.42, 0.42, 0.43, 0.04),
            box(0.44, 0.03, 0.44, at=(0, 0.43, 0)),
            *back,
            box(0.44, 0.1, 0.03, at=(0, 0.84, -0.19)),
        ]
    )


def _table() -> Solid:
    return joined(
        [
            *_legs(1.5, 0.8, 0.71, 0.07),
            box(1.6, 0.04, 0.9, at=(0, 0.71, 0)),
            box(1.36, 0.09, 0.03, at=(0, 0.62, 0.35)),
            box(1.36, 0.09, 0.03, at=(0, 0.62, -0.35)),
        ]
    )


def _stool() -> Solid:
    return joined([lathe([(0, 0.42), (0.17, 0.42), (0.18, 0.46), (0, 0.46)], 20), *_legs(0.3, 0.3, 0.43, 0.035)])


def _bench() -> Solid:
    slats = [box(1.6, 0.03, 0.09, at=(0, 0.44, z)) for z in (-0.12, 0.0, 0.12)]
    backs = [box(1.6, 0.09, 0.025, at=(0, y, -0.2)) for y in (0.58, 0.74)]
    ends = [box(0.06, 0.44, 0.4, at=(x, 0, 0)) for x in (-0.7, 0.7)]
    posts = [box(0.06, 0.86, 0.04, at=(x, 0, -0.22)) for x in (-0.7, 0.7)]
    return joined([*slats, *backs, *ends, *posts])


def _cupboard() -> Solid:
    doors = [box(0.46, 1.5, 0.02, at=(x, 0.16, 0.25)) for x in (-0.24, 0.24)]
    knobs = [box(0.03, 0.03, 0.03, at=(x, 0.9, 0.275)) for x in (-0.05, 0.05)]
    return joined([box(1.0, 1.8, 0.5), box(1.08, 0.05, 0.56, at=(0, 1.8, 0)), *doors, *knobs])


def _shelf() -> Solid:
    boards = [box(0.86, 0.025, 0.28, at=(0, y, 0)) for y in (0.05, 0.4, 0.75, 1.1, 1.45, 1.8)]
    return joined(
        [*boards, *(box(0.025, 1.86, 0.3, at=(x, 0, 0)) for x in (-0.44, 0.44)), box(0.9, 1.86, 0.01, at=(0, 0, -0.15))]
    )


def _bed() -> Solid:
    return joined(
        [
            box(0.95, 0.2, 2.0, at=(0, 0.25, 0)),
            box(0.9, 0.16, 1.95, at=(0, 0.45, 0)),
            box(0.98, 0.95, 0.05, at=(0, 0, -1.0)),
            box(0.98, 0.6, 0.05, at=(0, 0, 1.0)),
            box(0.6, 0.1, 0.35, at=(0, 0.61, -0.75)),
        ]
    )


def _desk() -> Solid:
    drawers = [box(0.34, 0.17, 0.02, at=(0.42, y, 0.32)) for y in (0.1, 0.3, 0.5)]
    return joined(
        [
            box(1.3, 0.03, 0.66, at=(0, 0.72, 0)),
            box(0.38, 0.7, 0.6, at=(0.42, 0.02, 0)),
            box(0.05, 0.72, 0.6, at=(-0.6, 0, 0)),
            *drawers,
        ]
    )


def _clock() -> Solid:
    face = along(lathe([(0, 0), (0.16, 0), (0.16, 0.02), (0, 0.02)], 24), "z").moved(y=1.75, z=0.14)
    return joined(
        [
            box(0.46, 0.35, 0.3),
            box(0.32, 1.15, 0.22, at=(0, 0.35, 0)),
            box(0.46, 0.5, 0.28, at=(0, 1.5, 0)),
            prism([(-0.26, 2.0), (0.26, 2.0), (0, 2.12)], -0.14, 0.14),
            face,
        ]
    )


def _lamp() -> Solid:
    return joined(
        [
            lathe([(0, 0), (0.09, 0), (0.1, 0.02), (0.02, 0.05), (0.015, 0.28), (0, 0.28)], 20),
            lathe([(0.16, 0.25), (0.08, 0.46)], 24),
            lathe([(0.155, 0.25), (0.075, 0.46)], 24),
        ]
    )


def _stove() -> Solid:
    pipe = lathe([(0.06, 0.8), (0.06, 1.25), (0, 1.25)], 16).moved(z=-0.12)
    return joined(
        [
            *_legs(0.5, 0.42, 0.12, 0.05),
            box(0.56, 0.6, 0.48, at=(0, 0.12, 0)),
            box(0.6, 0.04, 0.52, at=(0, 0.72, 0)),
            box(0.3, 0.25, 0.02, at=(0, 0.3, 0.25)),
            pipe,
        ]
    )


def _bucket() -> Solid:
    return lathe([(0, 0), (0.105, 0), (0.15, 0.29), (0.145, 0.29), (0.1, 0.01), (0, 0.01)], 24)


def _kettle() -> Solid:
    spout = prism([(0.08, 0.06), (0.1, 0.06), (0.18, 0.16), (0.16, 0.17)], -0.012, 0.012)
    handle = [box(0.012, 0.08, 0.02, at=(x, 0.15, 0)) for x in (-0.06, 0.06)]
    return joined(
        [
            lathe([(0, 0), (0.1, 0), (0.105, 0.06), (0.06, 0.15), (0.015, 0.165), (0, 0.165)], 24),
            spout,
            *handle,
            box(0.13, 0.012, 0.02, at=(0, 0.23, 0)),
        ]
    )


def _mug() -> Solid:
    grip = [box(0.03, 0.01, 0.014, at=(0.053, y, 0)) for y in (0.02, 0.07)]
    return joined(
        [
            lathe([(0, 0), (0.04, 0), (0.042, 0.095), (0.038, 0.095), (0.036, 0.006), (0, 0.006)], 24),
            *grip,
            box(0.01, 0.06, 0.014, at=(0.07, 0.02, 0)),
        ]
    )


def _bottle() -> Solid:
    return lathe([(0, 0), (0.037, 0), (0.037, 0.18), (0.015, 0.23), (0.014, 0.3), (0, 0.3)], 24)


def _bowl() -> Solid:
    return lathe([(0, 0), (0.05, 0), (0.08, 0.03), (0.12, 0.09), (0.115, 0.09), (0.075, 0.035), (0, 0.01)], 28)


def _plate() -> Solid:
    return lathe([(0, 0), (0.075, 0), (0.13, 0.018), (0.128, 0.022), (0.074, 0.005), (0, 0.005)], 28)


def _candlestick() -> Solid:
    return lathe(
        [
            (0, 0),
            (0.06, 0),
            (0.055, 0.012),
            (0.014, 0.03),
            (0.02, 0.09),
            (0.012, 0.17),
            (0.024, 0.19),
            (0.024, 0.2),
            (0.011, 0.2),
            (0.011, 0.36),
            (0, 0.37),
        ],
        20,
    )


def _barrel() -> Solid:
    return lathe(
        [
            (0, 0.02),
            (0.24, 0.02),
            (0.25, 0),
            (0.27, 0),
            (0.33, 0.43),
            (0.27, 0.86),
            (0.25, 0.86),
            (0.24, 0.84),
            (0, 0.84),
        ],
        24,
    )


def _crate() -> Solid:
    sides = [box(0.6, 0.1, 0.015, at=(0, y, z)) for y in (0.0, 0.13, 0.26) for z in (-0.2, 0.2)]
    ends = [box(0.015, 0.1, 0.4, at=(x, y, 0)) for y in (0.0, 0.13, 0.26) for x in (-0.3, 0.3)]
    return joined([*sides, *ends, box(0.6, 0.015, 0.4)])


def _broom() -> Solid:
    return joined(
        [
            lathe([(0, 0.16), (0.013, 0.16), (0.012, 1.4), (0, 1.41)], 12),
            box(0.32, 0.05, 0.06, at=(0, 0.12, 0)),
            prism([(-0.19, 0), (0.19, 0), (0.15, 0.12), (-0.15, 0.12)], -0.025, 0.025),
        ]
    )


def _door() -> Solid:
    panels = [box(0.3, 0.8, 0.012, at=(x, y, 0.02)) for x in (-0.19, 0.19) for y in (0.12, 1.08)]
    handle = along(lathe([(0, 0), (0.02, 0), (0.025, 0.05), (0, 0.06)], 12), "z").moved(x=0.36, y=1.0, z=0.02)
    return joined([box(0.84, 2.0, 0.04), *panels, handle])


FURNISHINGS: dict[str, Callable[[], Solid]] = {
    "kitchen_chair": _chair, "dining_table": _table, "milking_stool": _stool, "park_bench": _bench,
    "linen_cupboard": _cupboard, "book_shelf": _shelf, "single_bed": _bed, "writing_desk": _desk,
    "grandfather_clock": _clock, "table_lamp": _lamp, "iron_stove": _stove, "bucket": _bucket, "kettle": _kettle,
    "tin_mug": _mug, "wine_bottle": _bottle, "bowl": _bowl, "dinner_plate": _plate, "candlestick": _candlestick,
    "barrel": _barrel, "apple_crate": _crate, "yard_broom": _broom, "house_door": _door,
}  # fmt: skip
"""What there is, by the name its file has."""
