"""A batch on the workers of a real Dask scheduler: the same bytes, whatever happens to the workers."""

from __future__ import annotations

import contextlib
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path

import pytest
from distributed import Client, LocalCluster

from oak_square.core.errors import BadUsage
from oak_square.delivery.batch import find_sources
from oak_square.delivery.cluster import connected
from oak_square.delivery.run import Run, Stopped
from oak_square.delivery.running import deliver
from oak_square.delivery.workers import CRASHED
from oak_square.demo import BATCH, SHEET
from oak_square.sheet.text import parse_sheet
from tests.delivery.test_processes import doubled_or_dead
from tests.patience import WAIT_S

TEXT = SHEET.read_text()
# What a nanny of the scheduler's own leaves open when its worker is killed under it is told of at any time later.
pytestmark = pytest.mark.filterwarnings("ignore:.*_io.FileIO:pytest.PytestUnraisableExceptionWarning")


@pytest.fixture(scope="module")
def cluster():
    ports = {"dashboard_address": None, "scheduler_kwargs": {"dashboard_address": ":0"}}
    with LocalCluster(n_workers=2, threads_per_worker=1, memory_limit=0, **ports) as made:
        yield made


def run_of(out, scheduler="", **more):
    sources, sheet = tuple(find_sources([BATCH])), parse_sheet(TEXT, "s.yaml")
    return Run(sources=sources, sheet=sheet, sheet_bytes=TEXT.encode(), out=out, scheduler=scheduler, **more)


@pytest.fixture(scope="module")
def plain(tmp_path_factory):
    """What one process of this machine delivers."""
    out = tmp_path_factory.mktemp("plain") / "out"
    deliver(run_of(out))
    return held(out)


def held(folder):
    return {p.relative_to(folder).as_posix(): p.read_bytes() for p in folder.rglob("*") if p.is_file()}


def test_workers_started_here_deliver_the_same_bytes(tmp_path, plain, monkeypatch):
    monkeypatch.chdir(tmp_path)  # a path from here is none from where a worker was started
    deliver(run_of(Path("out"), "local:2"))
    assert held(tmp_path / "out") == plain


def test_one_killed_and_one_that_comes_late_change_nothing(tmp_path, plain, cluster):
    seen: list[str] = []

    def progress(done, total, entry):
        seen.append(entry["source"])
        if done == 2:
            os.kill(next(iter(pids(cluster).values())), signal.SIGKILL)
        if done == 4:
            cluster.scale(3)

    said: list[str] = []
    manifest = deliver(run_of(tmp_path / "out", cluster.scheduler_address), progress, tell=said.append)
    assert len(seen) == len(manifest["assets"]) == 20
    assert held(tmp_path / "out") == plain
    assert said == []


def test_one_that_comes_late_is_given_work(tmp_path, cluster):
    cluster.scale(1)
    until = time.monotonic() + WAIT_S
    while len(pids(cluster)) != 1 and time.monotonic() < until:
        time.sleep(0.1)
    first, late = set(pids(cluster).values()), set[int]()
    with connected(cluster.scheduler_address, [], 100, None) as crew:
        for k, (_, found, _) in enumerate(crew.do(parents_after_a_while, list(range(40)), lambda _: [], None)):
            late.add(found)
            if k == 2:
                cluster.scale(2)
    assert late > first


def parents_after_a_while(_: int) -> int:
    """Stands in for work: says which worker's process it was done for."""
    time.sleep(0.2)
    pid = os.getppid()  # what it was forked from, which the worker has started
    return int(Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[1])


def pids(cluster):
    with Client(cluster.scheduler_address, set_as_default=False) as client:
        return client.run(os.getpid)


def test_what_kills_its_process_costs_itself_alone(cluster):
    items = [1, 2, 13, 4, 5, 6]
    with connected(cluster.scheduler_address, [], 2, None) as crew:
        found = {item: (result, why) for item, result, why in crew.do(doubled_or_dead, items, lambda _: [], None)}
    assert found == {13: (None, CRASHED), **{n: (2 * n, "") for n in items if n != 13}}


