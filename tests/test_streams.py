"""A command in a pipe: nobody listens any more, nobody ever did, the disk is full, the terminal is gone."""

from __future__ import annotations

import errno
import json
import os
import signal
import subprocess
import sys
import time

import pytest

from oak_square.delivery import report
from tests.made import triangle_document, write_glb
from tests.patience import WAIT_S

OAK = f"{sys.executable} -m oak_square"
BAKE = "prep-sheet: 1\nsteps:\n  - {do: bake}\n"


@pytest.fixture
def place(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    for k in range(6):
        write_glb(tmp_path / "in" / f"sign_{k}.glb", document, binary)
    (tmp_path / "s.yaml").write_text(BAKE)
    return tmp_path


def shell(place, line, **more):
    done = subprocess.run(
        ["bash", "-c", line], cwd=place, capture_output=True, text=True, timeout=WAIT_S, check=False, **more
    )
    assert "Traceback" not in done.stderr, done.stderr
    return done


@pytest.mark.parametrize("words", ["--json-lines", ""])
def test_a_delivery_goes_on_where_nobody_listens_any_more(place, words):
    done = shell(place, f"{OAK} prep s.yaml in --out out {words} | head -1; exit ${{PIPESTATUS[0]}}")
    assert (done.returncode, done.stderr) == (0, "")
    manifest = json.loads((place / "out" / "delivery.json").read_text())
    assert [e["status"] for e in manifest["assets"]] == ["delivered"] * 6


@pytest.mark.parametrize("line", ["survey in >&-", "survey in 2>&-", "survey in --json <&- >&- 2>&-", "formats >&-"])
def test_streams_that_are_closed_hurt_nobody(place, line):
    assert shell(place, f"{OAK} {line}").returncode == 0


def test_a_full_disk_is_told_with_what_could_not_be_written(place):
    done = shell(place, f"{OAK} survey in > /dev/full")
    assert done.returncode == 3
    assert "No space left on device" in done.stderr


def test_a_report_that_can_not_be_written_is_named(tmp_path, monkeypatch):
    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(report, "write_whole", full)
    manifest = {"oak_square": "", "sheet": {"title": "", "sha256": ""}, "warnings": [], "assets": []}
    with pytest.raises(OSError, match="No space left") as error:
        report.write_reports([tmp_path / "r.csv"], manifest)
    assert error.value.filename == str(tmp_path / "r.csv")


def test_nothing_listed_on_standard_input_is_said_as_that(place):
    done = shell(place, f"true | {OAK} survey -")
    assert (done.returncode, done.stderr) == (2, "-: standard input lists no paths\n")
    assert shell(place, f"echo in | {OAK} survey - -").returncode == 2
    assert shell(place, f"printf 'in\\n\\n' | {OAK} survey -").returncode == 0


@pytest.mark.parametrize("is_nohup", [False, True])
def test_a_terminal_that_goes_ends_it_without_a_word_unless_it_was_told_to_stay(place, is_nohup):
    line = f"{'nohup ' if is_nohup else ''}{OAK} watch s.yaml in --out out"
    running = subprocess.Popen(
        ["env", "-u", "PYTHONUNBUFFERED", "bash", "-c", f"exec {line}"],
        cwd=place, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip
    said = "" if is_nohup else "".join(running.stdout.readline() for _ in range(7))
    end = time.monotonic() + WAIT_S
    while not (place / "out" / "delivery.json").exists():
        assert time.monotonic() < end
        time.sleep(0.05)
    running.send_signal(signal.SIGHUP)
    if is_nohup:
        with pytest.raises(subprocess.TimeoutExpired):
            running.wait(1)
        running.terminate()
        assert running.wait(WAIT_S) == 143
        running.communicate()
        return
    out, err = running.communicate(timeout=WAIT_S)
    assert (running.returncode, err) == (129, "")
    assert (said + out).count("delivered") == 7


def test_a_dry_run_ends_as_the_run_would_and_says_would(place):
    done = shell(place, f"{OAK} prep s.yaml in --out out --dry-run")
    assert "sign_0.glb  would be delivered" in done.stdout
    shell(place, f"{OAK} prep s.yaml in --out out")
    run = shell(place, f"{OAK} prep s.yaml in --out out")
    dry = shell(place, f"{OAK} prep s.yaml in --out out --dry-run")
    assert (run.returncode, dry.returncode) == (2, 2)
    assert shell(place, f"{OAK} prep s.yaml in --out out --dry-run --replace").returncode == 0


def test_watch_and_prove_speak_json_in_both_ways(place):
    (place / "in" / "sunk.glb").write_bytes(b"glTF")
    done = shell(place, f"{OAK} watch s.yaml in --out out --once --json")
    assert json.loads(done.stdout) == json.loads((place / "out" / "delivery.json").read_text())
    assert "sunk.glb: failed: " in done.stderr
    (place / "out" / "sign_3.glb").unlink()
    done = shell(place, f"{OAK} prove out --json-lines")
    rows = [json.loads(line) for line in done.stdout.splitlines()]
    assert [(row["done"], row["of"]) for row in rows[:-1]] == [(k, 6) for k in range(1, 7)]
    assert sum(row["asset"]["holds"] for row in rows[:-1]) == 5
    assert rows[-1] == {"totals": {"holds": 5, "does not hold": 1}, "warnings": []}
    assert done.returncode == 1
    assert shell(place, f"{OAK} prove out --json-lines --json").returncode == 2


def test_a_watch_warns_of_one_thing_once(place):
    (place / "s.yaml").write_text(f"{BAKE}  - {{do: bake, for: [nobody]}}\n")
    running = subprocess.Popen(
        [*OAK.split(), "watch", "s.yaml", "in", "--out", "out"],
        cwd=place, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip
    for k in (6, 7):
        end = time.monotonic() + WAIT_S
        while len(list((place / "out").glob("*.glb"))) < k or not (place / "out" / "delivery.json").exists():
            assert time.monotonic() < end
            time.sleep(0.05)
        if k == 6:
            os.link(place / "in" / "sign_0.glb", place / "more.glb")
            (place / "more.glb").rename(place / "in" / "more.glb")
    running.send_signal(signal.SIGINT)
    _, err = running.communicate(timeout=WAIT_S)
    assert err.count("matches nothing") == 1


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGINT, signal.SIGHUP])
def test_an_idle_window_closes_on_a_signal_as_by_its_cross(place, number):
    home = {"XDG_CONFIG_HOME": str(place), "XDG_CACHE_HOME": str(place), "XDG_STATE_HOME": str(place)}
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", **home}
    code = (
        "import sys; from PySide6.QtCore import QTimer; from oak_square import cli\n"
        "import oak_square.commands.window as w\n"
        "w.begin(kept=True); start = w.loaded(); before = start.offer_work\n"
        "def offered(window):\n"
        "    before(window); QTimer.singleShot(1500, lambda: print('idle', flush=True))\n"
        "start.offer_work = offered\n"
        "sys.argv = ['oak-square', 'open', 'in']\n"
        "cli.main()\n"
    )
    running = subprocess.Popen(
        [sys.executable, "-c", code], cwd=place, env=environment, stdout=subprocess.PIPE, stderr=subprocess.PIPE,
        text=True,
    )  # fmt: skip
    assert running.stdout.readline() == "idle\n"
    running.send_signal(number)
    assert running.wait(30) == 0, running.stderr.read()
    assert "Traceback" not in running.stderr.read()
    running.stdout.close()
    running.stderr.close()
