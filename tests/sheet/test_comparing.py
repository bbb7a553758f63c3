"""What differs between two sheets, line by line."""

from __future__ import annotations

import pytest

from oak_square.cli import main
from oak_square.sheet.comparing import differences
from oak_square.sheet.text import parse_sheet

BASE = """prep-sheet: 1
title: Fenwick Lock
datums: {sill: {at: [0, 1, 0]}}
steps:
  - {do: unit, reads: mm, for: ["*.stl"]}
  - {do: turn, by: [0, 90, 0], note: the vendor's way}
  - {do: size, height: 2 m}
  - {do: bake, what: [rotation, scale]}
  - {do: place, ground: true, at: origin}
"""


def told(*changes, base=BASE):
    text = base
    for old, new in changes:
        assert old in text
        text = text.replace(old, new)
    return differences(parse_sheet(base, "a"), parse_sheet(text, "b"))


@pytest.mark.parametrize(
    "change",
    [
        ("title:", "# a comment\ntitle:"),
        ("{do: size, height: 2 m}", "{height: 2 m, do: size, keep: proportions, about: base, along: world}"),
        ("by: [0, 90, 0]", "by: [0, 90, 0], about: pivot, paused: false"),
        ("what: [rotation, scale]", "what: [scale, rotation]"),
        ("at: origin", "at: origin, by: base, axes: [x, y, z]"),
    ],
)
def test_comments_order_and_spelled_out_defaults_are_no_difference(change):
    assert told(change) == []


def test_titles_notes_and_named_things_are():
    assert told(("Fenwick Lock", "Fenwick")) == ['title: "Fenwick Lock" → "Fenwick"']
    assert told(("the vendor's way", "ours")) == ['step 2 (turn): note: "the vendor\'s way" → "ours"']
    (line,) = told(("at: [0, 1, 0]", "at: [0, 2, 0]"))
    assert line.startswith("datum sill: ")


def test_steps_are_matched_by_what_they_are():
    assert told(("height: 2 m", "height: 3 m")) == ['step 3 (size): height: "2 m" → "3 m"']
    swapped = told(
        ("  - {do: size, height: 2 m}\n", ""), ("  - {do: place", "  - {do: size, height: 2 m}\n  - {do: place")
    )
    assert swapped in (["step 3 (size): is step 4 there"], ["step 4 (bake): is step 3 there"])
    assert told(("  - {do: bake, what: [rotation, scale]}\n", "")) == [
        'step 4 (bake): only in the first: {"do": "bake", "what": ["rotation", "scale"]}'
    ]
    assert told(("steps:\n", "steps:\n  - {do: reset, what: [scale]}\n")) == [
        'step 1 (reset): only in the second: {"do": "reset", "what": ["scale"]}'
    ]


def test_what_is_no_default_there_counts():
    parts = BASE.replace("ground: true, at: origin", "at: origin, parts: [leaf]")
    assert told(("at: origin", "at: origin, by: pivot"), base=parts) == []
    assert told(("at: origin", "at: origin, by: base"), base=parts) == ['step 5 (place): by: (none) → "base"']


def test_the_command_tells_by_its_exit(tmp_path, capsys, monkeypatch):
    one, other, bad = tmp_path / "a.yaml", tmp_path / "b.yaml", tmp_path / "c.yaml"
    one.write_text(BASE)
    other.write_text(BASE.replace("2 m", "3 m"))
    bad.write_text("prep-sheet: 1\nsteps: [{do: nothing}]\n")

    def exits(*files):
        monkeypatch.setattr("sys.argv", ["oak-square", "sheet", "compare", *map(str, files)])
        with pytest.raises(SystemExit) as caught:
            main()
        return caught.value.code, capsys.readouterr()

    assert exits(one, one)[0] in (0, None)
    code, said = exits(one, other)
    assert code == 1
    assert said.out == 'step 3 (size): height: "2 m" → "3 m"\n1 difference\n'
    code, said = exits(one, bad)
    assert code == 2
    assert "c.yaml" in said.err
