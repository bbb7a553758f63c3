"""What a key does to what is selected, or under the pointer, at once."""

from __future__ import annotations

from functools import partial

from oak_square.app.desk.view_desk import ViewDesk
from oak_square.app.instruments.aims import face_under
from oak_square.app.session.session import Session
from oak_square.app.view import Bench
from oak_square.app.widgets.actions import Actions
from oak_square.core.words import say

__all__ = ["add_deeds_of_the_hand"]


def add_deeds_of_the_hand(deeds: Actions, session: Session, desk: ViewDesk, bench: Bench) -> None:
    """Add the actions that work on what is taken hold of."""
    for name, words, key, work in (
        ("axes", say("Swap world axes and own ones"), "A", session.names.swap_axes),
        ("pivots", say("Take pivots alone, or with their geometry"), "P", partial(_swap_pivots, session)),
        ("datum", say("Use the last datum, or put it aside"), "Shift+D", session.names.swap_datum),
        ("centre", say("Pick what turns and sizes happen about"), "C", desk.pick_centre),
        (
            "lay-face",
            say("Lay the face under the pointer on the ground"),
            "G",
            partial(_lay_face, session, desk, bench),
        ),
        ("square", say("Square up"), "Q", desk.at_once.square_up),
        ("ground", say("Set what is selected down on the ground"), "U", desk.at_once.to_ground),
        ("zero", say("Bring what is selected to 0, several parts as one"), "0", desk.at_once.to_zero),
        ("line-up", say("Line up what was moved with what it was moved onto"), "V", desk.hands.line_up),
        ("flat", say("Swap parallel projection and perspective"), "E", desk.swap_projection),
        ("copy", say("Copy the point under the pointer"), "Ctrl+C", desk.clips.copy),
        ("copy-way", say("Copy the direction under the pointer"), "Ctrl+Shift+C", desk.clips.copy_way),
        ("paste", say("Paste a point as position, pivot or datum"), "Ctrl+V", desk.clips.paste),
    ):
        deeds.add(name, words, key, work)


def _swap_pivots(session: Session) -> None:
    session.names.take_pivots(not session.document.grip.pivots)


def _lay_face(session: Session, desk: ViewDesk, bench: Bench) -> None:
    here = bench.here()
    hit = None if here is None else here.hit()
    if hit is not None and not session.batch.worker.gather(hit[0].mesh):
        session.messages.said.emit(say("Its faces are still being worked out: again in a moment"))
        return
    desk.hands.lay_face(face_under(hit))
