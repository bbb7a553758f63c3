"""The command as a gate: it lets nothing pass that it has not seen, and says what it saw."""

from __future__ import annotations

import io
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path

import pytest

from oak_square import cli
from oak_square.demo import BATCH
from tests.made import triangle_document, write_glb, write_gltf
from tests.patience import WAIT_S

OAK = [sys.executable, "-m", "oak_square"]
BAKE = "prep-sheet: 1\nsteps:\n  - {do: bake}\n"


def oak(*words, **more):
    """Run a command, in a process of its own where there is more to it than its words."""
    if not more:
        return oak_here(*words)
    done = subprocess.run([*OAK, *map(str, words)], capture_output=True, timeout=WAIT_S, check=False, **more)
    assert b"Traceback" not in done.stderr, done.stderr
    return done.returncode, done.stdout, done.stderr.decode()


def oak_here(*words):
    """Run a command in this process, which costs a twentieth of starting one."""
    heard = {number: signal.getsignal(number) for number in (signal.SIGTERM, signal.SIGHUP)}
    out, err = (io.TextIOWrapper(io.BytesIO(), encoding="utf-8") for _ in range(2))
    with pytest.MonkeyPatch.context() as patched, redirect_stdout(out), redirect_stderr(err):
        patched.setattr(sys, "argv", ["oak-square", *map(str, words)])
        with pytest.raises(SystemExit) as ended:
            cli.main()
    for number, handler in heard.items():
        signal.signal(number, handler)
    for stream in (out, err):
        stream.flush()
    told = err.buffer.getvalue().decode()
    assert "Traceback" not in told, told
    return ended.value.code, out.buffer.getvalue(), told


def sign(path, scale=2):
    path.parent.mkdir(parents=True, exist_ok=True)
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [scale] * 3}])
    return write_glb(path, document, binary)


def test_two_models_of_one_name_both_stand_and_prep_refuses_the_pair(tmp_path):
    for folder in ("a/north", "b/north"):
        (tmp_path / folder).mkdir(parents=True)
    (tmp_path / "a/north/sign.glb").write_bytes(b"rubbish")
    sign(tmp_path / "b/north/sign.glb")
    code, out, err = oak("survey", tmp_path / "a/north", tmp_path / "b/north", "--json")
    files = {a["file"]: a["error"] for a in json.loads(out)["assets"]}
    assert code == 3
    assert len(files) == 2
    assert files["b/north/sign.glb"] is None
    assert "no GLB" in files["a/north/sign.glb"]
    assert err.startswith("a/north/sign.glb: is no GLB")
    (tmp_path / "s.yaml").write_text(BAKE)
    code, _, err = oak(
        "prep", tmp_path / "s.yaml", tmp_path / "a/north", tmp_path / "b/north", "--out", tmp_path / "out"
    )
    assert (code, err.count("\n")) == (2, 1)
    assert "would both be delivered as 'sign.glb'" in err


def test_a_gate_that_sees_nothing_does_not_let_pass(tmp_path):
    (tmp_path / "empty").mkdir()
    code, out, err = oak("survey", tmp_path / "empty", "--fail-on", "note")
    assert (code, out, err.count("\n")) == (2, b"", 1)
    assert "nothing was looked at" in err
    code, _, err = oak("survey", tmp_path / "empty")
    assert (code, err) == (0, f"no models found in {tmp_path / 'empty'}\n")


def test_what_lies_beside_models_is_no_broken_model(tmp_path):
    sign(tmp_path / "sign.glb")
    beside = ["oak.mtl", "size.csv", "s.prepsheet.yaml", "notes.txt", "oak.png", "README"]
    for name in beside:
        (tmp_path / name).write_text("no model")
    (tmp_path / "gate.fx").write_text("a model of a kind that is not read")
    code, out, err = oak("survey", *sorted(tmp_path.iterdir()))
    assert code == 3
    assert err.splitlines() == ["6 files are no models, and passed over", "gate.fx: '.fx' is no format that is read"]
    assert b"sign.glb" in out
    code, out, _ = oak("survey", "-", "--json", input="\n".join(map(str, [tmp_path / "sign.glb", ""])).encode())
    assert (code, [a["file"] for a in json.loads(out)["assets"]]) == (0, ["sign.glb"])


