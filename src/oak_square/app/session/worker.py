"""Long work, off the interface thread: reading files, working sheets out, delivering.

Each job is a frozen request with a number; its answer carries the same number, and comes as a Qt signal, so it is
taken up on the interface thread. Answers to requests that have been overtaken are dropped by whoever asked.
"""

from __future__ import annotations

import multiprocessing
import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Iterable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from weakref import WeakKeyDictionary, WeakSet

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.outcomes import Outcome, Plan, stage_marks
from oak_square.app.session.reading import ReadResult, read_bare, read_source
from oak_square.app.session.stamps import FoundSource
from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadUsage, OakSquareError, Occupied, fault_words, os_words
from oak_square.core.findings.finding import Finding
from oak_square.core.findings.survey import survey
from oak_square.core.likely.answers import Answer, Settled, answers_of
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.likely.suspects import suspects, with_suspects
from oak_square.core.scene import Asset, Mesh
from oak_square.core.sharing import Parting, partings
from oak_square.core.size_book import SizeBook
from oak_square.core.standing import standing_at
from oak_square.core.topology import is_known, topology
from oak_square.core.words import say
from oak_square.delivery.batch import Source, find_sources
from oak_square.delivery.pictures import pictures_of
from oak_square.delivery.report import check_reports, write_reports
from oak_square.delivery.running import Run, deliver
from oak_square.delivery.surveying import why_not
from oak_square.delivery.workers import in_processes
from oak_square.formats.register import format_of
from oak_square.sheet.evaluate import Prepared, evaluate
from oak_square.sheet.model import Sheet
from oak_square.sheet.questions import is_open, settled_in, side_question, unit_question
from oak_square.sheet.standings import Standings

__all__ = ["Worker"]

# Larger files, and many, are read in other processes: parsing them here would hold the interpreter, and the window.
_SMALL_BYTES = 2_000_000
_MANY_FILES = 24
_MANY_TRIANGLES = 20_000  # from which on working out corners and circles would be felt
_TELL_EVERY_S = 0.25  # each time the lists are drawn anew, and that takes from what is still to be worked out
_BREATH_S = 0.05  # for the window to draw what is looked at, before the rest takes the interpreter again
_FIRST_S = 1.0  # for the very first asset to be worked out, at most
_REMEMBERED = 8

Memo = OrderedDict[tuple[str, ...], "_Known"]


@dataclass(slots=True, eq=False)
class _Known:
    """What was worked out of an asset under some steps; surveyed once that is asked for."""

    prepared: Prepared
    is_as_read: bool
    asset: Asset
    book: SizeBook | None
    findings: tuple[Finding, ...] | None = None


