"""A format is one file: a made-up one is put there, and it is read, surveyed, delivered, made and proved."""

from __future__ import annotations

import importlib.util
import json
import shutil
import time
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest

from oak_square.delivery import proving, running
from oak_square.delivery.batch import find_sources
from oak_square.delivery.proving import prove
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.delivery.surveying import survey_source
from oak_square.demo import BATCH
from oak_square.formats.register import FORMATS, Entry, format_of
from oak_square.sheet.schema import sheet_schema
from oak_square.sheet.text import parse_sheet

CORNERS = '''
"""Corners: a line of nine numbers a triangle."""

from typing import ClassVar

import numpy as np

from oak_square.core.errors import BadFile
from oak_square.core.scene import Mesh, Surface
from oak_square.formats.register import Entry
from oak_square.formats.shared.model_file import Format, Received, Written, checked_size, registered
from oak_square.formats.shared.plain import flat_parts, merged
from oak_square.formats.shared.unframed import lost_pivots, mesh_changes, unframed_asset


@registered
class Corners(Format):
    entry: ClassVar[Entry] = Entry(key="corners", title="Corners", suffixes=(".corners",), is_made=True)
    declares: ClassVar[bool] = False
    holds: ClassVar[tuple[str, ...]] = ()

    def read(self, path, file, limits=None):
        checked_size(path, file, limits) if limits is not None else None
        try:
            points = np.array([line.split() for line in path.read_text().splitlines()], np.float64).reshape(-1, 3)
        except ValueError as error:
            raise BadFile(file, f"is no Corners file: {error}") from error
        triangles = np.arange(len(points), dtype=np.uint32).reshape(-1, 3)
        whole = (Surface(first=0, count=len(triangles)),)
        mesh = Mesh(name=path.stem, points=points, triangles=triangles, surfaces=whole)
        return Received(asset=unframed_asset(self, file, [mesh]), carrier=points)

    def write(self, received, asset, reading):
        (change,) = mesh_changes(received.asset, asset, reading)
        if change.is_none:
            return Written(chunks=None)
        moved = change.points(received.carrier)
        return Written(chunks=(_text(moved),), warnings=lost_pivots(self, asset))

    def make(self, scene):
        plain = merged(flat_parts(scene))
        return Written(chunks=(_text(plain.points[plain.triangles].astype(np.float64)),))


def _text(corners):
    return "".join(" ".join(f"{v:.9g}" for v in row) + chr(10) for row in corners.reshape(-1, 9)).encode()
'''


@pytest.fixture
def corners(tmp_path, monkeypatch):
    # Its file lies beside the package: the other processes of a run would not find it.
    for module in (running, proving):
        monkeypatch.setattr(module, "in_processes", lambda work, items, *_, **__: ((i, work(i), "") for i in items))
    path = tmp_path / "corners.py"
    path.write_text(CORNERS)
    spec = importlib.util.spec_from_file_location("corners", path)
    spec.loader.exec_module(importlib.util.module_from_spec(spec))
    yield
    FORMATS.remove("corners")


def through(folder, text, out):
    run = Run(
        sources=tuple(find_sources([folder])), sheet=parse_sheet(text, "s"), sheet_bytes=text.encode(), out=out, jobs=1
    )
    (entry,) = deliver(run)["assets"]
    return entry


def test_a_new_format_is_one_file(corners, tmp_path):
    there = tmp_path / "in"
    there.mkdir()
    shutil.copy(BATCH / "windlass.stl", there)
    # Made from another format, and proved.
    entry = through(
        there, "prep-sheet: 1\ndeliver: {format: corners}\nsteps: [{do: unit, reads: in}]\n", tmp_path / "a"
    )
    assert (entry["status"], entry["output"]) == ("delivered", "windlass.corners")
    assert all(p.trouble is None for p in prove(tmp_path / "a"))
    # Surveyed, changed and written as itself.
    (made,) = find_sources([tmp_path / "a"])
    row = survey_source(made)
    assert row["format"] == "corners"
    entry = through(tmp_path / "a", "prep-sheet: 1\nsteps: [{do: size, factor: 2}]\n", tmp_path / "b")
    assert entry["status"] == "delivered"
    old, new = (np.loadtxt(tmp_path / d / "windlass.corners") for d in "ab")
    assert np.ptp(new.reshape(-1, 3), axis=0) == pytest.approx(2 * np.ptp(old.reshape(-1, 3), axis=0), rel=1e-6)
    # The sheet knows its name, and the schema too.
    assert "corners" in json.dumps(sheet_schema())
    assert format_of(tmp_path / "b" / "windlass.corners").title == "Corners"


SLOW = """
import time
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.model_file import Format, registered

@registered
class Slow(Format):
    entry = FORMATS.entry("slow")
    declares = False
    holds = ()

    def read(self, path, file, limits=None):
        return late()

    def write(self, received, asset, reading):
        raise NotImplementedError

time.sleep(0.4)

def late():
    return "read"
"""


def test_a_format_that_another_thread_is_loading_is_waited_for(tmp_path, monkeypatch):
    (tmp_path / "slow_format.py").write_text(SLOW)
    monkeypatch.syspath_prepend(tmp_path)
    FORMATS.enter(Entry(key="slow", title="Slow", suffixes=(".slow",), home="slow_format"))
    try:

        def read(wait):
            time.sleep(wait)
            return FORMATS["slow"].read(tmp_path / "a.slow", "a.slow")

        with ThreadPoolExecutor(3) as threads:
            assert list(threads.map(read, (0, 0.1, 0.2))) == ["read"] * 3
    finally:
        FORMATS.remove("slow")