def test_a_gate_says_what_fails_it_and_closes_with_totals(tmp_path):
    sign(tmp_path / "true.glb", 1)
    sign(tmp_path / "scaled.glb", 2)
    code, _, err = oak("survey", tmp_path, "--fail-on", "fix")
    assert code == 1
    assert err.splitlines() == ["scaled.glb: fails on fix: scale-unbaked", "1 of 2 assets fail on fix"]


def test_a_size_book_in_the_folder_is_taken_as_the_window_takes_it(tmp_path):
    sign(tmp_path / "sign.glb", 1)
    (tmp_path / "size_book.csv").write_text("pattern,width_min,width_max\nsign*,2 m,3 m\n")
    code, out, _ = oak("survey", tmp_path, "--fail-on", "fix")
    assert code == 1
    assert f"held against the size book {tmp_path / 'size_book.csv'}".encode() in out
    assert b"size-out-of-book" in out
    assert oak("survey", tmp_path / "sign.glb", "--fail-on", "fix")[0] == 0  # a file alone brings no book


def test_pipes_sockets_and_links_to_nowhere_are_rows_at_once(tmp_path):
    folder = tmp_path / "in"
    sign(folder / "sign.glb")
    os.mkfifo(folder / "pipe.glb")
    with socket.socket(socket.AF_UNIX) as there:
        there.bind(str(folder / "tap.obj"))
        (folder / "gone.stl").symlink_to(folder / "nowhere.stl")
        started = time.monotonic()
        code, out, _ = oak("survey", folder, "--json")
        (tmp_path / "s.yaml").write_text(BAKE)
        second, _, err = oak("prep", tmp_path / "s.yaml", folder, "--out", tmp_path / "out")
    assert time.monotonic() - started < WAIT_S
    errors = {a["file"]: a["error"] for a in json.loads(out)["assets"]}
    assert errors == {
        "pipe.glb": "is a pipe, no file", "tap.obj": "is a socket, no file", "sign.glb": None,
        "gone.stl": "can't be read: No such file or directory",
    }  # fmt: skip
    assert (code, second) == (3, 3)
    assert "pipe.glb: failed: is a pipe, no file" in err


@pytest.mark.skipif(os.getuid() != 0, reason="to become somebody else takes root")
def test_what_somebody_may_not_see_is_a_row_with_its_reason(tmp_path):
    tmp_path.chmod(0o755)
    for above in tmp_path.parents:
        if above.stat().st_uid == os.getuid() and above != Path("/"):
            above.chmod(above.stat().st_mode | 0o055)
    folder = tmp_path / "in"
    sign(folder / "sign.glb")
    sign(folder / "mine" / "other.glb")
    sign(folder / "shut.glb").chmod(0)
    (folder / "mine").chmod(0)
    program = (
        "import encodings.utf_8_sig, os, sys, scipy.spatial; "
        "import oak_square.delivery.surveying, oak_square.formats.gltf.files; "
        "os.setgroups([]); os.setgid(65534); os.setuid(65534); "
        "from oak_square.delivery.batch import find_sources; from pathlib import Path; import json; "
        "from oak_square.delivery.surveying import survey_source; "
        "print(json.dumps({s.file: survey_source(s)['error'] for s in find_sources([Path(sys.argv[1])])}))"
    )
    done = subprocess.run([sys.executable, "-c", program, str(folder)], capture_output=True, text=True, check=False)
    assert json.loads(done.stdout) == {
        "mine": "can't be entered: Permission denied", "shut.glb": "can't be read: Permission denied", "sign.glb": None,
    }  # fmt: skip


