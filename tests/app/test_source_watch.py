"""Files under watch: changed, gone, come."""

from __future__ import annotations

import os

import pytest

from oak_square.app.source_watch import SourceWatch
from oak_square.delivery import find_sources


@pytest.fixture
def watched(tmp_path, qapp):
    for name in ("a.stl", "b.stl"):
        (tmp_path / name).write_bytes(b"solid x\nendsolid x\n")
    watch = SourceWatch()
    watch.add([tmp_path], find_sources([tmp_path]))
    watch.told = []
    watch.news.connect(lambda changed, gone: watch.told.append(([s.file for s in changed], gone)))
    yield watch
    watch.close()


def test_nothing_new_is_nothing_told(watched):
    assert watched.look() == 0
    assert watched.told == []


def test_what_changed_went_and_came_is_told_once(watched, tmp_path):
    (tmp_path / "a.stl").write_bytes(b"solid longer\nendsolid longer\n")
    (tmp_path / "b.stl").unlink()
    (tmp_path / "c.stl").write_bytes(b"solid x\nendsolid x\n")
    assert watched.look() == 3
    assert watched.told == [(["a.stl", "c.stl"], ["b.stl"])]
    assert watched.look() == 0
    (tmp_path / "b.stl").write_bytes(b"solid back\nendsolid back\n")
    assert watched.look() == 1
    assert watched.told[-1] == (["b.stl"], [])


def test_the_same_size_at_another_time_is_a_change_and_a_forgotten_file_is_none(watched, tmp_path):
    os.utime(tmp_path / "a.stl", ns=(1, 1))
    assert watched.look() == 1
    watched.forget(["a.stl"])
    os.utime(tmp_path / "a.stl", ns=(2, 2))
    watched.look()
    # It is met anew in the folder, as a file that came.
    assert watched.told[-1] == (["a.stl"], [])
