"""Worker processes: one that dies costs what it was at; files appear whole or not at all."""

from __future__ import annotations

import hashlib
import os
import resource
import signal
import socket
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
import pytest

from oak_square.core.boxes import Box
from oak_square.core.errors import BadUsage
from oak_square.delivery import files, preparing, workers
from oak_square.delivery.batch import find_sources
from oak_square.delivery.entries import ManifestEntry
from oak_square.delivery.preparing import Job, prepare
from oak_square.delivery.surveying import box_json, size_json, unreadable_entry
from oak_square.delivery.workers import CRASHED, in_processes
from oak_square.formats.limits import Limits, limits_of
from oak_square.formats.register import FORMATS
from oak_square.sheet.text import parse_sheet
from tests.made import triangle_document, write_glb, write_gltf
from tests.patience import WAIT_S
from tests.runs import through

BAKE = parse_sheet("prep-sheet: 1\nsteps:\n  - {do: bake}\n", "s.yaml")


def doubled_or_dead(number: int) -> int:
    """Stands in for a reader; 13 kills its process as a fault in C code would."""
    if number == 13:
        os._exit(9)
    return number * 2


def test_a_process_that_dies_costs_only_the_item_that_killed_it():
    items = [1, 2, 13, 4, 5, 6]
    results = {item: result for item, result, _ in in_processes(doubled_or_dead, items, 2)}
    assert results == {1: 2, 2: 4, 13: None, 4: 8, 5: 10, 6: 12}
    ((_, _, why),) = in_processes(doubled_or_dead, [13], 1)
    assert why == CRASHED


@pytest.mark.parametrize("taken", [1, 3])
def test_whoever_takes_the_results_may_leave_at_any_of_them(taken):
    results = in_processes(doubled_or_dead, [1, 2, 3], 2)
    for _ in range(taken):
        next(results)
    results.close()


def dies_once(place) -> str:
    """Stands in for work whose process is killed from outside, the first time."""
    if not place.exists():
        place.write_text("died")
        os._exit(9)
    return "done"


def test_a_fork_server_that_died_is_begun_anew():
    assert list(in_processes(doubled_or_dead, [1], 1)) == [(1, 2, "")]
    os.kill(workers._SERVER._process, signal.SIGKILL)
    assert list(in_processes(doubled_or_dead, [2], 1)) == [(2, 4, "")]


def killed_at_once(number: int) -> int:
    """Stands in for work that is under way while the process it works for is interrupted."""
    time.sleep(number)
    return number


def test_what_is_interrupted_at_any_point_leaves_no_process_behind_and_goes_on_working(monkeypatch):
    """Ctrl+C falls between an order and its answer, and while items are under way."""
    heard = socket.recv_fds
    monkeypatch.setattr(socket, "recv_fds", lambda *_: (_ for _ in ()).throw(KeyboardInterrupt))
    with pytest.raises(KeyboardInterrupt):
        list(in_processes(doubled_or_dead, [1], 1))
    monkeypatch.setattr(socket, "recv_fds", heard)
    assert list(in_processes(doubled_or_dead, [3], 1)) == [(3, 6, "")]
    results = in_processes(killed_at_once, [0, 60, 60], 3)
    assert next(results) == (0, 0, "")
    with pytest.raises(KeyboardInterrupt):
        results.throw(KeyboardInterrupt)
    until = time.monotonic() + WAIT_S
    while _children_of(workers._SERVER._process):
        assert time.monotonic() < until
        time.sleep(0.05)


def _children_of(process):
    return Path(f"/proc/{process}/task/{process}/children").read_text().split()


class _Unsent(Exception):
    def __init__(self, one, two):
        super().__init__(one)


def _raise_unsent(item):
    raise _Unsent("a fault", item)


def _give_unsent(item):
    return lambda: item


def test_what_can_not_be_sent_back_is_said_in_words():
    with pytest.raises(RuntimeError, match="_Unsent: a fault"):
        list(in_processes(_raise_unsent, [1], 1))
    with pytest.raises(RuntimeError, match="pickle"):
        list(in_processes(_give_unsent, [1], 1))


