"""A delivery read as a stranger reads it: by what its files say of themselves, without the sheet."""

from __future__ import annotations

import shutil

import pytest

from oak_square.core.boxes import asset_box
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive, size_json
from oak_square.formats.register import FORMATS
from tests.formats.test_formats import source_of
from tests.runs import deliver_as

READ_ANEW = ("{do: unit, reads: in}", "{do: turn, up: +Z, front: -Y}")
MADE = sorted(k for k in FORMATS if FORMATS[k].is_made)


def put_in(folder, key):
    (folder / "in").mkdir()
    (folder / "made").mkdir()
    source = source_of(key, folder / "made")
    shutil.copytree(source.path.parent, folder / "in", dirs_exist_ok=True, ignore=_others(source.path.stem))


def _others(stem):
    return lambda _, names: [n for n in names if not n.startswith(stem)]


def check_as_a_stranger_reads(folder, manifest):
    for entry in manifest["assets"]:
        assert entry["reason"] is None, entry["reason"]
        there = receive(find_sources([folder / "out" / entry["output"]])[0])
        assert size_json(asset_box(there.asset)) == pytest.approx(entry["size_after_m"], rel=1e-5)
    return manifest["assets"]


@pytest.mark.parametrize("key", sorted(FORMATS))
@pytest.mark.parametrize("steps", [(), READ_ANEW], ids=["as-it-is", "read-anew"])
def test_a_stranger_measures_what_the_manifest_says(key, steps, tmp_path):
    put_in(tmp_path, key)
    check_as_a_stranger_reads(tmp_path, deliver_as(tmp_path, "{}", *steps))


@pytest.mark.parametrize("wanted", MADE)
@pytest.mark.parametrize("key", ["obj", "usda", "glb"])
def test_a_stranger_measures_it_in_another_format_too(key, wanted, tmp_path):
    put_in(tmp_path, key)
    check_as_a_stranger_reads(tmp_path, deliver_as(tmp_path, f"{{format: {wanted}}}", *READ_ANEW))


def test_a_settled_reading_is_what_a_format_declares(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in/sign.obj").write_text("v 0 0 0\nv 400 0 0\nv 0 0 900\nf 1 2 3\n")
    deliver_as(tmp_path, "{format: dae}", "{do: unit, reads: mm}", "{do: turn, up: +Z, front: -Y}")
    said = (tmp_path / "out/sign.dae").read_text()
    assert 'meter="0.001"' in said
    assert "<up_axis>Z_UP</up_axis>" in said


@pytest.mark.parametrize("unit", ["auto", "same"])
def test_numbers_stay_where_same_is_asked_for(unit, tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in/sign.obj").write_text("v 0 0 0\nv 400 0 0\nv 0 0 900\nf 1 2 3\n")
    manifest = deliver_as(tmp_path, f"{{unit: {unit}, up: same}}", "{do: unit, reads: mm}")
    numbers = {"auto": "0.4 0 0", "same": "400 0 0"}[unit]
    assert f"v {numbers}\n" in (tmp_path / "out/sign.obj").read_text()
    assert manifest["assets"][0]["status"] == ("delivered" if unit == "auto" else "unchanged")


def test_a_unit_that_is_nearly_a_known_one_is_delivered(tmp_path):
    put_in(tmp_path, "usda")
    check_as_a_stranger_reads(tmp_path, deliver_as(tmp_path, "{}", "{do: unit, reads: 0.0100000001}"))
