"""A watched folder, as a nightly job has it: real files that grow, change and go while the command runs."""

from __future__ import annotations

import json
import signal
import subprocess
import sys
import threading
import time

import pytest

from oak_square.delivery.proving import prove
from oak_square.delivery.watching import Watcher, watching
from tests.made import triangle_document, write_glb, write_gltf
from tests.patience import WAIT_S

OAK = [sys.executable, "-m", "oak_square"]
BAKE = "prep-sheet: 1\nsteps:\n  - {do: bake}\n"


def sign(path, scale=2.0):
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [scale] * 3}])
    return write_glb(path, document, binary)


@pytest.fixture
def place(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "s.prepsheet.yaml").write_text(BAKE)
    return tmp_path


def once(place, *more):
    words = ["watch", "s.prepsheet.yaml", "in", "--out", "out", "--once", *more]
    done = subprocess.run([*OAK, *words], cwd=place, capture_output=True, timeout=WAIT_S, check=False)
    assert b"Traceback" not in done.stderr, done.stderr
    return done.returncode, done.stdout.decode(), done.stderr.decode()


def entries(place):
    """Return what the manifest tells of each source; nothing where there is none."""
    try:
        return {e["source"]: e for e in json.loads((place / "out" / "delivery.json").read_bytes())["assets"]}
    except FileNotFoundError:
        return {}


def wait_for(met):
    end = time.monotonic() + WAIT_S
    while not met():
        assert time.monotonic() < end
        time.sleep(0.05)