def test_large_items_and_large_results_cross_at_the_same_time():
    items = [np.full(4_000_000, k, np.uint8) for k in range(6)]
    found = list(in_processes(_same, items, 2))
    assert sorted(int(result[0]) for _, result, _ in found) == list(range(6))
    assert all(item is items[result[0]] and np.array_equal(item, result) for item, result, _ in found)


def _same(item):
    return item


def test_an_item_whose_process_dies_gets_a_second_one(tmp_path):
    places = [tmp_path / "a", tmp_path / "b"]
    assert {item: result for item, result, _ in in_processes(dies_once, places, 2)} == dict.fromkeys(places, "done")


@pytest.mark.parametrize(
    ("room", "sizes", "most", "count"),
    [
        (40_000_000_000, [5_000_000] * 100, 8, 8),
        (8_000_000_000, [100_000_000] * 10, 8, 3),  # 1.7 GB each, of 6 GB
        (8_000_000_000, [1_000_000, 250_000_000, 1_000_000], 8, 3),
        (1_000_000_000, [400_000_000], 8, 1),
        (8_000_000_000, [5_000_000], 8, 1),
    ],
)
def test_no_more_processes_than_memory_has_room_for(monkeypatch, room, sizes, most, count):
    monkeypatch.setattr(workers, "_find_free_bytes", lambda: room)
    assert workers.fitting(sizes, most) == count


def test_the_room_is_what_this_machine_has():
    assert 100_000_000 < workers._find_free_bytes() <= os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")


def test_work_that_is_cancelled_is_not_begun():
    begun = list(in_processes(doubled_or_dead, list(range(12)), 2, lambda: True))
    assert begun == []


def test_pieces_are_written_one_after_the_other(tmp_path):
    path = tmp_path / "deep" / "down" / "file.bin"
    strided = np.arange(12, dtype="<u2").reshape(6, 2)[:, 0]
    files.write_chunks(path, [b"head", memoryview(b"more"), bytearray(b"!"), strided])
    assert path.read_bytes() == b"headmore!" + np.ascontiguousarray(strided).tobytes()
    assert files.sha256_of(path) == hashlib.sha256(path.read_bytes()).hexdigest()
    files.copy_file(path, tmp_path / "copy")
    assert (tmp_path / "copy").read_bytes() == path.read_bytes()


def test_a_file_is_whole_or_as_it_was(tmp_path, monkeypatch):
    path = tmp_path / "delivery.json"
    files.write_whole(path, b"old")
    files.write_whole(path, b"new")
    assert path.read_bytes() == b"new"

    def full(*_):
        raise OSError(28, "No space left on device", str(path))

    monkeypatch.setattr(files.os, "fsync", full)
    with pytest.raises(OSError, match="No space left"):
        files.write_whole(path, b"half")
    assert path.read_bytes() == b"new"
    assert [p.name for p in tmp_path.iterdir()] == ["delivery.json"]


_KILLED_AS_IT_WRITES = """
import os, signal, sys
from pathlib import Path
from oak_square.delivery.files import write_whole
os.fsync = lambda _: os.kill(os.getpid(), signal.SIG%s)
write_whole(Path(sys.argv[1]), b"half")
"""


def test_what_was_left_half_written_goes_and_what_is_being_written_stays(tmp_path):
    path = tmp_path / "sheet [1].yaml"
    subprocess.run([sys.executable, "-c", _KILLED_AS_IT_WRITES % "KILL", path], check=False)
    (left,) = tmp_path.iterdir()
    stopped = subprocess.Popen([sys.executable, "-c", _KILLED_AS_IT_WRITES % "STOP", path])
    try:
        os.waitpid(stopped.pid, os.WUNTRACED)
        assert len(list(tmp_path.iterdir())) == 1
        assert not left.exists()
        files.write_whole(path, b"whole")
        assert sorted(p.name for p in tmp_path.iterdir()) == [f".{path.name}.{stopped.pid}.part", path.name]
    finally:
        stopped.kill()
        stopped.wait()
    files.write_whole(path, b"anew")
    assert {p.name: p.read_bytes() for p in tmp_path.iterdir()} == {path.name: b"anew"}


