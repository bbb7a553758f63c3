"""Writes the stores: a folder a maker, each in its own unit and laid its own way, with a few odd ones; and the truth.

`truth.csv` says of every file what it was made in, which of its axes is up and which is front.
"""

from __future__ import annotations

import csv
import sys
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import axis_vector
from oak_square.core.lengths import UNITS
from oak_square.demo.files import write_obj, write_stl
from oak_square.demo.shapes import Solid

from .furnishings import FURNISHINGS
from .workshop import WORKSHOP
from .yard import YARD

__all__ = ["MAKERS", "TRUTH", "Maker", "write_stores"]

TRUTH = "truth.csv"
_ALL = FURNISHINGS | YARD | WORKSHOP


@dataclass(frozen=True, slots=True, kw_only=True)
class Maker:
    """A made-up maker.

    Attributes
    ----------
    folder, unit, up, front : str
        What its files are in, mostly.
    formats : tuple of str
        Taken in turn.
    things : tuple of str
    odd : dict
        Of some things, another unit, or another (up, front).
    off : bool
        Its things lie away from the file's origin.
    """

    folder: str
    unit: str
    up: str
    front: str
    formats: tuple[str, ...]
    things: tuple[str, ...]
    odd: dict[str, str | tuple[str, str]] = field(default_factory=dict)
    off: bool = False


MAKERS = (
    Maker(
        folder="joiner", unit="in", up="+Z", front="-Y", formats=("obj",),
        things=("kitchen_chair", "dining_table", "milking_stool", "park_bench", "linen_cupboard", "book_shelf",
                "single_bed", "writing_desk", "grandfather_clock", "house_door", "workbench"),
        odd={"single_bed": "mm", "linen_cupboard": ("+Y", "+Z")},
    ),
    Maker(
        folder="kitchen", unit="cm", up="+Y", front="+Z", formats=("obj", "ply"),
        things=("table_lamp", "iron_stove", "bucket", "kettle", "tin_mug", "wine_bottle", "bowl", "dinner_plate",
                "candlestick", "barrel", "apple_crate", "yard_broom"),
        odd={"barrel": "m", "candlestick": ("+Z", "-Y")},
    ),
    Maker(
        folder="foundry", unit="mm", up="+Z", front="-Y", formats=("stl",), off=True,
        things=("anvil", "bench_vise", "spanner", "hand_saw", "felling_axe", "hex_bolt", "spur_gear", "angle_bracket",
                "flange", "pulley", "door_hinge", "electric_motor", "hand_pump", "toolbox", "winch", "quay_bollard"),
        odd={"hand_pump": "m", "quay_bollard": ("+Y", "+Z")},
    ),
    Maker(
        folder="boatyard", unit="ft", up="+Z", front="+X", formats=("obj", "stl"),
        things=("rowing_boat", "coal_barge", "tugboat", "canoe", "hay_cart", "wheelbarrow", "lorry", "bicycle",
                "locomotive", "field_gate", "ladder"),
        odd={"lorry": "mm"},
    ),
    Maker(
        folder="nursery", unit="m", up="+Y", front="+Z", formats=("ply",),
        things=("oak_tree", "apple_tree", "fir", "horse", "cow", "sheep", "dog", "duck", "lock_keeper"),
        odd={"sheep": "cm", "fir": ("+Z", "-Y")},
    ),
    Maker(
        folder="mason", unit="cm", up="+X", front="+Z", formats=("stl", "obj"), off=True,
        things=("cottage", "garden_shed", "church", "windmill", "draw_well", "signpost"),
    ),
    Maker(folder="loose/a", unit="mm", up="-Z", front="+Y", formats=("stl",), things=("kitchen_chair",)),
    Maker(folder="loose/b", unit="in", up="+Z", front="-Y", formats=("obj",), things=("house_door",)),
    Maker(folder="loose/c", unit="m", up="+Y", front="+Z", formats=("ply",), things=("cottage",)),
    Maker(folder="loose/d", unit="ft", up="+Y", front="+Z", formats=("obj",), things=("lock_keeper",)),
    Maker(folder="loose/e", unit="cm", up="+Z", front="-Y", formats=("stl",), things=("grandfather_clock",)),
)  # fmt: skip


def write_stores(home: Path) -> int:
    """Write all makers' files into `home`, and the truth beside them; return how many."""
    rows = []
    for maker in MAKERS:
        (home / maker.folder).mkdir(parents=True, exist_ok=True)
        for k, name in enumerate(maker.things):
            other = maker.odd.get(name)
            unit = other if isinstance(other, str) else maker.unit
            up, front = other if isinstance(other, tuple) else (maker.up, maker.front)
            kind = maker.formats[k % len(maker.formats)]
            path = home / maker.folder / f"{name}.{kind}"
            _write(path, _laid(_ALL[name](), UNITS[unit], up, front, off=maker.off), maker.folder)
            rows.append((path.relative_to(home).as_posix(), unit, up, front))
    with (home / TRUTH).open("w", newline="") as file:
        csv.writer(file, lineterminator="\n").writerows([("file", "unit", "up", "front"), *rows])
    return len(rows)


def _laid(solid: Solid, metres: float, up: str, front: str, *, off: bool) -> Solid:
    """Return a solid as a maker would have it: in its unit, along its axes."""
    file_up, file_front = axis_vector(up), axis_vector(front)
    turn: NDArray[np.float64] = np.column_stack([np.cross(file_up, file_front), file_up, file_front])
    away = solid.moved(0.37, 0.11, -0.23) if off else solid
    return away.turned(turn).scaled(1 / metres)


def _write(path: Path, solid: Solid, maker: str) -> None:
    if path.suffix == ".obj":
        name = path.stem
        write_obj(path, [(name, "plain", solid)], head=f"Fenwick Lock, the {maker}", library=f"{name}.mtl")
        path.with_suffix(".mtl").write_text("newmtl plain\nKd 0.62 0.55 0.45\n")
    elif path.suffix == ".stl":
        write_stl(path, solid, head=f"Fenwick Lock, the {maker}")
    else:
        _write_ply(path, solid, maker)


def _write_ply(path: Path, solid: Solid, maker: str) -> None:
    head = ["ply", "format binary_little_endian 1.0", f"comment Fenwick Lock, the {maker}"]
    head += [f"element vertex {len(solid.points)}", *(f"property float {a}" for a in "xyz")]
    head += [f"element face {len(solid.triangles)}", "property list uchar int vertex_indices", "end_header", ""]
    rows = np.zeros(len(solid.triangles), dtype=[("n", "u1"), ("k", "<i4", 3)])
    rows["n"], rows["k"] = 3, solid.triangles
    path.write_bytes("\n".join(head).encode() + solid.points.astype("<f4").tobytes() + rows.tobytes())


if __name__ == "__main__":
    print(f"{write_stores(Path(sys.argv[1]))} files in {sys.argv[1]}")
