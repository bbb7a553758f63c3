"""Draco geometry: read as it is, untouched while its numbers stay, written plain once they change."""

from __future__ import annotations

import DracoPy
import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from tests.made import accessor, glb, opened
from tests.runs import through, troubles

POINTS = np.array([[0, 0, 0], [1, 0, 0], [0, 2, 0], [1, 2, 0], [5, 0, 0], [6, 0, 0], [5, 1, 0]], dtype="f4")
FACES = np.array([[0, 1, 2], [1, 3, 2], [4, 5, 6]], dtype="u4")
JOINED = np.array([[k, 0, 0, 255] for k in range(7)], dtype="u1")
DRACO = "KHR_draco_mesh_compression"


def stream():
    return DracoPy.encode(
        POINTS, FACES, quantization_bits=20, preserve_order=True,
        generic_attributes={3: JOINED, 4: POINTS * 0 + [0, 0, 1]},
    )  # fmt: skip


def squeezed(data=None, *, count=7, **node):
    data = stream() if data is None else data
    unique = next(
        a["unique_id"] for a in DracoPy.decode(stream()).attributes if a["attribute_type"] == 0
    )  # fmt: skip
    names = {"POSITION": unique, "COLOR_0": 3, "NORMAL": 4}
    primitive = {
        "attributes": {"POSITION": 0, "COLOR_0": 1, "NORMAL": 2}, "indices": 3,
        "extensions": {DRACO: {"bufferView": 0, "attributes": names}, "KHR_other": {"kept": 1}},
    }  # fmt: skip
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}],
        "nodes": [{"name": "sign", "mesh": 0, **node}], "meshes": [{"name": "sign", "primitives": [primitive]}],
        "accessors": [
            {"componentType": 5126, "count": count, "type": "VEC3", "min": [0, 0, 0], "max": [6, 2, 0]},
            {"componentType": 5121, "count": count, "type": "VEC4", "normalized": True},
            {"componentType": 5126, "count": count, "type": "VEC3"},
            {"componentType": 5123, "count": 9, "type": "SCALAR"},
        ],
        "bufferViews": [{"buffer": 0, "byteLength": len(data)}], "buffers": [{"byteLength": len(data)}],
        "extensionsUsed": [DRACO, "KHR_other"], "extensionsRequired": [DRACO],
    }  # fmt: skip
    return glb(document, data)


def prepared(folder, data, *steps):
    (folder / "in").mkdir()
    (folder / "in" / "sign.glb").write_bytes(data)
    entry = through(folder, *steps)
    assert entry["status"] == "delivered", entry["reason"]
    assert troubles(folder / "out") == {"sign.glb": None}
    return entry, *opened((folder / "out" / "sign.glb").read_bytes())


def test_it_is_read_with_all_its_vertices_and_triangles(tmp_path):
    (tmp_path / "sign.glb").write_bytes(squeezed())
    asset = receive(find_sources([tmp_path])[0]).asset
    assert asset_box(asset).high == pytest.approx([6, 2, 0], abs=1e-5)
    assert (asset.triangle_count, asset.vertex_count) == (3, 7)
    assert "compressed" in asset.carries


def test_frames_change_and_the_stream_stays(tmp_path):
    _, document, binary = prepared(tmp_path, squeezed(), "{do: place, at: origin, by: pivot, shift: [1, 0, 0]}")
    assert binary[: len(stream())] == stream()
    assert document["meshes"][0]["primitives"][0]["extensions"][DRACO]["bufferView"] == 0
    assert document["nodes"][0]["translation"] == [1, 0, 0]


def test_once_its_numbers_change_it_is_written_plain(tmp_path):
    entry, document, binary = prepared(tmp_path, squeezed(scale=[2, 2, 2]), "{do: bake}")
    assert entry["deviation_m"] < 1e-5
    (primitive,) = document["meshes"][0]["primitives"]
    assert primitive["extensions"] == {"KHR_other": {"kept": 1}}
    assert document["extensionsUsed"] == ["KHR_other"]
    assert "extensionsRequired" not in document
    assert np.abs(accessor(document, binary, primitive["attributes"]["POSITION"]) - 2 * POINTS).max() < 1e-4
    assert (accessor(document, binary, primitive["attributes"]["COLOR_0"]) == JOINED).all()
    assert document["accessors"][primitive["attributes"]["COLOR_0"]]["normalized"] is True
    assert (accessor(document, binary, primitive["indices"])[:, 0].reshape(-1, 3) == FACES).all()


def test_it_comes_apart_in_pieces(tmp_path):
    _, document, binary = prepared(tmp_path, squeezed(), "{do: split, parts: [sign], into: pieces}")
    second = document["meshes"][document["nodes"][2]["mesh"]]["primitives"][0]
    assert (accessor(document, binary, second["attributes"]["COLOR_0"]) == JOINED[4:]).all()
    assert DRACO not in second["extensions"]
    assert "extensionsRequired" not in document


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (squeezed(b"DRACO" + b"\x02\x02\x01\x01" + b"\xff" * 40), "can't be decoded"),
        (squeezed(b"rubbish!"), "can't be decoded"),
        (squeezed(count=8), "POSITION: 7 decoded, 8 declared"),
    ],
)
def test_a_spoilt_stream_is_said(tmp_path, data, says):
    (tmp_path / "sign.glb").write_bytes(data)
    with pytest.raises(BadFile, match=says):
        receive(find_sources([tmp_path])[0])
