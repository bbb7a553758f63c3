"""`split` on glTF files: pieces as nodes and meshes of their own, with all their attributes, nothing moved."""

from __future__ import annotations

import shutil

import numpy as np
import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from tests.made import accessor, glb, laid_out, opened, triangle_document, write_gltf
from tests.runs import through, troubles

# Two bollards, flat as signs, their triangles told in turn: 0-1-2 with 3-4-5 joined by place, and 6-7-8 apart.
POINTS = np.array(
    [[0, 0, 0], [1, 0, 0], [0, 1, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [4, 0, 0], [5, 0, 0], [4, 1, 0]], dtype="<f4"
)
COLOURS = np.array([[k, 2 * k, 3 * k] for k in range(9)], dtype="u1")
FACES = np.array([6, 7, 8, 0, 1, 2, 3, 4, 5], dtype="<u2")
RISE = POINTS[:, [1, 0, 2]] * np.float32([0, 0.5, 0])
UP_Z = np.array([[0, 0, 1]] * 9, dtype="<f4")


def bollards(*nodes, **more):
    """A GLB of both in one mesh, with colours of three bytes, a morph target, and what a stranger put there."""
    padded = np.zeros((9, 4), dtype="u1")
    padded[:, :3] = COLOURS
    colours = {"type": "VEC3", "normalized": True}
    lists, binary = laid_out(POINTS, UP_Z, padded, FACES, RISE, np.array([0, 1], "<f4"), np.array([0, 1], "<f4"),
                             a2=colours)  # fmt: skip
    lists["bufferViews"][2]["byteStride"] = 4
    attributes = {"POSITION": 0, "NORMAL": 1, "COLOR_0": 2}
    primitive = {"attributes": attributes, "indices": 3, "targets": [{"POSITION": 4}], "extras": {"kept": 1}}
    mesh = {"name": "bollards", "primitives": [primitive], "extras": {"targetNames": ["rise"]}}
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}],
        "nodes": list(nodes) or [
            {"name": "pair", "mesh": 0, "translation": [0, 0, 7], "children": [1]}, {"name": "rope"},
        ],
        "meshes": [mesh], **lists, **more,
    }  # fmt: skip
    return glb(document, binary)


def split(tmp_path, data, *steps):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "bollards.glb").write_bytes(data)
    entry = through(tmp_path, *(steps or ("{do: split, parts: [pair], into: pieces}",)))
    assert entry["status"] == "delivered", entry["reason"]
    assert entry["deviation_m"] < 1e-6
    assert not any(troubles(tmp_path / "out").values())
    document, binary = opened((tmp_path / "out" / "bollards.glb").read_bytes())
    return entry, document, binary


def test_pieces_hang_from_the_part_with_all_they_had(tmp_path):
    entry, document, binary = split(tmp_path, bollards())
    assert entry["steps"][0]["detail"] == "2 pieces of 'pair'"
    pair, rope, *pieces = document["nodes"]
    assert pair == {"name": "pair", "translation": [0, 0, 7], "children": [1, 2, 3]}
    assert rope == {"name": "rope"}
    assert [p["name"] for p in pieces] == ["pair.1", "pair.2"]
    for piece, rows in zip(pieces, (range(6), range(6, 9)), strict=True):
        mesh = document["meshes"][piece["mesh"]]
        (primitive,) = mesh["primitives"]
        assert mesh["extras"] == {"targetNames": ["rise"]}
        assert primitive["extras"] == {"kept": 1}
        rows = list(rows)
        assert (accessor(document, binary, primitive["attributes"]["POSITION"]) == POINTS[rows]).all()
        assert (accessor(document, binary, primitive["attributes"]["COLOR_0"]) == COLOURS[rows]).all()
        assert document["accessors"][primitive["attributes"]["COLOR_0"]]["normalized"] is True
        assert (accessor(document, binary, primitive["targets"][0]["POSITION"]) == RISE[rows]).all()
        drawn = np.array(rows)[accessor(document, binary, primitive["indices"])[:, 0]].reshape(-1, 3)
        assert all(list(face) in FACES.reshape(-1, 3).tolist() for face in drawn)
        item = document["accessors"][primitive["attributes"]["POSITION"]]
        assert item["min"] == POINTS[rows].min(axis=0).tolist()
    assert len(document["meshes"]) == 2


