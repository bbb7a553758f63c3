"""The column at the right: the stage's form, what it applies to, what it would do, and keep or drop."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from oak_square.app.facts.effects import ConsequenceRow, EffectRow
from oak_square.app.facts.scopes import ScopeShown
from oak_square.app.facts.stopped import StoppedAt
from oak_square.app.panel.bodies import Bodies
from oak_square.app.panel.body import Array, Body
from oak_square.app.panel.consequences import ConsequenceView
from oak_square.app.panel.effect_view import EffectView
from oak_square.app.panel.scope_row import ScopeRow
from oak_square.app.panel.stage_findings import StageFindings
from oak_square.app.panel.step_row import StepRow
from oak_square.app.panel.ways_row import WaysRow
from oak_square.app.widgets.entries import fields_of, unreadable
from oak_square.app.widgets.fields import Advice, push_button
from oak_square.core.errors import DataTrouble
from oak_square.core.node_names import names_of
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stages import STAGE_HELP, stage_name
from oak_square.core.words import say
from oak_square.steps.edited import own_words
from oak_square.steps.setting import Setting
from oak_square.steps.step import STEPS, Step

__all__ = ["PanelColumn"]


class PanelColumn(QWidget):
    """Shows the current stage; wishes for steps, for keeping and for dropping."""

    words_wished = Signal(
        dict, dict
    )  # what a form says, without its scope, empty for nothing; what it showed of a step
    keep_wished = Signal()
    drop_wished = Signal()
    asset_wished = Signal(str)
    said_wished = Signal(str, object)  # what any step may say, and what it shall be; None for nothing

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._words: dict[str, Any] = {}
        self._told: dict[str, Any] = {}
        self._names: dict[str, list[str]] = {}
        self._body: Body | None = None
        self._unit: tuple[ShownUnit, Setting] | None = None
        self._scope: ScopeShown | None = None
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 12)
        outer.setSpacing(8)
        self.area = area = QScrollArea(self)
        area.setWidgetResizable(True)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget(area)
        area.setWidget(inner)
        self.bodies = Bodies(inner)
        outer.addWidget(area, 1)
        self._rows = rows = QVBoxLayout(inner)
        rows.setContentsMargins(14, 12, 14, 0)
        rows.setSpacing(8)
        self._heading = QLabel(inner)
        self._heading.setProperty("role", "heading")
        rows.addWidget(self._heading)
        self._help = QLabel(inner)
        self._help.setProperty("role", "soft")
        self._help.setWordWrap(True)
        rows.addWidget(self._help)
        self.scope = ScopeRow(inner)
        rows.addWidget(self.scope)
        self.findings = StageFindings(inner)
        rows.addWidget(self.findings)
        self.effect = EffectView(inner)
        self.effect.asset_wished.connect(self.asset_wished)
        rows.addWidget(self.effect)
        self.step_row = StepRow(inner)
        self.step_row.wished.connect(self.said_wished)
        rows.addWidget(self.step_row)
        self._has_draft = False
        self._foot = self._make_foot()
        outer.addWidget(self._foot)
        self.bodies.whenever(Body, self._take_in)

    def _take_in(self, body: Body) -> None:
        """Give a form that was made its place, and take up what it wishes for."""
        self._rows.insertWidget(self._rows.indexOf(self.findings), body)
        body.words_wished.connect(self._wish_for_words)
        body.narrowing_changed.connect(self._show_narrowing)
        for field in fields_of(body):
            field.complained.connect(self._tell_trouble)
        self._tell_unit(body)

    def _make_foot(self) -> QWidget:
        foot = QWidget(self)
        column = QVBoxLayout(foot)
        column.setContentsMargins(14, 0, 14, 0)
        line = QHBoxLayout()
        line.setSpacing(6)
        self.consequences = ConsequenceView(foot)
        self.consequences.hide()
        column.addWidget(self.consequences)
        self.ways = WaysRow(foot)
        column.addWidget(self.ways)
        self.trouble = Advice(foot)
        self.trouble.hide()
        column.addWidget(self.trouble)
        self.keep = push_button(
            say("Keep as step  ⏎"), say("Put what is tried on the prep sheet (Enter)"), foot, "primary"
        )
        self.keep.clicked.connect(self.keep_wished)
        self.drop = QPushButton(say("Drop  Esc"), foot)
        self.drop.setToolTip(say("Forget what is tried; nothing changes (Esc)"))
        self.drop.clicked.connect(self.drop_wished)
        line.addWidget(self.keep, 1)
        line.addWidget(self.drop)
        column.addLayout(line)
        return foot

    def unreadable(self) -> str:
        """Return why something that is typed here can't be read; empty where all can."""
        return unreadable(self)

    def _tell_trouble(self, _why: str) -> None:
        why = self.unreadable()
        self.trouble.show_lines([why] if why else [], "fix")
        self._foot.setVisible(bool(why) or self._has_draft or bool(self.ways.shown))
        for button in (self.keep, self.drop):
            button.setVisible(bool(why) or self._has_draft)

    def show_unit(self, unit: ShownUnit, setting: Setting) -> None:
        """Show and read lengths in `unit`, and points along the axes of delivery."""
        self._unit = unit, setting
        for body in self.bodies.made().values():
            self._tell_unit(body)

    def _tell_unit(self, body: Body) -> None:
        if self._unit is not None:
            unit, setting = self._unit
            body.shown, body.setting = unit, setting
            body.datum = lambda name, asset: _find_datum_frame(setting, name, asset)

    def show_names(self, names: Mapping[str, Sequence[str]]) -> None:
        """Offer what has a name on the sheet, wherever a point is taken: by kind, `mark`, `datum`, `berth`."""
        self._names = {kind: list(of) for kind, of in names.items()}

    def show_stage(
        self, stage: str, scope: ScopeShown, draft: Step | None, editing: int | None, asset: Asset | None = None
    ) -> None:
        """Match the column to a stage and the draft, if it is of that stage; `asset` is the lead one before it."""
        body = self.bodies[stage]
        own = draft if draft is not None and draft.stage == stage else None
        self._heading.setText(
            stage_name(stage)
            if editing is None or own is None
            else say("Step {editing}: {stage}", editing=editing + 1, stage=stage_name(stage))
        )
        self._help.setText(STAGE_HELP[stage] + ".")
        for other in self.bodies.made().values():
            other.setVisible(other is body)
        body.nodes, body.several = scope.nodes, scope.several
        body.names = {**self._names, "part": [] if asset is None else list(names_of(asset))}
        body.show_step(own, asset)
        self._words = {} if own is None else own.words()
        self._told = own_words(self._words)
        body.show_forms(self._told, asset)
        self._has_draft = draft is not None
        self._tell_trouble("")
        self.keep.setText(say("Keep as step  ⏎") if editing is None else say("Keep the change  ⏎"))
        self._body, self._scope = body, scope
        self.step_row.show_step(own)
        self._show_narrowing()
        self._help.setVisible(own is None)

    def _spacer_wanted(self, wanted: bool) -> None:
        rows = self._rows
        last = rows.itemAt(rows.count() - 1)
        has = last is not None and last.spacerItem() is not None
        if wanted and not has:
            rows.addStretch(1)
        elif has and not wanted:
            rows.takeAt(rows.count() - 1)

    def _show_narrowing(self) -> None:
        """Offer parts and groups where the draft, or else the form in front, can be for some."""
        body = self._body
        if body is None or self._scope is None:
            return
        kind = STEPS[str(self._words["do"])] if self._words else None
        narrows = body.narrows if kind is None else kind.is_for_nodes(self._words)
        self.scope.show_scope(self._scope, narrows=narrows)
        makes = body.makes_steps
        self.scope.setVisible(makes)
        self.step_row.setVisible(makes and kind is not None)
        self.effect.setVisible(makes and kind is not None)
        self.findings.setVisible(makes and kind is None)
        for other in self.bodies.made().values():
            self._rows.setStretchFactor(other, 1 if not makes and other is body else 0)
        self._spacer_wanted(makes)

    def show_effect(self, rows: Sequence[EffectRow], consequences: Sequence[ConsequenceRow]) -> None:
        """Show what the draft would do to the assets it is for, and what else it would bring about."""
        self.effect.show_effect(rows)
        self.consequences.show_consequences(consequences)

    def show_stopped(self, stopped: StoppedAt) -> None:
        """Show what leads on, and, where nothing is tried, what stops the asset that is looked at."""
        if not self._has_draft:
            self.consequences.show_consequences(stopped.rows)
        self.ways.show_ways(stopped.ways)
        self._tell_trouble("")

    def _wish_for_words(self, words: Mapping[str, Any]) -> None:
        told, self._told = self._told, dict(words)
        # What is wished next, before anything is shown anew, is an edit of this.
        self.words_wished.emit(dict(words), told)


def _find_datum_frame(setting: Setting, name: str, asset: Asset) -> Array:
    """Return world from a datum, shape (4, 4); the world itself where it is not found on the asset."""
    try:
        return setting.datum(name, asset)
    except DataTrouble:
        return np.eye(4)
