"""Saving a sheet from the window keeps what people typed: order, spacing, comments."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.demo import SHEET
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.model import Deliver, Frame, Sheet
from oak_square.sheet.text import parse_sheet
from oak_square.steps.step import STEPS

TEXT = """# The autumn batch.
prep-sheet: 1
title: Autumn   # not the last word
# how the numbers are meant
deliver: {unit: m, up: Y}

steps:
  # one
  - {do: unit,   reads: mm}   # tight
  # two, over
  # two lines
  - do: bake
    what: [scale]
  - {do: pivot}
"""


def step(**words):
    return STEPS[words["do"]].model_validate(words)


def kept():
    found = SheetText.of(TEXT, "s.yaml")
    assert found is not None
    return found


def test_what_did_not_change_comes_back_as_it_was_typed():
    assert kept().saying(kept().sheet) == TEXT
    shipped = SHEET.read_text()
    assert SheetText.of(shipped, "f.yaml").saying(parse_sheet(shipped, "f.yaml")) == shipped


def test_a_step_that_is_changed_keeps_the_comments_above_it():
    sheet = kept().sheet
    changed = sheet.model_copy(update={"steps": (sheet.steps[0], step(do="bake"), sheet.steps[2])})
    assert kept().saying(changed) == TEXT.replace("  - do: bake\n    what: [scale]\n", "  - {do: bake}\n")


def test_steps_that_are_moved_take_their_comments_along():
    a, b, c = kept().sheet.steps
    moved = kept().saying(kept().sheet.model_copy(update={"steps": (b, c, a)}))
    assert moved.index("# two, over") < moved.index("do: bake") < moved.index("do: pivot") < moved.index("# one")
    assert moved.index("# one") < moved.index("reads: mm}   # tight")


def test_steps_are_added_and_removed_between_the_others():
    a, b, c = kept().sheet.steps
    fewer = kept().saying(kept().sheet.model_copy(update={"steps": (a, c)}))
    assert fewer == TEXT.replace("  # two, over\n  # two lines\n  - do: bake\n    what: [scale]\n", "")
    more = kept().saying(kept().sheet.model_copy(update={"steps": (a, b, c, step(do="place", ground=True))}))
    assert more == TEXT + "  - {do: place, ground: true}\n"
    none = kept().saying(kept().sheet.model_copy(update={"steps": ()}))
    assert parse_sheet(none, "n").steps == ()
    assert "# how the numbers are meant" in none


def test_title_and_delivery_change_alone():
    sheet = kept().sheet.model_copy(update={"title": "Winter: one", "deliver": Deliver(unit="cm")})
    text = kept().saying(sheet)
    assert parse_sheet(text, "w") == sheet
    assert "title: 'Winter: one'   # not the last word\n" in text
    assert "deliver: {unit: cm}\n" in text
    for comment in ("# The autumn batch.", "# how the numbers are meant", "# one", "# two lines", "# tight"):
        assert comment in text


FLOW = """# all of it
prep-sheet: 1  # the first version
steps: [
  # first
  {do: bake},  # because of the scale
  {do: place, at: origin},
  ]
