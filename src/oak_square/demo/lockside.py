"""The rest of Fenwick Lock: what stands along the lockside, each built true and then given its troubles."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from oak_square.demo.files import GlbMaker, write_obj
from oak_square.demo.shapes import Solid, along, box, joined, lathe, prism

__all__ = [
    "keepers_hut",
    "lifebuoy_post",
    "paddle_gear",
    "reed_clump",
    "stop_planks",
    "strapping_bollard",
    "weather_vane",
]

OAK, IRON, CREAM = (0.36, 0.20, 0.09), (0.09, 0.10, 0.11), (0.80, 0.74, 0.60)
RED, STONE, REED, BRASS = (0.42, 0.05, 0.03), (0.48, 0.45, 0.40), (0.30, 0.36, 0.10), (0.55, 0.40, 0.10)


def paddle_gear(path: Path) -> None:
    """Write the gear that winds a paddle: nested groups, every pivot at the world's origin."""
    glb = GlbMaker("Paddle gear")
    oak, iron, brass = glb.material("oak", OAK), glb.material("iron", IRON), glb.material("brass", BRASS)
    stand = joined([box(0.34, 1.05, 0.22), box(0.60, 0.10, 0.40)])
    rack = joined([box(0.07, 1.75, 0.06, at=(0.0, 0.35, 0.18)), *_make_teeth(0.075, 0.45, 2.0, 18)])
    spindle = along(lathe([(0.0, 0.0), (0.025, 0.0), (0.025, 0.62), (0.0, 0.62)], 14), "z").moved(
        x=0.085, y=1.15, z=-0.2
    )
    square = box(0.05, 0.05, 0.12, at=(0.085, 1.125, 0.47))
    pinion = along(_make_cog(0.085, 0.06, 12), "z").moved(x=0.085, y=1.15, z=0.15)
    pawl = prism([(0.16, 1.22), (0.20, 1.22), (0.30, 1.42), (0.26, 1.43)], 0.14, 0.20)
    gear = glb.node("paddle_gear", translation=[2.4, 0.0, -1.1])
    fixed = glb.node("fixed", parent=gear, translation=[-2.4, 0.0, 1.1])
    moving = glb.node("moving", parent=gear, translation=[-2.4, 0.0, 1.1])

    def part(name: str, parent: int, solid: Solid, material: int) -> int:
        mesh = glb.mesh(name, [(solid.moved(2.4, 0.0, -1.1), material)])
        return glb.node(name, parent=parent, mesh=mesh)

    part("stand", fixed, stand, oak)
    part("pawl", fixed, pawl, brass)
    part("rack", moving, rack, iron)
    turning = part("spindle", moving, joined([spindle, square]), iron)
    part("pinion", turning, pinion, brass)
    glb.write(path)


def _make_teeth(x: float, low: float, high: float, count: int) -> list[Solid]:
    step = (high - low) / count
    return [box(0.03, step * 0.5, 0.05, at=(x - 0.03, low + k * step, 0.18)) for k in range(count)]


def _make_cog(radius: float, thick: float, teeth: int) -> Solid:
    hub = lathe([(0.0, 0.0), (radius * 0.8, 0.0), (radius * 0.8, thick), (0.0, thick)], 24)
    found = [hub]
    for k in range(teeth):
        angle = 2 * np.pi * k / teeth
        tooth = box(radius * 0.26, thick, radius * 0.3, at=(0.0, 0.0, radius * 0.85))
        turn = np.array([[np.cos(angle), 0, np.sin(angle)], [0, 1, 0], [-np.sin(angle), 0, np.cos(angle)]])
        found.append(tooth.turned(turn))
    return joined(found)


def strapping_bollard(path: Path) -> None:
    """Write a strapping bollard where the surveyor's grid has it: half a thousand kilometres out."""
    glb = GlbMaker("Strapping bollard")
    iron, stone = glb.material("iron", IRON), glb.material("stone", STONE)
    foot = box(0.70, 0.18, 0.70)
    body = lathe([(0.0, 0.18), (0.21, 0.18), (0.17, 0.28), (0.15, 0.78), (0.20, 0.86), (0.19, 0.94), (0.0, 1.02)])
    grooves = joined(
        [lathe([(0.155, y), (0.172, y + 0.01), (0.172, y + 0.03), (0.155, y + 0.04)]) for y in (0.45, 0.58)]
    )
    mesh = glb.mesh("bollard", [(foot, stone), (joined([body, grooves]), iron)])
    glb.node("strapping_bollard", mesh=mesh, translation=[512_340.25, 0.0, -185_220.5])
    glb.write(path)


