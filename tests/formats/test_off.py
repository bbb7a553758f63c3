"""OFF as people's programs write it: numbers move, comments and colours stay."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.errors import BadFile
from oak_square.core.motion import resize_all
from oak_square.formats.register import FORMATS
from tests.runs import through

SIGN = b"""OFF # a sign at Fenwick Lock
# counts
4 2 0

0 0 0
1 0 0   # right
1\t2 0
0 2 0
4  0 1 2 3  200 30 30
3 0 2 3
"""
NOFF = b"NOFF 3 1 0\n0 0 0 0 0 1\n1 0 0 0 0 1\n0 1 0 0 0 1\n3 0 1 2\n"


def read(path, data):
    path.write_bytes(data)
    return FORMATS["off"].read(path, path.name)


def test_it_is_read_with_or_without_its_keyword(tmp_path):
    for data in (SIGN, SIGN.replace(b"OFF ", b"")):
        (mesh,) = read(tmp_path / "sign.off", data).asset.meshes
        assert mesh.points.tolist() == [[0, 0, 0], [1, 0, 0], [1, 2, 0], [0, 2, 0]]
        assert mesh.triangles.tolist() == [[0, 1, 2], [0, 2, 3], [0, 2, 3]]


def test_a_size_changes_numbers_alone(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "sign.off").write_bytes(SIGN)
    entry = through(tmp_path, "{do: size, factor: 1.5, about: origin}")
    assert entry["status"] == "delivered"
    wanted = (
        SIGN.replace(b"1 0 0   #", b"1.5 0 0   #").replace(b"1\t2 0", b"1.5\t3 0").replace(b"0 2 0\n4", b"0 3 0\n4")
    )
    assert (tmp_path / "out" / "sign.off").read_bytes() == wanted


def test_a_mirror_winds_faces_and_turns_normals(tmp_path):
    received = read(tmp_path / "sign.off", NOFF)
    out = FORMATS["off"].write(received, resize_all(received.asset, np.diag([1.0, 1, -1, 1])), received.asset.reading)
    assert out.chunks[0] == NOFF.replace(b"0 1\n", b"0 -1\n").replace(b"3 0 1 2", b"3 0 2 1")


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (SIGN.replace(b"4 2 0", b"4 9 0"), "is cut short: it declares 4 vertices and 9 faces"),
        (SIGN.replace(b"4 2 0", b"4 1e999 0"), "lacks its numbers of vertices and faces"),
        (SIGN.replace(b"1\t2 0", b"1\tx 0"), "line 7: 'x' is no number"),
        (SIGN.replace(b"1\t2 0", b"1\t2"), "line 7 has fewer than 3 numbers"),
        (SIGN.replace(b"3 0 2 3\n", b"3 0 2 9\n"), "names a vertex that is not there"),
        (SIGN.replace(b"3 0 2 3\n", b"7 0 2 3\n"), "line 10 has fewer corners than it says"),
        (b"4OFF 1 0 0\n0 0 0 0\n", "is no OFF that is read"),
        (b"OFF BINARY\n", "is no OFF that is read"),
    ],
)
def test_what_is_wrong_is_said_with_its_line(tmp_path, data, says):
    with pytest.raises(BadFile, match=says):
        read(tmp_path / "sign.off", data)
