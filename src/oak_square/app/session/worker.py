"""Long work, off the interface thread: reading files, working sheets out, delivering.

Each job is a frozen request with a number; its answer carries the same number, and comes as a Qt signal, so it is
taken up on the interface thread. Answers to requests that have been overtaken are dropped by whoever asked.
"""

from __future__ import annotations

import multiprocessing
import threading
import time
from collections.abc import Callable, Iterable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from importlib import import_module
from pathlib import Path
from typing import Any
from weakref import WeakSet

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.memory import Memory
from oak_square.app.session.outcomes import Outcome, Plan, stage_marks
from oak_square.app.session.reading import ReadResult, read_bare, read_source
from oak_square.app.session.set_down import without_place
from oak_square.app.session.stamps import FoundSource
from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadUsage, OakSquareError, Occupied, fault_words, os_words
from oak_square.core.findings.finding import Finding
from oak_square.core.findings.shared_worlds import SharedWorld, world_finding
from oak_square.core.likely.answers import Answer
from oak_square.core.likely.suspects import suspects, with_suspects
from oak_square.core.scene import Asset, Mesh
from oak_square.core.sharing import Parting, partings
from oak_square.core.standing import standing_at
from oak_square.core.topology import is_known, topology
from oak_square.core.words import say
from oak_square.delivery.batch import Source, find_sources
from oak_square.delivery.pictures import pictures_of
from oak_square.delivery.report import check_reports, write_reports
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.delivery.surveying import why_not
from oak_square.delivery.workers import in_processes
from oak_square.formats.register import format_of
from oak_square.sheet.evaluate import Prepared
from oak_square.sheet.model import Sheet
from oak_square.sheet.questions import is_open, side_question, unit_question

__all__ = ["Worker"]