def test_a_name_that_is_no_utf8_is_shown_escaped_and_delivered(tmp_path):
    folder = tmp_path / "in"
    sign(folder / "plain.glb")
    odd = os.fsdecode(b"odd\xff.glb")
    sign(folder / "odd.glb").rename(folder / odd)
    (tmp_path / "s.yaml").write_text(BAKE)
    ascii_only = {**os.environ, "LC_ALL": "C", "PYTHONIOENCODING": "ascii", "PYTHONUTF8": "0"}
    code, out, err = oak("prep", tmp_path / "s.yaml", folder, "--out", tmp_path / "out", env=ascii_only)
    assert (code, err) == (0, "")
    assert rb"odd\udcff.glb" in out
    manifest = json.loads((tmp_path / "out" / "delivery.json").read_bytes().decode("utf-8"))
    assert [e["status"] for e in manifest["assets"]] == ["delivered", "delivered"]
    assert (tmp_path / "out" / odd).exists()
    assert oak("prove", tmp_path / "out")[0] == 0
    code, out, _ = oak("survey", folder, env=ascii_only)  # × stands in every line
    assert (code, rb"2.00 \xd7 4.00" in out) == (0, True)


def test_a_closed_pipe_is_no_trouble(tmp_path):
    for k in range(100):
        sign(tmp_path / f"sign_with_a_long_name_so_that_no_pipe_holds_it_all_{k}.glb")
    for more in ("--json", ""):
        command = f'("{sys.executable}" -m oak_square survey {tmp_path} {more}; echo $? >&2) | head -1'
        done = subprocess.run(["sh", "-c", command], capture_output=True, check=False)
        assert (done.stdout.count(b"\n"), done.stderr) == (1, b"0\n")


def test_with_no_display_the_window_says_so_in_one_line(tmp_path):
    bare = {k: v for k, v in os.environ.items() if k not in {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}}
    nowhere = ({}, {"DISPLAY": ":4711"}, {"WAYLAND_DISPLAY": "nowhere-0"})
    for words, more in zip(([], ["open", tmp_path], ["demo"]), nowhere, strict=True):
        code, out, err = oak(*words, env={**bare, **more})
        assert (code, out, err.count("\n")) == (2, b"", 1), err
        assert "no display" in err
    shot = tmp_path / "shot.png"
    assert oak("demo", "--shot", shot, env=bare)[0] == 0
    assert shot.read_bytes()[:4] == b"\x89PNG"


def _slow_batch(tmp_path):
    """A batch whose tenth model keeps its reader busy for long, and the sheet for it."""
    for k in range(9):
        document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
        (write_gltf if k == 3 else write_glb)(tmp_path / "in" / f"a{k}.{'gltf' if k == 3 else 'glb'}", document, binary)
    big = "".join(f"v {k} {k % 7} {k % 11}\n" for k in range(600_000))
    faces = "".join(f"f {k} {k + 1} {k + 2}\n" for k in range(1, 599_998))
    (tmp_path / "in" / "z_big.obj").write_text(big + faces)
    (tmp_path / "s.yaml").write_text("prep-sheet: 1\nsteps:\n  - {do: turn, by: [0, 10, 0]}\n")
    return [*OAK, "prep", str(tmp_path / "s.yaml"), str(tmp_path / "in"), "--out", str(tmp_path / "out")]


def _wait_for(condition):
    until = time.monotonic() + WAIT_S
    while not condition():
        assert time.monotonic() < until
        time.sleep(0.02)


def _family(pid):
    """Every process that has been forked for `pid`: they share its session."""
    found = []
    for place in Path("/proc").iterdir():
        if place.name.isdigit():
            try:
                fields = (place / "stat").read_text().rsplit(")", 1)[1].split()
            except OSError:
                continue
            if int(fields[3]) == pid and fields[0] != "Z":
                found.append(int(place.name))
    return found


