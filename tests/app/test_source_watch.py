"""Files under watch: changed, gone, come."""

from __future__ import annotations

import os
import threading

import pytest

from oak_square.app.session import stamps
from oak_square.app.session.source_watch import SourceWatch
from oak_square.app.session.stamps import stamp_of
from oak_square.delivery.batch import find_sources
from tests.patience import WAIT_MS


@pytest.fixture
def watched(tmp_path, qtbot):
    for name in ("a.stl", "b.stl"):
        (tmp_path / name).write_bytes(b"solid x\nendsolid x\n")
    watch = SourceWatch()
    watch.add([tmp_path], [(s, stamp_of(s.path)) for s in find_sources([tmp_path])])
    watch.told = []
    watch.news.connect(lambda changed, gone: watch.told.append(([s.file for s in changed], gone)))
    yield watch
    watch.close()


@pytest.fixture
def look(watched, qtbot):
    """Looks at every file, waits, and returns how many have news."""

    def look():
        with qtbot.waitSignal(watched.looked, timeout=WAIT_MS) as seen:
            watched.look()
        return seen.args[0]

    return look


def test_nothing_new_is_nothing_told(watched, look):
    assert look() == 0
    assert watched.told == []


def test_what_changed_went_and_came_is_told_once(watched, look, tmp_path):
    (tmp_path / "a.stl").write_bytes(b"solid longer\nendsolid longer\n")
    (tmp_path / "b.stl").unlink()
    (tmp_path / "c.stl").write_bytes(b"solid x\nendsolid x\n")
    assert look() == 3
    assert watched.told == [(["a.stl", "c.stl"], ["b.stl"])]
    assert look() == 0
    (tmp_path / "b.stl").write_bytes(b"solid back\nendsolid back\n")
    assert look() == 1
    assert watched.told[-1] == (["b.stl"], [])


def test_the_same_size_at_another_time_is_a_change_and_a_forgotten_file_is_none(watched, look, tmp_path):
    os.utime(tmp_path / "a.stl", ns=(1, 1))
    assert look() == 1
    watched.forget(["a.stl"])
    os.utime(tmp_path / "a.stl", ns=(2, 2))
    look()
    # It is met anew in the folder, as a file that came.
    assert watched.told[-1] == (["a.stl"], [])


def test_a_look_that_fails_does_not_end_all_looking(watched, look, tmp_path, monkeypatch):
    def gone_wrong(path):
        raise RuntimeError("the disk went away")

    with monkeypatch.context() as broken:
        broken.setattr(stamps, "stamp_of", gone_wrong)
        assert look() == 0
    os.utime(tmp_path / "a.stl", ns=(1, 1))
    assert look() == 1


def test_a_slow_disk_does_not_hold_the_window(watched, qtbot, monkeypatch):
    slow, begun = threading.Event(), threading.Event()

    def on_a_slow_disk(path):
        begun.set()
        slow.wait(10)
        return stamp_of(path)

    monkeypatch.setattr(stamps, "stamp_of", on_a_slow_disk)
    with qtbot.waitSignal(watched.looked, timeout=WAIT_MS) as first:
        watched.look()
        assert begun.wait(5)
        # It came back though no file has been looked at yet; asked again meanwhile, it looks once more.
        watched.look()
        slow.set()
    assert first.args == [0]
    qtbot.waitSignal(watched.looked, timeout=WAIT_MS).wait()
