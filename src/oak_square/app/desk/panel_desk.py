"""Between the panel, the sheet's cards and the session: what is tried, kept, dropped, settled and delivered."""

from __future__ import annotations

import operator
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QApplication, QLineEdit, QMessageBox, QWidget

from oak_square.app.facts.bake_rows import bake_rows
from oak_square.app.facts.effects import effect_rows, loss_lines
from oak_square.app.facts.findings import finding_groups, having, likeliest, stage_findings
from oak_square.app.facts.scopes import aim_change, met_nodes, scope_shown
from oak_square.app.facts.stopped import left_out_nodes, stopped_step, ways_on
from oak_square.app.facts.taken import is_shaping, taken_points
from oak_square.app.panel import PanelColumn
from oak_square.app.panel.bake_body import BakeBody
from oak_square.app.panel.deliver_body import DeliverBody
from oak_square.app.panel.receive_body import ReceiveBody
from oak_square.app.panel.size_body import SizeBody
from oak_square.app.panel.stage_findings import StageFindings
from oak_square.app.panel.turn_body import TurnBody
from oak_square.app.session.document import default_delivery
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.remedies import remedy
from oak_square.app.session.session import Session
from oak_square.app.session.stopping import refused_files
from oak_square.app.widgets.entries import unreadable
from oak_square.app.widgets.gestures import Gestures
from oak_square.app.widgets.strip import Strip
from oak_square.core.findings.finding import KINDS
from oak_square.core.node_names import patterns_for, same_nodes
from oak_square.core.scene import Asset
from oak_square.core.together import group_of
from oak_square.core.words import say
from oak_square.sheet.along_axes import meant_otherwise
from oak_square.sheet.model import Deliver
from oak_square.steps.naming import called, globs_for
from oak_square.steps.step import STEPS

__all__ = ["PanelDesk"]


_MOST_MOVED = 8
_CHANGES = {"without": {"may-refuse": True}, "loosen": {"all": False}}


