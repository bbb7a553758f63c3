"""PLY of all three encodings, written out by hand: what moves, and all else that stays."""

from __future__ import annotations

import struct

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.formats.limits import Limits
from oak_square.formats.register import FORMATS
from tests.runs import deliver_as, through

CORNERS = [(0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (1.0, 2.0, 0.0), (0.0, 2.0, 0.0), (0.5, 3.0, 0.0)]
FACES = [(0, 1, 2, 3), (3, 2, 4)]
HEADER = """ply
format {order} 1.0
comment tiller of the Fenwick, first cut
obj_info left here by a stranger
element mark 1
property uchar letter
property list ushort short run
element vertex 5
property float x
property {kind} y
property float z
property uchar red
property float nx
property float ny
property float nz
element face 2
property uchar shade
property list uchar int vertex_indices
element tail 1
property double last
end_header
"""


def made(order, *, corners=CORNERS, faces=FACES, kind="float"):
    """A PLY with an element before, a column between, a column before the list, and an element after."""
    head = HEADER.format(order=order, kind=kind).encode()
    if order == "ascii":
        lines = ["65 3 -7 8 9"]
        lines += [f"{x:g}  {y:g}\t{z:g} {k} 0 0 1" for k, (x, y, z) in enumerate(corners)]
        lines += [f"{k} {len(f)} " + " ".join(map(str, f)) for k, f in enumerate(faces)]
        return head + ("\n".join([*lines, "0.1234567890123"]) + "\n").encode()
    e = "<" if "little" in order else ">"
    body = struct.pack(f"{e}BHhhh", 65, 3, -7, 8, 9)
    letter = {"float": "f", "short": "h"}[kind]
    for k, (x, y, z) in enumerate(corners):
        body += struct.pack(f"{e}f{letter}fBfff", x, int(y) if letter == "h" else y, z, k, 0, 0, 1)
    for k, face in enumerate(faces):
        body += struct.pack(f"{e}BB{len(face)}i", k, len(face), *face)
    return head + body + struct.pack(f"{e}d", 0.1234567890123)


ORDERS = ["ascii", "binary_little_endian", "binary_big_endian"]


def delivered(folder, data, *steps):
    (folder / "in").mkdir()
    (folder / "in" / "tiller.ply").write_bytes(data)
    entry = through(folder, *steps)
    out = folder / "out" / "tiller.ply"
    return entry, out.read_bytes() if out.exists() else b""


@pytest.mark.parametrize("order", ORDERS)
def test_vertices_faces_and_normals_are_read_between_strangers(order, tmp_path):
    path = tmp_path / "tiller.ply"
    path.write_bytes(made(order))
    asset = FORMATS["ply"].read(path, "tiller.ply").asset
    (mesh,) = asset.meshes
    assert mesh.points.tolist() == [list(c) for c in CORNERS]
    assert mesh.triangles.tolist() == [[0, 1, 2], [0, 2, 3], [3, 2, 4]]
    assert mesh.normals.tolist() == [[0, 0, 1]] * 5


@pytest.mark.parametrize("order", ORDERS)
@pytest.mark.parametrize("faces", [FACES, [(0, 1, 2), (3, 2, 4)]])
def test_a_turn_under_another_reading_moves_numbers_and_leaves_the_rest(order, faces, tmp_path):
    data = made(order, faces=faces)
    steps = "{do: unit, reads: cm}", "{do: turn, by: [0, 90, 0], about: origin}", "{do: turn, up: -Z, front: -Y}"
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "tiller.ply").write_bytes(data)
    (entry,) = deliver_as(tmp_path, "{unit: same, up: same}", *steps)["assets"]
    out = (tmp_path / "out" / "tiller.ply").read_bytes()
    assert entry["status"] == "delivered", entry["reason"]
    # Delivered as it was read: centimetres, -Z up, -Y front. A quarter turn about the upright is one about -Z.
    turned = [(y, -x, z) for x, y, z in CORNERS]
    path = tmp_path / "again.ply"
    path.write_bytes(out)
    again = FORMATS["ply"].read(path, "again.ply").asset.meshes[0]
    assert np.abs(again.points - np.array(turned)).max() < 1e-6
    start = out.index(b"end_header\n") + 11
    assert out[:start] == data[:start]
    if order == "ascii":
        old, new = (t[start:].split() for t in (data, out))
        assert new[:5] == old[:5]
        assert new[8:12] == old[8:12]
        assert new[40:] == old[40:]
    else:
        assert out[start : start + 9] == data[start : start + 9]
        assert out[-8:] == data[-8:]


@pytest.mark.parametrize("order", ORDERS)
@pytest.mark.parametrize("faces", [FACES, [(0, 1, 2), (3, 2, 4)]])
def test_faces_are_wound_the_other_way_where_a_mirror_asks_for_it(order, faces, tmp_path):
    path = tmp_path / "tiller.ply"
    path.write_bytes(made(order, faces=faces))
    kind = FORMATS["ply"]
    received = kind.read(path, "tiller.ply")
    from oak_square.core.motion import resize_all

    mirrored = resize_all(received.asset, np.diag([-1.0, 1, 1, 1]))
    out = kind.write(received, mirrored, received.asset.reading)
    path.write_bytes(b"".join(bytes(p) for p in out.chunks))
    again = kind.read(path, "tiller.ply").asset.meshes[0]
    assert again.points[:, 0].tolist() == [-x for x, _, _ in CORNERS]
    points = again.points[again.triangles]
    normals = np.cross(points[:, 1] - points[:, 0], points[:, 2] - points[:, 0])
    assert (normals[:, 2] > 0).all()


