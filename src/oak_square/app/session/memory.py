"""What was worked out of the assets of a batch, remembered for as long as they are open, and not without bound."""

from __future__ import annotations

import contextlib
import ctypes
import gc
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from weakref import WeakKeyDictionary

from oak_square.app.session.outcomes import Plan
from oak_square.core.boxes import asset_box
from oak_square.core.findings.finding import Finding
from oak_square.core.findings.shared_worlds import SharedWorld, shared_worlds
from oak_square.core.findings.survey import survey
from oak_square.core.likely.answers import Answer, Settled, answers_of
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.sheet.course import Course
from oak_square.sheet.evaluate import Prepared, evaluate
from oak_square.sheet.model import Sheet
from oak_square.sheet.questions import settled_in
from oak_square.sheet.standings import Standings

__all__ = ["Known", "Memory", "give_memory_back"]

_REMEMBERED = 8  # of each asset: what it came to under the steps that were tried lately


def give_memory_back() -> None:
    """Let go of what is unreachable, and let the system have what was freed: on the thread that has the widgets.

    The C library keeps what many small arrays lay in for the next ones; of a batch of a gigabyte that is most of it.
    """
    gc.collect()
    with contextlib.suppress(OSError, AttributeError):  # another C library has no such call, and may need none
        trim = ctypes.CDLL(None).malloc_trim
        # It goes through all there is, and holds nobody up meanwhile.
        threading.Thread(target=trim, args=(0,), daemon=True).start()


@dataclass(slots=True, eq=False)
class Known:
    """What was worked out of an asset under some steps; surveyed once that is asked for."""

    prepared: Prepared
    is_as_read: bool
    asset: Asset
    book: SizeBook | None
    findings: tuple[Finding, ...] | None = None


class Memory:
    """Remembers surveys, clues, likeliest answers, and what sheets came to; for the thread that works sheets out."""

    def __init__(self) -> None:
        self._memos: dict[str, OrderedDict[tuple[str, ...], Known]] = {}
        self._surveyed: WeakKeyDictionary[Asset, tuple[Finding, ...]] = WeakKeyDictionary()
        self._clues: WeakKeyDictionary[Asset, Clues] = WeakKeyDictionary()
        self._answers: tuple[object, Mapping[str, Answer]] = (None, {})
        self._answered: object = None
        self._worlds: tuple[object, Sheet | None, Mapping[str, SharedWorld]] = (None, None, {})
        self._standings: tuple[Plan | None, dict[tuple[int, int], Standings]] = (None, {})

    @property
    def has_read(self) -> bool:
        """Whether any asset was read that is still open."""
        return bool(self._surveyed)

    @property
    def answers(self) -> Mapping[str, Answer]:
        """What each asset most likely is, as it was worked out last."""
        return self._answers[1]

    def note_read(self, asset: Asset, findings: tuple[Finding, ...], clues: Clues | None) -> None:
        """Take note of what was found of an asset as it was read."""
        self._surveyed[asset] = findings
        if clues is not None:
            self._clues[asset] = clues

    def forget(self, files: Iterable[str]) -> None:
        """Forget what was worked out of files, and of batches that had them."""
        for file in files:
            self._memos.pop(file, None)
        self._standings, self._answers, self._answered = (None, {}), (None, {}), None
        self._worlds = (None, None, {})

    def worlds_of(
        self, plan: Plan, answers: Mapping[str, Answer], suspect: Callable[..., tuple[Finding, ...]]
    ) -> Mapping[str, SharedWorld]:
        """Return the arrangements that files of a folder share, as the kept steps have them read.

        `suspect` returns what is suspect of an asset that was read so.
        """
        # The sheet goes along, so that its number is not given to another while it is a key.
        key = self._settle_plan(plan)[0], id(plan.kept)
        if self._worlds[0] != key:
            read = [Course(asset, plan.kept, before=1).prepared() for asset in plan.batch.values()]
            boxes = {p.read.file: box for p in read if (box := asset_box(p.read)) is not None}
            found = {p.read.file: suspect(p, plan.kept, answers.get(p.read.file)) for p in read}
            units = {file: f.measure for file, own in found.items() for f in own if f.code == "unit-suspect"}
            self._worlds = key, plan.kept, shared_worlds(boxes, units)
        return self._worlds[2]

    def is_open(self, plan: Plan) -> bool:
        """Whether what the folders of a plan say is still to be worked out."""
        return self._answers[0] != self._settle_plan(plan)[0]

    def _settle_plan(self, plan: Plan) -> tuple[object, Settled]:
        settled = settled_in(plan.kept, list(plan.batch))
        files = tuple(map(id, plan.batch.values()))
        return (files, tuple(settled.units.items()), tuple(settled.ways.items()), id(plan.book)), settled

    def answers_of(self, plan: Plan) -> Mapping[str, Answer]:
        """Return what each asset of the batch most likely is, beside what the kept steps settle of others."""
        key, settled = self._settle_plan(plan)
        if self._answers[0] != key:
            # Assets and book go along, so that their numbers are not given to others while they are a key.
            clues = [self._clues_of(asset) for asset in plan.batch.values()]
            self._answers = key, answers_of(clues, settled, plan.book)
            self._answered = plan.batch, plan.book
        return self._answers[1]

    def _clues_of(self, asset: Asset) -> Clues:
        found = self._clues.get(asset)
        if found is None:
            found = self._clues[asset] = clues_of(asset)
        return found

    def known(self, asset: Asset, plan: Plan, sheet: Sheet, words: list[str], answers: Mapping[str, Answer]) -> Known:
        """Work one sheet out on one asset, unless the steps that cover it are ones that were worked out lately."""
        covering = [(w, step) for w, step in zip(words[1:], sheet.steps, strict=True) if step.covers(asset.file)]
        key = (str(id(asset)), str(id(plan.book)), words[0], *(w for w, _ in covering))
        if any(step.moves_together or sheet.assets_named(step) for _, step in covering):
            # What it is held against hangs on all steps, and on the files that are there.
            key = (*key, *words, *(str(id(a)) for a in plan.batch.values()), str(id(answers)))
        if (answer := answers.get(asset.file)) is not None:
            key = (*key, *(step.guess_words(answer) for _, step in covering if step.is_guess))
        memo = self._memos.setdefault(asset.file, OrderedDict())
        if key not in memo:
            # Asset and book go along, so that their numbers are not given to others while they are keys.
            prepared = evaluate(asset, sheet, self._standings_of(plan, sheet, answers), answers=answers)
            memo[key] = Known(prepared=prepared, is_as_read=not covering, asset=asset, book=plan.book)
            if len(memo) > _REMEMBERED:
                memo.popitem(last=False)
        memo.move_to_end(key)
        return memo[key]

    def _standings_of(self, plan: Plan, sheet: Sheet, answers: Mapping[str, Answer]) -> Standings:
        """Return how the batch of a plan stands under one of its sheets, for steps that name another asset."""
        if self._standings[0] is not plan:
            self._standings = plan, {}
        known, key = self._standings[1], (id(sheet), id(answers))  # both are held by what is remembered
        if key not in known:
            known[key] = Standings(sheet, plan, answers)
        return known[key]

    def findings_of(self, known: Known) -> tuple[Finding, ...]:
        """Return what is not true of what was worked out."""
        if known.findings is None:
            # What no step covers is as it was read, and was surveyed then.
            read = self._surveyed.get(known.asset) if known.is_as_read and known.book is None else None
            known.findings = survey(known.prepared.asset, known.book) if read is None else read
        return known.findings