_NEEDED_BY_HANDS = ("scipy.sparse.csgraph", "scipy.spatial")
"""What the first drag and the first pick need: importing it takes most of a second, which a hand would wait for."""
# Larger files, and many, are read in other processes: parsing them here would hold the interpreter, and the window.
_SMALL_BYTES = 2_000_000
_MANY_FILES = 24
_MANY_TRIANGLES = 20_000  # from which on working out corners and circles would be felt
_TELL_EVERY_S = 0.25  # each time the lists are drawn anew, and that takes from what is still to be worked out
_BREATH_S = 0.05  # for the window to draw what is looked at, before the rest takes the interpreter again
_FIRST_S = 1.0  # for the very first asset to be worked out, at most


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
        self._cancel, self._stop, self._search = threading.Event(), threading.Event(), threading.Event()
        self._told = threading.Event()  # that something was worked out
        self._closed = False
        self._gathering: WeakSet[Mesh] = WeakSet()
        self._reads: list[Future[Any]] = []
        self._memory = Memory()
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
        self._search = threading.Event()
        self._threads.submit(self._find_in_thread, paths, self._search).add_done_callback(self._tell_fault)

    def _find_in_thread(self, paths: list[Path], stop: threading.Event) -> None:
        try:
            sources, why = [FoundSource.of(s) for s in find_sources(paths, stop.is_set)], None
        except OakSquareError as error:
            sources, why = [], str(error)
        if not self._closed:
            self.found.emit(paths, sources, why)

    def read_sources(self, sources: list[Source]) -> None:
        """Read `sources`; `read` tells of each as it comes."""
        if self._closed:
            return  # they were found while the window went
        # Starting processes takes a while: not on the interface thread.
        self._threads.submit(self._feed_reader, sources).add_done_callback(self._tell_fault)

    def _feed_reader(self, sources: list[Source]) -> None:
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
        for module in _NEEDED_BY_HANDS if not self._closed else ():
            import_module(module)

    def _after_the_first(self, sources: list[Source]) -> list[Source]:
        """Read the first file where nothing is open yet; return the others once there was time to draw it.

        They take the interpreter from whoever draws: all at once, the first picture comes half a second later.
        """
        if self._memory.has_read or not sources or _is_large(sources[0]):
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
        """Read no more of what is waiting, and look for no more; what is under way is still told."""
        self._stop.set()
        self._search.set()
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
            self._thinker.submit(self._memory.forget, tuple(files)).add_done_callback(self._tell_fault)

    def deliver(self, run: Run) -> None:
        """Deliver; `progressed` and `delivered` tell of it."""
        self._cancel.clear()
        self._threads.submit(self._deliver_in_thread, run).add_done_callback(self._tell_fault)

    def report(self, path: Path, manifest: dict[str, Any], run: Run) -> None:
        """Write a report of what a run came to; `said` tells where it is, or why it is not."""
        self._threads.submit(self._write_report, path, manifest, run).add_done_callback(self._tell_fault)

    def _write_report(self, path: Path, manifest: dict[str, Any], run: Run) -> None:
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
        self._search.set()
        self._told.set()
        self._threads.shutdown(wait=True, cancel_futures=True)
        self._thinker.shutdown(wait=True, cancel_futures=True)

    def _tell_read(self, source: Source, result: ReadResult) -> None:
        if result[0] is not None:
            self._memory.note_read(result[0], result[2], result[5])
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
        answers = self._memory.answers
        if not guesses and not plan.reading and self._memory.is_open(plan):
            # What is looked at is told of first: what its folder says of it takes longer.
            rough = [self._outcome_of(a, plan, keys, answers, {}, rough=True) for a in plan.assets[: plan.first]]
            self._tell_outcomes(plan, rough)
            time.sleep(_BREATH_S)
        if guesses or not plan.reading:
            # While more are still to come, all are worked out anew once they are there.
            try:
                answers = self._memory.answers_of(plan)
            except Exception as error:  # each is judged by itself then
                answers = {}
                self._tell_once(plan, error)
        worlds = {} if plan.reading else self._memory.worlds_of(plan, answers, _list_suspects)
        outcomes: list[Outcome] = []
        told = time.monotonic()
        for number, asset in enumerate(plan.assets):
            if plan.request != self._latest:
                return
            if number and number == plan.first:
                self._tell_outcomes(plan, outcomes)
                time.sleep(_BREATH_S)
                outcomes, told = [], time.monotonic()
            outcomes.append(self._outcome_of(asset, plan, keys, answers, worlds))
            if time.monotonic() - told > _TELL_EVERY_S:
                self._tell_outcomes(plan, outcomes)
                outcomes, told = [], time.monotonic()
        self._tell_outcomes(plan, outcomes)

    def _outcome_of(self, asset: Asset, plan: Plan, *given: Any, rough: bool = False) -> Outcome:
        try:
            return self._make_outcome(asset, plan, *given, rough=rough)
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

    def _make_outcome(
        self,
        asset: Asset,
        plan: Plan,
        keys: Mapping[int, list[str]],
        answers: Mapping[str, Answer],
        worlds: Mapping[str, SharedWorld],
        *,
        rough: bool = False,
    ) -> Outcome:
        before = self._memory.known(asset, plan, plan.before, keys[id(plan.before)], answers).prepared
        after = self._memory.known(asset, plan, plan.tried, keys[id(plan.tried)], answers).prepared
        known = self._memory.known(asset, plan, plan.kept, keys[id(plan.kept)], answers)
        kept, answer = known.prepared, answers.get(asset.file)
        shared = (world_finding(worlds[asset.file]),) if asset.file in worlds else ()
        also = (*_list_suspects(kept, plan.kept, answer), *shared)
        findings = with_suspects(self._memory.findings_of(known), also)
        findings = without_place(findings, plan.kept, asset.file)
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

    def _deliver_in_thread(self, run: Run) -> None:
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


def _list_suspects(kept: Prepared, sheet: Sheet, answer: Answer | None) -> tuple[Finding, ...]:
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
