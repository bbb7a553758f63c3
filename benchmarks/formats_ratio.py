"""`prep` with its proof against bare NumPy that reads, transforms and writes the same bytes, format by format.

Both run as processes of their own, twice each, the best counts; what is compared is the processor time of the whole
process, imports included. So that all of it is counted, `prep` works in its own process here and starts no workers.
Then one file of each is prepared, to say where the time goes by phase.
"""

from __future__ import annotations

import json
import resource
import shutil
import struct
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

SHEET = """prep-sheet: 1
steps:
  - {do: unit, reads: cm, for: ["*.obj", "*.stl", "*.ply"]}
  - {do: turn, up: +Z, front: -Y, for: ["*.obj", "*.stl", "*.ply"]}
  - {do: pivot, at: base}
  - {do: bake}
"""
SIDE, NODES = 330, 40
SIZES_MB = 67, 390
"""Of a batch of all four formats together, the least and the most that is measured."""
TURN = np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]])
FACET = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")])
VERTEX = np.dtype([("point", "<f4", 3), ("normal", "<f4", 3)])
CORNERS = np.dtype([("count", "u1"), ("rows", "<i4", 3)])


def surface(side: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A wavy sheet: points, normals, triangles."""
    u, v = np.meshgrid(np.linspace(0, 1, side), np.linspace(0, 1, side))
    points = np.stack([u * 200, v * 150, 10 * np.sin(9 * u) * np.cos(7 * v)], axis=-1).reshape(-1, 3)
    slope = np.stack([-0.45 * np.cos(9 * u) * np.cos(7 * v), 0.47 * np.sin(9 * u) * np.sin(7 * v), np.ones_like(u)], -1)
    normals = slope.reshape(-1, 3) / np.linalg.norm(slope.reshape(-1, 3), axis=1)[:, None]
    k = np.arange(side * side).reshape(side, side)
    a, b, c, d = k[:-1, :-1].ravel(), k[:-1, 1:].ravel(), k[1:, 1:].ravel(), k[1:, :-1].ravel()
    return points, normals, np.concatenate([np.stack([a, b, c], 1), np.stack([a, c, d], 1)])


def make_obj(path: Path) -> None:
    points, normals, triangles = surface(SIDE)
    with path.open("w") as out:
        out.write("o sheet\n")
        np.savetxt(out, points, "v %.6f %.6f %.6f")
        np.savetxt(out, normals, "vn %.5f %.5f %.5f")
        np.savetxt(out, np.repeat(triangles + 1, 2, axis=1), "f %d//%d %d//%d %d//%d")


def make_stl(path: Path) -> None:
    points, _, triangles = surface(SIDE)
    rows = np.zeros(len(triangles), FACET)
    rows["corners"] = points[triangles]
    across = np.cross(*(rows["corners"][:, k] - rows["corners"][:, 0] for k in (1, 2)))
    rows["normal"] = across / np.linalg.norm(across, axis=1)[:, None]
    path.write_bytes(b"sheet".ljust(80) + struct.pack("<I", len(rows)) + rows.tobytes())


PLY_HEAD = """ply
format binary_little_endian 1.0
element vertex {}
property float x
property float y
property float z
property float nx
property float ny
property float nz
element face {}
property list uchar int vertex_indices
end_header
"""


def make_ply(path: Path) -> None:
    points, normals, triangles = surface(SIDE)
    vertices, faces = np.zeros(len(points), VERTEX), np.zeros(len(triangles), CORNERS)
    vertices["point"], vertices["normal"], faces["count"], faces["rows"] = points, normals, 3, triangles
    head = PLY_HEAD.format(len(points), len(triangles)).encode()
    path.write_bytes(head + vertices.tobytes() + faces.tobytes())


def make_glb(path: Path) -> None:
    """Many nodes a file, each with a mesh of its own and a scale."""
    points, normals, triangles = surface(SIDE // 6)
    binary, views, accessors, meshes, nodes = b"", [], [], [], []
    for k in range(NODES):
        for rows in (points.astype("<f4"), normals.astype("<f4"), triangles.astype("<u4").reshape(-1, 1)):
            views.append({"buffer": 0, "byteOffset": len(binary), "byteLength": rows.nbytes})
            item = {"bufferView": len(views) - 1, "componentType": 5126, "count": len(rows), "type": "VEC3"}
            if rows.shape[1] == 1:
                item |= {"componentType": 5125, "type": "SCALAR"}
            accessors.append(item)
            binary += rows.tobytes()
        accessors[-3] |= {"min": points.min(0).tolist(), "max": points.max(0).tolist()}
        at = {"attributes": {"POSITION": 3 * k, "NORMAL": 3 * k + 1}, "indices": 3 * k + 2}
        meshes.append({"primitives": [at]})
        nodes.append({"name": f"sheet_{k}", "mesh": k, "scale": [2, 2, 2], "translation": [k, 0, 0]})
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": list(range(NODES))}], "nodes": nodes,
        "meshes": meshes, "accessors": accessors, "bufferViews": views, "buffers": [{"byteLength": len(binary)}],
    }  # fmt: skip
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    head = struct.pack("<4sIII4s", b"glTF", 2, 28 + len(text) + len(binary), len(text), b"JSON")
    path.write_bytes(head + text + struct.pack("<I4s", len(binary), b"BIN\0") + binary)


def moved(points: np.ndarray) -> np.ndarray:
    rows = points.astype(np.float64) @ TURN.T * 0.01
    low, high = rows.min(axis=0), rows.max(axis=0)
    return rows - [(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2]


def turned(normals: np.ndarray) -> np.ndarray:
    rows = normals.astype(np.float64) @ TURN.T
    return rows / np.linalg.norm(rows, axis=1)[:, None]


def bare_obj(path: Path, out: Path) -> None:
    data = path.read_bytes()
    start, normals, faces = data.index(b"v "), data.index(b"vn "), data.index(b"f ")
    texts = []
    for word, block, work in ((b"v", data[start:normals], moved), (b"vn", data[normals:faces], turned)):
        rows = np.fromstring(block.replace(word, b"").decode(), sep=" ").reshape(-1, 3)
        form = word.decode() + " %.9g %.9g %.9g\n"
        texts.append((form * len(rows) % tuple(work(rows).ravel().tolist())).encode())
    out.write_bytes(data[:start] + b"".join(texts) + data[faces:])


def bare_stl(path: Path, out: Path) -> None:
    data = np.fromfile(path, dtype=np.uint8)
    rows = data[84:].view(FACET)
    rows["corners"] = moved(rows["corners"].reshape(-1, 3)).reshape(-1, 3, 3)
    rows["normal"] = turned(rows["normal"])
    data.tofile(out)


def bare_ply(path: Path, out: Path) -> None:
    data = np.fromfile(path, dtype=np.uint8)
    head = data[:400].tobytes()
    start, count = head.index(b"end_header\n") + 11, int(head.split(b"vertex ")[1].split()[0])
    rows = data[start : start + count * VERTEX.itemsize].view(VERTEX)
    rows["point"], rows["normal"] = moved(rows["point"]), turned(rows["normal"])
    data.tofile(out)


def bare_glb(path: Path, out: Path) -> None:
    data = np.fromfile(path, dtype=np.uint8)
    size = int(data[12:16].view("<u4")[0])
    document = json.loads(data[20 : 20 + size].tobytes())
    for k, item in enumerate(document["accessors"]):
        if item["type"] == "VEC3":
            start = 28 + size + document["bufferViews"][k]["byteOffset"]
            rows = data[start : start + 12 * item["count"]].view("<f4").reshape(-1, 3)
            rows[:] = rows.astype(np.float64) * 2 if k % 3 == 0 else turned(rows)
    data.tofile(out)


def by_trimesh(path: Path, out: Path) -> None:
    """What a script does that uses a library for it: hashes and proves nothing, and keeps what the library keeps."""
    import trimesh

    if path.suffix == ".glb":
        scene = trimesh.load_scene(path)
        for name in scene.graph.nodes_geometry:
            matrix, geometry = scene.graph[name]
            scene.geometry[geometry].apply_transform(np.diag([*np.linalg.norm(matrix[:3, :3], axis=0), 1.0]))
            straight = np.eye(4)
            straight[:3, 3] = matrix[:3, 3]
            scene.graph.update(name, matrix=straight)
        scene.export(out)
        return
    mesh = trimesh.load_mesh(path, process=False)
    turn = np.eye(4)
    turn[:3, :3] = TURN * 0.01
    mesh.apply_transform(turn)
    low, high = mesh.bounds
    mesh.apply_translation([-(low[0] + high[0]) / 2, -low[1], -(low[2] + high[2]) / 2])
    mesh.export(out)


MAKE: dict[str, Callable[[Path], None]] = {"glb": make_glb, "obj": make_obj, "stl": make_stl, "ply": make_ply}
BARE: dict[str, Callable[[Path, Path], None]] = {"glb": bare_glb, "obj": bare_obj, "stl": bare_stl, "ply": bare_ply}
PHASES = {
    "receive": "reading", "_evaluated": "working out", "_written": "new bytes", "_stage": "to disk",
    "_proved": "proof", "sha256_of": "hashing",
}  # fmt: skip


def processor_time(words: list[str]) -> float:
    """Return the processor time that a command takes, with all it starts, seconds."""
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run(words, check=True, capture_output=True)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


def prep(folder: Path, out: Path) -> None:
    """The whole of a run, in this process."""
    from oak_square.delivery import running
    from oak_square.delivery.batch import find_sources
    from oak_square.delivery.run import Run
    from oak_square.delivery.running import deliver
    from oak_square.sheet.text import parse_sheet

    running.in_processes = lambda work, items, *_, **__: ((i, work(i), "") for i in items)
    sheet, sources = parse_sheet(SHEET, "benchmark"), tuple(find_sources([folder]))
    run = Run(sources=sources, sheet=sheet, sheet_bytes=SHEET.encode(), out=out, jobs=1)
    assert {e["status"] for e in deliver(run)["assets"]} == {"delivered"}


def by_phase(path: Path, sheet: str, stage: Path) -> dict[str, float]:
    """Return the seconds of processor time that each phase takes on one file, by thread."""
    from oak_square.delivery import preparing
    from oak_square.delivery.batch import find_sources
    from oak_square.formats.register import FORMATS
    from oak_square.sheet.text import parse_sheet

    spent: Counter[str] = Counter()

    def timed(name: str, work: Callable[..., Any]) -> Callable[..., Any]:
        def run(*args: Any, **more: Any) -> Any:
            started = time.thread_time()
            try:
                return work(*args, **more)
            finally:
                spent[name] += time.thread_time() - started

        return run

    kind = FORMATS[path.suffix[1:]]
    kept = {name: getattr(preparing, name) for name in PHASES}
    plain_read = kind.read
    job = preparing.Job(source=find_sources([path])[0], sheet=parse_sheet(sheet, "benchmark"), stage=stage)
    try:
        for name, phase in PHASES.items():
            setattr(preparing, name, timed(phase, kept[name]))
        kind.read = timed("reading, both times", plain_read)  # type: ignore[method-assign]
        assert preparing.prepare(job).entry["status"] == "delivered"
    finally:
        kind.read = plain_read  # type: ignore[method-assign]
        for name, work in kept.items():
            setattr(preparing, name, work)
    spent["re-reading"] = spent.pop("reading, both times") - spent["reading"]
    return dict(spent)


def measured(megabytes: int, phases: bool) -> None:
    """Print what each format of a batch of this size takes, in ratios, and all of it together."""
    totals, bytes_in_all = Counter[str](), 0
    with tempfile.TemporaryDirectory() as name:
        home = Path(name)
        for kind, make in MAKE.items():
            folder = home / kind
            folder.mkdir()
            make(folder / f"sheet_0.{kind}")
            count = max(1, round(megabytes * 1e6 / len(MAKE) / (folder / f"sheet_0.{kind}").stat().st_size))
            for k in range(1, count):
                shutil.copy(folder / f"sheet_0.{kind}", folder / f"sheet_{k}.{kind}")
            size = sum(p.stat().st_size for p in folder.iterdir())
            bytes_in_all += size
            best: dict[str, float] = {}
            for _ in range(2):
                for what in ("prep", "bare", "trimesh"):
                    told = kind if what == "bare" else what
                    target = home / f"{kind}_{what}"
                    command = [sys.executable, __file__, told, str(folder), str(target)]
                    best[what] = min(best.get(what, np.inf), processor_time(command))
                    shutil.rmtree(target)
            totals.update(best)
            print(f"{kind}: {size / 1e6:.0f} MB in {count}, NumPy {best['bare']:.2f} s, prep with proof "
                  f"{best['prep']:.2f} s: {best['prep'] / best['bare']:.1f} times (wanted 2.5); "
                  f"with trimesh {best['trimesh']:.2f} s: {best['trimesh'] / best['bare']:.1f}")  # fmt: skip
            if phases:
                spent = by_phase(folder / f"sheet_0.{kind}", SHEET, home / f"{kind}_stage")
                shares = sorted(spent.items(), key=lambda s: -s[1])
                print("   " + ", ".join(f"{phase} {100 * t / sum(spent.values()):.0f} %" for phase, t in shares))
            shutil.rmtree(folder)
    print(f"all together, {bytes_in_all / 1e6:.0f} MB: {totals['prep'] / totals['bare']:.1f} times, "
          f"with trimesh {totals['trimesh'] / totals['bare']:.1f}")  # fmt: skip


def main() -> None:
    for megabytes in SIZES_MB:
        measured(megabytes, phases=megabytes == SIZES_MB[-1])


if __name__ == "__main__":
    if len(sys.argv) > 1:
        wanted, source, target = sys.argv[1], Path(sys.argv[2]), Path(sys.argv[3])
        if wanted == "prep":
            prep(source, target)
        else:
            target.mkdir()
            for model in sorted(source.iterdir()):
                (by_trimesh if wanted == "trimesh" else BARE[wanted])(model, target / model.name)
    else:
        main()
