from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import translation
from oak_square.core.motion import carry, carry_all, with_reading
from oak_square.core.placement import Placement
from oak_square.formats.register import FORMATS
from tests.strategies import world_points

OBJ = FORMATS["obj"]
GATE = """# Fenwick Lock, gate\r
mtllib gate.mtl
o leaf
v 0 0 0 0.5 0.5 0.5
v  1.5\t0 0   # corner
v 0 2 0
vn 0 0 1
vt 0.1 0.2
usemtl oak
s 1
f 1//1 2//1 \\
  3//1
g rail
f -3/1/-1 -2/1/-1 -1/1/-1
o post
v 5 0 0
v 6 0 0
v 5 1 0
f 4 5 6
l 4 5
"""


def read(folder, text=GATE, name="gate.obj"):
    path = folder / name
    path.write_bytes(text.encode())
    return OBJ.read(path, name)


def out_text(received, asset, reading=None):
    pieces = OBJ.write(received, asset, reading or asset.reading).chunks
    return None if pieces is None else b"".join(pieces).decode()


def test_objects_are_parts_and_nothing_declares_the_unit(tmp_path):
    asset = read(tmp_path).asset
    assert [n.name for n in asset.nodes] == ["leaf", "post"]
    assert asset.reading.source == "assumed"
    assert asset.triangle_count == 3
    assert world_points(asset, 0) == pytest.approx(np.array([[0, 0, 0], [1.5, 0, 0], [0, 2, 0]]))
    assert world_points(asset, 1)[0] == pytest.approx([5, 0, 0])


def test_groups_are_parts_where_there_are_no_objects(tmp_path):
    asset = read(tmp_path, "v 0 0 0\nv 1 0 0\nv 0 1 0\ng left\nf 1 2 3\ng right\nf 3 2 1\n").asset
    assert [n.name for n in asset.nodes] == ["left", "right"]
    bare = read(tmp_path, "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\nf 1 2 4 3\n", "hut.obj").asset
    assert [n.name for n in bare.nodes] == ["hut"]
    assert bare.triangle_count == 2


def test_a_move_changes_numbers_and_nothing_else(tmp_path):
    received = read(tmp_path)
    text = out_text(received, carry_all(received.asset, translation(np.array([10.0, 0, -1]))))
    expected = (
        GATE.replace("v 0 0 0 0.5 0.5 0.5", "v 10 0 -1 0.5 0.5 0.5")
        .replace("v  1.5\t0 0   #", "v  11.5 0 -1   #")
        .replace("v 0 2 0", "v 10 2 -1")
        .replace("v 5 0 0", "v 15 0 -1")
        .replace("v 6 0 0", "v 16 0 -1")
        .replace("v 5 1 0", "v 15 1 -1")
    )
    assert text == expected


def test_what_nothing_changed_is_the_source_itself(tmp_path):
    received = read(tmp_path)
    assert out_text(received, received.asset) is None


def test_a_turn_carries_normals_and_a_mirror_turns_the_winding(tmp_path):
    received = read(tmp_path)
    turned = with_reading(received.asset, replace(received.asset.reading, up="+Z", front="-Y", source="sheet"))
    text = out_text(received, turned, replace(turned.reading, up="+Y", front="+Z"))
    assert "vn 0 1 0" in text
    assert "v 0 0 -2" in text
    mirrored = carry_all(received.asset, np.diag([-1.0, 1, 1, 1]))
    text = out_text(received, mirrored)
    assert "f 1//1 3//1 2//1" in text.replace("\\\n", "").replace("  ", " ")
    assert "f 4 6 5" in text
    assert "l 4 5" in text


def test_one_part_moves_alone_unless_it_shares_vertices(tmp_path):
    received = read(tmp_path)
    moved = carry(received.asset, {1: translation(np.array([0.0, 3, 0]))})
    assert "v 5 4 0" in out_text(received, moved)
    shared = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\no a\nf 1 2 3\no b\nf 2 3 4\n"
    received = read(tmp_path, shared)
    with pytest.raises(Refused, match="'a' and 'b' share vertices"):
        out_text(received, carry(received.asset, {1: translation(np.array([0.0, 3, 0]))}))


def test_materials_give_the_picture_its_colours(tmp_path):
    (tmp_path / "gate.mtl").write_text("newmtl oak\nKd 0.5 0.25 0.125\nmap_Kd grain.png\nnewmtl bad\nKd x y z\n")
    (tmp_path / "grain.png").write_bytes(b"png")
    received = read(tmp_path)
    assert received.companions == ("gate.mtl", "grain.png")
    assert received.asset.meshes[0].surfaces[0].colour == (0.5, 0.25, 0.125)
    assert "materials" in received.asset.carries


def test_part_pivots_it_can_not_hold_are_said(tmp_path):
    received = read(tmp_path)
    node = replace(received.asset.nodes[0], pinned=False, placement=Placement.of(translation=(1, 0, 0)))
    asset = replace(received.asset, nodes=(node, received.asset.nodes[1]))
    assert "1 part pivots are not written" in OBJ.write(received, asset, asset.reading).warnings[0]


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("v 0 0\nf 1 1 1\n", "line 1: 'v 0 0' has fewer than 3"),
        ("v 0 0 0\nv 0 0 zero\n", "line 2: 'v 0 0 zero' holds something that is no number"),
        ("v 0 0 0\nf 1 2 3\n", "line 2: 'f 1 2 3' names a vertex that is not there"),
        ("v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 -9\n", "names a vertex that is not there"),
        ("v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2\n", "line 4: 'f 1 2' has fewer than 3 corners"),
        ("v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1//4 2//4 3//4\n", "names a normal that is not there"),
        ("v 0 0 0\nv 1 0 0\nv 1 1 0\nf a b c\n", "without a vertex number"),
        ("\0\1\2\0", "holds bytes that are no text"),
    ],
)
def test_a_malformed_obj_is_one_line_with_the_place(tmp_path, text, says):
    with pytest.raises(BadFile) as caught:
        read(tmp_path, text)
    assert says in str(caught.value)
    assert str(caught.value).startswith("gate.obj: ")


def test_nan_is_counted_and_not_measured(tmp_path):
    asset = read(tmp_path, "v 0 0 0\nv nan 0 0\nv 1 1 0\nf 1 2 3\n").asset
    assert asset.meshes[0].not_finite == 1


@pytest.mark.parametrize("drawn", ["l 1 2 3", "p 1 2 3", "l 1 2 3\nf 1 2 3"])
def test_lines_and_points_may_have_a_material(tmp_path, drawn):
    (tmp_path / "wire.obj").write_text(f"v 0 0 0\nv 1 0 0\nv 1 1 0\nusemtl a\n{drawn}\n")
    asset = FORMATS["obj"].read(tmp_path / "wire.obj", "wire.obj").asset
    assert [len(m.points) for m in asset.meshes] == [3]
    assert asset.triangle_count == drawn.count("f")
