from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.errors import BadFile
from oak_square.core.frames import translation
from oak_square.core.motion import carry_all
from oak_square.formats.limits import Limits
from oak_square.formats.register import FORMATS
from tests.made import stl_binary
from tests.strategies import world_points

STL = FORMATS["stl"]
CORNERS = np.array([[[0, 0, 0], [4, 0, 0], [0, 4, 0]], [[0, 0, 1], [4, 0, 1], [0, 4, 1]]], dtype="<f4")
TEXT = """solid windlass
  facet normal 0 0 1
    outer loop
      vertex 0 0 0
      vertex 1.0e0 0 0
      vertex 0 1 0
    endloop
  endfacet
endsolid windlass
solid  second one
  facet normal 0 0 1
    outer loop
      vertex 5 0 0
      vertex 6 0 0
      vertex 5 1 0
    endloop
  endfacet
endsolid
"""


def read(folder, data, limits=None):
    path = folder / "windlass.stl"
    path.write_bytes(data)
    return STL.read(path, path.name) if limits is None else STL.read(path, path.name, limits)


def out(received, asset):
    pieces = STL.write(received, asset, asset.reading).chunks
    return None if pieces is None else b"".join(bytes(memoryview(p).cast("B")) for p in pieces)


def test_a_binary_file_moves_and_keeps_header_and_attributes(tmp_path):
    received = read(tmp_path, stl_binary(CORNERS, b"solid but binary") + b"tail")
    assert received.asset.triangle_count == 2
    moved = out(received, carry_all(received.asset, translation(np.array([1.0, 2, 3]))))
    assert moved == stl_binary(CORNERS + np.array([1, 2, 3], dtype="<f4"), b"solid but binary") + b"tail"


def test_a_mirrored_binary_file_is_wound_outward(tmp_path):
    received = read(tmp_path, stl_binary(CORNERS))
    moved = out(received, carry_all(received.asset, np.diag([1.0, 1, -1, 1])))
    assert moved == stl_binary(CORNERS[:, [0, 2, 1]] * np.array([1, 1, -1], dtype="<f4") + np.float32(0))


def test_every_solid_of_a_text_file_is_a_part_and_only_numbers_change(tmp_path):
    received = read(tmp_path, TEXT.encode())
    assert [n.name for n in received.asset.nodes] == ["windlass", "second one"]
    assert world_points(received.asset, 1)[1] == pytest.approx([6, 0, 0])
    moved = out(received, carry_all(received.asset, translation(np.array([0.0, 0, 2])))).decode()
    expected = TEXT
    for old in ("0 0 0", "1.0e0 0 0", "0 1 0", "5 0 0", "6 0 0", "5 1 0"):
        new = old.replace("1.0e0", "1")[:-1] + "2"
        expected = expected.replace(f"vertex {old}", f"vertex {new}")
    assert moved == expected
    assert out(received, received.asset) is None


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "is empty"),
        (b"x" * 40, "cut short or no STL"),
        (stl_binary(CORNERS)[:-10], "declares 2 triangles and has bytes for 1"),
        (b"h" * 80 + b"\xff\xff\xff\xff", "declares 4294967295 triangles"),
        (TEXT[:110].encode(), "it ends without 'endsolid'"),
        (TEXT.replace("vertex 1.0e0 0 0\n", "").encode(), "2 facets have 5 vertices"),
        (TEXT.replace("facet normal 0 0 1", "facet", 1).encode(), "line 2: a facet without"),
        (stl_binary(CORNERS)[:80] + bytes(4) + stl_binary(CORNERS)[84:], "declares 0 triangles and has bytes for 2"),
    ],
)
def test_a_malformed_stl_says_what_is_missing(tmp_path, data, says):
    with pytest.raises(BadFile, match=says):
        read(tmp_path, data)


def test_limits_hold_before_anything_is_allocated(tmp_path):
    with pytest.raises(BadFile, match="over the limit of 1"):
        read(tmp_path, stl_binary(CORNERS), Limits(triangles=1))
    with pytest.raises(BadFile, match="bytes, over the limit of 10"):
        read(tmp_path, stl_binary(CORNERS), Limits(file_bytes=10))
