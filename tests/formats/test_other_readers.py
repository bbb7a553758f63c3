"""Damaged files that are read all the same: another well-known reader sees as many triangles as far out, or refuses."""

from __future__ import annotations

import logging
import random
import re
import warnings

import numpy as np
import pytest
import trimesh

from oak_square.core.errors import BadFile
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH

COPIES = 60


def original(name):
    if name.startswith("text"):
        mesh = trimesh.load(BATCH / "windlass.stl")
        kind = name.rpartition(".")[2]
        export = {
            "stl": trimesh.exchange.stl.export_stl_ascii,
            "ply": lambda m: trimesh.exchange.ply.export_ply(m, encoding="ascii"),
            "off": trimesh.exchange.off.export_off,
        }[kind](mesh)
        return export if isinstance(export, bytes) else export.encode()
    return (BATCH / name).read_bytes()


def spoilt_line(data, chance):
    lines = data.split(b"\n")
    k, kind = chance.randrange(len(lines)), chance.randrange(5)
    if kind == 0:
        del lines[k]
    elif kind == 1:
        lines[k] = re.sub(rb"\d+", lambda _: str(chance.randrange(400)).encode(), lines[k], count=1)
    elif kind == 2:
        lines[k] = lines[k].replace(b".", b",")
    elif kind == 3:
        lines.insert(k, lines[chance.randrange(len(lines))])
    else:
        words = lines[k].split(b" ")
        words.insert(chance.randrange(len(words) + 1), b"7")
        lines[k] = b" ".join(words)
    return b"\n".join(lines)


def spoilt_bytes(data, chance):
    found, kind = bytearray(data), chance.randrange(4)
    if kind == 0:
        del found[len(found) - chance.randrange(1, 64) :]
    elif kind == 1:
        at = chance.randrange(len(found))
        del found[at : at + chance.choice([1, 2, 4, 12, 50])]
    else:
        found[chance.randrange(min(len(found), 400))] = chance.randrange(256)
    return bytes(found)


def triangles(points, rows):
    """Where triangles have corners, and how many there are: a face of more corners may be cut one way or another."""
    corners = np.asarray(points, dtype=float)[np.unique(rows)]
    return np.sort(corners, axis=0), len(rows)


def is_alike(ours, theirs):
    (a, m), (b, n) = ours, theirs
    ends = [(c.min(axis=0), c.max(axis=0)) if len(c) else np.zeros((2, 3)) for c in (a, b)]
    return m == n and np.allclose(*ends, atol=2e-3, equal_nan=True)


def as_we_see(path):
    asset = receive(find_sources([path])[0]).asset
    back = asset.reading.file_from_working
    found = [np.empty((0, 3))]
    for i in asset.parts:
        matrix, mesh = back @ asset.world_from_mesh(i), asset.mesh_of(i)
        points = np.asarray(mesh.points, dtype=float) @ matrix[:3, :3].T + matrix[:3, 3]
        found.append(points[mesh.triangles].reshape(-1, 3))
    corners = np.concatenate(found)
    return triangles(corners, np.arange(len(corners)).reshape(-1, 3))


def as_they_see(path):
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        whole = trimesh.load(path, process=False, force="scene").to_geometry()
    return triangles(whole.vertices, whole.faces) if hasattr(whole, "faces") else (np.empty((0, 3)), 0)


@pytest.mark.parametrize(
    "name",
    ["lamp_standard.obj", "windlass.stl", "text.stl", "tiller.ply", "text.ply", "text.off", "mooring_bollards.glb"],
)
def test_what_is_read_of_damaged_files_is_what_others_read(tmp_path, name):
    logging.getLogger("trimesh").setLevel(logging.CRITICAL)
    data, chance, same = original(name), random.Random(name), 0
    path = tmp_path / name
    path.write_bytes(data)
    assert is_alike(as_we_see(path), as_they_see(path))
    spoil = spoilt_line if b"\0" not in data else spoilt_bytes
    for number in range(COPIES):
        path.write_bytes(spoil(data, chance))
        try:
            ours = as_we_see(path)
        except BadFile:
            continue
        try:
            theirs = as_they_see(path)
        except Exception:  # whatever it says: it does not read it
            continue
        assert is_alike(ours, theirs), f"copy {number}"
        same += 1
    assert same > 5