class Worker(QObject):
    """Runs the window's long work. One thread reads and one works sheets out; big files and deliveries fork off."""

    read = Signal(object, object)  # source, what was read of it
    worked_out = Signal(int, object)  # request, tuple of Outcome
    progressed = Signal(int, int, object)  # done, all, manifest entry
    delivered = Signal(object, object)  # manifest, error
    broke = Signal(str)  # a fault of ours, in words
    said = Signal(str)  # what is odd about something, in a line
    found = Signal(object, object, object)  # paths, what was found at them, why nothing was
    done_aside = Signal(int, object)  # its number, what was worked out

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._threads = ThreadPoolExecutor(3, thread_name_prefix="oak-read")
        self._thinker = ThreadPoolExecutor(1, thread_name_prefix="oak-think")
        self._latest = 0
        self._cancel, self._stop = threading.Event(), threading.Event()
        self._told = threading.Event()  # that something was worked out
        self._closed = False
        self._memos: dict[str, Memo] = {}
        self._gathering: WeakSet[Mesh] = WeakSet()
        self._reads: list[Future[Any]] = []
        self._surveyed: WeakKeyDictionary[Asset, tuple[Finding, ...]] = WeakKeyDictionary()
        self._clues: WeakKeyDictionary[Asset, Clues] = WeakKeyDictionary()
        self._answers: tuple[object, Mapping[str, Answer]] = (None, {})
        self._answered: object = None
        self._standings: tuple[Plan | None, dict[tuple[int, int], Standings]] = (None, {})
        self._faulty: object = None

    def gather(self, mesh: Mesh) -> bool:
        """Tell whether a mesh's corners, edges and circles are known; of a large one they are worked out meanwhile."""
        if is_known(mesh) or len(mesh.triangles) < _MANY_TRIANGLES:
            return True
        if mesh not in self._gathering:
            self._gathering.add(mesh)
            self._threads.submit(topology, mesh).add_done_callback(self._tell_fault)
        return False

    def aside(self, number: int, work: Callable[[], object]) -> None:
        """Work something out that nothing else waits for; `done_aside` tells of it under its number."""

        def run() -> None:
            found = work()
            if not self._closed:
                self.done_aside.emit(number, found)

        self._threads.submit(run).add_done_callback(self._tell_fault)

    def find_sources(self, paths: list[Path]) -> None:
        """Look for the models at `paths`; `found` tells of them. A folder on a slow disk takes its time."""
        self._threads.submit(self._find, paths).add_done_callback(self._tell_fault)

    def _find(self, paths: list[Path]) -> None:
        try:
            sources, why = [FoundSource.of(s) for s in find_sources(paths)], None
        except OakSquareError as error:
            sources, why = [], str(error)
        if not self._closed:
            self.found.emit(paths, sources, why)

    def read_sources(self, sources: list[Source]) -> None:
        """Read `sources`; `read` tells of each as it comes."""
        if self._closed:
            return  # they were found while the window went
        # Starting processes takes a while: not on the interface thread.
        self._threads.submit(self._feed, sources).add_done_callback(self._tell_fault)

    def _feed(self, sources: list[Source]) -> None:
        self._stop.clear()
        many = len(sources) > _MANY_FILES
        apart = []
        for source in self._after_the_first(sources):
            if many or _is_large(source):
                apart.append(source)
            else:
                self._reads.append(self._threads.submit(self._read_here, source))
                self._reads[-1].add_done_callback(self._tell_fault)
        # One core is left to the window, and readers give way to it. A reader that dies costs its own file only.
        jobs = max(1, multiprocessing.cpu_count() - 1)
        due = {id(source): source for source in apart}
        try:
            for source, result, why in in_processes(
                read_source, apart, jobs, self._stop.is_set, niceness=10, abandoned=lambda: self._closed
            ):
                self._tell_read(due.pop(id(source)), result or (None, why, (), "", {}, None))
        except Exception as error:  # no process can be started: what is still due is not waited for without end
            for source in {} if self._stop.is_set() else due.values():
                self._tell_read(source, (None, why_not(error), (), "", {}, None))

    def _after_the_first(self, sources: list[Source]) -> list[Source]:
        """Read the first file where nothing is open yet; return the others once there was time to draw it.

        They take the interpreter from whoever draws: all at once, the first picture comes half a second later.
        """
        if self._surveyed or not sources or _is_large(sources[0]):
            return sources
        self._told.clear()
        if self._read_here(sources[0]):
            self._told.wait(_FIRST_S)
            self._stop.wait(_BREATH_S)
        return [] if self._stop.is_set() else sources[1:]

    def _read_here(self, source: Source) -> bool:
        """Read a file and tell of it; return whether it can be read."""
        result = read_bare(source)
        self._tell_read(source, result)
        return result[0] is not None

    def stop_reading(self) -> None:
        """Read no more of what is waiting; what is under way is still told."""
        self._stop.set()
        self._told.set()
        for future in self._reads:
            future.cancel()
        self._reads.clear()

    def work_out(self, plan: Plan) -> None:
        """Work the sheets of `plan` out; a plan of a later request makes this one moot."""
        self._latest = plan.request
        if not self._closed:
            self._thinker.submit(self._work_out, plan).add_done_callback(self._tell_fault)

    def forget(self, files: Iterable[str], *, drop_plan: bool = False) -> None:
        """Forget what was worked out of files, and of batches that had them; with `drop_plan` work no more out."""
        if drop_plan:
            self._latest = -1
        if not self._closed:
            self._thinker.submit(self._forget, tuple(files)).add_done_callback(self._tell_fault)

    def _forget(self, files: tuple[str, ...]) -> None:
        for file in files:
            self._memos.pop(file, None)
        self._standings, self._answers, self._answered = (None, {}), (None, {}), None

    def deliver(self, run: Run) -> None:
        """Deliver; `progressed` and `delivered` tell of it."""
        self._cancel.clear()
        self._threads.submit(self._deliver, run).add_done_callback(self._tell_fault)

    def report(self, path: Path, manifest: dict[str, Any], run: Run) -> None:
        """Write a report of what a run came to; `said` tells where it is, or why it is not."""
        self._threads.submit(self._report, path, manifest, run).add_done_callback(self._tell_fault)

    def _report(self, path: Path, manifest: dict[str, Any], run: Run) -> None:
        try:
            check_reports([path], run.out)
            pictures = None
            if path.suffix.lower() == ".html":
                pictures = pictures_of(
                    manifest, run.sources, run.sheet, run.out, book=run.book, abandoned=lambda: self._closed
                )
            write_reports([path], manifest, pictures)
        except BadUsage as error:
            words = str(error).removeprefix("--report ")
        except OSError as error:
            words = os_words(error)
        else:
            words = say("The report is in {path}", path=path)
        if not self._closed:
            self.said.emit(words)

    def cancel(self) -> None:
        """Stop a delivery after the asset it is at."""
        self._cancel.set()

    def close(self) -> None:
        """Stop all work and wait for what is under way."""
        self._closed = True
        self._latest = -1
        self._cancel.set()
        self._stop.set()
        self._told.set()
        self._threads.shutdown(wait=True, cancel_futures=True)
        self._thinker.shutdown(wait=True, cancel_futures=True)

    def _tell_read(self, source: Source, result: ReadResult) -> None:
        if result[0] is not None:
            self._surveyed[result[0]] = result[2]
            if result[5] is not None:
                self._clues[result[0]] = result[5]
        if not self._closed:
            self.read.emit(source, result)

    def _tell_fault(self, future: Future[Any]) -> None:
        if not future.cancelled() and (error := future.exception()) is not None and not self._closed:
            self._tell_of(error)

    def _tell_of(self, error: BaseException) -> None:
        self.broke.emit(say("A fault of ours, please report it: {error}", error=repr(error)))

    def _work_out(self, plan: Plan) -> None:
        keys = {id(sheet): _step_words(sheet) for sheet in (plan.before, plan.tried, plan.kept)}
        guesses = any(step.is_guess for sheet in (plan.before, plan.tried, plan.kept) for step in sheet.steps)
        answers = self._answers[1]
        if not guesses and not plan.reading and self._is_open(plan):
            # What is looked at is told of first: what its folder says of it takes longer.
            rough = [self._outcome_of(a, plan, keys, answers, rough=True) for a in plan.assets[: plan.first]]
            self._tell_outcomes(plan, rough)
            time.sleep(_BREATH_S)
        if guesses or not plan.reading:
            # While more are still to come, all are worked out anew once they are there.
            try:
                answers = self._answers_of(plan)
            except Exception as error:  # each is judged by itself then
                answers = {}
                self._tell_once(plan, error)
        outcomes: list[Outcome] = []
        told = time.monotonic()
        for number, asset in enumerate(plan.assets):
            if plan.request != self._latest:
                return
            if number and number == plan.first:
                self._tell_outcomes(plan, outcomes)
                time.sleep(_BREATH_S)
                outcomes, told = [], time.monotonic()
            outcomes.append(self._outcome_of(asset, plan, keys, answers))
            if time.monotonic() - told > _TELL_EVERY_S:
                self._tell_outcomes(plan, outcomes)
                outcomes, told = [], time.monotonic()
        self._tell_outcomes(plan, outcomes)

    def _outcome_of(self, asset: Asset, plan: Plan, *given: Any, rough: bool = False) -> Outcome:
        try:
            return self._outcome(asset, plan, *given, rough=rough)
        except Exception as error:  # the border of an asset: a fault of ours costs it alone, as where it is delivered
            self._tell_once(plan, error)
            lost = Prepared(read=asset, asset=asset, outcomes=(), status="failed", reason=fault_words(error))
            return Outcome(
                file=asset.file, before=lost, after=lost, findings=(), marks=(("receive", "fix"),), rough=rough
            )

    def _tell_once(self, plan: Plan, error: Exception) -> None:
        """Tell of a fault of ours, once where more assets meet the same."""
        if (told := (plan.request, repr(error))) != self._faulty and not self._closed:
            self._faulty = told
            self._tell_of(error)

    def _outcome(
        self,
        asset: Asset,
        plan: Plan,
        keys: Mapping[int, list[str]],
        answers: Mapping[str, Answer],
        *,
        rough: bool = False,
    ) -> Outcome:
        before = self._known(asset, plan, plan.before, keys[id(plan.before)], answers).prepared
        after = self._known(asset, plan, plan.tried, keys[id(plan.tried)], answers).prepared
        known = self._known(asset, plan, plan.kept, keys[id(plan.kept)], answers)
        kept, answer = known.prepared, answers.get(asset.file)
        findings = with_suspects(self._findings(known), _suspects(kept, plan.kept, answer))
        declared = asset.reading.metres_per_unit if asset.reading.source == "declared" else None
        standings, apart = None, tuple[Parting, ...]()
        if plan.draft is not None and plan.draft.covers(asset.file):
            stage = plan.draft.stage
            standings = standing_at(stage, before.asset), standing_at(stage, after.asset)
            apart = partings(before.asset, after.asset)
        return Outcome(
            file=asset.file,
            before=before,
            after=after,
            findings=findings,
            standings=standings,
            partings=apart,
            marks=stage_marks(findings),
            size=standing_at("size", after.asset).size,
            question=unit_question(kept, plan.kept, answer, declared),
            sides=side_question(kept.read, plan.kept, answer),
            answer=answer,
            rough=rough,
        )

    def _tell_outcomes(self, plan: Plan, outcomes: list[Outcome]) -> None:
        if not self._closed:
            self.worked_out.emit(plan.request, tuple(outcomes))
            self._told.set()

    def _is_open(self, plan: Plan) -> bool:
        """Whether what the folders of a plan say is still to be worked out."""
        return self._answers[0] != self._asked(plan)[0]

    def _asked(self, plan: Plan) -> tuple[object, Settled]:
        settled = settled_in(plan.kept, list(plan.batch))
        files = tuple(map(id, plan.batch.values()))
        return (files, tuple(settled.units.items()), tuple(settled.ways.items()), id(plan.book)), settled

    def _answers_of(self, plan: Plan) -> Mapping[str, Answer]:
        """Return what each asset of the batch most likely is, beside what the kept steps settle of others."""
        key, settled = self._asked(plan)
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

    def _known(self, asset: Asset, plan: Plan, sheet: Sheet, words: list[str], answers: Mapping[str, Answer]) -> _Known:
        """Work one sheet out on one asset, unless the steps that cover it are ones that were worked out lately."""
        covering = [(w, step) for w, step in zip(words[1:], sheet.steps, strict=True) if step.covers(asset.file)]
        key = (str(id(asset)), str(id(plan.book)), words[0], *(w for w, _ in covering))
        if any(step.refers_to is not None for _, step in covering):
            # What it is held against hangs on all steps, and on the files that are there.
            key = (*key, *words, *(str(id(a)) for a in plan.batch.values()), str(id(answers)))
        if (answer := answers.get(asset.file)) is not None:
            key = (*key, *(step.guess_words(answer) for _, step in covering if step.is_guess))
        memo = self._memos.setdefault(asset.file, OrderedDict())
        if key not in memo:
            # Asset and book go along, so that their numbers are not given to others while they are keys.
            prepared = evaluate(asset, sheet, self._standings_of(plan, sheet, answers), answers=answers)
            memo[key] = _Known(prepared=prepared, is_as_read=not covering, asset=asset, book=plan.book)
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

    def _findings(self, known: _Known) -> tuple[Finding, ...]:
        if known.findings is None:
            # What no step covers is as it was read, and was surveyed then.
            read = self._surveyed.get(known.asset) if known.is_as_read and known.book is None else None
            known.findings = survey(known.prepared.asset, known.book) if read is None else read
        return known.findings

    def _deliver(self, run: Run) -> None:
        try:
            manifest = deliver(
                run, self.progressed.emit, self._cancel.is_set, self.said.emit, abandoned=lambda: self._closed
            )
        except Occupied as error:
            self.delivered.emit(
                None, say("{error}; choose another folder, or let it replace an earlier delivery", error=str(error))
            )
        except OakSquareError as error:
            self.delivered.emit(None, str(error))
        except OSError as error:
            self.delivered.emit(None, os_words(error))
        else:
            self.delivered.emit(manifest, None)