def test_later_steps_reach_the_pieces(tmp_path):
    steps = (
        "{do: split, parts: [pair], into: pieces}",
        "{do: bake}", "{do: pivot, at: base, of: parts}", "{do: parent, parts: [pair.2], to: null}",
    )  # fmt: skip
    pair = {"name": "pair", "mesh": 0, "scale": [-2, 1, 1], "translation": [0, 0, 7]}
    _, document, binary = split(tmp_path, bollards(pair), *steps)
    first, second = document["nodes"][1:]
    assert document["scenes"] == [{"nodes": [0, 2]}]
    assert second["translation"] == pytest.approx([-9, 0, 7])
    (primitive,) = document["meshes"][second["mesh"]]["primitives"]
    assert (accessor(document, binary, primitive["attributes"]["POSITION"]) == [[1, 0, 0], [-1, 0, 0], [1, 1, 0]]).all()
    # Mirrored: wound the other way, so that it still faces forward.
    assert accessor(document, binary, primitive["indices"])[:, 0].tolist() == [0, 2, 1]
    assert document["meshes"][first["mesh"]] is not document["meshes"][second["mesh"]]


def test_parts_that_share_a_mesh_share_its_pieces(tmp_path):
    nodes = [{"name": "a", "mesh": 0, "children": [1]}, {"name": "b", "mesh": 0, "scale": [2, 2, 2]}]
    _, document, _ = split(tmp_path, bollards(*nodes), '{do: split, parts: ["?"], into: pieces}')
    meshes = [n.get("mesh") for n in document["nodes"]]
    assert meshes[:2] == [None, None]
    assert meshes[2:4] == meshes[4:6]
    assert len(document["meshes"]) == 2


def test_a_mesh_that_another_part_needs_stays(tmp_path):
    nodes = [{"name": "pair", "mesh": 0, "children": [1]}, {"name": "spare", "mesh": 0}]
    _, document, binary = split(tmp_path, bollards(*nodes))
    spare = document["meshes"][document["nodes"][1]["mesh"]]
    assert (accessor(document, binary, spare["primitives"][0]["attributes"]["POSITION"]) == POINTS).all()
    assert len(document["meshes"]) == 3


def test_clips_move_the_part_and_morph_each_piece(tmp_path):
    sampler = [{"input": 5, "output": 6}]
    target = {"node": 0, "path": "weights"}
    clip = {"name": "sway", "channels": [{"sampler": 0, "target": target}], "samplers": sampler}
    _, document, _ = split(tmp_path, bollards({"name": "pair", "mesh": 0, "weights": [0.5]}, animations=[clip]))
    assert "weights" not in document["nodes"][0]
    assert [n["weights"] for n in document["nodes"][1:]] == [[0.5], [0.5]]
    assert [c["target"] for c in document["animations"][0]["channels"]] == [
        {"node": 1, "path": "weights"}, {"node": 2, "path": "weights"},
    ]  # fmt: skip


def test_lines_and_triangles_of_one_mesh_come_apart(tmp_path):
    lists, binary = laid_out(POINTS[:3], FACES[3:6], POINTS[6:], np.array([0, 1, 1, 2], "<u2"))
    primitives = [
        {"attributes": {"POSITION": 2}, "indices": 3, "mode": 1}, {"attributes": {"POSITION": 0}, "indices": 1},
    ]  # fmt: skip
    document = {
        "asset": {"version": "2.0"}, "nodes": [{"name": "pair", "mesh": 0}],
        "meshes": [{"primitives": primitives}], **lists,
    }  # fmt: skip
    _, document, binary = split(tmp_path, glb(document, binary))
    lines, face = (document["meshes"][n["mesh"]]["primitives"] for n in document["nodes"][1:])
    assert [p["mode"] for p in lines] == [1]
    assert accessor(document, binary, lines[0]["indices"])[:, 0].tolist() == [0, 1, 1, 2]
    assert "mode" not in face[0]


@pytest.mark.parametrize(
    ("steps", "status", "says"),
    [
        (["{do: split, parts: [sign], into: pieces}"], "unchanged", "'sign' is in one piece"),
        (["{do: split, parts: [nothing], into: pieces}"], "unchanged", "no node of that name"),
    ],
)
def test_what_is_whole_stays_as_it_is(tmp_path, steps, status, says):
    (tmp_path / "in").mkdir()
    write_gltf(tmp_path / "in" / "sign.gltf", *triangle_document())
    entry = through(tmp_path, *steps)
    assert (entry["status"], entry["steps"][0]["detail"]) == (status, says)


def test_an_obj_holds_no_hierarchy_to_split_into(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "sign.obj").write_text("o sign\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n")
    entry = through(tmp_path, "{do: split, parts: [sign], into: pieces}")
    assert (entry["status"], entry["reason"]) == ("refused", "step 1 (split): its format holds no hierarchy")
    assert receive(find_sources([tmp_path / "in"])[0]).asset.nodes[0].pinned


def test_a_mesh_of_which_some_primitives_have_coordinates_comes_apart(tmp_path):
    (tmp_path / "in").mkdir()
    shutil.copy(BATCH / "milepost.glb", tmp_path / "in")
    entry = through(tmp_path, "{do: split, parts: ['*'], into: pieces}")
    assert entry["status"] == "delivered", entry["reason"]
    assert not any(troubles(tmp_path / "out").values())
