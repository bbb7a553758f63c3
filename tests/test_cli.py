"""The commands as a script sees them: exit codes, one line on stderr, JSON alone on stdout."""

from __future__ import annotations

import contextlib
import json
import shutil
import signal
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from oak_square import cli
from oak_square.commands import delivering
from oak_square.commands.talk import interrupted, terminated
from oak_square.delivery.proving import prove
from oak_square.delivery.watching import Watcher
from oak_square.demo import BATCH, SHEET
from oak_square.steps.step import STEPS
from oak_square.version import __version__
from tests.made import triangle_document, write_glb


@pytest.fixture
def oak(monkeypatch, capsys):
    """Run a command; returns exit code, stdout, stderr."""

    def call(*words):
        monkeypatch.setattr(sys, "argv", ["oak-square", *map(str, words)])
        with pytest.raises(SystemExit) as ended:
            cli.main()
        out, err = capsys.readouterr()
        assert "Traceback" not in err
        return ended.value.code, out, err

    return call


def test_survey_prep_prove_and_survey_again(oak, lock, tmp_path):
    code, out, err = oak("survey", lock, "--json")
    assert (code, err) == (0, "")
    document = json.loads(out)
    assert [a["file"] for a in document["assets"]][:2] == ["casks.3mf", "footbridge.dae"]
    assert oak("survey", lock, "--fail-on", "fix")[0] == 1
    book = ("--size-book", lock / "size_book.csv")
    code, out, _ = oak("survey", lock, "--json", *book, "--jobs", 2)
    outside = {a["file"] for a in json.loads(out)["assets"] for f in a["findings"] if f["code"] == "size-out-of-book"}
    assert outside == {"gate_leaf.glb", "keepers_hut.obj", "lamp_standard.obj", "tiller.ply", "windlass.stl"}
    code, out, err = oak("prep", SHEET, lock, "--out", tmp_path / "out", "--jobs", 2)
    assert (code, err) == (0, "")
    assert "lamp_standard.obj  delivered  0.61 × 5.20 × 0.61 m" in out
    clips = "2 of them at 18 times of their clips too"
    assert oak("prove", tmp_path / "out") == (0, f"20 of 20 hold, {clips}\n", "")
    assert oak("survey", tmp_path / "out", "--fail-on", "check", *book)[0] == 0
    (tmp_path / "out" / "milepost.glb").unlink()
    code, out, err = oak("prove", tmp_path / "out")
    assert (code, out) == (1, f"19 of 20 hold, {clips}\n")
    assert err == "milepost.glb: 'milepost.glb' is missing\n"


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["survey", "/nowhere/at/all"], "/nowhere/at/all: is not there"),
        (["survey", "{batch}", "--fail-on", "fixx"], "'fixx' is no level (note, check, fix); did you mean 'fix'?"),
        (["prep", "{batch}/none.yaml", "{batch}", "--out", "{tmp}/out"], "none.yaml: can't be read"),
        (["prep", "{sheet}", "{batch}", "--out", "{batch}/out"], "apart from the input folder"),
        (["prep", "{sheet}", "{batch}"], "out"),
        (["prove", "{batch}"], "there is no manifest"),
        (["bake"], "No such command"),
        (["demo", "--stage", "pivvot", "--shot", "{tmp}/a.png"], "did you mean 'pivot'"),
        (["open", "/nowhere"], "/nowhere: is not there"),
    ],
)
def test_wrong_usage_is_two_with_one_line_and_nothing_written(oak, batch, tmp_path, words, says):
    before = sorted(tmp_path.rglob("*"))
    code, out, err = oak(*(w.format(batch=batch, tmp=tmp_path, sheet=SHEET) for w in words))
    assert (code, out) == (2, "")
    assert says in err
    assert err.count("\n") == 1
    assert sorted(tmp_path.rglob("*")) == before


def test_unreadable_files_are_three_and_the_rest_goes_on(oak, batch, tmp_path):
    (batch / "broken\nname.glb").write_bytes(b"rubbish")
    code, out, err = oak("survey", batch, "--fail-on", "fix")
    assert code == 3
    assert err.splitlines() == [
        "broken\\nname.glb: is no GLB: it does not start with its mark",
        "gate_leaf.glb: fails on fix: far-from-origin",
        "mooring_bollards.glb: fails on fix: scale-unbaked",
        "narrowboat.glb: fails on fix: scale-unbaked",
        "3 of 7 assets fail on fix, 1 can't be read",
    ]
    assert "narrowboat.glb" in out
    code, out, err = oak("prep", SHEET, batch, "--out", tmp_path / "out")
    assert code == 3
    assert "1 failed" in out
    assert (tmp_path / "out" / "narrowboat.glb").exists()


