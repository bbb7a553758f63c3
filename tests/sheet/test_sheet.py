from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oak_square.core.errors import BadSheet
from oak_square.core.frames import WORKING, Reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.demo import SHEET
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.evaluate import evaluate, unmatched_steps
from oak_square.sheet.model import Deliver
from oak_square.sheet.text import load_sheet, parse_sheet
from tests.strategies import solid_box

HEAD = "prep-sheet: 1\nsteps:\n"
ASSUMED = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="assumed")


def asset(**more):
    node = Node(name="post", parent=None, placement=Placement.of(scale=(2, 2, 2)), mesh=0)
    made = Asset(file="lamps/lamp.obj", format="obj", reading=ASSUMED, nodes=(node,), meshes=(solid_box(np.ones(3)),))
    return replace(made, **more)


def sheet(*lines):
    return parse_sheet(HEAD + "\n".join(f"  - {line}" for line in lines), "s.yaml")


@pytest.mark.parametrize(
    ("text", "line", "says"),
    [
        ("prep-sheet: 1\nsteps:\n  - {do: unit, reads: mtr}\n", 3, "step 1 (unit): reads: 'mtr' is no unit"),
        ("prep-sheet: 1\nsteps:\n  - {do: unti, reads: m}\n", 3, "'unti' is no step; did you mean 'unit'"),
        ("prep-sheet: 1\nsteps:\n  - do: bake\n    what: [rotation, sclae]\n", 4, "did you mean 'scale'"),
        ("prep-sheet: 1\nsteps:\n  - {do: bake}\n  - {do: pivot, off: parts}\n", 4, "key 'off'; did you mean 'of'"),
        ("prep-sheet: 1\nsteps:\n  - {do: turn, up: +Z, front: +Z}\n", 3, "on one line"),
        ("prep-sheet: 1\nsteps:\n  - {do: turn, up: +Z}\n", 3, "'front' is missing"),
        ("prep-sheet: 1\nsteps:\n  - {do: unit, reads: mm, parts: [a]}\n", 3, "takes no parts"),
        ("prep-sheet: 1\nsteps:\n  - {for: [a]}\n", 3, "does not say what to do"),
        ("prep-sheet: 1\nsteps: none\n", 2, "must be a list"),
        ("prep-sheet: 1\ntitel: x\n", 2, "unknown key 'titel'; did you mean 'title'"),
        ("prep-sheet: 1\ndeliver: {unit: mm, upp: Z}\n", 2, "unknown key 'upp'; did you mean 'up'"),
        ("prep-sheet: 1\ndeliver: {module: -1 m}\n", 2, "longer than nothing"),
        ("prep-sheet: 2\n", 1, "prep-sheet 2 is not known"),
        ("title: x\n", 1, "no 'prep-sheet: 1'"),
        ("prep-sheet: 1\nsteps:\n  - {do: bake\n", 4, ""),
        ("- a\n- b\n", 1, "is no prep sheet"),
        ("", 1, "is no prep sheet"),
        ("a: &a [x]\nb: &b [*a, *a]\nprep-sheet: 1\n", 1, "unknown key 'a'"),
    ],
)  # fmt: skip
def test_a_bad_sheet_names_its_line_and_what_was_meant(text, line, says):
    with pytest.raises(BadSheet) as caught:
        parse_sheet(text, "s.yaml")
    assert caught.value.line == line
    assert str(caught.value).startswith(f"s.yaml, line {line}: ")
    assert says in str(caught.value)


def test_a_sheet_that_unfolds_without_end_is_stopped():
    bomb = "a0: &a0 [x, x, x, x, x, x, x, x, x]\n"
    bomb += "".join(f"a{k}: &a{k} [{', '.join([f'*a{k - 1}'] * 9)}]\n" for k in range(1, 9))
    with pytest.raises(BadSheet, match=r"line 6: unfolds to over 200000 values"):
        parse_sheet(bomb, "s.yaml")


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("  - !!python/object/apply:os.system ['true']", "the tag 'tag:yaml.org,2002:python/object/apply:os.system'"),
        ("  - {do: bake, note: !!str 7}", "the tag 'tag:yaml.org,2002:str' is not read"),
        ("  - &a [*a]", "'*a' stands inside what it names"),
        ("  - {do: bake, do: bake}", 'found duplicate key "do"'),
        ("  - {do: size, height: [1]}", "height: '[1]' is no length"),
        ("  - {do: size, height: {m: 1}}", "height: '{'m': 1}' is no length"),
        ("  - {do: place, at: [[1], 0, 0]}", "at: '[[1], 0, 0]' is not one of"),
    ],
)
def test_what_is_more_than_plain_values_is_refused_with_its_line(line, says):
    with pytest.raises(BadSheet) as caught:
        parse_sheet(f"prep-sheet: 1\nsteps:\n{line}\n", "s.yaml")
    assert says in str(caught.value)
    assert caught.value.line == 3


