"""Makes the demo batch, Fenwick Lock: a made-up canal lock being set out for a museum model.

`python -m oak_square.demo.fenwick FOLDER` writes the same bytes every time. Each model is first built true (metres,
upright, facing +Z, on the ground) and then given its troubles, which `TROUBLES.md` lists.
"""

from __future__ import annotations

import sys
from itertools import pairwise
from pathlib import Path

import numpy as np

from oak_square.demo.files import GlbMaker, write_obj, write_stl
from oak_square.demo.lockside import (
    keepers_hut,
    lifebuoy_post,
    paddle_gear,
    reed_clump,
    stop_planks,
    strapping_bollard,
    weather_vane,
)
from oak_square.demo.moving import pennant, sluice_wheel
from oak_square.demo.shapes import Solid, along, box, joined, lathe, prism
from oak_square.demo.textures import plate_images
from oak_square.demo.traded import casks, footbridge, hanging_sign, tiller

__all__ = ["make_batch"]

INCH = 0.0254
OAK, TAR, IRON, CREAM = (0.36, 0.20, 0.09), (0.05, 0.05, 0.055), (0.09, 0.10, 0.11), (0.80, 0.74, 0.60)
GREEN, RED, STONE, GLASS = (0.03, 0.17, 0.12), (0.42, 0.05, 0.03), (0.48, 0.45, 0.40), (0.70, 0.60, 0.28)


def make_batch(folder: Path) -> None:
    """Write the models into `folder`."""
    folder.mkdir(parents=True, exist_ok=True)
    gate_leaf(folder / "gate_leaf.glb")
    gate_leaf_twin(folder / "gate_leaf_twin.glb")
    lamp_standard(folder / "lamp_standard.obj")
    windlass(folder / "windlass.stl")
    mooring_bollards(folder / "mooring_bollards.glb")
    narrowboat(folder / "narrowboat.glb")
    milepost(folder / "milepost.glb")
    paddle_gear(folder / "paddle_gear.glb")
    strapping_bollard(folder / "strapping_bollard.glb")
    lifebuoy_post(folder / "lifebuoy_post.glb")
    weather_vane(folder / "weather_vane.glb")
    keepers_hut(folder / "keepers_hut.obj")
    reed_clump(folder / "reed_clump.glb")
    sluice_wheel(folder / "sluice_wheel.glb")
    pennant(folder / "pennant.glb")
    stop_planks(folder / "stop_planks.glb")
    footbridge(folder / "footbridge.dae")
    casks(folder / "casks.3mf")
    hanging_sign(folder / "hanging_sign.usda")
    tiller(folder / "tiller.ply")


def gate_leaf(path: Path) -> None:
    """Write the leaf of a lock gate: centimetre numbers in a file that says metres, pivots far off."""
    glb = GlbMaker("Lock gate leaf")
    gate = glb.node("gate", extras={"drawing": "FL-011"})
    far = np.array([1240.0, 0.0, -860.0])
    for name, pieces in _gate_parts(glb):
        stood = [(s.scaled(100).moved(310.0, 0.0, 145.0).moved(*-far), m) for s, m in pieces]
        glb.node(name, parent=gate, mesh=glb.mesh(name, stood), translation=far.tolist())
    glb.write(path)


def gate_leaf_twin(path: Path) -> None:
    """Write the other leaf: the first one's twin, made by a scale of -1, every pivot at the world's origin."""
    glb = GlbMaker("Lock gate leaf, twin")
    gate = glb.node("gate", extras={"drawing": "FL-012"}, translation=[-4.0, 0.0, 0.0], scale=[-1.0, 1.0, 1.0])
    for name, pieces in _gate_parts(glb):
        stood = [(s.moved(-4.0), m) for s, m in pieces]
        glb.node(name, parent=gate, mesh=glb.mesh(name, stood))
    glb.write(path)