def test_a_dry_run_says_what_would_be(oak, batch, tmp_path):
    code, out, _ = oak("prep", SHEET, batch, "--out", tmp_path / "out", "--dry-run")
    assert code == 0
    assert "would be: 5 delivered, 1 unchanged" in out
    assert not (tmp_path / "out").exists()


def test_a_run_speaks_as_a_script_wants_it(oak, batch, tmp_path):
    """One asset fails: that is said on stderr however quiet it is to be."""
    (batch / "broken.glb").write_bytes(b"rubbish")
    words = ("prep", SHEET, batch, "--out", tmp_path / "out", "--jobs", 1)
    code, out, err = oak(*words, "--quiet")
    assert (code, out) == (3, "")
    assert err.splitlines()[1].startswith("broken.glb: failed: ")
    assert err.count("\n") == 2  # a step that matches nothing is odd, too
    code, out, err = oak(*words, "--json-lines", "--replace")
    lines = [json.loads(line) for line in out.splitlines()]
    manifest = json.loads((tmp_path / "out" / "delivery.json").read_text())
    assert [line["done"] for line in lines[:-1]] == list(range(1, 8))
    assert {line["of"] for line in lines[:-1]} == {7}
    assert sorted((line["asset"] for line in lines[:-1]), key=lambda e: e["source"]) == manifest["assets"]
    assert lines[-1]["totals"]["failed"] == 1
    assert (code, err.count("\n")) == (3, 2)
    code, out, _ = oak(*words, "--json", "--resume")
    assert (code, json.loads(out)) == (3, manifest)
    code, out, err = oak("prove", tmp_path / "out", "--json")
    assert (code, err, json.loads(out)["holds"]) == (0, "", True)
    (tmp_path / "out" / "narrowboat.glb").unlink()
    code, out, err = oak("prove", tmp_path / "out", "--json")
    assert [a["reason"] for a in json.loads(out)["assets"] if not a["holds"]] == ["'narrowboat.glb' is missing"]
    assert oak("prove", tmp_path / "out", "--quiet") == (code, "", err)
    assert code == 1
    code, out, err = oak(*words, "--json", "--quiet")
    assert (code, out) == (2, "")
    assert "exclude one another" in err


def test_steps_that_match_nothing_are_warned_of(oak, batch, tmp_path):
    sheet = tmp_path / "s.yaml"
    sheet.write_text("prep-sheet: 1\nsteps:\n  - {do: bake, for: ['*.usd']}\n")
    code, _, err = oak("prep", sheet, batch, "--out", tmp_path / "out")
    assert code == 0
    assert err == f"{sheet}: step 1 (bake) matches nothing\n"


def test_a_sheet_can_be_checked_alone(oak, tmp_path):
    assert oak("sheet", "check", SHEET)[0] == 0
    bad = tmp_path / "bad.yaml"
    bad.write_text("prep-sheet: 1\nsteps:\n  - {do: bake, wat: [scale]}\n")
    code, _, err = oak("sheet", "check", bad)
    assert (code, err) == (2, f"{bad}, line 3: step 1 (bake): unknown key 'wat'; did you mean 'what'?\n")


def test_formats_are_listed_from_the_formats_themselves(oak):
    document = json.loads(oak("formats", "--json")[1])
    assert {f["format"] for f in document["formats"]} >= {"glb", "gltf", "obj", "stl"}
    table = oak("formats")[1]
    assert "| STL | .stl | assumed | triangles alone | triangles alone |" in table
    assert table in (Path(__file__).parents[1] / "README.md").read_text()


def test_survey_finds_what_a_format_can_not_hold(oak):
    code, out, _ = oak("survey", BATCH / "gate_leaf.glb", "--to", "obj", "--json")
    (finding,) = (f for f in json.loads(out)["assets"][0]["findings"] if f["code"] == "cannot-carry")
    assert (code, finding["level"], finding["stage"]) == (0, "note", "deliver")
    assert finding["message"].startswith("Wavefront OBJ can't hold its hierarchy, the pivots of its parts")
    assert oak("survey", BATCH, "--to", "objj")[2].endswith("did you mean 'obj'?\n")