def _suspects(kept: Prepared, sheet: Sheet, answer: Answer | None) -> tuple[Finding, ...]:
    """Return what is suspect of an asset as the kept steps read it: what no step says."""
    box, file = asset_box(kept.read), kept.read.file
    longest = float(box.size.max()) if box is not None else 0.0
    unit, up = is_open(sheet, file, "unit"), is_open(sheet, file, "turn")
    return suspects(kept.read.reading, longest, answer, unit=unit, up=up)


def _reads_in_c(source: Source) -> bool:
    """Tell whether a library in C reads a file, which could take the window down with it."""
    kind = format_of(source.path)
    return not source.trouble and kind is not None and kind.reads_in_c(source.path)


def _is_large(source: Source) -> bool:
    """Tell whether a file is read in a process of its own, however few there are."""
    try:
        return _file_bytes(source) >= _SMALL_BYTES or _reads_in_c(source)
    except Exception:  # it has just gone, or we are at fault: reading it says so
        return False


def _file_bytes(source: Source) -> int:
    return source.path.stat().st_size if source.path.is_file() else 0


def _step_words(sheet: Sheet) -> list[str]:
    """Return what tells sheets apart: how they deliver, then each step with its number."""
    return [sheet.deliver.model_dump_json(), *(f"{n} {s.model_dump_json()}" for n, s in enumerate(sheet.steps))]