@pytest.mark.parametrize("how", [signal.SIGINT, signal.SIGTERM, signal.SIGKILL])
def test_a_run_that_is_ended_goes_on_where_it_was_and_leaves_nobody_behind(tmp_path, how):
    (tmp_path / "in").mkdir()
    command = [*_slow_batch(tmp_path), "--report", str(tmp_path / "r.csv")]
    running = subprocess.Popen(command, stderr=subprocess.PIPE, stdout=subprocess.DEVNULL, start_new_session=True)
    out = tmp_path / "out"
    _wait_for(lambda: len(list(out.glob("a*.gl*f"))) + len(list(out.glob("a*.glb"))) >= 9)
    journal = out / ".oak-square" / "journal.jsonl"
    _wait_for(lambda: len(journal.read_bytes().splitlines()) == 10)
    os.kill(running.pid, how)
    _, err = running.communicate(timeout=WAIT_S)
    _wait_for(lambda: not _family(running.pid))
    if how != signal.SIGKILL:
        assert running.returncode == 128 + how
        said = f"stopped: 9 of 10 assets stand in {out}, proved and recorded; --resume does the rest\n"
        assert err.decode() == said
        assert (tmp_path / "r.csv").read_text().count("\n") == 10  # a head, and a row for each that stands
        assert oak("prove", out)[0] == 0
    before = {p.name: p.stat().st_mtime_ns for p in out.glob("a*")}
    code, _, _ = oak(*command[3:], "--resume")
    assert code == 0
    assert {p.name: p.stat().st_mtime_ns for p in out.glob("a*")} == before
    assert len(json.loads((out / "delivery.json").read_text())["assets"]) == 10
    assert not list((out / ".oak-square").glob("stage*"))
    shutil.rmtree(out)


@pytest.mark.parametrize("how", [signal.SIGINT, signal.SIGTERM])
@pytest.mark.parametrize("command", ["survey", "prep", "prep --scheduler local:2"])
def test_while_its_processes_are_still_starting_a_run_ends_in_one_line(tmp_path, command, how):
    """Ctrl+C goes to all of them, as it does in a terminal; a request to end to the command alone."""
    (tmp_path / "s.yaml").write_text(BAKE)
    verb, *options = command.split()
    words = ["survey", BATCH] if verb == "survey" else [verb, tmp_path / "s.yaml", BATCH, "--out", tmp_path / "out"]
    for moment_s in (0, 0.2):
        every = [*OAK, *map(str, words), *options]
        running = subprocess.Popen(every, stderr=subprocess.PIPE, stdout=subprocess.DEVNULL, start_new_session=True)
        _wait_for(lambda running=running: len(_family(running.pid)) > 2 or running.poll() is not None)
        time.sleep(moment_s)
        (os.killpg if how == signal.SIGINT else os.kill)(running.pid, how)
        _, err = running.communicate(timeout=WAIT_S)
        assert running.returncode == 128 + how
        assert err.startswith(b"stopped")
        assert err.count(b"\n") == 1
        _wait_for(lambda running=running: not _family(running.pid))
        shutil.rmtree(tmp_path / "out", ignore_errors=True)


BARE = """
import sys
class Blocked:
    def find_spec(self, name, path=None, target=None):
        if name.split(".")[0] in {"PySide6", "vtk", "vtkmodules"}:
            raise ModuleNotFoundError(f"No module named {name!r}", name=name)
sys.meta_path.insert(0, Blocked())
from oak_square.cli import main
sys.argv = ["oak-square", *sys.argv[1:]]
main()
"""


def bare(*words):
    """Run a command where nothing of the window is installed."""
    done = subprocess.run(
        [sys.executable, "-c", BARE, *map(str, words)], capture_output=True, timeout=WAIT_S, check=False
    )
    assert b"Traceback" not in done.stderr, done.stderr
    return done.returncode, done.stderr.decode()


def test_a_gate_needs_no_qt(tmp_path):
    sign(tmp_path / "in" / "sign.glb")
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text(BAKE)
    assert bare("survey", tmp_path / "in", "--json")[0] == 0
    assert bare("prep", sheet, tmp_path / "in", "--out", tmp_path / "out")[0] == 0
    assert bare("prove", tmp_path / "out")[0] == 0
    code, said = bare("demo", "--shot", tmp_path / "x.png")
    assert code == 2
    assert "install 'oak-square[window]'" in said