def test_what_a_process_left_that_died_is_not_in_the_way(tmp_path):
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    source = find_sources([write_glb(tmp_path / "sign.glb", document, binary)])[0]
    (tmp_path / "stage").mkdir()
    (tmp_path / "stage" / "half").write_bytes(b"half")
    assert prepare(job(source, tmp_path / "stage")).entry.status == "delivered"
    assert not (tmp_path / "stage" / "half").exists()


def job(source, stage):
    return Job(source=source, sheet=BAKE, stage=stage)


def test_a_full_disk_fails_the_asset_and_leaves_no_half_files(tmp_path, monkeypatch):
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    source = find_sources([write_glb(tmp_path / "sign.glb", document, binary)])[0]

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(files.os, "fsync", full)
    staged = prepare(job(source, tmp_path / "stage"))
    assert (staged.entry.status, staged.entry.output, staged.names) == ("failed", None, ())
    assert staged.entry.reason == "No space left on device: the folder to deliver into"


@pytest.mark.parametrize("changed", ["text.gltf", "sign data.bin"])
def test_a_source_that_changes_while_it_is_read_is_not_delivered_under_a_hash_it_has_not(
    tmp_path, monkeypatch, changed
):
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    source = find_sources([write_gltf(tmp_path / "text.gltf", document, binary)])[0]
    read = preparing.evaluate

    def and_changed(*given, **more):
        path = tmp_path / changed
        path.write_bytes(path.read_bytes() + b" ")
        return read(*given, **more)

    monkeypatch.setattr(preparing, "evaluate", and_changed)
    staged = prepare(job(source, tmp_path / "stage"))
    assert (staged.entry.status, staged.entry.output, staged.names) == ("failed", None, ())
    assert staged.entry.reason == f"'{changed}' was changed while it was read: --resume does it again"
    assert staged.entry.source_sha256 is None
    monkeypatch.undo()
    assert prepare(job(source, tmp_path / "stage")).entry.status == "delivered"


def test_a_fault_of_ours_costs_one_asset_and_is_one_line(tmp_path, monkeypatch):
    document, binary = triangle_document()
    source = find_sources([write_glb(tmp_path / "sign.glb", document, binary)])[0]
    monkeypatch.setattr(preparing, "evaluate", lambda *_, **__: 1 / 0)
    entry = prepare(job(source, tmp_path / "one")).entry
    assert entry.status == "failed"
    assert entry.reason.startswith("a fault of ours: ZeroDivisionError")
    monkeypatch.setattr(type(FORMATS["glb"]), "read", lambda *_: [][1])
    entry = prepare(job(source, tmp_path / "two")).entry
    assert "by a fault of ours: IndexError" in entry.reason


def test_a_source_that_vanished_is_one_line(tmp_path):
    document, binary = triangle_document()
    path = write_glb(tmp_path / "sign.glb", document, binary)
    source = find_sources([path])[0]
    path.unlink()
    entry = prepare(job(source, None)).entry
    assert entry.status == "failed"
    assert entry.reason == "is not there"


def greedy_or_idle(number: int) -> int:
    """Stands in for a reader that runs away: 1 asks for more memory than it may have, 2 for more time."""
    if number == 1:
        return len(np.ones(400_000_000_000, dtype=np.uint8))
    while number == 2:
        pass
    return number


def test_a_reader_that_runs_away_costs_its_own_file(monkeypatch):
    monkeypatch.setattr("oak_square.delivery.workers.LIMITS", Limits(seconds=3, memory_bytes=8_000_000_000))
    with pytest.raises(MemoryError):
        list(in_processes(greedy_or_idle, [1], 1))
    found = {item: (result, why) for item, result, why in in_processes(greedy_or_idle, [2, 3, 4], 2)}
    assert found == {2: (None, "took over 3 seconds, which no file may"), 3: (3, ""), 4: (4, "")}


