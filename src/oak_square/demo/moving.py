"""The models of the lock that move: a sluice wheel with its clip, and a pennant on its joints."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from oak_square.demo.files import GlbMaker
from oak_square.demo.shapes import Solid, along, box, joined, lathe

__all__ = ["pennant", "sluice_wheel"]

INCH = 0.0254
IRON, RED, OAK, CLOTH = (0.09, 0.10, 0.11), (0.42, 0.05, 0.03), (0.36, 0.20, 0.09), (0.75, 0.62, 0.16)


def sluice_wheel(path: Path) -> None:
    """Write a wheel that winds a sluice: centimetres below a scale of 0.01, away from the origin, with a clip."""
    glb = GlbMaker("Sluice wheel")
    iron, red = glb.material("iron", IRON), glb.material("red lead", RED)
    sluice = glb.node("sluice", scale=[0.01, 0.01, 0.01], translation=[3.2, 0.0, -1.4])
    stand = joined([box(44, 6, 36, at=(0, 0, 0)), box(10, 88, 12, at=(0, 6, 0))])
    glb.node("stand", parent=sluice, mesh=glb.mesh("stand", [(stand, iron)]))
    rack = glb.node(
        "rack", parent=sluice, mesh=glb.mesh("rack", [(box(5, 96, 5, at=(0, 0, 0)), iron)]), translation=[12, 6, 0]
    )
    wheel = glb.node("wheel", parent=sluice, mesh=glb.mesh("wheel", [(_make_wheel(), red)]), translation=[0, 82, 16])
    times = [0.0, 1.0, 2.0, 3.0, 4.0]
    angles = np.radians([0, 90, 180, 270, 360]) / 2
    turns = np.stack([np.zeros(5), np.zeros(5), np.sin(angles), np.cos(angles)], axis=1)
    lifts = np.stack([np.full(5, 12.0), 6 + np.array([0, 7, 14, 21, 28.0]), np.zeros(5)], axis=1)
    glb.clip("open the sluice", [(wheel, "rotation", times, turns), (rack, "translation", times, lifts)])
    glb.write(path)


def _make_wheel() -> Solid:
    """Return a wheel about its axle, the origin, its face to the front: a rim, a hub, four spokes, a handle."""
    rim = lathe([(26.0, -2.0), (30.0, -2.0), (30.0, 2.0), (26.0, 2.0), (26.0, -2.0)], 28)
    hub = lathe([(0.0, -5.0), (6.0, -5.0), (6.0, 5.0), (0.0, 5.0)], 14)
    laid = [along(s, "z") for s in (rim, hub)]
    spokes = [box(54, 3, 3, at=(0, -1.5, 0)), box(3, 54, 3, at=(0, -27, 0))]
    return joined([*laid, *spokes, box(3, 3, 12, at=(28, -1.5, 7))])


def pennant(path: Path) -> None:
    """Write a pennant on a pole: inches below a scale of 0.0254, its cloth held by three joints, with a clip."""
    glb = GlbMaker("Lock-keeper's pennant")
    oak, cloth = glb.material("oak", OAK), glb.material("bunting", CLOTH)
    home = glb.node("pennant", scale=[INCH, INCH, INCH])
    pole = lathe([(0.0, 0.0), (1.4, 0.0), (0.9, 98.0), (1.6, 99.0), (0.0, 102.0)], 12)
    glb.node("pole", parent=home, mesh=glb.mesh("pole", [(pole, oak)]))
    places = [(1.0, 84.0), (13.0, 84.0), (24.0, 84.0)]
    joints, binds, above = [], [], home
    for k, (x, y) in enumerate(places):
        before = places[k - 1] if k else (0.0, 0.0)
        above = glb.node(f"fly_{k + 1}", parent=above, translation=[x - before[0], y - before[1], 0.0])
        bind = np.eye(4)
        bind[:2, 3] = -x, -y
        joints.append(above)
        binds.append(bind)
    sheet = _make_cloth()
    held = glb.mesh("cloth", [(sheet, cloth)])
    far = np.clip((sheet.points[:, 0] - 1.0) / 11.5, 0.0, 2.0)
    low = np.minimum(far.astype(int), 1)
    share = far - low
    rows = np.stack([low, low + 1, np.zeros_like(low), np.zeros_like(low)], axis=1)
    none = np.zeros_like(share)
    glb.hold(held, rows, np.stack([1 - share, share, none, none], axis=1))
    glb.node("cloth", parent=home, mesh=held, skin=glb.skin(joints, binds))
    times = [0.0, 0.6, 1.2, 1.8, 2.4]
    sways = [np.radians([0, 16, 0, -16, 0]), np.radians([-14, 10, 22, -6, -14])]
    glb.clip("in the wind", [(joint, "rotation", times, _about_y(a)) for joint, a in zip(joints, sways, strict=False)])
    glb.write(path)


def _about_y(angles: np.ndarray[Any, Any]) -> np.ndarray[Any, Any]:
    zeros = np.zeros_like(angles)
    return np.stack([zeros, np.sin(angles / 2), zeros, np.cos(angles / 2)], axis=1)


def _make_cloth() -> Solid:
    """Return a swallow-tailed strip of thin boxes from the pole outward, waving a little."""
    pieces = []
    for k in range(12):
        high = 18.0 - 0.9 * k
        wave = 0.7 * np.sin(k * 0.9)
        pieces.append(box(2.9, high, 0.3, at=(2.5 + 2.9 * k, 84.0 - high / 2, wave)))
    return joined(pieces)
