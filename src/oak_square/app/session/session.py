"""The session: takes wishes, makes the next document, and tells everyone once."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.book_shelf import BookShelf
from oak_square.app.session.document import Document, History
from oak_square.app.session.open_batch import OpenBatch
from oak_square.app.session.outcomes import Outcome, Plan
from oak_square.core.errors import BadLength, BadReference
from oak_square.core.lengths import parse_length
from oak_square.core.measuring import Measure
from oak_square.core.scene import Asset
from oak_square.core.shown_units import Shown
from oak_square.core.size_book import SizeBook
from oak_square.delivery import Run
from oak_square.delivery.files import write_whole
from oak_square.sheet import (
    Deliver,
    Sheet,
    SheetText,
    check_references,
    dump_measures,
    load_measures,
    load_sheet,
    measures_path,
)
from oak_square.steps import STEPS, Step, as_reads, globs_for

__all__ = ["Session"]


class Session(OpenBatch):
    """What is open and worked on. Widgets read it and send it wishes; nobody else changes it."""

    document_changed = Signal()  # sheet, draft or what is left out
    outcomes_changed = Signal()  # what the steps make of the assets
    selection_changed = Signal()
    stage_changed = Signal(str)
    shown_changed = Signal()  # what lengths are shown in
    delivery_progressed = Signal(int, int, object)  # done, all, manifest entry
    delivery_ended = Signal(object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.history = History(now=Document())
        self.selection: tuple[str, ...] = ()
        self.picked_node: int | None = None
        self.stage = "receive"
        self.unit = Shown()
        self.chosen_measure: int | None = None
        self.measured_along = "world"
        # What the files that were opened or saved are known to hold: the sheet, and the measurements beside it.
        self._on_disk: dict[Path, tuple[Sheet, tuple[Measure, ...]]] = {}
        self.delivering = False
        self._request = 0
        self.shelf = BookShelf(self)
        self.shelf.said.connect(self.said)
        self.shelf.opened.connect(lambda book, path, quietly: self.set_book(book, path, quietly=quietly))
        self.opened.connect(self._find_book)
        self.freshly_read.connect(self._pass_on)
        self.worker.worked_out.connect(self._take_outcomes)
        self.worker.progressed.connect(self.delivery_progressed)
        self.worker.delivered.connect(self._take_delivery)

    # What there is

    @property
    def document(self) -> Document:
        """The present document."""
        return self.history.now

    @property
    def book(self) -> SizeBook | None:
        """The size book the batch is held against."""
        return self.document.book

    @property
    def sheet_path(self) -> Path | None:
        """The present sheet's file; None while it is not saved."""
        return self.document.path

    @property
    def is_saved(self) -> bool:
        """Whether the sheet and its measurements are what its file was seen to hold; an empty one needs none."""
        document = self.document
        if document.path is None:
            return document.sheet == Sheet() and not document.measures
        return self._on_disk.get(document.path) == (document.sheet, document.measures)

    @property
    def lead(self) -> str | None:
        """The asset picked last."""
        return self.selection[-1] if self.selection else None

    def is_settled(self) -> bool:
        """Whether all is read and the outcomes belong to the present document."""
        return not (self.to_read or self._owed or self._fresh or self._gathering.isActive())

    def included(self) -> list[str]:
        """Return the files that are delivered."""
        return [f for f in self.assets if f not in self.document.left_out]

    def findings_left(self, stage: str) -> int:
        """Return how many included assets still have something to fix or check at `stage`."""
        return self.stages_left()[stage]

    def stages_left(self) -> Counter[str]:
        """Return how many included assets still have something to fix or check, by stage."""
        left_out = self.document.left_out
        marked = (stage for f, o in self.outcomes.items() if f not in left_out for stage, _ in o.marks)
        return Counter(marked)

    def show_in(self, unit: Shown) -> None:
        """Show lengths in another unit; nothing that is delivered changes by it."""
        if unit != self.unit:
            self.unit = unit
            self.shown_changed.emit()

    def set_module(self, name: str, length: str) -> None:
        """Call the length `length` a module named `name`, show lengths in it, and let steps be typed in it.

        Steps that are written in modules keep them from being another length: they would size things anew.
        """
        deliver = self.document.sheet.deliver
        try:
            metres = parse_length(length, bare=self.unit.bare)
            fresh = Deliver.model_validate({**deliver.model_dump(), "module": self.unit.as_typed(length)})
        except (BadLength, ValueError) as error:
            self.said.emit(str(error).splitlines()[-1] if isinstance(error, BadLength) else f"'{length}' is no module")
            return
        if self.document.sheet.speaks_in_modules() and deliver.module is not None and deliver.module != fresh.module:
            self.said.emit(f"Steps are written in modules of {deliver.module}: another length would size them anew")
            return
        self.unit = replace(self.unit, kind="mod", module=metres, module_name=name)
        sheet = self.document.sheet.model_copy(update={"deliver": fresh})
        self._do(f"Call {length} a {name}", replace(self.document, sheet=sheet))

    def set_book(self, book: SizeBook | None, path: Path | None, *, quietly: bool = False) -> None:
        """Hold the batch against `book`, the one in the file at `path` or not saved yet; or against none.

        `quietly`, it came with what was opened: there is nothing to undo.
        """
        if quietly:
            # It was there all along: no undo goes back behind it.
            self._set(self.history.told(lambda d: d if d.book is not None else replace(d, book=book, book_path=path)))
        else:
            document = replace(self.document, book=book, book_path=path)
            self._do("Change the size book" if book is not None else "Use no size book", document)

    def _find_book(self, paths: list[Path]) -> None:
        if self.book is None:
            self.shelf.find(paths)

    def _pass_on(self) -> None:
        fresh = self.take_fresh()
        if not self.selection:
            self._select_first()
        self.batch_changed.emit()
        # What is held against another asset may have waited for one of these.
        hangs = any(s.refers_to is not None for s in self.document.tried.steps)
        self._work_out(list(self.assets.values()) if hangs else fresh)

    def _select_first(self) -> None:
        """Select the first asset of the batch, once it is known which that is: others may be read before it."""
        for file, row in self.rows.items():
            if row.asset is not None:
                self.select((file,))
            if row.asset is not None or row.error is None:
                return

    def progress(self) -> tuple[str, int, int] | None:
        """Return what is under way, how much of it is done, and of how much; None when nothing is."""
        total = len(self.rows)
        if self.to_read:
            return "reading", max(0, total - self.to_read), total
        if self._owed:
            return "working out", len(self.assets) - len(self._owed), len(self.assets)
        return None

    # Wishes

    def select(self, files: tuple[str, ...], node: int | None = None) -> None:
        """Select assets, the last one leading, and a node of that one."""
        if (files, node) != (self.selection, self.picked_node):
            self.selection, self.picked_node = files, node
            self.selection_changed.emit()

    def enter_stage(self, stage: str) -> None:
        """Go to a stage; a draft stays as it is."""
        if stage != self.stage:
            self.stage = stage
            self.stage_changed.emit(stage)

    def try_step(self, step: Step, *, joins: bool = False) -> None:
        """Make `step` the draft, previewed on all it covers."""
        if step == self.document.draft:
            return
        document = replace(self.document, draft=step)
        if document.tried.without_module() is not None:
            self.said.emit("'mod' needs a module length: set the module first, at the foot of the view")
            return
        try:
            check_references(document.tried, list(self.rows))
        except BadReference as error:
            self.said.emit(str(error))
        else:
            self._do(f"Try {step.title()}", document, joins=joins)

    def questions(self, state: str) -> list[str]:
        """Return the included assets whose unit question stands at `state`."""
        return [
            f
            for f in self.included()
            if f in self.outcomes and (q := self.outcomes[f].question) is not None and q.state == state
        ]

    def take_certain_units(self) -> None:
        """Keep a step for each unit that is the best beyond doubt of some assets."""
        by_unit: dict[str, list[str]] = {}
        for file in self.questions("certain"):
            question = self.outcomes[file].question
            assert question is not None
            assert question.ranking is not None
            by_unit.setdefault(question.ranking.best.unit, []).append(file)
        if not by_unit:
            self.said.emit("No unit is certain yet")
            return
        words = ", ".join(f"{unit} for {len(files)}" for unit, files in by_unit.items())
        steps = [STEPS["unit"].model_validate({"reads": as_reads(u), "for": globs_for(f)}) for u, f in by_unit.items()]
        sheet = self.document.with_steps((*self.document.sheet.steps, *steps))
        self._do(f"Take the certain units: {words}", replace(self.document, sheet=sheet, draft=None, editing=None))
        self.said.emit(f"Units taken: {words}")

    def drop_draft(self) -> None:
        """Forget the draft; a kept step that was being edited stays as it was."""
        draft = self.document.draft
        if draft is not None:
            self._do(f"Drop {draft.title()}", replace(self.document, draft=None, editing=None))
            self.said.emit(f"Dropped: {draft.title()}")

    def keep_draft(self) -> None:
        """Make the draft a step of the sheet."""
        draft, editing = self.document.draft, self.document.editing
        if draft is None:
            self.said.emit("Nothing to keep yet: choose what to do first")
            return
        document = self.document.with_draft_kept
        self._do(f"Keep {draft.title()}", document)
        number = len(document.sheet.steps) if editing is None else editing + 1
        self.said.emit(f"Kept as step {number}: {draft.title()}")

    def open_step(self, index: int) -> None:
        """Open a kept step, counted from 0, to be changed, and see the batch as it stands after it."""
        step = self.document.sheet.steps[index]
        if self.document.editing == index:
            return
        self._do(f"Open step {index + 1}", replace(self.document, draft=step, editing=index))
        self.enter_stage(step.stage)

    def remove_step(self, index: int) -> None:
        """Take a step, counted from 0, off the sheet."""
        steps = self.document.sheet.steps
        sheet = self.document.with_steps(steps[:index] + steps[index + 1 :])
        self._do(f"Remove {steps[index].title()}", replace(self.document, sheet=sheet, draft=None, editing=None))

    def move_step(self, index: int, to: int) -> None:
        """Put a step, counted from 0, before the one that is now at `to`."""
        steps = list(self.document.sheet.steps)
        step = steps.pop(index)
        place = to - 1 if to > index else to
        if place == index:
            return
        steps.insert(place, step)
        sheet = self.document.with_steps(tuple(steps))
        label = f"Move {step.title()} to place {place + 1}"
        self._do(label, replace(self.document, sheet=sheet, draft=None, editing=None))

    def pause_step(self, index: int) -> None:
        """Leave a step, counted from 0, out of the run; or take it in again."""
        steps = list(self.document.sheet.steps)
        steps[index] = steps[index].model_copy(update={"paused": not steps[index].paused})
        sheet = self.document.with_steps(tuple(steps))
        label = f"{'Pause' if steps[index].paused else 'Take up'} {steps[index].title()}"
        self._do(label, replace(self.document, sheet=sheet, draft=None, editing=None))

    def set_deliver(self, deliver: Deliver) -> None:
        """Change what the sheet's numbers mean and files are written as."""
        if deliver != self.document.sheet.deliver:
            sheet = self.document.sheet.model_copy(update={"deliver": deliver})
            form = "" if deliver.format == "same" else f", as {deliver.format}"
            self._do(f"Deliver in {deliver.unit}, {deliver.up} up{form}", replace(self.document, sheet=sheet))

    def set_title(self, title: str) -> None:
        """Name the sheet."""
        if title != self.document.sheet.title:
            sheet = self.document.sheet.model_copy(update={"title": title})
            self._do(f"Name the sheet {title}", replace(self.document, sheet=sheet))

    # The sheet as a file

    def open_sheet(self, path: Path) -> None:
        """Take the sheet in a file in place of this one.

        Raises
        ------
        BadSheet
            If it can't be read, or says something impossible.
        """
        sheet, data = load_sheet(path)
        typed = SheetText.of(data.decode("utf-8-sig"), str(path))
        measures = load_measures(measures_path(path))
        document = replace(
            self.document, sheet=sheet, draft=None, editing=None, measures=measures, path=path, typed=typed
        )
        self._on_disk[path] = sheet, measures
        self._do(f"Open {path.name}", document)
        self.said.emit(f"Opened {path.name}: {len(sheet.steps)} steps")

    def sheet_words(self) -> str:
        """Return the kept steps as a sheet file says them, what was typed before kept as it was."""
        return self.document.words

    def save_sheet(self, path: Path) -> None:
        """Write the kept steps to a file.

        Raises
        ------
        OSError
            If it can't be written.
        """
        words = self.sheet_words()
        write_whole(path, words.encode())
        beside = measures_path(path)
        if self.document.measures or beside.exists():
            write_whole(beside, dump_measures(self.document.measures).encode())
        former, typed = self.document.path, SheetText.of(words, str(path))
        self._on_disk[path] = self.document.sheet, self.document.measures
        # Earlier and later states of this sheet are states of what is now in that file; those of another one are not.
        history = self.history.told(lambda d: replace(d, path=path) if d.path == former else d)
        self.history = replace(history, now=replace(history.now, typed=typed))
        self.document_changed.emit()
        self.said.emit(f"Saved {path.name}")

    def include(self, file: str, wanted: bool) -> None:
        """Take an asset into the delivery, or leave it out."""
        left_out = self.document.left_out - {file} if wanted else self.document.left_out | {file}
        self._do(f"{'Take in' if wanted else 'Leave out'} {file}", replace(self.document, left_out=left_out))

    # Measurements

    def add_measure(self, measure: Measure) -> None:
        """Keep a measurement, and choose it."""
        measures = (*self.document.measures, measure)
        self.chosen_measure = len(measures) - 1
        self._do(f"Measure a {measure.kind}", replace(self.document, measures=measures))

    def forget_measure(self, index: int) -> None:
        """Take a measurement off the list."""
        measures = self.document.measures
        self.chosen_measure = None
        label = f"Forget a {measures[index].kind}"
        self._do(label, replace(self.document, measures=measures[:index] + measures[index + 1 :]))

    def choose_measure(self, index: int | None) -> None:
        """Look at one measurement."""
        self.chosen_measure = index
        self.selection_changed.emit()

    def tell_along(self, frame: str) -> None:
        """Tell the coordinates of measurements along `world`, `part`, or `datum NAME`."""
        self.measured_along = frame
        self.selection_changed.emit()

    def undo(self) -> None:
        """Go one entry back."""
        if not self.history.past:
            self.said.emit("Nothing to undo")
            return
        label = self.history.past[-1][0]
        self._set(self.history.undone())
        self.said.emit(f"Undid: {label}")

    def redo(self) -> None:
        """Go one entry on."""
        if not self.history.future:
            self.said.emit("Nothing to redo")
            return
        label = self.history.future[0][0]
        self._set(self.history.redone())
        self.said.emit(f"Redid: {label}")

    def deliver(self, out: Path, *, replace_old: bool) -> None:
        """Deliver the included assets with the kept steps."""
        sheet = self.document.sheet
        run = Run(
            sources=tuple(self.rows[f].source for f in self.included()),
            sheet=sheet,
            sheet_bytes=self.sheet_words().encode(),
            out=out,
            jobs=0,
            replace=replace_old,
            known=tuple(self.rows[f].source for f in self.assets),
        )
        self.delivering = True
        self.worker.deliver(run)

    def close(self) -> None:
        """End all work."""
        self.watch.close()
        self.worker.close()

    # Making it so

    def _do(self, label: str, document: Document, *, joins: bool = False) -> None:
        self._set(self.history.done(label, document, joins=joins))

    def _set(self, history: History) -> None:
        self.history = history
        module = history.now.sheet.deliver.setting().module
        if module is not None and module != self.unit.module:
            # A module is as long as the sheet says, whichever sheet that is now.
            self.unit = replace(self.unit, module=module)
        self._request += 1
        self._owed.clear()
        self.document_changed.emit()
        self._work_out(list(self.assets.values()))

    def _work_out(self, assets: list[Asset]) -> None:
        if not assets:
            return
        self._owed.update(a.file for a in assets)
        # What is looked at comes first.
        first = [a for a in assets if a.file in self.selection]
        rest = [a for a in assets if a.file not in self.selection]
        document = self.document
        self.worker.work_out(
            Plan(
                request=self._request,
                assets=(*first, *rest),
                first=len(first),
                before=document.before,
                tried=document.tried,
                kept=document.sheet,
                draft=document.draft,
                batch=self.assets,
                book=self.book,
            )
        )

    def _take_outcomes(self, request: int, outcomes: tuple[Outcome, ...]) -> None:
        if request != self._request:
            return
        for outcome in outcomes:
            self.outcomes[outcome.file] = outcome
            self._owed.discard(outcome.file)
        self.outcomes_changed.emit()

    def _take_delivery(self, manifest: object, error: object) -> None:
        self.delivering = False
        self.delivery_ended.emit(manifest, error)
