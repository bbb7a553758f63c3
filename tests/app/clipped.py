"""What is not seen whole in a window: words that are cut off, and controls that lie over one another or outside."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QWidget,
)

from oak_square.app.widgets.controls import is_control

SLACK = 2  # pixels that a size hint asks for more than letters take


def place_of(widget: QWidget, window: QWidget) -> QRect:
    return QRect(widget.mapTo(window, QPoint(0, 0)), widget.size())


def scrolled(widget: QWidget, window: QWidget) -> QScrollArea | None:
    """Return the area that a widget can be scrolled in."""
    around = widget.parentWidget()
    while around is not None and around is not window:
        if isinstance(around, QScrollArea):
            return around
        around = around.parentWidget()
    return None


def cut_off(window: QWidget) -> list[str]:
    """Return what is written where there is no room for it."""
    found = []
    for widget in window.findChildren(QWidget):
        if not widget.isVisible() or widget.width() == 0:
            continue
        if isinstance(widget, QLabel) and type(widget) is QLabel and widget.text() and not widget.pixmap():
            if widget.wordWrap():
                needs, has = widget.heightForWidth(widget.width()), widget.height()
            else:
                needs, has = widget.sizeHint().width(), widget.width()
            if needs > has + SLACK:
                found.append(f"label '{widget.text()}' needs {needs}, has {has}")
        elif type(widget) in (QPushButton, QCheckBox) and widget.text():
            words = widget.fontMetrics().size(Qt.TextFlag.TextShowMnemonic, widget.text()).width()
            room = widget.width() - (24 if isinstance(widget, QCheckBox) else 2)
            if words > room or widget.height() < widget.fontMetrics().height():
                found.append(f"button '{widget.text()}' needs {words}, has {room}")
        elif type(widget) is QComboBox and widget.currentText():
            words = widget.fontMetrics().horizontalAdvance(widget.currentText())
            if words > widget.width() - 28 and not widget.toolTip():
                found.append(f"list '{widget.currentText()}' needs {words}, has {widget.width() - 28}")
        elif isinstance(widget, QLineEdit) and widget.height() < widget.fontMetrics().height() + 2:
            found.append(f"field '{widget.accessibleName()}' is {widget.height()} high")
    return found


def over_one_another(window: QWidget) -> list[str]:
    """Return controls and labels of one parent that lie over one another, and what lies outside of its parent."""
    found = []
    kinds = (QAbstractButton, QLabel, QLineEdit, QComboBox, QAbstractScrollArea)
    seen = [w for w in window.findChildren(QWidget) if w.isVisible() and w.width() and isinstance(w, kinds)]
    by_parent: dict[QWidget, list[QWidget]] = {}
    for widget in seen:
        parent = widget.parentWidget()
        if is_control(widget) or isinstance(widget, QLabel):
            by_parent.setdefault(parent, []).append(widget)
        if is_control(widget) and scrolled(widget, window) is None:
            inside = QRect(QPoint(0, 0), window.size()).contains(place_of(widget, window))
            if not inside:
                found.append(f"{name_of(widget)} lies outside of the window")
    free = [w for w in seen if is_control(w) and scrolled(w, window) is None]
    places = {w: place_of(w, window) for w in free}
    for k, one in enumerate(free):
        for other in free[k + 1 :]:
            apart = one.parentWidget() is not other.parentWidget()
            apart = apart and not one.isAncestorOf(other) and not other.isAncestorOf(one)
            common = places[one].intersected(places[other])
            if apart and common.width() > SLACK and common.height() > SLACK:
                found.append(f"{name_of(one)} lies over {name_of(other)}")
    for widgets in by_parent.values():
        for k, one in enumerate(widgets):
            for other in widgets[k + 1 :]:
                common = one.geometry().intersected(other.geometry())
                if common.width() > SLACK and common.height() > SLACK:
                    found.append(f"{name_of(one)} lies over {name_of(other)}")
    return found


def too_wide(window: QWidget) -> list[str]:
    """Return what goes on to the right of the column that it lies in, where it can't be scrolled to."""
    found = []
    for area in window.findChildren(QScrollArea):
        inner = area.widget()
        if area.isVisible() and inner is not None and area.horizontalScrollBarPolicy().name == "ScrollBarAlwaysOff":
            if area.objectName() == "across":
                continue
            if inner.minimumSizeHint().width() > area.viewport().width() + SLACK:
                found.append(f"{type(area.parentWidget()).__name__} is {inner.minimumSizeHint().width()} wide")
    return found


def name_of(widget: QWidget) -> str:
    said = getattr(widget, "text", lambda: "")()
    return f"{type(widget).__name__} '{widget.accessibleName() or said or widget.objectName()}'"


def not_whole(window: QWidget) -> list[str]:
    """Return all that is not seen whole."""
    return [*cut_off(window), *over_one_another(window), *too_wide(window)]
