"""Between the instruments and the session: drags become drafts, picks become marks."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QObject, QPoint, QTimer, Signal
from PySide6.QtWidgets import QMenu

from oak_square.app.desk.display import Display
from oak_square.app.facts.taken import as_shape, is_shaping
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.wishes import HangAt, ListUnder, TakePoint, TryWords
from oak_square.app.session.aim import target_words
from oak_square.app.session.session import Session
from oak_square.app.view import Bench
from oak_square.core.errors import DataTrouble
from oak_square.core.lengths import written_number
from oak_square.core.marking import MARKABLE, fresh_name, mark_words, shared_pattern
from oak_square.core.node_names import name_of
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.together import JointGroup, group_of
from oak_square.core.words import say
from oak_square.sheet.model import Mark
from oak_square.sheet.references import members_of
from oak_square.steps.misfits import apply_where_it_fits
from oak_square.steps.naming import called
from oak_square.steps.setting import Setting, WholeMotion
from oak_square.steps.step import STEPS, Step
from oak_square.steps.whole import WholeStep

__all__ = ["HandsDesk"]

Array = NDArray[np.float64]
_TRY_MS = 90  # while a drag goes on: the picture follows at once, the batch behind it a few times a second
_MANY_NODES = 40  # from which on a drag is shown by the motion alone
_MOST_LIVE = 8  # assets that follow a drag at once


class HandsDesk(QObject):
    """Carries on what instruments wish for that is more than a pick."""

    changed = Signal()
    waited = Signal()  # a point is waited for no longer

    def __init__(self, session: Session, display: Display, bench: Bench, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._display, self._bench = session, display, bench
        self._gesture = 0
        self._goes_on = False
        self._group: tuple[tuple[str, ...], JointGroup] | None = None
        self._base: dict[str, Asset] = {}
        self._pending: tuple[dict[str, Any], int] | None = None
        self._due = QTimer(self, singleShot=True, interval=_TRY_MS)
        self._due.timeout.connect(self._flush_words)
        self._waiting: Callable[[dict[str, Any], ClickTarget], None] | None = None
        self._last_marks: dict[str, ClickTarget] = {}
        self._any_will_do = self._elsewhere = False
        self.wants = ""

    @property
    def wants_elsewhere(self) -> bool:
        """Whether a place is waited for that may lie on any asset."""
        return self._waiting is not None and self._elsewhere

    # Drags

    def try_words(self, wish: TryWords) -> None:
        """Try what a gesture means so far: shown at once on what is selected, and worked out for the whole batch."""
        session = self._session
        try:
            words = session.drafts.aimed(self._of_vertices(wish.words))
        except ValueError as error:
            session.messages.failed.emit(str(error))
            return
        if wish.gesture != self._gesture:
            self._begin_gesture(words, wish.gesture)
        marks: dict[str, Mark] = {}
        if wish.marks:
            self._last_marks = dict(wish.marks)
            try:
                words, marks = self._make_marks(words, wish.marks)
            except DataTrouble as error:
                session.messages.failed.emit(str(error))
                self.drop()
                return
        try:
            step = STEPS[str(words["do"])].model_validate(words)
        except ValueError as error:
            session.messages.failed.emit(str(error).splitlines()[-1])
            return
        lead = self._base.get(session.lead or "")
        whole = words["do"] != "shape"
        if wish.going and whole and wish.motion is not None and lead is not None and len(lead.nodes) > _MANY_NODES:
            # Working out every part would hold the hand up: all of them make one motion.
            self._display.dragging = True
            self._display.show_motion(wish.motion)
        else:
            self._preview_step(step, marks)
        if wish.going:
            self._pending = words, wish.gesture
            if not self._due.isActive():
                self._due.start()
            return
        self._due.stop()
        self._pending = None
        self._display.dragging = False
        session.enter_stage(step.stage)
        session.drafts.try_whole(words, gesture=wish.gesture, marks=marks)

    def _of_vertices(self, words: Mapping[str, Any]) -> Mapping[str, Any]:
        """Return what an instrument wishes for as a shape of the vertices that are taken, where these are held."""
        session = self._session
        take = session.document.grip.take
        if take is None or not is_shaping(session):
            return words
        return as_shape(words, take, session.setting.working_from_delivery)

    def _begin_gesture(self, words: Mapping[str, Any], gesture: int) -> None:
        """Begin a gesture: it goes on from the draft where that is of the same kind, else the draft is kept first."""
        self._gesture = gesture
        self._display.begin_motion()
        session, draft = self._session, self._session.document.draft
        goes_on = draft is not None and _is_of_one_kind(draft.words(), words)
        if draft is not None and not goes_on:
            self.settle_draft()
        self._base, self._group, self._goes_on = {}, None, goes_on
        for file in session.selection[-_MOST_LIVE:]:
            outcome = session.outcomes.get(file)
            if outcome is not None:
                shown = self._display.preview.get(file, outcome.after.asset)
                self._base[file] = outcome.before.asset if goes_on else shown

    def settle_draft(self) -> None:
        """Keep the draft before another kind of step is begun; one that comes to nothing where it is seen goes."""
        session = self._session
        lead = session.outcomes.get(session.lead or "")
        number = len(session.document.before.steps) + 1
        own = lead.of_step(number) if lead is not None and not session.owes(lead.file) else None
        stopped = lead is not None and lead.after.status != "ready"
        if stopped or (own is not None and own.outcome != "applied"):
            session.drafts.drop()
        else:
            session.drafts.keep()

    def _preview_step(self, step: Step, marks: Mapping[str, Mark]) -> None:
        """Show what a step makes of what is selected, without waiting for the batch."""
        setting = self._session.setting
        setting = replace(setting, marks={**setting.marks, **{n: m.look(n, setting) for n, m in marks.items()}})
        shown = {}
        for file, base in self._base.items():
            if not step.covers(file):
                continue
            try:
                told = replace(setting, others=self._find_other_asset, joint=partial(self._find_joint, step, setting))
                shown[file] = apply_where_it_fits(step, base, told).effect.asset
            except DataTrouble:
                continue  # the panel says why, once it is worked out
        self._display.dragging = True
        self._display.show_preview(shown)

    def _find_joint(self, step: Step, setting: Setting) -> WholeMotion:
        """Return the motion that all make together whom a step moves as one, as they stood when the gesture began."""
        assert isinstance(step, WholeStep)
        session = self._session
        names = {name: file for name in step.refers_to if (file := session.find_file(name)) is not None}
        files = members_of(step, session.outcomes, names)
        if self._group is None or self._group[0] != files:
            self._group = files, group_of([self._base.get(f) or self._standing_of(f) for f in files])
        group = self._group[1]
        return step.find_motion(group.asset, replace(setting, others=self._find_other_asset), group.origins)

    def _standing_of(self, file: str) -> Asset:
        outcome = self._session.outcomes[file]
        return outcome.before.asset if self._goes_on else outcome.after.asset

    def _find_other_asset(self, name: str) -> Asset | None:
        file = self._session.find_file(name)
        return None if file is None or file not in self._session.outcomes else self._standing_of(file)

    def _flush_words(self) -> None:
        if self._pending is not None:
            (words, gesture), self._pending = self._pending, None
            self._session.drafts.try_whole(words, gesture=gesture)

    def keep(self) -> None:
        """Keep what is tried, the last of a drag among it."""
        self._flush_words()
        self._session.drafts.keep(asks=True)

    def drop(self) -> None:
        """Forget what is tried."""
        self._due.stop()
        self._pending = None
        self._display.end_preview()
        self._session.drafts.drop()

    # Picks

    def _make_marks(
        self, words: Mapping[str, Any], picked: Mapping[str, ClickTarget]
    ) -> tuple[dict[str, Any], dict[str, Mark]]:
        """Return words whose placeholders are marks made of what was picked, and those marks."""
        taken = self._session.names.mark_names
        names, marks = dict[str, str](), dict[str, Mark]()
        for place, aim in picked.items():
            mark = self._mark_of(aim, words)
            same = next((n for n, m in self._session.document.sheet.marks.items() if m == mark), None)
            names[place] = same or fresh_name(taken)
            taken.add(names[place])
            marks[names[place]] = mark
        return _fill_placeholders(words, names), marks

    def _mark_of(self, aim: ClickTarget, words: Mapping[str, Any]) -> Mark:
        """Return the mark that finds a pick, on every node that the words are for where it is on one of them.

        Raises
        ------
        DataTrouble
            If its part is not there, or has nothing of that kind.
        """
        session = self._session
        asset = self._base.get(aim.file) or session.outcomes[aim.file].after.asset
        node = aim.anchor.index(asset)
        on = shared_pattern(asset, words.get("parts") or (), node)
        setting = session.document.sheet.setting()
        told = mark_words(asset, node, aim.kind, aim.anchor.world(asset), aim.way, on, setting.working_from_delivery.T)
        way = list(told.way) if isinstance(told.way, tuple) else told.way
        return Mark.model_validate(
            {"on": told.on, "kind": told.kind, "where": list(told.where), "way": way, "size": told.size}
        )

    def point_words(
        self, aim: ClickTarget, words: Mapping[str, Any], *, plain: bool = False, elsewhere: bool = False
    ) -> dict[str, Any] | None:
        """Return how a step names a picked point, its mark on the sheet by then; None where only numbers could.

        Parameters
        ----------
        words : mapping
            What the step is for.
        plain : bool
            Numbers will do.
        elsewhere : bool
            A step may name it as a place on another asset; else only its numbers are taken there.
        """
        session, of = self._session, dict[str, Any]()
        if aim.file not in session.selection:
            of = {"of": called(list(session.rows))[aim.file]}
            plain = plain or not elsewhere
        if aim.kind in MARKABLE and not plain:
            self._base = {}
            try:
                told, marks = self._make_marks({**words, "at": {"mark": "at"}}, {"at": aim})
            except DataTrouble as error:
                session.messages.failed.emit(str(error))
                return None
            session.names.put_marks(marks)
            return {**told["at"], **of}
        asset = session.outcomes[aim.file].after.asset
        if aim.kind == "pivot" and (elsewhere or not of):
            return {"part": name_of(asset, aim.anchor.pivot_of(asset)), **of}
        if not plain and aim.kind != "box point":
            what = say("an edge") if aim.kind == "edge" else say("the surface")
            session.messages.said.emit(
                say("A point of {what} is not found again: take what is marked, or Shift for its numbers", what=what)
            )
            return None
        return {"xyz": self.coordinates(aim.anchor.world(asset))}

    def coordinates(self, world: Array) -> list[float]:
        """Return a world point as the sheet's numbers say it."""
        setting = self._session.document.sheet.setting()
        return [written_number(float(v), setting.unit) for v in setting.working_from_delivery.T @ world]

    def hang_at(self, wish: HangAt) -> None:
        """Hang what is picked, or the part under the pointer, at a picked point."""
        session = self._session
        if not session.nodes and wish.node is not None and session.document.aim.target is None:
            session.select(session.selection, (wish.node,))
        draft = session.document.draft
        if draft is not None and draft.do != "pivot":
            self.settle_draft()
        words = {"do": "pivot"}
        scope = session.drafts.aimed(words)
        at = self.point_words(wish.aim, scope, plain=wish.plain)
        if at is not None:
            session.enter_stage("pivot")
            session.drafts.try_whole({**scope, "at": at})

    def centre_at(self, aim: ClickTarget) -> None:
        """Let turns and sizes happen about a picked point: where a mark or a pivot is found again, else just there."""
        session, asset = self._session, self.shown(aim.file)
        # Of what is moved as one, a place goes along with it: as a place of the world it is meant.
        as_one = session.is_together and aim.file in session.selection
        at = self.point_words(aim, {}, elsewhere=True) if aim.kind in MARKABLE and not as_one else None
        on = say(" on {name}", name=asset.name) if aim.file != session.lead else ""
        if at is not None:
            about, said = f"mark {at['mark']}\n{aim.file}", say("mark {name}", name=at["mark"]) + on
        elif aim.kind == "pivot" and not as_one:
            name = name_of(asset, aim.anchor.pivot_of(asset))
            about, said = f"part {name}\n{aim.file}", say("the pivot of '{part}'", part=name) + on
        else:
            world = aim.anchor.world(asset)
            numbers = self.coordinates(world)
            about, said = " ".join(["xyz", *map(repr, numbers)]), session.unit.point(*world.tolist())
        session.names.set_grip(lambda g: replace(g, about=about))
        session.messages.said.emit(say("About {about}", about=said))

    def lay_face(self, aim: ClickTarget | None) -> None:
        """Lay the face under the pointer on the ground."""
        session = self._session
        if aim is None:
            session.messages.said.emit(say("Hold the pointer over the face that shall lie on the ground"))
            return
        if session.document.draft is not None:
            self.settle_draft()
        self._base = {}
        scope = session.drafts.aimed({"do": "turn", "by": [0, 0, 0]})
        scope.pop("by")
        words = {**scope, "bring": {"mark": "bring"}, "to": "bottom"}
        try:
            told, marks = self._make_marks(words, {"bring": aim})
        except DataTrouble as error:
            session.messages.failed.emit(str(error))
            return
        session.enter_stage("turn")
        session.drafts.try_whole(told, marks=marks)

    def line_up(self) -> None:
        """Turn what was moved last by a pick onto another one so that both point along one line."""
        session, picked = self._session, self._last_marks
        by, at = picked.get("by"), picked.get("at")
        if by is None or at is None or not by.way.any() or not at.way.any():
            session.messages.said.emit(say("Move one circle, edge or face onto another first, then line them up"))
            return
        if session.document.draft is not None:
            self.settle_draft()
        self._base = {}
        away = -1.0 if by.kind == "face centre" and at.kind == "face centre" else 1.0
        at = replace(at, way=at.way * (away if float(by.way @ at.way) * away >= 0 or away < 0 else -1.0))
        scope = session.drafts.aimed({"do": "turn", "by": [0, 0, 0]})
        scope.pop("by")
        words = {**scope, "bring": {"mark": "by"}, "to": {"mark": "at"}, "about": {"mark": "at"}}
        try:
            told, marks = self._make_marks(words, {"by": by, "at": at})
        except DataTrouble as error:
            session.messages.failed.emit(str(error))
            return
        session.enter_stage("turn")
        session.drafts.try_whole(told, marks=marks)

    def shown(self, file: str) -> Asset:
        """Return an asset of the batch as it is shown."""
        return self._display.preview.get(file, self._session.outcomes[file].after.asset)

    def want_point(
        self,
        asks: str,
        take: Callable[[dict[str, Any], ClickTarget], None],
        *,
        any_will_do: bool = False,
        elsewhere: bool = False,
    ) -> None:
        """Wait for a point to be picked in the view: `take` is given how a step names it, and the pick.

        With `any_will_do` it may be one that no step names; `elsewhere`, one on another asset is named as that.
        """
        self._waiting, self.wants, self._any_will_do, self._elsewhere = take, asks, any_will_do, elsewhere
        self.changed.emit()

    def stop_waiting(self) -> bool:
        """Wait no longer; tell whether anything was waited for."""
        had, self._waiting, self.wants = self._waiting is not None, None, ""
        if had:
            self.waited.emit()
            self.changed.emit()
        return had

    def take_point(self, wish: TakePoint) -> None:
        """Give a picked point to whoever waits for it."""
        take = self._waiting
        if take is None:
            return
        session = self._session
        draft = session.own_draft
        scope = draft.words() if draft is not None else {}
        if self._any_will_do:
            self.stop_waiting()
            take({}, wish.aim)
            return
        at = self.point_words(wish.aim, scope or target_words(session.document.aim, session.scope, {"do": "pivot"}),
                              plain=wish.plain, elsewhere=self._elsewhere)  # fmt: skip
        if at is not None:
            self.stop_waiting()
            take(at, wish.aim)

    # The list of what lies under the pointer

    def list_under(self, wish: ListUnder, take: Callable[[ClickTarget], None]) -> QMenu:
        """Offer what lies under the pointer in a list, each with what it is of; `take` is given the one chosen."""
        menu = QMenu(self._bench)
        seen = set[tuple[str, str, tuple[float, ...]]]()
        for aim in wish.aims:
            key = (aim.kind, aim.whose, tuple(np.round(aim.at, 9).tolist()))
            if key in seen:
                continue
            seen.add(key)
            size = f"  ⌀ {self._session.unit.length(2 * aim.size)}" if aim.kind == "circle centre" else ""
            menu.addAction(
                say("{kind} of {whose}{size}", kind=term(aim.kind), whose=aim.whose, size=size)
            ).triggered.connect(lambda _=False, a=aim: take(a))
        menu.popup(self._bench.mapToGlobal(QPoint(round(wish.at[0]), round(wish.at[1]))))
        return menu


def _fill_placeholders(words: Any, names: Mapping[str, str]) -> Any:
    """Return a step's words with the placeholders of marks filled in."""
    if isinstance(words, list):
        return [_fill_placeholders(w, names) for w in words]
    if not isinstance(words, Mapping):
        return words
    return {k: names.get(w, w) if k == "mark" else _fill_placeholders(w, names) for k, w in words.items()}


def _is_of_one_kind(one: Mapping[str, Any], other: Mapping[str, Any]) -> bool:
    """Tell whether two steps say the same kind of thing of the same things, along and about the same."""
    same = ("do", "for", "parts", "along", "about", "take", "together")
    plain = {*same, "of", "keep"}
    ways = [{k for k in words if k not in plain} for words in (one, other)]
    extents = {"width", "height", "depth"}
    alike = ways[0] == ways[1] or (ways[0] <= extents and ways[1] <= extents and ways[0] and ways[1])
    return bool(alike) and all(one.get(k) == other.get(k) for k in same)
