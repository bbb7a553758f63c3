"""Oak Square from Python, as a script of somebody else's uses it: a real interpreter, and no guard around its lines."""

from __future__ import annotations

import json
import subprocess
import sys

import pytest

import oak_square
from oak_square.demo import BATCH, SHEET
from oak_square.sheet.comparing import differences
from oak_square.sheet.text import parse_sheet
from tests.made import triangle_document, write_glb
from tests.patience import WAIT_S

OAK = [sys.executable, "-m", "oak_square"]


@pytest.fixture
def batch(tmp_path):
    (tmp_path / "in").mkdir()
    document, binary = triangle_document(nodes=[{"name": "sign", "mesh": 0, "scale": [2, 2, 2]}])
    for name in ("one", "two"):
        write_glb(tmp_path / "in" / f"{name}.glb", document, binary)
    return tmp_path / "in"


TYPO = {"prep-sheet": 1, "steps": [{"do": "bakee"}]}
GHOST = "prep-sheet: 1\nsteps:\n  - {do: size, match: ghost, along: width}\n"
BAKE = "prep-sheet: 1\ntitle: t\nsteps:\n  - {do: bake}\n"


def test_importing_it_takes_no_heavy_module_in():
    code = "import oak_square, sys; print([m for m in ('numpy', 'pydantic', 'typer', 'PySide6') if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout == "[]\n"
    assert set(oak_square.__all__) >= {"survey", "prep", "prove", "load_sheet", "BadInput"}
    with pytest.raises(AttributeError):
        oak_square.surveyed  # noqa: B018 - what is asked for is the trouble


def test_survey_says_what_the_command_says():
    printed = subprocess.run([*OAK, "survey", "--json", str(BATCH)], capture_output=True, check=True).stdout
    assert oak_square.survey([BATCH]) == json.loads(printed)


def test_prep_delivers_what_the_command_delivers_and_tells_as_it_goes(tmp_path):
    seen = []
    tell = lambda done, total, entry: seen.append((done, total, entry["source"]))  # noqa: E731 - three lines for one
    manifest = oak_square.prep(SHEET, BATCH, tmp_path / "a", jobs=1, progress=tell)
    command = [*OAK, "prep", str(SHEET), str(BATCH), "--out", str(tmp_path / "b")]
    subprocess.run(command, capture_output=True, check=False)
    assert manifest == json.loads((tmp_path / "b" / "delivery.json").read_text())
    assert (tmp_path / "a" / "delivery.json").read_bytes() == (tmp_path / "b" / "delivery.json").read_bytes()
    assert [done for done, _, _ in seen] == list(range(1, len(manifest["assets"]) + 1))
    assert oak_square.prove(tmp_path / "a")["holds"] is True


def test_a_delivery_that_was_changed_does_not_hold(batch, tmp_path):
    oak_square.prep(BAKE, batch, tmp_path / "out")
    (tmp_path / "out" / "one.glb").write_bytes((batch / "one.glb").read_bytes())
    told = oak_square.prove(tmp_path / "out")
    assert told["holds"] is False
    assert {row["output"]: row["holds"] for row in told["assets"]} == {"one.glb": False, "two.glb": True}


def test_a_dry_run_writes_nothing_and_an_earlier_delivery_is_not_written_over(batch, tmp_path):
    out = tmp_path / "out"
    assert {e["status"] for e in oak_square.prep(BAKE, batch, out, dry_run=True)["assets"]} == {"delivered"}
    assert not out.exists()
    oak_square.prep(BAKE, batch, out)
    with pytest.raises(oak_square.BadInput) as error:
        oak_square.prep(BAKE, batch, out)
    assert "--" not in error.value.reason
    oak_square.prep(BAKE, batch, out, replace=True)
    oak_square.prep(BAKE, batch, out, resume=True)