# what it is called
title: Fenwick   # Lock
datums: {sill: {at: [0, 0.4, 0]}}  # of the gate
"""


def test_a_list_in_brackets_keeps_every_comment_through_any_change():
    text = SheetText.of(FLOW, "s")
    more = text.saying(text.sheet.model_copy(update={"steps": (*text.sheet.steps, step(do="bake"))}))
    assert more == FLOW.replace("{do: place, at: origin},", "{do: place, at: origin}, {do: bake},")
    less = text.saying(text.sheet.model_copy(update={"steps": text.sheet.steps[1:]}))
    assert less == FLOW.replace("  {do: bake},", "  ")
    called = text.saying(text.sheet.model_copy(update={"title": "Weir"}))
    assert called == FLOW.replace("title: Fenwick ", "title: Weir ")


def test_datums_and_berths_are_saved_as_the_document_has_them():
    text = SheetText.of(FLOW, "s")
    none = text.saying(text.sheet.model_copy(update={"datums": {}}))
    assert "sill" not in none
    berths = {"quay": Frame(at=[1, "2 cm", 0], turn=[0, 90, 0])}
    sheet = text.sheet.model_copy(update={"berths": berths, "title": "Quay"})
    assert parse_sheet(text.saying(sheet), "q") == sheet
    assert "# of the gate" in text.saying(sheet)


def test_what_stands_behind_the_steps_stays_there():
    typed = "prep-sheet: 1\nsteps:\n  - do: bake  # why\n    what: [scale]\n\n# its name\ntitle: last\n"
    text = SheetText.of(typed, "s")
    sheet = text.sheet.model_copy(update={"steps": (step(do="place", at="origin"), *text.sheet.steps)})
    assert text.saying(sheet) == typed.replace("steps:\n", "steps:\n  - {do: place, at: origin}\n")


STEPS_MADE = st.lists(
    st.sampled_from(
        [
            step(do="unit", reads="mm", note="a: b # c"),
            step(do="unit", reads=0.3),
            step(do="turn", by=[0, 90, -15.5]),
            step(do="size", height="3' 6\""),
            step(do="pivot", at={"point": ["left", 0.25, "middle"], "inset": {"left": "40 mm"}}, of="all"),
            step(do="bake", what=["location"], **{"for": ["a*", "b[[]1]"], "skip": ["c"], "may-refuse": True}),
            step(do="place", at=[1, "2 cm", 0], axes=["x"], paused=True),
        ]
    ),
    max_size=8,
)


FRAMES = st.sampled_from([{}, {"sill": Frame(at=[0, 0.4, 0])}, {"a b": Frame(), "c": Frame(turn=[0, 90, 0])}])


def typed(sheet, form):
    """A sheet in one of the forms that people type it in."""
    text = dump_sheet(sheet)
    head, _, steps = text.partition("steps:")
    if form == "brackets" and sheet.steps:
        rows = [line.strip().removeprefix("- ") for line in steps.strip().splitlines()]
        return f"{head}steps: [{(', # so' + chr(10) + '  ').join(rows)}]\n"
    if form == "first":
        lines = head.splitlines(keepends=True)
        return f"{lines[0]}steps:{steps}" + "".join(lines[1:])
    return text


@given(
    STEPS_MADE, STEPS_MADE, st.sampled_from(["", "Lock", "yes", "1", "a: b", "# no", "null"]), FRAMES, FRAMES,
    st.sampled_from(["plain", "brackets", "first"]),
)  # fmt: skip
def test_any_sheet_can_be_saved_over_any_other_and_reads_back(old, new, title, datums, berths, form):
    before = Sheet(steps=tuple(old), title="Before", datums=berths)
    after = Sheet(steps=tuple(new), title=title, datums=datums, berths=berths)
    text = typed(before, form)
    assert parse_sheet(text, "t") == before
    assert parse_sheet(dump_sheet(after), "a") == after
    assert parse_sheet(SheetText.of(text, "b").saying(after), "a") == after


@pytest.mark.parametrize("title", ["Fenwick Lock, autumn", "Ünïcode", "with 'quotes'", "tab\there"])
def test_titles_of_every_kind_survive(title):
    sheet = kept().sheet.model_copy(update={"title": title})
    assert parse_sheet(kept().saying(sheet), "t").title == title


STYLES = {
    "aliased parts": """prep-sheet: 1
steps:
  - {do: pivot, at: base, of: parts, parts: &p [leaf, "gate_*"]}   # named here
  # and meant here
  - {do: bake, parts: *p}
  - {do: pivot, at: middle, of: parts, parts: *p}
""",
    "aliased steps": """prep-sheet: 1
steps:
- &again {do: bake, what: [scale]}
- {do: pivot}
- *again
- {do: place, ground: true}
- *again
""",
    "merged": """prep-sheet: 1
steps:
  - &lamp {do: size, height: 5 m, for: [lamp*]}
  - {<<: *lamp, for: [post*]}
  - {do: bake}
""",
    "an alias at the top": """prep-sheet: 1
datums: {sill: &here {at: [0, 1, 0]}, step: *here}
berths: {quay: *here}
steps: [{do: bake}, {do: pivot}]
""",
    "notes in blocks": """# head
