"""What the window speaks: every sentence in the file of translations, and files that stay English."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from pathlib import Path

import pytest

from oak_square.demo import BATCH, SHEET
from oak_square.languages import wanted_language

HOME = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(HOME / "scripts"))

import words  # noqa: E402  a script, not part of the package

GERMAN = words.read(words.FOLDER / "de.ts")
PAGES = HOME / "src" / "oak_square" / "manual" / "text"
_PART = re.compile(r"\{[A-Za-z_0-9]*(?:[:!][^{}]*)?\}")


def test_what_has_its_german_is_said_and_has_a_form_for_one_and_one_for_many():
    said = words.said()
    assert len(said) > 2000
    for key, forms in GERMAN.items():
        assert key in said, f"{key} is no longer said: run scripts/words.py"
        assert len(forms) == (2 if said[key] else 1), f"{key}: run scripts/words.py"
        assert all(forms), f"{key}: give it its German in translations/de.ts, and run scripts/words.py"


def test_a_sentence_that_has_no_german_yet_stands_there_as_unfinished_and_a_release_waits_for_it(tmp_path):
    known = dict(GERMAN)
    before = words.written("de", known).count(' type="unfinished"')
    for pattern in ("Connected pieces; vertices at one position count as joined.", "The mean of {count} vertices."):
        del known[pattern, ""]
    text = words.written("de", known)
    (tmp_path / "de.ts").write_text(text, "utf-8")
    assert text.count(' type="unfinished"') == before + 2
    assert words.read(tmp_path / "de.ts") == known
    words.compiled(tmp_path / "de.ts", tmp_path / "de.qm")
    assert "\n" not in words.written("de", known).split("<source>&#10;")[1].split("</message>")[0]


def test_german_sentences_have_the_parts_that_are_put_in():
    for (pattern, _), forms in GERMAN.items():
        for form in forms:
            assert sorted(set(_PART.findall(form))) == sorted(set(_PART.findall(pattern))), pattern


def test_the_file_that_ships_is_made_of_the_one_that_is_written(tmp_path):
    is_written = (words.FOLDER / "de.ts").read_text("utf-8") == words.written("de", GERMAN)
    assert is_written, "translations/de.ts is not as scripts/words.py writes it: run that"
    words.compiled(words.FOLDER / "de.ts", tmp_path / "de.qm")
    assert (tmp_path / "de.qm").read_bytes() == (words.SOURCE / "languages" / "de.qm").read_bytes()


def test_what_its_name_says_is_cut_short_at_the_same_words_in_german():
    assert GERMAN["{noun} is usually {range_words}", ""][0].split(GERMAN[" is usually", ""][0])[0] == "{noun}"


@pytest.mark.parametrize("page", sorted(p.name for p in PAGES.glob("*.md")))
def test_each_page_of_the_manual_is_there_in_german_with_the_same_sheets_and_scripts(page):
    english, german = ((PAGES / part / page).read_text("utf-8") for part in (".", "de"))
    blocks = [re.findall(r"```.*?```", text, re.S) for text in (english, german)]
    assert blocks[0] == blocks[1]
    assert [text.count("\n## ") for text in (english,)] == [german.count("\n## ")]
    assert english.count("\n\n") == german.count("\n\n")


RUN = """
import json, sys
from pathlib import Path
if sys.argv[1] != "en":
    from oak_square import languages
    languages.speak_in(sys.argv[1])
from oak_square import library
from oak_square.delivery.report import write_reports
from oak_square.delivery.documents import json_text
if __name__ == "__main__":
    out = Path(sys.argv[2])
    sheet = sys.argv[3] if len(sys.argv) > 3 else None
    batch = Path(sys.argv[4])
    manifest = library.prep(sheet, [batch], out)
    write_reports([out / "r.html", out / "r.csv", out / "r.json"], manifest)
    (out / "survey.json").write_text(json_text(library.survey([batch], to="stl")))
    print(json.dumps(manifest["assets"][0]["steps"][0]["detail"]))
"""
TROUBLED = """prep-sheet: 1
steps:
  - {do: unit, reads: guess}
  - {do: turn, up: guess, front: guess}
  - {do: check, height: {max: 3 m}, baked: true}
  - {do: bake}
  - {do: pivot, at: mass, of: parts}
  - {do: size, height: 1.25 m, for: [milepost]}
  - {do: split, parts: ["*"], may-refuse: true}
  - {do: place, at: [1.5, 0, -2.25], parts: [nothing_of_that_name], for: [milepost]}
"""


@pytest.mark.parametrize("sheet", [str(SHEET), TROUBLED], ids=["the demo's", "one with much to be said"])
def test_a_process_that_speaks_german_delivers_surveys_and_reports_the_same_bytes(tmp_path, sheet):
    said = {}
    for language in ("en", "de"):
        out = tmp_path / language / "out"
        script = tmp_path / "run.py"
        script.write_text(RUN)
        done = subprocess.run(
            [sys.executable, script, language, out, sheet, BATCH], capture_output=True, text=True, check=True
        )
        said[language] = json.loads(done.stdout)
    assert said["en"] == said["de"]
    there = {p.relative_to(tmp_path / "en"): p.read_bytes() for p in (tmp_path / "en").rglob("*") if p.is_file()}
    assert len(there) > 10
    for path, data in there.items():
        assert (tmp_path / "de" / path).read_bytes() == data, path


@pytest.mark.parametrize(
    ("named", "settled", "kept", "wanted"),
    [("de", "en", True, "de"), ("", "de", True, "de"), ("", "de", False, "en"), ("", "xx", True, "en")],
)
def test_the_language_is_the_one_named_or_settled_or_the_desktops(tmp_path, monkeypatch, named, settled, kept, wanted):
    monkeypatch.setenv("OAK_SQUARE_LANGUAGE", named)
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    monkeypatch.setenv("LANG", "en_GB.UTF-8")
    for name in ("LC_ALL", "LC_MESSAGES", "LANGUAGE"):
        monkeypatch.delenv(name, raising=False)
    (tmp_path / "oak-square").mkdir()
    (tmp_path / "oak-square" / "window.json").write_text(json.dumps({"language": settled}))
    assert wanted_language(kept) == wanted


def test_a_desktop_that_speaks_german_has_a_german_window(tmp_path):
    script = "from oak_square.languages import wanted_language\nprint(wanted_language(True))"
    for lang, wanted in (("de_AT.UTF-8", "de"), ("fr_FR.UTF-8", "en"), ("C", "en")):
        environment = {"PATH": "/usr/bin", "LANG": lang, "XDG_CONFIG_HOME": str(tmp_path)}
        done = subprocess.run(
            [sys.executable, "-c", script], env=environment, capture_output=True, text=True, check=True
        )
        assert done.stdout.strip() == wanted, lang
