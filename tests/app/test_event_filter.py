"""What sees events before whom they go to: by hand everything, and nothing of what a form sends itself."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt
from PySide6.QtWidgets import QLineEdit

from oak_square.app.widgets.event_filter import EventFilter


def test_a_key_is_seen_but_while_it_is_paused_and_never_again_once_it_has_ended(qtbot):
    events, field, seen = EventFilter(None), QLineEdit(), []
    qtbot.addWidget(field)
    events.add([QEvent.Type.KeyPress], lambda _watched, event: seen.append(event.text()) or False)
    with events.paused():
        qtbot.keyClick(field, Qt.Key.Key_A)
    qtbot.keyClick(field, Qt.Key.Key_B)
    assert seen == []  # it has not begun
    events.begin()
    qtbot.keyClick(field, Qt.Key.Key_C)
    with events.paused():
        qtbot.keyClick(field, Qt.Key.Key_D)
    qtbot.keyClick(field, Qt.Key.Key_E)
    with events.paused():
        events.end()
    qtbot.keyClick(field, Qt.Key.Key_F)
    assert (seen, field.text()) == (["c", "e"], "abcdef")


def test_the_form_of_a_stage_that_is_new_is_made_without_being_looked_at(hand, batch):
    hand.open(batch / "milepost.glb")
    looked_at = []
    hand.window._events.add([QEvent.Type.ChildAdded], lambda watched, _event: looked_at.append(watched) or False)
    bodies = hand.window.panel.bodies
    new = [stage for stage in bodies if stage not in bodies.made()]  # forms are made one by one while nobody works
    hand.stage("size" if "size" in new else new[-1])
    assert len(bodies.made()) > len(list(bodies)) - len(new)
    assert 0 < len(looked_at) < 100  # a form has hundreds of children
