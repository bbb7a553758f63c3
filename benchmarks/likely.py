"""How often unit, up and front are told right, over any folder with a truth file.

    python benchmarks/likely.py [FOLDER]     (none: the stores of Fenwick Lock, made for it)

The folder has a `truth.csv` of `file,unit,up,front`. It is printed what is right first, what is called certain,
and what is certain and wrong, and what a survey as it is read (metres, Y up) would find.
"""

from __future__ import annotations

import csv
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

import numpy as np
from stores.making import TRUTH, write_stores

from oak_square.core.boxes import asset_box
from oak_square.core.frames import Reading
from oak_square.core.likely.answers import Answer, answers_of, folder_of
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.likely.suspects import suspects
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive


def read(home: Path) -> tuple[list[Clues], dict[str, dict[str, str]], float]:
    """Return the clues of a folder's files, their truth, and the processor time an asset took, seconds."""
    with (home / TRUTH).open(newline="") as file:
        truth = {row["file"]: row for row in csv.DictReader(file)}
    assets = [receive(s).asset for s in find_sources([home]) if s.file in truth]
    start = time.process_time()
    clues = [clues_of(asset) for asset in assets]
    return clues, truth, (time.process_time() - start) / max(1, len(assets))


def share(part: float, whole: float) -> str:
    """Return a share as the table has it."""
    return f"{part / whole:6.1%} of {whole:g}" if whole else "none"


def table(clues: list[Clues], truth: dict[str, dict[str, str]], answers: dict[str, Answer]) -> None:
    """Print the table of one set of answers."""
    counts: Counter[str] = Counter()
    wrong = []
    for c in clues:
        told, answer = truth[c.file], answers[c.file]
        if answer.unit is None or answer.up is None:
            continue
        counts["all"] += 1
        right = answer.unit.best.unit == told["unit"]
        counts["unit"] += right
        counts[f"all {told['unit']}"] += 1
        counts[f"unit {told['unit']}"] += right
        counts["certain"] += answer.unit.certain
        if answer.unit.certain and not right:
            wrong.append(f"{c.file}: {answer.unit.words}, not {told['unit']}")
        found = {f.code for f in suspects_of(c, answer)}
        laid = told["up"] != c.up
        counts["laid" if laid else "upright"] += 1
        counts["found" if laid else "alarm"] += "up-suspect" in found
        counts["side"] += laid and "up-suspect" in found and answer.up.best == told["up"]
        counts["up"] += answer.up.best == told["up"]
        counts["up certain"] += answer.up.certain
        if answer.up.certain and answer.up.best != told["up"]:
            wrong.append(f"{c.file}: {answer.up.words}, not {told['up']}")
        counts["front said"] += bool(answer.front)
        counts["front"] += answer.front == told["front"]
    print(f"  unit right first             {share(counts['unit'], counts['all'])}")
    each = ", ".join(f"{u} {counts[f'unit {u}']}/{counts[f'all {u}']}" for u in ("m", "cm", "mm", "in", "ft"))
    print(f"                               {each}")
    print(f"  unit called certain          {share(counts['certain'], counts['all'])}")
    print(f"  up right first               {share(counts['up'], counts['all'])}")
    print(f"  up called certain            {share(counts['up certain'], counts['all'])}")
    print(f"  laid wrong and found         {share(counts['found'], counts['laid'])}")
    print(f"  of these the side is right   {share(counts['side'], counts['found'])}")
    print(f"  false alarms                 {share(counts['alarm'], counts['upright'])}")
    print(f"  front said                   {share(counts['front said'], counts['all'])}, right in {counts['front']}")
    print(f"  certain and wrong            {len(wrong)}")
    for line in wrong:
        print(f"    {line}")


def suspects_of(clues: Clues, answer: Answer) -> tuple[object, ...]:
    """Return what a survey finds of a file as it is read."""
    reading = Reading(metres_per_unit=clues.metres, up=clues.up, front=clues.front, source="assumed")
    longest = clues.unit.longest * clues.metres if clues.unit is not None else 0.0
    return suspects(reading, longest, answer)


def cost_of_a_million() -> float:
    """Return the processor time of a mesh of a million triangles, seconds."""
    count = 708
    at = np.arange(count * count).reshape(count, count)
    x, z = np.meshgrid(np.linspace(-1, 1, count), np.linspace(-1, 1, count))
    points = np.stack([x, np.sin(7 * x) * np.cos(5 * z), z], axis=-1).reshape(-1, 3).astype(np.float32)
    a, b, c, d = at[:-1, :-1].ravel(), at[:-1, 1:].ravel(), at[1:, 1:].ravel(), at[1:, :-1].ravel()
    triangles = np.concatenate([np.column_stack([a, d, c]), np.column_stack([a, c, b])]).astype(np.uint32)
    node = Node(name="ground", parent=None, placement=Placement.of(), mesh=0)
    reading = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="assumed")
    mesh = Mesh(name="ground", points=points, triangles=triangles)
    asset = Asset(file="ground.ply", format="ply", reading=reading, nodes=(node,), meshes=(mesh,))
    asset_box(asset)  # any reader of it has this
    start = time.process_time()
    clues_of(asset)
    return time.process_time() - start


def main() -> None:
    """Print the table of a folder with its files together, and each alone."""
    with tempfile.TemporaryDirectory() as place:
        home = Path(sys.argv[1]) if len(sys.argv) > 1 else Path(place)
        if len(sys.argv) == 1:
            write_stores(home)
        clues, truth, seconds = read(home)
    folders = len({folder_of(c.file) for c in clues})
    print(f"{len(clues)} files in {folders} folders, {seconds * 1000:.0f} ms of processor time each")
    print(f"a mesh of a million triangles: {cost_of_a_million() * 1000:.0f} ms")
    print("each beside its folder")
    table(clues, truth, answers_of(clues))
    print("each alone")
    table(clues, truth, {c.file: answers_of([c])[c.file] for c in clues})


if __name__ == "__main__":
    main()
