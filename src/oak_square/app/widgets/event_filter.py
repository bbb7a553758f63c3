"""What sees events before whom they go to, anywhere in the window: one for all, since Qt asks it of each event."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QApplication

__all__ = ["EventFilter"]

Look = Callable[[QObject, QEvent], bool]


class EventFilter(QObject):
    """Passes events of some kinds on to who wants to see them, until one keeps such an event for itself."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._looks: dict[QEvent.Type, list[Look]] = {}

    def add(self, kinds: Iterable[QEvent.Type], look: Look) -> None:
        """Let `look` see events of these kinds, with whom each goes to; what it returns true for goes no further."""
        for kind in kinds:
            self._looks.setdefault(kind, []).append(look)

    def begin(self) -> None:
        """Look at all that goes on in the application."""
        application = QApplication.instance()
        assert application is not None
        application.installEventFilter(self)

    def end(self) -> None:
        """Look no more: nothing that goes on elsewhere passes through here."""
        application = QApplication.instance()
        assert application is not None
        application.removeEventFilter(self)
        self._looks.clear()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Tell whether somebody keeps an event."""
        looks = self._looks.get(event.type())
        return looks is not None and any(look(watched, event) for look in looks)
