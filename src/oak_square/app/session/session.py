"""The session: what is open and worked on, as its readers see it, and the services that change it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from oak_square.app.session.aim import Scope, is_for_wholes
from oak_square.app.session.berths import Berths
from oak_square.app.session.deliveries import Deliveries
from oak_square.app.session.document import BatchRow, Document
from oak_square.app.session.drafts import Drafts
from oak_square.app.session.measure_list import MeasureList
from oak_square.app.session.messages import Messages
from oak_square.app.session.named import NamedThings
from oak_square.app.session.open_batch import OpenBatch
from oak_square.app.session.open_sheet import OpenSheet
from oak_square.app.session.outcomes import Outcome, Plan
from oak_square.core.errors import BadReference
from oak_square.core.node_names import patterns_for, same_nodes
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.size_book import SizeBook
from oak_square.core.words import say
from oak_square.sheet.references import asset_called
from oak_square.steps.setting import Setting
from oak_square.steps.step import Step

__all__ = ["Session"]


class Session(QObject):
    """What is open and worked on, as `State` has it. Each wish goes to the service that fulfils it.

    Attributes
    ----------
    messages : what is told of, for the status bar
    batch : the files, and reading them
    sheet : the document and its history, its sheet as a file, its size book
    names : marks, datums and the grip
    berths : where things are set down
    drafts : what is tried, and how it becomes a step
    measures : the measurements beside the sheet
    deliveries : delivering, and reports
    """

    outcomes_changed = Signal()  # what the steps make of the assets
    selection_changed = Signal()
    stage_changed = Signal(str)
    shown_changed = Signal()  # what lengths are shown in

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.selection: tuple[str, ...] = ()
        self.nodes: tuple[int, ...] = ()
        self.stage = "receive"
        self._request = 0
        self.messages = Messages(self)
        self.batch = OpenBatch(self.messages, self)
        self.sheet = OpenSheet(self.messages, self)
        self.names = NamedThings(self.sheet)
        self.berths = Berths(self, self.sheet, self.names)
        self.drafts = Drafts(self, self.sheet, self.names, self)
        self.measures = MeasureList(self.sheet, self)
        self.deliveries = Deliveries(self, self.batch.worker, self)
        self.batch.opened.connect(self.sheet.find_book)
        self.batch.freshly_read.connect(self._pass_on)
        self.batch.worker.worked_out.connect(self._take_outcomes)
        self.sheet.taken_hold.connect(self._work_out_anew)
        self.drafts.aim_changed.connect(self.selection_changed)
        self.drafts.stage_wished.connect(self.enter_stage)
        self.measures.choice_changed.connect(self.selection_changed)

    # What there is, of the services

    @property
    def document(self) -> Document:
        """The present document."""
        return self.sheet.document

    @property
    def rows(self) -> dict[str, BatchRow]:
        """The files of the batch."""
        return self.batch.rows

    @property
    def assets(self) -> dict[str, Asset]:
        """The assets that are read, by file."""
        return self.batch.assets

    @property
    def outcomes(self) -> dict[str, Outcome]:
        """What the steps make of each asset, as far as that is known."""
        return self.batch.outcomes

    @property
    def paths(self) -> list[Path]:
        """What was opened."""
        return self.batch.paths

    @property
    def to_read(self) -> int:
        """How many files are still being read."""
        return self.batch.to_read

    @property
    def unit(self) -> ShownUnit:
        """What lengths are shown and typed in."""
        return self.sheet.unit

    @property
    def book(self) -> SizeBook | None:
        """The size book the batch is held against."""
        return self.sheet.book

    @property
    def is_saved(self) -> bool:
        """Whether the sheet is what its file holds."""
        return self.sheet.is_saved

    @property
    def setting(self) -> Setting:
        """What steps are told, the marks at hand among it, and the other assets as they stand before the draft."""
        return replace(self.names.setting, others=self._find_standing)

    def find_file(self, name: str) -> str | None:
        """Return the file of the asset that steps call so; None where there is none, or not one alone."""
        try:
            return asset_called(name, list(self.rows))
        except BadReference:
            return None

    def _find_standing(self, name: str) -> Asset | None:
        """Return the asset that steps call so, as it stands before the draft; None where there is none."""
        outcome = self.outcomes.get(self.find_file(name) or "")
        return None if outcome is None else outcome.before.asset

    @property
    def chosen_measure(self) -> int | None:
        """Which measurement is looked at."""
        return self.measures.chosen

    @property
    def measured_along(self) -> str:
        """What coordinates of measurements are told along: `world`, `part`, or `datum NAME`."""
        return self.measures.along

    # What there is, of its own

    @property
    def lead(self) -> str | None:
        """The asset picked last."""
        return self.selection[-1] if self.selection else None

    def owes(self, file: str) -> bool:
        """Tell whether what the present document makes of a file is not worked out yet."""
        return file in self.batch.owed

    def is_settled(self) -> bool:
        """Whether all is read and the outcomes belong to the present document."""
        return self.batch.is_read and not self.batch.owed

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
            self.sheet.unit = unit
            self.shown_changed.emit()

    def _pass_on(self) -> None:
        fresh = self.batch.take_fresh()
        if not self.selection:
            self._select_first()
        self.batch.batch_changed.emit()
        # What is held against another asset may have waited for one of these.
        hangs = self.document.tried.hangs
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
        if self.batch.owed:
            return say("working out"), len(self.assets) - len(self.batch.owed), len(self.assets)
        return None

    # Wishes

    def select(self, files: tuple[str, ...], nodes: tuple[int, ...] = ()) -> None:
        """Select assets, the last one leading, and nodes of that one, of which the last leads too."""
        if (files, nodes) != (self.selection, self.nodes):
            self.selection, self.nodes = files, nodes
            self.selection_changed.emit()

    def take_out(self, files: Iterable[str]) -> None:
        """Take files out of the batch; what others make of them is worked out anew."""
        self.batch.take_out(files)
        left = tuple(f for f in self.selection if f in self.rows)
        self.select(left)
        if not left:
            self._select_first()
        self._work_out_anew()

    def close_batch(self) -> None:
        """Close the batch and its sheet; a delivery that is under way keeps them open."""
        if self.deliveries.is_running:
            self.messages.failed.emit(say("A delivery is under way: cancel it first, or wait for its end"))
            return
        self.select(())
        self.measures.chosen = None
        self.batch.close()
        self.sheet.close()
        self.enter_stage("receive")

    def enter_stage(self, stage: str) -> None:
        """Go to a stage; a draft stays as it is."""
        if stage != self.stage:
            self.stage = stage
            self.stage_changed.emit(stage)

    @property
    def is_together(self) -> bool:
        """Whether several are selected, and taken as one."""
        return self.document.together and len(self.selection) > 1

    def take_together(self, wanted: bool) -> None:
        """Take several that are selected as one, or each by itself."""
        self.sheet.amend(together=wanted)
        draft = self.document.draft
        if draft is not None and draft.moves_together != wanted and is_for_wholes(draft.words()):
            words = {k: v for k, v in draft.words().items() if k != "together"}
            self.drafts.try_whole({**words, **({"together": True} if wanted else {})})
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

    def questions(self, state: str) -> list[str]:
        """Return the included assets whose unit question stands at `state`."""
        return [
            f
            for f in self.included()
            if f in self.outcomes and (q := self.outcomes[f].question) is not None and q.state == state
        ]

    def close(self) -> None:
        """End all work."""
        self.batch.watch.close()
        self.batch.worker.close()

    # Making it so

    def _work_out_anew(self) -> None:
        self._request += 1
        self.batch.owed.clear()
        self.sheet.document_changed.emit()
        self._work_out(list(self.assets.values()))

    def _work_out(self, assets: list[Asset]) -> None:
        if not assets:
            return
        self.batch.owed.update(a.file for a in assets)
        # What is looked at comes first.
        first = [a for a in assets if a.file in self.selection]
        rest = [a for a in assets if a.file not in self.selection]
        document = self.document
        self.batch.worker.work_out(
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
                self.batch.owed.discard(outcome.file)
        self.outcomes_changed.emit()