def test_the_commands_need_neither_qt_nor_vtk(tmp_path):
    shutil.copytree(BATCH, tmp_path / "b")
    code = (
        "import sys; sys.argv = ['oak-square', 'survey', sys.argv[1]]\n"
        "from oak_square import cli\n"
        "try: cli.main()\n"
        "except SystemExit as e: assert e.code == 0\n"
        "assert not {'PySide6', 'vtkmodules', 'scipy'} & set(sys.modules), 'heavy'\n"
    )
    subprocess.run([sys.executable, "-c", code, str(tmp_path / "b")], check=True, capture_output=True)


@pytest.mark.parametrize(
    ("text", "says"),
    [("pattern,wdth_min\n", "book.csv, line 1: unknown column 'wdth_min'; did you mean 'width_min'?\n"),
     ("pattern,width_min\nlamp,2 parsecs\n", "line 2: 'parsecs' is no unit of length")],
)  # fmt: skip
def test_a_bad_size_book_is_one_line_and_nothing_is_surveyed(oak, lock, tmp_path, text, says):
    book = tmp_path / "book.csv"
    book.write_text(text)
    code, out, err = oak("survey", lock, "--size-book", book)
    assert (code, out) == (2, "")
    assert says in err
    assert err.count("\n") == 1
    assert oak("survey", lock, "--size-book", tmp_path / "none.csv")[0] == 2


def test_a_sheet_that_names_an_asset_nobody_has_writes_nothing_and_tells_the_line(oak, lock, tmp_path):
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\nsteps:\n  - {do: bake}\n  - {do: size, match: mile_post, along: height}\n")
    code, out, err = oak("prep", sheet, lock, "--out", tmp_path / "out")
    assert (code, out) == (2, "")
    assert err == (
        f"{sheet}, line 4: step 2 (size): there is no asset 'mile_post' in the batch; did you mean 'milepost'?\n"
    )
    assert not (tmp_path / "out").exists()


def test_a_guess_and_a_check_are_told_in_the_manifest(oak, lock, tmp_path):
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text(
        "prep-sheet: 1\nsteps:\n  - {do: unit, reads: guess, for: [windlass.*]}\n"
        "  - {do: check, height: {max: 1 m}, for: [milepost.*, keepers_hut.*]}\n"
    )
    code, _, err = oak("prep", sheet, lock, "--out", tmp_path / "out")
    assert code == 3
    assert err == "keepers_hut.obj: failed: step 2 (check): height 390.0 m, not at most 1 m\n"
    entries = {e["source"]: e for e in json.loads((tmp_path / "out" / "delivery.json").read_text())["assets"]}
    assert entries["milepost.glb"]["status"] == "unchanged"
    assert entries["milepost.glb"]["steps"][0]["detail"] == "holds"
    told = entries["windlass.stl"]["steps"][0]["detail"]
    assert told.startswith("Unit: guess, mm; size book: as in the book; a windlass is usually 15 to 60 cm")
    assert entries["windlass.stl"]["warnings"] == []
    assert entries["keepers_hut.obj"]["output"] is None


def test_the_schema_of_a_sheet_knows_every_step_and_field(oak):
    code, out, err = oak("sheet", "--schema")
    assert (code, err) == (0, "")
    schema = json.loads(out)
    kinds = schema["properties"]["steps"]["items"]["discriminator"]["mapping"]
    assert set(kinds) == set(STEPS)
    assert schema["required"] == ["prep-sheet"]
    for do, reference in kinds.items():
        kind = schema["$defs"][reference.rsplit("/", 1)[-1]]
        assert kind["additionalProperties"] is False
        assert kind["required"][0] == "do"
        own = {f.alias or name for name, f in STEPS[do].model_fields.items()}
        assert set(kind["properties"]) == own
        described = [n for n, p in kind["properties"].items() if n not in {"do"} and not p.get("description")]
        assert described == [], f"{do}: {described} without a word of help"
    assert oak("sheet")[0] == 2


def test_numbers_past_all_measure_are_one_line_and_no_chatter(tmp_path):
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [1e300, 1e300, 1e300]}])
    (tmp_path / "in").mkdir()
    write_glb(tmp_path / "in" / "sign.glb", document, binary)
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\nsteps:\n  - {do: bake}\n")
    command = [sys.executable, "-m", "oak_square"]
    seen = subprocess.run([*command, "survey", tmp_path / "in"], capture_output=True, text=True, check=False)
    assert (seen.returncode, seen.stderr) == (0, "")
    words = [*command, "prep", sheet, tmp_path / "in", "--out", tmp_path / "out"]
    done = subprocess.run(words, capture_output=True, text=True, check=False)
    assert done.returncode == 3
    assert done.stderr == "sign.glb: refused: step 1 (bake): its coordinates grow past what float32 can hold\n"