def _busiest(processes):
    """The process that has used the most time: the one that works on the big model."""
    used = {}
    for process in processes:
        fields = Path(f"/proc/{process}/stat").read_text().rsplit(")", 1)[1].split()
        used[process] = int(fields[11]) + int(fields[12])
    return max(used, key=used.get), max(used.values())


def test_a_worker_that_is_killed_costs_no_asset(tmp_path):
    (tmp_path / "in").mkdir()
    running = subprocess.Popen(
        _slow_batch(tmp_path), stderr=subprocess.PIPE, stdout=subprocess.PIPE, start_new_session=True
    )
    out = tmp_path / "out"
    _wait_for(lambda: len(list(out.glob("a*.gl*"))) >= 9)
    workers = [p for p in _family(running.pid) if p != running.pid]
    _wait_for(lambda: _busiest(workers)[1] > 60)
    os.kill(_busiest(workers)[0], signal.SIGKILL)
    said, err = running.communicate(timeout=WAIT_S)
    assert (running.returncode, err) == (0, b"")
    assert b"z_big.obj  delivered" in said
    assert len(json.loads((out / "delivery.json").read_bytes())["assets"]) == 10
    assert not list((out / ".oak-square").glob("stage*"))
    assert oak("prove", out)[0] == 0


def test_a_disk_that_fills_up_costs_what_has_no_room_and_resume_does_the_rest(tmp_path):
    small = tmp_path / "small"
    small.mkdir()
    mounted = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", "size=200k", "tmpfs", small], capture_output=True, check=False
    )
    if mounted.returncode:
        pytest.skip("nobody but the administrator may mount a small disk")
    try:
        (tmp_path / "in").mkdir()
        rows = "".join(f"v {k} {k % 7} {k % 11}\n" for k in range(2_000)) + "f 1 2 3\n"
        for k in range(8):
            (tmp_path / "in" / f"a{k}.obj").write_text(rows)
        (tmp_path / "s.yaml").write_text("prep-sheet: 1\nsteps:\n  - {do: turn, by: [0, 10, 0]}\n")
        words = ("prep", tmp_path / "s.yaml", tmp_path / "in", "--out", small / "out")
        code, _, err = oak(*words)
        assert code == 3
        assert "No space left on device: the folder to deliver into" in err
        subprocess.run(["mount", "-o", "remount,size=8m", small], check=True)
        code, _, err = oak(*words, "--resume")
        assert (code, err) == (0, "")
        assert len(json.loads((small / "out" / "delivery.json").read_bytes())["assets"]) == 8
        assert oak("prove", small / "out")[:2] == (0, b"8 of 8 hold\n")
        assert not (small / "out" / ".oak-square").exists()
    finally:
        subprocess.run(["umount", small], check=False)


def test_a_folder_that_is_taken_away_meanwhile_is_not_told_as_delivered(tmp_path):
    (tmp_path / "in").mkdir()
    running = subprocess.Popen(_slow_batch(tmp_path), stderr=subprocess.PIPE, stdout=subprocess.PIPE)
    out = tmp_path / "out"
    _wait_for(lambda: len(list(out.glob("a*.gl*"))) >= 9)
    out.rename(tmp_path / "away")
    said, err = running.communicate(timeout=WAIT_S)
    assert (running.returncode, said) == (3, b"")
    assert err.decode().endswith(
        f"{out}: delivery.json can't be written: the folder was taken away while it was filled, --resume goes on\n"
    )
    assert not (out / "delivery.json").exists()
    shutil.rmtree(out, ignore_errors=True)
    (tmp_path / "away").rename(out)
    code, said, _ = oak(*_slow_batch(tmp_path)[3:], "--resume")
    assert (code, said.splitlines()[-1]) == (0, b"10 delivered")
    assert oak("prove", out)[0] == 0
