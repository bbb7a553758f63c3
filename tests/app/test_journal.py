"""What is worked on outlives the run: killed, cut short, taken up again in another window."""

from __future__ import annotations

import json
import random
import subprocess
import sys

import pytest
from PySide6.QtCore import Qt

from oak_square.app.session.autosave import Autosave
from oak_square.app.session.document import Document, History
from oak_square.app.session.habits import read_habits
from oak_square.app.session.journal import Journal, ViewState, left_behind, read_journal
from oak_square.app.session.written import document_of, words_of
from oak_square.app.start import offer_work
from oak_square.sheet.text import load_sheet
from oak_square.steps.step import STEPS
from tests.app.conftest import Hand
from tests.patience import WAIT_MS, WAIT_S

BOLLARD, POST = "strapping_bollard.glb", "milepost.glb"


def step(height):
    return STEPS["size"].model_validate({"height": height, "for": ["post.*"]})


def test_killed_at_twenty_random_moments_nothing_that_was_done_is_missing(tmp_path):
    command = [sys.executable, "-m", "tests.app.killed", str(tmp_path), "20"]
    found = subprocess.run(command, capture_output=True, text=True, timeout=20 * WAIT_S)
    runs = [json.loads(line) for line in found.stdout.splitlines()]
    assert len(runs) == 20, found.stderr[-2000:]
    for told, has in runs:
        # The deed it was at may be in it already; nothing else is.
        assert any(told <= n <= told + 1 for n in has), (told, has)
    assert len({told for told, _ in runs}) > 8


def test_a_line_that_was_cut_short_costs_itself_alone(tmp_path):
    journal = Journal(tmp_path)
    first = History(now=Document()).done("Try", Document(draft=step("1 m")))
    second = first.done("Keep", first.now.with_draft_kept)
    journal.follow(first, ViewState())
    journal.follow(second, ViewState(stage="size"))
    (path,) = tmp_path.glob("*.journal")
    whole = path.read_bytes()
    for end in range(len(whole)):
        path.write_bytes(whole[:end])
        labels = [label for label, _ in read_journal(path).history.past]
        assert labels in ([], ["Try"], ["Try", "Keep"])
    path.write_bytes(whole)
    saved = read_journal(path)
    assert saved.history.now.sheet.steps[0].height == "1 m"
    assert saved.history.past[1][1].draft.height == "1 m"
    assert saved.looks.stage == "size"
    path.write_bytes(b"no journal\n" + whole)
    assert [label for label, _ in read_journal(path).history.past] == ["Try", "Keep"]
    journal.end()


def test_a_drag_is_one_entry_and_each_of_its_moments_a_short_line(tmp_path):
    journal, history = Journal(tmp_path), History(now=Document())
    for k in range(200):
        history = history.done(f"Try {k}", Document(draft=step(f"{k + 1} cm")))
        journal.follow(history, ViewState())
    for k in range(5):
        history = history.done(f"Drag to {k}", Document(draft=step(f"{k + 1} m")), gesture=7)
        journal.follow(history, ViewState())
    (path,) = tmp_path.glob("*.journal")
    assert max(map(len, path.read_bytes().splitlines()[-4:])) < 300
    saved = read_journal(path)
    assert [label for label, _ in saved.history.past] == [label for label, _ in history.past]
    assert [words_of(d) for _, d in saved.history.past] == [words_of(d) for _, d in history.past]
    assert saved.history.now.draft.height == "5 m"
    journal.end()


def test_what_lives_is_not_offered_and_what_says_nothing_is_thrown_away(tmp_path):
    living = Journal(tmp_path)
    living.follow(History(now=Document()).done("Try", Document(draft=step("1 m"))), ViewState())
    assert left_behind(tmp_path) == []
    (tmp_path / "20200101-1.journal").write_text('{"journal":1}\n')
    (tmp_path / "20200102-1.journal").write_text("garbage")
    assert left_behind(tmp_path) == []
    assert len(list(tmp_path.glob("*.journal"))) == 1
    living.end()
    # What was there and could not be read is kept aside.
    assert [p.name for p in tmp_path.iterdir()] == ["20200102-1.journal.unread"]


def written(folder, count):
    """A journal of a run that tried one size after the other, and was killed; its path."""
    journal, history = Journal(folder), History(now=Document())
    for k in range(count):
        history = history.done(f"Try {k}", Document(draft=step(f"{k + 1} cm")))
        journal.follow(history, ViewState(stage="size"))
    (path,) = folder.glob("*.journal")
    journal._file.close()
    return path


