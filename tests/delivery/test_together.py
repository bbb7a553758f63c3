"""Deliveries of what belongs together: the same for any number of jobs, and done anew when one of them changes."""

from __future__ import annotations

import json

import numpy as np
import pytest

from oak_square import library

SHEET = """prep-sheet: 1
berths: {beside: {of: a, at: [5, 0, 0]}, astray: {of: a, on: nothing_of_that_name}}
set-out: {file: lock.glb, at: {lone: beside}}
steps:
  - {do: place, at: origin, together: true, for: [a.obj, b.obj, c.obj]}
  - {do: turn, by: [0, 90, 0], about: common, together: true, for: [a.obj, b.obj, c.obj]}
"""


def write_block(path, low, size):
    low, high = np.array(low, float), np.array(low, float) + size
    corners = [[(low, high)[k >> axis & 1][axis] for axis in range(3)] for k in range(8)]
    faces = ("1 3 4 2", "5 6 8 7", "1 2 6 5", "3 7 8 4", "1 5 7 3", "2 4 8 6")
    lines = [f"v {x} {y} {z}" for x, y, z in corners] + [f"f {face}" for face in faces]
    path.write_text("\n".join(lines) + "\n")


@pytest.fixture
def batch(tmp_path):
    home = tmp_path / "in"
    home.mkdir()
    for name, low, size in (("a", (10, 1, 0), (1, 1, 1)), ("b", (11, 1, 0), (2, 1, 1)), ("c", (10, 2, 0), (2, 1, 1))):
        write_block(home / f"{name}.obj", low, size)
    write_block(home / "lone.obj", (0, 0, 0), (1, 1, 1))
    return home


def points(out, name):
    rows = [line.split()[1:] for line in (out / f"{name}.obj").read_text().splitlines() if line.startswith("v ")]
    return np.array(rows, float)


def test_the_same_comes_out_for_any_number_of_jobs_and_each_stands_as_it_stood_to_the_others(batch, tmp_path):
    for jobs in (1, 3):
        library.prep(SHEET, [batch], tmp_path / str(jobs), jobs=jobs)
    there = sorted(p.name for p in (tmp_path / "1").iterdir() if p.is_file())
    assert there == ["a.obj", "b.obj", "c.obj", "delivery.json", "lock.glb", "lone.obj"]
    for name in there:
        assert (tmp_path / "1" / name).read_bytes() == (tmp_path / "3" / name).read_bytes(), name
    whole = np.vstack([points(tmp_path / "1", name) for name in "abc"])
    assert np.ptp(whole, axis=0).tolist() == pytest.approx([1, 2, 3])
    assert whole[:, 1].min() == pytest.approx(0)
    assert library.prove(tmp_path / "1")["holds"]


def test_a_berth_of_the_set_out_hangs_as_things_stand_at_the_end(batch, tmp_path):
    said = library.prep(SHEET, [batch], tmp_path / "out")["set_out"]
    (placed,) = said["placed"]
    # The origin of a went from 0 to (-11.5, -1, -0.5), and a quarter about the middle of them all, (0, -, 0).
    x, y, z = np.reshape(placed["matrix"], (4, 4))[3, :3]
    assert (x, y, z) == pytest.approx((-0.5 + 5, -1, 11.5))


def test_a_berth_that_hangs_from_what_is_not_there_costs_what_would_stand_at_it(batch, tmp_path):
    manifest = library.prep(SHEET.replace("lone: beside", "{lone: astray, b: beside}"[1:-1]), [batch], tmp_path / "out")
    assert [p["asset"] for p in manifest["set_out"]["placed"]] == ["b.obj"]
    assert any("'lone.obj' is left out of berth 'astray'" in warning for warning in manifest["warnings"])


@pytest.mark.parametrize("change", ["changed", "gone", "new"])
def test_resumed_all_are_done_anew_once_one_of_them_is_another(batch, tmp_path, change):
    out, fresh = tmp_path / "out", tmp_path / "fresh"
    sheet = SHEET.replace("for: [a.obj, b.obj, c.obj]", "skip: [lone.obj]")
    library.prep(sheet, [batch], out)
    if change == "changed":
        write_block(batch / "c.obj", (10, 2, 0), (2, 4, 1))
    elif change == "gone":
        (batch / "c.obj").unlink()
    else:
        write_block(batch / "d.obj", (9, 1, 0), (1, 1, 1))
    done = []
    library.prep(sheet, [batch], out, resume=True, progress=lambda *told: done.append(told[-1]["source"]))
    library.prep(sheet, [batch], fresh)
    assert json.loads((out / "delivery.json").read_text()) == json.loads((fresh / "delivery.json").read_text())
    for name in sorted(p.name for p in fresh.glob("*.obj")):
        assert (out / name).read_bytes() == (fresh / name).read_bytes(), name
    assert "lone.obj" not in done


RATIO = """prep-sheet: 1
deliver: {ratio: "1 : 12", format: FORMAT}
berths: {quay: {at: [6, 0, 0]}}
set-out: {file: model.glb, at: {a: quay}}
steps: [{do: place, at: origin, for: [a.obj]}, {do: check, height: {min: 0.9, max: 2.1}}]
"""


@pytest.mark.parametrize("form", ["same", "glb", "3mf"])
def test_at_a_ratio_files_are_small_and_all_that_is_told_is_life_size(batch, tmp_path, form):
    out = tmp_path / "out"
    manifest = library.prep(RATIO.replace("FORMAT", form), [batch], out)
    assert manifest["sheet"]["ratio"] == "1 : 12"
    entry = manifest["assets"][1]
    assert (entry["source"], entry["status"]) == ("b.obj", "delivered")
    assert list(entry["size_after_m"].values()) == pytest.approx([2, 1, 1])
    (there,) = library.survey([out / entry["output"]])["assets"]
    assert list(there["size_m"].values()) == pytest.approx([2 / 12, 1 / 12, 1 / 12])
    assert all(np.allclose(node["scale"], 1) for node in there["nodes"])
    (placed,) = manifest["set_out"]["placed"]
    assert np.reshape(placed["matrix"], (4, 4))[3, :3] == pytest.approx((6, 0, 0))
    (scene,) = library.survey([out / "model.glb"])["assets"]
    assert scene["box_m"]["min"] == pytest.approx([5.5 / 12, 0, -0.5 / 12])
    assert library.prove(out)["holds"]
    told = json.loads((out / "delivery.json").read_text())
    told["sheet"]["ratio"] = "1:10"
    (out / "delivery.json").write_text(json.dumps(told))
    assert not library.prove(out)["holds"]


@pytest.mark.parametrize("ratio", ["1:0", "-1:2", "1:2:3", "12", "1:", "nan:1"])
def test_what_is_no_ratio_is_a_bad_sheet(batch, tmp_path, ratio):
    with pytest.raises(library.BadInput, match="two positive numbers, such as 1:12"):
        library.prep(f"prep-sheet: 1\ndeliver: {{ratio: '{ratio}'}}\nsteps: []\n", [batch], tmp_path / "out")


def test_a_ratio_is_a_factor_too(batch, tmp_path):
    library.prep("prep-sheet: 1\nsteps:\n  - {do: size, factor: 1:4, about: origin}\n", [batch], tmp_path / "out")
    assert points(tmp_path / "out", "c").max(axis=0).tolist() == pytest.approx([3, 0.75, 0.25])
