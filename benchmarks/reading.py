"""Reading a model of 1,000,000 triangles in each format, against trimesh on the same bytes, in turn.

trimesh reads GLB, OBJ, STL, PLY and OFF by itself; for the others only the time is printed. Both give points and
triangles as arrays; ours a surveyable asset too. The best of three counts.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import trimesh

from oak_square.core.frames import Reading
from oak_square.core.placement import Placement
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.plain import Look, MaterialRun, Plain, PlainScene, SceneNode

TRIANGLES, ROUNDS = 1_000_000, 3
AGAINST = {"glb", "obj", "stl", "ply", "off"}
METRES = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def sheet() -> PlainScene:
    """A waving sheet of as many triangles, with normals."""
    side = int((TRIANGLES / 2) ** 0.5) + 1
    u, v = np.meshgrid(np.linspace(0, 1, side), np.linspace(0, 1, side))
    points = np.stack([u * 20, np.sin(9 * u) * np.cos(7 * v), v * 10], axis=-1).reshape(-1, 3)
    normals = np.tile([0.0, 1.0, 0.0], (len(points), 1))
    k = np.arange(side * (side - 1)).reshape(side - 1, side)[:, :-1].ravel()
    rows = np.concatenate([np.stack([k, k + side, k + 1], 1), np.stack([k + 1, k + side, k + side + 1], 1)])
    look = Look(name="sheet", colour=(0.5, 0.5, 0.5))
    plain = Plain(
        points=points, triangles=rows, normals=normals, runs=(MaterialRun(first=0, count=len(rows), look=look),)
    )
    node = SceneNode(name="sheet", parent=None, placement=Placement.of(), plain=0, local_from_points=np.eye(4))
    return PlainScene(name="sheet", reading=METRES, nodes=(node,), plains=(plain,))


def best(work: Callable[[], object]) -> float:
    times = []
    for _ in range(ROUNDS):
        started = time.perf_counter()
        work()
        times.append(time.perf_counter() - started)
    return min(times)


def main(wanted: list[str]) -> None:
    scene = sheet()
    print(f"{len(scene.plains[0].triangles)} triangles, {len(scene.plains[0].points)} vertices")
    with tempfile.TemporaryDirectory() as name:
        for key, kind in FORMATS.items():
            if not kind.is_made or (wanted and key not in wanted):
                continue
            path = Path(name) / f"sheet{kind.suffixes[0]}"
            written = kind.make(scene)
            with path.open("wb") as stream:
                for piece in written.chunks or ():
                    stream.write(np.ascontiguousarray(piece) if isinstance(piece, np.ndarray) else piece)
            for companion in written.companions:
                (path.parent / companion.path).write_bytes(b"".join(bytes(p) for p in companion.chunks))
            ours = best(lambda kind=kind, path=path: kind.read(path, path.name))  # type: ignore[misc]
            line = f"{key:5} {path.stat().st_size / 1e6:6.1f} MB  {ours:6.2f} s"
            if key in AGAINST:
                theirs = best(lambda path=path: trimesh.load(path, process=False))  # type: ignore[misc]
                line += f"   trimesh {theirs:6.2f} s   {theirs / ours:5.1f} times as long"
            print(line, flush=True)


if __name__ == "__main__":
    main(sys.argv[1:])