class PanelDesk(QObject):
    """Carries what the forms and the cards wish for to the session, and shows them what it becomes."""

    def __init__(
        self,
        session: Session,
        habits: HabitBook,
        panel: PanelColumn,
        strip: Strip,
        gestures: Gestures,
        parent: QObject,
    ) -> None:
        super().__init__(parent)
        self.session, self.panel, self._habits, self._gestures = session, panel, habits, gestures
        self.typed_over: QWidget | None = None
        """Where else a length may be typed: what can't be read there keeps nothing either."""
        self._has_draft = False
        self._joined: tuple[list[Asset], Asset] | None = None
        self._into: Path | None = None  # where what is under way is delivered into
        session.deliveries.ended.connect(self._remember_folder)
        session.deliveries.ended.connect(self._tell_ended)
        panel.words_wished.connect(self._try_words)
        scope = panel.scope
        scope.which_wished.connect(partial(self._change_aim, "which"))
        scope.target_wished.connect(partial(self._change_aim, "target"))
        scope.globs_wished.connect(partial(self._change_aim, "globs"))
        scope.names_wished.connect(partial(self._change_aim, "names"))
        scope.lead_wished.connect(self._aim_at_lead)
        panel.said_wished.connect(self._say_of_step)
        panel.keep_wished.connect(self.keep)
        panel.drop_wished.connect(session.drafts.drop)
        panel.asset_wished.connect(lambda file: session.select((file,)))
        panel.ways.wished.connect(self._go_on)
        session.sheet.document_changed.connect(self._forget_field)
        strip.open_wished.connect(self._open_card)
        strip.remove_wished.connect(self._remove_card)
        strip.pause_wished.connect(session.sheet.pause_step)
        strip.move_wished.connect(session.sheet.move_step)
        self._follow_findings(panel.findings)
        panel.bodies.whenever(ReceiveBody, self._follow_findings)
        panel.bodies.whenever(BakeBody, self._follow_table)
        panel.bodies.whenever(DeliverBody, self._follow_delivery)

    def _follow_findings(self, listed: ReceiveBody | StageFindings) -> None:
        listed.settle_wished.connect(self.settle)
        listed.show_wished.connect(lambda code: self.session.select(tuple(having(self.session, code))))

    def _follow_table(self, bake: BakeBody) -> None:
        bake.table.nodes_wished.connect(self._aim_at_nodes)
        bake.table.row_chosen.connect(self._look_at_node)

    def _follow_delivery(self, deliver: DeliverBody) -> None:
        session = self.session
        deliver.run_wished.connect(self._begin_delivery)
        deliver.look_wished.connect(self._look_first)
        deliver.afterwards.report_wished.connect(self.session.deliveries.report)
        deliver.deliver_wished.connect(self._set_deliver)
        deliver.cancel_wished.connect(session.batch.worker.cancel)
        deliver.asset_wished.connect(lambda file: session.select((file,)))
        session.deliveries.progressed.connect(deliver.show_running)
        session.deliveries.ended.connect(deliver.show_ended)

    @property
    def receive_body(self) -> ReceiveBody:
        """The form of Receive."""
        return self.panel.bodies.of(ReceiveBody)

    @property
    def bake_body(self) -> BakeBody:
        """The form of Bake."""
        return self.panel.bodies.of(BakeBody)

    @property
    def deliver_body(self) -> DeliverBody:
        """The form of Deliver."""
        return self.panel.bodies.of(DeliverBody)

    @property
    def turn_body(self) -> TurnBody:
        """The form of Turn."""
        return self.panel.bodies.of(TurnBody)

    @property
    def size_body(self) -> SizeBody:
        """The form of Size."""
        return self.panel.bodies.of(SizeBody)

    def try_whole(self, words: dict[str, object]) -> None:
        if not words:
            self.session.drafts.drop(gesture=self._gestures.number)
            return
        self.session.drafts.try_whole(words, gesture=self._gestures.number)

    def _try_words(self, words: dict[str, object], told: dict[str, object]) -> None:
        self.session.drafts.try_words(words, told, gesture=self._gestures.number)

    def _say_of_step(self, key: str, value: object) -> None:
        """Have the step that is open say something that any step may, or no more."""
        draft = self.session.document.draft
        if draft is not None:
            words = {k: v for k, v in draft.words().items() if k != key}
            said = {} if value is None else {key: value}
            self.session.drafts.try_whole({**words, **said}, gesture=self._gestures.number)

    def _change_aim(self, what: str, value: object) -> None:
        """Aim at something else: another choice, or other patterns."""
        change = aim_change(scope_shown(self.session, counts=None), what, value)
        self.session.drafts.aim_at(change, nodes=what in ("target", "names"), gesture=self._gestures.number)

    def _aim_at_lead(self) -> None:
        """Aim at the asset that is looked at alone, and at what is picked in it."""
        session = self.session
        if session.lead is not None:
            session.select((session.lead,), session.nodes)
            self._change_aim("which", "selected")

    def _aim_at_nodes(self, nodes: tuple[tuple[str, int], ...]) -> None:
        """Aim at nodes of assets, over several by their names; at each and every one where there are none."""
        if not nodes:
            self._change_aim("target", "whole")
            return
        assets = {file: self.session.outcomes[file].before.asset for file, _ in nodes}
        if len(assets) == 1:
            asset = next(iter(assets.values()))
            names = patterns_for(asset, [node for _, node in nodes])
        else:
            names = tuple(dict.fromkeys(globs_for([assets[file].nodes[node].name for file, node in nodes])))
        self._change_aim("names", names)

    def _look_at_node(self, file: str, node: int) -> None:
        """Show an asset, with one of its nodes picked: as it stands before the draft."""
        outcome = self.session.outcomes.get(file)
        nodes = () if outcome is None else same_nodes(outcome.before.asset, (node,), outcome.after.asset)
        others = tuple(f for f in self.session.selection if f != file)
        self.session.select((*others, file), nodes)

    def _show_taken(self) -> None:
        """Let the form of Bake know which vertices are taken hold of."""
        session = self.session
        lead = session.outcomes.get(session.lead or "")
        points = np.empty((0, 3))
        if lead is not None and is_shaping(session):
            nodes = tuple(n for n in session.nodes if n < len(lead.before.asset.nodes))
            points = taken_points(session, lead.before.asset, lead.before.asset, nodes)
        self.bake_body.show_taken(session.document.grip.take, points)

    def keep(self) -> None:
        """Keep the draft, unless something typed can't be read: then nothing is kept that was not meant."""
        over = "" if self.typed_over is None else unreadable(self.typed_over)
        why = over or self.panel.unreadable()
        if why:
            self.session.messages.said.emit(why)
        else:
            self.session.drafts.keep(asks=True)

    def _go_on(self, way: str) -> None:
        """Do what leads on where a step stops: of the draft, or of the kept step that the asset looked at stops at."""
        session, draft = self.session, self.session.document.draft
        if draft is not None:
            more = {"skip": list(dict.fromkeys([*draft.skip, *globs_for(refused_files(session)[0])]))}
            if way == "pick":
                session.select(session.selection, left_out_nodes(session))
            else:
                session.drafts.try_whole({**draft.words(), **_CHANGES.get(way, more)})
            return
        at = stopped_step(session)
        if at is None:
            return
        if way == "open":
            self._open_card(at)
        elif way == "pause":
            session.sheet.pause_step(at)
        elif way == "remove":
            session.sheet.remove_step(at)
        else:
            step = session.document.sheet.steps[at]
            more = {"skip": [*step.skip, *globs_for([session.lead or ""])]}
            session.sheet.change_step(at, STEPS[step.do].model_validate({**step.words(), **_CHANGES.get(way, more)}))

    def _forget_field(self) -> None:
        had, self._has_draft = self._has_draft, self.session.document.draft is not None
        if had and not self._has_draft:
            # What was typed for a step that is kept or dropped is not left standing for the next one.
            field = QApplication.focusWidget()
            if isinstance(field, QLineEdit) and self.panel.isAncestorOf(field):
                field.setModified(False)

    def _open_card(self, index: int) -> None:
        if index < len(self.session.document.sheet.steps):
            self.session.drafts.open_step(index)
            self._take_hold_again()
        elif self.session.document.draft is not None:
            self.session.enter_stage(self.session.document.draft.stage)

    def _take_hold_again(self) -> None:
        """Take hold of the vertices that a shape speaks of once it is open."""
        draft = self.session.document.draft
        if draft is not None and draft.do == "shape":
            take = draft.words()["take"]
            self.session.names.set_grip(lambda g: replace(g, take=take))

    def _remove_card(self, index: int) -> None:
        if index < len(self.session.document.sheet.steps):
            self.session.sheet.remove_step(index)
        else:
            self.session.drafts.drop()

    def settle(self, code: str) -> None:
        step = remedy(code, having(self.session, code), likeliest(self.session, code))
        if step is None and KINDS[code].by_hand:
            # No one step is right for all: where each is settled is a hand's turn away.
            self.session.select(tuple(having(self.session, code)))
            self.session.enter_stage(KINDS[code].stage)
            self.session.messages.said.emit(KINDS[code].by_hand)
            return
        if step is None:
            self.session.messages.said.emit(say("No step settles that; it is in the file itself"))
            return
        self.session.select(tuple(f for f in self.session.assets if step.covers(f)))
        self.session.enter_stage(step.stage)
        self.session.drafts.try_step(step)

    def _set_deliver(self, unit: str, up: str, form: str) -> None:
        deliver = self.session.document.sheet.deliver
        wanted = Deliver.model_validate({**deliver.model_dump(), "unit": unit, "up": up, "format": form})
        moved = meant_otherwise(self.session.document.sheet, wanted)
        if moved and not self.ask_moved(moved):
            self.deliver_body.show_deliver(deliver)
            return
        self.session.sheet.set_deliver(wanted)

    def ask_moved(self, moved: Sequence[str]) -> bool:
        """Ask whether another axis shall be up although that moves what is kept; tell whether it shall."""
        box = QMessageBox(self.panel)
        box.setIcon(QMessageBox.Icon.Warning)
        box.setText(say("The numbers of the sheet would be read along other axes, and these would mean other places:"))
        more = [say("and {count} more", count=len(moved) - _MOST_MOVED)] if len(moved) > _MOST_MOVED else []
        box.setInformativeText("\n".join([*moved[:_MOST_MOVED], *more]))
        change = box.addButton(say("Change it all the same"), QMessageBox.ButtonRole.DestructiveRole)
        stay = box.addButton(say("Leave it"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(stay)
        box.exec()
        return box.clickedButton() is change

    def _begin_delivery(self, folder: Path, replace_old: bool, resume: bool) -> None:
        self._into = folder
        self.deliver_body.show_running(0, len(self.session.included()), None)
        self.session.deliveries.begin(folder, replace_old=replace_old, resume=resume)

    def _tell_ended(self, manifest: Mapping[str, Any] | None, error: str | None) -> None:
        """Say at the foot what a run came to, whatever stage is looked at."""
        if manifest is None:
            if self.session.stage != "deliver":  # there it stands in full
                self.session.messages.failed.emit(error or say("it stopped"))
            return
        whole = sum(entry["status"] in {"delivered", "unchanged"} for entry in manifest["assets"])
        told = (
            say("{whole} of {count} delivered and proved", whole=whole, count=len(manifest["assets"]))
            if self._into is not None
            else say("{whole} of {count} would be delivered", whole=whole, count=len(manifest["assets"]))
        )
        self.session.messages.said.emit(told)

    def _remember_folder(self, manifest: object, _error: object) -> None:
        """Remember where a batch was delivered into; not what was refused, and not what was only looked at."""
        if manifest is not None and self._into is not None:
            self._habits.remember_delivery(self.session.paths, self._into)

    def _look_first(self, folder: Path, replace_old: bool) -> None:
        self._into = None
        self.deliver_body.show_running(0, len(self.session.included()), None)
        self.session.deliveries.begin(folder, replace_old=replace_old, dry=True)

    def _join_selected(self, lead: Asset) -> Asset:
        """Return the selected assets before the draft as one, whose box and places the forms are about."""
        outcomes = (self.session.outcomes.get(file) for file in sorted(self.session.selection))
        assets = [o.before.asset for o in outcomes if o is not None]
        former = self._joined[0] if self._joined is not None else []
        if self._joined is None or len(former) != len(assets) or not all(map(operator.is_, former, assets)):
            self._joined = assets, replace(group_of(assets).asset, file=lead.file)
        return self._joined[1]

    def show(self) -> None:
        """Match the panel to the session."""
        session = self.session
        document, counts = session.document, None
        if session.own_draft is not None:
            rows, counts, consequences = effect_rows(session)
            self.panel.show_effect(rows, consequences)
        scope = scope_shown(session, counts=counts)
        lead = session.outcomes.get(session.lead or "")
        asset = lead.before.asset if lead is not None else None
        if session.is_together and not session.nodes and asset is not None:
            asset = self._join_selected(asset)
        else:
            self._joined = None
        self.panel.show_unit(session.unit, session.setting)
        sheet = document.sheet
        names = {"mark": list(sheet.marks), "datum": list(sheet.datums), "berth": list(sheet.berths)}
        others = called(list(session.rows))
        names["asset"] = [others[f] for f in session.assets if f not in session.selection]
        self.panel.show_names(names)
        if session.stage == "bake":
            self._show_taken()
        self.panel.show_stage(session.stage, scope, document.draft, document.editing, asset)
        self.panel.show_stopped(ways_on(session))
        if session.stage == "bake":
            self.bake_body.table.show_rows(bake_rows(session, met_nodes(session)), can_tick=True)
        if session.stage == "receive":
            groups, summary = finding_groups(session)
            self.receive_body.show_findings(groups, summary)
        elif session.own_draft is None:
            self.panel.findings.show_groups(stage_findings(session))
        if session.stage == "deliver":
            folder = self._habits.delivery_of(session.paths) or default_delivery(session.paths)
            self.deliver_body.show_deliver(document.sheet.deliver)
            self.deliver_body.show_losses(loss_lines(session))
            tried = document.draft is not None
            self.deliver_body.show_ready(len(session.included()), len(document.sheet.steps), folder, tried=tried)