def _gate_parts(glb: GlbMaker) -> list[tuple[str, list[tuple[Solid, int]]]]:
    """Return the parts of a leaf, true: metres, upright, the heel post at the left."""
    oak, tar, iron = glb.material("oak", OAK), glb.material("tarred oak", TAR), glb.material("iron", IRON)
    heel = lathe([(0.0, 0.0), (0.17, 0.0), (0.17, 3.02), (0.13, 3.10), (0.0, 3.10)], 20).moved(x=-1.62)
    planks = [box(0.36, 2.46, 0.14, at=(-1.22 + k * 0.385, 0.16, -0.03)) for k in range(7)]
    rails = [box(2.95, 0.22, 0.22, at=(-0.02, y, 0.05)) for y in (0.12, 0.98, 1.84, 2.52)]
    mitre = prism([(1.36, 0.04), (1.60, 0.04), (1.60, 2.86), (1.36, 2.86)], -0.13, 0.13)
    beam = prism([(-2.30, 2.86), (1.66, 2.88), (1.66, 3.12), (-2.30, 3.22)], -0.16, 0.16)
    door = box(0.62, 0.72, 0.07, at=(-0.10, 0.30, 0.21))
    rod = joined([box(0.07, 2.30, 0.07, at=(-0.10, 0.98, 0.21)), box(0.22, 0.30, 0.20, at=(-0.10, 3.10, 0.06))])
    return [
        ("heel_post", [(heel, tar)]),
        ("leaf", [(joined(planks), oak), (joined([*rails, mitre]), tar)]),
        ("balance_beam", [(beam, tar)]),
        ("paddle", [(door, oak), (rod, iron)]),
    ]


def lamp_standard(path: Path) -> None:
    """Write the lamp: inches, +Z up, floating a foot above the ground."""
    base = joined(
        [
            box(0.61, 0.09, 0.61),
            lathe([(0.24, 0.09), (0.24, 0.20), (0.15, 0.32), (0.11, 0.62), (0.0, 0.62)]),
        ]
    )
    column = lathe([(0.085, 0.60), (0.075, 1.2), (0.10, 1.24), (0.10, 1.30), (0.065, 1.34), (0.045, 4.30), (0.0, 4.30)])
    arms = along(lathe([(0.0, 0.0), (0.022, 0.0), (0.022, 0.58), (0.0, 0.58)], 12), "x").moved(x=-0.29, y=4.02)
    lantern = lathe([(0.0, 4.30), (0.10, 4.30), (0.24, 4.86), (0.0, 4.86)], 6)
    roof = lathe([(0.29, 4.86), (0.06, 5.08), (0.06, 5.12), (0.02, 5.14), (0.025, 5.17), (0.0, 5.20)], 6)
    cap = lathe([(0.0, 4.859), (0.29, 4.86)], 6)
    parts = []
    for name, material, solid in (
        ("lamp_base", "cast_iron", base),
        ("lamp_column", "cast_iron", joined([column, arms])),
        ("lamp_lantern", "lamp_glass", lantern),
        ("lamp_roof", "cast_iron", joined([roof, cap])),
    ):
        # Upright (x, y, z) stands as (x, -z, y) in a file whose +Z is up and whose front faces -Y.
        turned = solid.turned(np.array([[1.0, 0, 0], [0, 0, -1.0], [0, 1.0, 0]]))
        parts.append((name, material, turned.scaled(1 / INCH).moved(z=12.0)))
    library = path.with_suffix(".mtl")
    library.write_text("newmtl cast_iron\nKd 0.20 0.26 0.24\nNs 40\n\nnewmtl lamp_glass\nKd 0.93 0.83 0.55\nNs 90\n")
    write_obj(path, parts, head="Fenwick Lock, lamp standard\ndrawn in inches, Z up", library=library.name)


def windlass(path: Path) -> None:
    """Write the windlass, the crank that winds a paddle: millimetres, away from its origin."""
    socket = joined([box(0.062, 0.085, 0.062), lathe([(0.0, 0.0), (0.045, 0.0), (0.045, 0.05), (0.0, 0.05)])])
    arm = prism([(-0.02, 0.03), (0.26, 0.045), (0.26, 0.068), (-0.02, 0.085)], -0.014, 0.014)
    grip = lathe([(0.0, 0.0), (0.016, 0.0), (0.020, 0.03), (0.016, 0.15), (0.0, 0.165)]).moved(x=0.25, y=0.045)
    write_stl(path, joined([socket, arm, grip]).scaled(1000).moved(420, 0, -150), head="Fenwick Lock, windlass, mm")


