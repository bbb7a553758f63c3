"""The order in which Tab goes through the window: the order of work, whenever the widgets were made."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QApplication, QScrollArea, QWidget

__all__ = ["ButtonRow", "bring_in_sight", "next_in_order"]

_BY_TAB = frozenset((Qt.FocusPolicy.TabFocus, Qt.FocusPolicy.StrongFocus, Qt.FocusPolicy.WheelFocus))
_SAME_LINE = 8  # pixels; what starts no further below stands on the same line


class ButtonRow(QObject):
    """Makes the buttons of a widget one stop of Tab's: the left and right arrow lead from one to the next.

    Tab leads to the one that had the focus last; at first to the one that is on, or the first.
    """

    def __init__(self, row: QWidget) -> None:
        super().__init__(row)
        self._row = row
        self._last: QWidget | None = None
        for button in row.findChildren(QAbstractButton):
            button.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Note which has the focus; walk the row by its keys."""
        if event.type() == QEvent.Type.FocusIn and isinstance(watched, QWidget):
            self._last = watched
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            return self._walk_row(event)
        return False

    def _walk_row(self, event: QKeyEvent) -> bool:
        on = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        order = self._list_buttons()
        focused = QApplication.focusWidget()
        if on is None or focused not in order or event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier:
            return False
        order[(order.index(focused) + on) % len(order)].setFocus(Qt.FocusReason.TabFocusReason)
        return True

    def _list_buttons(self) -> list[QWidget]:
        found = [w for w in self._row.findChildren(QAbstractButton) if _takes_tab(w)]
        return sorted(found, key=lambda w: w.mapTo(self._row, QPoint(0, 0)).x())

    def passed_over(self) -> set[QWidget]:
        """Return the buttons that Tab does not lead to just now."""
        order = self._list_buttons()
        focused, on = QApplication.focusWidget(), [b for b in order if isinstance(b, QAbstractButton) and b.isChecked()]
        stop = next((w for w in (focused, self._last, *on[:1], *order) if w in order), None)
        return {w for w in order if w is not stop}


def next_in_order(regions: Sequence[QWidget], present: QWidget | None, *, forward: bool) -> QWidget | None:
    """Return where Tab leads from `present`: through each region line by line, then to the next, round and round.

    None where there is nowhere to go.
    """
    around = _with_parents(present)
    home = next((k for k, region in enumerate(regions) if region in around), None)
    on = 1 if forward else -1
    if home is not None:
        order = _in_region(regions[home])
        at = next((order.index(w) for w in around if w in order), None)
        if at is not None and 0 <= at + on < len(order):
            return order[at + on]
    # Round to its own region again: that of a window of one region leads back to its other end.
    first = home + on if home is not None else 0 if forward else -1
    for k in range(len(regions)):
        order = _in_region(regions[(first + k * on) % len(regions)])
        if order:
            return order[0 if forward else -1]
    return None


def bring_in_sight(widget: QWidget) -> None:
    """Scroll whatever a widget lies in, so that it is seen."""
    for around in _with_parents(widget)[1:]:
        if isinstance(around, QScrollArea):
            around.ensureWidgetVisible(widget)


def _in_region(region: QWidget) -> list[QWidget]:
    passed = {w for row in region.findChildren(ButtonRow) for w in row.passed_over()}
    found = [w for w in (region, *region.findChildren(QWidget)) if _takes_tab(w) and w not in passed]
    places = {w: w.mapTo(region, QPoint(0, 0)) if w is not region else QPoint(0, 0) for w in found}
    found.sort(key=lambda w: (places[w].y(), places[w].x()))
    lines: list[list[QWidget]] = []
    for widget in found:
        if lines and places[widget].y() - places[lines[-1][0]].y() <= _SAME_LINE:
            lines[-1].append(widget)
        else:
            lines.append([widget])
    return [w for line in lines for w in sorted(line, key=lambda w: places[w].x())]


def _takes_tab(widget: QWidget) -> bool:
    return widget.focusPolicy() in _BY_TAB and widget.isVisible() and widget.isEnabled() and widget.focusProxy() is None


def _with_parents(widget: QWidget | None) -> list[QWidget]:
    found = []
    while widget is not None:
        found.append(widget)
        widget = widget.parentWidget()
    return found