def test_each_file_is_delivered_as_it_comes_changes_and_goes_and_ctrl_c_leaves_all_whole(place):
    sign(place / "in" / "first.glb")
    words = ["watch", "s.prepsheet.yaml", "in", "--out", "out", "--report", "r.csv"]
    running = subprocess.Popen([*OAK, *words], cwd=place, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    try:
        wait_for(lambda: "first.glb" in entries(place))
        first = (place / "out" / "first.glb").stat().st_mtime_ns
        sign(place / "in" / "late.glb")
        wait_for(lambda: "late.glb" in entries(place))
        sign(place / "in" / "late.glb", scale=5)
        wait_for(lambda: entries(place)["late.glb"]["size_after_m"]["width"] == 5)
        (place / "in" / "late.glb").unlink()
        (place / "in" / "broken.glb").write_bytes(b"rubbish")
        wait_for(lambda: "broken.glb" in (place / "r.csv").read_text())
        running.send_signal(signal.SIGINT)
        out, err = running.communicate(timeout=WAIT_S)
    finally:
        running.kill()
    assert running.returncode == 130
    assert err.decode().endswith("stopped; what stands in out is whole and recorded\n")
    assert b"Traceback" not in err
    told = entries(place)
    assert {f: e["status"] for f, e in told.items()} == {
        "first.glb": "delivered",
        "late.glb": "delivered",
        "broken.glb": "failed",
    }
    assert (place / "out" / "first.glb").stat().st_mtime_ns == first
    assert all(each.trouble is None for each in prove(place / "out"))
    assert out.decode().count("first.glb") == 1
    assert (place / "r.csv").read_text().count(".glb,") >= 3


def test_a_file_is_left_alone_while_it_grows_and_so_is_one_whose_buffer_does(place):
    document, binary = triangle_document()
    write_gltf(place / "in" / "text.gltf", document, binary)
    whole = sign(place / "in" / "whole.glb").read_bytes()
    stop = threading.Event()

    def grow():
        with (place / "in" / "slow.glb").open("wb") as model, next((place / "in").glob("*.bin")).open("ab") as buffer:
            for byte in whole[:40]:
                if stop.wait(0.1):
                    return
                for stream in (model, buffer):
                    stream.write(bytes([byte]))
                    stream.flush()
            model.write(whole[40:])

    growing = threading.Thread(target=grow)
    watcher = Watcher([place / "in"], print, quiet=0.5, poll=0.05)
    growing.start()
    try:
        # A buffer may belong to any model of its folder, so that nothing there is whole before it is.
        began = time.monotonic()
        found = watcher.wait(for_all=True)
        assert time.monotonic() - began > 4
    finally:
        stop.set()
        growing.join()
    assert [s.file for s in found] == ["slow.glb", "text.gltf", "whole.glb"]
    assert (place / "in" / "slow.glb").read_bytes() == whole


def test_what_is_whole_does_not_wait_for_what_grows_elsewhere(place):
    sign(place / "in" / "whole.glb")
    stop = threading.Event()

    def grow():
        with (place / "in" / "slow.glb").open("wb") as model:
            while not stop.wait(0.02):
                model.write(b"x")
                model.flush()

    growing = threading.Thread(target=grow)
    growing.start()
    try:
        assert [s.file for s in Watcher([place / "in"], print, quiet=0.3).wait()] == ["whole.glb"]
    finally:
        stop.set()
        growing.join()


def test_once_ends_as_prep_does_and_rewrites_nothing_that_has_not_changed(place):
    for name in ("kept", "goes"):
        sign(place / "in" / f"{name}.glb")
    assert once(place, "--report", "r.html")[:1] == (0,)
    files = [place / "r.html", *(place / "out").glob("*.*")]
    before = {p: (p.stat().st_ino, p.stat().st_mtime_ns) for p in files}
    assert once(place, "--report", "r.html") == (0, "2 delivered\n", "")
    assert {p: (p.stat().st_ino, p.stat().st_mtime_ns) for p in files} == before
    (place / "in" / "goes.glb").unlink()
    sign(place / "in" / "new.glb")
    assert once(place)[0] == 0
    assert sorted(entries(place)) == ["goes.glb", "kept.glb", "new.glb"]
    (place / "in" / "bad.glb").write_bytes(b"rubbish")
    code, _, err = once(place)
    assert code == 3
    assert err.startswith("bad.glb: failed: is no GLB")


def test_what_an_earlier_sheet_has_left_is_warned_of(place):
    sign(place / "in" / "goes.glb")
    once(place)
    (place / "in" / "goes.glb").unlink()
    (place / "s.prepsheet.yaml").write_text(BAKE + "title: other\n")
    code, out, err = once(place)
    assert (code, out) == (0, "nothing to deliver\n")
    assert "'goes.glb' lies here, and is not of this delivery" in err


def test_a_share_that_is_away_for_a_moment_has_lost_nothing(place):
    sign(place / "in" / "sign.glb")
    said = []
    watcher = Watcher([place / "in"], said.append, quiet=0.1, poll=0.05)
    assert len(watcher.wait()) == 1
    (place / "in").rename(place / "away")
    found = []
    waiting = threading.Thread(target=lambda: found.append(watcher.wait()))
    waiting.start()
    wait_for(lambda: said)
    (place / "away").rename(place / "in")
    wait_for(lambda: len(said) == 2)
    sign(place / "in" / "more.glb")
    waiting.join(timeout=WAIT_S)
    assert [s.file for s in found[0]] == ["more.glb", "sign.glb"]
    assert said == [f"{place / 'in'}: is not there any more: waiting", f"{place / 'in'}: is there again"]


def test_where_the_system_has_no_watcher_to_spare_it_looks_often_instead(place, monkeypatch):
    def none_left():
        raise OSError(24, "inotify instance limit reached")

    monkeypatch.setattr(sys.modules["oak_square.delivery.watching"], "Observer", none_left)
    sign(place / "in" / "sign.glb")
    with watching([place / "in"], place / "out", print) as watcher:
        assert [s.file for s in watcher.wait()] == ["sign.glb"]
        sign(place / "in" / "more.glb")
        assert [s.file for s in watcher.wait()] == ["more.glb", "sign.glb"]


@pytest.mark.parametrize(
    ("folder", "out", "says"),
    [("none", "out", "none: is no folder to watch"), ("in", "in/out", "must lie apart from the input folder")],
)
def test_wrong_folders_are_two_and_nothing_is_written(place, folder, out, says):
    before = sorted(place.rglob("*"))
    words = ["watch", "s.prepsheet.yaml", folder, "--out", out]
    done = subprocess.run([*OAK, *words], cwd=place, capture_output=True, timeout=WAIT_S, check=False)
    assert done.returncode == 2
    assert says in done.stderr.decode()
    assert sorted(place.rglob("*")) == before
