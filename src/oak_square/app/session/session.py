"""The session: takes wishes, makes the next document, and tells everyone once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.aim import (
    Scope,
    ScopeChoice,
    aim_of,
    fitting,
    is_aimed_so,
    scope_words,
    target_words,
    with_assets,
    with_nodes,
)
from oak_square.app.session.berths import Berths
from oak_square.app.session.outcomes import Outcome, Plan
from oak_square.app.session.stopping import is_refused_everywhere, why_nothing
from oak_square.app.session.taking import taking_steps
from oak_square.core.errors import BadReference
from oak_square.core.measuring import Measure
from oak_square.core.node_names import patterns_for, same_nodes
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import capital, say
from oak_square.delivery.run import Run
from oak_square.sheet.model import Mark
from oak_square.sheet.references import named_assets
from oak_square.sheet.text import in_words
from oak_square.steps.edited import edited
from oak_square.steps.step import STEPS, Step

__all__ = ["Session"]


class Session(Berths):
    """What is open and worked on. Widgets read it and send it wishes; nobody else changes it."""

    outcomes_changed = Signal()  # what the steps make of the assets
    selection_changed = Signal()
    stage_changed = Signal(str)
    shown_changed = Signal()  # what lengths are shown in
    delivery_progressed = Signal(int, int, object)  # done, all, manifest entry
    delivery_ended = Signal(object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.selection: tuple[str, ...] = ()
        self.nodes: tuple[int, ...] = ()
        self.stage = "receive"
        self.chosen_measure: int | None = None
        self.measured_along = "world"
        self.delivering = False
        self.last_run: Run | None = None
        self._request = 0
        self.freshly_read.connect(self._pass_on)
        self.worker.worked_out.connect(self._take_outcomes)
        self.worker.progressed.connect(self.delivery_progressed)
        self.worker.delivered.connect(self._take_delivery)
        self._asked_of: Step | None = None  # which draft it was said of that it is refused

    # What there is

    @property
    def lead(self) -> str | None:
        """The asset picked last."""
        return self.selection[-1] if self.selection else None

    def owes(self, file: str) -> bool:
        """Tell whether what the present document makes of a file is not worked out yet."""
        return file in self._owed

    def is_settled(self) -> bool:
        """Whether all is read and the outcomes belong to the present document."""
        return not (self.to_read or self._owed or self._fresh or self._gathering.isActive())

    def included(self) -> list[str]:
        """Return the files that are delivered."""
        return [f for f in self.assets if f not in self.document.left_out]

    def stages_left(self) -> Counter[str]:
        """Return how many included assets still have something to fix or check, by stage."""
        left_out = self.document.left_out
        marked = (stage for f, o in self.outcomes.items() if f not in left_out for stage, _ in o.marks)
        return Counter(marked)

    def show_in(self, unit: ShownUnit) -> None:
        """Show lengths in another unit; nothing that is delivered changes by it."""
        if unit != self.unit:
            self.unit = unit
            self.shown_changed.emit()

    def _pass_on(self) -> None:
        fresh = self.take_fresh()
        if not self.selection:
            self._select_first()
        self.batch_changed.emit()
        # What is held against another asset may have waited for one of these.
        hangs = any(s.refers_to is not None for s in self.document.tried.steps)
        # So may what the rest of a folder says of each: once all of them are there.
        whole = self.to_read == 0 and len(self.assets) > len(fresh)
        self._work_out(list(self.assets.values()) if hangs or whole else fresh)

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
            return say("working out"), len(self.assets) - len(self._owed), len(self.assets)
        return None

    # Wishes

    def select(self, files: tuple[str, ...], nodes: tuple[int, ...] = ()) -> None:
        """Select assets, the last one leading, and nodes of that one, of which the last leads too."""
        if (files, nodes) != (self.selection, self.nodes):
            self.selection, self.nodes = files, nodes
            self.selection_changed.emit()

    def take_out(self, files: Iterable[str]) -> None:
        """Take files out of the batch; what others make of them is worked out anew."""
        super().take_out(files)
        left = tuple(f for f in self.selection if f in self.rows)
        self.select(left)
        if not left:
            self._select_first()
        self._took_hold()

    def close_batch(self) -> None:
        """Close the batch and its sheet; a delivery that is under way keeps them open."""
        if self.delivering:
            self.failed.emit(say("A delivery is under way: cancel it first, or wait for its end"))
            return
        self.select(())
        self.chosen_measure = None
        super().close_batch()
        self.enter_stage("receive")

    def enter_stage(self, stage: str) -> None:
        """Go to a stage; a draft stays as it is."""
        if stage != self.stage:
            self.stage = stage
            self.stage_changed.emit(stage)

    def try_step(self, step: Step, *, gesture: int | None = None, marks: Mapping[str, Mark] | None = None) -> None:
        """Make `step` the draft, previewed on all it covers; what one gesture tries is one entry of the history.

        `marks` are those it speaks of that the sheet has not got yet.
        """
        if step == self.document.draft and not marks:
            return
        needed = {**self.marks_for(step.words()), **(marks or {})}
        document = replace(self.document, draft=step, sheet=self.with_marks(needed))
        if document.tried.without_module() is not None:
            self.failed.emit(say("'mod' needs a module length: set the module first, at the foot of the view"))
            return
        try:
            named_assets(document.tried, list(self.rows))
        except BadReference as error:
            self.failed.emit(str(error))
        else:
            self._do(say("Try {title}", title=step.title()), document, gesture=gesture)

    @property
    def is_together(self) -> bool:
        """Whether several are selected, and taken as one."""
        return self.document.together and len(self.selection) > 1

    def take_together(self, wanted: bool) -> None:
        """Take several that are selected as one, or each by itself."""
        self.history = replace(self.history, now=replace(self.document, together=wanted))
        self.selection_changed.emit()

    @property
    def own_draft(self) -> Step | None:
        """The draft, where it is one of the stage that is looked at."""
        draft = self.document.draft
        return draft if draft is not None and draft.stage == self.stage else None

    @property
    def scope(self) -> Scope:
        """What there is to aim a step at."""
        outcome = self.outcomes.get(self.lead or "")
        assets = self.assets
        selected, total = tuple(f for f in self.selection if f in assets), len(assets)
        if outcome is None:
            return Scope(selected=selected, total=total)
        # Picked in the asset as it is shown; named where the step finds such a node too: before the draft, or where
        # that was just kept, as it has left it.
        finds = outcome.before if self.document.draft is not None else outcome.after
        picked = same_nodes(outcome.after.asset, self.nodes, finds.asset)
        of_kind = ([i for i in picked if finds.asset.nodes[i].kind == kind] for kind in ("part", "group"))
        parts, groups = (patterns_for(finds.asset, nodes) for nodes in of_kind)
        return Scope(selected=selected, total=total, parts=parts, groups=groups, picked_count=len(picked))

    def try_words(self, words: Mapping[str, Any], told: Mapping[str, Any], *, gesture: int | None = None) -> None:
        """Try what a form says now: the draft with what was changed in it, or a new step for what is aimed at.

        Parameters
        ----------
        words : mapping
            What the form says, without what it is for; empty where it says nothing.
        told : mapping
            What it showed of the draft, as it would say it.
        """
        draft = self.own_draft
        if draft is not None:
            words = edited(draft.words(), told, words)
        elif words:
            words = self.aimed(words)
        self.try_whole(fitting(words), gesture=gesture)

    def aimed(self, words: Mapping[str, Any]) -> dict[str, Any]:
        """Return a new step's words with what is aimed at."""
        aim, scope = self.document.aim, self.scope
        return {**words, **scope_words(aim, scope), **target_words(aim, scope, words)}

    def aim_at(self, change: Callable[[ScopeChoice], ScopeChoice], *, nodes: bool, gesture: int | None = None) -> None:
        """Aim at other assets, or at other nodes of them: the draft, and what comes next if there is none."""
        draft, scope = self.own_draft, self.scope
        aim = self.document.aim
        if draft is not None and not is_aimed_so(draft, aim, scope):
            aim = aim_of(draft, scope)
        aim = change(aim)
        self.history = replace(self.history, now=replace(self.document, aim=aim))
        if draft is None:
            self.selection_changed.emit()
        else:
            work = with_nodes if nodes else with_assets
            self.try_whole(work(draft.words(), aim, scope), gesture=gesture)
            self.document_changed.emit()

    def try_whole(
        self, words: Mapping[str, Any], *, gesture: int | None = None, marks: Mapping[str, Mark] | None = None
    ) -> None:
        """Try a step of these words, what it is for among them; of none, drop what is tried. As `try_step`."""
        if not words:
            self.drop_draft(gesture=gesture)
            return
        kind = STEPS[str(words["do"])]
        try:
            step = kind.model_validate(words)
        except ValueError:
            self.failed.emit(say("Not a step yet: {in_words}", in_words=in_words(kind, words)))
        else:
            self.try_step(step, gesture=gesture, marks=marks)

    def questions(self, state: str) -> list[str]:
        """Return the included assets whose unit question stands at `state`."""
        return [
            f
            for f in self.included()
            if f in self.outcomes and (q := self.outcomes[f].question) is not None and q.state == state
        ]

    def take_certain_units(self) -> None:
        """Keep a step for each unit that is the best beyond doubt of some assets."""
        self.take_best(self.questions("certain"), "unit")

    def take_best(self, files: Sequence[str], kind: str) -> None:
        """Keep steps that say what files most likely are: of their `unit`, or of the sides that are `up` and front."""
        steps, words = taking_steps(self.outcomes, files, kind)
        if not steps:
            self.said.emit(say("No unit is certain yet") if kind == "unit" else say("No side is certain yet"))
            return
        what = say("units") if kind == "unit" else say("sides that are up")
        sheet = self.document.with_steps((*self.document.sheet.steps, *steps))
        self._do(say("Take the {what}: {words}", what=what, words=words), self.document.with_sheet(sheet))
        self.said.emit(say("{what} taken: {words}", what=capital(what), words=words))

    def drop_draft(self, *, gesture: int | None = None) -> None:
        """Forget the draft; a kept step that was being edited stays as it was."""
        draft = self.document.draft
        if draft is not None:
            self._do(
                say("Drop {title}", title=draft.title()), self.document.with_sheet(self.document.sheet), gesture=gesture
            )
            self.said.emit(say("Dropped: {title}", title=draft.title()))

    def keep_draft(self, *, asks: bool = False) -> None:
        """Make the draft a step of the sheet; with `asks` only when asked twice, where it is refused everywhere."""
        draft, editing = self.document.draft, self.document.editing
        if draft is None:
            self.said.emit(say("Nothing to keep yet: choose what to do first"))
            return
        if draft.for_ == []:
            self.said.emit(say("It is for no asset at all: type a pattern, or choose what it is for"))
            return
        if asks and draft != self._asked_of and self.is_settled() and is_refused_everywhere(self):
            # Kept without a word, it would stand in the way of all that comes after it.
            self._asked_of = draft
            self.said.emit(say("It is refused everywhere: once more keeps it all the same, Esc drops it"))
            return
        self._asked_of = None
        if asks and editing is None and self.is_settled() and (why := why_nothing(self)):
            self.drop_draft()
            self.said.emit(say("Nothing to keep: {why}", why=why))
            return
        document = self.document.with_draft_kept
        self._do(say("Keep {title}", title=draft.title()), document)
        number = len(document.sheet.steps) if editing is None else editing + 1
        self.said.emit(say("Kept as step {number}: {title}", number=number, title=draft.title()))

    def open_step(self, index: int) -> None:
        """Open a kept step, counted from 0, to be changed, and see the batch as it stands after it."""
        step = self.document.sheet.steps[index]
        if self.document.editing == index:
            return
        self._do(
            say("Open step {index}", index=index + 1),
            replace(self.document, draft=step, editing=index, aim=ScopeChoice()),
        )
        self.enter_stage(step.stage)

    def include(self, files: Sequence[str], wanted: bool) -> None:
        """Take assets into the delivery, or leave them out."""
        if not files:
            self.said.emit(say("Nothing is selected"))
            return
        left_out = self.document.left_out - set(files) if wanted else self.document.left_out | set(files)
        what = files[0] if len(files) == 1 else say("{count} assets", count=len(files))
        self._do(
            say("Take in {what}", what=what) if wanted else say("Leave out {what}", what=what),
            replace(self.document, left_out=left_out),
        )

    # Measurements

    def add_measure(self, measure: Measure) -> None:
        """Keep a measurement, and choose it."""
        measures = (*self.document.measures, measure)
        self.chosen_measure = len(measures) - 1
        self._do(say("Measure a {kind}", kind=term(measure.kind)), replace(self.document, measures=measures))

    def forget_measure(self, index: int) -> None:
        """Take a measurement off the list."""
        measures = self.document.measures
        self.chosen_measure = None
        label = say("Forget a {kind}", kind=term(measures[index].kind))
        self._do(label, replace(self.document, measures=measures[:index] + measures[index + 1 :]))

    def choose_measure(self, index: int | None) -> None:
        """Look at one measurement."""
        self.chosen_measure = index
        self.selection_changed.emit()

    def tell_along(self, frame: str) -> None:
        """Tell the coordinates of measurements along `world`, `part`, or `datum NAME`."""
        self.measured_along = frame
        self.selection_changed.emit()

    def deliver(self, out: Path, *, replace_old: bool, resume: bool = False, dry: bool = False) -> None:
        """Deliver the included assets with the kept steps; with `resume`, those that do not stand yet.

        `dry`: say what would come of it, and write nothing.
        """
        sheet = self.document.sheet
        run = Run(
            sources=tuple(self.rows[f].source for f in self.included()),
            sheet=sheet,
            sheet_bytes=self.sheet_words().encode(),
            out=out,
            jobs=0,
            dry=dry,
            replace=replace_old,
            resume=resume,
            known=tuple(self.rows[f].source for f in self.assets),
            book=self.book,
        )
        self.delivering = True
        self.worker.deliver(run)
        self.last_run = run

    def report(self, path: Path, manifest: dict[str, Any]) -> None:
        """Write a report of what the last run came to; `said` tells where it is, or why it is not."""
        assert self.last_run is not None
        self.worker.report(path, manifest, self.last_run)

    def close(self) -> None:
        """End all work."""
        self.watch.close()
        self.worker.close()

    # Making it so

    def _took_hold(self) -> None:
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
                reading=self.to_read > 0,
            )
        )

    def _take_outcomes(self, request: int, outcomes: tuple[Outcome, ...]) -> None:
        if request != self._request:
            return
        for outcome in (o for o in outcomes if o.file in self.rows):
            self.outcomes[outcome.file] = outcome
            if not outcome.rough:
                self._owed.discard(outcome.file)
        self.outcomes_changed.emit()

    def _take_delivery(self, manifest: object, error: object) -> None:
        self.delivering = False
        self.delivery_ended.emit(manifest, error)
