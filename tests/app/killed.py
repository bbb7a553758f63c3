"""A scripted run of editing that is killed at random moments, by a process of its own; prints what came of it.

python -m tests.app.killed FOLDER TIMES
"""

from __future__ import annotations

import json
import os
import random
import signal
import sys
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtCore import QCoreApplication

from oak_square.app.session.autosave import Autosave
from oak_square.app.session.journal import read_journal
from oak_square.app.session.session import Session
from oak_square.app.session.written import words_of
from oak_square.core.measuring import Anchor, Measure
from oak_square.steps.step import STEPS

STEPS_TAKEN = 60


def state(history, looks) -> str:
    """All of it, in words that can be compared."""
    told = [[label, words_of(d)] for label, d in (*history.past, ("", history.now), *history.future)]
    return json.dumps([told, len(history.past), list(looks)], sort_keys=True, ensure_ascii=False)


def of(session: Session) -> str:
    return state(session.sheet.history, (session.selection, session.stage))


def edited(session: Session):
    """Edit as a hand would, the same way each time, and yield after each deed."""
    rng = random.Random(5)
    for k in range(STEPS_TAKEN):
        steps = session.document.sheet.steps
        deed = rng.choice(
            ["try", "try", "keep", "keep", "undo", "redo", "pause", "remove", "move", "out", "measure", "look"]
        )
        if deed == "try":
            session.drafts.try_step(STEPS["size"].model_validate({"height": f"{k + 1} cm", "for": [f"post_{k}.*"]}))
        elif deed == "keep" and session.document.draft is not None:
            session.drafts.keep()
        elif deed == "undo":
            session.sheet.undo()
        elif deed == "redo":
            session.sheet.redo()
        elif deed == "pause" and steps:
            session.sheet.pause_step(len(steps) - 1)
        elif deed == "remove" and len(steps) > 2:
            session.sheet.remove_step(0)
        elif deed == "move" and len(steps) > 1:
            session.sheet.move_step(0, len(steps))
        elif deed == "out":
            session.sheet.include((f"post_{k}.obj",), rng.random() < 0.5)
        elif deed == "measure":
            ends = tuple(Anchor(node=0, name="post", at=(float(k), 0.0, z), kind="vertex") for z in (0.0, 1.0))
            session.measures.add(Measure(kind="span", file="post_1.obj", anchors=ends))
        elif deed == "look":
            session.select((f"post_{k}.obj",), (k,))
            yield  # each is kept by itself
            session.enter_stage(rng.choice(["size", "turn", "place"]))
        yield


def child(folder: Path, told: int) -> None:
    """Edit, writing a letter into the pipe after each deed, until killed."""
    session = Session()
    Autosave(session, folder)
    for _ in edited(session):
        os.write(told, b".")
    time.sleep(60)


def main(folder: Path, times: int) -> None:
    """Kill so many runs, and print for each how many deeds it told of and how many its journal has."""
    app = QCoreApplication([])
    session = Session()
    states = [of(session), *(of(session) for _ in edited(session))]
    session.close()
    assert app is not None
    rng = random.Random(7)
    for k in range(times):
        place = folder / str(k)
        read, write = os.pipe()
        pid = os.fork()
        if pid == 0:
            os.close(read)
            try:
                child(place, write)
            finally:
                os._exit(1)
        os.close(write)
        wanted, told = rng.randrange(STEPS_TAKEN), 0
        while told < wanted and (got := os.read(read, 1)):
            told += len(got)
        time.sleep(rng.random() * 0.004)
        os.kill(pid, signal.SIGKILL)
        os.waitpid(pid, 0)
        while got := os.read(read, 100):
            told += len(got)
        os.close(read)
        left = [read_journal(path) for path in place.glob("*.journal")]
        saved = left[0] if left else None
        found = states[0] if saved is None else state(saved.history, (saved.looks.selection, saved.looks.stage))
        print(json.dumps([told, [n for n, s in enumerate(states) if s == found]]), flush=True)


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]))
