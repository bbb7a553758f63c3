"""`prep` on a generated batch of 60 MB, against reading, transforming and writing the same bytes with bare NumPy.

Both run in this process's children, one after the other, three times each; the best of each counts. Prints the ratio
and the peak memory over an idle process, against the largest file.
"""

from __future__ import annotations

import itertools
import json
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

SHEET = """prep-sheet: 1
steps:
  - {do: unit, reads: cm}
  - {do: turn, up: +Z, front: -Y}
  - {do: pivot, at: base, of: parts}
  - {do: bake}
"""
FILES, VERTICES = 12, 146_000


def make_batch(folder: Path) -> None:
    """Write grids of triangles as GLBs, about 5 MB each."""
    side = int(VERTICES**0.5)
    u, v = np.meshgrid(np.linspace(0, 1, side), np.linspace(0, 1, side))
    points = np.stack([u * 200, v * 100, 10 * np.sin(9 * u) * np.cos(7 * v)], axis=-1).reshape(-1, 3).astype("<f4")
    normals = np.tile(np.array([0, 0, 1], dtype="<f4"), (len(points), 1))
    k = np.arange(side * (side - 1)).reshape(side - 1, side)[:, :-1].ravel()
    rows = np.concatenate([np.stack([k, k + 1, k + side + 1], 1), np.stack([k, k + side + 1, k + side], 1)])
    indices = rows.astype("<u4")[: len(rows) // 2]
    binary = points.tobytes() + normals.tobytes() + indices.tobytes()
    ends = [0, points.nbytes, points.nbytes + normals.nbytes, len(binary)]
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}],
        "nodes": [{"name": "sheet", "mesh": 0, "scale": [2, 2, 2], "rotation": [0, 0.6, 0, 0.8]}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0, "NORMAL": 1}, "indices": 2}]}],
        "bufferViews": [{"buffer": 0, "byteOffset": a, "byteLength": b - a} for a, b in itertools.pairwise(ends)],
        "accessors": [
            {"bufferView": 0, "componentType": 5126, "count": len(points), "type": "VEC3",
             "min": points.min(0).tolist(), "max": points.max(0).tolist()},
            {"bufferView": 1, "componentType": 5126, "count": len(points), "type": "VEC3"},
            {"bufferView": 2, "componentType": 5125, "count": indices.size, "type": "SCALAR"},
        ],
        "buffers": [{"byteLength": len(binary)}],
    }  # fmt: skip
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    body = binary + b"\0" * (-len(binary) % 4)
    head = b"glTF" + b"".join(n.to_bytes(4, "little") for n in (2, 28 + len(text) + len(body), len(text))) + b"JSON"
    folder.mkdir()
    for number in range(FILES):
        (folder / f"sheet_{number:02d}.glb").write_bytes(
            head + text + len(body).to_bytes(4, "little") + b"BIN\0" + body
        )


def bare(folder: Path, out: Path) -> None:
    """The floor: the same bytes read, the same arrays transformed in float64, the same bytes written."""
    turn = np.array([[0.28, 0, 0.96], [0, 1, 0], [-0.96, 0, 0.28]])
    out.mkdir()
    for path in sorted(folder.iterdir()):
        data = np.fromfile(path, dtype=np.uint8)
        size = int(data[12:16].view("<u4")[0])
        document = json.loads(data[20 : 20 + size].tobytes())
        start, count = 28 + size, document["accessors"][0]["count"]
        for k, matrix in enumerate((turn * 0.02, turn)):
            rows = data[start + 12 * count * k : start + 12 * count * (k + 1)].view("<f4").reshape(-1, 3)
            moved = rows.astype(np.float64) @ matrix.T
            if k:
                moved /= np.linalg.norm(moved, axis=1, keepdims=True)
            rows[:] = moved
        data.tofile(out / path.name)


def child(what: str, folder: str, out: str) -> None:
    """Run one of the two; print seconds and the peak of memory over what imports alone took, bytes."""
    from oak_square.delivery.batch import find_sources
    from oak_square.delivery.preparing import Job, prepare
    from oak_square.delivery.run import Run
    from oak_square.delivery.running import deliver
    from oak_square.sheet.text import parse_sheet

    sheet = parse_sheet(SHEET, "benchmark")
    idle = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    started = time.perf_counter()
    if what == "bare":
        bare(Path(folder), Path(out))
    else:
        run = Run(sources=tuple(find_sources([Path(folder)])), sheet=sheet, sheet_bytes=b"", out=Path(out), jobs=1)
        assert {e["status"] for e in deliver(run)["assets"]} == {"delivered"}
    seconds = time.perf_counter() - started
    if what != "bare":
        # The work was done in other processes: its memory is that of one asset worked on here.
        source = max(find_sources([Path(folder)]), key=lambda s: s.path.stat().st_size)
        prepare(Job(source=source, sheet=sheet, stage=Path(out) / "alone"))
    print(json.dumps([seconds, (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - idle) * 1024]))


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        home = Path(name)
        make_batch(home / "batch")
        sizes = [p.stat().st_size for p in (home / "batch").iterdir()]
        found: dict[str, list[list[float]]] = {"bare": [], "prep": []}
        for turn in range(3):
            for what, results in found.items():
                words = [sys.executable, __file__, what, str(home / "batch"), str(home / f"{what}{turn}")]
                results.append(json.loads(subprocess.run(words, capture_output=True, check=True, text=True).stdout))
        floor, ours = (min(s for s, _ in found[w]) for w in ("bare", "prep"))
        memory = max(m for _, m in found["prep"])
        print(f"batch {sum(sizes) / 1e6:.0f} MB in {len(sizes)} files")
        print(f"bare NumPy {floor:.2f} s, prep {ours:.2f} s with proof: {ours / floor:.2f} times (aim 1.5)")
        print(f"peak {memory / 1e6:.0f} MB over idle: {memory / max(sizes):.1f} times the largest file (aim 3)")


if __name__ == "__main__":
    child(*sys.argv[1:]) if len(sys.argv) > 1 else main()