prep-sheet: 1
steps:
  - do: bake
    note: |
      first
      # not a comment
      # nor this
  # a comment
  - do: pivot
    note: >
      folded
      # a letter

  - {do: place, ground: true}
""",
    "a note in the middle": """prep-sheet: 1
steps:
  - do: bake
    note: |
      # all of it
    what: [scale]
  - note: |-
      kept
      # to the end
    do: pivot
  # tail
""",
    "brackets over lines": """prep-sheet: 1
steps: [
  {do: bake},   # one
  {do: pivot,
   at: base},
  # three
  {do: place, ground: true}
]
title: last
""",
    "a document's marks": """%YAML 1.2
---
prep-sheet: 1
"title": 'It''s one'
steps:
    -   do: bake
        what:
        - scale
        - rotation
    -
        do: pivot
    - {do: place, ground: true, note: "a: b # c"}
...
""",
    "without an end": "prep-sheet: 1\nsteps:\n  - {do: bake}\n  - {do: pivot}",
    "lines of another system": "prep-sheet: 1\r\nsteps:\r\n  # one\r\n  - {do: bake}\r\n  - {do: pivot}\r\n",
    "steps first": "steps:\n  - {do: bake}\n  - {do: pivot}\n# then\nprep-sheet: 1\ndeliver:\n  unit: cm\n  up: Z\n",
}


def edited(sheet, draw):
    """A sheet after one to three edits of a window: a card removed, moved, paused, noted, added; the head changed."""
    for _ in range(draw(st.integers(1, 3))):
        steps = list(sheet.steps)
        kind = draw(st.sampled_from(["remove", "move", "pause", "note", "add", "title", "deliver"]))
        k = draw(st.integers(0, max(0, len(steps) - 1)))
        if kind == "remove" and steps:
            steps.pop(k)
        elif kind == "move" and steps:
            steps.insert(draw(st.integers(0, len(steps) - 1)), steps.pop(k))
        elif kind == "pause" and steps:
            steps[k] = steps[k].model_copy(update={"paused": not steps[k].paused})
        elif kind == "note" and steps:
            told = draw(st.sampled_from(["why", "a: b", "# no", "two\nlines", "x # y", " '\" ", "*p", "- a"]))
            steps[k] = steps[k].model_copy(update={"note": told})
        elif kind == "add":
            steps.insert(k, step(do="bake", what=["location"]))
        sheet = sheet.model_copy(update={"steps": tuple(steps)})
        if kind == "title":
            sheet = sheet.model_copy(update={"title": draw(st.sampled_from(["", "A: b", "#1", "two\nlines"]))})
        elif kind == "deliver":
            sheet = sheet.model_copy(update={"deliver": Deliver(unit="mm", up=draw(st.sampled_from(["auto", "Z"])))})
    return sheet


@pytest.mark.parametrize("style", STYLES)
@given(data=st.data())
def test_whatever_is_edited_the_text_says_just_that(style, data):
    typed = SheetText.of(STYLES[style], "s")
    sheet = typed.sheet
    for _ in range(2):
        sheet = edited(sheet, data.draw)
        text, _ = typed.told(sheet)
        assert parse_sheet(text, "s") == sheet, text
        typed = SheetText.of(text, "s")


def test_what_is_aliased_is_spelled_out_where_it_must_be_and_comments_stay():
    typed = SheetText.of(STYLES["aliased parts"], "s")
    text, is_anew = typed.told(typed.sheet.model_copy(update={"steps": typed.sheet.steps[1:]}))
    assert is_anew
    assert "*p" not in text
    assert "# and meant here" in text
    untouched, is_anew = typed.told(typed.sheet.model_copy(update={"title": "Quay"}))
    assert not is_anew
    assert "*p" in untouched
    noted = SheetText.of(STYLES["notes in blocks"], "s")
    text, is_anew = noted.told(noted.sheet.model_copy(update={"steps": noted.sheet.steps[:1]}))
    assert not is_anew
    assert text.count("# not a comment\n      # nor this") == 1
    assert "# a comment" not in text