@pytest.mark.parametrize("blind", ["limits", "folder"])
def test_a_worker_that_cant_do_it_is_told_in_a_line_and_left_out(tmp_path, plain, cluster, blind):
    command = [sys.executable, "-m", "distributed.cli.dask_worker", cluster.scheduler_address, "--no-dashboard"]
    command += ["--nthreads", "1", "--no-nanny"]
    environment, batch = dict(os.environ), tmp_path / "batch"
    shutil.copytree(BATCH, batch)
    if blind == "limits":
        environment["OAK_SQUARE_LIMITS"] = "nodes=50"
    else:
        command = ["unshare", "--mount", "sh", "-c", f"mount -t tmpfs none {batch} && exec {' '.join(command)}"]
        if shutil.which("unshare") is None or subprocess.run([*command[:4], "mount -t tmpfs none /mnt"]).returncode:
            pytest.skip("nobody may mount here")
    before = len(pids(cluster))
    worker = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        until = time.monotonic() + WAIT_S
        while len(pids(cluster)) == before and time.monotonic() < until:
            time.sleep(0.2)
        said: list[str] = []
        run = replace(run_of(tmp_path / "out", cluster.scheduler_address), sources=tuple(find_sources([batch])))
        deliver(run, tell=said.append)
        (line,) = said
        assert line.startswith("worker tcp://")
        assert line.endswith("it is left out")
        assert ("OAK_SQUARE_LIMITS" if blind == "limits" else str(batch)) in line
        assert held(tmp_path / "out") == plain
    finally:
        worker.kill()
        worker.wait()


def test_a_stop_leaves_what_is_whole_and_the_rest_is_done_here(tmp_path, plain, cluster):
    def stop(done, total, entry):
        if done == 3:
            raise KeyboardInterrupt

    with pytest.raises(Stopped) as error:
        deliver(run_of(tmp_path / "out", cluster.scheduler_address), stop)
    assert len(error.value.manifest["assets"]) == 3
    deliver(run_of(tmp_path / "out", resume=True))
    assert held(tmp_path / "out") == plain


def test_a_scheduler_that_is_lost_costs_what_was_not_done_and_no_more(tmp_path, plain):
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        address = f"127.0.0.1:{free.getsockname()[1]}"
    python, port = [sys.executable, "-m"], address.split(":")[1]
    scheduler = [*python, "distributed.cli.dask_scheduler", "--host", "127.0.0.1", "--port", port, "--no-dashboard"]
    worker = [*python, "distributed.cli.dask_worker", address, "--nthreads", "1", "--no-nanny", "--no-dashboard"]
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    started = [subprocess.Popen(scheduler, **quiet)]
    until = time.monotonic() + WAIT_S
    while time.monotonic() < until:
        with contextlib.suppress(OSError):
            socket.create_connection(("127.0.0.1", int(port)), 1).close()
            break
        time.sleep(0.1)
    started.append(subprocess.Popen([*worker, "--death-timeout", "5"], **quiet))

    def progress(done, total, entry):
        if done == 4:
            started[0].kill()

    try:
        manifest = deliver(run_of(tmp_path / "out", address), progress)
        reasons = [e["reason"] for e in manifest["assets"] if e["status"] == "failed"]
        assert 10 <= len(reasons) <= 16
        assert set(reasons) == {f"there was no word any more from {address}: --resume does it"}
        deliver(run_of(tmp_path / "out", resume=True))
        assert held(tmp_path / "out") == plain
    finally:
        for process in started:
            process.kill()
            process.wait()


@pytest.mark.parametrize(
    ("scheduler", "said"),
    [
        ("local:0", "wants local:N"),
        ("local:two", "wants local:N"),
        ("nowhere", "wants HOST:PORT"),
        ("127.0.0.1:1", "no Dask scheduler answers there"),
    ],
)
def test_what_is_no_scheduler_is_said_before_anything_is_written(tmp_path, scheduler, said):
    with pytest.raises(BadUsage, match=said):
        deliver(run_of(tmp_path / "out", scheduler))
    assert not (tmp_path / "out").exists()


def test_without_the_extra_the_way_out_is_told(tmp_path, monkeypatch):
    monkeypatch.setitem(sys.modules, "distributed", None)
    with pytest.raises(BadUsage, match=r"pip install 'oak-square\[cluster\]'"):
        deliver(run_of(tmp_path / "out", "local:2"))
