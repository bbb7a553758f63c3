"""What lies in the workshop: tools, fittings, parts of machines. Metres, Y up, front +Z."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from oak_square.demo.shapes import Solid, along, box, joined, lathe, prism

__all__ = ["WORKSHOP"]


def _ring(sides: int, inner: float, outer: float, thick: float) -> Solid:
    return lathe([(inner, 0), (outer, 0), (outer, thick), (inner, thick), (inner, 0)], sides)


def _hammer() -> Solid:
    head = box(0.03, 0.03, 0.11, at=(0, 0, -0.13))
    return joined(
        [
            head.moved(y=0.0),
            along(lathe([(0, 0), (0.013, 0), (0.015, 0.3), (0, 0.3)], 10), "z")
            .turned(np.array([[0.0, 0, 1], [0, 1, 0], [-1, 0, 0]]))
            .moved(x=-0.02, y=0.015, z=-0.13),
        ]
    )


def _anvil() -> Solid:
    horn = along(lathe([(0, 0), (0.055, 0), (0, 0.22)], 12), "x").moved(x=0.2, y=0.25)
    return joined(
        [box(0.26, 0.06, 0.2), box(0.14, 0.13, 0.11, at=(0, 0.06, 0)), box(0.42, 0.11, 0.12, at=(0, 0.19, 0)), horn]
    )


def _vise() -> Solid:
    screw = along(lathe([(0, -0.16), (0.014, -0.16), (0.014, 0.16), (0, 0.16)], 10), "z").moved(y=0.08)
    return joined(
        [
            box(0.13, 0.03, 0.16),
            box(0.1, 0.1, 0.05, at=(0, 0.03, -0.04)),
            box(0.1, 0.13, 0.03, at=(0, 0.02, 0.06)),
            screw,
            box(0.16, 0.012, 0.012, at=(0, 0.075, 0.16)),
        ]
    )


def _spanner() -> Solid:
    jaws = [box(0.012, 0.008, 0.03, at=(x, 0, 0.1)) for x in (-0.014, 0.014)]
    return joined(
        [
            box(0.016, 0.006, 0.16),
            box(0.04, 0.008, 0.025, at=(0, 0, 0.08)),
            *jaws,
            _ring(14, 0.008, 0.016, 0.008).moved(z=-0.09),
        ]
    )


def _saw() -> Solid:
    blade = prism([(0, 0), (0.5, 0.03), (0.5, 0.1), (0, 0.12)], -0.0008, 0.0008)
    return (
        joined([blade, prism([(-0.12, 0.0), (0.02, 0.0), (0.02, 0.12), (-0.1, 0.13)], -0.011, 0.011)])
        .turned(np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]]))
        .moved(y=0.011)
    )


def _spade() -> Solid:
    return joined(
        [
            box(0.18, 0.28, 0.006),
            lathe([(0, 0.26), (0.017, 0.26), (0.016, 0.96), (0, 0.96)], 10),
            box(0.12, 0.03, 0.03, at=(0, 0.95, 0)),
        ]
    )


def _axe() -> Solid:
    head = prism([(0.0, 0.6), (0.13, 0.57), (0.13, 0.72), (0.0, 0.68)], -0.012, 0.012)
    return joined([box(0.03, 0.75, 0.022), head])


def _bolt() -> Solid:
    return joined(
        [
            lathe([(0, 0), (0.0092, 0), (0.0092, 0.0064), (0, 0.0064)], 6),
            lathe([(0.005, 0.0064), (0.005, 0.05), (0, 0.05)], 20),
        ]
    )


def _gear() -> Solid:
    hub, teeth = _ring(30, 0.02, 0.075, 0.025), []
    for k in range(24):
        a = 2 * np.pi * k / 24
        turn = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]])
        teeth.append(box(0.01, 0.025, 0.014, at=(0, 0, 0.08)).turned(turn))
    return joined([hub, *teeth])


def _bracket() -> Solid:
    return joined(
        [
            box(0.08, 0.006, 0.06),
            box(0.006, 0.07, 0.06, at=(-0.037, 0.006, 0)),
            prism([(-0.034, 0.006), (0.02, 0.006), (-0.034, 0.06)], -0.003, 0.003),
        ]
    )


def _flange() -> Solid:
    return lathe([(0.03, 0), (0.075, 0), (0.075, 0.016), (0.045, 0.016), (0.04, 0.06), (0.03, 0.06), (0.03, 0)], 32)


def _pulley() -> Solid:
    rim = [(0.01, 0), (0.09, 0), (0.075, 0.012), (0.09, 0.024), (0.01, 0.024), (0.01, 0)]
    return lathe(rim, 32)


def _hinge() -> Solid:
    knuckle = lathe([(0, 0), (0.006, 0), (0.006, 0.09), (0, 0.09)], 12)
    return joined([box(0.04, 0.09, 0.003, at=(-0.022, 0, 0)), box(0.04, 0.09, 0.003, at=(0.022, 0, 0)), knuckle])


def _motor() -> Solid:
    fins = [along(_ring(24, 0.08, 0.1, 0.006), "z").moved(y=0.12, z=z) for z in np.linspace(-0.12, 0.1, 9)]
    body = along(lathe([(0, -0.14), (0.085, -0.14), (0.085, 0.13), (0, 0.13)], 24), "z").moved(y=0.12)
    return joined(
        [
            body,
            *fins,
            along(lathe([(0, 0.13), (0.014, 0.13), (0.014, 0.2), (0, 0.2)], 12), "z").moved(y=0.12),
            box(0.16, 0.025, 0.2),
            box(0.07, 0.05, 0.09, at=(0, 0.21, -0.02)),
        ]
    )


def _pump() -> Solid:
    spout = along(lathe([(0, 0), (0.03, 0), (0.03, 0.2), (0, 0.2)], 12), "z").moved(y=0.7)
    lever = box(0.03, 0.03, 0.6, at=(0, 0.98, -0.3))
    return joined(
        [lathe([(0, 0), (0.16, 0), (0.15, 0.04), (0.07, 0.08), (0.07, 0.9), (0.1, 0.95), (0, 1.0)], 20), spout, lever]
    )


def _padlock() -> Solid:
    return joined(
        [
            box(0.045, 0.04, 0.018),
            *(box(0.006, 0.03, 0.006, at=(x, 0.04, 0)) for x in (-0.014, 0.014)),
            box(0.034, 0.006, 0.006, at=(0, 0.068, 0)),
        ]
    )


def _key() -> Solid:
    return joined(
        [
            _ring(16, 0.008, 0.013, 0.003).moved(z=-0.03),
            box(0.006, 0.004, 0.05, at=(0, 0, 0.005)),
            box(0.014, 0.004, 0.004, at=(0.006, 0, 0.026)),
            box(0.01, 0.004, 0.004, at=(0.005, 0, 0.018)),
        ]
    )


def _toolbox() -> Solid:
    return joined(
        [
            box(0.5, 0.2, 0.22),
            prism([(-0.25, 0.2), (0.25, 0.2), (0.22, 0.26), (-0.22, 0.26)], -0.11, 0.11),
            box(0.18, 0.02, 0.02, at=(0, 0.3, 0)),
            *(box(0.015, 0.05, 0.02, at=(x, 0.26, 0)) for x in (-0.08, 0.08)),
        ]
    )


def _workbench() -> Solid:
    legs = [box(0.09, 0.8, 0.09, at=(x, 0, z)) for x in (-0.8, 0.8) for z in (-0.25, 0.25)]
    return joined(
        [
            *legs,
            box(1.9, 0.07, 0.7, at=(0, 0.8, 0)),
            box(1.6, 0.03, 0.5, at=(0, 0.2, 0)),
            box(0.16, 0.2, 0.1, at=(-0.7, 0.66, 0.4)),
        ]
    )


def _winch() -> Solid:
    drum = along(lathe([(0, -0.2), (0.16, -0.2), (0.11, -0.17), (0.11, 0.17), (0.16, 0.2), (0, 0.2)], 20), "x").moved(
        y=0.3
    )
    cheeks = [
        prism([(-0.2, 0), (0.2, 0), (0.07, 0.42), (-0.07, 0.42)], -0.012, 0.012)
        .turned(np.array([[0.0, 0, 1], [0, 1, 0], [-1, 0, 0]]))
        .moved(x=x)
        for x in (-0.23, 0.23)
    ]
    crank = [
        box(0.03, 0.3, 0.02, at=(0.3, 0.02, 0)),
        along(lathe([(0, 0), (0.015, 0), (0.015, 0.12), (0, 0.12)], 10), "x").moved(x=0.31, y=0.04),
    ]
    return joined([drum, *cheeks, *crank])


WORKSHOP: dict[str, Callable[[], Solid]] = {
    "claw_hammer": _hammer, "anvil": _anvil, "bench_vise": _vise, "spanner": _spanner, "hand_saw": _saw,
    "spade": _spade,
    "felling_axe": _axe, "hex_bolt": _bolt, "spur_gear": _gear, "angle_bracket": _bracket, "flange": _flange,
    "pulley": _pulley, "door_hinge": _hinge, "electric_motor": _motor, "hand_pump": _pump, "padlock": _padlock,
    "key": _key, "toolbox": _toolbox, "workbench": _workbench, "winch": _winch,
}  # fmt: skip
"""What there is, by the name its file has."""