def test_one_spoilt_line_costs_itself_alone(tmp_path):
    path = written(tmp_path, 60)
    lines = path.read_bytes().split(b"\n")
    for k in (0, 1, 2, 3, 30):
        spoilt = list(lines)
        spoilt[k] = b"\xff" + spoilt[k][1:]
        path.write_bytes(b"\n".join(spoilt))
        saved = read_journal(path)
        assert saved.lost == 1
        assert len(saved.history.past) >= 59
        assert saved.history.now.draft.height == "60 cm"
    assert left_behind(tmp_path)[0].is_worth_having
    saved.put_away()
    assert [p.suffix for p in tmp_path.iterdir()] == [".unread"]


@pytest.mark.parametrize(
    "odd",
    [
        '{"journal":9}\n{"new":1}\n', "[" * 100_000 + "\n", '{"now":{"number":1,"of":null,"sheet":[1]}}\n', "3\n",
        '{"now":{"number":1e999,"of":0}}\n', '{"looks":{"unit":3}}\n', '{"list":0,"is":{}}\n{"now":{"in list":1}}\n',
    ],
)  # fmt: skip
def test_a_journal_that_nobody_understands_hides_no_other_and_is_kept(tmp_path, odd):
    path = written(tmp_path, 3)
    (tmp_path / "99999999-1.journal").write_text(odd)
    assert [saved.path for saved in left_behind(tmp_path)] == [path]
    assert (tmp_path / "99999999-1.journal.unread").read_text() == odd
    # With lines of a run in it, it is offered as far as it can be read.
    (tmp_path / "99999999-1.journal").write_text(odd + path.read_text().partition("\n")[2])
    assert len(left_behind(tmp_path)) == 2


@pytest.mark.parametrize("seed", range(120))
def test_spoilt_journals_and_settings_raise_nothing(tmp_path, seed):
    rng = random.Random(seed)
    path = written(tmp_path, 4)
    settings = b'{"version":1,"tray":["a"],"keys":{"a":["b"]},"size":[1,2],"unit":{"system":"metric"},"text":110}'
    for data, read in ((path.read_bytes(), None), (settings, read_habits)):
        found = bytearray(data)
        for _ in range(rng.randint(1, 6)):
            at = rng.randrange(len(found))
            kind = rng.choice(["flip", "cut", "put", "deep"])
            if kind == "flip":
                found[at] = rng.randrange(256)
            elif kind == "cut":
                del found[at : at + rng.randint(1, 9)]
            else:
                more = b"[" * 9000 if kind == "deep" else rng.choice([b"null", b"1e999", b"{}", b'"x"', b"-1", b"[]"])
                found[at:at] = more
        if read is None:
            path.write_bytes(found)
            left_behind(tmp_path)
        else:
            read(bytes(found))


def test_what_was_picked_is_written_once_however_often_it_is_tried(tmp_path):
    journal, history = Journal(tmp_path), History(now=Document())
    take = {"vertices": list(range(0, 40_000, 2)), "of": "0" * 12}
    for k in range(50):
        words = {"do": "shape", "take": take, "by": [0, k, 0]}
        history = history.done("Try", Document(draft=STEPS["shape"].model_validate(words)), gesture=1)
        journal.follow(history, ViewState())
    (path,) = tmp_path.glob("*.journal")
    assert path.stat().st_size < 2 * len(json.dumps(take))
    assert read_journal(path).history.now.draft.words() == history.now.draft.words()
    journal.end()


def test_a_journal_that_can_not_be_written_is_said_once(hand, tmp_path):
    (tmp_path / "work").write_text("in the way")
    Autosave(hand.session, tmp_path / "work")
    said = []
    hand.session.messages.failed.connect(said.append)
    hand.session.drafts.try_step(step("1 m"))
    hand.session.drafts.try_step(step("2 m"))
    assert len(said) == 1
    assert "save the sheet yourself" in said[0]


