"""Copy and paste of points, as plain text at full precision: `12.456787 m, 0 m, -3.2 m`."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QApplication

from oak_square.app.desk.hand import InstrumentDesk
from oak_square.app.desk.hands_desk import HandsDesk
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.pick import Picker
from oak_square.app.session.session import Session
from oak_square.core.lengths import point_in
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["ClipDesk"]


class ClipDesk(QObject):
    """Copies the point or the direction under the pointer, and pastes a point as a position, a pivot or a datum."""

    def __init__(self, session: Session, hand: InstrumentDesk, hands: HandsDesk, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._hand, self._hands = session, hand, hands

    def _find_aim(self) -> ClickTarget | None:
        """Return what Pick aims at; says so where that is nothing."""
        picker = self._hand.instruments["pick"]
        assert isinstance(picker, Picker)
        aim = picker.aim if self._hand.held is picker else None
        if aim is None or aim.file not in self._session.outcomes:
            self._session.messages.said.emit(say("Nothing to copy: hold the pointer of Pick over a point"))
            return None
        return aim

    def copy_way(self) -> None:
        """Copy which way the thing that Pick aims at points: a face's normal, an edge's line, a circle's axis."""
        session, aim = self._session, self._find_aim()
        if aim is None:
            return
        if not aim.way.any():
            session.messages.said.emit(
                say("A {kind} points nowhere: take an edge, a face or a circle", kind=term(aim.kind))
            )
            return
        way = session.document.sheet.setting().working_from_delivery.T @ aim.way
        text = ", ".join(f"{float(f'{v:.15g}') + 0.0:.15g}" for v in (way / np.linalg.norm(way)).tolist())
        QApplication.clipboard().setText(text)
        session.messages.said.emit(
            say("Copied the way of {kind} of {whose}: {text}", kind=term(aim.kind), whose=aim.whose, text=text)
        )

    def copy(self) -> None:
        """Copy the point that Pick aims at."""
        session, aim = self._session, self._find_aim()
        if aim is None:
            return
        asset = self._hands.shown(aim.file)
        setting = session.document.sheet.setting()
        point = setting.working_from_delivery.T @ aim.anchor.world(asset)
        # In metres, to all the digits there are: another sheet, or another program, reads it the same.
        text = ", ".join(f"{float(f'{v:.15g}') + 0.0:.15g} m" for v in point.tolist())
        QApplication.clipboard().setText(text)
        session.messages.said.emit(
            say("Copied {kind} of {whose}: {text}", kind=term(aim.kind), whose=aim.whose, text=text)
        )

    def paste(self) -> None:
        """Paste a point: where a datum is dropped, as a datum; with pivots alone, as a pivot; else as a position."""
        session = self._session
        point = point_in(QApplication.clipboard().text())
        if point is None:
            session.messages.said.emit(say("What is copied is no point: three lengths, such as 12.4 m, 0 m, -3.2 m"))
            return
        if self._hand.held.name == "datum":
            session.names.put_datum("", point, (0, 0, 0))
            return
        words: dict[str, Any] = {"do": "place", "at": point, "by": "pivot"}
        if session.document.grip.pivots:
            words = {"do": "pivot", "at": {"xyz": point}}
        draft = session.document.draft
        if draft is not None and draft.do != words["do"]:
            self._hands.settle_draft()
        session.enter_stage(str(words["do"]))
        session.drafts.try_whole(session.drafts.aimed(words))
