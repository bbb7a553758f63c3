"""Saving a sheet from the window keeps what people typed: order, spacing, comments."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.demo import SHEET
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.model import Deliver, Frame, Sheet
from oak_square.sheet.text import dump_sheet, parse_sheet
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
