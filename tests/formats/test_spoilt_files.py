"""Spoilt copies of the demo's files, of every format: one clear line each, no traceback, no hang, nothing half done.

For longer, with other damage each time: `OAK_SQUARE_FUZZ_SECONDS=3600 pytest tests/formats/test_spoilt_files.py`.
"""

from __future__ import annotations

import contextlib
import io
import json
import os
import shutil
import subprocess
import sys
import time
import zipfile

import numpy as np
import pytest

from oak_square.core.errors import BadFile
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import survey_source
from oak_square.demo import BATCH
from oak_square.formats.register import FORMATS
from tests.formats.test_draco import squeezed
from tests.formats.test_instances import row_of_posts
from tests.formats.test_off import SIGN
from tests.formats.test_skins import pennant
from tests.formats.test_threemf import package
from tests.made import glb, triangle_document, write_gltf
from tests.runs import through

SHEET = """prep-sheet: 1
steps:
  - {do: unit, reads: cm, may-refuse: true}
  - {do: bake, may-refuse: true}
  - {do: split, parts: ["*"], into: pieces, may-refuse: true}
  - {do: pivot, at: base, of: asset, may-refuse: true}
"""
SECONDS = float(os.environ.get("OAK_SQUARE_FUZZ_SECONDS", "0"))
COPIES = 12
NUMBERS = [b"-1", b"0", b"4294967295", b"1e999", b"NaN", b"99999999999999999999", b"0.5", b"-2147483648"]


def originals(folder):
    """A file of every format, and some of what glTF can carry."""
    picked = {
        "3mf": "casks.3mf", "dae": "footbridge.dae", "usda": "hanging_sign.usda", "ply": "tiller.ply",
        "stl": "windlass.stl", "obj": "keepers_hut.obj", "glb": "sluice_wheel.glb",
    }  # fmt: skip
    found = {key: (BATCH / name).read_bytes() for key, name in picked.items()}
    found["off"] = SIGN
    write_gltf(folder / "text.gltf", *triangle_document(), embedded=True)
    found["gltf"] = (folder / "text.gltf").read_bytes()
    (folder / "text.gltf").unlink()
    for number, data in enumerate([squeezed(), row_of_posts(), pennant()], 2):
        found[f"{number}.glb"] = data
    return found


def spoilt(data, chance, key):
    """The file with some damage: bytes turned, cut, doubled or moved, numbers that no one expects."""
    if key == "3mf" and chance.random() < 0.8:
        return repacked(data, chance)
    out = bytearray(data)
    for _ in range(int(chance.integers(1, 6))):
        at = int(chance.integers(0, max(1, len(out))))
        length = int(chance.integers(1, 64))
        kind = chance.integers(0, 6)
        if kind == 0:
            out[at : at + 1] = bytes([int(chance.integers(0, 256))])
        elif kind == 1:
            del out[at : at + length]
        elif kind == 2:
            out[at:at] = out[at : at + length]
        elif kind == 3:
            out = out[: max(1, at)]
        elif kind == 4:
            to = int(chance.integers(0, max(1, len(out))))
            out[to : to + length] = out[at : at + length]
        else:
            out[at : at + int(chance.integers(1, 6))] = chance.choice(NUMBERS)
    return bytes(out)