def lifebuoy_post(path: Path) -> None:
    """Write the lifebuoy on its post: the pivot in the middle, so half of it stands in the ground."""
    glb = GlbMaker("Lifebuoy post")
    oak, red, cream = glb.material("oak", OAK), glb.material("red", RED), glb.material("cream", CREAM)
    post = prism([(-0.06, 0.0), (0.06, 0.0), (0.06, 1.50), (0.0, 1.60), (-0.06, 1.50)], -0.06, 0.06)
    board = box(0.80, 0.80, 0.03, at=(0.0, 0.70, 0.075))
    ring, bands = _make_ring(0.28, 0.075, range(24)), _make_ring(0.28, 0.082, (1, 2, 7, 8, 13, 14, 19, 20))
    middle = -0.8
    pieces = [(post, oak), (board, cream)]
    pieces += [(s.moved(y=1.10, z=0.15), m) for s, m in ((ring, red), (bands, cream))]
    mesh = glb.mesh("lifebuoy_post", [(s.moved(y=middle), m) for s, m in pieces])
    glb.node("lifebuoy_post", mesh=mesh)
    glb.write(path)


def _make_ring(radius: float, thick: float, segments: range | tuple[int, ...]) -> Solid:
    """Return segments, of 24, of a ring that faces +z."""
    around = np.linspace(0, 2 * np.pi, 25)
    tube = np.linspace(0, 2 * np.pi, 13)
    found = []
    for k in segments:
        u, v = np.meshgrid(around[[k, k + 1]], tube, indexing="ij")
        across = radius + thick * np.cos(v)
        points = np.stack([across * np.cos(u), across * np.sin(u), thick * np.sin(v)], axis=-1).reshape(-1, 3)
        normals = np.stack([np.cos(v) * np.cos(u), np.cos(v) * np.sin(u), np.sin(v)], axis=-1).reshape(-1, 3)
        j = np.arange(12)
        rows = np.concatenate([np.stack([j, j + 13, j + 14], axis=1), np.stack([j, j + 14, j + 1], axis=1)])
        found.append(Solid(points, normals, rows))
    return joined(found)


def weather_vane(path: Path) -> None:
    """Write the weather vane: an uneven scale above a turned child, which shears it."""
    glb = GlbMaker("Weather vane")
    iron, brass = glb.material("iron", IRON), glb.material("brass", BRASS)
    mast = joined([box(0.30, 0.06, 0.30), lathe([(0.0, 0.06), (0.03, 0.06), (0.02, 1.25), (0.0, 1.28)], 16)])
    arms = joined(
        [
            along(lathe([(0.0, 0.0), (0.012, 0.0), (0.012, 0.70), (0.0, 0.70)], 8), "x").moved(x=-0.35, y=0.80),
            along(lathe([(0.0, 0.0), (0.012, 0.0), (0.012, 0.70), (0.0, 0.70)], 8), "z").moved(y=0.80, z=-0.35),
        ]
    )
    shaft = along(lathe([(0.0, 0.0), (0.012, 0.0), (0.012, 0.90), (0.0, 0.90)], 8), "x").moved(x=-0.45)
    head = prism([(0.42, -0.10), (0.62, 0.0), (0.42, 0.10)], -0.008, 0.008)
    tail = prism([(-0.62, -0.12), (-0.40, -0.05), (-0.40, 0.05), (-0.62, 0.12)], -0.008, 0.008)
    pole = glb.node("mast", mesh=glb.mesh("mast", [(mast, iron), (arms, iron)]), scale=[1.3, 1.0, 0.8])
    half = np.radians(35) / 2
    glb.node(
        "vane",
        parent=pole,
        mesh=glb.mesh("vane", [(joined([shaft, head, tail]), brass)]),
        translation=[0.0, 1.12, 0.0],
        rotation=[0.0, float(np.sin(half)), 0.0, float(np.cos(half))],
    )
    glb.write(path)


