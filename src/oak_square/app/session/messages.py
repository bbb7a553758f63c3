"""What is told of: a line for the status bar, said by whichever service of the session did something."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

__all__ = ["Messages"]


class Messages(QObject):
    """Passes lines on to whoever shows them."""

    said = Signal(str)  # a line for the status bar
    failed = Signal(str)  # one that tells what went wrong, and stays until it is read