def test_a_command_that_is_none_is_told_with_the_nearest_and_the_version_is_told(oak):
    assert oak("prpe") == (2, "", "No such command 'prpe'; did you mean 'prep'? (see --help)\n")
    assert oak("--version") == (0, f"oak-square {__version__}\n", "")


def test_a_command_loads_no_more_than_it_needs(tmp_path):
    (tmp_path / "none").mkdir()
    (tmp_path / "one").mkdir()
    shutil.copy(BATCH / "windlass.stl", tmp_path / "one")
    for folder, heavy in (
        ("none", {"numpy", "pydantic", "ruamel", "pebble"}),
        ("one", {"oak_square.formats.gltf.files", "oak_square.formats.usd.files", "pxr", "oak_square.steps"}),
    ):
        code = (
            f"import sys; sys.argv = ['oak-square', 'survey', {str(tmp_path / folder)!r}]\n"
            "from oak_square import cli\n"
            "try: cli.main()\n"
            "except SystemExit as e: assert e.code == 0\n"
            f"assert not {heavy!r} & set(sys.modules), {heavy!r} & set(sys.modules)\n"
        )
        subprocess.run([sys.executable, "-c", code], check=True, capture_output=True)


def test_help_lists_every_command_and_loads_none():
    code = (
        "import sys; sys.argv = ['oak-square', '--help']\n"
        "from oak_square import cli\n"
        "try: cli.main()\n"
        "except SystemExit as e: assert e.code == 0\n"
        "assert not {'numpy', 'pydantic', 'ruamel'} & set(sys.modules), 'heavy'\n"
    )
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert all(f"\n  {name} " in done.stdout for name in cli.COMMANDS)


def test_a_command_leaves_how_numbers_are_watched_as_it_was(oak):
    before = np.geterr()
    assert oak("survey", BATCH)[0] == 0
    assert np.geterr() == before


def test_a_watch_ends_though_what_was_raised_is_dropped(oak, batch, tmp_path, monkeypatch):
    """As it is where it falls into a finaliser."""
    (tmp_path / "s.yaml").write_text("prep-sheet: 1\nsteps:\n  - {do: bake}\n")
    quiet = Watcher._look_for_models

    def look(watcher):
        with contextlib.suppress(KeyboardInterrupt):
            interrupted()
        return quiet(watcher)

    monkeypatch.setattr(Watcher, "_look_for_models", look)
    assert oak("watch", tmp_path / "s.yaml", batch, "--out", tmp_path / "out")[0] == 130


@pytest.mark.parametrize("how", [(signal.default_int_handler, 130), (terminated, 143)])
@pytest.mark.parametrize("command", ["prep", "watch"])
@pytest.mark.parametrize("moment", ["load_sheet", "book_for", "deliver", "pictures_of"])
def test_whenever_it_is_ended_a_run_says_so_and_what_stands_is_whole(
    oak, batch, tmp_path, monkeypatch, command, moment, how
):
    def ended(*_, **__):
        how[0](signal.SIGTERM, None)

    monkeypatch.setattr(delivering, moment, ended)
    (tmp_path / "s.yaml").write_text("prep-sheet: 1\nsteps:\n  - {do: bake}\n")
    out, page = tmp_path / "out", tmp_path / "r.html"
    found, _, said = oak(command, tmp_path / "s.yaml", batch, "--out", out, "--report", page)
    whole = f"stopped; what stands in {out} is whole and recorded\n" if command == "watch" else "stopped\n"
    assert (found, said) == (how[1], "stopped\n" if moment == "load_sheet" else whole)
    # Ended while it drew the report's pictures, it has none; what it tells is there.
    assert page.exists() == (moment == "pictures_of")
    if page.exists():
        assert all(each.trouble is None for each in prove(out))
        assert "milepost.glb" in page.read_text()


ENDED_EARLY = """
import os, signal, sys
class Ends:
    def find_spec(self, name, path=None, target=None):
        if name == "oak_square.cli":
            os.kill(os.getpid(), signal.SIGINT)
sys.meta_path.insert(0, Ends())
from oak_square.__main__ import main
main()
"""


def test_ended_before_it_is_loaded_a_command_says_nothing():
    done = subprocess.run([sys.executable, "-c", ENDED_EARLY], capture_output=True, check=False)
    assert (done.returncode, done.stdout, done.stderr) == (-signal.SIGINT, b"", b"")