def test_whole_numbers_stay_whole_or_the_step_is_refused(tmp_path):
    data = made("binary_little_endian", kind="short")
    (tmp_path / "a").mkdir()
    entry, out = delivered(tmp_path / "a", data, "{do: size, factor: 3, about: origin}")
    assert entry["status"] == "delivered"
    assert len(out) == len(data)
    (tmp_path / "b").mkdir()
    entry, _ = delivered(tmp_path / "b", data, "{do: size, factor: 0.3}")
    assert entry["reason"] == "its coordinates are whole numbers, and would no longer be"


def test_points_alone_are_measured_and_moved(tmp_path):
    head = b"ply\nformat ascii 1.0\nelement vertex 2\n"
    head += b"".join(b"property double %s\n" % axis for axis in (b"x", b"y", b"z")) + b"end_header\n"
    entry, out = delivered(tmp_path, head + b"0 0 0\n1 2 3", "{do: size, factor: 2, about: origin}")
    assert out == head + b"0 0 0\n2 4 6"
    assert entry["size_after_m"] == {"width": 2, "height": 4, "depth": 6}


def test_strips_are_read_as_their_triangles(tmp_path):
    head = (
        b"ply\nformat ascii 1.0\nelement vertex 5\nproperty float x\nproperty float y\nproperty float z\n"
        b"element tristrips 1\nproperty list int int vertex_indices\nend_header\n"
    )
    path = tmp_path / "strip.ply"
    path.write_bytes(head + b"0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 2 0\n9 0 1 2 3 -1 2 3 4 -1\n")
    triangles = FORMATS["ply"].read(path, "strip.ply").asset.meshes[0].triangles
    assert triangles.tolist() == [[0, 1, 2], [2, 1, 3], [2, 3, 4]]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda d: d[:-30], "is cut short: it declares"),
        (lambda d: d.replace(b"element face 2", b"element face 9999999999"), "over the limit"),
        (lambda d: d.replace(b"property float z", b"property sofa z"), "'property sofa z' is no property"),
        (lambda d: d.replace(b"end_header", b"end_of_it"), "its header has no end"),
        (lambda d: d.replace(b"float x", b"float q"), "no vertices with x, y and z"),
        (lambda d: d.replace(b"\x02\0\0\0\x04\0\0\0", b"\x02\0\0\0\x05\0\0\0"), "names vertex 5, which is not there"),
        (lambda d: d.replace(b"list uchar int vertex", b"list float int vertex"), "which is no whole number"),
        (lambda d: d + b"\0" * 40, "40 bytes behind the rows"),
    ],
)
def test_what_is_wrong_is_said(change, says, tmp_path):
    path = tmp_path / "tiller.ply"
    path.write_bytes(change(made("binary_little_endian")))
    with pytest.raises(BadFile, match=says):
        FORMATS["ply"].read(path, "tiller.ply", Limits(vertices=1000))


@given(st.lists(st.lists(st.integers(0, 7), min_size=1, max_size=6), max_size=12), st.sampled_from(ORDERS))
def test_faces_of_any_mix_of_sides_come_back(tmp_path_factory, faces, order):
    corners = [tuple(map(float, c)) for c in np.random.default_rng(1).normal(0, 3, (8, 3)).round(3)]
    data = made(order, corners=corners, faces=faces)
    data = data.replace(b"element vertex 5", b"element vertex 8").replace(b"face 2", b"face %d" % len(faces))
    path = tmp_path_factory.mktemp("ply") / "mixed.ply"
    path.write_bytes(data)
    asset = FORMATS["ply"].read(path, "mixed.ply").asset
    # However a face is cut, its triangles have its vector area between them, and its corners.
    points, triangles = np.array(corners), asset.meshes[0].triangles.tolist()
    for face in faces:
        own, triangles = triangles[: max(0, len(face) - 2)], triangles[max(0, len(face) - 2) :]
        assert {v for row in own for v in row} <= set(face)
        cut = sum((np.cross(points[a], points[b]) + np.cross(points[b], points[c]) + np.cross(points[c], points[a])
                   for a, b, c in own), np.zeros(3))  # fmt: skip
        whole = sum(
            (np.cross(points[a], points[b]) for a, b in zip(face, face[1:] + face[:1], strict=True)), np.zeros(3)
        )
        assert cut == pytest.approx(whole if len(face) > 2 else np.zeros(3), abs=1e-9)
    assert not triangles
    assert asset_box(asset).size == pytest.approx(np.ptp(np.array(corners, dtype="f4"), axis=0))


def test_a_column_more_than_declared_is_told_of(tmp_path):
    path = tmp_path / "tiller.ply"
    head, rows = made("ascii").split(b"end_header\n")
    lines = rows.split(b"\n")
    path.write_bytes(head + b"end_header\n" + b"\n".join([lines[0] + b" 7", *lines[1:]]))
    with pytest.raises(BadFile):
        FORMATS["ply"].read(path, "tiller.ply", Limits(vertices=1000))
