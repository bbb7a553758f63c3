"""Undo is going back to an earlier value: its laws, over random sessions."""

from __future__ import annotations

from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from oak_square.app.session.document import Document, History, default_delivery
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS

BAKE = STEPS["bake"].model_validate({"do": "bake"})
UNITS = [STEPS["unit"].model_validate({"do": "unit", "reads": u}) for u in ("m", "cm", "mm")]


def named(k):
    return Document(left_out=frozenset({str(k)}))


@given(st.lists(st.sampled_from(["do", "undo", "redo"]), max_size=40))
def test_a_history_is_a_list_with_a_finger_on_it(moves):
    history, done, at = History(now=named(-1)), [named(-1)], 0
    for k, move in enumerate(moves):
        if move == "do":
            document = named(k)
            history = history.done(f"Do {k}", document)
            done, at = [*done[: at + 1], document], at + 1
        elif move == "undo":
            history, at = history.undone(), max(0, at - 1)
        else:
            history, at = history.redone(), min(len(done) - 1, at + 1)
        assert history.now.left_out == done[at].left_out
        assert len(history.past) == at
        assert len(history.future) == len(done) - 1 - at


def test_what_belongs_together_is_one_entry():
    history = History(now=named(0)).done("Height 1", named(1), gesture=7)
    for k in (2, 3):
        history = history.done(f"Height {k}", named(k), gesture=7)
    assert [label for label, _ in history.past] == ["Height 3"]
    assert history.undone().now.left_out == {"0"}
    # What does not join, or an undo in between, begins a new one.
    history = history.done("Depth 4", named(4))
    assert len(history.past) == 2
    again = history.undone().done("Height 5", named(5), gesture=7)
    assert len(again.past) == 2


def test_a_new_deed_forgets_what_was_undone():
    history = History(now=named(0)).done("A", named(1)).undone().done("B", named(2))
    assert history.redone() is history
    assert History(now=named(0)).undone().now.left_out == {"0"}


def test_a_draft_runs_behind_the_kept_steps_or_in_place_of_the_open_one():
    kept = Document(sheet=Sheet(steps=tuple(UNITS)))
    new = Document(sheet=kept.sheet, draft=BAKE)
    assert new.before.steps == tuple(UNITS)
    assert new.tried.steps == (*UNITS, BAKE)
    assert new.with_draft_kept.sheet.steps == (*UNITS, BAKE)
    opened = Document(sheet=kept.sheet, draft=BAKE, editing=1)
    # The batch is seen as it stands after the open step: later ones do not run.
    assert opened.before.steps == (UNITS[0],)
    assert opened.tried.steps == (UNITS[0], BAKE)
    assert opened.with_draft_kept.sheet.steps == (UNITS[0], BAKE, UNITS[2])
    assert opened.with_draft_kept.editing is None
    assert kept.with_draft_kept is kept
    assert kept.tried is kept.sheet


def test_a_delivery_is_offered_beside_what_was_opened(tmp_path):
    (tmp_path / "lock").mkdir()
    (tmp_path / "lock" / "gate.glb").touch()
    assert default_delivery([tmp_path / "lock"]) == tmp_path.resolve() / "lock_delivery"
    assert default_delivery([tmp_path / "lock" / "gate.glb"]) == tmp_path.resolve() / "lock_delivery"
    assert default_delivery([]).parent == Path.cwd().resolve().parent
