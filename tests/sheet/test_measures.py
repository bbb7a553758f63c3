"""Measurements kept beside a sheet, and datums on it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadSheet
from oak_square.core.measuring import Anchor, Measure
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.measures import dump_measures, load_measures, measures_path
from oak_square.sheet.text import parse_sheet
from tests.steps.test_steps import one_part

SPAN = Measure(
    kind="span",
    file="a/post.glb",
    anchors=(
        Anchor(node=3, name="post", at=(0.1, 0.2, 1e-17), kind="vertex"),
        Anchor(node=None, name="", at=(0.5, 1.0, 0.0), kind="box point"),
    ),
)


def test_measurements_come_back_as_they_were_kept(tmp_path):
    path = measures_path(tmp_path / "lock.prepsheet.yaml")
    assert path.name == "lock.measures.json"
    assert load_measures(path) == ()
    path.write_text(dump_measures((SPAN,)))
    assert load_measures(path) == (SPAN,)
    assert measures_path(Path("x/y.yml")) == Path("x/y.measures.json")


@pytest.mark.parametrize(
    "text",
    ["", "[]", '{"measures": 2, "list": []}', '{"measures": 1, "list": [{"kind": "span", "file": "a", "points": []}]}',
     '{"measures": 1, "list": [{"kind": "span", "file": "a", "points": [{"node": -1, "name": "", "at": [0, 0, 0], '
     '"kind": ""}, {"node": 0, "name": "", "at": [0, NaN, 0], "kind": ""}]}]}'],
)  # fmt: skip
def test_what_is_no_list_of_measurements_is_one_clear_line(tmp_path, text):
    path = tmp_path / "lock.measures.json"
    path.write_text(text)
    with pytest.raises(BadSheet, match=r"lock.measures.json: (is no list|measures 2 is not known)"):
        load_measures(path)


def test_a_datum_is_a_centre_to_turn_and_size_about():
    text = (
        "prep-sheet: 1\ndeliver: {unit: cm, up: Z}\n"
        "datums:\n  sill: {at: [0, -1 m, 200], turn: [0, 0, 90]}\n"
        "steps:\n  - {do: size, factor: 2, about: {datum: sill}}\n"
    )
    sheet = parse_sheet(text, "s.yaml")
    assert parse_sheet(dump_sheet(sheet), "s.yaml") == sheet
    # Z up, front -Y: delivery (0, -1, 2) m is working (0, 2, 1).
    frame = sheet.setting().datum("sill", one_part())
    assert frame[:3, 3] == pytest.approx([0, 2, 1])
    # Turned 90 degrees about the delivery's z, its x lies along the delivery's y: working -z.
    assert frame[:3, 0] == pytest.approx([0, 0, -1], abs=1e-12)
    assert np.linalg.det(frame[:3, :3]) == pytest.approx(1)
    box = asset_box(evaluate(one_part(), sheet).asset)
    assert box.low == pytest.approx([0, -2, -1])
    assert box.high == pytest.approx([2, 2, 5])


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("datums: {sill: {at: [0, 0]}}\n", r"line 2: datums sill: at: .*at least 3"),
        ("datums: [sill]\n", "line 2: datums must name frames"),
        ("datums: {sill: {}}\nsteps:\n  - {do: turn, by: [0, 1, 0], about: {datum: sil}}\n",
         "line 4: step 1 .turn.: no datum 'sil' is declared; did you mean 'sill'"),
        ("steps:\n  - {do: size, height: 2 mod}\n", "line 3: step 1 .size.: 'mod' needs a module length"),
    ],
)  # fmt: skip
def test_a_bad_datum_and_a_module_without_length_are_said_with_their_line(text, says):
    with pytest.raises(BadSheet, match=says):
        parse_sheet(f"prep-sheet: 1\n{text}", "s.yaml")
