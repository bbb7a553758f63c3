"""What can be worked in a form: each control with a name that lasts, the words for it, and the way to it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QComboBox,
    QHeaderView,
    QLineEdit,
    QMenu,
    QPushButton,
    QWidget,
)

from oak_square.app.widgets.fields import Fold
from oak_square.app.widgets.pages import Pages
from oak_square.app.widgets.tab_order import bring_in_sight

__all__ = ["APART", "Control", "controls", "is_control", "path_of", "press", "reveal", "word_of"]

APART = "found-apart"
"""The property of a list whose rows are found as what they show, not as what there is to press in them."""

_ARROWS = " ▾▴…"


@dataclass(frozen=True, slots=True, kw_only=True)
class Control:
    """Something to press or to type into.

    Attributes
    ----------
    path : str
        Where it is among the attributes of what it lies in: the same in every language, and from run to run.
    word, tip : str
        What it says, and what it does.
    trail : tuple of str
        The means that must be in front for it to be seen.
    target : QWidget or QAction
        What is worked: a widget, or an item of a menu.
    """

    path: str
    word: str
    tip: str
    trail: tuple[str, ...]
    target: QWidget | QAction


def is_control(widget: QWidget) -> bool:
    """Whether a widget is pressed or typed into by itself, not a part of another one."""
    if isinstance(widget, QHeaderView | QAbstractItemView) or widget.objectName().startswith("qt_"):
        return False
    if isinstance(widget, QLineEdit) and isinstance(widget.parentWidget(), QComboBox):
        return False
    return isinstance(widget, QAbstractButton | QLineEdit | QComboBox)


def word_of(widget: QWidget) -> str:
    """Return what a control is called: by its name, by what it says, or by the first line of its tooltip."""
    said = widget.text().strip(_ARROWS) if isinstance(widget, QAbstractButton) else ""
    return (widget.accessibleName() or said or widget.toolTip().partition("\n")[0]).strip(_ARROWS)


def controls(root: QWidget, name: str) -> list[Control]:
    """Return the controls in `root`, which is called `name`, in the order in which they were made."""
    paths = _find_paths(root, name)
    found = []
    for widget in (root, *root.findChildren(QWidget)):
        path = paths.get(widget)
        if path is None or not is_control(widget):
            continue
        trail, tip = _make_trail(widget, root), widget.toolTip().partition("\n")[0]
        if word := word_of(widget):
            found.append(Control(path=path, word=word, tip=tip, trail=trail, target=widget))
        menu = widget.menu() if isinstance(widget, QPushButton) else None
        for item in _yield_items(menu) if menu is not None else ():
            words, at = item.text().replace("&&", "&"), f"{path}.{item.data()}"
            found.append(Control(path=at, word=words, tip=tip, trail=trail, target=item))
    return found


def _yield_items(menu: QMenu) -> Iterator[QAction]:
    """Yield the items of a menu, and of those in it, that have a name of their own."""
    for item in menu.actions():
        below = item.menu()
        if isinstance(below, QMenu):
            yield from _yield_items(below)
        elif isinstance(item.data(), str):
            yield item


def path_of(widget: QWidget, root: QWidget, name: str) -> str | None:
    """Return the path of a control in `root`; None of what is none, or has no name."""
    return _find_paths(root, name).get(widget) if is_control(widget) and word_of(widget) else None


def reveal(widget: QWidget, root: QWidget) -> None:
    """Bring the means that a control belongs to to the front, and unfold what it is folded away in."""
    for around in _list_ancestors(widget, root)[::-1]:
        if isinstance(around, Fold) and around.button is not widget:
            around.open()
        elif (tab := _tab_of(around)) is not None and around.isHidden():
            tab.click()
    bring_in_sight(widget)


def press(target: QWidget | QAction) -> bool:
    """Do what a click would: press a button, go to a field, open a list. False where it takes none now."""
    if not target.isEnabled() or not target.isVisible():
        return False
    if isinstance(target, QAction):
        target.trigger()
        return True
    if isinstance(target, QAbstractButton):
        target.click()
        return True
    target.setFocus(Qt.FocusReason.ShortcutFocusReason)
    if isinstance(target, QLineEdit):
        target.selectAll()
    elif isinstance(target, QComboBox):
        target.showPopup()
    return True


def _find_paths(root: QWidget, name: str) -> dict[QWidget, str]:
    """Return the attribute path of each widget that can be come to from `root`, the shortest one."""
    found, row = {root: name}, [root]
    while row:
        whole, row = row, []
        for holder in whole:
            for key, widget in _yield_attributes(holder):
                if widget not in found and widget is not root and root.isAncestorOf(widget):
                    found[widget] = f"{found[holder]}.{key.lstrip('_')}"
                    row.append(widget)
    # Those that are nobody's attribute are counted, in what has a name around them.
    counts: dict[str, int] = {}
    for widget in root.findChildren(QWidget):
        around = _list_ancestors(widget, root)
        if widget not in found and is_control(widget) and not any(each.property(APART) for each in around):
            near = next(found[each] for each in around if each in found)
            counts[near] = counts.get(near, 0) + 1
            found[widget] = f"{near}/{counts[near]}"
    return found


def _list_held(holder: QWidget) -> list[tuple[str, object]]:
    """Return what a widget of ours holds, by name; Qt's own hold nothing that can be seen."""
    return list(getattr(holder, "__dict__", {}).items())


def _yield_attributes(holder: QWidget) -> Iterator[tuple[str, QWidget]]:
    for key, value in _list_held(holder):
        if isinstance(value, QWidget):
            yield key, value
        elif isinstance(value, dict):
            yield from ((f"{key}.{k}", v) for k, v in value.items() if isinstance(v, QWidget))
            yield from (
                (f"{key}.{k}.{n}", each)
                for k, v in value.items()
                if isinstance(v, list | tuple)
                for n, each in enumerate(v)
                if isinstance(each, QWidget)
            )
        elif isinstance(value, list | tuple):
            yield from ((f"{key}.{n}", each) for n, each in enumerate(value) if isinstance(each, QWidget))


def _list_ancestors(widget: QWidget, root: QWidget) -> list[QWidget]:
    """Return a widget and what it lies in, up to `root`."""
    found = [widget]
    while found[-1] is not root and (parent := found[-1].parentWidget()) is not None:
        found.append(parent)
    return found


def _tab_of(page: QWidget) -> QAbstractButton | None:
    """Return the tab that brings a page to the front; None of what is no page."""
    pages = page.parentWidget()
    key = pages.key_of(page) if isinstance(pages, Pages) else None
    return None if key is None or not isinstance(pages, Pages) else pages.tabs.buttons[key]


def _make_trail(widget: QWidget, root: QWidget) -> tuple[str, ...]:
    tabs = [_tab_of(each) for each in _list_ancestors(widget, root)]
    return tuple(tab.text().strip(_ARROWS) for tab in tabs[::-1] if tab is not None)