def mooring_bollards(path: Path) -> None:
    """Write a row of bollards: four instances of one mesh, pivots at their tops, a scale left on each."""
    glb = GlbMaker("Mooring bollards")
    iron, white = glb.material("iron", IRON), glb.material("white paint", CREAM)
    scale = 1.25
    body = lathe([(0.0, 0.0), (0.17, 0.0), (0.16, 0.06), (0.12, 0.10), (0.11, 0.52), (0.0, 0.52)])
    band = lathe([(0.115, 0.40), (0.118, 0.405), (0.118, 0.465), (0.115, 0.47)])
    head = lathe([(0.0, 0.52), (0.15, 0.53), (0.165, 0.60), (0.14, 0.68), (0.07, 0.735), (0.0, 0.75)])
    top = -0.75
    shared = glb.mesh(
        "bollard",
        [(s.moved(y=top).scaled(1 / scale), m) for s, m in ((joined([body, head]), iron), (band, white))],
    )
    row = glb.node("bollards")
    for k in range(4):
        glb.node(
            f"bollard_{k + 1}",
            parent=row,
            mesh=shared,
            translation=[5.0 + 1.6 * k, 0.75, 2.0],
            scale=[scale, scale, scale],
        )
    glb.write(path)


def narrowboat(path: Path) -> None:
    """Write the narrowboat, 21 m long: nested groups, inches below a node that carries their scale, bow to the back."""
    glb = GlbMaker("Narrowboat")
    black, green, red = glb.material("bitumen", TAR), glb.material("green", GREEN), glb.material("red", RED)
    cream, iron = glb.material("cream", CREAM), glb.material("iron", IRON)
    hatch = box(0.85, 0.06, 0.70, at=(0.0, 1.10, 7.3))
    hull = joined([_make_hull(), hatch])
    cabin = prism([(-0.92, 0.98), (0.92, 0.98), (0.80, 1.82), (-0.80, 1.82)], -9.2, 5.4)
    roof = prism([(-0.84, 1.82), (0.84, 1.82), (0.60, 1.90), (-0.60, 1.90)], -9.3, 5.5)
    portholes = joined(
        [
            along(lathe([(0.0, 0.0), (0.19, 0.0), (0.19, 0.03), (0.0, 0.03)], 18), "x")
            .turned(np.diag([side, 1.0, side]))
            .moved(x=side * 0.845, y=1.45, z=z)
            for side in (-1.0, 1.0)
            for z in (-7.6, -5.2, -2.8, -0.4, 2.0, 4.2)
        ]
    )
    panels = joined([box(1.9, 0.10, 14.4, at=(0.0, 1.0, -1.9))])
    chimney = lathe([(0.0, 1.88), (0.075, 1.88), (0.075, 2.22), (0.10, 2.24), (0.0, 2.24)]).moved(x=0.4, z=-7.9)
    tiller = joined(
        [
            lathe([(0.0, 0.9), (0.03, 0.9), (0.03, 1.7), (0.0, 1.7)], 12).moved(z=-10.1),
            along(lathe([(0.0, 0.0), (0.022, 0.0), (0.022, 1.1), (0.0, 1.1)], 12), "z").moved(y=1.68, z=-10.1),
        ]
    )
    boat = glb.node("narrowboat", scale=[INCH, INCH, INCH])
    below = glb.node("below", parent=boat)
    above = glb.node("above", parent=boat, translation=[0.0, 0.98 / INCH, 0.0])
    stern = glb.node("stern", parent=above, translation=[0.0, 0.0, 9.5 / INCH])

    def part(name: str, parent: int, pieces: list[tuple[Solid, int]], at: tuple[float, float, float]) -> None:
        backwards = np.diag([-1.0, 1.0, -1.0])
        local = [(s.moved(*(-v for v in at)).turned(backwards).scaled(1 / INCH), m) for s, m in pieces]
        glb.node(name, parent=parent, mesh=glb.mesh(name, local))

    part("hull", below, [(hull, black)], (0, 0, 0))
    part("cabin", above, [(cabin, green), (panels, red), (portholes, cream)], (0, 0.98, 0))
    part("roof", above, [(roof, red)], (0, 0.98, 0))
    part("chimney", stern, [(chimney, iron)], (0, 0.98, -9.5))
    part("tiller", stern, [(tiller, iron)], (0, 0.98, -9.5))
    glb.write(path)