def test_mod_inside_a_name_is_no_length():
    text = "prep-sheet: 1\nberths: {bay 3 mod: {}}\nsteps:\n  - {do: place, at: {berth: bay 3 mod}}\n"
    assert parse_sheet(text, "s").steps[0].at.berth == "bay 3 mod"


def test_files_that_are_no_sheet_say_so(tmp_path):
    with pytest.raises(BadSheet, match="can't be read"):
        load_sheet(tmp_path / "none.yaml")
    (tmp_path / "b.yaml").write_bytes(b"\xff\xfe\0")
    with pytest.raises(BadSheet, match="not UTF-8"):
        load_sheet(tmp_path / "b.yaml")


def test_a_sheet_is_written_as_people_type_it_and_reads_back():
    loaded, _ = load_sheet(SHEET)
    text = dump_sheet(loaded)
    assert "- {do: bake, what: [rotation, scale]}" not in text  # defaults are left out
    assert "- {do: unit, for: ['*.stl', '*.ply'], reads: mm}" in text
    assert parse_sheet(text, "again") == loaded


def test_the_last_reading_in_scope_holds_and_the_earlier_one_says_so():
    prepared = evaluate(asset(), sheet("{do: unit, reads: mm}", "{do: bake}", "{do: unit, reads: cm, for: ['*.obj']}"))
    assert prepared.read.reading.metres_per_unit == 0.01
    assert [o.outcome for o in prepared.outcomes] == ["nothing", "applied", "applied"]
    assert "step 3 says otherwise" in prepared.outcomes[0].detail


def test_paused_steps_and_others_files_are_left_out():
    prepared = evaluate(
        asset(),
        sheet("{do: bake, paused: true}", "{do: bake, for: ['*.stl']}", "{do: bake, skip: [lamp]}", "{do: pivot}"),
    )
    assert [(o.step, o.do) for o in prepared.outcomes] == [(4, "pivot")]


def test_a_step_that_would_bend_a_skinned_model_is_refused_and_readings_too():
    rigid = asset(rigid_reason="it has a skin")
    prepared = evaluate(rigid, sheet("{do: pivot}", "{do: bake}"))
    assert (prepared.status, prepared.reason) == ("refused", "step 1 (pivot): it has a skin")
    prepared = evaluate(rigid, sheet("{do: unit, reads: mm}"))
    assert prepared.status == "refused"
    # What would change nothing is no bending.
    assert evaluate(rigid, sheet("{do: unit, reads: m}")).status == "ready"


def test_a_step_that_may_refuse_is_passed_over_and_said():
    rigid = asset(rigid_reason="it has a skin")
    prepared = evaluate(rigid, sheet("{do: unit, reads: mm, may-refuse: true}", "{do: bake, may-refuse: true}"))
    assert prepared.status == "ready"
    assert [o.outcome for o in prepared.outcomes] == ["refused", "refused"]
    assert prepared.asset is prepared.read is rigid


def test_numbers_that_are_none_fail_the_asset():
    mesh = replace(solid_box(np.ones(3)), not_finite=2)
    assert evaluate(asset(meshes=(mesh,)), sheet("{do: bake}")).reason == "2 coordinates are NaN or infinite"


def test_a_glob_that_fits_nothing_is_a_warning():
    made = sheet("{do: bake}", "{do: bake, for: ['*.dae']}", "{do: bake, parts: [nobody]}", "{do: bake, paused: true}")
    assert unmatched_steps(made, ["a.obj"], {1}) == ("step 2 (bake) matches nothing", "step 3 (bake) matches nothing")


def test_delivery_axes_and_units_are_the_files_own_unless_asked_for():
    z_mm = Reading(metres_per_unit=0.001, up="+Z", front="-Y", source="assumed")
    assert Deliver().file_reading(z_mm, declares=True).same_frame(z_mm)
    assert Deliver().file_reading(z_mm, declares=False).same_frame(WORKING)
    assert Deliver(unit="same", up="same").file_reading(z_mm, declares=False).same_frame(z_mm)
    for declares in (True, False):
        assert Deliver(unit="m", up="Y").file_reading(z_mm, declares=declares).same_frame(WORKING)
    setting = Deliver(unit="cm", up="Z", module="3.6 m").setting()
    assert (setting.unit, setting.up, setting.module) == (0.01, "Z", 3.6)
