"""Between the hand and the datums of the sheet: put down, lined up, typed, turned."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.app.desk.display import Display
from oak_square.app.desk.hands_desk import HandsDesk
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.wishes import MoveDatum, PutDatum
from oak_square.app.session.session import Session
from oak_square.app.view import Bench
from oak_square.core.errors import DataTrouble
from oak_square.core.euler import angles_of
from oak_square.core.lengths import point_in
from oak_square.core.marking import MARKABLE
from oak_square.core.shapes import nearest_right_angles, smallest_turn, turn_onto_face
from oak_square.core.words import say
from oak_square.steps.setting import Setting

__all__ = ["DatumDesk", "turn_of_face"]

Array = NDArray[np.float64]


class DatumDesk:
    """Carries what is wished of datums to the session."""

    def __init__(self, session: Session, hands: HandsDesk, display: Display, bench: Bench) -> None:
        self._session, self._hands, self._display, self._bench = session, hands, display, bench
        self._gesture, self._start = 0, np.eye(4)

    def put_datum(self, wish: PutDatum) -> None:
        """Put a datum down at a pick, or line the one in use up with it."""
        session = self._session
        sheet, grip = session.document.sheet, session.document.grip
        setting = sheet.setting()
        if wish.lines_up and grip.datum in sheet.datums:
            asset = session.outcomes[wish.aim.file].after.asset
            try:
                frame = setting.datum(grip.datum, asset)[:3, :3]
            except DataTrouble as error:
                session.messages.failed.emit(str(error))
                return
            point = setting.datum(grip.datum, asset)[:3, 3]
            # A point has no way of its own: toward it, then.
            way = wish.aim.way if wish.aim.way.any() else wish.aim.anchor.world(asset) - point
            if not way.any():
                session.messages.said.emit(say("That is where the datum is: click another point, an edge or a face"))
                return
            way = way / np.linalg.norm(way)
            k = int(np.argmax(np.abs(frame.T @ way)))
            way = way if float(frame[:, k] @ way) >= 0 else -way
            self._turn_datum(grip.datum, smallest_turn(frame[:, k], way) @ frame)
            return
        at = self._hands.point_words(wish.aim, {}, plain=wish.aim.kind in ("surface", "edge"))
        if at is None:
            return
        asset = session.outcomes[wish.aim.file].after.asset
        if "mark" not in at:
            at = {"xyz": self._hands.coordinates(wish.aim.anchor.world(asset))}
        session.names.put_datum("", at.get("xyz") or at, turn_of_face(wish.aim, setting))

    def move_datum(self, wish: MoveDatum) -> None:
        """Move a datum by itself: shown at once, and put there when the gesture has its last word."""
        session = self._session
        sheet = session.document.sheet
        lead = session.outcomes.get(session.lead or "")
        if wish.name not in sheet.datums or lead is None:
            return
        if wish.gesture != self._gesture:
            self._gesture = wish.gesture
            try:
                self._start = sheet.setting().datum(wish.name, lead.before.asset)
            except DataTrouble as error:
                session.messages.failed.emit(str(error))
                return
        frame = wish.motion @ self._start
        if wish.going:
            self._display.show_datum(wish.name, frame)
            return
        at: Any = None
        if wish.onto is not None and wish.onto.kind in MARKABLE:
            at = self._hands.point_words(wish.onto, {})
        if at is None and np.allclose(frame[:3, 3], self._start[:3, 3]):
            there = sheet.datums[wish.name].at  # turned where it is: a mark stays a mark
            at = there if isinstance(there, list) else there.model_dump()
        at = self._hands.coordinates(frame[:3, 3]) if at is None else at
        session.names.put_datum(
            wish.name, at, _find_angles(frame[:3, :3], sheet.setting()), use=False, gesture=wish.gesture
        )

    def _turn_datum(self, name: str, frame: Array) -> None:
        """Turn a datum so that its axes are the columns of `frame`, shape (3, 3), working frame."""
        session = self._session
        datum, setting = session.document.sheet.datums[name], session.document.sheet.setting()
        turn = _find_angles(frame, setting)
        at: Any = datum.at if isinstance(datum.at, list) else datum.at.model_dump()
        session.names.put_datum(name, at, turn)

    def change_datum(self, name: str, how: str) -> None:
        """Turn a datum to right angles (`square`) or along the `view`; or bring it to the picked `pivot`."""
        session = self._session
        sheet = session.document.sheet
        if name not in sheet.datums:
            return
        frame = sheet.setting().turned(sheet.datums[name].turn)
        if how == "square":
            self._turn_datum(name, nearest_right_angles(frame) @ frame)
        elif how == "view":
            self._turn_datum(name, self._bench.camera.axes.T)
        else:
            lead = session.outcomes.get(session.lead or "")
            at = np.zeros(3)
            if lead is not None and session.nodes:
                at = self._hands.shown(lead.file).worlds[session.nodes[-1]][:3, 3]
            session.names.put_datum(name, self._hands.coordinates(at), (0, 0, 0))

    def set_at_mark(self, name: str, mark: str) -> None:
        """Let a datum stand at a mark, turned as it is: on each asset where it is found there."""
        self._session.names.put_datum(name, {"mark": mark}, self._session.document.sheet.datums[name].turn)

    def type_datum(self, name: str, text: str) -> None:
        """Put a datum where three lengths say."""
        point = point_in(text)
        if point is None:
            self._session.messages.failed.emit(
                say("'{text}' is no point: three lengths, such as 1.2 m, 0, -40 cm", text=text)
            )
            return
        self._session.names.put_datum(name, point, self._session.document.sheet.datums[name].turn)


def turn_of_face(aim: ClickTarget, setting: Setting) -> list[float]:
    """Return the turn, degrees, of what stands on the face that was picked; none where no face was."""
    on_face = aim.kind in ("face centre", "circle centre", "surface") and aim.way.any()
    return (
        _find_angles(turn_onto_face(aim.way) @ setting.working_from_delivery, setting) if on_face else [0.0, 0.0, 0.0]
    )


def _find_angles(frame: Array, setting: Setting) -> list[float]:
    """Return a datum's turn as the sheet says it, degrees; `frame` has its axes as columns, working frame."""
    return [round(a, 10) + 0.0 for a in angles_of(setting.working_from_delivery.T @ frame, "zyx")]
