"""A step that is nothing but a file in steps/ has its form in the window, whatever its fields are."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import pytest
from pydantic import Field
from PySide6.QtCore import Qt

from oak_square.steps.along import Along
from oak_square.steps.centre import Centre, MappingWords, Xyz
from oak_square.steps.check import Between
from oak_square.steps.form_hints import FORM_KINDS, FormHint, form_fields
from oak_square.steps.pivot import PivotStep
from oak_square.steps.setting import Length
from oak_square.steps.step import STEPS, Channel, Effect, Step


class Dowel(MappingWords):
    bore: float


class PegStep(Step):
    """Made up: it has a field of every kind."""

    stage: ClassVar[str] = "place"
    form_note: ClassVar[str] = "Pegs hold a frame together."

    do: Literal["peg"] = "peg"
    driven: bool | None = None
    wood: Literal["oak", "ash"] | None = None
    what: list[Channel] | None = None
    long: Length | None = None
    at: Xyz | None = None
    thick: Between | None = None
    turns: float | None = None
    larger: Annotated[float | None, FormHint(kind="factor")] = None
    by: Annotated[list[float] | None, FormHint(kind="degrees")] = None
    along: Annotated[Along | None, FormHint(folded=True)] = None
    about: Annotated[Centre | None, FormHint(folded=True)] = None
    unit: Annotated[str | float | None, FormHint(kind="unit", of_asset=True)] = None
    to: Annotated[str | None, FormHint(kind="node")] = None
    beside: Annotated[str | None, FormHint(kind="asset")] = None
    stamp: str | None = None
    dowel: Dowel | None = Field(None, description="What it goes into.")

    def apply(self, asset, setting):
        return Effect(asset=asset, changed=True, detail="pegged")

    def title(self):
        return "Peg"


@pytest.fixture
def pegs(monkeypatch, request, batch):
    monkeypatch.setitem(STEPS, "peg", PegStep)
    hand = request.getfixturevalue("hand")
    hand.open(batch / "gate_leaf.glb", batch / "milepost.glb")
    hand.pick("gate_leaf.glb")
    hand.stage("place")
    return hand


def typed(hand, field, text):
    hand.click(field)
    field.selectAll()
    for letter in text:
        hand.qtbot.keyClick(field, letter)
    hand.settle()


def test_a_new_step_has_a_control_for_every_kind_of_field(pegs):
    assert {f.hint.kind for f in form_fields(PegStep)} == set(FORM_KINDS)
    form = pegs.body("place").forms["peg"]
    edit = form.editors

    def says(**words):
        told = {k: v for k, v in pegs.session.document.draft.words().items() if k in edit}
        assert told == words
        pegs.key(Qt.Key.Key_Escape)
        pegs.key(Qt.Key.Key_Escape)
        assert pegs.session.document.draft is None

    pegs.click(edit["driven"].box)
    says(driven=True)
    pegs.click(edit["wood"].choices.buttons["ash"])
    says(wood="ash")
    pegs.click(edit["what"].boxes["scale"])
    says(what=["scale"])
    typed(pegs, edit["long"].edit, "3 cm")
    says(long="3 cm")
    typed(pegs, edit["at"].edits[1], "2 m")
    says(at=[0, "2 m", 0])
    typed(pegs, edit["thick"].high, "1 cm")
    says(thick={"max": "1 cm"})
    typed(pegs, edit["turns"].edit, "2.5")
    says(turns=2.5)
    typed(pegs, edit["larger"].edit, "50%")
    says(larger=0.5)
    typed(pegs, edit["by"].edits[2], "30")
    says(by=[0.0, 0.0, 30.0])
    typed(pegs, edit["unit"].one, "2 m")
    says(unit=2.0)
    typed(pegs, edit["stamp"].edit, "F L")
    says(stamp="F L")
    typed(pegs, edit["dowel"].edit, "{bore: 3}")
    says(dowel={"bore": 3.0})
    pegs.click(form.more.button)
    pegs.click(edit["along"].row.buttons["own"])
    says(along="own")
    pegs.click(edit["about"].row.buttons["base"])
    says(about="base")
    for key, name in (("to", "paddle"), ("beside", "milepost")):
        box = edit[key].box
        box.activated.emit(box.findText(name))
        pegs.settle()
        says(**{key: name})


def test_what_a_form_says_is_kept_opened_changed_and_taken_back(pegs):
    edit = pegs.body("place").forms["peg"].editors
    pegs.click(edit["driven"].box)
    pegs.click(edit["wood"].choices.buttons["oak"])
    pegs.key(Qt.Key.Key_Return)
    assert pegs.steps() == ["Peg"]
    assert not edit["driven"].box.isChecked()
    pegs.session.drafts.open_step(0)
    pegs.settle()
    assert edit["driven"].box.isChecked()
    assert edit["wood"].choices.choice == "oak"
    pegs.click(edit["wood"].choices.buttons["oak"])  # what holds, again: it is taken back
    pegs.click(edit["wood"].choices.buttons["ash"])
    pegs.click(edit["driven"].box)
    pegs.key(Qt.Key.Key_Return)
    (step,) = pegs.session.document.sheet.steps
    assert (step.wood, step.driven) == ("ash", None)


def test_what_was_typed_for_a_step_that_is_kept_does_not_stand_for_the_next(pegs):
    edit = pegs.body("place").forms["peg"].editors
    typed(pegs, edit["stamp"].edit, "F L")
    pegs.key(Qt.Key.Key_Return)
    assert pegs.steps() == ["Peg"]
    assert edit["stamp"].edit.text() == ""
    typed(pegs, edit["stamp"].edit, "G")
    assert pegs.session.document.draft.stamp == "G"


def test_a_field_of_assets_alone_rests_for_parts_and_what_is_missing_is_said(pegs):
    edit = pegs.body("place").forms["peg"].editors
    typed(pegs, edit["dowel"].edit, "{wide: 3}")
    form = pegs.body("place").forms["peg"]
    assert pegs.session.document.draft is None
    assert form.trouble.isVisible()
    assert "bore" in form.trouble.text()
    assert edit["unit"].isEnabled()
    pegs.session.select(("gate_leaf.glb",), (1,))
    pegs.settle()
    assert not edit["unit"].isEnabled()


def test_a_step_with_means_of_its_own_has_no_second_form(pegs):
    for stage in ("size", "turn", "pivot", "place", "bake"):
        body = pegs.window.panel.bodies[stage]
        assert not set(body.by_hand) & set(body.forms)
    assert PivotStep.stage == "pivot"
    shown = {do for b in pegs.window.panel.bodies.values() for do in (*b.by_hand, *b.forms)}
    assert shown == set(STEPS)