def _make_hull() -> Solid:
    """Return a hull by stations: half-widths and heights along z, the bow at +Z."""
    stations = [
        (-10.5, 0.05, 0.95, 1.02), (-10.2, 0.55, 0.55, 1.0), (-9.4, 0.95, 0.10, 0.98), (-8.0, 1.05, 0.0, 0.98),
        (6.5, 1.05, 0.0, 0.98), (8.4, 0.92, 0.0, 1.02), (9.8, 0.50, 0.02, 1.12), (10.5, 0.04, 0.10, 1.25),
    ]  # fmt: skip
    rings = [
        np.array([[-w * 0.93, low, z], [w * 0.93, low, z], [w, high, z], [-w, high, z]]) for z, w, low, high in stations
    ]
    faces = []
    for a, b in pairwise(rings):
        for k in range(4):
            j = (k + 1) % 4
            faces += [_make_flat(a[k], a[j], b[j]), _make_flat(a[k], b[j], b[k])]
    first, last = rings[0], rings[-1]
    faces += [_make_flat(first[0], first[2], first[1]), _make_flat(first[0], first[3], first[2])]
    faces += [_make_flat(last[0], last[1], last[2]), _make_flat(last[0], last[2], last[3])]
    return joined(faces)


def _make_flat(a: np.ndarray, b: np.ndarray, c: np.ndarray) -> Solid:
    normal = np.cross(b - a, c - a)
    normal = normal / np.linalg.norm(normal)
    return Solid(np.array([a, b, c]), np.tile(normal, (3, 1)), np.array([[0, 1, 2]]))


def milepost(path: Path) -> None:
    """Write the milepost: right in every way, its plate with all that a painted and cast surface is drawn by."""
    glb = GlbMaker("Milepost")
    stone, white, iron = glb.material("stone", STONE), glb.material("white paint", CREAM), glb.material("iron", IRON)
    foot = box(0.46, 0.12, 0.34)
    post = prism([(-0.17, 0.12), (0.17, 0.12), (0.17, 0.74), (0.0, 0.92), (-0.17, 0.74)], -0.10, 0.10)
    plate = box(0.26, 0.30, 0.02, at=(0.0, 0.40, 0.11))
    rivets = joined([box(0.025, 0.025, 0.02, at=(x, y, 0.13)) for x in (-0.1, 0.1) for y in (0.43, 0.65)])
    post_mesh = glb.mesh("milepost", [(joined([foot, post]), stone), (plate, white), (rivets, iron)])
    across, up = (plate.points[:, 0] + 0.13) / 0.26, (plate.points[:, 1] - 0.40) / 0.30
    # The second set lays the whole plate into a corner of its image, as what is worked out for many parts at once is.
    glb.lay_on(post_mesh, 1, [np.column_stack([across, 1 - up]), np.column_stack([across, 1 - up]) / 2])
    maps = {name: glb.image(f"plate_{name}", data) for name, data in plate_images().items()}
    paint = glb.materials[white]
    paint["pbrMetallicRoughness"] |= {
        "baseColorFactor": [1.0, 0.97, 0.90, 1.0],
        "baseColorTexture": {"index": maps["paint"]},
        "metallicRoughnessTexture": {"index": maps["light"]},
        "metallicFactor": 1.0,
        "roughnessFactor": 0.9,
    }
    paint["normalTexture"] = {"index": maps["bumps"], "scale": 0.8}
    paint["occlusionTexture"] = {"index": maps["shade"], "texCoord": 1, "strength": 0.7}
    glb.node("milepost", mesh=post_mesh)
    glb.write(path)


if __name__ == "__main__":
    make_batch(Path(sys.argv[1]))