def repacked(data, chance):
    """A package whose model is spoilt inside."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for row in old.infolist():
            inside = old.read(row)
            new.writestr(row.filename, spoilt(inside, chance, "") if row.filename.endswith(".model") else inside)
    return out.getvalue()


def command(*words, seconds):
    run = [sys.executable, "-m", "oak_square", *map(str, words)]
    limits = {"OAK_SQUARE_LIMITS": "seconds=20 memory_bytes=6e9"}
    return subprocess.run(run, capture_output=True, text=True, timeout=seconds, env={**os.environ, **limits})


def one_round(folder, seed):
    chance = np.random.default_rng(seed)
    models = folder / "in"
    models.mkdir(parents=True)
    for key, data in originals(models).items():
        for n in range(COPIES):
            (models / f"{key.replace('.', '_')}_{n}.{key.rpartition('.')[2]}").write_bytes(spoilt(data, chance, key))
    count = len(list(models.iterdir()))
    started = time.monotonic()
    done = command("survey", models, "--json", "--jobs", 2, seconds=60 + 5 * count)
    assert "Traceback" not in done.stderr, done.stderr
    entries = json.loads(done.stdout)["assets"]
    assert len(entries) == count
    faults = [(e["file"], e["error"]) for e in entries if e["error"] and "fault of ours" in e["error"]]
    assert faults == [], f"seed {seed}"
    assert not [e["file"] for e in entries if e["error"] and "crashed" in e["error"]], f"seed {seed}"
    (folder / "s.prepsheet.yaml").write_text(SHEET)
    done = command(
        "prep", folder / "s.prepsheet.yaml", models, "--out", folder / "out", "--jobs", 2, seconds=60 + 5 * count
    )
    assert done.returncode in {0, 3}, done.stderr
    assert "Traceback" not in done.stderr, done.stderr
    manifest = json.loads((folder / "out" / "delivery.json").read_text())
    assert [e["source"] for e in manifest["assets"] if "fault of ours" in (e["reason"] or "")] == [], f"seed {seed}"
    told = {e["output"] for e in manifest["assets"] if e["output"]}
    told |= {c["path"] for e in manifest["assets"] for c in e["companions"]}
    there = {p.relative_to(folder / "out").as_posix() for p in (folder / "out").rglob("*") if p.is_file()}
    assert there - {".oak-square/read.json"} == {*told, "delivery.json"}
    return time.monotonic() - started


def test_spoilt_files_of_every_format_are_one_clear_line_each(tmp_path):
    missing = set(FORMATS) - {"usdc", "usdz"} - {k.rpartition(".")[2] for k in originals(tmp_path)}
    assert not missing, f"nothing to spoil of {', '.join(sorted(missing))}: give `originals` a small file of each"
    seed, ends = 7, time.monotonic() + SECONDS
    one_round(tmp_path / "first", seed)
    while time.monotonic() < ends:
        seed = int(time.time_ns() % 2**32)
        one_round(tmp_path / f"round_{seed}", seed)


@pytest.mark.parametrize("key", sorted(set(FORMATS) - {"usdz"}))
def test_a_file_cut_anywhere_is_read_as_less_or_refused(key, tmp_path):
    sources = originals(tmp_path)
    data = sources.get(key) or sources["usda"]
    path = tmp_path / f"cut{FORMATS[key].suffixes[0]}"
    for share in (0.02, 0.3, 0.6, 0.9, 0.99):
        path.write_bytes(data[: int(len(data) * share)])
        with contextlib.suppress(BadFile):
            FORMATS[key].read(path, path.name)


def bombs():
    """Small files that ask for much: each has cost minutes, or a fault of ours, once."""
    chain = [{"name": f"n{k}", "children": [k + 1]} for k in range(5000)] + [{"name": "x", "mesh": 0}]
    document, binary = triangle_document(nodes=chain)
    yield "deep.glb", glb(document, binary)
    document, binary = triangle_document(nodes=[{"mesh": 0}] * 5000, scenes=[{"nodes": list(range(5000))}])
    yield "flat.glb", glb(document, binary)
    yield "groups.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\n" + "".join(f"g g{k}\nusemtl m{k}\nf 1 2 3\n" for k in range(3000))
    facet = "facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n"
    yield "solids.stl", "".join(f"solid s{k}\n{facet}endsolid s{k}\n" for k in range(2000))
    for suffix in ("obj", "stl", "off", "ply", "dae", "usda", "gltf"):
        yield f"letters.{suffix}", "x" * 200_000
    starts = {"obj": "v", "stl": "solid a\nfacet", "off": "OFF", "ply": "ply\nformat", "dae": "<COLLADA"}
    starts["usda"] = "#usda 1.0\n"
    for suffix, start in starts.items():
        yield f"blanks.{suffix}", start + " " * 100_000
    yield "long.usda", f'#usda 1.0\ndef Xform "a" {{ custom string x = "{"y" * 200_000}" }}'
    yield "tags.dae", "<COLLADA>" + "<node>" * 15_000
    yield "quotes.dae", "<COLLADA>" + '<node a="' * 15_000
    nodes = "<node>" * 3000 + "</node>" * 3000
    scene = f'<library_visual_scenes><visual_scene id="s">{nodes}</visual_scene></library_visual_scenes>'
    yield "nest.dae", f'<COLLADA>{scene}<scene><instance_visual_scene url="#s"/></scene></COLLADA>'
    rows = '<vertex x="1' * 15_000
    for name, inside in (("open", "<vertices>" * 15_000), ("rows", f"<vertices>{rows}</vertices>")):
        mesh = f'<object id="1"><mesh>{inside}<triangles></triangles></mesh></object>'
        yield f"{name}.3mf", packed_model(f"<model><resources>{mesh}</resources></model>")
    yield "nest.gltf", '{"asset":{"version":"2.0"},"extras":' + "[" * 100_000
    yield "digits.gltf", '{"asset":{"version":"2.0"},"nodes":[{"translation":[' + "9" * 5000 + ",0,0]}]}"
    yield "face.obj", "v 0 0 0\n" * 3 + "f " + "99999999999999999999 " * 3 + "\n"


def packed_model(model):
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(package())) as old, zipfile.ZipFile(out, "w") as new:
        for row in old.infolist():
            new.writestr(row, model if row.filename.endswith(".model") else old.read(row))
    return out.getvalue()


def test_small_files_that_ask_for_much_are_read_or_refused_within_seconds_each(tmp_path):
    for name, data in bombs():
        path = tmp_path / name
        path.write_bytes(data if isinstance(data, bytes) else data.encode())
        (source,) = find_sources([path])
        # Not a benchmark: what grows with the square of a file takes minutes here.
        started = time.process_time()
        entry = survey_source(source)
        assert time.process_time() - started < 15, name
        assert "fault of ours" not in (entry["error"] or ""), (name, entry["error"])


def test_what_pivots_and_pieces_come_to_is_refused_by_formats_without_frames(tmp_path):
    for name in ("keepers_hut.obj", "tiller.ply", "windlass.stl"):
        (tmp_path / "in").mkdir()
        shutil.copy(BATCH / name, tmp_path / "in")
        for library in BATCH.glob(f"{name[:6]}*.mtl"):
            shutil.copy(library, tmp_path / "in")
        entry = through(tmp_path, "{do: pivot, at: base, of: parts}", '{do: split, parts: ["*"], into: pieces}')
        assert "fault of ours" not in (entry["reason"] or ""), entry["reason"]
        if any(s["do"] == "split" and s["outcome"] == "applied" for s in entry["steps"]):
            assert entry["status"] == "refused"
            assert "are not taken apart or hung elsewhere: deliver it as glb or usda" in entry["reason"]
        shutil.rmtree(tmp_path / "in")


ASCII_PLY = """ply
format ascii 1.0
element vertex 4
property float x
property float y
property float z
element face 2
property list uchar int vertex_indices
end_header
0 0 0
1 0 0
1 1 0
0 1 0
3 0 1 2
3 0 2 3
"""
OFF_TEXT = "OFF\n4 2 0\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n3 0 1 2\n3 0 2 3\n"


@pytest.mark.parametrize(
    ("suffix", "old", "new", "says"),
    [
        (".ply", "1 0 0\n", "1 0 0 7\n", "line 11 has more numbers than a row of vertex|line 12 has more"),
        (".ply", "1 0 0\n1 1 0\n", "1 0 0\n1.5 0.5 0\n1 1 0\n", "0.5 stands where a whole number should|more numbers"),
        (".ply", "3 0 1 2\n", "3 0 1\n2\n", "line 15 lies within a row of face that began before it"),
        (".ply", "3 0 2 3\n", "3 0 2.5 3\n", "line 15: 2.5 stands where a whole number should"),
        (".ply", "3 0 2 3\n", "0\n", "face 2 has no corners"),
        (".ply", "vertex_indices", "vertex_endices", "2 rows of 'face' with no list called 'vertex_indices'"),
        (".ply", "element face", "element fase", "2 rows of 'fase' with a list called 'vertex_indices'"),
        (".off", "1 0 0\n", "1 0 0 7\n", "line 4 has 4 numbers, unlike other vertices"),
        (".off", "3 0 2 3\n", "3 0 2 3 1 1\n", "line 8 has more numbers than its corners and a colour"),
        (".off", "4 2 0", "4 1 0", "line 8 is behind the 4 vertices and 1 faces that it declares"),
    ],
)
def test_rows_that_other_readers_would_take_for_others_are_refused(tmp_path, suffix, old, new, says):
    text = {".ply": ASCII_PLY, ".off": OFF_TEXT}[suffix]
    path = tmp_path / f"plate{suffix}"
    path.write_text(text)
    assert len(FORMATS[suffix[1:]].read(path, path.name).asset.meshes[0].triangles) == 2
    assert old in text
    path.write_text(text.replace(old, new, 1))
    with pytest.raises(BadFile, match=says):
        FORMATS[suffix[1:]].read(path, path.name)


@pytest.mark.parametrize(
    ("old", "new", "says"),
    [
        ('count="144"', 'count="143"', "declares 143 numbers and has 144"),
        ('id="beams-normals"', 'id="beams-points"', "has two of 'beams-points', a source and a source"),
    ],
)
def test_a_collada_that_tells_its_numbers_twice_is_refused(tmp_path, old, new, says):
    text = (BATCH / "footbridge.dae").read_text()
    assert old in text
    path = tmp_path / "footbridge.dae"
    path.write_text(text.replace(old, new, 1))
    with pytest.raises(BadFile, match=says):
        FORMATS["dae"].read(path, path.name)


def test_a_gltf_that_names_a_scene_and_has_none_is_refused(tmp_path):
    document, binary = triangle_document()
    del document["scenes"]
    (tmp_path / "sign.glb").write_bytes(glb(document, binary))
    with pytest.raises(BadFile, match="scene"):
        FORMATS["glb"].read(tmp_path / "sign.glb", "sign.glb")