def keepers_hut(path: Path) -> None:
    """Write the keeper's hut with its shutters: OBJ groups, centimetres, the origin at a corner."""
    walls = joined(
        [
            box(4.2, 2.4, 0.18, at=(0.0, 0.0, -1.46)),
            box(4.2, 2.4, 0.18, at=(0.0, 0.0, 1.46)),
            box(0.18, 2.4, 2.74, at=(-2.01, 0.0, 0.0)),
            box(0.18, 2.4, 2.74, at=(2.01, 0.0, 0.0)),
        ]
    )
    gable = prism([(-1.55, 0.0), (1.55, 0.0), (0.0, 1.30)], -2.0, 2.0)
    quarter = np.array([[0.0, 0, 1], [0, 1, 0], [-1, 0, 0]])
    roof = gable.turned(quarter).moved(y=2.4)
    stack = box(0.45, 1.30, 0.45, at=(-1.3, 2.6, -0.5))
    door = box(0.85, 1.95, 0.05, at=(-1.0, 0.0, 1.575))
    window = box(0.90, 0.90, 0.03, at=(0.95, 1.0, 1.565))
    left, right = box(0.45, 0.92, 0.04, at=(0.27, 0.99, 1.57)), box(0.45, 0.92, 0.04, at=(1.63, 0.99, 1.57))
    parts = [
        ("walls", "limewash", walls),
        ("roof", "slate", roof),
        ("chimney", "brick", stack),
        ("door", "green_paint", door),
        ("window", "glass", window),
        ("shutter_left", "green_paint", left),
        ("shutter_right", "green_paint", right),
    ]
    placed = [(n, m, s.moved(2.1, 0.0, 1.6).scaled(100)) for n, m, s in parts]
    library = path.with_suffix(".mtl")
    colours = {
        "limewash": "0.86 0.83 0.76", "slate": "0.30 0.33 0.37", "brick": "0.55 0.30 0.22",
        "green_paint": "0.16 0.34 0.27", "glass": "0.55 0.66 0.70",
    }  # fmt: skip
    library.write_text("\n".join(f"newmtl {name}\nKd {kd}\n" for name, kd in colours.items()))
    write_obj(path, placed, head="Fenwick Lock, keeper's hut, cm", library=library.name, word="g")


def reed_clump(path: Path) -> None:
    """Write a clump of reeds: one blade used thirty times, each turned and scaled its own way."""
    glb = GlbMaker("Reed clump")
    green = glb.material("reed", REED)
    outline = [(-0.02, 0.0), (0.02, 0.0), (0.016, 0.6), (0.0, 1.0), (-0.016, 0.6)]
    blade = glb.mesh("blade", [(prism(outline, -0.003, 0.003), green)])
    chance = np.random.default_rng(11)
    clump = glb.node("reeds")
    for k in range(30):
        away, angle = 0.42 * np.sqrt(chance.random()), 2 * np.pi * chance.random()
        turn, lean = np.pi * chance.random(), np.radians(14) * (chance.random() - 0.5)
        y, x = np.array([0, np.sin(turn), 0, np.cos(turn)]), np.array([np.sin(lean), 0, 0, np.cos(lean)])
        # Turned about the upright after leaning: y * x as quaternions.
        q = np.array([y[3] * x[0], y[1] * x[3], -y[1] * x[0], y[3] * x[3]])
        tall = 1.1 + 0.9 * chance.random()
        glb.node(
            f"reed_{k + 1:02d}",
            parent=clump,
            mesh=blade,
            translation=[round(float(away * np.cos(angle)), 4), 0.0, round(float(away * np.sin(angle)), 4)],
            rotation=[float(v) for v in q / np.linalg.norm(q)],
            scale=[1.0, round(float(tall), 3), 1.0],
        )
    glb.write(path)


def stop_planks(path: Path) -> None:
    """Write the planks that close the lock for repair, on their bearers: packed in integers, half size in the node."""
    glb = GlbMaker("Stop planks")
    oak, iron, tar = (
        glb.material("oak", OAK),
        glb.material("iron", IRON),
        glb.material("tarred oak", (0.05, 0.05, 0.055)),
    )
    bearers = joined([box(0.16, 0.14, 0.62, at=(x, 0.0, 0.0)) for x in (-1.25, 1.25)])
    rows = [(0.14 + 0.16 * k, z) for k in range(3) for z in (-0.15, 0.15)]
    planks = joined([box(3.6, 0.15, 0.28, at=(0.0, y, z)) for y, z in rows])
    lugs = joined([box(0.05, 0.11, 0.03, at=(x, 0.61, z)) for x in (-1.5, 1.5) for z in (-0.15, 0.15)])
    # What the integers say lies within -1 and 1; the node gives it back its size and place.
    half, middle = 1.9, 0.35
    stack = glb.node("stop_planks")
    for name, solid, material in (("bearers", bearers, tar), ("planks", planks, oak), ("lugs", lugs, iron)):
        mesh = glb.packed_mesh(name, solid.moved(y=-middle).scaled(1 / half), material)
        glb.node(name, parent=stack, mesh=mesh, translation=[0.0, middle, 0.0], scale=[half, half, half])
    glb.write(path)
