"""What sees events before whom they go to, anywhere in the window: one for all, since Qt asks it of each event."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager

from PySide6.QtCore import QCoreApplication, QEvent, QObject
from PySide6.QtWidgets import QApplication

__all__ = ["EventFilter"]

Look = Callable[[QObject, QEvent], bool]


class EventFilter(QObject):
    """Passes events of some kinds on to who wants to see them, until one keeps such an event for itself."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._looks: dict[QEvent.Type, list[Look]] = {}
        self._is_on = False

    def add(self, kinds: Iterable[QEvent.Type], look: Look) -> None:
        """Let `look` see events of these kinds, with whom each goes to; what it returns true for goes no further."""
        for kind in kinds:
            self._looks.setdefault(kind, []).append(look)

    def begin(self) -> None:
        """Look at all that goes on in the application."""
        self._is_on = True
        _find_application().installEventFilter(self)

    def end(self) -> None:
        """Look no more: nothing that goes on elsewhere passes through here."""
        self._is_on = False
        _find_application().removeEventFilter(self)
        self._looks.clear()

    @contextmanager
    def paused(self) -> Iterator[None]:
        """Look at nothing meanwhile: a form that is made sends itself thousands of events, and none is by hand."""
        _find_application().removeEventFilter(self)
        try:
            yield
        finally:
            if self._is_on:
                _find_application().installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Tell whether somebody keeps an event."""
        looks = self._looks.get(event.type())
        return looks is not None and any(look(watched, event) for look in looks)


def _find_application() -> QCoreApplication:
    application = QApplication.instance()
    assert application is not None
    return application