def test_load_sheet_takes_a_file_or_text_and_prep_takes_what_it_returns(batch, tmp_path):
    path = tmp_path / "s.prepsheet.yaml"
    path.write_text(BAKE)
    from_file, from_text = oak_square.load_sheet(path), oak_square.load_sheet(BAKE)
    assert type(from_file) is dict
    assert from_file == from_text == {"prep-sheet": 1, "title": "t", "steps": [{"do": "bake"}]}
    mine = oak_square.prep(from_file, batch, tmp_path / "a")
    theirs = oak_square.prep(str(path), batch, tmp_path / "b")
    assert mine["assets"] == theirs["assets"]


def test_a_dictionary_says_what_its_sheet_says_whatever_is_on_it():
    text = SHEET.read_text()
    told = oak_square.load_sheet(text)
    assert oak_square.load_sheet(json.dumps(told, indent=1)) == told
    assert not differences(parse_sheet(json.dumps(told, indent=1), "s"), parse_sheet(text, "s"))


@pytest.mark.parametrize(
    ("call", "file", "line", "says"),
    [
        (lambda d: oak_square.load_sheet(f"{BAKE}  - {{do: bakee}}\n"), "<text>", 5, "did you mean 'bake'"),
        (lambda d: oak_square.load_sheet(d / "none.yaml"), "none.yaml", None, "can't be read"),
        (lambda d: oak_square.survey([d / "none"]), "none", None, ""),
        (lambda d: oak_square.survey([d], to="objj"), None, None, "no format"),
        (lambda d: oak_square.survey([d], size_book=d / "book.csv"), "book.csv", 1, "unknown column"),
        (lambda d: oak_square.prep(BAKE, [d / "in"], d / "in"), None, None, "input folder"),
        (lambda d: oak_square.prep(BAKE, [d / "in"], d / "out", jobs=0), None, None, "0 processes"),
        (
            lambda d: oak_square.prep(GHOST, [d / "in"], d / "o"),
            "<text>", 3, "ghost",
        ),
        (lambda d: oak_square.prep(TYPO, [d], d), "<dictionary>", None, "'bake'"),
        (lambda d: oak_square.prep({"steps": float("nan")}, [d], d), "<dictionary>", None, "no sheet can say"),
        (lambda d: oak_square.prove(d), None, None, "no manifest"),
    ],
)  # fmt: skip
def test_what_the_command_ends_with_2_for_is_bad_input_with_its_place(batch, tmp_path, call, file, line, says):
    (tmp_path / "book.csv").write_text("pattern,wdth_min\n")
    with pytest.raises(oak_square.BadInput) as error:
        call(tmp_path)
    assert says in str(error.value)
    assert file is None or str(error.value.file).endswith(file)
    assert error.value.line == line


def test_a_script_without_a_guard_is_not_run_again_by_what_it_starts(batch, tmp_path):
    script = tmp_path / "nightly.py"
    script.write_text(
        "import oak_square\n"
        "print('begun', flush=True)\n"
        f"print(len(oak_square.survey({str(batch)!r})['assets']))\n"
        f"told = oak_square.prep({BAKE!r}, {str(batch)!r}, {str(tmp_path / 'out')!r}, jobs=2)\n"
        "print([e['status'] for e in told['assets']])\n"
    )
    done = subprocess.run([sys.executable, script], capture_output=True, text=True, check=False, timeout=WAIT_S)
    assert (done.returncode, done.stderr) == (0, "")
    assert done.stdout == "begun\n2\n['delivered', 'delivered']\n"


def test_nothing_is_printed_whatever_the_files_hold(batch, tmp_path, capfd):
    (batch / "bad.glb").write_bytes(b"rubbish")
    document, binary = triangle_document(nodes=[{"name": "n", "mesh": 0, "scale": [1e38, 1e38, 1e38]}])
    write_glb(batch / "huge.glb", document, binary)
    told = oak_square.prep(BAKE + "  - {do: size, factor: 900000}\n", batch, tmp_path / "out")
    oak_square.survey(batch)
    assert {e["status"] for e in told["assets"]} >= {"failed"}
    assert capfd.readouterr() == ("", "")
