"""The order in which Tab goes through the window: the order of work, whenever the widgets were made."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QScrollArea, QWidget

__all__ = ["bring_in_sight", "next_in_order"]

_BY_TAB = frozenset((Qt.FocusPolicy.TabFocus, Qt.FocusPolicy.StrongFocus, Qt.FocusPolicy.WheelFocus))
_SAME_LINE = 8  # pixels; what starts no further below stands on the same line


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
    found = [w for w in (region, *region.findChildren(QWidget)) if _takes_tab(w)]
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
