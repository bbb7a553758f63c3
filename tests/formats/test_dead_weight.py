"""An edited glTF holds what it names and what it came with, and nothing that the edit let go of."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from tests.made import accessor, opened, triangle_document, write_glb, write_gltf
from tests.runs import through, troubles

MIRRORED = {"nodes": [{"name": "sign", "mesh": 0, "scale": [-1, 1, 1]}]}  # a bake turns its triangles round


def packed_document():
    """Two triangles in one run of shorts, positions first, told apart by offsets; an image and stray bytes between."""
    first = np.array([[0, 0, 0], [32767, 0, 0], [0, 16384, 0]], dtype="<i2")
    rows = np.zeros((6, 4), dtype="<i2")
    rows[:3, :3], rows[3:, :3] = first, first // 2
    indices = np.array([0, 1, 2, 0, 1, 2], dtype="<u2")
    image, stray = b"\x89PNG a picture...", b"stray!!!"
    binary = rows.tobytes() + image + b"\0" * (-len(image) % 4) + stray + indices.tobytes()
    at = 48 + len(image) + (-len(image) % 4) + len(stray)
    document, _ = triangle_document(
        accessors=[
            {"bufferView": 0, "byteOffset": 24 * k, "componentType": 5122, "count": 3, "type": "VEC3",
             "normalized": True, "min": [0, 0, 0], "max": (first.max(axis=0) // (k + 1)).tolist()}
            for k in (0, 1)
        ]
        + [{"bufferView": 2, "byteOffset": 6 * k, "componentType": 5123, "count": 3, "type": "SCALAR"} for k in (0, 1)],
        bufferViews=[
            {"buffer": 0, "byteOffset": 0, "byteLength": 48, "byteStride": 8},
            {"buffer": 0, "byteOffset": 48, "byteLength": len(image)},
            {"buffer": 0, "byteOffset": at, "byteLength": 12},
        ],
        images=[{"bufferView": 1, "mimeType": "image/png"}],
        nodes=[{"name": "a", "mesh": 0}, {"name": "b", "mesh": 1, "translation": [3, 0, 0]}],
        meshes=[
            {"name": f"m{k}", "primitives": [{"attributes": {"POSITION": k}, "indices": 2 + k}]} for k in (0, 1)
        ],
        scenes=[{"nodes": [0, 1]}],
        extensionsUsed=["KHR_mesh_quantization"],
        extensionsRequired=["KHR_mesh_quantization"],
    )  # fmt: skip
    return document, binary, image, stray


def named(document):
    """How often each accessor and view is named, as the specification has references to them."""
    accessors, views = [0] * len(document["accessors"]), [0] * len(document["bufferViews"])
    for mesh in document["meshes"]:
        for primitive in mesh["primitives"]:
            for k in (*primitive["attributes"].values(), primitive["indices"]):
                accessors[k] += 1
    for item in (*document["accessors"], *document.get("images", [])):
        views[item["bufferView"]] += 1
    return accessors, views


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    return tmp_path


def test_a_part_that_is_rewritten_leaves_nothing_of_its_old_numbers(folder):
    document, binary, image, stray = packed_document()
    write_glb(folder / "in" / "sign.glb", document, binary)
    before = asset_box(receive(find_sources([folder / "in"])[0]).asset)
    entry = through(folder, "{do: bake, what: [location], parts: [b]}")
    assert entry["status"] == "delivered", entry["reason"]
    assert not any(troubles(folder / "out").values())
    new, data = opened((folder / "out" / "sign.glb").read_bytes())
    assert len(new["accessors"]) == 4
    assert min(min(counts) for counts in named(new)) == 1
    # 24 bytes of the second triangle's shorts make room for 36 of floats.
    assert len(data) == len(binary) + 36 - 24
    assert image in data
    assert stray in data  # it came with it, and nobody let go of it
    view = new["bufferViews"][new["images"][0]["bufferView"]]
    assert data[view["byteOffset"] : view["byteOffset"] + view["byteLength"]] == image
    # What stays is told by the same numbers; what is new lies where it says.
    assert accessor(new, data, new["meshes"][0]["primitives"][0]["attributes"]["POSITION"])[1, 0] == 32767
    moved = accessor(new, data, new["meshes"][1]["primitives"][0]["attributes"]["POSITION"])
    assert moved[:, 0] == pytest.approx([3, 3 + 16383 / 32767, 3])
    for k in (0, 1):
        assert accessor(new, data, new["meshes"][k]["primitives"][0]["indices"]).ravel().tolist() == [0, 1, 2]
    after = asset_box(receive(find_sources([folder / "out"])[0]).asset)
    assert np.abs(before.high - after.high).max() < 1e-6


@pytest.mark.parametrize("embedded", [True, False])
def test_indices_that_turn_round_take_the_place_of_the_old_ones(folder, embedded):
    write_gltf(folder / "in" / "sign.gltf", *triangle_document(**MIRRORED), embedded=embedded)
    assert through(folder, "{do: bake}")["status"] == "delivered"
    received = receive(find_sources([folder / "out"])[0])
    document = received.carrier.document if hasattr(received.carrier, "document") else received.carrier
    assert len(document.items("accessors")) == 3
    assert document.json["buffers"][0]["byteLength"] < 80 + 4  # what follows begins at whole fours


@pytest.mark.parametrize(
    "more",
    [
        {"extensions": {"OAK_unheard_of": {"values": 2}}, "extensionsUsed": ["OAK_unheard_of"]},
        {"extras": {"cache": {"accessor": 2}}},
    ],
)
def test_what_may_be_named_in_ways_unknown_stays(folder, more):
    document, binary = triangle_document(**MIRRORED, **more)
    write_glb(folder / "in" / "sign.glb", document, binary)
    assert through(folder, "{do: bake}")["status"] == "delivered"
    new, data = opened((folder / "out" / "sign.glb").read_bytes())
    assert accessor(new, data, 2).ravel().tolist() == [0, 1, 2]  # as it came
    assert data[72:78] == binary[72:78]