@pytest.fixture
def left(qtbot, lock, tmp_path):
    """A window that worked on the demo batch, and whose journal another one finds."""
    for path in lock.iterdir():
        if path.suffix in {".glb", ".obj", ".stl", ".ply", ".dae", ".usda", ".3mf"} and path.name not in (
            BOLLARD,
            POST,
        ):
            path.unlink()
    hand = Hand(qtbot)
    hand.window.autosave = Autosave(hand.session, tmp_path / "work")
    hand.open(lock)
    hand.pick(POST)
    hand.stage("size")
    hand.session.drafts.try_step(STEPS["size"].model_validate({"height": "90 cm", "for": [POST]}))
    hand.session.drafts.keep()
    hand.session.sheet.save(tmp_path / "s.prepsheet.yaml")
    hand.session.drafts.try_step(STEPS["size"].model_validate({"height": "95 cm", "for": [POST]}))
    hand.session.drafts.keep()
    hand.session.sheet.include((BOLLARD,), False)
    hand.session.drafts.try_step(STEPS["turn"].model_validate({"by": [0, 90, 0], "for": [POST]}))
    hand.settle()
    return hand


def test_another_window_takes_it_up_just_as_it_was(left, hand, tmp_path):
    # Killed: the lock goes with the process; here its file is let go.
    autosave = left.window.autosave
    autosave._journal._file.close()
    hand.window.autosave = Autosave(hand.session, tmp_path / "work")
    hand.window.files.ask_work = lambda saved: "take"
    offer_work(hand.window)
    hand.settle()
    was, now = left.session, hand.session
    assert [words_of(d) for _, d in (*now.sheet.history.past, ("", now.document))] == [
        words_of(d) for _, d in (*was.sheet.history.past, ("", was.document))
    ]
    assert [label for label, _ in now.sheet.history.past] == [label for label, _ in was.sheet.history.past]
    assert (now.selection, now.stage) == ((POST,), "size")
    assert set(now.rows) == set(was.rows)
    assert now.document.left_out == {BOLLARD}
    assert now.is_saved == was.is_saved is False
    # Undo goes back past the restart, to what the file holds.
    for _ in range(4):
        hand.key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert [s.height for s in now.document.sheet.steps] == ["90 cm"]
    assert now.is_saved
    # It is written down anew, and offered to nobody while this window lives.
    assert left_behind(tmp_path / "work") == []
    assert len(list((tmp_path / "work").glob("*.journal"))) == 1
    left.window.autosave = None


def test_closed_by_hand_nothing_is_left(left, tmp_path):
    left.window.files.ask_unsaved = lambda: "leave"
    left.window.close()
    assert left_behind(tmp_path / "work") == []
    assert list((tmp_path / "work").iterdir()) == []


def test_a_sheet_that_another_hand_changed_is_noticed_and_not_written_over_unasked(hand, tmp_path):
    path = tmp_path / "s.prepsheet.yaml"
    hand.session.drafts.try_step(step("1 m"))
    hand.session.drafts.keep()
    hand.session.sheet.save(path)
    said = []
    hand.session.messages.failed.connect(said.append)
    path.write_text("prep-sheet: 1\nsteps:\n  - {do: size, height: 3 m}\n")
    hand.qtbot.waitUntil(lambda: bool(said), timeout=WAIT_MS)
    assert said == ["s.prepsheet.yaml was changed by another hand: open it again to have what it says now"]
    asked = []
    hand.window.files.ask_changed = lambda p: asked.append(p) or "stay"
    hand.window.files.save_sheet(path)
    assert asked == [path]
    assert load_sheet(path)[0].steps[0].height == "3 m"
    hand.window.files.ask_changed = lambda _: "open"
    hand.window.files.save_sheet(path)
    assert hand.session.document.sheet.steps[0].height == "3 m"
    hand.window.files.ask_changed = lambda _: "none is asked now"
    hand.session.sheet.set_title("Quay")
    hand.window.files.save_sheet(path)
    assert load_sheet(path)[0].title == "Quay"


def test_every_document_comes_back_from_its_words(hand, lock, tmp_path):
    hand.open(lock)
    session = hand.session
    sheet = load_sheet(lock / "fenwick.prepsheet.yaml")[0]
    session.sheet.open(lock / "fenwick.prepsheet.yaml")
    session.names.set_grip(lambda g: g)
    session.drafts.try_step(STEPS["turn"].model_validate({"up": "guess", "front": "guess"}))
    document = session.document
    again = document_of(json.loads(json.dumps(words_of(document))))
    assert again.sheet == document.sheet == sheet
    assert (again.draft, again.aim, again.grip, again.path) == (
        document.draft,
        document.aim,
        document.grip,
        document.path,
    )
    assert again.words == document.words
    assert again.book.text() == document.book.text()
