"""A draft over 500 assets: how soon the one looked at is drawn, how soon all numbers stand, beside bare evaluation."""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from functools import partial
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

from beats import longest_gaps, until, watched_beats

from oak_square.app.start import open_window
from oak_square.demo import BATCH
from oak_square.formats.register import format_of
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS

COUNT = 500
DRAFTS = (
    {"do": "size", "factor": 2},
    {"do": "turn", "by": [0, 30, 0]},
    {"do": "bake"},
    {"do": "pivot", "at": "base"},
)


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        models = [p for p in sorted(BATCH.iterdir()) if format_of(p) is not None]
        for k in range(COUNT):
            model = models[k % len(models)]
            shutil.copy(model, Path(name) / f"{k:03d}_{model.name}")
        window = open_window([Path(name)])
        session = window.session
        until(lambda: session.is_settled() and not window.thumbnails.busy)
        for words in DRAFTS:
            step = STEPS[str(words["do"])].model_validate(words)
            session.enter_stage(step.stage)
            assets = list(session.assets.values())
            started = time.perf_counter()
            for asset in assets:
                evaluate(asset, Sheet(steps=(step,)))
            bare = time.perf_counter() - started
            beats = watched_beats()
            lead, seen = session.lead, 0.0
            before = session.outcomes[lead] if lead is not None else None
            started = time.perf_counter()
            session.drafts.try_step(step)
            if lead is not None:
                until(partial(lambda file, old: session.outcomes[file] is not old, lead, before))
                window.bench.repaint()
                seen = time.perf_counter() - started
            until(session.is_settled)
            took = time.perf_counter() - started
            print(
                f"{words['do']}: bare {bare:.2f} s; the one looked at after {seen * 1000:.0f} ms (aim 200), all after "
                f"{took:.2f} s, {took / bare:.1f} times (aim 1.5); longest turns {longest_gaps(beats, 3)} ms"
            )
            session.drafts.drop()
            until(session.is_settled)
        window.close()


if __name__ == "__main__":
    main()
