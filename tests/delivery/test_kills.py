"""Runs killed at moments nobody chose, and clocks that go wrong: what is resumed is as if nothing had been."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.sheet.text import parse_sheet
from tests.made import triangle_document, write_glb, write_gltf
from tests.patience import WAIT_S

TEXT = "prep-sheet: 1\nsteps:\n  - {do: bake}\n  - {do: pivot, at: base}\n"
COUNT = 24


def batch(folder):
    """Models of two kinds, one of which brings a buffer of its own."""
    for k in range(COUNT):
        (folder / f"d{k}").mkdir(parents=True)
        document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [k + 2] * 3}])
        write = write_gltf if k % 2 else write_glb
        write(folder / f"d{k}" / f"sign_{k}.{'gltf' if k % 2 else 'glb'}", document, binary)
    (folder.parent / "s.yaml").write_text(TEXT)


def held(folder):
    return {p.relative_to(folder).as_posix(): p.read_bytes() for p in folder.rglob("*") if p.is_file()}


def run_of(home, **more):
    sources, sheet = tuple(find_sources([home / "in"])), parse_sheet(TEXT, "s.yaml")
    return Run(sources=sources, sheet=sheet, sheet_bytes=TEXT.encode(), out=home / "out", **more)


def forked(pid):
    """Every process that was started for `pid`, but itself, and its parent: they share its session."""
    found = {}
    for place in Path("/proc").iterdir():
        if place.name.isdigit() and place.name != str(pid):
            try:
                fields = (place / "stat").read_text().rsplit(")", 1)[1].split()
            except OSError:
                continue
            if int(fields[3]) == pid and fields[0] != "Z":
                found[int(place.name)] = int(fields[1])
    return found


@pytest.fixture(scope="module")
def undisturbed(tmp_path_factory):
    home = tmp_path_factory.mktemp("undisturbed")
    batch(home / "in")
    deliver(run_of(home))
    return held(home / "out")


@pytest.mark.parametrize("seed", range(4))
def test_what_is_killed_at_any_moment_is_whole_once_it_is_resumed(tmp_path, undisturbed, seed):
    chance = random.Random(seed)
    batch(tmp_path / "in")
    out, words = tmp_path / "out", [str(tmp_path / "s.yaml"), str(tmp_path / "in"), "--jobs", "2"]
    command = [sys.executable, "-m", "oak_square", "prep", *words, "--out", str(out)]
    running = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, start_new_session=True)
    while not (out / ".oak-square").exists() and running.poll() is None:
        time.sleep(0.005)
    time.sleep(chance.uniform(0, 1.2))
    # Not those that the interpreter starts for itself, which workers are forked from.
    workers = [child for child, parent in forked(running.pid).items() if parent != running.pid]
    victim = running.pid if seed % 2 or not workers else chance.choice(workers)
    with contextlib.suppress(ProcessLookupError):  # it was through already
        os.kill(victim, signal.SIGKILL)
    _, err = running.communicate(timeout=WAIT_S)
    assert b"Traceback" not in err
    until = time.monotonic() + WAIT_S
    while forked(running.pid):
        assert time.monotonic() < until
        time.sleep(0.05)
    for path in out.rglob("sign_*.gl*"):
        if ".oak-square" not in path.parts:  # whole, or not there
            assert path.read_bytes() == undisturbed[path.relative_to(out).as_posix()]
    deliver(run_of(tmp_path, resume=True))
    assert held(out) == undisturbed


_KILLED_BEFORE_A_RENAME = """
import os, signal, sys
from pathlib import Path
from oak_square.__main__ import main
rename, name = Path.replace, sys.argv[1]
def replace(path, target):
    if Path(target).name == name:
        os.kill(os.getpid(), signal.SIGKILL)
    return rename(path, target)
Path.replace = replace
sys.argv = ["oak-square", *sys.argv[2:]]
main()
"""


@pytest.mark.parametrize("name", ["journal.jsonl", "delivery.json", "read.json"])
def test_what_is_killed_while_it_writes_a_file_of_its_own_leaves_nothing_of_it(tmp_path, undisturbed, name):
    batch(tmp_path / "in")
    words = ["prep", str(tmp_path / "s.yaml"), str(tmp_path / "in"), "--out", str(tmp_path / "out")]
    killed = subprocess.run([sys.executable, "-c", _KILLED_BEFORE_A_RENAME, name, *words], capture_output=True)
    assert killed.returncode == -signal.SIGKILL
    deliver(run_of(tmp_path, resume=True))
    assert held(tmp_path / "out") == undisturbed


def test_a_clock_that_was_set_back_hides_no_change(tmp_path, undisturbed):
    """What changed is as long as before, and older than all that was delivered."""
    batch(tmp_path / "in")
    deliver(run_of(tmp_path))
    out, long_ago = tmp_path / "out", 86_400.0
    source, delivered = tmp_path / "in" / "d4" / "sign_4.glb", out / "d6" / "sign_6.glb"
    buffer = next((tmp_path / "in" / "d5").glob("*.bin"))
    source.write_bytes(source.read_bytes().replace(b'"scale": [6, 6, 6]', b'"scale": [7, 7, 7]'))
    delivered.write_bytes(delivered.read_bytes()[:-4] + b"\1\1\1\1")
    buffer.write_bytes(buffer.read_bytes()[:12] + b"\0\0\0\x40" + buffer.read_bytes()[16:])
    for path in (source, buffer, delivered, out / "delivery.json"):
        os.utime(path, (long_ago, long_ago))
    done = []
    deliver(run_of(tmp_path, resume=True), lambda _done, _all, entry: done.append(entry["source"]))
    assert sorted(done) == ["d4/sign_4.glb", "d5/sign_5.gltf", "d6/sign_6.glb"]
    now = held(out)
    assert now["d6/sign_6.glb"] == undisturbed["d6/sign_6.glb"]
    assert {name for name in now if now[name] != undisturbed[name]} >= {"d4/sign_4.glb", "delivery.json"}
