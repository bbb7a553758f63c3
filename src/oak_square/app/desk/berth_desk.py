"""Between the hand and the berths of the sheet: made of a pick, a datum, a paste or numbers; things set down there."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Protocol

from PySide6.QtWidgets import QApplication

from oak_square.app.desk.datum_desk import turn_of_face
from oak_square.app.desk.hands_desk import HandsDesk
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.session.session import Session
from oak_square.core.lengths import point_in
from oak_square.core.words import say

__all__ = ["BerthDesk"]


Take = Callable[[dict[str, Any], ClickTarget], None]


class _WantsPoint(Protocol):
    def __call__(self, asks: str, take: Take, *, any_will_do: bool = False) -> None: ...


class BerthDesk:
    """Carries what is wished of berths to the session; `want_point` waits for a point to be picked."""

    def __init__(self, session: Session, hands: HandsDesk, want_point: _WantsPoint) -> None:
        self._session, self._hands, self._want_point = session, hands, want_point

    def make(self, how: str, what: str) -> None:
        """Make a berth: at a `pick`, at the `datum` called `what`, at what is copied (`paste`) or `typed`."""
        session = self._session
        if how == "pick":
            self._want_point(
                say("Berth: click where it shall be"), lambda _, aim: self._put_berth_at(aim), any_will_do=True
            )
        elif how == "datum":
            session.berths.put_at_datum(what)
        else:
            point = point_in(QApplication.clipboard().text() if how == "paste" else what)
            if point is None:
                session.messages.failed.emit(say("That is no point: three lengths, such as 12.4 m, 0 m, -3.2 m"))
            else:
                session.berths.put("", point)

    def _put_berth_at(self, aim: ClickTarget) -> None:
        at = self._hands.coordinates(aim.anchor.world(self._hands.shown(aim.file)))
        self._session.berths.put("", at, turn_of_face(aim, self._session.document.sheet.setting()))

    def set_down(self, berth: str) -> None:
        """Set what is selected down at a berth; of several it is said that they stand in one another."""
        files = self._session.selection
        self._session.berths.set_down(berth, files)
        if len(files) > 1:
            self._session.messages.said.emit(
                say(
                    "{count} things stand in one another at {berth}: its menu sets them side by side",
                    count=len(files),
                    berth=berth,
                )
            )

    def set_side_by_side(self, berth: str) -> None:
        """Set what is selected down at a berth and beside it."""
        self._session.berths.set_side_by_side(berth, self._session.selection)