def test_limits_are_adjusted_by_name():
    assert limits_of("vertices=5e8, seconds=60").vertices == 500_000_000
    assert limits_of("") == Limits()
    for words, says in (("vertexes=5", "did you mean 'vertices'"), ("depth=deep", "no number"), ("depth=0", "nothing")):
        with pytest.raises(BadUsage, match=says):
            limits_of(words)


def test_a_model_that_can_not_be_put_in_place_takes_its_companions_back(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    write_gltf(tmp_path / "in" / "sign.gltf", document, binary)
    (tmp_path / "out" / "sign.gltf" / "in the way").mkdir(parents=True)
    (tmp_path / "out" / "sign.gltf.bin").write_bytes(b"of an earlier run")
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "failed"
    assert "sign.gltf" in entry["reason"]
    assert (tmp_path / "out" / "sign.gltf.bin").read_bytes() == b"of an earlier run"
    there = {p.name for p in (tmp_path / "out").iterdir()}
    assert there == {"sign.gltf", "sign.gltf.bin", "delivery.json"}


def test_entries_have_every_name_of_the_contract_even_when_there_is_nothing():
    assert list(ManifestEntry(source="a.glb", status="failed", reason="why").as_json()) == [
        "source", "source_sha256", "output", "output_sha256", "companions", "status", "reason",
        "size_before_m", "size_after_m", "deviation_m", "steps", "warnings",
    ]  # fmt: skip
    entry = unreadable_entry("a.glb", "glb", "is empty")
    assert entry["error"] == "is empty"
    assert [f["code"] for f in entry["findings"]] == ["unreadable"]
    assert size_json(None) is None
    box = Box(np.array([0.0, 1, 2]), np.array([3.0, 5, 7]))
    assert size_json(box) == {"width": 3, "height": 4, "depth": 5}
    assert box_json(box) == {"min": [0, 1, 2], "max": [3, 5, 7]}


def test_where_processes_can_not_begin_that_is_said_at_once(monkeypatch):
    soft, hard = resource.getrlimit(resource.RLIMIT_AS)
    monkeypatch.setattr(resource, "getrlimit", lambda _: (300_000_000, hard))
    with pytest.raises(BadUsage, match="limited to 300 MB"):
        list(in_processes(_pid, [1, 2], 1))
    monkeypatch.setattr(resource, "getrlimit", lambda _: (soft, hard))

    def without(*_, **__):
        raise OSError(11, "Resource temporarily unavailable")

    os.kill(workers._SERVER._process, signal.SIGKILL)
    monkeypatch.setattr(os, "posix_spawn", without)
    with pytest.raises(BadUsage, match=r"no process can be started: Resource"):
        list(in_processes(_pid, [1, 2], 1))


def test_where_processes_end_as_they_begin_that_is_said(monkeypatch):
    monkeypatch.setattr(workers, "_make_order", lambda *_, **__: {"modules": []})
    with pytest.raises(BadUsage, match="end as soon as they begin"):
        list(in_processes(_pid, [1, 2], 1))


def _pid(item):
    return os.getpid()


def _end(item):
    print("pages of a library's last words", flush=True)
    with tempfile.NamedTemporaryFile(delete=False) as left:
        left.write(b"a report")
    os.abort()


def test_what_a_process_writes_as_it_dies_is_neither_heard_nor_left(tmp_path, monkeypatch, capfd):
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path))
    results = list(in_processes(_end, [1, 2], 1))
    assert [why for _, _, why in results] == [CRASHED, CRASHED]
    assert list(tmp_path.iterdir()) == []
    assert capfd.readouterr() == ("", "")


def _end_but_the_last(item):
    if item < 4:
        os.abort()
    return item


def test_files_that_end_their_process_first_keep_no_other_from_being_read():
    results = {item: (result, why) for item, result, why in in_processes(_end_but_the_last, [1, 2, 3, 4, 5], 1)}
    assert [results[k] for k in (1, 2, 3)] == [(None, CRASHED)] * 3
    assert [results[k] for k in (4, 5)] == [(4, ""), (5, "")]
