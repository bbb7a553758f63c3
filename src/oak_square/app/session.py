"""The session: takes wishes, makes the next document, and tells everyone once."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from oak_square.app.document import Document, History, Row
from oak_square.app.work import Outcome, Plan, Worker
from oak_square.core.findings import Finding
from oak_square.core.scene import Asset
from oak_square.delivery import Run, Source, find_sources
from oak_square.delivery.files import write_whole
from oak_square.sheet import Deliver, SheetText, dump_sheet, load_sheet
from oak_square.steps import Step

__all__ = ["Session"]

_GATHER_MS = 30  # news of many files is passed on together


class Session(QObject):
    """What is open and worked on. Widgets read it and send it wishes; nobody else changes it."""

    batch_changed = Signal()  # rows were added or read
    document_changed = Signal()  # sheet, draft or what is left out
    outcomes_changed = Signal()  # what the steps make of the assets
    selection_changed = Signal()
    stage_changed = Signal(str)
    said = Signal(str)  # a line for the foot of the window
    delivery_progressed = Signal(int, int, object)  # done, all, manifest entry
    delivery_ended = Signal(object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.rows: dict[str, Row] = {}
        self.paths: list[Path] = []
        self.history = History(now=Document())
        self.outcomes: dict[str, Outcome] = {}
        self.selection: tuple[str, ...] = ()
        self.picked_node: int | None = None
        self.stage = "receive"
        self.unit = "auto"
        self.sheet_path: Path | None = None
        self._typed: SheetText | None = None
        self.delivering = False
        self._request = 0
        self._owed: set[str] = set()
        self._fresh: list[Asset] = []
        self._gathering = QTimer(self, singleShot=True, interval=_GATHER_MS)
        self._gathering.timeout.connect(self._pass_on)
        self.worker = Worker(self)
        self.worker.read.connect(self._take_read)
        self.worker.worked_out.connect(self._take_outcomes)
        self.worker.progressed.connect(self.delivery_progressed)
        self.worker.delivered.connect(self._take_delivery)
        self.worker.broke.connect(self.said)

    # What there is

    @property
    def document(self) -> Document:
        """The present document."""
        return self.history.now

    @property
    def lead(self) -> str | None:
        """The asset picked last."""
        return self.selection[-1] if self.selection else None

    @property
    def assets(self) -> dict[str, Asset]:
        """The assets that are read, by file."""
        return {f: r.asset for f, r in self.rows.items() if r.asset is not None}

    @property
    def to_read(self) -> int:
        """How many files are still being read."""
        return sum(r.asset is None and r.error is None for r in self.rows.values())

    def is_settled(self) -> bool:
        """Whether all is read and the outcomes belong to the present document."""
        return not (self.to_read or self._owed or self._fresh or self._gathering.isActive())

    def included(self) -> list[str]:
        """Return the files that are delivered."""
        return [f for f in self.assets if f not in self.document.left_out]

    def findings_left(self, stage: str) -> int:
        """Return how many included assets still have something to fix or check at `stage`."""
        return sum(
            any(marked == stage for marked, _ in o.marks)
            for file, o in self.outcomes.items()
            if file not in self.document.left_out
        )

    # Opening and reading

    def open_paths(self, paths: list[Path]) -> None:
        """Add the models at `paths` to the batch and start reading them."""
        fresh = [s for s in find_sources(paths) if s.file not in self.rows]
        self.paths += paths
        for source in fresh:
            self.rows[source.file] = Row(source=source)
        self.batch_changed.emit()
        self.worker.read_sources(fresh)
        if paths and not fresh:
            self.said.emit("No models there that are not open already")

    def _take_read(
        self, source: Source, asset: Asset | None, error: str | None, findings: tuple[Finding, ...], digest: str
    ) -> None:
        if source.file not in self.rows:
            return  # reading was stopped
        self.rows[source.file] = Row(source=source, asset=asset, error=error, findings=findings, digest=digest)
        if asset is not None:
            self._fresh.append(asset)
        if not self._gathering.isActive():
            self._gathering.start()

    def _pass_on(self) -> None:
        fresh, self._fresh = self._fresh, []
        if not self.selection and self.assets:
            self.select((next(iter(self.assets)),))
        self.batch_changed.emit()
        self._work_out(fresh)

    def stop_reading(self) -> None:
        """Read no more files; those that are not read leave the batch."""
        self.worker.stop_reading()
        unread = [f for f, r in self.rows.items() if r.asset is None and r.error is None]
        for file in unread:
            del self.rows[file]
        self.batch_changed.emit()
        self.said.emit(f"Stopped reading; {len(unread)} files were not read")

    def progress(self) -> tuple[str, int, int] | None:
        """Return what is under way, how much of it is done, and of how much; None when nothing is."""
        total = len(self.rows)
        if self.to_read:
            return "reading", total - self.to_read, total
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
        if step != self.document.draft:
            self._do(f"Try {step.title()}", replace(self.document, draft=step), joins=joins)

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
            self._do(f"Deliver in {deliver.unit}, {deliver.up} up", replace(self.document, sheet=sheet))

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
        self.sheet_path = path
        self._typed = SheetText.of(data.decode("utf-8-sig"), str(path))
        self._do(f"Open {path.name}", replace(self.document, sheet=sheet, draft=None, editing=None))
        self.said.emit(f"Opened {path.name}: {len(sheet.steps)} steps")

    def sheet_words(self) -> str:
        """Return the kept steps as a sheet file says them, what was typed before kept as it was."""
        sheet = self.document.sheet
        return dump_sheet(sheet) if self._typed is None else self._typed.saying(sheet)

    def save_sheet(self, path: Path) -> None:
        """Write the kept steps to a file.

        Raises
        ------
        OSError
            If it can't be written.
        """
        words = self.sheet_words()
        write_whole(path, words.encode())
        self.sheet_path = path
        self._typed = SheetText.of(words, str(path))
        self.said.emit(f"Saved {path.name}")

    def include(self, file: str, wanted: bool) -> None:
        """Take an asset into the delivery, or leave it out."""
        left_out = self.document.left_out - {file} if wanted else self.document.left_out | {file}
        self._do(f"{'Take in' if wanted else 'Leave out'} {file}", replace(self.document, left_out=left_out))

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
        )
        self.delivering = True
        self.worker.deliver(run)

    # Making it so

    def _do(self, label: str, document: Document, *, joins: bool = False) -> None:
        self._set(self.history.done(label, document, joins=joins))

    def _set(self, history: History) -> None:
        self.history = history
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
                before=document.before,
                tried=document.tried,
                kept=document.sheet,
                draft=document.draft,
                unit=self.unit,
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
