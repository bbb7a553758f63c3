"""The unit button at the foot: its menu, and what it asks for."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QInputDialog

from oak_square.app.widgets.status_bar import StatusBar
from oak_square.app.widgets.unit_menu import UnitButton
from oak_square.core.shown_units import ShownUnit


@pytest.fixture
def button(qtbot, qapp):
    made = UnitButton(None)
    qtbot.addWidget(made)
    made.asked = []
    made.unit_wished.connect(made.asked.append)
    return made


def item(menu, words):
    for action in menu.actions():
        if action.text() == words:
            return action
        if action.menu() is not None and (found := item(action.menu(), words)) is not None:
            return found
    return None


@pytest.mark.parametrize(
    ("words", "kind", "denominator"),
    [
        ("metric, as it suits each length", "auto", 16),
        ("metric, always millimetres", "mm", 16),
        ("inches to 1/64", "ft-in", 64),
        ("decimal inches", "in", 16),
    ],
)
def test_each_entry_wishes_for_its_unit_and_shows_when_it_holds(button, words, kind, denominator):
    item(button.menu_, words).trigger()
    asked = button.asked[-1]
    assert (asked.kind, asked.denominator) == (kind, denominator)
    button.show_unit(asked)
    assert item(button.menu_, words).isChecked()
    assert button.text() == asked.words


def test_the_module_in_use_is_named_in_the_menu(button):
    button.show_unit(ShownUnit(kind="mod", module=3.6, module_name="bay"))
    assert button.text() == "bay of 3.60 m"
    assert item(button.menu_, "modules: bay of 3.60 m").isChecked()


def test_a_module_is_asked_for_by_name_and_length(button, monkeypatch):
    answers = iter([("bay", True), ("3.6 m", True)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: next(answers))
    asked = []
    button.module_wished.connect(lambda name, length: asked.append((name, length)))
    item(button.menu_, "Set the module…").trigger()
    assert asked == [("bay", "3.6 m")]
    answers = iter([("bay", False)])
    item(button.menu_, "Set the module…").trigger()
    assert len(asked) == 1


def test_the_grid_is_set_by_choice_or_by_typing_and_follows_again(button, monkeypatch):
    item(button.menu_, "every 25 cm").trigger()
    assert button.asked[-1].grid == 0.25
    item(button.menu_, "every 12th a major one").trigger()
    assert button.asked[-1].majors == 12
    for text, wanted in (("3' 6\"", 1.0668), ("rubbish", None), ("-1", None)):
        button.asked.clear()
        monkeypatch.setattr(QInputDialog, "getText", lambda *_, t=text, **__: (t, True))
        item(button.menu_, "every…").trigger()
        assert [s.grid for s in button.asked] == ([] if wanted is None else [pytest.approx(wanted)])
    item(button.menu_, "follow the view and the unit").trigger()
    assert (button.asked[-1].grid, button.asked[-1].majors) == (None, None)


def test_where_the_pointer_is_is_told_in_one_unit(qtbot):
    foot = StatusBar()
    qtbot.addWidget(foot)
    foot.show_point((1.465, 0.03499, -3.2), ShownUnit())
    assert foot._point.text() == "x 1.465 m   y 0.035 m   z -3.20 m"
